package app.uprightwarden.server;

import static org.testng.Assert.assertEquals;

import ch.qos.logback.classic.Logger;
import ch.qos.logback.classic.spi.ILoggingEvent;
import ch.qos.logback.core.read.ListAppender;
import org.slf4j.LoggerFactory;
import org.testng.annotations.Test;

public class UncaughtTest {
  @Test
  public void whatEndedAThreadIsInTheLog() throws InterruptedException {
    Logger logger = (Logger) LoggerFactory.getLogger(Uncaught.class);
    ListAppender<ILoggingEvent> told = new ListAppender<>();
    told.start();
    logger.addAppender(told);
    try {
      Thread thread =
          new Thread(
              () -> {
                throw new IllegalStateException("the database is gone");
              },
              "work-house-2");
      thread.setUncaughtExceptionHandler(new Uncaught());
      thread.start();
      thread.join();
    } finally {
      logger.detachAppender(told);
    }
    assertEquals(told.list.size(), 1);
    assertEquals(told.list.get(0).getFormattedMessage(), "the thread work-house-2 ended");
    assertEquals(told.list.get(0).getThrowableProxy().getMessage(), "the database is gone");
  }
}

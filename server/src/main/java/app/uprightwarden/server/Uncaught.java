package app.uprightwarden.server;

import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * What ended a thread goes into the log as all else does: the virtual machine would write it in
 * lines of its own, and the log is one JSON object a line.
 */
final class Uncaught implements Thread.UncaughtExceptionHandler {
  private static final Logger LOG = LoggerFactory.getLogger(Uncaught.class);

  @Override
  public void uncaughtException(Thread thread, Throwable problem) {
    LOG.error("the thread {} ended", thread.getName(), problem);
  }
}

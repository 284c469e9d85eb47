package app.uprightwarden.server.problem;

import static org.testng.Assert.assertEquals;

import java.sql.SQLException;
import java.sql.SQLNonTransientConnectionException;
import org.springframework.jdbc.UncategorizedSQLException;
import org.springframework.orm.jpa.JpaSystemException;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/**
 * What the database says is told apart: that it is away, that it is full, that we asked wrongly.
 */
public class ProblemAdviceTest {
  /** SQLSTATE classes of SQL:2016, part 2, table 38; 1021 is MariaDB's "disk full". */
  @DataProvider
  public Object[][] said() {
    return new Object[][] {
      {new SQLNonTransientConnectionException("gone", "08000"), 503},
      {new SQLException("gone", "08S01"), 503},
      {new SQLException("shut down", "70100"), 503},
      {new SQLException("disk full", "HY000", 1021), 507},
      {new SQLException("no such column", "42S22"), 500},
      {new SQLException("too long", "22001"), 500},
      {new SQLException("too many columns", "21S01"), 500},
    };
  }

  @Test(dataProvider = "said")
  public void anAnswerSaysWhoseFaultItIs(SQLException cause, int status) {
    ProblemAdvice advice = new ProblemAdvice();
    for (Exception e :
        new Exception[] {
          new UncategorizedSQLException("x", "select 1", cause),
          new JpaSystemException(new IllegalStateException(cause))
        }) {
      assertEquals(advice.storeAway(e).getStatusCode().value(), status, e.toString());
    }
  }
}

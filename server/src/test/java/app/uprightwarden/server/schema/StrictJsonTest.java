package app.uprightwarden.server.schema;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertTrue;
import static org.testng.Assert.expectThrows;

import app.uprightwarden.server.problem.ProblemException;
import java.io.ByteArrayInputStream;
import java.nio.charset.StandardCharsets;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** JSON from strangers. */
public class StrictJsonTest {
  private final StrictJson strict = new StrictJson();

  private static ByteArrayInputStream bytes(String text) {
    return new ByteArrayInputStream(text.getBytes(StandardCharsets.UTF_8));
  }

  @DataProvider
  public Object[][] refused() {
    return new Object[][] {
      {""},
      {"   "},
      {"{"},
      {"{\"a\": 1} x"},
      {"{\"a\": 1, \"a\": 2}"},
      {"[".repeat(40) + "]".repeat(40)},
      {"{\"" + "k".repeat(300) + "\": 1}"},
      {"1".repeat(100)},
      {"\"" + "x".repeat(300_000) + "\""},
      {"{'a': 1}"},
      {"{\"a\": NaN}"},
    };
  }

  @Test(dataProvider = "refused")
  public void whatIsNotPlainJsonIsRefusedInOneLine(String text) {
    ProblemException told = expectThrows(ProblemException.class, () -> strict.read(bytes(text)));
    assertEquals(told.status().value(), 400);
    told.faults().forEach(fault -> assertTrue(fault.message().length() < 400));
  }

  @Test
  public void theFaultSaysWhere() {
    ProblemException told =
        expectThrows(ProblemException.class, () -> strict.read(bytes("{\n  \"a\": ,\n}")));
    assertTrue(told.faults().get(0).message().startsWith("line 2, column "), told.toString());
  }

  @Test
  public void plainJsonIsRead() {
    assertEquals(strict.read(bytes("{\"a\": [1, \"é\"]}")).at("/a/1").stringValue(), "é");
  }
}

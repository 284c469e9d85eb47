package app.uprightwarden.standins;

import static org.testng.Assert.assertEquals;

import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;
import tools.jackson.databind.json.JsonMapper;

/** The example test cases of RFC 7396, appendix A, every one of them in its order. */
public class MergePatchTest {
  private final JsonMapper json = new JsonMapper();

  @DataProvider
  public Object[][] cases() {
    return new Object[][] {
      {"{\"a\":\"b\"}", "{\"a\":\"c\"}", "{\"a\":\"c\"}"},
      {"{\"a\":\"b\"}", "{\"b\":\"c\"}", "{\"a\":\"b\",\"b\":\"c\"}"},
      {"{\"a\":\"b\"}", "{\"a\":null}", "{}"},
      {"{\"a\":\"b\",\"b\":\"c\"}", "{\"a\":null}", "{\"b\":\"c\"}"},
      {"{\"a\":[\"b\"]}", "{\"a\":\"c\"}", "{\"a\":\"c\"}"},
      {"{\"a\":\"c\"}", "{\"a\":[\"b\"]}", "{\"a\":[\"b\"]}"},
      {
        "{\"a\":{\"b\":\"c\"}}", "{\"a\":{\"b\":\"d\",\"c\":null}}", "{\"a\":{\"b\":\"d\"}}",
      },
      {"{\"a\":[{\"b\":\"c\"}]}", "{\"a\":[1]}", "{\"a\":[1]}"},
      {"[\"a\",\"b\"]", "[\"c\",\"d\"]", "[\"c\",\"d\"]"},
      {"{\"a\":\"b\"}", "[\"c\"]", "[\"c\"]"},
      {"{\"a\":\"foo\"}", "null", "null"},
      {"{\"a\":\"foo\"}", "\"bar\"", "\"bar\""},
      {"{\"e\":null}", "{\"a\":1}", "{\"e\":null,\"a\":1}"},
      {"[1,2]", "{\"a\":\"b\",\"c\":null}", "{\"a\":\"b\"}"},
      {"{}", "{\"a\":{\"bb\":{\"ccc\":null}}}", "{\"a\":{\"bb\":{}}}"},
    };
  }

  @Test(dataProvider = "cases")
  public void asTheStandardSays(String target, String patch, String result) {
    assertEquals(
        MergePatch.apply(json.readTree(target), json.readTree(patch)), json.readTree(result));
  }
}

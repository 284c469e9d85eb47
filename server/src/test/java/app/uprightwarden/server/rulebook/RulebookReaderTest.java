package app.uprightwarden.server.rulebook;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertTrue;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.rulebook.Layer;
import app.uprightwarden.core.rulebook.Mode;
import app.uprightwarden.core.rulebook.Rulebook;
import app.uprightwarden.server.problem.Fault;
import java.util.ArrayList;
import java.util.List;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;
import tools.jackson.databind.json.JsonMapper;

/** The bundle's rulebook part, read. */
public class RulebookReaderTest {
  private final JsonMapper json = JsonMapper.builder().build();
  private List<Fault> faults = new ArrayList<>();

  private Rulebook read(String layers) {
    faults = new ArrayList<>();
    return new RulebookReader(faults, "pilotage"::equals, "hearing"::equals)
        .read(json.readTree("{\"layers\": [" + layers + "]}"), "/rulebook");
  }

  private static String layer(String rules) {
    return "{\"scope\": {\"level\": \"organisation\"}, \"rules\": [" + rules + "]}";
  }

  @Test
  public void rulesGuaranteesAndWhatIsLeftOut() {
    Rulebook book =
        read(
            """
            {"scope": {"level": "unit", "id": "pilotage"},
             "rules": [
               {"control": "early-entry", "mode": "bound", "start": 0, "limit": "any-time"},
               {"control": "regions", "mode": "fix", "value": ["IE", "GB"], "sealed": true,
                "importance": 4}],
             "guarantees": [
               {"id": "g", "who": ["link-finder"], "rights": ["listen"], "ceiling": "never"}]}""");
    assertEquals(faults, List.of());
    Layer layer = book.layers().get(0);
    assertEquals(layer.scope().toString(), "unit:pilotage");
    assertEquals(layer.rules().get(0).importance(), 2, "2 where left out");
    assertEquals(layer.rules().get(1).mode(), Mode.FIX);
    assertEquals(
        Control.REGIONS.plain(layer.rules().get(1).start()),
        List.of("GB", "IE"),
        "sets are sorted");
    assertEquals(layer.guarantees().get(0).importance(), 2);
  }

  @DataProvider
  public Object[][] faulty() {
    return new Object[][] {
      {
        layer("{\"control\": \"gangway\", \"mode\": \"fix\", \"value\": 1}"),
        "/layers/0/rules/0/control"
      },
      {layer("{\"control\": \"chat\", \"mode\": \"forbid\"}"), "/layers/0/rules/0/mode"},
      {
        layer("{\"control\": \"chat\", \"mode\": \"fix\", \"start\": \"off\"}"), "/layers/0/rules/0"
      },
      {
        layer("{\"control\": \"chat\", \"mode\": \"fix\", \"value\": \"off\", \"limit\": \"off\"}"),
        "/layers/0/rules/0/limit"
      },
      {
        layer(
            "{\"control\": \"chat\", \"mode\": \"suggest\", \"start\": \"off\", \"limit\": \"off\"}"),
        "/layers/0/rules/0/limit"
      },
      {
        layer(
            "{\"control\": \"chat\", \"mode\": \"suggest\", \"start\": \"off\"},"
                + "{\"control\": \"chat\", \"mode\": \"suggest\", \"start\": \"off\"}"),
        "/layers/0/rules/1/control"
      },
      {layer("") + "," + layer(""), "/layers/1/scope"},
      {"{\"scope\": {\"level\": \"kind\"}, \"rules\": []}", "/layers/0/scope"},
      {"{\"scope\": {\"level\": \"kind\", \"id\": \"gone\"}, \"rules\": []}", "/layers/0/scope/id"},
      {
        "{\"scope\": {\"level\": \"organisation\", \"id\": \"x\"}, \"rules\": []}",
        "/layers/0/scope/id"
      },
    };
  }

  @Test(dataProvider = "faulty")
  public void eachFaultIsToldWithItsPlace(String layers, String pointer) {
    read(layers);
    List<String> pointers = faults.stream().map(Fault::pointer).toList();
    assertTrue(pointers.contains("/rulebook" + pointer), faults.toString());
  }
}

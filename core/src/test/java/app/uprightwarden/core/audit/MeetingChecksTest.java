package app.uprightwarden.core.audit;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertSame;
import static org.testng.Assert.expectThrows;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.ControlValues;
import app.uprightwarden.core.meeting.PasscodeFacts;
import app.uprightwarden.core.meeting.Reach;
import app.uprightwarden.core.meeting.Weakness;
import app.uprightwarden.core.people.Standing;
import app.uprightwarden.core.rulebook.ResolvedRulebook;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.util.ArrayList;
import java.util.List;
import org.testng.annotations.Test;

/** The checks on single meetings as one call, held against the same asked one by one. */
public class MeetingChecksTest {
  /** A meeting in which nearly all is wrong that can be wrong with a meeting by itself. */
  private static MeetingFacts bad() {
    Reach reach = new Reach(false, Standing.MEMBER, true, true);
    ControlValues values =
        ControlValues.NONE
            .with(Control.WAITING_ROOM, Control.WAITING_ROOM.parse("on"))
            .with(Control.LOBBY_BYPASS, Control.LOBBY_BYPASS.parse("named"))
            .with(Control.PRESENTER_ROLE, Control.PRESENTER_ROLE.parse("named"));
    return new MeetingFacts(
        "m",
        "h@saltmarsh.example",
        new Subject(ResolvedRulebook.of(List.of()), values, reach),
        reach,
        new MeetingFacts.Plan(10, 60),
        new PasscodeFacts(
            6, Control.PASSCODE_MAKEUP.parse("digits"), Weakness.COMMON, true, "print"),
        null,
        61,
        true,
        true,
        1,
        0,
        11,
        2,
        List.of("c@elsewhere.example"),
        List.of("p@elsewhere.example"),
        List.of("s@elsewhere.example"),
        List.of());
  }

  @Test
  public void asOneCallTheyFindWhatTheyFindOneByOneInTheSameOrder() {
    List<Detail> oneByOne = new ArrayList<>();
    for (MeetingCheck check : Auditor.select(MeetingCheck.class)) {
      check.check(bad(), oneByOne::add);
    }
    List<Detail> asOne = new ArrayList<>();
    MeetingChecks.check(bad(), asOne::add);
    assertEquals(asOne, oneByOne);
    assertEquals(
        asOne.stream().map(detail -> detail.check().id()).toList(),
        List.of(
            "co-host-not-member",
            "endless-series",
            "host-gone",
            "leaked-passcode",
            "list-waits",
            "no-presenter",
            "outsider-invited",
            "over-capacity",
            "over-length",
            "presenter-not-invited",
            "weak-passcode"));
  }

  @Test
  public void aFaultOfWhoTakesWhatIsFoundComesOutAsItIs() {
    UncheckedIOException fault = new UncheckedIOException(new IOException("the disk is full"));
    assertSame(
        expectThrows(
            UncheckedIOException.class,
            () ->
                MeetingChecks.check(
                    bad(),
                    detail -> {
                      throw fault;
                    })),
        fault);
    AssertionError error = new AssertionError("not so");
    assertSame(
        expectThrows(
            AssertionError.class,
            () ->
                MeetingChecks.check(
                    bad(),
                    detail -> {
                      throw error;
                    })),
        error);
  }
}

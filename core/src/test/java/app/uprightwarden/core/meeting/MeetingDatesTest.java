package app.uprightwarden.core.meeting;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertFalse;
import static org.testng.Assert.assertSame;
import static org.testng.Assert.assertTrue;

import app.uprightwarden.core.RandomMeetings;
import app.uprightwarden.core.RandomRegister;
import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.ControlValues;
import java.time.LocalDateTime;
import java.util.List;
import java.util.Random;
import org.testng.annotations.Test;

/** One date of a series with values of its own, and people with what they are named for. */
public class MeetingDatesTest {
  private static final LocalDateTime FIRST = RandomRegister.START;
  private static final LocalDateTime SECOND = FIRST.plusDays(1);
  private static final LocalDateTime THIRD = FIRST.plusDays(2);
  private static final ControlValues QUIET =
      ControlValues.NONE.with(Control.CHAT, Control.CHAT.parse("off"));

  private static Meeting series(OccurrenceChange... changes) {
    Random random = new Random(3);
    return RandomRegister.meetings(new RandomMeetings(random), random, 1)
        .get(0)
        .withExceptions(List.of(THIRD), List.of(changes));
  }

  private static OccurrenceChange moved(LocalDateTime at) {
    return new OccurrenceChange(at, at.plusHours(2), 45, QUIET);
  }

  @Test
  public void aDateTakesItsPlaceAmongTheOthers() {
    Meeting changed = series(moved(FIRST), moved(THIRD)).withDate(SECOND, QUIET);
    assertEquals(
        changed.changes(),
        List.of(moved(FIRST), new OccurrenceChange(SECOND, null, null, QUIET), moved(THIRD)));
    assertEquals(changed.exDates(), List.of(THIRD), "what is left out stays left out");
  }

  @Test
  public void aDateThatWasMovedStaysMoved() {
    ControlValues other = ControlValues.NONE.with(Control.CHAT, Control.CHAT.parse("always"));
    assertEquals(
        series(moved(FIRST)).withDate(FIRST, other).changes(),
        List.of(new OccurrenceChange(FIRST, FIRST.plusHours(2), 45, other)));
    OccurrenceChange shorter = new OccurrenceChange(FIRST, null, 20, QUIET);
    assertEquals(
        series(shorter).withDate(FIRST, ControlValues.NONE).changes(),
        List.of(new OccurrenceChange(FIRST, null, 20, ControlValues.NONE)));
    OccurrenceChange later = new OccurrenceChange(FIRST, FIRST.plusHours(1), null, QUIET);
    assertEquals(
        series(later).withDate(FIRST, ControlValues.NONE).changes(),
        List.of(new OccurrenceChange(FIRST, FIRST.plusHours(1), null, ControlValues.NONE)));
  }

  @Test
  public void aDateLikeAllOthersIsNoExceptionAnyMore() {
    OccurrenceChange quiet = new OccurrenceChange(FIRST, null, null, QUIET);
    assertEquals(
        series(quiet, moved(SECOND)).withDate(FIRST, ControlValues.NONE).changes(),
        List.of(moved(SECOND)));
  }

  private static Invitee named(String email, Invitee.Task task) {
    return new Invitee(email, Invitee.Need.REQUIRED, task, null);
  }

  @Test
  public void whoStaysKeepsWhatTheyAreNamedFor() {
    List<Invitee> before =
        List.of(
            named("Ada@a.example", Invitee.Task.CAPTIONER),
            new Invitee("b@a.example", Invitee.Need.OPTIONAL, Invitee.Task.INTERPRETER, "de"),
            named("gone@a.example", Invitee.Task.CONTRIBUTOR),
            new Invitee("plain@a.example", Invitee.Need.REQUIRED));
    List<Invitee> told =
        List.of(
            new Invitee("ada@a.example", Invitee.Need.OPTIONAL),
            new Invitee("b@a.example", Invitee.Need.REQUIRED),
            new Invitee("new@a.example", Invitee.Need.REQUIRED),
            named("plain@a.example", Invitee.Task.CONTRIBUTOR));
    assertEquals(
        Invitee.keepingTasks(told, before),
        List.of(
            new Invitee("ada@a.example", Invitee.Need.OPTIONAL, Invitee.Task.CAPTIONER, null),
            new Invitee("b@a.example", Invitee.Need.REQUIRED, Invitee.Task.INTERPRETER, "de"),
            new Invitee("new@a.example", Invitee.Need.REQUIRED),
            named("plain@a.example", Invitee.Task.CONTRIBUTOR)));
  }

  @Test
  public void aTaskThatIsToldStands() {
    List<Invitee> before = List.of(named("a@a.example", Invitee.Task.CAPTIONER));
    List<Invitee> told = List.of(named("a@a.example", Invitee.Task.INTERPRETER));
    assertEquals(Invitee.keepingTasks(told, before), told);
    List<Invitee> plain = List.of(new Invitee("a@a.example", Invitee.Need.REQUIRED));
    assertSame(Invitee.keepingTasks(told, plain), told, "nobody had any");
  }

  @Test
  public void whoeverWritesDownWhatIsSaidOnlyWatches() {
    assertTrue(Invitee.Task.CONTRIBUTOR.takesPart());
    assertTrue(Invitee.Task.INTERPRETER.takesPart());
    assertFalse(Invitee.Task.CAPTIONER.takesPart());
    assertEquals(Invitee.Task.CAPTIONER.id(), "captioner");
    assertEquals(Weakness.TITLE_WORD.id(), "title-word");
    assertEquals(Weakness.TITLE_WORD.phrase(), "is a word of the title");
  }
}

package app.uprightwarden.core.session;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertFalse;
import static org.testng.Assert.assertNull;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.session.SessionEvent.Kind;
import java.util.List;
import java.util.Map;
import org.testng.annotations.Test;

/** A recording from its beginning to its end, and what those in it knew. */
public class RecordingTest {
  private static Told consent(String mode) {
    Told told = new Told(Map.of(Control.RECORDING_CONSENT, mode));
    told.at(0).host();
    told.at(10).comes("a", "member", "named").enters("a", "attendee");
    return told;
  }

  private static List<Recording.Recorded> people(Told told) {
    return told.book.recordings().get(0).people(told.book, told.now());
  }

  @Test
  public void aSecondOneEndsTheFirstAndSaysWhoBeganIt() {
    Told told = consent("notice");
    told.at(60).tell(Kind.RECORDING_STARTED, "host");
    told.at(150).tell(Kind.RECORDING_STARTED, "a");
    told.at(200).tell(Kind.RECORDING_STOPPED, "a", "by", "host");
    List<Recording> made = told.book.recordings();
    assertEquals(made.stream().map(Recording::number).toList(), List.of(1, 2));
    assertEquals(made.get(0).end(), Recording.End.REPLACED);
    assertEquals(made.get(0).endedBy(), "a");
    assertEquals(made.get(0).length(told.now()).toSeconds(), 90);
    assertEquals(made.get(1).end(), Recording.End.STOPPED);
    assertEquals(made.get(1).endedBy(), "host");
    assertEquals(made.get(1).length(told.now()).toSeconds(), 50);
    assertNull(told.book.recording());
  }

  @Test
  public void itEndsWithWhoeverMakesItAndWithTheSession() {
    Told told = consent("none");
    told.at(60).tell(Kind.RECORDING_STARTED, "a");
    told.at(70).tell(Kind.REMOVED, "a", "barred", "true");
    told.at(80).tell(Kind.RECORDING_STARTED, "host");
    told.at(95).tell(Kind.ENDED, null);
    List<Recording> made = told.book.recordings();
    assertEquals(made.get(0).end(), Recording.End.LEFT);
    assertEquals(made.get(0).length(told.now()).toSeconds(), 10);
    assertEquals(made.get(1).end(), Recording.End.SESSION_ENDED);
    assertEquals(made.get(1).length(told.now()).toSeconds(), 15);
  }

  @Test
  public void oneThatRunsHasNoEnd() {
    Told told = consent("none");
    told.at(60).tell(Kind.RECORDING_STARTED, "host").at(100);
    Recording running = told.book.recordings().get(0);
    assertEquals(running.end(), Recording.End.RUNNING);
    assertNull(running.to());
    assertEquals(running.length(told.now()).toSeconds(), 40);
    assertEquals(running.store(), "own-device", "nothing is said of it: the loosest");
  }

  @Test
  public void everybodyWhoIsInWhileItRunsIsTold() {
    Told told = consent("notice");
    told.comes("early", "member", "named").enters("early", "attendee");
    told.at(20).tell(Kind.LEFT, "early");
    told.at(60).tell(Kind.RECORDING_STARTED, "host");
    told.at(75).comes("late", "outsider", "none").enters("late", "attendee");
    told.at(90).tell(Kind.RECORDING_STOPPED, "host");
    told.at(95).comes("after", "member", "named").enters("after", "attendee");
    List<Recording.Recorded> people = people(told);
    assertEquals(people.stream().map(Recording.Recorded::who).toList(), List.of("a", "late"));
    assertEquals(
        people.get(0).since(), Told.START.plusSeconds(60), "in before: from its beginning");
    assertEquals(people.get(1).since(), Told.START.plusSeconds(75), "came later: from then");
    people.forEach(each -> assertEquals(each.answer(), Recording.Answer.TOLD));
  }

  @Test
  public void consentIsWhatWasAnsweredLastWhileItRan() {
    Told told = consent("consent");
    told.comes("b", "member", "named").enters("b", "attendee");
    told.comes("p", "unknown", "none").enters("p", "attendee");
    told.at(30).tell(Kind.CONSENT_GIVEN, "p"); // before: of another recording, or of none
    told.at(60).tell(Kind.RECORDING_STARTED, "host");
    told.at(61).tell(Kind.CONSENT_GIVEN, "a").tell(Kind.CONSENT_GIVEN, "b");
    told.at(70).tell(Kind.CONSENT_DECLINED, "b");
    told.at(90).tell(Kind.RECORDING_STOPPED, "host");
    told.at(95).tell(Kind.CONSENT_DECLINED, "a"); // too late to be of it
    List<Recording.Recorded> people = people(told);
    assertEquals(
        people.stream().map(Recording.Recorded::answer).toList(),
        List.of(Recording.Answer.GIVEN, Recording.Answer.DECLINED, Recording.Answer.NOT_ANSWERED));
    assertEquals(people.get(1).at(), Told.START.plusSeconds(70));
    assertNull(people.get(2).at());
  }

  @Test
  public void whatIsAnsweredAsTheNextOneBeginsIsOfTheNext() {
    Told told = consent("consent");
    told.at(60).tell(Kind.RECORDING_STARTED, "host").tell(Kind.CONSENT_GIVEN, "a");
    told.at(80).tell(Kind.RECORDING_STARTED, "host").tell(Kind.CONSENT_DECLINED, "a");
    assertEquals(people(told).get(0).answer(), Recording.Answer.GIVEN);
    assertEquals(
        told.book.recordings().get(1).people(told.book, told.now()).get(0).answer(),
        Recording.Answer.DECLINED);
  }

  @Test
  public void whatItAskedIsWhatStoodWhenItBegan() {
    Told told = consent("none");
    told.at(60).tell(Kind.RECORDING_STARTED, "host");
    told.tell(Kind.SETTING, null, "control", "recording-consent", "value", "consent");
    assertEquals(people(told).get(0).answer(), Recording.Answer.NOT_TOLD);
    told.at(70).tell(Kind.RECORDING_STARTED, "host");
    Recording second = told.book.recordings().get(1);
    assertEquals(second.consent(), "consent");
    assertFalse(second.people(told.book, told.now()).isEmpty());
  }

  @Test
  public void aServiceThatBeginsThousandsIsCountedAndKeepsSomeApart() {
    Told told = consent("none");
    for (int i = 0; i < SessionBook.MAX_RECORDINGS + 7; i++) {
      told.at(60 + i).tell(Kind.RECORDING_STARTED, "host");
    }
    assertEquals(told.book.recordings().size(), SessionBook.MAX_RECORDINGS);
    assertEquals(told.book.recorded(), SessionBook.MAX_RECORDINGS + 7);
  }
}

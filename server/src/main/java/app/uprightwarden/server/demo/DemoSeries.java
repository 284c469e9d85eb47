package app.uprightwarden.server.demo;

import static app.uprightwarden.server.demo.DemoPeople.ofUnit;

import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;

/**
 * The ordinary meetings of the demo: most as the rules say, some with a value moved for a reason.
 */
final class DemoSeries {
  /** What meetings have where no rule says anything. */
  static final Map<String, Object> COMMON = common();

  private static final String[] UNITS = {
    "pilotage", "berths", "dredging", "tariffs", "community", "harbour"
  };
  // not all of it in English: there are fishing grounds, a yacht week and winter works, too
  private static final String[] SUBJECTS = {
    "Berth plan",
    "Vessel arrivals",
    "Sounding results",
    "Light list",
    "Crew changes",
    "Invoices",
    "Mooring lines",
    "Slipway bookings",
    "Noise complaints",
    "Ferry timetable",
    "Gauge readings",
    "Boat maintenance",
    "Training",
    "Stores",
    "Weather outlook",
    "تنسيق مناطق الصيد",
    "Seachtain na luamh",
    "Reed bed",
    "Grain terminal",
    "Bridge lifts",
    "Chart corrections",
    "Waste reception",
    "冬季施工",
    "Contractor review",
    "Radio check",
    "Harbour dues",
    "School visits"
  };
  private static final String[] SORTS = {
    "weekly", "review", "planning", "catch-up", "handover", "monthly"
  };

  /** A value that somebody moves away from where it began. */
  private record Drift(String control, Object value) {}

  private static final List<Drift> DRIFTS =
      List.of(
          new Drift("lobby-bypass", "members"),
          new Drift("early-entry", 15),
          new Drift("screen-share", "everyone"),
          new Drift("presenter-role", "everyone"),
          new Drift("chat", "always"),
          new Drift("annotation", "everyone"),
          new Drift("phone-bypass", "straight-in"),
          new Drift("passcode-in-link", "embedded"),
          new Drift("recording", "presenters"),
          new Drift("rename-self", "allowed"),
          new Drift("recording-consent", "none"),
          new Drift("attendance-record", "off"));

  private final DemoMeetings meetings;
  private final Random random;

  DemoSeries(DemoMeetings meetings) {
    this.meetings = meetings;
    this.random = meetings.random();
  }

  void add(int count) {
    for (int i = 0; i < count; i++) {
      one(i);
    }
  }

  private void one(int i) {
    String unit = UNITS[i % UNITS.length];
    List<String> people = ofUnit(unit);
    String host = host(people);
    String subject = SUBJECTS[i % SUBJECTS.length];
    String sort = SORTS[(i / SUBJECTS.length + i) % SORTS.length];
    boolean drill = i % 17 == 5;
    String kind = drill ? "drill" : i % 3 == 0 ? "briefing" : "planning";
    String time = "%02d:%02d".formatted(7 + i % 11, 15 * (i / 11 % 4));
    int day = 1 + random.nextInt(13);
    DemoMeeting meeting =
        meetings
            .meeting(subject + ", " + sort, kind, host, day, time, i % 9 == 0 ? 2 : 3)
            .with("minutes", 15 + 15 * random.nextInt(6));
    if (i % 9 == 0 && i % 2 == 0) {
      // scheduled before the last edition: it keeps what was the start then
      meeting.control("return-after-removal", "allowed");
    }
    recur(meeting, i);
    meeting.invite(people.subList(0, 2 + random.nextInt(people.size() - 2)));
    if (i % 8 == 1) {
      meeting.invite("k.flood@kittiwake-tugs.example");
    }
    if (i % 5 == 2) {
      Drift drift = DRIFTS.get((i / 5) % DRIFTS.size());
      meeting.control(drift.control(), drift.value());
    }
  }

  /** Anybody but the one who has left. */
  private String host(List<String> people) {
    String host = people.get(random.nextInt(people.size()));
    return host.startsWith("e.tracey") ? people.get(0) : host;
  }

  private void recur(DemoMeeting meeting, int i) {
    switch (i % 6) {
      case 0, 1 -> meeting.recurring(meetings.weekly(random.nextInt(5)));
      case 2 -> meeting.recurring("FREQ=WEEKLY;INTERVAL=2;BYDAY=TH;UNTIL=" + meetings.last());
      case 3 -> meeting.recurring("FREQ=MONTHLY;BYDAY=1TU;UNTIL=" + meetings.last());
      case 4 -> meeting.recurring(meetings.weekly(0, 3));
      default -> {
        // a single meeting
      }
    }
  }

  private static Map<String, Object> common() {
    Map<String, Object> controls = new LinkedHashMap<>();
    controls.put("passcode", "required");
    controls.put("door-keeper", "hosts");
    controls.put("return-after-removal", "barred");
    controls.put("regions", List.of());
    controls.put("presenter-role", "hosts");
    controls.put("screen-share", "presenters");
    controls.put("annotation", "presenters");
    controls.put("remote-control", "off");
    controls.put("chat", "in-session");
    controls.put("private-chat", "to-hosts");
    controls.put("rename-self", "barred");
    controls.put("questions", "off");
    controls.put("polls", "off");
    controls.put("hand-raising", "on");
    controls.put("shared-notes", "off");
    controls.put("mute-on-entry", "on");
    controls.put("host-camera-on-entry", "on");
    controls.put("audio-routes", List.of("computer", "phone"));
    controls.put("dial-in-countries", List.of("IE"));
    controls.put("auto-record", "off");
    controls.put("recording-consent", "consent");
    controls.put("recording-store", "organisation-store");
    controls.put("record-sharing", "host-alone");
    controls.put("attendance-record", "on");
    controls.put("conduct-reports", "on");
    controls.put("breakout-groups", "off");
    controls.put("captions", "on");
    controls.put("interpretation", "off");
    controls.put("data-region", List.of("eu-west"));
    return controls;
  }
}

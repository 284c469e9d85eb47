package app.uprightwarden.server.demo;

import static app.uprightwarden.server.demo.DemoPeople.member;
import static app.uprightwarden.server.demo.DemoPeople.ofUnit;

import app.uprightwarden.server.problem.InOrder;
import java.time.DayOfWeek;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.time.temporal.TemporalAdjusters;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Random;
import org.jspecify.annotations.Nullable;

/**
 * The demo's meetings: relative to a day, the same for the same day. Faults are seeded on purpose,
 * so that each kind of finding shows at least once.
 */
final class DemoMeetings {
  /** What meetings of a host and kind are stamped with when they are scheduled. */
  interface Starts {
    Map<String, Object> of(int edition, String host, String kind);
  }

  private static final String[] DAYS = {"MO", "TU", "WE", "TH", "FR"};
  private static final String[] WORDS = {
    "kelp",
    "rudder",
    "sandbar",
    "fender",
    "halyard",
    "plover",
    "samphire",
    "ballast",
    "groyne",
    "tiller",
    "mudflat",
    "bollard",
    "eelgrass",
    "keelson",
    "cormorant",
    "slipway"
  };

  private static final long SEED = 20_783;

  private final LocalDate today;
  private final Starts starts;
  private final Random random;
  private final List<DemoMeeting> made = new ArrayList<>();
  private int serial;

  DemoMeetings(LocalDate today, Starts starts) {
    this.today = today;
    this.starts = starts;
    // one seed, not the day's: only the dates differ between the demo of one day and another's
    this.random = new Random(SEED);
  }

  List<Map<String, @Nullable Object>> all() {
    seeded();
    new DemoSeries(this).add(120 - made.size());
    return made.stream().map(DemoMeeting::map).toList();
  }

  Random random() {
    return random;
  }

  /** A meeting with everything at its start under an edition, and a passcode made for it. */
  DemoMeeting meeting(String title, String kind, String host, int days, String time, int edition) {
    String id = "m-%04d".formatted(++serial);
    LocalDateTime start = LocalDateTime.of(today.plusDays(days), LocalTime.parse(time));
    DemoMeeting meeting =
        new DemoMeeting(id, title, kind, host, start)
            .controls(DemoSeries.COMMON)
            .controls(starts.of(edition, host, kind))
            .with("number", number())
            .with("passcode", passcode());
    if (kind.equals("hearing")) {
      meeting.with("room", "long-shed");
    } else if (kind.equals("planning") && serial % 3 == 0) {
      meeting.with("room", "chart-room");
    }
    made.add(meeting);
    return meeting;
  }

  private String number() {
    return "%03d %03d %03d"
        .formatted(100 + random.nextInt(900), random.nextInt(1000), random.nextInt(1000));
  }

  private String passcode() {
    String first = WORDS[random.nextInt(WORDS.length)];
    String second = WORDS[random.nextInt(WORDS.length)];
    return first
        + "-"
        + second.substring(0, 1).toUpperCase(Locale.ROOT)
        + second.substring(1)
        + "-"
        + (10 + random.nextInt(90));
  }

  /** Days from today to the next such weekday, today excluded. */
  int until(DayOfWeek day) {
    return (int) (today.with(TemporalAdjusters.next(day)).toEpochDay() - today.toEpochDay());
  }

  String weekly(int... weekdays) {
    List<String> days = new ArrayList<>();
    for (int day : weekdays) {
      days.add(DAYS[day]);
    }
    return "FREQ=WEEKLY;BYDAY=" + String.join(",", days) + ";UNTIL=" + last();
  }

  /** Half a year on, as series end. */
  String last() {
    return today.plusDays(180).toString().replace("-", "") + "T220000Z";
  }

  private void seeded() {
    meeting("Storm call, outer channel", "briefing", member("Okafor"), 0, "21:00", 1)
        .recurring("FREQ=DAILY;UNTIL=" + last())
        .with("minutes", 30)
        .with("lists", List.of("night-crew"))
        .control("passcode-in-link", "embedded")
        .control("waiting-room", "off")
        .control("early-entry", "any-time")
        .control("screen-share", "everyone")
        .control("annotation", "everyone")
        .control("presenter-role", "everyone")
        .control("recording", "everyone")
        .invite("watch@coastguard.example");
    meeting(
            "Spoil-ground hearing",
            "hearing",
            member("Garvey"),
            until(DayOfWeek.TUESDAY),
            "14:00",
            1)
        .with("minutes", 150)
        .control("presenter-role", "everyone")
        .control("screen-share", "everyone")
        .control("waiting-room", "off")
        .control("attendee-microphone", "off")
        .control("chat", "always")
        .with("coHosts", List.of(member("Mensah")))
        .invite(ofUnit("dredging"))
        .invite("r.pike@brownsand-survey.example", "clerk@gannethead.example");
    meeting(
            "Inquiry: mooring failure",
            "inquiry",
            member("Stack"),
            until(DayOfWeek.WEDNESDAY),
            "10:00",
            3)
        .with("minutes", 180)
        .control("forwarding", "allowed")
        .control("sign-in", "none")
        .invite(member("Carmody"), member("Quill"), "counsel@fairlead-law.example");
    meeting("Tide-safety evening", "hearing", member("Obi"), until(DayOfWeek.WEDNESDAY), "19:00", 2)
        .with("minutes", 90)
        .with("lists", List.of("neighbours"))
        .with("description", "Join with the passcode ebb-and-flow-27 from seven o'clock.")
        .with("passcode", "ebb-and-flow-27")
        .control("lobby-bypass", "anyone")
        .control("presenter-role", "named")
        .control("return-after-removal", "allowed")
        .invite(member("Looney"), member("Kerr"));
    for (int i = 0; i < 2; i++) {
      meeting(
              i == 0 ? "Tug dispatch handover" : "Tug dispatch, day orders",
              "briefing",
              member("Pryce"),
              1,
              i == 0 ? "06:00" : "06:35",
              3)
          .recurring("FREQ=DAILY;UNTIL=" + last())
          .with("minutes", 30)
          .with("number", "482 119 730")
          .control("meeting-number", "reusable")
          .control("lobby-bypass", "members")
          .control("early-entry", i == 0 ? 30 : 10)
          .invite("dispatch@kittiwake-tugs.example", member("Nwosu"), member("Meade"));
    }
    meeting("Night crew briefing", "briefing", member("Tracey"), 1, "22:00", 2)
        .recurring("FREQ=WEEKLY;BYDAY=TU,FR;UNTIL=" + last())
        .with("minutes", 45)
        .with("lists", List.of("night-crew"))
        .invite(member("Drury"), member("Shine"));
    meeting("Ice watch", "briefing", "watchkeeper@saltmarsh.example", 2, "05:00", 2)
        .recurring(weekly(0, 2, 4))
        .with("minutes", 20)
        .invite(member("Aakre"), member("Kovacs"));
    passcodeFaults();
    peopleFaults();
    shapeFaults();
  }

  private void passcodeFaults() {
    meeting("Pilotage roster", "planning", member("Halloran"), 3, "09:00", 3)
        .recurring(weekly(3))
        .with("passcode", "Pilotage")
        .invite(ofUnit("pilotage").subList(0, 5));
    meeting("Tariff board", "planning", member("Hurley"), until(DayOfWeek.THURSDAY), "11:00", 3)
        .recurring("FREQ=MONTHLY;BYDAY=2TH;UNTIL=" + last())
        .with("passcode", "12345678")
        .invite(ofUnit("tariffs"));
    for (String title : List.of("Fuel quay check-in", "Crane maintenance", "Lock gate rota")) {
      meeting(title, "planning", member("Fitzgibbon"), 4 + made.size() % 5, "08:15", 3)
          .recurring(weekly(made.size() % 5))
          .with("minutes", 30)
          .with("passcode", "quayside-Fender-16")
          .invite(ofUnit("berths").subList(1, 5));
    }
    meeting(
            "Open day rehearsal",
            "open-day",
            member("Tighe"),
            until(DayOfWeek.SATURDAY),
            "10:00",
            3)
        .with("description", "https://meet.saltmarsh.example/j/771204?code=gull-Wing-88")
        .with("passcode", "gull-Wing-88")
        .control("listing", "organisation")
        .invite(member("Bevan"), member("Crowe"));
  }

  private void peopleFaults() {
    meeting(
            "Coastguard liaison",
            "planning",
            member("Barreto"),
            until(DayOfWeek.MONDAY),
            "13:00",
            3)
        .recurring("FREQ=WEEKLY;INTERVAL=2;BYDAY=MO;UNTIL=" + last())
        .with("coHosts", List.of("liaison@coastguard.example"))
        .invite("liaison@coastguard.example", member("Adeyemi"));
    meeting("Licence hearing, quarry barge", "hearing", member("Kerr"), 12, "15:00", 3)
        .with("presenters", List.of("agent@stonebarge.example", member("Looney")))
        .control("presenter-role", "hosts")
        .invite(member("Looney"), member("Tighe"));
    meeting("Reed-bed hearing", "hearing", member("Looney"), 19, "18:30", 3)
        .invite(member("Kerr"), "p.marsh@estuary-lab.example");
    meeting("Pilots' exam board", "planning", member("Lindqvist"), 17, "10:00", 3)
        .control("lobby-bypass", "hosts")
        .control("early-entry", 10)
        .invite(member("Okafor"), member("Hession"));
    meeting("Mast inspection", "planning", member("Lindqvist"), 17, "10:30", 3)
        .control("early-entry", 15)
        .invite(member("Aakre"));
  }

  private void shapeFaults() {
    meeting("Harbour office stand-up", "briefing", member("Carmody"), 1, "08:45", 3)
        .recurring("FREQ=WEEKLY;BYDAY=MO,TU,WE,TH,FR")
        .with("minutes", 15)
        .invite(ofUnit("harbour"));
    meeting("All-hands spill drill", "drill", member("Boland"), 24, "09:00", 3)
        .with("minutes", 300)
        .with("lists", List.of("everybody", "neighbours"))
        .invite("watch@coastguard.example");
    meeting("Budget reading", "planning", member("Anghel"), 14, "09:30", 3)
        .control("screen-share", "hosts")
        .control("slide-browsing", "presenter-led")
        .control("remote-control", "allowed")
        .invite(ofUnit("tariffs"));
    meeting("Quay wall survey (from calendar)", "planning", member("Brandt"), 6, "11:00", 1)
        .only("passcode", "listing", "waiting-room")
        .recurring(weekly(2))
        .invite("j.sato@brownsand-survey.example", member("Keogh"));
    meeting(
            "Buoy tender planning",
            "planning",
            member("Zielinska"),
            until(DayOfWeek.FRIDAY),
            "09:00",
            1)
        .recurring(weekly(4))
        .control("return-after-removal", "allowed")
        .with(
            "occurrences",
            List.of(
                InOrder.map(
                    "at",
                    LocalDateTime.of(
                            today.plusDays(until(DayOfWeek.FRIDAY) + 7), LocalTime.of(9, 0))
                        .toString(),
                    "controls",
                    InOrder.map("screen-share", "everyone", "waiting-room", "off"))))
        .invite(ofUnit("dredging").subList(0, 4));
    meeting("Strict reading of the by-laws", "planning", member("Sachs"), 9, "16:00", 3)
        .control("recording", "off")
        .control("auto-record", "on")
        .invite(member("Treharne"), member("Gaughan"));
  }
}

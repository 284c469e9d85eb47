package app.uprightwarden.server.demo;

import app.uprightwarden.server.problem.InOrder;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/** Saltmarsh Harbour Trust and its people: all made up, on reserved domains. */
final class DemoPeople {
  static final String DOMAIN = "saltmarsh.example";

  private static final String[][] MEMBERS = {
    // given name, family name, unit
    {"Moira", "Okafor", "pilotage"}, {"Tomas", "Halloran", "pilotage"},
    {"Ines", "Barreto", "pilotage"}, {"Colm", "Drury", "pilotage"},
    {"Yusuf", "Adeyemi", "pilotage"}, {"Freya", "Lindqvist", "pilotage"},
    {"Padraig", "Shine", "pilotage"}, {"Hana", "Kovacs", "pilotage"},
    {"Eoin", "Tracey", "pilotage"}, {"Signe", "Aakre", "pilotage"},
    {"Nuala", "Fitzgibbon", "berths"}, {"Gareth", "Pryce", "berths"},
    {"Amara", "Nwosu", "berths"}, {"Lorcan", "Meade", "berths"},
    {"Petra", "Vondra", "berths"}, {"Declan", "Roche", "berths"},
    {"Sorcha", "Linehan", "berths"}, {"Bram", "Tielemans", "berths"},
    {"Aoife", "Garvey", "dredging"}, {"Kwame", "Mensah", "dredging"},
    {"Liesl", "Brandt", "dredging"}, {"Ronan", "Keogh", "dredging"},
    {"Marta", "Zielinska", "dredging"}, {"Fintan", "Dowd", "dredging"},
    {"Oona", "Salmela", "dredging"}, {"Grainne", "Hurley", "tariffs"},
    {"Victor", "Anghel", "tariffs"}, {"Siobhan", "Cagney", "tariffs"},
    {"Jorn", "Eide", "tariffs"}, {"Clodagh", "Moran", "tariffs"},
    {"Emeka", "Obi", "community"}, {"Brigid", "Looney", "community"},
    {"Anselm", "Kerr", "community"}, {"Roisin", "Tighe", "community"},
    {"Dai", "Bevan", "community"}, {"Una", "Carmody", "harbour"},
    {"Malachy", "Stack", "harbour"}, {"Ingrid", "Solheim", "harbour"},
    {"Cathal", "Nestor", "harbour"}, {"Teresa", "Quill", "harbour"},
    {"Jarlath", "Boland", "harbour"}, {"Miriam", "Sachs", "harbour"},
    {"Owen", "Treharne", "harbour"}, {"Dervla", "Gaughan", "harbour"},
    {"Pawel", "Nowak", "berths"}, {"Ffion", "Rees", "berths"},
    {"Conor", "Hession", "pilotage"}, {"Nadia", "Benali", "tariffs"},
    {"Sile", "Crowe", "community"}, {"Torvald", "Hagen", "dredging"},
  };

  private DemoPeople() {}

  static String address(String given, String family) {
    return (given.charAt(0) + "." + family).toLowerCase(java.util.Locale.ROOT) + "@" + DOMAIN;
  }

  /** The address of a member by family name. */
  static String member(String family) {
    for (String[] member : MEMBERS) {
      if (member[1].equals(family)) {
        return address(member[0], member[1]);
      }
    }
    throw new IllegalArgumentException("no demo member is called " + family);
  }

  /** Addresses of a unit's members. */
  static List<String> ofUnit(String unit) {
    List<String> addresses = new ArrayList<>();
    for (String[] member : MEMBERS) {
      if (member[2].equals(unit)) {
        addresses.add(address(member[0], member[1]));
      }
    }
    return addresses;
  }

  /** Guests who work on another clock. */
  private static final Map<String, String> ELSEWHERE =
      Map.of("Jun Sato", "Asia/Tokyo", "Lidia Costa", "Europe/Lisbon");

  static List<Map<String, @Nullable Object>> people() {
    List<Map<String, @Nullable Object>> people = new ArrayList<>();
    for (String[] m : MEMBERS) {
      // one pilot has left; the meetings they hosted are still there
      boolean active = !m[1].equals("Tracey");
      Map<String, @Nullable Object> member =
          person(address(m[0], m[1]), m[0] + " " + m[1], "member", m[2], active);
      member.put("zone", "Europe/Dublin");
      people.add(member);
    }
    String[][] guests = {
      {"r.pike@brownsand-survey.example", "Rhona Pike"},
      {"a.dunne@brownsand-survey.example", "Alban Dunne"},
      {"j.sato@brownsand-survey.example", "Jun Sato"},
      {"dispatch@kittiwake-tugs.example", "Kittiwake dispatch"},
      {"k.flood@kittiwake-tugs.example", "Kieran Flood"},
      {"s.imrie@sounding-line.example", "Sheena Imrie"},
      {"l.costa@sounding-line.example", "Lidia Costa"},
      {"p.marsh@estuary-lab.example", "Perry Marsh"},
    };
    for (String[] g : guests) {
      Map<String, @Nullable Object> guest = person(g[0], g[1], "guest", null, true);
      guest.put("zone", ELSEWHERE.getOrDefault(g[1], "Europe/London"));
      people.add(guest);
    }
    return people;
  }

  private static Map<String, @Nullable Object> person(
      String email, String name, String standing, @Nullable String unit, boolean active) {
    Map<String, @Nullable Object> map = new LinkedHashMap<>();
    map.put("email", email);
    map.put("name", name);
    map.put("standing", standing);
    map.put("unit", unit);
    map.put("active", active);
    return map;
  }

  static Map<String, @Nullable Object> organisation() {
    Map<String, @Nullable Object> map = new LinkedHashMap<>();
    map.put("name", "Saltmarsh Harbour Trust");
    map.put("domains", List.of(DOMAIN));
    map.put(
        "partners",
        List.of(
            InOrder.map("name", "Western Coastguard", "domains", List.of("coastguard.example")),
            InOrder.map("name", "Port of Gannet Head", "domains", List.of("gannethead.example"))));
    map.put("plan", InOrder.map("maxParticipants", 60, "maxMinutes", 240));
    map.put(
        "units",
        List.of(
            unit("harbour", "Harbour Office", null),
            unit("pilotage", "Pilotage", "harbour"),
            unit("berths", "Berths & Traffic", "harbour"),
            unit("dredging", "Dredging", "harbour"),
            unit("tariffs", "Tariffs & Finance", "harbour"),
            unit("community", "Community", "harbour")));
    map.put(
        "kinds",
        List.of(
            kind("briefing", "Briefing", false),
            kind("planning", "Planning", false),
            kind("hearing", "Public hearing", false),
            kind("inquiry", "Inquiry", true),
            kind("drill", "Drill", false),
            kind("open-day", "Open day", false)));
    List<String> harbourSide = new ArrayList<>(ofUnit("berths"));
    harbourSide.addAll(ofUnit("pilotage"));
    List<String> everybody = new ArrayList<>();
    for (String[] m : MEMBERS) {
      everybody.add(address(m[0], m[1]));
    }
    map.put(
        "spaces",
        List.of(
            gathering("berth-planning", "Berth planning", ofUnit("berths")),
            gathering("dredge-campaign", "Dredge campaign", ofUnit("dredging"))));
    map.put(
        "lists",
        List.of(
            gathering("night-crew", "Night crew", ofUnit("pilotage")),
            gathering("harbour-side", "Harbour side", harbourSide),
            gathering("everybody", "Everybody", everybody),
            gathering("neighbours", "Neighbours", neighbours())));
    map.put(
        "rooms",
        List.of(
            room("chart-room", "Chart room", 12),
            room("pilot-house", "Pilot house", 6),
            room("long-shed", "Long shed", 80)));
    return map;
  }

  private static Map<String, Object> room(String id, String name, int seats) {
    return InOrder.map("id", id, "name", name, "email", id + "@" + DOMAIN, "seats", seats);
  }

  private static List<String> neighbours() {
    List<String> neighbours = new ArrayList<>();
    for (int i = 1; i <= 14; i++) {
      neighbours.add("household%02d@riverside.example".formatted(i));
    }
    return neighbours;
  }

  private static Map<String, @Nullable Object> unit(
      String id, String name, @Nullable String parent) {
    Map<String, @Nullable Object> map = new LinkedHashMap<>();
    map.put("id", id);
    map.put("name", name);
    map.put("parent", parent);
    return map;
  }

  private static Map<String, Object> kind(String id, String name, boolean confidential) {
    return InOrder.map("id", id, "name", name, "confidential", confidential);
  }

  private static Map<String, Object> gathering(String id, String name, List<String> members) {
    return InOrder.map("id", id, "name", name, "members", members);
  }
}

package app.uprightwarden.standins;

import app.uprightwarden.core.control.Control;
import java.io.BufferedWriter;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.net.URI;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.StandardOpenOption;
import java.time.Clock;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ObjectNode;

/**
 * What a stand-in holds: in memory, and line by line in a file, so that it is there again after the
 * process was killed. A line cut in the middle is the last one and is left out.
 */
final class Store {
  private static final int MAX_COMMANDS = 20_000;
  private static final int MAX_MEETINGS = 200_000;

  private final Make make;
  private final Path file;
  private final Clock clock;
  private final JsonMapper json = new JsonMapper();
  private final Map<String, Entry> meetings = new LinkedHashMap<>();
  private final TreeMap<Long, String> byChange = new TreeMap<>();
  private final Map<String, JsonNode> commands = new LinkedHashMap<>();
  private final Map<String, Object> defaults = new TreeMap<>();
  private final Map<String, Object> locks = new TreeMap<>();
  private String defaultsBy = "";
  private String defaultsAt = "";
  private long defaultsChange;
  private String era = UUID.randomUUID().toString().substring(0, 8);
  private long change;
  private long numbers = 482_100_000L;
  private @Nullable BufferedWriter out;
  private volatile @Nullable URI hook;
  private volatile Runnable whenChanged = () -> {};

  Store(Make make, Path file, Clock clock) {
    this.make = make;
    this.file = file;
    this.clock = clock;
    load();
  }

  /** A meeting as it is kept. */
  record Entry(
      String id,
      long change,
      String changedAt,
      String changedBy,
      boolean cancelled,
      ObjectNode meeting) {}

  private synchronized void load() {
    try {
      if (file.getParent() != null) {
        Files.createDirectories(file.getParent());
      }
      meetings.clear();
      byChange.clear();
      commands.clear();
      defaults.clear();
      locks.clear();
      change = 0;
      if (Files.exists(file)) {
        for (String line : Files.readAllLines(file)) {
          read(line);
        }
      }
      rewrite();
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  private void read(String line) {
    JsonNode of;
    try {
      of = json.readTree(line);
    } catch (JacksonException e) {
      return; // it was killed in the middle of this line
    }
    switch (of.path("is").stringValue("")) {
      case "meeting" ->
          keep(
              new Entry(
                  of.path("id").stringValue(""),
                  of.path("change").longValue(0),
                  of.path("at").stringValue(""),
                  of.path("by").stringValue(""),
                  of.path("cancelled").booleanValue(false),
                  (ObjectNode) of.path("meeting")));
      case "command" -> commands.put(of.path("id").stringValue(""), of.path("answer"));
      case "defaults" -> {
        defaults.clear();
        locks.clear();
        of.path("controls")
            .properties()
            .forEach(each -> defaults.put(each.getKey(), plain(each.getValue())));
        of.path("locks")
            .properties()
            .forEach(each -> locks.put(each.getKey(), plain(each.getValue())));
        defaultsBy = of.path("by").stringValue("");
        defaultsAt = of.path("at").stringValue("");
        defaultsChange = of.path("change").longValue(0);
      }
      case "hook" -> hook = URI.create(of.path("to").stringValue(""));
      case "era" -> era = of.path("era").stringValue(era);
      default -> {}
    }
  }

  private void keep(Entry entry) {
    Entry before = meetings.put(entry.id(), entry);
    if (before != null) {
      byChange.remove(before.change());
    }
    byChange.put(entry.change(), entry.id());
    change = Math.max(change, entry.change());
    String number = entry.meeting().path("number").stringValue("").replace(" ", "");
    if (number.matches("\\d{1,12}")) {
      numbers = Math.max(numbers, Long.parseLong(number));
    }
  }

  private void rewrite() throws IOException {
    if (out != null) {
      out.close();
    }
    Path fresh = file.resolveSibling(file.getFileName() + ".new");
    try (BufferedWriter to = Files.newBufferedWriter(fresh)) {
      writeLine(to, Map.of("is", "era", "era", era));
      writeLine(to, defaultsLine());
      URI at = hook;
      if (at != null) {
        writeLine(to, line("hook", Map.of("to", at.toString())));
      }
      for (Entry entry : meetings.values()) {
        writeLine(to, line(entry));
      }
      for (Map.Entry<String, JsonNode> each : commands.entrySet()) {
        writeLine(to, line("command", Map.of("id", each.getKey(), "answer", each.getValue())));
      }
    }
    Files.move(fresh, file, StandardCopyOption.REPLACE_EXISTING);
    out = Files.newBufferedWriter(file, StandardOpenOption.APPEND);
  }

  private static Map<String, Object> line(String is, Map<String, Object> rest) {
    Map<String, Object> line = new LinkedHashMap<>();
    line.put("is", is);
    line.putAll(rest);
    return line;
  }

  private static Map<String, Object> line(Entry entry) {
    Map<String, Object> line = new LinkedHashMap<>();
    line.put("is", "meeting");
    line.put("id", entry.id());
    line.put("change", entry.change());
    line.put("at", entry.changedAt());
    line.put("by", entry.changedBy());
    line.put("cancelled", entry.cancelled());
    line.put("meeting", entry.meeting());
    return line;
  }

  private void writeLine(BufferedWriter to, Map<String, ?> line) throws IOException {
    to.write(json.writeValueAsString(line));
    to.newLine();
    to.flush();
  }

  private void append(Map<String, Object> line) {
    try {
      if (out != null) {
        writeLine(out, line);
      }
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  static Object plain(JsonNode node) {
    if (node.isArray()) {
      List<Object> list = new ArrayList<>();
      node.forEach(each -> list.add(plain(each)));
      return list;
    }
    return node.isNumber() ? (Object) node.intValue() : node.stringValue("");
  }

  synchronized @Nullable Entry find(String id) {
    return meetings.get(id);
  }

  /** All that are not cancelled, in the order in which they were made. */
  synchronized List<Entry> all() {
    return meetings.values().stream().filter(entry -> !entry.cancelled()).toList();
  }

  /** Changes behind one, oldest first. */
  synchronized List<Entry> after(long behind, int most) {
    List<Entry> some = new ArrayList<>();
    for (String id : byChange.tailMap(behind, false).values()) {
      if (some.size() == most) {
        break;
      }
      some.add(java.util.Objects.requireNonNull(meetings.get(id)));
    }
    return some;
  }

  synchronized long last() {
    return change;
  }

  synchronized String era() {
    return era;
  }

  /** Stores a meeting as somebody has changed it. */
  synchronized Entry put(String id, ObjectNode meeting, String by, boolean cancelled) {
    if (meetings.size() >= MAX_MEETINGS && !meetings.containsKey(id)) {
      throw new IllegalStateException("no more than " + MAX_MEETINGS + " meetings");
    }
    Entry entry =
        new Entry(id, change + 1, clock.instant().toString(), by, cancelled, meeting.deepCopy());
    keep(entry);
    append(line(entry));
    whenChanged.run();
    return entry;
  }

  /** Where it is told that something is new; null for nowhere. */
  @Nullable URI hook() {
    return hook;
  }

  synchronized void hookTo(URI at) {
    if (!at.equals(hook)) {
      hook = at;
      append(line("hook", Map.of("to", at.toString())));
    }
  }

  /** Stores a meeting as somebody has changed some of it (RFC 7396). */
  synchronized Entry change(Entry entry, JsonNode patch, String by) {
    ObjectNode changed = (ObjectNode) MergePatch.apply(entry.meeting(), patch);
    return put(entry.id(), completed(changed), by, false);
  }

  /** What is done after each change of a meeting. */
  void whenChanged(Runnable then) {
    whenChanged = then;
  }

  /** A meeting of before, with who changed it and when; for what happened before the start. */
  synchronized Entry put(String id, ObjectNode meeting, String by, String at) {
    Entry entry = new Entry(id, change + 1, at, by, false, meeting.deepCopy());
    keep(entry);
    append(line(entry));
    return entry;
  }

  /** A new meeting with all that a service adds: an id, a number, and its defaults. */
  synchronized ObjectNode completed(ObjectNode wanted) {
    ObjectNode meeting = wanted.deepCopy();
    if (!meeting.hasNonNull("number")) {
      numbers += 7;
      String digits = Long.toString(numbers);
      meeting.put(
          "number",
          digits.substring(0, 3) + " " + digits.substring(3, 6) + " " + digits.substring(6));
    }
    ObjectNode controls = meeting.withObjectProperty("controls");
    for (Control control : Control.all()) {
      if (make.has(control) && !controls.has(control.id())) {
        Object usual = defaults.getOrDefault(control.id(), make.usual(control));
        controls.set(control.id(), json.valueToTree(usual));
      }
    }
    return meeting;
  }

  synchronized @Nullable JsonNode answered(String command) {
    return commands.get(command);
  }

  synchronized void answer(String command, JsonNode answer) {
    if (commands.size() >= MAX_COMMANDS) {
      commands.remove(commands.keySet().iterator().next());
    }
    commands.put(command, answer);
    append(line("command", Map.of("id", command, "answer", answer)));
  }

  synchronized Map<String, Object> defaults() {
    Map<String, Object> all = new LinkedHashMap<>();
    for (Control control : Control.all()) {
      if (make.has(control)) {
        all.put(control.id(), defaults.getOrDefault(control.id(), make.usual(control)));
      }
    }
    return all;
  }

  private Map<String, Object> defaultsLine() {
    Map<String, Object> line = line("defaults", Map.of("controls", defaults, "locks", locks));
    line.put("by", defaultsBy);
    line.put("at", defaultsAt);
    line.put("change", defaultsChange);
    return line;
  }

  /** Sets defaults and locks; a lock of null is taken away. */
  synchronized void setDefaults(
      Map<String, Object> values, Map<String, @Nullable Object> locked, String by) {
    defaults.putAll(values);
    locked.forEach(
        (control, value) -> {
          if (value == null) {
            locks.remove(control);
          } else {
            locks.put(control, value);
          }
        });
    defaultsBy = by;
    defaultsAt = clock.instant().toString();
    defaultsChange++;
    append(defaultsLine());
  }

  synchronized Map<String, Object> locks() {
    return new TreeMap<>(locks);
  }

  /** The defaults and locks in the shape of the interface. */
  synchronized Map<String, Object> account() {
    Map<String, Object> controls = new LinkedHashMap<>();
    defaults()
        .forEach(
            (control, value) -> {
              Map<String, Object> of = new LinkedHashMap<>();
              of.put("value", value);
              if (locks.containsKey(control)) {
                of.put("lock", locks.get(control));
              }
              controls.put(control, of);
            });
    Map<String, Object> account = new LinkedHashMap<>();
    account.put("revision", Long.toString(defaultsChange));
    account.put("changedBy", defaultsBy);
    account.put("changedAt", defaultsAt);
    account.put("controls", controls);
    return account;
  }

  /** Markers that were given are known no more. */
  synchronized void forgetMarkers() {
    era = UUID.randomUUID().toString().substring(0, 8);
    append(Map.of("is", "era", "era", era));
  }

  /** Keeps a copy of everything, to be restored from. */
  synchronized void backUp() {
    try {
      rewrite();
      Files.copy(file, backup(), StandardCopyOption.REPLACE_EXISTING);
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  /** Goes back to the copy: what was done since is gone, and revisions begin there again. */
  synchronized void restore() {
    try {
      if (Files.exists(backup())) {
        if (out != null) {
          out.close();
          out = null;
        }
        Files.copy(backup(), file, StandardCopyOption.REPLACE_EXISTING);
        load();
        forgetMarkers();
      }
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  private Path backup() {
    return file.resolveSibling(file.getFileName() + ".backup");
  }

  synchronized void close() {
    try {
      if (out != null) {
        out.close();
        out = null;
      }
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }
}

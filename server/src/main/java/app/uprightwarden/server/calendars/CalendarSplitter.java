package app.uprightwarden.server.calendars;

import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.ArrayList;
import java.util.HexFormat;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/** Takes a calendar apart into its events, so that one sees which of them were changed. */
public final class CalendarSplitter {
  private static final int MAX_NAME = 400;
  private static final String END = "END:VCALENDAR\r\n";

  private CalendarSplitter() {}

  /**
   * One event with its exceptions: a calendar of its own.
   *
   * @param mark changes with what it says, but not with when it was written (DTSTAMP)
   */
  public record Part(String text, String mark) {}

  /** A component's lines as they stood, with what tells it from others. */
  private static final class Block {
    private final StringBuilder text = new StringBuilder();
    private final StringBuilder said = new StringBuilder();
    private final String kind;
    private @Nullable String name;
    private int depth;

    Block(String kind) {
      this.kind = kind;
    }
  }

  /**
   * The events of a calendar by their names (UID).
   *
   * @param text which begins as a calendar does
   */
  public static Map<String, Part> split(String text) {
    Map<String, Block> zones = new LinkedHashMap<>();
    Map<String, List<Block>> events = new LinkedHashMap<>();
    String method = "";
    Block open = null;
    String last = "";
    for (String line : text.lines().toList()) {
      boolean isFolded = line.startsWith(" ") || line.startsWith("\t");
      String upper = isFolded ? last : line.strip().toUpperCase(Locale.ROOT);
      if (open == null) {
        if (upper.equals("BEGIN:VEVENT") || upper.equals("BEGIN:VTIMEZONE")) {
          open = new Block(upper.substring("BEGIN:".length()));
        } else if (upper.startsWith("METHOD:") && !isFolded) {
          method = line.strip() + "\r\n";
        }
      }
      if (open != null) {
        take(open, line, upper, isFolded);
        if (open.depth == 0) {
          close(open, zones, events);
          open = null;
        }
      }
      last = upper;
    }
    Map<String, Part> parts = new LinkedHashMap<>();
    String head = "BEGIN:VCALENDAR\r\nVERSION:2.0\r\n" + method;
    events.forEach((name, blocks) -> parts.put(name, part(head, blocks, zones)));
    return parts;
  }

  private static void take(Block open, String line, String upper, boolean isFolded) {
    open.text.append(line).append("\r\n");
    if (!upper.startsWith("DTSTAMP")) {
      open.said.append(line).append('\n');
    }
    if (isFolded) {
      if (open.name != null && open.depth == 1 && isName(open, upper)) {
        open.name += line.substring(1);
      }
      return;
    }
    if (upper.startsWith("BEGIN:")) {
      open.depth++;
    } else if (upper.startsWith("END:")) {
      open.depth--;
    } else if (open.depth == 1 && open.name == null && isName(open, upper)) {
      open.name = line.substring(line.indexOf(':') + 1);
    }
  }

  private static boolean isName(Block open, String upper) {
    String key = open.kind.equals("VEVENT") ? "UID" : "TZID";
    return upper.startsWith(key + ":") || upper.startsWith(key + ";");
  }

  private static void close(
      Block block, Map<String, Block> zones, Map<String, List<Block>> events) {
    String name = block.name == null ? "" : block.name.strip();
    if (block.kind.equals("VTIMEZONE")) {
      zones.putIfAbsent(name, block);
      return;
    }
    boolean isNamed = !name.isEmpty() && name.length() <= MAX_NAME;
    String key = isNamed ? name : "without a name " + hash(block.said.toString());
    events.computeIfAbsent(key, k -> new ArrayList<>()).add(block);
  }

  private static Part part(String head, List<Block> blocks, Map<String, Block> zones) {
    StringBuilder text = new StringBuilder(head);
    StringBuilder said = new StringBuilder(head);
    zones.forEach(
        (name, zone) -> {
          if (blocks.stream().anyMatch(block -> block.text.indexOf(name) >= 0)) {
            text.append(zone.text);
            said.append(zone.said);
          }
        });
    for (Block block : blocks) {
      text.append(block.text);
      said.append(block.said);
    }
    return new Part(text.append(END).toString(), hash(said.toString()));
  }

  private static String hash(String text) {
    try {
      MessageDigest digest = MessageDigest.getInstance("SHA-256");
      return HexFormat.of().formatHex(digest.digest(text.getBytes(StandardCharsets.UTF_8)));
    } catch (NoSuchAlgorithmException e) {
      throw new IllegalStateException(e);
    }
  }
}

package app.uprightwarden.standins;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.Scale;
import app.uprightwarden.core.control.Value;
import com.sun.net.httpserver.HttpExchange;
import java.io.IOException;
import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import tools.jackson.databind.JsonNode;

/**
 * A stand-in's two pages: its meetings, where one can be somebody who changes things behind
 * everybody's back, and its account, with the defaults and the faults. Nobody signs in: it listens
 * on loopback alone, and takes orders from its own pages only.
 */
final class Pages {
  private static final int MAX_BYTES = 64 * 1024;
  private static final int MAX_SHOWN = 200;
  private static final List<Control> COLUMNS =
      List.of(
          Control.WAITING_ROOM,
          Control.LOBBY_BYPASS,
          Control.PRESENTER_ROLE,
          Control.SCREEN_SHARE,
          Control.RECORDING);

  private final Make make;
  private final Store store;
  private final Faults faults;
  private final StandIn standIn;

  Pages(Make make, Store store, Faults faults, StandIn standIn) {
    this.make = make;
    this.store = store;
    this.faults = faults;
    this.standIn = standIn;
  }

  void handle(HttpExchange exchange) throws IOException {
    try (exchange) {
      String path = exchange.getRequestURI().getPath();
      Map<String, String> query = Api.query(exchange.getRequestURI().getRawQuery());
      if (exchange.getRequestMethod().equals("POST")) {
        act(exchange, path);
      } else if (path.equals("/")) {
        html(exchange, 200, "Meetings", meetings(query));
      } else if (path.equals("/account")) {
        html(exchange, 200, "Account", account(query));
      } else {
        html(exchange, 404, "Not here", "<p>There is no such page.</p>");
      }
    }
  }

  private void act(HttpExchange exchange, String path) throws IOException {
    String origin = exchange.getRequestHeaders().getFirst("Origin");
    String host = String.valueOf(exchange.getRequestHeaders().getFirst("Host"));
    boolean isOurs = origin != null && origin.equals("http://" + host);
    if (!isOurs || !host.matches("(127\\.0\\.0\\.1|localhost):\\d+")) {
      html(exchange, 403, "Refused", "<p>Orders are taken from these pages only.</p>");
      return;
    }
    byte[] body = exchange.getRequestBody().readNBytes(MAX_BYTES);
    Map<String, String> form = Api.query(new String(body, StandardCharsets.UTF_8));
    String said;
    try {
      said = done(path, form);
    } catch (IllegalArgumentException e) {
      said = "Not done: " + e.getMessage();
    }
    String back = path.startsWith("/account") ? "/account" : "/";
    String meeting = form.get("meeting");
    exchange
        .getResponseHeaders()
        .set(
            "Location",
            back
                + "?said="
                + URLEncoder.encode(said, StandardCharsets.UTF_8)
                + (meeting == null || path.equals("/cancel")
                    ? ""
                    : "&meeting=" + URLEncoder.encode(meeting, StandardCharsets.UTF_8)));
    exchange.sendResponseHeaders(303, -1);
  }

  private String done(String path, Map<String, String> form) {
    String by = form.getOrDefault("by", "somebody");
    String id = form.getOrDefault("meeting", "");
    switch (path) {
      case "/change" -> {
        Control control = control(form);
        Object value = value(control, form.getOrDefault("value", ""));
        standIn.behindOurBack(id, by, Map.of("controls", Map.of(control.id(), value)));
        return control.title() + " was changed.";
      }
      case "/move" -> {
        standIn.behindOurBack(id, by, Map.of("start", form.getOrDefault("start", "")));
        return "The meeting was moved.";
      }
      case "/register" -> {
        standIn.register(id, form.getOrDefault("address", ""), form.getOrDefault("name", ""));
        return "The form was sent.";
      }
      case "/cancel" -> {
        standIn.cancelBehindOurBack(id, by);
        return "The meeting was cancelled.";
      }
      case "/make" -> {
        Map<String, Object> meeting = new LinkedHashMap<>();
        meeting.put("title", form.getOrDefault("title", ""));
        meeting.put("description", "");
        meeting.put("host", by);
        meeting.put("start", form.getOrDefault("start", ""));
        meeting.put("zone", "Europe/Dublin");
        meeting.put("minutes", 60);
        standIn.make(by, meeting);
        return "The meeting was made.";
      }
      case "/account/default" -> {
        Control control = control(form);
        Object value = value(control, form.getOrDefault("value", ""));
        store.setDefaults(Map.of(control.id(), value), Map.of(), by);
        return "The default of " + control.title() + " was changed.";
      }
      case "/account/faults" -> {
        faults.away = form.containsKey("away");
        faults.failing = form.containsKey("failing");
        faults.refuses = form.containsKey("refuses");
        faults.lies = form.containsKey("lies");
        faults.repeats = form.containsKey("repeats");
        faults.keyWithdrawn = form.containsKey("keyWithdrawn");
        faults.deaf = form.containsKey("deaf");
        faults.busy = form.containsKey("busy");
        String slow = form.getOrDefault("slowMillis", "0");
        faults.slowMillis = slow.matches("\\d{1,5}") ? Integer.parseInt(slow) : 0;
        return "It behaves so from now on.";
      }
      case "/account/back-up" -> {
        standIn.backUp();
        return "A copy was kept.";
      }
      case "/account/restore" -> {
        standIn.restore();
        return "It is as the copy was.";
      }
      case "/account/forget" -> {
        standIn.forgetMarkers();
        return "It does not know any more up to where anybody has read.";
      }
      default -> throw new IllegalArgumentException("there is nothing like that");
    }
  }

  private Control control(Map<String, String> form) {
    Control control = Control.byId(form.get("control"));
    if (control == null || !make.has(control)) {
      throw new IllegalArgumentException(make.title() + " has no such setting");
    }
    return control;
  }

  private Object value(Control control, String text) {
    String value = text.strip();
    Object plain =
        control.scale() instanceof Scale.Sets
            ? value.isEmpty() ? List.of() : Arrays.asList(value.split("\\s*,\\s*"))
            : value.matches("\\d{1,6}") ? (Object) Integer.valueOf(value) : value;
    if (!make.holds(control, plain)) {
      throw new IllegalArgumentException(
          control.title() + " has no value “" + value + "” in " + make.title());
    }
    return plain;
  }

  private String meetings(Map<String, String> query) {
    String search = query.getOrDefault("q", "").toLowerCase(Locale.ROOT);
    Store.Entry chosen = store.find(query.getOrDefault("meeting", ""));
    List<Store.Entry> all =
        store.all().stream()
            .filter(
                entry ->
                    entry
                        .meeting()
                        .path("title")
                        .stringValue("")
                        .toLowerCase(Locale.ROOT)
                        .contains(search))
            .toList();
    StringBuilder out = new StringBuilder(said(query));
    out.append("<form class=bar method=get action='/'><label>Title holds <input name=q value='")
        .append(escaped(query.getOrDefault("q", "")))
        .append("'></label><button>Show</button><span>")
        .append(all.size())
        .append(all.size() == 1 ? " meeting" : " meetings")
        .append(all.size() > MAX_SHOWN ? ", the first " + MAX_SHOWN + " are shown" : "")
        .append("</span></form>");
    if (chosen != null && !chosen.cancelled()) {
      out.append(one(chosen));
    }
    out.append("<table><thead><tr><th>Title<th>Host<th>Starts");
    COLUMNS.stream().filter(make::has).forEach(c -> out.append("<th>").append(c.title()));
    out.append("<th>Revision</tr></thead><tbody>");
    for (Store.Entry entry : all.stream().limit(MAX_SHOWN).toList()) {
      JsonNode m = entry.meeting();
      out.append("<tr><td><a href='/?meeting=")
          .append(escaped(URLEncoder.encode(entry.id(), StandardCharsets.UTF_8)))
          .append("'>")
          .append(escaped(m.path("title").stringValue("")))
          .append("</a><td>")
          .append(escaped(m.path("host").stringValue("")))
          .append("<td>")
          .append(escaped(m.path("start").stringValue("").replace('T', ' ')));
      for (Control control : COLUMNS) {
        if (make.has(control)) {
          out.append("<td>").append(escaped(label(m, control)));
        }
      }
      out.append("<td>").append(entry.change()).append("</tr>");
    }
    return out.append("</tbody></table>").append(newMeeting()).toString();
  }

  private static String label(JsonNode meeting, Control control) {
    JsonNode value = meeting.path("controls").path(control.id());
    if (value.isMissingNode()) {
      return "—";
    }
    return control.label(control.parse(Store.plain(value)));
  }

  private String one(Store.Entry entry) {
    JsonNode m = entry.meeting();
    String hidden = "<input type=hidden name=meeting value='" + escaped(entry.id()) + "'>";
    return "<section><h2>"
        + escaped(m.path("title").stringValue(""))
        + "</h2><p>Changed last by "
        + escaped(entry.changedBy())
        + " at "
        + escaped(entry.changedAt())
        + ", revision "
        + entry.change()
        + ".</p><form class=bar method=post action='/change'>"
        + hidden
        + who(m)
        + "<label>Setting "
        + select()
        + "</label><label>becomes <input name=value required id=value></label>"
        + "<button id=change>Change it</button></form><form class=bar method=post action='/move'>"
        + hidden
        + who(m)
        + "<label>Starts <input name=start value='"
        + escaped(m.path("start").stringValue(""))
        + "'></label><button>Move it</button></form>"
        + registration(m, hidden)
        + "<form class=bar method=post action='/cancel'>"
        + hidden
        + who(m)
        + "<button>Cancel the meeting</button></form></section>";
  }

  /** The form by which somebody asks to take part, where the meeting has one. */
  private String registration(JsonNode meeting, String hidden) {
    String how = meeting.path("controls").path("registration").stringValue("none");
    if (make != Make.REDSHANK || how.equals("none")) {
      return "";
    }
    int asked = meeting.path(Registrations.FIELD).size();
    return "<form class=bar method=post action='/register'>"
        + hidden
        + "<label>Name <input name=name required></label>"
        + "<label>Address <input name=address type=email required></label>"
        + "<button>Ask to take part</button><span>"
        + asked
        + " asked so far</span></form>";
  }

  private static String who(JsonNode meeting) {
    return "<label>As <input name=by value='"
        + escaped(meeting.path("host").stringValue("somebody"))
        + "'></label>";
  }

  private String select() {
    StringBuilder out = new StringBuilder("<select name=control id=control>");
    for (Control control : Control.all()) {
      if (make.has(control)) {
        out.append("<option value='")
            .append(control.id())
            .append("'>")
            .append(escaped(control.title()))
            .append(" (")
            .append(escaped(allowed(control)))
            .append(")</option>");
      }
    }
    return out.append("</select>").toString();
  }

  private String allowed(Control control) {
    List<Object> values = make.values(control);
    if (values != null) {
      return String.join(", ", values.stream().map(String::valueOf).toList());
    }
    if (control.scale() instanceof Scale.Words words) {
      List<String> all = new ArrayList<>();
      for (Value value : words.values()) {
        all.add(String.valueOf(control.plain(value)));
      }
      return String.join(", ", all);
    }
    return control.scale().allowed();
  }

  private static String newMeeting() {
    return "<section><h2>A meeting made here</h2><form class=bar method=post action='/make'>"
        + "<label>Host <input name=by required></label>"
        + "<label>Title <input name=title required></label>"
        + "<label>Starts <input name=start placeholder='2027-01-11T09:00' required></label>"
        + "<button>Make it</button></form></section>";
  }

  private String account(Map<String, String> query) {
    StringBuilder out = new StringBuilder(said(query));
    out.append("<section><h2>What goes wrong</h2>")
        .append("<form method=post action='/account/faults'>")
        .append(box("away", "It does not answer", faults.away))
        .append(box("failing", "Every third request fails", faults.failing))
        .append(box("refuses", "It refuses changes", faults.refuses))
        .append(box("lies", "It says that a change was done, and does nothing", faults.lies))
        .append(box("repeats", "It tells every change twice", faults.repeats))
        .append(box("deaf", "It does what it is told and answers with an error", faults.deaf))
        .append(box("busy", "It says that it is asked too often", faults.busy))
        .append(box("keyWithdrawn", "The key is withdrawn", faults.keyWithdrawn))
        .append("<p><label>It takes <input name=slowMillis size=6 value='")
        .append(faults.slowMillis)
        .append("'> ms to answer</label></p><button>Behave so</button></form>")
        .append("<div class=bar><form method=post action='/account/back-up'>")
        .append("<button>Keep a copy of everything</button></form>")
        .append("<form method=post action='/account/restore'>")
        .append("<button>Go back to the copy</button></form>")
        .append("<form method=post action='/account/forget'>")
        .append("<button>Forget up to where it was read</button></form></div><p>Asked ")
        .append(standIn.requests())
        .append(" times, ")
        .append(standIn.tooMany())
        .append(" too often, since it was started.</p></section>");
    out.append("<section><h2>Defaults for new meetings</h2><form class=bar method=post")
        .append(" action='/account/default'><label>Setting ")
        .append(select())
        .append("</label><label>becomes <input name=value></label>")
        .append("<button>Change the default</button></form><table><tbody>");
    store
        .defaults()
        .forEach(
            (id, value) ->
                out.append("<tr><td>")
                    .append(escaped(control(id).title()))
                    .append("<td>")
                    .append(escaped(control(id).label(control(id).parse(value))))
                    .append("<td>")
                    .append(locked(id))
                    .append("</tr>"));
    out.append("</tbody></table></section>");
    return out.toString();
  }

  private String locked(String id) {
    Object lock = store.locks().get(id);
    return lock == null ? "" : "locked at " + escaped(control(id).label(control(id).parse(lock)));
  }

  private static Control control(String id) {
    return java.util.Objects.requireNonNull(Control.byId(id));
  }

  private static String box(String name, String words, boolean checked) {
    return "<p><label><input type=checkbox name="
        + name
        + (checked ? " checked" : "")
        + "> "
        + words
        + "</label></p>";
  }

  private static String said(Map<String, String> query) {
    String said = query.get("said");
    return said == null ? "" : "<p role=status>" + escaped(said) + "</p>";
  }

  private void html(HttpExchange exchange, int status, String title, String body)
      throws IOException {
    String hue = make == Make.REDSHANK ? "12" : "205";
    String page =
        "<!doctype html><html lang=en><meta charset=utf-8><title>"
            + make.title()
            + ": "
            + title
            + "</title><style>body{font:16px/1.5 sans-serif;margin:0;color:#222;background:hsl("
            + hue
            + " 30% 97%)}header{background:hsl("
            + hue
            + " 45% 30%);color:#fff;padding:.6rem 1.5rem;display:flex;gap:1.5rem;align-items:center}"
            + "header a{color:#fff}main{padding:1rem 1.5rem}table{border-collapse:collapse;"
            + "background:#fff}td,th{border-bottom:1px solid #ddd;padding:.3rem .7rem;text-align:"
            + "left}.bar{display:flex;gap:.8rem;flex-wrap:wrap;align-items:center;margin:.5rem 0}"
            + "section{background:#fff;border:1px solid #ddd;padding:.5rem 1rem;margin:1rem 0}"
            + "[role=status]{background:#ffd;padding:.4rem .8rem;border:1px solid #cc9}"
            + "select{max-width:24rem}</style><header><strong>"
            + make.title()
            + "</strong><span>a conference service that does not exist</span>"
            + "<a href='/'>Meetings</a><a href='/account'>Account</a></header><main>"
            + body
            + "</main></html>";
    byte[] bytes = page.getBytes(StandardCharsets.UTF_8);
    exchange.getResponseHeaders().set("Content-Type", "text/html; charset=utf-8");
    exchange
        .getResponseHeaders()
        .set("Content-Security-Policy", "default-src 'none'; style-src 'unsafe-inline'");
    exchange.sendResponseHeaders(status, bytes.length);
    exchange.getResponseBody().write(bytes);
  }

  private static String escaped(String text) {
    return text.replace("&", "&amp;")
        .replace("<", "&lt;")
        .replace(">", "&gt;")
        .replace("'", "&#39;")
        .replace("\"", "&quot;");
  }
}

package app.uprightwarden.server.remedies;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.Value;
import app.uprightwarden.server.outbox.OutboxService;
import app.uprightwarden.server.problem.DateWords;
import java.time.Instant;
import java.time.format.DateTimeFormatter;
import java.util.List;
import java.util.Map;
import org.springframework.stereotype.Component;

/** What hosts are written, and what those who asked are told of their answers. */
@Component
class RequestLetters {

  private static final DateTimeFormatter TIME = DateWords.english("day-and-time");

  private final RequestRows rows;

  RequestLetters(RequestRows rows) {
    this.rows = rows;
  }

  OutboxService.Letter ask(
      String host,
      long request,
      List<RequestRows.NewItem> items,
      String note,
      Instant applyAfter,
      String by) {
    StringBuilder body = new StringBuilder();
    body.append(
        items.size() == 1
            ? by + " asks you to look at something in your meetings.\n"
            : by + " asks you to look at " + items.size() + " things in your meetings.\n");
    if (!note.isBlank()) {
      body.append("\n").append(note.strip()).append("\n");
    }
    int i = 1;
    for (RequestRows.NewItem item : items) {
      add(body, i++, item.title(), item.sentence(), item.plan());
    }
    body.append(closing(applyAfter));
    return new OutboxService.Letter(
        host,
        items.size() == 1
            ? "Please look at: " + items.get(0).title()
            : "Please look at " + items.size() + " things in your meetings",
        "request:" + request,
        body.toString());
  }

  private static void add(
      StringBuilder body, int number, String title, String sentence, RemedyPlan plan) {
    body.append("\n").append(number).append(". ").append(title).append("\n");
    body.append("   ").append(sentence).append("\n");
    List<String> words = Planner.words(plan);
    words.forEach(word -> body.append("   Proposed: " + word).append("\n"));
    if (words.isEmpty()) {
      body.append("   No setting mends this; please see to it.\n");
    }
  }

  private static String closing(Instant applyAfter) {
    return "\nSign in to Upright Warden: under Lookout you agree with one press, propose something"
        + " else, or say why it has to be so.\nAfter "
        + TIME.format(applyAfter)
        + " the change may be made without you.\n";
  }

  OutboxService.Letter remind(RequestRows.HostRequest request) {
    List<RequestRows.AskedItem> open =
        request.items().stream().filter(i -> i.state().equals("open")).toList();
    StringBuilder body = new StringBuilder("A reminder: nobody has answered this yet.\n");
    int i = 1;
    for (RequestRows.AskedItem item : open) {
      add(body, i++, item.title(), item.sentence(), item.plan());
    }
    body.append(closing(request.applyAfter()));
    return new OutboxService.Letter(
        request.host(),
        open.size() == 1
            ? "A reminder: 1 thing to look at"
            : "A reminder: " + open.size() + " things to look at",
        "request:" + request.id(),
        body.toString());
  }

  OutboxService.Letter answered(
      RequestRows.AskedItem item,
      String state,
      String reason,
      Map<String, Object> controls,
      String by) {
    StringBuilder body = new StringBuilder();
    body.append(
            state.equals("proposed")
                ? by + " proposes something else for " + item.title() + ".\n\n"
                : by + " gives a reason for " + item.title() + ".\n\n")
        .append(item.sentence())
        .append("\n\n");
    for (Map.Entry<Control, Value> wanted : HostRequests.parsed(controls).entrySet()) {
      body.append(wanted.getKey().title() + ": " + wanted.getKey().label(wanted.getValue()))
          .append("\n");
    }
    if (!reason.isEmpty()) {
      body.append("“").append(reason).append("”\n");
    }
    return new OutboxService.Letter(
        rows.askedBy(item.id()),
        "Answered: " + item.title(),
        "meeting:" + item.meeting(),
        body.toString());
  }
}

package app.uprightwarden.server.remedies;

import app.uprightwarden.server.access.SignedIn;
import app.uprightwarden.server.problem.Fault;
import app.uprightwarden.server.problem.ProblemException;
import app.uprightwarden.server.waivers.WaiverRequests;
import app.uprightwarden.server.waivers.WaiverService;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Turns what hosts say into remedies: with the answer in one transaction. */
@Service
class HostAnswers {
  private final HostRequests requests;
  private final RemedyService remedies;
  private final RequestRows rows;
  private final WaiverRequests waiverRequests;
  private final WaiverService waivers;

  HostAnswers(
      HostRequests requests,
      RemedyService remedies,
      RequestRows rows,
      WaiverRequests waiverRequests,
      WaiverService waivers) {
    this.waiverRequests = waiverRequests;
    this.waivers = waivers;
    this.requests = requests;
    this.remedies = remedies;
    this.rows = rows;
  }

  /** A host agrees with one press: what was proposed to them is applied. */
  @Transactional
  public RequestRows.AskedItem answer(long id, HostRequests.Answer answer, SignedIn by) {
    RequestRows.AskedItem item = requests.answer(id, answer, by);
    if (item.state().equals("agreed") && !item.plan().isEmpty()) {
      remedies.apply(
          new RemedyService.Selection(List.of(target(item)), null, null), null, true, by);
    }
    return item;
  }

  /** Applies what a host proposed instead. */
  @Transactional
  public RequestRows.AskedItem accept(long id, SignedIn by) {
    RequestRows.AskedItem item = requests.settle(id, by);
    Map<String, Object> proposed = item.proposed();
    if (proposed == null) {
      throw ProblemException.conflict("nothing-proposed", "The host has proposed nothing.");
    }
    remedies.apply(
        new RemedyService.Selection(List.of(target(item)), null, null), proposed, true, by);
    return rows.get(id);
  }

  private static RemedyService.Target target(RequestRows.AskedItem item) {
    return new RemedyService.Target(
        item.meeting(), item.occurrence(), item.check(), item.subject());
  }

  /**
   * Answers a host who asked for a waiver: granted, it holds until a time and the control is set as
   * they wished, unless a second administrator has to agree first.
   */
  @Transactional
  public WaiverRequests.WaiverRequest answerWaiver(
      long id, boolean granted, String answer, @Nullable Instant until, SignedIn by) {
    if (granted && until == null) {
      throw ProblemException.invalid(
          "The answer has a fault.", List.of(new Fault("/until", "say until when it holds")));
    }
    WaiverRequests.WaiverRequest request = waiverRequests.answer(id, granted, answer, by);
    if (until != null && granted) {
      WaiverService.GrantedWaiver waiver =
          waivers.grant(
              new WaiverService.Wanted(
                  "finding",
                  request.meeting(),
                  "",
                  "beyond-limit",
                  request.control(),
                  null,
                  request.reason(),
                  until,
                  request.askedBy()),
              by);
      if (waiver.state().equals("in-force")) {
        remedies.apply(
            new RemedyService.Selection(
                List.of(new RemedyService.Target(request.meeting(), null, null, null)), null, null),
            Map.of(request.control(), request.wanted()),
            true,
            by);
      }
    }
    return request;
  }
}

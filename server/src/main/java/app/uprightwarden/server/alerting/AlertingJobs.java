package app.uprightwarden.server.alerting;

import app.uprightwarden.server.floor.SessionAlerts;
import app.uprightwarden.server.jobs.JobKind;
import app.uprightwarden.server.jobs.Jobs;
import app.uprightwarden.server.jobs.RecurringJob;
import java.time.Duration;
import java.util.List;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.context.event.EventListener;

/** The work of telling somebody, in the background. */
@Configuration
class AlertingJobs {
  private final Jobs jobs;
  private final Alerting alerting;
  private final Telling telling;

  AlertingJobs(Jobs jobs, Alerting alerting, Telling telling) {
    this.jobs = jobs;
    this.telling = telling;
    this.alerting = alerting;
  }

  @Bean
  static JobKind tellingOfAlerts(Telling telling) {
    return new JobKind(
        Telling.JOB,
        "Telling of alerts",
        JobKind.Lane.HOUSE,
        new JobKind.Retries(8, Duration.ofSeconds(1), Duration.ofMinutes(1)),
        telling::tell);
  }

  @Bean
  static JobKind sendingToTheWebhook(Webhook webhook) {
    return new JobKind(
            Webhook.JOB,
            "Event to the webhook",
            JobKind.Lane.OUTWARD,
            Webhook.RETRIES,
            webhook::send)
        .telling(webhook::failed, webhook::again);
  }

  @Bean
  static RecurringJob goingOnToTheNext(
      Telling telling, @Value("${warden.alerts.look:10s}") Duration look) {
    return new RecurringJob("alerts-next", "Going on to the next on call", look, telling::escalate);
  }

  /** What is over and comes back is told again. */
  @EventListener
  void ended(SessionAlerts.AlertsEnded ended) {
    if (alerting.isOn()) {
      telling.forget(ended.session(), ended.over());
    }
  }

  /** In the transaction that raises them, so that none is forgotten. */
  @EventListener
  void raised(SessionAlerts.AlertsRaised raised) {
    if (alerting.isOn()) {
      jobs.give(Telling.JOB, List.copyOf(raised.sessions()));
    }
  }
}

package app.uprightwarden.server.services;

import app.uprightwarden.server.jobs.JobKind;
import app.uprightwarden.server.jobs.Jobs;
import app.uprightwarden.server.jobs.RecurringJob;
import app.uprightwarden.server.register.HeldMeetings;
import java.time.Duration;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.context.event.EventListener;

/** The work of conference services in the background. */
@Configuration
class ServiceJobs {
  private static final int NOTICED_AT_ONCE = 1000;

  private final Jobs jobs;

  ServiceJobs(Jobs jobs) {
    this.jobs = jobs;
  }

  /** Trouble with a service is the service's state; what fails here is a fault of ours. */
  @Bean
  static JobKind speakingWithServices(ServiceWork work) {
    return new JobKind(
        Services.JOB,
        "Speaking with a conference service",
        JobKind.Lane.SERVICE,
        new JobKind.Retries(Integer.MAX_VALUE, Duration.ofSeconds(2), Duration.ofMinutes(1)),
        work::speak);
  }

  @Bean
  static RecurringJob lookingAfterServices(
      Services services,
      HeldMeetings held,
      @Value("${warden.services.confirmed-within:10m}") Duration allowed,
      @Value("${warden.services.look:20s}") Duration look) {
    return new RecurringJob(
        "services",
        "Looking after what conference services have to take",
        look,
        () -> {
          services.wake();
          services.noticeUnread();
          held.noticeLate(allowed, NOTICED_AT_ONCE);
        });
  }

  /** In the transaction that decides, so that what was decided is sent. */
  @EventListener
  void decided(HeldMeetings.Decided decided) {
    jobs.give(Services.JOB, decided.service());
  }
}

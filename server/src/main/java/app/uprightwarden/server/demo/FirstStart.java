package app.uprightwarden.server.demo;

import app.uprightwarden.core.people.Directory;
import app.uprightwarden.core.people.Person;
import app.uprightwarden.core.rulebook.ResolvedRulebook;
import app.uprightwarden.core.rulebook.Rulebook;
import app.uprightwarden.server.access.AccessService;
import app.uprightwarden.server.access.Role;
import app.uprightwarden.server.access.SignedIn;
import app.uprightwarden.server.audit.AuditScope;
import app.uprightwarden.server.audit.AuditService;
import app.uprightwarden.server.drafting.DraftService;
import app.uprightwarden.server.exchange.ExchangeService;
import app.uprightwarden.server.floor.FloorOpening;
import app.uprightwarden.server.people.OrganisationService;
import app.uprightwarden.server.persistence.NamedLock;
import app.uprightwarden.server.problem.InOrder;
import app.uprightwarden.server.register.ControlsJson;
import app.uprightwarden.server.rulebook.RulebookReader;
import app.uprightwarden.server.rulebook.RulebookService;
import app.uprightwarden.server.vault.SecretProperties;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.SecureRandom;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.Base64;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.boot.ApplicationArguments;
import org.springframework.boot.ApplicationRunner;
import org.springframework.stereotype.Component;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/**
 * The first start on an empty database: the demo organisation and its accounts, or one account with
 * a password made for it.
 */
@Component
class FirstStart implements ApplicationRunner {
  private static final Logger LOG = LoggerFactory.getLogger(FirstStart.class);

  /** The demo's accounts are for trying out on one's own machine; everybody may know this. */
  static final String DEMO_PASSWORD = "low-water-0642";

  private static final Duration PATIENCE = Duration.ofHours(1);

  private final SecretProperties properties;
  private final AccessService access;
  private final ExchangeService exchange;
  private final RulebookService rulebook;
  private final DraftService drafts;
  private final OrganisationService organisation;
  private final AuditService audits;
  private final DemoHistory history;
  private final FloorOpening floor;
  private final JsonMapper json;
  private final Clock clock;
  private final NamedLock lock;
  private final @Nullable Path accountFile;

  FirstStart(
      SecretProperties properties,
      AccessService access,
      ExchangeService exchange,
      RulebookService rulebook,
      DraftService drafts,
      OrganisationService organisation,
      AuditService audits,
      DemoHistory history,
      FloorOpening floor,
      JsonMapper json,
      Clock clock,
      NamedLock lock,
      @Value("${WARDEN_FIRST_ACCOUNT_FILE:#{null}}") @Nullable Path accountFile) {
    this.properties = properties;
    this.access = access;
    this.exchange = exchange;
    this.rulebook = rulebook;
    this.drafts = drafts;
    this.organisation = organisation;
    this.audits = audits;
    this.history = history;
    this.floor = floor;
    this.json = json;
    this.clock = clock;
    this.accountFile = accountFile;
    this.lock = lock;
  }

  @Override
  public void run(ApplicationArguments arguments) {
    // of several servers that start on an empty database one fills it, and the others wait for it;
    // whether it is filled is asked with the lock held: it is not before the filling one lets go
    lock.holding(
        "upright-warden/first-start",
        PATIENCE,
        () -> {
          if (!access.hasAccounts()) {
            fill();
          }
        });
  }

  private void fill() {
    if (properties.demo()) {
      loadDemo();
    } else {
      firstAccount();
    }
  }

  private void firstAccount() {
    byte[] bytes = new byte[12];
    new SecureRandom().nextBytes(bytes);
    String password = Base64.getUrlEncoder().withoutPadding().encodeToString(bytes);
    access.createAccount("warden@localhost", "Warden", Role.WARDEN, password);
    tell("Sign in as  warden@localhost  with  " + password);
  }

  private void loadDemo() {
    if (rulebook.newest().number() > 0) {
      throw new IllegalStateException(
          "the demo was not loaded to its end; ./warden reset empties the database for another try");
    }
    Map<String, Object> people =
        InOrder.map(
            "format", "upright-warden/1",
            "organisation", DemoPeople.organisation(),
            "people", DemoPeople.people());
    String warden = "m.sachs@" + DemoPeople.DOMAIN;
    exchange.take(json.valueToTree(people), warden);
    List<Rulebook> editions = new ArrayList<>();
    for (int number = 1; number <= 3; number++) {
      JsonNode document = json.valueToTree(DemoRulebooks.edition(number));
      Instant published =
          clock.instant().minus(Duration.ofDays(new int[] {190, 80, 23}[number - 1]));
      rulebook.append(document, DemoRulebooks.reason(number), warden, published);
      editions.add(
          new RulebookReader(new ArrayList<>(), unit -> true, kind -> true).read(document, ""));
    }
    Directory directory = organisation.directory();
    LocalDate today = LocalDate.ofInstant(clock.instant(), ZoneOffset.UTC);
    DemoMeetings meetings =
        new DemoMeetings(
            today,
            (edition, host, kind) -> starts(editions.get(edition - 1), directory, host, kind));
    history.play(
        () ->
            exchange.take(
                json.valueToTree(
                    InOrder.map("format", "upright-warden/1", "meetings", meetings.all())),
                warden));
    scaleUp(meetings.all(), warden);
    drafts.create(
        "Winter hearings",
        json.valueToTree(DemoRulebooks.draft()),
        new SignedIn("i.solheim@" + DemoPeople.DOMAIN, "Ingrid Solheim", Role.WARDEN));
    Instant now = clock.instant();
    audits.start(
        now,
        now.plus(Duration.ofDays(90)),
        AuditScope.ALL,
        new SignedIn(warden, "Miriam Sachs", Role.WARDEN));
    if (properties.scale() == 0) {
      sessions(new SignedIn(warden, "Miriam Sachs", Role.WARDEN));
    }
    accounts(); // last: who has accounts has everything
    LOG.info("the demo organisation has been loaded");
  }

  /** Something to see on the floor: one that is over soon, one with strangers, a quiet one. */
  private void sessions(SignedIn warden) {
    floor.practice(new FloorOpening.PracticeAsked("m-0001", "strangers", 120, 5), warden);
    floor.practice(new FloorOpening.PracticeAsked("m-0002", "strangers", 1, 6), warden);
    floor.practice(new FloorOpening.PracticeAsked("m-0003", "usual", 1, 0), warden);
  }

  /** The same meetings again under other ids, passcodes and numbers, until there are enough. */
  private void scaleUp(List<Map<String, @Nullable Object>> mixture, String warden) {
    int blocks = (properties.scale() - 1) / mixture.size();
    List<Object> waiting = new ArrayList<>();
    for (int block = 1; block <= blocks; block++) {
      for (Map<String, @Nullable Object> meeting : mixture) {
        Map<String, @Nullable Object> again = new LinkedHashMap<>(meeting);
        for (String own : List.of("id", "passcode", "number")) {
          int suffix = block;
          again.computeIfPresent(own, (key, value) -> value + "-" + suffix);
        }
        waiting.add(again);
      }
      if (block % 20 == 0 || block == blocks) {
        exchange.take(
            json.valueToTree(InOrder.map("format", "upright-warden/1", "meetings", waiting)),
            warden);
        waiting.clear();
        LOG.info("{} of about {} meetings", (block + 1) * mixture.size(), properties.scale());
      }
    }
  }

  private static Map<String, Object> starts(
      Rulebook rules, Directory directory, String host, String kind) {
    Person person = directory.find(host);
    String unit = person == null ? null : person.unit();
    return ControlsJson.plain(
        ResolvedRulebook.of(rules.applying(directory.unitPath(unit), kind)).starts());
  }

  private void accounts() {
    access.createDemoAccounts(
        List.of(
            account("m.sachs", "Miriam Sachs", Role.WARDEN, null),
            account("i.solheim", "Ingrid Solheim", Role.WARDEN, null),
            account("o.treharne", "Owen Treharne", Role.AUDITOR, null),
            account("m.okafor", "Moira Okafor", Role.HOST, null),
            account("i.barreto", "Ines Barreto", Role.UNIT_WARDEN, "pilotage")),
        DEMO_PASSWORD);
    tell(
        String.join(
            "\n",
            "Demo accounts, all with the password  " + DEMO_PASSWORD,
            "  warden   m.sachs@" + DemoPeople.DOMAIN,
            "  warden   i.solheim@" + DemoPeople.DOMAIN + "  (a second one)",
            "  auditor  o.treharne@" + DemoPeople.DOMAIN,
            "  host     m.okafor@" + DemoPeople.DOMAIN,
            "  a unit's warden (Pilotage)  i.barreto@" + DemoPeople.DOMAIN));
  }

  private static AccessService.DemoAccount account(
      String who, String name, Role role, @Nullable String unit) {
    return new AccessService.DemoAccount(who + "@" + DemoPeople.DOMAIN, name, role, unit);
  }

  private void tell(String text) {
    if (accountFile == null) {
      return;
    }
    try {
      Files.writeString(accountFile, text + "\n");
    } catch (IOException e) {
      throw new UncheckedIOException("cannot write " + accountFile, e);
    }
  }
}

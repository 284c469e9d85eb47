package app.uprightwarden.server.scheduling;

import app.uprightwarden.server.people.OrganisationService;
import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** Addresses of a conference service that does not exist, at the organisation's own domain. */
@Component
class StandInAddresses implements ConferenceAddresses {
  /**
   * From ranges that are kept for fiction: Ofcom's 020 7946 0xxx, NANPA's 555-01xx; IE is made up.
   */
  private static final Map<String, String> NUMBERS = numbers();

  private final OrganisationService organisation;

  StandInAddresses(OrganisationService organisation) {
    this.organisation = organisation;
  }

  private static Map<String, String> numbers() {
    Map<String, String> numbers = new LinkedHashMap<>();
    numbers.put("IE", "+353 20 910 0642");
    numbers.put("GB", "+44 20 7946 0642");
    numbers.put("US", "+1 202 555 0142");
    return numbers;
  }

  @Override
  public String link(String number, @Nullable String passcode) {
    List<String> domains = organisation.organisation().domains();
    String domain = domains.isEmpty() ? "localhost" : domains.get(0);
    String link = "https://meet." + domain + "/" + number.replace(" ", "");
    return passcode == null
        ? link
        : link + "?passcode=" + URLEncoder.encode(passcode, StandardCharsets.UTF_8);
  }

  @Override
  public List<String> dialIn(List<String> countries) {
    return NUMBERS.entrySet().stream()
        .filter(e -> countries.isEmpty() || countries.contains(e.getKey()))
        .map(e -> e.getValue() + " (" + e.getKey() + ")")
        .toList();
  }
}

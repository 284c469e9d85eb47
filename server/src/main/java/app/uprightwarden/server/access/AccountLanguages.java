package app.uprightwarden.server.access;

import app.uprightwarden.core.people.Directory;
import app.uprightwarden.server.problem.Languages;
import java.util.HashMap;
import java.util.Locale;
import java.util.Map;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** The languages that people with an account have chosen. */
@Component
public class AccountLanguages {
  private final AccountRepository accounts;

  AccountLanguages(AccountRepository accounts) {
    this.accounts = accounts;
  }

  /** Those who chose another than English, by folded address; everybody else reads English. */
  @Transactional(readOnly = true)
  public Map<String, Locale> others() {
    Map<String, Locale> others = new HashMap<>();
    for (AccountRepository.Speaker each : accounts.speakers()) {
      Locale language = Languages.of(Locale.forLanguageTag(each.language()));
      if (!language.equals(Locale.ENGLISH)) {
        others.put(Directory.fold(each.email()), language);
      }
    }
    return others;
  }
}

package app.uprightwarden.server.access;

import app.uprightwarden.server.retention.Retention;
import java.time.Instant;
import java.util.List;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

/** Where people signed in from, and access tokens that ended, are not kept for ever. */
@Configuration
class OldTraces {
  private interface LetGo {
    int some(Instant before, int most);
  }

  private record Old(String what, LetGo letGo) implements Retention {
    @Override
    public int letGo(Instant before, int most) {
      return letGo.some(before, most);
    }
  }

  @Bean
  Retention oldPlaces(AccountRepository accounts) {
    return new Old(
        "places",
        (before, most) ->
            accounts.oldPlaces(before, most).stream()
                .mapToInt(old -> accounts.deletePlace(old.account, old.place, before))
                .sum());
  }

  @Bean
  Retention oldTokens(AccessTokenRepository tokens) {
    return new Old(
        "tokens",
        (before, most) -> {
          List<Long> over = tokens.over(before, most);
          return over.isEmpty() ? 0 : tokens.delete(over);
        });
  }
}

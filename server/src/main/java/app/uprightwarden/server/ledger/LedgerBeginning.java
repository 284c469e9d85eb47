package app.uprightwarden.server.ledger;

import java.time.Clock;
import java.util.List;
import org.springframework.beans.factory.SmartInitializingSingleton;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * Gives the chain a key when it has none yet: once for each key file, before anybody is served. An
 * entry says so, and seals what was before it by its hash.
 */
@Component
class LedgerBeginning implements SmartInitializingSingleton {
  private final LedgerChain chain;
  private final LedgerSeal seal;
  private final TransactionTemplate transaction;
  private final Clock clock;

  LedgerBeginning(
      LedgerChain chain, LedgerSeal seal, TransactionTemplate transaction, Clock clock) {
    this.chain = chain;
    this.seal = seal;
    this.transaction = transaction;
    this.clock = clock;
  }

  @Override
  public void afterSingletonsInstantiated() {
    if (seal.hasBegun() || chain.head().mac() != null) {
      return;
    }
    transaction.executeWithoutResult(
        status ->
            chain.append(
                new LedgerChain.Draft(
                    clock.instant(),
                    "upright-warden",
                    "itself",
                    "",
                    "ledger.sealed",
                    "ledger",
                    "",
                    "the chain has a key from here on",
                    "{}"),
                List.of()));
    seal.begin();
  }
}

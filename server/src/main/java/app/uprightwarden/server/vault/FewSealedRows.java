package app.uprightwarden.server.vault;

import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.transaction.annotation.Transactional;

/**
 * A table with so few sealed rows that all of them are looked at.
 *
 * @param <R> a row
 */
public abstract class FewSealedRows<R> implements SealedRows {
  private final String table;
  private final Vault vault;

  protected FewSealedRows(String table, Vault vault) {
    this.table = table;
    this.vault = vault;
  }

  /** Those that may hold something sealed. */
  protected abstract List<R> rows();

  /** A row once more, locked; empty where it is gone. */
  protected abstract Optional<R> locked(R row);

  /** What it holds; null for nothing. */
  protected abstract byte @Nullable [] cipher(R row);

  /** Whose it is, as it was sealed. */
  protected abstract String owner(R row);

  /** Stores it sealed anew. */
  protected abstract void store(R row, byte[] cipher);

  @Override
  public String table() {
    return table;
  }

  private boolean isOther(R row) {
    byte[] cipher = cipher(row);
    return cipher != null && Vault.keyOf(cipher) != vault.current();
  }

  private List<R> others() {
    return rows().stream().filter(this::isOther).toList();
  }

  @Override
  @Transactional(readOnly = true)
  public long behind() {
    return others().size();
  }

  @Override
  @Transactional
  public int sealAnew(int most) {
    List<R> some = others().stream().limit(most).toList();
    for (R each : some) {
      locked(each)
          .filter(this::isOther)
          .ifPresent(
              row -> {
                String secret = vault.open(owner(row), SealedRows.sealed(cipher(row)));
                store(row, vault.seal(owner(row), secret));
              });
    }
    return some.size();
  }
}

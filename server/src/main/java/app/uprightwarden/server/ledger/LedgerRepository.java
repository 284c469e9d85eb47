package app.uprightwarden.server.ledger;

import jakarta.data.repository.Insert;
import jakarta.data.repository.Repository;
import jakarta.data.repository.Update;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Consumer;
import java.util.stream.Stream;
import org.hibernate.LockMode;
import org.hibernate.StatelessSession;
import org.hibernate.annotations.processing.HQL;
import org.hibernate.query.SelectionQuery;
import org.springframework.transaction.annotation.Transactional;

/** The ledger's entries, what they touched, and where the chain ends. */
@Repository
@Transactional
interface LedgerRepository {
  int ROWS_AT_ONCE = 1000;

  StatelessSession session();

  @HQL("from LedgerHeadEntity where id = 1")
  LedgerHeadEntity head();

  /** The chain's end, which nobody else moves until this transaction ends. */
  default LedgerHeadEntity lockedHead() {
    return session().get(LedgerHeadEntity.class, 1, LockMode.PESSIMISTIC_WRITE);
  }

  @Update
  void update(LedgerHeadEntity head);

  @Insert
  void insert(LedgerEntryEntity entry);

  @Insert
  void insert(List<LedgerTouchedEntity> touched);

  @HQL("from LedgerEntryEntity where seq > :seq order by seq limit :most")
  List<LedgerEntryEntity> after(long seq, int most);

  @HQL("select count(*) from LedgerEntryEntity where seq = :seq and hash = :hash")
  long countWithHash(long seq, String hash);

  @HQL("from LedgerTouchedEntity where seq between :first and :last")
  List<LedgerTouchedEntity> touched(long first, long last);

  /** The first entries of the chain. */
  @HQL("from LedgerEntryEntity order by seq limit :most")
  List<LedgerEntryEntity> first(int most);

  @HQL("delete from LedgerTouchedEntity where seq <= :seq")
  int deleteTouchedUpTo(long seq);

  @HQL("delete from LedgerEntryEntity where seq <= :seq")
  int deleteUpTo(long seq);

  @HQL("select distinct who from LedgerEntryEntity order by who limit 500")
  List<String> people();

  @HQL("select distinct act from LedgerEntryEntity order by act")
  List<String> acts();

  @HQL("select max(at) from LedgerEntryEntity")
  Optional<Instant> lastAt();

  /**
   * The newest entries first.
   *
   * @param where a condition on entries {@code e}, and its parameters
   */
  default List<LedgerEntryEntity> page(
      String where, Map<String, Object> parameters, long skip, int most) {
    SelectionQuery<LedgerEntryEntity> query =
        session()
            .createSelectionQuery(
                "from LedgerEntryEntity e where " + where + " order by e.seq desc",
                LedgerEntryEntity.class)
            .setFirstResult(Math.toIntExact(skip))
            .setMaxResults(most);
    parameters.forEach(query::setParameter);
    return query.getResultList();
  }

  default long count(String where, Map<String, Object> parameters) {
    SelectionQuery<Long> query =
        session()
            .createSelectionQuery(
                "select count(*) from LedgerEntryEntity e where " + where, Long.class);
    parameters.forEach(query::setParameter);
    return query.getSingleResult();
  }

  /** Every such entry in the chain's order, without holding them all. */
  default void each(
      String where, Map<String, Object> parameters, Consumer<LedgerEntryEntity> consumer) {
    SelectionQuery<LedgerEntryEntity> query =
        session()
            .createSelectionQuery(
                "from LedgerEntryEntity e where " + where + " order by e.seq",
                LedgerEntryEntity.class)
            .setFetchSize(ROWS_AT_ONCE);
    parameters.forEach(query::setParameter);
    try (Stream<LedgerEntryEntity> rows = query.getResultStream()) {
      rows.forEach(consumer);
    }
  }
}

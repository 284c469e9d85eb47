package app.uprightwarden.server.access;

import jakarta.data.repository.Find;
import jakarta.data.repository.Insert;
import jakarta.data.repository.Repository;
import jakarta.data.repository.Save;
import java.time.Instant;
import java.util.Collection;
import java.util.List;
import java.util.Optional;
import org.hibernate.LockMode;
import org.hibernate.StatelessSession;
import org.hibernate.annotations.processing.HQL;
import org.jspecify.annotations.Nullable;
import org.springframework.transaction.annotation.Transactional;

/** Accounts, and what belongs to one: links, recovery codes and known places. */
@Repository
@Transactional
interface AccountRepository {
  StatelessSession session();

  @Find
  Optional<AccountEntity> findById(long id);

  @Find
  Optional<AccountEntity> findByEmail(String email);

  @Find
  Optional<AccountEntity> findByProviderSubject(String providerSubject);

  @HQL("where role = :role and active = true order by email")
  List<AccountEntity> inUse(String role);

  @HQL("from AccountEntity order by email")
  List<AccountEntity> all();

  @HQL("where deputyUntil > :now order by deputyUntil, email")
  List<AccountEntity> deputies(Instant now);

  @HQL("select count(*) from AccountEntity")
  long count();

  @Insert
  void insert(AccountEntity account);

  /**
   * The administrators who can sign in; nobody else makes more or fewer of them until the caller is
   * done.
   */
  default List<AccountEntity> lockedWardens() {
    return session()
        .createSelectionQuery(
            "from AccountEntity where role = 'warden' and active = true order by id",
            AccountEntity.class)
        .setHibernateLockMode(LockMode.PESSIMISTIC_WRITE)
        .getResultList();
  }

  // Each change names what it changes: a whole row, read a while ago, would undo what others did.

  @HQL("update AccountEntity set role = :role, unit = :unit, active = :active where id = :id")
  int allow(long id, String role, @Nullable String unit, boolean active);

  /** Sets a password where the account is still in use and has the password it was read with. */
  @HQL(
      "update AccountEntity set passwordHash = :anew, passwordSince = :at where id = :id"
          + " and passwordHash = :old and active = true")
  int setPassword(long id, String old, String anew, Instant at);

  @HQL("update AccountEntity set credentialsBy = :by, credentialsAt = :at where id = :id")
  int setCredentialsBy(long id, String by, Instant at);

  /** Keeps a secret that does not count yet, where none counts. */
  @HQL("update AccountEntity set secondFactor = :sealed where id = :id and factorSince is null")
  int offerFactor(long id, byte[] sealed);

  /** From now on the secret counts, where it is still the one that was offered. */
  @HQL(
      "update AccountEntity set factorSince = :at where id = :id and factorSince is null"
          + " and secondFactor = :sealed")
  int confirmFactor(long id, byte[] sealed, Instant at);

  @HQL("update AccountEntity set secondFactor = null, factorSince = null where id = :id")
  int dropFactor(long id);

  @HQL(
      "update AccountEntity set deputyUnit = :unit, deputyFrom = :from, deputyUntil = :until,"
          + " deputyBy = :by where id = :id")
  int setDeputy(
      long id,
      @Nullable String unit,
      @Nullable Instant from,
      @Nullable Instant until,
      @Nullable String by);

  @HQL("update AccountEntity set passwordHash = :anew where id = :id and passwordHash = :old")
  int rehash(long id, String old, String anew);

  @HQL("update AccountEntity set lastSeen = :at where id = :id")
  int seen(long id, Instant at);

  @HQL("update AccountEntity set language = :language where email = :email")
  int speak(String email, @Nullable String language);

  @HQL("select language from AccountEntity where email = :email")
  @Nullable String language(String email);

  /** Who chose a language. */
  record Speaker(String email, String language) {}

  @HQL("select email, language from AccountEntity where language is not null")
  List<Speaker> speakers();

  /** Of two who send the same code at once, one is late. */
  @HQL("update AccountEntity set factorStep = :step where id = :id and factorStep < :step")
  int useStep(long id, long step);

  @HQL(
      "update AccountEntity set providerSubject = :subject where id = :id"
          + " and providerSubject is null")
  int bind(long id, String subject);

  /** An account and until when a link of it is open. */
  record OpenLink(long account, Instant until) {}

  @HQL("select account, max(endsAt) from AccountLinkEntity where endsAt > :now group by account")
  List<OpenLink> openLinks(Instant now);

  @HQL("delete from AccountLinkEntity where account = :account")
  int deleteLinks(long account);

  @Insert
  void insert(AccountLinkEntity link);

  @HQL("from AccountLinkEntity where tokenHash = :hash and endsAt > :now")
  Optional<AccountLinkEntity> link(String hash, Instant now);

  /** Uses a link up: of several at once, one has it. */
  @HQL("delete from AccountLinkEntity where tokenHash = :hash and endsAt > :now")
  int useLink(String hash, Instant now);

  @HQL("select count(*) from KnownPlaceEntity where account = :account and place = :place")
  long countPlaces(long account, String place);

  @Save
  void save(KnownPlaceEntity place);

  @HQL("from KnownPlaceEntity where at < :before limit :most")
  List<KnownPlaceEntity> oldPlaces(Instant before, int most);

  @HQL("delete from KnownPlaceEntity where account = :account and place = :place and at < :before")
  int deletePlace(long account, String place, Instant before);

  @HQL("select distinct salt from RecoveryCodeEntity where account = :account")
  List<String> salts(long account);

  @HQL(
      "delete from RecoveryCodeEntity where account = :account and salt = :salt"
          + " and codeHash = :hash")
  int useRecoveryCode(long account, String salt, String hash);

  @HQL("delete from RecoveryCodeEntity where account = :account")
  int deleteRecoveryCodes(long account);

  @Insert
  void insertCodes(List<RecoveryCodeEntity> codes);

  @HQL("select count(*) from RecoveryCodeEntity where account = :account")
  long countRecoveryCodes(long account);

  @HQL("select factorFor from AccessSettingEntity where id = 1")
  String factorFor();

  @HQL("update AccessSettingEntity set factorFor = :whom where id = 1")
  int setFactorFor(String whom);

  @HQL(
      "select count(*) from AccountEntity where secondFactor is not null"
          + " and cast(function('ord', secondFactor) as Integer) <> :key")
  long countSealedWithAnother(int key);

  @HQL(
      "select id from AccountEntity where secondFactor is not null"
          + " and cast(function('ord', secondFactor) as Integer) <> :key order by id limit :most")
  List<Long> sealedWithAnother(int key, int most);

  /** Those of these rows that are so still and that nobody else has in hand. */
  default List<AccountEntity> lockedSealedWithAnother(Collection<Long> ids, int key) {
    return session()
        .createSelectionQuery(
            "from AccountEntity where id in :ids"
                + " and cast(function('ord', secondFactor) as Integer) <> :key order by id",
            AccountEntity.class)
        .setParameterList("ids", ids)
        .setParameter("key", key)
        .setHibernateLockMode(LockMode.UPGRADE_SKIPLOCKED)
        .getResultList();
  }

  @HQL("update AccountEntity set secondFactor = :sealed where id = :id")
  int seal(long id, byte[] sealed);
}

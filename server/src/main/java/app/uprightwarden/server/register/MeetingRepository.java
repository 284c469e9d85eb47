package app.uprightwarden.server.register;

import jakarta.data.repository.Delete;
import jakarta.data.repository.Find;
import jakarta.data.repository.Insert;
import jakarta.data.repository.Repository;
import jakarta.data.repository.Update;
import java.util.Collection;
import java.util.List;
import java.util.Optional;
import java.util.function.Consumer;
import java.util.stream.Stream;
import org.hibernate.LockMode;
import org.hibernate.StatelessSession;
import org.hibernate.annotations.processing.HQL;
import org.hibernate.query.SelectionQuery;
import org.springframework.transaction.annotation.Transactional;

/** The rows of meetings, and of who and what belongs to them. */
@Repository
@Transactional
interface MeetingRepository {
  int ROWS_AT_ONCE = 10_000;

  StatelessSession session();

  @Find
  Optional<MeetingEntity> find(String publicId);

  @Insert
  void insert(List<MeetingEntity> meetings);

  @Update
  void update(List<MeetingEntity> meetings);

  /** People and changed occurrences go with it: the database says so. */
  @Delete
  void delete(MeetingEntity meeting);

  @HQL("where id > :row order by id limit :most")
  List<MeetingEntity> after(long row, int most);

  @HQL("where id in :rows order by id")
  List<MeetingEntity> rows(Collection<Long> rows);

  @HQL("where publicId in :ids order by id")
  List<MeetingEntity> among(Collection<String> ids);

  @HQL("where uid in :uids order by id")
  List<MeetingEntity> byUid(Collection<String> uids);

  @HQL("where hostFolded in :hosts order by id limit 20000")
  List<MeetingEntity> ofHosts(Collection<String> hosts);

  @HQL("where number in :numbers order by id limit 20000")
  List<MeetingEntity> withNumbers(Collection<String> numbers);

  @HQL("where passcodeFingerprint in :prints order by id limit 20000")
  List<MeetingEntity> withPasscodes(Collection<String> prints);

  /**
   * The meetings that take up some people's time, or a room's.
   *
   * @param people folded addresses
   * @param lists ids of lists that reach them
   */
  default List<MeetingEntity> concerning(
      Collection<String> people,
      Collection<String> lists,
      Collection<String> spaces,
      Collection<String> rooms,
      int most) {
    StringBuilder where =
        new StringBuilder(
            "from MeetingEntity where room in :rooms or space in :spaces or hostFolded in :people"
                + " or id in (select p.meeting from MeetingPersonEntity p where p.folded in"
                + " :people)");
    List<String> marks = lists.stream().map(id -> "%\"" + id + "\"%").toList();
    for (int i = 0; i < marks.size(); i++) {
      where.append(" or lists like :list").append(i);
    }
    SelectionQuery<MeetingEntity> query =
        session()
            .createSelectionQuery(where + " order by id", MeetingEntity.class)
            .setParameterList("people", people)
            .setParameterList("spaces", spaces)
            .setParameterList("rooms", rooms)
            .setMaxResults(most);
    for (int i = 0; i < marks.size(); i++) {
      query.setParameter("list" + i, marks.get(i));
    }
    return query.getResultList();
  }

  @HQL("from MeetingPersonEntity where meeting in :meetings order by meeting, part, position")
  List<MeetingPersonEntity> people(Collection<Long> meetings);

  @HQL("from MeetingChangeEntity where meeting in :meetings order by meeting, position")
  List<MeetingChangeEntity> changes(Collection<Long> meetings);

  @HQL("delete from MeetingEntity where id in :rows")
  int delete(Collection<Long> rows);

  @HQL("delete from MeetingPersonEntity where meeting in :meetings")
  int deletePeople(Collection<Long> meetings);

  @HQL("delete from MeetingChangeEntity where meeting in :meetings")
  int deleteChanges(Collection<Long> meetings);

  @Insert
  void insertPeople(List<MeetingPersonEntity> people);

  @Insert
  void insertChanges(List<MeetingChangeEntity> changes);

  @HQL("select count(*) from MeetingEntity")
  long count();

  /** A row and its public id. */
  record RowId(long id, String publicId) {}

  /** A row and its version. */
  record RowVersion(long id, long version) {}

  @HQL("select id, publicId from MeetingEntity where id in :rows")
  List<RowId> publicIds(Collection<Long> rows);

  /** Every row and its version in the order of the rows, without holding them all. */
  default void eachVersion(Consumer<RowVersion> consumer) {
    try (Stream<RowVersion> rows =
        session()
            .createSelectionQuery(
                "select id, version from MeetingEntity order by id", RowVersion.class)
            .setFetchSize(ROWS_AT_ONCE)
            .getResultStream()) {
      rows.forEach(consumer);
    }
  }

  /** Tells whether two states of the register are the same: rows, their versions and both mixed. */
  record Sum(long rows, long versions, long mixed) {}

  @HQL(
      "select count(*), coalesce(sum(version), 0L),"
          + " coalesce(sum(cast(function('crc32', id * 31 + version) as Long)), 0L)"
          + " from MeetingEntity")
  Sum sum();

  @HQL("select publicId from MeetingEntity where hostFolded = :host order by id")
  List<String> hostedAlone(String host);

  @HQL(
      "select m.publicId from MeetingPersonEntity p join MeetingEntity m on m.id = p.meeting"
          + " where p.folded = :who and p.part = 'co-host'")
  List<String> coHosted(String who);

  @HQL("select count(*) from MeetingEntity where number = :number")
  long countWithNumber(String number);

  @HQL("select count(*) from MeetingEntity where space = :space")
  long countInSpace(String space);

  @HQL("select count(*) from MeetingEntity where room = :room")
  long countInRoom(String room);

  @HQL("select count(*) from MeetingEntity where lists like :mark escape '!'")
  long countOnList(String mark);

  @HQL("update MeetingEntity set room = null where room = :room")
  int leaveRoom(String room);

  @HQL("select publicId from MeetingEntity where publicId in :ids")
  List<String> present(Collection<String> ids);

  @HQL(
      "insert into HostNumberEntity (number, host) values (:number, :host)"
          + " on conflict (number) do nothing")
  int remember(String number, String host);

  @HQL("select number from HostNumberEntity where host = :host order by number")
  List<String> numbersOf(String host);

  @HQL("select count(*) from HostNumberEntity where number = :number")
  long countRemembered(String number);

  @HQL("select title from MeetingEntity where publicId = :id")
  Optional<String> title(String id);

  /** A name in calendars and the meeting that has it. */
  record UidId(String uid, String id) {}

  @HQL("select uid, publicId from MeetingEntity where uid in :uids")
  List<UidId> uids(Collection<String> uids);

  /** A meeting and its title. */
  record IdTitle(String publicId, String title) {}

  @HQL("select publicId, title from MeetingEntity where publicId in :ids")
  List<IdTitle> titles(Collection<String> ids);

  @HQL(
      "select count(*) from MeetingEntity where passcodeCipher is not null"
          + " and cast(function('ord', passcodeCipher) as Integer) <> :key")
  long countSealedWithAnother(int key);

  @HQL(
      "select id from MeetingEntity where passcodeCipher is not null"
          + " and cast(function('ord', passcodeCipher) as Integer) <> :key order by id limit :most")
  List<Long> sealedWithAnother(int key, int most);

  /** Those of these rows that are so still and that nobody else has in hand. */
  default List<MeetingEntity> lockedSealedWithAnother(Collection<Long> ids, int key) {
    return session()
        .createSelectionQuery(
            "from MeetingEntity where id in :ids"
                + " and cast(function('ord', passcodeCipher) as Integer) <> :key order by id",
            MeetingEntity.class)
        .setParameterList("ids", ids)
        .setParameter("key", key)
        .setHibernateLockMode(LockMode.UPGRADE_SKIPLOCKED)
        .getResultList();
  }

  @HQL(
      "update MeetingEntity set passcodeCipher = :cipher, passcodeFingerprint = :print"
          + " where id = :id")
  int seal(long id, byte[] cipher, String print);
}

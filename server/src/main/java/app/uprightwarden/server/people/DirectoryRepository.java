package app.uprightwarden.server.people;

import jakarta.data.repository.Insert;
import jakarta.data.repository.Repository;
import jakarta.data.repository.Save;
import jakarta.data.repository.Update;
import java.util.Collection;
import java.util.List;
import java.util.Optional;
import org.hibernate.LockMode;
import org.hibernate.StatelessSession;
import org.hibernate.annotations.processing.HQL;
import org.jspecify.annotations.Nullable;
import org.springframework.transaction.annotation.Transactional;

/** The organisation, its units, kinds, people, lists, spaces and rooms. */
@Repository
@Transactional
interface DirectoryRepository {
  StatelessSession session();

  @HQL("from OrganisationEntity")
  Optional<OrganisationEntity> organisation();

  /** Keeps others from changing the organisation's own facts until the caller is done. */
  default void lockOrganisation() {
    session().get(OrganisationEntity.class, 1, LockMode.PESSIMISTIC_WRITE);
  }

  @Save
  void save(OrganisationEntity organisation);

  @HQL("from UnitEntity order by position")
  List<UnitEntity> units();

  @HQL("select count(*) from UnitEntity where id = :id")
  long countUnits(String id);

  @HQL(
      "insert into UnitEntity (id, name) values (:id, :name)"
          + " on conflict (id) do update set name = excluded.name")
  int putUnit(String id, String name);

  @HQL("update UnitEntity set parent = :parent where id = :id")
  int setParent(String id, @Nullable String parent);

  @HQL("from KindEntity order by position")
  List<KindEntity> kinds();

  @Save
  void save(KindEntity kind);

  @HQL("from GatheringEntity where sort = :sort order by position")
  List<GatheringEntity> gatherings(String sort);

  @Save
  void save(GatheringEntity gathering);

  default Optional<GatheringEntity> lockedGathering(String sort, String id) {
    return Optional.ofNullable(
        session()
            .get(
                GatheringEntity.class,
                new GatheringEntity.Key(sort, id),
                LockMode.PESSIMISTIC_WRITE));
  }

  @HQL("delete from GatheringEntity where sort = :sort and id in :ids")
  int deleteGatherings(String sort, Collection<String> ids);

  @HQL("from RoomEntity order by position")
  List<RoomEntity> rooms();

  @Save
  void save(RoomEntity room);

  @HQL("delete from RoomEntity where id in :ids")
  int deleteRooms(Collection<String> ids);

  /** In the order in which they came, so that an export gives back what an import took. */
  @HQL("from PersonEntity order by position")
  List<PersonEntity> people();

  @HQL("from PersonEntity where folded in :folded")
  List<PersonEntity> people(Collection<String> folded);

  @Insert
  void insert(List<PersonEntity> people);

  @Update
  void update(List<PersonEntity> people);

  @HQL("update PersonEntity set zone = :zone where folded = :folded")
  int setZone(String folded, @Nullable String zone);

  @HQL("from PersonEntity where zone is not null")
  List<PersonEntity> peopleWithZone();

  @HQL("delete from PersonEntity where folded in :folded")
  int deletePeople(Collection<String> folded);
}

package app.uprightwarden.server.drafting;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.drafting.Comparison;
import app.uprightwarden.core.drafting.RulebookItems;
import app.uprightwarden.core.rulebook.Guarantee;
import app.uprightwarden.core.rulebook.Rule;
import app.uprightwarden.core.rulebook.Rulebook;
import app.uprightwarden.core.rulebook.Scope;
import app.uprightwarden.server.access.SignedIn;
import app.uprightwarden.server.ledger.Ledger;
import app.uprightwarden.server.problem.Fault;
import app.uprightwarden.server.problem.ProblemException;
import app.uprightwarden.server.rulebook.RulebookReader;
import app.uprightwarden.server.rulebook.RulebookService;
import app.uprightwarden.server.rulebook.RulebookWriter;
import jakarta.validation.constraints.Size;
import java.time.Clock;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;
import org.springframework.dao.DataIntegrityViolationException;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** Drafts, shared between administrators and edited item by item. */
@Service
public class DraftService {
  private final DraftRepository drafts;
  private final RulebookService rulebook;
  private final Ledger ledger;
  private final JsonMapper json;
  private final Clock clock;

  DraftService(
      DraftRepository drafts,
      RulebookService rulebook,
      Ledger ledger,
      JsonMapper json,
      Clock clock) {
    this.drafts = drafts;
    this.rulebook = rulebook;
    this.ledger = ledger;
    this.json = json;
    this.clock = clock;
  }

  /**
   * An edit of one item: a rule, by its control, or a guarantee, by its id.
   *
   * @param layer {@code organisation}, {@code unit:…} or {@code kind:…}
   * @param before what the editor saw there; null for nothing
   * @param after what is to stand there; null takes it away
   */
  record Edit(
      @Size(max = 120) String layer,
      @Nullable @Size(max = 64) String control,
      @Nullable @Size(max = 120) String guarantee,
      @Nullable @Size(max = 200) Map<String, Object> before,
      @Nullable @Size(max = 200) Map<String, Object> after) {}

  /** An item that somebody else changed meanwhile, and what it is now. */
  record Collision(
      String layer,
      @Nullable String control,
      @Nullable String guarantee,
      @Nullable Map<String, Object> mine,
      @Nullable Map<String, Object> theirs) {
    static Collision of(RulebookItems.Collision collision) {
      RulebookItems.Place place = collision.place();
      boolean rule = place.sort() == RulebookItems.Place.Sort.RULE;
      return new Collision(
          place.layer().toString(),
          rule ? place.part() : null,
          rule ? null : place.part(),
          plain(collision.mine()),
          plain(collision.theirs()));
    }
  }

  /** A draft after work on it, and what of that work did not go in. */
  record Outcome(Draft draft, List<Collision> collisions) {}

  @Transactional(readOnly = true)
  List<Draft> all() {
    return drafts.all().stream().map(d -> d.draft(json)).toList();
  }

  @Transactional(readOnly = true)
  Draft get(long id) {
    return find(id).orElseThrow(() -> gone(id));
  }

  @Transactional(readOnly = true)
  Optional<Draft> find(long id) {
    return drafts.find(id).map(entity -> entity.draft(json));
  }

  private static ProblemException gone(long id) {
    return ProblemException.notFound(
        "There is no draft "
            + id
            + ": it was published or discarded. What you see is kept in this"
            + " page; begin a new draft to go on.");
  }

  /** The draft for a change; refused while it waits for consent. */
  private DraftEntity forChange(long id) {
    DraftEntity draft = drafts.forChange(id).orElseThrow(() -> gone(id));
    if (draft.proposal() != null) {
      throw ProblemException.conflict(
          "awaiting-consent",
          "This draft waits for a second warden's consent. Withdraw the proposal to change"
              + " it.");
    }
    return draft;
  }

  /**
   * Begins a draft.
   *
   * @param name a number is added where it is taken
   * @param document what it begins with, valid
   */
  @Transactional
  public Draft create(String name, JsonNode document, SignedIn by) {
    Rulebook begun = rulebook.validate(document);
    String free = name.strip();
    for (int i = 2; drafts.countNamed(free) > 0; i++) {
      free = name.strip() + " " + i;
    }
    try {
      DraftEntity draft =
          new DraftEntity(
              free, rulebook.newest().number(), written(begun), by.email(), clock.instant());
      drafts.insert(draft);
      Draft made = draft.draft(json);
      noted(made, null, () -> Map.of("name", made.name()), by.email());
      return made;
    } catch (DataIntegrityViolationException e) {
      throw nameTaken(free);
    }
  }

  private void noted(
      Draft draft, @Nullable Supplier<?> before, @Nullable Supplier<?> after, String by) {
    ledger.changed("draft", Long.toString(draft.id()), draft.name(), before, after, by);
  }

  private static ProblemException nameTaken(String name) {
    return ProblemException.conflict(
        "name-taken", "There is a draft “" + name + "” already. Choose another name.");
  }

  @Transactional
  Draft rename(long id, String name, SignedIn by) {
    DraftEntity draft = drafts.forChange(id).orElseThrow(() -> gone(id));
    String before = draft.draft(json).name();
    if (before.equals(name.strip())) {
      return draft.draft(json); // a second click changes nothing, nor the version
    }
    draft.rename(name.strip());
    try {
      drafts.update(draft);
      noted(
          draft.draft(json),
          () -> Map.of("name", before),
          () -> Map.of("name", name.strip()),
          by.email());
      return draft.draft(json);
    } catch (DataIntegrityViolationException e) {
      throw nameTaken(name.strip());
    }
  }

  @Transactional
  void discard(long id, SignedIn by) {
    DraftEntity draft = forChange(id);
    drafts.delete(draft);
    Draft gone = draft.draft(json);
    noted(gone, () -> Map.of("name", gone.name()), null, by.email());
  }

  /**
   * Puts edits into a draft. An edit goes in where its item is as the editor saw it; where somebody
   * else changed the same item meanwhile, it does not, and is given back with what stands there.
   *
   * @throws ProblemException 422 where what is to stand there is no rule or guarantee
   */
  @Transactional
  Outcome edit(long id, List<Edit> edits, SignedIn by) {
    DraftEntity draft = forChange(id);
    RulebookItems items = new RulebookItems(rulebook.parse(json.readTree(draft.document())));
    List<Collision> collisions = new ArrayList<>();
    List<Fault> faults = new ArrayList<>();
    Map<String, Map<String, @Nullable Object>> before = new LinkedHashMap<>();
    Map<String, Map<String, @Nullable Object>> after = new LinkedHashMap<>();
    for (int i = 0; i < edits.size(); i++) {
      Edit edit = edits.get(i);
      String at = "/edits/" + i;
      RulebookItems.Place place = place(edit, at, faults);
      Object seen = item(edit, edit.before(), at + "/before", faults);
      Object wanted = item(edit, edit.after(), at + "/after", faults);
      if (place == null || !faults.isEmpty()) {
        continue;
      }
      Object stands = items.at(place);
      if (Objects.equals(stands, wanted)) {
        continue; // somebody did the same, or this is the second time
      }
      if (!Objects.equals(stands, seen)) {
        collisions.add(
            new Collision(
                edit.layer(), edit.control(), edit.guarantee(), edit.after(), plain(stands)));
        continue;
      }
      items.put(place, wanted);
      before
          .computeIfAbsent(edit.layer(), l -> new LinkedHashMap<>())
          .putIfAbsent(place.part(), plain(stands));
      after
          .computeIfAbsent(edit.layer(), l -> new LinkedHashMap<>())
          .put(place.part(), plain(wanted));
    }
    if (!faults.isEmpty()) {
      throw ProblemException.invalid("That is no rule. Nothing was changed.", faults);
    }
    if (!after.isEmpty()) {
      Rulebook edited = items.rulebook();
      rulebook.validate(json.valueToTree(RulebookWriter.plain(edited)));
      draft.save(draft.baseEdition(), written(edited), by.email(), clock.instant());
      drafts.update(draft);
      noted(
          draft.draft(json),
          () -> before,
          () -> after,
          by.email()); // what went in, not what was asked
    }
    return new Outcome(draft.draft(json), collisions);
  }

  private RulebookItems.@Nullable Place place(Edit edit, String at, List<Fault> faults) {
    Scope layer;
    try {
      layer = Scope.parse(edit.layer());
    } catch (IllegalArgumentException e) {
      faults.add(new Fault(at + "/layer", String.valueOf(e.getMessage())));
      return null;
    }
    if ((edit.control() == null) == (edit.guarantee() == null)) {
      faults.add(new Fault(at, "names either a control or a guarantee"));
      return null;
    }
    if (edit.control() != null && Control.byId(edit.control()) == null) {
      faults.add(new Fault(at + "/control", "there is no such control"));
      return null;
    }
    return edit.control() != null
        ? new RulebookItems.Place(layer, RulebookItems.Place.Sort.RULE, edit.control())
        : new RulebookItems.Place(
            layer, RulebookItems.Place.Sort.GUARANTEE, Objects.requireNonNull(edit.guarantee()));
  }

  private @Nullable Object item(
      Edit edit, @Nullable Map<String, Object> plain, String at, List<Fault> faults) {
    if (plain == null) {
      return null;
    }
    JsonNode node = json.valueToTree(plain);
    RulebookReader reader = new RulebookReader(faults, unit -> true, kind -> true);
    Object item =
        edit.control() != null ? reader.readRule(node, at) : reader.readGuarantee(node, at);
    boolean sameName =
        item instanceof Rule rule
            ? rule.control().id().equals(edit.control())
            : item instanceof Guarantee guarantee && guarantee.id().equals(edit.guarantee());
    if (item != null && !sameName) {
      faults.add(new Fault(at, "is about another control or guarantee than the edit"));
    }
    return item;
  }

  /**
   * Brings a draft up to the newest edition: what the draft changed stays changed, the rest is the
   * newest edition's. Where both changed the same item, the draft's stands and is told of.
   */
  @Transactional
  Outcome bringUp(long id, SignedIn by) {
    DraftEntity draft = forChange(id);
    RulebookService.Edition newest = rulebook.newest();
    RulebookItems.Merged merged =
        RulebookItems.merge(
            rulebook.rulebook(rulebook.edition(draft.baseEdition())),
            rulebook.parse(json.readTree(draft.document())),
            rulebook.rulebook(newest));
    int base = draft.baseEdition();
    draft.save(newest.number(), written(merged.rulebook()), by.email(), clock.instant());
    drafts.update(draft);
    noted(
        draft.draft(json),
        () -> Map.of("edition", base),
        () -> Map.of("edition", newest.number()),
        by.email());
    return new Outcome(draft.draft(json), merged.collisions().stream().map(Collision::of).toList());
  }

  /** In how many rules and guarantees a draft differs from the edition in force. */
  int differences(Draft draft, Rulebook inForce) {
    Comparison comparison = Comparison.of(inForce, rulebook.parse(draft.document()));
    return comparison.rules().size() + comparison.guarantees().size();
  }

  private String written(Rulebook book) {
    return json.writeValueAsString(RulebookWriter.plain(book));
  }

  static @Nullable Map<String, Object> plain(@Nullable Object item) {
    if (item instanceof Rule rule) {
      return RulebookWriter.plain(rule);
    }
    return item instanceof Guarantee guarantee ? RulebookWriter.plain(guarantee) : null;
  }
}

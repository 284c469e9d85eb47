package app.uprightwarden.server.exchange;

import app.uprightwarden.core.people.Person;
import app.uprightwarden.core.rulebook.Rulebook;
import app.uprightwarden.server.people.Organisation;
import app.uprightwarden.server.register.Scheduled;
import java.time.ZoneId;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import tools.jackson.databind.JsonNode;

/**
 * A bundle as read. A part that the document leaves out is null, and leaves what is stored alone.
 *
 * @param zones of people whose zone is given, by folded address
 * @param rulebookDocument the rulebook part as given
 */
record Bundle(
    @Nullable Organisation organisation,
    @Nullable List<Person> people,
    Map<String, ZoneId> zones,
    @Nullable JsonNode rulebookDocument,
    @Nullable Rulebook rulebook,
    List<Scheduled> meetings) {}

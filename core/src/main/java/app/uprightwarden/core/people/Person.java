package app.uprightwarden.core.people;

import org.jspecify.annotations.Nullable;

/**
 * Someone the directory knows.
 *
 * @param standing member or guest; partners and outsiders follow from their domain
 * @param unit id of the unit they belong to, or null
 */
public record Person(
    String email, String name, Standing standing, @Nullable String unit, boolean active) {}

/** The keys that are not in the database, and what is sealed with them. */
@NullMarked
package app.uprightwarden.server.vault;

import org.jspecify.annotations.NullMarked;

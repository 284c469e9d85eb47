/** Editions and drafts of the rulebook. */
@NullMarked
package app.uprightwarden.server.rulebook;

import org.jspecify.annotations.NullMarked;

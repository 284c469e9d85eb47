/** Rehearsing the door of a meeting: who would be let in, held or refused, and why. */
@NullMarked
package app.uprightwarden.server.door;

import org.jspecify.annotations.NullMarked;

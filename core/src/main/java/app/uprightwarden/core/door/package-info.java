/** The door: who is refused, held or let in, step by step, and what they may do inside. */
@NullMarked
package app.uprightwarden.core.door;

import org.jspecify.annotations.NullMarked;

/** Layers of rules and guarantees, and how they resolve for one meeting. */
@NullMarked
package app.uprightwarden.core.rulebook;

import org.jspecify.annotations.NullMarked;

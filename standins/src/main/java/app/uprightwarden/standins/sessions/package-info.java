/**
 * Sessions to practise with: who comes, what they do, and what is told of it. They speak with us by
 * the wire alone, as a real service would.
 */
@NullMarked
package app.uprightwarden.standins.sessions;

import org.jspecify.annotations.NullMarked;

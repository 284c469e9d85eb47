/**
 * A conference service to practise with, for meetings that no linked service holds. It speaks with
 * us by the wire alone, as a real one would.
 */
@NullMarked
package app.uprightwarden.server.bridge.standin;

import org.jspecify.annotations.NullMarked;

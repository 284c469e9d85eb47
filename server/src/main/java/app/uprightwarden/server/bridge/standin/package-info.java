/**
 * A conference service to practise with. It speaks with us by the wire alone, as a real one would,
 * and holds its sessions in memory: they end with the program.
 */
@NullMarked
package app.uprightwarden.server.bridge.standin;

import org.jspecify.annotations.NullMarked;

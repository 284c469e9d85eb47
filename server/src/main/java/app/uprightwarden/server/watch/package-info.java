/**
 * Watching the service itself: which servers run, what waits, how large it is, its health and keys.
 */
@NullMarked
package app.uprightwarden.server.watch;

import org.jspecify.annotations.NullMarked;

/** Telling open pages that something happened. */
@NullMarked
package app.uprightwarden.server.live;

import org.jspecify.annotations.NullMarked;

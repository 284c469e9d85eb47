/** What needs eyes now. */
@NullMarked
package app.uprightwarden.server.lookout;

import org.jspecify.annotations.NullMarked;

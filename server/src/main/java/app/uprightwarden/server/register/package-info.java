/** The meetings that are scheduled, and their secrets. */
@NullMarked
package app.uprightwarden.server.register;

import org.jspecify.annotations.NullMarked;

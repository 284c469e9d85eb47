/** A session as it runs: who waits, who is in, what happens, and what of it should not. */
@NullMarked
package app.uprightwarden.core.session;

import org.jspecify.annotations.NullMarked;

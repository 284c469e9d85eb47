/** Bringing in and giving out: bundles, and the stateless judgements. */
@NullMarked
package app.uprightwarden.server.exchange;

import org.jspecify.annotations.NullMarked;

/** Who did what, when, from where, before and after; each entry chained to the last. */
@NullMarked
package app.uprightwarden.server.ledger;

import org.jspecify.annotations.NullMarked;

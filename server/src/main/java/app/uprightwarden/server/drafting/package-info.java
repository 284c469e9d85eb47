/** Drafts of the rulebook: worked on together, held against the register, compared, published. */
@NullMarked
package app.uprightwarden.server.drafting;

import org.jspecify.annotations.NullMarked;

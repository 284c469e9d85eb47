/** What a draft of the rulebook would do, how it differs, and what is wrong with it. */
@NullMarked
package app.uprightwarden.core.drafting;

import org.jspecify.annotations.NullMarked;

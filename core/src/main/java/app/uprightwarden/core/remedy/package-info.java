/** The cheapest set of control changes that mends a meeting. */
@NullMarked
package app.uprightwarden.core.remedy;

import org.jspecify.annotations.NullMarked;

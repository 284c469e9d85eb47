/** Expanding recurrences into occurrences. */
@NullMarked
package app.uprightwarden.core.calendar;

import org.jspecify.annotations.NullMarked;

/** Calendars (iCalendar, RFC 5545, 5546, 7986): read, written, and given out as feeds. */
@NullMarked
package app.uprightwarden.server.calendars;

import org.jspecify.annotations.NullMarked;

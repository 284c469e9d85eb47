/**
 * Calendars that are read where they are kept: an address that is fetched, or a CalDAV collection.
 * They tell and take nothing. What they hold are meetings here, or only times that somebody has no
 * time.
 */
@NullMarked
package app.uprightwarden.server.sources;

import org.jspecify.annotations.NullMarked;

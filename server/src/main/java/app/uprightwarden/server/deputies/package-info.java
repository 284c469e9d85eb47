/** Those who stand in for a unit's warden for a time. */
@NullMarked
package app.uprightwarden.server.deputies;

import org.jspecify.annotations.NullMarked;

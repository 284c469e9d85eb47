/** A meeting as it was scheduled, and the compact facts an audit needs of it. */
@NullMarked
package app.uprightwarden.core.meeting;

import org.jspecify.annotations.NullMarked;

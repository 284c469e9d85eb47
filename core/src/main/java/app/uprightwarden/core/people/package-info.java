/** Who people are to the organisation, how they came by a meeting, and what they may do in it. */
@NullMarked
package app.uprightwarden.core.people;

import org.jspecify.annotations.NullMarked;

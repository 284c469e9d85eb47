/** What a request may cost: its size, its time, its share of what is there. */
@NullMarked
package app.uprightwarden.server.limits;

import org.jspecify.annotations.NullMarked;

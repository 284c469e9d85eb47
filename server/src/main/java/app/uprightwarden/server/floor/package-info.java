/** The floor: sessions in progress, what is done in them, what goes wrong, and what is kept. */
@NullMarked
package app.uprightwarden.server.floor;

import org.jspecify.annotations.NullMarked;

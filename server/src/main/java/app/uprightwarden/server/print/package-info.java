/** Pages to PDF. */
@NullMarked
package app.uprightwarden.server.print;

import org.jspecify.annotations.NullMarked;

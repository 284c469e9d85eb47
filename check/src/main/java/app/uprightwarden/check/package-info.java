/** Judging files from a command line, without a server. */
@NullMarked
package app.uprightwarden.check;

import org.jspecify.annotations.NullMarked;

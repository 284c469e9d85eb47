/** Answers to what goes wrong, as RFC 9457 problem details. */
@NullMarked
package app.uprightwarden.server.problem;

import org.jspecify.annotations.NullMarked;

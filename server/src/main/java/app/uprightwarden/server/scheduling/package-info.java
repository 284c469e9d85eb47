/** Scheduling: one page's questions and answers, saving, inviting, and everybody's busy times. */
@NullMarked
package app.uprightwarden.server.scheduling;

import org.jspecify.annotations.NullMarked;

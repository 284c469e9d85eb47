/** Work in the background: one item at a time, what waits to be done, and when it was done last. */
@NullMarked
package app.uprightwarden.server.jobs;

import org.jspecify.annotations.NullMarked;

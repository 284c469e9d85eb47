/** Audit runs and their findings. */
@NullMarked
package app.uprightwarden.server.audit;

import org.jspecify.annotations.NullMarked;

/** The exposure matrix, its scores, and controls without effect. */
@NullMarked
package app.uprightwarden.core.exposure;

import org.jspecify.annotations.NullMarked;

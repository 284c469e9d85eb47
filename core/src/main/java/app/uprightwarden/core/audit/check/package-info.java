/** The checks, one class each. */
@NullMarked
package app.uprightwarden.core.audit.check;

import org.jspecify.annotations.NullMarked;

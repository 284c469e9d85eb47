/** Facts in, findings out: the audit. */
@NullMarked
package app.uprightwarden.core.audit;

import org.jspecify.annotations.NullMarked;

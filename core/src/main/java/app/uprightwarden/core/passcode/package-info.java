/** Judging passcodes. */
@NullMarked
package app.uprightwarden.core.passcode;

import org.jspecify.annotations.NullMarked;

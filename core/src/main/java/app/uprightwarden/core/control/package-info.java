/** The controls: every security setting of a meeting, declared once, with its values in order. */
@NullMarked
package app.uprightwarden.core.control;

import org.jspecify.annotations.NullMarked;

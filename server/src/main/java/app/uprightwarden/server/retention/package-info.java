/** How long things are kept, and letting them go afterwards. */
@NullMarked
package app.uprightwarden.server.retention;

import org.jspecify.annotations.NullMarked;

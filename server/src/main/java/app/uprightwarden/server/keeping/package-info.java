/** How long things are kept, and letting them go afterwards. */
@NullMarked
package app.uprightwarden.server.keeping;

import org.jspecify.annotations.NullMarked;

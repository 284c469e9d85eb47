/** What the core declares: controls, checks, personas, rights, levels. */
@NullMarked
package app.uprightwarden.server.catalogue;

import org.jspecify.annotations.NullMarked;

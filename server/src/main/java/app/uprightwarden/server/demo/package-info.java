/** The demo organisation. */
@NullMarked
package app.uprightwarden.server.demo;

import org.jspecify.annotations.NullMarked;

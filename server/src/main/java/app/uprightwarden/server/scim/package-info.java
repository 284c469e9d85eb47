/** A directory elsewhere keeps people and lists up to date here, by SCIM 2.0. */
@NullMarked
package app.uprightwarden.server.scim;

import org.jspecify.annotations.NullMarked;

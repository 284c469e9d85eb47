/** Accounts, sign-in, sessions, access tokens, and who may do what. */
@NullMarked
package app.uprightwarden.server.access;

import org.jspecify.annotations.NullMarked;

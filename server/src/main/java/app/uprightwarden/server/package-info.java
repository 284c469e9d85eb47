/** The server: one package a station or service. */
@NullMarked
package app.uprightwarden.server;

import org.jspecify.annotations.NullMarked;

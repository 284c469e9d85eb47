/**
 * The conference services that hold meetings: linked by a warden, read continuously, and written to
 * until what was decided is confirmed. An adapter speaks with one make of service; the one that
 * ships speaks HTTP and JSON as the guide describes it.
 */
@NullMarked
package app.uprightwarden.server.services;

import org.jspecify.annotations.NullMarked;

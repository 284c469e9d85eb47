/** Messages that go out: written as real mail, kept for reading, delivered by a stand-in. */
@NullMarked
package app.uprightwarden.server.outbox;

import org.jspecify.annotations.NullMarked;

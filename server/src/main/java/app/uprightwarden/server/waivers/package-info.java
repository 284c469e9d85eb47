/** Waivers: what may stand for a while, by whose word and until when. */
@NullMarked
package app.uprightwarden.server.waivers;

import org.jspecify.annotations.NullMarked;

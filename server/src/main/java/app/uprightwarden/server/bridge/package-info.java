/** The conference service that meetings are held on: what is asked of it, and a stand-in for it. */
@NullMarked
package app.uprightwarden.server.bridge;

import org.jspecify.annotations.NullMarked;

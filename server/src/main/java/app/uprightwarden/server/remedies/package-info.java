/** Mending what audits found: remedies through the conference service, and what hosts are asked. */
@NullMarked
package app.uprightwarden.server.remedies;

import org.jspecify.annotations.NullMarked;

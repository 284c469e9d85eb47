/** Audits as others read them: on paper, in tables, by other tools, as evidence. */
@NullMarked
package app.uprightwarden.server.reports;

import org.jspecify.annotations.NullMarked;

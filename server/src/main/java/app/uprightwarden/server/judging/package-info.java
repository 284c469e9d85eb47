/** Judging meetings with the core, and how judgements are written. */
@NullMarked
package app.uprightwarden.server.judging;

import org.jspecify.annotations.NullMarked;

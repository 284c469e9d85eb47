/** What a conference service can hold, and what it holds that differs from what was decided. */
@NullMarked
package app.uprightwarden.core.service;

import org.jspecify.annotations.NullMarked;

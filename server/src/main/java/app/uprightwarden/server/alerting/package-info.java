/** Alerts of sessions reach somebody: by mail, one after the other, and as events to a webhook. */
@NullMarked
package app.uprightwarden.server.alerting;

import org.jspecify.annotations.NullMarked;

/** The JSON Schema of a bundle, and reading JSON that strangers send. */
@NullMarked
package app.uprightwarden.server.schema;

import org.jspecify.annotations.NullMarked;

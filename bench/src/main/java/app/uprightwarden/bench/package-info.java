/** Benchmarks of the core, and the peers they are measured against. */
@NullMarked
package app.uprightwarden.bench;

import org.jspecify.annotations.NullMarked;

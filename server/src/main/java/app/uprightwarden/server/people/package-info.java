/** The organisation, its units, kinds, people, lists and spaces. */
@NullMarked
package app.uprightwarden.server.people;

import org.jspecify.annotations.NullMarked;

/** How everything is kept: Hibernate's stateless sessions in Spring's transactions. */
@NullMarked
package app.uprightwarden.server.persistence;

import org.jspecify.annotations.NullMarked;

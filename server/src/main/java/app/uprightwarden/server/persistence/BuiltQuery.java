package app.uprightwarden.server.persistence;

import java.util.Collection;
import java.util.List;
import java.util.Map;
import org.hibernate.StatelessSession;
import org.hibernate.query.SelectionQuery;

/**
 * A question whose words depend on a filter: the words are ours, what is asked for is given apart.
 */
public final class BuiltQuery {
  private BuiltQuery() {}

  /**
   * Asks it.
   *
   * @param parameters by their names; a collection for {@code in}
   */
  public static <T> List<T> list(
      StatelessSession session,
      String hql,
      Class<T> type,
      Map<String, ?> parameters,
      long skip,
      int most) {
    SelectionQuery<T> query =
        session
            .createSelectionQuery(hql, type)
            .setFirstResult(Math.toIntExact(skip))
            .setMaxResults(most);
    parameters.forEach(
        (name, value) -> {
          if (value instanceof Collection<?> many) {
            query.setParameterList(name, many);
          } else {
            query.setParameter(name, value);
          }
        });
    return query.getResultList();
  }
}

package app.uprightwarden.server.scim;

import com.fasterxml.jackson.databind.node.ObjectNode;
import com.unboundid.scim2.common.exceptions.ScimException;
import org.jspecify.annotations.Nullable;

/** Resources of one type. */
interface ScimResources {
  /** How many a page holds at most. */
  int MAX_PAGE = 1_000;

  /**
   * What is asked of a list (RFC 7644 section 3.4.2).
   *
   * @param filter null for all
   * @param startIndex of the first wanted, from 1
   * @param count how many at most
   */
  record Query(@Nullable String filter, int startIndex, int count) {
    public Query {
      startIndex = Math.max(1, startIndex);
      count = Math.max(0, Math.min(MAX_PAGE, count));
    }
  }

  ObjectNode get(String id) throws ScimException;

  ObjectNode list(Query query) throws ScimException;

  ObjectNode create(ObjectNode given) throws ScimException;

  /**
   * Puts a resource in place of what there is. What the document does not name stays as it is.
   *
   * @param match the version it is to have now, or null for whichever
   */
  ObjectNode replace(String id, ObjectNode given, @Nullable String match) throws ScimException;

  ObjectNode patch(String id, ObjectNode request, @Nullable String match) throws ScimException;

  void delete(String id, @Nullable String match) throws ScimException;
}

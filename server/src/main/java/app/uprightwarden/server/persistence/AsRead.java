package app.uprightwarden.server.persistence;

/**
 * Texts compared as people read them: neither case nor accents matter (Unicode Collation Algorithm,
 * its first level).
 */
public final class AsRead {
  /** As MariaDB calls it, in HQL. */
  public static final String COLLATION = "utf8mb4_unicode_520_ci";

  private AsRead() {}

  /** A condition's left side, in HQL. */
  public static String of(String path) {
    return "collate(" + path + " as " + COLLATION + ")";
  }

  /** The same of a column of long texts, which HQL does not take for text. */
  public static String ofLong(String path) {
    return of("cast(" + path + " as String)");
  }

  /** What a text is like that holds some words; escaped by {@code !}. */
  public static String having(String words) {
    return "%" + words.strip().replaceAll("([!%_])", "!$1") + "%";
  }
}

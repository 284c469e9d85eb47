package app.uprightwarden.server.problem;

import com.sun.source.tree.AnnotationTree;
import com.sun.source.tree.BinaryTree;
import com.sun.source.tree.CompilationUnitTree;
import com.sun.source.tree.ExpressionTree;
import com.sun.source.tree.LiteralTree;
import com.sun.source.tree.MethodInvocationTree;
import com.sun.source.tree.NewClassTree;
import com.sun.source.tree.ParenthesizedTree;
import com.sun.source.tree.StatementTree;
import com.sun.source.tree.Tree;
import com.sun.source.util.JavacTask;
import com.sun.source.util.TreePath;
import com.sun.source.util.TreePathScanner;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import javax.tools.JavaCompiler;
import javax.tools.ToolProvider;

/** The sentences that stand in Java sources, as the compiler reads them. */
final class SourceTexts {
  private static final Pattern WORDS =
      Pattern.compile("[A-Za-z’]{2,}[,;:.]? [A-Za-z]{2,}|^[A-Z][a-z]{2,}:? +“?\\{}");

  /** Statements of the database, patterns of dates, types of content and the like. */
  private static final Pattern NO_SENTENCE =
      Pattern.compile(
          "(?s)\\s*(select|from|update|delete|where|insert|join|left join|order by|and|case|group by) .*"
              + "|.*( = :| = a\\.| in :| like :|: desc|desc, | in \\(|join FindingEntity|partition by|order by id| <= :|function\\('"
              + "|MMM|uuuu|HH:mm|charset=|filename=|<\\?xml|<svg|xmlns|BEGIN:|CONFERENCE;|\\\\h|\\(\\?"
              + "|every Java has|/EN|font-family).*");

  private static final Pattern NOT_FOR_PEOPLE =
      Pattern.compile("(IllegalState|UnsupportedOperation|UncheckedIO)Exception|AssertionError");

  private SourceTexts() {}

  /**
   * Sentences and parts of sentences, each with {@code {}} where a value comes, and the file that
   * has it.
   *
   * @param left files to leave out, by their names' beginnings below the base
   */
  static Map<String, String> of(Path base, List<String> left) throws IOException {
    Map<String, String> found = new LinkedHashMap<>();
    JavaCompiler compiler = ToolProvider.getSystemJavaCompiler();
    List<Path> files;
    try (Stream<Path> all = Files.walk(base)) {
      files =
          all.filter(p -> p.toString().endsWith(".java"))
              .filter(p -> left.stream().noneMatch(base.relativize(p).toString()::startsWith))
              .sorted()
              .toList();
    }
    try (var manager = compiler.getStandardFileManager(null, null, null)) {
      JavacTask task =
          (JavacTask)
              compiler.getTask(
                  null,
                  manager,
                  null,
                  List.of("-proc:none"),
                  null,
                  manager.getJavaFileObjectsFromPaths(files));
      for (CompilationUnitTree unit : task.parse()) {
        String file = base.relativize(Path.of(unit.getSourceFile().toUri())).toString();
        new Texts(text -> found.putIfAbsent(text, file)).scan(unit, null);
      }
    }
    return found;
  }

  private static final class Texts extends TreePathScanner<Void, Void> {
    private final java.util.function.Consumer<String> found;

    Texts(java.util.function.Consumer<String> found) {
      this.found = found;
    }

    @Override
    public Void visitBinary(BinaryTree tree, Void none) {
      List<ExpressionTree> parts = new ArrayList<>();
      flat(tree, parts);
      if (tree.getKind() != Tree.Kind.PLUS || parts.stream().noneMatch(Texts::isText)) {
        return super.visitBinary(tree, null);
      }
      StringBuilder text = new StringBuilder();
      for (ExpressionTree part : parts) {
        if (part instanceof LiteralTree literal
            && (isText(part) || literal.getValue() instanceof Character)) {
          text.append(literal.getValue());
        } else {
          text.append("{}");
          scan(part, null);
        }
      }
      take(text.toString());
      return null;
    }

    @Override
    public Void visitLiteral(LiteralTree tree, Void none) {
      if (tree.getValue() instanceof String text) {
        take(text);
      }
      return null;
    }

    private static boolean hasWords(String text) {
      return WORDS.matcher(text).find() || WORDS.matcher(text.replace("{}", " ")).find();
    }

    private static boolean isText(ExpressionTree tree) {
      return tree instanceof LiteralTree literal && literal.getValue() instanceof String;
    }

    private static void flat(ExpressionTree tree, List<ExpressionTree> parts) {
      ExpressionTree inner = tree instanceof ParenthesizedTree p ? p.getExpression() : tree;
      if (inner instanceof BinaryTree sum && sum.getKind() == Tree.Kind.PLUS) {
        List<ExpressionTree> own = new ArrayList<>();
        flat(sum.getLeftOperand(), own);
        flat(sum.getRightOperand(), own);
        if (tree instanceof BinaryTree || own.stream().anyMatch(Texts::isText)) {
          parts.addAll(own);
          return;
        }
      }
      parts.add(inner);
    }

    private void take(String text) {
      String pattern = text.replaceAll("%[-,0-9.$]*[sdfXx]", "{}").replace("%n", "\n").strip();
      if (hasWords(pattern) && !NO_SENTENCE.matcher(pattern).matches() && isForPeople()) {
        for (String line : pattern.split("\n+")) {
          String each = line.strip();
          if (hasWords(each)) {
            found.accept(each);
          }
        }
      }
    }

    /** Not in an annotation, a line of the log, or what only a defect throws. */
    private boolean isForPeople() {
      for (TreePath at = getCurrentPath(); at != null; at = at.getParentPath()) {
        Tree tree = at.getLeaf();
        if (tree instanceof AnnotationTree
            || tree instanceof MethodInvocationTree call
                && call.getMethodSelect().toString().matches("(?i)log\\w*\\.\\w+|.*requireNonNull")
            || tree instanceof NewClassTree made
                && NOT_FOR_PEOPLE.matcher(made.getIdentifier().toString()).matches()) {
          return false;
        }
        if (tree instanceof StatementTree) {
          return true;
        }
      }
      return true;
    }
  }
}

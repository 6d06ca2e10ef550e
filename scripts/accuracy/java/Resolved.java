import com.sun.source.tree.*;
import com.sun.source.util.*;
import java.io.*;
import java.nio.charset.StandardCharsets;
import java.nio.file.*;
import java.util.*;
import java.util.stream.*;
import javax.lang.model.element.*;
import javax.tools.*;

/**
 * Lists, for each source file of a tree, the files of the tree that declare
 * the types which the JDK's own compiler resolves the file's names to.
 *
 * <p>usage: Resolved ROOT OUT [compiler option...] -- FILE-LIST
 *
 * <p>A name counts when it stands in the source text: types that the compiler
 * only infers (var, lambda parameters, chained calls) do not. OUT gets one
 * line "from TAB to" a pair and one line "file TAB path" a file read, sorted,
 * with paths relative to ROOT.
 */
public class Resolved {
    public static void main(String[] args) throws Exception {
        Path root = Path.of(args[0]).toRealPath();
        int dashes = Arrays.asList(args).indexOf("--");
        List<String> options = new ArrayList<>(Arrays.asList(args).subList(2, dashes));
        List<String> names = Files.readAllLines(Path.of(args[dashes + 1]));
        JavaCompiler compiler = ToolProvider.getSystemJavaCompiler();
        DiagnosticCollector<JavaFileObject> problems = new DiagnosticCollector<>();
        StandardJavaFileManager manager = compiler.getStandardFileManager(problems, null, StandardCharsets.UTF_8);
        options.addAll(List.of("-proc:none", "-implicit:none", "-nowarn", "-XDshould-stop.ifError=FLOW"));
        JavacTask task = (JavacTask) compiler.getTask(null, manager, problems, options, null,
            manager.getJavaFileObjectsFromPaths(names.stream().map(root::resolve).collect(Collectors.toList())));
        Trees trees = Trees.instance(task);
        List<CompilationUnitTree> units = new ArrayList<>();
        task.parse().forEach(units::add);
        task.analyze();
        TreeSet<String> pairs = new TreeSet<>();
        SourcePositions positions = trees.getSourcePositions();
        for (CompilationUnitTree unit : units) {
            String from = name(root, unit);
            pairs.add("file\t" + from);
            String text = unit.getSourceFile().getCharContent(true).toString();
            new TreePathScanner<Void, Void>() {
                @Override public Void visitIdentifier(IdentifierTree t, Void p) {
                    int at = (int) positions.getStartPosition(unit, t);
                    if (at >= 0 && text.startsWith(t.getName().toString(), at)) {
                        add();
                    }
                    return super.visitIdentifier(t, p);
                }
                @Override public Void visitMemberSelect(MemberSelectTree t, Void p) {
                    String name = t.getIdentifier().toString();
                    int end = (int) positions.getEndPosition(unit, t);
                    if (end >= name.length() && text.startsWith(name, end - name.length())) {
                        add();
                    }
                    return super.visitMemberSelect(t, p);
                }
                private void add() {
                    Element e = trees.getElement(getCurrentPath());
                    if (!(e instanceof TypeElement)) {
                        return;
                    }
                    while (e.getEnclosingElement() != null && !(e.getEnclosingElement() instanceof PackageElement)) {
                        e = e.getEnclosingElement();
                    }
                    TreePath path = e instanceof TypeElement ? trees.getPath(e) : null;
                    if (path == null) {
                        return;
                    }
                    String to = name(root, path.getCompilationUnit());
                    if (!to.equals(from)) {
                        pairs.add(from + "\t" + to);
                    }
                }
            }.scan(unit, null);
        }
        Files.write(Path.of(args[1]), pairs);
        long errors = problems.getDiagnostics().stream().filter(d -> d.getKind() == Diagnostic.Kind.ERROR).count();
        System.err.println(units.size() + " files, " + pairs.size() + " pairs, " + errors + " compiler errors");
        problems.getDiagnostics().stream().filter(d -> d.getKind() == Diagnostic.Kind.ERROR).limit(5)
            .forEach(d -> System.err.println(d.getSource() + ":" + d.getLineNumber() + ": " + d.getMessage(null)));
    }

    private static String name(Path root, CompilationUnitTree unit) {
        return root.relativize(Path.of(unit.getSourceFile().toUri())).toString();
    }
}

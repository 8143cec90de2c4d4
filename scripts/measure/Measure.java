import java.io.*;
import java.lang.reflect.*;
import java.net.*;
import java.nio.file.*;
import java.util.*;
import java.util.stream.*;
import javax.tools.*;

/**
 * Runs the decoding code of model files and writes what it really did into them.
 *
 * A file has sections, each under a line "-- NAME --": the sources (Models.java and
 * Api.java, or Models.kt and Api.kt), docs (one document a line) and seen (document,
 * outcome, value or error, with tabs between), which this program writes anew. Api has
 * a method load(String) in Java, a function load(String) in Kotlin. One with a section
 * written is about what a library writes: Api has a static method, or a function,
 * written(), whose texts become its lines.
 */
public class Measure {
    static final java.util.regex.Pattern NUMBER = java.util.regex.Pattern.compile("-?\\d+(\\.\\d+)?([eE][-+]?\\d+)?");

    /** The libraries' own values, which print as JSON. */
    static final java.util.regex.Pattern LIBRARY = java.util.regex.Pattern.compile("com\\.google\\.gson\\.Json|com\\.fasterxml\\.|org\\.json\\.");

    public static void main(String[] args) throws Exception {
        for (String arg : args) {
            File[] files = new File(arg).listFiles((d, n) -> n.endsWith(".txt"));
            Arrays.sort(files);
            for (File f : files) {
                measure(f.toPath());
            }
        }
    }

    static void measure(Path file) throws Exception {
        Map<String, String> sections = read(file);
        Path dir = Files.createTempDirectory("measure");
        List<String> sources = new ArrayList<>();
        boolean kotlin = false;
        for (var s : sections.entrySet()) {
            if (s.getKey().endsWith(".java") || s.getKey().endsWith(".kt")) {
                Path p = dir.resolve(s.getKey());
                Files.createDirectories(p.getParent());
                Files.writeString(p, s.getValue());
                sources.add(p.toString());
                kotlin |= s.getKey().endsWith(".kt");
            }
        }
        String broken = kotlin ? compileKotlin(sources, dir) : compileJava(sources, dir);
        StringBuilder seen = new StringBuilder();
        if (broken != null) {
            System.err.println(file + ": does not compile\n" + broken);
        } else {
            try (URLClassLoader loader = new URLClassLoader(new URL[] {dir.toUri().toURL()}, Measure.class.getClassLoader())) {
                Class<?> api = loader.loadClass(kotlin ? "ApiKt" : "Api");
                if (sections.containsKey("written")) {
                    Method written = api.getDeclaredMethod("written");
                    written.setAccessible(true);
                    for (Object text : (List<?>) written.invoke(null)) {
                        seen.append(text).append('\n');
                    }
                    sections.put("written", seen.toString());
                    write(file, sections);
                    return;
                }
                Method load = api.getDeclaredMethod("load", String.class);
                load.setAccessible(true);
                Object target = null;
                if (!kotlin) {
                    Constructor<?> make = api.getDeclaredConstructor();
                    make.setAccessible(true);
                    target = make.newInstance();
                }
                for (String doc : sections.get("docs").split("\n")) {
                    if (!doc.isEmpty()) {
                        seen.append(doc).append('\t').append(run(load, target, doc)).append('\n');
                    }
                }
            }
        }
        sections.put("seen", seen.toString());
        write(file, sections);
        try (Stream<Path> all = Files.walk(dir)) {
            all.sorted(Comparator.reverseOrder()).forEach(p -> p.toFile().delete());
        }
    }

    static void write(Path file, Map<String, String> sections) throws IOException {
        StringBuilder out = new StringBuilder();
        sections.forEach((name, text) -> out.append("-- ").append(name).append(" --\n").append(text));
        Files.writeString(file, out);
    }

    static Map<String, String> read(Path file) throws IOException {
        Map<String, String> out = new LinkedHashMap<>();
        String name = null;
        for (String line : Files.readAllLines(file)) {
            if (line.startsWith("-- ") && line.endsWith(" --")) {
                name = line.substring(3, line.length() - 3);
                out.put(name, "");
            } else if (name != null) {
                out.merge(name, line + "\n", String::concat);
            }
        }
        return out;
    }

    static String run(Method load, Object target, String doc) {
        try {
            Object value = load.invoke(target, doc);
            return "ok\t" + text(value, new IdentityHashMap<>());
        } catch (InvocationTargetException e) {
            Throwable t = e.getCause();
            String said = t.getClass().getSimpleName() + ": " + t.getMessage();
            return "fails\t" + said.replace('\n', ' ').replace('\t', ' ');
        } catch (Throwable t) {
            return "broken\t" + t;
        }
    }

    /** A value as JSON by property names. */
    static String text(Object v, IdentityHashMap<Object, Boolean> within) throws Exception {
        if (v == null) {
            return "null";
        }
        if (v instanceof String || v instanceof Character) {
            return quote(v.toString());
        }
        if (v instanceof Float f && !f.isNaN() && !f.isInfinite()) {
            return shortest(f);
        }
        if (v instanceof Boolean || v instanceof java.util.concurrent.atomic.AtomicBoolean) {
            return v.toString();
        }
        if (v instanceof Number) { // one of Gson's may hold any text
            return NUMBER.matcher(v.toString()).matches() ? v.toString() : quote(v.toString());
        }
        if (v.getClass().getName().startsWith("kotlin.U")) { // a number without a sign, in a box
            return v.toString();
        }
        if (v instanceof Enum<?> e) {
            return quote(e.name());
        }
        if (v instanceof Date d) {
            return quote("date:" + d.getTime());
        }
        if (v instanceof byte[] b) {
            return quote("bytes:" + Base64.getEncoder().encodeToString(b));
        }
        if (v.getClass().isArray()) {
            List<Object> items = new ArrayList<>();
            for (int i = 0; i < Array.getLength(v); i++) {
                items.add(Array.get(v, i));
            }
            v = items;
        }
        if (LIBRARY.matcher(v.getClass().getName()).lookingAt() && !(v instanceof Map)) {
            return v.toString();
        }
        if (within.put(v, true) != null) {
            return "\"itself\"";
        }
        try {
            StringJoiner out;
            if (v instanceof Collection<?> c) {
                out = new StringJoiner(",", "[", "]");
                for (Object e : c) {
                    out.add(text(e, within));
                }
                return out.toString();
            }
            out = new StringJoiner(",", "{", "}");
            if (v instanceof Map<?, ?> m) {
                for (var e : m.entrySet()) {
                    out.add(quote(e.getKey() instanceof Enum<?> k ? k.name() : String.valueOf(e.getKey())) + ":" + text(e.getValue(), within));
                }
                return out.toString();
            }
            if (v.getClass().getName().startsWith("java.")) {
                return quote(v.toString());
            }
            for (Class<?> c = v.getClass(); c != null && c != Object.class; c = c.getSuperclass()) {
                for (Field f : c.getDeclaredFields()) {
                    if (Modifier.isStatic(f.getModifiers()) || f.isSynthetic() || f.getName().contains("$")) {
                        continue;
                    }
                    f.setAccessible(true);
                    out.add(quote(f.getName()) + ":" + text(f.get(v), within));
                }
            }
            return out.toString();
        } finally {
            within.remove(v);
        }
    }

    /** The shortest decimals of a float, which Float.toString gives from Java 19 on alone (JDK-4511638). */
    static String shortest(float f) {
        for (int digits = 1; digits < 9; digits++) {
            java.math.BigDecimal d = new java.math.BigDecimal(f).round(new java.math.MathContext(digits));
            if (d.floatValue() == f && f != 0) {
                return Double.toString(d.doubleValue());
            }
        }
        return Float.toString(f);
    }

    static String quote(String s) {
        StringBuilder out = new StringBuilder("\"");
        for (char c : s.toCharArray()) {
            if (c == '"' || c == '\\') {
                out.append('\\').append(c);
            } else if (c < ' ' || Character.isSurrogate(c)) {
                out.append(String.format("\\u%04x", (int) c));
            } else {
                out.append(c);
            }
        }
        return out.append('"').toString();
    }

    static String compileJava(List<String> sources, Path dir) {
        ByteArrayOutputStream said = new ByteArrayOutputStream();
        List<String> args = new ArrayList<>(List.of("-nowarn", "-g", "-d", dir.toString(), "-cp", System.getProperty("java.class.path")));
        args.addAll(sources);
        int rc = ToolProvider.getSystemJavaCompiler().run(null, said, said, args.toArray(new String[0]));
        return rc == 0 ? null : said.toString();
    }

    /** By reflection, since Kotlin's compiler is on the class path only where Kotlin is measured. */
    static String compileKotlin(List<String> sources, Path dir) throws Exception {
        Class<?> type = Class.forName("org.jetbrains.kotlin.cli.jvm.K2JVMCompiler");
        Method exec = type.getMethod("exec", PrintStream.class, String[].class);
        List<String> args = new ArrayList<>(List.of("-nowarn", "-no-stdlib", "-no-reflect", "-d", dir.toString(), "-cp", System.getProperty("java.class.path")));
        for (String jar : System.getProperty("java.class.path").split(File.pathSeparator)) {
            if (jar.contains("kotlin-serialization-compiler-plugin")) {
                args.add("-Xplugin=" + jar);
            }
        }
        args.addAll(sources);
        ByteArrayOutputStream said = new ByteArrayOutputStream();
        Object rc = exec.invoke(type.getDeclaredConstructor().newInstance(), new PrintStream(said), args.toArray(new String[0]));
        return rc.toString().equals("OK") ? null : said.toString();
    }
}

// What is a field and what only looks like one. A line with a want comment declares
// just the fields it lists, as NAME TYPE; any other line declares none.
package ferry.saltmere;

import java.util.*;
import java.math.BigDecimal;

class Port { // model class
    String code; // want code String = "a"
    double depth = 3; // want depth double = 3
    int a, b; // want a int; b int
    int x = 1, y[] = {1, 2}, z = 3; // want x int = 1; y int[] = {1, 2}; z int = 3
    public final boolean open = true; // want open boolean = true
    private transient Date cached; // want cached Date transient
    static int count; // want count int static
    public static final String TAG = "int ghost;"; // want TAG String = "int ghost;" static
    List<String> names = new ArrayList<>(); // want names List<String> = new ArrayList<>()
    Map<String, List<Integer>> map = new HashMap<String, List<Integer>>(); // want map Map<String, List<Integer>> = new HashMap<String, List<Integer>>()
    int[] grid[]; // want grid int[][]
    List<? extends Port> any; // want any List<Port>
    Set<?> odd; // want odd Set<Object>
    ArrayList raw; // want raw ArrayList<Object>
    java.util.List<java.lang.String> full; // want full List<String>
    volatile long ticks = 10_000L; // want ticks long = 10_000L
    char mark = '\''; // want mark char = '\''
    @Deprecated @SuppressWarnings({"a", "int b;"}) BigDecimal price; // want price BigDecimal
    @Anno(value = "int c;", inner = @Other(x = 1)) // comment
    Integer spread; // want spread Integer
    boolean cmp = a < b, more = a > b; // want cmp boolean = a < b; more boolean = a > b
    Runnable r = () -> { int inLambda = 1; }; // want r Runnable = () -> { int inLambda = 1; }
    Object anon = new Object() { int inAnonymous = 1; }; // want anon Object = new Object() { int inAnonymous = 1; }
    String text // want text String = """ int inText = 1 " """
        = """
        int inText = 1 "
        """, last = "x"; // want last String = "x"
    int caf\u00e9; // want café int
    /* int commented; /* int still; */
    // int line;
    { int inInitialiser = 1; }
    static { int inStatic = 2; }
    Port() { int inConstructor = 1; this.code = "a"; }
    <T> T generic(T t, int param) { int local = 2; return t; }
    int method(final int p, String... rest) throws Exception { for (int i = 0; i < 3; i++) { } return 1; }
    int[] arrayMethod()[] { return null; }
    abstract static class Berth { int n; } // model class; want n int
    class Inner { Port outer; } // model class; want outer Port
    interface Shape { int SIDES = 4; void draw(); }
    enum Colour { // model enum
        RED("r") { int inBody = 1; }, @Anno("x") GREEN, BLUE;
        final String raw = null; // want raw String = null
        Colour(String... s) { }
    }
    record Pair<A, B>(A first, List<B> rest, int... more) { static int made; Pair { Objects.requireNonNull(first); } } // model record; want first A; rest List<B>; more int[]; made int static
    @interface Anno { String value() default "x"; int ghost = 1; }
    int after; // want after int
}

final class Express<T extends Comparable<T> & Runnable> extends Port implements Runnable, java.io.Serializable { // model class
    T item; // want item T
    Berth own; // want own Port.Berth
    int strange = (b > 1) ? 2 : 3, next; // want strange int = (b > 1) ? 2 : 3; next int
    public void run() { class Local { int hidden; } }
}

sealed interface Fare permits Adult { }
non-sealed class Adult implements Fare { long amount; } // model class; want amount long

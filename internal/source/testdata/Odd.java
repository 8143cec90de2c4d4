// Forms that are rarer than those of Fields.java, read by the same rule: a line with a want
// comment declares just the fields it lists.
package ferry.saltmere.odd;

import static java.util.Collections.emptyList;
import java.util.*;
import java.util.Map.Entry;
import java.util.function.*;
import java.time.LocalDate;
;

public class Odd { // model class
    public @Deprecated volatile int a; // want a int
    final public static transient int b = 1; // want b int = 1 static transient
    private final List<Map.Entry<String, ? super Integer>> entries = emptyList(); // want entries List<Map.Entry<String, Object>> = emptyList()
    @A({@B(1), @B(2)}) @C(value = {"int ghost;", "}"}, of = int.class) private String annotated; // want annotated String
    @A // int ghost;
    /* int ghost; */ @B("{") /** int ghost; */
    int below; // want below int
    Map<String, Map<Integer, List<String[]>>> deep; // want deep Map<String, Map<Integer, List<String[]>>>
    List<String>[] lists; // want lists List<String>[]
    int[][] grid = {{1, 2}, {3}}, row[] = null; // want grid int[][] = {{1, 2}, {3}}; row int[][][] = null
    int one = 1, two = one < 2 ? one : 3, three = (int) 3L; // want one int = 1; two int = one < 2 ? one : 3; three int = (int) 3L
    boolean less = one < two, shifted = one >> 2 > 0, generic = List.<String>of().isEmpty(); // want less boolean = one < two; shifted boolean = one >> 2 > 0; generic boolean = List.<String>of().isEmpty()
    long big = 0xFFFF_FFFFL, oct = 017, bin = 0b1010; // want big long = 0xFFFF_FFFFL; oct long = 017; bin long = 0b1010
    double tiny = 1e-3, half = .5, hex = 0x1.8p1; // want tiny double = 1e-3; half double = .5; hex double = 0x1.8p1
    char c = ';', d = '{', e = '\\', f = '\u0041'; // want c char = ';'; d char = '{'; e char = '\\'; f char = '\u0041'
    String quoted = "int ghost, \" } //", joined = "a" + "b"; // want quoted String = "int ghost, \" } //"; joined String = "a" + "b"
    String block = """int ghost, "quoted" \""" }"""; // want block String = """int ghost, "quoted" \""" }"""
    Function<Integer, Integer> lambda = x -> { int ghost = x; return ghost; }; // want lambda Function<Integer, Integer> = x -> { int ghost = x; return ghost; }
    Supplier<List<String>> method = ArrayList<String>::new; // want method Supplier<List<String>> = ArrayList<String>::new
    Comparator<Odd> typed = (Odd p, Odd q) -> p.a - q.a; // want typed Comparator<Odd> = (Odd p, Odd q) -> p.a - q.a
    Object anonymous = new Object() { int ghost = 1; int get() { int inner = 2; return inner; } }; // want anonymous Object = new Object() { int ghost = 1; int get() { int inner = 2; return inner; } }
    int chosen = switch (one) { case 1 -> 2; default -> { int ghost = 3; yield ghost; } }; // want chosen int = switch (one) { case 1 -> 2; default -> { int ghost = 3; yield ghost; } }
    int[] made = new int[]{1, 2, 3}; // want made int[] = new int[]{1, 2, 3}
    Entry<String, Integer> entry; // want entry java.util.Map.Entry<String, Integer>
    Optional<? extends Number> some; // want some Optional<Number>
    java.util.Map<java.lang.String, java.util.List<? >> full; // want full Map<String, List<Object>>
    ferry.saltmere.odd.Odd.Nested qualified; // want qualified Odd.Nested
    Nested.Deeper deeper; // want deeper Odd.Nested.Deeper
    List<@A("int ghost;") String> marked; // want marked List<String>
    String @A [] markedArray; // want markedArray String[]
    int $dollar, _under, größe, record, var, yield, sealed, permits, with; // want $dollar int; _under int; größe int; record int; var int; yield int; sealed int; permits int; with int
    LocalDate day; // want day LocalDate
    ;
    { int ghost = 1; { int inner = 2; } }
    static { int ghost = 2; }
    public Odd() throws RuntimeException { this(1); int ghost = 1; }
    @Deprecated private <T extends Number> Odd(T ghost) { class Local { int ghost; } record Two(int ghost) { } }
    public static <T, R extends Comparable<? super R>> Map<T, R> made(int ghost, final @A List<? extends T> more, T... rest) throws Exception, Error { int inner = 1; return null; }
    abstract int nothing(int ghost);
    native int natively(int ghost);
    default int inInterface() { int ghost = 1; return ghost; }
    synchronized strictfp void locked() { synchronized (this) { int ghost; } for (int i = 0, j = 1; i < j; i++) { } try (Scanner ghost = new Scanner("")) { } catch (RuntimeException | Error ghost) { } label: while (true) { int inner; break label; } }
    int array()[] { return null; }
    public static final class Nested { int n; static class Deeper { int m; } } // model class; want n int; m int
    class Inner extends Nested implements Runnable, Comparable<Odd> { int own; public void run() { } } // model class; want own int
    private enum State { OPEN, @A("int ghost;") SHUT { int ghost; @Override int of() { return 1; } }, AJAR(1, "x") { }; int ghost() { return 1; } // model enum
        final int code; State() { this(0, null); } State(int ghost, String other) { code = ghost; } } // want code int
    protected interface Shape<T> extends Runnable { int SIDES = 4; T get(int ghost); default int two() { int ghost = 2; return ghost; } class Impl { int s; } } // model class; want s int
    @interface Mark { int value() default 1; String[] names() default {"int ghost;"}; Class<?> of() default Odd.class; int GHOST = 1; }
    record Point(int x, @A("int ghost;") int... more) implements Runnable { // model record; want x int; more int[]
        static int count; // want count int static
        Point { int ghost = x; if (ghost < 0) throw new IllegalArgumentException(); }
        Point(int x) { this(x, 1); int ghost = 1; }
        public int x() { int ghost = x; return ghost; } public void run() { } }
    record Box<T extends Comparable<T>>(T item, List<? extends T> rest) { } // model record; want item T; rest List<T>
    record Nothing() { } // model record
    enum Empty { } // model enum
    int last; // want last int
}

abstract sealed class Base<K, V extends List<K>> permits One, Two { protected K key; V value; abstract K key(); } // model class; want key K; value V
final class One extends Base<String, List<String>> { String own; String key() { return key; } } // model class; want own String
non-sealed class Two extends Base<Integer, List<Integer>> { Integer own; Integer key() { return key; } } // model class; want own Integer
class \u0041scii { int \u0062; } // model class; want b int

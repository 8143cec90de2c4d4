package source

// javaDeclarations are forms of Java source with what is read of them.
var javaDeclarations = []declaration{
	{"file head", `/* licence */
package ferry.saltmere . ports ;
import java.util.Date;
import java.util.*;
import static ferry.Keys.CODE;
import static ferry.Keys.*;
;`, `
package ferry.saltmere.ports
import java.util.Date as Date
import java.util.* as 
import ferry.Keys.CODE as CODE
import ferry.Keys.* as 
`},
	{"kinds of class", `class Plain { }
public final class Public { }
abstract class Abstract { }
sealed class Sealed permits A, B { }
non-sealed class Unsealed extends Sealed { }
enum Level { LOW, HIGH }
@interface Mark { String value() default "x"; int[] of() default {1, 2}; }
interface Named { String NAME = "n"; String name(); default int len() { return 1; } static int x() { return 2; } }
record Point(int x, int y) { }
strictfp class Strict { }`, `
class Plain package
class Public
class Abstract package abstract
class Sealed package
class Unsealed package extends Sealed
enum Level package static
	constant LOW()
	constant HIGH()
annotation Mark package static
	method value() String package
	method of() int[] package
interface Named package static
	field NAME String package static = "n"
	method name() String
	method len() int
	method x() int static
record Point package static
	field x int private final
	field y int private final
	constructor Point(x int, y int)
class Strict package
`},
	{"classes inside classes", `class Page {
    class Inner { int a; class Deeper { } }
    static class Nested { private static class Hidden { } }
    protected enum Kind { A }
    interface Listener { class InInterface { } }
    record Row(int n) { }
    @interface Note { }
    enum Size { S; static class InEnum { } class InnerOfEnum { } }
}`, `
class Page package
	class Inner package
		field a int package
		class Deeper package
	class Nested package static
		class Hidden private static
	enum Kind protected static
		constant A()
	interface Listener package static
		class InInterface static
	record Row package static
		field n int private final
		constructor Row(n int)
	annotation Note package static
	enum Size package static
		constant S()
		class InEnum package static
		class InnerOfEnum package
`},
	{"fields", `class A {
    int a;
    private String b = "x", c, d = null;
    public static final int E = 1;
    transient volatile long f;
    int[] g, h[];
    List<? extends Number> i = new ArrayList<>();
    Map<String, List<int[]>> j;
    final Object k = new Object() { int ghost; };
    protected java.util.Date l;
    A.B<String>.C m;
    String n = a > 1 ? "x" : "y", o = f(1, 2);
    int p = 1, q[] = {1, 2}, r;
    Runnable s = () -> { int ghost = 1; };
    var t = 1;
    @Mark @Other("x") private @Third int u;
    byte v = (byte) 1, w = 'c';
    String x = """
        int ghost;
        """;
}`, `
class A package
	field a int package
	field b String private = "x"
	field c String private
	field d String private = null
	field E int static final = 1
	field f long package transient
	field g int[] package
	field h int[][] package
	field i List<Number> package = new ArrayList<>()
	field j Map<String, List<int[]>> package
	field k Object package final = new Object() { int ghost; }
	field l java.util.Date protected
	field m A.B.C<String> package
	field n String package = a > 1 ? "x" : "y"
	field o String package = f(1, 2)
	field p int package = 1
	field q int[] package = {1, 2}
	field r int package
	field s Runnable package = () -> { int ghost = 1; }
	field t var package = 1
	field u int private @Mark @Other value=x @Third
	field v byte package = (byte) 1
	field w byte package = 'c'
	field x String package = """ int ghost; """
`},
	{"constructors", `class A {
    A() { }
    public A(int a) { this.a = a; }
    private A(final String s, @Mark int... rest) throws IOException { this(rest.length); }
    protected <T> A(List<T> all) { super(all); }
    A(int[] a, String b[]) { }
    int a;
}`, `
class A package
	field a int package
	constructor A() package
	constructor A(a int)
	constructor A(s String, rest int[] @Mark) private
	constructor A(all List<T>) protected
	constructor A(a int[], b String[]) package
`},
	{"methods", `class A {
    int a() { return 1; }
    public static List<String> b(int x, String... y) throws E { return null; }
    private synchronized <T extends B & C> T c(@Mark final T t) { return t; }
    abstract void d();
    native int e();
    void setF(int f) { this.f = f; }
    A setG(int g) { this.g = g; return this; }
    int getF() { return f; }
    int[] h()[] { return null; }
    default void i() { }
    void j(A this, int x) { }
    @Override public String toString() { return ""; }
    int f, g;
}`, `
class A package
	field f int package
	field g int package
	method a() int package
	method b(x int, y String[]) List<String> static
	method c(t T @Mark) T private
	method d() package
	method e() int package
	method setF(f int) package sets f
	method setG(g int) A package sets g
	method getF() int package
	method h() int[] package
	method i() package
	method j(this A, x int) package
	method toString() String @Override
`},
	{"what a class extends", `class A extends Base<A, ? super B> implements Named, java.util.Comparator<A> { }
interface I extends J, K<String> { }
enum E implements Named { X }
record R(int a) implements Named { }`, `
class A package extends Base<A, Object> is Named is java.util.Comparator<A>
interface I package static is J is K<String>
enum E package static is Named
	constant X()
record R package static is Named
	field a int private final
	constructor R(a int)
`},
	{"type parameters", `class Box<T, U extends Comparable<U> & Named, @Mark V> { T t; List<U> u; <W> W w() { return null; } }`, `
class Box<T, U, V> package
	field t T package
	field u List<U> package
	method w() W package
`},
	{"annotations", `@Mark @Other("x") @Lists({"a", "b"}) @Named(value = "n", of = {1, 2})
class A {
    @SerializedName(value = "a", alternate = {"b", "c"}) int a;
    @JsonSubTypes({@JsonSubTypes.Type(value = A.class, name = "a"), @JsonSubTypes.Type(B.class)}) Object b;
    @com.google.gson.annotations.SerializedName("d") int c;
    @SerializedName("e" + "f") int d;
    @SerializedName("\u0041\"") int e;
    @JsonFormat(shape = JsonFormat.Shape.STRING, with = {JsonFormat.Feature.ACCEPT_SINGLE_VALUE_AS_ARRAY}) int f;
    @A(@B(@C("x"))) int g;
    @
    Spread
    (
        "y"
    ) int h;
}`, `
class A package @Mark @Other value=x @Lists value=a|b @Named value=n of=1|2
	field a int package @SerializedName value=a alternate=b|c
	field b Object package @JsonSubTypes value= @Type value=A name=a @Type value=B
	field c int package @SerializedName value=d
	field d int package @SerializedName value=ef
	field e int package @SerializedName value=A"
	field f int package @JsonFormat shape=JsonFormat.Shape.STRING with=JsonFormat.Feature.ACCEPT_SINGLE_VALUE_AS_ARRAY
	field g int package @A value= @B value= @C value=x
	field h int package @Spread value=y
`},
	{"constants of an enum", `enum Level implements Coded {
    @SerializedName("low") LOW(1) { @Override int x() { return 1; } },
    HIGH(2, "high"),
    @Deprecated LAST(3), ;
    private final int code;
    Level(int code, String... label) { this.code = code; }
    abstract int x();
    static final Level DEFAULT = LOW;
}`, `
enum Level package static is Coded
	field code int private final
	field DEFAULT Level package static final = LOW
	constant LOW(1) @SerializedName value=low
	constant HIGH(2, "high")
	constant LAST(3) @Deprecated
	constructor Level(code int, label String[]) package
	method x() int package
`},
	{"an enum with constants alone", `enum Level { A, B, C, }`, `
enum Level package static
	constant A()
	constant B()
	constant C()
`},
	{"an enum without constants", `enum Level { ; static int x() { return 1; } }`, `
enum Level package static
	method x() int package static
`},
	{"records", `record Fare(@JsonProperty("p") double price, List<Leg> legs, int... rest) {
    static int count;
    Fare { if (price < 0) throw new IllegalArgumentException(); }
    Fare(double price) { this(price, List.of()); }
    double twice() { return 2 * price; }
    record Leg(String from) { }
}`, `
record Fare package static
	field price double private final @JsonProperty value=p
	field legs List<Leg> private final
	field rest int[] private final
	field count int package static
	constructor Fare(price double @JsonProperty value=p, legs List<Leg>, rest int[]) package
	constructor Fare(price double) package
	method twice() double package
	record Leg package static
		field from String private final
		constructor Leg(from String)
`},
	{"a record with a constructor of its own", `record Fare(double price, String note) { public Fare(double price, String note) { this.price = price * 2; this.note = note; } }`, `
record Fare package static
	field price double private final
	field note String private final
	constructor Fare(price double, note String)
`},
	{"initialisers and blocks", `class A {
    int a = 1;
    { int ghost = 2; a = ghost; }
    static { int ghost = 3; }
    List<Integer> b = new ArrayList<>() {{ add(1); }};
    int c = switch (a) { case 1 -> 2; default -> { int ghost = 4; yield ghost; } };
}`, `
class A package computed
	field a int package = ghost
	field b List<Integer> package = new ArrayList<>() {{ add(1); }}
	field c int package = switch (a) { case 1 -> 2; default -> { int ghost = 4; yield ghost; } }
`},
	{"local and anonymous classes", `class A {
    void f() {
        class Local { int ghost; }
        record Row(int ghost) { }
        enum Kind { GHOST }
        new B() { int ghost; };
    }
    Object g = new B() { class Ghost { int x; } };
    int h;
}`, `
class A package
	field g Object package = new B() { class Ghost { int x; } }
	field h int package
	method f() package
`},
	{"several on one line", `class A { int a; } class B { int b; } interface C { }`, `
class A package
	field a int package
class B package
	field b int package
interface C package static
`},
	{"semicolons and odd lines", `class A {
    ; int a; ; ;
    int
        b
        =
        1
        ;
    public
    static
    final
    int C = 2;
    int d =1,e= 2 ,f;;
}`, `
class A package
	field a int package
	field b int package = 1
	field C int static final = 2
	field d int package = 1
	field e int package = 2
	field f int package
`},
	{"comments everywhere", `class /* a */ A /* { int ghost; */ { // int ghost;
    int a /* = 1 */; /* int ghost; */ /** int ghost; */
    String b = "/* no */ // no"; // int ghost;
    int /* x */ c /* y */ = /* z */ 1 /* w */;
}`, `
class A package
	field a int package
	field b String package = "/* no */ // no"
	field c int package = 1
`},
	{"strings that look like source", `class A {
    String a = "class Ghost { int x; }";
    char b = '"', c = '\'', d = '{', e = '\u007b';
    String f = "\"}", g = "\\";
    String h = """
        } class Ghost { "
        \""" }
        """;
}`, `
class A package
	field a String package = "class Ghost { int x; }"
	field b char package = '"'
	field c char package = '\''
	field d char package = '{'
	field e char package = '\u007b'
	field f String package = "\"}"
	field g String package = "\\"
	field h String package = """ } class Ghost { " \""" } """
`},
	{"escapes in names", `class \u0041bc { int \u0062; String s = "\u0022; // the string ends here
}`, `
class Abc package
	field b int package
	field s String package = "\u0022; // the string ends here
problem 1:31 a string that never ends
`},
	{"words that are no modifiers", `class A { int record; String sealed; int permits, var, yield; Record open; record.Row module; }`, `
class A package
	field record int package
	field sealed String package
	field permits int package
	field var int package
	field yield int package
	field open Record package
	field module record.Row package
`},
	{"what is no Java", `class A { int a
    String b; void f( { } int c; }
class B { int d; }`, `
class A package
	field a int package
	field c int package
	method f() package
class B package
	field d int package
problem 2:21 '(' is never closed
`},
	{"brackets that close nothing", `class A { int a; } } )
class B { int b; }`, `
class A package
	field a int package
class B package
	field b int package
problem 1:20 '}' closes nothing
problem 1:22 ')' closes nothing
`},
	{"a string that never ends", `class A { String a = "x;
    int b; }
class B { int c; }`, `
class A package
	field a String package = "x; int b
class B package
	field c int package
problem 1:22 a string that never ends
`},
	{"a comment that never ends", `class A { int a; }
/* class B { int b; }`, `
class A package
	field a int package
problem 2:1 a comment that never ends
`},
	{"generic methods and casts", `class A {
    private final Map<String, Object> a = Collections.<String, Object>emptyMap();
    int b = (int) (long) 3, c = (a) < 1 ? 2 : 3;
    boolean d = x < y, e = y > z;
    List<List<String>> f = new ArrayList<List<String>>(), g;
    int[][] h = new int[2][3], i = {{1}, {2}};
    Function<A, B> j = A::b, k = (x) -> x, l = x -> { return x; };
}`, `
class A package
	field a Map<String, Object> private final = Collections.<String, Object>emptyMap()
	field b int package = (int) (long) 3
	field c int package = (a) < 1 ? 2 : 3
	field d boolean package = x < y
	field e boolean package = y > z
	field f List<List<String>> package = new ArrayList<List<String>>()
	field g List<List<String>> package
	field h int[][] package = new int[2][3]
	field i int[][] package = {{1}, {2}}
	field j Function<A, B> package = A::b
	field k Function<A, B> package = (x) -> x
	field l Function<A, B> package = x -> { return x; }
`},
	{"annotations of dimensions", `class A { char[] @Nullable [] a; String @Mark(1) @Other [] b, c @Mark []; void f(int @Mark ... rest, String[] @Mark [] d) { } @Mark int e; }`, `
class A package
	field a char[][] package
	field b String[] package
	field c String[][] package
	field e int package @Mark
	method f(rest int[], d String[][]) package
`},
	{"Lombok's marks", `@Data @Builder(toBuilder = true) @NoArgsConstructor(access = AccessLevel.PROTECTED)
class A { @Getter(AccessLevel.NONE) @Setter private int a; @Builder.Default String b = "x"; @Singular List<String> names; }`, `
class A package @Data @Builder toBuilder=true @NoArgsConstructor access=AccessLevel.PROTECTED
	field a int private @Getter value=AccessLevel.NONE @Setter
	field b String package = "x" @Default
	field names List<String> package @Singular
`},
}

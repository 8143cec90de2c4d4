package source

// kotlinDeclarations are forms of Kotlin source with what is read of them.
var kotlinDeclarations = []declaration{
	{"file head", `@file:JvmName("Ports")
@file:Suppress("unused")
package ferry.saltmere . ports
import java.util.Date
import java.util.*;
import ferry.other.Port as Quay
import ferry.` + "`" + `in` + "`" + `.Line
typealias Ids = List<Long>
typealias Table<V> = Map<String, V?>`, `
package ferry.saltmere.ports
import java.util.Date as Date
import java.util.* as *
import ferry.other.Port as Quay
import ferry.in.Line as Line
alias Ids = List<Long>
alias Table<V> = Map<String, V?>
`},
	{"kinds of class", `class Plain
open class Open
abstract class Abstract
sealed class Sealed
sealed interface Shape
data class Data(val a: Int)
enum class Level { LOW, HIGH }
annotation class Mark(val value: String)
@JvmInline value class Id(val raw: String)
interface Named { val name: String }
fun interface Run { fun run() }
object Single { val a = 1 }
data object Nothing1
private class Hidden
internal class Module`, `
class Plain static
	constructor Plain()
class Open static
	constructor Open()
class Abstract static abstract
	constructor Abstract()
class Sealed static abstract
	constructor Sealed()
interface Shape static abstract
class Data static data
	field a Int final
	constructor Data(a Int)
enum Level static
	constant LOW()
	constant HIGH()
annotation Mark static
	field value String final
	constructor Mark(value String)
class Id static value @JvmInline
	field raw String final
	constructor Id(raw String)
interface Named static
interface Run static
	method run()
object Single static
	field a Int static final = 1
object Nothing1 static
class Hidden private static
	constructor Hidden()
class Module package static
	constructor Module()
`},
	{"classes inside classes", `class Page {
    class Nested { class Deeper }
    inner class Inner(val n: Int)
    protected data class Link(val href: String)
    object Holder { val x = 1 }
    companion object { const val MAX = 3; fun of(): Page = Page() }
    enum class Kind { A }
    interface Listener
}`, `
class Page static
	constructor Page()
	class Nested static
		constructor Nested()
		class Deeper static
			constructor Deeper()
	class Inner
		field n Int final
		constructor Inner(n Int)
	class Link protected static data
		field href String final
		constructor Link(href String)
	object Holder static
		field x Int static final = 1
	object Companion static
		field MAX Int static final = 3
		method of() Page
	enum Kind static
		constant A()
	interface Listener static
`},
	{"a companion with a name", `class Page { companion object Factory : Maker<Page>() { val made = 0 } }`, `
class Page static
	constructor Page()
	object Factory static extends Maker<Page>
		field made Int static final = 0
`},
	{"primary constructors", `class A(val a: Int, var b: String?, plain: Long, private val c: Boolean = true, vararg val rest: Int)`, `
class A static
	field a Int final
	field b String?
	field c Boolean private final = true
	field rest Array<Int> final
	constructor A(a Int, b String?, plain Long, c Boolean =, rest Array<Int>)
`},
	{"all parameters have defaults", `data class A(val a: Int = 1, val b: List<String> = emptyList())`, `
class A static data all-defaults
	field a Int final = 1
	field b List<String> final = emptyList()
	constructor A(a Int =, b List<String> =)
`},
	{"a private constructor", `class A private constructor(val a: Int = 1)`, `
class A static
	field a Int final = 1
	constructor A(a Int =) private
`},
	{"a constructor with an annotation", `class A @JsonCreator internal constructor(@JsonProperty("k") val a: Int, @Named("x") b: String)`, `
class A static
	field a Int final @JsonProperty value=k
	constructor A(a Int @JsonProperty value=k, b String @Named value=x) package @JsonCreator
`},
	{"secondary constructors", `class A {
    val a: Int
    constructor() { a = 1 }
    constructor(a: Int) : super() { this.a = a }
    private constructor(s: String) : this(s.length)
}`, `
class A static computed
	field a Int final
	constructor A(a Int)
	constructor A(s String) private
`},
	{"a primary and a secondary constructor", `class A(val a: Int) { constructor() : this(1) }`, `
class A static
	field a Int final
	constructor A(a Int)
	constructor A()
`},
	{"what a class extends", `class A(val a: Int) : Base<A>(a), Named, Comparable<A> by other, @Mark Tagged { }`, `
class A static computed extends Base<A> is Named is Comparable<A> is Tagged
	field a Int final
	constructor A(a Int)
`},
	{"type parameters", `class Box<T, out U : Comparable<U>, in V>(val t: T?, val u: List<U>) where T : Any, T : Named { }`, `
class Box<T, U, V> static
	field t T? final
	field u List<U> final
	constructor Box(t T?, u List<U>)
`},
	{"properties", `class A {
    val a = 1
    var b: String? = null
    lateinit var c: Port
    val d get() = a
    val e: Int by lazy { 3 }
    private var f = 1.5
        private set
    val g: String = "x"
        get() = field.trim()
    val h: Int
        get() { return 1 }
    protected open val i: List<Int?> = listOf(1)
    abstract val j: Int
    @Transient var k = true
    @Volatile internal var l = 'x'
    val (m, n) = pair
    const val o = "o"
    val A.p: Int get() = 1
    val <T> List<T>.q: T get() = first()
    override val r: Long = 3L
}`, `
class A static
	field a Int final = 1
	field b String? = null
	field c Port
	field f Double private = 1.5
	field g String final = "x"
	field i List<Int?> protected final = listOf(1)
	field k Boolean transient = true @Transient
	field l Char package = 'x' @Volatile
	field o String static final = "o"
	field r Long final = 3L
	constructor A()
`},
	{"types of properties", `class A(
    val a: Map<String, List<Int?>?>?,
    val b: (Int, String) -> Unit,
    val c: suspend () -> Int,
    val d: String.(Int) -> String,
    val e: Array<out Number>,
    val f: List<*>,
    val g: java.util.Date,
    val h: Outer.Inner<Int>.Deeper,
    val i: @Mark String,
    val j: (String),
    val k: ((Int) -> Int)?,
    val l: T & Any,
    val m: IntArray,
    val n: MutableMap<in String, Any>,
)`, `
class A static
	field a Map<String, List<Int?>?>? final
	field b (Int, String) -> Unit final
	field c suspend () -> Int final
	field d String.(Int) -> String final
	field e Array<Number> final
	field f List<Any?> final
	field g java.util.Date final
	field h Outer.Inner.Deeper<Int> final
	field i String final
	field j String final
	field k (Int) -> Int? final
	field l T final
	field m IntArray final
	field n MutableMap<Any?, Any> final
	constructor A(a Map<String, List<Int?>?>?, b (Int, String) -> Unit, c suspend () -> Int, d String.(Int) -> String, e Array<Number>, f List<Any?>, g java.util.Date, h Outer.Inner.Deeper<Int>, i String, j String, k (Int) -> Int?, l T, m IntArray, n MutableMap<Any?, Any>)
`},
	{"annotations", `@Mark @Other("x", 3) @Lists(["a", "b"]) @Named(value = "n", of = [1, 2])
class A(
    @field:SerializedName("a") val a: Int,
    @get:JvmName("getB") @param:Json(name = "b") @property:Keep val b: Int,
    @SerializedName(
        value = "c",
        alternate = ["d", "e"],
    )
    val c: Int,
    @field:[First Second("2")] val d: Int,
    @JsonSubTypes(JsonSubTypes.Type(value = A::class, name = "a"), JsonSubTypes.Type(value = B::class)) val e: Any,
    @com.google.gson.annotations.SerializedName("f") val f: Int,
    @SerializedName("g" + "h") val g: Int,
    @SerializedName("""raw""") val h: Int,
    @SerializedName("\$i\u0041") val i: Int,
)`, `
class A static @Mark @Other value=x|3 @Lists value=a|b @Named value=n of=1|2
	field a Int final @field:SerializedName value=a
	field b Int final
	field c Int final @SerializedName value=c alternate=d|e
	field d Int final @field:First @field:Second value=2
	field e Any final @JsonSubTypes value= @Type value=A name=a @Type value=B
	field f Int final @SerializedName value=f
	field g Int final @SerializedName value=gh
	field h Int final @SerializedName value=raw
	field i Int final @SerializedName value=$iA
	constructor A(a Int @field:SerializedName value=a, b Int, c Int @SerializedName value=c alternate=d|e, d Int @field:First @field:Second value=2, e Any @JsonSubTypes value= @Type value=A name=a @Type value=B, f Int @SerializedName value=f, g Int @SerializedName value=gh, h Int @SerializedName value=raw, i Int @SerializedName value=$iA)
`},
	{"constants of an enum", `enum class Level(val code: Int, val label: String = "x") : Coded {
    @SerializedName("low") LOW(1) { override fun x() = 1 },
    HIGH(2, "high"),
    ` + "`" + `in` + "`" + `(3),
    LAST(4);
    abstract fun x(): Int
    companion object { val all = values() }
}`, `
enum Level static is Coded
	field code Int final
	field label String final = "x"
	constant LOW(1) @SerializedName value=low
	constant HIGH(2, "high")
	constant in(3)
	constant LAST(4)
	constructor Level(code Int, label String =)
	method x() Int
	object Companion static
		field all  static final = values()
`},
	{"an enum with constants alone", `enum class Level { A, B, C }`, `
enum Level static
	constant A()
	constant B()
	constant C()
`},
	{"an enum without constants", `enum class Level { ; fun x() = 1 }`, `
enum Level static
	method x()
`},
	{"functions", `class A {
    fun a() {}
    fun b(x: Int, y: String = "d"): String? = null
    private suspend fun <T : Any> c(vararg x: T): List<T> { return x.toList() }
    override fun toString() = "a"
    operator fun plus(o: A): A = this
    fun String.d(): Int { return length }
    infix fun e(f: (Int) -> Int) = f(1)
    fun ` + "`" + `with spaces` + "`" + `() = 1
    @Mark internal fun g(@Mark x: Int) = x
}
fun top(a: Int): Int = a
fun <T> List<T>.second(): T = this[1]`, `
function top(a Int) Int
function List.second() T
class A static
	constructor A()
	method a()
	method b(x Int, y String =) String?
	method c(x Array<T>) List<T> private
	method toString()
	method plus(o A) A
	method String.d() Int
	method e(f (Int) -> Int)
	method with spaces()
	method g(x Int @Mark) package @Mark
`},
	{"initialisers and blocks", `class A(a: Int) {
    val b = a + 1
    init { println(b) }
    var c: Int = 0
    init {
        c = b
    }
}`, `
class A static computed
	field b  final = a + 1
	field c Int = 0
	constructor A(a Int)
`},
	{"names in backticks", `class ` + "`" + `in` + "`" + `(val ` + "`" + `class` + "`" + `: Int, val ` + "`" + `a b` + "`" + `: String) { var ` + "`" + `$x` + "`" + ` = 1 }`, `
class in static
	field $x Int = 1
	field class Int final
	field a b String final
	constructor in(class Int, a b String)
`},
	{"several on one line", `class A(val a: Int); class B(val b: Int); object C`, `
class A static
	field a Int final
	constructor A(a Int)
class B static
	field b Int final
	constructor B(b Int)
object C static
`},
	{"semicolons and odd lines", `class A {
    val a = 1; val b = 2; ; var c: Int = 3
    val d: Int =
        4
    val e
        : String
        = "x"
    val f = listOf(1,
        2).map { it + 1 }
        .toList()
    val g = if (a > 1) "x" else "y"
    val h = when (a) { 1 -> "x"; else -> "y" }
    val i = object : Named { val ghost = 1; override val name = "x" }
    val j = run { val ghost = 2; ghost }
    val k = a as Int
    val l = a < b && b > c
    val m = foo<Int>(1) { val ghost = 3 }
}`, `
class A static
	field a Int final = 1
	field b Int final = 2
	field c Int = 3
	field d Int final = 4
	field e String final = "x"
	field f  final = listOf(1, 2).map { it + 1 } .toList()
	field g  final = if (a > 1) "x" else "y"
	field h  final = when (a) { 1 -> "x"; else -> "y" }
	field i  final = object : Named { val ghost = 1; override val name = "x" }
	field j  final = run { val ghost = 2; ghost }
	field k  final = a as Int
	field l  final = a < b && b > c
	field m  final = foo<Int>(1) { val ghost = 3 }
	constructor A()
`},
	{"comments everywhere", `class /* a */ A /* b { */ (// val ghost: Int
    val a /* : String */ : Int /* = 3 */, /* val ghost: Int, /* nested */ */
    val b: String = "/* no */ // no" // , val ghost
) { // {
    /** val ghost: Int */
    val c = 1 /* } */
}`, `
class A static
	field c Int final = 1
	field a Int final
	field b String final = "/* no */ // no"
	constructor A(a Int, b String =)
`},
	{"strings that look like source", `class A {
    val a = "class Ghost { val x = 1 }"
    val b = """
        class Ghost(val x: Int) {
        ${ listOf("}").joinToString { "{" } }
    """
    val c = "${ if (true) "}" else "{" } $a"
    val d = '"'
    val e = '\''
    val f = "\"}"
}`, `
class A static
	field a String final = "class Ghost { val x = 1 }"
	field b String final = """ class Ghost(val x: Int) { ${ listOf("}").joinToString { "{" } } """
	field c String final = "${ if (true) "}" else "{" } $a"
	field d Char final = '"'
	field e Char final = '\''
	field f String final = "\"}"
	constructor A()
`},
	{"what is no Kotlin", `class A(val a: Int { val b = 1
class B(val b: String)`, `
class A static
	constructor A()
problem 1:8 '(' is never closed
problem 1:20 '{' is never closed
`},
	{"brackets that close nothing", `class A(val a: Int) } )
class B(val b: String)`, `
class A static
	field a Int final
	constructor A(a Int)
class B static
	field b String final
	constructor B(b String)
problem 1:21 '}' closes nothing
problem 1:23 ')' closes nothing
`},
	{"a string that never ends", `class A(val a: String = "x
)
class B(val b: Int)`, `
class A static all-defaults
	field a String final = "x
	constructor A(a String =)
class B static
	field b Int final
	constructor B(b Int)
problem 1:25 a string that never ends
`},
	{"words that are no modifiers", `class A(val data: Int, val value: String, val open: Boolean, val inner: Int, val enum: Int) { val sealed = 1; var companion: Int = 2 }`, `
class A static
	field sealed Int final = 1
	field companion Int = 2
	field data Int final
	field value String final
	field open Boolean final
	field inner Int final
	field enum Int final
	constructor A(data Int, value String, open Boolean, inner Int, enum Int)
`},
	{"an extension and a delegate of a class", `class A(private val b: B) : Named by b { val x = b.x }`, `
class A static is Named
	field x  final = b.x
	field b B private final
	constructor A(b B)
`},
	{"contracts of expect and actual", `expect class Clock { val now: Long }
actual class Time actual constructor(actual val now: Long)`, `
class Clock static
	field now Long final
	constructor Clock()
class Time static
	field now Long final
	constructor Time(now Long)
`},
	{"generic functions with bounds", `class A { inline fun <reified T> from(text: String): T where T : Any = gson.fromJson(text, T::class.java) }`, `
class A static
	constructor A()
	method from(text String) T
`},
}

// Forms that are rarer than those of Fields.kt, read by the same rule: a line with a want
// comment declares just the fields it lists.
@file:Suppress("unused", "val ghost: Int")
@file:[JvmName("Odd") JvmMultifileClass]

package ferry.saltmere.`odd forms`

import ferry.saltmere.core.Money as Price
import java.time.*; import java.net.URL

class Plain // model class
class Empty()
class Trailing(val a: Int, val b: String,) // model class; want a Int; b String
class Hidden private constructor(val a: Int) // model class; want a Int
class Injected @Inject @Named("val x: Int") constructor(private val a: Int) // model class; want a Int
class Bounded<T>(val item: T) where T : Any, T : Comparable<T> // model class; want item T
class Nested<T : List<Map<String, Int>>>(val item: T, val more: Map<String, List<Pair<Int, Int?>>>?) // model class; want item T; more Map<String, List<Pair<Int, Int?>>>?
data class Functions( // model class
    val none: () -> Unit = {}, // want none () -> Unit = {}
    val one: (Int) -> String? = { "val x: Int, $it" }, // want one (Int) -> String? = { "val x: Int, $it" }
    val curried: (Int) -> (Int) -> Int, // want curried (Int) -> (Int) -> Int
    val maybe: ((Int, String) -> Unit)? = null, // want maybe (Int, String) -> Unit? = null
    val waits: suspend (Int) -> Unit, // want waits suspend (Int) -> Unit
    val on: String.(Int) -> Unit, // want on String.(Int) -> Unit
)
class Names(val `in`: Int, val `two words`: Int, val ünder_strich: Int, val _x: Int, val `val`: Int) // model class; want in Int; two words Int; ünder_strich Int; _x Int; val Int
class Soft(val data: Int, val value: Int, val get: Int, val set: Int, val by: Int, val inner: Int, val open: Int, val init: Int, val where: Int, val out: Int) // model class; want data Int; value Int; get Int; set Int; by Int; inner Int; open Int; init Int; where Int; out Int
class Annotated( // model class
    @field:SerializedName("a") @get:Suppress("x") @param:Named(value = "q, val w: Int") val a: Int, // want a Int
    @SerializedName(
        value = "b", // val inComment: Int
        alternate = ["c", "d"],
    )
    // val alsoComment: Int
    val b: Int, // want b Int
    /** val inDoc: Int */ @A @B(C(1, 2)) @D<Int>() private
    val c: Int, // want c Int
    @A("${"}"}") vararg val rest: String, // want rest Array<String>
    noinline: Int, crossinline: () -> Unit = {}, vararg other: Int,
)
class Body { // model class
    val a = 1; val b = "x"; var c: Int? = null // want a Int = 1; b String = "x"; c Int? = null
    val lambda = { x: Int -> val inLambda = x } // want lambda  = { x: Int -> val inLambda = x }
    val anonymous = fun(x: Int): Int { val inFunction = 1 } // want anonymous  = fun(x: Int): Int { val inFunction = 1 }
    val thing = object : Runnable { override fun run() { val inObject = 1 } } // want thing  = object : Runnable { override fun run() { val inObject = 1 } }
    val choice = if (a > 1) { val inIf = 1 } else 3 // want choice  = if (a > 1) { val inIf = 1 } else 3
    val case = when (a) { 1 -> "val x: Int" else -> { val inWhen = 1 } } // want case  = when (a) { 1 -> "val x: Int" else -> { val inWhen = 1 } }
    val elvis: String = c?.toString() // want elvis String = c?.toString() ?: "none"
        ?: "none"
    val sum: Int = 1 + // want sum Int = 1 + 2
        2
    val both = a > 1 && // want both  = a > 1 && b == "x"
        b == "x"
    val chain: List<String> = listOf("a") // want chain List<String> = listOf("a") .map { it } .filter { true }
        .map { it }
        .filter { true }
    val cast: Any = a as // want cast Any = a as Any
        Any
    val generic: Map<String, Int> = hashMapOf<String, Int>() // want generic Map<String, Int> = hashMapOf<String, Int>()
    val less = a < 2; val more = a > 1 // want less  = a < 2; more  = a > 1
    val char = '"'; val quote = '\''; val back = "\\"; val after = 1 // want char Char = '"'; quote Char = '\''; back String = "\\"; after Int = 1
    val template = "a ${if (a > 1) "val x: Int = ${"}"}" else "}"} b" // want template String = "a ${if (a > 1) "val x: Int = ${"}"}" else "}"} b"
    val raw = """val inRaw: Int = 1 ${"}"} "quoted" """"; val behind = 2 // want raw String = """val inRaw: Int = 1 ${"}"} "quoted" """"; behind Int = 2
    val hex = 0xFFL; val bin = 0b1010; val under = 1_000_000; val float = 1e3f; val unsigned = 10u // want hex Long = 0xFFL; bin Int = 0b1010; under Int = 1_000_000; float Float = 1e3f; unsigned UInt = 10u
    val computed: Int get() = 1
    val computedBelow: Int
        get() { val inGetter = 1; return inGetter }
    val computedToo get() = a + 1
    var written: Int // want written Int = 0
        = 0
        get() = field
        private set
    var onlySet: Int = 0 // want onlySet Int = 0
        set(value) { val inSetter = 1; field = value }
    var restricted: Int = 0; private set // want restricted Int = 0
    lateinit var late: Plain // want late Plain
    private lateinit var lateToo: MutableList<Plain> // want lateToo List<Plain>
    val delegated by lazy { val inLazy: Int = 1; inLazy }
    val typedDelegated: Int by lazy(LazyThreadSafetyMode.NONE) { 1 }
    var observed: Int by Delegates.observable(0) { _, old, new -> val inObserver = old + new }
    val Plain.extension: Int get() = 1
    val <T> List<T>.second: T get() = this[1]
    val price: Price? = null; val day = LocalDate.now() // want price ferry.saltmere.core.Money? = null; day  = LocalDate.now()
    val (destructured, too) = 1 to 2
    operator fun component1() = 1
    infix fun meets(other: Body): Boolean { val inInfix = 1; return true }
    inline fun <reified T> each(noinline f: (T) -> Unit = { val inDefault = 1 }) { }
    fun expression(x: Int = 1) = x + 1
    fun expressionBelow(x: Int) =
        x.let { val inLet = it; it }
    fun String.extended(): Int = length
    tailrec fun loop(n: Int): Int = if (n == 0) 0 else loop(n - 1)
    init { val inInit = 1 }
    constructor(a: Int) : super() { val inConstructor = a }
    class Static { val x = 1 } // model class; want x Int = 1
    inner class Inner(val y: Int) // model class; want y Int
    companion object Named : Runnable { const val MAX = 1; val shared: Int = 2; @JvmField val field = 3; override fun run() {} }
    val last: Int? = null // want last Int? = null
    val big = 3_000_000_000; val mask = 0xFFFFFFFF; val small = 0x7FFFFFFF; val wide = 4294967296u // want big Long = 3_000_000_000; mask Long = 0xFFFFFFFF; small Int = 0x7FFFFFFF; wide ULong = 4294967296u
}
abstract class Base<out T : Any>(protected open val a: T, b: Int) { abstract val c: Int; open val d: Int = 1; internal var e = 2L } // model class; want a T; d Int = 1; e Long = 2L
class Derived(override val a: String, b: Int) : Base<String>(a, b), Runnable by Task(b) { override val c: Int = 1; override fun run() {} } // model class; want a String; c Int = 1
enum class Level(val raw: Int, private val label: String = "a, b") { // model enum; want raw Int; label String = "a, b"
    LOW(1), MID(2, "val x: Int") { override fun f() = 1; val inConstant = 2 },
    @SerializedName("high") HIGH(3);
    open fun f() = 0
    val twice = raw * 2; companion object { val x = 1 } // want twice  = raw * 2
}
enum class Bare { A, B, C } // model enum
enum class Semi { A, B,; val x = 1 } // model enum; want x Int = 1
sealed interface Event { val at: Long
    data class Left(override val at: Long, val port: String) : Event // model class; want at Long; port String
    data object Nothing : Event { override val at = 0L }
    object Single : Event { override val at: Long get() = 1 }
}
sealed class Result<out T> { data class Ok<T>(val value: T) : Result<T>() // model class; want value T
    data class Bad(val why: String) : Result<Nothing>() } // model class; want why String
fun interface Check { fun check(x: Int): Boolean }
@JvmInline value class Id(val raw: Long) { val hex: String get() = raw.toString(16) } // model class; want raw Long
annotation class Mark(val name: String = "", val inner: Array<String> = [])
object Registry { val x = 1; var y: Int = 2; class Entry(val z: Int) } // model class; want z Int
typealias Table<K> = Map<K, List<Plain>>
typealias Handler = (Plain) -> Unit
class Aliased(val table: Table<String>, val handler: Handler?, val urls: List<URL>) // model class; want table Map<String, List<Plain>>; handler (Plain) -> Unit?; urls List<URL>
class Stars(val a: List<*>, val b: Map<String, *>, val c: Array<out Number>, val d: MutableList<in Int>, val e: Array<Array<Int?>>) // model class; want a List<Any?>; b Map<String, Any?>; c Array<Number>; d List<Any?>; e Array<Array<Int?>>
class Platform(val a: IntArray, val b: Array<String?>?, val c: java.util.Date, val d: kotlin.collections.List<kotlin.String>, val e: Set<@Mark("x") String>) // model class; want a IntArray; b Array<String?>?; c Date; d List<String>; e Set<String>
class Definite<T>(val a: T & Any, val b: (List<Int>)?, val c: ((Int)), val d: Triple<Int, String, Boolean>) // model class; want a T; b List<Int>?; c Int; d Triple<Int, String, Boolean>
expect class Shared(val a: Int) // model class; want a Int
@Deprecated("class Ghost(val x: Int)") internal data class Marked(val a: Int) // model class; want a Int
public final data class Modified public constructor(public val a: Int, internal var b: Int) // model class; want a Int; b Int
val topLevel = object { val inTop = 1 }
fun top(x: Int) { data class Local(val inLocal: Int); val y = 1 }
class After(val a: Int) // model class; want a Int

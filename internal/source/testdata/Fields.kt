// What is a field and what only looks like one. A line with a want comment declares
// just the fields it lists, as NAME TYPE; any other line declares none.
@file:JvmName("Fields")
package ferry.saltmere.kt

import java.math.BigDecimal
import java.util.*

typealias Metres = Double
typealias Table<V> = Map<String, List<V>>

data class Harbour( // model class
    val code: String, // want code String
    var depth: Metres? = 3.0, // want depth Double? = 3.0
    @Deprecated("val ghost: Int") private val since: Date?, // want since Date?
    val names: List<String?> = listOf("a", "val b: Int"), // want names List<String?> = listOf("a", "val b: Int")
    val table: Table<Int>, // want table Map<String, List<Int>>
    val grid: Array<IntArray>, // want grid Array<IntArray>
    val any: List<*>, // want any List<Any?>
    val call: (Int) -> String = { it.toString() }, // want call (Int) -> String = { it.toString() }
    plain: Int,
    vararg val rest: Int, // want rest Array<Int>
    @field:[Anno("x") Other] val `in`: Int // want in Int
) : Base(), Comparable<Harbour> {
    val label get() = "x$code"
    val twice: Int get() = plain * 2
    var counted = 40 // want counted Int = 40
        private set
    var backed: Int = 1 // want backed Int = 1
        get() = field + 1
        set(value) { field = value }
    val lazyOne: String by lazy { val inside: Int = 1; "x" }
    lateinit var vessel: Vessel // want vessel Vessel
    val price = BigDecimal("1.5") // want price BigDecimal = BigDecimal("1.5")
    val ratio = -1.5f // want ratio Float = -1.5f
    val long = 10L // want long Long = 10L
    val empty = mutableListOf<String>() // want empty List<String> = mutableListOf<String>()
    @Transient val cached: String? = null // want cached String? = null transient
    val multi: Int = // want multi Int = 1 + 2
        1 +
        2
    val chained: String = "a" // want chained String = "a" .trim()
        .trim()
    val text = """ val inText: Int $code ${ "}" } """ // want text String = """ val inText: Int $code ${ "}" } """
    val Other.extension: Int get() = 1
    init { val inInit: Int = 1 }
    constructor(code: String) : this(code, 1.0, null) { val inConstructor = 1 }
    fun method(p: Int = 3): Int { val local: Int = 4; return local }
    fun expression(): Int = run { val inRun = 1; inRun }
    /* val block: Int /* val deeper: Int */ val still: Int */
    companion object { const val MAX = 3; var shared = 1; @JvmStatic fun make(): Harbour? = null }
    inner class Berth { var n: Int = 0 } // model class; want n Int = 0
    object Single { val one = 1 }
    enum class Colour(val raw: Int) { RED(1) { override fun f() = 1 }, GREEN(2); open fun f() = 0 } // model enum; want raw Int
    val after: Int = 1 // want after Int = 1
}

open class Base { open val id: Int = 0; protected var own: String? = null } // model class; want id Int = 0; own String? = null
class Vessel // model class
sealed class Notice { data class Delay(val minutes: Int) : Notice() // model class; want minutes Int
    object Stop : Notice()
}
@JvmInline value class Code(val raw: String) // model class; want raw String
interface Shape { val sides: Int }
annotation class Anno(val value: String)
abstract class Paged<T : Any, out R>(val items: List<T>, open val next: R?) // model class; want items List<T>; next R?
val topLevel: Int = 1
fun free() { class Local(val hidden: Int) }

package ferry.saltmere
import com.google.gson.FieldNamingPolicy
import com.google.gson.Gson
import com.google.gson.GsonBuilder

data class Pier(val code: String)
data class Fare(val pence: Int)
data class Notice(val text: String)
data class Pass(val id: Int)

// two classes whose decoders have one name
class Plain {
    private val gson = Gson()
    fun show(): String = gson.toJson(1)
}
class Reader(private val http: (String) -> String) {
    private val gson = GsonBuilder().setFieldNamingPolicy(FieldNamingPolicy.LOWER_CASE_WITH_UNDERSCORES).create()
    fun <T> get(path: String, kind: Class<T>): T = gson.fromJson(http(path), kind)
}
fun pier(r: Reader): Pier = r.get("v11/pier", Pier::class.java)     // asks Pier v11/pier by naming LOWER_CASE_WITH_UNDERSCORES

// one that is made when it is first asked for
class Lazily(private val http: (String) -> String) {
    private val gson by lazy {
        val builder = GsonBuilder()
        builder.setFieldNamingPolicy(FieldNamingPolicy.LOWER_CASE_WITH_UNDERSCORES)
        builder.create()
    }
    fun <T> get(path: String, kind: Class<T>): T = gson.fromJson(http(path), kind)
}
fun notice(l: Lazily): Notice = l.get("v11/notice", Notice::class.java)     // asks Notice v11/notice by naming LOWER_CASE_WITH_UNDERSCORES

// one that is another once it has been set
class Builder(private val http: (String) -> String) {
    private var gson = Gson()
    fun with(g: Gson): Builder { gson = g; return this }
    fun <T> read(path: String, kind: Class<T>): T = gson.fromJson(http(path), kind)
}
val snake = GsonBuilder().setFieldNamingPolicy(FieldNamingPolicy.LOWER_CASE_WITH_UNDERSCORES).create()
fun fare(http: (String) -> String): Fare = Builder(http).with(snake).read("v11/fare", Fare::class.java)     // asks Fare v11/fare by one of several
// one by what a request holds
class Ask<T>(val path: String, val kind: Class<T>, val gson: Gson = snake)
fun <T> run(ask: Ask<T>, http: (String) -> String): T = ask.gson.fromJson(http(ask.path), ask.kind)
fun pass(http: (String) -> String): Pass = run(Ask("v11/pass", Pass::class.java), http)     // asks Pass v11/pass by naming LOWER_CASE_WITH_UNDERSCORES
fun other(http: (String) -> String): Pass = run(Ask("v11/pass/2", Pass::class.java, Gson()), http)     // asks Pass v11/pass/2 by plain
// and where the type is told beside the decoder
class Harbour(private val http: (String) -> String) {
    private var gson = Gson()
    fun use(g: Gson) { gson = g }
    fun pier(): Pier = gson.fromJson(http("v11/harbour"), Pier::class.java)     // asks Pier v11/harbour by one of several
}
class Quay(private val http: (String) -> String) {
    fun pier(): Pier = gson.fromJson(http("v11/quay"), Pier::class.java)     // asks Pier v11/quay by naming LOWER_CASE_WITH_UNDERSCORES
    private val gson = snake
}
// one that is handed in, of a name that another class's has
class Injected @Inject constructor(private val http: (String) -> String, @Named("snake") private val codec: Gson) {
    fun pier(): Pier = codec.fromJson(http("v11/injected"), Pier::class.java)     // asks Pier v11/injected by one of several
}
object Locator { lateinit var codec: Gson }
fun setUp() { Locator.codec = Gson() }

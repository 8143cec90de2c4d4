package ferry.saltmere
import com.google.gson.FieldNamingPolicy
import com.google.gson.Gson
import com.google.gson.GsonBuilder
import com.google.gson.reflect.TypeToken
import io.ktor.client.HttpClient
import io.ktor.client.call.body
import io.ktor.client.request.get
import io.ktor.client.statement.HttpResponse
import io.ktor.client.statement.bodyAsText
import io.reactivex.rxjava3.core.Single

data class Pier(val code: String)
data class Ferry(val name: String)
data class Fare(val pence: Int)
data class Notice(val text: String)
data class Pass(val id: Int)
data class Wrapped<T>(val payload: T)

val snake: Gson = GsonBuilder().setFieldNamingPolicy(FieldNamingPolicy.LOWER_CASE_WITH_UNDERSCORES).create()

class Texts(private val client: HttpClient) {
    suspend inline fun <reified T> read(path: String): T = snake.fromJson(text(path), object : TypeToken<T>() {}.type)
    suspend fun text(path: String): String = client.get(path).bodyAsText()
    suspend fun piers(): List<Pier> = read("v10/piers")     // asks List<Pier> v10/piers by naming LOWER_CASE_WITH_UNDERSCORES
    suspend fun ferry(id: Int) = read<Ferry>("v10/ferries/$id")     // asks Ferry v10/ferries/{}
    suspend fun wrapped(): Pass = unwrap("v10/pass")     // asks Wrapped<Pass> v10/pass
    private suspend inline fun <reified T> unwrap(path: String): T = read<Wrapped<T>>(path).payload
}
class Endpoint<T>(val path: String, val parse: (String) -> T)
object Endpoints {
    val fares = Endpoint("v10/fares") { snake.fromJson<List<Fare>>(it, object : TypeToken<List<Fare>>() {}.type) }     // asks List<Fare>
    val notice = endpoint<Notice>("v10/notice")     // asks Notice v10/notice
    inline fun <reified T> endpoint(path: String) = Endpoint(path) { text -> Gson().fromJson(text, T::class.java) }
}
class RxStore(private val source: (String) -> Single<String>) {
    private fun <T : Any> get(path: String, kind: Class<T>): Single<T> = source(path).map { Gson().fromJson(it, kind) }
    fun notice(): Single<Notice> = get("v10/rx", Notice::class.java)     // asks Notice v10/rx
    fun piers() = get("v10/rx/all", Array<Pier>::class.java).map { it.toList() }     // asks Array<Pier> v10/rx/all
}
sealed class Outcome<out T> { data class Ok<T>(val value: T) : Outcome<T>(); object Failed : Outcome<Nothing>() }
inline fun <reified T> outcome(block: () -> String): Outcome<T> = try { Outcome.Ok(Gson().fromJson(block(), T::class.java)) } catch (e: Exception) { Outcome.Failed }
class Outcomes(private val http: (String) -> String) {
    fun ferry(): Outcome<Ferry> = outcome { http("v10/outcome") }     // asks Ferry v10/outcome
    fun shown(): String = when (val o = outcome<Fare> { http("v10/fare") }) { is Outcome.Ok -> o.value.toString(); Outcome.Failed -> "" }     // asks Fare v10/fare
}
fun <A, B> both(a: String, b: String, one: Class<A>, other: Class<B>): Pair<A, B> =
    Pair(Gson().fromJson(a, one), Gson().fromJson(b, other))
fun two() = both("", "", Pier::class.java, Ferry::class.java)     // asks PierFerry

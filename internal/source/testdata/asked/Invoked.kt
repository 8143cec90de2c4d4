package ferry.saltmere
import com.google.gson.Gson
import com.google.gson.reflect.TypeToken
import kotlinx.coroutines.flow.Flow
import kotlinx.coroutines.flow.flow
import kotlinx.coroutines.flow.map
import retrofit2.Call
import retrofit2.Response
import retrofit2.http.GET
import java.lang.reflect.Type
import kotlin.reflect.KClass

data class Pier(val code: String)
data class Ferry(val name: String)
data class Fare(val pence: Int)
data class Notice(val text: String)
data class Pass(val id: Int)
data class Base<T>(val result: T?, val error: String?)

interface Service {
    @GET("v7/piers") suspend fun piers(): Response<Base<List<Pier>>>     // asks Base<List<Pier>> v7/piers
    @GET("v7/ferry") fun ferry(): Call<Base<Ferry>>     // asks Base<Ferry> v7/ferry
}
suspend fun <T> safeCall(call: suspend () -> Response<Base<T>>): Result<T?> = runCatching { call().body()?.result }
class Repo(private val service: Service) { suspend fun piers() = safeCall { service.piers() } }

class Rest(private val gson: Gson, private val fetch: suspend (String) -> String) {
    suspend operator fun <T : Any> invoke(path: String, kind: KClass<T>): T = gson.fromJson(fetch(path), kind.java)
    suspend fun <T> list(path: String, type: TypeToken<List<T>>): List<T> = gson.fromJson(fetch(path), type.type)
    inline fun <reified T> stream(path: String): Flow<T> = flow { emit(read<T>(path, object : TypeToken<T>() {}.type)) }
    suspend fun <T> read(path: String, type: Type): T = gson.fromJson(fetch(path), type)
}
class Screens(private val rest: Rest) {
    suspend fun fare(): Fare = rest("v7/fare", Fare::class)     // asks Fare v7/fare
    suspend fun fares() = rest.list("v7/fares", object : TypeToken<List<Fare>>() {})     // asks List<Fare> v7/fares
    val notices: Flow<List<Notice>> = rest.stream("v7/notices")     // asks List<Notice> v7/notices
    fun passes(): Flow<Pass> = rest.stream<Pass>("v7/pass").map { it }     // asks Pass v7/pass
}
class Parse<T>(private val type: Class<T>) : (String) -> T {
    override fun invoke(text: String): T = Gson().fromJson(text, type)
}
val parsePier = Parse(Pier::class.java)     // asks Pier
object Assets {
    private inline fun <reified T> asset(name: String): Lazy<T> = lazy { Gson().fromJson(text(name), T::class.java) }
    val ferry by asset<Ferry>("ferry.json")     // asks Ferry
    val pass: Pass by asset("pass.json")     // asks Pass
    fun text(name: String): String = ""
}

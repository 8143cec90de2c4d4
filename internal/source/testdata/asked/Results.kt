package ferry.saltmere
import com.google.gson.Gson
import com.google.gson.reflect.TypeToken
import java.lang.reflect.Type

data class Pier(val code: String)
data class Ferry(val name: String)
data class Fare(val pence: Int)
data class Notice(val text: String)
data class Envelope<T>(val data: T, val status: String)

// sealed network result
sealed class NetworkResult<out T> {
    data class Success<T>(val value: T) : NetworkResult<T>()
    data class Error(val message: String) : NetworkResult<Nothing>()
}
class Http { fun text(path: String): String = "" }

class SafeClient(private val http: Http, private val gson: Gson) {
    inline fun <reified T> safe(path: String, crossinline onError: (Exception) -> Unit = {}): NetworkResult<T> =
        try { NetworkResult.Success(parse<T>(path, object : TypeToken<T>() {}.type)) } catch (e: Exception) { onError(e); NetworkResult.Error(e.message ?: "") }
    fun <T> parse(path: String, type: Type): T = gson.fromJson(http.text(path), type)
}
class PierRepository(private val client: SafeClient) {
    fun all(): NetworkResult<List<Pier>> = client.safe("/v3/piers")     // asks List<Pier> v3/piers
    fun one(id: String) = client.safe<Pier>("/v3/piers/$id")     // asks Pier v3/piers/{}
    fun wrapped(): NetworkResult<Envelope<Ferry>> { return client.safe("/v3/ferry") }     // asks Envelope<Ferry> v3/ferry
}
// generic base repository with Class
abstract class BaseRepository<T>(private val type: Class<T>, private val http: Http) {
    abstract val path: String
    fun load(): T = Gson().fromJson(http.text(path), type)
}
class FareRepository(http: Http) : BaseRepository<Fare>(Fare::class.java, http) {     // asks Fare v3/fare
    override val path = "/v3/fare"
}
// extension on String
inline fun <reified T> String.parsed(): T = Gson().fromJson(this, T::class.java)
fun notice(http: Http): Notice = http.text("/v3/notice").parsed()     // asks Notice v3/notice
fun notices(http: Http) = http.text("/v3/notices").parsed<Array<Notice>>().toList()     // asks Array<Notice> v3/notices
// LiveData + callback lambda typed
fun <T> fetch(http: Http, path: String, type: Type, done: (T) -> Unit) { done(Gson().fromJson(http.text(path), type)) }
fun showFerries(http: Http) {
    fetch<List<Ferry>>(http, "/v3/ferries", object : TypeToken<List<Ferry>>() {}.type) { println(it) }     // asks List<Ferry> v3/ferries
}

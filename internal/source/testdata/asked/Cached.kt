package ferry.saltmere
import com.fasterxml.jackson.databind.ObjectMapper
import com.fasterxml.jackson.module.kotlin.jacksonObjectMapper
import com.fasterxml.jackson.module.kotlin.readValue
import com.fasterxml.jackson.core.type.TypeReference
import retrofit2.http.GET
import retrofit2.http.Path
import retrofit2.Response

data class Pier(val code: String)
data class Ferry(val name: String)
data class Fare(val pence: Int)
data class Notice(val text: String)
data class Paged<T>(val items: List<T>, val next: String?)

object Json { val mapper: ObjectMapper = jacksonObjectMapper() }
interface Api {
    @GET("v4/piers") suspend fun piers(): Response<Paged<Pier>>     // asks Paged<Pier> v4/piers
    @GET("v4/ferries/{id}") suspend fun ferry(@Path("id") id: Int): Result<Ferry>     // asks Ferry v4/ferries/{id}
}
class Store(private val read: suspend (String) -> String) {
    private suspend inline fun <reified T : Any> load(path: String): T = Json.mapper.readValue(read(path))
    suspend fun fare(): Fare = load("/v4/fare")     // asks Fare v4/fare
    suspend fun fares(): List<Fare> { return load("/v4/fares") }     // asks List<Fare> v4/fares
    val notice: suspend () -> Notice = { load("/v4/notice") }     // asks Notice v4/notice
}
class Cached<T : Any>(private val path: String, private val ref: TypeReference<T>, private val read: (String) -> String) {
    fun value(): T = Json.mapper.readValue(read(path), ref)
}
val cachedPiers = Cached("/v4/cached", object : TypeReference<List<Pier>>() {}) { "" }     // asks List<Pier> v4/cached
class Screen {
    private val ferries = Cached<List<Ferry>>("/v4/all", object : TypeReference<List<Ferry>>() {}) { it }     // asks List<Ferry> v4/all
}
fun <T> ObjectMapper.page(text: String, item: Class<T>): Paged<T> =
    readValue(text, typeFactory.constructParametricType(Paged::class.java, item))
fun notices(text: String) = Json.mapper.page(text, Notice::class.java)     // asks Paged<Notice>

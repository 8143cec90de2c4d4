package ferry.saltmere

import com.google.gson.Gson
import com.google.gson.GsonBuilder
import com.google.gson.reflect.TypeToken
import java.lang.reflect.Type
import kotlin.reflect.KClass

data class Port(val code: String)
data class Fare(val price: Double)
data class Vessel(val name: String)

enum class Route(val path: String) {
    PORTS("v2/ports"),
    FARES("v2/fares"),
}

interface Api {
    fun <T : Any> get(path: String, type: KClass<T>): T
    fun <T> list(path: String, type: Type): List<T>
}

class HttpApi(private val http: Http, private val gson: Gson) : Api {
    override fun <T : Any> get(path: String, type: KClass<T>): T = gson.fromJson(http.get(path), type.java)
    override fun <T> list(path: String, type: Type): List<T> = gson.fromJson(http.get(path), type)
}

sealed interface Outcome<out T> {
    data class Ok<T>(val value: T) : Outcome<T>
    data object Failed : Outcome<Nothing>
}

suspend fun <T> safely(block: suspend () -> T): Outcome<T> = try {
    Outcome.Ok(block())
} catch (e: Exception) {
    Outcome.Failed
}

inline fun <reified T> String.decoded(): T = Gson().fromJson(this, T::class.java)
inline fun <reified T> Http.all(path: String): List<T> = one<Array<T>>(path).toList()
inline fun <reified T> Http.one(path: String): T = get(path).decoded<T>()

class PortRepository(private val api: Api, private val http: Http) {
    private val _port = MutableLiveData<Port>()
    private val ports: List<Port> by lazy { http.all("v2/ports/lazy") } // asks Array<Port> v2/ports/lazy

    fun port(code: String): Port = api.get("v2/ports/$code", Port::class) // asks Port v2/ports/{}
    fun fares(): List<Fare> = api.list(Route.FARES.path, object : TypeToken<List<Fare>>() {}.type) // asks List<Fare> v2/fares
    fun flow(): Flow<Vessel> = flow { emit(http.one("v2/vessels/1")) } // asks Vessel v2/vessels/1
    suspend fun vessel(): Outcome<Vessel> = safely { http.one("v2/vessels/2") } // asks Vessel v2/vessels/2
    fun refresh() {
        _port.value = http.one("v2/port") // asks Port v2/port
    }
    fun text(text: String): Fare? = text.takeIf { it.isNotEmpty() }?.decoded() // asks Fare
}

package ferry.saltmere

import com.google.gson.Gson
import com.google.gson.reflect.TypeToken

data class Port(val code: String)
data class Sailing(val id: Int)
data class Page<T>(val items: List<T>)

const val PORTS = "v2/ports"

inline fun <reified T> Gson.read(text: String): T = fromJson(text, object : TypeToken<T>() {}.type)

class SaltmereClient(private val http: Http) {
    val gson = Gson()

    suspend fun ports(): List<Port> = get(PORTS) // asks List<Port> v2/ports
    suspend fun port(code: String): Port {
        return get("v2/ports/$code") // asks Port v2/ports/{}
    }
    suspend fun sailings(): Page<Sailing> = withContext(Dispatchers.IO) {
        get("v2/sailings") // asks Page<Sailing> v2/sailings
    }
    fun cached(text: String) = gson.read<Sailing>(text) // asks Sailing
    fun kept(text: String): Port? = runCatching { gson.read<Port>(text) }.getOrNull() // asks Port

    private suspend inline fun <reified T> get(path: String): T {
        val body = http.get("https://api.saltmere.example/$path")
        return gson.read(body)
    }
}

package ferry.saltmere

import com.fasterxml.jackson.databind.ObjectMapper
import com.fasterxml.jackson.module.kotlin.jacksonObjectMapper
import com.fasterxml.jackson.module.kotlin.readValue
import kotlin.coroutines.resume

data class Port(val code: String)
data class Fare(val price: Double)
data class Base<T>(val ok: Boolean, val result: T)

typealias Ports = List<Port>

val mapper: ObjectMapper = jacksonObjectMapper()

suspend inline fun <reified T> OkHttpClient.fetch(path: String): T = suspendCancellableCoroutine { continuation ->
    newCall(Request.Builder().url("https://api.saltmere.example/$path").build()).enqueue(object : Callback {
        override fun onResponse(call: Call, response: Response) {
            val value: T = mapper.readValue(response.body!!.string())
            continuation.resume(value)
        }
        override fun onFailure(call: Call, e: IOException) = continuation.resumeWithException(e)
    })
}

inline fun <reified T> parse(text: String): T = mapper.readValue(text)

suspend inline fun <reified T> OkHttpClient.result(path: String): T = fetch<Base<T>>(path).result

class PortViewModel(private val http: OkHttpClient) : ViewModel() {
    private val _state = MutableStateFlow<List<Fare>>(emptyList())

    suspend fun ports(): Ports = http.result("v2/ports") // asks Base<List<Port>> v2/ports
    suspend fun port(code: String): Port? = try {
        http.fetch("v2/ports/$code") // asks Port v2/ports/{}
    } catch (e: IOException) {
        null
    }
    fun refresh() = viewModelScope.launch {
        _state.value = http.result("v2/fares") // asks Base<List<Fare>> v2/fares
        val best = http.fetch<Fare>("v2/fares/best") // asks Fare v2/fares/best
        show(best)
    }
    fun stream(): Single<List<Fare>> = http.texts("v2/fares/live").map { text -> parse(text) } // asks List<Fare> v2/fares/live
    suspend fun all(codes: List<String>): List<Port> = codes.map { code -> http.fetch("v2/ports/$code") } // asks Port v2/ports/{}
}

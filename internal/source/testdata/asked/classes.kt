package ferry.saltmere

import com.fasterxml.jackson.core.type.TypeReference
import com.fasterxml.jackson.module.kotlin.jacksonObjectMapper
import java.lang.reflect.Type

data class Port(val code: String)
data class Fare(val price: Double)
data class Notice(val text: String)

sealed class Outcome<out T> {
    data class Ok<T>(val value: T) : Outcome<T>()
    class Failed(val why: String) : Outcome<Nothing>()
}

object Api {
    val mapper = jacksonObjectMapper()

    fun <T> get(path: String, type: Class<T>): Outcome<T> = try {
        Outcome.Ok(mapper.readValue(Http.get(path), type))
    } catch (e: Exception) {
        Outcome.Failed(e.toString())
    }
    fun <T> list(path: String, ref: TypeReference<T>): T = mapper.readValue(Http.get(path), ref)
}

class Repository {
    fun port(code: String) = Api.get("v2/ports/$code", Port::class.java) // asks Port v2/ports/{}
    fun fares(): List<Fare> = Api.list("v2/fares", object : TypeReference<List<Fare>>() {}) // asks List<Fare> v2/fares
}

class JsonRequest<T>(val path: String, private val type: Class<T>, private val listener: (T) -> Unit) : Request() {
    override fun parse(text: String) {
        listener(Api.mapper.readValue(text, type))
    }
}

fun notices(queue: Queue) {
    queue.add(JsonRequest("v2/notices", Array<Notice>::class.java) { show(it) }) // asks Array<Notice> v2/notices
}

abstract class Resource<T> {
    abstract val path: String
    fun load(): T = Api.mapper.readValue(Http.get(path), type()) // asks lost: no call of load was found that says what it decodes
    abstract fun type(): Class<T>
}

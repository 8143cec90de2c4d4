package ferry.saltmere

import com.google.gson.Gson
import com.google.gson.reflect.TypeToken
import java.lang.reflect.Type

data class Port(val code: String)
data class Fare(val price: Double)
data class Page<T>(val items: List<T>)

abstract class Repository<T>(protected val gson: Gson, private val type: Type) {
    fun load(path: String): T = gson.fromJson(Http.get(path), type)
}

class PortRepository(gson: Gson) : Repository<List<Port>>(gson, object : TypeToken<List<Port>>() {}.type) // asks List<Port>

class FareRepository : Repository<Page<Fare>>(Gson(), object : TypeToken<Page<Fare>>() {}.type) { // asks Page<Fare>
    fun best() = load("v2/fares")
}

// Of a class of its own at run time, its elements are maps: nothing of Port is read.
inline fun <reified T> Response.plain(gson: Gson): T = gson.fromJson(body!!.string(), T::class.java) // asks lost: what its callers name is no class of the source

fun raw(response: Response, gson: Gson): List<Port> = response.plain<List<Port>>(gson)

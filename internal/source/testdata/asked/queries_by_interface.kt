package saltmere

import com.google.gson.Gson
import okhttp3.OkHttpClient
import okhttp3.Request

data class Tide(val height: Double)

interface Query<R> { val path: String }

class Bus(private val gson: Gson, private val http: OkHttpClient) {
    inline fun <reified R> ask(query: Query<R>): R {
        val request = Request.Builder().url("https://api.saltmere.example/" + query.path).build()
        return gson.fromJson(http.newCall(request).execute().body!!.string(), R::class.java)
    }
}

class TideQuery(private val port: String) : Query<Tide> {
    override val path get() = "v5/tides/$port"
}

class Board(private val bus: Bus) {
    fun load() {
        val tide = bus.ask(TideQuery("SAL")) // asks Tide v5/tides/SAL
    }
}

data class Fare(val unitPrice: Double)

// What an instance is made with is what its property is, and nothing that another class calls so.
class Log { private val gson = com.google.gson.GsonBuilder().setFieldNamingPolicy(com.google.gson.FieldNamingPolicy.LOWER_CASE_WITH_UNDERSCORES).create()
    fun count(text: String): Tide = gson.fromJson(text, Tide::class.java) // asks Tide by naming LOWER_CASE_WITH_UNDERSCORES
}
class Fares(private val gson: Gson) {
    fun load(text: String): Fare = gson.fromJson(text, Fare::class.java) // asks Fare by naming UPPER_CAMEL_CASE
}
object Decoders { val upper: Gson = com.google.gson.GsonBuilder().setFieldNamingPolicy(com.google.gson.FieldNamingPolicy.UPPER_CAMEL_CASE).create() }
val fares = Fares(Decoders.upper)

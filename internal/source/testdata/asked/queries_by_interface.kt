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

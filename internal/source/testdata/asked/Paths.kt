package ferry.saltmere
import com.google.gson.Gson
import okhttp3.HttpUrl.Companion.toHttpUrl
import okhttp3.OkHttpClient
import okhttp3.Request

data class Pier(val code: String)
data class Fare(val pence: Int)
data class Notice(val text: String)
data class Pass(val id: Int)

// paths that are put together where they are requested
object Paths { fun pier(code: String) = "v12/piers/$code" }
class Http(private val client: OkHttpClient) {
    companion object { const val NOTICES = "v12/notices"; const val BASE = "https://api.saltmere.example/" }
    private val gson = Gson()
    fun body(path: String): String = client.newCall(Request.Builder().url(BASE + path).build()).execute().use { it.body!!.string() }
    fun notices(): Array<Notice> = gson.fromJson(body(NOTICES), Array<Notice>::class.java)     // asks Array<Notice> v12/notices
    fun pier(code: String): Pier = gson.fromJson(body(Paths.pier(code)), Pier::class.java)     // asks Pier v12/piers/{}
    fun fare(id: Int): Fare {
        val url = BASE.toHttpUrl().newBuilder().addPathSegments("v12/fares").addPathSegment(id.toString()).addQueryParameter("full", "1").build()
        val text = client.newCall(Request.Builder().url(url).build()).execute().use { it.body!!.string() }
        return gson.fromJson(text, Fare::class.java)     // asks Fare v12/fares/{}
    }
    fun pass(id: Int): Pass {
        val request = Request.Builder().url("${BASE}v12/passes/$id").get().build()
        client.newCall(request).execute().use { response ->
            val text = response.body?.string() ?: return Pass(0)
            return gson.fromJson(text, Pass::class.java)     // asks Pass v12/passes/{}
        }
    }
}

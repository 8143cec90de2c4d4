package ferry
import io.ktor.client.*
import io.ktor.client.request.*
import com.google.gson.Gson
import okhttp3.*
data class Ride(val sailing: Int)
data class Note(val text: String)
data class Envelope<T>(val data: T)
class KtorApi(private val client: HttpClient) {
    suspend fun ride(ride: Ride) = client.post("https://api.saltmere.example/v2/rides") { contentType(ContentType.Application.Json); setBody(ride) }
    suspend fun note() { client.put("v2/notes/1") { setBody(Note("x")) } }
    suspend fun wrapped(r: Ride) { client.post("v2/wrapped") { setBody(Envelope(r)) } }
}
class OkApi(private val gson: Gson, private val http: OkHttpClient) {
    fun ride(ride: Ride) {
        val body = gson.toJson(ride).toRequestBody("application/json".toMediaType())
        val request = Request.Builder().url("$BASE/v2/ok/rides").post(body).build()
        http.newCall(request).execute()
    }
    private inline fun <reified T> send(path: String, value: T): String = http.newCall(Request.Builder().url(BASE + path).method("PATCH", gson.toJson(value).toRequestBody()).build()).execute().body!!.string()
    fun note(n: Note) { send("/v2/reified", n) }
}
interface Api {
    @PATCH("v2/notes/{id}") suspend fun note(@Path("id") id: Int, @Body note: Note)
    @HTTP(method = "DELETE", path = "v2/notes", hasBody = true) fun drop(@Body notes: List<Note>): Call<Void>
    @FormUrlEncoded @POST("v2/form") fun form(@Field("a") a: String): Call<Void>
}

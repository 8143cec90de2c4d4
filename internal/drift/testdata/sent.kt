package ferry.saltmere

import com.google.gson.annotations.SerializedName
import retrofit2.http.*

// sent: {"pass":"SP-0104","sailing":"44","note":null,"deck":{"gate":"A","level":1},"tags":["x"],"at":1772964000}
// sent: {"pass":"SP-0105","sailing":"45","note":"aisle","deck":{"gate":"B","level":2},"tags":[],"at":1772964001}
// lost: 0 exactly
data class Root(
    @SerializedName("pass") val id: String,
    val sailing: Int, // want sent-otherwise 2/2 in 2
    val note: String?, // want null-left-out 1/2 in 1
    val deck: Deck,
    val tags: List<String>,
    val at: java.util.Date, // want sent-otherwise 2/2 in 2
    @Transient val cached: String = "",
    val extra: Map<String, Any>? = null
)

class Deck(val gate: String, private val floor: Int) // want unsent-key 2/2 in 2

interface Rides {
    @POST("v2/passes/{id}/rides")
    suspend fun ride(@Path("id") id: String, @Body ride: Root): Ack
}

data class Ack(val ok: Boolean)

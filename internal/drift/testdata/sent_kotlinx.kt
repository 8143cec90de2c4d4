package ferry.saltmere

import kotlinx.serialization.SerialName
import kotlinx.serialization.Serializable
import kotlinx.serialization.json.Json
import retrofit2.Retrofit
import retrofit2.converter.kotlinx.serialization.asConverterFactory
import retrofit2.http.*

// sent: {"pass":"SP-0104","sailing":"44","note":null,"seats":2}
// sent: {"pass":"SP-0105","sailing":"45","note":"aisle","seats":1,"gate":"A"}
// lost: 0 exactly
@Serializable
data class Root( // want unsent-optional 1/2 in 1
    @SerialName("pass") val id: String,
    val sailing: Int, // want sent-otherwise 2/2 in 2
    val note: String?,
    val seats: Int = 1,
    val zone: String = "inner",
)

interface Rides {
    @POST("v2/rides")
    suspend fun ride(@Body ride: Root): Ack
}

@Serializable
data class Ack(val ok: Boolean)

fun rides(): Rides = Retrofit.Builder().addConverterFactory(Json { ignoreUnknownKeys = true }.asConverterFactory("application/json".toMediaType())).build().create(Rides::class.java)

package ferry.saltmere

import com.squareup.moshi.Json
import retrofit2.Retrofit
import retrofit2.converter.moshi.MoshiConverterFactory
import retrofit2.http.*

// sent: {"pass":"SP-0104","sailing":"44","note":null,"seats":2}
// sent: {"pass":"SP-0105","sailing":"45","note":"aisle","seats":1,"gate":"A"}
// lost: 0 exactly
data class Root( // want unsent-optional 1/2 in 1
    @Json(name = "pass") val id: String,
    val sailing: Int, // want sent-otherwise 2/2 in 2
    val note: String?, // want null-left-out 1/2 in 1
    val seats: Int = 1,
    val zone: String = "inner",
)

interface Rides {
    @POST("v2/rides")
    suspend fun ride(@Body ride: Root): Ack
}

data class Ack(val ok: Boolean)

fun rides(): Rides = Retrofit.Builder().addConverterFactory(MoshiConverterFactory.create(Moshi.Builder().addLast(KotlinJsonAdapterFactory()).build())).build().create(Rides::class.java)

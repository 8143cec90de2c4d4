package ferry.saltmere

import com.google.gson.FieldNamingPolicy
import com.google.gson.Gson
import com.google.gson.GsonBuilder
import retrofit2.Retrofit
import retrofit2.converter.gson.GsonConverterFactory
import retrofit2.http.GET

data class Port(val portCode: String)
data class Fare(val basePrice: String)

interface PortApi {
    @GET("v2/ports")
    suspend fun ports(): List<Port> // asks List<Port> v2/ports by naming LOWER_CASE_WITH_UNDERSCORES
}

interface FareApi {
    @GET("v2/fares/best")
    fun best(): Call<Fare> // asks Fare v2/fares/best by naming LOWER_CASE_WITH_DASHES
}

object Network {
    private val snake = GsonBuilder().setFieldNamingPolicy(FieldNamingPolicy.LOWER_CASE_WITH_UNDERSCORES).create()
    private val main = Retrofit.Builder().addConverterFactory(GsonConverterFactory.create(snake)).build()
    private val other = Retrofit.Builder()
        .addConverterFactory(ScalarsConverterFactory.create())
        .addConverterFactory(GsonConverterFactory.create(GsonBuilder().setFieldNamingPolicy(FieldNamingPolicy.LOWER_CASE_WITH_DASHES).create()))
        .build()
    val ports: PortApi = main.create(PortApi::class.java)
    val fares: FareApi = other.create(FareApi::class.java)
}

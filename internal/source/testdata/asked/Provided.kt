package ferry.saltmere

import com.google.gson.FieldNamingPolicy
import com.google.gson.Gson
import com.google.gson.GsonBuilder
import dagger.Module
import dagger.Provides
import retrofit2.Retrofit
import retrofit2.converter.gson.GsonConverterFactory
import retrofit2.http.GET

data class Port(val portCode: String)
data class Fare(val basePrice: String)

@Module
object NetworkModule {
    @Provides fun provideGson(): Gson = GsonBuilder().setFieldNamingPolicy(FieldNamingPolicy.LOWER_CASE_WITH_UNDERSCORES).create()

    @Provides fun provideRetrofit(gson: Gson): Retrofit =
        Retrofit.Builder().baseUrl("https://api.saltmere.example/").addConverterFactory(GsonConverterFactory.create(gson)).build()

    @Provides fun providePorts(retrofit: Retrofit): PortApi = retrofit.create(PortApi::class.java)
}

interface PortApi {
    @GET("v2/ports")
    suspend fun ports(): Response<List<Port>> // asks List<Port> v2/ports by naming LOWER_CASE_WITH_UNDERSCORES
}

class FareCache @Inject constructor(private val gson: Gson) {
    fun fare(text: String): Fare = gson.fromJson(text, Fare::class.java) // asks Fare by naming LOWER_CASE_WITH_UNDERSCORES
}

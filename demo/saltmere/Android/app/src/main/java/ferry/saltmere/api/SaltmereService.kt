package ferry.saltmere.api

import com.google.gson.Gson
import com.google.gson.GsonBuilder
import retrofit2.Response
import retrofit2.Retrofit
import retrofit2.converter.gson.GsonConverterFactory
import retrofit2.http.Body
import retrofit2.http.GET
import retrofit2.http.POST
import retrofit2.http.Path

/** Talks to the Saltmere Ferries API. */
interface SaltmereService {
    @GET("v2/sailings")
    suspend fun sailings(): Response<SailingPage>

    @GET("v2/ports")
    suspend fun ports(): List<Port>

    @GET("v2/sailings/{id}/fares")
    suspend fun fares(@Path("id") sailing: Int): FareTable

    @POST("v2/passes/{id}/rides")
    suspend fun ride(@Path("id") pass: String, @Body ride: RideRequest): Response<Unit>
}

val gson: Gson = GsonBuilder().create()

val service: SaltmereService = Retrofit.Builder()
    .baseUrl("https://api.saltmere.example/")
    .addConverterFactory(GsonConverterFactory.create(gson))
    .build()
    .create(SaltmereService::class.java)

package ferry.saltmere

import io.ktor.client.HttpClient
import io.ktor.client.call.body
import io.ktor.client.plugins.contentnegotiation.ContentNegotiation
import io.ktor.client.request.get
import io.ktor.serialization.gson.gson

data class Port(val code: String)
data class Vessel(val name: String)

val client = HttpClient { install(ContentNegotiation) { gson { setLenient() } } }

class SaltmereClient {
    suspend fun ports(): List<Port> = client.get("https://api.saltmere.example/v2/ports").body() // asks List<Port> v2/ports
    suspend fun vessel(id: Int): Result<Vessel> = runCatching { fetch("v2/vessels/$id") } // asks Vessel v2/vessels/{}
    suspend fun port() = client.get("v2/port").body<Port>() // asks Port v2/port

    private suspend inline fun <reified T> fetch(path: String): T {
        val response = client.get(path) { header("Accept", "application/json") }
        return response.body()
    }
}

package ferry.saltmere

import io.ktor.client.HttpClient
import io.ktor.client.call.body
import io.ktor.client.plugins.contentnegotiation.ContentNegotiation
import io.ktor.client.request.get
import io.ktor.serialization.gson.gson

data class Port(val code: String)
data class Vessel(val name: String)
data class Fare(val price: Double)
data class Page<T>(val rows: List<T>, val next: String?)
data class Notice(val text: String)
data class Pass(val number: String)

sealed interface Outcome<out T> {
    data class Ok<T>(val value: T) : Outcome<T>
    data class Bad(val why: String) : Outcome<Nothing>
}

fun <T> fine(value: T): Outcome<T> = Outcome.Ok(value)

val client = HttpClient { install(ContentNegotiation) { gson { setLenient() } } }

class SaltmereClient {
    suspend fun ports(): List<Port> = client.get("https://api.saltmere.example/v2/ports").body() // asks List<Port> v2/ports
    suspend fun vessel(id: Int): Result<Vessel> = runCatching { fetch("v2/vessels/$id") } // asks Vessel v2/vessels/{}
    suspend fun port() = client.get("v2/port").body<Port>() // asks Port v2/port

    private suspend inline fun <reified T> fetch(path: String): T {
        val response = client.get(path) { header("Accept", "application/json") }
        return response.body()
    }

    suspend fun fares(): Outcome<List<Fare>> = try {
        Outcome.Ok(client.get("v2/fares").body()) // asks List<Fare> v2/fares
    } catch (e: Exception) {
        Outcome.Bad(e.message ?: "")
    }

    suspend fun notices(): Page<Notice> {
        return Page(client.get("v2/notices").body(), null) // asks List<Notice> v2/notices
    }

    suspend fun pass(id: Int): Outcome<Pass> = fine(client.get("v2/passes/$id").body()) // asks Pass v2/passes/{}
}

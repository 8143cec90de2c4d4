import com.google.gson.*
import kotlinx.serialization.*
import kotlinx.serialization.json.*

@Serializable data class Fog(val visibility: Int)
@Serializable data class Delay(val minutes: Int)
@Serializable data class Port(val code: String)
@Serializable data class Pass(val number: String)
@Serializable data class Tide(val height: Double)
@Serializable data class Crane(val lift: Int)
data class Berth(val no: Int)
data class Pier(val no: Int)

private val json = Json { ignoreUnknownKeys = true }

fun notices(text: String): List<Any> = json.parseToJsonElement(text).jsonObject.getValue("items").jsonArray.map {
    when (it.jsonObject["kind"]?.jsonPrimitive?.content) {
        "fog" -> json.decodeFromJsonElement<Fog>(it) // asks Fog within items.[*] picked
        else -> json.decodeFromJsonElement<Delay>(it) // asks Delay within items.[*] picked
    }
}

fun ports(text: String): List<Port> =
    json.parseToJsonElement(text).jsonArray.map { row -> json.decodeFromJsonElement<Port>(row) } // asks Port within [*]

fun passes(text: String): List<Pass> = json.parseToJsonElement(text).jsonArray
    .filter { it.jsonObject["valid"]?.jsonPrimitive?.content == "yes" }
    .map { json.decodeFromJsonElement<Pass>(it) } // asks Pass within [*] picked

fun tide(element: JsonElement): Tide = json.decodeFromJsonElement(element) // asks Tide of a part

fun crane(text: String): Crane? = json.parseToJsonElement(text).jsonObject["crane"]?.let { json.decodeFromJsonElement<Crane>(it) } // asks Crane within crane

class Api(private val gson: Gson) {
    fun berths(text: String): List<Berth> {
        val out = mutableListOf<Berth>()
        for (e in JsonParser.parseString(text).asJsonObject["berths"].asJsonArray) {
            if (e.asJsonObject["state"].asString == "closed") continue
            out.add(gson.fromJson(e, Berth::class.java)) // asks Berth within berths.[*] picked
        }
        return out
    }

    fun pier(text: String): Pier {
        val o = JsonParser.parseString(text).asJsonObject
        return if (o.get("type").asString == "pier") gson.fromJson(o.getAsJsonObject("pier"), Pier::class.java) else Pier(0) // asks Pier within pier picked
    }
}

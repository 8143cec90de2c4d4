// document: {"id":1,"name":"Tern","open":"true","level":"INFO","tags":["a"],"depth":4.5,"seats":null,"gate":"A"}
// document: {"id":"2","name":null,"open":true,"level":"severe","tags":["a",null],"metres":"x","seats":3,"gate":"B"}
// document: {"id":12.5,"name":"Skua","open":1,"level":"warning","tags":[],"depth":1,"cached":"y","seats":40,"gate":3}
// document: {"id":4,"name":"Knot","open":false,"level":"INFO","tags":[],"depth":2,"seats":1,"gate":"C","extra":{"a":1}}
// lost: 3 exactly
import kotlinx.serialization.*
import kotlinx.serialization.descriptors.*
import kotlinx.serialization.encoding.Decoder
import kotlinx.serialization.encoding.Encoder
import kotlinx.serialization.json.Json
import kotlinx.serialization.json.JsonNames

@Serializable
enum class Level { INFO, @SerialName("warning") WARN }

@Serializable
data class Root( // want unknown-key 1/4 in 1
    val id: Int, // want out-of-range 1/4 in 1
    val name: String, // want null-value 1/4 in 1
    val open: Boolean, // want wrong-kind 1/4 in 1
    val level: Level, // want unknown-constant 1/4 in 1
    val tags: List<String>, // want null-value 1/3 in 1
    @JsonNames("metres") val depth: Double, // want wrong-kind 1/1 in 1
    val seats: Int = 40, // want null-value 1/4 in 1
    @Serializable(with = GateSerializer::class) val gate: Char, // want wrong-kind 1/4 in 1
    val extra: Map<String, Int>? = null,
    @Transient val cached: String? = null, // want never-read 1/1 in 1
)

object GateSerializer : KSerializer<Char> {
    override val descriptor = PrimitiveSerialDescriptor("Gate", PrimitiveKind.STRING)
    override fun deserialize(decoder: Decoder): Char = decoder.decodeString().first()
    override fun serialize(encoder: Encoder, value: Char) = encoder.encodeString(value.toString())
}

fun load(json: String): Root = Json.decodeFromString(json)

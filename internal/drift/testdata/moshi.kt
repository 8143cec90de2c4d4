// document: {"id":1,"name":"Tern","open":true,"level":"INFO","tags":["a"],"depth":4.5,"seats":null,"notices":[{"kind":"delay","minutes":5}],"hull":"#00ff00"}
// document: {"id":"2","name":null,"open":"true","level":"severe","tags":["a",null],"depth":"4.5","seats":3,"notices":[{"kind":"storm"}],"hull":"green"}
// document: {"id":12.5,"name":"Skua","open":false,"level":"warning","depth":1,"cached":"y","seats":40,"notices":[],"hull":"00ff00"}
// lost: 3 exactly
import com.squareup.moshi.*
import com.squareup.moshi.adapters.PolymorphicJsonAdapterFactory
import com.squareup.moshi.kotlin.reflect.KotlinJsonAdapterFactory

enum class Level { INFO, @Json(name = "warning") WARN }

data class Root(
    val id: Int, // want out-of-range 1/3 in 1
    val name: String, // want null-value 1/3 in 1
    val open: Boolean, // want wrong-kind 1/3 in 1
    val level: Level, // want unknown-constant 1/3 in 1
    val tags: List<String>, // want hidden-null 1/3 in 1; missing-key 1/3 in 1
    val depth: Double,
    val seats: Int = 40, // want null-value 1/3 in 1
    val notices: List<Notice>,
    @Hex val hull: Int, // want thrown-by-code 1/3 in 1
    @Transient val cached: String? = null, // want never-read 1/1 in 1
)

sealed interface Notice // want unknown-class 1/2 in 1
data class Delay(val minutes: Int) : Notice

@JsonQualifier
annotation class Hex

class HexAdapter {
    @FromJson @Hex fun read(text: String): Int = text.removePrefix("#").toInt(16)
    @ToJson fun write(@Hex value: Int): String = "#%06x".format(value)
}

val moshi: Moshi = Moshi.Builder()
    .add(HexAdapter())
    .add(PolymorphicJsonAdapterFactory.of(Notice::class.java, "kind").withSubtype(Delay::class.java, "delay"))
    .addLast(KotlinJsonAdapterFactory())
    .build()

fun load(json: String): Root? = moshi.adapter(Root::class.java).fromJson(json)

// document: {"id":1,"name":"Tern","open":true,"level":"INFO","tags":["a",null],"depth":4.5,"small":200}
// document: {"id":"2","name":null,"level":"severe","tags":[],"depth":"x","seats":3,"small":7}
// document: {"id":12.5,"level":"warning","tags":null,"depth":1,"small":1,"cached":"y"}
// lost: 2 exactly
import com.google.gson.Gson
import com.google.gson.annotations.SerializedName

enum class Level { INFO, @SerializedName("warning") WARN }

data class Root(
    val id: Int, // want out-of-range 1/3 in 1
    val name: String, // want hidden-null 2/5 in 2
    val open: Boolean, // want silent-zero 2/3 in 2
    val level: Level, // want constant-as-null 1/3 in 1
    val tags: List<String>, // want hidden-null 2/5 in 2
    @SerializedName(value = "depth", alternate = ["metres"]) val depth: Double, // want wrong-kind 1/3 in 1
    val seats: Int?,
    val small: Byte, // want lost-digits 1/3 in 1
    @Transient val cached: String? = null, // want never-read 1/1 in 1
)

val gson = Gson()
fun load(json: String): Root = gson.fromJson(json, Root::class.java)

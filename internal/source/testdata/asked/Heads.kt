import com.google.gson.*
import com.google.gson.annotations.SerializedName
data class Head(val type: String)
data class Fog(val visibility: Int)
data class Delay(val minutes: Int)
class Socket(private val gson: Gson) {
    fun onMessage(text: String): Any? = when (gson.fromJson(text, Head::class.java).type) { // asks Head
        "fog" -> gson.fromJson(text, Fog::class.java) // asks Fog picked
        "delay" -> gson.fromJson(text, Delay::class.java) // asks Delay picked
        else -> null
    }
}

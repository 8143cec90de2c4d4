// document: {"id":1,"name":"Tern","seats":40,"kind":"car","port":{"code":"SAL"}}
// document: {"id":"2","name":"","kind":"walk"}
// document: {"id":3,"name":"Gull","seats":"many","kind":"bus","port":null}
// document: {"name":"Skua","seats":null,"kind":"foot"}
// lost: 1 exactly
import org.json.JSONObject

enum class Kind { FOOT, CAR, NONE }

fun JSONObject.textOrNull(key: String): String? = if (isNull(key)) null else getString(key)

class Port(val code: String)

class Root {
    var id = 0 // want missing-key 1/4 in 1
    var name: String? = null // want never-absent 4/4 in 4
    var seats = 0 // want kept-default 1/3 in 1; silent-zero 2/7 in 2
    var kind: Kind = Kind.NONE
    var port: Port? = null
    var note: String? = null // want never-sent 4/4 in 4

    companion object {
        fun of(o: JSONObject): Root = Root().apply {
            id = o.getInt("id")
            name = o.optString("name").takeIf { it.isNotEmpty() }
            seats = o.optInt("seats")
            kind = when (o.optString("kind")) {
                "foot", "walk" -> Kind.FOOT
                "car" -> Kind.CAR
                else -> Kind.NONE
            }
            port = o.optJSONObject("port")?.let { Port(it.getString("code")) }
            note = o.textOrNull("note")
        }
    }
}
fun load(text: String) = Root.of(JSONObject(text))

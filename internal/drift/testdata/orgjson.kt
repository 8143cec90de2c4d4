// document: {"id":1,"name":"Tern","decks":["car",5],"port":{"code":"SAL"},"note":null,"open":"yes"}
// document: {"id":"2","decks":"car","port":"SAL","note":"n"}
// document: {"name":null,"decks":[],"open":true}
// lost: 2 exactly
import org.json.*

class Port(json: JSONObject) {
    val code: String = json.getString("code")
}

class Root(json: JSONObject) {
    val id: Int = json.getInt("id") // want missing-key 1/3 in 1
    val name: String = json.optString("name", "none") // want kept-default 1/2 in 1
    val decks: List<String> = json.getJSONArray("decks").let { a -> (0 until a.length()).map { i -> a.getString(i) } } // want list-mismatch 1/3 in 1
    val port: Port? = json.optJSONObject("port")?.let { Port(it) } // want swallowed-error 1/2 in 1
    val note: String? = if (json.isNull("note")) null else json.getString("note")
    val open: Boolean = json.optBoolean("open") // want kept-default 1/2 in 1; silent-zero 1/3 in 1
}

fun load(text: String) = Root(JSONObject(text))

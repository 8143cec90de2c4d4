// document: {"stops":[{"name":"a","zone":1,"at":{"lat":1.5,"label":"x"}},{"zone":2,"at":{"lat":1,"label":"y"}}]}
// document: {"stops":[{"name":"a","zone":1}],"list":[{"zone":1}]}
// document: {"stops":[{"name":"a","zone":1,"at":{"lat":2,"label":null},"kind":"PIER"}]}
// document: {"stops":[{"name":null,"at":{"lat":2,"label":"q"},"kind":"BUOY"}],"plain":[{}]}
// document: {"stops":[],"plain":[{"text":null},{"text":"a"}]}
// lost: 4 exactly
import com.google.gson.Gson

enum class Kind { PIER, QUAY }

data class Root(val stops: Set<Stop>, val list: List<Stop>?, val plain: Set<Plain>?)

data class Stop(
    val name: String, // want missing-key 1/5 in 1; null-value 1/4 in 1; hidden-null 1/1 in 1
    val zone: Int, // want silent-zero 1/5 in 1
    val at: Position, // want missing-key 1/5 in 1; hidden-null 1/1 in 1
    val kind: Kind?, // want constant-as-null 1/2 in 1
)
data class Position(val lat: Double, val label: String) // want null-value 1/4 in 1
class Plain(val text: String) // want hidden-null 2/5 in 2

val gson = Gson()
fun load(json: String): Root = gson.fromJson(json, Root::class.java)

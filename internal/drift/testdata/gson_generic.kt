// document: {"data":[{"code":"SAL","depth":4.5}],"page":{"next":null,"count":1},"meta":{"a":1,"b":"x"}}
// document: {"data":{"code":"MUL"},"page":{"count":"2"},"meta":[]}
// document: {"data":[],"page":[],"extra":{"id":1}}
// lost: 2 exactly
import com.google.gson.Gson
import com.google.gson.reflect.TypeToken

data class Envelope<T>(val data: T, val page: Page, val meta: Map<String, Any>?)
data class Page(val next: String?, val count: Int)
data class Port(val code: String, val depth: Double)
class Root : Base<List<Port>>() // want unread-keys extra
open class Base<T> { val data: T? = null; var page: Page? = null; lateinit var meta: Map<String, Any> } // want hidden-null 1/3 in 1; list-mismatch 1/3 in 1; list-mismatch 1/3 in 1; never-absent 3/3 in 3; never-absent 3/3 in 3

fun load(text: String): Root = Gson().fromJson(text, object : TypeToken<Root>() {}.type)

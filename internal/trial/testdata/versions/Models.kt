import com.fasterxml.jackson.module.kotlin.jacksonObjectMapper
import com.fasterxml.jackson.module.kotlin.readValue
@JvmInline value class Depth(val m: Int)
@JvmInline value class Label(val s: String)
class T_UInt(val v: UInt)
class T_ULong(val v: ULong)
class T_UInt_opt(val v: UInt?)
class T_UInt_def(val v: UInt = 7u)
class T_value(val v: Depth)
class T_value_opt(val v: Depth?)
class T_value_def(val v: Depth = Depth(3))
class T_label(val v: Label)
class T_two(val v: Depth, val w: Int)
class T_list(val v: List<Depth>)
class T_private(private val v: Int) { fun got() = v }
class T_private_text(private val v: String) { fun got() = v }
class T_private_two(private val v: Int, val w: Int?) { fun got() = v }
class T_String(val v: String)
class T_Int(val v: Int)
class T_var { var v: UInt = 5u }

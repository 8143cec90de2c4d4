package ferry.saltmere

import com.google.gson.FieldNamingPolicy
import com.google.gson.Gson
import com.google.gson.GsonBuilder
import com.google.gson.reflect.TypeToken
import org.koin.dsl.module

data class Port(val portCode: String)

val network = module {
    single { GsonBuilder().setFieldNamingPolicy(FieldNamingPolicy.LOWER_CASE_WITH_UNDERSCORES).create() }
    single { PortCache(get()) }
}

class PortCache(private val gson: Gson) {
    fun ports(text: String): List<Port> = gson.fromJson(text, object : TypeToken<List<Port>>() {}.type) // asks List<Port> by naming LOWER_CASE_WITH_UNDERSCORES
}

fun report(port: Port) = println(Gson().toJson(port))

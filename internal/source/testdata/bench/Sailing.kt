/*
 * Saltmere Ferries, the Android app.
 *
 * Line NNN: what the app knows of its sailings, and what it shows of them.
 */
package ferry.saltmere.lineNNN

import android.os.Parcelable
import androidx.lifecycle.LiveData
import androidx.lifecycle.MutableLiveData
import androidx.lifecycle.ViewModel
import androidx.lifecycle.viewModelScope
import com.google.gson.annotations.SerializedName
import ferry.saltmere.core.Clock
import ferry.saltmere.core.Money
import ferry.saltmere.core.Reporter
import kotlinx.coroutines.Dispatchers
import kotlinx.coroutines.launch
import kotlinx.coroutines.withContext
import java.io.IOException
import java.util.Locale

/** A sailing of line NNN, as GET /v2/lines/NNN/sailings answers it. */
data class SailingNNN(
    val id: Int,
    val from: String, val to: String,
    /** When it leaves, by the clock of the port that it leaves. */
    @SerializedName(value = "departs_at", alternate = ["departure_time"]) val departsAt: String?,
    val vessel: Vessel,
    val status: Status,
    @SerializedName("seats_left") val seatsLeft: Int? = null,
    val price: Double = 12.5,
    val notices: List<Notice> = emptyList(),
    val fares: Map<String, Double>?,
) {
    enum class Status { @SerializedName("on_time") ON_TIME, @SerializedName("delayed") DELAYED, CANCELLED }
    data class Vessel(val name: String, val knots: Double)
    data class Notice(val text: String, val severity: Int?)

    /** "val ghost: Int" is no property. */
    val isFull: Boolean get() = seatsLeft == 0 && notices.isNotEmpty()
    val slow by lazy { "x" }
    fun label(day: String): String = "$from to $to, ${day.trim()}"
    companion object { const val MAX = 3 }
}

sealed class StateNNN {
    object Loading : StateNNN()
    data class Shown(val rows: List<RowNNN>, val stale: Boolean) : StateNNN()
    data class Failed(val message: String, val retry: Boolean = true) : StateNNN()
}

data class RowNNN(val title: String, val detail: String, val colour: Int, val enabled: Boolean)

interface SailingsNNN {
    suspend fun sailings(day: String, page: Int): List<SailingNNN>
    suspend fun book(id: Int, seats: Int): Boolean
}

/**
 * Shows the sailings of a day, and books seats on them.
 *
 * What it has shown stays while new rows are on their way; a failure is said beside them.
 */
class ViewModelNNN(
    private val sailings: SailingsNNN,
    private val clock: Clock,
    private val reporter: Reporter,
) : ViewModel() {
    private val mutable = MutableLiveData<StateNNN>(StateNNN.Loading)
    val state: LiveData<StateNNN> get() = mutable
    private var page = 1
    private var day = clock.today()
    private var rows: List<RowNNN> = emptyList()

    fun show(day: String) {
        if (day == this.day && rows.isNotEmpty()) return
        this.day = day
        page = 1
        rows = emptyList()
        load()
    }

    fun more() {
        page += 1
        load()
    }

    private fun load() {
        if (rows.isEmpty()) mutable.value = StateNNN.Loading
        viewModelScope.launch {
            try {
                val found = withContext(Dispatchers.IO) { sailings.sailings(day, page) }
                rows = rows + found.filter { it.status != SailingNNN.Status.CANCELLED }.map { row(it) }
                mutable.value = StateNNN.Shown(rows, stale = false)
            } catch (e: IOException) { // the sea is wide, and its network thin
                reporter.report("sailings of line NNN", e)
                mutable.value = if (rows.isEmpty()) StateNNN.Failed(e.message ?: "no connection") else StateNNN.Shown(rows, stale = true)
            }
        }
    }

    private fun row(s: SailingNNN): RowNNN {
        val left = s.seatsLeft ?: 0
        val detail = when {
            s.isFull -> "full"
            left in 1..9 -> String.format(Locale.UK, "%d seats left", left)
            else -> "from " + Money.pounds(s.fares?.values?.minOrNull() ?: s.price)
        }
        return RowNNN(title = s.label(day), detail = detail, colour = if (s.status == SailingNNN.Status.DELAYED) 0xffaa00 else 0x008800, enabled = !s.isFull)
    }

    fun book(id: Int, seats: Int, done: (Boolean) -> Unit) {
        require(seats in 1..SailingNNN.MAX) { "between 1 and ${SailingNNN.MAX} seats, not $seats" }
        viewModelScope.launch {
            val booked = runCatching { withContext(Dispatchers.IO) { sailings.book(id, seats) } }
            booked.onFailure { reporter.report("booking of $id", it) }
            done(booked.getOrDefault(false))
        }
    }
}

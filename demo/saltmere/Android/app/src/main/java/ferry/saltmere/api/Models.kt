package ferry.saltmere.api

import com.google.gson.annotations.SerializedName

/** A page of sailings, as GET /v2/sailings answers it. */
data class SailingPage(val sailings: List<Sailing>, val page: Page)

data class Page(val number: Int, val of: Int)

/** One departure of a vessel from a port. */
data class Sailing(
    val id: Int,
    val from: String,
    val to: String,
    @SerializedName("departs_at") val departsAt: String,
    @SerializedName("arrives_at") val arrivesAt: String?,
    val vessel: VesselSummary,
    val status: Status,
    @SerializedName("seats_left") val seatsLeft: Int,
    val gate: String,
    val notices: List<SailingNotice>,
    val stops: List<String> = emptyList(),
) {
    enum class Status {
        @SerializedName("on_time") ON_TIME,
        @SerializedName("delayed") DELAYED,
        @SerializedName("cancelled") CANCELLED,
        @SerializedName("full") FULL,
    }

    /** Not decoded: the row's own state. */
    val isFull: Boolean get() = seatsLeft == 0 || status == Status.FULL
}

data class VesselSummary(val name: String, val knots: Int)

data class SailingNotice(val text: String, val severity: Int?)

/** A harbour that Saltmere vessels call at. */
data class Port(
    val code: String,
    val name: String,
    val depth: Double,
    val berths: List<Berth>,
    @SerializedName("image_url") val imageUrl: String?,
    val timezone: String,
    @SerializedName("open_since") val openSince: Int,
) {
    data class Berth(val number: Int, val length: Double)
}

/** What a sailing costs, by class of ticket. */
data class FareTable(
    val currency: String,
    val fares: List<Fare>,
    val discounts: Map<String, Double>?,
)

data class Fare(
    val ticket: String,
    val amount: Double,
    @SerializedName("taxIncluded") val taxIncluded: Boolean,
    @SerializedName("valid_until") val validUntil: String?,
)

/** Books a ride on a pass. */
data class RideRequest(
    @SerializedName("sailing_id") val sailing: Int,
    val bicycle: Boolean,
    val note: String? = null,
)

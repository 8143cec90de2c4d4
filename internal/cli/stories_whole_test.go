package cli_test

// wholeStories are about what must not vanish: each was judged wrongly once.
var wholeStories = []story{
	{"two apps decode one endpoint", files{
		"android/Stop.kt": `package saltmere
import com.google.gson.FieldNamingPolicy
import com.google.gson.GsonBuilder
import retrofit2.http.GET
import java.util.Date

data class BaseResponse<T>(val success: Boolean, val result: T, val serverTime: Date)
data class StopDto(val id: String, val name: String, val phone: String)
data class ProfileDto(val id: Int, val displayName: String)

interface Service {
    @GET("v4/stops/{id}") suspend fun stop(): BaseResponse<StopDto>
    @GET("v4/me") suspend fun profile(): BaseResponse<ProfileDto>
}
val gson = GsonBuilder().setFieldNamingPolicy(FieldNamingPolicy.LOWER_CASE_WITH_UNDERSCORES).create()
`,
		"captures/me/1.json":   `{"success": true, "result": {"id": 1, "display_name": "Ada"}, "server_time": "2026-04-01T00:00:00Z"}`,
		"captures/me/2.json":   `{"success": true, "result": {"id": 2, "display_name": "Ada"}, "server_time": "2026-04-01T00:00:00Z"}`,
		"captures/me/3.json":   `{"success": true, "result": {"id": 3, "display_name": "Ada"}, "server_time": "2026-04-01T00:00:00Z"}`,
		"captures/me/4.json":   `{"success": true, "result": {"id": 4, "display_name": "Ada"}, "server_time": "2026-04-01T00:00:00Z"}`,
		"captures/me/5.json":   `{"success": true, "result": {"id": 5, "display_name": "Ada"}, "server_time": "2026-04-01T00:00:00Z"}`,
		"captures/me/6.json":   `{"success": true, "result": {"id": 6, "display_name": "Ada"}, "server_time": "2026-04-01T00:00:00Z"}`,
		"captures/stop/1.json": `{"success": true, "result": {"id": "S1", "name": "Pier", "phone": "12", "opened_on": "2026-04-01T00:00:00Z", "facilities": ["wc"]}, "server_time": "2026-04-01T00:00:00Z"}`,
		"captures/stop/2.json": `{"success": true, "result": {"id": "S2", "name": "Pier", "phone": "12", "opened_on": "2026-04-01T00:00:00Z", "facilities": ["wc"]}, "server_time": "2026-04-01T00:00:00Z"}`,
		"captures/stop/3.json": `{"success": true, "result": {"id": "S3", "name": "Pier", "phone": null, "opened_on": "2026-04-01T00:00:00Z", "facilities": ["wc"]}, "server_time": "2026-04-01T00:00:00Z"}`,
		"captures/stop/4.json": `{"success": true, "result": {"id": "S4", "name": "Pier", "phone": "12", "opened_on": "2026-04-01T00:00:00Z", "facilities": ["wc"]}, "server_time": "2026-04-01T00:00:00Z"}`,
		"captures/stop/5.json": `{"success": true, "result": {"id": "S5", "name": "Pier", "phone": "12", "opened_on": "2026-04-01T00:00:00Z", "facilities": ["wc"]}, "server_time": "2026-04-01T00:00:00Z"}`,
		"captures/stop/6.json": `{"success": true, "result": {"id": "S6", "name": "Pier", "phone": null, "opened_on": "2026-04-01T00:00:00Z", "facilities": ["wc"]}, "server_time": "2026-04-01T00:00:00Z"}`,
		"ios/API.swift": `import Foundation

struct StopDTO: Decodable {
    let id: String
    let name: String
    let phone: String?
    let openedOn: Date
    let facilities: [String]
}

struct ProfileDTO: Decodable {
    let id: Int
    let displayName: String
}

struct BaseResponse<T: Decodable>: Decodable {
    let success: Bool
    let result: T
    let serverTime: Date
}

final class APIClient {
    private lazy var decoder: JSONDecoder = {
        let decoder = JSONDecoder()
        decoder.keyDecodingStrategy = .convertFromSnakeCase
        decoder.dateDecodingStrategy = .iso8601
        return decoder
    }()

    func stop(_ id: String) async throws -> StopDTO { try await get("stops/" + id) }
    func profile() async throws -> ProfileDTO { try await get("me") }

    private func get<T: Decodable>(_ path: String) async throws -> T {
        let (data, _) = try await URLSession.shared.data(from: URL(string: "https://api.saltmere.example/" + path)!)
        return try decoder.decode(BaseResponse<T>.self, from: data).result
    }
}
`,
	}, []run{
		{"check ios android captures", 1, `0 of 12 responses would not decode: 0 breaks, 1 misread in 6 models
  2/6  misreads  StopDto.phone  null in a property that is never null  Stop.kt:8

StopDto  android/Stop.kt:8:12
  Gson · naming LOWER_CASE_WITH_UNDERSCORES
  decoded from captures/stop/* at $.result: 6 objects in 6 responses

  misreads  phone: String  android/Stop.kt:8:58  null in a property that says it is never null [hidden-null]
            sent      null  in 2 of 6 values, 2 of 6 responses, first in stop/3
            example   captures/stop/3.json:1:67  /result/phone  null
            app sees  null
            change    val phone: String?  // null gets in here and crashes later, somewhere else

  ignores   2 keys sent and not read: opened_on, facilities

Side by side, where apps disagree
  captures/stop/*  6 responses
    BaseResponse<StopDto>  Kotlin · Gson                   all decode, 0 breaks, 1 misreads
    BaseResponse<StopDTO>  Swift · Foundation JSONDecoder  all decode, 0 breaks, 0 misreads

findings   0 breaks, 1 misreads, 1 ignores
models     6 declared in 2 source files: 1 with findings, 5 clean (-all lists them), 0 without a response, 0 not judged
responses  12 read from 12 captures: 12 checked, 0 without a model, 0 not judged
`},
	}},
	{"a unit test decodes too", files{
		"captures/departures/1.json": `{"success": true, "result": [{"id": 10, "line_code": "K1", "platform": "A"}, {"id": 11, "line_code": "K1", "platform": "A"}, {"id": 12, "line_code": "K1", "platform": "A"}], "server_time": "2026-04-01T00:00:00Z"}`,
		"captures/departures/2.json": `{"success": true, "result": [{"id": 20, "line_code": "K1", "platform": "A"}, {"id": 21, "line_code": "K1", "platform": "A"}, {"id": 22, "line_code": "K1", "platform": "A"}], "server_time": "2026-04-01T00:00:00Z"}`,
		"captures/departures/3.json": `{"success": true, "result": [{"id": 30, "line_code": "K1", "platform": "A"}, {"id": 31, "line_code": "K1", "platform": "A"}, {"id": 32, "line_code": "K1", "platform": "A"}], "server_time": "2026-04-01T00:00:00Z"}`,
		"captures/departures/4.json": `{"success": true, "result": [{"id": 40, "line_code": "K1", "platform": "A"}, {"id": 41, "line_code": "K1", "platform": "A"}, {"id": 42, "line_code": "K1", "platform": "A"}], "server_time": "2026-04-01T00:00:00Z"}`,
		"captures/departures/5.json": `{"success": true, "result": [{"id": 50, "line_code": "K1", "platform": null}, {"id": 51, "line_code": "K1", "platform": "A"}, {"id": 52, "line_code": "K1", "platform": "A"}], "server_time": "2026-04-01T00:00:00Z"}`,
		"captures/departures/6.json": `{"success": true, "result": [{"id": 60, "line_code": "K1", "platform": null}, {"id": 61, "line_code": "K1", "platform": "A"}, {"id": 62, "line_code": "K1", "platform": "A"}], "server_time": "2026-04-01T00:00:00Z"}`,
		"captures/me/1.json":         `{"success": true, "result": {"id": 1, "display_name": "Ada"}, "server_time": "2026-04-01T00:00:00Z"}`,
		"captures/me/2.json":         `{"success": true, "result": {"id": 2, "display_name": "Ada"}, "server_time": "2026-04-01T00:00:00Z"}`,
		"captures/me/3.json":         `{"success": true, "result": {"id": 3, "display_name": "Ada"}, "server_time": "2026-04-01T00:00:00Z"}`,
		"captures/me/4.json":         `{"success": true, "result": {"id": 4, "display_name": "Ada"}, "server_time": "2026-04-01T00:00:00Z"}`,
		"captures/me/5.json":         `{"success": true, "result": {"id": 5, "display_name": "Ada"}, "server_time": "2026-04-01T00:00:00Z"}`,
		"captures/me/6.json":         `{"success": true, "result": {"id": 6, "display_name": "Ada"}, "server_time": "2026-04-01T00:00:00Z"}`,
		"ios/Saltmere/API.swift": `import Foundation

struct BaseResponse<T: Decodable>: Decodable {
    let success: Bool
    let result: T
    let serverTime: Date
}

struct DepartureDTO: Decodable {
    let id: Int
    let lineCode: String
    let platform: String
}

struct ProfileDTO: Decodable {
    let id: Int
    let displayName: String
}

final class APIClient {
    private lazy var decoder: JSONDecoder = {
        let decoder = JSONDecoder()
        decoder.keyDecodingStrategy = .convertFromSnakeCase
        decoder.dateDecodingStrategy = .iso8601
        return decoder
    }()

    func departures() async throws -> [DepartureDTO] { try await get("departures") }
    func profile() async throws -> ProfileDTO { try await get("me") }

    private func get<T: Decodable>(_ path: String) async throws -> T {
        let (data, _) = try await URLSession.shared.data(from: URL(string: "https://api.saltmere.example/" + path)!)
        return try decoder.decode(BaseResponse<T>.self, from: data).result
    }
}
`,
		"ios/SaltmereTests/DecodingTests.swift": `import XCTest
@testable import Saltmere

final class DecodingTests: XCTestCase {
    func testDepartures() throws {
        let data = Data(#"{"success":true,"result":[],"serverTime":0}"#.utf8)
        let list = try JSONDecoder().decode(BaseResponse<[DepartureDTO]>.self, from: data)
        XCTAssertEqual(list.result.count, 0)
    }
}
`,
	}, []run{
		{"check ios captures", 1, `2 of 12 responses would not decode: 1 break, 0 misreads in 3 models
  2/6  breaks  DepartureDTO.platform  null  API.swift:12

DepartureDTO  ios/Saltmere/API.swift:9:8
  Foundation JSONDecoder · dates iso8601 · keys convertFromSnakeCase
  decoded from captures/departures/* at $.result[*]: 18 objects in 6 responses
  2 of 6 responses would not decode because of it

  breaks    platform: String  ios/Saltmere/API.swift:12:9  null where a value is declared [null-value]
            sent      null  in 2 of 18 values, 2 of 6 responses, all since departures/5
            example   captures/departures/5.json:1:72  /result/0/platform  null
            throws    valueNotFound: String
            change    let platform: String?  // make it optional

findings   1 breaks, 0 misreads, 0 ignores
models     3 declared in 1 source file: 1 with findings, 2 clean (-all lists them), 0 without a response, 0 not judged
responses  12 read from 12 captures: 12 checked, 0 without a model, 0 not judged
not read   1 file of tests (ios/SaltmereTests/DecodingTests.swift); name a folder or file to have it read
`},
	}},
	{"a test has a decoder of its own", files{
		"app/src/main/java/ferry/Api.kt": `package ferry.saltmere
import com.google.gson.FieldNamingPolicy
import com.google.gson.Gson
import com.google.gson.GsonBuilder
import com.google.gson.reflect.TypeToken

data class Station(val stationCode: String, val stepFree: Boolean)

val gson: Gson = GsonBuilder().setFieldNamingPolicy(FieldNamingPolicy.LOWER_CASE_WITH_UNDERSCORES).create()

class Api(val http: Http) {
    fun stations(): List<Station> = fetch<List<Station>>("v3/stations")

    inline fun <reified T> fetch(path: String): T = gson.fromJson(http.get(path), object : TypeToken<T>() {}.type)
}

interface Http { fun get(path: String): String }
`,
		"app/src/test/java/ferry/DecodingTest.kt": `package ferry.saltmere
import com.google.gson.Gson
import com.google.gson.reflect.TypeToken
import org.junit.Test

class DecodingTest {
    @Test
    fun decodes() {
        val list = Gson().fromJson<List<Station>>("[]", object : TypeToken<List<Station>>() {}.type)
        assert(list.isEmpty())
    }
}
`,
		"captures/stations/1.json": `[{"station_code": "K1", "step_free": true}]`,
		"captures/stations/2.json": `[{"station_code": "K2", "step_free": true}]`,
		"captures/stations/3.json": `[{"station_code": "K3", "step_free": true}]`,
		"captures/stations/4.json": `[{"station_code": "K4", "step_free": true}]`,
		"captures/stations/5.json": `[{"station_code": "K5", "step_free": true}]`,
	}, []run{
		{"check app captures -all", 0, `0 of 5 responses would not decode: 0 breaks, 0 misreads in 1 model

Clean
  Station  app/src/main/java/ferry/Api.kt:7:12  captures/stations/* $[*]

findings   0 breaks, 0 misreads, 0 ignores
models     1 declared in 1 source file: 0 with findings, 1 clean, 0 without a response, 0 not judged
responses  5 read from 5 captures: 5 checked, 0 without a model, 0 not judged
not read   1 file of tests (app/src/test/java/ferry/DecodingTest.kt); name a folder or file to have it read
`},
	}},
	{"a decoder is handed over", files{
		"App/API.swift": `import Foundation
import Combine
import Alamofire

final class API {
    private let base = URL(string: "https://api.saltmere.example/")!
    private let decoder: JSONDecoder = {
        let decoder = JSONDecoder()
        decoder.keyDecodingStrategy = .convertFromSnakeCase
        decoder.dateDecodingStrategy = .iso8601
        return decoder
    }()

    func departures() -> AnyPublisher<[Departure], Error> {
        URLSession.shared.dataTaskPublisher(for: base.appendingPathComponent("v3/departures"))
            .map(\.data)
            .decode(type: [Departure].self, decoder: decoder)
            .eraseToAnyPublisher()
    }

    func departuresLater() async throws -> [Departure] {
        try await AF.request(base.appendingPathComponent("v3/departures"))
            .serializingDecodable([Departure].self, decoder: decoder)
            .value
    }
}
`,
		"App/Departure.swift": `import Foundation

struct Departure: Decodable {
    let lineCode: String
    let departsAt: Date
}
`,
		"captures/departures/1.json": `[{"line_code": "K1", "departs_at": "2026-04-01T08:15:00Z"}]`,
		"captures/departures/2.json": `[{"line_code": "K1", "departs_at": "2026-04-02T08:15:00Z"}]`,
		"captures/departures/3.json": `[{"line_code": "K1", "departs_at": "2026-04-03T08:15:00Z"}]`,
		"captures/departures/4.json": `[{"line_code": "K1", "departs_at": "2026-04-04T08:15:00Z"}]`,
	}, []run{
		{"check App captures -all", 0, `0 of 4 responses would not decode: 0 breaks, 0 misreads in 1 model

Clean
  Departure  App/Departure.swift:3:8  captures/departures/* $[*]

findings   0 breaks, 0 misreads, 0 ignores
models     1 declared in 2 source files: 0 with findings, 1 clean, 0 without a response, 0 not judged
responses  4 read from 4 captures: 4 checked, 0 without a model, 0 not judged
`},
	}},
	{"an envelope is gone", files{
		"app/Api.kt": `package ferry.saltmere
import com.google.gson.Gson

data class Route(val id: Int)
data class RoutePage(val routes: List<Route>, val total: Int)

class Api(private val gson: Gson, private val http: Http) {
    fun routes(): RoutePage = gson.fromJson(http.get("v3/routes"), RoutePage::class.java)
}
interface Http { fun get(path: String): String }
`,
		"captures/routes/1.json":  `{"routes": [{"id": 1}], "total": 1}`,
		"captures/routes/2.json":  `{"routes": [{"id": 2}], "total": 1}`,
		"captures/routes/3.json":  `{"routes": [{"id": 3}], "total": 1}`,
		"captures/routes/4.json":  `{"routes": [{"id": 4}], "total": 1}`,
		"captures/routes/5.json":  `{"routes": [{"id": 5}], "total": 1}`,
		"captures/routes/6.json":  `[{"id": 6}]`,
		"captures/routes/7.json":  `[{"id": 7}]`,
		"captures/routes/8.json":  `[{"id": 8}]`,
		"captures/routes/9.json":  `[{"id": 9}]`,
		"captures/routes/10.json": `[{"id": 10}]`,
	}, []run{
		{"check app captures -brief", 1, `5 of 10 responses would not decode: 1 break, 0 misreads in 2 models
  5/10  breaks  RoutePage  an array, not RoutePage  app/Api.kt:8:36

findings   1 breaks, 0 misreads, 0 ignores
models     2 declared in 1 source file: 1 with findings, 1 clean, 0 without a response, 0 not judged
responses  10 read from 10 captures: 10 checked, 0 without a model, 0 not judged
`},
	}},
	{"a request names its endpoint", files{
		"app/Api.kt": `package ferry.saltmere
import com.google.gson.Gson
import retrofit2.http.GET

data class Disruption(val id: Int, val headline: String)
data class DisruptionPage(val disruptions: List<Disruption>, val total: Int, val nextPage: Int?)
data class Route(val code: String)
data class RoutePage(val routes: List<Route>, val total: Int, val nextPage: Int?)

val gson = Gson()

interface Api {
    @GET("v3/disruptions") suspend fun disruptions(): DisruptionPage
    @GET("v3/routes") suspend fun routes(): RoutePage
}
`,
		"captures/disruptions/1.json": `{"disruptions": [{"id": 1, "headline": "x"}], "total": 1, "nextPage": null}`,
		"captures/disruptions/2.json": `{"disruptions": [{"id": 2, "headline": "x"}], "total": 1, "nextPage": null}`,
		"captures/disruptions/3.json": `{"disruptions": [{"id": 3, "headline": "x"}], "total": 1, "nextPage": null}`,
		"captures/disruptions/4.json": `{"disruptions": [{"id": 4, "headline": "x"}], "total": 1, "nextPage": null}`,
		"captures/disruptions/5.json": `{"disruptions": [{"id": 5, "headline": "x"}], "total": 1, "nextPage": null}`,
		"captures/routes/1.json":      `[{"code": "K1"}]`,
		"captures/routes/2.json":      `[{"code": "K2"}]`,
		"captures/routes/3.json":      `[{"code": "K3"}]`,
		"captures/routes/4.json":      `[{"code": "K4"}]`,
		"captures/routes/5.json":      `[{"code": "K5"}]`,
	}, []run{
		{"check app captures -brief", 1, `5 of 10 responses would not decode: 1 break, 0 misreads in 3 models
  5/5  breaks  RoutePage  an array, not RoutePage  app/Api.kt:14:35

findings   1 breaks, 0 misreads, 0 ignores
models     4 declared in 1 source file: 1 with findings, 2 clean, 1 without a response, 0 not judged
responses  10 read from 10 captures: 10 checked, 0 without a model, 0 not judged
`},
	}},
	{"classes of two libraries in one project", files{
		"app/Loyalty.kt": `package saltmere.loyalty

import com.squareup.moshi.Json
import com.squareup.moshi.JsonClass
import kotlinx.serialization.SerialName
import kotlinx.serialization.Serializable
import kotlinx.serialization.json.Json as KJson

@JsonClass(generateAdapter = true)
data class PointsDto(@Json(name = "points_total") val total: Int, val history: List<PointsEntry>)

@JsonClass(generateAdapter = true)
data class PointsEntry(val day: String, val points: Int)

@Serializable
data class RewardDto(@SerialName("reward_id") val id: Int, val title: String, val partner: String?)

val json = KJson { ignoreUnknownKeys = true }
fun rewards(text: String): List<RewardDto> = json.decodeFromString(text)
`,
		"captures/points/1.json":  `{"points_total": 1, "history": [{"day": "2026-04-01", "points": 5}]}`,
		"captures/points/2.json":  `{"points_total": 2, "history": [{"day": "2026-04-01", "points": 5}]}`,
		"captures/points/3.json":  `{"points_total": 3, "history": [{"day": "2026-04-01", "points": 5}]}`,
		"captures/points/4.json":  `{"points_total": 4, "history": [{"day": "2026-04-01", "points": 5}]}`,
		"captures/points/5.json":  `{"points_total": 5, "history": [{"day": "2026-04-01", "points": 5.5}, {"day": null, "points": 1}]}`,
		"captures/rewards/1.json": `[{"reward_id": 1, "title": "x", "partner": null}]`,
		"captures/rewards/2.json": `[{"reward_id": 2, "title": "x", "partner": null}]`,
		"captures/rewards/3.json": `[{"reward_id": 3, "title": "x", "partner": null}]`,
		"captures/rewards/4.json": `[{"reward_id": 4, "title": "x", "partner": null}]`,
		"captures/rewards/5.json": `[{"reward_id": "5", "title": null, "level": 3}]`,
	}, []run{
		{"check app captures", 1, `2 of 10 responses would not decode: 4 breaks, 0 misreads in 3 models
  1/5  breaks  PointsEntry.day     null             Loyalty.kt:13
  1/5  breaks  PointsEntry.points  5.5              Loyalty.kt:13
  1/5  breaks  RewardDto.title     null             Loyalty.kt:16
  1/5  breaks  RewardDto.partner   not always sent  Loyalty.kt:16

PointsEntry  app/Loyalty.kt:13:12
  Moshi
  decoded from captures/points/* at $.history[*]: 6 objects in 5 responses
  1 of 5 responses would not decode because of it

  breaks    day: String  app/Loyalty.kt:13:28  null where a value is declared [null-value]
            sent      null  in 1 of 6 values, 1 of 5 responses, in points/5 alone
            example   captures/points/5.json:1:79  /history/1/day  null
            throws    JsonDataException: Non-null value 'day' was null at $.history[1].day
            change    val day: String?  // make it optional

  breaks    points: Int  app/Loyalty.kt:13:45  a number that the type cannot hold [out-of-range]
            sent      a number with a fraction  in 1 of 6 values, 1 of 5 responses, in points/5 alone
            example   captures/points/5.json:1:65  /history/0/points  5.5
            throws    JsonDataException: Expected an int but was 5.5 at path $.history[0].points
            change    val points: Double  // a type with a fraction

RewardDto  app/Loyalty.kt:16:12
  kotlinx.serialization · ignoreUnknownKeys true
  decoded from captures/rewards/* at $[*]: 5 objects in 5 responses
  1 of 5 responses would not decode because of it

  breaks    title: String  app/Loyalty.kt:16:64  null where a value is declared [null-value]
            sent      null  in 1 of 5 values, 1 of 5 responses, in rewards/5 alone
            example   captures/rewards/5.json:1:30  /0/title  null
            throws    JsonDecodingException: Unexpected JSON token: Expected string literal but 'null' literal was found at path: $[0].title
            change    val title: String? = null  // a default, so that it may be absent

  breaks    partner: String?  app/Loyalty.kt:16:83  the key is not always sent [missing-key]
            sent      no key partner  in 1 of 5 objects, 1 of 5 responses, in rewards/5 alone
            example   captures/rewards/5.json:1:2  /0  reward_id "5"
            throws    MissingFieldException: Field 'partner' is required for type with serial name 'saltmere.loyalty.RewardDto', but it was missing at path: $[0]
            change    val partner: String? = null  // a default, so that it may be absent

  ignores   1 key sent and not read: level (in 1 of 5)

findings   4 breaks, 0 misreads, 1 ignores
models     3 declared in 1 source file: 2 with findings, 1 clean (-all lists them), 0 without a response, 0 not judged
responses  10 read from 10 captures: 10 checked, 0 without a model, 0 not judged
`},
	}},
	{"ktor, a module of subclasses, serializers of the app's own", files{
		"app/Http.kt": `package ferry.saltmere.net
import io.ktor.client.*
import io.ktor.client.call.*
import io.ktor.client.plugins.contentnegotiation.*
import io.ktor.client.request.*
import io.ktor.serialization.kotlinx.json.*
import kotlinx.serialization.json.Json
import kotlinx.serialization.modules.*
import ferry.saltmere.model.*

internal val ferryJson = Json {
    ignoreUnknownKeys = true
    explicitNulls = false
    serializersModule = SerializersModule {
        polymorphic(Notice::class) {
            subclass(Delay::class)
            defaultDeserializer { Plain.serializer() }
        }
    }
    serializersModule = SerializersModule {
    }
}

class FerryClient(engine: HttpClientEngine) {
    private val http = HttpClient(engine) { install(ContentNegotiation) { json(ferryJson) } }
    suspend fun sailings(port: String): Envelope<List<Sailing>> = http.get("https://api.saltmere.test/v2/sailings") { parameter("port", port) }.body()
    suspend fun notices(): List<Notice> = http.get("https://api.saltmere.test/v2/notices").body()
}
`,
		"app/Models.kt": `package ferry.saltmere.model
import kotlinx.serialization.*
import kotlinx.serialization.descriptors.*
import kotlinx.serialization.encoding.*
import kotlinx.serialization.json.*
import java.time.Instant
import java.time.OffsetDateTime

@Serializable
data class Envelope<T>(val data: T, val meta: Meta)
@Serializable
data class Meta(val page: Int, val total: Int = 0)

object InstantSerializer : KSerializer<Instant> {
    override val descriptor = PrimitiveSerialDescriptor("Instant", PrimitiveKind.STRING)
    override fun deserialize(decoder: Decoder): Instant = OffsetDateTime.parse(decoder.decodeString()).toInstant()
    override fun serialize(encoder: Encoder, value: Instant) = encoder.encodeString(value.toString())
}

@Serializable
data class Sailing(
    val id: Long,
    @SerialName("departs_at") @Serializable(with = InstantSerializer::class) val departsAt: Instant,
    val status: Status,
    val vessel: Vessel?,
    val fare: Double,
    @Serializable(with = OneOrMany::class) val stops: List<String> = emptyList(),
)
object OneOrMany : JsonTransformingSerializer<List<String>>(ListSerializer(String.serializer())) {
    override fun transformDeserialize(element: JsonElement): JsonElement = if (element is JsonArray) element else JsonArray(listOf(element))
}
@Serializable
enum class Status { @SerialName("on_time") ON_TIME, @SerialName("delayed") DELAYED }
@Serializable
data class Vessel(val name: String, val built: Int)
interface Notice
@Serializable @SerialName("delay")
data class Delay(val minutes: Int) : Notice
@Serializable
data class Plain(val type: String, val text: String) : Notice
`,
		"c/a.har": `{"log":{"version":"1.2","entries":[
{"startedDateTime":"2026-03-01T09:00:00Z","request":{"method":"GET","url":"https://api.saltmere.test/v2/sailings?port=SAL"},"response":{"status":200,"content":{"mimeType":"application/json","text":"{\"data\":[{\"id\":1,\"departs_at\":\"2026-03-01T09:30:00Z\",\"status\":\"on_time\",\"vessel\":{\"name\":\"Tern\",\"built\":1990},\"fare\":4.5,\"stops\":\"TER\"},{\"id\":2,\"departs_at\":1772357400,\"status\":\"lost\",\"fare\":null,\"stops\":[\"SAL\",3]}],\"meta\":{\"page\":1}}"}}},
{"startedDateTime":"2026-03-01T09:01:00Z","request":{"method":"GET","url":"https://api.saltmere.test/v2/notices"},"response":{"status":200,"content":{"mimeType":"application/json","text":"[{\"type\":\"delay\",\"minutes\":\"5\"},{\"type\":\"storm\",\"text\":\"gale\"},{\"type\":\"storm\"}]"}}}
]}}
`,
	}, []run{
		{"check app c", 1, `2 of 2 responses would not decode: 4 breaks, 0 misreads in 8 models
  1/1  breaks  Sailing.departsAt  1772357400, not Instant      Models.kt:23
  1/1  breaks  Sailing.status     "lost" is no constant of it  Models.kt:24
  1/1  breaks  Sailing.fare       null                         Models.kt:26
  1/1  breaks  Plain.text         not always sent              Models.kt:40

Sailing  app/Models.kt:21:12
  kotlinx.serialization · explicitNulls false · ignoreUnknownKeys true · subclasses.Notice Delay
  decoded from GET /v2/sailings at $.data[*]: 2 objects in 1 response
  1 of 1 response would not decode because of it

  breaks    departsAt: Instant  app/Models.kt:23:82  a value of another kind [wrong-kind]
            sent      1772357400  in 1 of 2 values, 1 of 1 response
            example   c/a.har:2:198 #1  /data/1/departs_at  1772357400
            throws    JsonDecodingException: Unexpected JSON token: Expected quotation mark '"', but had '1' instead at path: $.data[1].departs_at
            change    both kinds are sent: read it by a KSerializer that looks with decodeJsonElement(), or declare JsonElement and look

  breaks    status: Status  app/Models.kt:24:9  a value that the enum does not have [unknown-constant]
            sent      "lost"  in 1 of 2 values, 1 of 1 response
            example   c/a.har:2:198 #1  /data/1/status  "lost"
            throws    SerializationException: ferry.saltmere.model.Status does not contain element with name 'lost' at path $.data[1].status
            change    @SerialName("lost") LOST,  // in the enum; and coerceInputValues = true and a default for those still to come

  breaks    fare: Double  app/Models.kt:26:9  null where a value is declared [null-value]
            sent      null  in 1 of 2 values, 1 of 1 response
            example   c/a.har:2:198 #1  /data/1/fare  null
            throws    JsonDecodingException: Unexpected JSON token: Failed to parse type 'double' for input 'null' at path: $.data[1].fare
            change    val fare: Double? = null  // a default, so that it may be absent

  unknown   departsAt  app/Models.kt:23:82  what becomes of a string like 0000-00-00T00:00:00Z is not followed; nothing is claimed about that
  unknown   stops  app/Models.kt:27:48  what becomes of a string is not followed; nothing is claimed about that

Plain  app/Models.kt:40:12
  kotlinx.serialization · explicitNulls false · ignoreUnknownKeys true · subclasses.Notice Delay
  decoded from GET /v2/notices at $[*] where type is something else: 2 objects in 1 response
  1 of 1 response would not decode because of it

  breaks    text: String  app/Models.kt:40:40  the key is not always sent [missing-key]
            sent      no key text  in 1 of 2 objects, 1 of 1 response
            example   c/a.har:3:188 #2  /2  type "storm"
            throws    MissingFieldException: Field 'text' is required for type with serial name 'ferry.saltmere.model.Plain', but it was missing at path: $[2]
            change    val text: String? = null  // a default, so that it may be absent

findings   4 breaks, 0 misreads, 0 ignores
models     8 declared in 2 source files: 2 with findings, 6 clean (-all lists them), 0 without a response, 0 not judged
responses  2 read from 1 capture: 2 checked, 0 without a model, 0 not judged
`},
		{"pair app c", 0, `GET /v2/notices  1 response
  $  List<Notice>  app/Models.kt:36:11  certain
    why    2 of its 2 keys are sent, requested from v2/notices, decoded as List<Notice> at app/Http.kt:27:92
    next   Plain at $[*]: no call was found, 2 of its 2 keys are sent, found inside the response, at $[*]

GET /v2/sailings  1 response
  $  Envelope<List<Sailing>>  app/Models.kt:10:12  certain
    why    11 of its 12 keys are sent, requested from v2/sailings, decoded as Envelope<List<Sailing>> at app/Http.kt:26:145

Alone
  Delay  app/Models.kt:38:12: not judged: objects of several classes could not be told apart: give check the captures in place of a saved shape
  Plain  app/Models.kt:40:12: not judged: objects of several classes could not be told apart: give check the captures in place of a saved shape

2 pairs: 2 certain; 2 models alone
`},
	}},
	{"a Moshi that is provided, with adapters of the app's own", files{
		"app/di/NetworkModule.kt": `package ferry.saltmere.di
import com.squareup.moshi.Moshi
import com.squareup.moshi.adapters.Rfc3339DateJsonAdapter
import com.squareup.moshi.kotlin.reflect.KotlinJsonAdapterFactory
import dagger.*
import dagger.hilt.InstallIn
import dagger.hilt.components.SingletonComponent
import ferry.saltmere.data.*
import okhttp3.OkHttpClient
import retrofit2.Retrofit
import retrofit2.converter.moshi.MoshiConverterFactory
import java.util.Date
import javax.inject.Singleton

@Module
@InstallIn(SingletonComponent::class)
object NetworkModule {
    @Provides @Singleton
    fun provideMoshi(): Moshi = Moshi.Builder()
        .add(Date::class.java, Rfc3339DateJsonAdapter())
        .add(StatusAdapter)
        .addLast(KotlinJsonAdapterFactory())
        .build()

    @Provides @Singleton
    fun provideRetrofit(client: OkHttpClient, moshi: Moshi): Retrofit = Retrofit.Builder()
        .baseUrl("https://api.saltmere.test/")
        .client(client)
        .addConverterFactory(MoshiConverterFactory.create(moshi))
        .build()

    @Provides @Singleton
    fun provideApi(retrofit: Retrofit): FerryApi = retrofit.create(FerryApi::class.java)
}
`,
		"app/data/FerryApi.kt": `package ferry.saltmere.data
import retrofit2.Response
import retrofit2.http.*

interface FerryApi {
    @GET("v2/sailings") suspend fun sailings(@Query("port") port: String): Page<Sailing>
    @GET("v2/sailings/{id}") suspend fun sailing(@Path("id") id: Long): Response<Sailing>
}
`,
		"app/data/Models.kt": `package ferry.saltmere.data
import com.squareup.moshi.*
import java.util.Date

data class Page<T>(@Json(name = "value") val items: List<T>, val next: String? = null, val count: Int)
enum class Status { ON_TIME, DELAYED, UNKNOWN }
object StatusAdapter {
    @FromJson fun fromJson(text: String): Status = Status.values().firstOrNull { it.name.equals(text, ignoreCase = true) } ?: Status.UNKNOWN
    @ToJson fun toJson(s: Status): String = s.name.lowercase()
}
data class Sailing(
    val id: Long,
    @Json(name = "departs_at") val departsAt: Date,
    val status: Status = Status.UNKNOWN,
    val vessel: Vessel?,
    val fare: Double,
    val stops: List<String> = emptyList(),
)
@JsonClass(generateAdapter = true)
data class Vessel(val name: String, val built: Int)
`,
		"c/a.har": `{"log":{"version":"1.2","entries":[
{"startedDateTime":"2026-03-01T09:00:00Z","request":{"method":"GET","url":"https://api.saltmere.test/v2/sailings?port=SAL"},"response":{"status":200,"content":{"mimeType":"application/json","text":"{\"value\":[{\"id\":1,\"departs_at\":\"2026-03-01T09:30:00Z\",\"status\":\"on_time\",\"vessel\":{\"name\":\"Tern\",\"built\":1990},\"fare\":4.5},{\"id\":2,\"departs_at\":\"2026-03-01 09:30\",\"status\":\"lost\",\"vessel\":null,\"fare\":null,\"stops\":null}],\"count\":2}"}}},
{"startedDateTime":"2026-03-01T09:01:00Z","request":{"method":"GET","url":"https://api.saltmere.test/v2/sailings/2"},"response":{"status":200,"content":{"mimeType":"application/json","text":"{\"id\":2,\"departs_at\":null,\"status\":3,\"vessel\":{\"name\":\"Skua\"},\"fare\":\"4.5\",\"stops\":[\"TER\"]}"}}}
]}}
`,
	}, []run{
		{"check app c", 1, `2 of 2 responses would not decode: 4 breaks, 0 misreads in 4 models
  2/2  breaks  Sailing.departsAt  "2026-03-01 09:30", null  Models.kt:13
  1/1  breaks  Sailing.fare       null                      Models.kt:16
  1/1  breaks  Sailing.stops      null                      Models.kt:17
  1/1  breaks  Vessel.built       is never sent             Models.kt:20

Sailing  app/data/Models.kt:11:12
  Moshi · KotlinJsonAdapterFactory true · adapter.Date Rfc3339DateJsonAdapter · adapter.Status StatusAdapter.fromJson
  decoded from GET /v2/sailings at $.value[*]: 2 objects in 1 response
  1 of 1 response would not decode because of it
  decoded from GET /v2/sailings/{sailing} at $: 1 object in 1 response
  1 of 1 response would not decode because of it

  breaks    departsAt: Date  app/data/Models.kt:13:36  values of several kinds, which fail in several ways [mixed-values]
            at        GET /v2/sailings $.value[*].departs_at
            sent      "2026-03-01 09:30"  in 1 of 2 values, 1 of 1 response: JsonDataException: Not an RFC 3339 date: 2026-03-01 09:30
            example   c/a.har:2:198 #1  /value/1/departs_at  "2026-03-01 09:30"
            at        GET /v2/sailings/{sailing} $.departs_at
            sent      null  in 1 of 1 value, 1 of 1 response: JsonDataException: Non-null value 'departsAt' (JSON name 'departs_at') was null at $.departs_at
            change    make it optional for null; read the other kinds by hand, one after the other

  breaks    fare: Double  app/data/Models.kt:16:9  null where a value is declared [null-value]
            at        GET /v2/sailings $.value[*].fare
            sent      null  in 1 of 2 values, 1 of 1 response
            example   c/a.har:2:198 #1  /value/1/fare  null
            throws    JsonDataException: Expected a double but was NULL at path $.value[1].fare
            change    val fare: Double?  // make it optional

  breaks    stops: List<String>  app/data/Models.kt:17:9  null where a value is declared [null-value]
            at        GET /v2/sailings $.value[*].stops
            sent      null  in 1 of 1 value, 1 of 1 response
            example   c/a.har:2:198 #1  /value/1/stops  null
            throws    JsonDataException: Non-null value 'stops' was null at $.value[1].stops
            change    val stops: List<String>?  // make it optional

Vessel  app/data/Models.kt:20:12
  Moshi · KotlinJsonAdapterFactory true · adapter.Date Rfc3339DateJsonAdapter · adapter.Status StatusAdapter.fromJson
  decoded from GET /v2/sailings at $.value[*].vessel: 1 object in 1 response
  decoded from GET /v2/sailings/{sailing} at $.vessel: 1 object in 1 response
  1 of 1 response would not decode because of it

  breaks    built: Int  app/data/Models.kt:20:41  the key is never sent [missing-key]
            at        GET /v2/sailings/{sailing} $.vessel
            sent      no key built  in 1 of 1 object, 1 of 1 response
            example   c/a.har:3:191 #2  /vessel  name "Skua"
            throws    JsonDataException: Required value 'built' missing at $.vessel
            change    no response has built: check its spelling, or remove the field

findings   4 breaks, 0 misreads, 0 ignores
models     4 declared in 3 source files: 2 with findings, 2 clean (-all lists them), 0 without a response, 0 not judged
responses  2 read from 1 capture: 2 checked, 0 without a model, 0 not judged
`},
	}},
	{"a result type of the app's own", files{
		"app/Api.kt": `package ferry.saltmere
import com.google.gson.Gson
import java.lang.reflect.ParameterizedType
import java.lang.reflect.Type
import retrofit2.Call
import retrofit2.CallAdapter
import retrofit2.Retrofit
import retrofit2.converter.gson.GsonConverterFactory
import retrofit2.http.GET

data class Ticket(val title: String, val amount: Double)

sealed class ApiResult<out T> {
    data class Success<T>(val data: T) : ApiResult<T>()
    data class Failure(val code: Int) : ApiResult<Nothing>()
}

interface Api {
    @GET("v3/tickets/1")
    suspend fun ticket(): ApiResult<Ticket>
}

class ApiResultAdapterFactory : CallAdapter.Factory() {
    override fun get(returnType: Type, annotations: Array<Annotation>, retrofit: Retrofit): CallAdapter<*, *>? {
        val inner = getParameterUpperBound(0, returnType as ParameterizedType)
        if (getRawType(inner) != ApiResult::class.java) return null
        return ApiResultAdapter<Any>(getParameterUpperBound(0, inner as ParameterizedType))
    }
}

val api: Api = Retrofit.Builder().baseUrl("https://api.saltmere.example/")
    .addCallAdapterFactory(ApiResultAdapterFactory())
    .addConverterFactory(GsonConverterFactory.create(Gson()))
    .build().create(Api::class.java)
`,
		"captures/ticket/1.json": `{"title": null, "amount": 2.5}`,
		"captures/ticket/2.json": `{"title": null, "amount": 2.5}`,
		"captures/ticket/3.json": `{"title": null, "amount": 2.5}`,
		"captures/ticket/4.json": `{"title": null, "amount": 2.5}`,
		"captures/ticket/5.json": `{"title": null, "amount": 2.5}`,
	}, []run{
		{"check app captures -brief", 1, `0 of 5 responses would not decode: 0 breaks, 1 misread in 1 model
  5/5  misreads  Ticket.title  null in a property that is never null  app/Api.kt:11:23

findings   0 breaks, 1 misreads, 0 ignores
models     1 declared in 1 source file: 1 with findings, 0 clean, 0 without a response, 0 not judged
responses  5 read from 5 captures: 5 checked, 0 without a model, 0 not judged
`},
	}},
	{"a key that stands at two levels", files{
		"App/Ticket.swift": `import Foundation

struct Ticket: Decodable {
    let ticketId: Int
    let payment: Payment

    struct Payment: Decodable {
        let method: String
        let amount: Double?
    }
}

func ticket(_ data: Data) throws -> Ticket { try JSONDecoder().decode(Ticket.self, from: data) }
`,
		"captures/ticket/1.json": `{"ticketId": 1, "amount": 11.5, "payment": {"method": "card", "amount": 11.5}}`,
		"captures/ticket/2.json": `{"ticketId": 2, "amount": 12.5, "payment": {"method": "card", "amount": 12.5}}`,
		"captures/ticket/3.json": `{"ticketId": 3, "amount": 13.5, "payment": {"method": "card"}}`,
		"captures/ticket/4.json": `{"ticketId": 4, "amount": 14.5, "payment": {"method": "card", "amount": 14.5}}`,
		"captures/ticket/5.json": `{"ticketId": 5, "amount": 15.5, "payment": {"method": "card", "amount": 15.5}}`,
		"captures/ticket/6.json": `{"ticketId": 6, "amount": 16.5, "payment": {"method": "card"}}`,
		"captures/ticket/7.json": `{"ticketId": 7, "amount": 17.5, "payment": {"method": "card", "amount": 17.5}}`,
		"captures/ticket/8.json": `{"ticketId": 8, "amount": 18.5, "payment": {"method": "card", "amount": 18.5}}`,
	}, []run{
		{"check App captures -brief", 0, `0 of 8 responses would not decode: 0 breaks, 0 misreads in 2 models

findings   0 breaks, 0 misreads, 1 ignores
models     2 declared in 1 source file: 1 with findings, 1 clean, 0 without a response, 0 not judged
responses  8 read from 8 captures: 8 checked, 0 without a model, 0 not judged
`},
	}},
	{"from is not to", files{
		"App/Leg.swift": `import Foundation

struct Leg: Decodable {
    let legId: Int
    let toStop: String
}

func leg(_ data: Data) throws -> Leg {
    let decoder = JSONDecoder()
    decoder.keyDecodingStrategy = .convertFromSnakeCase
    return try decoder.decode(Leg.self, from: data)
}
`,
		"captures/leg/1.json": `{"leg_id": 1, "from_stop": "Mill Street", "info": {"to_stop": "Wren Hill"}}`,
		"captures/leg/2.json": `{"leg_id": 2, "from_stop": "Mill Street", "info": {"to_stop": "Wren Hill"}}`,
		"captures/leg/3.json": `{"leg_id": 3, "from_stop": "Mill Street", "info": {"to_stop": "Wren Hill"}}`,
		"captures/leg/4.json": `{"leg_id": 4, "from_stop": "Mill Street", "info": {"to_stop": "Wren Hill"}}`,
		"captures/leg/5.json": `{"leg_id": 5, "from_stop": "Mill Street", "info": {"to_stop": "Wren Hill"}}`,
		"captures/leg/6.json": `{"leg_id": 6, "from_stop": "Mill Street", "info": {"to_stop": "Wren Hill"}}`,
		"captures/leg/7.json": `{"leg_id": 7, "from_stop": "Mill Street", "info": {"to_stop": "Wren Hill"}}`,
		"captures/leg/8.json": `{"leg_id": 8, "from_stop": "Mill Street", "info": {"to_stop": "Wren Hill"}}`,
	}, []run{
		{"check App captures -brief", 1, `8 of 8 responses would not decode: 1 break, 0 misreads in 1 model
  8/8  breaks  Leg.toStop  sent at $.info.to_stop  App/Leg.swift:5:9

findings   1 breaks, 0 misreads, 1 ignores
models     1 declared in 1 source file: 1 with findings, 0 clean, 0 without a response, 0 not judged
responses  8 read from 8 captures: 8 checked, 0 without a model, 0 not judged
`},
	}},
	{"a nested class reads itself", files{
		"App/Journey.swift": `import Foundation

struct Journey: Decodable {
    let id: Int
    let origin: Stop
}

struct Stop: Decodable {
    let code: String
    let name: String

    enum CodingKeys: String, CodingKey { case code, name }

    init(from decoder: Decoder) throws {
        let c = try decoder.container(keyedBy: CodingKeys.self)
        code = try c.decode(String.self, forKey: .code)
        name = try c.decodeIfPresent(String.self, forKey: .name) ?? ""
    }
}

func journey(_ data: Data) throws -> Journey { try JSONDecoder().decode(Journey.self, from: data) }
`,
		"captures/journey/1.json":  `{"id": 1, "origin": {"code": "K1", "name": "Pier"}}`,
		"captures/journey/2.json":  `{"id": 2, "origin": {"code": "K1", "name": "Pier"}}`,
		"captures/journey/3.json":  `{"id": 3, "origin": {"code": "K1", "name": "Pier"}}`,
		"captures/journey/4.json":  `{"id": 4, "origin": {"code": "K1", "name": "Pier"}}`,
		"captures/journey/5.json":  `{"id": 5, "origin": [{"code": "K1", "name": "Pier"}]}`,
		"captures/journey/6.json":  `{"id": 6, "origin": [{"code": "K1", "name": "Pier"}]}`,
		"captures/journey/7.json":  `{"id": 7, "origin": [{"code": "K1", "name": "Pier"}]}`,
		"captures/journey/8.json":  `{"id": 8, "origin": null}`,
		"captures/journey/9.json":  `{"id": 9, "origin": null}`,
		"captures/journey/10.json": `{"id": 10, "origin": null}`,
	}, []run{
		{"check App captures", 1, `6 of 10 responses would not decode: 1 break, 0 misreads in 2 models
  6/10  breaks  Journey.origin  null, an array  Journey.swift:5

Journey  App/Journey.swift:3:8
  Foundation JSONDecoder
  decoded from captures/journey/* at $: 10 objects in 10 responses
  6 of 10 responses would not decode because of it

  breaks    origin: Stop  App/Journey.swift:5:9  values of several kinds, which fail in several ways [mixed-values]
            sent      null  in 3 of 10 values, 3 of 10 responses: valueNotFound: Dictionary<String, Any>
                      an array  in 3 of 10 values, 3 of 10 responses: typeMismatch: Dictionary<String, Any>: Expected to decode Dictionary<String, Any> but found an array instead.
            when      all since journey/5
            example   captures/journey/5.json:1:21  /origin  [{"code": "K1", "name": "Pier"}]
            change    make it optional for null; read the other kinds by hand, one after the other

findings   1 breaks, 0 misreads, 0 ignores
models     2 declared in 1 source file: 1 with findings, 1 clean (-all lists them), 0 without a response, 0 not judged
responses  10 read from 10 captures: 10 checked, 0 without a model, 0 not judged
`},
	}},
	{"a key gets another word", files{
		"App/Station.swift": `import Foundation

struct Station: Decodable {
    let code: String
    let manager: Contact?
    let bays: Int?
}

struct Contact: Decodable {
    let name: String
    let phone: String
}

func stations(_ data: Data) throws -> [Station] { try JSONDecoder().decode([Station].self, from: data) }
`,
		"captures/stations/1.json":  `[{"code": "K10", "manager": {"name": "Ada", "phone": "1"}, "bays": 4}, {"code": "K11", "manager": {"name": "Ada", "phone": "1"}, "bays": 5}, {"code": "K12", "manager": {"name": "Ada", "phone": "1"}, "bays": 6}, {"code": "K13", "manager": {"name": "Ada", "phone": "1"}, "bays": 7}]`,
		"captures/stations/2.json":  `[{"code": "K20", "manager": {"name": "Ada", "phone": "1"}, "bays": 4}, {"code": "K21", "manager": {"name": "Ada", "phone": "1"}, "bays": 5}, {"code": "K22", "manager": {"name": "Ada", "phone": "1"}, "bays": 6}, {"code": "K23", "manager": {"name": "Ada", "phone": "1"}, "bays": 7}]`,
		"captures/stations/3.json":  `[{"code": "K30", "manager": {"name": "Ada", "phone": "1"}, "bays": 4}, {"code": "K31", "manager": {"name": "Ada", "phone": "1"}, "bays": 5}, {"code": "K32", "manager": {"name": "Ada", "phone": "1"}, "bays": 6}, {"code": "K33", "manager": {"name": "Ada", "phone": "1"}, "bays": 7}]`,
		"captures/stations/4.json":  `[{"code": "K40", "manager": {"name": "Ada", "phone": "1"}, "bays": 4}, {"code": "K41", "manager": {"name": "Ada", "phone": "1"}, "bays": 5}, {"code": "K42", "manager": {"name": "Ada", "phone": "1"}, "bays": 6}, {"code": "K43", "manager": {"name": "Ada", "phone": "1"}, "bays": 7}]`,
		"captures/stations/5.json":  `[{"code": "K50", "manager": {"name": "Ada", "phone": "1"}, "bays": 4}, {"code": "K51", "manager": {"name": "Ada", "phone": "1"}, "bays": 5}, {"code": "K52", "manager": {"name": "Ada", "phone": "1"}, "bays": 6}, {"code": "K53", "manager": {"name": "Ada", "phone": "1"}, "bays": 7}]`,
		"captures/stations/6.json":  `[{"code": "K60", "manager": {"name": "Ada", "phone": "1"}, "bays": 4}, {"code": "K61", "manager": {"name": "Ada", "phone": "1"}, "bays": 5}, {"code": "K62", "manager": {"name": "Ada", "phone": "1"}, "bays": 6}, {"code": "K63", "manager": {"name": "Ada", "phone": "1"}, "bays": 7}]`,
		"captures/stations/7.json":  `[{"code": "K70", "supervisor": {"name": "Ada", "phone": "1"}, "slots": 4}, {"code": "K71", "supervisor": {"name": "Ada", "phone": "1"}, "slots": 5}, {"code": "K72", "supervisor": {"name": "Ada", "phone": "1"}, "slots": 6}, {"code": "K73", "supervisor": {"name": "Ada", "phone": "1"}, "slots": 7}]`,
		"captures/stations/8.json":  `[{"code": "K80", "supervisor": {"name": "Ada", "phone": "1"}, "slots": 4}, {"code": "K81", "supervisor": {"name": "Ada", "phone": "1"}, "slots": 5}, {"code": "K82", "supervisor": {"name": "Ada", "phone": "1"}, "slots": 6}, {"code": "K83", "supervisor": {"name": "Ada", "phone": "1"}, "slots": 7}]`,
		"captures/stations/9.json":  `[{"code": "K90", "supervisor": {"name": "Ada", "phone": "1"}, "slots": 4}, {"code": "K91", "supervisor": {"name": "Ada", "phone": "1"}, "slots": 5}, {"code": "K92", "supervisor": {"name": "Ada", "phone": "1"}, "slots": 6}, {"code": "K93", "supervisor": {"name": "Ada", "phone": "1"}, "slots": 7}]`,
		"captures/stations/10.json": `[{"code": "K100", "supervisor": {"name": "Ada", "phone": "1"}, "slots": 4}, {"code": "K101", "supervisor": {"name": "Ada", "phone": "1"}, "slots": 5}, {"code": "K102", "supervisor": {"name": "Ada", "phone": "1"}, "slots": 6}, {"code": "K103", "supervisor": {"name": "Ada", "phone": "1"}, "slots": 7}]`,
		"captures/stations/11.json": `[{"code": "K110", "supervisor": {"name": "Ada", "phone": "1"}, "slots": 4}, {"code": "K111", "supervisor": {"name": "Ada", "phone": "1"}, "slots": 5}, {"code": "K112", "supervisor": {"name": "Ada", "phone": "1"}, "slots": 6}, {"code": "K113", "supervisor": {"name": "Ada", "phone": "1"}, "slots": 7}]`,
		"captures/stations/12.json": `[{"code": "K120", "supervisor": {"name": "Ada", "phone": "1"}, "slots": 4}, {"code": "K121", "supervisor": {"name": "Ada", "phone": "1"}, "slots": 5}, {"code": "K122", "supervisor": {"name": "Ada", "phone": "1"}, "slots": 6}, {"code": "K123", "supervisor": {"name": "Ada", "phone": "1"}, "slots": 7}]`,
	}, []run{
		{"check App captures -brief", 1, `0 of 12 responses would not decode: 0 breaks, 2 misreads in 2 models
  6/12  misreads  Station.manager  sent as supervisor  App/Station.swift:5:9
  6/12  misreads  Station.bays     sent as slots       App/Station.swift:6:9

findings   0 breaks, 2 misreads, 0 ignores
models     2 declared in 1 source file: 1 with findings, 1 clean, 0 without a response, 0 not judged
responses  12 read from 12 captures: 12 checked, 0 without a model, 0 not judged
`},
	}},
	{"ids outgrow an int", files{
		"app/Page.kt": `package ferry.saltmere
import com.google.gson.Gson
data class Page(val total: Int)
fun page(gson: Gson, body: String): Page = gson.fromJson(body, Page::class.java)
`,
		"captures/page/1.json":  `{"total": 7}`,
		"captures/page/2.json":  `{"total": 14}`,
		"captures/page/3.json":  `{"total": 21}`,
		"captures/page/4.json":  `{"total": 28}`,
		"captures/page/5.json":  `{"total": 35}`,
		"captures/page/6.json":  `{"total": 42}`,
		"captures/page/7.json":  `{"total": 49}`,
		"captures/page/8.json":  `{"total": 56}`,
		"captures/page/9.json":  `{"total": 63}`,
		"captures/page/10.json": `{"total": 70}`,
		"captures/page/11.json": `{"total": 77}`,
		"captures/page/12.json": `{"total": 84}`,
		"captures/page/13.json": `{"total": 91}`,
		"captures/page/14.json": `{"total": 5000000042}`,
		"captures/page/15.json": `{"total": 5000000045}`,
		"captures/page/16.json": `{"total": 5000000048}`,
		"captures/page/17.json": `{"total": 5000000051}`,
		"captures/page/18.json": `{"total": 5000000054}`,
		"captures/page/19.json": `{"total": 5000000057}`,
		"captures/page/20.json": `{"total": 5000000060}`,
		"captures/page/21.json": `{"total": 5000000063}`,
		"captures/page/22.json": `{"total": 5000000066}`,
		"captures/page/23.json": `{"total": 5000000069}`,
		"captures/page/24.json": `{"total": 5000000072}`,
		"captures/page/25.json": `{"total": 5000000075}`,
		"captures/page/26.json": `{"total": 5000000078}`,
		"captures/page/27.json": `{"total": 5000000081}`,
		"captures/page/28.json": `{"total": 5000000084}`,
		"captures/page/29.json": `{"total": 5000000087}`,
		"captures/page/30.json": `{"total": 5000000090}`,
		"captures/page/31.json": `{"total": 5000000093}`,
		"captures/page/32.json": `{"total": 5000000096}`,
		"captures/page/33.json": `{"total": 5000000099}`,
		"captures/page/34.json": `{"total": 5000000102}`,
		"captures/page/35.json": `{"total": 5000000105}`,
		"captures/page/36.json": `{"total": 5000000108}`,
		"captures/page/37.json": `{"total": 5000000111}`,
		"captures/page/38.json": `{"total": 5000000114}`,
		"captures/page/39.json": `{"total": 5000000117}`,
		"captures/page/40.json": `{"total": 5000000120}`,
	}, []run{
		{"check app captures -brief", 1, `27 of 40 responses would not decode: 1 break, 0 misreads in 1 model
  27/40  breaks  Page.total  whole numbers up to 5000000120  app/Page.kt:3:21

findings   1 breaks, 0 misreads, 0 ignores
models     1 declared in 1 source file: 1 with findings, 0 clean, 0 without a response, 0 not judged
responses  40 read from 40 captures: 40 checked, 0 without a model, 0 not judged
`},
	}},
	{"an optional that is always there", files{
		"app/Port.kt": `package ferry.saltmere
import com.google.gson.Gson
data class Port(val code: String, val name: String?)
fun port(gson: Gson, body: String): Port = gson.fromJson(body, Port::class.java)
`,
		"captures/port/1.json": `{"code": "S1", "name": "N1"}`,
		"captures/port/2.json": `{"code": "S2", "name": "N2"}`,
		"captures/port/3.json": `{"code": "S3", "name": "N3"}`,
		"captures/port/4.json": `{"code": "S4", "name": "N4"}`,
		"captures/port/5.json": `{"code": "S5", "name": "N5"}`,
		"captures/port/6.json": `{"code": "S6", "name": "N6"}`,
		"captures/port/7.json": `{"code": "S7", "name": "N7"}`,
		"captures/port/8.json": `{"code": "S8", "name": "N8"}`,
	}, []run{
		{"check app captures -loose -brief", 0, `0 of 8 responses would not decode: 0 breaks, 0 misreads in 1 model
  8/8  loose  Port.name  optional, and always there  app/Port.kt:3:39

findings   0 breaks, 0 misreads, 0 ignores, 1 loose
models     1 declared in 1 source file: 1 with findings, 0 clean, 0 without a response, 0 not judged
responses  8 read from 8 captures: 8 checked, 0 without a model, 0 not judged
`},
	}},
	{"files that the app ships", files{
		"app/google-services.json": `{"project_info": {"project_id": "k"}, "client": []}`,
		"app/src/main/java/Me.kt": `package ferry.saltmere
import com.google.gson.Gson
data class Answer<T>(val success: Boolean, val result: T, val version: Int)
data class Me(val id: Int, val name: String, val tier: String, val city: String)
fun me(gson: Gson, body: String): Answer<Me> = gson.fromJson(body, object : TypeToken<Answer<Me>>() {}.type)
`,
		"app/src/test/resources/me.json": `{"success": true, "version": 2, "result": {"id": 1}}`,
		"captures/me/1.json":             `{"success": true, "version": 2, "result": {"id": 1, "name": "Ada", "tier": "gold", "city": "Saltmere"}}`,
		"captures/me/2.json":             `{"success": true, "version": 2, "result": {"id": 2, "name": "Ada", "tier": "gold", "city": "Saltmere"}}`,
		"captures/me/3.json":             `{"success": true, "version": 2, "result": {"id": 3, "name": "Ada", "tier": "gold", "city": "Saltmere"}}`,
		"captures/me/4.json":             `{"success": true, "version": 2, "result": {"id": 4, "name": "Ada", "tier": "gold", "city": "Saltmere"}}`,
		"captures/me/5.json":             `{"success": true, "version": 2, "result": {"id": 5, "name": "Ada", "tier": "gold", "city": "Saltmere"}}`,
	}, []run{
		{"check app captures -all", 0, `0 of 5 responses would not decode: 0 breaks, 0 misreads in 2 models

Clean
  Answer  app/src/main/java/Me.kt:3:12  captures/me/* $
  Me  app/src/main/java/Me.kt:4:12  captures/me/* $.result

findings   0 breaks, 0 misreads, 0 ignores
models     2 declared in 1 source file: 0 with findings, 2 clean, 0 without a response, 0 not judged
responses  5 read from 5 captures: 5 checked, 0 without a model, 0 not judged
not read   2 JSON files of the app's own (app/google-services.json, …); name a folder or file to have it read
`},
	}},
	{"a phone number that was not sent", files{
		"app/Stop.kt": `package ferry.saltmere
import com.google.gson.Gson
data class Stop(val id: String, val phone: String?, val name: String?)
fun stop(gson: Gson, body: String): Stop = gson.fromJson(body, Stop::class.java)
`,
		"captures/stop/1.json": `{"id": "S1"}`,
	}, []run{
		{"trial app captures", 0, `captures/stop/1.json as Stop: decodes
    place    declared        sent      seen
    $.id     id: String      "S1"      "S1"
    $.phone  phone: String?  (absent)  null
    $.name   name: String?   (absent)  null

`},
	}},
}

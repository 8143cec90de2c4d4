package cli_test

// askedStories are about apps that ask through functions and types of their own.
var askedStories = []story{
	{"a generic client", files{
		"App/Client.swift": `import Foundation

struct Port: Decodable { let code: String; let berths: Int; let depthM: Double }
struct PortSummary: Decodable { let code: String; let berths: Int }
struct Found: Decodable { let hits: [PortSummary]; let took: Int }
struct Envelope<T: Decodable>: Decodable { let data: T; let total: Int }
struct Sailing: Decodable { let id: Int }

final class Client {
    private let decoder = JSONDecoder()

    func port(_ code: String) async throws -> Port { try await get("v2/ports/\(code)") }
    func ports() async throws -> [PortSummary] { try await get("v2/ports") }
    func search(_ text: String) async throws -> Found { try await get("v2/ports/search?q=\(text)") }
    func sailings() async throws -> Envelope<[Sailing]> { try await get("v2/sailings") }

    private func get<T: Decodable>(_ path: String) async throws -> T {
        let (data, _) = try await URLSession.shared.data(from: URL(string: "https://api.saltmere.example/" + path)!)
        return try decoder.decode(T.self, from: data)
    }
}
`,
		"captures/port/1.json":     `{"code": "KEL", "berths": 2, "depthM": 4.5}`,
		"captures/port/2.json":     `{"code": "KEL", "berths": 2, "depthM": 4.5}`,
		"captures/port/3.json":     `{"code": "KEL", "berths": 2, "depthM": 4.5}`,
		"captures/ports/1.json":    `[{"code": "KEL", "berths": 2}, {"code": "SAL", "berths": 3}]`,
		"captures/ports/2.json":    `[{"code": "KEL", "berths": 2}, {"code": "SAL", "berths": 3}]`,
		"captures/ports/3.json":    `[{"code": "KEL", "berths": 2}, {"code": "SAL", "berths": 3}]`,
		"captures/sailings/1.json": `{"data": [{"id": 3}], "next": null}`,
		"captures/sailings/2.json": `{"data": [{"id": 3}], "next": null}`,
		"captures/sailings/3.json": `{"data": [{"id": 3}], "next": null}`,
	}, []run{
		{"check App captures", 1, `3 of 9 responses would not decode: 1 break, 0 misreads in 4 models
  3/3  breaks  Envelope.total  is never sent  Client.swift:6

Envelope  App/Client.swift:6:8
  Foundation JSONDecoder
  decoded from captures/sailings/* at $: 3 objects in 3 responses
  3 of 3 responses would not decode because of it

  breaks    total: Int  App/Client.swift:6:61  the key is never sent [missing-key]
            sent      no key total  in 3 of 3 objects, 3 of 3 responses
            example   captures/sailings/1.json:1:1  ""  {"data": [{"id": 3}], "next": null}
            throws    keyNotFound: total
            change    no response has total: check its spelling, or remove the field

  ignores   1 key sent and not read: next

Models without a response
  Found  App/Client.swift:5:8  no response has its keys

findings   1 breaks, 0 misreads, 1 ignores
models     5 declared in 1 source file: 1 with findings, 3 clean (-all lists them), 1 without a response, 0 not judged
responses  9 read from 9 captures: 9 checked, 0 without a model, 0 not judged
`},
		{"models App", 0, `Port  struct  App/Client.swift:3:8
  Foundation JSONDecoder
  code    String  code
  berths  Int     berths
  depthM  Double  depthM

PortSummary  struct  App/Client.swift:4:8
  Foundation JSONDecoder
  code    String  code
  berths  Int     berths

Found  struct  App/Client.swift:5:8
  Foundation JSONDecoder
  hits  [PortSummary]  hits
  took  Int            took

Envelope  struct  App/Client.swift:6:8
  Foundation JSONDecoder
  data   T    data
  total  Int  total

Sailing  struct  App/Client.swift:7:8
  Foundation JSONDecoder
  id  Int  id

Decoded
  Port  App/Client.swift:12:64  from v2/ports/{}
    port → get → decode (App/Client.swift:19:28)
  [PortSummary]  App/Client.swift:13:60  from v2/ports
    ports → get → decode (App/Client.swift:19:28)
  Found  App/Client.swift:14:67  from v2/ports/search
    search → get → decode (App/Client.swift:19:28)
  Envelope<[Sailing]>  App/Client.swift:15:69  from v2/sailings
    sailings → get → decode (App/Client.swift:19:28)

5 models in 1 source file
`},
	}},
	{"a helper that is given the type", files{
		"app/Client.java": `package saltmere;
import com.fasterxml.jackson.core.type.TypeReference;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.util.List;

class Client {
    private static final ObjectMapper MAPPER = new ObjectMapper();
    private final Http http;
    Client(Http http) { this.http = http; }

    Envelope<List<Port>> ports() throws Exception {
        return get("v2/ports", new TypeReference<Envelope<List<Port>>>() {});
    }

    List<Vessel> vessels() throws Exception {
        return get("v2/vessels", new TypeReference<List<Vessel>>() {});
    }

    private <T> T get(String path, TypeReference<T> type) throws Exception {
        return MAPPER.readValue(http.get(path), type);
    }

    interface Http { String get(String path); }
}
`,
		"app/Models.java": `package saltmere;
class Envelope<T> { public T data; public int total; }
class Port { public String code; public boolean open; }
class Vessel { public int id; }
`,
		"captures/ports/1.json":   `{"data": [{"code": "KEL", "open": true}], "total": "many"}`,
		"captures/ports/2.json":   `{"data": [{"code": "KEL", "open": true}], "total": "many"}`,
		"captures/ports/3.json":   `{"data": [{"code": "KEL", "open": true}], "total": "many"}`,
		"captures/vessels/1.json": `[{"id": 1}]`,
		"captures/vessels/2.json": `[{"id": 1}]`,
		"captures/vessels/3.json": `[{"id": 1}]`,
	}, []run{
		{"check app captures", 1, `3 of 6 responses would not decode: 1 break, 0 misreads in 3 models
  3/3  breaks  Envelope.total  "many", not int  Models.java:2

Envelope  app/Models.java:2:7
  Jackson
  decoded from captures/ports/* at $: 3 objects in 3 responses
  3 of 3 responses would not decode because of it

  breaks    total: int  app/Models.java:2:47  a value of another kind [wrong-kind]
            sent      "many"  in 3 of 3 values, 3 of 3 responses
            example   captures/ports/1.json:1:52  /total  "many"
            throws    InvalidFormatException: Cannot deserialize value of type ` + "`" + `int` + "`" + ` from String "many": not a valid ` + "`" + `int` + "`" + ` value
            change    String total;  // as it is sent

findings   1 breaks, 0 misreads, 0 ignores
models     3 declared in 2 source files: 1 with findings, 2 clean (-all lists them), 0 without a response, 0 not judged
responses  6 read from 6 captures: 6 checked, 0 without a model, 0 not judged
`},
	}},
	{"a client that negotiates content", files{
		"app/Client.kt": `package saltmere
import io.ktor.client.HttpClient
import io.ktor.client.call.body
import io.ktor.client.plugins.contentnegotiation.ContentNegotiation
import io.ktor.client.request.get
import io.ktor.serialization.gson.gson

data class Pass(val title: String, val berthDeck: Int)
data class Envelope<T>(val data: T, val total: Int)
data class Port(val code: String, val name: String)

val http = HttpClient {
    install(ContentNegotiation) {
        gson {
            setFieldNamingPolicy(FieldNamingPolicy.LOWER_CASE_WITH_UNDERSCORES)
        }
    }
}

class Client(private val client: HttpClient) {
    suspend fun pass(): Pass = client.get("https://api.saltmere.example/v2/passes/1").body()
    suspend fun ports(): Envelope<List<Port>> = client.get("https://api.saltmere.example/v2/ports").body()
}
`,
		"captures/pass/1.json":  `{"title": null, "berth_deck": 2}`,
		"captures/pass/2.json":  `{"title": null, "berth_deck": 2}`,
		"captures/pass/3.json":  `{"title": null, "berth_deck": 2}`,
		"captures/ports/1.json": `{"data": [{"code": "KEL", "name": null}], "total": "many"}`,
		"captures/ports/2.json": `{"data": [{"code": "KEL", "name": null}], "total": "many"}`,
		"captures/ports/3.json": `{"data": [{"code": "KEL", "name": null}], "total": "many"}`,
	}, []run{
		{"check app captures", 1, `3 of 6 responses would not decode: 1 break, 2 misreads in 3 models
  3/3  breaks    Envelope.total  "many", not Int                        Client.kt:9
  3/3  misreads  Pass.title      null in a property that is never null  Client.kt:8
  3/3  misreads  Port.name       null in a property that is never null  Client.kt:10

Pass  app/Client.kt:8:12
  Gson · naming LOWER_CASE_WITH_UNDERSCORES
  decoded from captures/pass/* at $: 3 objects in 3 responses

  misreads  title: String  app/Client.kt:8:21  null in a property that says it is never null [hidden-null]
            sent      null  in 3 of 3 values, 3 of 3 responses
            example   captures/pass/1.json:1:11  /title  null
            app sees  null
            change    val title: String?  // null gets in here and crashes later, somewhere else

Envelope  app/Client.kt:9:12
  Gson · naming LOWER_CASE_WITH_UNDERSCORES
  decoded from captures/ports/* at $: 3 objects in 3 responses
  3 of 3 responses would not decode because of it

  breaks    total: Int  app/Client.kt:9:41  a value of another kind [wrong-kind]
            sent      "many"  in 3 of 3 values, 3 of 3 responses
            example   captures/ports/1.json:1:52  /total  "many"
            throws    JsonSyntaxException: java.lang.NumberFormatException: For input string: "many"
            change    val total: String  // as it is sent

Port  app/Client.kt:10:12
  Gson · naming LOWER_CASE_WITH_UNDERSCORES
  decoded from captures/ports/* at $.data[*]: 3 objects in 3 responses

  misreads  name: String  app/Client.kt:10:39  null in a property that says it is never null [hidden-null]
            sent      null  in 3 of 3 values, 3 of 3 responses
            example   captures/ports/1.json:1:35  /data/0/name  null
            app sees  null
            change    val name: String?  // null gets in here and crashes later, somewhere else

findings   1 breaks, 2 misreads, 0 ignores
models     3 declared in 1 source file: 3 with findings, 0 clean, 0 without a response, 0 not judged
responses  6 read from 6 captures: 6 checked, 0 without a model, 0 not judged
`},
		{"models app", 0, `Pass  class  app/Client.kt:8:12
  Gson · naming LOWER_CASE_WITH_UNDERSCORES
  title      String  title
  berthDeck  Int     berth_deck

Envelope  class  app/Client.kt:9:12
  Gson · naming LOWER_CASE_WITH_UNDERSCORES
  data   T    data
  total  Int  total

Port  class  app/Client.kt:10:12
  Gson · naming LOWER_CASE_WITH_UNDERSCORES
  code  String  code
  name  String  name

Settings
  naming LOWER_CASE_WITH_UNDERSCORES  app/Client.kt:15:13

Decoded
  Pass  app/Client.kt:21:87  from v2/passes/1
    pass → body
  Envelope<List<Port>>  app/Client.kt:22:101  from v2/ports
    ports → body

3 models in 1 source file
`},
	}},
	{"endpoints that say what they answer", files{
		"App/Client.swift": `import Foundation

struct Port: Decodable { let code: String; let berths: String }
struct Notice: Decodable { let text: String }

struct Endpoint<Response: Decodable> { let path: String }
extension Endpoint where Response == [Port] {
    static var ports: Endpoint { Endpoint(path: "v2/ports") }
}
extension Endpoint where Response == Notice {
    static func notice(_ id: Int) -> Endpoint { Endpoint(path: "v2/notices/\(id)") }
}

final class Client {
    func load<Response: Decodable>(_ endpoint: Endpoint<Response>) async throws -> Response {
        let (data, _) = try await URLSession.shared.data(from: URL(string: endpoint.path)!)
        return try JSONDecoder().decode(Response.self, from: data)
    }
}
`,
		"captures/ports/1.json":   `[{"code": "KEL", "berths": 2}, {"code": "SAL", "berths": 3}]`,
		"captures/ports/2.json":   `[{"code": "KEL", "berths": 2}, {"code": "SAL", "berths": 3}]`,
		"captures/ports/3.json":   `[{"code": "KEL", "berths": 2}, {"code": "SAL", "berths": 3}]`,
		"captures/notices/1.json": `{"text": "calm"}`,
		"captures/notices/2.json": `{"text": "calm"}`,
		"captures/notices/3.json": `{"text": "calm"}`,
	}, []run{
		{"check App captures", 1, `3 of 6 responses would not decode: 1 break, 0 misreads in 2 models
  3/3  breaks  Port.berths  2, not String  Client.swift:3

Port  App/Client.swift:3:8
  Foundation JSONDecoder
  decoded from captures/ports/* at $[*]: 6 objects in 3 responses
  3 of 3 responses would not decode because of it

  breaks    berths: String  App/Client.swift:3:48  a value of another kind [wrong-kind]
            sent      a whole number  in 6 of 6 values, 3 of 3 responses
            example   captures/ports/1.json:1:28  /0/berths  2
            throws    typeMismatch: String: Expected to decode String but found number instead.
            change    let berths: Int  // as it is sent

findings   1 breaks, 0 misreads, 0 ignores
models     2 declared in 1 source file: 1 with findings, 1 clean (-all lists them), 0 without a response, 0 not judged
responses  6 read from 6 captures: 6 checked, 0 without a model, 0 not judged
`},
	}},
	{"a type that nobody says", files{
		"App/Client.swift": `import Foundation

struct Port: Decodable { let code: String; let berths: Int }

final class Client {
    let registry: [String: Decodable.Type] = [:]

    func load<T: Decodable>(_ kind: T.Type, _ data: Data) throws -> T {
        try JSONDecoder().decode(T.self, from: data)
    }
    func any(_ name: String, _ data: Data) throws -> Any {
        try load(registry[name]!, data)
    }
}
`,
		"captures/ports/1.json": `[{"code": "KEL", "berths": 2}, {"code": "SAL", "berths": 3}]`,
		"captures/ports/2.json": `[{"code": "KEL", "berths": 2}, {"code": "SAL", "berths": 3}]`,
		"captures/ports/3.json": `[{"code": "KEL", "berths": 2}, {"code": "SAL", "berths": 3}]`,
	}, []run{
		{"models App", 0, `Port  struct  App/Client.swift:3:8
  Foundation JSONDecoder
  code    String  code
  berths  Int     berths

Decoded
  a type that is not known  App/Client.swift:9:27
    what its callers name is no class of the source

1 model in 1 source file
`},
		{"check App captures", 0, `0 of 3 responses would not decode: 0 breaks, 0 misreads in 1 model

findings   0 breaks, 0 misreads, 0 ignores
models     1 declared in 1 source file: 0 with findings, 1 clean (-all lists them), 0 without a response, 0 not judged
responses  3 read from 3 captures: 3 checked, 0 without a model, 0 not judged
`},
	}},
	{"one of several decoders", files{
		"App/Client.swift": `import Foundation

struct Port: Decodable { let portCode: String }

enum Decoders {
    static let current: JSONDecoder = {
        let decoder = JSONDecoder()
        decoder.keyDecodingStrategy = .convertFromSnakeCase
        return decoder
    }()
    static let legacy = JSONDecoder()
}

final class Client {
    let decoder: JSONDecoder
    init(decoder: JSONDecoder) { self.decoder = decoder }
    func ports(_ data: Data) throws -> [Port] { try decoder.decode([Port].self, from: data) }
}
`,
		"captures/ports/1.json": `[{"port_code": "KEL"}]`,
		"captures/ports/2.json": `[{"port_code": "SAL"}]`,
	}, []run{
		{"check App captures -fail-on unjudged", 2, `0 of 0 responses would not decode: 0 breaks, 0 misreads in 0 models

Not judged
  Port  App/Client.swift:3:8  it is decoded by one of several decoders, and which of them is not followed; it seems to be decoded from captures/ports/*, 2 responses

findings   0 breaks, 0 misreads, 0 ignores
models     1 declared in 1 source file: 0 with findings, 0 clean, 0 without a response, 1 not judged
responses  2 read from 2 captures: 0 checked, 0 without a model, 2 not judged
1 model could not be judged though there are responses for it: Port
`},
	}},
	{"a provider that is asked by the cases of an enum", files{
		"App/Api.swift": `import Foundation
import Moya

enum FerryAPI {
    case sailings(port: String)
    case pass(id: Int)
}

extension FerryAPI: TargetType {
    var baseURL: URL { URL(string: "https://api.saltmere.test/v2")! }
    var path: String {
        switch self {
        case .sailings: return "/sailings"
        case .pass(let id): return "/passes/\(id)"
        }
    }
    var method: Moya.Method { .get }
    var task: Task { .requestPlain }
    var headers: [String: String]? { nil }
}

struct Sailing: Decodable { let id: Int; let vesselName: String }
struct Pass: Decodable { let number: String; let seats: Int }

final class Ferries {
    let provider = MoyaProvider<FerryAPI>()
    let decoder: JSONDecoder = { let d = JSONDecoder(); d.keyDecodingStrategy = .convertFromSnakeCase; return d }()

    func sailings(_ port: String, done: @escaping (Result<[Sailing], Error>) -> Void) {
        provider.request(.sailings(port: port)) { result in
            switch result {
            case .success(let response):
                do {
                    let list = try response.filterSuccessfulStatusCodes().map([Sailing].self, atKeyPath: "data", using: self.decoder)
                    done(.success(list))
                } catch { done(.failure(error)) }
            case .failure(let error): done(.failure(error))
            }
        }
    }

    func pass(_ id: Int, done: @escaping (Pass?) -> Void) {
        provider.request(.pass(id: id)) { result in
            let pass = try? result.get().map(Pass.self)
            done(pass)
        }
    }
}
`,
		"captures/sailings.json": `{"data":[{"id":1,"vessel_name":"Tern"}]}`,
		"captures/passes.json":   `{"number":"P1","seat":2}`,
	}, []run{
		{"models App", 0, `Sailing  struct  App/Api.swift:22:8
  Foundation JSONDecoder · keys convertFromSnakeCase
  id          Int     id
  vesselName  String  vesselName

Pass  struct  App/Api.swift:23:8
  Foundation JSONDecoder
  number  String  number
  seats   Int     seats

Settings
  keys convertFromSnakeCase  App/Api.swift:27:59

Decoded
  [Sailing]  App/Api.swift:34:75  from sailings  at data
  Pass  App/Api.swift:44:42  from passes/{}  its error is dropped

2 models in 1 source file
`},
		{"check App captures -fail-on never", 0, `1 of 2 responses would not decode: 0 breaks, 1 misread in 2 models
  1/1  misreads  Pass.seats  sent as seat  Api.swift:23

Pass  App/Api.swift:23:8
  Foundation JSONDecoder
  decoded from captures/passes at $: 1 object in 1 response
  1 of 1 response would not decode because of it

  misreads  seats: Int  App/Api.swift:23:50  sent under another key [renamed-key]
            sent      no key seats  in 1 of 1 object, 1 of 1 response
            example   captures/passes.json:1:1  ""  number "P1"
            app sees  nothing in place of the whole response
            dropped   keyNotFound: seats
            evidence  seat is sent in 1 of 1 objects, never together with seats; the names differ in singular and plural; no response here has seats, so it is misspelt in the model, or was renamed before these captures
            change    case seats = "seat"  // in CodingKeys; while both keys are sent, try one and then the other in an init(from:)

findings   0 breaks, 1 misreads, 0 ignores
models     2 declared in 1 source file: 1 with findings, 1 clean (-all lists them), 0 without a response, 0 not judged
responses  2 read from 2 captures: 2 checked, 0 without a model, 0 not judged
`},
	}},
	{"an address that is put together of segments", files{
		"App/Api.kt": `package saltmere
import io.ktor.client.*
import io.ktor.client.call.*
import io.ktor.client.engine.okhttp.*
import io.ktor.client.plugins.contentnegotiation.*
import io.ktor.client.request.*
import io.ktor.http.*
import io.ktor.serialization.kotlinx.json.*
import kotlinx.serialization.Serializable
import kotlinx.serialization.SerialName
import kotlinx.serialization.json.Json

@Serializable data class Sailing(val id: Int, @SerialName("vessel_name") val vessel: String)
@Serializable data class Pass(val number: String, val seats: Int)

val client = HttpClient(OkHttp) { install(ContentNegotiation) { json(Json { ignoreUnknownKeys = true }) } }

suspend fun sailings(port: String): List<Sailing> = client.get {
    url {
        protocol = URLProtocol.HTTPS
        host = "api.saltmere.test"
        path("v2", "sailings")
        parameters.append("port", port)
    }
}.body()

suspend fun pass(id: Int): Pass {
    val response = client.get { url { appendPathSegments("v2", "passes", id.toString()) } }
    return response.body<Pass>()
}
`,
		"captures/sailings.json": `[{"id":1,"vessel":"Tern"}]`,
		"captures/passes.json":   `{"number":"P1","seats":2}`,
	}, []run{
		{"models App", 0, `Sailing  class  App/Api.kt:13:26
  kotlinx.serialization · ignoreUnknownKeys true
  id      Int     id
  vessel  String  vessel_name

Pass  class  App/Api.kt:14:26
  kotlinx.serialization · ignoreUnknownKeys true
  number  String  number
  seats   Int     seats

Settings
  ignoreUnknownKeys true  App/Api.kt:16:77

Decoded
  List<Sailing>  App/Api.kt:25:3  from v2/sailings
    sailings → body
  Pass  App/Api.kt:29:21  from v2/passes/{}
    pass → body
  a decoder of which no call was found  App/Api.kt:16:70

2 models in 1 source file
`},
		{"check App captures -fail-on never", 0, `1 of 2 responses would not decode: 1 break, 0 misreads in 2 models
  1/1  breaks  Sailing.vessel  sent as vessel  Api.kt:13

Sailing  App/Api.kt:13:26
  kotlinx.serialization · ignoreUnknownKeys true
  decoded from captures/sailings at $[*]: 1 object in 1 response
  1 of 1 response would not decode because of it

  breaks    vessel: String  App/Api.kt:13:78  sent under another key [renamed-key]
            sent      no key vessel_name  in 1 of 1 object, 1 of 1 response
            example   captures/sailings.json:1:2  /0  id 1
            throws    MissingFieldException: Field 'vessel_name' is required for type with serial name 'saltmere.Sailing', but it was missing at path: $[0]
            evidence  vessel is sent in 1 of 1 objects, never together with vessel_name; the names share words; no response here has vessel_name, so it is misspelt in the model, or was renamed before these captures
            change    @SerialName("vessel")  // on the property, or rename it

findings   1 breaks, 0 misreads, 0 ignores
models     2 declared in 1 source file: 1 with findings, 1 clean (-all lists them), 0 without a response, 0 not judged
responses  2 read from 2 captures: 2 checked, 0 without a model, 0 not judged
`},
	}},
	{"types by their paths", files{
		"app/api.ts": `export interface Sailing { id: number; vesselName: string }
export interface Pass { number: string; seats: number }
interface Endpoints {
  '/v2/sailings': Sailing[];
  '/v2/passes/{id}': Pass;
}
export async function get<K extends keyof Endpoints>(path: K): Promise<Endpoints[K]> {
  const response = await fetch('https://api.saltmere.test' + path);
  return response.json() as Promise<Endpoints[K]>;
}
export const sailings = () => get('/v2/sailings');
export const pass = () => get('/v2/passes/{id}');
`,
		"captures/sailings.json": `[{"id":1,"vessel":"Tern"}]`,
		"captures/passes.json":   `{"number":"P1","seats":2}`,
	}, []run{
		{"models app", 0, `Sailing  interface  app/api.ts:1:18
  TypeScript by its types
  id          number  id
  vesselName  string  vesselName

Pass  interface  app/api.ts:2:18
  TypeScript by its types
  number  string  number
  seats   number  seats

Decoded
  Sailing[]  app/api.ts:11:31  from v2/sailings
    sailings → get → json (app/api.ts:9:19)
  Pass  app/api.ts:12:27  from v2/passes/{id}
    pass → get → json (app/api.ts:9:19)

2 models in 1 source file
`},
		{"check app captures -fail-on never", 0, `0 of 2 responses would not decode: 0 breaks, 1 misread in 2 models
  1/1  misreads  Sailing.vesselName  sent as vessel  api.ts:1

Sailing  app/api.ts:1:18
  TypeScript by its types
  decoded from captures/sailings at $[*]: 1 object in 1 response

  misreads  vesselName: string  app/api.ts:1:40  sent under another key [renamed-key]
            sent      no key vesselName  in 1 of 1 object, 1 of 1 response
            example   captures/sailings.json:1:2  /0  id 1
            app sees  undefined
            compiler  TS2741: Property 'vesselName' is missing in type '{ … }' but required in type 'Sailing'.
            evidence  vessel is sent in 1 of 1 objects, never together with vesselName; the names share words; no response here has vesselName, so it is misspelt in the model, or was renamed before these captures
            change    vessel: string;  // and use it under that name, or map it where the response is read

findings   0 breaks, 1 misreads, 0 ignores
models     2 declared in 1 source file: 1 with findings, 1 clean (-all lists them), 0 without a response, 0 not judged
responses  2 read from 2 captures: 2 checked, 0 without a model, 0 not judged
`},
	}},
	{"types by their paths, as a schema has them", files{
		"app/api.ts": `export interface paths {
  '/v2/sailings': { get: { responses: { 200: { content: { 'application/json': components['schemas']['Sailing'][] } } } } };
  '/v2/passes/{id}': { get: { responses: { 200: { content: { 'application/json': components['schemas']['Pass'] } } } } };
}
export interface components { schemas: { Sailing: { id: number; vesselName: string }; Pass: { number: string; seats: number } } }
type Ok<P extends keyof paths> = paths[P]['get']['responses'][200]['content']['application/json'];
class Client {
  constructor(private base: string) {}
  async get<P extends keyof paths>(path: P, params?: Record<string, string>): Promise<Ok<P>> {
    const r = await fetch(this.base + path);
    return (await r.json()) as Ok<P>;
  }
}
const client = new Client('https://api.saltmere.test');
export async function load(id: string) {
  const sailings = await client.get('/v2/sailings');
  const pass = await client.get('/v2/passes/{id}', { id });
  return { sailings, pass };
}
`,
		"captures/sailings.json": `[{"id":1,"vesselName":"Tern"}]`,
		"captures/passes.json":   `{"number":"P1","seat":2}`,
	}, []run{
		{"models app", 0, `Sailing  type  app/api.ts:5:53
  TypeScript by its types
  id          number  id
  vesselName  string  vesselName

Pass  type  app/api.ts:5:95
  TypeScript by its types
  number  string  number
  seats   number  seats

Decoded
  { id: number; vesselName: string }[]  app/api.ts:16:33  from v2/sailings
    load → get → json (app/api.ts:11:21)
  Ok<'/v2/passes/{id}'>  app/api.ts:17:29  from v2/passes/{id}
    load → get → json (app/api.ts:11:21)

2 models in 1 source file
`},
		{"check app captures -fail-on never", 0, `0 of 2 responses would not decode: 0 breaks, 1 misread in 2 models
  1/1  misreads  Pass.seats  sent as seat  api.ts:5

Pass  app/api.ts:5:95
  TypeScript by its types
  decoded from captures/passes at $: 1 object in 1 response

  misreads  seats: number  app/api.ts:5:111  sent under another key [renamed-key]
            sent      no key seats  in 1 of 1 object, 1 of 1 response
            example   captures/passes.json:1:1  ""  number "P1"
            app sees  undefined
            compiler  TS2741: Property 'seats' is missing in type '{ … }' but required in type 'Ok<'/v2/passes/{id}'>'.
            evidence  seat is sent in 1 of 1 objects, never together with seats; the names differ in singular and plural; no response here has seats, so it is misspelt in the model, or was renamed before these captures
            change    seat: number;  // and use it under that name, or map it where the response is read

findings   0 breaks, 1 misreads, 0 ignores
models     2 declared in 1 source file: 1 with findings, 1 clean (-all lists them), 0 without a response, 0 not judged
responses  2 read from 2 captures: 2 checked, 0 without a model, 0 not judged
`},
	}},
	{"what a constructor hands up", files{
		"App/Api.cs": `using System.Net.Http;
using System.Text.Json;
using System.Threading.Tasks;
using System.Collections.Generic;
namespace Saltmere;
public class Sailing { public int Id { get; set; } public string VesselName { get; set; } }
public class Pass { public string Number { get; set; } public int Seats { get; set; } }
public abstract class Resource<T>
{
    private readonly HttpClient _http; private readonly string _path; private readonly JsonSerializerOptions _options;
    protected Resource(HttpClient http, string path, JsonSerializerOptions options) { _http = http; _path = path; _options = options; }
    public async Task<T> Load() => JsonSerializer.Deserialize<T>(await _http.GetStringAsync(_path), _options);
}
public class Sailings : Resource<List<Sailing>>
{
    public Sailings(HttpClient http) : base(http, "/v2/sailings", new JsonSerializerOptions { PropertyNamingPolicy = JsonNamingPolicy.SnakeCaseLower }) { }
}
public class Passes : Resource<Pass>
{
    public Passes(HttpClient http) : base(http, "/v2/passes", new JsonSerializerOptions(JsonSerializerDefaults.Web)) { }
}
`,
		"captures/sailings.json": `[{"id":1,"vessel_name":"Tern"}]`,
		"captures/passes.json":   `{"number":"P1","seat":2}`,
	}, []run{
		{"models App", 0, `Sailing  class  App/Api.cs:6:14
  System.Text.Json · PropertyNamingPolicy SnakeCaseLower
  Id          int     id
  VesselName  string  vessel_name

Pass  class  App/Api.cs:7:14
  System.Text.Json · NumberHandling AllowReadingFromString · PropertyNameCaseInsensitive true · PropertyNamingPolicy CamelCase
  Number  string  number
  Seats   int     seats

Settings
  PropertyNamingPolicy SnakeCaseLower  App/Api.cs:16:135
  NumberHandling AllowReadingFromString  App/Api.cs:20:67
  PropertyNameCaseInsensitive true  App/Api.cs:20:67
  PropertyNamingPolicy CamelCase  App/Api.cs:20:67

Decoded
  List<Sailing>  App/Api.cs:14:14  from v2/sailings
    Sailings → Load → Deserialize (App/Api.cs:12:51)
  Pass  App/Api.cs:18:14  from v2/passes
    Passes → Load → Deserialize (App/Api.cs:12:51)

2 models in 1 source file
`},
		{"check App captures -fail-on never", 0, `0 of 2 responses would not decode: 0 breaks, 1 misread in 2 models
  1/1  misreads  Pass.Seats  sent as seat  Api.cs:7

Pass  App/Api.cs:7:14
  System.Text.Json · NumberHandling AllowReadingFromString · PropertyNameCaseInsensitive true · PropertyNamingPolicy CamelCase
  decoded from captures/passes at $: 1 object in 1 response

  misreads  Seats: int  App/Api.cs:7:67  sent under another key: the app sees nothing [renamed-optional]
            sent      no key seats  in 1 of 1 object, 1 of 1 response
            example   captures/passes.json:1:1  ""  number "P1"
            app sees  0
            evidence  seat is sent in 1 of 1 objects, never together with seats; the names differ in singular and plural; no response here has seats, so it is misspelt in the model, or was renamed before these captures
            change    [JsonPropertyName("seat")]  // on the property; one property is read from one key, so keep the old one beside it while both are sent

findings   0 breaks, 1 misreads, 0 ignores
models     2 declared in 1 source file: 1 with findings, 1 clean (-all lists them), 0 without a response, 0 not judged
responses  2 read from 2 captures: 2 checked, 0 without a model, 0 not judged
`},
	}},
	{"what the head of a class hands up", files{
		"App/Api.cs": `using System.Net.Http;
using System.Text.Json;
using System.Threading.Tasks;
using System.Collections.Generic;
namespace Saltmere;
public class Sailing { public int Id { get; set; } public string VesselName { get; set; } }
public class Pass { public string Number { get; set; } public int Seats { get; set; } }
public abstract class Resource<T>(HttpClient http, string path, JsonSerializerOptions options)
{
    public async Task<T> Load() => JsonSerializer.Deserialize<T>(await http.GetStringAsync(path), options);
}
public class Sailings(HttpClient http) : Resource<List<Sailing>>(http, "/v2/sailings", new JsonSerializerOptions { PropertyNamingPolicy = JsonNamingPolicy.SnakeCaseLower });
public class Passes(HttpClient http) : Resource<Pass>(http, "/v2/passes", Json.Web);
static class Json { public static readonly JsonSerializerOptions Web = new(JsonSerializerDefaults.Web); }
`,
		"captures/sailings.json": `[{"id":1,"vessel_name":"Tern"}]`,
		"captures/passes.json":   `{"number":"P1","seat":2}`,
	}, []run{
		{"models App", 0, `Sailing  class  App/Api.cs:6:14
  System.Text.Json · PropertyNamingPolicy SnakeCaseLower
  Id          int     id
  VesselName  string  vessel_name

Pass  class  App/Api.cs:7:14
  System.Text.Json · NumberHandling AllowReadingFromString · PropertyNameCaseInsensitive true · PropertyNamingPolicy CamelCase
  Number  string  number
  Seats   int     seats

Settings
  PropertyNamingPolicy SnakeCaseLower  App/Api.cs:12:156
  NumberHandling AllowReadingFromString  App/Api.cs:14:72
  PropertyNameCaseInsensitive true  App/Api.cs:14:72
  PropertyNamingPolicy CamelCase  App/Api.cs:14:72

Decoded
  List<Sailing>  App/Api.cs:12:14  from v2/sailings
    Sailings → Load → Deserialize (App/Api.cs:10:51)
  Pass  App/Api.cs:13:14  from v2/passes
    Passes → Load → Deserialize (App/Api.cs:10:51)

2 models in 1 source file
`},
		{"check App captures -fail-on never", 0, `0 of 2 responses would not decode: 0 breaks, 1 misread in 2 models
  1/1  misreads  Pass.Seats  sent as seat  Api.cs:7

Pass  App/Api.cs:7:14
  System.Text.Json · NumberHandling AllowReadingFromString · PropertyNameCaseInsensitive true · PropertyNamingPolicy CamelCase
  decoded from captures/passes at $: 1 object in 1 response

  misreads  Seats: int  App/Api.cs:7:67  sent under another key: the app sees nothing [renamed-optional]
            sent      no key seats  in 1 of 1 object, 1 of 1 response
            example   captures/passes.json:1:1  ""  number "P1"
            app sees  0
            evidence  seat is sent in 1 of 1 objects, never together with seats; the names differ in singular and plural; no response here has seats, so it is misspelt in the model, or was renamed before these captures
            change    [JsonPropertyName("seat")]  // on the property; one property is read from one key, so keep the old one beside it while both are sent

findings   0 breaks, 1 misreads, 0 ignores
models     2 declared in 1 source file: 1 with findings, 1 clean (-all lists them), 0 without a response, 0 not judged
responses  2 read from 2 captures: 2 checked, 0 without a model, 0 not judged
`},
	}},
	{"a client that is not in the source", files{
		"App/Api.swift": `import Foundation
import HarbourKit
struct Sailing: Decodable { let id: Int; let vesselName: String }
final class Ferries {
    let decoder: JSONDecoder = { let d = JSONDecoder(); d.keyDecodingStrategy = .convertFromSnakeCase; return d }()
    func sailings() async throws -> [Sailing] { try await Harbour.shared.fetch("/sailings", as: [Sailing].self, with: decoder) }
}
`,
		"captures/sailings.json": `[{"id":1,"vessel_name":"Tern"}]`,
	}, []run{
		{"models App", 0, `Sailing  struct  App/Api.swift:3:8
  Foundation JSONDecoder · keys convertFromSnakeCase
  id          Int     id
  vesselName  String  vesselName

Settings
  keys convertFromSnakeCase  App/Api.swift:5:59

Decoded
  a decoder of which no call was found  App/Api.swift:5:42

1 model in 1 source file
`},
		{"check App captures -fail-on never", 0, `0 of 1 response would not decode: 0 breaks, 0 misreads in 1 model

findings   0 breaks, 0 misreads, 0 ignores
models     1 declared in 1 source file: 0 with findings, 1 clean (-all lists them), 0 without a response, 0 not judged
responses  1 read from 1 capture: 1 checked, 0 without a model, 0 not judged
`},
	}},
	{"a client that is not in the source, with one of several decoders", files{
		"App/Api.swift": `import Foundation
import HarbourKit
struct Sailing: Decodable { let id: Int; let vesselName: String }
final class Ferries {
    let decoder: JSONDecoder = { let d = JSONDecoder(); d.keyDecodingStrategy = .convertFromSnakeCase; return d }()
    let legacy = { let d = JSONDecoder(); d.dateDecodingStrategy = .iso8601; return d }()
    func sailings() async throws -> [Sailing] { try await Harbour.shared.fetch("/sailings", as: [Sailing].self, with: decoder) }
}
`,
		"captures/sailings.json": `[{"id":1,"vessel_name":"Tern"}]`,
	}, []run{
		{"models App", 0, `Sailing  struct  App/Api.swift:3:8
  Foundation JSONDecoder
  id          Int     id
  vesselName  String  vesselName

Decoded
  a decoder of which no call was found  App/Api.swift:5:42
  a decoder of which no call was found  App/Api.swift:6:28

1 model in 1 source file
`},
		{"check App captures -fail-on never", 2, `0 of 0 responses would not decode: 0 breaks, 0 misreads in 0 models

Not judged
  Sailing  App/Api.swift:3:8  no call of it was found, and the source decodes in ways that differ; it seems to be decoded from captures/sailings, 1 response

findings   0 breaks, 0 misreads, 0 ignores
models     1 declared in 1 source file: 0 with findings, 0 clean, 0 without a response, 1 not judged
responses  1 read from 1 capture: 0 checked, 0 without a model, 1 not judged
1 model could not be judged though there are responses for it: Sailing
`},
	}},
	{"a client of C# that is not in the source", files{
		"App/Api.cs": `using System.Text.Json;
using Harbour;
public class Sailing { public int Id { get; set; } public string VesselName { get; set; } }
public class Ferries {
  static readonly JsonSerializerOptions Options = new() { PropertyNamingPolicy = JsonNamingPolicy.SnakeCaseLower };
  readonly HarbourClient _client = new HarbourClient(Options);
  public Task<List<Sailing>> Sailings() => _client.Fetch<List<Sailing>>("/sailings");
}
`,
		"captures/sailings.json": `[{"id":1,"vessel_name":"Tern"}]`,
	}, []run{
		{"models App", 0, `Sailing  class  App/Api.cs:3:14
  System.Text.Json · PropertyNamingPolicy SnakeCaseLower
  Id          int     id
  VesselName  string  vessel_name

Settings
  PropertyNamingPolicy SnakeCaseLower  App/Api.cs:5:99

Decoded
  a decoder of which no call was found  App/Api.cs:5:51

1 model in 1 source file
`},
		{"check App captures -fail-on never", 0, `0 of 1 response would not decode: 0 breaks, 0 misreads in 1 model

findings   0 breaks, 0 misreads, 0 ignores
models     1 declared in 1 source file: 0 with findings, 1 clean (-all lists them), 0 without a response, 0 not judged
responses  1 read from 1 capture: 1 checked, 0 without a model, 0 not judged
`},
	}},
	{"a client of Kotlin that is not in the source", files{
		"App/Api.kt": `package saltmere
import com.google.gson.*
import harbour.Harbour
data class Sailing(val id: Int, val vesselName: String)
class Ferries {
  private val gson = GsonBuilder().setFieldNamingPolicy(FieldNamingPolicy.LOWER_CASE_WITH_UNDERSCORES).create()
  private val harbour = Harbour(gson)
  fun sailings(): List<Sailing> = harbour.fetch("/sailings")
}
`,
		"captures/sailings.json": `[{"id":1,"vessel_name":"Tern"}]`,
	}, []run{
		{"models App", 0, `Sailing  class  App/Api.kt:4:12
  Gson · naming LOWER_CASE_WITH_UNDERSCORES
  a likely model, by its look: nothing in the source says that it is decoded
  id          Int     id
  vesselName  String  vessel_name

Settings
  naming LOWER_CASE_WITH_UNDERSCORES  App/Api.kt:6:36

Decoded
  a decoder of which no call was found  App/Api.kt:6:22

1 model in 1 source file; 1 class more that check holds against responses which have their keys
`},
		{"check App captures -fail-on never", 0, `0 of 1 response would not decode: 0 breaks, 0 misreads in 1 model

findings   0 breaks, 0 misreads, 0 ignores
models     1 declared in 1 source file: 0 with findings, 1 clean (-all lists them), 0 without a response, 0 not judged
responses  1 read from 1 capture: 1 checked, 0 without a model, 0 not judged
`},
	}},
}

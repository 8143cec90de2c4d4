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
}

package cli_test

// layerStories are about apps that ask through libraries and layers of many kinds, cut to the size that shows each.
var layerStories = []story{
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
  read in a way that is not followed: no call of it was found, and the source decodes in ways that differ
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
	{"routes of an app's own with associated types", files{
		"App/Api.swift": `import Foundation
import Combine
// Decoding through a protocol of the app's own, envelope by key path, and a Result
protocol Endpoint { associatedtype Body: Decodable; static var path: String { get }; static var keyPath: String? { get } }
extension Endpoint { static var keyPath: String? { nil } }
struct FaresEndpoint: Endpoint { typealias Body = [Fare]; static let path = "/v2/fares" }
struct PassEndpoint: Endpoint { struct Body: Decodable { let number: String; let valid: Bool }; static let path = "/v2/pass" }
struct Fare: Decodable { let zone: Int; let price: Decimal; let kind: Kind
    enum Kind: String, Decodable { case adult, child, unknown
        init(from decoder: Decoder) throws { self = Kind(rawValue: try decoder.singleValueContainer().decode(String.self)) ?? .unknown } } }
final class Loader {
    var decoder = JSONDecoder()
    func load<E: Endpoint>(_ e: E.Type) -> AnyPublisher<E.Body, Error> {
        URLSession.shared.dataTaskPublisher(for: URL(string: "https://api.saltmere.test" + E.path)!)
            .map(\.data)
            .decode(type: E.Body.self, decoder: decoder)
            .receive(on: RunLoop.main)
            .eraseToAnyPublisher()
    }
}
final class Model: ObservableObject {
    @Published var fares: [Fare] = []
    @Published var pass: PassEndpoint.Body?
    private var bag = Set<AnyCancellable>()
    func start(_ loader: Loader) {
        loader.load(FaresEndpoint.self).replaceError(with: []).assign(to: &$fares)
        loader.load(PassEndpoint.self).map(Optional.some).replaceError(with: nil).sink { [weak self] in self?.pass = $0 }.store(in: &bag)
    }
}
`,
		"captures/fares.json": `[{"zone":1,"price":"4.50","kind":"adult"},{"zone":2,"price":5.5,"kind":"senior"}]`,
		"captures/pass.json":  `{"number":"P1","valid":1}`,
	}, []run{
		{"models App", 0, `PassEndpoint.Body  struct  App/Api.swift:7:40
  Foundation JSONDecoder
  number  String  number
  valid   Bool    valid

Fare  struct  App/Api.swift:8:8
  Foundation JSONDecoder
  zone   Int      zone
  price  Decimal  price
  kind   Kind     kind

Fare.Kind  enum  App/Api.swift:9:10
  Foundation JSONDecoder
  written as String
  read by code that was followed
  case adult = adult
  case child = child
  case unknown = unknown

Decoded
  [Fare]  App/Api.swift:26:16  from v2/fares
    start → load → decode (App/Api.swift:16:14)
  PassEndpoint.Body  App/Api.swift:27:16  from v2/pass
    start → load → decode (App/Api.swift:16:14)

3 models in 1 source file
`},
		{"check App captures -fail-on never", 0, `2 of 2 responses would not decode: 2 breaks, 1 misread in 3 models
  1/1  breaks    PassEndpoint.Body.valid  1, not Bool                 Api.swift:7
  1/1  breaks    Fare.price               "4.50", not Decimal         Api.swift:8
  1/1  misreads  Fare.Kind                "senior" seen as "unknown"  Api.swift:9

PassEndpoint.Body  App/Api.swift:7:40
  Foundation JSONDecoder
  decoded from captures/pass at $: 1 object in 1 response
  1 of 1 response would not decode because of it

  breaks    valid: Bool  App/Api.swift:7:82  a value of another kind [wrong-kind]
            sent      a whole number  in 1 of 1 value, 1 of 1 response
            example   captures/pass.json:1:24  /valid  1
            throws    typeMismatch: Bool: Expected to decode Bool but found number instead.
            change    let valid: Int  // as it is sent

Fare  App/Api.swift:8:8
  Foundation JSONDecoder
  decoded from captures/fares at $[*]: 2 objects in 1 response
  1 of 1 response would not decode because of it

  breaks    price: Decimal  App/Api.swift:8:45  a value of another kind [wrong-kind]
            sent      a string that is a number  in 1 of 2 values, 1 of 1 response
            example   captures/fares.json:1:20  /0/price  "4.50"
            throws    typeMismatch: Decimal
            change    both kinds are sent: read it by hand, one kind and then the other

Fare.Kind  App/Api.swift:9:10
  Foundation JSONDecoder
  decoded from captures/fares at $[*].kind: 0 objects in 1 response

  misreads  Fare.Kind  App/Api.swift:9:10  a default in place of a value that was sent [kept-default]
            sent      a string  in 1 of 2 values, 1 of 1 response
            example   captures/fares.json:1:72  /1/kind  "senior"
            app sees  "unknown"
            change    decode what is sent, or keep the default for absent keys alone: try c.decodeIfPresent(…) ?? …

findings   2 breaks, 1 misreads, 0 ignores
models     3 declared in 1 source file: 3 with findings, 0 clean, 0 without a response, 0 not judged
responses  2 read from 2 captures: 2 checked, 0 without a model, 0 not judged
`},
	}},
	{"an adapter of calls beside an envelope", files{
		"App/Api.kt": `package saltmere
import com.squareup.moshi.*
import retrofit2.*
import retrofit2.http.*
import retrofit2.converter.moshi.MoshiConverterFactory
import java.lang.reflect.*
@JsonClass(generateAdapter = true) data class Fare(val zone: Int, @Json(name = "price_pence") val pence: Long, val label: String? = null)
data class ApiResponse<T>(val data: T?, val error: ApiError?)
data class ApiError(val code: Int, val message: String)
class Network<T>(val body: T?, val failure: Throwable?)
class NetworkCall<T>(private val inner: Call<T>) { fun run(): Network<T> = try { Network(inner.execute().body(), null) } catch (e: Exception) { Network(null, e) } }
class NetworkAdapter(private val type: Type) : CallAdapter<Any, NetworkCall<Any>> { override fun responseType() = type; override fun adapt(call: Call<Any>) = NetworkCall(call) }
class NetworkFactory : CallAdapter.Factory() {
  override fun get(returnType: Type, annotations: Array<Annotation>, retrofit: Retrofit): CallAdapter<*, *>? {
    if (getRawType(returnType) != NetworkCall::class.java) return null
    return NetworkAdapter(getParameterUpperBound(0, returnType as ParameterizedType))
  }
}
interface FareService {
  @GET("v2/fares") fun fares(@Query("zone") zone: Int?): NetworkCall<ApiResponse<List<Fare>>>
  @GET("v2/fares/{id}") suspend fun fare(@Path("id") id: String): Response<ApiResponse<Fare>>
}
val moshi: Moshi = Moshi.Builder().addLast(com.squareup.moshi.kotlin.reflect.KotlinJsonAdapterFactory()).build()
val service: FareService = Retrofit.Builder().baseUrl("https://api.saltmere.test/").addCallAdapterFactory(NetworkFactory()).addConverterFactory(MoshiConverterFactory.create(moshi)).build().create()
`,
		"captures/fares.json": `{"data":[{"zone":1,"price_pence":450},{"zone":"2","price_pence":4.5}],"error":null}`,
	}, []run{
		{"models App", 0, `Fare  class  App/Api.kt:7:47
  Moshi · KotlinJsonAdapterFactory true
  zone   Int      zone
  pence  Long     price_pence
  label  String?  label        default null

ApiResponse  class  App/Api.kt:8:12
  Moshi · KotlinJsonAdapterFactory true
  data   T?         data
  error  ApiError?  error

ApiError  class  App/Api.kt:9:12
  Moshi · KotlinJsonAdapterFactory true
  code     Int     code
  message  String  message

Settings
  KotlinJsonAdapterFactory true  App/Api.kt:23:36

Decoded
  ApiResponse<List<Fare>>  App/Api.kt:20:24  from v2/fares
  ApiResponse<Fare>  App/Api.kt:21:37  from v2/fares/{id}

3 models in 1 source file
`},
		{"check App captures -fail-on never", 0, `1 of 1 response would not decode: 1 break, 0 misreads in 3 models
  1/1  breaks  Fare.pence  4.5  Api.kt:7

Fare  App/Api.kt:7:47
  Moshi · KotlinJsonAdapterFactory true
  decoded from captures/fares at $.data[*]: 2 objects in 1 response
  1 of 1 response would not decode because of it

  breaks    pence: Long  App/Api.kt:7:99  a number that the type cannot hold [out-of-range]
            sent      a number with a fraction  in 1 of 2 values, 1 of 1 response
            example   captures/fares.json:1:65  /data/1/price_pence  4.5
            throws    JsonDataException: Expected a long but was 4.5 at path $.data[1].price_pence
            change    val pence: Double  // a type with a fraction

findings   1 breaks, 0 misreads, 0 ignores
models     3 declared in 1 source file: 1 with findings, 2 clean (-all lists them), 0 without a response, 0 not judged
responses  1 read from 1 capture: 1 checked, 0 without a model, 0 not judged
`},
	}},
	{"a request that says its path in a method", files{
		"App/Api.java": `package saltmere;
import com.google.gson.*;
import com.google.gson.annotations.*;
import com.google.gson.reflect.TypeToken;
import io.reactivex.rxjava3.core.*;
import okhttp3.*;
import java.lang.reflect.*;
import java.util.*;
final class Fare { @SerializedName("zone") int zone; @SerializedName("price") double price; @SerializedName("valid_on") Date validOn; @Expose boolean refundable; }
abstract class BaseRequest<T> {
  private final Type type = ((ParameterizedType) getClass().getGenericSuperclass()).getActualTypeArguments()[0];
  abstract String path();
  T parse(String body) { return Json.GSON.fromJson(body, type); }
  Single<T> execute(OkHttpClient client) {
    return Single.fromCallable(() -> {
      try (Response r = client.newCall(new Request.Builder().url("https://api.saltmere.test" + path()).build()).execute()) { return parse(r.body().string()); }
    });
  }
}
class FaresRequest extends BaseRequest<List<Fare>> { @Override String path() { return "/v2/fares"; } }
final class Json { static final Gson GSON = new GsonBuilder().setDateFormat("yyyy-MM-dd").create(); private Json() {} }
`,
		"captures/fares.json": `[{"zone":1,"price":4.5,"valid_on":"2026-03-01"},{"zone":2,"price":"5,50","valid_on":"2026-03-01T10:00:00Z"}]`,
	}, []run{
		{"models App", 0, `Fare  class  App/Api.java:9:13
  Gson · dates.pattern yyyy-MM-dd
  zone        int      zone
  price       double   price
  validOn     Date     valid_on
  refundable  boolean  refundable

Settings
  dates.pattern yyyy-MM-dd  App/Api.java:21:63

Decoded
  List<Fare>  App/Api.java:20:7  from v2/fares
    FaresRequest → parse → fromJson (App/Api.java:13:43)

1 model in 1 source file
`},
		{"check App captures -fail-on never", 0, `1 of 1 response would not decode: 1 break, 1 misread in 1 model
  1/1  breaks    Fare.price       "5,50", not double    Api.java:9
  1/1  misreads  Fare.refundable  absent seen as false  Api.java:9

Fare  App/Api.java:9:13
  Gson · dates.pattern yyyy-MM-dd
  decoded from captures/fares at $[*]: 2 objects in 1 response
  1 of 1 response would not decode because of it

  breaks    price: double  App/Api.java:9:86  a value of another kind [wrong-kind]
            sent      "5,50"  in 1 of 2 values, 1 of 1 response
            example   captures/fares.json:1:67  /1/price  "5,50"
            throws    NumberFormatException: For input string: "5,50"
            change    both kinds are sent: read it by a JsonDeserializer, one kind and then the other, or declare JsonElement and look

  misreads  refundable: boolean  App/Api.java:9:151  0, false or empty where the key is absent or null [silent-zero]
            sent      no key refundable  in 2 of 2 objects, 1 of 1 response
            example   captures/fares.json:1:2  /0  zone 1
            app sees  false
            change    Boolean refundable;  // or give it a default that holds

findings   1 breaks, 1 misreads, 0 ignores
models     1 declared in 1 source file: 1 with findings, 0 clean, 0 without a response, 0 not judged
responses  1 read from 1 capture: 1 checked, 0 without a model, 0 not judged
`},
	}},
	{"an outcome of the app's own, in Dart", files{
		"lib/api.dart": `import 'dart:convert';
import 'package:http/http.dart' as http;
sealed class Outcome<T> { const Outcome(); }
class Good<T> extends Outcome<T> { final T value; const Good(this.value); }
class Bad<T> extends Outcome<T> { final Object error; const Bad(this.error); }
class Port {
  final String code; final int berths; final DateTime? opened;
  Port({required this.code, required this.berths, this.opened});
  factory Port.fromJson(Map<String, dynamic> json) => switch (json) {
    {'code': String code, 'berths': int berths} => Port(code: code, berths: berths, opened: DateTime.tryParse(json['opened'] as String? ?? '')),
    _ => throw FormatException('port $json'),
  };
}
typedef FromJson<T> = T Function(Map<String, dynamic>);
class Api {
  final http.Client client;
  Api(this.client);
  Future<Outcome<List<T>>> list<T>(String path, FromJson<T> make) async {
    try {
      final response = await client.get(Uri.https('api.saltmere.test', path));
      final rows = (jsonDecode(response.body) as Map<String, dynamic>)['items'] as List;
      return Good([for (final row in rows) make(row as Map<String, dynamic>)]);
    } catch (e) {
      return Bad(e);
    }
  }
  Future<Outcome<List<Port>>> ports() => list('/v2/ports', Port.fromJson);
}
`,
		"captures/ports.json": `{"items":[{"code":"SAL","berths":2,"opened":"soon"},{"code":"MER","berths":2.5}]}`,
	}, []run{
		{"models lib", 0, `Port  class  lib/api.dart:6:7
  Dart by its own code
  read by code that was followed
  code    String     code    by code that was followed
  berths  int        berths  by code that was followed
  opened  DateTime?  opened  by code that was followed

Decoded
  List<Port>  lib/api.dart:27:31  from https://api.saltmere.test/v2/ports  at items
    ports → list

1 model in 1 source file
`},
		{"check lib captures -fail-on never", 0, `1 of 1 response would not decode: 1 break, 1 misread in 1 model
  1/1  breaks    Port.berths  2.5 cannot be made int  api.dart:7
  1/1  misreads  Port.opened  "soon" seen as null     api.dart:7

Port  lib/api.dart:6:7
  Dart by its own code
  decoded from captures/ports at $.items[*]: 2 objects in 1 response
  1 of 1 response would not decode because of it

  breaks    berths: int  lib/api.dart:7:32  text that the type cannot be made from [unreadable-text]
            sent      2.5  in 1 of 2 values, 1 of 1 response
            example   captures/ports.json:1:76  /items/1/berths  2.5
            throws    FormatException
            change    final String berths;  // and convert it where it is used

  misreads  opened: DateTime?  lib/api.dart:7:56  no value that was sent ever fits: the app always sees nothing [never-fits]
            sent      a string  in 1 of 1 value, 1 of 1 response
            example   captures/ports.json:1:45  /items/0/opened  "soon"
            app sees  null
            change    decode what is sent: String

findings   1 breaks, 1 misreads, 0 ignores
models     1 declared in 1 source file: 1 with findings, 0 clean, 0 without a response, 0 not judged
responses  1 read from 1 capture: 1 checked, 0 without a model, 0 not judged
`},
	}},
	{"an outcome of the app's own, in C#", files{
		"App/Api.cs": `using System.Net.Http.Json;
using System.Text.Json;
using System.Text.Json.Serialization;
using Microsoft.Extensions.DependencyInjection;
namespace Saltmere;
public record Port([property: JsonPropertyName("code")] string Code, int Berths);
public abstract record Outcome<T> { public sealed record Good(T Value) : Outcome<T>; public sealed record Bad(Exception Error) : Outcome<T>; }
public interface IFerries { Task<Outcome<List<Port>>> PortsAsync(CancellationToken token = default); }
public sealed class Ferries(HttpClient http, JsonSerializerOptions options) : IFerries
{
    public Task<Outcome<List<Port>>> PortsAsync(CancellationToken token = default) => TryAsync<List<Port>>("v2/ports", token);
    private async Task<Outcome<T>> TryAsync<T>(string path, CancellationToken token)
    {
        try
        {
            using var response = await http.GetAsync(path, HttpCompletionOption.ResponseHeadersRead, token);
            response.EnsureSuccessStatusCode();
            await using var stream = await response.Content.ReadAsStreamAsync(token);
            var value = await JsonSerializer.DeserializeAsync<T>(stream, options, token);
            return new Outcome<T>.Good(value!);
        }
        catch (Exception e) { return new Outcome<T>.Bad(e); }
    }
}
public static class Startup
{
    public static IServiceCollection AddFerries(this IServiceCollection services) => services
        .AddSingleton(new JsonSerializerOptions(JsonSerializerDefaults.Web) { NumberHandling = JsonNumberHandling.Strict })
        .AddHttpClient<IFerries, Ferries>(c => c.BaseAddress = new Uri("https://api.saltmere.test/")).Services;
}
`,
		"captures/ports.json": `[{"code":"SAL","berths":"2"},{"code":null,"berths":1}]`,
	}, []run{
		{"models App", 0, `Port  record  App/Api.cs:6:15
  System.Text.Json · NumberHandling Strict · PropertyNameCaseInsensitive true · PropertyNamingPolicy CamelCase
  Code    string  code
  Berths  int     berths

Settings
  NumberHandling Strict  App/Api.cs:28:115
  PropertyNameCaseInsensitive true  App/Api.cs:28:27
  PropertyNamingPolicy CamelCase  App/Api.cs:28:27

Decoded
  List<Port>  App/Api.cs:11:87  from v2/ports
    PortsAsync → TryAsync → DeserializeAsync (App/Api.cs:19:46)

1 model in 1 source file
`},
		{"check App captures -fail-on never", 0, `1 of 1 response would not decode: 1 break, 1 misread in 1 model
  1/1  breaks    Port.Berths  "2", not int                           Api.cs:6
  1/1  misreads  Port.Code    null in a property that is never null  Api.cs:6

Port  App/Api.cs:6:15
  System.Text.Json · NumberHandling Strict · PropertyNameCaseInsensitive true · PropertyNamingPolicy CamelCase
  decoded from captures/ports at $[*]: 2 objects in 1 response
  1 of 1 response would not decode because of it

  breaks    Berths: int  App/Api.cs:6:74  a value of another kind [wrong-kind]
            sent      "2"  in 1 of 2 values, 1 of 1 response
            example   captures/ports.json:1:25  /0/berths  "2"
            throws    JsonException: The JSON value could not be converted to Saltmere.Port. Path: $[0].berths.
            change    both kinds are sent: read it by a JsonConverter that looks at reader.TokenType, or declare JsonElement and look at its ValueKind

  misreads  Code: string  App/Api.cs:6:64  null in a property that says it is never null [hidden-null]
            sent      null  in 1 of 2 values, 1 of 1 response
            example   captures/ports.json:1:38  /1/code  null
            app sees  null
            change    string? Code  // null gets in here and crashes later, somewhere else

findings   1 breaks, 1 misreads, 0 ignores
models     1 declared in 1 source file: 1 with findings, 0 clean, 0 without a response, 0 not judged
responses  1 read from 1 capture: 1 checked, 0 without a model, 0 not judged
`},
	}},
	{"an outcome of the app's own, in Kotlin", files{
		"App/Net.kt": `package saltmere
import kotlinx.serialization.*
import kotlinx.serialization.json.*
import okhttp3.*
import kotlinx.coroutines.flow.*
@Serializable data class Port(val code: String, val berths: Int = 0)
@Serializable sealed interface Notice { val id: Int
  @Serializable @SerialName("delay") data class Delay(override val id: Int, val minutes: Int) : Notice
  @Serializable @SerialName("closed") data class Closed(override val id: Int, val reason: String? = null) : Notice }
@Serializable data class Page<T>(val items: List<T>, val next: String? = null)
sealed class Outcome<out T> { data class Good<T>(val value: T) : Outcome<T>(); data class Bad(val error: Throwable) : Outcome<Nothing>() }
val json = Json { ignoreUnknownKeys = true; explicitNulls = false; classDiscriminator = "kind" }
class Api(private val http: OkHttpClient) {
  inline fun <reified T> fetch(path: String): Outcome<T> = try {
      val body = raw(path)
      Outcome.Good(json.decodeFromString<T>(body))
  } catch (e: SerializationException) { Outcome.Bad(e) }
  fun raw(path: String): String = http.newCall(Request.Builder().url("https://api.saltmere.test/$path").build()).execute().use { it.body!!.string() }
}
class Repository(private val api: Api) {
  fun ports(): Flow<Outcome<Page<Port>>> = flow { emit(api.fetch("v2/ports")) }
  fun notices(): Outcome<List<Notice>> = api.fetch("v2/notices")
}
`,
		"captures/ports.json":   `{"items":[{"code":"SAL","berths":2},{"code":null}],"next":null}`,
		"captures/notices.json": `[{"kind":"delay","id":1,"minutes":5},{"kind":"storm","id":2}]`,
	}, []run{
		{"models App", 0, `Port  class  App/Net.kt:6:26
  kotlinx.serialization · classDiscriminator kind · explicitNulls false · ignoreUnknownKeys true
  code    String  code
  berths  Int     berths  default 0

Notice  interface  App/Net.kt:7:32
  kotlinx.serialization · classDiscriminator kind · explicitNulls false · ignoreUnknownKeys true

Notice.Delay  class  App/Net.kt:8:49
  kotlinx.serialization · classDiscriminator kind · explicitNulls false · ignoreUnknownKeys true
  id       Int  id
  minutes  Int  minutes

Notice.Closed  class  App/Net.kt:9:50
  kotlinx.serialization · classDiscriminator kind · explicitNulls false · ignoreUnknownKeys true
  id      Int      id
  reason  String?  reason  default null

Page  class  App/Net.kt:10:26
  kotlinx.serialization · classDiscriminator kind · explicitNulls false · ignoreUnknownKeys true
  items  List<T>  items
  next   String?  next   default null

Settings
  classDiscriminator kind  App/Net.kt:12:68
  explicitNulls false  App/Net.kt:12:45
  ignoreUnknownKeys true  App/Net.kt:12:19

Decoded
  Page<Port>  App/Net.kt:21:60  from v2/ports
    ports → fetch → decodeFromString (App/Net.kt:16:25)
  List<Notice>  App/Net.kt:22:46  from v2/notices
    notices → fetch → decodeFromString (App/Net.kt:16:25)

5 models in 1 source file
`},
		{"check App captures -fail-on never", 0, `2 of 2 responses would not decode: 2 breaks, 0 misreads in 4 models
  1/1  breaks  Port.code    null                    Net.kt:6
  1/1  breaks  Notice.kind  "storm" is of no class  Net.kt:7

Port  App/Net.kt:6:26
  kotlinx.serialization · classDiscriminator kind · explicitNulls false · ignoreUnknownKeys true
  decoded from captures/ports at $.items[*]: 2 objects in 1 response
  1 of 1 response would not decode because of it

  breaks    code: String  App/Net.kt:6:35  null where a value is declared [null-value]
            sent      null  in 1 of 2 values, 1 of 1 response
            example   captures/ports.json:1:45  /items/1/code  null
            throws    JsonDecodingException: Unexpected JSON token: Expected string literal but 'null' literal was found at path: $.items[1].code
            change    val code: String? = null  // a default, so that it may be absent

Notice  App/Net.kt:7:32
  kotlinx.serialization · classDiscriminator kind · explicitNulls false · ignoreUnknownKeys true
  decoded from captures/notices at $[*]: 2 objects in 1 response
  1 of 1 response would not decode because of it

  breaks    kind  App/Net.kt:7:32  objects of a kind that no class is named for [unknown-class]
            sent      "storm"  in 1 of 2 values, 1 of 1 response
            example   captures/notices.json:1:46  /1/kind  "storm"
            throws    JsonDecodingException: Serializer for subclass 'storm' is not found in the polymorphic scope of 'Notice' at path: $[1].kind
            change    declare a subclass with @SerialName("storm"), or register a default in a SerializersModule

Models without a response
  Notice.Closed  App/Net.kt:9:50  it is part of List<Notice>, and no value for it was sent

findings   2 breaks, 0 misreads, 0 ignores
models     5 declared in 1 source file: 2 with findings, 2 clean (-all lists them), 1 without a response, 0 not judged
responses  2 read from 2 captures: 2 checked, 0 without a model, 0 not judged
`},
	}},
	{"a query that is transformed", files{
		"app/store.ts": `import { createApi, fetchBaseQuery } from '@reduxjs/toolkit/query/react';
export interface Crew { id: string; name: { first: string; last: string }; ranks: Rank[]; joined: string }
export enum Rank { Deck = 'deck', Bridge = 'bridge' }
type Listing<T, K extends string> = { [P in K]: T[] } & { total: number };
export const api = createApi({
  reducerPath: 'crew',
  baseQuery: fetchBaseQuery({ baseUrl: 'https://api.saltmere.test/v2' }),
  endpoints: (build) => ({
    crew: build.query<Crew[], void>({ query: () => '/crew', transformResponse: (r: Listing<Crew, 'crew'>) => r.crew }),
    member: build.query<Crew, string>({ query: (id) => ` + "`" + `/crew/${id}` + "`" + ` }),
  }),
});
`,
		"captures/crew.json": `{"crew":[{"id":"c1","name":{"first":"A"},"ranks":["deck","galley"],"joined":"2026-01-01"}],"total":"1"}`,
	}, []run{
		{"models app", 0, `Crew  interface  app/store.ts:2:18
  TypeScript by its types
  id      string                           id
  name    { first: string; last: string }  name
  ranks   Rank[]                           ranks
  joined  string                           joined

Crew.name  type  app/store.ts:2:45
  TypeScript by its types
  first  string  first
  last   string  last

Rank  enum  app/store.ts:3:13
  TypeScript by its types
  case Deck as deck
  case Bridge as bridge

Listing  type  app/store.ts:4:6
  TypeScript by its types
  total  number  total

Decoded
  Listing<Crew, 'crew'>  app/store.ts:9:17  from crew
  Crew  app/store.ts:10:19  from crew/{}

4 models in 1 source file
`},
		{"check app captures -fail-on never", 0, `0 of 1 response would not decode: 0 breaks, 3 misreads in 3 models
  1/1  misreads  Crew.ranks      "galley" is no constant of it  store.ts:2
  1/1  misreads  Crew.name.last  is never sent                  store.ts:2
  1/1  misreads  Listing.total   "1", not number                store.ts:4

Crew  app/store.ts:2:18
  TypeScript by its types
  decoded from captures/crew at $.crew[*]: 1 object in 1 response

  misreads  ranks: Rank[]  app/store.ts:2:76  a value that the enum does not have [unknown-constant]
            sent      "galley"  in 1 of 2 values, 1 of 1 response
            example   captures/crew.json:1:58  /crew/0/ranks/1  "galley"
            app sees  "galley"
            compiler  TS2322: Type '"galley"' is not assignable to type 'Rank'.
            change    | 'galley'  // to the union; and a default where it is read, for those still to come

Crew.name  app/store.ts:2:45
  TypeScript by its types
  decoded from captures/crew at $.crew[*].name: 1 object in 1 response

  misreads  last: string  app/store.ts:2:60  the key is never sent [missing-key]
            sent      no key last  in 1 of 1 object, 1 of 1 response
            example   captures/crew.json:1:28  /crew/0/name  first "A"
            app sees  undefined
            compiler  TS2741: Property 'last' is missing in type '{ … }' but required in type '{ first: string; last: string }'.
            change    no response has last: check its spelling, or remove it

Listing  app/store.ts:4:6
  TypeScript by its types
  decoded from captures/crew at $: 1 object in 1 response

  misreads  total: number  app/store.ts:4:59  a value of another kind [wrong-kind]
            sent      a string that is a number  in 1 of 1 value, 1 of 1 response
            example   captures/crew.json:1:100  /total  "1"
            app sees  a string that is a number
            compiler  TS2322: Type 'string' is not assignable to type 'number'.
            change    total: string;  // as it is sent

Models without a response
  Rank  app/store.ts:3:13  it is part of Listing<Crew, 'crew'>, and no value for it was sent

findings   0 breaks, 3 misreads, 0 ignores
models     4 declared in 1 source file: 3 with findings, 0 clean, 1 without a response, 0 not judged
responses  1 read from 1 capture: 1 checked, 0 without a model, 0 not judged
`},
	}},
	{"a service of Dart without its part", files{
		"lib/api.dart": `import 'package:dio/dio.dart';
import 'package:retrofit/retrofit.dart';
import 'package:json_annotation/json_annotation.dart';
part 'api.g.dart';

@JsonSerializable(fieldRename: FieldRename.snake)
class Berth {
  Berth({required this.berthCode, this.depthM, this.kind = BerthKind.open});
  final String berthCode;
  final double? depthM;
  @JsonKey(unknownEnumValue: BerthKind.open)
  final BerthKind kind;
  factory Berth.fromJson(Map<String, dynamic> json) => _$BerthFromJson(json);
}
enum BerthKind { @JsonValue('open') open, @JsonValue('shut') shut }

@JsonSerializable(genericArgumentFactories: true)
class Page<T> {
  Page({required this.items, this.next});
  final List<T> items;
  final String? next;
  factory Page.fromJson(Map<String, dynamic> json, T Function(Object? json) fromJsonT) => _$PageFromJson(json, fromJsonT);
}

@RestApi(baseUrl: 'https://api.saltmere.test')
abstract class HarbourApi {
  factory HarbourApi(Dio dio) = _HarbourApi;
  @GET('/v2/berths')
  Future<List<Berth>> berths();
  @GET('/v2/pages')
  Future<Page<Berth>> page(@Query('n') int n);
}
`,
		"captures/berths.json": `[{"berth_code":"B1","depth_m":4,"kind":"open"},{"berth_code":null,"depth_m":"5","kind":"odd"}]`,
		"captures/pages.json":  `{"items":[{"berth_code":"B1"}],"next":1}`,
	}, []run{
		{"models lib", 0, `Berth  class  lib/api.dart:7:7
  Dart by its own code
  read by code that was followed
  berthCode  String     berth_code  by code that was followed
  depthM     double?    depth_m     by code that was followed
  kind       BerthKind  kind        by code that was followed

BerthKind  enum  lib/api.dart:15:6
  Dart by its own code
  read by code that was followed
  case open
  case shut

Page  class  lib/api.dart:18:7
  Dart by its own code
  read by code that was followed
  items  List<T>  items  by code that was followed
  next   String?  next   by code that was followed

Decoded
  List<Berth>  lib/api.dart:29:23  from /v2/berths
  Page<Berth>  lib/api.dart:31:23  from /v2/pages

3 models in 1 source file
`},
		{"check lib captures -fail-on never", 0, `2 of 2 responses would not decode: 3 breaks, 1 misread in 3 models
  1/1  breaks    Berth.berthCode  null                  api.dart:9
  1/1  breaks    Berth.depthM     "5", not double?      api.dart:10
  1/1  breaks    Page.next        1, not String?        api.dart:21
  1/1  misreads  Berth.kind       "odd" seen as "open"  api.dart:12

Berth  lib/api.dart:7:7
  Dart by its own code
  decoded from captures/berths at $[*]: 2 objects in 1 response
  1 of 1 response would not decode because of it
  decoded from captures/pages at $.items[*]: 1 object in 1 response

  breaks    berthCode: String  lib/api.dart:9:16  null where a value is declared [null-value]
            at        captures/berths $[*].berth_code
            sent      null  in 1 of 2 values, 1 of 1 response
            example   captures/berths.json:1:62  /1/berth_code  null
            throws    _TypeError: type 'Null' is not a subtype of type 'String' in type cast
            change    json['berth_code'] ?? ''  // or declare String?, and read it as one

  breaks    depthM: double?  lib/api.dart:10:17  a value of another kind [wrong-kind]
            at        captures/berths $[*].depth_m
            sent      a string that is a number  in 1 of 2 values, 1 of 1 response
            example   captures/berths.json:1:77  /1/depth_m  "5"
            throws    _TypeError: type 'String' is not a subtype of type 'num?' in type cast
            change    double.parse('${json['depth_m']}')  // takes the number and its text

  misreads  kind: BerthKind  lib/api.dart:12:19  a default in place of a value that was sent [kept-default]
            at        captures/berths $[*].kind
            sent      a string  in 1 of 2 values, 1 of 1 response
            example   captures/berths.json:1:88  /1/kind  "odd"
            app sees  "open"
            change    read what is sent; ?? keeps a default for null and absent keys alone

Page  lib/api.dart:18:7
  Dart by its own code
  decoded from captures/pages at $: 1 object in 1 response
  1 of 1 response would not decode because of it

  breaks    next: String?  lib/api.dart:21:17  a value of another kind [wrong-kind]
            sent      a whole number  in 1 of 1 value, 1 of 1 response
            example   captures/pages.json:1:39  /next  1
            throws    _TypeError: type 'int' is not a subtype of type 'String?' in type cast
            change    '${json['next']}'  // takes whatever is sent as a text

findings   3 breaks, 1 misreads, 0 ignores
models     3 declared in 1 source file: 2 with findings, 1 clean (-all lists them), 0 without a response, 0 not judged
responses  2 read from 2 captures: 2 checked, 0 without a model, 0 not judged
`},
	}},
	{"readers of the app's own beside org.json", files{
		"App/Api.kt": `package saltmere
import org.json.*
import okhttp3.*
import io.reactivex.Single
data class Harbour(val code: String, val quays: List<Quay>, val tide: Double?) {
  companion object {
    fun fromJson(o: JSONObject) = Harbour(o.getString("code"), o.optJSONArray("quays").orEmpty { Quay.fromJson(it) }, if (o.isNull("tide")) null else o.getDouble("tide"))
  }
}
data class Quay(val name: String, val length: Int) { companion object { fun fromJson(o: JSONObject) = Quay(o.optString("name", "?"), o.getInt("length")) } }
inline fun <T> JSONArray?.orEmpty(make: (JSONObject) -> T): List<T> { val out = ArrayList<T>(); if (this != null) for (i in 0 until length()) out.add(make(getJSONObject(i))); return out }
class Api(private val http: OkHttpClient) {
  fun harbours(): Single<List<Harbour>> = Single.fromCallable {
    val text = http.newCall(Request.Builder().url("https://api.saltmere.test/v2/harbours").build()).execute().body()!!.string()
    val root = JSONObject(text)
    if (root.getString("status") != "ok") throw IllegalStateException(root.optString("message"))
    root.getJSONArray("harbours").orEmpty { Harbour.fromJson(it) }
  }
}
`,
		"captures/harbours.json": `{"status":"ok","harbours":[{"code":"SAL","quays":[{"name":"A","length":120},{"length":"90.5"}],"tide":"3.2"},{"code":5,"quays":null,"tide":null}]}`,
	}, []run{
		{"models App", 0, `Harbour  class  App/Api.kt:5:12
  org.json by hand
  read by code that was followed
  code   String      code  by code that was followed
  quays  List<Quay>  -     in a way that is not followed: the property orEmpty (App/Api.kt:7:64)
  tide   Double?     tide  by code that was followed

Quay  class  App/Api.kt:10:12
  org.json by hand
  read by code that was followed
  name    String  name    by code that was followed
  length  Int     length  by code that was followed

2 models in 1 source file
`},
		{"check App captures -fail-on never", 0, `at least 0 of 1 response would not decode: 0 breaks, 0 misreads in 1 model

Harbour  App/Api.kt:5:12
  org.json by hand
  decoded from captures/harbours at $.harbours[*]: 2 objects in 1 response

  unknown   quays  App/Api.kt:5:42  the property orEmpty (App/Api.kt:7:64); nothing is claimed about that

Not judged
  Quay  App/Api.kt:10:12  an expression that is not followed; it seems to be decoded from captures/harbours, 1 response

findings   0 breaks, 0 misreads, 0 ignores
models     2 declared in 1 source file: 0 with findings, 1 clean (-all lists them), 0 without a response, 1 not judged
responses  1 read from 1 capture: 1 checked, 0 without a model, 0 not judged
1 model could not be judged though there are responses for it: Quay
`},
	}},
	{"a schema in a promise", files{
		"app/api.ts": `import { z } from 'zod';
import ky from 'ky';
const Money = z.object({ amount: z.coerce.number().nonnegative(), currency: z.enum(['SMD', 'GBP']).default('SMD') });
const Booking = z.object({ ref: z.string().min(4), seats: z.number().int().positive(), total: Money, at: z.iso.datetime({ offset: true }).transform((s) => new Date(s)), extras: z.record(z.string(), z.unknown()).optional() }).strict();
export type Booking = z.infer<typeof Booking>;
const parse = <S extends z.ZodTypeAny>(schema: S) => async (r: Response): Promise<z.infer<S>> => schema.parse(await r.json());
export const client = {
  bookings: () => ky.get('https://api.saltmere.test/v2/bookings').then(parse(z.array(Booking))),
  booking: async (ref: string): Promise<Booking | null> => { const r = Booking.safeParse(await ky.get(` + "`" + `https://api.saltmere.test/v2/bookings/${ref}` + "`" + `).json()); return r.success ? r.data : null; },
};
`,
		"captures/bookings.json": `[{"ref":"SF12","seats":2,"total":{"amount":"12.50"},"at":"2026-03-01T09:30:00Z"},{"ref":"S1","seats":0,"total":{"amount":-1,"currency":"EUR"},"at":"soon","note":"x"}]`,
	}, []run{
		{"models app", 0, `Money  type  app/api.ts:3:26
  zod
  amount    number         amount
  currency  'SMD' | 'GBP'  currency

Booking  type  app/api.ts:5:13
  zod
  ref     string                   ref
  seats   number                   seats
  total   Money                    total
  at      string                   at
  extras  Record<string, unknown>  extras

Decoded
  Booking[]  app/api.ts:8:72  from v2/bookings
  Booking  app/api.ts:9:80  from v2/bookings/{}  its error is dropped

2 models in 1 source file
`},
		{"check app captures -fail-on never", 0, `1 of 1 response would not decode: 6 breaks, 0 misreads in 2 models
  1/1  breaks  Money.amount    -1 is refused by a rule      api.ts:3
  1/1  breaks  Money.currency  "EUR" is no constant of it   api.ts:3
  1/1  breaks  Booking.ref     "S1" is refused by a rule    api.ts:4
  1/1  breaks  Booking.seats   0 is refused by a rule       api.ts:4
  1/1  breaks  Booking.at      "soon" is refused by a rule  api.ts:4
  1/1  breaks  Booking.note    an unknown key fails         api.ts:5

Money  app/api.ts:3:26
  zod
  decoded from captures/bookings at $[*].total: 2 objects in 1 response
  1 of 1 response would not decode because of it

  breaks    amount: number  app/api.ts:3:26  a value that a rule of the schema refuses [refused-value]
            sent      -1  in 1 of 2 values, 1 of 1 response
            example   captures/bookings.json:1:122  /1/total/amount  -1
            throws    ZodError: Too small: expected number to be >=0
            change    loosen the rule where what is sent is right

  breaks    currency: 'SMD' | 'GBP'  app/api.ts:3:67  a value that the enum does not have [unknown-constant]
            sent      "EUR"  in 1 of 1 value, 1 of 1 response
            example   captures/bookings.json:1:136  /1/total/currency  "EUR"
            throws    ZodError: Invalid option: expected one of "SMD"|"GBP"
            change    'EUR'  // among the values for currency

Booking  app/api.ts:5:13
  zod
  decoded from captures/bookings at $[*]: 2 objects in 1 response
  1 of 1 response would not decode because of it

  breaks    ref: string  app/api.ts:4:28  a value that a rule of the schema refuses [refused-value]
            sent      "S1"  in 1 of 2 values, 1 of 1 response
            example   captures/bookings.json:1:89  /1/ref  "S1"
            throws    ZodError: Too small: expected string to have >=4 characters
            change    loosen the rule where what is sent is right

  breaks    seats: number  app/api.ts:4:52  a value that a rule of the schema refuses [refused-value]
            sent      0  in 1 of 2 values, 1 of 1 response
            example   captures/bookings.json:1:102  /1/seats  0
            throws    ZodError: Too small: expected number to be >0
            change    loosen the rule where what is sent is right

  breaks    at: string  app/api.ts:4:102  a value that a rule of the schema refuses [refused-value]
            sent      "soon"  in 1 of 2 values, 1 of 1 response
            example   captures/bookings.json:1:148  /1/at  "soon"
            throws    ZodError: Invalid ISO datetime
            change    loosen the rule where what is sent is right

  breaks    note  app/api.ts:5:13  a key that the model does not have fails the whole document [unknown-key]
            sent      the key note  in 1 of 2 objects, 1 of 1 response
            example   captures/bookings.json:1:82  /1  {"ref":"S1","seats":0,"total":{"amount":-1,"currency":"EUR"},"at":"soon","note":"x"}
            throws    ZodError: Unrecognized key: "note"
            change    .loose()  // lets keys through that the schema does not have

findings   6 breaks, 0 misreads, 0 ignores
models     2 declared in 1 source file: 2 with findings, 0 clean, 0 without a response, 0 not judged
responses  1 read from 1 capture: 1 checked, 0 without a model, 0 not judged
`},
	}},
	{"a decoder that is there to write", files{
		"App/A.kt": `import com.google.gson.*
import com.google.gson.annotations.SerializedName
data class Port(val code: String)
data class Fare(@SerializedName("amount") val amount: Double)
val gson = Gson()
val pretty = GsonBuilder().setPrettyPrinting().serializeNulls().create()
fun port(s: String): Port = gson.fromJson(s, Port::class.java)
fun log(p: Port) = println(pretty.toJson(p))
`,
		"captures/fare.json": `{"amount":"x"}`,
	}, []run{
		{"models App", 0, `Port  class  App/A.kt:3:12
  Gson
  code  String  code

Fare  class  App/A.kt:4:12
  Gson
  amount  Double  amount

Decoded
  Port  App/A.kt:7:34

Sent
  Port  App/A.kt:8:35
    log → toJson

2 models in 1 source file
`},
		{"check App captures -fail-on never", 0, `1 of 1 response would not decode: 1 break, 0 misreads in 1 model
  1/1  breaks  Fare.amount  "x", not Double  A.kt:4

Fare  App/A.kt:4:12
  Gson
  decoded from captures/fare at $: 1 object in 1 response
  1 of 1 response would not decode because of it

  breaks    amount: Double  App/A.kt:4:47  a value of another kind [wrong-kind]
            sent      "x"  in 1 of 1 value, 1 of 1 response
            example   captures/fare.json:1:11  /amount  "x"
            throws    NumberFormatException: For input string: "x"
            change    val amount: String  // as it is sent

Models without a response
  Port  App/A.kt:3:12  the app writes it, and no request was captured that has its keys

findings   1 breaks, 0 misreads, 0 ignores
models     2 declared in 1 source file: 1 with findings, 0 clean, 1 without a response, 0 not judged
responses  1 read from 1 capture: 1 checked, 0 without a model, 0 not judged
`},
	}},
}

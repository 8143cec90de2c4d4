import Foundation

struct Pier: Decodable { let code: String }
struct Ferry: Decodable { let name: String }
struct Fare: Decodable { let pence: Int }
struct Notice: Decodable { let text: String }
struct Page<Item: Decodable>: Decodable { let items: [Item]; let next: String? }
struct Failure: Decodable, Error { let reason: String }

// 1. A resource struct with a parse closure.
struct Resource<Value> {
    let path: String
    let parse: (Data) throws -> Value
}
extension Resource where Value: Decodable {
    init(path: String) {
        self.path = path
        self.parse = { data in try JSONDecoder().decode(Value.self, from: data) }
    }
}
extension Pier {
    static let all = Resource<[Pier]>(path: "/v1/piers")     // asks [Pier] v1/piers
    static func one(_ id: String) -> Resource<Pier> { Resource(path: "/v1/piers/\(id)") }     // asks Pier v1/piers/{}
}
final class Loader {
    func load<V>(_ resource: Resource<V>) async throws -> V {
        let (data, _) = try await URLSession.shared.data(from: URL(string: "https://api.example" + resource.path)!)
        return try resource.parse(data)
    }
}

// 2. A repository base class with an associated type by a generic class parameter.
class Repository<Model: Decodable> {
    let path: String
    init(path: String) { self.path = path }
    func fetch() async throws -> [Model] {
        let data = try await raw(path)
        return try JSONDecoder().decode([Model].self, from: data)
    }
    func raw(_ p: String) async throws -> Data { Data() }
}
final class FerryRepository: Repository<Ferry> {     // asks [Ferry] v1/ferries
    init() { super.init(path: "/v1/ferries") }
}

// 3. A property wrapper free function with trailing closure completion typed by annotation.
func request<T: Decodable>(_ path: String, then: @escaping (Result<T, Error>) -> Void) {
    URLSession.shared.dataTask(with: URL(string: path)!) { data, _, error in
        then(Result { try JSONDecoder().decode(T.self, from: data!) })
    }.resume()
}
func showFares() {
    request("/v1/fares") { (result: Result<[Fare], Error>) in     // asks [Fare] v1/fares
        print(result)
    }
}

// 4. keyPath envelope: generic wrapper unwrapped
struct Envelope<T: Decodable>: Decodable { let data: T }
func unwrapped<T: Decodable>(_ type: T.Type, at path: String) async throws -> T {
    let (d, _) = try await URLSession.shared.data(from: URL(string: path)!)
    return try JSONDecoder().decode(Envelope<T>.self, from: d).data
}
func notices() async throws -> [Notice] {
    try await unwrapped([Notice].self, at: "/v1/notices")     // asks Envelope<[Notice]> v1/notices
}

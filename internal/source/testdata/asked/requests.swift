import Foundation
struct Pier: Decodable { let code: String }
struct Ferry: Decodable { let name: String }
struct Fare: Decodable { let pence: Int }
struct Pass: Decodable { let id: Int }

// an enum of requests with generic function perform, associated via protocol with default implementation
protocol APIRequest {
    associatedtype Response: Decodable
    var path: String { get }
    var decoder: JSONDecoder { get }
}
extension APIRequest {
    var decoder: JSONDecoder { Self.standard }
    static var standard: JSONDecoder { let d = JSONDecoder(); d.keyDecodingStrategy = .convertFromSnakeCase; return d }
}
struct GetPiers: APIRequest { typealias Response = [Pier]; let path = "/v2/piers" }     // asks [Pier] v2/piers
struct GetFerry: APIRequest {     // asks Ferry v2/ferries/{}
    let id: Int
    var path: String { "/v2/ferries/\(id)" }
    typealias Response = Ferry
}
actor Client {
    func send<R: APIRequest>(_ request: R) async throws -> R.Response {
        let (data, _) = try await URLSession.shared.data(from: URL(string: request.path)!)
        return try request.decoder.decode(R.Response.self, from: data)
    }
}
// AsyncStream / continuation
func fares() async throws -> [Fare] {
    try await withCheckedThrowingContinuation { continuation in
        URLSession.shared.dataTask(with: URL(string: "/v2/fares")!) { data, _, _ in
            continuation.resume(with: Result { try JSONDecoder().decode([Fare].self, from: data!) })     // asks [Fare] v2/fares
        }.resume()
    }
}
// extension on URLSession
extension URLSession {
    func object<T: Decodable>(_ type: T.Type = T.self, from path: String, using decoder: JSONDecoder = .init()) async throws -> T {
        let (data, _) = try await data(from: URL(string: path)!)
        return try decoder.decode(type, from: data)
    }
}
final class PassStore: ObservableObject {
    @Published var passes: [Pass] = []
    func refresh() async {
        do { passes = try await URLSession.shared.object(from: "/v2/passes") } catch { }     // asks [Pass] v2/passes
    }
    func first() async throws {
        let pass: Pass = try await URLSession.shared.object(from: "/v2/passes/first")     // asks Pass v2/passes/first
        print(pass)
    }
}
// extension Data
extension Data {
    func decoded<T: Decodable>() throws -> T { try JSONDecoder().decode(T.self, from: self) }
}
func ferry(_ data: Data) throws -> Ferry { try data.decoded() }     // asks Ferry
func many(_ data: Data) throws -> [Ferry] { let all: [Ferry] = try data.decoded(); return all }     // asks [Ferry]

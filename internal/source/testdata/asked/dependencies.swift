import Foundation
import Alamofire
import Moya
struct Pier: Decodable { let code: String }
struct Ferry: Decodable { let name: String }
struct Fare: Decodable { let pence: Int }
struct Notice: Decodable { let text: String }
struct Pass: Decodable { let id: Int }
struct Wrapped<T: Decodable>: Decodable { let payload: T }

extension JSONDecoder {
    static var snake: JSONDecoder = { let d = JSONDecoder(); d.keyDecodingStrategy = .convertFromSnakeCase; return d }()
    static func dated(_ s: JSONDecoder.DateDecodingStrategy) -> JSONDecoder { let d = JSONDecoder(); d.dateDecodingStrategy = s; return d }
}
final class AF1 {
    let session: Session
    init(session: Session = .default) { self.session = session }
    func get<T: Decodable>(_ path: String, decoder: JSONDecoder = .snake) async throws -> T {
        try await session.request("https://api.example/" + path).serializingDecodable(T.self, decoder: decoder).value
    }
    func upload<T: Decodable>(_ path: String, of: T.Type, done: @escaping (AFResult<T>) -> Void) {
        session.request(path).validate().responseDecodable(of: T.self, decoder: JSONDecoder.snake) { done($0.result) }
    }
}
struct Piers {
    let api: AF1
    func all() async throws -> [Pier] { try await api.get("v9/piers") }     // asks [Pier] v9/piers by keys convertFromSnakeCase
    func plain() async throws -> Pier { try await api.get("v9/pier", decoder: JSONDecoder()) }     // asks Pier v9/pier
    func ferry() { api.upload("v9/ferry", of: Ferry.self) { print($0) } }     // asks Ferry v9/ferry by keys convertFromSnakeCase
}
// closures stored in a struct of dependencies
struct Live {
    var fares: () async throws -> [Fare]
    var notice: (_ id: Int) async throws -> Notice
}
extension Live {
    static let live = Live(
        fares: { try await fetched("v9/fares") },     // asks [Fare] v9/fares
        notice: { id in try await fetched("v9/notices/\(id)") }     // asks Notice v9/notices/{}
    )
}
func fetched<T: Decodable>(_ path: String) async throws -> T {
    let (data, _) = try await URLSession.shared.data(from: URL(string: path)!)
    return try JSONDecoder.snake.decode(T.self, from: data)
}
// generic unwrap through a wrapper, property of result
func payload<T: Decodable>(_ path: String) async throws -> T {
    let wrapped: Wrapped<T> = try await fetched(path)
    return wrapped.payload
}
func pass() async throws -> Pass { try await payload("v9/pass") }     // asks Wrapped<Pass> v9/pass
// a Result helper with map
func load(_ path: String, then: @escaping (Result<Data, Error>) -> Void) { }
func showPass() {
    load("v9/pass/3") { result in
        switch result {
        case .success(let data):
            let pass = try? JSONDecoder().decode(Pass.self, from: data)     // asks Pass v9/pass/3
            print(pass as Any)
        case .failure: break
        }
    }
}
enum Route<Response: Decodable> {
    case path(String)
    var string: String { switch self { case .path(let p): return p } }
}
struct Server {
    func call<R>(_ route: Route<R>) async throws -> R {
        let data = try await raw(route.string)
        return try JSONDecoder().decode(R.self, from: data)
    }
    func raw(_ p: String) async throws -> Data { Data() }
    func ferries() async throws { let all: [Ferry] = try await call(.path("v9/ferries")); print(all) }     // asks [Ferry] v9/ferries
    func one() async throws { let f = try await call(Route<Ferry>.path("v9/ferry/1")); print(f) }     // asks Ferry v9/ferry/1
}

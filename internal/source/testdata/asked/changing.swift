import Foundation
struct Pier: Decodable { let code: String }
struct Ferry: Decodable { let name: String }
struct Fare: Decodable { let pence: Int }
struct Notice: Decodable { let text: String }
struct Pass: Decodable { let id: Int }

extension JSONDecoder {
    static let api: JSONDecoder = { let d = JSONDecoder(); d.keyDecodingStrategy = .convertFromSnakeCase; return d }()
}
// a decoder that what is asked for names, as a protocol has it for all that name none
protocol Target { associatedtype Output: Decodable; var path: String { get }; var decoder: JSONDecoder { get } }
extension Target { var decoder: JSONDecoder { .api } }
struct PiersTarget: Target { typealias Output = [Pier]; let path = "v11/piers" }
struct FerryTarget: Target {
    typealias Output = Ferry
    let id: Int
    var path: String { "v11/ferries/\(id)" }
    var decoder: JSONDecoder { JSONDecoder() }
}
struct NoticeTarget: Target { typealias Output = Notice; let path = "v11/notice"; var decoder: JSONDecoder = .api }
actor Gateway {
    func run<T: Target>(_ target: T) async throws -> T.Output {
        let (data, _) = try await URLSession.shared.data(from: URL(string: "https://api.saltmere.example/" + target.path)!)
        return try target.decoder.decode(T.Output.self, from: data)
    }
    func again<T: Target>(_ target: T) async throws -> T.Output { try await run(target) }
}
func targets(_ gateway: Gateway, some: NoticeTarget) async throws {
    _ = try await gateway.run(PiersTarget())     // asks [Pier] v11/piers by keys convertFromSnakeCase
    _ = try await gateway.run(FerryTarget(id: 4))     // asks Ferry v11/ferries/{} by plain
    _ = try await gateway.again(PiersTarget())     // asks [Pier] v11/piers by keys convertFromSnakeCase
    _ = try await gateway.run(NoticeTarget(decoder: JSONDecoder()))     // asks Notice v11/notice by plain
    _ = try await gateway.run(some)     // asks Notice v11/notice by one of several
}
// a decoder that is another one once it has been set
final class Builder {
    private var parts: [String] = []
    private var decoder = JSONDecoder()
    func path(_ p: String) -> Builder { parts.append(p); return self }
    func using(_ d: JSONDecoder) -> Builder { decoder = d; return self }
    func fetch<T: Decodable>(_ type: T.Type = T.self) async throws -> T {
        let (data, _) = try await URLSession.shared.data(from: URL(string: parts.joined(separator: "/"))!)
        return try decoder.decode(type, from: data)
    }
}
func fare() async throws -> Fare { try await Builder().path("v11/fares").using(.api).fetch() }     // asks Fare v11/fares by one of several
final class Client {
    var decoder = JSONDecoder()
    func get<T: Decodable>(_ path: String) async throws -> T { try decoder.decode(T.self, from: try await data(path)) }
    func data(_ path: String) async throws -> Data { try await URLSession.shared.data(from: URL(string: path)!).0 }
}
func configured(_ client: Client) async throws -> Pass {
    client.decoder = .api
    return try await client.get("v11/pass")     // asks Pass v11/pass by one of several
}
final class Harbour {
    private var decoder = JSONDecoder()
    func use(_ d: JSONDecoder) { decoder = d }
    func pier(_ data: Data) throws -> Pier { try decoder.decode(Pier.self, from: data) }     // asks Pier by one of several
}
final class Quay {
    func pier(_ data: Data) throws -> Pier { try decoder.decode(Pier.self, from: data) }     // asks Pier by keys convertFromSnakeCase
    private let decoder = JSONDecoder.api
}
// a class that extends another with a decoder of its own
class BaseService {
    var decoder: JSONDecoder { let d = JSONDecoder(); d.keyDecodingStrategy = .convertFromSnakeCase; return d }
    func send<T: Decodable>(_ p: String) async throws -> T { try decoder.decode(T.self, from: try await URLSession.shared.data(from: URL(string: p)!).0) }
}
final class PierService: BaseService {
    func all() async throws -> [Pier] { try await send("v13/piers") }     // asks [Pier] v13/piers by keys convertFromSnakeCase
}
final class PlainService: BaseService {
    override var decoder: JSONDecoder { JSONDecoder() }
    func ferry() async throws -> Ferry { try await self.send("v13/ferry") }     // asks Ferry v13/ferry by plain
}
func either(_ service: BaseService, plain: PlainService) async throws -> (Notice, Pass) {
    let notice: Notice = try await service.send("v13/notice")     // asks Notice v13/notice by one of several
    let pass: Pass = try await plain.send("v13/pass")     // asks Pass v13/pass by plain
    return (notice, pass)
}

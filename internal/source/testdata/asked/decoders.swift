import Foundation
struct Port: Decodable { let portCode: String; let opened: Date }
struct Old: Decodable { let port_code: String; let opened: Date }
extension JSONDecoder {
    static let saltmere: JSONDecoder = {
        let d = JSONDecoder()
        d.keyDecodingStrategy = .convertFromSnakeCase
        d.dateDecodingStrategy = .iso8601
        return d
    }()
    static let legacy: JSONDecoder = {
        let d = JSONDecoder()
        d.dateDecodingStrategy = .secondsSince1970
        return d
    }()
}
final class Client {
    private let decoder: JSONDecoder
    init(decoder: JSONDecoder = .saltmere) { self.decoder = decoder }
    func ports() async throws -> [Port] { try await get("v2/ports") } // asks [Port] v2/ports by dates iso8601, keys convertFromSnakeCase
    func get<T: Decodable>(_ path: String) async throws -> T { try decoder.decode(T.self, from: try await load(path)) }
}
struct Loader {
    func old() async throws -> [Old] { try await fetch("v2/legacy", decoder: .legacy) } // asks [Old] v2/legacy by dates secondsSince1970
    func fetch<T: Decodable>(_ path: String, decoder: JSONDecoder = .saltmere) async throws -> T { try decoder.decode(T.self, from: try await load(path)) }
}
struct Plain {
    let decoder: JSONDecoder
    func port() throws -> Port { try decoder.decode(Port.self, from: load("v2/port")) } // asks Port v2/port by dates secondsSince1970, keys convertFromSnakeCase
    private static func make() -> JSONDecoder {
        let decoder = JSONDecoder()
        decoder.keyDecodingStrategy = .convertFromSnakeCase
        decoder.dateDecodingStrategy = .secondsSince1970
        return decoder
    }
    init(decoder: JSONDecoder = Plain.make()) { self.decoder = decoder }
}

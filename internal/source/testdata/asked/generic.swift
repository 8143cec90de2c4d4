import Foundation

struct Port: Decodable { let code: String }
struct Sailing: Decodable { let id: Int }
struct Page<T: Decodable>: Decodable { let items: [T] }

final class SaltmereClient {
    private let decoder = JSONDecoder()
    private let portsPath = "v2/ports"

    func ports() async throws -> [Port] { try await get(portsPath) } // asks [Port] v2/ports
    func port(_ code: String) async throws -> Port {
        return try await get("v2/ports/\(code)") // asks Port v2/ports/{}
    }
    func sailings() async throws -> Page<Sailing> {
        let page: Page<Sailing> = try await get("v2/sailings") // asks Page<Sailing> v2/sailings
        return page
    }
    func next() async throws -> Sailing? {
        let found = try await fetch(Sailing.self, at: "v2/sailings/next") // asks Sailing v2/sailings/next
        return found
    }
    func first() async throws -> Sailing {
        guard let s = try? await get("v2/sailings/first", as: [Sailing].self).first else { throw URLError(.badURL) } // asks [Sailing] v2/sailings/first
        return s
    }

    private func get<T: Decodable>(_ path: String) async throws -> T {
        try await fetch(T.self, at: path)
    }
    private func get<T>(_ path: String, as type: T.Type) async throws -> T where T: Decodable {
        try await fetch(type, at: path)
    }
    private func fetch<Body: Decodable>(_ type: Body.Type = Body.self, at path: String) async throws -> Body {
        let url = URL(string: "https://api.saltmere.example/" + path)!
        let (data, _) = try await URLSession.shared.data(from: url)
        return try decoder.decode(Body.self, from: data)
    }
}

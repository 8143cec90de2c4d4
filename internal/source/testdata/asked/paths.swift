import Foundation
struct Pier: Decodable { let code: String }
struct Fare: Decodable { let pence: Int }
struct Notice: Decodable { let text: String }
struct Pass: Decodable { let id: Int }
// paths that are put together where they are requested
struct Http {
    static let base = URL(string: "https://api.saltmere.example")!
    enum Paths {
        static let notices = "v12/notices"
        static func pier(_ code: String) -> String { "v12/piers/\(code)" }
    }
    let decoder = JSONDecoder()
    func body(_ path: String) async throws -> Data { try await URLSession.shared.data(from: Http.base.appendingPathComponent(path)).0 }
    func notices() async throws -> [Notice] { try decoder.decode([Notice].self, from: try await body(Paths.notices)) }     // asks [Notice] v12/notices
    func pier(_ code: String) async throws -> Pier { try decoder.decode(Pier.self, from: try await body(Paths.pier(code))) }     // asks Pier v12/piers/{}
    func fare(_ id: Int) async throws -> Fare {
        let url = Http.base.appendingPathComponent("v12/fares").appendingPathComponent("\(id)")
        let (data, _) = try await URLSession.shared.data(from: url)
        return try decoder.decode(Fare.self, from: data)     // asks Fare v12/fares/{}
    }
    func next(_ id: Int) async throws -> Fare {
        let url = Http.base.appending(path: "v12/next/\(id)").appending(queryItems: [])
        let (data, _) = try await URLSession.shared.data(from: url)
        return try decoder.decode(Fare.self, from: data)     // asks Fare v12/next/{}
    }
    func pass(_ id: Int) async throws -> Pass {
        var parts = URLComponents(url: Http.base, resolvingAgainstBaseURL: false)!
        parts.path = "/v12/passes/\(id)"
        parts.queryItems = [URLQueryItem(name: "full", value: "1")]
        var request = URLRequest(url: parts.url!)
        request.setValue("application/json", forHTTPHeaderField: "Accept")
        let (data, _) = try await URLSession.shared.data(for: request)
        return try decoder.decode(Pass.self, from: data)     // asks Pass v12/passes/{}
    }
    func fetched<T: Decodable>(_ parts: [String]) async throws -> T {
        let url = URL(string: parts.joined(separator: "/"))!
        return try decoder.decode(T.self, from: try await URLSession.shared.data(from: url).0)
    }
    func other() async throws -> Notice { try await fetched(["v12", "other"]) }     // asks Notice
}

import Foundation

/// Talks to the Saltmere Ferries API.
final class SaltmereClient {
    private let session: URLSession
    private let base = URL(string: "https://api.saltmere.example/v2/")!

    private let decoder: JSONDecoder = {
        let decoder = JSONDecoder()
        decoder.keyDecodingStrategy = .convertFromSnakeCase
        decoder.dateDecodingStrategy = .iso8601
        return decoder
    }()

    init(session: URLSession = .shared) {
        self.session = session
    }

    func sailings(on day: String) async throws -> SailingPage {
        let data = try await get("sailings?day=\(day)")
        return try decoder.decode(SailingPage.self, from: data)
    }

    func ports() async throws -> [Port] {
        let data = try await get("ports")
        return try decoder.decode([Port].self, from: data)
    }

    func vessels() async throws -> [Vessel] {
        let data = try await get("vessels")
        return try decoder.decode([Vessel].self, from: data)
    }

    func fares(for sailing: Int) async throws -> FareTable {
        let data = try await get("sailings/\(sailing)/fares")
        return try decoder.decode(FareTable.self, from: data)
    }

    func notices() async -> NoticeBoard? {
        guard let data = try? await get("notices") else { return nil }
        return try? decoder.decode(NoticeBoard.self, from: data)
    }

    func pass(_ id: String) async throws -> Pass {
        let data = try await get("passes/\(id)")
        return try decoder.decode(Pass.self, from: data)
    }

    private func get(_ path: String) async throws -> Data {
        let (data, response) = try await session.data(from: base.appendingPathComponent(path))
        if let status = (response as? HTTPURLResponse)?.statusCode, status >= 400 {
            throw try decoder.decode(Problem.self, from: data)
        }
        return data
    }
}

import Foundation

struct Port: Decodable { let code: String }
struct Notice: Decodable { let text: String }
struct Fare: Decodable { let price: Double }
struct Page<Item: Decodable>: Decodable { let items: [Item] }

protocol APIClient {
    func send<T: Decodable>(_ request: APIRequest<T>) async throws -> T
}

struct APIRequest<Response: Decodable> {
    let method: String
    let path: String
    var query: [String: String] = [:]
}

extension APIRequest {
    static func get(_ path: String) -> APIRequest { APIRequest(method: "GET", path: path) }
}

enum Requests {
    static func port(_ code: String) -> APIRequest<Port> {
        APIRequest(method: "GET", path: "v2/ports/\(code)")
    }
}

final class LiveClient: APIClient {
    static let decoder = JSONDecoder()
    func send<T: Decodable>(_ request: APIRequest<T>) async throws -> T {
        let data = try await perform(request.method, request.path)
        return try Self.decoder.decode(T.self, from: data)
    }
}

protocol Resource {
    associatedtype Model: Decodable
    static var path: String { get }
}

enum NoticeResource: Resource { // asks [Notice]
    typealias Model = Notice
    static let path = "v2/notices"
}

struct Store {
    let client: APIClient

    func port(_ code: String) async throws -> Port { try await client.send(Requests.port(code)) } // asks Port v2/ports/{}
    func fares() async throws -> Page<Fare> {
        let request: APIRequest<Page<Fare>> = .get("v2/fares")
        return try await client.send(request) // asks Page<Fare> v2/fares
    }
    func fare() async throws -> Fare {
        try await client.send(APIRequest(method: "GET", path: "v2/fares/best")) // asks Fare v2/fares/best
    }
    func list<R: Resource>(_ resource: R.Type) async throws -> [R.Model] {
        let data = try await URLSession.shared.data(from: URL(string: R.path)!).0
        return try LiveClient.decoder.decode([R.Model].self, from: data)
    }
}

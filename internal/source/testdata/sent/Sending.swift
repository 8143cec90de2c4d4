import Foundation
struct Ride: Encodable { let sailing: Int }
struct Pass: Codable { let id: String }
enum HTTPMethod: String { case get = "GET", post = "POST", patch = "PATCH" }
struct Endpoint<Body: Encodable, Response: Decodable> {
    let path: String
    let method: HTTPMethod
    let body: Body
}
extension Endpoint where Body == Ride, Response == Pass {
    static func ride(_ r: Ride) -> Endpoint { Endpoint(path: "/v1/rides", method: .post, body: r) }
}
final class Client {
    private let encoder = JSONEncoder()
    func send<B, R>(_ e: Endpoint<B, R>) async throws -> R {
        var req = URLRequest(url: base.appendingPathComponent(e.path))
        req.httpMethod = e.method.rawValue
        req.httpBody = try encoder.encode(e.body)
        return try JSONDecoder().decode(R.self, from: try await load(req))
    }
    func patch(pass: Pass) async throws {
        var request = URLRequest(url: URL(string: "https://api.saltmere.example/v2/passes/\(pass.id)")!)
        request.httpMethod = HTTPMethod.patch.rawValue
        request.httpBody = try? JSONEncoder().encode(pass)
    }
    func upload(rides: [Ride]) async throws {
        var request = makeRequest("PUT", "v2/rides/batch")
        request.httpBody = try encoder.encode(rides)
    }
    func dict() throws {
        var request = makeRequest("POST", "v2/dict")
        request.httpBody = try encoder.encode(["a": 1])
    }
}
protocol APIRequest { associatedtype Body: Encodable; var path: String { get }; var body: Body { get } }
struct RideRequest2: APIRequest { let path = "v3/rides"; let body: Ride }
extension Client {
    func post<R: APIRequest>(_ r: R) throws { let data = try encoder.encode(r.body); var q = URLRequest(url: base.appendingPathComponent(r.path)); q.httpMethod = "POST"; q.httpBody = data }
}
struct Wrapper<T: Encodable>: Encodable { let data: T; let client = "ios" }
extension Client { func wrapped(_ r: Ride) throws { var q = makeRequest("POST", "v2/wrapped"); q.httpBody = try encoder.encode(Wrapper(data: r)) } }

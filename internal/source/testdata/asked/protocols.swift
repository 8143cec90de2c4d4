import Foundation

struct Port: Decodable { let code: String }
struct Notice: Decodable { let text: String }

protocol Request {
    associatedtype Response: Decodable
    var path: String { get }
}

struct PortsRequest: Request { // asks [Port] v2/ports
    typealias Response = [Port]
    let path = "v2/ports"
}

struct NoticeRequest: Request {
    typealias Response = Notice
    let id: Int
    var path: String { "v2/notices/\(id)" }
}

final class SaltmereClient {
    let decoder = JSONDecoder()

    func send<R: Request>(_ request: R) async throws -> R.Response {
        let (data, _) = try await URLSession.shared.data(from: URL(string: request.path)!)
        return try decoder.decode(R.Response.self, from: data)
    }
    func notice(_ id: Int) async throws -> Notice {
        try await send(NoticeRequest(id: id)) // asks Notice v2/notices/{}
    }
}

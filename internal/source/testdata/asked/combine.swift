import Combine
import Foundation

struct Port: Decodable { let code: String }
struct Envelope<T: Decodable>: Decodable { let data: T }

class BaseClient {
    let decoder = JSONDecoder()

    func call<T: Decodable>(_ path: String) -> AnyPublisher<T, Error> {
        URLSession.shared.dataTaskPublisher(for: URL(string: path)!)
            .tryMap { try self.decoder.decode(Envelope<T>.self, from: $0.data).data }
            .eraseToAnyPublisher()
    }
}

final class PortClient: BaseClient {
    func ports() -> AnyPublisher<[Port], Error> {
        call("v2/ports") // asks Envelope<[Port]> v2/ports
    }
    func port() -> AnyPublisher<Port, Error> {
        return super.call("v2/port") // asks Envelope<Port> v2/port
            .receive(on: DispatchQueue.main)
            .eraseToAnyPublisher()
    }
}

struct AlamofireClient {
    func get<T: Decodable>(_ path: String, _ type: T.Type) async throws -> T {
        try await AF.request(path).serializingDecodable(T.self, decoder: JSONDecoder()).value
    }
    func ports() async throws -> [Port] { try await get("v2/ports/all", [Port].self) } // asks [Port] v2/ports/all
}

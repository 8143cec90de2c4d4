import Combine
import Foundation

struct Port: Decodable { let code: String }
struct Vessel: Decodable { let name: String }
struct Pass: Decodable { let holder: String }

struct Endpoint<Response> { let path: String }

extension Endpoint where Response == [Port] {
    static var ports: Endpoint { Endpoint(path: "v2/ports") } // asks [Port] v2/ports
}
extension Endpoint where Response == Vessel {
    static func vessel(_ id: Int) -> Self { .init(path: "v2/vessels/\(id)") }
}
enum Passes {
    static let mine = Endpoint<Pass>(path: "v2/passes/mine") // asks Pass v2/passes/mine
}

final class SaltmereClient {
    private lazy var decoder: JSONDecoder = { JSONDecoder() }()

    func publisher<Response: Decodable>(for endpoint: Endpoint<Response>) -> AnyPublisher<Response, Error> {
        URLSession.shared.dataTaskPublisher(for: URL(string: endpoint.path)!)
            .map(\.data)
            .decode(type: Response.self, decoder: decoder)
            .eraseToAnyPublisher()
    }
    func vessel(_ id: Int) -> AnyPublisher<Vessel, Error> {
        publisher(for: .vessel(id)) // asks Vessel v2/vessels/{}
    }
}

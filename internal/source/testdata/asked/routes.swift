import Foundation

struct Port: Decodable { let code: String }
struct Fare: Decodable { let price: Double }
struct Notice: Decodable { let text: String }

typealias Completion<T> = (Result<T, Error>) -> Void

enum Route {
    case ports
    case port(code: String)
    case fares(Int)

    var path: String {
        switch self {
        case .ports: return "v2/ports"
        case let .port(code): return "v2/ports/\(code)"
        case .fares(let sailing):
            let base = "v2/sailings"
            return base + "/\(sailing)/fares"
        }
    }
}

enum Feed: String {
    case notices = "v2/notices"
    case storms = "v2/notices/storms"
}

final class Service<Body: Decodable> {
    let path: String
    init(path: String) { self.path = path }
    func fetch() async throws -> Body {
        let (data, _) = try await URLSession.shared.data(from: URL(string: path)!)
        return try JSONDecoder().decode(Body.self, from: data)
    }
}

actor SaltmereClient {
    static let shared = SaltmereClient()
    private var ports: [Port] = []
    private let vessels = Service<[Fare]>(path: "v2/vessels") // asks [Fare] v2/vessels

    func request<T: Decodable>(_ route: Route) async throws -> T {
        let request = URLRequest(url: URL(string: "https://api.saltmere.example/" + route.path)!)
        return try await perform(request, as: T.self)
    }
    func feed<T: Decodable>(_ feed: Feed, as type: T.Type) async throws -> T {
        try await perform(URLRequest(url: URL(string: feed.rawValue)!), as: type)
    }
    private func perform<T: Decodable>(_ request: URLRequest, as type: T.Type) async throws -> T {
        let (data, _) = try await URLSession.shared.data(for: request)
        do {
            return try JSONDecoder().decode(type, from: data)
        } catch let error as DecodingError {
            print(error)
            throw error
        }
    }
    func later<T: Decodable>(_ path: String, then: @escaping Completion<T>) {
        Task {
            let (data, _) = try await URLSession.shared.data(from: URL(string: path)!)
            then(Result { try JSONDecoder().decode(T.self, from: data) })
        }
    }
    func reload() async throws {
        ports = try await request(.ports) // asks [Port] v2/ports
    }
    func port(_ code: String) async throws -> Port { try await request(.port(code: code)) } // asks Port v2/ports/{}
    func fares() async throws -> [Fare] { try await request(Route.fares(1)) } // asks [Fare] v2/sailings/{}/fares
    func notices() async throws { // the storms are not used yet
        for notice in try await feed(.notices, as: [Notice].self) { show(notice) } // asks [Notice] v2/notices
    }
    func now(_ done: @escaping Completion<Port>) { later("v2/ports/now", then: done) } // asks Port v2/ports/now
    func both() async throws {
        async let one = vessels.fetch()
        let two = try await Service<Notice>(path: "v2/notices/last").fetch() // asks Notice v2/notices/last
        show(try await one, two)
    }
}

import Foundation

struct Sailing: Codable { let id: Int; let departsAt: Date }
struct Fare: Decodable { let amount: Double }
struct Berth: Decodable { let no: Int }
struct Notice: Decodable { let postedAt: Date }

// Another class has a property of the same name, which says nothing of the others.
final class Log {
    private lazy var decoder: JSONDecoder = { let d = JSONDecoder(); d.keyDecodingStrategy = .convertFromSnakeCase; return d }()
    func entries(_ data: Data) throws -> [Int] { try decoder.decode([Int].self, from: data) } // asks [Int] by keys convertFromSnakeCase
}

extension JSONDecoder {
    static let saltmere: JSONDecoder = { let d = JSONDecoder(); d.dateDecodingStrategy = .secondsSince1970; return d }()
}

enum Endpoint {
    case sailings(day: String)
    case fares

    var path: String {
        switch self {
        case .sailings(let day): return "/v2/sailings/\(day)"
        case .fares: return "/v2/fares"
        }
    }
    var url: URL { URL(string: "https://api.saltmere.example\(path)")! }
}

struct Network {
    private let decoder: JSONDecoder
    init(decoder: JSONDecoder = .saltmere) { self.decoder = decoder }
    func fetch<T: Decodable>(_ endpoint: Endpoint) async throws -> T {
        let (data, _) = try await URLSession.shared.data(from: endpoint.url)
        return try decoder.decode(T.self, from: data)
    }
}

struct Bare {
    let decoder: JSONDecoder
    func get<T: Decodable>(_ path: String) async throws -> T {
        let (data, _) = try await URLSession.shared.data(from: URL(string: path)!)
        return try decoder.decode(T.self, from: data)
    }
}

struct Repository {
    let network: Network
    let bare: Bare
    func sailings(on day: String) async throws -> [Sailing] {
        try await network.fetch(.sailings(day: day)) // asks [Sailing] v2/sailings/{} by dates secondsSince1970
    }
    func fares() async throws -> [Fare] { try await Network().fetch(.fares) } // asks [Fare] v2/fares by dates secondsSince1970
    func notices() async throws -> [Notice] { try await bare.get("/v2/notices") } // asks [Notice] v2/notices by dates secondsSince1970
}

let repository = Repository(network: Network(), bare: Bare(decoder: .saltmere))

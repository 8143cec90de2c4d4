import Foundation
import Combine
struct Pier: Decodable { let code: String }
struct Ferry: Decodable { let name: String }
struct Fare: Decodable { let pence: Int }
struct Notice: Decodable { let text: String }
struct Pass: Decodable { let id: Int }

struct Agent {
    func run<T: Decodable>(_ request: URLRequest, _ decoder: JSONDecoder = JSONDecoder()) -> AnyPublisher<T, Error> {
        URLSession.shared.dataTaskPublisher(for: request).map(\.data).decode(type: T.self, decoder: decoder).eraseToAnyPublisher()
    }
}
enum API {
    static let agent = Agent()
    static let base = URL(string: "https://api.example")!
    static func piers() -> AnyPublisher<[Pier], Error> { agent.run(URLRequest(url: base.appendingPathComponent("v8/piers"))) }     // asks [Pier] v8/piers
    static func ferry(_ id: Int) -> AnyPublisher<Ferry, Error> {
        let request = URLRequest(url: base.appendingPathComponent("v8/ferries/\(id)"))
        return agent.run(request)     // asks Ferry v8/ferries/{}
    }
}
@MainActor final class ViewModel<Item: Decodable>: ObservableObject {
    @Published var items: [Item] = []
    let path: String
    init(path: String) { self.path = path }
    func load() async throws {
        let (data, _) = try await URLSession.shared.data(from: URL(string: path)!)
        items = try JSONDecoder().decode([Item].self, from: data)
    }
}
let fares = ViewModel<Fare>(path: "v8/fares")     // asks [Fare] v8/fares
struct NoticesView { @StateObject var model = ViewModel<Notice>(path: "v8/notices") }     // asks [Notice] v8/notices

protocol Service { func fetch<T: Decodable>(_ path: String, as type: T.Type) async throws -> T }
struct LiveService: Service {
    func fetch<T: Decodable>(_ path: String, as type: T.Type) async throws -> T {
        let (data, _) = try await URLSession.shared.data(from: URL(string: path)!)
        return try JSONDecoder().decode(type, from: data)
    }
}
final class PassInteractor {
    let service: Service
    init(service: Service) { self.service = service }
    func pass() async throws -> Pass { try await service.fetch("v8/pass", as: Pass.self) }     // asks Pass v8/pass
    func both() async throws -> (Pass, Ferry) {
        async let pass = service.fetch("v8/pass/2", as: Pass.self)     // asks Pass v8/pass/2
        async let ferry = service.fetch("v8/ferry/2", as: Ferry.self)     // asks Ferry v8/ferry/2
        return try await (pass, ferry)
    }
}
func parse<T: Decodable>(_ data: Data, completion: (Result<T, Error>) -> Void) {
    do { completion(.success(try JSONDecoder().decode(T.self, from: data))) } catch { completion(.failure(error)) }
}
func shown(_ data: Data) {
    parse(data) { (r: Result<Ferry, Error>) in print(r) }     // asks Ferry
}
func optional(_ data: Data) -> Ferry? {
    return try? JSONDecoder().decode(Ferry.self, from: data)     // asks Ferry
}
typealias Completion<T> = (T?, Error?) -> Void
func old<T: Decodable>(_ path: String, _ completion: @escaping Completion<T>) {
    URLSession.shared.dataTask(with: URL(string: path)!) { d, _, e in completion(try? JSONDecoder().decode(T.self, from: d!), e) }.resume()
}
func oldPiers() { old("v8/old") { (piers: [Pier]?, error) in } }     // asks [Pier] v8/old

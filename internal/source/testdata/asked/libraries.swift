import Alamofire
import Combine
import Foundation
import RxSwift

struct Port: Decodable { let code: String }
struct Fare: Decodable { let price: Double }
struct Envelope<T: Decodable>: Decodable { let data: T }

extension JSONDecoder {
    static var saltmere: JSONDecoder {
        let decoder = JSONDecoder()
        decoder.keyDecodingStrategy = .convertFromSnakeCase
        return decoder
    }
}

final class HTTP {
    let base = "https://api.saltmere.example/"
    let session: Session

    func get<T: Decodable>(_ path: String, parameters: Parameters? = nil, completion: @escaping (Result<T, AFError>) -> Void) {
        session.request(base + path, parameters: parameters)
            .validate()
            .responseDecodable(of: Envelope<T>.self, decoder: JSONDecoder.saltmere) { response in
                completion(response.result.map(\.data))
            }
    }
    func publisher<T: Decodable>(_ path: String) -> AnyPublisher<T, AFError> {
        session.request(base + path).publishDecodable(type: T.self, decoder: JSONDecoder.saltmere).value()
    }
    func observe<T: Decodable>(_ path: String, as type: T.Type) -> Observable<T> {
        Observable.create { observer in
            let task = URLSession.shared.dataTask(with: URL(string: self.base + path)!) { data, _, error in
                guard let data = data else { return observer.onError(error!) }
                do {
                    observer.onNext(try JSONDecoder.saltmere.decode(type, from: data))
                } catch {
                    observer.onError(error)
                }
            }
            task.resume()
            return Disposables.create { task.cancel() }
        }
    }
}

extension URLSession {
    func value<T: Decodable>(_ type: T.Type = T.self, from url: URL, using decoder: JSONDecoder = .saltmere) async throws -> T {
        let (data, response) = try await data(from: url)
        guard (response as? HTTPURLResponse)?.statusCode == 200 else { throw URLError(.badServerResponse) }
        return try decoder.decode(type, from: data)
    }
}

@MainActor
final class Model: ObservableObject {
    @Published var ports: [Port] = []
    @Published private(set) var fare: Fare?
    let http: HTTP

    func load() {
        http.get("v2/ports") { [weak self] (result: Result<[Port], AFError>) in // asks Envelope<[Port]> v2/ports
            if case .success(let ports) = result { self?.ports = ports }
        }
        http.publisher("v2/ports/near").sink(receiveCompletion: { _ in }) { (ports: [Port]) in self.ports = ports }.store(in: &bag)
        http.observe("v2/fares", as: [Fare].self).subscribe(onNext: { show($0) }) // asks [Fare] v2/fares
    }
    func near() -> AnyPublisher<[Port], AFError> { http.publisher("v2/ports/near") } // asks [Port] v2/ports/near
    func best() async throws {
        fare = try await URLSession.shared.value(from: URL(string: "https://api.saltmere.example/v2/fares/best")!) // asks Fare v2/fares/best
    }
    func all() async -> [Fare] {
        guard let url = URL(string: "https://api.saltmere.example/v2/fares/all") else { return [] }
        let fares = try? await URLSession.shared.value([Fare].self, from: url) // asks [Fare] v2/fares/all
        return fares ?? []
    }
}

import Combine
import Foundation

struct Reply<T: Decodable>: Decodable { let code: Int; let result: T? }
struct Rows<T: Decodable>: Decodable { let list: [T] }
struct Port: Decodable { let code: String }
struct Fare: Decodable { let price: Double }
struct Pass: Decodable { let number: String }

final class Api {
    // What a closure is given says what is decoded, not what it makes of that.
    func ports() -> AnyPublisher<[Port], Error> {
        request("v2/ports").compactMap { (r: Reply<Rows<Port>>) in r.result?.list }.eraseToAnyPublisher() // asks Reply<Rows<Port>> v2/ports
    }

    func fares() -> AnyPublisher<[Fare], Error> {
        request("v2/fares").map { $0.result.list }.eraseToAnyPublisher()
    }

    func pass() -> AnyPublisher<Reply<Pass>, Error> {
        request("v2/pass") // asks Reply<Pass> v2/pass
    }

    private func request<T: Decodable>(_ path: String) -> AnyPublisher<T, Error> {
        URLSession.shared.dataTaskPublisher(for: URL(string: "https://api.saltmere.example/" + path)!)
            .map(\.data)
            .decode(type: T.self, decoder: JSONDecoder())
            .eraseToAnyPublisher()
    }
}

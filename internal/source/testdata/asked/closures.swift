import Foundation

struct Port: Decodable { let code: String }
struct Fare: Decodable { let price: Double }

final class SaltmereClient {
    func ports(completion: @escaping (Result<[Port], Error>) -> Void) {
        request("v2/ports", completion: completion) // asks [Port] v2/ports
    }
    func fares(for sailing: Int, then: @escaping ([Fare]?, Error?) -> Void) {
        request("v2/sailings/\(sailing)/fares") { (result: Result<[Fare], Error>) in // asks [Fare] v2/sailings/{}/fares
            then(try? result.get(), nil)
        }
    }
    func fare(id: Int, done: @escaping (Fare?) -> Void) {
        load(Fare.self, from: "v2/fares/\(id)") { done($0) } // asks Fare v2/fares/{}
    }

    private func load<T: Decodable>(_ type: T.Type, from path: String, completion: @escaping (T?) -> Void) {
        URLSession.shared.dataTask(with: URL(string: path)!) { data, _, _ in
            completion(data.flatMap { try? JSONDecoder().decode(type, from: $0) })
        }.resume()
    }
    private func request<T: Decodable>(_ path: String, completion: @escaping (Result<T, Error>) -> Void) {
        URLSession.shared.dataTask(with: URL(string: path)!) { data, _, error in
            do {
                let value = try JSONDecoder().decode(T.self, from: data!)
                completion(.success(value))
            } catch {
                completion(.failure(error))
            }
        }.resume()
    }
}

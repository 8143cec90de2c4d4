// document: {"port_code":"SAL","departs_at":"2026-03-01T09:30:00Z","depth":"inf","badge":"aGk=","home":"https://saltmere.test/a","n":3}
// document: {"portCode":"MUL","departs_at":"2026-03-01 09:30","depth":4.5,"badge":"not base64!","home":"","n":3.0}
// document: {"port_code":"TOB","departs_at":1772323200,"depth":"NaN","badge":[1,2],"home":null,"n":3.5}
// lost: 2 exactly
import Foundation

struct Root: Decodable {
    let portCode: String
    let departsAt: Date // want mixed-values 2/3 in 2
    let depth: Double // want wrong-kind 1/3 in 1
    let badge: Data // want mixed-values 2/3 in 2
    let home: URL? // want unreadable-text 1/3 in 1
    let n: Int // want out-of-range 1/3 in 1
}

let decoder: JSONDecoder = {
    let d = JSONDecoder()
    d.keyDecodingStrategy = .convertFromSnakeCase
    d.dateDecodingStrategy = .iso8601
    d.nonConformingFloatDecodingStrategy = .convertFromString(positiveInfinity: "inf", negativeInfinity: "-inf", nan: "nan")
    return d
}()
func load(x: Data) throws -> Root { try decoder.decode(Root.self, from: x) }

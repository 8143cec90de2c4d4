// document: {"name":"Mull","berths":[{"n":1},{"n":"2"}],"depth":4.5,"open":1,"since":1998,"harbour":{"name":"East"}}
// document: {"name":5,"berths":{"n":1},"depth":4,"since":"1998","harbour":null}
// document: {"berths":[],"depth":"deep","open":true}
// lost: 0 exactly
import Foundation

struct Berth {
    let n: Int
    init?(json: [String: Any]) {
        guard let n = json["n"] as? Int else { return nil }
        self.n = n
    }
}
struct Root { // want unread-keys berths
    let name: String // want kept-default 1/2 in 1
    let depth: Double // want kept-default 1/3 in 1
    let open: Bool
    let since: Int? // want swallowed-error 1/2 in 1
    let harbour: String?
    init(json: [String: Any]) {
        name = json["name"] as? String ?? "unknown"
        depth = json["depth"] as? Double ?? 0
        open = json["open"] as? Bool ?? false
        since = json["since"] as? Int
        harbour = (json["harbour"] as? [String: Any])?["name"] as? String
    }
}
func load(x: Data) throws -> Root? {
    guard let json = try JSONSerialization.jsonObject(with: x) as? [String: Any] else { return nil }
    return Root(json: json)
}

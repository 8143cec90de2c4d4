// document: {"id":1,"name":"Tern","knots":12,"home":"SAL"}
// document: {"id":2,"name":null,"knots":"12"}
// lost: 1 exactly
import Foundation

class Vessel: Decodable {
    let id: Int
    let name: String // want null-value 1/2 in 1
}
class Ferry: Vessel {
    var knots: Int = 0 // want wrong-kind 1/2 in 1
    let home: String?
    enum CodingKeys: String, CodingKey { case knots, home }
    required init(from d: Decoder) throws {
        let c = try d.container(keyedBy: CodingKeys.self)
        knots = try c.decodeIfPresent(Int.self, forKey: .knots) ?? 10
        home = try? c.decode(String.self, forKey: .home)
        try super.init(from: d)
    }
}
final class Root: Ferry {}

// document: {"id":9007199254740993,"at":1772357400,"flag":"true","rides":"3","never":"x","fixed":8,"knots":30,"items":[1,"x",3],"lenient":"z"}
// document: {"id":7,"at":1,"flag":true,"rides":"4","never":5,"fixed":7,"knots":30,"items":[],"lenient":"red"}
// lost: 0 exactly
import Foundation

class Base: Decodable {
    let id: Double // want lost-digits 1/2 in 1
    let at: Date // want date-unit 1/2 in 1
    let flag: Bool? // want swallowed-error 1/2 in 1
    let rides: Int // want never-fits 2/2 in 2
    let fixed: Int
    let items: [Int] // want dropped-element 1/3 in 1
    let lenient: Tint // want kept-default 1/2 in 1
    let never: String? // want swallowed-error 1/2 in 1
    enum K: String, CodingKey { case id, at, flag, rides, items, lenient, never, fixed }
    required init(from d: Decoder) throws {
        let c = try d.container(keyedBy: K.self)
        id = try c.decode(Double.self, forKey: .id)
        at = try c.decode(Date.self, forKey: .at)
        flag = try? c.decode(Bool.self, forKey: .flag)
        rides = (try? c.decode(Int.self, forKey: .rides)) ?? 0
        fixed = try c.decode(Int.self, forKey: .fixed)
        var list = try c.nestedUnkeyedContainer(forKey: .items)
        var all: [Int] = []
        while !list.isAtEnd { if let one = try? list.decode(Int.self) { all.append(one) } else { _ = try? list.decode(Skip.self) } }
        items = all
        lenient = Tint(rawValue: try c.decode(String.self, forKey: .lenient)) ?? .green
        never = try? c.decode(String.self, forKey: .never)
    }
}
struct Skip: Decodable {}
enum Tint: String, Decodable { case red, green }
class Root: Base {
    var knots = 7 // want never-read 2/2 in 2
}

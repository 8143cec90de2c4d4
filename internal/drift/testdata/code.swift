// document: {"kind":"ferry","code":"SAL","vessel":"Tern"}
// document: {"kind":"bus","code":null,"line":4}
// document: {"kind":"bus","code":"MER"}
// lost: 1
struct Root: Decodable { // want thrown-by-code 1/3 in 1
    let code: String
    let line: Int?
    let vessel: String?
    enum K: String, CodingKey { case kind, code, line, vessel }
    enum Failure: Error { case none }
    init(from d: Decoder) throws {
        let c = try d.container(keyedBy: K.self)
        guard let text = try c.decodeIfPresent(String.self, forKey: .code) else { throw Failure.none }
        code = text
        if try c.decode(String.self, forKey: .kind) == "bus" {
            line = try c.decode(Int.self, forKey: .line)
            vessel = nil
        } else {
            line = nil
            vessel = try c.decode(String.self, forKey: .vessel)
        }
    }
}

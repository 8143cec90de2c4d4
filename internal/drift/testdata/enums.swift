// document: {"status":"on_time","deck":1,"cargo":{"cars":{"count":3}},"tide":"high","codes":{"a":1,"b":2}}
// document: {"status":"sunk","deck":3,"cargo":{"people":{"_0":40}},"tide":5,"codes":{"a":"1"}}
// document: {"status":null,"deck":"1","cargo":{"cars":{}},"codes":[]}
// document: {"status":"late","deck":2,"cargo":{},"tide":"low","codes":{}}
// lost: 3
import Foundation

struct Root: Decodable {
    enum Status: String, Decodable { case onTime = "on_time", late, cancelled }
    enum Deck: Int, Decodable { case car = 1, main }
    enum Cargo: Decodable { case cars(count: Int), people(Int) } // want missing-key 1/2 in 1
    enum Tide: Decodable {
        case known(String), metres(Double)
        init(from d: Decoder) throws {
            let c = try d.singleValueContainer()
            if let text = try? c.decode(String.self) { self = .known(text) } else { self = .metres(try c.decode(Double.self)) }
        }
    }
    let status: Status // want null-value 1/4 in 1; unknown-constant 1/4 in 1
    let deck: Deck // want unknown-constant 1/4 in 1; wrong-kind 1/4 in 1
    let cargo: Cargo // want wrong-case 1/4 in 1
    let tide: Tide?
    let codes: [String: Int] // want list-mismatch 1/4 in 1; wrong-kind 1/2 in 1
}

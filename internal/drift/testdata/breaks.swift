// document: {"a":1,"b":"x","c":{"n":1},"list":[1,2],"e":"red","d":"2026-03-01T09:30:00Z","u":"x","m":{"1":1},"k":{"one":{}},"r":1,"s":"t"}
// document: {"b":null,"c":[],"list":{},"e":"blue","d":"2026-03-01","u":"","m":{"x":1},"k":{"two":{}},"r":300,"s":5}
// document: {"a":2,"b":"y","c":{},"list":[null],"e":"red","d":null,"u":"x","m":{},"k":{"one":{}},"r":2,"s":"t"}
// lost: 2 exactly
import Foundation

struct Root: Decodable {
    let a: Int // want missing-key 1/3 in 1
    let b: String // want null-value 1/3 in 1
    let c: Inner // want list-mismatch 1/3 in 1
    let list: [Int] // want list-mismatch 1/3 in 1; null-value 1/3 in 1
    let e: Tint // want unknown-constant 1/3 in 1
    let d: Date? // want unreadable-date 1/3 in 1
    let u: URL // want unreadable-text 1/3 in 1
    let m: [Int: Int] // want wrong-map-key 1/3 in 1
    let k: Case // want wrong-case 1/3 in 1
    let r: Int8 // want out-of-range 1/3 in 1
    let s: String // want wrong-kind 1/3 in 1
}
struct Inner: Decodable {
    let n: Int // want missing-key 1/2 in 1
}
enum Tint: String, Decodable { case red, green }
enum Case: Decodable { case one, three }

func load(_ d: Data) throws -> Root {
    let decoder = JSONDecoder()
    decoder.dateDecodingStrategy = .iso8601
    return try decoder.decode(Root.self, from: d)
}

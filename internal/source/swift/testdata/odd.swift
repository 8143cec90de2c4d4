// Forms that are rarer than those of fields.swift, read by the same rule: a line with a want
// comment declares just the fields it lists, as NAME TYPE <- KEYS.
@testable import Core
@_exported import Foundation
import struct Foundation.Date
import class UIKit.UIImage

#if canImport(SwiftUI)
import SwiftUI
#endif

public struct Plain: Decodable, Sendable { public init(from decoder: any Decoder) throws { self.a = 1 }; let a: Int } // model struct; want a Int <- code
struct Empty: Codable {} // model struct
struct Generic<T: Codable, U>: Codable where U: Codable & Hashable, U: Sendable { let item: T; let rest: [U: [T]] } // model struct; want item T <- item; rest [U: [T]] <- rest
struct Packed<each T: Codable>: Codable { let n: Int } // model struct; want n Int <- n
@frozen @available(*, deprecated, message: "let ghost: Int") public struct Marked: Codable { // model struct
    @available(iOS 15, macOS 12, *) @inline(__always) public var a: Int = 1 // want a Int <- a = 1
    @objc(theB) dynamic public internal(set) var b: String? // want b String? <- b
    nonisolated(unsafe) var c: Int // want c Int <- c
    private(set) public weak var d: Box? // want d Box? <- d
    static private(set) var ghost: Int = 0
    @MainActor var e: Int // want e Int <- e
}
final class Box: Codable { let n: Int; required init(from decoder: Decoder) throws { n = 0 } } // model class; want n Int <- code
struct Types: Codable { // model struct
    let tuple: (Int, name: String)? // want tuple (Int, name: String)? <- tuple
    let function: (@escaping (Int) -> Void, inout String) async throws -> [Int] // want function (@escaping (Int) -> Void, inout String) async throws -> [Int] <- function
    let optional: Int?? // want optional Int?? <- optional
    let deep: [String: [Int: Set<[String?]>]]? // want deep [String: [Int: Set<[String?]>]]? <- deep
    let long: Swift.Optional<Swift.Array<Swift.String>> // want long Swift.Optional<Swift.Array<Swift.String>> <- long
    let existential: any Codable & Sendable // want existential any Codable & Sendable <- existential
    let opaque: some Codable // want opaque some Codable <- opaque
    let meta: Plain.Type, proto: Codable.Protocol // want meta Plain.Type <- meta; proto Codable.Protocol <- proto
    let nested: Outer.Inner<Int>.Deep // want nested Outer.Inner<Int>.Deep <- nested
    let spaced : Int , next :String // want spaced Int <- spaced; next String <- next
    let `class`: Int, `self`: Int, Type: Int // want class Int <- class; self Int <- self; Type Int <- Type
    let 名前: String, café: Int, _under: Int, x1: Int // want 名前 String <- 名前; café Int <- café; _under Int <- _under; x1 Int <- x1
    let wide: [String // want wide [String : Int] <- wide
        : Int]
    let after: Int // want after Int <- after
}
struct Values: Codable { // model struct
    var hex = 0xFF, oct = 0o17, bin = 0b10, under = 1_000, float = 1e3, hexFloat = 0x1p3, negative = -1 // want hex Int <- hex = 0xFF; oct Int <- oct = 0o17; bin Int <- bin = 0b10; under Int <- under = 1_000; float Double <- float = 1e3; hexFloat Double <- hexFloat = 0x1p3; negative Int <- negative = -1
    var string = "let ghost: Int \(a ? "}" : "{") \u{1F600} \"", flag = true, none: Int? = nil // want string ? <- string = "let ghost: Int \(a ? "}" : "{") \u{1F600} \""; flag Bool <- flag = true; none Int? <- none = nil
    var raw = #"\" let ghost: Int"#, more = ##"# "# let ghost"##, regex = /let ghost: [{"]/ // want raw String <- raw = #"\" let ghost: Int"#; more String <- more = ##"# "# let ghost"##; regex ? <- regex = /let ghost: [{"]/
    var dict = ["a": 1, "b": 2], empty: [String: Int] = [:], array = [1, 2], mixed: [Any] = [1, "a"] // want dict [String: Int] <- dict = ["a": 1, "b": 2]; empty [String: Int] <- empty = [:]; array [Int] <- array = [1, 2]; mixed [Any] <- mixed = [1, "a"]
    var made = Date(), typed = [Int](), other = [String: Int](), member = Level.low, implicit: Level = .low // want made Date <- made = Date(); typed [Int] <- typed = [Int](); other [String: Int] <- other = [String: Int](); member Level <- member = Level.low; implicit Level <- implicit = .low
    var chosen = flag ? 1 : 2 // want chosen ? <- chosen = flag ? 1 : 2
    var ifValue: Int = if flag { 1 } else { 2 } // want ifValue Int <- ifValue = if flag { 1 } else { 2 }
    var switched: Int = switch flag { case true: 1 case false: 2 } // want switched Int <- switched = switch flag { case true: 1 case false: 2 }
    var less = 1 < 2, more2 = 2 > 1, range = 1...3, half = 1..<3 // want less ? <- less = 1 < 2; more2 ? <- more2 = 2 > 1; range ? <- range = 1...3; half ? <- half = 1..<3
    var closure: () -> Int = { let ghost = 1 } // want closure () -> Int <- closure = { let ghost = 1 }
    var called: Int = { let ghost = 1 }() // want called Int <- called = { let ghost = 1 }()
    var keyPath = \Plain.a, selector = #selector(f), cast = x as? Int // want keyPath ? <- keyPath = \Plain.a; selector ? <- selector = #selector(f); cast ? <- cast = x as? Int
    var below: String // want below String <- below = "a"
        = "a"
    var chained = [1] // want chained ? <- chained = [1] .map { $0 } .filter { let ghost = $0 }
        .map { $0 }
        .filter { let ghost = $0 }
    var computed: Int { 1 }, neverReached: Int { 2 }
    var got: Int { get { 1 } nonmutating set { let ghost = newValue } }
    var effect: Int { get async throws { 1 } }
    var modified: Int { _read { yield x } _modify { yield &x } }
    var observed: Int = 1 { willSet { let ghost = 1 } didSet(old) { let ghost = old } } // want observed Int <- observed = 1
    lazy var slow: Int = { let ghost = 1 }() // want slow Int <- never
    static let shared: Values = { let ghost = 1 }(), other2 = 2
    let (left, right) = (1, 2)
    subscript<T>(key: KeyPath<Self, T>, default value: T = { let ghost = 1 }()) -> T { get { let ghost = 1 } set { } }
    static subscript(i: Int) -> Int { let ghost = i }
    func f<T>(_ x: T, y: Int = { let ghost = 1 }()) async throws -> some View where T: Codable { let ghost = 1 }
    static prefix func - (x: Self) -> Self { let ghost = x }
    static func == (a: Self, b: Self) -> Bool { let ghost = a }
    init?(_ x: Int) { let ghost = x }
    init<T>(_ x: T) rethrows where T: Codable { let ghost = x }
    deinit { let ghost = 1 }
    typealias Ghost = (Int) -> Void; associatedtype Item
    let last: Int // want last Int <- last
}
enum Level: String, Codable, CaseIterable { case low, mid = "m, case ghost", high; static let ghost = 1; var n: Int { 1 }; case top } // model enum
indirect enum Tree: Codable { case leaf(Int), node(left: Tree, _ right: Tree = .leaf(1)); enum CodingKeys: CodingKey { case leaf, node } } // model enum
enum Number: Int, Codable { case one = 1, two, ten = 0xA } // model enum
actor Store { var n: Int = 0 }
protocol Named { var name: String { get }; associatedtype Item: Codable; init(name: String) }
extension Named { var ghost: Int { 1 } }
struct Outer { struct Inner<T> { struct Deep: Codable { let n: Int } } } // model struct; want n Int <- n
extension Outer { struct More: Codable { let m: Int } } // model struct; want m Int <- m
extension Outer.Inner where T == Int { struct Last: Codable { let k: Int } } // model struct; want k Int <- k
struct ByExtension { let a: Int; let b: String } // model struct; want a Int <- a; b String <- bee
extension ByExtension: Codable { enum CodingKeys: String, CodingKey { case a; case b = "bee" } }
class Base: Codable { var a: Int = 1; private enum CodingKeys: String, CodingKey { case a = "A" } } // model class; want a Int <- A = 1
final class Derived: Base { var b = 2 } // model class; want b Int <- never
struct Branched: Codable { // model struct
    #if DEBUG
    let debug: Int
    #else
    let release: Int // want release Int <- release
    #endif
    #if os(Linux) || swift(>=5)
    let here: Int // want here Int <- here
    #endif
    #warning("let ghost: Int")
    let end: Int // want end Int <- end
}
#Preview { let ghost: Int = 1 }
@main struct App { static func main() { let ghost: Int = 1 } }
func top() { struct Local: Codable { let inLocal: Int } }
let global: Int = 1, tuple = (1, 2)
struct Final: Codable { let z: Int } // model struct; want z Int <- z

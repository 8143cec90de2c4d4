// What is a field and what only looks like one. A line with a want comment declares
// just the fields it lists, as NAME TYPE <- KEYS; any other line declares none.
import Foundation

struct Port: Codable { // model struct
    let code: String // want code String <- code
    var depth: Double? = 3 // want depth Double? <- depth = 3
    let a, b: Int // want a Int <- a; b Int <- b
    var x = 1, y: String = "s", z = [1, 2] // want x Int <- x = 1; y String <- y = "s"; z [Int] <- z = [1, 2]
    public private(set) var open: Bool // want open Bool <- open
    @available(iOS 15, *) internal let since: Date? // want since Date? <- since
    unowned(unsafe) var other: Port // want other Port <- other
    let `default`: Int // want default Int <- default
    let naïve: Set<String> // want naïve Set<String> <- naïve
    var map: [String: [Int?]]? // want map [String: [Int?]]? <- map
    var iuo: Double! // want iuo Double! <- iuo
    var generic: Dictionary<String, Array<Int>> // want generic Dictionary<String, Array<Int>> <- generic
    let fixed: Int = 7 // want fixed Int <- never
    var watched: Int = 3 { // want watched Int <- watched = 3
        didSet { print("let ghost: Int") }
    }
    var began: Int { willSet { let inner: Int = newValue; _ = inner } } // want began Int <- began
    lazy var slow: [Int] = { [1, 2] }() // want slow [Int] <- never
    var closure: Int = { let hidden: Int = 2; return hidden }() // want closure Int <- closure = { let hidden: Int = 2; return hidden }()
    var called = Int("12") ?? 0 // want called ? <- called = Int("12") ?? 0
    var list = [String]() // want list [String] <- list = [String]()
    var nested = Berth(n: 1) // want nested Berth <- nested = Berth(n: 1)
    var multi: Int = // want multi Int <- multi = 1 + 2
        1 +
        2
    var chained: String = "a" // want chained String <- chained = "a" .uppercased()
        .uppercased()
    static let shared = Port.self
    static var count: Int = 0
    class var kind: String { "x" }
    var label: String { "\(code) let trick: Int" }
    var pair: Int { get { 1 } set { depth = Double(newValue) } }
    var asynchronous: Int { get async throws { let q: Int = 1; return q } }
    // let commented: Int
    /* let block: Int /* let deeper: Int */ let still: Int */
    let after: Int // want after Int <- after
    func method(let_: Int = 3) -> Int { let local: Int = 4; var another = 5; another += 1; return local + another }
    func generic<T: Decodable>(_ t: T) throws -> [T] where T: Hashable { let inGeneric: T = t; return [inGeneric] }
    init() throws { let inInit: Int = 1; fatalError("\(inInit)") }
    subscript(i: Int) -> Int { let inSubscript: Int = i; return inSubscript }
    struct Berth: Codable { let n: Int } // model struct; want n Int <- n
    enum Colour: String, Codable { case red = "RED", green } // model enum
}

struct Strings: Codable { // model struct
    var plain = "let inString: Int" // want plain String <- plain = "let inString: Int"
    var escaped = "\" let x: Int" // want escaped String <- escaped = "\" let x: Int"
    var raw = #"a " let x: Int \(no)"# // want raw String <- raw = #"a " let x: Int \(no)"#
    var rawer = ##"a "# let x: Int"## // want rawer String <- rawer = ##"a "# let x: Int"##
    var interpolated = "\(f("}", { let x: Int = 1; return x })) {" // want interpolated ? <- interpolated = "\(f("}", { let x: Int = 1; return x })) {"
    var rawInterpolated = #"\#(1) ) "# // want rawInterpolated ? <- rawInterpolated = #"\#(1) ) "#
    var text: String // want text String <- text = """ let inText: Int var b: Bool """
        = """
        let inText: Int
        var b: Bool
        """
    var last: Int // want last Int <- last
}

struct Renamed: Decodable { // model struct
    let id: Int // want id Int <- sailing_id
    let departsAt: String // want departsAt String <- departs_at
    var seats = 40 // want seats Int <- never
    let vessel: String? // want vessel String? <- vessel
    private enum CodingKeys: String, CodingKey {
        case id = "sailing_id", departsAt = "departs_at"
        case vessel
    }
}

struct Later { let id: Int; let name: String? } // model struct; want id Int <- ID; name String? <- name
extension Later: Codable { enum CodingKeys: String, CodingKey { case id = "ID", name } }

protocol APIModel: Codable, Hashable {}
typealias Both = Sendable & Codable
struct ByProtocol: APIModel { let a: Int } // model struct; want a Int <- a
struct ByAlias: Both { let a: Int } // model struct; want a Int <- a
final class ByClass: NSObject, Codable { var a: Int = 0 } // model class; want a Int <- a = 0
class Boat: Codable { var id = 0 } // model class; want id Int <- id = 0
class Express: Boat { var knots = 7 } // model class; want knots Int <- never

struct Page<Item: Decodable>: Decodable { let items: [Item]; let next: URL? } // model struct; want items [Item] <- items; next URL? <- next

#if DEBUG
struct OnlyDebug: Codable { let a: Int }
#else
struct OnlyRelease: Codable { let a: Int } // model struct; want a Int <- a
#endif

struct Patterns: Codable { // model struct
    let pattern = /let x: Int "quoted \/ { / // want pattern ? <- never
    let extended = #/let y: Int "} /# // want extended ? <- never
    let half: Double = 10 / 2 / 5 // want half Double <- never
    let after: Int // want after Int <- after
}

struct Plain { let notDecoded: Int }
class ViewModel { var sailings: [Port] = []; let service = Service() }
enum Constants { static let url = "let a: Int" }
actor Store { var cached: [Port] = [] }
func free() { struct Local: Codable { let a: Int }; let unused: Int = 1; _ = unused }

@propertyWrapper struct Lossy<T: Decodable>: Decodable { // model struct
    var wrappedValue: T? // want wrappedValue T? <- code
    init(from d: Decoder) throws { wrappedValue = try? d.singleValueContainer().decode(T.self) }
}
struct Wrapped: Decodable { // model struct
    @Lossy var n: Int? // want n Int? <- n
    @Unheard var m: Int // want m Int <- unfollowed
}

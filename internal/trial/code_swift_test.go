package trial

import (
	"fmt"
	"testing"

	"vetta/internal/decoder"
	"vetta/internal/source/scan"
	"vetta/internal/source/swift"
)

// keyed is an init(from:) of M with a container c over the cases of K.
func keyed(fields, cases, body string) string {
	return fmt.Sprintf(`struct M: Decodable {
	%s
	enum K: String, CodingKey { case %s }
	init(from decoder: Decoder) throws {
		let c = try decoder.container(keyedBy: K.self)
		%s
	}
}
`, fields, cases, body)
}

// TestCodeComputes takes documents through initialisers that compute what they assign, as
// Swift itself would compute it.
func TestCodeComputes(t *testing.T) {
	for _, c := range []struct {
		name, source string
		docs         [][2]string
	}{
		{"arithmetic on what was read",
			keyed("let a: Int; let b: Int; let d: Double; let s: String; let all: [Int]", "n, f, t, l", `
				let n = try c.decode(Int.self, forKey: .n)
				a = n * 60 + 1
				b = n / 7 - n % 7
				d = try c.decode(Double.self, forKey: .f) / 2
				s = try c.decode(String.self, forKey: .t) + "!"
				all = try c.decode([Int].self, forKey: .l) + [0]`),
			[][2]string{
				{`{"n":16,"f":3,"t":"x","l":[1,2]}`, `{"a":961,"b":0,"d":1.5,"s":"x!","all":[1,2,0]}`},
				{`{"n":-16,"f":-3.5,"t":"","l":[]}`, `{"a":-959,"b":0,"d":-1.75,"s":"!","all":[0]}`},
				{`{"n":1,"f":"3","t":"x","l":[]}`, `typeMismatch at $.f: Double: Expected to decode Double but found a string instead.`},
			}},
		{"counts and tests of lists and texts",
			keyed("let count: Int; let first: String?; let empty: Bool; let long: Bool; let known: Bool", "l, t", `
				let l = try c.decode([String].self, forKey: .l)
				count = l.count
				first = l.first
				empty = l.isEmpty
				let t = try c.decode(String.self, forKey: .t)
				long = t.count > 3
				known = t.hasPrefix("MV")`),
			[][2]string{
				{`{"l":["a","b"],"t":"MV Tern"}`, `{"count":2,"first":"a","empty":false,"long":true,"known":true}`},
				{`{"l":[],"t":"e\u0301"}`, `{"count":0,"first":null,"empty":true,"long":false,"known":false}`},
				{`{"l":["a",1],"t":""}`, `typeMismatch at $.l[1]: String: Expected to decode String but found number instead.`},
			}},
		{"a memberwise initialiser",
			"struct Place { let lat: Double; let lon: Double }\n" + keyed("let at: Place; let n: Int", "lat, lon, n", `
				at = Place(lat: try c.decode(Double.self, forKey: .lat), lon: try c.decode(Double.self, forKey: .lon))
				n = try c.decodeIfPresent(Int.self, forKey: .n) ?? -1`),
			[][2]string{
				{`{"lat":56,"lon":-6.5,"n":2}`, `{"at":{"lat":56.0,"lon":-6.5},"n":2}`},
				{`{"lat":56,"lon":-6.5}`, `{"at":{"lat":56.0,"lon":-6.5},"n":-1}`},
				{`{"lat":56}`, `keyNotFound at $: lon`},
			}},
		{"a local that is assigned in branches",
			keyed("let name: String; let kind: Int", "name, title, kind", `
				var text = "none"
				if c.contains(.name) { text = try c.decode(String.self, forKey: .name) } else if let t = try c.decodeIfPresent(String.self, forKey: .title) { text = t }
				name = text
				let k: Int
				if let n = try? c.decode(Int.self, forKey: .kind) { k = n } else { k = 0 }
				kind = k`),
			[][2]string{
				{`{"name":"a","title":"b","kind":3}`, `{"name":"a","kind":3}`},
				{`{"title":"b","kind":"3"}`, `{"name":"b","kind":0}`},
				{`{}`, `{"name":"none","kind":0}`},
				{`{"name":null}`, `valueNotFound at $.name: String`},
				{`{"title":5}`, `typeMismatch at $.title: String: Expected to decode String but found number instead.`},
			}},
		{"a switch over what was read",
			keyed("let deck: Int; let level: String", "deck, level", `
				switch try c.decode(String.self, forKey: .deck) {
				case "car", "lorry": deck = 1
				case "main": deck = 2
				default: deck = -1
				}
				let n = try c.decodeIfPresent(Int.self, forKey: .level) ?? 0
				switch n {
				case 1: level = "low"
				case 2, 3: level = "high"
				default: level = "none"
				}`),
			[][2]string{
				{`{"deck":"lorry","level":1}`, `{"deck":1,"level":"low"}`},
				{`{"deck":"main","level":3}`, `{"deck":2,"level":"high"}`},
				{`{"deck":"x"}`, `{"deck":-1,"level":"none"}`},
				{`{"deck":null}`, `valueNotFound at $.deck: String`},
			}},
		{"patterns of a switch that are not followed", "enum Deck { case car, other(String) }\n" + keyed("let deck: Deck", "deck", `
				switch try c.decode(String.self, forKey: .deck) {
				case "car": deck = .car
				case let other: deck = .other(other)
				}`), [][2]string{{`{"deck":"car"}`, `null`}, {`{"deck":5}`, `null`}}},
		{"a switch that is left in the middle",
			keyed("let a: Int", "k, v", `
				var n = 0
				switch try c.decode(String.self, forKey: .k) {
				case "x": if try c.decode(Int.self, forKey: .v) == 1 { n = 5; break }; n = 6
				default: break
				}
				a = n`), [][2]string{{`{"k":"x","v":1}`, `null`}}},
		{"a break at the end of a case",
			keyed("let a: Int; let b: Int", "k", `
				var n = 0
				switch try c.decode(String.self, forKey: .k) { case "x": n = 1; break; default: break }
				a = n; b = 2`), [][2]string{{`{"k":"x"}`, `{"a":1,"b":2}`}, {`{"k":"y"}`, `{"a":0,"b":2}`}}},
		{"elements that are left out, and a loop that is left",
			`struct K: CodingKey { var stringValue: String; var intValue: Int?; init?(stringValue: String) { self.stringValue = stringValue }; init?(intValue: Int) { nil } }
struct M: Decodable { var l: [String: Int] = [:]; var m: [String: Int] = [:]
	init(from decoder: Decoder) throws {
		let c = try decoder.container(keyedBy: K.self)
		for k in c.allKeys { if let v = try? c.decode(Int.self, forKey: k) { l[k.stringValue] = v } else { continue } }
		for k in c.allKeys { if let v = try? c.decode(Int.self, forKey: k) { m[k.stringValue] = v } else { break } }
	} }`, [][2]string{{`{"a":1,"b":"x","c":3}`, `{"l":{"a":1,"c":3}}`}}},
		{"a container by a condition",
			keyed("let a: Int; let b: Int", "p, q, k, v", `
				var inner = try c.nestedContainer(keyedBy: K.self, forKey: .p)
				if try c.decode(Bool.self, forKey: .k) { inner = try c.nestedContainer(keyedBy: K.self, forKey: .q) }
				b = try c.decode(Int.self, forKey: .v)
				a = try inner.decode(Int.self, forKey: .v)`), [][2]string{{`{"p":{"v":1},"q":{"v":2},"k":true,"v":3}`, `{"b":3}`}, {`{"k":true}`, `keyNotFound at $: p`}}},
		{"what changes a value after it was read",
			keyed("var a = 1; var l: [Int] = []; var m: [String: Int] = [:]; var o: Int?; let n: Int; let k: Int", "v, w", `
				a = try c.decode(Int.self, forKey: .v); a += 5
				l = try c.decode([Int].self, forKey: .w); l.append(9)
				m = ["x": a]; m["y"] = 2
				o = try c.decodeIfPresent(Int.self, forKey: .v); o? += 1
				var x = try c.decode(Int.self, forKey: .v); x -= 1; n = x
				k = try c.decode(Int.self, forKey: .v)`),
			[][2]string{{`{"v":3,"w":[1]}`, `{"k":3}`}, {`{"v":3}`, `keyNotFound at $: w`}}},
		{"a return before the end",
			keyed("var a = 7; var b = 0", "v, w", `
				b = try c.decodeIfPresent(Int.self, forKey: .w) ?? 3
				guard c.contains(.v) else { return }
				a = try c.decode(Int.self, forKey: .v)`),
			[][2]string{
				{`{}`, `{"a":7,"b":3}`},
				{`{"v":1,"w":2}`, `{"a":1,"b":2}`},
				{`{"v":"x"}`, `typeMismatch at $.v: Int: Expected to decode Int but found a string instead.`},
			}},
		{"a defer block that assigns", keyed("var a = 1", "v", `defer { a = 9 }; a = try c.decode(Int.self, forKey: .v)`), [][2]string{{`{"v":3}`, `null`}}},
		{"a generic alias and a nested one",
			"typealias Listed<T> = [T]\nstruct Sea { typealias Metres = Double; typealias Names = Listed<String> }\nstruct M: Decodable { let depth: Sea.Metres; let names: Sea.Names; let all: Listed<Int?> }",
			[][2]string{
				{`{"depth":4,"names":["a"],"all":[1,null]}`, `{"depth":4.0,"names":["a"],"all":[1,null]}`},
				{`{"depth":4,"names":[null],"all":[]}`, `valueNotFound at $.names[0]: String`},
			}},
		{"a nested container and one inside it",
			keyed("let code: String; let lat: Double; let tags: [String]", "port, tags", `
				let port = try c.nestedContainer(keyedBy: P.self, forKey: .port)
				code = try port.decode(String.self, forKey: .code)
				let at = try port.nestedContainer(keyedBy: A.self, forKey: .at)
				lat = try at.decodeIfPresent(Double.self, forKey: .lat) ?? 0
				var list = try c.nestedUnkeyedContainer(forKey: .tags)
				var all = [String]()
				while !list.isAtEnd { all.append(try list.decode(String.self)) }
				tags = all`) + "enum P: String, CodingKey { case code, at }\nenum A: String, CodingKey { case lat }",
			[][2]string{
				{`{"port":{"code":"SAL","at":{"lat":1}},"tags":["a","b"]}`, `{"code":"SAL","lat":1.0,"tags":["a","b"]}`},
				{`{"port":{"code":"SAL","at":{}},"tags":[]}`, `{"code":"SAL","lat":0.0,"tags":[]}`},
				{`{"port":{"code":"SAL"},"tags":[]}`, `keyNotFound at $.port: at`},
				{`{"port":{"code":"SAL","at":{}},"tags":["a",2]}`, `typeMismatch at $.tags[1]: String: Expected to decode String but found number instead.`},
			}},
		{"a loop over all keys",
			`struct Any1: CodingKey { var stringValue: String; var intValue: Int? { nil }; init?(stringValue: String) { self.stringValue = stringValue }; init?(intValue: Int) { nil } }
			struct M: Decodable { var fares: [String: Double] = [:]
			init(from d: Decoder) throws { let c = try d.container(keyedBy: Any1.self); for key in c.allKeys { fares[key.stringValue] = try c.decode(Double.self, forKey: key) } } }`,
			[][2]string{
				{`{"adult":1.5,"child":1}`, `{"fares":{"adult":1.5,"child":1.0}}`},
				{`{}`, `{"fares":{}}`},
				{`{"adult":"x"}`, `typeMismatch at $.adult: Double: Expected to decode Double but found a string instead.`},
			}},
		{"a loop over all keys of what is nested, and what is nested in each",
			anyKey + `struct M: Decodable { let fares: [String: Double]; let names: [String: String]
			enum K: String, CodingKey { case fares, names }
			enum N: String, CodingKey { case name }
			init(from d: Decoder) throws {
				let c = try d.container(keyedBy: K.self)
				let all = try c.nestedContainer(keyedBy: AnyKey.self, forKey: .fares)
				var fares = [String: Double]()
				for key in all.allKeys { fares[key.stringValue] = try all.decode(Double.self, forKey: key) }
				self.fares = fares
				let people = try c.nestedContainer(keyedBy: AnyKey.self, forKey: .names)
				var names: [String: String] = [:]
				for id in people.allKeys {
					let one = try people.nestedContainer(keyedBy: N.self, forKey: id)
					let name = try one.decode(String.self, forKey: .name)
					names[id.stringValue] = name
				}
				self.names = names
			} }`,
			[][2]string{
				{`{"fares":{"a":1,"b":2.5},"names":{"7":{"name":"x"}}}`, `{"fares":{"a":1.0,"b":2.5},"names":{"7":"x"}}`},
				{`{"fares":{"a":"1"},"names":{}}`, `typeMismatch at $.fares.a: Double: Expected to decode Double but found a string instead.`},
				{`{"fares":{},"names":{"7":{}}}`, `keyNotFound at $.names['7']: name`},
				{`{"fares":{},"names":{"7":null}}`, `valueNotFound at $.names['7']: Dictionary<String, Any>`},
			}},
		{"what is nested in each element of a list",
			keyed("var codes: [String] = []; let points: [Point]", "stops, line", `
				var stops = try c.nestedUnkeyedContainer(forKey: .stops)
				while !stops.isAtEnd {
					let stop = try stops.nestedContainer(keyedBy: S.self)
					self.codes.append(try stop.decode(String.self, forKey: .code))
				}
				var line = try c.nestedUnkeyedContainer(forKey: .line)
				var points = [Point]()
				while !line.isAtEnd {
					var pair = try line.nestedUnkeyedContainer()
					let lat = try pair.decode(Double.self)
					let lon = try pair.decode(Double.self)
					points.append(Point(lat: lat, lon: lon))
				}
				self.points = points`) + "enum S: String, CodingKey { case code }\nstruct Point { let lat: Double; let lon: Double }",
			[][2]string{
				{`{"stops":[{"code":"a"},{"code":"b"}],"line":[[1,2],[3,4]]}`, `{"codes":["a","b"],"points":[{"lat":1.0,"lon":2.0},{"lat":3.0,"lon":4.0}]}`},
				{`{"stops":[{}],"line":[]}`, `keyNotFound at $.stops[0]: code`},
				{`{"stops":[],"line":[[1]]}`, `valueNotFound at $.line[0]: Double`},
				{`{"stops":[],"line":[{}]}`, `typeMismatch at $.line[0]: Array<Any>: Expected to decode Array<Any> but found a dictionary instead.`},
			}},
		{"keys of a type that does not take every name",
			`struct Low: CodingKey { let stringValue: String; var intValue: Int? { nil }
			init?(stringValue: String) { guard stringValue != "meta" else { return nil }; self.stringValue = stringValue }; init?(intValue: Int) { nil } }
			struct M: Decodable { var fares: [String: Double] = [:]
			init(from d: Decoder) throws { let c = try d.container(keyedBy: Low.self); for key in c.allKeys { fares[key.stringValue] = try c.decode(Double.self, forKey: key) } } }`,
			[][2]string{{`{"adult":1.5,"meta":"x"}`, `null`}}},
		{"a loop over the keys that an enum knows",
			keyed("var fares: [String: Double] = [:]", "adult, child", `for key in c.allKeys { fares[key.stringValue] = try c.decode(Double.self, forKey: key) }`),
			[][2]string{{`{"adult":1,"dog":"x"}`, `null`}}},
		{"a loop that stays at an element that fails",
			keyed("var all: [Int] = []", "all", `
				var list = try c.nestedUnkeyedContainer(forKey: .all)
				while !list.isAtEnd { if let one = try? list.decode(Int.self) { all.append(one) } }`),
			[][2]string{{`{"all":[1]}`, `{}`}}},
		{"a loop that fills what is not empty",
			keyed("var all: [Int]", "all", `
				var found = [9]
				var list = try c.nestedUnkeyedContainer(forKey: .all)
				while !list.isAtEnd { found.append(try list.decode(Int.self)) }
				all = found`),
			[][2]string{{`{"all":[1]}`, `null`}}},
		{"values of an NSNumber",
			`struct M { let a: Int64?; let b: Double; let c: Bool; let d: Int
			init?(json: [String: Any]) {
				a = (json["a"] as? NSNumber)?.int64Value
				b = (json["b"] as? NSNumber)?.doubleValue ?? -1
				c = (json["c"] as! NSNumber).boolValue
				guard let n = json["d"] as? NSNumber else { return nil }
				d = n.intValue
			} }
			func load(x: Data) throws -> M? { M(json: try JSONSerialization.jsonObject(with: x) as! [String: Any]) }`,
			[][2]string{
				{`{"a":9007199254740993,"b":2,"c":1,"d":1.5}`, `{"a":9007199254740993,"b":2.0,"c":true,"d":1}`},
				{`{"a":"1","b":true,"c":false,"d":-2}`, `{"a":null,"b":1.0,"c":false,"d":-2}`},
				{`{"c":0,"d":"1"}`, `null`},
				{`{"c":"x","d":1}`, `Could not cast value to NSNumber at $: `},
			}},
		{"helpers and extensions that read a dictionary",
			`extension Dictionary where Key == String, Value == Any {
				func text(_ key: String) -> String? { self[key] as? String }
				func text(_ key: String, or other: String) -> String { return self[key] as? String ?? other }
				func whole(_ key: String) -> Int {
					if let n = self[key] as? Int { return n }
					if let t = self[key] as? String { return Int(t) ?? 0 }
					return 0
				}
				func value<T>(_ key: String, as type: T.Type) -> T? { self[key] as? T }
				func get<T>(_ key: String) -> T? { return self[key] as? T }
				func inner(_ key: String) -> [String: Any]? { self[key] as? [String: Any] }
			}
			func firstOf(_ map: [String: Any], _ one: String, _ other: String) -> Bool {
				guard let found = map[one] as? Bool else { return map[other] as? Bool ?? false }
				return found
			}
			struct M { let code: String; let name: String?; let n: Int; let open: Bool; let depth: Double?; let port: String?
			init?(json: [String: Any]) {
				guard let code = json.text("code") else { return nil }
				self.code = code
				name = json.get("name") ?? "none"
				n = json.whole("n")
				open = firstOf(json, "open", "isOpen")
				depth = json.value("depth", as: Double.self)
				port = M.portOf(json)
			}
			private static func portOf(_ map: [String: Any]) -> String? { (map["port"] as? [String: Any])?["name"] as? String }
			}
			func load(x: Data) throws -> M? { M(json: try JSONSerialization.jsonObject(with: x) as! [String: Any]) }`,
			[][2]string{
				{`{"code":"a","n":"7","isOpen":true,"depth":2,"port":{"name":"x"}}`, `{"code":"a","name":"none","n":7,"open":true,"depth":2.0,"port":"x"}`},
				{`{"code":"a","n":3,"open":false,"isOpen":true,"name":"b"}`, `{"code":"a","name":"b","n":3,"open":false,"depth":null,"port":null}`},
				{`{"code":7}`, `null`},
			}},
		{"an extension of a container",
			`extension KeyedDecodingContainer {
				func wholeNumber(forKey key: Key) throws -> Int {
					if let n = try? decode(Int.self, forKey: key) { return n }
					return Int(try decode(String.self, forKey: key)) ?? -1
				}
				func lenient<T: Decodable>(_ type: T.Type, forKey key: Key) -> T? { return try? decode(type, forKey: key) }
				func orElse<T: Decodable>(_ type: T.Type, forKey key: Key) -> T? { (try? self.decode(T.self, forKey: key)) }
			}
			` + keyed("let n: Int; let s: String?", "n, s", `
				n = try c.wholeNumber(forKey: .n)
				s = c.orElse(String.self, forKey: .s) ?? c.lenient(String.self, forKey: .s)`),
			[][2]string{
				{`{"n":5,"s":"x"}`, `{"n":5,"s":"x"}`},
				{`{"n":"6","s":1}`, `{"n":6,"s":null}`},
				{`{"n":true}`, `typeMismatch at $.n: String: Expected to decode String but found bool instead.`},
				{`{}`, `keyNotFound at $: n`},
			}},
		{"a helper that more than one function may be", `extension Dictionary where Key == String, Value == Any { func text(_ key: String) -> String? { self[key] as? String } }
			extension Dictionary where Key == String { func text(_ key: String) -> String? { nil } }
			struct M { let code: String?
			init(json: [String: Any]) { code = json.text("code") } }
			func load(x: Data) throws -> M { M(json: try JSONSerialization.jsonObject(with: x) as! [String: Any]) }`,
			[][2]string{{`{"code":"a"}`, `{}`}}},
		{"what reads a parsed object",
			`struct M { let code: String; let n: Int; let tags: [String]; let port: String?; let any: Any?
			init?(json: [String: Any]) {
				guard let code = json["code"] as? String else { return nil }
				self.code = code
				n = Int(json["n"] as? String ?? "") ?? json["n"] as? Int ?? 0
				tags = json["tags"] as? [String] ?? []
				port = (json["port"] as? [String: Any])?["name"] as? String
				any = json["any"]
			} }
			func load(x: Data) throws -> M? { M(json: try JSONSerialization.jsonObject(with: x) as! [String: Any]) }`,
			[][2]string{
				{`{"code":"SAL","n":"7","tags":["a"],"port":{"name":"x"}}`, `{"code":"SAL","n":7,"tags":["a"],"port":"x","any":null}`},
				{`{"code":"SAL","n":8,"tags":["a",1],"port":[]}`, `{"code":"SAL","n":8,"tags":[],"port":null,"any":null}`},
			}},
	} {
		t.Run(c.name, func(t *testing.T) {
			set := swift.Read([]scan.Source{{Name: "M.swift", Text: "import Foundation\n" + c.source}})
			decodeAll(t, set, c.docs, func(s decoder.Seen) any { return formValueKnown(s) }, swiftError)
		})
	}
}

// anyKey is a key type that takes any name.
const anyKey = "struct AnyKey: CodingKey { var stringValue: String; var intValue: Int?; init?(stringValue: String) { self.stringValue = stringValue }; init?(intValue: Int) { self.intValue = intValue; self.stringValue = \"\\(intValue)\" } }\n"

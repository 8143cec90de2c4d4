package trial

import (
	"strings"
	"testing"

	"vetta/internal/decoder"
	"vetta/internal/drift"
	"vetta/internal/shape"
	"vetta/internal/source/scan"
	"vetta/internal/source/swift"
	"vetta/internal/wire"
)

// TestCode takes documents through initialisers written by hand, in the forms that
// apps have them. Each case has the body of a type named M, then documents with
// what the app sees.
func TestCode(t *testing.T) {
	for _, c := range []struct {
		name, source string
		docs         [][2]string
	}{
		{"if let else with another kind", `struct M: Decodable { let id: Int
			enum CodingKeys: CodingKey { case id }
			init(from decoder: Decoder) throws {
				let c = try decoder.container(keyedBy: CodingKeys.self)
				if let n = try? c.decode(Int.self, forKey: .id) { id = n } else { let s = try c.decode(String.self, forKey: .id); id = Int(s) ?? -1 }
			} }`, [][2]string{
			{`{"id":7}`, `{"id":7}`},
			{`{"id":"8"}`, `{"id":8}`},
			{`{"id":"x"}`, `{"id":-1}`},
			{`{"id":true}`, `typeMismatch at $.id: String: Expected to decode String but found bool instead.`},
			{`{}`, `keyNotFound at $: id`},
		}},
		{"guard let throws", `struct M: Decodable { let code: String
			enum K: String, CodingKey { case code }
			enum Failure: Error { case empty }
			init(from d: Decoder) throws {
				let c = try d.container(keyedBy: K.self)
				guard let code = try c.decodeIfPresent(String.self, forKey: .code), !code.isEmpty else { throw Failure.empty }
				self.code = code.uppercased()
			} }`, [][2]string{
			{`{"code":"sal"}`, `{"code":"SAL"}`},
			{`{"code":""}`, `Failure.empty at $: `},
			{`{}`, `Failure.empty at $: `},
			{`{"code":1}`, `typeMismatch at $.code: String: Expected to decode String but found number instead.`},
		}},
		{"contains and decodeNil", `struct M: Decodable { let a: Int; let b: String
			enum K: String, CodingKey { case a, b }
			init(from d: Decoder) throws {
				let c = try d.container(keyedBy: K.self)
				a = c.contains(.a) ? try c.decode(Int.self, forKey: .a) : 9
				if try c.decodeNil(forKey: .b) { b = "none" } else { b = try c.decode(String.self, forKey: .b) }
			} }`, [][2]string{
			{`{"a":1,"b":"x"}`, `{"a":1,"b":"x"}`},
			{`{"b":null}`, `{"a":9,"b":"none"}`},
			{`{"a":null,"b":"x"}`, `valueNotFound at $.a: Int`},
			{`{"a":1}`, `keyNotFound at $: b`},
		}},
		{"do and catch", `struct M: Decodable { let n: Double
			enum K: String, CodingKey { case n }
			init(from d: Decoder) throws {
				let c = try d.container(keyedBy: K.self)
				do { n = try c.decode(Double.self, forKey: .n) } catch DecodingError.typeMismatch { let s = try c.decode(String.self, forKey: .n); n = Double(s) ?? 0 }
			} }`, [][2]string{
			{`{"n":1.5}`, `{"n":1.5}`},
			{`{"n":"2.5"}`, `{"n":2.5}`},
			{`{"n":"x"}`, `{"n":0.0}`},
			{`{"n":[]}`, `typeMismatch at $.n: String: Expected to decode String but found an array instead.`},
		}},
		{"an enum that falls back", `enum Level: String, Decodable { case info, warn, unknown
			init(from decoder: Decoder) throws { let raw = try decoder.singleValueContainer().decode(String.self); self = Level(rawValue: raw) ?? .unknown } }
			struct M: Decodable { let level: Level; let levels: [Level]? }`, [][2]string{
			{`{"level":"warn"}`, `{"level":"warn","levels":null}`},
			{`{"level":"odd","levels":["info","x"]}`, `{"level":"unknown","levels":["info","unknown"]}`},
			{`{"level":1}`, `typeMismatch at $.level: String: Expected to decode String but found number instead.`},
			{`{"level":null}`, `valueNotFound at $.level: String`},
		}},
		{"one line that falls back", `enum Level: String, Decodable { case info, other
			init(from d: Decoder) throws { self = (try? Self(rawValue: d.singleValueContainer().decode(String.self))) ?? .other } }
			struct M: Decodable { let level: Level }`, [][2]string{
			{`{"level":"info"}`, `{"level":"info"}`},
			{`{"level":"x"}`, `{"level":"other"}`},
			{`{"level":5}`, `{"level":"other"}`},
		}},
		{"one of two kinds", `enum M: Decodable { case int(Int), text(String)
			init(from d: Decoder) throws {
				let c = try d.singleValueContainer()
				if let i = try? c.decode(Int.self) { self = .int(i); return }
				if let s = try? c.decode(String.self) { self = .text(s); return }
				throw DecodingError.typeMismatch(M.self, .init(codingPath: d.codingPath, debugDescription: "neither"))
			} }`, [][2]string{
			{`5`, `{"int":{"_0":5}}`},
			{`"x"`, `{"text":{"_0":"x"}}`},
			{`true`, `typeMismatch at $: M: neither`},
			{`null`, `typeMismatch at $: M: neither`},
		}},
		{"a discriminator", `enum M: Decodable { case ferry(Ferry), bus(line: Int), other
			struct Ferry: Decodable { let vessel: String }
			enum K: String, CodingKey { case type, line }
			init(from d: Decoder) throws {
				let c = try d.container(keyedBy: K.self)
				switch try c.decode(String.self, forKey: .type) {
				case "ferry": self = .ferry(try d.singleValueContainer().decode(Ferry.self))
				case "bus", "coach":
					self = .bus(line: try c.decode(Int.self, forKey: .line))
				default: self = .other
				}
			} }`, [][2]string{
			{`{"type":"ferry","vessel":"Tern"}`, `{"ferry":{"_0":{"vessel":"Tern"}}}`},
			{`{"type":"coach","line":4}`, `{"bus":{"line":4}}`},
			{`{"type":"bus"}`, `keyNotFound at $: line`},
			{`{"type":"walk"}`, `other`},
			{`{"type":"ferry"}`, `keyNotFound at $: vessel`},
		}},
		{"a lossy list", `struct M: Decodable { var items: [Item] = []
			struct Item: Decodable { let id: Int }
			struct Skip: Decodable {}
			enum K: String, CodingKey { case items }
			init(from d: Decoder) throws {
				let c = try d.container(keyedBy: K.self)
				var list = try c.nestedUnkeyedContainer(forKey: .items)
				while !list.isAtEnd {
					if let item = try? list.decode(Item.self) { items.append(item) } else { _ = try? list.decode(Skip.self) }
				}
			} }`, [][2]string{
			{`{"items":[{"id":1},{"id":"x"},{"id":3}]}`, `{"items":[{"id":1},{"id":3}]}`},
			{`{"items":[]}`, `{"items":[]}`},
			{`{"items":{}}`, `typeMismatch at $.items: Array<Any>: Expected to decode Array<Any> but found a dictionary instead.`},
		}},
		{"a list of what may fail", `struct Safe<T: Decodable>: Decodable { let value: T?
			init(from d: Decoder) throws { let c = try d.singleValueContainer(); value = try? c.decode(T.self) } }
			struct M: Decodable { let ids: [Int]
			enum K: String, CodingKey { case ids }
			init(from d: Decoder) throws { let c = try d.container(keyedBy: K.self); ids = try c.decode([Safe<Int>].self, forKey: .ids).compactMap { $0.value } } }`,
			[][2]string{{`{"ids":[1,"x",null,2]}`, `{"ids":[1,2]}`}, {`{"ids":null}`, `valueNotFound at $.ids: Array<Any>`}}},
		{"dynamic keys", `struct M: Decodable { let fares: [String: Double]
			struct AnyKey: CodingKey { var stringValue: String; var intValue: Int?; init?(stringValue: String) { self.stringValue = stringValue }; init?(intValue: Int) { nil } }
			init(from d: Decoder) throws {
				let c = try d.container(keyedBy: AnyKey.self)
				var all: [String: Double] = [:]
				for key in c.allKeys { all[key.stringValue] = try c.decode(Double.self, forKey: key) }
				fares = all
			} }`, [][2]string{
			{`{"adult":12.5,"child":6}`, `{"fares":{"adult":12.5,"child":6.0}}`},
			{`{}`, `{"fares":{}}`},
			{`{"adult":"x"}`, `typeMismatch at $.adult: Double: Expected to decode Double but found a string instead.`},
		}},
		{"a key by its text", `struct M: Decodable { let a: Int
			struct AnyKey: CodingKey { var stringValue: String; var intValue: Int? { nil }; init(_ s: String) { stringValue = s }; init?(stringValue: String) { self.stringValue = stringValue }; init?(intValue: Int) { nil } }
			init(from d: Decoder) throws { let c = try d.container(keyedBy: AnyKey.self); a = try c.decode(Int.self, forKey: AnyKey(stringValue: "the a")!) } }`, [][2]string{
			{`{"the a":1}`, `{"a":1}`},
			{`{}`, `keyNotFound at $: the a`},
		}},
		{"an unkeyed container", `struct M: Decodable { let x: Double; let y: Double; let name: String?
			init(from d: Decoder) throws { var c = try d.unkeyedContainer(); x = try c.decode(Double.self); y = try c.decode(Double.self); name = c.isAtEnd ? nil : nil } }`, [][2]string{
			{`[1,2]`, `{"x":1.0,"y":2.0}`},
			{`[1]`, `valueNotFound at $: Double`},
			{`{}`, `typeMismatch at $: Array<Any>: Expected to decode Array<Any> but found a dictionary instead.`},
		}},
		{"super", `class Base: Decodable { let id: Int }
			class M: Base { let knots: Int
			enum K: String, CodingKey { case knots }
			required init(from d: Decoder) throws { let c = try d.container(keyedBy: K.self); knots = try c.decode(Int.self, forKey: .knots); try super.init(from: d) } }`, [][2]string{
			{`{"id":1,"knots":12}`, `{"id":1,"knots":12}`},
			{`{"knots":12}`, `keyNotFound at $: id`},
			{`{"id":1}`, `keyNotFound at $: knots`},
		}},
		{"conversions", `struct M: Decodable { let at: Date; let link: URL?; let pence: Int; let open: Bool; let tag: String
			enum K: String, CodingKey { case at, link, price, open, tags }
			init(from d: Decoder) throws {
				let c = try d.container(keyedBy: K.self)
				at = Date(timeIntervalSince1970: try c.decode(Double.self, forKey: .at))
				link = try c.decodeIfPresent(String.self, forKey: .link).flatMap(URL.init(string:))
				let price = try c.decode(Double.self, forKey: .price)
				pence = Int(price * 100)
				open = try c.decode(Int.self, forKey: .open) == 1
				tag = try c.decodeIfPresent([String].self, forKey: .tags)?.first ?? "none"
			} }`, [][2]string{
			{`{"at":1772357400,"link":"","price":2.5,"open":1,"tags":["a","b"]}`, `{"at":date:1772357400000,"link":null,"pence":250,"open":true,"tag":"a"}`},
			{`{"at":0,"link":"a b","price":1,"open":0}`, `{"at":date:0,"link":"a%20b","pence":100,"open":false,"tag":"none"}`},
		}},
		{"not followed", `struct M: Decodable { let a: Int; let b: String
			enum K: String, CodingKey { case a, b }
			init(from d: Decoder) throws { let c = try d.container(keyedBy: K.self); a = try c.decode(Int.self, forKey: .a); b = Cipher.open(try c.decode(String.self, forKey: .b)) } }`, [][2]string{
			{`{"a":1,"b":"x"}`, `{"a":1}`},
			{`{"a":"1","b":"x"}`, `typeMismatch at $.a: Int: Expected to decode Int but found a string instead.`},
		}},
		{"a wrapper with a default", `@propertyWrapper struct DefaultFalse: Codable { var wrappedValue: Bool = false }
			extension KeyedDecodingContainer { func decode(_ type: DefaultFalse.Type, forKey key: Key) throws -> DefaultFalse { try decodeIfPresent(type, forKey: key) ?? .init() } }
			struct M: Decodable { @DefaultFalse var open: Bool }`, [][2]string{
			{`{}`, `{"open":false}`},
			{`{"open":null}`, `{"open":false}`},
			{`{"open":{"wrappedValue":true}}`, `{"open":true}`},
			{`{"open":true}`, `typeMismatch at $.open: Dictionary<String, Any>: Expected to decode Dictionary<String, Any> but found bool instead.`},
		}},
		{"dates by a closure", `let short = DateFormatter()
			func setUp() { short.dateFormat = "yyyy-MM-dd"; short.timeZone = TimeZone(secondsFromGMT: 0) }
			struct M: Decodable { let at: Date; let until: Date? }
			func load(_ data: Data) throws -> M {
				let decoder = JSONDecoder()
				decoder.dateDecodingStrategy = .custom { decoder in
					let c = try decoder.singleValueContainer()
					if let n = try? c.decode(Double.self) { return Date(timeIntervalSince1970: n) }
					let s = try c.decode(String.self)
					if let d = short.date(from: s) { return d }
					throw DecodingError.dataCorruptedError(in: c, debugDescription: "no date")
				}
				return try decoder.decode(M.self, from: data)
			}`, [][2]string{
			{`{"at":60,"until":"2026-03-01"}`, `{"at":date:60000,"until":date:1772323200000}`},
			{`{"at":"x"}`, `dataCorrupted at $.at: no date`},
			{`{"at":true}`, `typeMismatch at $.at: String: Expected to decode String but found bool instead.`},
			{`{"at":null}`, `valueNotFound at $.at: Date`},
		}},
		{"keys that are constants", `enum Tint: String, Codable, CodingKeyRepresentable { case red, green = "GREEN" }
			struct M: Decodable { let m: [Tint: Int] }`, [][2]string{
			{`{"m":{"red":1,"GREEN":2}}`, `{"m":{"red":1,"green":2}}`},
			{`{"m":{"blue":1}}`, `dataCorrupted at $.m.blue: Could not convert key to type Tint`},
		}},
		{"bytes one by one", `struct M: Decodable { let d: Data }
			func load(_ data: Data) throws -> M { let j = JSONDecoder(); j.dataDecodingStrategy = .deferredToData; return try j.decode(M.self, from: data) }`, [][2]string{
			{`{"d":[104,105]}`, `{"d":bytes:aGk=}`},
			{`{"d":"aGk="}`, `typeMismatch at $.d: Array<Any>: Expected to decode Array<Any> but found a string instead.`},
		}},
		{"equal texts of other code points", "struct M: Decodable { let caf\u00e9: Int; let kind: Kind; enum Kind: String, Decodable { case th\u00e9 } }", [][2]string{{"{\"cafe\u0301\":1,\"kind\":\"the\u0301\"}", "{\"caf\u00e9\":1,\"kind\":\"th\u00e9\"}"}}},
		{"a dictionary and models in it", `struct Berth { let n: Int; init?(json: [String: Any]) { guard let n = json["n"] as? Int else { return nil }; self.n = n } }
			struct M { let code: String; let berths: [Berth]; let first: Berth?
			init?(json: [String: Any]) {
				guard let code = json["code"] as? String, let list = json["berths"] as? [[String: Any]] else { return nil }
				self.code = code
				berths = list.compactMap { Berth(json: $0) }
				if let one = json["first"] as? [String: Any] { first = Berth(json: one) } else { first = nil }
			} }`, [][2]string{
			{`{"code":"SAL","berths":[{"n":1},{"n":"2"}],"first":{"n":9}}`, `{"code":"SAL","berths":[{"n":1}],"first":{"n":9}}`},
			{`{"code":"SAL","berths":[]}`, `{"code":"SAL","berths":[],"first":null}`},
			{`{"code":"SAL"}`, `null`},
			{`[]`, `null`},
			{`{"code":"SAL","berths":[1]}`, `null`},
		}},
	} {
		t.Run(c.name, func(t *testing.T) {
			set := swift.Read([]scan.Source{{Name: "M.swift", Text: "import Foundation\n" + c.source}})
			decodeAll(t, set, c.docs, func(s decoder.Seen) any { return formValueKnown(s) }, swiftError)
		})
	}
}

// agrees holds what check says of a shape of the one document to what trial found.
// Where check does not claim to be exact it may know of fewer failures, never more.
func agrees(t *testing.T, plan *decoder.Plan, doc string, out decoder.Outcome) {
	t.Helper()
	read := func(_ *shape.Endpoint, by []shape.Teller, judges []shape.Judge) *shape.Endpoint {
		e := shape.NewEndpoint("doc", shape.DefaultLimits)
		e.Tell(by)
		e.Judge(judges)
		var r shape.Reader
		if _, err := r.Read(e, &shape.Source{Data: []byte(doc), Line: 1, Column: 1}, 0); err != nil {
			t.Fatal(err)
		}
		e.Settle()
		return e
	}
	e := read(nil, nil, nil)
	p := drift.Check([]*drift.Pair{{Plan: plan, Endpoint: e, Place: e.Root}}, drift.Second{Apart: read}).Pairs[0]
	fails := out.Err != nil
	for _, c := range out.Changes { // the response is lost all the same
		fails = fails || plan.Swallowed && c.Loss == decoder.Swallowed && len(c.Place) == 0
	}
	if p.Lost > 0 && !fails || p.LostExact && fails != (p.Lost > 0) {
		t.Errorf("%s: check says %d would not decode (exact %v), trial says %v", doc, p.Lost, p.LostExact, out.Err)
	}
}

func TestTypesOfTheLibrary(t *testing.T) {
	set := swift.Read([]scan.Source{{Name: "M.swift", Text: "struct M: Decodable { let a: Int }"}})
	for _, c := range [][3]string{
		{"[Int]", `[1,2]`, `[1,2]`},
		{"[String: Double?]", `{"a":null}`, `{"a":null}`},
		{"String", `"x"`, `"x"`},
		{"M?", `null`, `null`},
		{"[M]?", `[{"a":1}]`, `[{"a":1}]`},
	} {
		plan, err := For(set, c[0])
		if err != nil {
			t.Errorf("%s: %v", c[0], err)
			continue
		}
		doc, _ := wire.Parse([]byte(c[1]))
		if out := plan.Decode(doc); out.Err != nil || formValue(out.Seen) != c[2] {
			t.Errorf("%s of %s: %v %v", c[0], c[1], out.Seen, out.Err)
		}
	}
	for _, name := range []string{"Q", "[Q]", "Page<Int>", "[", "", "M M"} {
		if _, err := For(set, name); err == nil {
			t.Errorf("%q is taken for a type", name)
		}
	}
	// The scanner of the library stops at 512 levels, whatever the type.
	plan, _ := For(set, "M")
	for depth, fails := range map[int]bool{511: false, 512: true} {
		doc, err := wire.Parse([]byte(`{"a":1,"b":` + strings.Repeat("[", depth) + strings.Repeat("]", depth) + "}"))
		if err != nil {
			t.Fatal(err)
		}
		if out := plan.Decode(doc); (out.Err != nil) != fails {
			t.Errorf("%d arrays in an object: %v", depth, out.Err)
		}
	}
}

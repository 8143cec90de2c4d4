package cli_test

import (
	"fmt"
	"testing"
)

// TestWhatHurts: what developers meet most, from source and captures to the line.
func TestWhatHurts(t *testing.T) {
	for _, c := range []struct {
		name, file, source string
		captures           []string
		want               string
	}{
		{"typo", "vessel", `struct Vessel: Codable { let name: String; let lenght: Double }`,
			[]string{`{"name":"Gannet","length":82.5}`, `{"name":"Tern","length":41}`}, "M.swift:1:48: breaks: Vessel lenght: sent under another key (2 of 2 values, 2 of 2 responses): keyNotFound: lenght [renamed-key]\n"},
		{"underscore", "vessel", `struct Vessel: Codable { let name: String; let carDecks: Int? }`,
			[]string{`{"name":"Gannet","car_decks":2}`, `{"name":"Tern","car_decks":1}`}, "M.swift:1:48: misreads: Vessel carDecks: sent under another key: the app sees nothing (2 of 2 values, 2 of 2 responses) [renamed-optional]\n"},
		{"fraction", "fare", `struct Fare: Codable { let amount: Int; let currency: String }`,
			[]string{`{"amount":12,"currency":"EUR"}`, `{"amount":12.5,"currency":"EUR"}`}, "M.swift:1:28: breaks: Fare amount: a number that the type cannot hold (1 of 2 values, 1 of 2 responses): dataCorrupted: The given data was not valid JSON. [out-of-range]\n"},
		{"one for many", "notice", `struct Notice: Codable { let title: String; let ports: [String] }`,
			[]string{`{"title":"Fog","ports":["SAL"]}`, `{"title":"Ice","ports":"MER"}`}, "M.swift:1:49: breaks: Notice ports: a list where one value is declared, or the reverse (1 of 2 values, 1 of 2 responses): typeMismatch: Array<Any>: Expected to decode Array<Any> but found a string instead. [list-mismatch]\n"},
		{"null in list", "notice", `struct Notice: Codable { let title: String; let ports: [String] }`,
			[]string{`{"title":"Fog","ports":["SAL",null]}`}, "M.swift:1:49: breaks: Notice ports: null where a value is declared (1 of 2 values, 1 of 1 responses): valueNotFound: String [null-value]\n"},
		{"unknown case", "sea", `enum Level: String, Codable { case calm, rough }
struct Sea: Codable { let level: Level; let at: Int }`,
			[]string{`{"level":"calm","at":1}`, `{"level":"Calm","at":2}`}, "M.swift:2:27: breaks: Sea level: a value that the enum does not have (1 of 2 values, 1 of 2 responses): dataCorrupted: Cannot initialize Level from invalid String value Calm [unknown-constant]\n"},
		{"swallowed", "pass", `struct Pass: Codable {
  let id: Int; let zones: Int
  enum CodingKeys: String, CodingKey { case id, zones }
  init(from d: Decoder) throws {
    let c = try d.container(keyedBy: CodingKeys.self)
    id = try c.decode(Int.self, forKey: .id)
    zones = (try? c.decode(Int.self, forKey: .zones)) ?? 0
  }
}`, []string{`{"id":1,"zones":3}`, `{"id":2,"zones":"4"}`}, "M.swift:2:20: misreads: Pass zones: a default in place of a value that was sent (1 of 2 values, 1 of 2 responses): typeMismatch: Int: Expected to decode Int but found a string instead. [kept-default]\n"},
		{"dynamic keys", "berths", `struct Berths: Codable { let berths: [String: Int] }`,
			[]string{`{"berths":{"a":1,"b":2}}`, `{"berths":{"c":"x"}}`}, "M.swift:1:30: breaks: Berths berths: a value of another kind (1 of 1 values, 1 of 2 responses): typeMismatch: Int: Expected to decode Int but found a string instead. [wrong-kind]\n"},
		{"too big", "port", `struct Port: Codable { let code: String; let pilots: Int8 }`,
			[]string{`{"code":"SAL","pilots":4}`, `{"code":"MER","pilots":200}`}, "M.swift:1:46: breaks: Port pilots: a number that the type cannot hold (1 of 2 values, 1 of 2 responses): dataCorrupted: The given data was not valid JSON. [out-of-range]\n"},
		{"fine", "port", `struct Port: Codable { let code: String; let pilots: Int? }`,
			[]string{`{"code":"SAL","pilots":4}`, `{"code":"MER","pilots":null}`, `{"code":"TOR"}`}, ``},
	} {
		t.Run(c.name, func(t *testing.T) {
			files := map[string]string{"M.swift": c.source}
			for i, text := range c.captures {
				files[fmt.Sprintf("%s-%d.json", c.file, i+1)] = text
			}
			r := newProject(t, files).run("check", "-format", "lines", ".")
			if r.out != c.want {
				t.Errorf("got\n%swant\n%s", r.out, c.want)
			}
			if wantCode := map[bool]int{true: 0, false: 1}[c.want == ""]; r.code != wantCode {
				t.Errorf("exit code %d, want %d", r.code, wantCode)
			}
		})
	}
}

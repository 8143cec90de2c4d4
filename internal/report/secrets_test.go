package report

import (
	"strings"
	"testing"

	"vetta/internal/decoder"
	"vetta/internal/wire"
)

func at(names ...string) (steps []wire.Step) {
	for _, n := range names {
		steps = append(steps, wire.MemberOf(n))
	}
	return steps
}

// TestMaskIn: what errors and suggestions quote of a value is hidden where the value is.
func TestMaskIn(t *testing.T) {
	for _, c := range []struct {
		name, text string
		steps      []wire.Step
		literal    string
		want       string
	}{
		{"by its key", `For input string: "hunter2"`, at("pin"), `"hunter2"`, `For input string: "` + masked + `"`},
		{"by the key of what it is in", "Value hunter2 at k", at("session", "k"), `"hunter2"`, "Value " + masked + " at k"},
		{"wherever it stands", "hunter2, and again hunter2", at("password"), `"hunter2"`, masked + ", and again " + masked},
		{"a number", "Expected an int but was 12.75", at("pin"), `12.75`, "Expected an int but was " + masked},
		{"by its look", "from String \"ada@saltmere.example\": no", at("x"), `"ada@saltmere.example"`, "from String \"" + masked + "\": no"},
		{"a token of three parts", `For input string: "eyJhbGciOiJI.eyJzdWIiOiIx.c2lnbmF0dXJl"`, at("x"), `"eyJhbGciOiJI.eyJzdWIiOiIx.c2lnbmF0dXJl"`, `For input string: "` + masked + `"`},
		{"what is not secret", `For input string: "many"`, at("seats"), `"many"`, `For input string: "many"`},
		{"too short to look for", "Cannot map `a` into type `int`", at("pin"), `"a"`, "Cannot map `a` into type `int`"},
		{"no value", "No value for pin", at("pin"), "", "No value for pin"},
	} {
		t.Run(c.name, func(t *testing.T) {
			if got := maskIn(c.text, c.steps, c.literal); got != c.want {
				t.Errorf("\n got %s\nwant %s", got, c.want)
			}
		})
	}
}

// TestMaskSeen: what the app sees is hidden by the names of its properties, by its look, and where it
// was hidden as it was sent; what else there is stays.
func TestMaskSeen(t *testing.T) {
	text := func(s string) decoder.Seen { return decoder.Seen{Kind: decoder.SeenString, Text: s} }
	whole := func(s string) decoder.Seen { return decoder.Seen{Kind: decoder.SeenInt, Text: s} }
	object := func(names string, elems ...decoder.Seen) decoder.Seen {
		return decoder.Seen{Kind: decoder.SeenObject, Names: strings.Fields(names), Elems: elems}
	}
	list := func(elems ...decoder.Seen) decoder.Seen { return decoder.Seen{Kind: decoder.SeenList, Elems: elems} }
	for _, c := range []struct {
		name   string
		seen   decoder.Seen
		hidden map[string]bool
		want   string
	}{
		{"nothing secret", object("name seats", text("Tern"), whole("12")), nil, `{"name":"Tern","seats":12}`},
		{"by its name", object("name token", text("Tern"), text("abc")), nil, `{"name":"Tern","token":"` + masked + `"}`},
		{"a number by its name", object("pin", whole("1234")), nil, `{"pin":"` + masked + `"}`},
		{"by its look", object("contact", text("ada@saltmere.example")), nil, `{"contact":"` + masked + `"}`},
		{"inside another", object("user", object("name password", text("Ada"), text("x"))), nil, `{"user":{"name":"Ada","password":"` + masked + `"}}`},
		{"all that is inside a secret", object("session", object("a b", text("x"), whole("1"))), nil, `{"session":{"a":"` + masked + `","b":"` + masked + `"}}`},
		{"in a list", object("tokens all", list(text("a")), list(text("b"))), nil, `{"tokens":["a"],"all":["b"]}`},
		{"as it was sent", object("t n", text("hunter2"), text("other")), map[string]bool{"hunter2": true}, `{"t":"` + masked + `","n":"other"}`},
		{"null and bools stay", object("token pin", decoder.Seen{}, decoder.Bool(true)), nil, `{"token":null,"pin":true}`},
	} {
		t.Run(c.name, func(t *testing.T) {
			before := c.seen.String()
			if got := maskSeen(c.seen, nil, c.hidden).String(); got != c.want {
				t.Errorf("\n got %s\nwant %s", got, c.want)
			}
			if c.seen.String() != before {
				t.Error("what was given is changed")
			}
		})
	}
}

package decoder

import (
	"fmt"
	"strconv"
	"strings"
	"testing"

	"vetta/internal/model"
	"vetta/internal/wire"
)

func boom(message string) *Error { return &Error{Kind: "Boom", Message: message} }

// number reads numbers, and nothing else.
func number() *Node {
	return &Node{Op: OpLeaf, Read: func(v *wire.Value) Verdict {
		if v.Kind != wire.Number {
			return Verdict{Err: boom("no number")}
		}
		return Verdict{Seen: Seen{Kind: SeenInt, Text: string(v.Raw)}}
	}}
}

func wrongKind(kind wire.Kind) *Error { return boom("no " + kind.String() + " here") }

func keyed(inner *Node) *Node { return &Node{Op: OpKeyed, Wrong: wrongKind, Inner: inner} }

func at(name string) *Node {
	return &Node{Op: OpAt, Name: name, Inner: number(), Missing: boom("no " + name)}
}

// build makes an instance of the fields that nodes read.
func build(nodes ...*Node) *Node {
	n := &Node{Op: OpBuild, Model: &model.Model{Name: "M"}}
	for i, inner := range nodes {
		n.Props = append(n.Props, &model.Field{Name: string(rune('p' + i))})
		n.Steps = append(n.Steps, Step{Property: i, Node: inner})
	}
	return n
}

// TestDecode takes documents through plans made by hand: each operation, and what it says
// of what it cannot take.
func TestDecode(t *testing.T) {
	plain := func(name string) (Seen, *Error) { return Seen{Kind: SeenString, Text: name}, nil }
	twice := func(name string) *Error { return boom("two of " + name) }
	every := at("a")
	every.Every = true
	others := &Node{Op: OpAt, Name: "a", Others: []string{"b"}, Every: true, Inner: number(), Value: Seen{Kind: SeenInt, Text: "7"}}
	keep := &Node{Op: OpAt, Name: "a", Every: true, KeepNull: true, Inner: number(), Value: Seen{Kind: SeenInt, Text: "7"}, NullLoss: Zeroed, AbsentLoss: HiddenNull}
	byDocument := build(at("a"), at("b"))
	byDocument.ByDocument = true
	strict := build(&Node{Op: OpAt, Name: "a", Inner: number()})
	strict.ByDocument = true
	strict.Unknown = func(name string) *Error { return boom("what is " + name) }
	strict.Ignored = func(name string) bool { return name == "x" }
	subtype := &Node{Op: OpSubtype, Name: "t", WrongValue: func(v *wire.Value) *Error { return boom("no object: " + string(v.Raw)) }, Missing: boom("no t"),
		Branches: []Branch{{Key: "a", Node: keyed(build(at("n")))}}, Key: func(id string) (Seen, *Error) { return Seen{}, boom("no class " + id) }}
	entries := &Node{Op: OpMap, Wrong: wrongKind, Key: plain, Inner: number(), Second: &Node{Op: OpEntries, Inner: &Node{Op: OpLeaf, Read: func(v *wire.Value) Verdict {
		s, _ := v.Text()
		return Verdict{Seen: Seen{Kind: SeenString, Text: s}}
	}}, Second: number(), Wrong: wrongKind, Error: boom("no pair"), Twice: twice}}
	texts := keyed(build(at("a")))
	texts.Second = &Node{Op: OpConst, Value: Seen{Kind: SeenString, Text: "from text"}}
	indexed := &Node{Op: OpList, Wrong: wrongKind, Inner: &Node{Op: OpLeaf, Read: func(v *wire.Value) Verdict { return Verdict{Err: boom("bad at " + IndexMark + " here")} }}}
	for _, c := range []struct {
		name string
		node *Node
		docs [][2]string
	}{
		{"a member", keyed(at("a")), [][2]string{
			{`{"a":1}`, `1`},
			{`{"a":1,"a":2}`, `1`},
			{`{}`, `no a at $`},
			{`{"a":"x"}`, `no number at $.a`},
			{`[]`, `no array here at $`},
		}},
		{"each of equal members", keyed(every), [][2]string{{`{"a":1,"a":2}`, `2`}, {`{"a":"x","a":2}`, `no number at $.a`}}},
		{"other names", keyed(others), [][2]string{{`{"a":1,"b":2}`, `2`}, {`{"b":2,"a":1}`, `1`}, {`{}`, `7`}, {`{"b":null}`, `no number at $.b`}}},
		{"null keeps the value", keyed(keep), [][2]string{
			{`{"a":1,"a":null}`, `1; zero at $.a`},
			{`{"a":null}`, `7; zero at $.a`},
			{`{}`, `7; null at $.a`},
			{`{"a":null,"a":3}`, `3`},
		}},
		{"null is nothing", &Node{Op: OpNil, Inner: number(), NullLoss: HiddenNull}, [][2]string{{`null`, `null; null at $`}, {`1`, `1`}}},
		{"a list", &Node{Op: OpList, Wrong: wrongKind, Inner: number()}, [][2]string{
			{`[1,2,1]`, `[1,2,1]`},
			{`[1,"x"]`, `no number at $[1]`},
			{`{}`, `no object here at $`},
			{`[]`, `[]`},
		}},
		{"a set", &Node{Op: OpList, Unique: true, Wrong: wrongKind, Inner: number()}, [][2]string{{`[1,2,1]`, `[1,2]`}}},
		{"a list that leaves out", &Node{Op: OpList, Lossy: true, Wrong: wrongKind, Inner: number()}, [][2]string{{`[1,"x",2]`, `[1,2]; drop at $[1]`}}},
		{"one for a list", &Node{Op: OpList, Single: true, Wrong: wrongKind, Inner: number()}, [][2]string{
			{`3`, `[3]`},
			{`[3]`, `[3]`},
			{`null`, `no null here at $`},
		}},
		{"bytes", &Node{Op: OpList, Bytes: true, Wrong: wrongKind, Inner: number()}, [][2]string{{`[104,105]`, `"aGk="`}}},
		{"the index in a message", indexed, [][2]string{{`[1]`, `bad at 0 here at $[0]`}}},
		{"a map", &Node{Op: OpMap, Wrong: wrongKind, Key: plain, Inner: number()}, [][2]string{
			{`{"a":1,"b":2,"a":3}`, `{"a":1,"b":2}`},
			{`{"a":"x"}`, `no number at $.a`},
		}},
		{"a map of the last", &Node{Op: OpMap, Every: true, Wrong: wrongKind, Key: plain, Inner: number()}, [][2]string{{`{"a":1,"b":2,"a":3}`, `{"a":3,"b":2}`}}},
		{"a map that minds", &Node{Op: OpMap, Twice: twice, Wrong: wrongKind, Key: plain, Inner: number()}, [][2]string{{`{"a":1,"a":3}`, `two of a at $`}}},
		{"a map of pairs", entries, [][2]string{
			{`[["a",1],["b",2]]`, `{"a":1,"b":2}`},
			{`[["a",1],["a",2]]`, `two of a at $`},
			{`[["a"]]`, `no pair at $[0]`},
			{`[5]`, `no number here at $[0]`},
			{`{"c":3}`, `{"c":3}`},
			{`[["a","x"]]`, `no number at $[0][1]`},
		}},
		{"in the order of the document", keyed(byDocument), [][2]string{
			{`{"b":"x","a":"y"}`, `no number at $.b`},
			{`{"a":"y","b":"x"}`, `no number at $.a`},
			{`{"b":1,"a":2}`, `{"p":2,"q":1}`},
			{`{"b":1}`, `no a at $`},
		}},
		{"in the order declared", keyed(build(at("a"), at("b"))), [][2]string{{`{"b":"x","a":"y"}`, `no number at $.a`}}},
		{"unknown members", keyed(strict), [][2]string{
			{`{"a":1,"z":2}`, `what is z at $.z`},
			{`{"z":2,"a":"x"}`, `what is z at $.z`},
			{`{"a":"x","z":2}`, `no number at $.a`},
			{`{"x":1}`, `{"p":null}`},
		}},
		{"a class by its text", subtype, [][2]string{
			{`{"t":"a","n":1}`, `{"p":1}`},
			{`{"t":"b"}`, `no class b at $`},
			{`{"n":1}`, `no t at $`},
			{`{"t":{}}`, `no t at $`},
			{`5`, `no object: 5 at $`},
			{`{"t":"a"}`, `no n at $`},
		}},
		{"an object from text", texts, [][2]string{{`"x"`, `"from text"`}, {`{"a":1}`, `{"p":1}`}, {`5`, `no number here at $`}}},
		{"what fails is nothing", &Node{Op: OpTry, Inner: number()}, [][2]string{{`1`, `1`}, {`"x"`, `null; swallow at $`}}},
		{"else", &Node{Op: OpElse, Inner: &Node{Op: OpTry, Inner: number()}, Second: &Node{Op: OpConst, Value: Seen{Kind: SeenInt, Text: "9"}}}, [][2]string{
			{`1`, `1`},
			{`"x"`, `9; swallow at $`},
		}},
		{"if", &Node{Op: OpIf, Inner: &Node{Op: OpIsNull}, Second: &Node{Op: OpConst, Value: Seen{Kind: SeenInt, Text: "0"}}, Third: number()}, [][2]string{
			{`null`, `0`},
			{`4`, `4`},
		}},
		{"not followed", &Node{Op: OpUnknown, Why: "?"}, [][2]string{{`1`, `unknown`}}},
		{"always fails", &Node{Op: OpFail, Error: &Error{Kind: "Boom", Message: "never", Where: AtRoot}}, [][2]string{{`{"a":1}`, `never at $`}}},
	} {
		t.Run(c.name, func(t *testing.T) {
			for _, d := range c.docs {
				doc, err := wire.Parse([]byte(d[0]))
				if err != nil {
					t.Fatal(err)
				}
				out := (&Plan{Root: c.node}).Decode(doc)
				got := out.Seen.String()
				if out.Seen.Kind == SeenUnknown {
					got = "unknown"
				}
				for _, ch := range out.Changes {
					got += fmt.Sprintf("; %s at %s", ch.Loss, wire.Path(ch.Place))
				}
				if out.Err != nil {
					got = out.Err.Message + " at " + wire.Path(out.Place)
				}
				if got != d[1] {
					t.Errorf("%s\n got %s\nwant %s", d[0], got, d[1])
				}
			}
		})
	}
}

// TestDepth: a document deeper than a library takes fails as a whole.
func TestDepth(t *testing.T) {
	p := &Plan{Root: &Node{Op: OpConst}, MaxDepth: 3, TooDeep: boom("too deep")}
	for depth, fails := range map[int]bool{1: false, 3: false, 4: true} {
		doc, err := wire.Parse([]byte(strings.Repeat("[", depth) + strings.Repeat("]", depth)))
		if err != nil {
			t.Fatal(err)
		}
		if out := p.Decode(doc); (out.Err != nil) != fails {
			t.Errorf("%d deep: %v", depth, out.Err)
		}
	}
}

// TestSeenText: values as trial writes them.
func TestSeenText(t *testing.T) {
	for want, s := range map[string]Seen{
		`null`:                       {},
		`"a\"b"`:                     {Kind: SeenString, Text: `a"b`},
		`"RED"`:                      {Kind: SeenEnum, Text: "RED"},
		`"2026-03-01T09:30:00Z"`:     {Kind: SeenDate, Seconds: 1772357400},
		`"2026-03-01T09:30:00.250Z"`: {Kind: SeenDate, Seconds: 1772357400.25},
		`"aGk="`:                     {Kind: SeenBytes, Text: "hi"},
		`{"a":1,"b":null}`: {Kind: SeenObject, Names: []string{"a", "x", "b"}, Elems: []Seen{
			{Kind: SeenInt, Text: "1"},
			{Kind: SeenUnknown},
			{},
		}},
		`{"bus":{"line":4}}`: {Kind: SeenCase, Text: "bus", Names: []string{"line"}, Elems: []Seen{{Kind: SeenInt, Text: "4"}}},
		`"other"`:            {Kind: SeenCase, Text: "other"},
	} {
		if got := s.String(); got != want {
			t.Errorf("%s, want %s", got, want)
		}
	}
	if s := Bool(true); s.Text != strconv.FormatBool(true) {
		t.Error(s)
	}
}

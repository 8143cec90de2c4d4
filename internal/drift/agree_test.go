package drift_test

import (
	"encoding/json"
	"fmt"
	"math/rand/v2"
	"strings"
	"testing"

	"vetta/internal/decoder"
	"vetta/internal/drift"
	"vetta/internal/drift/finding"
	"vetta/internal/shape"
	"vetta/internal/source/scan"
	"vetta/internal/source/swift"
	"vetta/internal/trial"
	"vetta/internal/wire"
)

// scalars are types with values that they take and values that they may not.
var scalars = []string{"Int", "Int8", "UInt", "Double", "Float", "Bool", "String", "Date", "URL", "UUID", "Data", "Decimal", "Tint", "Rank"}

// generator makes Swift models and documents that mostly fit them.
type generator struct {
	r       *rand.Rand
	structs int
	source  strings.Builder
	models  map[string][][2]string // name -> fields with their types
	byHand  map[string]bool
}

func newGenerator(seed uint64) *generator {
	g := &generator{r: rand.New(rand.NewPCG(seed, 7)), models: map[string][][2]string{}, byHand: map[string]bool{}}
	g.source.WriteString("import Foundation\nenum Tint: String, Codable { case red, green = \"GREEN\" }\nenum Rank: Int, Codable { case low, high = 5 }\nenum Note: Codable { case text(String), delay(minutes: Int, why: String?) }\n")
	return g
}

// typ is a random type; structs that it needs are written to the source.
func (g *generator) typ(depth int) string {
	t := scalars[g.r.IntN(len(scalars))]
	switch k := g.r.IntN(10); {
	case k < 2 && depth < 3:
		t = "[" + g.typ(depth+1) + "]"
	case k == 2 && depth < 3:
		t = "[String: " + g.typ(depth+1) + "]"
	case k < 5 && depth < 3:
		t = g.model(depth + 1)
	case k == 5:
		t = "Note"
	}
	if g.r.IntN(3) == 0 {
		t += "?"
	}
	return t
}

func (g *generator) model(depth int) string {
	g.structs++
	name := fmt.Sprintf("M%d", g.structs)
	var fields [][2]string
	for i := range 1 + g.r.IntN(4) {
		fields = append(fields, [2]string{fmt.Sprintf("f%d", i), g.typ(depth)})
	}
	g.models[name] = fields
	byHand := g.r.IntN(4) == 0
	g.byHand[name] = byHand
	var b strings.Builder
	fmt.Fprintf(&b, "struct %s: Decodable {\n", name)
	for _, f := range fields {
		fmt.Fprintf(&b, "  let %s: %s\n", f[0], f[1])
	}
	if byHand {
		b.WriteString("  enum K: String, CodingKey { case ")
		for i, f := range fields {
			if i > 0 {
				b.WriteString(", ")
			}
			b.WriteString(f[0])
		}
		b.WriteString(" }\n  init(from d: Decoder) throws {\n    let c = try d.container(keyedBy: K.self)\n")
		for _, f := range fields {
			plain, optional := strings.CutSuffix(f[1], "?")
			switch {
			case !optional:
				fmt.Fprintf(&b, "    %s = try c.decode(%s.self, forKey: .%s)\n", f[0], plain, f[0])
			case g.r.IntN(2) == 0:
				fmt.Fprintf(&b, "    %s = try? c.decode(%s.self, forKey: .%s)\n", f[0], plain, f[0])
			default:
				fmt.Fprintf(&b, "    %s = try c.decodeIfPresent(%s.self, forKey: .%s)\n", f[0], plain, f[0])
			}
		}
		b.WriteString("  }\n")
	}
	b.WriteString("}\n")
	g.source.WriteString(b.String())
	return name
}

// value is a document for a type: mostly one that it takes.
func (g *generator) value(t string, odd int) any {
	if g.r.IntN(1000) < odd {
		return []any{nil, true, 1, -3, 300, 12.5, 1e300, "", "x", "12", []any{}, []any{1}, map[string]any{}, map[string]any{"f0": 1}, "2026-13-40", json.RawMessage("9007199254740993"), json.RawMessage(`"\ud800"`)}[g.r.IntN(17)]
	}
	if plain, ok := strings.CutSuffix(t, "?"); ok {
		if g.r.IntN(4) == 0 {
			return nil
		}
		return g.value(plain, odd)
	}
	if inner, ok := strings.CutPrefix(t, "[String: "); ok {
		m := map[string]any{}
		for range g.r.IntN(3) {
			m[string(rune('a'+g.r.IntN(5)))] = g.value(inner[:len(inner)-1], odd)
		}
		return m
	}
	if inner, ok := strings.CutPrefix(t, "["); ok {
		list := []any{}
		for range g.r.IntN(3) {
			list = append(list, g.value(inner[:len(inner)-1], odd))
		}
		return list
	}
	if fields, ok := g.models[t]; ok {
		m := map[string]any{}
		for _, f := range fields {
			if g.r.IntN(1000) < odd || strings.HasSuffix(f[1], "?") && g.r.IntN(4) == 0 {
				continue
			}
			m[f[0]] = g.value(f[1], odd)
		}
		return m
	}
	pick := func(values ...any) any { return values[g.r.IntN(len(values))] }
	switch t {
	case "Int", "Rank":
		return pick(0, 5, 5)
	case "Int8", "UInt":
		return pick(0, 7, 100)
	case "Double", "Float", "Decimal", "Date":
		return pick(0, 1.5, 20, 4e2)
	case "Bool":
		return pick(true, false)
	case "Tint":
		return pick("red", "GREEN")
	case "URL":
		return pick("a/b", "https://saltmere.example/x y")
	case "UUID":
		return "123e4567-e89b-12d3-a456-426614174000"
	case "Data":
		return pick("", "aGk=")
	case "Note":
		return pick(map[string]any{"text": map[string]any{"_0": "low"}}, map[string]any{"delay": map[string]any{"minutes": 5}})
	}
	return pick("", "Tern", "Gull", "12", "2026-03-01")
}

// shapeOf reads documents into an endpoint, with the objects apart that tellers name.
func shapeOf(t *testing.T, docs [][]byte, by []shape.Teller, judges ...shape.Judge) *shape.Endpoint {
	t.Helper()
	e := shape.NewEndpoint("docs", shape.DefaultLimits)
	e.Tell(by)
	e.Judge(judges)
	var r shape.Reader
	for i, doc := range docs {
		src := &shape.Source{Origin: shape.Origin{File: fmt.Sprint("doc", i), Order: i}, Data: doc, Line: 1, Column: 1}
		if _, err := r.Read(e, src, 0); err != nil {
			t.Fatalf("%s: %v", doc, err)
		}
	}
	e.Settle()
	return e
}

// sameKind are kinds that differ in what all responses together say: one document
// cannot tell a value that never fits from one that does not.
var sameKind = map[string]string{
	"never-fits": "lost", "kept-default": "lost", "swallowed-error": "lost",
	"renamed-key": "missing", "missing-key": "missing", "moved-key": "missing",
	"null-value": "fails", "wrong-kind": "fails", "out-of-range": "fails", "list-mismatch": "fails", "unreadable-date": "fails",
	"unreadable-text": "fails", "mixed-values": "fails",
}

// checked checks documents with a plan for their root.
func checked(t *testing.T, plan *decoder.Plan, docs [][]byte) *drift.Checked {
	t.Helper()
	e := shapeOf(t, docs, nil)
	return drift.Check([]*drift.Pair{{Plan: plan, Endpoint: e, Place: e.Root}}, drift.Second{Apart: func(of *shape.Endpoint, by []shape.Teller, judges []shape.Judge) *shape.Endpoint {
		if of != e {
			t.Error("another endpoint is to be read again")
		}
		return shapeOf(t, docs, by, judges...)
	}})
}

// counts are the values and responses of each finding, and how many responses
// would not decode.
func counts(t *testing.T, plan *decoder.Plan, docs [][]byte) (map[string][2]int64, int64, bool) {
	t.Helper()
	checked := checked(t, plan, docs)
	out := map[string][2]int64{}
	for _, m := range checked.Models {
		for _, f := range m.Findings {
			if f.Level != finding.Breaks && f.Level != finding.Misreads || f.Kind.Name == "moved-optional" || f.Kind.Name == "renamed-optional" {
				continue
			}
			for _, s := range f.Sites {
				name := fmt.Sprint(m.Model.Name, ".", f.Name, " ", s.Place, s.Where, " ", sameKind[f.Kind.Name])
				if sameKind[f.Kind.Name] == "" {
					name += f.Kind.Name
				}
				n := out[name]
				out[name] = [2]int64{n[0] + s.Values, n[1] + s.Responses}
			}
		}
	}
	return out, checked.Pairs[0].Lost, checked.Pairs[0].LostExact
}

// TestCheckIsTrial holds check to trial: what check counts over the shape of many
// documents is what trial finds document by document.
func TestCheckIsTrial(t *testing.T) {
	for seed := range uint64(150) {
		g := newGenerator(seed)
		root := g.model(0)
		set := swift.Read([]scan.Source{{Name: "M.swift", Text: g.source.String()}})
		plan, err := trial.For(set, root)
		if err != nil {
			t.Fatal(err)
		}
		odd := []int{0, 15, 60}[seed%3]
		var docs [][]byte
		fails := int64(0)
		losses := map[string]int64{}
		var all []map[string][2]int64
		for range 60 {
			doc, err := json.Marshal(g.value(root, odd))
			if err != nil {
				t.Fatal(err)
			}
			docs = append(docs, doc)
			value, err := wire.Parse(doc)
			if err != nil {
				t.Fatal(err)
			}
			out := plan.Decode(value)
			for _, c := range out.Changes {
				losses[string(c.Loss)]++
			}
			one, lost, _ := counts(t, plan, [][]byte{doc})
			all = append(all, one)
			if (lost > 0) != (out.Err != nil) {
				t.Fatalf("seed %d: check says %d would not decode, trial says %v\n%s\n%s\n%v", seed, lost, out.Err, doc, g.source.String(), one)
			}
			if out.Err != nil {
				fails++
			}
		}
		got, lost, exact := counts(t, plan, docs)
		if lost != fails || !exact {
			t.Fatalf("seed %d: %d (exact %v) would not decode by check, %d by trial\n%s", seed, lost, exact, fails, g.source.String())
		}
		want := map[string][2]int64{}
		for _, one := range all {
			for name, n := range one {
				want[name] = [2]int64{want[name][0] + n[0], want[name][1] + 1}
			}
		}
		if fmt.Sprint(got) != fmt.Sprint(want) {
			for name := range want {
				if got[name] != want[name] {
					t.Fatalf("seed %d: %s counts %v, one by one %v\n%s", seed, name, got[name], want[name], g.source.String())
				}
			}
			t.Fatalf("seed %d: findings %v, one by one %v", seed, got, want)
		}
	}
}

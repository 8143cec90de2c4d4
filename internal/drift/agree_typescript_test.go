package drift_test

import (
	"encoding/json"
	"fmt"
	"math/rand/v2"
	"strings"
	"testing"

	"vetta/internal/drift/finding"
	"vetta/internal/source"
	"vetta/internal/source/scan"
	"vetta/internal/trial"
	"vetta/internal/wire"
)

// script makes interfaces of TypeScript or schemas of zod, and documents that mostly fit.
type script struct {
	r      *rand.Rand
	zod    bool
	count  int
	source strings.Builder
}

func (g *script) pick(values ...any) any { return values[g.r.IntN(len(values))] }

// value is a document for a type: mostly one that it takes.
func (g *script) value(k kind, odd int) any {
	if g.r.IntN(1000) < odd {
		return g.pick(nil, true, 1, -3, 12.5, "", "x", "12", []any{}, []any{1}, map[string]any{}, map[string]any{"f0": 1}, json.RawMessage("9007199254740993"))
	}
	return k.make(odd)
}

// either is the first text for interfaces, the second for schemas.
func (g *script) either(plain, zod string) string {
	if g.zod {
		return zod
	}
	return plain
}

func (g *script) scalar() kind {
	all := []struct {
		plain, zod string
		values     []any
	}{
		{"number", "z.number()", []any{0, 5, 12.5}},
		{"number", "z.number().int().min(0)", []any{0, 5}},
		{"string", "z.string()", []any{"", "Tern"}},
		{"boolean", "z.boolean()", []any{true, false}},
		{"'low' | 'high'", "z.enum(['low', 'high'])", []any{"low", "high"}},
		{"Tint", "z.nativeEnum(Tint)", []any{"red", 5}},
		{"unknown", "z.unknown()", []any{1, "x", map[string]any{"a": 1}}},
		{"number | string", "z.union([z.number(), z.string()])", []any{1, "x"}},
		{"1 | 2 | null", "z.literal(1).nullable()", []any{1, nil}},
		{"boolean | null", "z.boolean().nullish()", []any{true, nil}},
		{"string", "z.coerce.string()", []any{"a", "b"}},
		{"number", "z.number().catch(0)", []any{1, 2}},
	}
	s := all[g.r.IntN(len(all))]
	return kind{g.either(s.plain, s.zod), func(int) any { return g.pick(s.values...) }}
}

func (g *script) typ(depth int) kind {
	switch k := g.r.IntN(10); {
	case k < 2 && depth < 3:
		of := g.typ(depth + 1)
		return kind{g.either("("+of.text+")[]", "z.array("+of.text+")"), func(odd int) any {
			list := []any{}
			for range g.r.IntN(3) {
				list = append(list, g.value(of, odd))
			}
			return list
		}}
	case k == 2 && depth < 3:
		of := g.typ(depth + 1)
		return kind{g.either("Record<string, "+of.text+">", "z.record(z.string(), "+of.text+")"), func(odd int) any {
			m := map[string]any{}
			for range g.r.IntN(3) {
				m[string(rune('a'+g.r.IntN(5)))] = g.value(of, odd)
			}
			return m
		}}
	case k < 6 && depth < 3:
		return g.object(depth + 1)
	case k == 6:
		of := g.typ(depth + 1)
		return kind{g.either("("+of.text+") | null", of.text+".nullable()"), func(odd int) any {
			if g.r.IntN(4) == 0 {
				return nil
			}
			return g.value(of, odd)
		}}
	}
	return g.scalar()
}

// object is an interface or a schema of some keys.
func (g *script) object(depth int) kind {
	g.count++
	name := fmt.Sprintf("M%d", g.count)
	var fields []kind
	var optional []bool
	for range 1 + g.r.IntN(4) {
		fields, optional = append(fields, g.typ(depth)), append(optional, g.r.IntN(4) == 0)
	}
	var b strings.Builder
	b.WriteString(g.either("export interface "+name+" {\n", "export const "+name+" = z.object({\n"))
	for i, f := range fields {
		switch {
		case g.zod && optional[i]:
			fmt.Fprintf(&b, "  f%d: %s.optional(),\n", i, f.text)
		case g.zod:
			fmt.Fprintf(&b, "  f%d: %s,\n", i, f.text)
		default:
			fmt.Fprintf(&b, "  f%d%s: %s;\n", i, map[bool]string{true: "?"}[optional[i]], f.text)
		}
	}
	b.WriteString(g.either("}\n", "});\n"))
	g.source.WriteString(b.String())
	return kind{name, func(odd int) any {
		m := map[string]any{}
		for i, f := range fields {
			if g.r.IntN(1000) < odd || optional[i] && g.r.IntN(4) == 0 {
				continue
			}
			m[fmt.Sprint("f", i)] = g.value(f, odd)
		}
		return m
	}}
}

// differing are the findings that a place which differs for a reason comes under.
var differing = map[string]string{
	"missing-key": "missing", "renamed-key": "missing", "moved-key": "missing", "null-value": "kind",
	"wrong-kind": "kind", "list-mismatch": "kind", "unknown-constant": "kind", "mixed-values": "kind",
}

// TestCheckIsTrialTypeScript holds check to trial: of types, each place that differs is counted once; of schemas, the
// responses that do not parse, where counts alone say it.
func TestCheckIsTrialTypeScript(t *testing.T) {
	differs, failed, exactly := 0, int64(0), 0
	for seed := range uint64(240) {
		g := &script{r: rand.New(rand.NewPCG(seed, 23)), zod: seed%2 == 1}
		g.source.WriteString("export enum Tint { Red = 'red', Five = 5 }\n")
		if g.zod {
			g.source.WriteString("import { z } from 'zod';\n")
		}
		root := g.object(0)
		set := source.Read([]scan.Source{{Name: "m.ts", Text: g.source.String()}})
		plan, err := trial.For(set, root.text)
		if err != nil {
			t.Fatal(err)
		}
		odd := []int{0, 15, 60}[seed/2%3]
		var docs [][]byte
		fails := int64(0)
		want := map[string]int64{}
		for range 40 {
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
			if out.Err != nil {
				fails++
			}
			for _, d := range out.Differs {
				if len(d.At) == 0 { // a response of another kind is a finding of no model
					continue
				}
				reason := d.Reason
				if reason == "literal" || reason == "null" {
					reason = "kind"
				}
				want[reason]++
				differs++
			}
		}
		result := checked(t, plan, docs)
		if p := result.Pairs[0]; g.zod && (p.LostExact && p.Lost != fails || p.Lost > fails) {
			t.Fatalf("seed %d: check says %d (exact %v) would not parse, trial %d\n%s", seed, p.Lost, p.LostExact, fails, g.source.String())
		} else if g.zod && p.LostExact {
			exactly++
		}
		failed += fails
		if g.zod {
			continue
		}
		got := map[string]int64{}
		for _, m := range result.Models {
			for _, f := range m.Findings {
				if f.Level != finding.Misreads && f.Level != finding.Breaks {
					continue
				}
				if differing[f.Kind.Name] == "" {
					continue
				}
				for _, s := range f.Sites {
					got[differing[f.Kind.Name]] += s.Values
				}
			}
		}
		if fmt.Sprint(got) != fmt.Sprint(want) {
			t.Fatalf("seed %d: check counts %v, one by one %v\n%s", seed, got, want, g.source.String())
		}
	}
	if differs < 1000 || failed < 500 || exactly < 40 {
		t.Errorf("only %d places differed, %d documents failed, %d schemas were counted exactly", differs, failed, exactly)
	}
}

package drift_test

import (
	"encoding/json"
	"fmt"
	"math/rand/v2"
	"strings"
	"testing"

	"vetta/internal/source"
	"vetta/internal/source/scan"
	"vetta/internal/trial"
	"vetta/internal/wire"
)

// classes makes classes of Java or Kotlin for a library, and documents that mostly fit.
type classes struct {
	r      *rand.Rand
	kotlin bool
	gson   bool
	count  int
	source strings.Builder
}

// kind is a type with values that it takes.
type kind struct {
	text string
	make func(odd int) any
}

func (g *classes) pick(values ...any) any { return values[g.r.IntN(len(values))] }

// scalar is a random scalar, by its names in both languages.
func (g *classes) scalar() kind {
	all := []struct {
		java, kotlin string
		values       []any
	}{
		{"int", "Int", []any{0, 5, "12", 7.0}},
		{"Integer", "Int?", []any{0, 5, nil}},
		{"long", "Long", []any{1, 1772357400000}},
		{"byte", "Byte", []any{1, 100}},
		{"short", "Short", []any{3}},
		{"double", "Double", []any{0, 1.5, 4e2}},
		{"Float", "Float?", []any{1.5, 20}},
		{"boolean", "Boolean", []any{true, false}},
		{"Boolean", "Boolean?", []any{true, nil}},
		{"String", "String", []any{"", "Tern", "12", 5, true}},
		{"String", "String?", []any{"x", nil}},
		{"Tint", "Tint", []any{"RED", "green"}},
		{"Object", "Any?", []any{1, "x", nil}},
		{"java.math.BigDecimal", "java.math.BigDecimal?", []any{1, 1.25, "3"}},
		{"java.net.URI", "java.net.URI", []any{"a/b", "https://saltmere.example/"}},
		{"java.util.Date", "java.util.Date?", []any{"2026-03-01T09:30:00Z", "2026-03-01"}},
		{"java.util.UUID", "java.util.UUID", []any{"123e4567-e89b-12d3-a456-426614174000"}},
	}
	s := all[g.r.IntN(len(all))]
	text := s.java
	if g.kotlin {
		text = s.kotlin
	}
	return kind{text, func(int) any { return s.values[g.r.IntN(len(s.values))] }}
}

// boxed is a type as a type argument.
func (g *classes) boxed(k kind) string {
	if class := map[string]string{
		"int":     "Integer",
		"long":    "Long",
		"byte":    "Byte",
		"short":   "Short",
		"double":  "Double",
		"boolean": "Boolean",
	}[k.text]; class != "" {
		return class
	}
	return k.text
}

func (g *classes) typ(depth int) kind {
	k := g.scalar()
	switch n := g.r.IntN(10); {
	case n < 2 && depth < 3:
		elem := g.typ(depth + 1)
		text := "java.util.List<" + g.boxed(elem) + ">"
		if g.kotlin {
			text = "List<" + elem.text + ">"
		} else if g.r.IntN(3) == 0 {
			text = elem.text + "[]"
		}
		k = kind{text, func(odd int) any {
			list := []any{}
			for range g.r.IntN(3) {
				list = append(list, g.value(elem, odd))
			}
			return list
		}}
	case n == 2 && depth < 3:
		elem := g.typ(depth + 1)
		text := "java.util.Map<String, " + g.boxed(elem) + ">"
		if g.kotlin {
			text = "Map<String, " + elem.text + ">"
		}
		k = kind{text, func(odd int) any {
			m := map[string]any{}
			for range g.r.IntN(3) {
				m[string(rune('a'+g.r.IntN(5)))] = g.value(elem, odd)
			}
			return m
		}}
	case n < 5 && depth < 3:
		if !g.kotlin && !g.gson && g.r.IntN(3) == 0 {
			k = g.family(depth + 1)
		} else {
			k = g.class(depth + 1)
		}
	}
	return k
}

// family is a class of Jackson whose objects tell by a key which of several classes they are of.
func (g *classes) family(depth int) kind {
	g.count++
	name := fmt.Sprintf("B%d", g.count)
	info := `use = JsonTypeInfo.Id.NAME, property = "is"`
	if g.r.IntN(3) == 0 {
		info += ", visible = true"
	}
	one, two := g.class(depth), g.class(depth)
	if g.r.IntN(3) == 0 {
		info += ", defaultImpl = " + one.text + ".class"
	}
	fmt.Fprintf(&g.source, `@JsonTypeInfo(%s)
@JsonSubTypes({@JsonSubTypes.Type(value = %s.class, name = "one"), @JsonSubTypes.Type(value = %s.class, names = {"two", "deux"})})
abstract class %s {}
`, info, one.text, two.text, name)
	text := g.source.String()
	for _, sub := range []string{one.text, two.text} {
		text = strings.Replace(text, "class "+sub+" {", "class "+sub+" extends "+name+" {", 1)
	}
	g.source.Reset()
	g.source.WriteString(text)
	return kind{name, func(odd int) any {
		id, of := "one", one
		if g.r.IntN(2) == 0 {
			id, of = g.pick("two", "deux").(string), two
		}
		m := of.make(odd).(map[string]any)
		switch n := g.r.IntN(1000); {
		case n < odd/2:
		case n < odd:
			m["is"] = g.pick("three", 1, nil, "", []any{})
		default:
			m["is"] = id
		}
		return m
	}}
}

func (g *classes) class(depth int) kind {
	g.count++
	name := fmt.Sprintf("M%d", g.count)
	var fields []kind
	var names []string
	for i := range 1 + g.r.IntN(4) {
		names, fields = append(names, fmt.Sprintf("f%d", i)), append(fields, g.typ(depth))
	}
	var b strings.Builder
	switch {
	case g.kotlin:
		fmt.Fprintf(&b, "data class %s(", name)
		for i, f := range fields {
			fmt.Fprintf(&b, "val %s: %s, ", names[i], f.text)
		}
		b.WriteString(")\n")
	default:
		ignore := ""
		if !g.gson && g.r.IntN(2) == 0 {
			ignore = "@JsonIgnoreProperties(ignoreUnknown = true) "
		}
		fmt.Fprintf(&b, "%sclass %s {\n", ignore, name)
		for i, f := range fields {
			fmt.Fprintf(&b, "  public %s %s;\n", f.text, names[i])
		}
		b.WriteString("}\n")
	}
	g.source.WriteString(b.String())
	return kind{name, func(odd int) any {
		m := map[string]any{}
		for i, f := range fields {
			if g.r.IntN(1000) >= odd*3 {
				m[names[i]] = g.value(f, odd)
			}
		}
		if g.r.IntN(1000) < odd {
			m["more"] = 1
		}
		return m
	}}
}

// value is a document for a type: mostly one that it takes.
func (g *classes) value(k kind, odd int) any {
	if g.r.IntN(1000) < odd {
		return g.pick(nil, true, 1, -3, 300, 12.5, 1e300, "", "x", "12", "true", []any{}, []any{1}, map[string]any{}, map[string]any{"f0": 1}, "2026-13-40", json.RawMessage("9007199254740993"), json.RawMessage("1e400"))
	}
	return k.make(odd)
}

// TestCheckIsTrialOnTheJVM holds check to trial as TestCheckIsTrial does, for Gson with
// Java and Kotlin and for Jackson with both.
func TestCheckIsTrialOnTheJVM(t *testing.T) {
	exactly, failed := 0, int64(0)
	for seed := range uint64(320) {
		g := &classes{r: rand.New(rand.NewPCG(seed, 11)), kotlin: seed%4 == 1 || seed%4 == 3, gson: seed%4 < 2}
		name := "M.java"
		switch {
		case g.kotlin && g.gson:
			name = "M.kt"
			g.source.WriteString("import com.google.gson.annotations.SerializedName\nenum class Tint { RED, @SerializedName(\"green\") GREEN }\n")
		case g.kotlin:
			name = "M.kt"
			g.source.WriteString("import com.fasterxml.jackson.annotation.*\nenum class Tint { RED, @JsonProperty(\"green\") GREEN }\n")
		case g.gson:
			g.source.WriteString("import com.google.gson.annotations.SerializedName;\nenum Tint { RED, @SerializedName(\"green\") GREEN }\n")
		default:
			g.source.WriteString("import com.fasterxml.jackson.annotation.*;\nenum Tint { RED, @JsonProperty(\"green\") GREEN }\n")
		}
		root := g.class(0)
		set := source.Read([]scan.Source{{Name: name, Text: g.source.String()}})
		plan, err := trial.For(set, root.text)
		if err != nil {
			t.Fatal(err)
		}
		odd := []int{0, 15, 60}[seed/4%3]
		var docs [][]byte
		fails := int64(0)
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
			one, lost, exact := counts(t, plan, [][]byte{doc})
			if exact && (lost > 0) != (out.Err != nil) || lost > 0 && out.Err == nil {
				t.Fatalf("seed %d: check says %d would not decode, trial says %v\n%s\n%s\n%v", seed, lost, out.Err, doc, g.source.String(), one)
			}
			if out.Err != nil {
				fails++
			}
		}
		_, lost, exact := counts(t, plan, docs)
		if exact && lost != fails || lost > fails {
			t.Fatalf("seed %d: %d (exact %v) would not decode by check, %d by trial\n%s", seed, lost, exact, fails, g.source.String())
		}
		failed += fails
		if exact {
			exactly++
		}
	}
	if exactly < 270 || failed < 1000 {
		t.Errorf("only %d of 320 models were counted exactly, and only %d documents failed", exactly, failed)
	}
}

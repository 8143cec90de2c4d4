package shape

import (
	"fmt"
	"math/rand/v2"
	"os"
	"strings"
	"testing"

	"vetta/internal/wire"
)

// notices tells the objects of a list of notices apart by their kind.
var notices = Teller{Steps: []wire.Step{wire.MemberOf("notices"), {Index: wire.AnyElement}}, Name: "kind", IDs: []string{"delay", "works", "1"}}

// describeSubtypes writes the classes at a place and the keys that their objects have.
func describeSubtypes(p *Place) string {
	var out []string
	for _, s := range p.Subtypes {
		text := fmt.Sprintf("%d where %s:", s.Place.Count(wire.Object), s.Place.Where)
		for _, k := range s.Place.Keys {
			text += fmt.Sprintf(" %s %d", k.Name, k.Objects)
			if k.Later != nil {
				text += "+"
			}
		}
		out = append(out, text)
	}
	return strings.Join(out, "; ")
}

func TestTell(t *testing.T) {
	for _, c := range []struct{ name, doc, want string }{
		{"by class", `{"notices":[{"kind":"works","berth":1},{"kind":"delay","minutes":5},{"kind":"delay"}]}`,
			`2 where kind is "delay": kind 2 minutes 1; 1 where kind is "works": kind 1 berth 1`},
		{"told late", `{"notices":[{"a":{"kind":"works","b":[{}]},"kind":"delay"}]}`, `1 where kind is "delay": a 1 kind 1`},
		{"not told", `{"notices":[{"minutes":5},{"kind":null,"a":1},{"kind":{"kind":"delay"}},{}]}`, `4 where kind is absent: minutes 1 kind 2 a 1`},
		{"of no known class", `{"notices":[{"kind":"fog"},{"kind":"ice","a":1},{"kind":true},{"kind":""}]}`, `4 where kind is something else: kind 4 a 1`},
		{"a number", `{"notices":[{"kind":1,"a":2}]}`, `1 where kind is "1": kind 1 a 1`},
		{"the first that is a scalar", `{"notices":[{"kind":null,"kind":"works","kind":"delay"}]}`, `1 where kind is "works": kind 1+`},
		{"escaped", `{"notices":[{"k\u0069nd":"\u0064elay"}]}`, `1 where kind is "delay": kind 1`},
		{"in order", `{"notices":[{},{"kind":"x"},{"kind":"works"}]}`, `1 where kind is "works": kind 1; 1 where kind is something else: kind 1; 1 where kind is absent:`},
	} {
		e := NewEndpoint("e", DefaultLimits)
		e.Tell([]Teller{notices})
		var r Reader
		// What is malformed leaves nothing behind, also where its classes are known by then.
		bad := []byte(`{"notices":[{"kind":"delay","lost":1},{"kind":"works","lost":2},{"kind":`)
		if _, err := r.Read(e, &Source{Data: bad, Line: 1, Column: 1}, 0); err == nil {
			t.Fatal("a torn document is read")
		}
		if _, err := r.Read(e, &Source{Data: []byte(c.doc), Line: 1, Column: 1}, 0); err != nil {
			t.Fatal(err)
		}
		e.Settle()
		p := e.At("$.notices[*]")
		if got := describeSubtypes(p); got != c.want {
			t.Errorf("%s:\n got %s\nwant %s", c.name, got, c.want)
		}
		objects := int64(0)
		for _, s := range p.Subtypes {
			objects += s.Place.Count(wire.Object)
		}
		if len(p.Keys)+len(p.Forms) > 0 || p.Count(wire.Object) != objects {
			t.Errorf("%s: the place itself has %d keys, and %d objects of %d", c.name, len(p.Keys), p.Count(wire.Object), objects)
		}
	}
}

func TestTellWithin(t *testing.T) {
	within := Teller{Steps: append(append([]wire.Step{}, notices.Steps...), wire.MemberOf("of"), wire.Step{Index: wire.AnyElement}), Where: `kind is "works"`, Name: "kind", IDs: []string{"delay"}}
	e := NewEndpoint("e", DefaultLimits)
	e.Tell([]Teller{notices, within})
	var r Reader
	doc := `{"notices":[{"kind":"works","of":[{"kind":"delay","a":1}]},{"kind":"delay","of":[{"kind":"delay","b":1}]}]}`
	if _, err := r.Read(e, &Source{Data: []byte(doc), Line: 1, Column: 1}, 0); err != nil {
		t.Fatal(err)
	}
	e.Settle()
	var got []string
	e.Root.Walk(func(p *Place) {
		if len(p.Subtypes) > 0 || p.Where != "" && len(p.Keys) > 0 {
			got = append(got, p.Path()+" "+p.Where+" ["+describeSubtypes(p)+"]")
		}
	})
	want := []string{
		`$.notices[*]  [1 where kind is "delay": kind 1 of 1; 1 where kind is "works": kind 1 of 1]`,
		`$.notices[*] kind is "delay" []`,
		`$.notices[*].of[*] kind is "delay" []`,
		`$.notices[*] kind is "works" []`,
		`$.notices[*].of[*] kind is "works" [1 where kind is "delay", inside one whose kind is "works": kind 1 a 1]`,
		`$.notices[*].of[*] kind is "delay", inside one whose kind is "works" []`,
	}
	if g, w := strings.Join(got, "\n"), strings.Join(want, "\n"); g != w {
		t.Errorf("got\n%s\nwant\n%s", g, w)
	}
}

// TestApart reads captures again and puts the classes together: all objects are in one of them,
// however many workers read.
func TestApart(t *testing.T) {
	r := rand.New(rand.NewPCG(5, 5))
	kinds := []string{`"kind":"delay",`, `"kind":"works",`, `"kind":"fog",`, ""}
	docs := map[string]string{"ports-1.json": `{"code":"SAL","name":"Saltmere"}`}
	for i := range 40 {
		var list []string
		for range r.IntN(4) {
			list = append(list, fmt.Sprintf(`{%s"k%d":%d}`, kinds[r.IntN(4)], r.IntN(5), r.IntN(9)))
		}
		docs[fmt.Sprintf("notices-%d.json", i)] = `{"notices":[` + strings.Join(list, ",") + `]}`
	}
	files := write(t, docs)
	var e *Endpoint
	for _, each := range Collect(files, Reading{Workers: 2, Limits: DefaultLimits}).Endpoints {
		if strings.Contains(each.Name, "notices") {
			e = each
		}
	}
	one := Apart(e, []Teller{notices}, nil, files, Reading{Workers: 1})
	want := dump(&Shape{Endpoints: []*Endpoint{one}})
	for _, workers := range []int{2, 5} {
		if got := dump(&Shape{Endpoints: []*Endpoint{Apart(e, []Teller{notices}, nil, files, Reading{Workers: workers})}}); got != want {
			t.Errorf("%d workers differ from one\n%s", workers, diff(want, got))
		}
	}
	if one.Responses != 40 {
		t.Errorf("%d responses", one.Responses)
	}
	whole, apart := e.At("$.notices[*]"), one.At("$.notices[*]")
	objects, keys := int64(0), map[string]int64{}
	for _, s := range apart.Subtypes {
		objects += s.Place.Count(wire.Object)
		for _, k := range s.Place.Keys {
			keys[k.Name] += k.Objects
		}
	}
	if len(apart.Subtypes) != 4 || objects != whole.Count(wire.Object) {
		t.Errorf("%d objects of %d classes, want all %d of 4", objects, len(apart.Subtypes), whole.Count(wire.Object))
	}
	for _, k := range whole.Keys {
		if keys[k.Name] != k.Objects {
			t.Errorf("%s is in %d objects of classes, want %d", k.Name, keys[k.Name], k.Objects)
		}
	}

	if err := os.WriteFile(files[0].Path, []byte(`{"notices":`), 0o644); err != nil {
		t.Fatal(err)
	}
	if again := Apart(e, []Teller{notices}, nil, files, Reading{Workers: 1}); again != nil {
		t.Error("a capture has changed, and is taken for what was read before")
	}
}

package shape

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"
)

// randomXML writes an element: in some, few names come in any order; in others there are many.
func randomXML(r *rand.Rand, out *strings.Builder, depth int) {
	name := string(rune('a' + r.IntN(3)))
	if r.IntN(9) == 0 {
		name = fmt.Sprintf("k%d", r.IntN(30))
	}
	out.WriteString("<" + name)
	switch r.IntN(6) {
	case 0:
		fmt.Fprintf(out, ` at="%d"`, r.IntN(10))
	case 1:
		out.WriteString(` xmlns:i="http://www.w3.org/2001/XMLSchema-instance" i:nil="true"`)
	}
	if r.IntN(6) == 0 {
		out.WriteString("/>")
		return
	}
	out.WriteString(">")
	for range r.IntN(9 - depth) {
		switch n := r.IntN(8); {
		case n == 0:
			fmt.Fprintf(out, "%d", r.IntN(100))
		case n == 1:
			out.WriteString("\n  ")
		case depth < 7:
			randomXML(r, out, depth+1)
		}
	}
	out.WriteString("</" + name + ">")
}

// TestStretchesAreTheWhole: a document that is read in stretches is read as one that is read at once.
func TestStretchesAreTheWhole(t *testing.T) {
	tight := Limits{Keys: 4, Forms: 6, Texts: 5, Numbers: 3, TextLen: 20, Combos: 4096, Forms2: 3}
	for name, l := range map[string]Limits{"default": DefaultLimits, "tight": tight} {
		shown := withoutValues
		if name == "tight" { // which of a map's members come first is told by the order in which they are read
			shown = counts
		}
		for seed := range uint64(10) {
			r := rand.New(rand.NewPCG(seed, 8))
			docs := map[string]string{}
			for i := range 6 {
				var out strings.Builder
				if out.WriteString("<fleet>"); i == 4 {
					out.Reset()
				}
				for range 20 {
					if i != 4 {
						randomXML(r, &out, 1)
					}
				}
				if i == 4 {
					randomXML(r, &out, 0)
				} else if i != 3 { // one ends too early, and leaves nothing behind
					out.WriteString("</fleet>")
				}
				docs[fmt.Sprintf("fleet-%d.xml", i)] = out.String()
			}
			files := write(t, docs)
			want := shown(Collect(files, Reading{Workers: 1, Limits: l}))
			for _, size := range []int{1, 60, 700} {
				if got := shown(Collect(files, Reading{Workers: 1, Limits: l, large: 1, stretch: size})); got != want {
					t.Fatalf("%s, %d, in stretches of %d:\n%s\nwhole:\n%s\nof:\n%q", name, seed, size, got, want, docs)
				}
			}
		}
	}
}

// counts are what a dump counts, without what goes by which key or which value came first.
func counts(s *Shape) string {
	for _, e := range s.Endpoints {
		e.eachTally(func(t *Tally) { t.Examples = nil })
	}
	lines := slices.DeleteFunc(strings.Split(dump(s), "\n"), func(line string) bool { return strings.HasPrefix(line, "  form ") })
	slices.Sort(lines)
	return strings.Join(lines, "\n")
}

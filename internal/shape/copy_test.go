package shape

import (
	"math/rand/v2"
	"testing"

	"vetta/internal/capture"
)

// TestCopiesAreTheSame: read file by file, copied and put together it is what reading all at once gives, however often.
func TestCopiesAreTheSame(t *testing.T) {
	tight := Limits{Keys: 4, Forms: 6, Texts: 5, Numbers: 3, TextLen: 20, Combos: 4096, Forms2: 3}
	for name, l := range map[string]Limits{"default": DefaultLimits, "tight": tight} {
		for seed := range uint64(12) {
			r := rand.New(rand.NewPCG(seed, 5))
			files := write(t, randomDocuments(r, 40, name == "tight"))
			want := dump(Collect(files, Reading{Workers: 1, Limits: l}))
			var kept []*Collection
			for i := range files {
				one := *files[i]
				kept = append(kept, Gather([]*capture.File{&one}, Reading{Workers: 1, Limits: l}))
			}
			for again := range 3 {
				all := kept[0].Copy()
				for _, c := range kept[1:] {
					all.Merge(c.Copy())
				}
				if got := dump(all.Shape()); got != want {
					t.Fatalf("%s, %d: copied %d times it is\n%s\nwant\n%s", name, seed, again+1, got, want)
				}
			}
		}
	}
}

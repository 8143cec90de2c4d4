package shape

import (
	"bytes"
	"fmt"
	"math/rand/v2"
	"strings"
	"testing"

	"vetta/internal/wire"
)

// withoutValues is a dump without what examples quote, which saving drops.
func withoutValues(s *Shape) string {
	for _, e := range s.Endpoints {
		e.eachTally(func(t *Tally) {
			for i := range t.Examples {
				t.Examples[i].Value = ""
			}
		})
	}
	return dump(s)
}

func notSecret([]wire.Step, string) bool { return false }

func roundTrip(t testing.TB, c *Collection) *Collection {
	t.Helper()
	var out bytes.Buffer
	if err := c.Save(&out, notSecret); err != nil {
		t.Fatal(err)
	}
	back, err := Load(&out)
	if err != nil {
		t.Fatal(err)
	}
	return back
}

// TestSavedIsTheSame: saving and merging parts gives what reading all at once does.
func TestSavedIsTheSame(t *testing.T) {
	tight := Limits{Keys: 4, Forms: 6, Texts: 5, Numbers: 3, TextLen: 20, Combos: 4096, Forms2: 3}
	for name, l := range map[string]Limits{"default": DefaultLimits, "tight": tight} {
		for seed := range uint64(20) {
			r := rand.New(rand.NewPCG(seed, 3))
			files := write(t, randomDocuments(r, 60, name == "tight"))
			want := withoutValues(Collect(files, Reading{Workers: 1, Limits: l}))
			var parts [3]*Collection
			for i := range parts {
				own := files[:0:0]
				for k, f := range files {
					if k%3 == i {
						copied := *f
						copied.Order = len(own)
						own = append(own, &copied)
					}
				}
				parts[i] = roundTrip(t, Gather(own, Reading{Workers: 2, Limits: l}))
			}
			parts[2].Merge(parts[0])
			parts[2].Merge(parts[1])
			if got := withoutValues(parts[2].Shape()); got != want {
				t.Fatalf("seed %d, %s limits: saved and merged differs\n%s", seed, name, diff(want, got))
			}
		}
	}
}

func TestSaveKeepsNoSecrets(t *testing.T) {
	files := write(t, map[string]string{"pass.json": `{"holder":"Mara Finch","token":"tok-1234567","at":"2026-03-01"}`})
	var out bytes.Buffer
	secret := func(steps []wire.Step, _ string) bool { return len(steps) > 0 && steps[0].Name == "token" }
	if err := Gather(files, Reading{Workers: 1, Limits: DefaultLimits}).Save(&out, secret); err != nil {
		t.Fatal(err)
	}
	if text := out.String(); strings.Contains(text, "tok-1234567") || !strings.Contains(text, "Mara Finch") {
		t.Errorf("%s", text)
	}
	back, err := Load(&out)
	if err != nil {
		t.Fatal(err)
	}
	s := back.Shape()
	if s.Documents != 1 || s.Endpoints[0].Root.Key("token").Place.Total() != 1 {
		t.Errorf("%s", dump(s))
	}
}

func TestLoadRefuses(t *testing.T) {
	for _, c := range [][2]string{
		{"", "it is no saved shape: EOF"}, {"{}", "it is no saved shape"}, {`{"format":"vetta shape","version":9}`, "version 9"},
		{`{"format":"vetta shape","version":2,"groups":[{"name":"a","roots":[{"root":"{","captures":[3]}]}]}`, "a capture that it does not list"},
		{`{"format":"vetta shape","version":2,"groups":[{"name":"a","roots":[{"root":"{","combos":[[1,5]]}]}]}`, "a symbol that is not there"},
		{`{"format":"vetta shape","version":2,"groups":[{"name":"a","roots":[{"root":"[","symbols":2,"place":{"classes":[{"kind":2,"values":1,"witness":"x"}]}}]}]}`, "no literal of its class"},
		{`{"format":"vetta shape","version":2,"groups":[{"name":"a","roots":[{"responses":1}]}]}`, "a root has no name"},
		{`{"format":"vetta shape","version":2,"groups":[{"name":"a","roots":[{"root":"{","symbols":1,"place":{"keys":[{"name":"b"}],"forms":[{"values":1,"has":[0]}]}}]}]}`, "more often than its place has"},
		{`{"format":"vetta shape","version":1} {}`, "something follows the saved shape"},
	} {
		if _, err := Load(strings.NewReader(c[0])); err == nil || !strings.Contains(err.Error(), c[1]) {
			t.Errorf("%s: %v, want %s", c[0], err, c[1])
		}
	}
}

// FuzzLoad: a foreign shape file is refused or read, and what was read can be used.
func FuzzLoad(f *testing.F) {
	files := write(f, map[string]string{"a-1.json": `{"a":[1,"x",null,{"b":2.5}],"c":"2026-03-01"}`, "a-2.json": `{"a":[],"d":true,"d":1}`})
	var out bytes.Buffer
	if err := Gather(files, Reading{Workers: 1, Limits: DefaultLimits}).Save(&out, notSecret); err != nil {
		f.Fatal(err)
	}
	f.Add(out.Bytes())
	f.Add([]byte(`{"format":"vetta shape","version":2,"captures":["a"],"groups":[{"name":"g","roots":[{"root":"[","symbols":1,"place":{"element":{}}}]}]}`))
	f.Fuzz(func(t *testing.T, data []byte) {
		c, err := Load(bytes.NewReader(data))
		if err != nil {
			return
		}
		again, err := Load(bytes.NewReader(data))
		if err != nil {
			t.Fatal(err)
		}
		c.Merge(again)
		_ = fmt.Sprint(len(dump(c.Shape())))
	})
}

package shape

import (
	"bytes"
	"encoding/json"
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

// TestSaveKeepsNoSecretNames: keys of a map that look secret are kept nowhere.
func TestSaveKeepsNoSecretNames(t *testing.T) {
	files := write(t, map[string]string{"u.json": `{"users":{"mara@x":{"n":1},"ada@x":{"n":"x"}},"list":[{"ada@x":null}]}`})
	var out bytes.Buffer
	secret := func(steps []wire.Step, literal string) bool { return IsName(steps) && strings.Contains(literal, "@") }
	if err := Gather(files, Reading{Workers: 1, Limits: DefaultLimits}).Save(&out, secret); err != nil {
		t.Fatal(err)
	}
	if text := out.String(); strings.Contains(text, "@") {
		t.Errorf("%s", text)
	}
	back, err := Load(&out)
	if err != nil {
		t.Fatal(err)
	}
	users := back.Shape().Endpoints[0].Root.Key("users").Place
	if users.Member == nil || users.Member.Key("n").Place.Total() != 2 {
		t.Error("what was in the map is lost")
	}
}

func TestLoadRefuses(t *testing.T) {
	const head = `{"format":"vetta shape","version":3,"documents":1,"captures":["a.json"],`
	for _, c := range [][2]string{
		{"", "it is no saved shape: EOF"}, {"{}", "it is no saved shape"}, {`{"format":"vetta shape","version":9}`, "version 9"},
		{`{"format":"vetta shape","version":3,"documents":1}`, "it is damaged"},
		{head + `"groups":[{"name":"a","roots":[{"root":"{","captures":[3]}]}]}`, "a capture that it does not list"},
		{head + `"groups":[{"name":"a","roots":[{"root":"{","combos":[[1,5]]}]}]}`, "a symbol that is not there"},
		{head + `"groups":[{"name":"a","roots":[{"root":"[","responses":1,"symbols":2,"place":{"classes":[{"kind":2,"values":1,"witness":"x"}]}}]}]}`, "no literal of its class"},
		{head + `"groups":[{"name":"a","roots":[{"responses":1}]}]}`, "a root has no name"},
		{head + `"groups":[{"name":"a","roots":[{"root":"{","symbols":1,"place":{"keys":[{"name":"b"}],"forms":[{"values":1,"has":[0]}]}}]}]}`, "more often than its place has"},
		{head + `"groups":[],"grops":[]}`, `unknown field "grops"`},
		{head + `"several":[5],"groups":[]}`, "a capture that is not listed"},
		{head + `"groups":[{"name":"a","roots":[{"root":"{","responses":-1}]}]}`, "a count is out of range"},
		{head + `"groups":[{"name":"a","roots":[{"root":"{","responses":1,"symbols":1,"place":{"classes":[{"kind":0,"values":1,"responses":2}]}}]}]}`, "a count is out of range"},
		{head + `"groups":[{"name":"a","roots":[{"root":"{","responses":9223372036854775807}]}]}`, "a count is out of range"},
		{`{"format":"vetta shape","version":3,"documents":0,"groups":[]}`, "it holds no responses"},
		{`{"format":"vetta shape","version":1} {}`, "something follows the saved shape"},
	} {
		text := []byte(c[0])
		if !strings.Contains(c[1], "damaged") && strings.Contains(c[0], `"version":3`) {
			text = withChecksum(text)
		}
		if _, err := Load(bytes.NewReader(text)); err == nil || !strings.Contains(err.Error(), c[1]) {
			t.Errorf("%s: %v, want %s", text, err, c[1])
		}
	}
}

// TestDamageIsNoticed: no bit of a saved shape can be another without its being refused.
func TestDamageIsNoticed(t *testing.T) {
	files := write(t, map[string]string{"a-1.json": `{"a":[1,"x",null,{"b":2.5}],"c":"2026-03-01"}`, "a-2.json": `{"a":[],"d":true,"d":1}`})
	var out bytes.Buffer
	if err := Gather(files, Reading{Workers: 1, Limits: DefaultLimits}).Save(&out, notSecret); err != nil {
		t.Fatal(err)
	}
	for i := range out.Bytes() {
		for bit := range 8 {
			text := bytes.Clone(out.Bytes())
			text[i] ^= 1 << bit
			if _, err := Load(bytes.NewReader(text)); err == nil && i < len(text)-1 {
				t.Fatalf("bit %d of byte %d is another, and it is read: %s", bit, i, text[max(0, i-20):min(len(text), i+20)])
			}
		}
	}
}

// TestBeyondADouble: one number that no double holds loses nothing else.
func TestBeyondADouble(t *testing.T) {
	files := write(t, map[string]string{"a-1.json": `{"a":1e400,"b":-1e400}`, "a-2.json": `{"a":2,"b":3}`})
	c := Gather(files, Reading{Workers: 1, Limits: DefaultLimits})
	want := withoutValues(roundTrip(t, c).Shape())
	if got := withoutValues(Collect(files, Reading{Workers: 1, Limits: DefaultLimits})); got != want {
		t.Errorf("%s", diff(want, got))
	}
}

// TestWitnessesAreOfTheirClass: what is kept in place of a value fares as it does, and tells nothing of it.
func TestWitnessesAreOfTheirClass(t *testing.T) {
	texts := []string{`"Mara Finch"`, `"https:\/\/saltmere.example\/x?sig=abc123"`, `"https://saltmere.example/quay 7"`, `"4111111111111111"`, `"1e5"`, `"2026-03-09"`, `"2026-03-09T09:30:00.25+02:00"`, `"f47ac10b-58cc-4372-a567-0e02b2c3d479"`, `"\ud800abc"`, `"aGVsbG8="`, `"a\u0000b"`, `""`, `"[x:"`, `4711`, `-12.50`, `1e5`}
	for i, text := range texts {
		files := write(t, map[string]string{"a.json": `{"pin":` + text + `}`})
		c := Gather(files, Reading{Workers: 1, Limits: DefaultLimits})
		var out bytes.Buffer
		if err := c.Save(&out, func(steps []wire.Step, _ string) bool { return len(steps) > 0 }); err != nil {
			t.Fatal(err)
		}
		// Only what came from the response: the capture's path and the checksum hold digits by chance.
		var saved struct{ Groups json.RawMessage }
		if err := json.Unmarshal(out.Bytes(), &saved); err != nil {
			t.Fatal(err)
		}
		kept := string(saved.Groups)
		for _, part := range []string{"Mara", "Finch", "saltmere", "abc123", "4111", "f47ac10b", "aGVsbG8", "4711"} {
			if strings.Contains(text, part) && strings.Contains(kept, part) {
				t.Errorf("%d: %s is kept of %s:\n%s", i, part, text, out.String())
			}
		}
		back, err := Load(&out)
		if err != nil {
			t.Fatal(err)
		}
		for _, counted := range back.Shape().Endpoints[0].Root.Key("pin").Place.Sorted() {
			if counted.Witness != "" && ClassOf([]byte(counted.Witness)) != counted.Class {
				t.Errorf("%s is kept as %s, which is of another class", text, counted.Witness)
			}
			if counted.Witness == "" && !strings.Contains(text, `\`) && !strings.Contains(text, "[x:") && !strings.Contains(text, "1e5") {
				t.Errorf("nothing is kept for %s", text)
			}
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
	f.Add([]byte(`{"format":"vetta shape","version":3,"documents":1,"captures":["a"],"groups":[{"name":"g","roots":[{"root":"[","symbols":1,"place":{"element":{}}}]}]}`))
	f.Fuzz(func(t *testing.T, data []byte) {
		if at := bytes.LastIndex(data, []byte(checksumMember)); at >= 0 {
			data = append(data[:at:at], '}')
		}
		data = withChecksum(data)
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

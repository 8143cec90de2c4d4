package library

import (
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"vetta/internal/encoder"
	"vetta/internal/model"
	"vetta/internal/source"
	"vetta/internal/source/scan"
	"vetta/internal/wire"
)

// TestWritten holds what is said to be written to what Gson and Jackson wrote themselves (scripts/measure): every
// key that was written is one that may be, every one that must be is there, and every value is of a kind
// that is said.
func TestWritten(t *testing.T) {
	paths, err := filepath.Glob("testdata/written/*.txt")
	if err != nil || len(paths) == 0 {
		t.Fatal("no files", err)
	}
	for _, path := range paths {
		t.Run(strings.TrimSuffix(filepath.Base(path), ".txt"), func(t *testing.T) {
			text, err := os.ReadFile(path)
			if err != nil {
				t.Fatal(err)
			}
			var sources []scan.Source
			var written string
			for _, part := range strings.Split(string(text), "-- ")[1:] {
				name, body, _ := strings.Cut(part, " --\n")
				if name == "written" {
					written = strings.TrimSpace(body)
				} else {
					sources = append(sources, scan.Source{Name: name, Text: body})
				}
			}
			set := source.Read(sources)
			var value *encoder.Value
			for _, c := range set.Sends {
				if c.Declared == "Root" {
					value = For(c.Type.Model.Language, c.Settings).Writes(c.Type, c.Settings)
				}
			}
			if value == nil {
				t.Fatalf("nothing is seen to write a Root: %v", set.Sends)
			}
			for _, doc := range strings.Split(written, "\n") {
				v, err := wire.Parse([]byte(doc))
				if err != nil {
					t.Fatal(err)
				}
				holds(t, "$", value, v)
			}
			known := 0
			for _, m := range value.Members {
				if m.Value.Why == "" {
					known++
				}
			}
			if 3*known < 2*len(value.Members) {
				t.Errorf("of %d members %d are known", len(value.Members), known)
			}
		})
	}
}

var kinds = map[wire.Kind]encoder.Kinds{wire.Null: encoder.Null, wire.Bool: encoder.Bool, wire.Number: encoder.Number, wire.String: encoder.String, wire.Array: encoder.Array, wire.Object: encoder.Object}

// holds holds what is said to be written at a place to what was.
func holds(t *testing.T, at string, said *encoder.Value, was *wire.Value) {
	t.Helper()
	if said == nil || said.Why != "" {
		return
	}
	if said.Kinds&kinds[was.Kind] == 0 {
		t.Errorf("%s: %s was written, which is not said", at, was.Raw)
		return
	}
	for i := range was.Elems {
		holds(t, at+"[*]", said.Elem, was.Elems[i])
	}
	if was.Kind != wire.Object || said.Model == nil {
		return
	}
	for i := range was.Members {
		key := was.Members[i].Name
		m := said.Member(key)
		switch {
		case m == nil && !said.Open:
			t.Errorf("%s: the key %s was written, which is not said", at, key)
		case m != nil:
			holds(t, at+"."+key, m.Value, was.Members[i].Value)
		}
	}
	for _, m := range said.Members {
		if !m.Optional && !slices.ContainsFunc(was.Members, func(was wire.Member) bool { return was.Name == m.Key }) {
			t.Errorf("%s: the key %s was not written, and it is said that it always is", at, m.Key)
		}
	}
}

// readOnly are the libraries of which it is not known what they write.
var readOnly = []string{
	"orgjson", "csharp", "moshi", "kotlinx.serialization", "dart", "system.text.json", "newtonsoft.json", "typescript", "zod", "valibot", "class-validator", "io-ts",
	"xmlserializer", "datacontract", "datacontractjson",
}

// TestUnread: of a library whose rules are not known nothing is claimed.
func TestUnread(t *testing.T) {
	for _, l := range All {
		if l.Writes == nil && !slices.Contains(readOnly, l.Name) {
			t.Errorf("%s writes, and it is not said what", l.Name)
		}
		if l.Writes == nil {
			continue
		}
		v := l.Writes(&model.Type{Name: "Ferry"}, &model.Settings{Library: l.Name, Why: "it is one of several"})
		if v.Why == "" || v.Kinds != encoder.Any {
			t.Errorf("%s claims what is written with settings that are not known", l.Name)
		}
	}
}

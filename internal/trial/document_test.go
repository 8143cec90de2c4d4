package trial

import (
	"os"
	"path/filepath"
	"strings"
	"testing"

	"vetta/internal/capture"
	"vetta/internal/decoder"
	"vetta/internal/model"
	"vetta/internal/source"
	"vetta/internal/source/scan"
	"vetta/internal/wire"
)

// TestTextBehindAValue: text on the line on which a value ends belongs to its document, and a library that
// reads one value passes over it.
func TestTextBehindAValue(t *testing.T) {
	gson := source.Read([]scan.Source{{Name: "Port.java", Text: `import com.google.gson.Gson; class Port { String code; static Port load(String text) { return new Gson().fromJson(text, Port.class); } }`}})
	jackson := `import com.fasterxml.jackson.databind.ObjectMapper; class Port { public String code; static Port load(String text) throws Exception { return new ObjectMapper()SET.readValue(text, Port.class); } }`
	stops := source.Read([]scan.Source{{Name: "Port.java", Text: strings.Replace(jackson, "SET", "", 1)}})
	strict := source.Read([]scan.Source{{Name: "Port.java", Text: strings.Replace(jackson, "SET", ".enable(com.fasterxml.jackson.databind.DeserializationFeature.FAIL_ON_TRAILING_TOKENS)", 1)}})
	for _, c := range []struct {
		name string
		set  *model.Set
		text string
		want string
	}{
		{"Gson", gson, `{"code":"SAL"} x`, "d.json malformed"},
		{"Gson, documents in a row", gson, `{"code":"SAL"}{"code":"TER"}`, "d.json#1 decodes, d.json#2 decodes"},
		{"Gson, a bracket too many", gson, `{"code":"SAL"}]`, "d.json malformed"},
		{"Jackson", stops, `{"code":"SAL"} x`, "d.json decodes"},
		{"Jackson that asks for the end", strict, `{"code":"SAL"} x`, "d.json malformed"},
		{"on the next line", gson, "{\n\"code\":\"SAL\"}\n{\"code\":\"TER\"}", "d.json#1 decodes, d.json#2 decodes"},
		{"on the next line, malformed", gson, "{\n\"code\":\"SAL\"}\nx", "d.json#1 decodes, d.json#2 malformed"},
		{"nothing but blanks", gson, "{\"code\":\"SAL\"} \n", "d.json decodes"},
	} {
		file := filepath.Join(t.TempDir(), "d.json")
		if err := os.WriteFile(file, []byte(c.text), 0o644); err != nil {
			t.Fatal(err)
		}
		plan, err := For(c.set, "Port")
		if err != nil {
			t.Fatal(err)
		}
		var got []string
		Run(&capture.Reader{}, &capture.File{Path: file}, nil, func(doc *wire.Value, _ capture.Document) ([]Target, string) {
			return []Target{{Plan: plan, Value: doc}}, ""
		}, func(d *Document) {
			outcome := "decodes"
			if d.Malformed != nil {
				outcome = "malformed"
			} else if d.Outcome.Err != nil || d.Outcome.Seen.Kind == decoder.SeenUnknown {
				outcome = "fails"
			}
			got = append(got, filepath.Base(d.Name)+" "+outcome)
		}, func(capture.Problem) {}, func(capture.Passed) {})
		if all := strings.Join(got, ", "); all != c.want {
			t.Errorf("%s: %s, want %s", c.name, all, c.want)
		}
	}
}

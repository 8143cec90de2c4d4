package trial

import (
	"os"
	"path/filepath"
	"strings"
	"testing"

	"vetta/internal/source"
	"vetta/internal/source/scan"
	"vetta/internal/wire"
)

// FuzzPlans makes plans of whatever source declares and takes a document through them:
// no source and no document may make a library's rules fail.
func FuzzPlans(f *testing.F) {
	for _, s := range [][3]string{
		{"M.java", "class M { int a; java.util.List<M> m; Level l; } enum Level { A, B }", `{"a":1,"m":[{}],"l":"A"}`},
		{"M.kt", "import com.google.gson.*\ndata class M(val a: Int, val m: Map<String, M?>, val b: Array<IntArray>)", `{"a":"1","m":{"x":null},"b":[[1,null]]}`},
		{"M.java", "import com.fasterxml.jackson.annotation.*; @JsonIgnoreProperties(\"x\") class M { @JsonUnwrapped public M m; @JsonProperty private int a; M(String s) { } M(int a) { } }", `{"m":5}`},
		{"M.java", "import org.json.*; class M { int a; M(JSONObject o) { if (o.has(\"a\")) a = o.optInt(\"a\", 3); } }", `{"a":{}}`},
		{"M.swift", "struct M: Codable { let a: [String: M?]; init(from d: Decoder) throws { a = [:] } }", `{"a":1}`},
	} {
		f.Add(s[0], s[1], s[2])
	}
	files, err := filepath.Glob("testdata/measured/*.txt")
	if err != nil {
		f.Fatal(err)
	}
	const each = 20 // of the measured models, which show far more forms than are written here
	for i := 0; i < len(files); i += each {
		text, err := os.ReadFile(files[i])
		if err != nil {
			f.Fatal(err)
		}
		for name, source := range sections(string(text)) {
			if strings.HasPrefix(name, "Models.") {
				f.Add(name, source, `{"a":{},"l":["x"],"id":"1","s":null,"name":5}`)
			}
		}
	}
	f.Fuzz(func(t *testing.T, name, text, document string) {
		if !strings.HasSuffix(name, ".java") && !strings.HasSuffix(name, ".kt") {
			name = "M.swift"
		}
		set := source.Read([]scan.Source{{Name: name, Text: text}})
		doc, err := wire.Parse([]byte(document))
		if err != nil {
			return
		}
		for _, m := range set.Models {
			if plan, err := For(set, m.Name); err == nil {
				out := plan.Decode(doc)
				agrees(t, plan, document, out)
			}
		}
	})
}

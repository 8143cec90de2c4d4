package trial

import (
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"vetta/internal/decoder"
	"vetta/internal/source"
	"vetta/internal/source/scan"
	"vetta/internal/wire"
)

// TestVersionsOfJackson holds Vetta to what jackson-module-kotlin did in versions between which it changed, as the build
// file names them. The tables have the class, the document, and the value of each property or the error's beginning.
func TestVersionsOfJackson(t *testing.T) {
	models, err := os.ReadFile("testdata/versions/Models.kt")
	if err != nil {
		t.Fatal(err)
	}
	code := string(models) + "val mapper = jacksonObjectMapper()\n"
	for line := range strings.Lines(string(models)) {
		if rest, ok := strings.CutPrefix(line, "class "); ok {
			name, _, _ := strings.Cut(rest, "(")
			name, _, _ = strings.Cut(strings.TrimSpace(name), " ")
			code += fmt.Sprintf("fun load%s(text: String) = mapper.readValue<%[1]s>(text)\n", name)
		}
	}
	tables, _ := filepath.Glob("testdata/versions/jackson_kotlin-*.tsv")
	if len(tables) == 0 {
		t.Fatal("no tables")
	}
	for _, table := range tables {
		version := strings.TrimSuffix(table[strings.LastIndex(table, "-")+1:], ".tsv")
		t.Run(version, func(t *testing.T) {
			text, err := os.ReadFile(table)
			if err != nil {
				t.Fatal(err)
			}
			set := source.Read([]scan.Source{{Name: "Models.kt", Text: code}},
				scan.Source{Name: "build.gradle.kts", Text: `dependencies { implementation("com.fasterxml.jackson.module:jackson-module-kotlin:` + version + `") }`})
			for line := range strings.Lines(string(text)) {
				row := strings.Split(strings.TrimSuffix(line, "\n"), "\t")
				doc, err := wire.Parse([]byte(row[1]))
				if err != nil {
					continue // which the parser refuses, whatever the class
				}
				plan, err := For(set, row[0])
				if err != nil {
					t.Fatal(err)
				}
				out := plan.Decode(doc)
				got := printedFields(out)
				if len(out.Unknown) == 0 && got != row[2] && (out.Err == nil || !strings.HasPrefix(got, row[2]) && !strings.HasPrefix(row[2], got)) {
					t.Errorf("%s of %s:\n got %s\nwant %s", row[0], row[1], got, row[2])
				}
			}
		})
	}
}

// printedFields is an outcome as the tables have it.
func printedFields(out decoder.Outcome) string {
	switch {
	case out.Err != nil:
		return "fails " + out.Err.Message
	case out.Seen.Kind == decoder.SeenNull:
		return "ok null"
	}
	var all []string
	for i, name := range out.Seen.Names {
		all = append(all, name+"="+printedValue(out.Seen.Elems[i]))
	}
	return "ok " + strings.Join(all, ",")
}

// printedValue is a value as Kotlin prints it.
func printedValue(s decoder.Seen) string {
	switch s.Kind {
	case decoder.SeenString:
		return s.Text
	case decoder.SeenList:
		var all []string
		for _, e := range s.Elems {
			all = append(all, printedValue(e))
		}
		return "[" + strings.Join(all, ", ") + "]"
	case decoder.SeenObject:
		var all []string
		for i, name := range s.Names {
			all = append(all, name+"="+printedValue(s.Elems[i]))
		}
		return s.Type + "(" + strings.Join(all, ", ") + ")"
	}
	return javaForm(s)
}

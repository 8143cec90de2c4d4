package trial

import (
	"encoding/base64"
	"fmt"
	"math"
	"os"
	"path/filepath"
	"sort"
	"strconv"
	"strings"
	"testing"

	"vetta/internal/decoder"
	"vetta/internal/decoder/library"
	"vetta/internal/model"
	"vetta/internal/source/scan"
	"vetta/internal/source/swift"
	"vetta/internal/wire"
)

const truth = "../../testdata/truth/"

func read(t *testing.T, name string) string {
	t.Helper()
	data, err := os.ReadFile(truth + name)
	if err != nil {
		t.Fatal(err)
	}
	return string(data)
}

// rows are the tab-separated lines of a table behind its head.
func rows(t *testing.T, name string, head bool) [][]string {
	t.Helper()
	var out [][]string
	for i, line := range strings.Split(strings.TrimRight(read(t, name), "\n"), "\n") {
		if i > 0 || !head {
			out = append(out, strings.Split(line, "\t"))
		}
	}
	return out
}

// documents are the wires and docs of the tables by name.
func documents(t *testing.T) map[string][]byte {
	docs := map[string][]byte{}
	marks := strings.NewReplacer("<BOM>", "\ufeff", "<TAB>", "\t", "<NL>", "\n")
	for _, table := range []string{"wires.tsv", "docs.tsv", "xml.tsv"} {
		for _, row := range rows(t, table, false) {
			docs[row[0]] = []byte(marks.Replace(row[1]))
		}
	}
	return docs
}

// settingsOf are the settings that a decoder's name in the tables stands for.
func settingsOf(name string) *model.Settings {
	s := &model.Settings{Library: "foundation", Options: map[string]model.Option{}}
	if _, option, ok := strings.Cut(name, "+"); ok {
		key := "dates"
		if option == "convertFromSnakeCase" {
			key = "keys"
		}
		s.Options[key] = model.Option{Value: option}
	}
	return s
}

func TestDeclaredSwift(t *testing.T) {
	docs := documents(t)
	set := swift.Read([]scan.Source{{Name: "Declared.swift", Text: read(t, "swift/Declared.swift")}})
	checked := 0
	for _, row := range rows(t, "swift/declared.tsv", true) {
		name, declared, wireName, outcome, value := row[0], row[1], row[2], row[3], ""
		if len(row) > 4 {
			value = row[4]
		}
		if declared == "key" {
			continue // TestSnakeCase
		}
		m := set.Find("T_" + declared)
		if m == nil {
			t.Fatalf("T_%s was not read", declared)
		}
		settings := settingsOf(name)
		plan := library.For("swift", settings).Plan(&model.Type{Name: m.Name, Model: m}, m.Name, settings)
		data, known := docs[wireName]
		if !known {
			t.Fatalf("no document %s", wireName)
		}
		doc, err := wire.Parse([]byte(strings.TrimPrefix(string(data), "\ufeff")))
		if err != nil {
			if !strings.HasPrefix(wireName, "doc:") {
				t.Errorf("%s: %v", wireName, err)
			}
			continue // not JSON: trial names it as malformed
		}
		out := plan.Decode(doc)
		checked++
		got := "ok\t"
		if out.Err != nil {
			got = "fails\t" + out.Err.Message
		} else if v, ok := out.Seen.Get("v"); ok {
			got += strings.Replace(printed(v), "Colour(RED)", enumText(declared), 1)
			if declared == "map_Int_int" {
				got = strings.ReplaceAll(got, `"`, "") // keys as the integers that they are
			}
		}
		if want := outcome + "\t" + value; got != want {
			t.Errorf("%s %s %s (%s):\n got %s\nwant %s", name, declared, wireName, data, got, want)
		}
	}
	if checked < 4400 {
		t.Errorf("only %d rows were checked", checked)
	}
}

// printed writes a value as the tables do.
func printed(s decoder.Seen) string {
	switch s.Kind {
	case decoder.SeenString:
		if s.Type != "" {
			return s.Text
		}
		return s.String()
	case decoder.SeenEnum:
		return map[string]string{"red": "Colour(RED)", "green": "Colour(GREEN)", "low": "Level(0)", "high": "Level(1)"}[s.Text]
	case decoder.SeenBytes:
		return "bytes:" + base64.StdEncoding.EncodeToString([]byte(s.Text))
	case decoder.SeenDate:
		return printedDate(s.Seconds)
	case decoder.SeenList, decoder.SeenSet:
		var items []string
		for _, e := range s.Elems {
			items = append(items, printed(e))
		}
		if s.Kind == decoder.SeenList {
			return "[" + strings.Join(items, ",") + "]"
		}
		sort.Strings(items)
		return "{" + strings.Join(items, ",") + "}"
	case decoder.SeenMap:
		var items []string
		for i, e := range s.Elems {
			name := strconv.Quote(s.Names[i])
			items = append(items, name+":"+printed(e))
		}
		return "{" + strings.Join(items, ",") + "}"
	case decoder.SeenObject:
		var items []string
		for i, e := range s.Elems {
			items = append(items, s.Names[i]+"="+printed(e))
		}
		return s.Type + "{" + strings.Join(items, ",") + "}"
	}
	return s.String()
}

// enumText is how the table writes the enum's constant: of an optional one it has
// the raw value alone.
func enumText(declared string) string {
	if declared == "enum_opt" {
		return "RED"
	}
	return "Colour(RED)"
}

func printedDate(seconds float64) string {
	ms := math.Round(seconds * 1000)
	if math.Abs(ms) < 1e16 {
		return fmt.Sprintf("date:%d", int64(ms))
	}
	return "date:" + strconv.FormatFloat(seconds*1000, 'g', -1, 64)
}

func TestForms(t *testing.T) {
	dirs, err := filepath.Glob(truth + "swift/forms/*")
	if err != nil || len(dirs) == 0 {
		t.Fatal("no forms", err)
	}
	for _, dir := range dirs {
		form := filepath.Base(dir)
		t.Run(form, func(t *testing.T) {
			base := "swift/forms/" + form + "/"
			set := swift.Read([]scan.Source{
				{Name: "Api.swift", Text: read(t, base+"Api.swift")},
				{Name: "Models.swift", Text: read(t, base+"Models.swift")},
			})
			about := read(t, base+"about.txt")
			root := strings.TrimSpace(about[strings.Index(about, "root:")+5:])
			plan, err := For(set, strings.TrimSuffix(root, "?"))
			if err != nil {
				t.Fatal(err)
			}
			for _, row := range rows(t, base+"seen.tsv", true) {
				doc, err := wire.Parse([]byte(row[0]))
				if err != nil {
					t.Fatal(err)
				}
				out := plan.Decode(doc)
				agrees(t, plan, row[0], out)
				if got, want := form1(out), row[1]+"\t"+row[2]; got != want {
					t.Errorf("%s\n got %s\nwant %s", row[0], got, want)
				}
			}
		})
	}
}

// form1 writes an outcome as seen.tsv does.
func form1(out decoder.Outcome) string {
	if out.Err != nil {
		kind, detail, _ := strings.Cut(out.Err.Message, ": ")
		return fmt.Sprintf("fails\t%s at %s: %s", kind, wire.Path(out.Place), detail)
	}
	return "ok\t" + formValue(out.Seen)
}

func formValue(s decoder.Seen) string {
	switch s.Kind {
	case decoder.SeenDate:
		return printedDate(s.Seconds)
	case decoder.SeenBytes:
		return printed(s)
	case decoder.SeenList, decoder.SeenSet:
		var items []string
		for _, e := range s.Elems {
			items = append(items, formValue(e))
		}
		return "[" + strings.Join(items, ",") + "]"
	case decoder.SeenMap, decoder.SeenObject:
		return formMembers(s)
	case decoder.SeenCase:
		if len(s.Names) > 0 {
			return fmt.Sprintf("{%q:%s}", s.Text, formMembers(s))
		}
	}
	return s.String()
}

// formValueKnown leaves out what is not known, as trial does.
func formValueKnown(s decoder.Seen) string {
	if s.Kind == decoder.SeenObject {
		known := s
		known.Names, known.Elems = nil, nil
		for i, e := range s.Elems {
			if e.Kind != decoder.SeenUnknown {
				known.Names, known.Elems = append(known.Names, s.Names[i]), append(known.Elems, e)
			}
		}
		s = known
	}
	return formValue(s)
}

func formMembers(s decoder.Seen) string {
	var items []string
	for i, e := range s.Elems {
		items = append(items, strconv.Quote(s.Names[i])+":"+formValue(e))
	}
	return "{" + strings.Join(items, ",") + "}"
}

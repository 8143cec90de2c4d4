package trial

import (
	"encoding/json"
	"io/fs"
	"os"
	"path/filepath"
	"regexp"
	"strconv"
	"strings"
	"testing"

	"vetta/internal/decoder"
	"vetta/internal/source"
	"vetta/internal/source/scan"
	"vetta/internal/wire"
)

// dartOutcome is what the VM did as its tables have it, and what Vetta says in the same words. Texts of errors are
// compared where own says that the VM itself throws them.
func dartOutcome(out decoder.Outcome) string {
	if out.Err != nil {
		said := "fails\t"
		if out.Later {
			said = "later\t"
		}
		return said + strings.Join(strings.Fields(out.Err.Message), " ")
	}
	return "ok\t" + dartValue(out.Seen)
}

// dartValue writes a value as the harness of the VM does: dates in milliseconds, enums by name.
func dartValue(s decoder.Seen) string {
	var b strings.Builder
	members := func() {
		b.WriteByte('{')
		for i, e := range s.Elems {
			if i > 0 {
				b.WriteByte(',')
			}
			b.WriteString(strconv.Quote(s.Names[i]) + ":" + dartValue(e))
		}
		b.WriteByte('}')
	}
	switch s.Kind {
	case decoder.SeenDate:
		return "date:" + strconv.FormatInt(int64(s.Seconds*1000), 10)
	case decoder.SeenList, decoder.SeenSet:
		var items []string
		for _, e := range s.Elems {
			items = append(items, dartValue(e))
		}
		return "[" + strings.Join(items, ",") + "]"
	case decoder.SeenMap, decoder.SeenObject:
		members()
		return b.String()
	}
	return s.String()
}

// sameDart compares values that may be written in other ways: numbers by value, dates with and without quotes.
func sameDart(got, want string) bool {
	got, want = plainDates.ReplaceAllString(got, `$1`), plainDates.ReplaceAllString(want, `$1`)
	if got == want {
		return true
	}
	var a, b any
	if json.Unmarshal([]byte(strings.TrimPrefix(got, "ok\t")), &a) != nil || json.Unmarshal([]byte(strings.TrimPrefix(want, "ok\t")), &b) != nil {
		return false
	}
	x, _ := json.Marshal(a)
	y, _ := json.Marshal(b)
	return strings.HasPrefix(got, "ok\t") == strings.HasPrefix(want, "ok\t") && string(x) == string(y)
}

var plainDates = regexp.MustCompile(`"?date:(-?\d+)"?`)

// dartError is the text of an error without the class before it, which the tables write twice for some.
func dartError(text string) string {
	outcome, message, _ := strings.Cut(text, "\t")
	message, _, _ = strings.Cut(message, " Found: ")                   // what there is instead
	message = strings.TrimSuffix(strings.TrimSpace(message)+" ", ": ") // of no text at all
	for {
		head, rest, ok := strings.Cut(message, ": ")
		if !ok || strings.Contains(head, " ") {
			return outcome + "\t" + strings.Join(strings.Fields(message), " ")
		}
		message = rest
	}
}

// TestDeclaredDart takes every row of what the VM does with one key that is read in one way.
func TestDeclaredDart(t *testing.T) {
	docs := documents(t)
	set := source.Read([]scan.Source{{Name: "Declared.dart", Text: read(t, "dart/Declared.dart")}})
	checked := 0
	plans := map[string]*decoder.Plan{}
	for _, row := range rows(t, "dart/declared.tsv", true) {
		declared, name, outcome, value := row[1], row[2], row[3], ""
		if len(row) > 4 {
			value = row[4]
		}
		plan := plans[declared]
		if plan == nil {
			var err error
			if plan, err = For(set, "T_"+declared); err != nil {
				t.Fatal(err)
			}
			plans[declared] = plan
		}
		doc, err := wire.Parse([]byte(strings.TrimPrefix(string(docs[name]), "\ufeff")))
		if err != nil || name == "doc:bom" || name == "doc:surrogate" {
			continue // no JSON: trial names it as malformed
		}
		checked++
		out := plan.Run(doc)
		got, want := dartOutcome(out), outcome+"\t"+value
		if outcome == "ok" && out.Err == nil {
			v, ok := out.Seen.Get("v")
			if !ok {
				v = out.Seen
			}
			got = "ok\t" + dartValue(v)
			if strings.HasPrefix(value, "duration:") {
				continue // shown as the platform writes it
			}
		} else if outcome != "ok" {
			got, want = dartError(got), dartError(want)
		}
		if !sameDart(got, want) {
			t.Errorf("%s %s (%s)\n got %s\nwant %s", declared, name, docs[name], got, want)
		}
	}
	if checked < 10900 {
		t.Errorf("only %d rows were checked", checked)
	}
}

// otherwise are forms that Vetta judges in another way than their harness shows, and why.
var otherwise = map[string]string{
	"swallow":   "the harness calls load, which answers another type than the one that is named",
	"root-path": "the harness calls load, which takes an element of a list inside the document",
}

// ownText is an error whose text is of the VM itself, not of a package that the forms import.
var ownText = regexp.MustCompile(`^(fails|later)\t(_TypeError|_CastError|NoSuchMethodError|FormatException|StateError|RangeError)`)

// TestFormsDart takes the forms as they stand in apps.
func TestFormsDart(t *testing.T) {
	dirs, err := filepath.Glob(truth + "dart/forms/*")
	if err != nil || len(dirs) == 0 {
		t.Fatal("no forms", err)
	}
	checked := 0
	for _, dir := range dirs {
		form := filepath.Base(dir)
		if otherwise[form] != "" {
			continue
		}
		var sources []scan.Source
		filepath.WalkDir(dir, func(path string, _ fs.DirEntry, err error) error {
			if text, err := os.ReadFile(path); err == nil && strings.HasSuffix(path, ".dart") {
				sources = append(sources, scan.Source{Name: path, Text: string(text)})
			}
			return err
		})
		set := source.Read(sources)
		base := "dart/forms/" + form + "/"
		_, root, _ := strings.Cut(read(t, base+"about.txt"), "root: ")
		root, _, _ = strings.Cut(root, "\n")
		plan, err := For(set, root)
		if err != nil {
			t.Errorf("%s: %v", form, err)
			continue
		}
		for _, row := range rows(t, base+"seen.tsv", true) {
			doc, err := wire.Parse([]byte(row[0]))
			if err != nil || strings.Contains(row[2], "duration:") || strings.Contains(row[2], `"pair":{}`) {
				continue
			}
			checked++
			got, want := dartOutcome(plan.Run(doc)), row[1]+"\t"+row[2]
			switch {
			case ownText.MatchString(want):
				got, want = dartError(got), dartError(want)
			case row[1] != "ok":
				got, want = got[:5], want[:5]
			}
			if !sameDart(got, want) {
				t.Errorf("%s %s\n got %s\nwant %s", form, row[0], got, want)
			}
		}
	}
	if checked < 430 {
		t.Errorf("only %d documents were judged", checked)
	}
}

// TestMeasuredDart takes models made from a seed, which the VM itself has run.
func TestMeasuredDart(t *testing.T) {
	files, err := filepath.Glob(filepath.Join(measuredDart(), "dart-*.txt"))
	if err != nil || len(files) == 0 {
		t.Fatal("no models", err)
	}
	for _, file := range files {
		t.Run(strings.TrimSuffix(filepath.Base(file), ".txt"), func(t *testing.T) {
			text, err := os.ReadFile(file)
			if err != nil {
				t.Fatal(err)
			}
			parts := sections(string(text))
			var sources []scan.Source
			for name, text := range parts {
				if strings.HasSuffix(name, ".dart") {
					sources = append(sources, scan.Source{Name: name, Text: text})
				}
			}
			plan, err := For(source.Read(sources), strings.TrimSpace(parts["root"]))
			if err != nil {
				t.Fatal(err)
			}
			for line := range strings.Lines(parts["seen"]) {
				row := strings.SplitN(strings.TrimSuffix(line, "\n"), "\t", 3)
				doc, err := wire.Parse([]byte(row[0]))
				if err != nil {
					t.Fatal(err)
				}
				got, want := dartOutcome(plan.Decode(doc)), row[1]+"\t"+row[2]
				if row[1] != "ok" {
					got, want = dartError(got), dartError(want)
				}
				if !sameDart(got, want) {
					t.Errorf("%s\n got %s\nwant %s", row[0], got, want)
				}
			}
		})
	}
}

// measuredDart is the folder of those models, one just made where VETTA_MEASURED_DART names it.
func measuredDart() string {
	if dir := os.Getenv("VETTA_MEASURED_DART"); dir != "" {
		return dir
	}
	return filepath.Join("testdata", "measured", "dart")
}

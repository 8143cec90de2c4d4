package trial

import (
	"encoding/base64"
	"fmt"
	"math"
	"path/filepath"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"testing"

	"vetta/internal/decoder"
	"vetta/internal/decoder/jvm"
	"vetta/internal/decoder/library"
	"vetta/internal/model"
	"vetta/internal/source"
	"vetta/internal/source/scan"
	"vetta/internal/wire"
)

// position is where a library says that it stood: Vetta's own messages name the place
// in the document instead.
var position = regexp.MustCompile(` \((\d+|one) known propert.*| \(for POJO property '[^']*'\)|;? at (line \d+ column \d+ )?(path )?\$.*|  at \[Source: .*|; l$| \(through.*`)

// classNames are those that the measuring program gave the classes.
var classNames = regexp.MustCompile(`(F\d+|Declared|Oracle)\$`)

func plainMessage(s string) string {
	s = position.ReplaceAllString(s, "")
	return classNames.ReplaceAllString(s, "")
}

// jvmSettings are the settings that a decoder's name in the tables stands for.
func jvmSettings(name string) *model.Settings {
	s := &model.Settings{Library: strings.TrimSuffix(strings.TrimPrefix(name, "java-"), "-lenient"), Options: map[string]model.Option{}}
	if strings.HasSuffix(name, "-lenient") {
		s.Options["FAIL_ON_UNKNOWN_PROPERTIES"] = model.Option{Value: "false"}
	}
	return s
}

func testDeclaredJava(t *testing.T, decoderName string, least int) {
	docs := documents(t)
	set := source.Read([]scan.Source{{Name: "Declared.java", Text: read(t, "java/Declared.java")}})
	checked := 0
	for _, row := range rows(t, "java/declared.tsv", true) {
		name, declared, wireName, outcome, value := row[0], row[1], row[2], row[3], ""
		if len(row) > 4 {
			value = row[4]
		}
		if strings.TrimSuffix(name, "-lenient") != decoderName {
			continue
		}
		m := set.Find("T_" + declared)
		if m == nil {
			t.Fatalf("T_%s was not read", declared)
		}
		settings := jvmSettings(name)
		plan := library.For("java", settings).Plan(&model.Type{Name: m.Name, Model: m}, m.Name, settings)
		data, known := docs[wireName]
		if !known {
			t.Fatalf("no document %s", wireName)
		}
		data = []byte(strings.TrimPrefix(string(data), "\ufeff"))
		doc, err := wire.Parse(data)
		if err != nil {
			continue // not JSON: trial names it as malformed
		}
		checked++
		out := plan.Decode(doc)
		agrees(t, plan, string(data), out)
		got := "ok\t"
		if out.Err != nil {
			got = "fails\t" + plainMessage(out.Err.Message)
		} else if out.Seen.Kind == decoder.SeenNull {
			got += "root-null"
		} else if v, ok := out.Seen.Get("v"); ok {
			if declared == "bytes" && v.Kind == decoder.SeenList {
				v = bytesOf(v)
			}
			got += printedJava(v)
			if declared == "map_Integer_int" || declared == "map_enum_int" {
				got = strings.ReplaceAll(got, `"`, "") // keys that are no strings
			}
		} else if declared == "static" { // no property of an instance
			got += "5"
		}
		want := outcome + "\t" + value
		if outcome == "fails" {
			want = "fails\t" + plainMessage(value)
		}
		if declared == "bytes" && strings.HasPrefix(want, "fails\tInvalidFormatException") { // which tells how far it came
			want = strings.Join(strings.SplitN(want, ":", 2)[:1], "")
			got = strings.Join(strings.SplitN(got, ":", 2)[:1], "")
		}
		if declared == "set_String" && outcome == "ok" { // in no order
			got, want = sortedBytes(got), sortedBytes(want)
		}
		if wireName == "doc:bom" && outcome == "fails" { // from text, which a capture is not
			continue
		}
		if !sameJava(got, want) && !(declared == "float" && sameFloat(got, want)) {
			t.Errorf("%s %s %s (%s):\n got %s\nwant %s", name, declared, wireName, data, got, want)
		}
	}
	if checked < least {
		t.Errorf("only %d rows were checked", checked)
	}
}

func sortedBytes(s string) string {
	b := []byte(s)
	slices.Sort(b)
	return string(b)
}

// bytesOf is a list of numbers as the bytes that they are.
func bytesOf(list decoder.Seen) decoder.Seen {
	out := decoder.Seen{Kind: decoder.SeenBytes}
	for _, e := range list.Elems {
		n, _ := strconv.Atoi(e.Text)
		out.Text += string([]byte{byte(n)})
	}
	return out
}

// dateOf writes a date as the tables do, by its milliseconds.
func dateOf(s decoder.Seen) string {
	if s.Text != "" {
		return "date:" + s.Text
	}
	return printedDate(s.Seconds)
}

// sameJava compares what comes out, messages as far as the tables have them.
func sameJava(got, want string) bool {
	if got == want {
		return true
	}
	g, w := strings.TrimPrefix(got, "ok\t"), strings.TrimPrefix(want, "ok\t")
	if strings.HasPrefix(got, "fails") && strings.HasPrefix(want, "fails") {
		return len(want) > 60 && strings.HasPrefix(got, want[:len(want)*4/5]) // the tables cut messages off
	}
	a, err1 := strconv.ParseFloat(g, 64)
	b, err2 := strconv.ParseFloat(w, 64)
	return err1 == nil && err2 == nil && (a == b && math.Signbit(a) == math.Signbit(b) || math.IsNaN(a) && math.IsNaN(b))
}

// sameFloat compares floats of 32 bits, which Java 17 does not write by their shortest
// decimals (JDK-4511638).
func sameFloat(got, want string) bool {
	a, err1 := strconv.ParseFloat(strings.TrimPrefix(got, "ok\t"), 32)
	b, err2 := strconv.ParseFloat(strings.TrimPrefix(want, "ok\t"), 32)
	return err1 == nil && err2 == nil && a == b
}

func TestDeclaredGson(t *testing.T) { testDeclaredJava(t, "java-gson", 3900) }

// javaEscapes are the characters that the measuring program wrote as escapes.
var javaEscapes = strings.NewReplacer("=", `\u003d`, "<", `\u003c`, ">", `\u003e`, "&", `\u0026`, "'", `\u0027`)

// printedJava writes a value as the tables of Java do.
func printedJava(s decoder.Seen) string {
	switch s.Kind {
	case decoder.SeenString:
		switch s.Type {
		case "char":
			return fmt.Sprintf("char:%d", []rune(s.Text)[0])
		case "":
			return javaEscapes.Replace(s.String())
		}
		return s.Text
	case decoder.SeenEnum, decoder.SeenDecimal:
		return s.Text
	case decoder.SeenBytes:
		return "bytes:" + base64.StdEncoding.EncodeToString([]byte(s.Text))
	case decoder.SeenDate:
		return dateOf(s)
	case decoder.SeenFloat:
		return javaFloat(s.Text)
	case decoder.SeenList, decoder.SeenSet:
		var items []string
		for _, e := range s.Elems {
			items = append(items, printedJava(e))
		}
		return "[" + strings.Join(items, ",") + "]"
	case decoder.SeenMap:
		var items []string
		for i, e := range s.Elems {
			items = append(items, strconv.Quote(s.Names[i])+":"+printedJava(e))
		}
		return "{" + strings.Join(items, ",") + "}"
	case decoder.SeenObject:
		var items []string
		for i, e := range s.Elems {
			items = append(items, s.Names[i]+"="+printedJava(e))
		}
		return s.Type[strings.LastIndexByte(s.Type, '.')+1:] + "{" + strings.Join(items, ",") + "}"
	}
	return s.String()
}

// javaFloat is Double.toString.
func javaFloat(text string) string {
	f, err := strconv.ParseFloat(text, 64)
	if err != nil || math.IsInf(f, 0) || math.IsNaN(f) {
		return text
	}
	return jvm.DoubleToString(f)
}

// testFormsJVM takes the forms of a folder whose names begin with one of the libraries.
func testFormsJVM(t *testing.T, folder, ending string, prefixes ...string) {
	dirs, err := filepath.Glob(truth + folder + "/forms/*")
	if err != nil || len(dirs) == 0 {
		t.Fatal("no forms", err)
	}
	for _, dir := range dirs {
		form := filepath.Base(dir)
		wanted := false
		for _, p := range prefixes {
			wanted = wanted || strings.HasPrefix(form, p)
		}
		if !wanted {
			continue
		}
		t.Run(form, func(t *testing.T) {
			base := folder + "/forms/" + form + "/"
			set := source.Read([]scan.Source{
				{Name: "Api" + ending, Text: read(t, base+"Api"+ending)},
				{Name: "Models" + ending, Text: read(t, base+"Models"+ending)},
			})
			about := read(t, base+"about.txt")
			root := strings.TrimSpace(about[strings.Index(about, "root:")+5:])
			plan, err := For(set, root)
			if err != nil {
				t.Fatal(err)
			}
			for _, row := range rows(t, base+"seen.tsv", true) {
				doc, err := wire.Parse([]byte(strings.ReplaceAll(row[0], "<TAB>", "\t")))
				if err != nil {
					continue // not JSON: trial names it as malformed
				}
				out := plan.Decode(doc)
				agrees(t, plan, row[0], out)
				got, want := "ok\t"+javaForm(out.Seen), row[1]+"\t"+row[2]
				if out.Err != nil {
					got, want = "fails\t"+plainMessage(out.Err.Message), row[1]+"\t"+plainMessage(row[2])
				}
				if !sameForm(got, want) {
					t.Errorf("%s\n got %s\nwant %s", row[0], got, want)
				}
			}
		})
	}
}

// sameForm says whether what comes out is what was seen, as far as it is claimed.
func sameForm(got, want string) bool {
	if sameJava(got, want) {
		return true
	}
	// org.json prints the members of an object in the order of a hash table.
	if strings.HasPrefix(got, "fails\tJSONException: Value") && strings.Contains(got, "{") {
		return sortedBytes(got) == sortedBytes(want)
	}
	g, err1 := wire.Parse([]byte(quoted(strings.TrimPrefix(got, "ok\t"))))
	w, err2 := wire.Parse([]byte(quoted(strings.TrimPrefix(want, "ok\t"))))
	return err1 == nil && err2 == nil && covers(w, g)
}

// bare are values that tables write without quotes, dates, bytes and numbers of any
// text, or strings.
var bare = regexp.MustCompile(`"(?:[^"\\]|\\.)*"|-?\d[^",\]}]*|[a-zA-Z ][^",\]}]*`)

var jsonNumber = regexp.MustCompile(`^-?\d+(\.\d+)?([eE][-+]?\d+)?$`)

// quoted makes a table's form of a value JSON.
func quoted(s string) string {
	return bare.ReplaceAllStringFunc(s, func(m string) string {
		if m[0] == '"' || m == "true" || m == "false" || m == "null" || jsonNumber.MatchString(m) {
			return m
		}
		return strconv.Quote(m)
	})
}

// covers says whether a value has all that another one claims, in any order of keys.
func covers(all, claimed *wire.Value) bool {
	if string(claimed.Raw) == notClaimed {
		return true
	}
	if len(claimed.Elems) > 0 && string(claimed.Elems[0].Raw) == anyOrder {
		return coversInAnyOrder(all.Elems, claimed.Elems[1:])
	}
	if all.Kind != claimed.Kind || len(all.Elems) != len(claimed.Elems) {
		return false
	}
	for i := range claimed.Elems {
		if !covers(all.Elems[i], claimed.Elems[i]) {
			return false
		}
	}
	for _, m := range claimed.Members {
		found := false
		for _, a := range all.Members {
			found = found || a.Name == m.Name && covers(a.Value, m.Value)
		}
		if !found {
			return false
		}
	}
	if claimed.Kind == wire.String {
		a, _ := all.Text()
		c, _ := claimed.Text()
		return a == c
	}
	return claimed.Kind > wire.String || string(all.Raw) == string(claimed.Raw)
}

// coversInAnyOrder is covers for the elements of a set.
func coversInAnyOrder(all, claimed []*wire.Value) bool {
	if len(all) != len(claimed) || len(claimed) == 0 {
		return len(all) == len(claimed)
	}
	for i, a := range all { // one that has more than is claimed may be meant by another
		if covers(a, claimed[0]) && coversInAnyOrder(slices.Delete(slices.Clone(all), i, i+1), claimed[1:]) {
			return true
		}
	}
	return false
}

// anyOrder stands before the elements of a set.
const anyOrder = `"in any order"`

// notClaimed stands for an element that nothing is claimed of.
const notClaimed = `"not claimed"`

// javaForm writes a value as seen.tsv does; a property that is not known is left out.
func javaForm(s decoder.Seen) string {
	switch s.Kind {
	case decoder.SeenUnknown:
		return notClaimed
	case decoder.SeenDate:
		return dateOf(s)
	case decoder.SeenBytes:
		return printedJava(s)
	case decoder.SeenFloat:
		return javaFloat(s.Text)
	case decoder.SeenDecimal:
		if !jsonNumber.MatchString(s.Text) {
			return strconv.Quote(s.Text)
		}
	case decoder.SeenList, decoder.SeenSet:
		var items []string
		if s.Kind == decoder.SeenSet && len(s.Elems) > 1 {
			items = append(items, anyOrder)
		}
		for _, e := range s.Elems {
			items = append(items, javaForm(e))
		}
		return "[" + strings.Join(items, ",") + "]"
	case decoder.SeenMap, decoder.SeenObject:
		var items []string
		for i, e := range s.Elems {
			if e.Kind != decoder.SeenUnknown {
				items = append(items, strconv.Quote(s.Names[i])+":"+javaForm(e))
			}
		}
		return "{" + strings.Join(items, ",") + "}"
	}
	return s.String()
}

func TestFormsJavaGson(t *testing.T) { testFormsJVM(t, "java", ".java", "gson-") }

func TestDeclaredJackson(t *testing.T) { testDeclaredJava(t, "java-jackson", 4200) }

func TestFormsJackson(t *testing.T) { testFormsJVM(t, "java", ".java", "jackson-") }

func TestFormsOrgJSON(t *testing.T) { testFormsJVM(t, "java", ".java", "orgjson-") }

func TestFormsKotlin(t *testing.T) { testFormsJVM(t, "kotlin", ".kt", "gson-") }

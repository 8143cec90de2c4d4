package trial

import (
	"bytes"
	"encoding/json"
	"fmt"
	"io/fs"
	"maps"
	"math"
	"os"
	"path/filepath"
	"regexp"
	"strconv"
	"strings"
	"testing"

	"vetta/internal/decoder"
	"vetta/internal/markup"
	"vetta/internal/source"
	"vetta/internal/source/scan"
	"vetta/internal/wire"
)

// loadSharp is the file of an app that decodes a class as the name of a decoder in the tables says.
func loadSharp(t *testing.T, name, class string) string {
	t.Helper()
	library, setting, _ := strings.Cut(strings.TrimPrefix(name, "csharp-"), "+")
	head, call, field := "using System.Text.Json;", "JsonSerializer.Deserialize<TYPE>(jsonARGUMENT)", "JsonSerializerOptions Options = new JsonSerializerOptions"
	settings := map[string]string{
		"": "", "web": "(JsonSerializerDefaults.Web)", "names": " { Converters = { new System.Text.Json.Serialization.JsonStringEnumConverter() } }",
		"camel": " { PropertyNamingPolicy = JsonNamingPolicy.CamelCase }", "snake": " { PropertyNamingPolicy = JsonNamingPolicy.SnakeCaseLower }",
		"snakeupper": " { PropertyNamingPolicy = JsonNamingPolicy.SnakeCaseUpper }", "kebab": " { PropertyNamingPolicy = JsonNamingPolicy.KebabCaseLower }",
	}
	if library == "newtonsoft" {
		head, call, field = "using Newtonsoft.Json;\nusing Newtonsoft.Json.Serialization;", "JsonConvert.DeserializeObject<TYPE>(jsonARGUMENT)", "JsonSerializerSettings Options = new JsonSerializerSettings"
		settings = map[string]string{"": "", "nonulls": " { NullValueHandling = NullValueHandling.Ignore }"}
		for name, strategy := range map[string]string{"camel": "CamelCase", "snake": "SnakeCase", "kebab": "KebabCase"} {
			settings[name] = " { ContractResolver = new DefaultContractResolver { NamingStrategy = new " + strategy + "NamingStrategy() } }"
		}
	}
	made, known := settings[setting]
	if !known {
		t.Fatalf("no decoder %s", name)
	}
	switch library {
	case "datacontract":
		head, call = "using System.IO;\nusing System.Runtime.Serialization.Json;\nusing System.Text;", "(TYPE)new DataContractJsonSerializer(typeof(TYPE)).ReadObject(new MemoryStream(Encoding.UTF8.GetBytes(json)))"
	case "xml":
		head, call = "using System.IO;\nusing System.Xml.Serialization;", "(TYPE)new XmlSerializer(typeof(TYPE)).Deserialize(new StringReader(json))"
	}
	argument := ""
	if setting != "" {
		argument, field = ", Options", "    static readonly "+field+made+";\n"
	} else {
		field = ""
	}
	return fmt.Sprintf("%s\n\ninternal static class Api\n{\n%s    public static %s Load(string json) => %s;\n}\n", head, field, class, strings.NewReplacer("TYPE", class, "ARGUMENT", argument).Replace(call))
}

// anyDocument parses JSON, or XML.
func anyDocument(data []byte) (*wire.Value, error) {
	if at := bytes.TrimLeft(bytes.TrimPrefix(data, []byte("\ufeff")), " \r\n\t"); len(at) == 0 || at[0] != '<' {
		return wire.Parse(data)
	}
	text, err := markup.Decode(data, "")
	if err != nil {
		return nil, err
	}
	c, err := markup.Convert(text)
	if err != nil {
		return nil, err
	}
	v, err := wire.Parse(c.JSON)
	if err == nil {
		tree, _ := c.Tree()
		v.Attach(tree)
	}
	return v, err
}

// sharpOutcome is what .NET did in the words of its tables, its value as JSON.
func sharpOutcome(out decoder.Outcome) (outcome string, seen any) {
	if out.Err != nil {
		return "fails", nil
	}
	if out.Seen.Kind == decoder.SeenUnknown {
		return "unknown", nil
	}
	return "ok", asJSON(out.Seen)
}

func asJSON(s decoder.Seen) (v any) {
	text, err := json.Marshal(s)
	if err != nil || json.Unmarshal(text, &v) != nil {
		return fmt.Sprint("no JSON: ", string(text))
	}
	return v
}

var (
	bareNumber = regexp.MustCompile(`([:\[,]|^)(-?Infinity|NaN)`)
	bareBytes  = regexp.MustCompile(`([:\[,]|^)bytes:([0-9A-Za-z+/=]*)`)
)

// sharpValue is a value as the tables write it.
func sharpValue(text string) (v any) {
	if json.Unmarshal([]byte(bareBytes.ReplaceAllString(bareNumber.ReplaceAllString(text, `$1"$2"`), `$1"$2"`)), &v) != nil {
		return text
	}
	return v
}

// sameSharp compares what .NET shows with what Vetta does: numbers by value, what Vetta says that it does not follow
// not at all.
func sameSharp(want, got any) bool {
	switch want := want.(type) {
	case float64:
		switch got := got.(type) {
		case float64:
			return want == got || math.Abs(want-got) <= 1e-6*math.Max(math.Abs(want), math.Abs(got))
		case string:
			n, err := strconv.ParseFloat(got, 64)
			return err == nil && (n == want || math.Abs(want-n) <= 1e-6*math.Abs(n))
		}
		return false
	case []any:
		list, ok := got.([]any)
		if !ok || len(list) != len(want) {
			return false
		}
		for i := range want {
			if !sameSharp(want[i], list[i]) {
				return false
			}
		}
		return true
	case map[string]any:
		members, ok := got.(map[string]any)
		if !ok || len(members) != len(want) {
			return false
		}
		for name, v := range want {
			if other, ok := members[name]; !ok || !sameSharp(v, other) {
				return false
			}
		}
		return true
	}
	return want == got
}

// without leaves out what Vetta says that it does not follow.
func without(v any, unknown [][]wire.Step) any {
	for _, path := range unknown {
		at := v
		for i, s := range path {
			last := i == len(path)-1
			switch of := at.(type) {
			case map[string]any:
				if last {
					delete(of, s.Name)
				}
				at = of[s.Name]
			case []any:
				if s.Index >= len(of) {
					at = nil
					break
				}
				if last {
					of[s.Index] = nil
				}
				at = of[s.Index]
			}
		}
	}
	return v
}

// TestDeclaredSharp takes every row of what the libraries do with one declared type and one value, or one document.
func TestDeclaredSharp(t *testing.T) {
	docs := documents(t)
	declared := scan.Source{Name: "Declared.cs", Text: read(t, "csharp/Declared.cs")}
	whole := map[string]bool{}
	for _, name := range strings.Fields("doc:dup doc:dup-null doc:unknown doc:unknown-obj doc:case doc:case-both doc:snake doc:rootarray doc:rootnull doc:rootstring") {
		whole[name] = true
	}
	checked := 0
	otherwise := map[string]int{}
	plans := map[string]*decoder.Plan{}
	for _, row := range rows(t, "csharp/declared.tsv", true) {
		library, class, name, want, value := row[0], "T_"+row[1], row[2], row[3], ""
		if len(row) > 4 {
			value = row[4]
		}
		if strings.HasPrefix(name, "doc:") && !whole[name] {
			continue // bytes that are no JSON: trial says so before any library does
		}
		doc, err := anyDocument(docs[name])
		if err != nil {
			continue
		}
		plan := plans[library+class]
		if plan == nil {
			set := source.Read([]scan.Source{declared, {Name: "Api.cs", Text: loadSharp(t, library, class)}})
			if plan, err = For(set, class); err != nil {
				t.Fatal(err)
			}
			plans[library+class] = plan
		}
		checked++
		out := plan.Decode(doc)
		got, _ := sharpOutcome(out)
		if got != want {
			t.Errorf("%s %s %s (%s): %s %v, want %s %s", library, class, name, docs[name], got, out.Err, want, value)
			continue
		}
		if want == "fails" {
			if said, says := sharpMessage(out.Err.Message), sharpMessage(value); said != says {
				of, _, _ := strings.Cut(strings.TrimPrefix(library, "csharp-"), "-")
				if otherwise[of]++; otherwise[of] > wordedOtherwise[of] {
					t.Errorf("%s %s %s (%s): throws\n%s, want\n%s", library, class, name, docs[name], said, says)
				}
			}
		}
		if v, ok := out.Seen.Get("v"); ok && want == "ok" {
			switch wanted := sharpValue(value).(type) {
			case nil, bool, float64:
				if !sameSharp(wanted, asJSON(v)) {
					t.Errorf("%s %s %s (%s): %v, want %s", library, class, name, docs[name], v, value)
				}
			}
		}
	}
	if !maps.Equal(otherwise, wordedOtherwise) {
		t.Errorf("worded otherwise: %v, known are %v", otherwise, wordedOtherwise)
	}
	if checked < 23000 {
		t.Errorf("only %d rows were checked", checked)
	}
}

// wordedOtherwise is how many errors of a library have another message than was measured: a date that Newtonsoft.Json
// prints in the zone of the machine, elements that the readers of XML name.
var wordedOtherwise = map[string]int{"stj": 19, "newtonsoft": 418, "datacontract": 138, "xml": 76}

// sharpMessage is an error without where it was thrown, and what the library goes on to explain.
func sharpMessage(s string) string {
	s, _, _ = strings.Cut(s, " Path")
	s, _, _ = strings.Cut(s, " because the type requires")
	s, _, _ = strings.Cut(s, " Line ")
	return s
}

// sharpApp is a folder of the tables: its source, the type that is decoded, and what was seen.
func sharpApp(t *testing.T, dir string) (plan *decoder.Plan, seen [][]string) {
	t.Helper()
	var sources, builds []scan.Source
	filepath.WalkDir(dir, func(path string, _ fs.DirEntry, err error) error {
		text, failed := os.ReadFile(path)
		file := scan.Source{Name: path, Text: string(text)}
		switch filepath.Ext(path) {
		case ".cs":
			sources = append(sources, file)
		case ".csproj", ".props", ".config":
			builds = append(builds, file)
		}
		if failed != nil && filepath.Ext(path) != "" {
			return failed
		}
		return err
	})
	base := strings.TrimPrefix(dir, truth)
	_, root, _ := strings.Cut(read(t, base+"/about.txt"), "root: ")
	root, _, _ = strings.Cut(root, "\n")
	plan, err := For(source.Read(sources, builds...), strings.TrimSuffix(root, "?"))
	if err != nil {
		plan = nil
	}
	return plan, rows(t, base+"/seen.tsv", true)
}

// judgeSharp counts the documents of an app on which Vetta and .NET agree, and says of the others what each does.
func judgeSharp(t *testing.T, dir string) (agree int, others []string) {
	t.Helper()
	plan, seen := sharpApp(t, dir)
	marks := strings.NewReplacer("<BOM>", "\ufeff", "<TAB>", "\t", "<CR>", "\r", "<NL>", "\n")
	for _, row := range seen {
		doc, err := anyDocument([]byte(marks.Replace(row[0])))
		if err != nil {
			continue // trial says of it that it is no JSON, or no XML
		}
		if plan == nil {
			others = append(others, row[0]+": no plan")
			continue
		}
		out := plan.Decode(doc)
		if plan.Run != nil {
			out = plan.Run(doc)
		}
		got, v := sharpOutcome(out)
		ok := got == row[1]
		if ok && got == "ok" {
			ok = sameSharp(without(sharpValue(row[2]), out.Unknown), without(v, out.Unknown))
		}
		if ok {
			agree++
		} else {
			others = append(others, fmt.Sprintf("%s\n got %s %v %v\nwant %s %s", row[0], got, out.Seen, out.Err, row[1], row[2]))
		}
	}
	return agree, others
}

// TestFormsSharp takes the forms as they stand in apps.
func TestFormsSharp(t *testing.T) {
	dirs, err := filepath.Glob(truth + "csharp/forms/*")
	if err != nil || len(dirs) == 0 {
		t.Fatal("no forms", err)
	}
	agreed := 0
	for _, dir := range dirs {
		form := filepath.Base(dir)
		if strings.Contains(read(t, strings.TrimPrefix(dir, truth)+"/about.txt"), "\ncalls: ") {
			continue // what is returned there is not the type that is decoded
		}
		agree, others := judgeSharp(t, dir)
		agreed += agree
		switch n := behind[form]; {
		case len(others) > n:
			t.Errorf("%s: %d documents are judged otherwise, %d are known:\n%s", form, len(others), n, strings.Join(others, "\n"))
		case len(others) < n:
			t.Errorf("%s: %d documents are judged otherwise, fewer than the %d that are known: say so in the list", form, len(others), n)
		}
	}
	if agreed < 3340 {
		t.Errorf("only %d documents agree", agreed)
	}
}

// TestMeasuredSharp takes models made from a seed, which .NET itself has run.
func TestMeasuredSharp(t *testing.T) {
	dirs, err := filepath.Glob(truth + "csharp/made/*/*")
	if err != nil || len(dirs) < 96 {
		t.Fatal("no models", err)
	}
	for _, dir := range dirs {
		_, others := judgeSharp(t, dir)
		name := filepath.Base(filepath.Dir(dir)) + "/" + filepath.Base(dir)
		if len(others) > behind[name] {
			t.Errorf("%s: %s", name, strings.Join(others, "\n"))
		}
	}
}

// behind are the forms of which Vetta does not yet judge all documents as .NET does, with how many.
var behind = map[string]int{
	"client-command-base": 5, "client-generated-client": 1, "client-parser-delegate": 2, "client-refit-get": 2, "hand/002": 1,
	"newtonsoft-converter-generic": 1, "newtonsoft-dateparse-offset": 1, "newtonsoft-dates-from-text": 2, "newtonsoft-enum-flags": 1,
	"newtonsoft-error-handled": 1, "newtonsoft-extension-data-tokens": 1, "newtonsoft-list-subclass": 1, "newtonsoft-member-fields": 1,
	"newtonsoft-metadata-read-ahead": 2, "newtonsoft-object-members": 1, "newtonsoft-on-error-attribute": 1,
	"newtonsoft-type-name-auto": 4, "newtonsoft/014": 3, "stj-catch-and-default": 1, "stj-collections-concrete": 1, "stj-dates-and-times": 1,
	"stj-enum-flags": 1, "stj-enum-numbers": 1, "stj-envelope-of-list": 2, "stj-interface-members": 2, "stj-populate-option": 1,
	"stj-unsupported-array-and-abstract": 1,
}

package trial

import (
	"path/filepath"
	"regexp"
	"strings"
	"testing"
	"time"

	"vetta/internal/decoder"
	"vetta/internal/decoder/library"
	"vetta/internal/model"
	"vetta/internal/source"
	"vetta/internal/source/scan"
	"vetta/internal/wire"
)

// kotlinSettings are the settings that a decoder's name in the tables stands for.
var kotlinSettings = map[string]map[string]string{
	"kotlin-moshi":           {"KotlinJsonAdapterFactory": "true"},
	"kotlin-moshi-codegen":   {"KotlinJsonAdapterFactory": "false"},
	"kotlin-kotlinx":         {},
	"kotlin-kotlinx-unknown": {"ignoreUnknownKeys": "true"},
	"kotlin-kotlinx-coerce":  {"ignoreUnknownKeys": "true", "coerceInputValues": "true"},
	"kotlin-kotlinx-lenient": {"ignoreUnknownKeys": "true", "isLenient": "true"},
	"kotlin-kotlinx-nonulls": {"ignoreUnknownKeys": "true", "explicitNulls": "false"},
}

// offsets is what kotlinx.serialization tells of the place in the text, and what it advises: Vetta names the place
// in the document instead, and advises itself.
var offsets = regexp.MustCompile(` for class .*| at offset \d+|( at element)?:? at path:? .*|( at path)? \$.*| Use '.*| at path: .*|\. JSON input:.*| By default, non-finite.*`)

func TestDeclaredMoshi(t *testing.T) {
	testDeclaredKotlin(t, "moshi", "", "kotlin-moshi", 2900)
	testDeclaredKotlin(t, "moshi", "@JsonClass(generateAdapter = true)", "kotlin-moshi-codegen", 400)
}

func TestDeclaredKotlinx(t *testing.T) {
	for name := range kotlinSettings {
		if strings.HasPrefix(name, "kotlin-kotlinx") {
			testDeclaredKotlin(t, "kotlinx.serialization", "@Serializable", name, 380)
		}
	}
}

// declaration is what stands before a class of Declared.kt.
var declaration = regexp.MustCompile(`(?m)^(@Serializable )?((data |@JvmInline value )?class )`)

// testDeclaredKotlin takes the rows of one decoder: classes as Declared.kt has them, with another mark.
func testDeclaredKotlin(t *testing.T, lib, mark, name string, least int) {
	docs := documents(t)
	set := source.Read([]scan.Source{{Name: "Declared.kt", Text: declaration.ReplaceAllString(read(t, "kotlin/Declared.kt"), mark+" ${2}")}})
	settings := &model.Settings{Library: lib, Options: map[string]model.Option{}}
	for option, value := range kotlinSettings[name] {
		settings.Options[option] = model.Option{Value: value}
	}
	checked := 0
	for _, row := range rows(t, "kotlin/declared.tsv", true) {
		declared, wireName, outcome, value := row[1], row[2], row[3], ""
		if len(row) > 4 {
			value = row[4]
		}
		if row[0] != name {
			continue
		}
		m := set.Find("T_" + declared)
		if m == nil {
			m = set.Others("T_" + declared)
		}
		if m == nil {
			t.Fatalf("T_%s was not read", declared)
		}
		plan := library.For("kotlin", settings).Plan(&model.Type{Name: m.Name, Model: m}, m.Name, settings)
		data, known := docs[wireName]
		if !known {
			t.Fatalf("no document %s", wireName)
		}
		doc, err := wire.Parse([]byte(strings.TrimPrefix(string(data), "\ufeff")))
		if err != nil || wireName == "doc:bom" || wireName == "doc:surrogate" {
			continue // not JSON: trial names it as malformed
		}
		checked++
		out := plan.Decode(doc)
		agrees(t, plan, string(data), out)
		got, want := "ok\t", outcome+"\t"+value
		if out.Err != nil {
			got = "fails\t" + offsets.ReplaceAllString(plainMessage(out.Err.Message), "")
			if outcome == "fails" {
				want = "fails\t" + offsets.ReplaceAllString(plainMessage(value), "")
			}
		} else if out.Seen.Kind == decoder.SeenNull {
			got += "root-null"
		} else if v, ok := out.Seen.Get("v"); ok {
			if v.Kind == decoder.SeenUnknown && outcome == "ok" {
				continue
			}
			got += printedJava(v)
			if at, err := time.Parse(time.RFC3339Nano, value); err == nil && v.Kind == decoder.SeenDate {
				value = printedDate(float64(at.UnixNano()/1e6) / 1000)
				want = outcome + "\t" + value
			}
			if declared == "map_enum_int" || declared == "map_Int_int" {
				got = strings.ReplaceAll(got, `"`, "") // keys that are no strings
			}
		}
		if !sameKotlin(got, want) && !(declared == "Float" && sameFloat(got, want)) {
			t.Errorf("%s %s %s (%s):\n got %s\nwant %s", name, declared, wireName, data, got, want)
		}
	}
	if checked < least {
		t.Errorf("%s: only %d rows were checked", name, checked)
	}
}

// ofTimes are exceptions whose messages tell how far a parser of the platform's came.
var ofTimes = regexp.MustCompile(`^fails\t(InstantFormatException|DateTimeFormatException): .*`)

// sameKotlin compares what comes out.
func sameKotlin(got, want string) bool {
	return sameJava(got, want) || sameForm(got, want) || ofTimes.MatchString(got) && ofTimes.ReplaceAllString(got, "$1") == ofTimes.ReplaceAllString(want, "$1")
}

func TestFormsMoshi(t *testing.T) { testFormsKotlin(t, "moshi-", 330) }

func TestFormsKotlinx(t *testing.T) { testFormsKotlin(t, "kx-", 430) }

// testFormsKotlin takes the forms whose names begin so; at least so many documents must be judged to the end.
func testFormsKotlin(t *testing.T, prefix string, least int) {
	dirs, err := filepath.Glob(truth + "kotlin/forms/" + prefix + "*")
	if err != nil || len(dirs) == 0 {
		t.Fatal("no forms", err)
	}
	followed := 0
	for _, dir := range dirs {
		base := "kotlin/forms/" + filepath.Base(dir) + "/"
		set := source.Read([]scan.Source{{Name: "Api.kt", Text: read(t, base+"Api.kt")}, {Name: "Models.kt", Text: read(t, base+"Models.kt")}})
		_, root, _ := strings.Cut(read(t, base+"about.txt"), "root:")
		root, _, _ = strings.Cut(root, "\n")
		plan, err := For(set, strings.TrimSpace(root))
		if err != nil {
			t.Errorf("%s: %v", base, err)
			continue
		}
		for _, row := range rows(t, base+"seen.tsv", true) {
			doc, err := wire.Parse([]byte(strings.ReplaceAll(row[0], "<TAB>", "\t")))
			if err != nil || plan.Refuses != "" || beyond[filepath.Base(dir)+" "+row[0]] != "" {
				continue // not JSON: trial names it as malformed
			}
			out := plan.Decode(doc)
			agrees(t, plan, row[0], out)
			if len(out.Unknown) > 0 && row[1] == "fails" {
				continue // by code that is not followed
			}
			followed++
			got, want := "ok\t"+javaForm(out.Seen), row[1]+"\t"+row[2]
			if out.Err != nil {
				got = "fails\t" + kindOf.FindString(out.Err.Message)
			}
			if row[1] == "fails" {
				want = "fails\t" + kindOf.FindString(row[2])
			}
			if !sameForm(got, want) {
				t.Errorf("%s %s\n got %s\nwant %s", base, row[0], got, want)
			}
		}
	}
	if followed < least {
		t.Errorf("only %d documents were judged", followed)
	}
}

// beyond are documents whose outcome is not the decoder's alone, and why.
var beyond = map[string]string{
	"moshi-retrofit null": "the HTTP client refuses a body of null where the function takes none",
}

// kindOf is the class of an exception at the beginning of its message.
var kindOf = regexp.MustCompile(`^\w+`)

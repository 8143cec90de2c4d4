package trial

import (
	"encoding/json"
	"fmt"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"vetta/internal/decoder"
	"vetta/internal/decoder/library"
	"vetta/internal/drift"
	"vetta/internal/model"
	"vetta/internal/shape"
	"vetta/internal/source"
	"vetta/internal/source/scan"
	"vetta/internal/wire"
)

// oddTexts are texts of which libraries think this and that, more than a place keeps.
var oddTexts = strings.Split(`|a|ab|A|true|TRUE|True| true |yes|no|on|1|0|null|nil|none|N/A|NaN|nan|Infinity|-Infinity|+Infinity|INF|
12| 12|12 |+12|-12|012|0x1F|0X1f|#1F|1e5|1E5|1.5e3|1_000|1,000|1.|.5|-0|-0.0|12f|12d|12L|0b11|0o7|٣|१२|1e400|-1e400|1e-400|9007199254740993|2147483648|-2147483649|128|256|65536|
9223372036854775808|18446744073709551616|99999999999999999999999999|0.1|0.10|12.50|3.0|1.0|38.90|1/2|50%|€5|5 EUR|1 000|--5|+|-|.|e5|1e|
http://saltmere.example|https://saltmere.example/a b|HTTP://SALTMERE.EXAMPLE|ftp://x|foo://x/1|foo:bar|mailto:a@saltmere.example|urn:x:1|jar:file:/x!/y|file:///x|//saltmere.example/x|/a/b|a/b|?q=1|#f|http:|http://|http://[::1]/|http://[::1|http://a:b@c:70000/|http://a:x/|ht tp://x|://x|1http://x|a:b:c|%zz|http://x/%zz|http://x/ä|http://ä.example|C:\x|\\x\y|data:text/plain,x|tel:+1|javascript:1|
00000000-0000-0000-0000-000000000000|12345678-1234-1234-1234-123456789ABC|12345678-1234-1234-1234-123456789abcd|123456781234123412341234567890ab|{12345678-1234-1234-1234-123456789abc}|(12345678-1234-1234-1234-123456789abc)|1-2-3-4-5|12345678-1234-1234-1234-12345678-abc|g2345678-1234-1234-1234-123456789abc|
aGk=|aGk|aG k=|aGk==|a-_=|a+/=|YWJj|YWJjZA==|YWJjZA|====|A|AA|AAA|AAAA|QUJD\nREVG|
2026-03-09|2026-3-9|2026-02-30|2026-13-01|20260309|09.03.2026|03/09/2026|09/03/2026|2026-03-09T09:30:00Z|2026-03-09T09:30:00|2026-03-09T09:30Z|2026-03-09T09:30:00.5Z|2026-03-09T09:30:00.123456789Z|2026-03-09T09:30:00.1234567890Z|2026-03-09T09:30:00+01:00|2026-03-09T09:30:00+0100|2026-03-09T09:30:00+01|2026-03-09T24:00:00Z|2026-03-09T25:00:00Z|2026-03-09T09:60:00Z|2026-03-09T09:30:60Z|2026-03-09t09:30:00z|2026-03-09 09:30:00|2026-03-09 09:30:00Z|2026-03-09T09:30:00 Z|Mon, 09 Mar 2026 09:30:00 GMT|Mon Mar  9 09:30:00 2026|9 March 2026|March 9, 2026|Mar 9, 2026 9:30:00 AM|2026-068|2026-W11-1|2026|2026-03|--03-09|+12026-03-09|-0001-01-01|0000-01-01|0001-01-01T00:00:00|9999-12-31T23:59:59Z|10000-01-01|1899-12-30|2026-03-09T09:30:00+19:00|2026-03-09T09:30:00[Europe/Berlin]|2026-03-09T09:30:00+01:00[Europe/Berlin]|/Date(1773048600000)/|/Date(1773048600000+0100)/|1773048600|1773048600000|1773048600.5|
09:30|9:30|09:30:00|09:30:00.5|24:00|09:30:00Z|09:30+01:00|1.02:03:04|02:03:04.5000000|1:2|25:00:00|-01:00:00|P1D|PT5M|P1Y2M3DT4H5M6S|P1W|PT0.5S|-PT5M|P|PT|1 day|
en|en_US|en-US|de_DE_POSIX|zh-Hant-TW|xx_YY|EUR|eur|XXX|EURO|US|USA|Europe/Berlin|europe/berlin|UTC|GMT|GMT+1|UTC+01:00|+01:00|+1|Z|CET|Nowhere/City|utf-8|UTF-8|latin-1|no-such-charset|
java.lang.String|int|void|com.saltmere.None|String|[I|/tmp/x|C:/x|::1|127.0.0.1|256.1.1.1|1.2.3.4.5|localhost|saltmere.example|a@b|[a-z]+|[|(|*|1.2.3|1.2|1.2.3.4|v1|1.2.3-beta|1.-2|
RED|red|Red|GREEN|green|r|R|2|BLUE|LOW|low|high|A,B|RED, GREEN|RED|0|7|
é|日本|😀|😀a|\u0000|a\u0000b|\u00a012|12\u00a0|\ufeff12|\t12|12\n|\n|"|'|\\|<b>|{}|[]|[1]|{"a":1}|"12"|`+strings.Repeat("long ", 40)+"|https://saltmere.example/"+strings.Repeat("x", 80)+"|foo://"+strings.Repeat("y", 80)+"|"+strings.Repeat("7", 80)+"|2026-03-09T09:30:00."+strings.Repeat("0", 60)+"Z", "|")

// oddNumbers are numbers of which libraries think this and that.
var oddNumbers = strings.Fields(`0 -0 1 -1 7 12 12.0 12.5 -12.5 0.1 0.10 1e2 1E2 1e-2 1.5e3 1e0 120e-1 127 128 -128 -129 255 256 32767 32768 65535 65536 2147483647 2147483648 -2147483648 -2147483649
	4294967295 4294967296 9007199254740991 9007199254740992 9007199254740993 9223372036854775807 9223372036854775808 -9223372036854775808 -9223372036854775809 18446744073709551615 18446744073709551616
	99999999999999999999999999999999999999 1e38 1e39 3.5e38 1e308 1e309 -1e400 1e-46 1e-324 1e-400 0.30000000000000004 16777217 1.1 2.5 3.5 1773048600 1773048600000 1773048600.5 20260309 1.0e10 12.000000000000000000001
	2147483647.5 -2147483648.5 9007199254740993.0 0.5 1.5 -0.5 1e1000 123456789.123456789 79228162514264337593543950335 79228162514264337593543950336 2147483647.0 9223372036854775807.0 1.7976931348623157e308`)

// spoken is a text as a literal.
func spoken(text string) string {
	text = strings.NewReplacer(`\n`, "\n", `\t`, "\t", `\u0000`, "\x00", `\u00a0`, "\u00a0", `\ufeff`, "\ufeff").Replace(text)
	out, _ := json.Marshal(text)
	return string(out)
}

// TestTextsFareOneByOne: however many texts and numbers stand at a place, check says of how many a type cannot be made that
// trial finds it of, in whatever order they come; and where they cannot be read again, it claims nothing that is not so.
func TestTextsFareOneByOne(t *testing.T) {
	literals := map[string]bool{}
	for _, text := range oddTexts {
		literals[spoken(text)] = true
	}
	for _, n := range oddNumbers {
		literals[n] = true
	}
	for _, odd := range []string{`"\ud800"`, `"\ud83d\ude00"`, `"https:\/\/saltmere.example\/x"`, `"\u0031\u0032"`, `"\u0031 2"`} {
		literals[odd] = true
	}
	// Texts that are numbers, and dates, are asked for by their facts where nothing else stands there.
	numbers, dates := map[string]bool{}, map[string]bool{}
	for _, n := range oddNumbers {
		numbers[spoken(n)] = true
	}
	for i := range 60 {
		numbers[spoken(fmt.Sprint(i*i*i))] = true
	}
	for _, year := range []string{"0000", "0001", "1582", "1900", "2026", "2024", "9999"} {
		for _, day := range []string{"01-01", "02-29", "02-30", "12-31", "13-01", "10-05"} {
			dates[spoken(year+"-"+day)] = true
			for _, time := range []string{"T09:30:00Z", "T24:00:00Z", "T23:59:60Z", "T09:30:00", "T00:00:00.123Z", "T09:30:00+01:00", "T09:30:00+14:30"} {
				dates[spoken(year+"-"+day+time)] = true
			}
		}
	}
	plain := map[string]bool{}
	for i := range 30 {
		for _, rest := range []string{"", "T09:30:00Z", "T23:59:59", "T00:00:00.5Z", "T09:30:00+01:00", "T09:30:00-0800", "T09:30:00.123456789Z"} {
			plain[spoken(fmt.Sprintf("%d-%02d-%02d%s", 1900+i*9, 1+i%12, 1+i%28, rest))] = true
		}
	}
	// Many texts beside few numbers: those are told apart, and judged, as ever.
	few := map[string]bool{"3": true, "12.5": true, "1e400": true}
	for text := range dates {
		few[text] = true
	}
	var sets [][]string
	for _, set := range []map[string]bool{literals, numbers, dates, plain, few} {
		var docs []string
		for literal := range set {
			docs = append(docs, `{"v":`+literal+`}`)
		}
		slices.Sort(docs)
		sets = append(sets, docs)
	}
	r := rand.New(rand.NewPCG(25, 1))
	checked := 0
	for _, d := range declaredPlans(t) {
		for _, docs := range sets {
			tryTexts(t, d, docs, r)
		}
		checked++
	}
	if checked < 500 {
		t.Errorf("only %d types were tried", checked)
	}
}

// tryTexts holds check to trial on documents.
func tryTexts(t *testing.T, d declaredPlan, docs []string, r *rand.Rand) {
	t.Helper()
	fails := 0
	for _, doc := range docs {
		v, err := wire.Parse([]byte(doc))
		if err != nil {
			t.Fatalf("%s: %v", doc, err)
		}
		out := d.plan.Decode(v)
		failed := out.Err != nil
		for _, c := range out.Changes {
			failed = failed || d.plan.Swallowed && c.Loss == decoder.Swallowed && len(c.Place) == 0
		}
		if failed {
			fails++
		}
	}
	for turn := range 2 {
		order := slices.Clone(docs)
		if turn > 0 {
			r.Shuffle(len(order), func(i, k int) { order[i], order[k] = order[k], order[i] })
		}
		read := func(_ *shape.Endpoint, by []shape.Teller, judges []shape.Judge) *shape.Endpoint {
			e := shape.NewEndpoint("docs", shape.DefaultLimits)
			e.Tell(by)
			e.Judge(judges)
			var r shape.Reader
			for i, doc := range order {
				src := &shape.Source{Origin: shape.Origin{File: fmt.Sprint("doc", i), Order: i}, Data: []byte(doc), Line: 1, Column: 1}
				if _, err := r.Read(e, src, 0); err != nil {
					t.Fatal(err)
				}
			}
			e.Settle()
			return e
		}
		e := read(nil, nil, nil)
		p := drift.Check([]*drift.Pair{{Plan: d.plan, Endpoint: e, Place: e.Root}}, drift.Second{Apart: read}).Pairs[0]
		if p.Lost > int64(fails) || p.LostExact && p.Lost != int64(fails) {
			t.Errorf("%s: check says %d would not decode (exact %v), trial says %d", d.name, p.Lost, p.LostExact, fails)
		}
		if len(p.Unkept) > 0 {
			t.Errorf("%s: texts at %v were not judged when the documents were read again", d.name, p.Unkept)
		}
		saved := drift.Check([]*drift.Pair{{Plan: d.plan, Endpoint: e, Place: e.Root}}, drift.Second{}).Pairs[0]
		if saved.Lost > int64(fails) || saved.LostExact && saved.Lost != int64(fails) {
			t.Errorf("%s: of a shape alone check says %d would not decode (exact %v), trial says %d", d.name, saved.Lost, saved.LostExact, fails)
		}
	}
}

// declaredPlan is the plan of a type that the truth has.
type declaredPlan struct {
	name string
	plan *decoder.Plan
}

// declaredPlans are those of all declared types of the truth, by each library that it was measured with.
func declaredPlans(t *testing.T) (all []declaredPlan) {
	t.Helper()
	seen := map[string]bool{}
	each := func(file string, add func(library, declared string)) {
		for _, row := range rows(t, file, true) {
			key := row[0] + " " + row[1]
			if !seen[key] && !strings.HasPrefix(row[1], "xml_") {
				seen[key] = true
				add(row[0], row[1])
			}
		}
	}
	planned := func(name, language string, set *model.Set, class string, settings *model.Settings) {
		m := set.Find(class)
		if m == nil && set.Others != nil {
			m = set.Others(class)
		}
		if m == nil {
			return
		}
		all = append(all, declaredPlan{name, library.For(language, settings).Plan(&model.Type{Name: m.Name, Model: m}, m.Name, settings)})
	}
	swiftSet := source.Read([]scan.Source{{Name: "Declared.swift", Text: read(t, "swift/Declared.swift")}})
	each("swift/declared.tsv", func(lib, declared string) {
		planned(lib+" "+declared, "swift", swiftSet, "T_"+declared, settingsOf(lib))
	})
	javaSet := source.Read([]scan.Source{{Name: "Declared.java", Text: read(t, "java/Declared.java")}})
	each("java/declared.tsv", func(lib, declared string) {
		planned(lib+" "+declared, "java", javaSet, "T_"+declared, jvmSettings(lib))
	})
	kotlin := map[string]*model.Set{}
	each("kotlin/declared.tsv", func(lib, declared string) {
		settings := &model.Settings{Library: strings.Split(strings.TrimPrefix(lib, "kotlin-"), "-")[0], Options: map[string]model.Option{}}
		mark := ""
		switch {
		case strings.Contains(lib, "kotlinx"):
			settings.Library, mark = "kotlinx.serialization", "@Serializable"
		case strings.Contains(lib, "codegen"):
			mark = "@JsonClass(generateAdapter = true)"
		}
		for option, value := range kotlinSettings[lib] {
			settings.Options[option] = model.Option{Value: value}
		}
		if kotlin[mark] == nil {
			kotlin[mark] = source.Read([]scan.Source{{Name: "Declared.kt", Text: declaration.ReplaceAllString(read(t, "kotlin/Declared.kt"), mark+" ${2}")}})
		}
		if library.For("kotlin", settings) != nil {
			planned(lib+" "+declared, "kotlin", kotlin[mark], "T_"+declared, settings)
		}
	})
	dartSet := source.Read([]scan.Source{{Name: "Declared.dart", Text: read(t, "dart/Declared.dart")}})
	each("dart/declared.tsv", func(lib, declared string) {
		if plan, err := For(dartSet, "T_"+declared); err == nil {
			all = append(all, declaredPlan{lib + " " + declared, plan})
		}
	})
	sharp := scan.Source{Name: "Declared.cs", Text: read(t, "csharp/Declared.cs")}
	each("csharp/declared.tsv", func(lib, declared string) {
		if strings.Contains(lib, "+") { // of names, and not of values
			return
		}
		set := source.Read([]scan.Source{sharp, {Name: "Api.cs", Text: loadSharp(t, lib, "T_"+declared)}})
		if plan, err := For(set, "T_"+declared); err == nil {
			all = append(all, declaredPlan{lib + " " + declared, plan})
		}
	})
	text := read(t, "typescript/declared.ts")
	script := source.Read([]scan.Source{{Name: "declared.ts", Text: text}})
	types := map[string]string{}
	for _, m := range declaredScript.FindAllStringSubmatch(text, -1) {
		types[m[1]] = m[2]
	}
	each("typescript/declared.tsv", func(lib, declared string) {
		if plan, err := For(script, types[declared]); err == nil {
			all = append(all, declaredPlan{lib + " " + declared, plan})
		}
	})
	return all
}

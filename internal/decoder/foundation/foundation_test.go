package foundation

import (
	"os"
	"strings"
	"testing"
	"time"

	"vetta/internal/decoder"
	"vetta/internal/shape"
	"vetta/internal/wire"
)

// TestSnakeCase: what the strategy makes of a key, as measured.
func TestSnakeCase(t *testing.T) {
	table, err := os.ReadFile("../../../testdata/truth/swift/declared.tsv")
	if err != nil {
		t.Fatal(err)
	}
	rows := 0
	for _, line := range strings.Split(string(table), "\n") {
		row := strings.Split(line, "\t")
		if len(row) != 5 || row[1] != "key" {
			continue
		}
		rows++
		if got := ConvertFromSnakeCase(row[2]); got != row[4] {
			t.Errorf("%s becomes %s, want %s", row[2], got, row[4])
		}
	}
	if rows < 25 {
		t.Errorf("only %d rows", rows)
	}
	for key, want := range map[string]string{
		"":            "",
		"_":           "_",
		"__":          "__",
		"SOME_KEY":    "someKey",
		"iOS_version": "iosVersion",
		"a__b_":       "aB_",
		"image_URL":   "imageUrl",
	} {
		if got := ConvertFromSnakeCase(key); got != want {
			t.Errorf("%q becomes %q, want %q", key, got, want)
		}
	}
}

func literal(kind wire.Kind, text string) *wire.Value {
	return &wire.Value{Kind: kind, Raw: []byte(text)}
}

func TestNumbers(t *testing.T) {
	const refused = "refused"
	for _, c := range []struct{ typ, literal, want, loss string }{
		{"Int", "9223372036854775807", "9223372036854775807", ""},
		{"Int", "9223372036854775808", refused, ""},
		{"Int", "-9223372036854775808", "-9223372036854775808", ""},
		{"Int", "1e18", "1000000000000000000", ""},
		{"Int", "9007199254740993.0", "9007199254740993", ""},
		{"Int", "1.0000000000000001", "1", "digits"},
		{"Int", "-0", "0", ""},
		{"Int", "-0.0", "0", ""},
		{"UInt8", "255", "255", ""},
		{"UInt8", "256", refused, ""},
		{"UInt8", "-1", refused, ""},
		{"UInt8", "2.55e2", "255", ""},
		{"Int8", "-128", "-128", ""},
		{"Int8", "-129", refused, ""},
		{"Double", "1e308", "1e+308", ""},
		{"Double", "1e309", refused, ""},
		{"Double", "1e-400", refused, ""},
		{"Double", "0e-400", "0.0", ""},
		{"Double", "0.1", "0.1", ""},
		{"Double", "9007199254740993", "9007199254740992.0", "digits"},
		{"Double", "123456789012345678", "1.2345678901234568e+17", "digits"},
		{"Double", "0.00001", "1e-05", ""},
		{"Float", "16777217", "16777216.0", "digits"},
		{"Float", "0.1", "0.1", ""},
		{"Float", "1e39", refused, ""},
		{"Float", "3.14159274", "3.1415927", "digits"},
		{"Float", "33554432", "33554432.0", ""},
		{"Float", "33554436", "3.3554436e+07", ""},
		{"Decimal", "12345678901234567890123456789012345678.9", "12345678901234567890123456789012345678.9", ""},
		{"Decimal", "1e127", "1" + strings.Repeat("0", 127), ""},
		{"Decimal", "1e170", refused, ""},
		{"Decimal", "0.10", "0.1", ""},
		{"Decimal", "-12.50e1", "-125", ""},
		{"Decimal", "1e-200", "0", "digits"},
	} {
		verdict := (&compiler{}).scalar(c.typ)(literal(wire.Number, c.literal))
		got := verdict.Seen.Text
		if verdict.Err != nil {
			got = refused
		}
		if got != c.want || string(verdict.Loss) != c.loss {
			t.Errorf("%s of %s: %s %q, want %s %q", c.typ, c.literal, got, verdict.Loss, c.want, c.loss)
		}
	}
}

func TestURLs(t *testing.T) {
	for in, want := range map[string]string{
		"":                                     "-",
		"a b":                                  "a%20b",
		"https://saltmere.example/ä?q=[1]#x y": "https://saltmere.example/%C3%A4?q=%5B1%5D#x%20y",
		"mailto:a@b":                           "mailto:a@b",
		":x":                                   "-",
		"1a:b":                                 "-",
		"a/b:c":                                "a/b:c",
		"http://h:80/":                         "http://h:80/",
		"http://h:8o/":                         "-",
		"http://[::1]/":                        "http://[::1]/",
		"http://[::1":                          "-",
		"%zz%41":                               "%25zz%41",
		"?a:b":                                 "?a:b",
		"//h/p":                                "//h/p",
		"http://u:p@h/":                        "http://u:p@h/",
	} {
		got, ok := urlString(in)
		if !ok {
			got = "-"
		}
		if got != want {
			t.Errorf("%q becomes %q, want %q", in, got, want)
		}
	}
}

func TestDatePatterns(t *testing.T) {
	london, err := time.LoadLocation("Europe/London")
	if err != nil {
		t.Fatal(err)
	}
	for _, c := range []struct {
		pattern, text, want string
		zone                *time.Location
	}{
		{"yyyy-MM-dd", "2026-03-01", "2026-03-01T00:00:00Z", time.UTC},
		{"yyyy-MM-dd", "2026-3-1", "2026-03-01T00:00:00Z", time.UTC},
		{"yyyy-MM-dd", "2026-02-30", "-", time.UTC},
		{"yyyy-MM-dd", "2026-03-01 ", "-", time.UTC},
		{"dd.MM.yyyy HH:mm", "01.07.2026 09:30", "2026-07-01T08:30:00Z", london},
		{"d MMM yyyy", "1 Mar 2026", "2026-03-01T00:00:00Z", time.UTC},
		{"EEEE, d MMMM yyyy", "Sunday, 1 March 2026", "2026-03-01T00:00:00Z", time.UTC},
		{"yyyy-MM-dd'T'HH:mm:ssZ", "2026-03-01T09:30:00+0200", "2026-03-01T07:30:00Z", time.UTC},
		{"yyyy-MM-dd'T'HH:mm:ss.SSSXXX", "2026-03-01T09:30:00.250Z", "2026-03-01T09:30:00.250Z", time.UTC},
		{"h:mm a", "9:30 PM", "2000-01-01T21:30:00Z", time.UTC},
		{"yyyyMMdd", "20260301", "2026-03-01T00:00:00Z", time.UTC},
		{"HH:mm", "25:00", "-", time.UTC},
		{"yyyy", "x", "-", time.UTC},
	} {
		p := parsePattern(c.pattern)
		if p == nil {
			t.Errorf("%s is not known", c.pattern)
			continue
		}
		got := "-"
		if seconds, ok := p.parse(c.text, c.zone); ok {
			got = decoder.DateText(seconds)
		}
		if got != c.want {
			t.Errorf("%s in %s is %s, want %s", c.text, c.pattern, got, c.want)
		}
	}
	if parsePattern("yyyy'") != nil || parsePattern("QQQ") != nil || parsePattern("") != nil {
		t.Error("a pattern that is not known is taken for one")
	}
}

func TestDateText(t *testing.T) {
	for seconds, want := range map[float64]string{
		0:             "1970-01-01T00:00:00Z",
		-1:            "1969-12-31T23:59:59Z",
		1772357400.25: "2026-03-01T09:30:00.250Z",
		951782400:     "2000-02-29T00:00:00Z",
		-62167219200:  "0000-01-01T00:00:00Z",
		253402300800:  "10000-01-01T00:00:00Z",
		1772357400000: "58133-10-08T20:00:00Z",
		1e300:         "1e+300 s",
	} {
		if got := decoder.DateText(seconds); got != want {
			t.Errorf("%v is %s, want %s", seconds, got, want)
		}
	}
}

// TestClassesAreFineEnough: two literals of one class fare alike with every scalar
// type, which is what check relies on.
func TestClassesAreFineEnough(t *testing.T) {
	var literals []string
	for _, mantissa := range []string{"0", "1", "7", "12", "127", "128", "129", "200", "255", "256", "300", "32767", "32768", "40000", "65535", "65536", "16777216", "16777217", "2147483647", "2147483648", "4294967295", "4294967296",
		"9007199254740992", "9007199254740993", "1772357400", "1772357400000", "9223372036854775807", "9223372036854775808", "9223372036854775809", "18446744073709551615", "18446744073709551616", "123456789012345678901234567890123456789012345"} {
		for _, suffix := range []string{"", ".0", ".5", ".25", ".0000000000000000001", "e0", "e2", "e38", "e39", "e127", "e200", "e309", "e-1", "e-3", "e-46", "e-330", ".5e1", ".123456789"} {
			literals = append(literals, mantissa+suffix, "-"+mantissa+suffix)
		}
	}
	kinds := map[string]wire.Kind{}
	for _, l := range literals {
		kinds[l] = wire.Number
	}
	for _, s := range []string{"", "x", "a b", "12", "12.5", "012", "aGk=", "aGk", "aGVsbG8=", "abcd", "09:30", "2026-03-01", "2026-13-01", "2026-03-01T09:30:00Z", "2026-03-01T09:30:00+02:00", "2026-03-01 09:30:00", "http://h/", "http://[h", "a:b", ":b",
		"123e4567-e89b-12d3-a456-426614174000", "123E4567-E89B-12D3-A456-426614174000", "123e4567e89b12d3a456426614174000", "true", `\ud800`, `\u0041`, "é"} {
		kinds[`"`+s+`"`] = wire.String
	}
	types := []string{"Int8", "Int16", "Int32", "Int64", "UInt8", "UInt16", "UInt32", "UInt64", "Float", "Double", "Decimal", "Bool", "String", "URL", "UUID", "Data", "Date"}
	byClass := map[shape.Class]map[string]string{}
	first := map[shape.Class]string{}
	for lit, kind := range kinds {
		class := shape.ClassOf([]byte(lit))
		fares := map[string]string{}
		for _, typ := range types {
			verdict := (&compiler{}).scalar(typ)(literal(kind, lit))
			fares[typ] = "ok " + string(verdict.Loss)
			if verdict.Err != nil {
				fares[typ] = verdict.Err.Message
			}
		}
		known := byClass[class]
		if known == nil {
			byClass[class], first[class] = fares, lit
			continue
		}
		for _, typ := range types {
			if known[typ] != fares[typ] {
				t.Errorf("%s and %s are of one class, but as %s one is %q and the other %q", first[class], lit, typ, known[typ], fares[typ])
			}
		}
	}
}

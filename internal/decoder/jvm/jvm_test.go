package jvm

import (
	"math"
	"testing"
	"time"

	"vetta/internal/model"
	"vetta/internal/wire"
)

func TestParseDouble(t *testing.T) {
	for in, want := range map[string]float64{
		"12":        12,
		" 12 ":      12,
		"\t-1.5\n":  -1.5,
		"+3":        3,
		"1e2":       100,
		"1E-2":      0.01,
		".5":        0.5,
		"5.":        5,
		"12d":       12,
		"12F":       12,
		"0x1p3":     8,
		"0x1.8p1f":  3,
		"Infinity":  math.Inf(1),
		"-Infinity": math.Inf(-1),
		"1e400":     math.Inf(1),
		"1e-400":    0,
		"-0":        math.Copysign(0, -1),
	} {
		if got, ok := ParseDouble(in); !ok || got != want || math.Signbit(got) != math.Signbit(want) {
			t.Errorf("%q is %v (%v), want %v", in, got, ok, want)
		}
	}
	if got, ok := ParseDouble("NaN"); !ok || !math.IsNaN(got) {
		t.Errorf("NaN is %v", got)
	}
	for _, in := range []string{"", " ", "x", "1,5", "1_000", "0x10", "inf", "nan", "infinity", "--1", "1e", "e5", "d", "1 2", "0x", "+", "1dd"} {
		if got, ok := ParseDouble(in); ok {
			t.Errorf("%q is taken for %v", in, got)
		}
	}
}

func TestWholeNumbers(t *testing.T) {
	for in, want := range map[float64][2]int64{
		1.9:          {1, 1},
		-1.9:         {-1, -1},
		1e10:         {1e10, math.MaxInt32},
		-1e10:        {-1e10, math.MinInt32},
		1e19:         {math.MaxInt64, math.MaxInt32},
		math.Inf(-1): {math.MinInt64, math.MinInt32},
		math.NaN():   {0, 0},
	} {
		if ToLong(in) != want[0] || ToInt(in) != want[1] {
			t.Errorf("%v is %d and %d, want %v", in, ToLong(in), ToInt(in), want)
		}
	}
	for in, ok := range map[string]bool{
		"12":         true,
		"-12":        true,
		"+12":        true,
		"2147483647": true,
		"2147483648": false,
		"1.0":        false,
		"":           false,
		" 1":         false,
		"1_0":        false,
	} {
		if _, got := ParseWhole(in, 32); got != ok {
			t.Errorf("%q as an int: %v", in, got)
		}
	}
}

func TestBigNumbers(t *testing.T) {
	for in, want := range map[string]string{
		"1":         "1",
		"-0":        "0",
		"1.10":      "1.10",
		"1e2":       "1E+2",
		"1.5e1":     "15",
		"12e-3":     "0.012",
		"0.0000001": "1E-7",
		"1e400":     "1E+400",
		"-1.5E+3":   "-1.5E+3",
		"+7":        "7",
		".5":        "0.5",
		"5.":        "5",
		"0e5":       "0E+5",
		"123.45e-1": "12.345",
	} {
		if got, ok := ParseDecimal(in); !ok || got != want {
			t.Errorf("%q is %s (%v), want %s", in, got, ok, want)
		}
	}
	for _, in := range []string{"", ".", "x", " 1", "1 ", "1e", "1,2", "0x1", "NaN", "1e99999999999"} {
		if got, ok := ParseDecimal(in); ok {
			t.Errorf("%q is taken for %s", in, got)
		}
	}
	for in, want := range map[string]string{
		"12":                             "12",
		"-012":                           "-12",
		"+5":                             "5",
		"123456789012345678901234567890": "123456789012345678901234567890",
	} {
		if got, ok := ParseInteger(in); !ok || got != want {
			t.Errorf("%q is %s (%v), want %s", in, got, ok, want)
		}
	}
	for _, in := range []string{"", "-", "1.0", "1e2", " 1", "--1"} {
		if got, ok := ParseInteger(in); ok {
			t.Errorf("%q is taken for %s", in, got)
		}
	}
}

func TestSameNumber(t *testing.T) {
	for _, c := range []struct {
		text string
		bits int
		same bool
	}{
		{"0.1", 64, true},
		{"0.1", 32, true},
		{"0.1234567890123456789", 64, false},
		{"16777217", 32, false},
		{"9007199254740993", 64, false},
		{"1e2", 64, true},
		{"12.50", 32, true},
		{"1e400", 64, false},
		{"-0.0", 64, true},
	} {
		f, _ := ParseDouble(c.text)
		if c.bits == 32 {
			f = float64(float32(f))
		}
		if got := SameNumber(c.text, f, c.bits); got != c.same {
			t.Errorf("%s in %d bits: %v", c.text, c.bits, got)
		}
	}
	for in, want := range map[float64]string{1: "1.0", 0.1: "0.1", 1e7: "10000000.0", 1e300: "1e+300", math.Inf(1): "Infinity", math.NaN(): "NaN"} {
		if got := FloatText(in, 64); got != want {
			t.Errorf("%v is written %s, want %s", in, got, want)
		}
	}
}

func TestAddresses(t *testing.T) {
	for in, want := range map[string]string{
		"https://saltmere.example/a b": "",
		" http://x ":                   "",
		"file:/a":                      "",
		"mailto:a@b":                   "",
		"a/b":                          "no protocol: a/b",
		"":                             "no protocol: ",
		"abc":                          "no protocol: abc",
		"tel:1":                        "unknown protocol: tel",
		"1x:y":                         "no protocol: 1x:y",
		"/a:b":                         "no protocol: /a:b",
		"url:http://x":                 "",
	} {
		if got := ParseURL(in); got != want {
			t.Errorf("URL %q: %q, want %q", in, got, want)
		}
	}
	for in, want := range map[string]string{
		"":                                "",
		"a/b":                             "",
		"https://saltmere.example/?q=1#f": "",
		"mailto:a@b":                      "",
		"a%20b":                           "",
		"é":                               "",
		"http://[::1]/":                   "",
		"a b":                             "Illegal character in path at index 1: a b",
		"09:30":                           "Illegal character in scheme name at index 0: 09:30",
		":b":                              "Expected scheme name at index 0: :b",
		"a:":                              "Expected scheme-specific part at index 2: a:",
		"a%2":                             "Malformed escape pair at index 1: a%2",
		"x?a b":                           "Illegal character in query at index 3: x?a b",
		"x#a#b":                           "Illegal character in fragment at index 3: x#a#b",
		"http://":                         "Expected authority at index 7: http://",
		"m:a b":                           "Illegal character in opaque part at index 3: m:a b",
	} {
		if got := ParseURI(in); got != want {
			t.Errorf("URI %q: %q, want %q", in, got, want)
		}
	}
	for in, want := range map[string]string{
		"123E4567-e89b-12d3-a456-426614174000": "123e4567-e89b-12d3-a456-426614174000",
		"1-2-3-4-5":                            "00000001-0002-0003-0004-000000000005",
		"123e4567e89b12d3a456426614174000":     "",
		"":                                     "",
		"g-1-1-1-1":                            "",
		"1-2-3-4":                              "",
		"1--3-4-5":                             "",
	} {
		if got, ok := ParseUUID(in); got != want || ok != (want != "") {
			t.Errorf("UUID %q: %q %v, want %q", in, got, ok, want)
		}
	}
}

func TestDates(t *testing.T) {
	for _, c := range [][3]string{
		{"yyyy-MM-dd HH:mm:ss", "2026-03-01 09:30:00", "2026-03-01T09:30:00Z"},
		{"yyyy-MM-dd", "2026-3-1 and more", "2026-03-01T00:00:00Z"},
		{"dd.MM.yy", "01.03.26", "2026-03-01T00:00:00Z"},
		{"yyyyMMdd", "20260301", "2026-03-01T00:00:00Z"},
		{"MMM d, yyyy, h:mm:ss a", "Mar 1, 2026, 9:30:00 PM", "2026-03-01T21:30:00Z"},
		{"EEE, dd MMM yyyy HH:mm:ss zzz", "Sun, 01 Mar 2026 09:30:00 GMT", "2026-03-01T09:30:00Z"},
		{"yyyy-MM-dd'T'HH:mm:ss.SSSXXX", "2026-03-01T09:30:00.250+02:00", "2026-03-01T07:30:00.25Z"},
		{"yyyy-MM-dd'T'HH:mm:ssZ", "2026-03-01T09:30:00-0100", "2026-03-01T10:30:00Z"},
		{"yyyy-MM-dd", "2026-13-45", "2027-02-14T00:00:00Z"},
		{"MMMM yyyy", "march 2026", "2026-03-01T00:00:00Z"},
		{"yyyy 'o''clock' H", "2026 o'clock 7", "2026-01-01T07:00:00Z"},
		{"yyyy-MM-dd", "1 March 2026", ""},
		{"yyyy-MM-dd", "", ""},
		{"HH:mm", "9", ""},
		{"h a", "9 x", ""},
		{"yyyyMMdd", "2026-301", ""},
	} {
		at, ok, known := ParsePattern(c[0], c[1], time.UTC)
		got := ""
		if ok {
			got = at.UTC().Format(time.RFC3339Nano)
		}
		if got != c[2] || !known {
			t.Errorf("%s %q: %s, want %s", c[0], c[1], got, c[2])
		}
	}
	for _, pattern := range []string{"yyyy-'unfinished", "G yyyy", "w"} {
		if _, _, known := ParsePattern(pattern, "2026", time.UTC); known {
			t.Errorf("%s is said to be followed", pattern)
		}
	}
	for in, want := range map[string]string{
		"2026-03-01":                       "2026-03-01T00:00:00Z",
		"20260301":                         "2026-03-01T00:00:00Z",
		"2026-03-01T09:30Z":                "2026-03-01T09:30:00Z",
		"2026-03-01T09:30:00.1Z":           "2026-03-01T09:30:00.1Z",
		"2026-03-01T09:30:00.123456+02:00": "2026-03-01T07:30:00.123Z",
		"2026-03-01T093000+02":             "2026-03-01T07:30:00Z",
		"2026-03-01T09:30:60Z":             "2026-03-01T09:30:59Z",
		"2026-03-01T09:30:00Zjunk":         "2026-03-01T09:30:00Z",
		"2026-13-01":                       "",
		"2026-02-30T00:00Z":                "",
		"2026-03-01T09:30:00":              "",
		"2026-03-01 09:30:00":              "",
		"2026-03-01T25:00Z":                "",
		"2026-03-01T09:30:00.Z":            "",
		"26-03-01":                         "",
		"":                                 "",
		"2026-03-01T09:30:00+2":            "",
		"2026-03-01T09":                    "",
	} {
		at, ok := ParseISO(in, time.UTC)
		got := ""
		if ok {
			got = at.UTC().Format(time.RFC3339Nano)
		}
		if got != want {
			t.Errorf("%q: %s, want %s", in, got, want)
		}
	}
}

func named(name string) *model.Type { return &model.Type{Kind: model.Named, Name: name} }

func TestTypes(t *testing.T) {
	for _, c := range []struct {
		t         *model.Type
		kotlin    bool
		primitive bool
		zero      string
	}{
		{named("int"), false, true, "0"},
		{named("Integer"), false, false, "null"},
		{named("Int"), true, true, "0"},
		{model.OptionalOf(named("Int")), true, false, "null"},
		{named("boolean"), false, true, "false"},
		{named("Double"), true, true, "0.0"},
		{named("Double"), false, false, "null"},
		{named("String"), true, false, "null"},
		{named("char"), false, true, `"\u0000"`},
	} {
		if got := IsPrimitive(c.t, c.kotlin); got != c.primitive {
			t.Errorf("%s is primitive: %v", TypeText(c.t), got)
		}
		if got := Zero(c.t, c.kotlin).String(); got != c.zero {
			t.Errorf("%s is %s at first, want %s", TypeText(c.t), got, c.zero)
		}
	}
	list := &model.Type{Kind: model.List, Args: []*model.Type{model.OptionalOf(named("Int"))}}
	for want, typ := range map[string]*model.Type{
		"List<Int?>":              list,
		"Set<String>":             {Kind: model.Unique, Args: []*model.Type{named("String")}},
		"Map<String, List<Int?>>": {Kind: model.Map, Args: []*model.Type{named("String"), list}},
		"int[][]":                 {Kind: model.List, Name: "[]", Args: []*model.Type{{Kind: model.List, Name: "[]", Args: []*model.Type{named("int")}}}},
		"IntArray":                {Kind: model.List, Name: "IntArray", Args: []*model.Type{named("Int")}},
		"Array<Int>":              {Kind: model.List, Name: "Array", Args: []*model.Type{named("Int")}},
		"Page<Port>":              {Kind: model.Named, Name: "Page", Args: []*model.Type{named("Port")}},
	} {
		if got := TypeText(typ); got != want {
			t.Errorf("%s, want %s", got, want)
		}
	}
}

func TestConstants(t *testing.T) {
	tint := &model.Model{Name: "Tint", Kind: model.Enum, Cases: []*model.Case{{Name: "RED"}}}
	for _, c := range []struct {
		l    model.Literal
		t    *model.Type
		want string
	}{
		{model.Literal{Kind: model.IntLiteral, Text: "5"}, named("int"), "5"},
		{model.Literal{Kind: model.IntLiteral, Text: "5"}, named("double"), "5.0"},
		{model.Literal{Kind: model.FloatLiteral, Text: "1.5"}, named("Float"), "1.5"},
		{model.Literal{Kind: model.FloatLiteral, Text: "1.5"}, named("int"), "unknown"},
		{model.Literal{Kind: model.StringLiteral, Text: "x"}, named("String"), `"x"`},
		{model.Literal{Kind: model.StringLiteral, Text: "x"}, named("Port"), "unknown"},
		{model.Literal{Kind: model.NullLiteral}, named("String"), "null"},
		{model.Literal{Kind: model.BoolLiteral, Text: "true"}, named("boolean"), "true"},
		{
			model.Literal{Kind: model.ListLiteral, Elems: []*model.Literal{{Kind: model.IntLiteral, Text: "9"}}},
			&model.Type{Kind: model.List, Args: []*model.Type{named("Integer")}},
			"[9]",
		},
		{model.Literal{Kind: model.ListLiteral}, named("int"), "unknown"},
		{model.Literal{Kind: model.MapLiteral}, &model.Type{Kind: model.Map, Args: []*model.Type{named("String"), named("Int")}}, "{}"},
		{model.Literal{Kind: model.CaseLiteral, Text: "RED"}, &model.Type{Kind: model.Named, Name: "Tint", Model: tint}, `"RED"`},
		{model.Literal{Kind: model.CaseLiteral, Text: "BLUE"}, &model.Type{Kind: model.Named, Name: "Tint", Model: tint}, "unknown"},
		{model.Literal{Kind: model.OtherLiteral}, named("int"), "unknown"},
	} {
		got := Constant(&c.l, c.t)
		text := got.String()
		if got.Kind == unknownKind {
			text = "unknown"
		}
		if text != c.want {
			t.Errorf("%+v as %s: %s, want %s", c.l, TypeText(c.t), text, c.want)
		}
	}
}

func TestAnyKeepsTheLastOfEqualKeys(t *testing.T) {
	v, err := wire.Parse([]byte(`{"a":1,"b":[true,null,"x"],"a":{"c":2.5}}`))
	if err != nil {
		t.Fatal(err)
	}
	got := Any(v, func(raw string) (s seen) { return seen{Kind: decimalKind, Text: raw} })
	if text := got.String(); text != `{"a":{"c":2.5},"b":[true,null,"x"]}` {
		t.Error(text)
	}
	if s, _ := StringValue("a\"\n").Text(); s != "a\"\n" {
		t.Errorf("%q", s)
	}
	for in, want := range map[string]int{"": 0, "abc": 3, "é": 1, "😀": 2} {
		if got := Chars(in); got != want {
			t.Errorf("%s has %d characters, want %d", in, got, want)
		}
	}
	for in, want := range map[string]string{"aGk=": "hi", "": "", "aGk": "-", "a k=": "-"} {
		if got, ok := Base64(in); ok != (want != "-") || ok && got != want {
			t.Errorf("%q is %q (%v), want %q", in, got, ok, want)
		}
	}
}

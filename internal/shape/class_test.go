package shape

import (
	"fmt"
	"math"
	"math/rand/v2"
	"strconv"
	"strings"
	"testing"

	"vetta/internal/wire"
)

var factNames = []struct {
	fact Facts
	name string
}{
	{True, "true"},
	{HasFraction, "fraction"},
	{HasExponent, "exponent"},
	{Broken, "broken"},
	{RoundsWhole, "rounds-whole"},
	{Negative, "negative"},
	{Zero, "zero"},
	{Beyond7, "7"},
	{Beyond8, "8"},
	{Beyond15, "15"},
	{Beyond16, "16"},
	{Beyond31, "31"},
	{Beyond32, "32"},
	{Beyond53, "53"},
	{Beyond63, "63"},
	{Beyond64, "64"},
	{Loses32, "loses32"},
	{Loses64, "loses64"},
	{Loses128, "loses128"},
	{TooLarge32, "large32"},
	{TooSmall32, "small32"},
	{TooLarge64, "large64"},
	{TooSmall64, "small64"},
	{TooLarge128, "large128"},
	{EpochSeconds, "seconds"},
	{EpochMillis, "millis"},
	{RoundsTo63, "to63"},
	{RoundsTo64, "to64"},
	{AtEdge, "edge"},
	{Inexact64, "inexact64"},
	{Empty, "empty"},
	{HalfPair, "half"},
	{IsUUID, "uuid"},
	{IsBase64, "base64"},
	{NotURI, "no-uri"},
	{IsDate, "date"},
	{IsNumber, "number"},
}

func factsText(f Facts) string {
	var out []string
	for _, n := range factNames {
		if f&n.fact != 0 {
			out = append(out, n.name)
		}
	}
	return strings.Join(out, " ")
}

func TestNumberClasses(t *testing.T) {
	for lit, want := range map[string]string{
		"0":                    "zero",
		"-0":                   "negative zero",
		"0.0":                  "fraction zero",
		"0e5":                  "exponent zero",
		"1":                    "",
		"127":                  "",
		"128":                  "7",
		"-128":                 "negative",
		"-129":                 "negative 7",
		"255":                  "7",
		"256":                  "7 8",
		"-256":                 "negative 7 8",
		"32767":                "7 8",
		"32768":                "7 8 15",
		"-32768":               "negative 7 8",
		"65535":                "7 8 15",
		"65536":                "7 8 15 16",
		"2147483647":           "7 8 15 16 loses32 seconds",
		"2147483648":           "7 8 15 16 31 seconds",
		"4294967296":           "7 8 15 16 31 32",
		"16777217":             "7 8 15 16 loses32",
		"16777216":             "7 8 15 16",
		"9007199254740991":     "7 8 15 16 31 32 loses32",
		"9007199254740993":     "7 8 15 16 31 32 53 loses32 loses64",
		"9223372036854775807":  "7 8 15 16 31 32 53 loses32 loses64 to63 edge",
		"9223372036854775808":  "7 8 15 16 31 32 53 63 to63 edge",
		"-9223372036854775808": "negative 7 8 15 16 31 32 53 edge",
		"18446744073709551616": "7 8 15 16 31 32 53 63 64 to63 to64",
		"12.5":                 "fraction broken",
		"12.0":                 "fraction",
		"0.1":                  "fraction broken",
		"0.123456":             "fraction broken",
		"0.1234567":            "fraction broken",
		"0.12345678":           "fraction broken",
		"0.123456789":          "fraction broken loses32",
		"-1.50":                "negative fraction broken",
		"1e2":                  "exponent",
		"1.5e1":                "fraction exponent",
		"1e-2":                 "exponent broken",
		"1.0000000000000001":   "fraction broken rounds-whole loses32 loses64",
		"1e400":                "exponent 7 8 15 16 31 32 53 63 64 large32 large64 large128 to63 to64",
		"1e-400":               "exponent broken rounds-whole loses128 small32 small64",
		"1e39":                 "exponent 7 8 15 16 31 32 53 63 64 large32 to63 to64",
		"1772357400":           "7 8 15 16 seconds",
		"1772357400000":        "7 8 15 16 31 32 millis",
	} {
		want := strings.Join(sortedByName(want), " ")
		c := ClassOf([]byte(lit))
		if got := factsText(c.Facts); c.Kind != wire.Number || got != want {
			t.Errorf("%s\n got %s\nwant %s", lit, got, want)
		}
	}
}

// sortedByName puts fact names in the order in which factsText writes them.
func sortedByName(text string) (out []string) {
	given := map[string]bool{}
	for _, f := range strings.Fields(text) {
		given[f] = true
	}
	for _, n := range factNames {
		if given[n.name] {
			out = append(out, n.name)
		}
	}
	return out
}

func TestNumberValues(t *testing.T) {
	for _, lit := range []string{"0", "-0", "7", "-128", "300", "123456789012345678", "12.5", "-0.25", "99999999999.99", "1e10", "1.7976931348623157e308", "0.1", "4.35", "-12345678.9012", "100.0"} {
		var r wire.Reader
		r.Reset([]byte(lit), 0)
		ev, err := r.Next()
		if err != nil {
			t.Fatal(err)
		}
		_, got := numberFacts([]byte(lit), ev.Traits, r.Decimal())
		var want float64
		if _, err := fmt.Sscan(lit, &want); err != nil {
			t.Fatal(err)
		}
		if got != want || math.Signbit(got) != math.Signbit(want) && got != 0 {
			t.Errorf("%s is %v, want %v", lit, got, want)
		}
	}
}

// The short ways for frequent numbers and dates must say what the long ones say.
func TestShortWaysAgree(t *testing.T) {
	r := rand.New(rand.NewPCG(4, 2))
	for range 200000 {
		lit := strconv.FormatInt(r.Int64N(int64(math.Pow10(1+r.IntN(17)))), 10)
		if r.IntN(2) == 0 {
			lit += "." + strconv.FormatInt(r.Int64N(int64(math.Pow10(1+r.IntN(9)))), 10) + strings.Repeat("0", r.IntN(3))
		}
		if r.IntN(3) == 0 {
			lit = "-" + lit
		}
		d, traits, ok := wire.ParseNumber([]byte(lit))
		if !ok {
			t.Fatalf("%s is no number", lit)
		}
		got, _ := numberFacts([]byte(lit), traits, &d)
		if want := exactFacts(lit, traits); got != want {
			t.Fatalf("%s\n got %s\nwant %s", lit, factsText(got), factsText(want))
		}
	}
	for range 200000 {
		body := []byte(isoForm)
		for i := range body {
			if body[i] == '0' {
				body[i] += byte(r.IntN(3))
			}
		}
		if r.IntN(2) == 0 {
			body[r.IntN(len(body))] = byte(r.IntN(256))
		}
		ok, exists := isISO(body)
		form := dateForm(nil, body)
		if want := string(form) == isoForm; ok != want || ok && exists != isDate(body) {
			t.Fatalf("%q: %v %v, want %v %v", body, ok, exists, want, isDate(body))
		}
	}
}

func TestStringClasses(t *testing.T) {
	for body, want := range map[string]string{
		"":                                     "empty base64 no-uri",
		"x":                                    "",
		"abcd":                                 "base64",
		"aGk=":                                 "base64",
		"aGk":                                  "",
		"a b":                                  "",
		"a:b":                                  "",
		":b":                                   "no-uri",
		"09:30":                                "no-uri 00:00 date",
		"a/b:c":                                "",
		"http://h:8o/":                         "no-uri",
		"http://[::1]/":                        "",
		"12":                                   "number",
		"1234":                                 "base64 7 8 number",
		"-1.5":                                 "fraction broken negative number",
		"012":                                  "",
		"1e5":                                  "exponent 7 8 15 16 number",
		"1,5":                                  "",
		`\ud800`:                               "half",
		`\u0041`:                               "",
		"é":                                    "",
		"123e4567-e89b-12d3-a456-426614174000": "uuid",
		"123e4567-e89b-12d3-a456-42661417400g": "",
		"2026-03-01":                           "0000-00-00 date",
		"2026-13-01":                           "0000-00-00",
		"2026-02-29":                           "0000-00-00",
		"2024-02-29":                           "0000-00-00 date",
		"2026-03-01T09:30:00Z":                 "no-uri 0000-00-00T00:00:00Z date",
		"2026-03-01T25:30:00Z":                 "no-uri 0000-00-00T00:00:00Z",
		"2026-03-01T09:30:00+02:00":            "no-uri 0000-00-00T00:00:00+00:00 date",
		"01/03/2026":                           "00/00/0000 date",
		"31/04/2026":                           "00/00/0000",
		"1 March 2026":                         "0 a 0000 date",
		"Sun, 01 Mar 2026 09:30:00 GMT":        "no-uri a, 00 a 0000 00:00:00 GMT date",
		"Room 12 B":                            "",
		"Tern 4":                               "",
		"A4":                                   "",
	} {
		c := ClassOf([]byte(`"` + body + `"`))
		var words []string
		facts := c.Facts
		date := facts&IsDate != 0
		words = append(words, strings.Fields(factsText(facts&^IsDate))...)
		got := strings.Join(words, " ")
		if c.Form != "" {
			got = strings.TrimSpace(got + " " + c.Form)
		}
		if date {
			got += " date"
		}
		if form := c.Form; form == "" {
			want = strings.Join(sortedByName(want), " ")
		}
		if got != want {
			t.Errorf("%q\n got %s\nwant %s", body, got, want)
		}
	}
}

func TestClassNames(t *testing.T) {
	for lit, want := range map[string]string{
		"null":                                   "null",
		"true":                                   "a bool",
		"1":                                      "a whole number",
		"1.5":                                    "a number with a fraction",
		"99999999999999999999":                   "a number beyond 64 bits",
		`""`:                                     "an empty string",
		`"x"`:                                    "a string",
		`"12"`:                                   "a string that is a number",
		`"2026-03-01"`:                           "a string like 0000-00-00",
		`"123e4567-e89b-12d3-a456-426614174000"`: "a UUID",
		"[]":                                     "an array",
		"{}":                                     "an object",
	} {
		if got := ClassOf([]byte(lit)).String(); got != want {
			t.Errorf("%s is %s, want %s", lit, got, want)
		}
	}
}

// collect is the one endpoint of some documents.
func collect(t *testing.T, docs ...string) *Endpoint {
	t.Helper()
	s := Collect(write(t, map[string]string{"d.ndjson": strings.Join(docs, "\n") + "\n"}), Reading{Workers: 1, Limits: DefaultLimits})
	if len(s.Endpoints) != 1 || s.Documents != int64(len(docs)) {
		t.Fatalf("%d endpoints, %d documents, %v", len(s.Endpoints), s.Documents, s.Problems)
	}
	return s.Endpoints[0]
}

func TestAt(t *testing.T) {
	e := collect(t, `{"a":[{"b c":1,"it's":[[2]]}],"m":{}}`)
	for path, want := range map[string]string{
		"$":                     "$",
		"$.a":                   "$.a",
		"$.a[*]":                "$.a[*]",
		"$.a[3]['b c']":         "$.a[*]['b c']",
		`$.a[*]['it\'s'][0][*]`: `$.a[*]['it\'s'][*][*]`,
		"$.x":                   "",
		"a":                     "",
		"$.a[":                  "",
		"$a":                    "",
		"$.a.b":                 "",
	} {
		got := ""
		if p := e.At(path); p != nil {
			got = p.Path()
		}
		if got != want {
			t.Errorf("%s leads to %q, want %q", path, got, want)
		}
	}
	if p := e.Place(e.At("$.a[*]").Steps); p != e.At("$.a[*]") {
		t.Error("the steps of a place do not lead to it")
	}
}

// TestAmong: how many responses hold any of some things is exact, not a sum.
func TestAmong(t *testing.T) {
	e := collect(t, `{"l":[{"a":1},{"a":null},{"b":1}]}`, `{"l":[{"a":null}]}`, `{"l":[{"a":2},{}]}`, `{"l":[]}`)
	elem := e.At("$.l[*]")
	var null, without []*Tally
	for c, tally := range e.At("$.l[*].a").Classes {
		if c.Kind == wire.Null {
			null = append(null, tally)
		}
	}
	for _, f := range elem.Forms {
		if !f.Has(elem.Key("a")) {
			without = append(without, &f.Tally)
		}
	}
	for _, c := range []struct {
		tallies []*Tally
		want    int64
	}{{null, 2}, {without, 2}, {append(null, without...), 3}, {nil, 0}} {
		if n, exact := e.Among(c.tallies); n != c.want || !exact {
			t.Errorf("%d (exact %v), want %d", n, exact, c.want)
		}
	}
}

func TestDynamicKeys(t *testing.T) {
	dates := collect(t, `{"days":{"2026-03-01":{"n":1},"2026-03-02":{"n":2}}}`, `{"days":{"2026-03-03":{"n":3},"2026-03-04":{"n":"x"}}}`, `{"days":{"2026-03-05":{"n":1}}}`)
	p := dates.At("$.days")
	if p.Member == nil || p.Member.Count(wire.Object) != 5 || dates.At("$.days[*].n").Total() != 5 || len(dates.Capped) != 0 {
		t.Errorf("dates are no map: %v %v", p.Keys, dates.Capped)
	}
	if n, exact := dates.Among([]*Tally{dates.At("$.days[*].n").Classes[ClassOf([]byte(`"x"`))]}); n != 1 || !exact {
		t.Errorf("%d %v", n, exact)
	}
	for _, docs := range [][]string{
		{`{"o":{"s1":1,"s2":2,"s3":3,"s4":4}}`, `{"o":{"s1":1,"s2":2,"s3":3,"s4":4}}`}, // always all there
		{`{"o":{"name":1}}`, `{"o":{"code":1}}`, `{"o":{"depth":1}}`, `{"o":{"open":1}}`},
		{`{"o":{"10":1}}`, `{"o":{"11":{}}}`, `{"o":{"12":1}}`, `{"o":{"13":1}}`},
	} {
		if p := collect(t, docs...).At("$.o"); p.Member != nil {
			t.Errorf("%v are a map", docs)
		}
	}
	var many strings.Builder
	many.WriteString(`{"o":{`)
	for i := range 400 {
		if i > 0 {
			many.WriteByte(',')
		}
		many.WriteString(`"k` + strings.Repeat("x", i%7) + string(rune('a'+i%26)) + string(rune('a'+i/26)) + `":1`)
	}
	many.WriteString(`}}`)
	e := collect(t, many.String(), `{"o":{"kaa":2}}`)
	if p := e.At("$.o"); p.Member == nil || p.Member.Total() != 401 || len(e.Capped) != 1 {
		t.Errorf("%v", e.Capped)
	}
}

// TestLargeEscaped: a long text with escapes is of the class that it is of without them.
func TestLargeEscaped(t *testing.T) {
	long := strings.Repeat("QUJD/+0x", mostScratch/8)
	for _, c := range []struct{ name, escaped, plain string }{
		{"base64", `\/` + long + `ABC`, "/" + long + "ABC"},
		{"base64 with padding", `\/A` + long + `==`, "/A" + long + "=="},
		{"too much padding", `\/` + long + `===`, "/" + long + "==="},
		{"padding inside", `A\u003D=A` + long, "A==A" + long},
		{"not by fours", `\/` + long, "/" + long},
		{"other characters", `\u00e9` + long, "é" + long},
		{"a dash", `\u002D` + long + "ABC", "-" + long + "ABC"},
		{"a link", `https:\/\/saltmere.example\/` + long, "https://saltmere.example/" + long},
		{"no scheme", `\u0031:` + long, "1:" + long},
		{"an IP literal without its end", `\/\/[` + long, "//[" + long},
	} {
		var s stringer
		got, want := s.class([]byte(`"`+c.escaped+`"`), wire.Escaped), s.class([]byte(`"`+c.plain+`"`), 0)
		if got != want {
			t.Errorf("%s: %v, want %v", c.name, got, want)
		}
	}
	if c := new(stringer).class([]byte(`"\ud800`+long+`"`), wire.Escaped); c.Facts&HalfPair == 0 {
		t.Errorf("half a pair: %v", c)
	}
}

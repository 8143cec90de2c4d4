package scan

import (
	"strings"
	"testing"
)

// outlined is a dialect whose functions begin with the word fn and a name, and whose
// bodies are read where the word keep stands in them.
var outlined = &Dialect{Quotes: `"`, NestedComments: true, StringAt: quoted.StringAt, Words: NewWords("keep decode"), Opens: func(f *File) Body {
	last := f.Len() - 1
	switch {
	case f.Is(last-3, "fn"):
		return Unread
	case f.Is(last-3, "init"):
		return Followed
	}
	return Other
}}

func words(f *File) string {
	var all []string
	for _, t := range f.Tokens(0, f.Len()) {
		all = append(all, t.Text)
	}
	return strings.Join(all, " ")
}

func TestOutline(t *testing.T) {
	for in, want := range map[string]string{
		"fn a() { b c }":                                   "fn a ( ) { }",
		"fn a() { keep c }":                                "fn a ( ) { keep c }",
		"fn a() { keeper c }":                              "fn a ( ) { }",
		"fn a() { \"keep\" /* keep */ } b":                 "fn a ( ) { } b",
		"fn a() { \"}\" // }\n } b":                        "fn a ( ) { } b",
		"fn a() { (b [c {d}]) } e":                         "fn a ( ) { } e",
		"fn a() { (b } c":                                  "fn a ( ) { ( b } c",
		"fn a() { b ] } c":                                 "fn a ( ) { b ] } c",
		"fn a() { \"b":                                     "fn a ( ) { ",
		"fn a() { b":                                       "fn a ( ) { b",
		"class a { fn b() { c } d }":                       "class a { fn b ( ) { } d }",
		"fn a() { fn b() { c } keep }":                     "fn a ( ) { fn b ( ) { c } keep }",
		"fn a() { keep fn b() { c } }":                     "fn a ( ) { keep fn b ( ) { } }",
		"init a() { fn b() { c } }":                        "init a ( ) { fn b ( ) { c } }",
		"init a() { fn b() { c } } fn d() { e }":           "init a ( ) { fn b ( ) { c } } fn d ( ) { }",
		"fn a() { " + strings.Repeat("(", 70) + ")":        "fn a ( ) { " + strings.TrimSpace(strings.Repeat("( ", 70)) + " )",
		"fn a() { 0xkeep 12keep é_keep }":                  "fn a ( ) { }",
		"fn a() { } fn b() {} c":                           "fn a ( ) { } fn b ( ) { } c",
		"x { fn } y":                                       "x { fn } y",
		"fn a() { /* never ends":                           "fn a ( ) {",
		"fn a() { b } fn c() { keep } fn d() { decode() }": "fn a ( ) { } fn c ( ) { keep } fn d ( ) { decode ( ) }",
	} {
		f := Source{Name: "x", Text: in}.Scan(outlined)
		if got := words(f); strings.TrimSpace(got) != strings.TrimSpace(want) {
			t.Errorf("%s\n got %s\nwant %s", in, got, want)
		}
		whole := Scan("x", in, outlined)
		if len(f.Problems) != len(whole.Problems) {
			t.Errorf("%s has the problems %v, read whole %v", in, f.Problems, whole.Problems)
		}
		if got, want := f.Text(0, f.Len()), whole.Text(0, whole.Len()); got != want {
			t.Errorf("the text of %s is %q, read whole %q", in, got, want)
		}
	}
}

// TestHits: the words that finders look for are found without a look at each token.
func TestHits(t *testing.T) {
	f := Scan("x", "a keep \"keep\" b.decode(keep) keeps // decode", outlined)
	var got []string
	for _, i := range f.Hits {
		got = append(got, f.Word(int(i)))
	}
	if text := strings.Join(got, " "); text != "keep decode keep" {
		t.Errorf("hits %s", text)
	}
	f.Keep(func(i int) bool { return !f.Is(i, "keep") })
	if len(f.Hits) != 1 || f.Word(int(f.Hits[0])) != "decode" {
		t.Errorf("hits after some were taken out: %v", f.Hits)
	}
	f.Free()
	if f.Len() != 0 || len(f.Hits) != 0 || f.KindAt(0) != EOF || f.Src == "" {
		t.Error("a file that was freed has tokens")
	}
}

// TestTokensOfOneFileStay: the room that tokens are read into is used again for others.
func TestTokensOfOneFileStay(t *testing.T) {
	a := Scan("a", "one two \"three\\\" four", quoted)
	a.Trim()
	before := words(a)
	for range 50 {
		Scan("b", strings.Repeat("other ", 100), quoted).Trim()
	}
	if after := words(a); after != before {
		t.Errorf("%s became %s", before, after)
	}
}

func TestOutOfRange(t *testing.T) {
	f := Scan("x", "a (", quoted)
	for _, i := range []int{-1, 3, 99} {
		if f.Is(i, "a") || f.KindAt(i) != EOF || f.TokenAt(i).Kind != EOF || f.Word(i) != "" || f.Partner(i) != -1 {
			t.Errorf("there is a token %d", i)
		}
	}
	if p := f.Where(99); p.Line != 1 || p.Col != 4 {
		t.Errorf("what is beyond the end is at %v", p)
	}
	c := &Cursor{F: f}
	for range 5 {
		c.Jump()
	}
	if c.I != f.Len() {
		t.Errorf("the cursor went to %d of %d", c.I, f.Len())
	}
}

// TestEach: every index is worked on once.
func TestEach(t *testing.T) {
	for _, n := range []int{0, 1, 2, 1000} {
		seen := make([]int32, n)
		Each(n, func(i int) { seen[i]++ })
		for i, times := range seen {
			if times != 1 {
				t.Fatalf("of %d the index %d was worked on %d times", n, i, times)
			}
		}
	}
}

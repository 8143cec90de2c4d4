package wire

import (
	"errors"
	"strings"
	"testing"
)

// accepted has every production of RFC 8259 and its errata; refused has what is
// next to them and no JSON.
var accepted = []string{
	// Section 2: structural characters with white space around them.
	"null", " null ", "\t\r\n null \t\r\n", "[ ]", "{ }", "[\n1\t,\r2 ]", "{ \"a\" : 1 , \"b\" : 2 }",
	// Section 3: the three names.
	"true", "false", "[true,false,null]",
	// Section 4: objects, with unusual and equal names.
	"{}", `{"":0}`, `{"a":1}`, `{"a":{"b":{"c":{}}}}`, `{"a":1,"a":2}`, `{"\u0061":1}`, `{"a":[],"b":{}}`, `{"é":1}`,
	// Section 5: arrays, of mixed values.
	"[]", "[[]]", "[1]", `[1,"a",null,true,{},[]]`, "[[[[[[]]]]]]",
	// Section 6: numbers.
	"0", "-0", "1", "-1", "10", "123456789012345678901234567890", "0.0", "-0.0", "0.5", "1.25", "-1.25", "1e0", "1E0",
	"1e+1", "1e-1", "1.5e10", "0e0", "-0e-0", "1e400", "1e-400", "0.00000000000000000000000000000001", "1E+0001",
	// Section 7: strings, every escape, every boundary of UTF-8 (RFC 3629).
	`""`, `"a"`, `"\""`, `"\\"`, `"\/"`, `"/"`, `"\b\f\n\r\t"`, `"\u0000"`, `"\u001F"`, `"\uABCD\uabcd"`, `"\uD834\uDD1E"`,
	"\"\x7f\"", "\"\u0080\"", "\"\u07ff\"", "\"\u0800\"", "\"\uffff\"", "\"\U00010000\"", "\"\U0010ffff\"", "\"\u2028\u2029\"",
	// Section 8.2: half a surrogate pair is allowed by the grammar.
	`"\ud800"`, `"\udc00"`, `"\ud800\ud800"`, `"\ud800x"`, `"\udc00\ud800"`,
	// Section 2: any value may be the root.
	"-1.5e3", `"root"`, "[0]",
}

var refused = []string{
	"", " ", "\n", "nul", "nulll", "Null", "TRUE", "tru", "truee", "undefined", "NaN", "Infinity", "-Infinity",
	"[", "]", "{", "}", "[1", "[1,", "[1,]", "[,1]", "[1,,2]", "[1 2]", "[1;2]", "[1}", "{1}", "{]", "[}",
	`{"a"}`, `{"a":}`, `{"a" 1}`, `{"a":1,}`, `{,"a":1}`, `{"a":1 "b":2}`, `{"a":1,,"b":2}`, `{a:1}`, `{'a':1}`, `{1:1}`, `{null:1}`,
	`{"a":1`, `{"a":`, `{"a"`, `{"a`, `{"a":1]`, `{"a"::1}`, `{"a":1}}`, `[]]`, "1 2", "{}{}", `"a" "b"`, "[] x", `{"v":1} x`,
	"01", "-01", "00", "1.", ".5", "-.5", "-", "+1", "1e", "1e+", "1e-", "1.e1", "1.5.5", "0x1", "1_000", "1,5", "--1", "1e1.5", "٣",
	`"`, `"a`, `"\`, `"\"`, `"\x"`, `"\u"`, `"\u1"`, `"\u12"`, `"\u123"`, `"\u123g"`, `"\U0000"`, `"\'"`, "\"\t\"", "\"\n\"", "\"\x00\"", "\"\x1f\"", "'a'",
	// No UTF-8: stray and missing continuation bytes, overlong forms, surrogates, beyond the last character.
	"\"\x80\"", "\"\xc2\"", "\"\xc0\x80\"", "\"\xe0\x80\x80\"", "\"\xed\xa0\x80\"", "\"\xf4\x90\x80\x80\"", "\"\xf5\x80\x80\x80\"", "\"\xff\"", "\"\xe2\x82\"",
	"\ufeff1", "/* */1", "1//", "#1", "\u00a01", "\v1", "\f1", "\x00", "[1]\x00",
}

func TestConformance(t *testing.T) {
	for _, doc := range accepted {
		if _, err := Parse([]byte(doc)); err != nil {
			t.Errorf("%q is refused: %v", doc, err)
		}
	}
	for _, doc := range refused {
		_, err := Parse([]byte(doc))
		if err == nil {
			t.Errorf("%q is accepted", doc)
			continue
		}
		var syntax *SyntaxError
		if !errors.As(err, &syntax) || syntax.Offset < 0 || syntax.Offset > len(doc) {
			t.Errorf("%q: the error has no offset in the document: %v", doc, err)
		}
	}
}

func TestDepth(t *testing.T) {
	for _, open := range []string{"[", `{"a":`} {
		shut := map[string]string{"[": "]", `{"a":`: "}"}[open]
		deep := func(n int) []byte { return []byte(strings.Repeat(open, n) + "1" + strings.Repeat(shut, n)) }
		if _, err := Parse(deep(DefaultMaxDepth)); err != nil {
			t.Errorf("%d levels of %s are refused: %v", DefaultMaxDepth, open, err)
		}
		if _, err := Parse(deep(DefaultMaxDepth + 1)); !errors.Is(err, ErrDepth) {
			t.Errorf("%d levels of %s: %v", DefaultMaxDepth+1, open, err)
		}
	}
}

func TestErrorsSayWhere(t *testing.T) {
	for _, c := range []struct {
		doc, want    string
		line, column int
	}{
		{"{\"a\":1,\n \"b\" 2}", "'2' where ':' should come", 2, 6},
		{"[1,\n2,\n]", "']' where a value should come", 3, 1},
		{"[\"é\", x]", "'x' where a value should come", 1, 7},
		{"{\"a\":tru}", "a word that is not true, false or null", 1, 6},
		{"{\"a\":1", "the document ends where ',' or the end of the object should come", 1, 7},
		{"\"a\tb\"", "an unescaped control character U+0009 in a string", 1, 3},
		{"[01]", "a digit behind a leading zero", 1, 3},
		{"[\"\\q\"]", "an escape that JSON does not have: \\'q'", 1, 3},
		{"{'v':1}", "a single quote where a name in double quotes or '}' should come", 1, 2},
		{"\"\x1b[31m", "an unescaped control character U+001B in a string", 1, 2},
	} {
		_, err := Parse([]byte(c.doc))
		var syntax *SyntaxError
		if !errors.As(err, &syntax) {
			t.Errorf("%q: %v", c.doc, err)
			continue
		}
		line, column := LineColumn([]byte(c.doc), syntax.Offset)
		if syntax.Reason != c.want || line != c.line || column != c.column {
			t.Errorf("%q: %s at %d:%d, want %s at %d:%d", c.doc, syntax.Reason, line, column, c.want, c.line, c.column)
		}
	}
}

func TestUnquote(t *testing.T) {
	for _, c := range []struct {
		literal, text string
		whole         bool
	}{
		{`""`, "", true}, {`"a"`, "a", true}, {`"\"\\\/\b\f\n\r\t"`, "\"\\/\b\f\n\r\t", true}, {`"\u00e9é"`, "éé", true},
		{`"\ud834\udd1e!"`, "𝄞!", true}, {`"\ud800"`, "\ufffd", false}, {`"\udc00x"`, "\ufffdx", false}, {`"\ud800\u0041"`, "\ufffdA", false},
		{`"\ud800\ud834\udd1e"`, "\ufffd𝄞", false},
	} {
		if text, whole := Unquote([]byte(c.literal)); text != c.text || whole != c.whole {
			t.Errorf("%s: %q %v, want %q %v", c.literal, text, whole, c.text, c.whole)
		}
	}
}

func TestPaths(t *testing.T) {
	for _, c := range []struct {
		steps         []Step
		path, pointer string
	}{
		{nil, "$", ""},
		{[]Step{MemberOf("sailings"), {Index: 3}, MemberOf("vessel")}, "$.sailings[3].vessel", "/sailings/3/vessel"},
		{[]Step{MemberOf("a b"), MemberOf(""), MemberOf("x/y~z")}, "$['a b']['']['x/y~z']", "/a b//x~1y~0z"},
		{[]Step{MemberOf("it's"), MemberOf("3h"), MemberOf("naïve")}, `$['it\'s']['3h'].naïve`, "/it's/3h/naïve"},
		{[]Step{MemberOf("list"), {Index: AnyElement}}, "$.list[*]", "/list/"},
	} {
		if got := Path(c.steps); got != c.path {
			t.Errorf("path %s, want %s", got, c.path)
		}
		if got := Pointer(c.steps); got != c.pointer {
			t.Errorf("pointer %s, want %s", got, c.pointer)
		}
	}
}

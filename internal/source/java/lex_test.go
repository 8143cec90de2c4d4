package java

import (
	"strings"
	"testing"

	"vetta/internal/source/scan"
)

// texts are what the string and character literals in some source say, in order.
func texts(src string) (all []string, f *scan.File) {
	f = scan.Scan("A.java", translate(src), dialect)
	for _, t := range f.Tokens(0, f.Len()) {
		if t.Kind == scan.String {
			all = append(all, t.Text)
		}
	}
	return all, f
}

// TestStrings: literals as the Java Language Specification has them (3.10).
func TestStrings(t *testing.T) {
	for _, c := range []struct{ name, source, want string }{
		{"plain", `"a b"`, "a b"},
		{"empty", `""`, ""},
		{"escapes", `"a\tb\nc\"d\\e\'f"`, "a\tb\nc\"d\\e'f"},
		{"backspace, form feed, carriage return, space", `"\b\f\r\s"`, "\b\f\r "},
		{"octal", `"\0\7\12\101\3770"`, "\x00\a\nA\u00ff0"},
		{"octal ends behind three digits or before 400", `"\1234\400"`, "S4 0"},
		{"unicode", `"\u0041\uu0042\u00e9"`, "ABé"},
		{"unicode, a pair of surrogates", `"\ud83d\ude00"`, "😀"},
		{"a character", `'x'`, "x"},
		{"a quote as a character", `'\''`, "'"},
		{"a text block", "\"\"\"\n    a\n      b\n    \"\"\"", "a\n  b\n"},
		{"a text block that ends on its last line", "\"\"\"\n    a\n    b\"\"\"", "a\nb"},
		{"a text block with quotes", "\"\"\"\n  say \"hi\" and \\\"\"\"\n  \"\"\"", "say \"hi\" and \"\"\"\n"},
		{"a text block with a line that goes on", "\"\"\"\n  a \\\n  b\"\"\"", "a b"},
		{"a text block, the spaces at the end of its lines", "\"\"\"\n  a   \n  b\"\"\"", "a\nb"},
		{"a text block with no text", "\"\"\"\n\"\"\"", ""},
		{"two of them", `"a" + "b"`, "a|b"},
	} {
		t.Run(c.name, func(t *testing.T) {
			got, f := texts(c.source)
			if text := strings.Join(got, "|"); text != c.want {
				t.Errorf("%s\n got %q\nwant %q", c.source, text, c.want)
			}
			if len(f.Problems) > 0 {
				t.Errorf("%s has problems: %v", c.source, f.Problems)
			}
		})
	}
}

// TestStringsThatNeverEnd are named with their place, and end with their line.
func TestStringsThatNeverEnd(t *testing.T) {
	for _, c := range []struct{ source, behind, problem string }{
		{"\"a\nb", "b", "A.java:1:1 a string that never ends"},
		{"x = \"a\\\nb", "b", "A.java:1:5 a string that never ends"},
		{"'a\nb", "b", "A.java:1:1 a string that never ends"},
		{"\"\"\"\n a", "", "A.java:1:1 a string that never ends"},
	} {
		_, f := texts(c.source)
		if len(f.Problems) != 1 {
			t.Fatalf("%q has the problems %v", c.source, f.Problems)
		}
		if p := f.Problems[0]; p.Pos.String()+" "+p.Reason != c.problem {
			t.Errorf("%q\n got %s %s\nwant %s", c.source, p.Pos, p.Reason, c.problem)
		}
		if last := f.TokenAt(f.Len() - 1); c.behind != "" && last.Text != c.behind {
			t.Errorf("%q: behind it stands %q, want %q", c.source, last.Text, c.behind)
		}
	}
}

// TestTranslate: Unicode escapes outside of strings (JLS 3.3).
func TestTranslate(t *testing.T) {
	for _, c := range []struct{ name, source, want string }{
		{"none", "class A { }", "class A { }"},
		{"in a name", `cl\u0061ss \u0041`, "class A"},
		{"several u", `\uuu0041`, "A"},
		{"a brace", `class A \u007b \u007d`, "class A { }"},
		{"in a string it is left to the string", `"\u0041"`, `"\u0041"`},
		{"behind a backslash in a string", `"\\u0041"`, `"\\u0041"`},
		{"too short", `\u00`, `\u00`},
		{"no digits", `\uxyzw`, `\uxyzw`},
		{"behind an apostrophe in a comment", "// don't\n\\u0041", "// don't\nA"},
	} {
		t.Run(c.name, func(t *testing.T) {
			if got := translate(c.source); got != c.want {
				t.Errorf("%s\n got %s\nwant %s", c.source, got, c.want)
			}
		})
	}
}

// TestTypes reads types by themselves, as -model and -pair are given them.
func TestTypes(t *testing.T) {
	for in, want := range map[string]string{
		"Port":                        "Port",
		"List<Port>":                  "List",
		"Map<String, List<Port[]>>":   "Map",
		"int":                         "int",
		"int[][]":                     "[]",
		"Page<? extends Port>":        "Page",
		"ferry.saltmere.Port.Berth":   "ferry.saltmere.Port.Berth",
		"@Mark Port":                  "Port",
		"List<List<List<List<Port>>>": "",
		"List<":                       "",
		"Port Port":                   "",
		"":                            "",
		"=":                           "",
		"class":                       "",
	} {
		got := ""
		if typ := ParseType(in); typ != nil {
			got = typ.Name
			if got == "" {
				got = map[int]string{1: "List", 2: "Map"}[len(typ.Args)]
			}
		}
		if got != want {
			t.Errorf("%q is read as %q, want %q", in, got, want)
		}
	}
}

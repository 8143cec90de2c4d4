package kotlin

import (
	"strings"
	"testing"

	"vetta/internal/source/scan"
)

// TestStrings: literals as the Kotlin specification has them ("String mode grammar"). Of a string with
// a template only what is no template is told, and that it is not plain.
func TestStrings(t *testing.T) {
	for _, c := range []struct {
		name, source, want string
		plain              bool
	}{
		{"plain", `"a b"`, "a b", true},
		{"empty", `""`, "", true},
		{"escapes", `"a\tb\nc\"d\\e\'f\$g"`, "a\tb\nc\"d\\e'f$g", true},
		{"backspace and carriage return", `"\b\r"`, "\b\r", true},
		{"unicode", `"\u0041\u00e9"`, "Aé", true},
		{"unicode, a pair of surrogates", `"\ud83d\ude00"`, "😀", true},
		{"a dollar that is none", `"5$ a$1 $"`, "5$ a$1 $", true},
		{"a name", `"a$b c"`, "ab c", false},
		{"a name in backticks", "\"a$`b c`d\"", "a`b c`d", false},
		{"an expression", `"a${b + "}" + "c"}d"`, "ad", false},
		{"an expression in an expression", `"${ if (x) "${y}" else "}" }"`, "", false},
		{"a lambda in an expression", `"${ list.map { it } }"`, "", false},
		{"a character", `'x'`, "x", true},
		{"a quote as a character", `'\''`, "'", true},
		{"a dollar as a character", `'$'`, "$", true},
		{"raw", `"""a\n"b" 'c'"""`, `a\n"b" 'c'`, true},
		{"raw over lines", "\"\"\"a\n  b\n\"\"\"", "a\n  b\n", true},
		{"raw with a name", `"""a$b"""`, "ab", false},
		{"raw with an expression", `"""a${b}c"""`, "ac", false},
		{"raw that ends with quotes", `"""a"b""""`, `a"b"`, true},
		{"raw with two quotes", `"""""a"""`, `""a`, true},
		{"raw and empty", `""""""`, "", true},
		{"a slash that begins no comment", `"a // b /* c */"`, "a // b /* c */", true},
	} {
		t.Run(c.name, func(t *testing.T) {
			f := scan.Scan("A.kt", c.source, dialect)
			var got []string
			plain := true
			for _, tok := range f.Tokens(0, f.Len()) {
				if tok.Kind == scan.String {
					got = append(got, tok.Text)
					plain = plain && tok.Plain
				}
			}
			if text := strings.Join(got, "|"); text != c.want || plain != c.plain || len(got) != 1 {
				t.Errorf("%s\n got %q (plain %v)\nwant %q (plain %v)", c.source, text, plain, c.want, c.plain)
			}
			if len(f.Problems) > 0 {
				t.Errorf("%s has problems: %v", c.source, f.Problems)
			}
		})
	}
}

// TestStringsThatNeverEnd are named with their place; those of one line end with it.
func TestStringsThatNeverEnd(t *testing.T) {
	for _, c := range []struct{ source, behind, problem string }{
		{"\"a\nb", "b", "A.kt:1:1 a string that never ends"},
		{"x = \"a$b\nc", "c", "A.kt:1:5 a string that never ends"},
		{"\"a\\\nb", "b", "A.kt:1:1 a string that never ends"},
		{"'a\nb", "b", "A.kt:1:1 a string that never ends"},
		{"\"\"\"\n a", "", "A.kt:1:1 a string that never ends"},
		{"\"${ a", "", "A.kt:1:1 a template that never ends"},
	} {
		f := scan.Scan("A.kt", c.source, dialect)
		if len(f.Problems) == 0 {
			t.Fatalf("%q has no problems", c.source)
		}
		if p := f.Problems[0]; p.Pos.String()+" "+p.Reason != c.problem {
			t.Errorf("%q\n got %s %s\nwant %s", c.source, p.Pos, p.Reason, c.problem)
		}
		if last := f.TokenAt(f.Len() - 1); c.behind != "" && last.Text != c.behind {
			t.Errorf("%q: behind it stands %q, want %q", c.source, last.Text, c.behind)
		}
	}
}

// TestTokens: names in backticks, comments inside comments, numbers, operators one character each.
func TestTokens(t *testing.T) {
	for _, c := range []struct{ source, want string }{
		{"val `in` = 1", "val in = 1"},
		{"a /* b /* c */ d */ e", "a e"},
		{"a // b\nc", "a c"},
		{"a // /* b\nc */", "a c * /"},
		{"1_000L 0xFFu 1.5f 1e3 0b10 1..2 1.toInt()", "1_000L 0xFFu 1.5f 1e3 0b10 1 . . 2 1 . toInt ( )"},
		{"a?.b ?: c!!", "a ? . b ? : c ! !"},
		{"a->b..<c", "a - > b . . < c"},
		{"naïve größe 値", "naïve größe 値"},
		{"#!/usr/bin/env kotlin\nval a", "# ! / usr / bin / env kotlin val a"},
		{"@file:JvmName(\"A\")", "@ file : JvmName ( A )"},
	} {
		f := scan.Scan("A.kt", c.source, dialect)
		var got []string
		for _, tok := range f.Tokens(0, f.Len()) {
			got = append(got, tok.Text)
		}
		if text := strings.Join(got, " "); text != c.want {
			t.Errorf("%q\n got %s\nwant %s", c.source, text, c.want)
		}
	}
}

// TestTypes reads types by themselves, as -model and -pair are given them.
func TestTypes(t *testing.T) {
	for in, want := range map[string]string{
		"Port":                      "Port",
		"Port?":                     "Port?",
		"List<Port?>?":              "List?",
		"Map<String, List<Port>>":   "Map",
		"Array<IntArray>":           "Array",
		"Page<out Port>":            "Page",
		"ferry.saltmere.Port.Berth": "ferry.saltmere.Port.Berth",
		"@Mark Port":                "Port",
		"(Port)":                    "Port",
		"(Int) -> Port":             "(Int) -> Port",
		"suspend (Int) -> Unit":     "suspend (Int) -> Unit",
		"List<":                     "",
		"Port Port":                 "",
		"":                          "",
		"?":                         "",
	} {
		got := ""
		if typ := ParseType(in); typ != nil {
			u := typ.Unwrapped()
			if got = u.Name; got == "" {
				got = map[int]string{1: "List", 2: "Map"}[len(u.Args)]
			}
			if u != typ {
				got += "?"
			}
		}
		if got != want {
			t.Errorf("%q is read as %q, want %q", in, got, want)
		}
	}
}

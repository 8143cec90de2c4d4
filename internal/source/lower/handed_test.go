package lower

import (
	"slices"
	"testing"

	"vetta/internal/code"
	"vetta/internal/source/scan"
)

// TestIsAssigned: a name that is given something where it is declared alone keeps it.
func TestIsAssigned(t *testing.T) {
	for text, want := range map[string]bool{
		"private var gson = Gson()":                           false,
		"private Gson gson = new Gson();":                     false,
		"private var gson: Gson = Gson()":                     false,
		"val gson = Gson()\nfun f() { if (gson == g) {} }":    false,
		"val gson = Gson()\nval mygson = g":                   false,
		"var gson = Gson()\nfun use(g: Gson) { gson = g }":    true,
		"var gson = Gson()\nfun use(g: Gson) { this.gson=g }": true,
		"Gson gson; { \n gson = new Gson(); }":                true,
		"gson":                                                false,
	} {
		if got := IsAssigned(text, "gson"); got != want {
			t.Errorf("%s: %v, want %v", text, got, want)
		}
	}
	if IsAssigned("a = b", "") {
		t.Error("no name is assigned")
	}
}

// TestMeant: what is made in what a name is given comes before another of that name.
func TestMeant(t *testing.T) {
	// 0 to 3: tokens of one file, which begin at bytes 0, 2, 4 and 6.
	here, there := scan.Scan("here", "a b c d", &scan.Dialect{}), scan.Scan("there", "a b c d", &scan.Dialect{})
	all := []Built{{here, 0, []string{"decoder"}}, {here, 2, []string{"decoder", "api"}}, {there, 1, []string{"api", "only"}}}
	decoders := NewDecoders(all, func(b Built) Built { return b })
	for _, c := range []struct {
		what  string
		names []code.NameOf
		want  []int
	}{
		{"no name", nil, nil},
		{"the first of a name in the file", []code.NameOf{{Text: "decoder"}}, []int{0}},
		{"by where it is made", []code.NameOf{{Text: "decoder", File: "here", From: 4, To: 5}}, []int{1}},
		{"several are made there", []code.NameOf{{Text: "decoder", File: "here", From: 0, To: 7}}, []int{0, 1}},
		{"none is made there, and a nearer name is another's", []code.NameOf{{Text: "decoder", File: "here", From: 6, To: 7}, {Text: "only"}}, []int{2}},
		{"one of the file before one elsewhere", []code.NameOf{{Text: "api"}}, []int{1}},
		{"a name that is not known", []code.NameOf{{Text: "other"}}, nil},
	} {
		var got []int
		for _, b := range decoders.Meant(code.Named{Names: c.names, File: "here"}) {
			got = append(got, slices.IndexFunc(all, func(o Built) bool { return o.File == b.File && o.At == b.At }))
		}
		if !slices.Equal(got, c.want) {
			t.Errorf("%s: %v, want %v", c.what, got, c.want)
		}
	}
}

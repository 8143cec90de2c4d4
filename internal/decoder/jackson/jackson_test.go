package jackson

import (
	"strings"
	"testing"
	"time"

	"vetta/internal/model"
	"vetta/internal/wire"
)

func TestRename(t *testing.T) {
	for _, c := range [][3]string{
		{"SNAKE_CASE", "departsAt", "departs_at"},
		{"SnakeCase", "imageURL", "image_url"},
		{"SNAKE_CASE", "URLName", "urlname"},
		{"SNAKE_CASE", "page2", "page2"},
		{"SNAKE_CASE", "_id", "id"},
		{"SNAKE_CASE", "a_B", "a_b"},
		{"SNAKE_CASE", "_", "_"},
		{"UPPER_SNAKE_CASE", "departsAt", "DEPARTS_AT"},
		{"UPPER_CAMEL_CASE", "departsAt", "DepartsAt"},
		{"LOWER_CASE", "departsAt", "departsat"},
		{"KEBAB_CASE", "departsAt", "departs-at"},
		{"KEBAB_CASE", "imageURLs", "image-ur-ls"},
		{"LOWER_DOT_CASE", "departsAt", "departs.at"},
		{"", "departsAt", "departsAt"},
		{"LOWER_CAMEL_CASE", "departsAt", "departsAt"},
		{"PASCAL_CASE_TO_CAMEL_CASE", "a", "A"},
	} {
		if got, ok := Rename(c[0], c[1]); got != c[2] || !ok {
			t.Errorf("%s of %s is %s, want %s", c[0], c[1], got, c[2])
		}
	}
	if _, ok := Rename("MyStrategy", "a"); ok {
		t.Error("a strategy of the app is said to be followed")
	}
}

func TestMangled(t *testing.T) {
	for in, want := range map[string]string{
		"Name":     "name",
		"URL":      "url",
		"ImageURL": "imageURL",
		"A":        "a",
		"APort":    "aport",
		"name":     "name",
		"Éa":       "éa",
		"X1":       "x1",
		"":         "",
	} {
		if got := mangled(in); got != want {
			t.Errorf("%s is %s, want %s", in, got, want)
		}
	}
}

func TestStandardDate(t *testing.T) {
	for in, want := range map[string]string{
		"2026-03-01":                    "2026-03-01T00:00:00Z",
		"2026-03-01T09:30":              "2026-03-01T09:30:00Z",
		"2026-03-01T09:30:15.5Z":        "2026-03-01T09:30:15.5Z",
		"2026-03-01T09:30:15+02":        "2026-03-01T07:30:15Z",
		"2026-03-01T09:30:15-0130":      "2026-03-01T11:00:15Z",
		"2026-03-01T09:30:15.123456":    "2026-03-01T09:30:15.123Z",
		"60000":                         "1970-01-01T00:01:00Z",
		"-1000":                         "1969-12-31T23:59:59Z",
		"Sun, 01 Mar 2026 09:30:00 GMT": "2026-03-01T09:30:00Z",
		"2026-03-01 09:30":              "",
		"2026-3-1":                      "",
		"2026-03-01T9:30":               "",
		"2026-03-01T":                   "",
		"x":                             "",
		"2026-03-01T09:30Zx":            "",
		"2026-03-01T09:30:15+2":         "",
		"12:30":                         "",
	} {
		ms, ok := standardDate(in, time.UTC)
		got := ""
		if ok {
			got = time.UnixMilli(ms).UTC().Format(time.RFC3339Nano)
		}
		if got != want {
			t.Errorf("%q is %s, want %s", in, got, want)
		}
	}
}

func TestTypeNames(t *testing.T) {
	named := func(name string) *model.Type { return &model.Type{Kind: model.Named, Name: name} }
	list := func(t *model.Type) *model.Type { return &model.Type{Kind: model.List, Args: []*model.Type{t}} }
	array := func(t *model.Type) *model.Type {
		return &model.Type{Kind: model.List, Name: "[]", Args: []*model.Type{t}}
	}
	for want, typ := range map[string]*model.Type{
		"int":                                    named("int"),
		"java.lang.Integer":                      named("Integer"),
		"java.util.ArrayList<java.lang.Integer>": list(named("Integer")),
		"java.util.ArrayList<java.util.List<java.lang.String>>": list(list(named("String"))),
		"[I":                  array(named("int")),
		"[Ljava.lang.String;": array(named("String")),
		"[[J":                 array(array(named("long"))),
		"java.util.LinkedHashMap<java.lang.String,java.lang.Object>": {Kind: model.Map, Args: []*model.Type{named("String"), named("Object")}},
		"Page$Link":                         {Kind: model.Named, Name: "Page.Link", Model: &model.Model{Name: "Page.Link"}},
		"java.util.HashSet<java.util.UUID>": {Kind: model.Unique, Args: []*model.Type{named("UUID")}},
	} {
		if got := full(typ); got != want {
			t.Errorf("%s, want %s", got, want)
		}
	}
}

// TestWholeRange holds each error of one reader to its own value: what an earlier value was
// says nothing of a later one.
func TestWholeRange(t *testing.T) {
	read := (&scalar{c: &compiler{}, typ: "byte", primitive: true}).whole(8)
	for _, c := range [][2]string{
		{"300", "Numeric value (300) out of range of Java byte"},
		{"3000000000", "Numeric value (3000000000) out of range of int (-2147483648 - 2147483647)"},
		{"300", "Numeric value (300) out of range of Java byte"},
	} {
		err := read(&wire.Value{Kind: wire.Number, Raw: []byte(c[0])}).Err
		if err == nil || !strings.Contains(err.Message, c[1]) {
			t.Errorf("%s: %v, want %s", c[0], err, c[1])
		}
	}
}

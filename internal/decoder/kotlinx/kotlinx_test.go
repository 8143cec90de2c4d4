package kotlinx

import (
	"strings"
	"testing"

	"vetta/internal/decoder"
	"vetta/internal/model"
	"vetta/internal/wire"
)

// TestSeparated: names as JsonNamingStrategy.SnakeCase makes them.
func TestSeparated(t *testing.T) {
	for name, want := range map[string]string{
		"departsAt": "departs_at", "imageURL": "image_url", "URLPath": "url_path", "aFare": "a_fare", "p2p": "p2p", "deck_no": "deck_no", "mURL": "m_url", "ID": "id", "x": "x", "": "",
	} {
		if got := separated(name, '_'); got != want {
			t.Errorf("%s is %s, want %s", name, got, want)
		}
	}
}

// TestWhole: the lexer's numbers, which may come back into 64 bits.
func TestWhole(t *testing.T) {
	for text, want := range map[string]int64{"0": 0, "-7": -7, "1e2": 100, "15e-1": 0, "9223372036854775807": 9223372036854775807, "18446744073709551616": 0} {
		if got, problem := whole(text); problem == "" && got != want {
			t.Errorf("%s is %d, want %d", text, got, want)
		}
	}
	for text, want := range map[string]string{
		"": "Expected numeric literal", "-": "Expected numeric literal", "12.5": "Unexpected symbol '.' in numeric literal", "e2": "Unexpected symbol e in numeric literal", "1-": "Unexpected symbol '-' in numeric literal",
		" 12": "Expected numeric literal", "1,2": "Expected closing quotation mark '\"'", "9223372036854775808": "Numeric value overflow", "15e-1": "Can't convert -1.5 to Long",
	} {
		if got, problem := whole(text); problem != want {
			t.Errorf("%q is %d, %q, want %q", text, got, problem, want)
		}
	}
}

// TestTimes: texts of the types of kotlin.time, kotlin.uuid and kotlinx.datetime.
func TestTimes(t *testing.T) {
	for _, c := range []struct {
		parse func(string) (decoder.Seen, bool)
		text  string
		ok    bool
	}{
		{uuid, "123e4567-e89b-12d3-a456-426614174000", true}, {uuid, "123E4567E89B12D3A456426614174000", true}, {uuid, "123e4567", false},
		{instant, "2026-03-01T09:30:00Z", true}, {instant, "2026-03-01T09:30:00+02:00", true}, {instant, "2026-03-01T09:30:00", false}, {instant, "2026-03-01T09:30:00+0200", false}, {instant, "2026-13-01T09:30:00Z", false},
		{localDate, "2026-03-01", true}, {localDate, "2026-02-30", false}, {localDate, "01/03/2026", false},
		{localTime, "09:30", true}, {localTime, "9:30", false}, {duration, "PT1H30M", true}, {duration, "90m", false},
	} {
		if _, ok := c.parse(c.text); ok != c.ok {
			t.Errorf("%s: %v, want %v", c.text, ok, c.ok)
		}
	}
}

// TestSettings: what a Json is set to decides over one and the same class.
func TestSettings(t *testing.T) {
	named := func(name string) *model.Type { return &model.Type{Kind: model.Named, Name: name} }
	m := &model.Model{Name: "Port", Language: "kotlin", Kind: model.Class, Decodable: true, Marks: model.Annotated{{Name: "Serializable"}}, Fields: []*model.Field{
		{Name: "code", Type: named("String"), Declared: "String"},
		{Name: "berthNo", Type: model.OptionalOf(named("Int")), Declared: "Int?"},
		{Name: "depth", Type: named("Double"), Declared: "Double", Default: &model.Literal{Kind: model.FloatLiteral, Text: "2.5", Source: "2.5"}},
	}}
	for _, c := range []struct {
		options, document, want string
	}{
		{"", `{"code":"SAL","berthNo":null}`, `{"code":"SAL","berthNo":null,"depth":2.5}`},
		{"", `{"code":"SAL"}`, "MissingFieldException"},
		{"explicitNulls=false", `{"code":"SAL"}`, `{"code":"SAL","berthNo":null,"depth":2.5}`},
		{"", `{"code":"SAL","berthNo":1,"x":2}`, "JsonDecodingException"},
		{"ignoreUnknownKeys=true", `{"code":"SAL","berthNo":1,"x":2}`, `{"code":"SAL","berthNo":1,"depth":2.5}`},
		{"", `{"code":"SAL","berthNo":1,"depth":null}`, "JsonDecodingException"},
		{"coerceInputValues=true", `{"code":"SAL","berthNo":1,"depth":null}`, `{"code":"SAL","berthNo":1,"depth":2.5}`},
		{"", `{"code":7,"berthNo":1}`, "JsonDecodingException"},
		{"isLenient=true", `{"code":7,"berthNo":"1"}`, `{"code":"7","berthNo":1,"depth":2.5}`},
		{"namingStrategy=SnakeCase", `{"code":"SAL","berth_no":3}`, `{"code":"SAL","berthNo":3,"depth":2.5}`},
		{"", `{"code":"SAL","berthNo":1,"depth":"NaN"}`, "JsonDecodingException"},
		{"allowSpecialFloatingPointValues=true", `{"code":"SAL","berthNo":1,"depth":"NaN"}`, `{"code":"SAL","berthNo":1,"depth":NaN}`},
	} {
		settings := &model.Settings{Library: Name, Options: map[string]model.Option{}}
		if name, value, ok := strings.Cut(c.options, "="); ok {
			settings.Options[name] = model.Option{Value: value}
		}
		doc, err := wire.Parse([]byte(c.document))
		if err != nil {
			t.Fatal(err)
		}
		out := Plan(&model.Type{Kind: model.Named, Name: "Port", Model: m}, "Port", settings).Decode(doc)
		got := out.Seen.String()
		if out.Err != nil {
			got = out.Err.Kind
		}
		if got != c.want {
			t.Errorf("%s %s: %s, want %s", c.options, c.document, got, c.want)
		}
	}
}

// TestElement: what code asks a JsonElement for.
func TestElement(t *testing.T) {
	c := newCompiler(nil)
	for _, q := range []struct{ json, member, want string }{
		{`"12"`, "int", "12"}, {`"x"`, "int", "NumberFormatException"}, {`"x"`, "intOrNull", "null"}, {`12.5`, "double", "12.5"}, {`null`, "contentOrNull", "null"}, {`null`, "content", `"null"`},
		{`true`, "boolean", "true"}, {`"yes"`, "boolean", "IllegalStateException"}, {`"a"`, "isString", "true"}, {`1`, "isString", "false"}, {`[1]`, "jsonObject", "IllegalArgumentException"}, {`{"a":1}`, "size", "1"},
	} {
		v, err := wire.Parse([]byte(q.json))
		if err != nil {
			t.Fatal(err)
		}
		made, known, thrown := element{c, v}.Member(q.member, nil, nil)
		got := "?"
		switch {
		case thrown != nil:
			got, _, _ = strings.Cut(thrown.Error(), ":")
		case known:
			s, _ := made.Result()
			got = s.String()
		}
		if got != q.want {
			t.Errorf("%s of %s is %s, want %s", q.member, q.json, got, q.want)
		}
	}
}

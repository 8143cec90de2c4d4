package moshi

import (
	"strconv"
	"strings"
	"testing"

	"vetta/internal/model"
	"vetta/internal/wire"
)

func kotlinType(name string) *model.Type {
	if inner, ok := strings.CutSuffix(name, "?"); ok {
		return model.OptionalOf(kotlinType(inner))
	}
	if inner, ok := strings.CutPrefix(name, "List<"); ok {
		t := &model.Type{Kind: model.List, Class: "List", Args: []*model.Type{kotlinType(strings.TrimSuffix(inner, ">"))}}
		t.Pos.File = "Port.kt"
		return t
	}
	return &model.Type{Kind: model.Named, Name: name}
}

// TestProperties: one property of a class of Kotlin's, read by reflection and by a generated adapter.
func TestProperties(t *testing.T) {
	for _, c := range []struct {
		declared, document, reflective, generated string
	}{
		{"Int", `{"x":"12.0"}`, `12`, `12`},
		{"Int", `{"x":12.5}`, "Expected an int but was 12.5 at path $.x", "Expected an int but was 12.5 at path $.x"},
		{"Int", `{"x":null}`, "Expected an int but was NULL at path $.x", "Expected an int but was NULL at path $.x"},
		{"Int?", `{}`, `null`, `null`},
		{"Int", `{}`, "Required value 'x' missing at $", "Required value 'x' missing at $"},
		{"Byte", `{"x":200}`, `-56`, `-56`},
		{"Byte", `{"x":256}`, "Expected a byte but was 256 at path $.x", "Expected a byte but was 256 at path $.x"},
		{"Long", `{"x":"1e3"}`, `1000`, `1000`},
		{"Long", `{"x":9223372036854775808}`, "Expected a long but was 9223372036854775808 at path $.x", "Expected a long but was 9223372036854775808 at path $.x"},
		{"Double", `{"x":"NaN"}`, "JSON forbids NaN and infinities: NaN at path $.x", "JSON forbids NaN and infinities: NaN at path $.x"},
		{"Boolean", `{"x":"true"}`, "Expected a boolean but was STRING at path $.x", "Expected a boolean but was STRING at path $.x"},
		{"String", `{"x":1.50}`, `"1.50"`, `"1.50"`},
		{"String", `{"x":null}`, "Non-null value 'x' was null at $.x", "Non-null value 'x' was null at $.x"},
		{"List<Int>", `{"x":[null]}`, `[null]`, `[null]`},
		{"List<Int>", `{"x":{}}`, "Expected BEGIN_ARRAY but was BEGIN_OBJECT at path $.x", "Expected BEGIN_ARRAY but was BEGIN_OBJECT at path $.x"},
		{"Int", `{"x":1,"x":2}`, "Multiple values for 'x' at $.x", `2`},
		{"java.util.Date", `{}`, "Platform class java.util.Date requires explicit JsonAdapter to be registered", "Platform class java.util.Date requires explicit JsonAdapter to be registered"},
	} {
		for mark, want := range map[string]string{"": c.reflective, "JsonClass": c.generated} {
			typ := kotlinType(c.declared)
			m := &model.Model{Name: "Port", Language: "kotlin", Kind: model.Class, Decodable: true, Fields: []*model.Field{{Name: "x", Type: typ, Declared: c.declared, Final: true}}}
			m.Ctors = []*model.Method{{Name: "Port", Params: []*model.Parameter{{Name: "x", Type: typ}}, Fills: []string{"x"}}}
			if mark != "" {
				m.Marks = model.Annotated{{Name: mark, Args: []model.Argument{{Name: "generateAdapter", Texts: []string{"true"}}}}}
			}
			doc, err := wire.Parse([]byte(c.document))
			if err != nil {
				t.Fatal(err)
			}
			out := Plan(&model.Type{Kind: model.Named, Name: "Port", Model: m}, "Port", &model.Settings{Library: Name, Options: map[string]model.Option{}}).Decode(doc)
			x, _ := out.Seen.Get("x")
			got := x.String()
			if out.Err != nil {
				_, got, _ = strings.Cut(out.Err.Message, ": ")
			}
			if got != want {
				t.Errorf("%s %s %s:\n got %s\nwant %s", mark, c.declared, c.document, got, want)
			}
		}
	}
}

// TestWholeDecimal: new BigDecimal(text).longValueExact(), whatever the exponent.
func TestWholeDecimal(t *testing.T) {
	for text, want := range map[string]string{"12.0": "12", "1e3": "1000", "0e999999999": "0", "1.5": "", "1e999999999": "", "1e-999999999": "", "9.223372036854775808e18": "", "-9.223372036854775808e18": "-9223372036854775808", " 12": "", "0x1": ""} {
		n, ok := wholeDecimal(text)
		got := ""
		if ok {
			got = strconv.FormatInt(n, 10)
		}
		if got != want {
			t.Errorf("%s is %q, want %q", text, got, want)
		}
	}
}

package foundation

import (
	"testing"

	"vetta/internal/encoder"
	"vetta/internal/model"
)

func TestToSnakeCase(t *testing.T) {
	for key, want := range map[string]string{
		"": "", "a": "a", "oneTwo": "one_two", "oneTwoThree": "one_two_three", "myURLProperty": "my_url_property", "urlString": "url_string",
		"sailingID": "sailing_id", "seat4B": "seat4_b", "already_snake": "already_snake", "aBC": "a_bc", "X": "x",
		"partCAPSLowerAGAIN": "part_caps_lower_again", "dataPoint22Word": "data_point22_word", "_oneTwo_": "_one_two_", "version4Thing": "version4_thing",
	} {
		if got := toSnakeCase(key); got != want {
			t.Errorf("%s becomes %s, want %s", key, got, want)
		}
	}
}

func TestWrites(t *testing.T) {
	named := func(name string) *model.Type { return &model.Type{Name: name} }
	with := func(name, value string) *model.Settings {
		return &model.Settings{Library: Name, Options: map[string]model.Option{name: {Value: value}}}
	}
	for _, c := range []struct {
		typ      *model.Type
		settings *model.Settings
		want     encoder.Kinds
		whole    bool
	}{
		{named("Int8"), nil, encoder.Number, true},
		{named("UInt"), nil, encoder.Number, true},
		{named("Double"), nil, encoder.Number, false},
		{named("Bool"), nil, encoder.Bool, false},
		{named("UUID"), nil, encoder.String, false},
		{named("Data"), nil, encoder.String, false},
		{named("Data"), with("data", "deferredToData"), encoder.Any, false},
		{named("Date"), nil, encoder.Number, false},
		{named("Date"), with("dates", "iso8601"), encoder.String, false},
		{named("Date"), with("dates", "custom"), encoder.Any, false},
		{named("Interval"), nil, encoder.Any, false},
		{named("IntervalOfTime"), nil, encoder.Any, false},
		{&model.Type{Kind: model.List, Args: []*model.Type{model.OptionalOf(named("Int"))}}, nil, encoder.Array, false},
		{&model.Type{Kind: model.Map, Args: []*model.Type{named("String"), named("Int")}}, nil, encoder.Object, false},
	} {
		got := Writes(c.typ, c.settings)
		if got.Kinds != c.want || got.Whole != c.whole {
			t.Errorf("%s is written as %b, want %b", c.typ.Written(), got.Kinds, c.want)
		}
	}
	node := &model.Model{Name: "Node"}
	node.Fields = []*model.Field{{Name: "next", Written: "next", Type: model.OptionalOf(&model.Type{Name: "Node", Model: node})}}
	v := Writes(&model.Type{Name: "Node", Model: node}, nil)
	next := v.Member("next")
	if !next.Optional || next.Value.Kinds != encoder.Object || next.Value.Member("next") == nil {
		t.Errorf("a class that holds itself is written as %+v", next)
	}
}

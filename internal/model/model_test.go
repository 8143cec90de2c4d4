package model

import (
	"slices"
	"strings"
	"testing"
)

func named(name string, args ...*Type) *Type { return &Type{Kind: Named, Name: name, Args: args} }

// TestKeysTellTypesApart: types that decode alike have one key, others have not.
func TestKeysTellTypesApart(t *testing.T) {
	here := &Model{Name: "Port", Pos: Pos{File: "A.kt", Line: 3, Col: 7}}
	there := &Model{Name: "Port", Pos: Pos{File: "B.kt", Line: 3, Col: 7}}
	types := map[string]*Type{
		"Int":                   named("Int"),
		"Int?":                  OptionalOf(named("Int")),
		"Int??":                 OptionalOf(OptionalOf(named("Int"))),
		"[Int]":                 {Kind: List, Args: []*Type{named("Int")}},
		"[Int?]":                {Kind: List, Args: []*Type{OptionalOf(named("Int"))}},
		"[Int]?":                OptionalOf(&Type{Kind: List, Args: []*Type{named("Int")}}),
		"Set<Int>":              {Kind: Unique, Args: []*Type{named("Int")}},
		"LinkedList<Int>":       {Kind: List, Class: "LinkedList", Args: []*Type{named("Int")}},
		"Map<Int, Long>":        {Kind: Map, Args: []*Type{named("Int"), named("Long")}},
		"Map<Long, Int>":        {Kind: Map, Args: []*Type{named("Long"), named("Int")}},
		"T":                     {Kind: Param, Name: "T"},
		"a type called T":       named("T"),
		"(Int, Int)":            {Kind: Tuple, Args: []*Type{named("Int"), named("Int")}},
		"Page<Int>":             named("Page", named("Int")),
		"Port of one file":      {Kind: Named, Name: "Port", Model: here},
		"Port of another":       {Kind: Named, Name: "Port", Model: there},
		"Port of the library":   named("Port"),
		"a function":            {Kind: Opaque, Name: "() -> Int"},
		"an optional function?": OptionalOf(&Type{Kind: Opaque, Name: "() -> Int"}),
	}
	seen := map[string]string{}
	for name, typ := range types {
		if other := seen[typ.Key()]; other != "" {
			t.Errorf("%s and %s have the key %s", name, other, typ.Key())
		}
		seen[typ.Key()] = name
		moved := *typ
		moved.Pos, moved.Linked = Pos{File: "C.kt", Line: 9, Col: 9}, true
		if moved.Key() != typ.Key() {
			t.Errorf("the key of %s hangs on where it is written", name)
		}
	}
}

func TestBind(t *testing.T) {
	page := &Model{Name: "Page", Params: []string{"T", "K"}}
	of := &Type{Kind: Named, Name: "Page", Model: page, Args: []*Type{named("Port"), named("String")}}
	env := of.Env()
	for _, c := range []struct {
		in, want *Type
	}{
		{&Type{Kind: Param, Name: "T"}, named("Port")},
		{&Type{Kind: Param, Name: "U"}, &Type{Kind: Param, Name: "U"}},
		{named("T"), named("T")},
		{OptionalOf(&Type{Kind: Param, Name: "K"}), OptionalOf(named("String"))},
		{&Type{Kind: Map, Args: []*Type{
			{Kind: Param, Name: "K"},
			{Kind: List, Args: []*Type{{Kind: Param, Name: "T"}}},
		}}, &Type{Kind: Map, Args: []*Type{named("String"), {Kind: List, Args: []*Type{named("Port")}}}}},
	} {
		before := c.in.Key()
		if got := c.in.Bind(env); got.Key() != c.want.Key() {
			t.Errorf("%s bound is %s, want %s", before, got.Key(), c.want.Key())
		}
		if c.in.Key() != before {
			t.Errorf("binding %s changed it", before)
		}
	}
	if got := (*Type)(nil).Bind(env); got != nil {
		t.Error("no type is bound to one")
	}
	if env := (&Type{Kind: Named, Name: "Page", Model: page, Args: []*Type{named("Port")}}).Env(); len(env) != 1 || env["T"].Name != "Port" {
		t.Errorf("an argument that is missing is bound: %v", env)
	}
	if named("Port").Env() != nil {
		t.Error("a type of the library has parameters")
	}
}

func TestUnwrappedAndWalk(t *testing.T) {
	typ := OptionalOf(OptionalOf(&Type{Kind: Map, Args: []*Type{named("String"), OptionalOf(named("Port"))}}))
	if u := typ.Unwrapped(); u.Kind != Map {
		t.Errorf("unwrapped it is %s", u.Key())
	}
	var names []string
	typ.Walk(func(t *Type) { names = append(names, t.Name) })
	if !slices.Equal(names, []string{"", "", "", "String", "", "Port"}) {
		t.Errorf("walked through %q", names)
	}
	(*Type)(nil).Walk(func(*Type) { t.Error("no type has a type in it") })
}

func TestAnnotated(t *testing.T) {
	marks := Annotated{
		{Name: "SerializedName", Args: []Argument{{Name: "value", Texts: []string{"a"}}, {Name: "alternate", Texts: []string{"b", "c"}}}},
		{Name: "Expose"},
		{Name: "Expose", Args: []Argument{{Name: "deserialize", Texts: []string{"false"}}}},
	}
	for _, c := range []struct{ mark, arg, byDefault, want string }{
		{"SerializedName", "value", "", "a"}, {"SerializedName", "alternate", "", "b"}, {"SerializedName", "other", "d", "d"},
		{"Expose", "deserialize", "true", "true"}, {"Missing", "value", "none", "none"},
	} {
		if got := marks.Find(c.mark).Text(c.arg, c.byDefault); got != c.want {
			t.Errorf("@%s(%s) is %q, want %q", c.mark, c.arg, got, c.want)
		}
	}
	if got := marks.Find("SerializedName").Texts("alternate"); !slices.Equal(got, []string{"b", "c"}) {
		t.Errorf("alternates %q", got)
	}
	if marks.Find("Missing") != nil || len(marks.Find("Missing").Texts("value")) != 0 {
		t.Error("an annotation that is not there is found")
	}
}

// TestWalkSteps: every expression is visited with the field that it is for, in all
// branches, so that nothing that reads a key is overlooked.
func TestWalkSteps(t *testing.T) {
	at := func(key string) *Expr { return &Expr{Op: OpAt, Key: key, Args: []*Expr{{Op: OpDecode}}} }
	steps := []Step{
		{Field: "id", Expr: at("id")},
		{Cond: at("kind"), Then: []Step{{Field: "name", Expr: at("name")}}, Else: []Step{{Field: "name", Expr: at("title")}}},
		{Do: true, Then: []Step{{Field: "fare", Expr: at("fare")}}, Else: []Step{{Field: "fare", Expr: at("price")}}},
	}
	var got []string
	WalkSteps(steps, func(field string, e *Expr) {
		if e.Op == OpAt {
			got = append(got, field+"="+e.Key)
		}
	})
	slices.Sort(got)
	if text := strings.Join(got, " "); text != "=kind fare=fare fare=price id=id name=name name=title" {
		t.Errorf("visited %s", text)
	}
}

func TestFind(t *testing.T) {
	set := &Set{Models: []*Model{{Name: "Page.Link"}, {Name: "Port"}, {Name: "Board.Port"}}}
	for name, want := range map[string]string{
		"Port":       "Port",
		"Page.Link":  "Page.Link",
		"Link":       "Page.Link",
		"Board.Port": "Board.Port",
		"Berth":      "",
		"":           "",
	} {
		got := ""
		if m := set.Find(name); m != nil {
			got = m.Name
		}
		if got != want {
			t.Errorf("%q finds %q, want %q", name, got, want)
		}
	}
	var none *Settings
	if none.Option("keys") != "" {
		t.Error("no settings have an option")
	}
}

// TestAccessors: names as javap shows them of what kotlinc 1.9.24 makes.
func TestAccessors(t *testing.T) {
	for name, want := range map[string][2]string{
		"port":     {"getPort", "setPort"},
		"x":        {"getX", "setX"},
		"URL":      {"getURL", "setURL"},
		"_code":    {"get_code", "set_code"},
		"isFull":   {"isFull", "setFull"},
		"is4x4":    {"is4x4", "set4x4"},
		"is":       {"getIs", "setIs"},
		"island":   {"getIsland", "setIsland"},
		"isÉtroit": {"isÉtroit", "setÉtroit"},
		"isétroit": {"isétroit", "setétroit"},
		"état":     {"getétat", "setétat"},
	} {
		get, set, is := Accessors(name)
		if get != want[0] || set != want[1] || is != (get == name) {
			t.Errorf("%s: got %s, %s, %v, want %s, %s", name, get, set, is, want[0], want[1])
		}
	}
}

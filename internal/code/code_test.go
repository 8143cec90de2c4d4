package code

import (
	"testing"

	"vetta/internal/model"
)

func named(name string, args ...*model.Type) *model.Type {
	return &model.Type{Kind: model.Named, Name: name, Args: args}
}

func list(of *model.Type) *model.Type {
	return &model.Type{Kind: model.List, Args: []*model.Type{of}}
}

// TestUnify: what T stands for where a value of one type is expected to be of another, "" for nothing.
func TestUnify(t *testing.T) {
	port := &model.Type{Kind: model.Named, Name: "Port", Model: &model.Model{Name: "Port"}}
	for _, c := range []struct {
		what            string
		pattern, actual *model.Type
		want            string
	}{
		{"itself", named("T"), port, "Port"},
		{"a list", list(named("T")), list(port), "Port"},
		{"a list of lists", named("T"), list(list(port)), list(list(port)).Key()},
		{"an optional", named("T"), &model.Type{Kind: model.Optional, Args: []*model.Type{port}}, "Port"},
		{"what holds it on both sides", named("Result", named("T"), named("Error")), named("Result", port, named("Error")), "Port"},
		{"what holds it where it is asked", named("Single", named("T")), port, "Port"},
		{"what holds it where it is made", list(named("T")), named("Call", list(port)), "Port"},
		{"an endpoint of its own package", named("api.Endpoint", named("T")), named("Endpoint", port), "Port"},
		{"a closure", FunctionType([]*model.Type{named("T")}, nil), FunctionType([]*model.Type{port}, nil), "Port"},
		{"a closure that does not say what it takes", FunctionType([]*model.Type{named("T")}, nil), FunctionType(nil, nil), ""},
		{"what a closure does not say that it yields", FunctionType(nil, named("T")), FunctionType(nil, nil), ""},
		{"a map for a list", list(named("T")), &model.Type{Kind: model.Map, Args: []*model.Type{named("String"), port}}, ""},
		{"another class", named("Page", named("T")), port, "Port"}, // a library's Page may be anything around it
	} {
		by := bindings{}
		unify(c.pattern, c.actual, []string{"T"}, by)
		got := ""
		if by["T"] != nil {
			got = by["T"].Key()
		}
		if c.want == "Port" {
			c.want = port.Key()
		}
		if got != c.want {
			t.Errorf("%s: T is %q, want %q", c.what, got, c.want)
		}
	}
}

// TestArgument: which argument of a call is which parameter's, by its index, -1 for none.
func TestArgument(t *testing.T) {
	closure := &Expr{Op: Lambda}
	value := func() *Expr { return &Expr{Op: Other} }
	for _, c := range []struct {
		what   string
		params []Param
		args   []*Expr
		labels []string
		want   []int
	}{
		{"by place", []Param{{Name: "a"}, {Name: "b"}}, []*Expr{value(), value()}, []string{"", ""}, []int{0, 1}},
		{"by name", []Param{{Name: "a"}, {Name: "b"}}, []*Expr{value(), value()}, []string{"b", ""}, []int{1, 0}},
		{"by label", []Param{{Name: "a"}, {Label: "at", Name: "b"}}, []*Expr{value(), value()}, []string{"", "at"}, []int{0, 1}},
		{"a label is no place", []Param{{Label: "at", Name: "a"}, {Name: "b"}}, []*Expr{value()}, []string{""}, []int{-1, 0}},
		{"a closure behind", []Param{{Name: "a"}, {Label: "b", Name: "b", Default: value()}, {Label: "c", Name: "c"}}, []*Expr{value(), closure}, []string{"", ""}, []int{0, -1, 1}},
		{"a closure alone", []Param{{Name: "a"}}, []*Expr{closure}, []string{""}, []int{0}},
	} {
		call := &Expr{Op: Call, Args: append([]*Expr{{Op: Name, Text: "f"}}, c.args...), Labels: c.labels}
		for i, want := range c.want {
			got := -1
			for k, arg := range c.args {
				if Argument(call, &Func{Params: c.params}, i) == arg {
					got = k
				}
			}
			if got != want {
				t.Errorf("%s: parameter %d has argument %d, want %d", c.what, i, got, want)
			}
		}
	}
}

// TestPath: what looks like the path of a request, and what of a URL it is.
func TestPath(t *testing.T) {
	for text, want := range map[string]string{
		"v2/ports":                               "v2/ports",
		"https://api.saltmere.example/v2/ports/": "v2/ports",
		"/v2/ports?near={}":                      "v2/ports",
		"v2/ports/{}/fares":                      "v2/ports/{}/fares",
		"https://api.saltmere.example":           "",
		"application/json":                       "",
		"no such port / try again":               "",
		"ports":                                  "",
		"{}/{}":                                  "",
	} {
		got := ""
		if isPathText(text) {
			got = pathOf(text)
		}
		if got != want {
			t.Errorf("%q: path %q, want %q", text, got, want)
		}
	}
}

// TestFollowStops: functions that call each other for ever are followed to an end, and a sink that nobody
// names a type for is lost with a reason.
func TestFollowStops(t *testing.T) {
	p := NewProgram(&Words{})
	at := func(line int) model.Pos { return model.Pos{File: "a", Line: int32(line), Col: 1} }
	call := func(name string, line int) *Expr {
		return &Expr{Op: Call, Args: []*Expr{{Op: Name, Text: name}}, Pos: at(line)}
	}
	generic := func(name string, calls ...*Expr) {
		f := &Func{Name: name, Generics: []string{"T"}, Returns: named("T")}
		for _, c := range calls {
			f.Body = append(f.Body, Stmt{Op: Return, Value: c})
		}
		p.AddFunc(f)
	}
	generic("a", call("decode", 1), call("b", 2))
	generic("b", call("a", 3), call("c", 4))
	generic("c", call("a", 5), call("b", 6), call("c", 7))
	sink := &Sink{Pos: at(1), Call: &model.Call{}}
	found, lost := p.Follow([]*Sink{sink, {Pos: at(99), Call: &model.Call{}}}, func(string) {})
	if len(found) > 0 || lost[sink] == "" || len(lost) != 2 {
		t.Errorf("found %v, lost %v", found, lost)
	}
	port := &model.Type{Kind: model.Named, Name: "Port", Model: &model.Model{Name: "Port"}}
	p.AddFunc(&Func{Name: "port", Returns: port, Body: []Stmt{{Op: Return, Value: call("c", 8)}}})
	found, lost = p.Follow([]*Sink{sink}, func(string) {})
	if len(found) == 0 || found[0].Type.Model != port.Model || found[0].Pos != at(8) || len(lost) > 0 {
		t.Errorf("found %v, lost %v", found, lost)
	}
}

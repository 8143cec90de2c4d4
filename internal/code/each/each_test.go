package each

import (
	"testing"

	"vetta/internal/model"
)

func at(key string, inner *model.Expr) *model.Expr {
	return &model.Expr{Op: model.OpAt, Key: key, Args: []*model.Expr{inner}}
}

// element is what is read of the element that a loop is at.
func element(inner *model.Expr) *model.Expr {
	return &model.Expr{Op: model.OpElem, Lossy: true, Func: "getJSONObject", Args: []*model.Expr{inner}}
}

func leaf(name string) *model.Expr { return &model.Expr{Op: model.OpCast, Func: name} }

func call(name string, args ...*model.Expr) *model.Expr {
	return &model.Expr{Op: model.OpCall, Func: name, Args: args}
}

func made(names []string, args ...*model.Expr) *model.Expr {
	return &model.Expr{Op: model.OpNew, Names: names, Args: args}
}

// shape is an expression in short: its operation, what it names, and what it is made of.
func shape(e *model.Expr) string {
	if e == nil {
		return "nothing"
	}
	text := map[model.Op]string{
		model.OpAt: "at", model.OpElem: "element", model.OpEach: "each", model.OpEachKey: "member", model.OpCall: "call", model.OpNew: "new",
		model.OpCast: "read", model.OpIf: "if", model.OpElse: "else", model.OpLeftOut: "left out", model.OpSelf: "self", model.OpConst: "constant", model.OpGiven: "given",
	}[e.Op]
	if name := e.Key + e.Func; name != "" && e.Op != model.OpElem && e.Op != model.OpEach && e.Op != model.OpSelf {
		text += " " + name
	}
	for _, a := range e.Args {
		text += "(" + shape(a) + ")"
	}
	return text
}

// TestEach: what is made of one element becomes what is made of all; nothing where it is of several lists.
func TestEach(t *testing.T) {
	for _, c := range []struct {
		what string
		e    *model.Expr
		want string
	}{
		{"a value", at("list", element(at("code", leaf("getString")))), "at list(each(at code(read getString)))"},
		{"a value made of it", call("upper", at("list", element(leaf("getString")))), "at list(each(call upper(read getString)))"},
		{"a value or another", &model.Expr{Op: model.OpElse, Args: []*model.Expr{at("list", element(leaf("getString"))), {Op: model.OpConst}}}, "at list(each(else(self(read getString))(constant)))"},
		{"nothing of an element", at("code", leaf("getString")), "nothing"},
	} {
		if got := shape(Each(c.e)); got != c.want {
			t.Errorf("%s: got %s, want %s", c.what, got, c.want)
		}
	}
}

// TestHoisted: an instance that is made of an element's values stands at the element.
func TestHoisted(t *testing.T) {
	one, other := at("list", element(at("a", leaf("getInt")))), at("list", element(at("b", leaf("getInt"))))
	if got, want := shape(Hoisted(made([]string{"a", "b"}, one, other))), "at list(element(new(at a(read getInt))(at b(read getInt))))"; got != want {
		t.Errorf("got %s, want %s", got, want)
	}
	if e := Hoisted(made([]string{"a", "b"}, one, at("others", element(at("b", leaf("getInt")))))); e != nil {
		t.Errorf("of two lists: %s", shape(e))
	}
	if got, want := shape(Hoisted(made([]string{"a"}, at("a", leaf("getInt"))))), "new(at a(read getInt))"; got != want {
		t.Errorf("of none: got %s, want %s", got, want)
	}
}

// TestEither: two lists of one array, by a condition of its elements, are one that has either.
func TestEither(t *testing.T) {
	list := func(of string) *model.Expr { return Each(at("list", element(at(of, leaf("getInt"))))) }
	cond := at("list", element(&model.Expr{Op: model.OpGiven, Key: "a"}))
	if got, want := shape(Either(cond, list("a"), nil)), "at list(each(if(self(given a))(self(at a(read getInt)))(left out)))"; got != want {
		t.Errorf("got %s, want %s", got, want)
	}
	if e := Either(at("x", leaf("getBoolean")), list("a"), nil); e != nil {
		t.Errorf("by a condition of something else: %s", shape(e))
	}
}

// TestCertainly: which reads cannot be left out, come what may.
func TestCertainly(t *testing.T) {
	read, other := at("a", leaf("getInt")), at("b", leaf("getInt"))
	for _, c := range []struct {
		what string
		e    *model.Expr
		want bool
	}{
		{"itself", read, true},
		{"an operand", call("+", other, read), true},
		{"the second of and", call("&&", other, read), false},
		{"a branch", &model.Expr{Op: model.OpIf, Args: []*model.Expr{other, read, other}}, false},
		{"a condition", &model.Expr{Op: model.OpIf, Args: []*model.Expr{read, other, other}}, true},
		{"what may be caught", &model.Expr{Op: model.OpCatch, Args: []*model.Expr{read, other}}, false},
		{"another", other, false},
	} {
		if got := Certainly(c.e, read); got != c.want {
			t.Errorf("%s: %v", c.what, got)
		}
	}
}

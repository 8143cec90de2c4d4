package byhand

import (
	"strings"

	"vetta/internal/code"
	"vetta/internal/model"
)

// What code makes of a value that it has read: of a text a number, a constant of an enum, or
// another text.

// conversions are the methods of a value that make another of it, by what they make.
var conversions = map[string]string{
	"trim": "trim", "toLowerCase": "lower", "lowercase": "lower", "toUpperCase": "upper", "uppercase": "upper",
	"toInt": "int", "toLong": "long", "toDouble": "double", "toIntOrNull": "int?", "toLongOrNull": "long?", "toDoubleOrNull": "double?",
}

// parsers are the static methods that do so.
var parsers = map[string]string{
	"Integer.parseInt": "int", "Integer.valueOf": "int", "Long.parseLong": "long", "Long.valueOf": "long", "Double.parseDouble": "double", "Double.valueOf": "double",
}

// notNull are the functions that throw where what they are given is null, by what they throw
// then; what else they are given is its message.
var notNull = map[string]string{
	"requireNonNull": "NullPointerException: null", "requireNotNull": "IllegalArgumentException: Required value was null.", "checkNotNull": "IllegalStateException: Required value was null.",
}

// assured follows Objects.requireNonNull(a, "message") and requireNotNull(a) { "message" }; ok is false where
// the call is neither.
func (w *follower) assured(e *code.Expr, names []string, env map[string]*value) (v *value, ok bool) {
	thrown := notNull[names[len(names)-1]]
	if n := len(names); thrown == "" || n > 1 && names[n-2] != "Objects" || len(e.Args) < 2 {
		return nil, false
	}
	pos := w.where(e)
	v = w.expression(e.Args[1], env)
	if len(e.Args) > 2 {
		said := e.Args[2]
		if said.Op == code.Lambda && len(said.Body) > 0 {
			said = said.Body[len(said.Body)-1].Value
		}
		kind, _, _ := strings.Cut(thrown, ":")
		text := ""
		if said != nil {
			text = w.text(said, env)
		}
		if text == "" {
			text = model.NotTold
		}
		thrown = kind + ": " + text
	}
	return w.orThrow(e.From, v, thrown, pos), true
}

// orThrow is a value, where nothing is thrown in its place.
func (w *follower) orThrow(at int32, v *value, thrown string, pos model.Pos) *value {
	if v == nil {
		return nil
	}
	if e := held(v); e != nil {
		return &value{expr: w.orElse(at, e, &model.Expr{Op: model.OpFail, Why: thrown, Pos: pos}, pos)}
	}
	if n := len(v.path); v.isNode && (n == 0 || strings.HasPrefix(v.path[n-1].fn, "get")) || v.instance {
		return v
	}
	w.fail(at, "a part of the document that may be null")
	return nil
}

// converted is what a method without arguments makes of a value, nil where it is none of the
// conversions.
func converted(v *value, name string, pos model.Pos) *value {
	made := conversions[name]
	if made == "" || v.expr != nil && isComputed(v.expr) && made != "trim" && made != "lower" && made != "upper" || v.isNode || v.instance || v.expr == nil || v.expr.Op == model.OpConst || v.expr.Op == model.OpUnknown {
		return nil
	}
	return &value{expr: &model.Expr{Op: model.OpCall, Func: made, Args: []*model.Expr{v.expr}, Pos: pos}}
}

// parsed follows Integer.parseInt(a) and Kind.valueOf(a); ok is false where the call is
// neither.
func (w *follower) parsed(e *code.Expr, names []string, env map[string]*value) (v *value, ok bool) {
	if len(names) != 2 || len(e.Args) != 2 {
		return nil, false
	}
	pos := w.where(e)
	made := &model.Expr{Op: model.OpCall, Func: parsers[names[0]+"."+names[1]], Pos: pos}
	if made.Func == "" {
		class := w.p.Find(w.f, w.c, names[0])
		if class == nil || class.Kind != "enum" || names[1] != "valueOf" || !class.IsModel() {
			return nil, false
		}
		made.Func, made.Type = "constant", &model.Type{Kind: model.Named, Name: class.Model.Name, Model: class.Model, Pos: pos}
	}
	arg := w.expression(e.Args[1], env)
	if arg == nil {
		return nil, true
	}
	if arg.isNode || arg.expr == nil || arg.expr.Op == model.OpConst || isComputed(arg.expr) {
		w.fail(e.From, "what "+names[0]+"."+names[1]+" is given")
		return nil, true
	}
	made.Args = []*model.Expr{arg.expr}
	return &value{expr: made}, true
}

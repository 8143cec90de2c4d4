package byhand

import (
	"strings"

	"vetta/internal/code"
	"vetta/internal/code/each"
	"vetta/internal/code/hand"
	"vetta/internal/model"
	"vetta/internal/source/jvm"
	"vetta/internal/source/scan"
)

// Values that code computes of others: what they come to is not told, but what is read for them
// is, and fails as it would alone.

// isComputed says whether a part of an expression is computed, so that what it comes to is not
// told.
func isComputed(e *model.Expr) bool {
	found := false
	e.Walk(func(e *model.Expr) { found = found || e.Op == model.OpCall && e.Func == model.Computed })
	return found
}

// truth follows a comparison, or another condition, whose truth is the value; ok is false where
// the expression is none.
func (w *follower) truth(e *code.Expr, env map[string]*value) (v *value, ok bool) {
	if !isCondition(e) {
		return nil, false
	}
	pos := w.where(e)
	cond := w.condition(e, env)
	if w.why != "" {
		return nil, true
	}
	is := func(text string) *model.Expr {
		return &model.Expr{Op: model.OpConst, Value: &model.Literal{Kind: model.BoolLiteral, Text: text}, Pos: pos}
	}
	return &value{expr: &model.Expr{Op: model.OpIf, Args: []*model.Expr{cond, is("true"), is("false")}, Pos: pos}}, true
}

// isCondition says whether an expression compares or joins conditions, or begins with the sign for what is
// not so.
func isCondition(e *code.Expr) bool {
	switch e.Op {
	case code.Unary:
		return e.Text == "!"
	case code.Binary:
		switch e.Text {
		case "==", "!=", "===", "!==", "&&", "||", "<", ">", "<=", ">=":
			return true
		}
	case code.Call:
		receiver, name := hand.Method(e)
		return receiver != nil && (name == "has" || name == "isNull")
	}
	return false
}

// computed follows sums and the like, and texts with values in them; ok is false where the
// expression is neither.
func (w *follower) computed(e *code.Expr, env map[string]*value) (v *value, ok bool) {
	if !isComputation(e) || w.written(e) {
		return nil, false
	}
	out := &model.Expr{Op: model.OpCall, Func: model.Computed, Pos: w.where(e)}
	add := func(e *code.Expr) bool {
		if w.written(e) {
			return true
		}
		v := w.expression(e, env)
		of := held(v)
		switch {
		case v == nil:
			return false
		case of == nil || !isTold(of) || !isScalar(v):
			w.fail(e.From, "an operator")
			return false
		case of.Op != model.OpConst:
			out.Args = append(out.Args, of)
		}
		return true
	}
	if e.Op == code.Text {
		at, _ := w.tokens(e.From, e.To)
		for _, piece := range pieces(w.f.File, at) {
			before := w.f
			own := *w.f
			own.File, own.Parse = piece, func(int) (*model.Type, int) { return nil, 0 }
			w.f = &own
			ok := add(w.read(0, piece.Len()))
			w.f = before
			if !ok {
				return nil, true
			}
		}
	} else if !w.operands(e, add) {
		return nil, true
	}
	if len(out.Args) == 0 {
		w.fail(e.From, "an operator")
		return nil, true
	}
	return &value{expr: out}, true
}

// isComputation says whether an expression is a sum or the like, or a text with values in it.
func isComputation(e *code.Expr) bool {
	switch e.Op {
	case code.Plus:
		return true
	case code.Binary:
		return arithmetic[e.Text]
	case code.Unary:
		return e.Text == "-" || e.Text == "+"
	case code.Text:
		return len(e.Args) > 0
	}
	return false
}

var arithmetic = map[string]bool{"-": true, "*": true, "/": true, "%": true}

// operands hands over what the operators of an expression stand between, and says whether each was taken.
func (w *follower) operands(e *code.Expr, add func(*code.Expr) bool) bool {
	switch {
	case e.Does != 0 || !isComputation(e) || e.Op == code.Text:
		return add(e)
	case e.Op == code.Unary:
		return w.operands(e.Args[0], add)
	case (e.Text == "/" || e.Text == "%") && e.Op == code.Binary && !w.divides(e.Args[1]):
		w.fail(e.Args[1].From, "a division")
		return false
	}
	return w.operands(e.Args[0], add) && w.operands(e.Args[1], add)
}

// written says whether an expression is a literal, whose value is told.
func (w *follower) written(e *code.Expr) bool {
	l := w.literal(e)
	return l.Kind != model.OtherLiteral && l.Kind != model.CaseLiteral && allTold(l)
}

// isScalar says whether a value is no list nor a map, which operators take and leave elements of.
func isScalar(v *value) bool {
	return !v.isList && !v.isMap && !each.HoldsEach(v.expr)
}

// divides says whether an operand is a number other than zero, by which anything can be divided.
func (w *follower) divides(e *code.Expr) bool {
	l := w.literal(e)
	return l.Kind == model.FloatLiteral || l.Kind == model.IntLiteral && strings.Trim(l.Text, "-0_") != ""
}

// maxPieces is how many there may be in one string.
const maxPieces = 20

// pieces are the expressions in the text of a string of Kotlin: $name and ${expression}. Each
// is in a file of its own, where it stands at its place in the file of the string.
func pieces(f *scan.File, at int) (all []*scan.File) {
	t := f.TokenAt(at)
	text := f.Src[:t.End]
	raw := strings.HasPrefix(text[t.Start:], `"""`)
	for i := int(t.Start); i+1 < len(text) && len(all) < maxPieces; i++ {
		switch {
		case text[i] == '\\' && !raw:
			i++
			continue
		case text[i] != '$':
			continue
		}
		from, to := i+1, i+1
		if text[from] == '{' {
			from++
			to = closes(text, from)
			i = to
		} else {
			for to < len(text) && jvm.IsWordByte(text[to]) {
				to++
			}
			i = to - 1
		}
		if to <= from {
			continue
		}
		all = append(all, f.Again(blanked(text[:from])+text[from:to]))
	}
	return all
}

// closes is where the brace is closed that was opened before a place in a text, that place where
// it is not. Strings in it are passed over as a whole.
func closes(text string, from int) int {
	depth := 1
	for i := from; i < len(text); i++ {
		switch text[i] {
		case '"':
			for i++; i < len(text) && text[i] != '"'; i++ {
				if text[i] == '\\' {
					i++
				}
			}
		case '{':
			depth++
		case '}':
			if depth--; depth == 0 {
				return i
			}
		}
	}
	return from
}

// blanked is a text with spaces for all but its line breaks.
func blanked(text string) string {
	b := []byte(text)
	for i := range b {
		if b[i] != '\n' {
			b[i] = ' '
		}
	}
	return string(b)
}

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

package byhand

import (
	"strconv"

	"vetta/internal/code"
	"vetta/internal/code/hand"
	"vetta/internal/model"
)

// condition follows a condition: has, isNull, comparisons with null, and their
// combinations.
func (w *follower) condition(e *code.Expr, env map[string]*value) *model.Expr {
	if e.Op == code.Binary && (e.Text == "||" || e.Text == "&&") {
		left := w.condition(e.Args[0], env)
		right := w.condition(e.Args[1], env)
		return &model.Expr{Op: model.OpCall, Func: e.Text, Args: []*model.Expr{left, right}}
	}
	if e.Op == code.Unary && e.Text == "!" {
		return &model.Expr{Op: model.OpCall, Func: "!", Args: []*model.Expr{w.condition(e.Args[0], env)}}
	}
	if is := w.asked(e, env); is != nil {
		return is
	}
	// part != null, part == null
	if e.Op == code.Binary && (e.Text == "!=" || e.Text == "==") && isNull(e.Args[1]) {
		v := w.expression(e.Args[0], env)
		if v != nil && v.isNode && len(v.path) == 0 { // the object that is read is there
			return &model.Expr{Op: model.OpConst, Value: &model.Literal{Kind: model.BoolLiteral, Text: strconv.FormatBool(e.Text == "!=")}}
		}
		if v != nil && v.isNode {
			if e.Text == "!=" {
				return given(v)
			}
			return &model.Expr{Op: model.OpCall, Func: "!", Args: []*model.Expr{given(v)}}
		}
	}
	if is := w.comparison(e, env); is != nil {
		return is
	}
	if !isCondition(e) {
		if is := w.quietly(e, env); is != nil && readsBool(is) {
			return is
		}
	}
	w.fail(e.From, "a condition")
	return &model.Expr{Op: model.OpUnknown}
}

func isNull(e *code.Expr) bool { return e.Op == code.Name && e.Text == "null" }

// asked follows o.has("k") and o.isNull("k"), nil where the condition is neither.
func (w *follower) asked(e *code.Expr, env map[string]*value) *model.Expr {
	receiver, name := hand.Method(e)
	if e.Op != code.Call || len(e.Args) != 2 || name != "has" && name != "isNull" {
		return nil
	}
	of := env["this"]
	bare := receiver == nil && of != nil && of.isNode
	if receiver == nil && !bare {
		return nil
	}
	key := w.literal(e.Args[1])
	if text := w.text(e.Args[1], env); text != "" {
		key = &model.Literal{Kind: model.StringLiteral, Text: text}
	}
	if index := w.bound(e.Args[1], env); name == "isNull" && index != nil && index.expr != nil && index.expr.Func == "index" && !bare {
		if v := w.expression(receiver, env); v != nil && v.isNode {
			return &model.Expr{Op: model.OpCall, Func: "!", Args: []*model.Expr{elementIs(v.path, "value", w.where(e))}}
		}
	}
	if key.Kind != model.StringLiteral {
		return nil
	}
	if !bare {
		of = w.expression(receiver, env)
	}
	if of == nil || !of.isNode {
		return nil
	}
	leaf := &model.Expr{Op: model.OpHas, Key: key.Text}
	if name == "isNull" {
		leaf = &model.Expr{Op: model.OpIsNull, Key: key.Text}
	}
	return nest(of.path, leaf)
}

// comparison follows conditions about a value that is read: what it equals, whether a text
// is empty, which of two numbers is larger. nil where the condition is none, and nothing is
// noted then.
func (w *follower) comparison(e *code.Expr, env map[string]*value) *model.Expr {
	call := func(name string, args ...*model.Expr) *model.Expr {
		return &model.Expr{Op: model.OpCall, Func: name, Args: args, Pos: w.where(e)}
	}
	not := func(e *model.Expr) *model.Expr {
		if e == nil {
			return nil
		}
		return call("!", e)
	}
	switch e.Op {
	case code.Call: // "a".equals(b), TextUtils.isEmpty(b)
		receiver, name := hand.Method(e)
		switch {
		case receiver == nil:
		case name == "equals" && len(e.Args) == 2:
			if l := w.literal(receiver); l.Kind == model.StringLiteral {
				return w.equals(e.Args[1], l, env)
			}
			if l := w.literal(e.Args[1]); l.Kind == model.StringLiteral {
				return w.equals(receiver, l, env)
			}
		case name == "isEmpty" && len(e.Args) == 2 && receiver.Op == code.Name && receiver.Text == "TextUtils":
			return w.about(e.Args[1], env, "empty")
		case len(e.Args) == 1:
			switch name {
			case "isEmpty", "isNullOrEmpty":
				return w.about(receiver, env, "empty")
			case "isNotEmpty":
				return not(w.about(receiver, env, "empty"))
			case "isBlank", "isNullOrBlank":
				return w.about(receiver, env, "blank")
			case "isNotBlank":
				return not(w.about(receiver, env, "blank"))
			}
		}
	case code.Binary: // a == b, a != b, a > b
		left, right := e.Args[0], e.Args[1]
		l := w.literal(right)
		if text := w.text(right, env); text != "" {
			l = &model.Literal{Kind: model.StringLiteral, Text: text}
		}
		switch e.Text {
		case "==":
			return w.equals(left, l, env)
		case "!=":
			return not(w.equals(left, l, env))
		case "<", ">", "<=", ">=":
			if l.Kind != model.IntLiteral && l.Kind != model.FloatLiteral {
				return nil
			}
			if _, name := hand.Method(left); name == "length" && len(left.Args) == 1 { // of a text
				return nil
			}
			v := w.quietly(left, env)
			if v == nil {
				return nil
			}
			return call(e.Text, v, &model.Expr{Op: model.OpConst, Value: l})
		}
	}
	return nil
}

// quietly is the expression of a value, nil where it is none that is followed; then nothing is noted.
func (w *follower) quietly(e *code.Expr, env map[string]*value) *model.Expr {
	if w.why != "" {
		return nil
	}
	v := w.expression(e, env)
	if w.why != "" || v == nil || v.isNode || v.expr == nil || !isTold(v.expr) {
		w.why = ""
		return nil
	}
	return v.expr
}

// isTold says whether it is known what an expression is: not of code that is not followed, nor of
// the name of a field or of a constant, which is all that a name without a value is.
func isTold(e *model.Expr) bool {
	switch {
	case e.Op == model.OpUnknown || isComputed(e):
		return false
	case e.Op == model.OpConst:
		return e.Value != nil && e.Value.Kind != model.CaseLiteral && e.Value.Kind != model.OtherLiteral
	}
	return true
}

// readsBool says whether an expression is a bool that a method reads.
func readsBool(e *model.Expr) bool {
	for e.Op == model.OpAt && len(e.Args) == 1 {
		e = e.Args[0]
	}
	return e.Op == model.OpCast && (e.Func == "getBoolean" || e.Func == "optBoolean")
}

// equals is the condition that a value equals a literal.
func (w *follower) equals(e *code.Expr, l *model.Literal, env map[string]*value) *model.Expr {
	switch l.Kind {
	case model.StringLiteral, model.IntLiteral, model.BoolLiteral, model.NullLiteral:
	default:
		return nil
	}
	of := w.quietly(e, env)
	if of == nil {
		return nil
	}
	return &model.Expr{Op: model.OpCall, Func: "==", Args: []*model.Expr{of, {Op: model.OpConst, Value: l}}}
}

// about is a condition of one value.
func (w *follower) about(e *code.Expr, env map[string]*value, name string) *model.Expr {
	of := w.quietly(e, env)
	if of == nil {
		return nil
	}
	return &model.Expr{Op: model.OpCall, Func: name, Args: []*model.Expr{of}}
}

// ifEmpty follows a.ifEmpty { … } and a.ifBlank { … }: a, or what the block yields.
func (w *follower) ifEmpty(l *code.Expr, v *value, name string, env map[string]*value) *value {
	pos := w.where(l)
	otherwise := w.block(l.Body, env)
	if held(v) == nil || held(otherwise) == nil {
		w.fail(l.From, name)
		return nil
	}
	cond := &model.Expr{Op: model.OpCall, Func: map[string]string{"ifEmpty": "empty", "ifBlank": "blank"}[name], Args: []*model.Expr{held(v)}, Pos: pos}
	return &value{expr: &model.Expr{Op: model.OpIf, Args: []*model.Expr{cond, held(otherwise), held(v)}, Pos: pos}}
}

// takenIf follows a.takeIf { … } and a.takeUnless { … }: a, or nothing.
func (w *follower) takenIf(l *code.Expr, v *value, unless bool, env map[string]*value) *value {
	pos := w.where(l)
	if v.expr == nil {
		w.fail(l.From, "takeIf on a part of the document")
		return nil
	}
	if len(l.Body) != 1 || l.Body[0].Op != code.Do || l.Body[0].Value == nil || l.Body[0].Torn {
		w.fail(l.From, "a condition")
		return nil
	}
	cond := w.condition(l.Body[0].Value, within(env, param(l), v))
	nothing := &model.Expr{Op: model.OpConst, Value: &model.Literal{Kind: model.NullLiteral}, Pos: pos}
	args := []*model.Expr{cond, v.expr, nothing}
	if unless {
		args[1], args[2] = nothing, v.expr
	}
	return &value{expr: &model.Expr{Op: model.OpIf, Args: args, Pos: pos}}
}

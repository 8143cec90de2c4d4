package jvm

import (
	"strconv"
	"strings"

	"vetta/internal/model"
	"vetta/internal/source/scan"
)

// condition follows a condition: has, isNull, comparisons with null, and their
// combinations.
func (w *follower) condition(c *scan.Cursor, end int, env map[string]*value) *model.Expr {
	for _, op := range []string{"||", "&&"} {
		for i := c.I; i+1 < end; i++ {
			if c.F.TokenAt(i).Is(op[:1]) && c.F.TokenAt(i+1).Is(op[1:]) {
				left := w.condition(&scan.Cursor{F: c.F, I: c.I}, i, env)
				right := w.condition(&scan.Cursor{F: c.F, I: i + 2}, end, env)
				return &model.Expr{Op: model.OpCall, Func: op, Args: []*model.Expr{left, right}}
			}
			if m := c.F.Partner(i); m > i {
				i = m
			}
		}
	}
	if c.Is("!") {
		return &model.Expr{Op: model.OpCall, Func: "!", Args: []*model.Expr{w.condition(&scan.Cursor{F: c.F, I: c.I + 1}, end, env)}}
	}
	if c.Is("(") && c.Shut() == end-1 {
		return w.condition(&scan.Cursor{F: c.F, I: c.I + 1}, end-1, env)
	}
	// o.has("k"), o.isNull("k")
	if t := c.F.TokenAt(end - 1); t.Is(")") && end-4 >= c.I {
		open := c.F.Partner(end - 1)
		this := env["this"]
		bare := open == c.I+1 && this != nil && this.isNode
		if bare || open > c.I+1 && c.F.Is(open-2, ".") {
			name := c.F.TokenAt(open - 1).Text
			key := Literal(c.F, open+1, end-1)
			if text := w.text(c.F, open+1, end-1, env); text != "" {
				key = &model.Literal{Kind: model.StringLiteral, Text: text}
			}
			if index := env[c.F.Joined(open+1, end-1)]; name == "isNull" && index != nil && index.expr != nil && index.expr.Func == "index" && !bare {
				if v := w.expression(&scan.Cursor{F: c.F, I: c.I}, open-2, env); v != nil && v.isNode {
					return &model.Expr{Op: model.OpCall, Func: "!", Args: []*model.Expr{elementIs(v.path, "value", c.Where())}}
				}
			}
			if (name == "has" || name == "isNull") && key.Kind == model.StringLiteral {
				v := this
				if !bare {
					v = w.expression(&scan.Cursor{F: c.F, I: c.I}, open-2, env)
				}
				if v != nil && v.isNode {
					leaf := &model.Expr{Op: model.OpHas, Key: key.Text}
					if name == "isNull" {
						leaf = &model.Expr{Op: model.OpIsNull, Key: key.Text}
					}
					return nest(v.path, leaf)
				}
			}
		}
	}
	// part != null, part == null
	if i := end - 3; i > c.I && c.F.Is(end-1, "null") && c.F.Is(i+1, "=") && (c.F.Is(i, "!") || c.F.Is(i, "=")) {
		v := w.expression(&scan.Cursor{F: c.F, I: c.I}, i, env)
		if v != nil && v.isNode && len(v.path) == 0 { // the object that is read is there
			return &model.Expr{Op: model.OpConst, Value: &model.Literal{Kind: model.BoolLiteral, Text: strconv.FormatBool(c.F.Is(i, "!"))}}
		}
		if v != nil && v.isNode {
			if c.F.Is(i, "!") {
				return given(v)
			}
			return &model.Expr{Op: model.OpCall, Func: "!", Args: []*model.Expr{given(v)}}
		}
	}
	if e := w.comparison(c, end, env); e != nil {
		return e
	}
	if !isCondition(c.F, c.I, end) {
		if e := w.quietly(c.F, c.I, end, env); e != nil && readsBool(e) {
			return e
		}
	}
	w.fail(c, "a condition")
	return &model.Expr{Op: model.OpUnknown}
}

// comparison follows conditions about a value that is read: what it equals, whether a text
// is empty, which of two numbers is larger. nil where the condition is none, and nothing is
// noted then.
func (w *follower) comparison(c *scan.Cursor, end int, env map[string]*value) *model.Expr {
	f := c.F
	call := func(name string, args ...*model.Expr) *model.Expr {
		return &model.Expr{Op: model.OpCall, Func: name, Args: args, Pos: c.Where()}
	}
	not := func(e *model.Expr) *model.Expr {
		if e == nil {
			return nil
		}
		return call("!", e)
	}
	// "a".equals(b), TextUtils.isEmpty(b)
	if f.Is(end-1, ")") {
		open := f.Partner(end - 1)
		name, from := f.Ident(open-1), open+1
		switch {
		case open < c.I+3 || !f.Is(open-2, "."):
		case name == "equals" && open+1 < end-1:
			if l := Literal(f, c.I, open-2); l.Kind == model.StringLiteral {
				return w.equals(f, from, end-1, l, env)
			}
			if l := Literal(f, from, end-1); l.Kind == model.StringLiteral {
				return w.equals(f, c.I, open-2, l, env)
			}
		case name == "isEmpty" && f.Ident(open-3) == "TextUtils" && open-3 == c.I:
			return w.about(f, from, end-1, env, "empty")
		case from == end-1:
			switch name {
			case "isEmpty", "isNullOrEmpty":
				return w.about(f, c.I, open-2, env, "empty")
			case "isNotEmpty":
				return not(w.about(f, c.I, open-2, env, "empty"))
			case "isBlank", "isNullOrBlank":
				return w.about(f, c.I, open-2, env, "blank")
			case "isNotBlank":
				return not(w.about(f, c.I, open-2, env, "blank"))
			}
		}
		return nil
	}
	// a == b, a != b, a > b
	for i := c.I + 1; i < end-1; i++ {
		if m := f.Partner(i); m > i {
			i = m
			continue
		}
		two := f.Is(i+1, "=")
		from := i + 1
		if two {
			from = i + 2
		}
		l := Literal(f, from, end)
		if text := w.text(f, from, end, env); text != "" {
			l = &model.Literal{Kind: model.StringLiteral, Text: text}
		}
		switch {
		case f.Is(i, "=") && two:
			return w.equals(f, c.I, i, l, env)
		case f.Is(i, "!") && two:
			return not(w.equals(f, c.I, i, l, env))
		case f.Is(i, "<") || f.Is(i, ">"):
			if l.Kind != model.IntLiteral && l.Kind != model.FloatLiteral {
				return nil
			}
			op := f.Word(i)
			if two {
				op += "="
			}
			if strings.HasSuffix(f.Joined(c.I, i), ".length()") { // of a text
				return nil
			}
			v := w.quietly(f, c.I, i, env)
			if v == nil {
				return nil
			}
			return call(op, v, &model.Expr{Op: model.OpConst, Value: l})
		}
	}
	return nil
}

// quietly is the expression of a value between two tokens, nil where it is none that is
// followed; then nothing is noted.
func (w *follower) quietly(f *scan.File, from, to int, env map[string]*value) *model.Expr {
	if w.why != "" {
		return nil
	}
	v := w.expression(&scan.Cursor{F: f, I: from}, to, env)
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
func (w *follower) equals(f *scan.File, from, to int, l *model.Literal, env map[string]*value) *model.Expr {
	switch l.Kind {
	case model.StringLiteral, model.IntLiteral, model.BoolLiteral, model.NullLiteral:
	default:
		return nil
	}
	e := w.quietly(f, from, to, env)
	if e == nil {
		return nil
	}
	return &model.Expr{Op: model.OpCall, Func: "==", Args: []*model.Expr{e, {Op: model.OpConst, Value: l}}}
}

// about is a condition of one value.
func (w *follower) about(f *scan.File, from, to int, env map[string]*value, name string) *model.Expr {
	if f.Is(to-1, "?") {
		to--
	}
	e := w.quietly(f, from, to, env)
	if e == nil {
		return nil
	}
	return &model.Expr{Op: model.OpCall, Func: name, Args: []*model.Expr{e}}
}

// ifEmpty follows a.ifEmpty { … } and a.ifBlank { … }: a, or what the block yields.
func (w *follower) ifEmpty(c *scan.Cursor, v *value, name string, env map[string]*value) *value {
	pos := c.Where()
	_, from, to := lambda(c)
	otherwise := w.block(&scan.Cursor{F: c.F, I: from}, to, env)
	if held(v) == nil || held(otherwise) == nil {
		w.fail(c, name)
		return nil
	}
	cond := &model.Expr{Op: model.OpCall, Func: map[string]string{"ifEmpty": "empty", "ifBlank": "blank"}[name], Args: []*model.Expr{held(v)}, Pos: pos}
	return &value{expr: &model.Expr{Op: model.OpIf, Args: []*model.Expr{cond, held(otherwise), held(v)}, Pos: pos}}
}

// takenIf follows a.takeIf { … } and a.takeUnless { … }: a, or nothing.
func (w *follower) takenIf(c *scan.Cursor, v *value, unless bool, env map[string]*value) *value {
	pos := c.Where()
	param, from, to := lambda(c)
	if v.expr == nil {
		w.fail(c, "takeIf on a part of the document")
		return nil
	}
	cond := w.condition(&scan.Cursor{F: c.F, I: from}, to, within(env, param, v))
	nothing := &model.Expr{Op: model.OpConst, Value: &model.Literal{Kind: model.NullLiteral}, Pos: pos}
	args := []*model.Expr{cond, v.expr, nothing}
	if unless {
		args[1], args[2] = nothing, v.expr
	}
	return &value{expr: &model.Expr{Op: model.OpIf, Args: args, Pos: pos}}
}

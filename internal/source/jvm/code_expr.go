package jvm

import (
	"slices"
	"strconv"
	"strings"

	"vetta/internal/model"
	"vetta/internal/source/scan"
)

// expression follows an expression between two tokens; nil where it cannot, which is
// noted.
func (w *follower) expression(c *scan.Cursor, end int, env map[string]*value) *value {
	if w.why != "" || c.I >= end {
		return nil
	}
	pos := c.Where()
	if c.Is("try") && c.Ahead(1, "{") {
		return w.caught(c, end, env, w.block)
	}
	if (c.Is("when") && (c.Ahead(1, "(") || c.Ahead(1, "{")) || c.Is("switch") && c.Ahead(1, "(")) && c.F.Is(end-1, "}") {
		return w.picked(c, env)
	}
	// cond ? a : b
	if q, colon := ternary(c, end); q > 0 && w.f.Language == "java" {
		cond := w.condition(&scan.Cursor{F: c.F, I: c.I}, q, env)
		yes := w.expression(&scan.Cursor{F: c.F, I: q + 1}, colon, env)
		no := w.expression(&scan.Cursor{F: c.F, I: colon + 1}, end, env)
		return w.choice(c, cond, yes, no, pos)
	}
	// if (cond) a else b
	if c.Is("if") && c.Ahead(1, "(") {
		c.Advance()
		shut := c.Shut()
		cond := w.condition(&scan.Cursor{F: c.F, I: c.I + 1}, shut, env)
		otherwise := -1
		for i := shut + 1; i < end; i++ {
			if c.F.Is(i, "else") {
				otherwise = i
				break
			}
			if m := c.F.Partner(i); m > i {
				i = m
			}
		}
		if otherwise < 0 {
			w.fail(c, "if without else")
			return nil
		}
		yes := w.block(unbraced(c.F, shut+1, otherwise), closing(c.F, shut+1, otherwise), env)
		no := w.block(unbraced(c.F, otherwise+1, end), closing(c.F, otherwise+1, end), env)
		return w.choice(c, cond, yes, no, pos)
	}
	if v, ok := w.truth(c, end, env); ok {
		return v
	}
	// a ?: b
	for i := c.I; i+1 < end; i++ {
		if c.F.Is(i, "?") && c.F.Is(i+1, ":") && !c.F.TokenAt(i+1).Space {
			left := w.expression(&scan.Cursor{F: c.F, I: c.I}, i, env)
			if c.F.Is(i+2, "throw") || c.F.Is(i+2, "return") {
				return w.orLeave(&scan.Cursor{F: c.F, I: i + 2}, end, left, env)
			}
			right := w.expression(&scan.Cursor{F: c.F, I: i + 2}, end, env)
			if left != nil && right != nil && left.isNode && len(left.path) > 0 && right.isNode && right.fresh {
				out := *left
				out.orEmpty = true
				return &out
			}
			if held(left) == nil || held(right) == nil {
				w.fail(c, "?:")
				return nil
			}
			return &value{expr: w.orElse(c, held(left), held(right), pos)}
		}
		if m := c.F.Partner(i); m > i {
			i = m
		}
	}
	if v, ok := w.computed(c, end, env); ok {
		return v
	}
	return w.primary(c, end, env)
}

// unbraced and closing take the braces off a block that is one expression.
func unbraced(f *scan.File, from, to int) *scan.Cursor {
	if f.Is(from, "{") {
		from++
	}
	return &scan.Cursor{F: f, I: from}
}

func closing(f *scan.File, from, to int) int {
	if f.Is(from, "{") && f.Partner(from) > from {
		return f.Partner(from)
	}
	return to
}

func (w *follower) choice(c *scan.Cursor, cond *model.Expr, yes, no *value, pos model.Pos) *value {
	if yes == nil || no == nil || yes.isNode || no.isNode {
		w.fail(c, "a choice between parts of the document")
		return nil
	}
	return &value{expr: &model.Expr{Op: model.OpIf, Args: []*model.Expr{cond, w.plain(yes, c), w.plain(no, c)}, Pos: pos}}
}

// ternary is where ? and : of a conditional expression stand, 0 where there is none.
func ternary(c *scan.Cursor, end int) (question, colon int) {
	for i := c.I; i < end; i++ {
		t := c.F.TokenAt(i)
		switch {
		case t.Is("?") && question == 0:
			question = i
		case t.Is(":") && question > 0:
			return question, i
		}
		if m := c.F.Partner(i); m > i {
			i = m
		}
	}
	return 0, 0
}

// primary follows a chain: a name, a constructor or a literal, and the calls behind it.
func (w *follower) primary(c *scan.Cursor, end int, env map[string]*value) *value {
	pos := c.Where()
	if v, ok := w.ranged(c, end, env); ok {
		return v
	}
	if v, ok := w.lookup(c, env); ok {
		if v == nil || c.I >= end {
			return v
		}
		return w.calls(c, end, v, env)
	}
	for c.Is("(") && c.Shut() != end-1 { // a cast
		if rest := c.F.Joined(c.Shut()+1, end); strings.Contains(rest, ".get(") || strings.Contains(rest, ".opt(") {
			w.fail(c, "a cast of what may be anything")
			return nil
		}
		switch to := c.F.Joined(c.I+1, c.Shut()); to {
		case "int", "long", "short", "byte", "char", "float":
			if !strings.Contains(c.F.Joined(c.Shut()+1, end), "."+map[string]string{"int": "getInt(", "long": "getLong("}[to]) || to != "int" && to != "long" {
				w.fail(c, "a cast to "+to)
				return nil
			}
		}
		c.Jump()
	}
	if c.Is("(") {
		shut := c.Shut()
		c.Advance()
		return w.expression(c, shut, env)
	}
	c.Accept("new")
	if l := Literal(c.F, c.I, end); l.Kind != model.OtherLiteral && l.Kind != model.CaseLiteral && allTold(l) {
		if l.Kind == model.ListLiteral && len(l.Elems) == 0 {
			return &value{isList: true}
		}
		if l.Kind == model.MapLiteral && len(l.Elems) == 0 {
			return &value{isMap: true}
		}
		return &value{expr: &model.Expr{Op: model.OpConst, Value: l, Pos: pos}}
	}
	if isReceiverCall(c, env) {
		return w.calls(c, end, env["this"], env)
	}
	if c.Is("runCatching") && c.Ahead(1, "{") {
		return w.runCatching(c, end, env)
	}
	if c.Is("with") && c.Ahead(1, "(") {
		v := w.receives(c, env)
		if v == nil || c.I >= end {
			return v
		}
		return w.calls(c, end, v, env)
	}
	var names []string
	for c.I < end && c.Kind() == scan.Ident {
		names = append(names, c.Text())
		c.Advance()
		if ahead := *c; c.I < end && c.Is("<") { // type arguments, unless it compares
			if SkipAngles(&ahead); ahead.I <= end && c.F.Is(ahead.I-1, ">") {
				*c = ahead
			}
		}
		if env[names[0]] != nil { // the calls behind it are followed from its value on
			break
		}
		if c.Is("?") && c.Ahead(1, ".") {
			c.Advance()
		}
		if !c.Is(".") || c.I >= end {
			break
		}
		c.Advance()
	}
	if len(names) == 0 {
		w.fail(c, "an expression")
		return nil
	}
	v := env[names[0]]
	switch {
	case v != nil && len(names) == 1 && !c.Is("("):
	case names[0] == "this" && len(names) == 1 && c.I >= end:
		return &value{instance: true}
	case c.Is("(") && c.I < end:
		var ok bool
		if v, ok = w.construct(c, names, env, pos); !ok {
			return nil
		}
	case c.I >= end:
		return &value{expr: &model.Expr{Op: model.OpConst, Value: Literal(c.F, c.I-2*len(names)+1, c.I), Pos: pos}}
	default:
		w.fail(c, "the name "+names[0])
		return nil
	}
	return w.calls(c, end, v, env)
}

// readers are the methods of JSONObject and JSONArray that yield a value, or go further
// in.
var readers = map[string]bool{
	"getString": true, "getInt": true, "getLong": true, "getDouble": true, "getBoolean": true, "get": true,
	"optString": true, "optInt": true, "optLong": true, "optDouble": true, "optBoolean": true, "opt": true,
}

// calls follows the calls behind a value.
func (w *follower) calls(c *scan.Cursor, end int, v *value, env map[string]*value) *value {
	bare := isReceiverCall(c, env) // the first of them has no receiver
	for ; c.I < end; bare = false {
		if c.Is("?") && c.Ahead(1, ".") {
			if v.isNode && len(v.path) > 0 && strings.HasPrefix(v.path[len(v.path)-1].fn, "opt") {
				guarded := *v
				guarded.guards = append(append([]*value(nil), v.guards...), v)
				v = &guarded
			}
			c.Advance()
		}
		if c.Is("!") && c.Ahead(1, "!") {
			c.I += 2
			if v = w.orThrow(c, v, "NullPointerException: null", c.Where()); v == nil {
				return nil
			}
			continue
		}
		if !bare && (!c.Is(".") || c.KindAhead(1) != scan.Ident) {
			w.fail(c, "an operator")
			return nil
		}
		if !bare {
			c.Advance()
		}
		name, pos := c.Text(), c.Where()
		c.Advance()
		if (name == "apply" || name == "also" || name == "run" && v.instance) && c.Is("{") && !v.isNode {
			if v = w.scoped(c, v, name, env); v == nil {
				return nil
			}
			continue
		}
		if (name == "ifEmpty" || name == "ifBlank") && c.Is("{") {
			if v = w.ifEmpty(c, v, name, env); v == nil {
				return nil
			}
			continue
		}
		if (name == "takeIf" || name == "takeUnless") && c.Is("{") {
			if v = w.takenIf(c, v, name == "takeUnless", env); v == nil {
				return nil
			}
			continue
		}
		if (name == "let" || name == "run") && c.Is("{") && v.isNode {
			v = w.let(c, v, name, env)
			if v == nil {
				return nil
			}
			continue
		}
		if !c.Is("(") {
			w.fail(c, "the property "+name)
			return nil
		}
		shut := c.Shut()
		if made := converted(v, name, pos); made != nil && shut == c.I+1 {
			v = made
			c.I = shut + 1
			continue
		}
		if name == "length" && v.isNode && shut == end-1 && shut == c.I+1 {
			c.I = end
			return &value{length: true, expr: &model.Expr{Op: model.OpUnknown, Why: "how many elements there are", Pos: pos}}
		}
		args := [][2]int{}
		for i := c.I + 1; i < shut; {
			stop := i
			for stop < shut && !c.F.Is(stop, ",") {
				if e := c.F.Partner(stop); e > stop {
					stop = e
				}
				stop++
			}
			args = append(args, [2]int{i, stop})
			i = stop + 1
		}
		c.I = shut + 1
		if !v.isNode || len(args) == 0 && (readers[name] || parts[name]) {
			w.fail(c, "a call of "+name)
			return nil
		}
		a := access{fn: name, pos: pos}
		if !readers[name] && !parts[name] {
			if v = w.extension(c, name, v, args, env); v == nil {
				return nil
			}
			continue
		}
		switch first := Literal(c.F, args[0][0], args[0][1]); {
		case w.text(c.F, args[0][0], args[0][1], env) != "":
			a.key = w.text(c.F, args[0][0], args[0][1], env)
		case first.Kind == model.StringLiteral:
			a.key = first.Text
		case first.Kind == model.IntLiteral:
			n, err := strconv.Atoi(first.Text)
			if err != nil || n < 0 {
				w.fail(c, "an index")
				return nil
			}
			a.index = n
		default:
			index := env[c.F.Joined(args[0][0], args[0][1])]
			switch {
			case index != nil && index.expr != nil && index.expr.Func == "index":
				a.each = true
			case index != nil && index.of != nil && slices.Equal(index.of.path, v.path):
				a.each, a.member = true, true
			default:
				w.fail(c, "a key that is computed")
				return nil
			}
		}
		switch {
		case parts[name]:
			if v.orEmpty {
				w.fail(c, "a part of what may be empty")
				return nil
			}
			if w.ofElement && a.each && len(v.path) == 0 && name == "getJSONObject" { // the element itself
				v = &value{isNode: true}
				continue
			}
			v = &value{isNode: true, path: append(append([]access(nil), v.path...), a), guards: v.guards}
		case readers[name]:
			if v.orEmpty && !a.each {
				w.fail(c, "a value of what may be empty")
				return nil
			}
			leaf := &model.Expr{Op: model.OpCast, Func: name, Pos: pos}
			if len(args) > 1 {
				leaf.Value = Literal(c.F, args[1][0], args[1][1])
				if v := env[c.F.Joined(args[1][0], args[1][1])]; v != nil { // what a helper was given
					if leaf.Value = (&model.Literal{Kind: model.OtherLiteral}); v.expr != nil && v.expr.Op == model.OpConst && v.expr.Value != nil {
						leaf.Value = v.expr.Value
					}
				}
				if leaf.Value.Kind == model.OtherLiteral {
					w.fail(c, "a fallback that is computed")
					return nil
				}
			}
			v = guardedBy(v.guards, &value{expr: nest(append(append([]access(nil), v.path...), a), leaf)}, pos)
		default:
			w.fail(c, "a call of "+name)
			return nil
		}
	}
	return v
}

// extension follows a call of an extension of Kotlin on a part of the document.
func (w *follower) extension(c *scan.Cursor, name string, v *value, args [][2]int, env map[string]*value) *value {
	class := "JSONObject"
	if n := len(v.path); n > 0 && strings.HasSuffix(v.path[n-1].fn, "Array") {
		class = "JSONArray"
	}
	h := w.helperOf([]string{name}, class, len(args))
	if h == nil {
		w.fail(c, "a call of "+name)
		return nil
	}
	var values []*value
	if len(args) > 0 {
		var ok bool
		if values, _, ok = w.argumentsOf(c.F, args[0][0], args[len(args)-1][1], env, false); !ok {
			return nil
		}
	}
	return w.inline(c, h, &value{isNode: true, path: v.path}, values)
}

// lambda is what stands in the braces at the cursor: its parameter, by default what
// Kotlin calls it, and its tokens. The cursor goes behind it.
func lambda(c *scan.Cursor) (param string, from, to int) {
	param, from, to = "it", c.I+1, c.Shut()
	if c.F.TokenAt(from).Kind == scan.Ident && c.F.Is(from+1, "-") && c.F.Is(from+2, ">") {
		param = c.F.TokenAt(from).Text
		from += 3
	}
	c.I = to + 1
	return param, from, to
}

// within is an environment in which one more name stands for a value.
func within(env map[string]*value, name string, v *value) map[string]*value {
	inner := map[string]*value{name: v}
	for other, v := range env {
		if other != name {
			inner[other] = v
		}
	}
	return inner
}

// let follows part.let { … } and part?.let { … }: the block's value, and nothing where
// an opt method has found no such part.
func (w *follower) let(c *scan.Cursor, part *value, name string, env map[string]*value) *value {
	pos := c.Where()
	param, from, to := lambda(c)
	if name == "run" {
		param = "this"
	}
	v := w.block(&scan.Cursor{F: c.F, I: from}, to, within(env, param, &value{isNode: part.isNode, path: part.path}))
	if v == nil || v.isNode || len(part.path) == 0 || !strings.HasPrefix(part.path[len(part.path)-1].fn, "opt") {
		return v
	}
	guards := part.guards
	if len(guards) == 0 || guards[len(guards)-1].path[len(guards[len(guards)-1].path)-1] != part.path[len(part.path)-1] {
		guards = append(append([]*value(nil), guards...), part)
	}
	return guardedBy(guards, &value{expr: w.plain(v, c)}, pos)
}

// guardedBy is a value that is nothing unless all parts have been found.
func guardedBy(guards []*value, v *value, pos model.Pos) *value {
	for i := len(guards) - 1; i >= 0; i-- {
		nothing := &model.Expr{Op: model.OpConst, Value: &model.Literal{Kind: model.NullLiteral}, Pos: pos}
		v = &value{expr: &model.Expr{Op: model.OpIf, Args: []*model.Expr{given(guards[i]), v.expr, nothing}, Pos: pos}}
	}
	return v
}

// given is the condition that an opt method has found a part.
func given(part *value) *model.Expr {
	at := part.path[len(part.path)-1]
	kind := "object"
	if strings.HasSuffix(at.fn, "Array") {
		kind = "array"
	}
	before := part.path[:len(part.path)-1]
	if at.each && !at.member {
		return elementIs(before, kind, at.pos)
	}
	return nest(before, &model.Expr{Op: model.OpGiven, Key: at.key, Func: kind, Pos: at.pos})
}

// allTold says whether the elements of a literal are literals too.
func allTold(l *model.Literal) bool {
	return !slices.ContainsFunc(l.Elems, func(e *model.Literal) bool { return e.Kind == model.OtherLiteral || !allTold(e) })
}

// constantText is the text of a constant of the class, "" where the name is none.
func (w *follower) constantText(name string) string {
	w.p.asked = 0
	if l := w.p.constant(w.f, w.c, name, maxConstants); l != nil && l.Kind == model.StringLiteral {
		return l.Text
	}
	return ""
}

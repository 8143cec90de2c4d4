package jvm

import (
	"maps"
	"slices"
	"strings"

	"vetta/internal/model"
	"vetta/internal/source/scan"
)

// loop follows for (int i = 0; i < a.length(); i++) and for (i in 0 until a.length()).
func (w *follower) loop(c *scan.Cursor, limit int, env map[string]*value) []model.Step {
	c.Advance()
	shut := c.Shut()
	index, guards, ok := w.indexes(c.I+1, shut, env)
	if !ok {
		w.fail(c, "a loop over something else than all indexes of an array")
		return nil
	}
	pos := c.Where()
	c.I = shut + 1
	from, to := w.body(c, limit)
	inner := maps.Clone(env)
	inner[index] = &value{expr: &model.Expr{Op: model.OpConst, Func: "index"}}
	around, skipped, must := w.loopEnd, w.skipped, w.must
	w.loopEnd, w.skipped, w.must = to, false, nil
	steps := w.statements(&scan.Cursor{F: c.F, I: from}, to, inner)
	steps = append(ofEachElement(w.must, pos), steps...)
	w.loopEnd, w.skipped, w.must = around, skipped, must
	delete(inner, index)
	left(env, inner, pos)
	if slices.ContainsFunc(steps, func(s model.Step) bool { return s.Cond != nil }) { // how many elements there are is asked all the same
		if of := env[lengthOf(w.f.File, shut)]; of != nil {
			steps = append(w.mustBe(of, pos), steps...)
		}
	}
	if of := env[lengthOf(w.f.File, shut)]; of != nil && of.orEmpty && w.f.Language == "kotlin" {
		guards = append(guards, of)
	}
	for _, part := range guards {
		steps = []model.Step{{Cond: given(part), Then: steps, Pos: pos}}
	}
	return steps
}

// indexes reads the head of a loop over all indexes of an array, and answers the name of
// the index. guards are parts that the loop asks whether they are there at all.
func (w *follower) indexes(from, to int, env map[string]*value) (index string, guards []*value, ok bool) {
	f := w.f.File
	if w.f.Language == "kotlin" {
		if f.KindAt(from) != scan.Ident || !f.Is(from+1, "in") {
			return "", nil, false
		}
		return f.Ident(from), nil, overIndexes(f.Joined(from+2, to))
	}
	first := from
	for first < to && !f.Is(first, ";") {
		first++
	}
	second := first + 1
	for second < to && !f.Is(second, ";") {
		second++
	}
	// int i = 0
	if first-from != 4 || !f.Is(from, "int") || !f.Is(from+2, "=") || f.Word(from+3) != "0" {
		return "", nil, false
	}
	index = f.Ident(from + 1)
	switch f.Joined(second+1, to) {
	case index + "++", "++" + index, index + "+=1":
	default:
		return "", nil, false
	}
	counted := false
	for _, part := range strings.Split(f.Joined(first+1, second), "&&") {
		if name, ok := strings.CutSuffix(part, "!=null"); ok && env[name] != nil && env[name].isNode && len(env[name].path) > 0 {
			guards = append(guards, env[name])
			continue
		}
		length, ok := strings.CutPrefix(part, index+"<")
		if !ok || !strings.HasSuffix(length, ".length()") && (env[length] == nil || !env[length].length) {
			return "", nil, false
		}
		counted = true
	}
	return index, guards, counted
}

// overIndexes says whether a range of Kotlin, as its tokens joined, is that of all indexes of an array:
// 0 until a.length(), 0..a.length() - 1, 0..<a.length().
func overIndexes(text string) bool {
	switch {
	case strings.HasPrefix(text, "0until"), strings.HasPrefix(text, "0..<"):
		return strings.HasSuffix(text, ".length()")
	case strings.HasPrefix(text, "0.."):
		return strings.HasSuffix(text, ".length()-1")
	}
	return false
}

// fills are the steps of a loop that fills the collection of a field, which must have been
// empty before.
func (w *follower) fills(c *scan.Cursor, name string, e *model.Expr, pos model.Pos) []model.Step {
	for _, f := range w.fields() {
		if f.Name != name {
			continue
		}
		if l := f.Default; w.filled[name] || l != nil && (l.Kind != model.ListLiteral && l.Kind != model.MapLiteral && l.Kind != model.NullLiteral || len(l.Elems) > 0) {
			w.fail(c, "a collection that held something before")
			return nil
		}
		break
	}
	w.filled[name] = true
	return []model.Step{{Field: name, Expr: e, Pos: pos}}
}

// each turns an expression that reads at the index of a loop into one over all elements;
// nil where it does not.
func (w *follower) each(e *model.Expr) *model.Expr {
	if e == nil {
		return nil
	}
	if e.Op == model.OpElem && e.Lossy {
		// The element becomes the current value of what is inside.
		return &model.Expr{Op: model.OpEach, Func: e.Func, Args: e.Args, Pos: e.Pos, Type: e.Type}
	}
	if e.Op == model.OpCall { // what is made of each, not of the list
		if made := ofEach(e); made != nil {
			return made
		}
	}
	if computes(e) && e.Op != model.OpNew {
		return perElement(e)
	}
	for i, a := range e.Args {
		if inner := w.each(a); inner != nil {
			out := *e
			out.Args = append([]*model.Expr(nil), e.Args...)
			out.Args[i] = inner
			return &out
		}
	}
	return nil
}

// ranged follows (0 until a.length()).map { … } and List(a.length()) { … }; ok is false
// where the expression is neither.
func (w *follower) ranged(c *scan.Cursor, end int, env map[string]*value) (v *value, ok bool) {
	ahead := *c
	over, notNull := "", false
	switch {
	case c.Is("("):
		shut := c.Shut()
		if !overIndexes(c.F.Joined(c.I+1, shut)) {
			return nil, false
		}
		over = lengthOf(c.F, shut)
		ahead.I = shut + 1
		notNull = ahead.Ahead(1, "mapNotNull")
		if !ahead.Is(".") || !ahead.Ahead(1, "map") && !ahead.Ahead(1, "mapTo") && !notNull || !ahead.Ahead(2, "{") {
			return nil, false
		}
		ahead.I += 2
	case c.Is("List") || c.Is("MutableList") || c.Is("ArrayList") || c.Is("Array"):
		if !c.Ahead(1, "(") {
			return nil, false
		}
		ahead.Advance()
		shut := ahead.Shut()
		if !strings.HasSuffix(c.F.Joined(ahead.I+1, shut), ".length()") || !c.F.Is(shut+1, "{") {
			return nil, false
		}
		over = lengthOf(c.F, shut)
		ahead.I = shut + 1
	default:
		return nil, false
	}
	param, from, to := lambda(&ahead)
	inner := w.block(&scan.Cursor{F: c.F, I: from}, to, within(env, param, &value{expr: &model.Expr{Op: model.OpConst, Func: "index"}}))
	if inner == nil {
		return nil, true
	}
	e := w.each(w.node(inner, c))
	if e != nil && notNull {
		e = withoutNulls(e)
	}
	if e == nil {
		w.fail(c, "what a list is made of")
		return nil, true
	}
	if of := env[over]; of != nil && of.orEmpty {
		e = &model.Expr{Op: model.OpIf, Args: []*model.Expr{given(of), e, held(&value{isList: true})}, Pos: e.Pos}
	}
	c.I = ahead.I
	for c.I < end { // what makes another list of it
		if c.Is(".") && (c.Ahead(1, "toList") || c.Ahead(1, "toMutableList")) && c.Ahead(2, "(") {
			c.I += 2
			c.Jump()
			continue
		}
		w.fail(c, "an operator")
		return nil, true
	}
	return &value{expr: e}, true
}

// lengthOf is the name whose length is asked for shortly before a token: a.length() or
// a.length() - 1.
func lengthOf(f *scan.File, end int) string {
	for i := end - 1; i > end-8 && i > 1; i-- {
		if f.Is(i, "length") && f.Is(i-1, ".") {
			return f.Ident(i - 2)
		}
	}
	return ""
}

package jvm

import (
	"maps"
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
	steps := w.statements(&scan.Cursor{F: c.F, I: from}, to, inner)
	delete(inner, index)
	left(env, inner, pos)
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
		return f.Word(from), nil, overIndexes(f.Text(from+2, to))
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
	index = f.Word(from + 1)
	switch strings.ReplaceAll(f.Text(second+1, to), " ", "") {
	case index + "++", "++" + index, index + "+=1":
	default:
		return "", nil, false
	}
	counted := false
	for _, part := range strings.Split(f.Text(first+1, second), "&&") {
		words := strings.Fields(part)
		switch {
		case len(words) == 3 && words[1] == "!=" && words[2] == "null" && env[words[0]] != nil && env[words[0]].isNode && len(env[words[0]].path) > 0:
			guards = append(guards, env[words[0]])
		case len(words) == 3 && words[0] == index && words[1] == "<" && (strings.HasSuffix(words[2], ".length()") || env[words[2]] != nil && env[words[2]].length):
			counted = true
		default:
			return "", nil, false
		}
	}
	return index, guards, counted
}

// overIndexes says whether a range of Kotlin is that of all indexes of an array:
// 0 until a.length(), 0..a.length() - 1, 0..<a.length().
func overIndexes(text string) bool {
	text = strings.ReplaceAll(text, " ", "")
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
		return nil
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

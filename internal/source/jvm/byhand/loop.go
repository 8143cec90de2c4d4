package byhand

import (
	"maps"
	"slices"
	"strings"

	"vetta/internal/code"
	"vetta/internal/code/each"
	"vetta/internal/code/hand"
	"vetta/internal/model"
	"vetta/internal/source/scan"
)

// loop follows for (int i = 0; i < a.length(); i++) and for (i in 0 until a.length()).
func (w *follower) loop(s *code.Stmt, env map[string]*value) []model.Step {
	open, _ := w.tokens(s.From, s.To)
	open++
	shut := w.f.Partner(open)
	index, guards, ok := w.indexes(open+1, shut, env)
	if !ok {
		w.fail(s.From, "a loop over something else than all indexes of an array")
		return nil
	}
	pos := w.f.Where(open)
	inner := maps.Clone(env)
	inner[index] = &value{expr: &model.Expr{Op: model.OpConst, Func: "index"}}
	around, skipped, must := w.looped, w.skipped, w.must
	w.looped, w.skipped, w.must = w.depth+1, false, nil
	steps := w.statements(inside(s), inner)
	steps = append(each.OfEachElement(w.must, pos), steps...)
	w.looped, w.skipped, w.must = around, skipped, must
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
func (w *follower) fills(at int32, name string, e *model.Expr, pos model.Pos) []model.Step {
	for _, f := range w.fields() {
		if f.Name != name {
			continue
		}
		if l := f.Default; w.filled[name] || l != nil && (l.Kind != model.ListLiteral && l.Kind != model.MapLiteral && l.Kind != model.NullLiteral || len(l.Elems) > 0) {
			w.fail(at, "a collection that held something before")
			return nil
		}
		break
	}
	w.filled[name] = true
	return []model.Step{{Field: name, Expr: e, Pos: pos}}
}

// listed are functions by which a list is made of each index below a size.
var listed = map[string]bool{"List": true, "MutableList": true, "ArrayList": true, "Array": true}

// ranged follows (0 until a.length()).map { … } and List(a.length()) { … }; ok is false
// where the expression is neither.
func (w *follower) ranged(e *code.Expr, env map[string]*value) (v *value, ok bool) {
	receiver, name := hand.Method(e)
	var l *code.Expr
	over := ""
	switch {
	case receiver != nil && (name == "toList" || name == "toMutableList") && len(e.Args) == 1: // another list of it
		return w.ranged(receiver, env)
	case receiver != nil && (name == "map" || name == "mapTo" || name == "mapNotNull"):
		l = lambdaOf(e)
		first, end := w.tokens(receiver.From, receiver.To)
		if l == nil || !w.f.Is(first, "(") || !overIndexes(w.f.Joined(first+1, end-1)) {
			return nil, false
		}
		over = lengthOf(w.f.File, end-1)
	case receiver == nil && listed[name] && len(e.Args) == 3 && e.Args[2].Op == code.Lambda:
		l = e.Args[2]
		first, end := w.tokens(e.Args[1].From, e.Args[1].To)
		if !strings.HasSuffix(w.f.Joined(first, end), ".length()") {
			return nil, false
		}
		over = lengthOf(w.f.File, end)
	default:
		return nil, false
	}
	inner := w.block(l.Body, within(env, param(l), &value{expr: &model.Expr{Op: model.OpConst, Func: "index"}}))
	if inner == nil {
		return nil, true
	}
	made := each.Each(w.node(inner, l.From))
	if made != nil && name == "mapNotNull" {
		made = each.WithoutNulls(made)
	}
	if made == nil {
		w.fail(e.From, "what a list is made of")
		return nil, true
	}
	if of := env[over]; of != nil && of.orEmpty {
		made = &model.Expr{Op: model.OpIf, Args: []*model.Expr{given(of), made, held(&value{isList: true})}, Pos: made.Pos}
	}
	return &value{expr: made}, true
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

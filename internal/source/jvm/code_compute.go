package jvm

import (
	"strings"

	"vetta/internal/model"
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
func (w *follower) truth(c *scan.Cursor, end int, env map[string]*value) (v *value, ok bool) {
	if !isCondition(c.F, c.I, end) {
		return nil, false
	}
	pos := c.Where()
	cond := w.condition(&scan.Cursor{F: c.F, I: c.I}, end, env)
	if w.why != "" {
		return nil, true
	}
	is := func(text string) *model.Expr {
		return &model.Expr{Op: model.OpConst, Value: &model.Literal{Kind: model.BoolLiteral, Text: text}, Pos: pos}
	}
	return &value{expr: &model.Expr{Op: model.OpIf, Args: []*model.Expr{cond, is("true"), is("false")}, Pos: pos}}, true
}

// isCondition says whether an expression, outside of all brackets, compares or joins conditions,
// or begins with the sign for what is not so.
func isCondition(f *scan.File, from, end int) bool {
	if f.Is(from, "!") {
		return true
	}
	for i := from; i+1 < end; i++ {
		if m := f.Partner(i); m > i {
			i = m
			continue
		}
		next := f.Is(i+1, "=") && !f.TokenAt(i+1).Space
		switch {
		case f.Is(i, "=") && next, f.Is(i, "!") && next, f.Is(i, "&") && f.Is(i+1, "&"), f.Is(i, "|") && f.Is(i+1, "|"):
			return true
		case (f.Is(i, "<") || f.Is(i, ">")) && f.TokenAt(i).Space && (next && f.TokenAt(i+2).Space || !next && f.TokenAt(i+1).Space):
			return true // else they may be those of type arguments
		}
	}
	if t := end - 1; f.Is(t, ")") && f.Partner(t) > from+1 {
		name := f.Word(f.Partner(t) - 1)
		return f.Is(f.Partner(t)-2, ".") && (name == "has" || name == "isNull")
	}
	return false
}

// computed follows sums and the like, and texts with values in them; ok is false where the
// expression is neither.
func (w *follower) computed(c *scan.Cursor, end int, env map[string]*value) (v *value, ok bool) {
	if written(c.F, c.I, end) {
		return nil, false
	}
	pos := c.Where()
	e := &model.Expr{Op: model.OpCall, Func: model.Computed, Pos: pos}
	add := func(f *scan.File, from, to int) bool {
		if written(f, from, to) {
			return true
		}
		v := w.expression(&scan.Cursor{F: f, I: from}, to, env)
		of := held(v)
		switch {
		case v == nil:
			return false
		case of == nil || !isTold(of) || !isScalar(v):
			w.fail(c, "an operator")
			return false
		case of.Op != model.OpConst:
			e.Args = append(e.Args, of)
		}
		return true
	}
	if c.I+1 == end && c.Kind() == scan.String && !c.Tok().Plain {
		for _, piece := range pieces(c.F, c.I) {
			if !add(piece.f, piece.from, piece.to) {
				return nil, true
			}
		}
	} else {
		operands := operands(c.F, c.I, end)
		if len(operands) == 0 {
			return nil, false
		}
		for i, o := range operands {
			if i > 0 && (c.F.Is(o[0]-1, "/") || c.F.Is(o[0]-1, "%")) && !divides(c.F, o[0], o[1]) {
				w.fail(c, "a division")
				return nil, true
			}
			if o[0] < o[1] && !add(c.F, o[0], o[1]) {
				return nil, true
			}
		}
	}
	if len(e.Args) == 0 {
		w.fail(c, "an operator")
		return nil, true
	}
	return &value{expr: e}, true
}

// written says whether an expression is a literal, whose value is told.
func written(f *scan.File, from, to int) bool {
	l := Literal(f, from, to)
	return l.Kind != model.OtherLiteral && l.Kind != model.CaseLiteral && allTold(l)
}

// isScalar says whether a value is no list nor a map, which operators take and leave elements of.
func isScalar(v *value) bool {
	return !v.isList && !v.isMap && !holdsEach(v.expr)
}

// holdsEach says whether an expression reads the elements of a list or the members of a map.
func holdsEach(e *model.Expr) bool {
	found := false
	e.Walk(func(e *model.Expr) { found = found || e.Op == model.OpEach || e.Op == model.OpEachKey })
	return found
}

// operands are what stands between the arithmetic operators of an expression, outside of all
// brackets; none where there is no operator. What a sign stands before is empty.
func operands(f *scan.File, from, end int) (all [][2]int) {
	start, ended := from, false // whether an operand is complete
	for i := from; i < end; i++ {
		if m := f.Partner(i); m > i {
			i, ended = m, true
			continue
		}
		op := f.KindAt(i) == scan.Punct && strings.Contains("+-*/%", f.Word(i))
		switch {
		case op && f.Is(i+1, "=") || op && f.Is(i+1, ">"):
			return nil
		case op && f.Is(i+1, f.Word(i)) && !f.TokenAt(i+1).Space: // ++
			return nil
		case op && ended || op && i == start:
			all = append(all, [2]int{start, i})
			start, ended = i+1, false
		case op: // a sign
			start = i + 1
		default:
			ended = f.KindAt(i) != scan.Punct || f.Is(i, "!")
		}
	}
	if len(all) == 0 {
		return nil
	}
	return append(all, [2]int{start, end})
}

// divides says whether an operand is a number other than zero, by which anything can be divided.
func divides(f *scan.File, from, to int) bool {
	l := Literal(f, from, to)
	return l.Kind == model.FloatLiteral || l.Kind == model.IntLiteral && strings.Trim(l.Text, "-0_") != ""
}

// piece is an expression in a string.
type piece struct {
	f        *scan.File
	from, to int
}

// maxPieces is how many there may be in one string.
const maxPieces = 20

// pieces are the expressions in the text of a string of Kotlin: $name and ${expression}. Each
// is in a file of its own, where it stands at its place in the file of the string.
func pieces(f *scan.File, at int) (all []piece) {
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
			for to < len(text) && isWordByte(text[to]) {
				to++
			}
			i = to - 1
		}
		if to <= from {
			continue
		}
		own := f.Again(blanked(text[:from]) + text[from:to])
		all = append(all, piece{own, 0, own.Len()})
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

// ofEach turns what is made of one element of a loop into what is made of all: of upper(a[i]) it
// makes upper of each in a. nil where the element is not all that it is made of.
func ofEach(e *model.Expr) *model.Expr {
	var made []*model.Expr // from the outermost in
	for e.Op == model.OpCall && len(e.Args) == 1 {
		made, e = append(made, e), e.Args[0]
	}
	if len(made) == 0 || e.Op == model.OpCall {
		return nil
	}
	var way []*model.Expr
	for ; (e.Op == model.OpAt || e.Op == model.OpElem) && len(e.Args) == 1; e = e.Args[0] {
		way = append(way, e)
		if e.Op == model.OpElem && e.Lossy {
			break
		}
	}
	if len(way) == 0 || !way[len(way)-1].Lossy {
		return nil
	}
	last := way[len(way)-1]
	inner := last.Args[0]
	for i := len(made) - 1; i >= 0; i-- {
		call := *made[i]
		call.Args = []*model.Expr{inner}
		inner = &call
	}
	out := &model.Expr{Op: model.OpEach, Func: last.Func, Args: []*model.Expr{inner}, Pos: last.Pos, Type: last.Type}
	for i := len(way) - 2; i >= 0; i-- {
		at := *way[i]
		at.Args = []*model.Expr{out}
		out = &at
	}
	return out
}

package typescript

import (
	"strings"
	"unicode/utf8"

	"vetta/internal/types"
)

// conditional is the type that a conditional type comes to; of a type parameter that is a union, of each of its members
// by itself (TypeScript handbook, Conditional Types).
func (v *evaluator) conditional(n *node, s *scope, e *env) *types.Type {
	check := n.args[0]
	t := v.of(check, s, e)
	if check.op == nRef && e.find(check.name) == t && len(check.args) == 0 && (t.Kind == types.Union || t.Kind == types.Boolean || t.Kind == types.Never) {
		var all []*types.Type
		for _, one := range t.Each(true) {
			all = append(all, v.branch(n, one, s, e.with(check.name, one)))
		}
		return types.UnionOf(all...)
	}
	return v.branch(n, t, s, e)
}

func (v *evaluator) branch(n *node, t *types.Type, s *scope, e *env) *types.Type {
	switch t.Kind {
	case types.Unresolved:
		return t
	case types.Parameter:
		return types.Lost("what " + t.Text + " stands for is not told")
	}
	found := e
	ok := v.matches(n.args[1], t, s, &found)
	if t.Kind == types.Any {
		return types.UnionOf(v.of(n.args[2], s, found), v.of(n.args[3], s, e))
	}
	if ok {
		return v.of(n.args[2], s, found)
	}
	return v.of(n.args[3], s, e)
}

// infers says whether a pattern names a part with infer.
func infers(n *node) bool {
	if n == nil {
		return false
	}
	if n.op == nInfer {
		return true
	}
	for _, a := range n.args {
		if infers(a) {
			return true
		}
	}
	for _, m := range n.members {
		if infers(m.typ) {
			return true
		}
	}
	return n.op == nFunction && infers(n.result)
}

// matches says whether a type is as a pattern, and gives the parts that the pattern names those names.
func (v *evaluator) matches(n *node, t *types.Type, s *scope, e **env) bool {
	if !infers(n) {
		return types.Fits(t, v.of(n, s, *e))
	}
	switch n.op {
	case nInfer:
		if len(n.args) > 0 && !types.Fits(t, v.of(n.args[0], s, *e)) {
			return false
		}
		*e = (*e).with(n.name, t)
		return true
	case nArray:
		return v.matchElement(n.args[0], t, s, e)
	case nTuple:
		return v.matchTuple(n, t, s, e)
	case nObject:
		if t.Kind != types.Object {
			return false
		}
		for _, m := range n.members {
			p := t.Members().Prop(m.name)
			if p == nil {
				if m.optional {
					continue
				}
				return false
			}
			of := p.Type()
			if p.Optional {
				of = types.UnionOf(of, types.UndefinedType)
			}
			if m.typ != nil && !v.matches(m.typ, of, s, e) {
				return false
			}
		}
		return true
	case nFunction:
		if t.Kind != types.Function || len(t.Elems) == 0 {
			return false
		}
		return n.result == nil || v.matches(n.result, t.Elems[0], s, e)
	case nTemplate:
		return t.Kind == types.StringLiteral && v.matchText(n, 0, t.Text, s, e)
	case nUnion:
		for _, a := range n.args {
			if v.matches(a, t, s, e) {
				return true
			}
		}
		return false
	case nRef:
		if len(n.args) == 0 {
			return false
		}
		switch {
		case n.name == "Array" || n.name == "ReadonlyArray":
			return v.matchElement(n.args[0], t, s, e)
		case t.Kind == types.BuiltIn && t.Text == n.name || t.Decl != nil && t.Decl.Name == n.name:
			for i, a := range n.args {
				if i >= len(t.Args) || !v.matches(a, t.Args[i], s, e) {
					return false
				}
			}
			return true
		case t.Kind == types.Object && n.name == "Record" && len(n.args) == 2:
			o := t.Members()
			var all []*types.Type
			for _, p := range o.Props {
				all = append(all, p.Type())
			}
			for _, ix := range o.Index {
				all = append(all, ix.Value)
			}
			return v.matches(n.args[0], types.Keys(t), s, e) && v.matches(n.args[1], types.UnionOf(all...), s, e)
		}
	}
	return false
}

func (v *evaluator) matchElement(n *node, t *types.Type, s *scope, e **env) bool {
	switch t.Kind {
	case types.Array:
		return v.matches(n, t.Elems[0], s, e)
	case types.Tuple:
		return v.matches(n, types.UnionOf(t.Elems...), s, e)
	}
	return false
}

func (v *evaluator) matchTuple(n *node, t *types.Type, s *scope, e **env) bool {
	if t.Kind != types.Tuple {
		return false
	}
	rest := -1
	for i, el := range n.elems {
		if el.rest {
			rest = i
		}
	}
	fixed := len(n.args)
	if rest >= 0 {
		fixed--
	}
	if len(t.Elems) < fixed || rest < 0 && len(t.Elems) != fixed || t.Rest >= 0 {
		return false
	}
	for i, a := range n.args {
		switch {
		case i == rest:
			end := len(t.Elems) - (len(n.args) - 1 - i)
			part := &types.Type{Kind: types.Tuple, Rest: -1, Elems: t.Elems[i:end], Optional: t.Optional[i:end], Written: "[]"}
			if a.op == nInfer {
				*e = (*e).with(a.name, part)
			} else if !v.matchElement(elementOf(a), types.ListOf(types.UnionOf(part.Elems...), ""), s, e) {
				return false
			}
		case rest >= 0 && i > rest:
			if !v.matches(a, t.Elems[len(t.Elems)-(len(n.args)-i)], s, e) {
				return false
			}
		case !v.matches(a, t.Elems[i], s, e):
			return false
		}
	}
	return true
}

// elementOf is what an array type is of.
func elementOf(n *node) *node {
	if n.op == nArray || n.op == nRef && len(n.args) == 1 {
		return n.args[0]
	}
	return n
}

// matchText matches a text with a template type that names parts of it: each hole takes as little as it can, and one
// character where another follows directly.
func (v *evaluator) matchText(n *node, i int, text string, s *scope, e **env) bool {
	if i == 0 {
		rest, ok := strings.CutPrefix(text, n.parts[0])
		if !ok {
			return false
		}
		text = rest
	}
	if i == len(n.args) {
		return text == ""
	}
	next := n.parts[i+1]
	var part, rest string
	switch {
	case i == len(n.args)-1:
		inner, ok := strings.CutSuffix(text, next)
		if !ok {
			return false
		}
		part = inner
	case next == "":
		if text == "" {
			return false
		}
		_, size := utf8.DecodeRuneInString(text)
		part, rest = text[:size], text[size:]
	default:
		before, after, ok := strings.Cut(text, next)
		if !ok {
			return false
		}
		part, rest = before, after
	}
	if !v.matches(n.args[i], types.Literal(part), s, e) {
		if hole := n.args[i]; hole.op != nInfer || len(hole.args) == 0 {
			return false
		}
		bound := v.of(n.args[i].args[0], s, *e) // infer N extends number
		if !types.Matches(bound, part) {
			return false
		}
		of := types.Literal(part)
		if bound.Kind == types.Number {
			f, _ := parseNumber(part)
			of = types.NumberOf(f)
		}
		*e = (*e).with(n.args[i].name, of)
	}
	if i == len(n.args)-1 {
		return true
	}
	return v.matchText(n, i+1, rest, s, e)
}

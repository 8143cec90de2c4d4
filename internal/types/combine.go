package types

import (
	"slices"
	"strings"
)

// SetMembers says what works out the members of an object type.
func (t *Type) SetMembers(members func() *Members) { t.lazy, t.object = members, nil }

// Intersect is the type of what is of both of two.
func Intersect(a, b *Type) *Type { return intersect(a, b, 0) }

func intersect(a, b *Type, depth int) *Type {
	switch {
	case depth > maxDeep:
		return Lost("types stand inside each other deeper than is followed")
	case a.Kind == Unknown || Same(a, b):
		return b
	case b.Kind == Unknown:
		return a
	case a.Kind == Never || b.Kind == Never:
		return NeverType
	case a.Kind == Any || b.Kind == Any:
		return AnyType
	case a.Kind == Unresolved:
		return a
	case b.Kind == Unresolved:
		return b
	case a.Kind == Union || b.Kind == Union:
		var all []*Type
		for _, x := range a.Each(false) {
			for _, y := range b.Each(false) {
				all = append(all, intersect(x, y, depth+1))
			}
		}
		return UnionOf(all...)
	case a.Kind == Object && b.Kind == Object:
		return both(a, b, depth)
	case fits(a, b, 0):
		return a
	case fits(b, a, 0):
		return b
	}
	if b.Kind != Object && a.Kind == Object {
		a, b = b, a
	}
	if b.Kind != Object || a.Kind == Null || a.Kind == Undefined {
		return NeverType
	}
	switch a.Kind {
	case NonPrimitive:
		return b
	case Array, Tuple, BuiltIn, Function:
		return &Type{Kind: Brand, Elems: []*Type{a, b}, Written: a.String() + " & " + b.String()}
	}
	o := b.Members()
	if !o.Called && !o.Symbols && !slices.ContainsFunc(o.Props, func(p *Prop) bool { return !p.Optional }) {
		return a // nothing that a value would lack
	}
	return &Type{Kind: Brand, Elems: []*Type{a, b}, Written: a.String() + " & " + b.String()}
}

// both is an object type with the members of two. Where a member by which kinds are told apart can be of neither, there
// is no such object.
func both(a, b *Type, depth int) *Type {
	written := a.String() + " & " + b.String()
	merged := func() *Members {
		x, y := a.Members(), b.Members()
		out := &Members{Called: x.Called || y.Called, Symbols: x.Symbols || y.Symbols, Index: slices.Concat(x.Index, y.Index), Lost: x.Lost}
		if out.Lost == "" {
			out.Lost = y.Lost
		}
		for _, p := range x.Props {
			other := y.Prop(p.Name)
			if other == nil {
				out.Props = append(out.Props, p)
				continue
			}
			q := p.With(p.Optional && other.Optional, func() *Type { return intersect(p.Type(), other.Type(), depth+1) })
			if p.How == Plain {
				q.How = other.How
			}
			out.Props = append(out.Props, q)
		}
		for _, p := range y.Props {
			if x.Prop(p.Name) == nil {
				out.Props = append(out.Props, p)
			}
		}
		return out
	}
	for _, p := range a.Members().Props {
		other := b.Members().Prop(p.Name)
		if other == nil || p.Optional && other.Optional {
			continue
		}
		s, t := p.Type(), other.Type()
		if isUnit(s) && isUnit(t) && intersect(s, t, depth+1).Kind == Never {
			return NeverType
		}
	}
	t := Lazy(written, merged)
	return t
}

// isUnit says whether a type is of single values.
func isUnit(t *Type) bool {
	for _, e := range t.Each(true) {
		switch e.Kind {
		case StringLiteral, NumberLiteral, BoolLiteral, BigIntLiteral, Null, Undefined:
		default:
			return false
		}
	}
	return t.Kind != Never
}

// Keys is the type of the names of what a type has.
func Keys(t *Type) *Type {
	switch t.Kind {
	case Any:
		return UnionOf(StringType, NumberType, SymbolType)
	case Unresolved:
		return t
	case Parameter:
		return Lost("what " + t.Text + " stands for is not told")
	case Union: // what all have
		var out *Type
		for _, e := range t.Elems {
			if k := Keys(e); out == nil {
				out = k
			} else {
				out = intersect(out, k, 0)
			}
		}
		return out
	case Array, Tuple:
		return NumberType
	case Brand:
		return UnionOf(Keys(t.Elems[0]), Keys(t.Elems[1]))
	case Object:
		o := t.Members()
		if o.Lost != "" {
			return Lost(o.Lost)
		}
		var all []*Type
		for _, p := range o.Props {
			if p.How == Private {
				continue
			}
			key := Literal(p.Name)
			if n, ok := wholeName(p.Name); ok {
				key = n
			}
			all = append(all, key)
		}
		for _, ix := range o.Index {
			all = append(all, ix.Key)
			if ix.Key.Kind == String {
				all = append(all, NumberType)
			}
		}
		return UnionOf(all...)
	}
	return NeverType
}

// wholeName is the name of a member as the number that it is.
func wholeName(name string) (*Type, bool) {
	if name == "" || strings.Trim(name, "0123456789") != "" || len(name) > 1 && name[0] == '0' || len(name) > 15 {
		return nil, false
	}
	return &Type{Kind: NumberLiteral, Text: name, Written: name}, true
}

// At is the type of what a type has under the names of another: T[K].
func At(t, key *Type) *Type {
	switch {
	case t.Kind == Unresolved:
		return t
	case key.Kind == Unresolved:
		return key
	case t.Kind == Any || t.Kind == Unknown:
		return t
	case t.Kind == Never:
		return NeverType
	case t.Kind == Union:
		var all []*Type
		for _, e := range t.Elems {
			all = append(all, At(e, key))
		}
		return UnionOf(all...)
	case key.Kind == Union || key.Kind == Never:
		var all []*Type
		for _, k := range key.Each(false) {
			all = append(all, At(t, k))
		}
		return UnionOf(all...)
	case t.Kind == Brand:
		if a := At(t.Elems[1], key); a.Kind != Unresolved {
			return a
		}
		return At(t.Elems[0], key)
	}
	name := key.Text
	switch t.Kind {
	case Array:
		if key.Kind == Number || key.Kind == NumberLiteral {
			return t.Elems[0]
		}
		if name == "length" {
			return NumberType
		}
	case Tuple:
		if key.Kind == Number {
			return UnionOf(t.Elems...)
		}
		for i, e := range t.Elems {
			if Digits(float64(i)) == name && i != t.Rest {
				if t.Optional[i] {
					return UnionOf(e, UndefinedType)
				}
				return e
			}
		}
		if t.Rest >= 0 && key.Kind == NumberLiteral {
			return t.Elems[t.Rest]
		}
		if name == "length" {
			if t.Rest < 0 {
				return NumberOf(float64(len(t.Elems)))
			}
			return NumberType
		}
	case Object:
		o := t.Members()
		if p := o.Prop(name); p != nil && (key.Kind == StringLiteral || key.Kind == NumberLiteral) {
			if p.Optional {
				return UnionOf(p.Type(), UndefinedType)
			}
			return p.Type()
		}
		for _, ix := range o.Index {
			if ix.Takes(key) {
				return ix.Value
			}
		}
		if o.Lost != "" {
			return Lost(o.Lost)
		}
	case Parameter:
		return Lost("what " + t.Text + " stands for is not told")
	}
	return Lost(t.String() + " has no " + key.String())
}

// Takes says whether an index signature is for the names of a type.
func (ix Index) Takes(key *Type) bool {
	return fits(key, ix.Key, 0) || ix.Key.Kind == String && (key.Kind == Number || key.Kind == NumberLiteral)
}

// Admits says whether an index signature is for a name.
func (ix Index) Admits(name string) bool {
	switch ix.Key.Kind {
	case Number:
		return numberRound(name)
	case Symbol:
		return false
	}
	return Matches(ix.Key, name)
}

package run

import (
	"vetta/internal/code"
	"vetta/internal/model"
)

// mentions says whether a type names some type parameters.
func mentions(t *model.Type, names []string) (found bool) {
	t.Walk(func(t *model.Type) {
		for _, n := range names {
			found = found || t.Name == n
		}
	})
	return found
}

// unify finds what names in a type stand for where it is the type of a value that is of another one.
func (m *Machine) unify(written *model.Type, actual *Type, names []string, by bindings, u *code.Unit) {
	if written == nil {
		return
	}
	if written.Kind == model.Optional {
		m.unify(written.Args[0], actual.solid(), names, by, u)
		return
	}
	if written.Kind == model.Named && len(written.Args) == 0 {
		for _, n := range names {
			if written.Name == n {
				if old, ok := by[n]; !ok || old == nil && actual != nil {
					by[n] = actual
				} else {
					by[n] = m.lub(old, actual)
				}
				return
			}
		}
	}
	if written.Kind == model.Opaque && len(written.Args) == 2 && actual.is("Function") {
		m.unify(written.Args[1], actual.Yields, names, by, u)
		return
	}
	if actual == nil {
		return
	}
	if alias, of, ok := m.p.alias(written.Name, u); ok && written.Kind == model.Named && alias.Type != nil && alias.Type.Kind == model.Opaque && len(alias.Type.Args) == 2 && actual.is("Function") {
		inner := bindings{}
		m.unify(alias.Type.Args[1], actual.Yields, alias.Generics, inner, of)
		for i, g := range alias.Generics {
			if t, ok := inner[g]; ok && i < len(written.Args) {
				m.unify(written.Args[i], t, names, by, u)
			}
		}
		return
	}
	if written.Kind == model.Named && (written.Name == "Future" || written.Name == "FutureOr") && len(written.Args) == 1 && !actual.is("Future", "FutureOr") {
		m.unify(written.Args[0], actual, names, by, u)
		return
	}
	if actual.is("Future", "FutureOr") && written.Name != actual.Name {
		m.unify(written, actual.arg(0), names, by, u)
		return
	}
	for t := actual; t != nil; {
		if model.SimpleName(written.Name) == t.Name || t.is("List", "Set") && written.Name == "Iterable" {
			for i, a := range written.Args {
				m.unify(a, t.arg(i), names, by, u)
			}
			return
		}
		if t.Class == nil {
			return
		}
		up := m.supersOf(t)
		t = nil
		for _, s := range up {
			if s != nil && (t == nil || model.SimpleName(written.Name) == s.Name) {
				t = s
			}
		}
	}
}

// unifyValue is unify by a value, where a closure says what it yields by its code.
func (m *Machine) unifyValue(written *model.Type, v Value, names []string, by bindings, u *code.Unit) {
	if v.Kind != Fn {
		m.unify(written, v.Static, names, by, u)
		return
	}
	takes := written
	if alias, _, ok := m.p.alias(written.Unwrapped().Name, u); ok && alias.Type != nil {
		takes = alias.Type
	}
	c := v.Ref.(*Closure)
	var args []*Type
	if takes = takes.Unwrapped(); takes.Kind == model.Opaque && len(takes.Args) == 2 {
		for _, a := range takes.Args[0].Args {
			t, _ := m.resolved(a, u, by, 0)
			args = append(args, t)
		}
	}
	sig := &Type{Name: "Function", Args: args, Yields: m.yieldOf(c, args)}
	m.unify(written, sig, names, by, u)
}

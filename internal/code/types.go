package code

import (
	"slices"
	"strings"

	"vetta/internal/model"
)

// bindings are the types that names stand for: type parameters, and parameters that are handed a type,
// which are named for what handed says.
type bindings map[string]*model.Type

// handed is the name under which a parameter stands in a type where its argument names that.
func handed(param string) string { return "argument " + param }

// names are those in a type that stand for others, of some that may.
func names(t *model.Type, free []string) (found []string) {
	t.Walk(func(t *model.Type) {
		if t.Model != nil {
			return
		}
		name, _, _ := strings.Cut(t.Name, ".")
		if slices.Contains(free, name) && !slices.Contains(found, name) {
			found = append(found, name)
		}
	})
	return found
}

// unify finds what names in a pattern stand for where it is the type of a value that is of another type.
// What only holds the value, a result or a publisher, is taken off where the other is without it.
func unify(pattern, actual *model.Type, free []string, out bindings) bool {
	if pattern == nil || actual == nil {
		return false
	}
	pattern, actual = pattern.Unwrapped(), actual.Unwrapped()
	if pattern.Name == Erased {
		return unify(pattern.Args[0], actual, free, out)
	}
	if actual != Nothing && pattern.Model == nil && len(pattern.Args) == 0 && slices.Contains(free, pattern.Name) {
		if out[pattern.Name] == nil {
			out[pattern.Name] = actual
		}
		return true
	}
	if same(pattern, actual) {
		found := false
		for i := range pattern.Args {
			found = unify(pattern.Args[i], actual.Args[i], free, out) || found
		}
		return found
	}
	switch {
	case actual == Nothing:
		return false
	case pattern.Kind == model.Named && actual.Kind == model.Named && model.SimpleName(pattern.Name) == model.SimpleName(actual.Name): // whose arguments are not written
		return false
	case pattern.Kind == model.Opaque || actual.Kind == model.Opaque:
		return false
	case holds(pattern):
		return unify(pattern.Args[0], actual, free, out)
	case holds(actual):
		return unify(pattern, actual.Args[0], free, out)
	}
	return false
}

// unifyKind is unify of a value that may also be of a class that extends the one in the pattern: a GetPorts, which is a
// Request<Port[]>.
func (p *Program) unifyKind(pattern, actual *model.Type, free []string, out bindings, depth int) bool {
	if unify(pattern, actual, free, out) {
		return true
	}
	if pattern == nil || actual == nil || depth > maxWay || pattern.Unwrapped().Kind != model.Named || actual.Unwrapped().Kind != model.Named {
		return false
	}
	of := actual.Unwrapped()
	own := bindings{}
	for i, name := range p.GenericsOf(model.SimpleName(of.Name)) {
		if i < len(of.Args) {
			own[name] = of.Args[i]
		}
	}
	for _, part := range p.Classes[model.SimpleName(of.Name)] {
		for _, super := range part.Supers {
			if model.SimpleName(super.Name) != model.SimpleName(of.Name) && p.unifyKind(pattern, p.bind(super, own), free, out, depth+1) {
				return true
			}
		}
	}
	return false
}

func same(a, b *model.Type) bool {
	return a.Kind == b.Kind && len(a.Args) == len(b.Args) && (a.Kind != model.Named || (a.Model == b.Model || a.Model == nil || b.Model == nil) && model.SimpleName(a.Name) == model.SimpleName(b.Name))
}

// holds says whether a type is a library's that holds a value of its first argument: Result<Port, Error>.
func holds(t *model.Type) bool {
	return t.Kind == model.Named && t.Model == nil && len(t.Args) > 0 && t.Name != Erased
}

// Erased is the name of a type that is known at run time by its class alone: T::class.java of a List<Port>
// is List.
const Erased = "the class of"

// erase is a type with what is left of those that are known by their class alone.
func erase(t *model.Type) *model.Type {
	if t.Name == Erased {
		of := *erase(t.Args[0])
		switch {
		case of.Kind == model.Named:
			of.Args = nil
		case of.Kind == model.List && of.Name != "": // an array, whose class says what it is of
		default:
			of.Args = nil
			for range t.Args[0].Args {
				of.Args = append(of.Args, &model.Type{Kind: model.Named, Name: "Object"})
			}
		}
		return &of
	}
	r := *t
	r.Args = make([]*model.Type, len(t.Args))
	for i, a := range t.Args {
		r.Args[i] = erase(a)
	}
	return &r
}

// held is a type without what only holds the value.
func held(t *model.Type) *model.Type {
	for {
		t = t.Unwrapped()
		if !holds(t) {
			return t
		}
		t = t.Args[0]
	}
}

// Nothing is the type of what a function does not say that it takes or yields.
var Nothing = &model.Type{Kind: model.Opaque, Name: "nothing"}

// FunctionType is the type of a function that takes and yields some types, nil for what is not said.
func FunctionType(takes []*model.Type, yields *model.Type) *model.Type {
	if yields == nil {
		yields = Nothing
	}
	return &model.Type{Kind: model.Opaque, Name: "function", Args: []*model.Type{{Kind: model.Tuple, Args: takes}, yields}}
}

// Alias is another name for a type.
type Alias struct {
	Generics []string
	Type     *model.Type
}

// expand is the type of a function that an alias names, or the type as it is.
func (p *Program) expand(t *model.Type) *model.Type {
	if t == nil || t.Model != nil {
		return t
	}
	a, ok := p.Aliases[model.SimpleName(t.Unwrapped().Name)]
	if !ok || a.Type == nil || a.Type.Kind != model.Opaque {
		return t
	}
	by := bindings{}
	for i, name := range a.Generics {
		if args := t.Unwrapped().Args; i < len(args) {
			by[name] = args[i]
		}
	}
	return p.bind(a.Type, by)
}

// bind puts what names stand for into a type. R.Response is the type that the class which R stands for
// gives that name.
func (p *Program) bind(t *model.Type, by bindings) *model.Type {
	if t.Model == nil {
		if bound := by[t.Name]; bound != nil && len(t.Args) == 0 {
			return bound
		}
		if name, member, ok := strings.Cut(t.Name, "."); ok && by[name] != nil {
			if found := p.member(by[name], member); found != nil {
				return found
			}
		}
	}
	if len(t.Args) == 0 {
		return t
	}
	r := *t
	r.Args = make([]*model.Type, len(t.Args))
	for i, a := range t.Args {
		r.Args[i] = p.bind(a, by)
	}
	return &r
}

// member is the type that a class gives a name to, nil where it gives none.
func (p *Program) member(of *model.Type, name string) *model.Type {
	if i := slices.Index(p.GenericsOf(model.SimpleName(of.Name)), name); i >= 0 && i < len(of.Args) {
		return of.Args[i]
	}
	for _, c := range p.Classes[model.SimpleName(of.Name)] {
		if t := c.Types[name]; t != nil {
			return t
		}
		for _, super := range c.Supers { // Request<Port>, by the parameter of the interface
			if i := slices.Index(p.GenericsOf(model.SimpleName(super.Name)), name); i >= 0 && i < len(super.Args) {
				return super.Args[i]
			}
		}
	}
	return nil
}

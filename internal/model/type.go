package model

import "strings"

// TypeKind is how a type is put together.
type TypeKind uint8

// The kinds of type. Lists, sets, maps and optionals have their element types in
// Args.
const (
	Named    TypeKind = iota // a model, or a type that only the library knows
	Param                    // a type parameter of the enclosing model
	Optional                 // Args[0] or nothing
	List                     // of Args[0]
	Unique                   // of Args[0], each once
	Map                      // from Args[0] to Args[1]
	Tuple                    // Args in order
	Opaque                   // anything that is not data: a function type, say
)

// Type is a declared type, with nullability at every level.
type Type struct {
	Kind TypeKind
	// Linked says that what its names mean has been looked up.
	Linked bool
	Name   string  // of a Named or Param; of an Opaque, what was written
	Args   []*Type // element types, or what generic parameters are bound to
	Model  *Model  // of a Named one, where the source declares it
	// Class is the class of a List, Unique or Map, where it is another than the
	// language's usual one.
	Class string
	Pos   Pos
	// Exact is what the type is where its kind and arguments do not tell, which only its language knows; nil where they
	// do.
	Exact any
}

// OptionalOf is the type that also admits nothing.
func OptionalOf(t *Type) *Type { return &Type{Kind: Optional, Args: []*Type{t}, Pos: t.Pos} }

// Unwrapped is the type without its outermost optionals.
func (t *Type) Unwrapped() *Type {
	for t.Kind == Optional {
		t = t.Args[0]
	}
	return t
}

// Key tells types apart: two types have the same key if and only if they decode
// alike.
func (t *Type) Key() string {
	var b strings.Builder
	t.writeKey(&b)
	return b.String()
}

func (t *Type) writeKey(b *strings.Builder) {
	b.WriteByte("NPOLSMT!"[t.Kind])
	b.WriteString(t.Name)
	b.WriteString(t.Class)
	if t.Model != nil {
		b.WriteString("@" + t.Model.Pos.String())
	}
	if len(t.Args) > 0 {
		b.WriteByte('<')
		for _, a := range t.Args {
			a.writeKey(b)
			b.WriteByte(',')
		}
		b.WriteByte('>')
	}
}

// Growth watches over types that come of classes which hold themselves with arguments that grow at
// each step, as class A<T> { A<List<T>> next; } does: there is no end to them.
type Growth struct {
	wide int // types met so far that hold more than usualNames
}

// What is written by hand stays far below these: how many names a type holds, how many types of
// more than the usual number there are in what one type leads to, and how many one of them holds.
const (
	usualNames = 8
	maxWide    = 64
	maxNames   = 24
)

// Endless says whether t, met for the first time, must be one of those types.
func (g *Growth) Endless(t *Type) bool {
	n := t.names(maxNames + 1)
	if n > usualNames {
		g.wide++
	}
	return n > maxNames || n > usualNames && g.wide > maxWide
}

// names counts the types in a type, up to a limit.
func (t *Type) names(limit int) int {
	n := 1
	for _, a := range t.Args {
		if n >= limit {
			break
		}
		n += a.names(limit - n)
	}
	return n
}

// Bind replaces type parameters by what env binds them to.
func (t *Type) Bind(env map[string]*Type) *Type {
	if t == nil || len(env) == 0 {
		return t
	}
	if t.Kind == Param {
		if bound := env[t.Name]; bound != nil {
			return bound
		}
		return t
	}
	if len(t.Args) == 0 {
		return t
	}
	bound := *t
	bound.Args = make([]*Type, len(t.Args))
	for i, a := range t.Args {
		bound.Args[i] = a.Bind(env)
	}
	return &bound
}

// Env binds the parameters of the model that t names to t's arguments.
func (t *Type) Env() map[string]*Type {
	if t.Model == nil || len(t.Model.Params) == 0 {
		return nil
	}
	env := map[string]*Type{}
	for i, p := range t.Model.Params {
		if i < len(t.Args) {
			env[p] = t.Args[i]
		}
	}
	return env
}

// Walk calls visit for t and every type within it.
func (t *Type) Walk(visit func(*Type)) {
	if t == nil {
		return
	}
	visit(t)
	for _, a := range t.Args {
		a.Walk(visit)
	}
}

// Written is a type with arguments in angle brackets, a question mark behind what may be nothing, and
// collections by the names of their classes.
func (t *Type) Written() string {
	var args []string
	for _, a := range t.Args {
		args = append(args, a.Written())
	}
	name := t.Name
	if t.Class != "" {
		return t.Class + "<" + strings.Join(args, ", ") + ">"
	}
	switch t.Kind {
	case Optional:
		return args[0] + "?"
	case List:
		switch {
		case strings.HasPrefix(name, "["): // of several dimensions too
			return args[0] + name
		case name == "":
			name = "List"
		case name != "Array":
			return name
		}
	case Tuple:
		if name == "" {
			return "(" + strings.Join(args, ", ") + ")"
		}
	case Unique:
		name = "Set"
	case Map:
		name = "Map"
	}
	if len(args) == 0 {
		return name
	}
	return name + "<" + strings.Join(args, ", ") + ">"
}

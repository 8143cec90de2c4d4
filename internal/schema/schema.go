package schema

import (
	"slices"

	"vetta/internal/model"
	"vetta/internal/types"
	"vetta/internal/wire"
)

// Issue is what a validator complains of.
type Issue struct {
	At      []wire.Step
	Code    string
	Message string
}

// Run is the state of holding a value to a schema.
type Run struct {
	Issues  []Issue
	Unknown bool // it was come to what is not followed
	Major   int  // of the library's version, 0 for the one that its rules are of
	depth   int
}

// maxDeep is how far schemas that hold themselves are gone into.
const maxDeep = 500

// Issue notes a complaint at a place.
func (r *Run) Issue(at []wire.Step, code, message string) {
	r.Issues = append(r.Issues, Issue{slices.Clone(at), code, message})
}

// Schema is what a value is held to.
type Schema struct {
	// Check is what the library does with a value; it answers what the app gets.
	Check func(r *Run, v Value, at []wire.Step) Value
	// In is the type of what is let through as it is sent, Out that of what the app gets.
	In, Out *types.Type
	// Optional says that the key of an object may be absent.
	Optional bool
	// Kind tells schemas apart that others are made of: object, array, enum, literal.
	Kind string
	Keys []Key    // of an object
	Rest *Schema  // of an object, what other keys are held to; nil where they are left out
	Of   *Schema  // of what wraps another, that
	All  []Value  // of an enum or a literal, the values
	Sub  []Schema // of a union
	// Teller is the key of an object by whose value the options of a union are told apart, "" where it is all of an option.
	Teller string
	// Checks are asked of what Base has let through, of a schema that has some.
	Base   func(r *Run, v Value, at []wire.Step) Value
	Checks []func(r *Run, v Value, at []wire.Step)
	Mode   string // of an object, what the library does with other keys
	// Default is what the app gets where a key is absent, nil where it gets nothing.
	Default *Value
	Lost    string // why it is not followed, "" where it is
	// List is the schema of a list of it, as its library makes one; nil where that is not known.
	List func() *Schema
	// Major is that of the library's version that holds to it, of the schema that an expression is; 0 for the one that
	// the rules are of.
	Major int
}

// Key is a key of an object schema.
type Key struct {
	Name  string
	Of    *Schema
	Field *model.Field // of the model that the schema is
}

// Do holds a value to a schema.
func (s *Schema) Do(r *Run, v Value, at []wire.Step) Value {
	r.depth++
	defer func() { r.depth-- }()
	if s.Lost != "" || s.Check == nil || r.depth > maxDeep {
		r.Unknown = true
		return Value{Kind: Other}
	}
	return s.Check(r, v, at)
}

// Lost is a schema that is not followed.
func Lost(why string) *Schema {
	t := types.Lost(why)
	return &Schema{Lost: why, In: t, Out: t}
}

// Under is a schema that is being made, so that it may be part of itself.
func Under() *Schema {
	s := Lost("a schema that holds itself")
	s.Out = types.Lost(s.Lost)
	return s
}

// Is makes a schema that was under way what it has become.
func (s *Schema) Is(made *Schema) {
	if s == made {
		return
	}
	in, out := s.In, s.Out
	*s = *made
	if made.In != in {
		in.Become(made.In)
	}
	if made.Out != out && made.Out != in {
		out.Become(made.Out)
	}
}

// Called notes the name of the value that a schema of objects is, for its types.
func (s *Schema) Called(name string) *Schema {
	if s.Kind == "object" && s.Out.Label == "" {
		s.Out.Label, s.In.Label = name, name
		s.Out.Written, s.In.Written = name, name
	}
	return s
}

// ListOf is the schema of a list with elements of another; refuse is what the library does with what is none.
func ListOf(of *Schema, refuse func(r *Run, v Value, at []wire.Step) Value) *Schema {
	return &Schema{Kind: "array", Of: of, In: types.ListOf(of.In, of.In.String()+"[]"), Out: types.ListOf(of.Out, of.Out.String()+"[]"), Check: func(r *Run, v Value, at []wire.Step) Value {
		if v.Kind != Array {
			return refuse(r, v, at)
		}
		out := Value{Kind: Array, Elems: make([]Value, len(v.Elems))}
		for i, e := range v.Elems {
			out.Elems[i] = of.Do(r, e, append(at, wire.Step{Index: i}))
		}
		return out
	}}
}

// WithLists is a schema of which lists may be made, by its library's own way.
func (s *Schema) WithLists(list func(of *Schema) *Schema) *Schema {
	own := *s
	own.List = func() *Schema {
		made := list(&own).WithLists(list)
		made.Major = own.Major
		return made
	}
	return &own
}

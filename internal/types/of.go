package types

import (
	"strings"

	"vetta/internal/model"
)

// Of is a type as all languages have it as TypeScript has it: Exact where it says that, else by its kind.
func Of(t *model.Type) *Type {
	args := make([]*Type, len(t.Args))
	given := func() []*Type {
		for i, a := range t.Args {
			args[i] = Of(a)
		}
		return args
	}
	if late, ok := t.Exact.(*Late); ok {
		return late.Of(given())
	}
	switch t.Kind {
	case model.Optional:
		return UnionOf(Of(t.Args[0]), NullType)
	case model.List:
		elem := Of(t.Args[0])
		return ListOf(elem, elem.String()+"[]")
	case model.Map:
		key, value := Of(t.Args[0]), Of(t.Args[1])
		return Lazy("Record<"+key.String()+", "+value.String()+">", func() *Members {
			return &Members{Index: []Index{{Key: key, Value: value}}}
		})
	case model.Named:
		if t.Model != nil {
			if d, ok := t.Model.Source.(*Decl); ok {
				return d.Of(given())
			}
		}
		switch t.Name {
		case "any":
			return AnyType
		case "unknown":
			return UnknownType
		case "string":
			return StringType
		case "number":
			return NumberType
		case "boolean":
			return BooleanType
		case "null":
			return NullType
		case "Array", "ReadonlyArray":
			if len(t.Args) == 1 {
				elem := Of(t.Args[0])
				return ListOf(elem, elem.String()+"[]")
			}
		}
	}
	return Lost("the type " + t.Name + " is not in the source")
}

// Written is a type as all languages have it as TypeScript writes it.
func Written(t *model.Type) string {
	args := func() string {
		out := make([]string, len(t.Args))
		for i, a := range t.Args {
			out[i] = Written(a)
		}
		return strings.Join(out, ", ")
	}
	switch t.Kind {
	case model.Optional:
		return Written(t.Args[0]) + " | null"
	case model.List:
		if inner := t.Args[0]; inner.Kind == model.Optional || inner.Kind == model.Opaque {
			return "(" + Written(inner) + ")[]"
		}
		return Written(t.Args[0]) + "[]"
	case model.Map:
		return "Record<" + args() + ">"
	case model.Named:
		if len(t.Args) > 0 {
			return t.Name + "<" + args() + ">"
		}
	}
	return t.Name
}

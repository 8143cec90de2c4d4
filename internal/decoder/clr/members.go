package clr

import (
	"slices"

	"vetta/internal/decoder"
	"vetta/internal/model"
)

// Parameterless is the constructor of a class without parameters, nil where it declares none.
func Parameterless(t *model.Type) *model.Method {
	if t.Model == nil {
		return nil
	}
	for _, m := range t.Model.Ctors {
		if len(m.Params) == 0 {
			return m
		}
	}
	return nil
}

// Backing is the name of the field that holds the value of a member: the member's own, but for a property over a field.
func Backing(t *model.Type, member string) string {
	if t.Model == nil {
		return member
	}
	for _, s := range Chain(t) {
		for _, f := range s.Model.Fields {
			if f.Name == member && f.Property != nil && !f.Property.Stored && f.Property.Backs != "" {
				return f.Property.Backs
			}
		}
	}
	return member
}

// HoldsUnknown says whether a value, or one in it, is not followed.
func HoldsUnknown(s decoder.Seen) bool {
	return s.Kind == decoder.SeenUnknown || slices.ContainsFunc(s.Elems, HoldsUnknown)
}

package typescript

import (
	"slices"
	"strings"

	"vetta/internal/types"
)

// memberOfEnum is what stands behind the name of an enum in a qualified name.
func memberOfEnum(name, enum string) (string, bool) {
	parts := strings.Split(name, ".")
	if len(parts) > 1 && parts[len(parts)-2] == enum {
		return parts[len(parts)-1], true
	}
	return "", false
}

// enum is the type of an enum: one of its constants, or any number where one of them is computed.
func (v *evaluator) enum(parts []*decl) *types.Type {
	d := v.define(parts)
	var all []*types.Type
	for _, part := range parts {
		if part.what != isEnum {
			continue
		}
		for _, c := range v.constants(part) {
			if c.typ.Kind == types.EnumNumber {
				all = append(all, &types.Type{Kind: types.EnumNumber, Enum: true, Written: part.name})
				continue
			}
			all = append(all, c.typ)
		}
	}
	if slices.ContainsFunc(all, func(t *types.Type) bool { return t.Kind == types.EnumNumber }) {
		all = slices.DeleteFunc(all, func(t *types.Type) bool { return t.Kind == types.NumberLiteral })
	}
	t := types.UnionOf(all...)
	return t.Named(parts[0].name, d.decl, nil)
}

func (v *evaluator) enumMember(parts []*decl, name string) *types.Type {
	for _, part := range parts {
		if part.what != isEnum {
			continue
		}
		for _, c := range v.constants(part) {
			if c.name == name {
				return c.typ
			}
		}
	}
	return types.Lost("the enum " + parts[0].name + " has no " + name)
}

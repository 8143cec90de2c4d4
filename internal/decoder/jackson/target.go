package jackson

import (
	"strings"

	"vetta/internal/model"
)

// target is the field that a property ends up in, with the type that is read for it.
func (c *compiler) target(p *property, t *model.Type, fields []*model.Field, owners []*model.Type) (target *model.Field, typ, owner *model.Type) {
	find := func(name string) *model.Field {
		for i := len(fields) - 1; i >= 0; i-- {
			if fields[i].Name == name {
				owner = owners[i]
				return fields[i]
			}
		}
		return nil
	}
	if p.field != nil {
		target, owner = p.field.field, p.field.owner
	}
	switch {
	case p.param != nil:
		typ = p.param.param.Type
		if p.param.param.fills != "" {
			target = find(p.param.param.fills)
		} else if c.isView(t.Model) { // a parameter that is no property may be handed anywhere
			target = nil
		} else if target == nil {
			for _, name := range []string{p.implicit, p.param.param.Name, p.name} {
				if target == nil {
					target = find(name)
				}
			}
			if target == nil && p.setter != nil {
				target = fieldOf(p.setter.method, "set", p.implicit, find)
			}
		}
		if owner == nil {
			owner = t
		}
	case p.setter != nil:
		typ = p.setter.method.Params[0].Type
		if own := find(p.setter.method.Sets); own != nil {
			target = own
		} else if own := acronymField(strings.TrimPrefix(p.setter.method.Name, "set"), find); own != nil {
			target = own
		}
		if target == nil {
			target = fieldOf(p.setter.method, "set", p.implicit, find)
		}
		if target == nil {
			target = foldedField(p.setter.method, "set", fields)
		}
		owner = p.setter.owner
	case p.field != nil:
		typ = p.field.field.Type
	case p.getter != nil:
		typ = p.getter.method.Returns
		target = fieldOf(p.getter.method, "get", p.implicit, find)
		owner = p.getter.owner
	}
	return target, typ, owner
}

// fieldOf is the field that a getter or setter is for: that of the property's name, or
// the one that is left of the method's name, or of its parameter.
func fieldOf(m *model.Method, prefix, implicit string, find func(string) *model.Field) *model.Field {
	rest := strings.TrimPrefix(m.Name, prefix)
	if f := acronymField(rest, find); f != nil {
		return f
	}
	if f := find(implicit); f != nil {
		return f
	}
	names := []string{rest, strings.ToLower(rest[:min(1, len(rest))]) + rest[min(1, len(rest)):], "is" + rest}
	for _, p := range m.Params {
		names = append(names, p.Name)
	}
	for _, name := range names {
		if f := find(name); f != nil {
			return f
		}
	}
	return nil
}

// acronymField is the field that a method is called after where its name begins with
// capitals: setID sets ID, though the property is id.
func acronymField(rest string, find func(string) *model.Field) *model.Field {
	if len(rest) > 1 && rest[0] >= 'A' && rest[0] <= 'Z' && rest[1] >= 'A' && rest[1] <= 'Z' {
		return find(rest)
	}
	return nil
}

// foldedField is the field of a setter's or getter's name in other capitals: setUrl sets
// URL, where no field is called url.
func foldedField(m *model.Method, prefix string, fields []*model.Field) *model.Field {
	for _, f := range fields {
		if strings.EqualFold(f.Name, strings.TrimPrefix(m.Name, prefix)) {
			return f
		}
	}
	return nil
}

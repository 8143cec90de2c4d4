package sharp

import (
	"strings"

	"vetta/internal/code"
	"vetta/internal/model"
)

// matches says whether a value is as a pattern; what the pattern names is known behind it.
func (m *Machine) matches(p *code.Expr, v Value, f *frame, e *env) (bool, error) {
	switch {
	case p.Op == code.Bind:
		if p.Type != nil {
			t := m.typ(p.Type, f)
			is, err := m.isOf(v, t, p)
			if err != nil || !is {
				return false, err
			}
		}
		if p.Text != "" {
			own := v
			e.names[p.Text] = &own
		}
		return true, nil
	case p.Op == code.Binary && p.Text == "when":
		yes, err := m.matches(p.Args[0], v, f, e)
		if err != nil || !yes {
			return false, err
		}
		return m.truth(p.Args[1], f, e)
	case p.Op == code.Binary && p.Text == "and":
		yes, err := m.matches(p.Args[0], v, f, e)
		if err != nil || !yes {
			return false, err
		}
		return m.matches(p.Args[1], v, f, e)
	case p.Op == code.Binary && p.Text == "or":
		yes, err := m.matches(p.Args[0], v, f, e)
		if err != nil || yes {
			return yes, err
		}
		return m.matches(p.Args[1], v, f, e)
	case p.Op == code.Unary && p.Text == "not":
		yes, err := m.matches(p.Args[0], v, f, e)
		return !yes, err
	case p.Op == code.Unary && (p.Text == "<" || p.Text == ">" || p.Text == "<=" || p.Text == ">="):
		by, err := m.expr(p.Args[0], f, e, nil)
		if err != nil {
			return false, err
		}
		if _, ok := v.number(); !ok && v.Kind != Plain {
			return false, nil
		}
		out, err := m.operate(p.Text, v, by, p)
		return out.isTrue(), err
	case p.Op == code.Record:
		return m.matchesParts(p, v, f, e)
	case p.Op == code.List:
		return m.matchesList(p, v, f, e)
	case (p.Op == code.Name || p.Op == code.Member) && p.Type != nil: // a type, or a constant
		if t := m.typ(p.Type, f); t.Model != nil || isPlatformType(t) {
			if _, shadowed := m.constantNamed(p, f, e); !shadowed {
				return m.isOf(v, t, p)
			}
		}
	}
	want, err := m.expr(p, f, e, nil)
	if err != nil {
		return false, err
	}
	if err := comparable(v, want, p); err != nil {
		return false, err
	}
	if (v.Kind == Int || v.Kind == Float || v.Kind == Decimal) && (want.Kind == Int || want.Kind == Float || want.Kind == Decimal) && v.Of != want.Of && want.Kind != Int {
		return false, nil
	}
	return same(v, want), nil
}

// isPlatformType says whether a name is one of a type that patterns ask for.
func isPlatformType(t *model.Type) bool {
	if t.Kind != model.Named {
		return true
	}
	switch t.Name {
	case "JsonObject", "JsonArray", "JsonValue", "JsonNode", "JsonElement", "JObject", "JArray", "JValue", "JToken", "JProperty", "DateTime", "Guid", "String":
		return true
	}
	return predefined[t.Name] || strings.HasSuffix(t.Name, "Exception")
}

// constantNamed is what a pattern names that is a constant: a member of a class, or of an enum.
func (m *Machine) constantNamed(p *code.Expr, f *frame, e *env) (Value, bool) {
	if p.Op == code.Name {
		if e.find(p.Text) != nil {
			return Value{}, true
		}
		v, known, err := m.member(p.Text, f)
		return v, known && err == nil
	}
	if of := m.typeCalled(p.Args[0], f); of != nil {
		if t := of.Ref.(*typed); t.d == nil && t.t != nil && wordsOf[t.t.Name] {
			return word(t.t.Name, p.Text), true
		}
		v, known, err := m.staticMember(*of, p.Text, f)
		return v, known && err == nil
	}
	return Value{}, false
}

// matchesParts matches { Name: pattern } and (pattern, pattern).
func (m *Machine) matchesParts(p *code.Expr, v Value, f *frame, e *env) (bool, error) {
	if v.IsNull() {
		return false, nil
	}
	if p.Type != nil {
		is, err := m.isOf(v, m.typ(p.Type, f), p)
		if err != nil || !is {
			return false, err
		}
	}
	for i, part := range p.Args {
		label := ""
		if i < len(p.Labels) {
			label = p.Labels[i]
		}
		var of Value
		if label == "" {
			switch {
			case v.Kind == Tuple && i < len(v.list().items):
				of = v.list().items[i]
			case v.Kind == Instance && i < len(v.object().Order):
				of = *v.object().Fields[v.object().Order[i]]
			default:
				return false, unfollowed("a pattern", p.Pos)
			}
		} else {
			of = v
			for _, name := range strings.Split(label, ".") {
				if of.IsNull() {
					return false, nil
				}
				var known bool
				var err error
				if of, known, err = m.memberOf(of, name, &code.Expr{Op: code.Member, Text: name, Pos: p.Pos}, f); err != nil {
					return false, err
				} else if !known {
					return false, unfollowed("the member "+name, p.Pos)
				}
			}
		}
		yes, err := m.matches(part, of, f, e)
		if err != nil || !yes {
			return false, err
		}
	}
	return true, nil
}

func (m *Machine) matchesList(p *code.Expr, v Value, f *frame, e *env) (bool, error) {
	if v.IsNull() {
		return false, nil
	}
	items, err := m.each(v, p.Pos)
	if err != nil {
		return false, err
	}
	rest := -1
	for i, part := range p.Args {
		if part.Op == code.Spread {
			rest = i
		}
	}
	if rest < 0 && len(items) != len(p.Args) || rest >= 0 && len(items) < len(p.Args)-1 {
		return false, nil
	}
	for i, part := range p.Args {
		at := i
		if rest >= 0 && i > rest {
			at = len(items) - (len(p.Args) - i)
		}
		if part.Op == code.Spread {
			if len(part.Args) == 1 {
				yes, err := m.matches(part.Args[0], listOf(items[i:len(items)-(len(p.Args)-1-i)]), f, e)
				if err != nil || !yes {
					return false, err
				}
			}
			continue
		}
		yes, err := m.matches(part, items[at], f, e)
		if err != nil || !yes {
			return false, err
		}
	}
	return true, nil
}

// apart gives the names of a pattern the parts of a value: of a tuple, a pair, a record.
func (m *Machine) apart(p *code.Expr, v Value, f *frame, e *env) (Value, error) {
	var parts []Value
	switch {
	case v.Kind == Tuple:
		parts = v.list().items
	case v.Kind == Instance:
		for _, name := range v.object().Order {
			parts = append(parts, *v.object().Fields[name])
		}
	case v.Kind == Host:
		names := []string{"Key", "Value"}
		if n, ok := v.Ref.(*node); ok && n.prop {
			names[0] = "Name"
		}
		for _, name := range names {
			part, known, err := m.memberOf(v, name, p, f)
			if err != nil {
				return v, err
			}
			if known {
				parts = append(parts, part)
			}
		}
	}
	if len(parts) < len(p.Args) {
		return v, unfollowed("a value that is taken apart", p.Pos)
	}
	for i, a := range p.Args {
		own := parts[i]
		switch {
		case a.Op == code.Bind && a.Text != "":
			e.names[a.Text] = &own
		case a.Op == code.Name && a.Text != "_":
			if _, err := m.give(a, own, f, e); err != nil {
				return v, err
			}
		case a.Op == code.Record:
			if _, err := m.apart(a, own, f, e); err != nil {
				return v, err
			}
		}
	}
	return v, nil
}

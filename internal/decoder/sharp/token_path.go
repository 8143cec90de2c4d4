package sharp

import (
	"strconv"
	"strings"

	"vetta/internal/model"
	"vetta/internal/wire"
)

// descend appends all that is inside a token, in order: properties of an object and their values, elements.
func (n *node) descend(m *Machine, out *[]Value) error {
	items, err := n.items(m)
	if err != nil {
		return err
	}
	for _, v := range items {
		*out = append(*out, v)
		inner := v.Ref.(*node)
		if inner.prop {
			value := tokenOf(inner.v)
			*out = append(*out, value)
			inner = value.Ref.(*node)
		}
		if inner.v.Kind >= wire.Array {
			if err := inner.descend(m, out); err != nil {
				return err
			}
		}
	}
	return nil
}

// selected is SelectToken, or SelectTokens, with a path of names, numbers, * and .. and no filters.
func (n *node) selected(m *Machine, args []Value, all bool) (Value, bool, error) {
	if len(args) == 0 || args[0].Kind != String {
		return Value{}, false, nil
	}
	strict := len(args) > 1 && args[1].isTrue()
	steps, ok := pathSteps(args[0].Text)
	if !ok {
		return Value{}, false, nil
	}
	found := []*wire.Value{n.v}
	for _, s := range steps {
		var next []*wire.Value
		for _, v := range found {
			m.note(v)
			switch {
			case s.index >= 0:
				m.asksElements(v, false)
			case !s.every && !s.deep:
				m.asksName(v, s.name)
			}
			s.from(v, &next)
		}
		if found = next; len(found) == 0 && strict {
			return Value{}, true, m.throw("JsonException", "Property '"+s.name+"' does not exist on JObject.")
		}
	}
	if all {
		l := &list{}
		for _, v := range found {
			l.items = append(l.items, tokenOf(v))
		}
		return Value{Kind: Items, Ref: l}, true, nil
	}
	switch len(found) {
	case 0:
		return Value{}, true, nil
	case 1:
		return tokenOf(found[0]), true, nil
	}
	return Value{}, true, m.throw("JsonException", "Path returned multiple tokens.")
}

// pathStep is a step of a path: a name, an index, all that is inside, and any of these at any depth.
type pathStep struct {
	name  string
	index int // -1 for none
	every bool
	deep  bool
}

// pathSteps takes a path apart; ok is false where it has what is not followed, filters and slices.
func pathSteps(path string) (steps []pathStep, ok bool) {
	rest := strings.TrimPrefix(path, "$")
	for rest != "" {
		s := pathStep{index: -1}
		switch {
		case strings.HasPrefix(rest, ".."):
			s.deep = true
			rest = rest[2:]
		case rest[0] == '.':
			rest = rest[1:]
		}
		switch {
		case rest == "":
			return nil, false
		case rest[0] == '[':
			end := strings.IndexByte(rest, ']')
			if end < 0 {
				return nil, false
			}
			key := rest[1:end]
			rest = rest[end+1:]
			if len(key) > 1 && (key[0] == '\'' || key[0] == '"') && key[len(key)-1] == key[0] {
				s.name = key[1 : len(key)-1]
				break
			}
			if s.every = key == "*"; s.every {
				break
			}
			i, err := strconv.Atoi(key)
			if err != nil || i < 0 {
				return nil, false
			}
			s.index = i
		default:
			end := strings.IndexAny(rest, ".[")
			if end < 0 {
				end = len(rest)
			}
			s.name, rest = rest[:end], rest[end:]
			if strings.ContainsAny(s.name, "?@()") {
				return nil, false
			}
			s.every = s.name == "*"
		}
		steps = append(steps, s)
	}
	return steps, true
}

// from appends what the step leads to from a value.
func (s *pathStep) from(v *wire.Value, out *[]*wire.Value) {
	switch v.Kind {
	case wire.Object:
		for _, mem := range lastOfNames(v) {
			if s.every || s.index < 0 && mem.Name == s.name {
				*out = append(*out, mem.Value)
			}
			if s.deep {
				s.from(mem.Value, out)
			}
		}
	case wire.Array:
		for i, e := range v.Elems {
			if s.every || i == s.index {
				*out = append(*out, e)
			}
			if s.deep {
				s.from(e, out)
			}
		}
	}
}

// tokenValues is Values<T> of a sequence of tokens: each value as T, and of a list its elements.
func (m *Machine) tokenValues(items []Value, t *model.Type) (Value, bool, error) {
	l := &list{}
	for _, v := range items {
		if v.IsNull() {
			l.items = append(l.items, m.zero(t))
			continue
		}
		n, ok := v.Ref.(*node)
		if !ok || !n.token || n.prop {
			return Value{}, false, nil
		}
		each := []Value{v}
		if n.v.Kind >= wire.Array {
			var err error
			if each, err = n.items(m); err != nil {
				return Value{}, true, err
			}
		}
		for _, v := range each {
			of, known, err := valueAs(m, v, t)
			if err != nil || !known {
				return of, known, err
			}
			l.items = append(l.items, of)
		}
	}
	return Value{Kind: Items, Ref: l}, true, nil
}

package shape

import (
	"slices"
	"strings"

	"vetta/internal/markup"
	"vetta/internal/wire"
)

// At finds a place by its JSONPath, $.sailings[*].vessel, or by its XPath, /departures/departure/@gate, or nil; $ is the
// root of either notation. An element of an array may be written with any number: all share one place.
func (e *Endpoint) At(path string) *Place {
	p := e.Root
	if path := strings.TrimSpace(path); strings.HasPrefix(path, "/") {
		return p.atXPath(path[1:])
	}
	rest, ok := strings.CutPrefix(strings.TrimSpace(path), "$")
	if !ok {
		return nil
	}
	for rest != "" && p != nil {
		var step string
		switch {
		case strings.HasPrefix(rest, "['"):
			end := strings.Index(rest, "']")
			if end < 0 {
				return nil
			}
			step, rest = rest[2:end], rest[end+2:]
			p = p.child(strings.NewReplacer(`\'`, "'", `\\`, `\`).Replace(step))
		case rest[0] == '[':
			end := strings.IndexByte(rest, ']')
			if end < 0 {
				return nil
			}
			rest = rest[end+1:]
			if p.Elem != nil {
				p = p.Elem
			} else {
				p = p.Member
			}
		case rest[0] == '.':
			end := strings.IndexAny(rest[1:], ".[")
			if end < 0 {
				end = len(rest) - 1
			}
			step, rest = rest[1:end+1], rest[end+1:]
			p = p.child(step)
		default:
			return nil
		}
	}
	return p
}

// atXPath finds a place by the names of elements that lead to it, as Path writes them.
func (p *Place) atXPath(path string) *Place {
	for _, step := range strings.Split(path, "/") {
		name, _, _ := strings.Cut(step, "[")
		if name == "" {
			continue
		}
		at := slices.IndexFunc(p.Keys, func(k *Key) bool { return markup.IsKey(k.Name) && markup.ShowKey(k.Name) == name })
		if at < 0 {
			return nil
		}
		if p = p.Keys[at].Place; p.Elem != nil {
			p = p.Elem
		}
	}
	return p
}

// Place is the place that steps lead to from the root, nil where they lead nowhere.
func (e *Endpoint) Place(steps []wire.Step) *Place {
	return e.Root.Inner(steps)
}

// Inner is the place that steps lead to from another, nil where they lead nowhere.
func (p *Place) Inner(steps []wire.Step) *Place {
	for _, s := range steps {
		switch {
		case p == nil:
			return nil
		case s.Index == wire.AnyElement:
			p = p.Elem
		case s.Index == wire.AnyMember:
			p = p.Member
		default:
			p = p.child(s.Name)
		}
	}
	return p
}

// Nearest is the place that the steps to a value lead to from another, as far as it has one.
func (p *Place) Nearest(steps []wire.Step) *Place {
	for _, s := range steps {
		inner := p.Elem
		if s.Index < 0 {
			inner = p.child(s.Name)
		}
		if inner == nil {
			break
		}
		p = inner
	}
	return p
}

func (p *Place) child(name string) *Place {
	if name == "*" || p.Member != nil {
		return p.Member
	}
	if k := p.names[name]; k != nil {
		return k.Place
	}
	return nil
}

// Kinds are the kinds of value seen at a place, the most frequent first.
func (p *Place) Kinds() (kinds []wire.Kind) {
	seen := map[wire.Kind]bool{}
	for _, c := range p.Sorted() {
		if !seen[c.Class.Kind] {
			seen[c.Class.Kind] = true
			kinds = append(kinds, c.Class.Kind)
		}
	}
	return kinds
}

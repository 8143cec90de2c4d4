package drift

import "vetta/internal/wire"

// leads says whether all responses have what the code of a call takes of them before it has a library decode that. What
// the code does where one has not is its own affair, and not known.
func (p *Pair) leads() bool {
	if p.Call == nil || len(p.Call.Within) == 0 {
		return true
	}
	in := p.Endpoint.Root
	for _, s := range p.Place.Steps {
		inner := in.Elem
		all := in.Count(wire.Array) == in.Total()
		if s.Index == wire.MemberStep {
			k := in.Key(s.Name)
			if k == nil {
				return false
			}
			inner, all = k.Place, in.Count(wire.Object) == in.Total() && k.Place.Total() == in.Total()
		}
		if !all {
			return false
		}
		if inner == nil { // lists without elements
			return true
		}
		in = inner
	}
	return true
}

// leadsIn says the same of one response.
func (p *Pair) leadsIn(doc *wire.Value) bool {
	if p.Call == nil || len(p.Call.Within) == 0 {
		return true
	}
	at := []*wire.Value{doc}
	for _, s := range p.Place.Steps {
		var inner []*wire.Value
		for _, v := range at {
			switch found := v.At(s); {
			case s.Index == wire.MemberStep && found != nil:
				inner = append(inner, found)
			case s.Index != wire.MemberStep && v.Kind == wire.Array:
				inner = append(inner, v.Elems...)
			default:
				return false
			}
		}
		at = inner
	}
	return true
}

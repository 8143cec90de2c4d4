package decoder

import (
	"slices"

	"vetta/internal/model"
	"vetta/internal/wire"
)

// ran decodes a document by the code of the app, and says by the nodes what was read of it, and what was lost on the
// way, where they come to the same.
func (p *Plan) ran(doc *wire.Value) Outcome {
	out := p.Run(doc)
	nodes, within, ok := p.byNodes(doc)
	if !ok || (nodes.Err == nil) != (out.Err == nil) {
		return out
	}
	out.Reads, out.Changes, out.Unread = nodes.Reads, nodes.Changes, nodes.Unread
	for i := range out.Reads {
		out.Reads[i].Place = joinSteps(within, out.Reads[i].Place)
	}
	for i := range out.Changes {
		out.Changes[i].Place = joinSteps(within, out.Changes[i].Place)
	}
	for i := range out.Unread {
		out.Unread[i] = joinSteps(within, out.Unread[i])
	}
	if out.Err != nil && len(nodes.At) > 0 {
		out.Place, out.At = joinSteps(within, nodes.Place), joinSteps(within, nodes.At)
	}
	return out
}

// byNodes is what the nodes make of the part of a document that the type is made of; ok is false where there is no
// such part, or nothing is known of it.
func (p *Plan) byNodes(doc *wire.Value) (out Outcome, within []wire.Step, ok bool) {
	if p.Root == nil || p.Root.Op == OpUnknown {
		return out, nil, false
	}
	for _, key := range p.Within {
		within = append(within, wire.MemberOf(key))
	}
	doc.Each(within, func(v *wire.Value, _ []wire.Step) {
		out, ok = p.decode(v), true
	})
	return out, within, ok
}

// ranInto is the property that a document fails at which a run has found to fail, and the steps to the value.
func (p *Plan) ranInto(out Outcome, doc *wire.Value) (at Failure, place []wire.Step) {
	at = Failure{Error: out.Err}
	nodes, within, ok := p.byNodes(doc)
	if !ok || nodes.Err == nil {
		at.Model, at.Field = p.readerOf(out.At)
		return at, out.At
	}
	for _, read := range nodes.Reads {
		if read.Err == nodes.Err {
			at.Model, at.Field, place = read.Model, read.Field, joinSteps(within, read.Place)
		}
	}
	if len(out.At) > len(place) && slices.Equal(out.At[:len(place)], place) { // of an element, say
		place = out.At
	}
	return at, place
}

// readerOf is the innermost property that reads what stands at some steps of a document, nil for none.
func (p *Plan) readerOf(steps []wire.Step) (m *model.Model, f *model.Field) {
	for _, key := range p.Within {
		if len(steps) == 0 || steps[0] != wire.MemberOf(key) {
			return nil, nil
		}
		steps = steps[1:]
	}
	type open struct {
		n    *Node
		left int
	}
	walking := map[open]bool{}
	best := len(steps) + 1 // how many steps are left where it reads
	var walk func(n *Node, steps []wire.Step, in *model.Model, of *model.Field)
	walk = func(n *Node, steps []wire.Step, in *model.Model, of *model.Field) {
		if n == nil || walking[open{n, len(steps)}] {
			return
		}
		walking[open{n, len(steps)}] = true
		if n.Field != nil {
			of = n.Field
		}
		reads := func(left int) {
			if of != nil && left < best {
				best, m, f = left, in, of
			}
		}
		switch {
		case n.Op == OpBuild && n.Model != nil:
			if f == nil {
				m = n.Model
			}
			for _, s := range n.Steps {
				walk(s.Node, steps, n.Model, nil)
			}
		case n.Op == OpAt:
			if len(steps) > 0 && steps[0] == wire.MemberOf(n.Name) {
				reads(len(steps) - 1)
				walk(n.Inner, steps[1:], in, of)
			}
		case n.Op == OpUnknown:
			if len(steps) > 0 && slices.Contains(n.Others, steps[0].Name) {
				reads(len(steps) - 1)
			}
		case n.Op == OpList && len(steps) > 0 && steps[0].Index >= 0, n.Op == OpMap && len(steps) > 0 && steps[0].Index == wire.MemberStep:
			walk(n.Inner, steps[1:], in, of)
		default:
			walk(n.Inner, steps, in, of)
			walk(n.Second, steps, in, of)
		}
	}
	walk(p.Root, steps, nil, nil)
	return m, f
}

func joinSteps(a, b []wire.Step) []wire.Step {
	if len(a) == 0 {
		return b
	}
	return append(append([]wire.Step{}, a...), b...)
}

// Reads is the node by which a plan reads the objects that a class is made of, nil where it reads none.
func (p *Plan) Reads(m *model.Model) (found *Node) {
	p.any(func(n *Node) bool {
		if n.Op == OpKeyed && n.Inner != nil && n.Inner.Op == OpBuild && n.Inner.Model == m {
			found = n
		}
		return found != nil
	}, func(Step) bool { return false })
	return found
}

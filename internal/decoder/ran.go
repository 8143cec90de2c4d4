package decoder

import "vetta/internal/wire"

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

// ranInto is the property that a document fails at which a run has found to fail.
func (p *Plan) ranInto(out Outcome, doc *wire.Value) Failure {
	at := Failure{Error: out.Err}
	nodes, _, ok := p.byNodes(doc)
	if !ok || nodes.Err == nil {
		return at
	}
	for _, read := range nodes.Reads {
		if read.Err == nodes.Err {
			at.Model, at.Field = read.Model, read.Field
		}
	}
	return at
}

func joinSteps(a, b []wire.Step) []wire.Step {
	if len(a) == 0 {
		return b
	}
	return append(append([]wire.Step{}, a...), b...)
}

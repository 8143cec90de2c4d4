package decoder

import "vetta/internal/wire"

// Then is a node for code that is handed what another node reads, and makes something of it that is not known: what
// the other one refuses fails as it does there.
func Then(n *Node, why string) *Node {
	switch n.Op {
	case OpUnknown, OpFail:
		return n
	case OpLeaf:
		own, read := *n, n.Read
		own.Read = func(v *wire.Value) Verdict {
			verdict := read(v)
			if verdict.Err == nil {
				verdict = Verdict{Seen: Seen{Kind: SeenUnknown}}
			}
			return verdict
		}
		own.Why = why
		return &own
	}
	return &Node{Op: OpCall, Name: "", Args: []*Node{n}, Why: why, Type: n.Type,
		Call: func([]Seen, func(Seen) Seen) Seen { return Seen{Kind: SeenUnknown} }}
}

package decoder

import (
	"vetta/internal/model"
	"vetta/internal/wire"
)

// Made is a node for code of the app's that is handed what another node reads: what the other one refuses fails as
// it does there. does answers what the code makes of a value, or what it throws.
func Made(n *Node, does func(Seen) (Seen, *Error)) *Node {
	switch n.Op {
	case OpUnknown, OpFail:
		return n
	case OpLeaf:
		if n.Read == nil { // it is being made: a class that is in what it is made of
			break
		}
		own, read := *n, n.Read
		own.Read = func(v *wire.Value) Verdict {
			verdict := read(v)
			if verdict.Err == nil {
				verdict.Seen, verdict.Err = does(verdict.Seen)
			}
			return verdict
		}
		own.MindsText, own.NumbersByClass, own.Minds = true, false, nil
		return &own
	}
	return &Node{Op: OpMade, Inner: n, Make: does, Type: n.Type}
}

// OfModel is a node whose values are of a class of the source, nil for none.
func OfModel(n *Node, m *model.Model) *Node {
	if m == nil || n.Op != OpLeaf {
		return n
	}
	own := *n
	own.Model = m
	return &own
}

// KeyBy is the Key of a map whose keys are read as texts are: text makes a value of a name.
func KeyBy(read func(*wire.Value) Verdict, text func(name string) *wire.Value) func(name string) (Seen, *Error) {
	return func(name string) (Seen, *Error) {
		verdict := read(text(name))
		if verdict.Err != nil {
			err := *verdict.Err
			err.Reason = ReasonKey
			return Seen{}, &err
		}
		return verdict.Seen, nil
	}
}

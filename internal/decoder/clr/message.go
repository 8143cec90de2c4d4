package clr

import (
	"vetta/internal/decoder"
	"vetta/internal/wire"
)

// Told is a node whose own errors, of the value itself and not of what it holds, have their messages rewritten: libraries
// name the type that a member declares, which one node for several members does not know.
func Told(n *decoder.Node, rewrite func(message string) string) *decoder.Node {
	own := *n
	err := func(e *decoder.Error) *decoder.Error {
		if e == nil {
			return nil
		}
		message := rewrite(e.Message)
		if message == e.Message {
			return e
		}
		out := *e
		out.Message = message
		return &out
	}
	if read := n.Read; read != nil {
		own.Read = func(v *wire.Value) decoder.Verdict {
			out := read(v)
			out.Err = err(out.Err)
			return out
		}
	}
	if wrong := n.Wrong; wrong != nil {
		own.Wrong = func(k wire.Kind) *decoder.Error { return err(wrong(k)) }
	}
	if wrong := n.WrongValue; wrong != nil {
		own.WrongValue = func(v *wire.Value) *decoder.Error { return err(wrong(v)) }
	}
	return &own
}

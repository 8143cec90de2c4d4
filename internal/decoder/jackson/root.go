package jackson

import (
	"vetta/internal/decoder"
	"vetta/internal/decoder/jvm"
	"vetta/internal/model"
	"vetta/internal/wire"
)

// rootName is UNWRAP_ROOT_VALUE: the document is an object with the one key of the
// class's name.
func (c *compiler) rootName(t *model.Type, inner *decoder.Node) *decoder.Node {
	m := t.Unwrapped().Model
	if m == nil {
		return unknown("the root name of " + jvm.TypeText(t) + " is not followed")
	}
	name := model.SimpleName(m.Name)
	if a := m.Marks.Find("JsonRootName"); a != nil {
		name = a.Text("value", name)
	}
	at := &decoder.Node{Op: decoder.OpAt, Name: name, Type: inner.Type, Inner: inner}
	at.Missing = fault("MismatchedInputException", decoder.ReasonMissing, "Root name does not match expected ('%s') for type `%s`", name, raw(t))
	at.Missing.Key = name
	at.MissingFrom = func(v *wire.Value) *decoder.Error {
		if len(v.Members) == 0 {
			err := fault("MismatchedInputException", decoder.ReasonMissing, "Unexpected token (END_OBJECT), expected FIELD_NAME: Current token not FIELD_NAME (to contain expected root name '%s'), but END_OBJECT", name)
			err.Key = name
			return err
		}
		err := fault("MismatchedInputException", decoder.ReasonMissing, "Root name ('%s') does not match expected ('%s') for type `%s`", v.Members[0].Name, name, raw(t))
		err.Key = name
		return err
	}
	if inner.Op == decoder.OpNil {
		at.Inner = &decoder.Node{Op: decoder.OpNil, Inner: inner.Inner, Type: inner.Type, NullError: mismatched(raw(t), jvm.Sample(wire.Null))}
	}
	keyed := wrongAs(&decoder.Node{Op: decoder.OpKeyed, Inner: at}, func(v *wire.Value) *decoder.Error {
		text := bare(v)
		return fault("MismatchedInputException", decoder.ReasonKind, "Unexpected token (%s), expected START_OBJECT: Current token not START_OBJECT (needed to unwrap root name '%s'), but %s", text, name, text)
	})
	if inner.Op != decoder.OpNil {
		return keyed
	}
	// A document that is null is settled before the name is looked for.
	return &decoder.Node{Op: decoder.OpNil, Inner: keyed, Type: inner.Type, Value: inner.Value}
}

package systemtextjson

import (
	"vetta/internal/decoder"
	"vetta/internal/decoder/clr"
	"vetta/internal/model"
)

// populates says whether what a member holds is filled rather than replaced (JsonObjectCreationHandling): by its
// attribute, by one of its class, or by the options; marked says that its own attribute asks for it.
func (c *compiler) populates(x *member) (fills, marked bool) {
	if x.ignored || x.rest {
		return false, false
	}
	if a := find(x.field.Marks, "JsonObjectCreationHandling"); a != nil {
		return a.Text("value", "") == "Populate", true
	}
	if a := find(x.owner.Model.Marks, "JsonObjectCreationHandling"); a != nil {
		return a.Text("value", "") == "Populate", false
	}
	return c.settings.Option("PreferredObjectCreationHandling") == "Populate", false
}

// fixed says whether nothing can be added to what a member of the type holds.
func fixed(u *model.Type) bool {
	switch u.Kind {
	case model.List, model.Unique, model.Map:
		return clr.IsFixed(u)
	}
	return u.Model == nil || u.Model.Kind == model.Enum || u.Model.Kind == model.Interface
}

// populated is the node for a member that is filled, nil for one that is replaced. A class whose constructor takes
// parameters is never filled.
func (c *compiler) populated(t *model.Type, x *member, k *model.Method) *decoder.Node {
	u := x.typ.Unwrapped()
	if fills, _ := c.populates(x); !fills || fixed(u) || k != nil && len(k.Params) > 0 || x.param != nil {
		return nil
	}
	initial := decoder.Seen{Kind: decoder.SeenUnknown}
	if clr.Stored(x.field) {
		initial = c.initial(t, x.field, k)
	}
	if initial.Kind == decoder.SeenNull {
		return nil
	}
	at := &decoder.Node{Op: decoder.OpAt, Name: x.key, Every: true, Field: x.field, Type: x.field.Declared, Value: initial}
	if x.required {
		at.Missing = problem(decoder.ReasonMissing, "JSON deserialization for type '"+clr.Name(t)+"' was missing required properties including: '"+x.key+"'.")
		at.Missing.Key = x.key
	}
	inner := c.value(x.typ, site{})
	switch {
	case u.Kind == model.Named || initial.Kind == decoder.SeenUnknown:
		at.Inner = unknown("what it holds is filled, which is not followed")
		return at
	case inner.Op != decoder.OpNil:
		return nil
	}
	own := *inner
	own.Inner = decoder.Made(inner.Inner, func(read decoder.Seen) (decoder.Seen, *decoder.Error) { return clr.Added(initial, read), nil })
	if !x.set {
		own.NullError = &decoder.Error{Kind: "InvalidOperationException", Reason: decoder.ReasonNull, Message: "InvalidOperationException: Unable to assign 'null' to the property or field of type '" + clr.Name(u) + "'."}
	}
	at.Inner = &own
	return at
}

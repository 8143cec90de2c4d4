package moshi

import (
	"errors"
	"strings"

	"vetta/internal/code"
	"vetta/internal/decoder"
	"vetta/internal/decoder/eval"
	"vetta/internal/decoder/jvm"
	"vetta/internal/model"
	"vetta/internal/wire"
)

// adapted is the node for a type that the Moshi is given an adapter for, nil for another. The ones that are added
// first are asked first; those before a place are not asked.
func (c *compiler) adapted(w wanted, from int) *decoder.Node {
	if c.settings == nil {
		return nil
	}
	t, qualifier := w.t, w.qualifier
	for i := from; i < len(c.settings.Adapters); i++ {
		switch a := &c.settings.Adapters[i]; {
		case a.Factory:
			if n := c.byFactory(a, i, w); n != nil {
				return n
			}
		case a.Qualifier == qualifier && sameClass(a.Of, t, w.boxed):
			return c.byAdapter(a)
		}
	}
	if t.Kind == model.Named {
		for i := range c.settings.Families {
			if f := &c.settings.Families[i]; qualifier == "" && f.Of.Key() == t.Key() {
				return c.family(f)
			}
		}
	}
	return nil
}

// ofApp says whether what reads a type is an adapter of the app's that is not told to leave null alone.
func (c *compiler) ofApp(t *model.Type) bool {
	if c.settings == nil {
		return false
	}
	for _, a := range c.settings.Adapters {
		if !a.Factory && a.Qualifier == c.settings.Root.Qualifier && sameClass(a.Of, t, true) {
			return !a.NullSafe
		}
	}
	return false
}

// sameClass says whether an adapter of one type is asked for another: they are compared as classes of the platform's,
// where Int is a primitive and Int? is a box.
func sameClass(of, t *model.Type, boxed bool) bool {
	if of == nil {
		return false
	}
	u := of.Unwrapped()
	if s := jvm.Scalar(u); s != "" {
		isBox := of.Kind == model.Optional || u.Name == "Integer" || u.Name == "Character" || s != u.Name && strings.HasSuffix(u.Pos.File, ".java")
		return jvm.Scalar(t) == s && isBox == boxed
	}
	return u.Key() == t.Key()
}

// byAdapter is the node that an adapter is.
func (c *compiler) byAdapter(a *model.Adapter) *decoder.Node {
	var n *decoder.Node
	switch {
	case a.Name == "Rfc3339DateJsonAdapter":
		n = &decoder.Node{Op: decoder.OpLeaf, Read: rfc3339, MindsText: true, ByDate: true} // of a null it makes one itself
		return &decoder.Node{Op: decoder.OpNil, Inner: n, Type: "Date"}
	case a.Name == "EnumJsonAdapter" && a.Of.Unwrapped().Model != nil:
		n = &decoder.Node{Op: decoder.OpLeaf, Model: a.Of.Unwrapped().Model, MindsText: true, Read: constant(a.Of.Unwrapped().Model, fallback(a))}
		null := expected("a string", wire.Null)
		if a.NullSafe {
			null = nil
		}
		return &decoder.Node{Op: decoder.OpNil, Inner: n, NullError: null, Type: a.Of.Unwrapped().Name}
	case a.ByReader && a.Code != nil:
		n = decoder.OfModel(c.read(a), a.Of.Unwrapped().Model)
		if a.NullSafe {
			return &decoder.Node{Op: decoder.OpNil, Inner: n, Type: jvm.TypeText(a.Of)}
		}
		return n
	case a.Reads != nil: // null is passed on by the method that calls it
		return &decoder.Node{Op: decoder.OpNil, Inner: decoder.OfModel(c.handed(a), a.Of.Unwrapped().Model), Type: jvm.TypeText(a.Of)}
	}
	return unknown(a.Name + " reads it, which is not followed")
}

// fallback is what an EnumJsonAdapter makes of a text that no constant has, nil where that is an error.
func fallback(a *model.Adapter) func() decoder.Seen {
	switch a.Fallback {
	case "":
		return nil
	case "null":
		return func() decoder.Seen { return decoder.Seen{} }
	}
	return func() decoder.Seen {
		return decoder.Seen{Kind: decoder.SeenEnum, Text: a.Fallback, Type: a.Of.Unwrapped().Name}
	}
}

// handed is the node for a function of the app that is handed what Moshi reads.
func (c *compiler) handed(a *model.Adapter) *decoder.Node {
	if a.ReadsQualifier == a.Qualifier && a.Reads.Key() == a.Of.Key() {
		return unknown(a.Name + " reads it, which is not followed")
	}
	n := c.notNull(a.Reads.Unwrapped(), a.ReadsQualifier, a.Reads.Kind == model.Optional)
	if a.Code == nil {
		return decoder.Made(n, func(decoder.Seen) (decoder.Seen, *decoder.Error) {
			return decoder.Seen{Kind: decoder.SeenUnknown}, nil
		})
	}
	return decoder.Made(n, func(s decoder.Seen) (decoder.Seen, *decoder.Error) {
		given := eval.Of(s)
		given.Model = a.Reads.Unwrapped().Model
		return result(eval.Run(a.Code.(*code.Routine), static{c}, given))
	})
}

// ownClasses are the packages of exceptions of Moshi's.
var ownClasses = map[string]string{"JsonDataException": "com.squareup.moshi.", "JsonEncodingException": "com.squareup.moshi."}

// result is what a function of the app's makes, as Moshi has it: what it throws comes as a JsonDataException, but for an
// IOException (AdapterMethodsFactory).
func result(v eval.Value, err error) (decoder.Seen, *decoder.Error) {
	var thrown *eval.Thrown
	switch {
	case errors.As(err, &thrown):
		cause := *thrown.Err()
		if is, _ := decoder.IsA(cause.Kind, "IOException"); is {
			return decoder.Seen{}, &cause
		}
		shown := strings.TrimSuffix(cause.Message, ": null") // Throwable.toString of one without a message
		shown = jvm.Package(cause.Kind) + ownClasses[cause.Kind] + shown
		cause.Kind, cause.Message = "JsonDataException", "JsonDataException: "+shown+" at "+decoder.PathMark
		return decoder.Seen{}, &cause
	case err != nil:
		return decoder.Seen{Kind: decoder.SeenUnknown}, nil
	}
	return eval.Verdict(v, nil).Seen, nil
}

// family is the node for a class whose subclasses a PolymorphicJsonAdapterFactory tells apart by a label.
func (c *compiler) family(f *model.Family) *decoder.Node {
	if f.Why != "" {
		return unknown(f.Why)
	}
	n := &decoder.Node{Op: decoder.OpSubtype, Name: f.Key, Model: f.Of.Model, NullTells: true, Wrong: wrongStart("BEGIN_OBJECT")}
	var labels []string
	for _, m := range f.Members {
		of := c.notNull(m.Type, "", true)
		if of.Op == decoder.OpNil {
			of = of.Inner
		}
		labels = append(labels, m.Label)
		n.Branches = append(n.Branches, decoder.Branch{Key: m.Label, Node: of})
	}
	switch {
	case f.Otherwise == nil:
	case f.Otherwise.Adapter != nil:
		n.Third = c.read(f.Otherwise.Adapter)
	case f.Otherwise.Unfollowed:
		n.Third = unknown("another adapter (withFallbackJsonAdapter) reads it")
	case f.Otherwise.Null:
		n.Third = &decoder.Node{Op: decoder.OpConst}
	case f.Otherwise.Type != nil && f.Otherwise.Type.Model != nil && f.Otherwise.Type.Model.Kind == model.Object:
		n.Third = &decoder.Node{Op: decoder.OpConst, Value: decoder.Seen{Kind: decoder.SeenObject, Type: f.Otherwise.Type.Model.Name}}
	default:
		n.Third = &decoder.Node{Op: decoder.OpConst, Value: decoder.Seen{Kind: decoder.SeenUnknown}}
	}
	n.Missing = data(decoder.ReasonMissing, "Missing label for %s", f.Key)
	n.Missing.Key = f.Key
	n.Key = func(id string) (decoder.Seen, *decoder.Error) {
		err := data(decoder.ReasonClass, "Expected one of [%s] for key '%s' but found '%s'. Register a subtype for this label.", strings.Join(labels, ", "), f.Key, id)
		err.Advice = "add .withSubtype(…, \"" + id + "\"), or .withDefaultValue(…)"
		return decoder.Seen{}, err
	}
	return &decoder.Node{Op: decoder.OpNil, Inner: n, Type: f.Of.Name}
}

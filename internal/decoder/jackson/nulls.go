package jackson

import (
	"vetta/internal/decoder"
	"vetta/internal/decoder/jvm"
	"vetta/internal/model"
	"vetta/internal/wire"
)

// nulls settles what null becomes where @JsonSetter says so, at the property and in what
// it holds.
func (c *compiler) nulls(at *decoder.Node, p *property, t *model.Type) {
	a := p.marks.Find("JsonSetter")
	if a == nil {
		return
	}
	kotlin := p.param != nil && c.isView(p.param.owner.Model) && !jvm.IsPrimitive(t, false) // whose module asks nothing about what is absent
	invalid := fault("InvalidNullException", decoder.ReasonNull, "Invalid `null` value encountered for property %q", p.name)
	if rule := model.SimpleName(a.Text("contentNulls", "")); rule != "" && rule != "DEFAULT" && rule != "SET" {
		at.Inner = c.contentNulls(at.Inner, rule, t, t, invalid)
	}
	switch model.SimpleName(a.Text("nulls", "")) {
	case "SKIP":
		if p.refused != nil { // what is skipped is null all the same when the creator is given it
			break
		}
		at.KeepNull = true
		at.Inner = withNulls(at.Inner, decoder.Verdict{Seen: at.Value})
	case "FAIL":
		at.Inner = withNulls(at.Inner, decoder.Verdict{Err: invalid})
		at.Inner = &decoder.Node{Op: decoder.OpNil, Inner: at.Inner, Type: at.Inner.Type, NullError: invalid}
		if p.param != nil && at.Missing == p.refused && !kotlin && !c.views.optional[p.param.param.Parameter] {
			at.Missing = invalid
		}
	case "AS_EMPTY":
		c.noEmpty(t, t)
		if p.param != nil && !kotlin && !c.views.optional[p.param.param.Parameter] {
			at.Value, at.AbsentLoss = c.empty(t), decoder.NoLoss
			if at.Missing == p.refused {
				at.Missing = nil
			}
		}
		at.Inner = withNulls(at.Inner, decoder.Verdict{Seen: c.empty(t)})
		at.Inner = &decoder.Node{Op: decoder.OpNil, Inner: at.Inner, Type: at.Inner.Type, Value: c.empty(t)}
	}
}

// withNulls is a node that gives a verdict of its own where a text becomes null: an empty
// one, or that says "null" (SettableBeanProperty.deserialize asks the null provider then).
func withNulls(n *decoder.Node, instead decoder.Verdict) *decoder.Node {
	out := *n
	switch {
	case n.Op == decoder.OpNil:
		out.Inner = withNulls(n.Inner, instead)
	case n.Op == decoder.OpLeaf && n.Read != nil:
		out.Read = func(v *wire.Value) decoder.Verdict {
			verdict := n.Read(v)
			if verdict.Err == nil && verdict.Seen.Kind == decoder.SeenNull && v.Kind == wire.String {
				return instead
			}
			return verdict
		}
	case n.Second != nil && n.SecondKind() == wire.String: // an object or a list in whose place a text may stand
		out.Second = withNulls(n.Second, instead)
	default:
		return n
	}
	return &out
}

// noEmpty refuses that null becomes an empty instance of a class that is not made without
// anything, which names the type of the whole property (StdDeserializer._findNullProvider).
func (c *compiler) noEmpty(t, property *model.Type) {
	u := t.Unwrapped()
	if u.Model == nil || u.Model.Kind == model.Enum || u.Model.Abstract || classMark(u, "JsonTypeInfo") != nil || jvm.NoArguments(u.Model) || jacksonized(u.Model) {
		return
	}
	err := fault("InvalidDefinitionException", decoder.ReasonType, "Cannot create empty instance of %s, no default Creator", described(property))
	err.Where = decoder.AtRoot
	c.refuse(u.Model, err)
}

// contentNulls makes of the node of a list or map one for which nulls in it are left
// out, refused or taken for empty.
func (c *compiler) contentNulls(n *decoder.Node, rule string, t, property *model.Type, invalid *decoder.Error) *decoder.Node {
	u := t.Unwrapped()
	if n.Op == decoder.OpNil && n.Inner.Op == decoder.OpNil { // null itself is refused
		outer := *n
		outer.Inner = c.contentNulls(n.Inner, rule, t, property, invalid)
		return &outer
	}
	if n.Op != decoder.OpNil || len(u.Args) == 0 || u.Kind != model.List && u.Kind != model.Unique && u.Kind != model.Map {
		return n
	}
	outer, inner := *n, *n.Inner
	outer.Inner = &inner
	elem := u.Args[len(u.Args)-1]
	inner.Inner = c.contentNulls(inner.Inner, rule, elem, property, invalid) // collections in collections ask the same property
	switch rule {
	case "FAIL":
		inner.Inner = &decoder.Node{Op: decoder.OpNil, Inner: inner.Inner, Type: inner.Inner.Type, NullError: invalid}
	case "AS_EMPTY":
		c.noEmpty(elem, property)
		inner.Inner = &decoder.Node{Op: decoder.OpNil, Inner: inner.Inner, Type: inner.Inner.Type, Value: c.empty(elem)}
	case "SKIP":
		inner.SkipNull = true
	}
	return &outer
}

// empty is what a deserializer takes for the empty value of its type
// (JsonDeserializer.getEmptyValue).
func (c *compiler) empty(t *model.Type) decoder.Seen {
	u := t.Unwrapped()
	if s := jvm.Scalar(u); s != "" {
		return jvm.Zero(&model.Type{Kind: model.Named, Name: s}, false)
	}
	switch {
	case u.Kind == model.List:
		return decoder.Seen{Kind: decoder.SeenList, Elems: []decoder.Seen{}}
	case u.Kind == model.Unique:
		return decoder.Seen{Kind: decoder.SeenSet, Elems: []decoder.Seen{}}
	case u.Kind == model.Map:
		return decoder.Seen{Kind: decoder.SeenMap, Elems: []decoder.Seen{}}
	case u.Model != nil && u.Model.Kind == model.Enum:
		for _, k := range u.Model.Cases {
			if k.Marks.Find("JsonEnumDefaultValue") != nil {
				return decoder.Seen{Kind: decoder.SeenEnum, Text: k.Name, Type: u.Model.Name}
			}
		}
		return decoder.Seen{}
	case u.Model != nil:
		return decoder.Seen{Kind: decoder.SeenUnknown}
	}
	switch u.Name {
	case "String", "CharSequence", "StringBuilder", "StringBuffer":
		return decoder.Seen{Kind: decoder.SeenString}
	case "URI", "Locale":
		return decoder.Seen{Kind: decoder.SeenString, Type: u.Name}
	case "BigDecimal":
		return decoder.Seen{Kind: decoder.SeenDecimal, Text: "0"}
	case "BigInteger", "AtomicInteger", "AtomicLong":
		return decoder.Seen{Kind: decoder.SeenInt, Text: "0"}
	case "AtomicBoolean":
		return decoder.Bool(false)
	case "UUID":
		return decoder.Seen{Kind: decoder.SeenString, Text: "00000000-0000-0000-0000-000000000000", Type: u.Name}
	case "Date":
		return decoder.Seen{Kind: decoder.SeenDate}
	case "Object", "Number", "URL", "Currency":
		return decoder.Seen{}
	}
	return decoder.Seen{Kind: decoder.SeenUnknown}
}

package jackson

import (
	"vetta/internal/decoder"
	"vetta/internal/decoder/jvm"
	"vetta/internal/model"
	"vetta/internal/wire"
)

// singleScalar says whether a creator takes a scalar alone, beside which objects may be
// read by their members.
func singleScalar(k *model.Method) bool {
	if len(k.Params) != 1 {
		return false
	}
	switch t := k.Params[0].Type; t.Name {
	case "String", "CharSequence", "BigInteger", "BigDecimal":
		return t.Model == nil
	default:
		switch jvm.Scalar(t) {
		case "int", "long", "double", "boolean":
			return true
		}
		return false
	}
}

// delegating is the node for a class that a creator makes of the value as a whole.
func (c *compiler) delegating(t *model.Type, k *model.Method) *decoder.Node {
	m := t.Model
	if len(k.Params) != 1 {
		return unknown(m.Name + " is made by a creator that takes several values as a whole")
	}
	if u := k.Params[0].Type.Unwrapped(); (u.Kind == model.List || u.Kind == model.Unique) && u.Name == "" {
		return unknown(m.Name + " is made of a list by its creator, which is not followed")
	}
	inner := c.value(k.Params[0].Type.Bind(t.Env()), format{})
	if inner.Op == decoder.OpUnknown {
		return inner
	}
	if inner.Op == decoder.OpLeaf && k.Params[0].Type.Unwrapped().Model == nil {
		u := k.Params[0].Type.Unwrapped()
		if jvm.Scalar(u) == "" && !numbers[u.Name] {
			return unknown(m.Name + " is made of a text by its creator, which is not followed")
		}
		inner = withinObject(inner)
	}
	n := &decoder.Node{Op: decoder.OpBuild, Model: m}
	fields, _ := allFields(t)
	fills := ""
	if len(k.Fills) == 1 {
		fills = k.Fills[0]
	}
	taken := false
	for i, f := range fields {
		n.Props = append(n.Props, f)
		node := &decoder.Node{Op: decoder.OpUnknown, Why: "its creator sets it", Field: f}
		if f.Name == fills {
			node, taken = &decoder.Node{Op: decoder.OpDo, Inner: inner, Field: f, Type: f.Declared}, true
		}
		n.Steps = append(n.Steps, decoder.Step{Property: i, Node: node})
	}
	if !taken {
		n.Steps = append([]decoder.Step{{Property: -1, Node: &decoder.Node{Op: decoder.OpDo, Inner: inner}}}, n.Steps...)
	}
	return n
}

// numbers are the platform's classes that are read from numbers, or from anything.
var numbers = map[string]bool{"BigDecimal": true, "BigInteger": true, "Number": true, "Date": true, "Object": true, "AtomicInteger": true, "AtomicLong": true, "AtomicBoolean": true}

// single are the scalars that a class has a constructor for, of any access, that takes
// nothing else: Jackson makes an instance of such a value.
type single struct{ int, long, double, boolean, text bool }

func (s single) any() bool { return s.scalar() || s.double || s.text }

// scalar says whether whole numbers or bools are taken.
func (s single) scalar() bool { return s.int || s.long || s.boolean }

func takesOne(m *model.Model) (out single) {
	for _, k := range m.Ctors {
		if len(k.Params) != 1 || k.Params[0].Marks.Find("JsonProperty") != nil {
			continue
		}
		switch t := k.Params[0].Type; jvm.Scalar(t) {
		case "int":
			out.int = true
		case "long":
			out.long = true
		case "double":
			out.double = true
		case "boolean":
			out.boolean = true
		default:
			out.text = out.text || t != nil && t.Name == "String"
		}
	}
	return out
}

// fromScalar is the node for a scalar where a class is made of it by a constructor.
func (c *compiler) fromScalar(m *model.Model, takes single) *decoder.Node {
	typ := jvm.ClassName(m)
	texts := c.fromText(m)
	return &decoder.Node{Op: decoder.OpLeaf, Model: m, MindsText: true, Read: func(v *wire.Value) decoder.Verdict {
		exists := decoder.Verdict{Seen: decoder.Seen{Kind: decoder.SeenUnknown}}
		switch {
		case v.Kind == wire.Number && !isFloat(v) && (takes.int || takes.long):
			bits := 32
			if takes.long {
				bits = 64
			}
			if _, ok := jvm.ParseWhole(string(v.Raw), bits); ok {
				return exists
			}
		case v.Kind == wire.Bool && takes.boolean, v.Kind == wire.Number && isFloat(v) && takes.double:
			return exists
		case v.Kind == wire.String && blank(v) && texts == nil:
			return decoder.Verdict{Err: emptyString("`" + typ + "`")}
		case v.Kind == wire.String && texts != nil:
			return texts.Read(v)
		case v.Kind == wire.String && !c.off("ALLOW_COERCION_OF_SCALARS"):
			if text := jvm.Trim(jvm.Text(v)); takes.int || takes.long {
				return c.fromDigits(text, takes, exists)
			} else if takes.boolean && (text == "true" || text == "false") {
				return exists
			}
		}
		return decoder.Verdict{Err: noArgument("MismatchedInputException", typ, true, v)}
	}}
}

// fromDigits is what becomes of a text where a constructor takes an int or a long and
// none takes a string: StdDeserializer._deserializeFromString of 2.14 parses it.
func (c *compiler) fromDigits(text string, takes single, exists decoder.Verdict) decoder.Verdict {
	typ, bits := "long", 64
	if takes.int {
		typ, bits = "int", 32
	}
	if text == "null" { // it stands for nothing elsewhere alone
		return decoder.Verdict{Err: weird(typ, text, "not a valid `"+typ+"` value", decoder.ReasonKind)}
	}
	verdict := (&scalar{c: c, typ: typ, primitive: true}).wholeText(text, bits)
	if verdict.Err != nil {
		return verdict
	}
	return exists
}

// fromText is the node for a string where a class has a constructor that takes one
// string, or a factory named valueOf or fromString; nil where it has none.
func (c *compiler) fromText(m *model.Model) *decoder.Node {
	for _, k := range append(append([]*model.Method(nil), m.Ctors...), m.Methods...) {
		isCtor := k.Returns == nil && k.Name == lastName(m.Name)
		if len(k.Params) != 1 || k.Params[0].Type == nil || k.Params[0].Type.Name != "String" {
			continue
		}
		if !isCtor && !(k.Static && (k.Name == "valueOf" || k.Name == "fromString" || k.Marks.Find("JsonCreator") != nil)) || k.Params[0].Marks.Find("JsonProperty") != nil {
			continue
		}
		fills := ""
		if isCtor && len(k.Fills) == 1 {
			fills = k.Fills[0]
		}
		return &decoder.Node{Op: decoder.OpLeaf, Model: m, Read: func(v *wire.Value) decoder.Verdict {
			s, _ := v.Text()
			if fills == "" {
				return decoder.Verdict{Seen: decoder.Seen{Kind: decoder.SeenUnknown}}
			}
			out := decoder.Seen{Kind: decoder.SeenObject, Type: m.Name}
			for _, f := range m.Fields {
				if f.Static {
					continue
				}
				value := jvm.Zero(f.Type, false)
				if f.Default != nil {
					value = jvm.Constant(f.Default, f.Type)
				}
				if f.Name == fills {
					value = decoder.Seen{Kind: decoder.SeenString, Text: s}
				}
				out.Names, out.Elems = append(out.Names, f.Name), append(out.Elems, value)
			}
			return decoder.Verdict{Seen: out}
		}}
	}
	return nil
}

package jackson

import (
	"vetta/internal/decoder"
	"vetta/internal/decoder/jvm"
	"vetta/internal/model"
	"vetta/internal/wire"
)

// makersOfOne are the constructors and factories that make an instance of one value as a
// whole (BasicDeserializerFactory.findValueInstantiator of 2.14): those that annotations say
// so of; constructors of one parameter, unless another one is annotated or the class is a
// record; and factories named valueOf or fromString where nothing is annotated.
func makersOfOne(m *model.Model) (all []*model.Method) {
	if jacksonized(m) { // its builder has none
		return nil
	}
	named := func(k *model.Method) bool {
		name, _ := nameOf(k.Params[0].Marks, namesForReading)
		return name != ""
	}
	annotated := func(k *model.Method) bool {
		mode := creatorMode(k)
		return mode != "" && mode != "DISABLED"
	}
	ctor, factory := false, false
	mark := func(k *model.Method, any *bool) {
		if !annotated(k) {
			return
		}
		*any = true
		if mode := creatorMode(k); len(k.Params) == 1 && (mode == "DELEGATING" || mode == "DEFAULT" && !named(k)) {
			all = append(all, k)
		}
	}
	for _, k := range m.Ctors {
		mark(k, &ctor)
	}
	for _, k := range m.Methods {
		if k.Static {
			mark(k, &factory)
		}
	}
	if m.Kind == model.Record {
		return all
	}
	for _, k := range m.Ctors {
		if !ctor && len(k.Params) == 1 && creatorMode(k) == "" && !named(k) {
			all = append(all, k)
		}
	}
	for _, k := range m.Methods {
		makes := k.Static && len(k.Params) == 1 && k.Returns != nil && k.Returns.Unwrapped().Model == m && creatorMode(k) == ""
		if !ctor && !factory && makes && (k.Name == "valueOf" || k.Name == "fromString" && isText(k.Params[0].Type)) {
			all = append(all, k)
		}
	}
	return all
}

func isText(t *model.Type) bool {
	return t != nil && t.Model == nil && (t.Name == "String" || t.Name == "CharSequence")
}

// single are the scalars of which a class is made.
type single struct{ int, long, double, boolean, text, bigInteger, bigDecimal bool }

// counts says whether messages take what there is for a creator: constructors of big numbers
// are none to StdValueInstantiator.canInstantiate of 2.14.
func (s single) counts() bool { return s.int || s.long || s.double || s.boolean || s.text }

// scalar says whether anything but a text is taken.
func (s single) scalar() bool {
	return s.int || s.long || s.double || s.boolean || s.bigInteger || s.bigDecimal
}

func takesOne(m *model.Model) (out single) {
	for _, k := range makersOfOne(m) {
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
			out.text = out.text || isText(t)
			out.bigInteger = out.bigInteger || t != nil && t.Name == "BigInteger"
			out.bigDecimal = out.bigDecimal || t != nil && t.Name == "BigDecimal"
		}
	}
	return out
}

// fromScalar is the node for a scalar where a class is made of it by a constructor. refused is the
// error for one that no constructor takes.
func (c *compiler) fromScalar(m *model.Model, takes single, refused func(v *wire.Value) *decoder.Error) *decoder.Node {
	typ := jvm.ClassName(m)
	texts := c.fromText(m)
	return &decoder.Node{Op: decoder.OpLeaf, Model: m, MindsText: true, Read: func(v *wire.Value) decoder.Verdict {
		exists := decoder.Verdict{Seen: decoder.Seen{Kind: decoder.SeenUnknown}}
		switch {
		case v.Kind == wire.Number && !isFloat(v) && takes.bigInteger && !takes.int && !takes.long, v.Kind == wire.Number && isFloat(v) && takes.bigDecimal:
			return exists
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
		case v.Kind == wire.String && blank(v) && texts == nil && c.on("ACCEPT_EMPTY_STRING_AS_NULL_OBJECT"):
			return decoder.Verdict{Seen: decoder.Seen{Kind: decoder.SeenNull}}
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
		return decoder.Verdict{Err: refused(v)}
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

// fromText is the node for a string where a class is made of one; nil where it is not.
func (c *compiler) fromText(m *model.Model) *decoder.Node {
	for _, k := range makersOfOne(m) {
		if !isText(k.Params[0].Type) {
			continue
		}
		fills := ""
		if len(k.Fills) == 1 && !k.Opaque && len(k.Computes) == 0 && !jvm.Computes(m) && m.Super == nil { // other fields hold what they do at first
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

package kotlinx

import (
	"vetta/internal/code"
	"vetta/internal/decoder"
	"vetta/internal/decoder/eval"
	"vetta/internal/decoder/jvm"
	"vetta/internal/model"
	"vetta/internal/wire"
)

// maxDeep is how many serializers of the app's own may ask for one another.
const maxDeep = 64

// custom is the node for a serializer of the app's own: its code is run on the value.
func (c *compiler) custom(a *model.Adapter) *decoder.Node {
	if c.deep > maxDeep {
		return unknown("serializers ask for each other without end")
	}
	if a.Code == nil || a.Of == nil {
		return unknown(a.Name + " reads it, which is not followed")
	}
	r := a.Code.(*code.Routine)
	switch a.Form {
	case "transformDeserialize":
		return &decoder.Node{Op: decoder.OpLeaf, Inside: true, MindsText: true, Read: func(v *wire.Value) decoder.Verdict {
			made, err := eval.Run(r, library{c}, eval.HostOf(element{c, v}))
			if err != nil {
				return eval.Verdict(eval.Value{}, err)
			}
			to, ok := made.Host.(element)
			if !ok {
				return decoder.Verdict{Seen: decoder.Seen{Kind: decoder.SeenUnknown}}
			}
			return c.decode(c.again().plain(a.Of), to.v)
		}}
	case "selectDeserializer":
		return &decoder.Node{Op: decoder.OpLeaf, Inside: true, MindsText: true, Read: func(v *wire.Value) decoder.Verdict {
			made, err := eval.Run(r, library{c}, eval.HostOf(element{c, v}))
			if err != nil {
				return eval.Verdict(eval.Value{}, err)
			}
			to, ok := made.Host.(strategy)
			if !ok {
				return decoder.Verdict{Seen: decoder.Seen{Kind: decoder.SeenUnknown}}
			}
			return c.decode(c.again().value(to.t), v)
		}}
	}
	if of := surrogate(r); of != nil && of.Model.Adapter == nil { // what is declared there is judged as any class is
		return decoder.Made(c.value(of), func(s decoder.Seen) (decoder.Seen, *decoder.Error) {
			given := eval.Of(s)
			given.Model = of.Unwrapped().Model
			out := eval.Verdict(eval.Run(r, library{c}, eval.HostOf(input{c: c, given: &given})))
			return out.Seen, out.Err
		})
	}
	return &decoder.Node{Op: decoder.OpLeaf, Inside: true, MindsText: true, Read: func(v *wire.Value) decoder.Verdict {
		return eval.Verdict(eval.Run(r, library{c}, eval.HostOf(input{c: c, v: v})))
	}}
}

// again is a compiler with the same settings: code is run on several values at once, and what it asks for is compiled
// then.
func (c *compiler) again() *compiler {
	again := newCompiler(c.settings)
	again.deep = c.deep + 1
	return again
}

// plain is the node for what a serializer that transforms hands on: by the serializer of the type, which the class
// itself would not be.
func (c *compiler) plain(t *model.Type) *decoder.Node {
	u := t.Unwrapped()
	if u.Model == nil || u.Model.Adapter == nil {
		return c.value(t)
	}
	own := *u.Model
	own.Adapter = nil
	own.Marks = append(model.Annotated{{Name: "Serializable"}}, own.Marks...)
	return c.again().value(&model.Type{Kind: model.Named, Name: u.Name, Model: &own, Args: u.Args})
}

// surrogate is the type whose serializer is all that a serializer asks its decoder for, nil where it asks otherwise.
func surrogate(r *code.Routine) (of *model.Type) {
	asked := 0
	var expr func(e *code.Expr)
	var body func(all []code.Stmt)
	expr = func(e *code.Expr) {
		if e == nil {
			return
		}
		if e.Op == code.Name && e.Text == r.Params[0] {
			asked++
		}
		if e.Op == code.Call && len(e.Args) == 2 && e.Args[0].Op == code.Member && e.Args[0].Text == "decodeSerializableValue" {
			if s := e.Args[1]; s.Op == code.Call && s.Args[0].Op == code.Member && s.Args[0].Text == "serializer" && len(s.Args) == 1 && len(s.Args[0].Args) == 1 && s.Args[0].Args[0].Op == code.Name {
				if m := r.Scope.Class(s.Args[0].Args[0].Text); m != nil && len(m.Params) == 0 {
					of = &model.Type{Kind: model.Named, Name: m.Name, Model: m}
				}
			}
		}
		for _, a := range e.Args {
			expr(a)
		}
		body(e.Body)
	}
	body = func(all []code.Stmt) {
		for i := range all {
			expr(all[i].Value)
			expr(all[i].Of)
			body(all[i].Body)
		}
	}
	body(r.Body)
	if asked != 1 {
		return nil
	}
	return of
}

// decode is what a node makes of a value apart from the document.
func (c *compiler) decode(n *decoder.Node, v *wire.Value) decoder.Verdict {
	if n.Op == decoder.OpLeaf { // which tells no path but that of the value itself
		return n.Read(v)
	}
	out := (&decoder.Plan{Root: n}).Decode(v)
	return decoder.Verdict{Seen: out.Seen, Err: out.Err}
}

func (c *compiler) valueOf(n *decoder.Node, v *wire.Value) (eval.Value, error) {
	out := c.decode(n, v)
	if out.Err != nil {
		return eval.Value{}, eval.ThrownBy(out.Err)
	}
	return eval.Of(out.Seen), nil
}

func throws(class, message string) error { return &eval.Thrown{Class: class, Message: message} }

// strategy is a serializer as a value.
type strategy struct{ t *model.Type }

func (s strategy) Is(class string) (bool, bool) { return class == "KSerializer", true }

func (s strategy) Member(name string, _ []eval.Value, _ []*model.Type) (eval.Value, bool, error) {
	switch name {
	case "nullable":
		return eval.HostOf(strategy{model.OptionalOf(s.t)}), true, nil
	case "descriptor":
		return eval.HostOf(&descriptor{}), true, nil
	}
	return eval.Value{}, false, nil
}

// descriptor is a SerialDescriptor that code makes: the elements that it names.
type descriptor struct{ names []string }

func (d *descriptor) Is(class string) (bool, bool) { return class == "SerialDescriptor", true }

func (d *descriptor) Member(name string, args []eval.Value, _ []*model.Type) (eval.Value, bool, error) {
	if name == "element" && len(args) > 0 {
		d.names = append(d.names, args[0].Seen.Text)
		return eval.Value{}, true, nil
	}
	return eval.Value{}, false, nil
}

// primitives are the methods of a decoder that read a scalar, with the type.
var primitives = map[string]string{
	"decodeString": "String", "decodeInt": "Int", "decodeLong": "Long", "decodeShort": "Short", "decodeByte": "Byte", "decodeDouble": "Double", "decodeFloat": "Float", "decodeBoolean": "Boolean", "decodeChar": "Char",
}

// input is the Decoder that a serializer is given.
type input struct {
	c     *compiler
	v     *wire.Value
	given *eval.Value // what decodeSerializableValue has read, where it was read before
}

func (in input) Is(class string) (bool, bool) {
	return class == "Decoder" || class == "JsonDecoder", true
}

func (in input) Member(name string, args []eval.Value, _ []*model.Type) (eval.Value, bool, error) {
	none := eval.Value{}
	if in.given != nil {
		return *in.given, name == "decodeSerializableValue", nil
	}
	if of := primitives[name]; of != "" {
		v, err := in.c.valueOf(&decoder.Node{Op: decoder.OpLeaf, Read: in.c.scalar(of)}, in.v)
		return v, true, err
	}
	switch name {
	case "decodeSerializableValue":
		if s, ok := hostAt(args, 0).(strategy); ok {
			v, err := in.c.valueOf(in.c.again().value(s.t), in.v)
			v.Model = s.t.Unwrapped().Model
			return v, true, err
		}
	case "decodeJsonElement":
		return eval.HostOf(element{in.c, in.v}), true, nil
	case "decodeNotNullMark":
		return eval.Bool(in.v.Kind != wire.Null), true, nil
	case "decodeNull":
		return none, true, nil
	case "json":
		return eval.HostOf(engine{in.c}), true, nil
	case "decodeStructure", "beginStructure":
		d, ok := hostAt(args, 0).(*descriptor)
		if !ok {
			return none, false, nil
		}
		if in.v.Kind != wire.Object {
			return none, true, eval.ThrownBy(object.WrongValue(in.v))
		}
		composite := eval.HostOf(&structure{c: in.c, v: in.v, d: d, i: -1})
		if name == "beginStructure" {
			return composite, true, nil
		}
		if len(args) == 2 {
			return args[1].Call(&composite, composite)
		}
	}
	return none, false, nil
}

func hostAt(args []eval.Value, i int) eval.Host {
	if i >= len(args) {
		return nil
	}
	return args[i].Host
}

// structure is the CompositeDecoder of an object.
type structure struct {
	c *compiler
	v *wire.Value
	d *descriptor
	i int // of the member that was told last
}

func (s *structure) Is(class string) (bool, bool) { return class == "CompositeDecoder", true }

func (s *structure) Member(name string, args []eval.Value, _ []*model.Type) (eval.Value, bool, error) {
	none := eval.Value{}
	switch name {
	case "decodeElementIndex":
		for s.i++; s.i < len(s.v.Members); s.i++ {
			key := s.v.Members[s.i].Name
			for k, known := range s.d.names {
				if known == key {
					return eval.Int(int64(k)), true, nil
				}
			}
			if !s.c.on("ignoreUnknownKeys") {
				return none, true, eval.ThrownBy(unexpected(decoder.ReasonUnknown, "Encountered an unknown key '%s'", key))
			}
		}
		return eval.Int(-1), true, nil
	case "endStructure":
		return none, true, nil
	case "decodeSequentially":
		return eval.Bool(false), true, nil
	}
	if s.i < 0 || s.i >= len(s.v.Members) {
		return none, false, nil
	}
	at := s.v.Members[s.i].Value
	for read, of := range primitives {
		if name == read+"Element" {
			v, err := s.c.valueOf(&decoder.Node{Op: decoder.OpLeaf, Read: s.c.scalar(of)}, at)
			return v, true, err
		}
	}
	if of, ok := hostAt(args, 2).(strategy); ok && (name == "decodeSerializableElement" || name == "decodeNullableSerializableElement") {
		t := of.t
		if name == "decodeNullableSerializableElement" {
			t = model.OptionalOf(t)
		}
		v, err := s.c.valueOf(s.c.again().value(t), at)
		v.Model = t.Unwrapped().Model
		return v, true, err
	}
	return none, false, nil
}

// engine is the Json that code is handed.
type engine struct{ c *compiler }

func (g engine) Is(class string) (bool, bool) { return class == "Json", true }

func (g engine) Member(name string, args []eval.Value, types []*model.Type) (eval.Value, bool, error) {
	if name != "decodeFromJsonElement" {
		return eval.Value{}, false, nil
	}
	var t *model.Type
	if s, ok := hostAt(args, 0).(strategy); ok && len(args) == 2 {
		t = s.t
	} else if len(types) == 1 && len(args) == 1 {
		t = types[0]
	}
	e, ok := hostAt(args, len(args)-1).(element)
	if t == nil || !ok {
		return eval.Value{}, false, nil
	}
	v, err := g.c.valueOf(g.c.again().value(t), e.v)
	v.Model = t.Unwrapped().Model
	return v, true, err
}

// library are the functions and constants that code names.
type library struct{ c *compiler }

// Static is described at eval.Library.
func (l library) Static(of eval.Value, name string, args []eval.Value, types []*model.Type) (eval.Value, bool, error) {
	none := eval.Value{}
	of1 := func(build func(t *model.Type) *model.Type) (eval.Value, bool, error) {
		s, ok := hostAt(args, 0).(strategy)
		if !ok || len(args) != 1 {
			return none, false, nil
		}
		return eval.HostOf(strategy{build(s.t)}), true, nil
	}
	switch {
	case name == "serializer" && of.Model != nil:
		t := &model.Type{Kind: model.Named, Name: of.Model.Name, Model: of.Model}
		for i := range args {
			s, ok := hostAt(args, i).(strategy)
			if !ok {
				return none, false, nil
			}
			t.Args = append(t.Args, s.t)
		}
		return eval.HostOf(strategy{t}), len(t.Args) == len(of.Model.Params), nil
	case name == "serializer" && of.Class != "":
		return eval.HostOf(strategy{&model.Type{Kind: model.Named, Name: of.Class}}), l.c.scalar(of.Class) != nil, nil
	case name == "serializer" && len(types) == 1:
		return eval.HostOf(strategy{types[0]}), true, nil
	case name == "ListSerializer" && of.Class == "" || name == "new" && of.Class == "ListSerializer":
		return of1(func(t *model.Type) *model.Type { return &model.Type{Kind: model.List, Args: []*model.Type{t}} })
	case name == "SetSerializer" && of.Class == "" || name == "new" && of.Class == "SetSerializer":
		return of1(func(t *model.Type) *model.Type { return &model.Type{Kind: model.Unique, Args: []*model.Type{t}} })
	case of.Class == "CompositeDecoder" && name == "DECODE_DONE":
		return eval.Int(-1), true, nil
	case of.Class == "CompositeDecoder" && name == "UNKNOWN_NAME":
		return eval.Int(-3), true, nil
	case of.Class == "Json" && args == nil:
		return none, false, nil
	case name == "PrimitiveSerialDescriptor" && of.Class == "" || name == "new" && of.Class == "PrimitiveSerialDescriptor":
		return eval.HostOf(&descriptor{}), true, nil
	case name == "buildClassSerialDescriptor":
		d := &descriptor{}
		if len(args) == 2 {
			this := eval.HostOf(d)
			if _, known, err := args[1].Call(&this); !known || err != nil {
				return none, false, err
			}
		}
		return eval.HostOf(d), true, nil
	case name == "new" && of.Class == "JsonArray" && len(args) == 1 && args[0].Items != nil:
		list := &wire.Value{Kind: wire.Array}
		for _, item := range *args[0].Items {
			e, ok := item.Host.(element)
			if !ok {
				return none, false, nil
			}
			list.Elems = append(list.Elems, e.v)
		}
		return eval.HostOf(element{l.c, list}), true, nil
	case name == "new" && of.Class == "JsonPrimitive" && len(args) == 1:
		switch s := args[0].Seen; s.Kind {
		case decoder.SeenString:
			return eval.HostOf(element{l.c, jvm.StringValue(s.Text)}), true, nil
		case decoder.SeenInt:
			return eval.HostOf(element{l.c, &wire.Value{Kind: wire.Number, Raw: []byte(s.Text)}}), true, nil
		}
	case of.Class == "JsonNull" && args == nil:
		return none, false, nil
	}
	return none, false, nil
}

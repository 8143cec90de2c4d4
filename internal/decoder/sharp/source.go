package sharp

import (
	"slices"
	"strings"
	"sync"

	"vetta/internal/code"
	"vetta/internal/decoder"
	"vetta/internal/decoder/clr"
	"vetta/internal/decoder/survey"
	"vetta/internal/model"
	"vetta/internal/wire"
)

// Options is what a World answers that follows what libraries are told: the settings that an expression says.
type Options interface {
	Options(e *code.Expr, fn *code.Func, library string) *model.Settings
}

// Of is the program that a model is part of, and its type; nil where it was not read from source.
func Of(m *model.Model) (World, *code.Declared) {
	s, ok := m.Source.(interface {
		World() any
		Declared() *code.Declared
	})
	if !ok {
		return nil, nil
	}
	w, ok := s.World().(World)
	if !ok {
		return nil, nil
	}
	return w, s.Declared()
}

// Plans makes the plan by which a library decodes a type, nil for one that is not known.
type Plans func(t *model.Type, library string, settings *model.Settings, from *decoder.Seen) *decoder.Plan

// isHanded says whether options are those that a function is handed.
func isHanded(options *code.Expr, fn *code.Func) bool {
	return options != nil && options.Op == code.Name && fn != nil && slices.ContainsFunc(fn.Params, func(p code.Param) bool { return p.Name == options.Text })
}

func isNone(options *code.Expr) bool {
	return options == nil || options.Op == code.Name && options.Text == "null"
}

// reading are the values that are read with settings that are handed on, each with its type: a converter that asks for
// what it is asked for never ends.
var reading sync.Map

type visit struct {
	v    *wire.Value
	what string
}

// decoding is a Decode that makes plans by what the program tells of options.
func (c *Code) decoding(plans Plans) Decode {
	made := map[string]*decoder.Plan{}
	var lock sync.Mutex
	return func(t *model.Type, v *wire.Value, library string, options *code.Expr, fn *code.Func, from *decoder.Seen) (decoder.Outcome, bool) {
		library, special, _ := strings.Cut(library, "+")
		settings, handed := c.settings(library, special, options, fn)
		if settings == nil {
			return decoder.Outcome{}, false
		}
		key := t.Key() + library + special
		if handed {
			key += "+handed"
			at := visit{v, key}
			if _, again := reading.LoadOrStore(at, true); again {
				return decoder.Outcome{}, false
			}
			defer reading.Delete(at)
		}
		kept := from == nil && (options == nil || handed)
		lock.Lock()
		p := made[key]
		lock.Unlock()
		if p == nil || !kept {
			if p = plans(t, library, settings, from); p == nil || p.Refuses != "" {
				return decoder.Outcome{}, false
			}
		}
		lock.Lock()
		if kept {
			made[key] = p
		}
		c.used = p
		lock.Unlock()
		out := p.Decode(v)
		if out.Err == nil && len(out.Unknown) > 0 && len(out.Unknown[0]) == 0 {
			return out, false
		}
		return out, true
	}
}

// settings are those that options in the code of a function say, and whether they are the ones that the library hands
// on; nil where they are not known.
func (c *Code) settings(library, special string, options *code.Expr, fn *code.Func) (settings *model.Settings, handed bool) {
	if o, ok := c.World.(Options); ok {
		settings = o.Options(options, fn, library)
	}
	switch {
	case special == "web" && options == nil:
		settings = &model.Settings{Library: library, Options: map[string]model.Option{"PropertyNameCaseInsensitive": {Value: "true"}, "PropertyNamingPolicy": {Value: "CamelCase"}, "NumberHandling": {Value: "AllowReadingFromString"}}}
	case settings == nil && isHanded(options, fn) && c.handed != nil && c.handed.Library == library:
		settings, handed = c.handed, true
	case settings == nil && (isNone(options) || isHanded(options, fn)):
		settings = &model.Settings{Library: library, Options: map[string]model.Option{}}
	case settings == nil:
		return nil, false
	}
	if special == "tokens" || special == "names" {
		own := *settings
		own.Options = map[string]model.Option{special: {Value: "true"}}
		for k, o := range settings.Options {
			own.Options[k] = o
		}
		settings = &own
	}
	return settings, handed
}

// Converter is a class of the app's that reads values of a type in a library's place.
type Converter struct {
	Class *code.Declared
	read  *code.Func
	in    *code.Declared
	text  bool // of Newtonsoft's
	makes bool // it makes the instance alone, which the library fills (CustomCreationConverter)
	Of    *model.Type
	Nulls bool // it is asked for null
	Fresh bool // nothing stands yet where what it reads will
	types map[string]*model.Type
}

// ConverterOf is the converter that a name means where it is written; nil for none that is followed.
func ConverterOf(w World, name string, args []*model.Type, at code.At) *Converter {
	d := w.Named(name, len(args), at)
	if d == nil {
		return nil
	}
	m := New(w, nil)
	c := &Converter{Class: d, types: map[string]*model.Type{}}
	for i, p := range d.Params {
		if i < len(args) {
			c.types[p] = args[i]
		}
	}
	if c.read, c.in = m.methodOf(d, "Read", 3); c.read == nil {
		if c.read, c.in = m.methodOf(d, "ReadJson", -1); c.read == nil && extends(d, "CustomCreationConverter") {
			c.read, c.in = m.methodOf(d, "Create", 1)
			c.makes = true
		}
		if c.read == nil {
			return nil
		}
		c.text = true
	}
	for of := d; of != nil; of = m.super(of) {
		for _, part := range of.Parts {
			for _, t := range part.Supers {
				if (model.SimpleName(t.Name) == "JsonConverter" || model.SimpleName(t.Name) == "CustomCreationConverter") && len(t.Args) == 1 {
					c.Of = w.Resolve(t.Args[0], code.At{File: part.File, Space: of.Space, In: of}).Bind(c.types)
				}
			}
			for _, p := range part.Props {
				if p.Name == "HandleNull" && p.Get != nil && len(p.Get.Do()) == 1 && p.Get.Do()[0].Value != nil && p.Get.Do()[0].Value.Text == "true" {
					c.Nulls = true
				}
			}
		}
	}
	return c
}

// typ is the converter's own type.
func (c *Converter) typ() *model.Type {
	t := &model.Type{Kind: model.Named, Name: c.Class.Name, Model: c.Class.Model}
	for _, p := range c.Class.Params {
		if c.types[p] != nil {
			t.Args = append(t.Args, c.types[p])
		}
	}
	return t
}

// CanConvert says whether a converter that is asked which types it reads takes one; known is false where that is not
// followed.
func (c *Converter) CanConvert(w World, t *model.Type) (can, known bool) {
	if c.Of != nil {
		return c.Of.Unwrapped().Key() == t.Key(), true
	}
	m := New(w, nil)
	fn, in := m.methodOf(c.Class, "CanConvert", 1)
	if fn == nil {
		return false, false
	}
	this := m.blank(c.Class, c.typ())
	out, err := m.Call(fn, in, &this, c.types, []Value{{Kind: Class, Ref: &typed{t: t, d: m.declared(t)}}})
	return out.isTrue(), err == nil && out.Kind == Bool
}

// Read is what the converter makes of a value: args are what its constructor is given.
func (c *Converter) Read(w World, decode Decode, v *wire.Value, t *model.Type) decoder.Verdict {
	m := New(w, decode)
	m.left = maxSteps
	this := m.blank(c.Class, c.typ())
	if fn, given := m.constructor(c.Class, nil, nil); fn != nil || given == nil {
		if err := m.build(this, c.Class, fn, given, c.types); err != nil {
			return verdict(Value{}, err)
		}
	}
	r := newReader(v, c.text, true)
	reader := Value{Kind: Host, Ref: r}
	class := Value{Kind: Class, Ref: &typed{t: t, d: m.declared(t)}}
	if c.makes {
		return c.filled(m, v, &this, class)
	}
	options := Value{Kind: Host, Ref: &serializer{text: c.text}}
	args := []Value{reader, class, options}
	if !c.text && len(c.read.Params) == 3 {
		args[0] = Value{Kind: Cell, Ref: &reader}
	}
	if c.text {
		existing, has := m.zero(t), BoolOf(false)
		if !c.Fresh && clr.IsValue(t) && t.Kind != model.Optional { // what the member holds is not told here
			existing, has = unknownValue(), unknownValue()
		}
		if len(c.read.Params) == 5 {
			args = []Value{reader, class, existing, has, options}
		} else {
			args = []Value{reader, class, existing, options}
		}
	}
	out, err := m.Call(c.read, c.in, &this, c.types, args)
	end := 0
	if v.Kind >= wire.Array {
		end = len(r.events) - 1
	}
	if err == nil && r.at != end {
		if c.text { // the library goes on with what it has left
			return decoder.Verdict{Seen: decoder.Seen{Kind: decoder.SeenUnknown}}
		}
		return decoder.Verdict{Err: &decoder.Error{Kind: "JsonException", Reason: decoder.ReasonCode, Message: "JsonException: The converter '" + c.Class.Name + "' read too much or not enough. Path: " + decoder.PathMark + "."}}
	}
	return verdict(out, err)
}

// filled is an instance that the converter makes and the library fills.
func (c *Converter) filled(m *Machine, v *wire.Value, this *Value, class Value) decoder.Verdict {
	if v.Kind == wire.Null {
		return decoder.Verdict{}
	}
	out, err := m.Call(c.read, c.in, this, c.types, []Value{class})
	if err == nil && out.Kind != Instance {
		err = unfollowed("what is made", c.read.Pos)
	}
	if err == nil {
		err = m.populate(out, v, nil, &code.Expr{Pos: c.read.Pos}, &frame{fn: c.read, class: c.in})
	}
	return verdict(out, err)
}

// serializer is the options or the serializer that a converter is handed, or one that is made, of options perhaps.
type serializer struct {
	text    bool
	options *code.Expr
}

func (s *serializer) is(name string) (bool, bool) {
	return name == "JsonSerializerOptions" || name == "JsonSerializer", true
}

func (s *serializer) call(m *Machine, name string, args []Value, types []*model.Type, x *code.Expr, f *frame) (Value, bool, error) {
	if name == "Populate" && len(args) == 2 {
		r, ok := args[0].Ref.(*reader)
		if !ok || args[1].Kind != Instance {
			return Value{}, false, nil
		}
		err := m.populate(args[1], r.current(), s.options, x, f)
		r.skip()
		return Value{}, true, err
	}
	if name == "Deserialize" && len(args) > 0 {
		r, ok := args[0].Ref.(*reader)
		if !ok {
			return Value{}, false, nil
		}
		var t *model.Type
		if len(types) == 1 {
			t = types[0]
		} else if len(args) > 1 && args[1].Kind == Class {
			t = args[1].Ref.(*typed).t
		}
		if t == nil {
			return Value{}, false, nil
		}
		if s.options != nil {
			x = &code.Expr{Op: code.Call, Args: []*code.Expr{x.Args[0], s.options}, Labels: []string{"$options"}, Pos: x.Pos}
		}
		v, err := m.decoded(t, r.current(), newtonsoftJSON, x, f)
		r.skip()
		return v, true, err
	}
	return Value{}, false, nil
}

// populate reads a value into an instance that is there, as Newtonsoft.Json does.
func (m *Machine) populate(into Value, v *wire.Value, options *code.Expr, x *code.Expr, f *frame) error {
	o := into.object()
	before := SeenOf(into)
	if o.Type == nil || m.decode == nil || before.Kind != decoder.SeenObject {
		return unfollowed("what is populated", x.Pos)
	}
	out, ok := m.decode(o.Type, v, newtonsoftJSON, options, f.fn, &before)
	if !ok || len(out.Unknown) > 0 {
		return unfollowed("what is populated", x.Pos)
	}
	if out.Err != nil {
		at := v
		for _, s := range out.At {
			at = at.At(s)
		}
		return &Thrown{Class: out.Err.Kind, Message: out.Err.Message, At: at, Cause: out.Err}
	}
	read, ok := m.ValueOf(out.Seen, o.Type).Ref.(*Object)
	if !ok {
		return unfollowed("what is populated", x.Pos)
	}
	for name, value := range read.Fields {
		if at := o.Fields[name]; at != nil {
			*at = *value
		}
	}
	return nil
}

// verdict is what code came to, as a library passes it on.
func verdict(v Value, err error) decoder.Verdict {
	if t, ok := err.(*Thrown); ok {
		return decoder.Verdict{Err: t.Err()}
	}
	if err != nil {
		return decoder.Verdict{Seen: decoder.Seen{Kind: decoder.SeenUnknown}}
	}
	return decoder.Verdict{Seen: SeenOf(v)}
}

// Err is the exception as an error of decoding.
func (t *Thrown) Err() *decoder.Error {
	if t.Cause != nil {
		return t.Cause
	}
	return &decoder.Error{Kind: t.Class, Reason: reasonOf(t), Message: t.Error()}
}

// reasonOf is what is wrong, by the class of an exception.
func reasonOf(t *Thrown) decoder.Reason {
	switch t.Class {
	case "KeyNotFoundException":
		return decoder.ReasonMissing
	case "InvalidOperationException", "InvalidCastException":
		return decoder.ReasonKind
	case "FormatException":
		return decoder.ReasonText
	case "OverflowException":
		return decoder.ReasonRange
	case "ArgumentNullException", "NullReferenceException":
		return decoder.ReasonNull
	}
	return decoder.ReasonCode
}

// Make makes an instance of a class as a library does: by a constructor, of what it is given, then by setting members,
// then by what the class does when it has been read. hooks are the names of those methods, before and after.
func Make(w World, decode Decode, d *code.Declared, t *model.Type, ctor *model.Method, args []decoder.Seen, types []*model.Type, set []string, vals []decoder.Seen, of []*model.Type, before, after []string) (decoder.Seen, *decoder.Error) {
	m := New(w, decode)
	m.left = maxSteps
	unknown := decoder.Seen{Kind: decoder.SeenUnknown}
	v := m.blank(d, t)
	var fn *code.Func
	if ctor != nil {
		for _, c := range d.Parts {
			for _, f := range c.Funcs {
				if f.Init && f.Pos == ctor.Pos {
					fn = f
				}
			}
		}
	}
	var given []Value
	for i, a := range args {
		if a.Kind == decoder.SeenUnknown {
			return unknown, nil
		}
		given = append(given, m.ValueOf(a, types[i]))
	}
	var err error
	if d.Kind() != "struct" && d.Kind() != "record struct" || fn != nil {
		err = m.build(v, d, fn, given, typesOf(v.object()))
	}
	run := func(names []string) {
		for _, name := range names {
			if fn, in := m.callback(d, name); fn != nil && err == nil {
				args := make([]Value, len(fn.Params))
				_, err = m.run(fn, &frame{fn: fn, class: in, this: &v, types: m.typesIn(v.object(), in)}, nil, args)
			}
		}
	}
	run(before)
	for i, name := range set {
		if err != nil {
			break
		}
		if vals[i].Kind == decoder.SeenLeftOut {
			continue
		}
		_, err = m.setMember(&v, name, m.ValueOf(vals[i], of[i]), &frame{class: d, this: &v})
	}
	run(after)
	if thrown, ok := err.(*Thrown); ok {
		return unknown, thrown.Err()
	}
	if err != nil {
		return unknown, nil
	}
	s := SeenOf(v)
	out := decoder.Seen{Kind: s.Kind, Type: s.Type}
	for i, name := range s.Names {
		if !strings.HasPrefix(name, "$") {
			out.Names, out.Elems = append(out.Names, name), append(out.Elems, s.Elems[i])
		}
	}
	return out, nil
}

// Run runs an entry on a document; what it asks values for goes into asked, unless that is nil.
func Run(fn *code.Func, class *code.Declared, w World, decode Decode, doc *wire.Value, text []byte, asked map[*wire.Value]*survey.Asked) (Value, *Machine, error) {
	m := New(w, decode)
	m.left, m.asked = maxSteps, asked
	var this *Value
	if !fn.Static && class != nil {
		v := m.blank(class, &model.Type{Kind: model.Named, Name: class.Name, Model: class.Model})
		this = &v
		ctor, given := m.constructor(class, nil, nil)
		if ctor == nil { // made of a client, say
			for _, c := range class.Parts {
				for _, f := range c.Funcs {
					if f.Init && ctor == nil {
						ctor = f
						for range f.Params {
							given = append(given, Stream(text, doc))
						}
					}
				}
			}
		}
		if err := m.build(v, class, ctor, given, nil); err != nil {
			return Value{}, m, err
		}
	}
	var args []Value
	for i := range fn.Params {
		p := &fn.Params[i]
		name := ""
		if p.Type != nil {
			name = model.SimpleName(p.Type.Unwrapped().Name)
		}
		node, isNode := handedNode(doc, name)
		switch {
		case isNode:
			args = append(args, node)
		case name == "string":
			args = append(args, Document(text, doc))
		case name == "JsonElement" || name == "JsonDocument":
			args = append(args, elementOf(doc))
		case name == "JsonNode" || name == "JsonObject" || name == "JsonArray":
			args = append(args, nodeOf(doc))
		case name == "JToken" || name == "JObject" || name == "JArray":
			args = append(args, tokenOf(doc))
		case p.Default != nil:
			args = append(args, Value{Kind: Default})
		default:
			args = append(args, Stream(text, doc))
		}
	}
	m.calls = 0
	v, err := m.run(fn, &frame{fn: fn, class: class, this: this}, nil, args)
	return v, m, err
}

package sharp

import (
	"slices"
	"strings"
	"sync"

	"vetta/internal/code"
	"vetta/internal/decoder"
	"vetta/internal/decoder/clr"
	"vetta/internal/model"
	"vetta/internal/wire"
)

// PlanOf makes the plan by which a library decodes a type; the list of libraries sets it.
var PlanOf Plans

// Code is the code of the program that a plan is of, for a library that meets it.
type Code struct {
	World  World
	decode Decode
	lock   sync.Mutex
	handed *model.Settings // what the library hands on to code of the app's, nil where that is not told
	used   *decoder.Plan   // the plan by which the code had something decoded last
}

// Under says with which settings the library asks the code: those that a converter is handed. It answers c.
func (c *Code) Under(settings *model.Settings) *Code {
	if c != nil {
		c.handed = settings
	}
	return c
}

// CodeOf is that of the program of a type, nil where no class of the source is named.
func CodeOf(t *model.Type) (c *Code) {
	t.Walk(func(t *model.Type) {
		if c == nil && t.Model != nil {
			if w, _ := Of(t.Model); w != nil {
				c = codeOf(w)
			}
		}
	})
	return c
}

// codeOf is the code of a program, nil where it is none.
func codeOf(program any) *Code {
	w, ok := program.(World)
	if !ok {
		return nil
	}
	c := &Code{World: w}
	c.decode = c.decoding(PlanOf)
	return c
}

// Converter is the converter that an adapter names by its Form, with type arguments in its Delegates; nil for none that
// is followed.
func (c *Code) Converter(a *model.Adapter) *Converter {
	if c == nil || a == nil || a.Form == "" {
		return nil
	}
	return ConverterOf(c.World, a.Form, a.Delegates, code.At{})
}

// Renamed is what a method of a class of the app's makes of a name; ok is false where that is not followed.
func (c *Code) Renamed(class, method, name string) (renamed string, ok bool) {
	if c == nil {
		return name, false
	}
	c.lock.Lock()
	defer c.lock.Unlock()
	d := c.World.Named(class, 0, code.At{})
	if d == nil {
		return name, false
	}
	m := New(c.World, c.decode)
	m.left = maxSteps
	fn, in := m.methodOf(d, method, 1)
	if fn == nil {
		return name, false
	}
	t := &model.Type{Kind: model.Named, Name: d.Name, Model: d.Model}
	this := m.blank(d, t)
	if k, given := m.constructor(d, nil, nil); k != nil || given == nil {
		if err := m.build(this, d, k, given, nil); err != nil {
			return name, false
		}
	}
	out, err := m.Call(fn, in, &this, map[string]*model.Type{}, []Value{TextOf(name)})
	return out.Text, err == nil && out.Kind == String
}

// DateFormat is the format that a class of the app's gives the IsoDateTimeConverter that it extends, made with some
// arguments; ok is false for another class, and where that is not told by one constant or argument.
func (c *Code) DateFormat(class string, args []string) (format string, ok bool) {
	if c == nil {
		return "", false
	}
	d := c.World.Named(class, 0, code.At{})
	if d == nil || !extends(d, "IsoDateTimeConverter") {
		return "", false
	}
	for _, part := range d.Parts {
		for _, fn := range part.Funcs {
			if !fn.Init || len(fn.Params) != len(args) {
				continue
			}
			for _, st := range fn.Do() {
				if st.Op != code.Assign || st.Name != "DateTimeFormat" || st.Value == nil {
					continue
				}
				switch v := st.Value; v.Op {
				case code.Text:
					return v.Text, true
				case code.Name:
					for i, p := range fn.Params {
						if p.Name == v.Text {
							return args[i], true
						}
					}
				}
			}
		}
	}
	return "", false
}

// MarkedBy is the converter that an attribute names.
func MarkedBy(mark *model.Annotation) *model.Adapter {
	arg := mark.Arg("value")
	if len(arg.Texts) == 0 {
		arg = mark.Arg("types")
	}
	if len(arg.Texts) == 0 {
		return nil
	}
	a := &model.Adapter{Name: model.SimpleName(arg.Texts[0]), Form: arg.Texts[0]}
	if len(arg.Types) > 0 && arg.Types[0] != nil {
		a.Delegates = arg.Types[0].Args
	}
	return a
}

// Node is what a converter makes of a value of a type, null among them.
func (c *Code) Node(conv *Converter, t *model.Type, null *decoder.Error) *decoder.Node {
	u := t.Unwrapped()
	leaf := &decoder.Node{Op: decoder.OpLeaf, MindsText: true, Inside: true, Type: t.Written(), Model: enumOrNone(u), Read: func(v *wire.Value) decoder.Verdict {
		c.lock.Lock()
		defer c.lock.Unlock()
		if conv.text && t.Kind == model.Optional && clr.IsValue(u) {
			return conv.Read(c.World, c.decode, v, t)
		}
		return conv.Read(c.World, c.decode, v, u)
	}}
	if conv.Nulls || conv.text || clr.IsValue(u) && t.Kind != model.Optional {
		return leaf
	}
	return &decoder.Node{Op: decoder.OpNil, Inner: leaf, Type: t.Written(), NullError: null}
}

func enumOrNone(t *model.Type) *model.Model {
	if t.Model != nil && t.Model.Kind == model.Enum {
		return t.Model
	}
	return nil
}

// Part is a member that is read for an instance that code makes.
type Part struct {
	Field *model.Field
	Type  *model.Type
	Node  *decoder.Node // an OpAt; what is absent is SeenLeftOut, unless it is a parameter's
	Param int           // of the constructor, -1 for one that is set
	Name  string        // of the member that is set
}

// Made is the node for an instance that code makes of its parts: by its constructor, setters and hooks.
func (c *Code) Made(t *model.Type, build *decoder.Node, ctor *model.Method, parts []Part, before, after []string) *decoder.Node {
	_, d := Of(t.Model)
	raw := *build
	raw.Props, raw.Steps, raw.Rest = nil, nil, nil
	for i, p := range parts {
		raw.Props = append(raw.Props, p.Field)
		raw.Steps = append(raw.Steps, decoder.Step{Property: i, Node: p.Node})
	}
	return &decoder.Node{Op: decoder.OpMade, Inner: &raw, Type: build.Type, Make: func(s decoder.Seen) (decoder.Seen, *decoder.Error) {
		c.lock.Lock()
		defer c.lock.Unlock()
		var args []decoder.Seen
		var types []*model.Type
		if ctor != nil {
			args, types = make([]decoder.Seen, len(ctor.Params)), make([]*model.Type, len(ctor.Params))
			for i, p := range ctor.Params {
				types[i] = p.Type.Bind(t.Env())
			}
		}
		var set []string
		var vals []decoder.Seen
		var of []*model.Type
		for i, p := range parts {
			if p.Param >= 0 {
				args[p.Param] = s.Elems[i]
				continue
			}
			set, vals, of = append(set, p.Name), append(vals, s.Elems[i]), append(of, p.Type)
		}
		return Make(c.World, c.decode, d, t, ctor, args, types, set, vals, of, before, after)
	}}
}

// NeedsCode says whether what an instance holds hangs on code of its class: a constructor that computes, a setter that
// does more than set, an initialiser that is not a constant.
func NeedsCode(t *model.Type, k *model.Method) bool {
	if w, _ := Of(t.Model); w == nil {
		return false
	}
	if k != nil {
		if len(k.Computes) > 0 || k.Throws || len(k.Fills) > 0 && slices.Contains(k.Fills[:len(k.Params)], "") {
			return true
		}
	}
	for i, s := range clr.Chain(t) {
		for _, f := range s.Model.Fields {
			if f.Static {
				continue
			}
			if p := f.Property; p != nil && p.Set != 0 && len(p.Writes) > 0 {
				return true
			}
			if clr.Stored(f) && f.Default != nil && clr.Literal(f.Default, f.Type.Bind(s.Env())).Kind == decoder.SeenUnknown && f.Type.Kind != model.Opaque {
				return true
			}
		}
		if i > 0 {
			for _, base := range s.Model.Ctors {
				if len(base.Computes) > 0 || base.Throws {
					return true
				}
			}
		}
	}
	return false
}

// Conforms says whether a class, or one that it extends, is declared to be of a type of that name.
func Conforms(t *model.Type, name string) bool {
	for _, s := range clr.Chain(t) {
		for _, c := range s.Model.Conforms {
			bare, _, _ := strings.Cut(strings.TrimSuffix(c, "?"), "<")
			if model.SimpleName(bare) == name {
				return true
			}
		}
	}
	return false
}

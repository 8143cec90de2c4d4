package foundation

import (
	"fmt"
	"strconv"

	"vetta/internal/decoder"
	"vetta/internal/model"
	"vetta/internal/wire"
)

// byCode is the node for a type whose initialiser was followed.
func (c *compiler) byCode(t *model.Type) *decoder.Node {
	m, env := t.Model, t.Env()
	n := &decoder.Node{Op: decoder.OpBuild, OwnPath: true, Model: m, Endless: decoder.EndlessError("stack overflow: the program ends", decoder.OfItself(m))}
	b := &builder{compiler: c, node: n, env: env, typ: t, assigned: map[string]bool{}}
	super := c.super(t)
	if super != nil && !super.Model.Decodable {
		c.keep(n, super)
	}
	if super != nil && super.Model.Decodable {
		b.inherited = c.value(super, super.Name)
		if b.inherited.Op == decoder.OpKeyed {
			b.inherited = b.inherited.Inner
		}
		if b.inherited == nil || b.inherited.Op != decoder.OpBuild {
			return unknown(fmt.Sprintf("%s: its superclass %s is read in a way that is not followed", m.Name, super.Name))
		}
		n.Props = append(n.Props, b.inherited.Props...)
	}
	b.base = len(n.Props)
	n.Props = append(n.Props, m.Fields...)
	steps := b.steps(m.Steps)
	// Fields that no statement assigns keep their initial values; those that only
	// some branch assigns start with them.
	for i, f := range m.Fields {
		n.Steps = append(n.Steps, decoder.Step{Property: b.base + i, Node: kept(f, f.Type.Bind(env))})
		if b.assigned[f.Name] || b.assigned[model.SelfField] {
			n.Steps[len(n.Steps)-1].Node.Field = nil
		}
	}
	n.Steps = append(n.Steps, steps...)
	return n
}

// builder makes the steps of a node from those of hand-written code.
type builder struct {
	*compiler
	node      *decoder.Node
	env       map[string]*model.Type
	typ       *model.Type
	inherited *decoder.Node // the build of the superclass
	base      int           // index of the model's first own property
	assigned  map[string]bool
	wanted    *model.Type // of self, where it is not the model's own type
}

func (b *builder) steps(steps []model.Step) (out []decoder.Step) {
	for _, s := range steps {
		step := decoder.Step{Property: -1, Return: s.Return, Do: s.Do}
		if s.Expr != nil && s.Expr.Op == model.OpSuper {
			if b.inherited != nil {
				out = append(out, decoder.Step{Property: -1, Node: &decoder.Node{Op: decoder.OpKeyed, Wrong: wrong(dictionary), Match: b.match}})
				for _, inner := range b.inherited.Steps {
					inner.Node = b.keyed(&model.Expr{}, inner.Node)
					out = append(out, inner)
				}
			}
			continue
		}
		if s.Cond != nil {
			step.Cond = b.expr(s.Cond, b.env, boolType)
		}
		step.Then, step.Else = b.steps(s.Then), b.steps(s.Else)
		if s.Expr != nil {
			var want *model.Type
			for i, f := range b.typ.Model.Fields {
				if f.Name == s.Field {
					step.Property, want = b.base+i, f.Type.Bind(b.env)
					b.assigned[f.Name] = true
				}
			}
			if s.Field == model.SelfField {
				step.Property, want = decoder.WholeValue, b.typ
				b.assigned[model.SelfField] = true
				if b.wanted != nil {
					want = b.wanted
				}
			}
			step.Node = b.expr(s.Expr, b.env, want)
			if step.Property == decoder.WholeValue && step.Node.Op == decoder.OpUnknown {
				step.Node.Opaque = true // what it is made of may be any of the keys
			}
			if step.Property >= b.base {
				step.Node.Field = b.typ.Model.Fields[step.Property-b.base]
			}
			if step.Property == -1 && step.Node.Op == decoder.OpUnknown {
				continue // a value that only unknown ones are made of
			}
		}
		out = append(out, step)
	}
	return out
}

var boolType = &model.Type{Name: "Bool"}

// custom is the node for a scalar that a closure of the app's own decodes: one that
// was given to a .custom strategy and followed.
func (c *compiler) custom(option string, t *model.Type) *decoder.Node {
	m := &model.Model{Name: t.Name, Decodable: true, Reading: model.ByCode, Steps: c.settings.Custom[option]}
	n := &decoder.Node{Op: decoder.OpBuild, OwnPath: true, Model: m, Anonymous: true}
	b := &builder{compiler: c, node: n, typ: &model.Type{Name: t.Name, Model: m}, assigned: map[string]bool{}, wanted: t}
	notNull := &decoder.Node{Op: decoder.OpLeaf, Read: func(v *wire.Value) decoder.Verdict {
		if v.Kind == wire.Null { // refused before any strategy is asked
			return decoder.Verdict{Err: valueNotFound(t.Name)}
		}
		return decoder.Verdict{}
	}}
	n.Steps = append([]decoder.Step{{Property: -1, Node: notNull}}, b.steps(m.Steps)...)
	return n
}

// deferredData is the node for Data that decodes itself: a list of bytes.
func (c *compiler) deferredData() *decoder.Node {
	list := c.value(&model.Type{Kind: model.List, Args: []*model.Type{{Name: "UInt8"}}}, "[UInt8]")
	return &decoder.Node{Op: decoder.OpCall, Args: []*decoder.Node{list}, Name: "Data", Call: func(args []decoder.Seen, _ func(decoder.Seen) decoder.Seen) decoder.Seen {
		out := decoder.Seen{Kind: decoder.SeenBytes}
		for _, e := range args[0].Elems {
			if n, err := strconv.Atoi(e.Text); err == nil {
				out.Text += string([]byte{byte(n)})
			}
		}
		return out
	}}
}

// keyed makes a node be evaluated in the keyed container of the current value, which a step before has asked
// for unless the expression does.
func (c *compiler) keyed(e *model.Expr, n *decoder.Node) *decoder.Node {
	return &decoder.Node{Op: decoder.OpKeyed, Wrong: wrong(dictionary), Match: c.match, Inner: n, Assured: e.Container == ""}
}

// fromMap is the node for a model that code reads from a [String: Any]: what is
// none gives no instance.
func (c *compiler) fromMap(t *model.Type) *decoder.Node {
	outer := c.match
	c.match = canonical
	build := c.byCode(t)
	c.match = outer
	return &decoder.Node{Op: decoder.OpKeyed, OwnPath: true, Wrong: castError("Dictionary<String, Any>"), Inner: build, Lossy: true, Model: t.Model}
}

// expr is the node for an expression of hand-written code. want is the type of
// what the value is assigned to, nil if it is not known.
func (c *compiler) expr(e *model.Expr, env map[string]*model.Type, want *model.Type) *decoder.Node {
	arg := func(i int, want *model.Type) *decoder.Node { return c.expr(e.Args[i], env, want) }
	switch e.Op {
	case model.OpDecode:
		inner := c.value(e.Type.Bind(env), e.Declared)
		return &decoder.Node{Op: decoder.OpDo, Inner: inner, Type: e.Declared}
	case model.OpContainer:
		switch e.Container {
		case model.Keyed:
			return &decoder.Node{Op: decoder.OpKeyed, Wrong: wrong(dictionary), Match: c.match}
		case model.Unkeyed:
			// The elements are read one by one; here it only must be an array.
			return &decoder.Node{Op: decoder.OpList, Wrong: wrong(array), Inner: &decoder.Node{Op: decoder.OpConst}}
		}
		return &decoder.Node{Op: decoder.OpConst}
	case model.OpAt, model.OpAtIf:
		at := &decoder.Node{Op: decoder.OpAt, Name: canonical(e.Key), Inner: arg(0, want)}
		at.Type = at.Inner.Type
		if e.Op == model.OpAt {
			at.Missing = keyNotFound(e.Key)
		} else {
			at.NullNil = true
		}
		keyed := c.keyed(e, at)
		if e.Lossy { // a subscript behind a cast that has given nothing
			keyed.Lossy, keyed.Wrong, keyed.Match = true, castError("Dictionary<String, Any>"), canonical
		}
		return keyed
	case model.OpElem:
		inner := arg(0, want)
		elem := &decoder.Node{Op: decoder.OpElem, Index: e.Index, Inner: inner, Type: inner.Type, Missing: valueNotFound(inner.Type)}
		if e.Container != "" {
			elem.Wrong = wrong(array)
		}
		return elem
	case model.OpTry:
		return &decoder.Node{Op: decoder.OpTry, Inner: arg(0, want)}
	case model.OpElse:
		return &decoder.Node{Op: decoder.OpElse, Inner: arg(0, want), Second: arg(1, want)}
	case model.OpCatch:
		return &decoder.Node{Op: decoder.OpCatch, Inner: arg(0, want), Second: arg(1, want)}
	case model.OpIf:
		return &decoder.Node{Op: decoder.OpIf, Inner: arg(0, boolType), Second: arg(1, want), Third: arg(2, want)}
	case model.OpConst:
		t := want
		if e.Type != nil {
			t = e.Type.Bind(env)
		}
		return &decoder.Node{Op: decoder.OpConst, Value: Constant(e.Value, t)}
	case model.OpHas:
		return c.keyed(e, &decoder.Node{Op: decoder.OpHas, Name: canonical(e.Key)})
	case model.OpIsNull:
		return &decoder.Node{Op: decoder.OpIsNull}
	case model.OpEach, model.OpEachKey:
		return c.each(e, env)
	case model.OpCast:
		return c.cast(e.Type.Bind(env))
	case model.OpMake:
		return c.makeCase(e, env, want)
	case model.OpNew:
		return c.makeNew(e, env)
	case model.OpCall:
		return c.function(e, env, want)
	case model.OpFail:
		return &decoder.Node{Op: decoder.OpFail, Error: &decoder.Error{Kind: "code", Reason: decoder.ReasonCode, Message: e.Why}}
	}
	return unknown(e.Why)
}

func (c *compiler) each(e *model.Expr, env map[string]*model.Type) *decoder.Node {
	inner := c.expr(e.Args[0], env, nil)
	if e.Op == model.OpEachKey {
		converted := e.Func != "cast" && c.settings.Option("keys") == "convertFromSnakeCase" // by the container
		members := &decoder.Node{Op: decoder.OpMap, Wrong: wrong(dictionary), Inner: inner, Lossy: e.Lossy,
			Key: func(name string) (decoder.Seen, *decoder.Error) {
				if converted {
					name = ConvertFromSnakeCase(name)
				}
				return decoder.Seen{Kind: decoder.SeenString, Text: name}, nil
			}}
		if e.Func == "cast" {
			members.Wrong, members.Whole = castError("Dictionary<String, Any>"), true
			return &decoder.Node{Op: decoder.OpTry, Inner: members}
		}
		return members
	}
	list := &decoder.Node{Op: decoder.OpList, Wrong: wrong(array), Inner: inner, Lossy: e.Lossy}
	if e.Func == "cast" {
		// The list is cast before its elements are read: one that is no map makes
		// the whole cast fail.
		list.Wrong, list.Whole = castError("Array<Any>"), true
		return &decoder.Node{Op: decoder.OpTry, Inner: list}
	}
	return list
}

// makeCase is the node for Type.case(values).
func (c *compiler) makeCase(e *model.Expr, env map[string]*model.Type, want *model.Type) *decoder.Node {
	t := want
	if e.Type != nil {
		t = e.Type.Bind(env)
	}
	if t == nil || t.Unwrapped().Model == nil {
		return unknown("the case " + e.Func)
	}
	t = t.Unwrapped()
	for _, mc := range t.Model.Cases {
		if mc.Name != e.Func || len(mc.Values) != len(e.Args) {
			continue
		}
		n := &decoder.Node{Op: decoder.OpCall}
		var names []string
		for i, v := range mc.Values {
			n.Args = append(n.Args, c.expr(e.Args[i], env, v.Type.Bind(t.Env())))
			names = append(names, v.Name)
		}
		n.Call = func(args []decoder.Seen, _ func(decoder.Seen) decoder.Seen) decoder.Seen {
			return decoder.Seen{Kind: decoder.SeenCase, Text: mc.Name, Type: t.Model.Name, Names: names, Elems: args}
		}
		return n
	}
	return unknown("the case " + e.Func)
}

// makeNew is the node for Type(field: value, …).
func (c *compiler) makeNew(e *model.Expr, env map[string]*model.Type) *decoder.Node {
	m := e.Type.Model
	if m == nil {
		return unknown("the initialiser of " + e.Type.Name)
	}
	n := &decoder.Node{Op: decoder.OpCall}
	var names []string
	given := map[string]int{}
	for i, name := range e.Names {
		given[name] = i
	}
	for _, f := range m.Fields {
		names = append(names, f.Name)
		if i, ok := given[f.Name]; ok {
			n.Args = append(n.Args, c.expr(e.Args[i], env, f.Type))
			delete(given, f.Name)
		} else {
			n.Args = append(n.Args, kept(f, f.Type))
		}
	}
	if len(given) > 0 {
		return unknown("the initialiser of " + m.Name)
	}
	n.Call = func(args []decoder.Seen, _ func(decoder.Seen) decoder.Seen) decoder.Seen {
		return decoder.Seen{Kind: decoder.SeenObject, Type: m.Name, Names: names, Elems: args}
	}
	return n
}

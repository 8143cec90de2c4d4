package foundation

import (
	"fmt"
	"strconv"

	"vetta/internal/decoder"
	"vetta/internal/model"
)

// byCode is the node for a type whose init(from:) was followed.
func (c *compiler) byCode(t *model.Type) *decoder.Node {
	m, env := t.Model, t.Env()
	n := &decoder.Node{Op: decoder.OpBuild, OwnPath: true, Model: m}
	super := c.super(t)
	if super != nil && !super.Model.Decodable {
		c.keep(n, super)
	}
	base := len(n.Props)
	var inherited *decoder.Node
	if super != nil && super.Model.Decodable {
		inherited = c.value(super, super.Name)
		if inherited.Op == decoder.OpKeyed {
			inherited = inherited.Inner
		}
		if inherited == nil || inherited.Op != decoder.OpBuild {
			return unknown(fmt.Sprintf("%s: its superclass %s is read in a way that is not followed", m.Name, super.Name))
		}
		base += len(inherited.Props)
		n.Props = append(n.Props, inherited.Props...)
	}
	n.Props = append(n.Props, m.Fields...)
	assigned := map[string]bool{}
	for _, s := range m.Steps {
		if s.Expr.Op == model.OpSuper {
			if inherited != nil {
				n.Steps = append(n.Steps, decoder.Step{Property: -1, Node: &decoder.Node{Op: decoder.OpKeyed, Wrong: wrong(dictionary), Match: c.match}})
				for _, step := range inherited.Steps {
					step.Node = c.keyed(step.Node)
					n.Steps = append(n.Steps, step)
				}
			}
			continue
		}
		step := decoder.Step{Property: -1}
		var want *model.Type
		for i, f := range m.Fields {
			if f.Name == s.Field {
				step.Property, want = base+i, f.Type.Bind(env)
				assigned[f.Name] = true
			}
		}
		if s.Field == model.SelfField {
			step.Property, want = decoder.WholeValue, t
		}
		step.Node = c.expr(s.Expr, env, want)
		if step.Property >= base {
			step.Node.Field = m.Fields[step.Property-base]
		}
		n.Steps = append(n.Steps, step)
	}
	for i, f := range m.Fields {
		if !assigned[f.Name] {
			n.Steps = append(n.Steps, decoder.Step{Property: base + i, Node: kept(f, f.Type.Bind(env))})
		}
	}
	return n
}

// keyed makes a node be evaluated in the keyed container of the current value,
// which a step before has asked for.
func (c *compiler) keyed(n *decoder.Node) *decoder.Node {
	return &decoder.Node{Op: decoder.OpKeyed, Wrong: wrong(dictionary), Match: c.match, Inner: n, Assured: true}
}

// expr is the node for an expression of hand-written code. want is the type of
// what the value is assigned to, nil if it is not assigned.
func (c *compiler) expr(e *model.Expr, env map[string]*model.Type, want *model.Type) *decoder.Node {
	switch e.Op {
	case model.OpDecode:
		inner := c.value(e.Type.Bind(env), e.Declared)
		return &decoder.Node{Op: decoder.OpDo, Inner: inner, Type: e.Declared}
	case model.OpContainer:
		if e.Container == model.Keyed {
			return &decoder.Node{Op: decoder.OpKeyed, Wrong: wrong(dictionary), Match: c.match}
		}
		return &decoder.Node{Op: decoder.OpConst}
	case model.OpAt, model.OpAtIf:
		at := &decoder.Node{Op: decoder.OpAt, Name: e.Key, Inner: c.expr(e.Args[0], env, want)}
		at.Type = at.Inner.Type
		if e.Op == model.OpAt {
			at.Missing = keyNotFound(e.Key)
		} else {
			at.NullNil = true
		}
		return c.keyed(at)
	case model.OpTry:
		return &decoder.Node{Op: decoder.OpTry, Inner: c.expr(e.Args[0], env, want)}
	case model.OpElse, model.OpCatch:
		op := decoder.OpElse
		if e.Op == model.OpCatch {
			op = decoder.OpCatch
		}
		return &decoder.Node{Op: op, Inner: c.expr(e.Args[0], env, want), Second: c.expr(e.Args[1], env, want)}
	case model.OpConst:
		if want == nil {
			return unknown("the constant " + e.Value.Source)
		}
		return &decoder.Node{Op: decoder.OpConst, Value: Constant(e.Value, want)}
	case model.OpConvert:
		return &decoder.Node{Op: decoder.OpConvert, Inner: c.expr(e.Args[0], env, nil), Convert: conversions[e.Func]}
	}
	return unknown(e.Why)
}

// conversions are initialisers of the standard library that hand-written code
// calls on what it has decoded.
var conversions = map[string]func(decoder.Seen) (decoder.Seen, bool){
	"String": func(s decoder.Seen) (decoder.Seen, bool) {
		s.Kind = decoder.SeenString
		return s, true
	},
	"Int": func(s decoder.Seen) (decoder.Seen, bool) {
		switch s.Kind {
		case decoder.SeenInt:
			return s, true
		case decoder.SeenString:
			digits, ok := parseIntKey(s.Text)
			return decoder.Seen{Kind: decoder.SeenInt, Text: digits}, ok
		}
		return s, false
	},
	"Double": func(s decoder.Seen) (decoder.Seen, bool) {
		f, err := strconv.ParseFloat(s.Text, 64)
		return decoder.Seen{Kind: decoder.SeenFloat, Text: FloatText(f, 64)}, err == nil
	},
}

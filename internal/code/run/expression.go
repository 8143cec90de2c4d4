package run

import (
	"strconv"
	"strings"

	"vetta/internal/code"
	"vetta/internal/model"
)

// expr is the value of an expression; ctx is the type that is wanted of it, nil for none, by which literals and the
// arguments of types are told.
func (m *Machine) expr(x *code.Expr, f *frame, e *env, ctx *Type) (Value, error) {
	v, err := m.part(x, f, e, ctx)
	if c, ok := err.(*chainEnds); ok {
		return Value{Static: c.static}, nil
	}
	return v, err
}

// part is expr for what a chain goes on behind: one that ends in it ends there.
func (m *Machine) part(x *code.Expr, f *frame, e *env, ctx *Type) (Value, error) {
	if x == nil {
		return Value{}, unfollowed("an expression", f.pos())
	}
	if err := m.step(1, x.Pos); err != nil {
		return Value{}, err
	}
	all := x.Does.All()
	if len(all) > 0 && all[len(all)-1] == code.Thrown {
		return Value{}, m.throw(x, f, e)
	}
	if x.Op == code.As {
		return m.cast(x, f, e)
	}
	v, err := m.plainly(x, f, e, ctx)
	if err != nil {
		return v, err
	}
	for _, does := range all {
		switch does {
		case code.Forced:
			if v.IsNull() {
				class := "_TypeError"
				if f.legacy() {
					class = "_CastError"
				}
				return v, &Thrown{Class: class, Message: "Null check operator used on a null value", At: v.At, Pos: x.Pos}
			}
			v.Static = v.Static.solid()
		case code.Chained:
			if v.IsNull() {
				return v, &chainEnds{}
			}
			v.Static = v.Static.solid()
		}
	}
	return v, nil
}

func (m *Machine) throw(x *code.Expr, f *frame, e *env) error {
	if x.Text == "rethrow" && x.Op == code.Name {
		if m.thrown != nil {
			return m.thrown
		}
		return unfollowed("what is thrown again", x.Pos)
	}
	plain := *x
	plain.Does = 0
	for _, does := range x.Does.All() {
		if does != code.Thrown {
			plain.Does = plain.Does.With(does)
		}
	}
	v, err := m.expr(&plain, f, e, nil)
	if err != nil {
		return err
	}
	if h, ok := v.Ref.(*failure); ok {
		t := *h.t
		t.Own, t.Pos = true, x.Pos
		return &t
	}
	if v.isUnknown() && v.Out == nil {
		return unfollowed("what is thrown", x.Pos)
	}
	class := "Exception"
	if o := v.object(); o != nil {
		class = o.Type.Name
	}
	message, known, err := m.written(v, x.Pos)
	if err != nil {
		return err
	}
	if !known {
		message = "…"
	}
	return &Thrown{Class: "", Message: class + ": " + strings.TrimPrefix(message, class+": "), Value: v, Own: true, Pos: x.Pos}
}

func (f *frame) pos() (p model.Pos) {
	if f.fn != nil {
		return f.fn.Pos
	}
	return p
}

// cast is x as T.
func (m *Machine) cast(x *code.Expr, f *frame, e *env) (Value, error) {
	if len(x.Args) != 1 || x.Type == nil {
		return Value{}, unfollowed("a cast", x.Pos)
	}
	t := m.resolve(x.Type, f.unit, f.by)
	v, err := m.expr(x.Args[0], f, e, nil)
	if err != nil {
		return v, err
	}
	v, err = m.coerce(v, t, f, true)
	if thrown, ok := err.(*Thrown); ok {
		thrown.Pos = x.Pos
	}
	for _, does := range x.Does.All()[1:] {
		switch {
		case err != nil:
		case does == code.Forced && v.IsNull():
			err = &Thrown{Class: "_TypeError", Message: "Null check operator used on a null value", At: v.At, Pos: x.Pos}
		case does == code.Chained && v.IsNull():
			err = &chainEnds{}
		case does == code.Forced, does == code.Chained:
			v.Static = v.Static.solid()
		}
	}
	return v, err
}

func (m *Machine) plainly(x *code.Expr, f *frame, e *env, ctx *Type) (Value, error) {
	switch x.Op {
	case code.Number:
		return number(x, ctx)
	case code.Text:
		return m.template(x, f, e)
	case code.Name:
		return m.name(x, f, e, ctx)
	case code.Member:
		return m.memberOf(x, f, e, ctx)
	case code.Call:
		return m.called(x, f, e, ctx)
	case code.Index:
		return m.indexed(x, f, e)
	case code.Is:
		return m.is(x, f, e)
	case code.Plus, code.Binary:
		return m.operated(x, f, e, ctx)
	case code.Unary:
		return m.unary(x, f, e, ctx)
	case code.Choice:
		return m.choice(x, f, e, ctx)
	case code.Lambda:
		fn := x.Fn
		if fn == nil {
			return Value{}, unfollowed("a closure", x.Pos)
		}
		c := &Closure{Fn: fn, Env: e, Frame: f, This: f.this}
		if ctx.is("Function") {
			c.Sig = ctx.solid()
		}
		v := Value{Kind: Fn, Ref: c}
		v.Static = m.typeOf(v)
		return v, nil
	case code.List:
		return m.listLiteral(x, f, e, ctx)
	case code.Dict:
		return m.mapLiteral(x, f, e, ctx)
	case code.Set:
		return m.set(x, f, e)
	case code.Cascade:
		return m.cascade(x, f, e, ctx)
	case code.It:
		if n := len(f.cast); n > 0 {
			return f.cast[n-1], nil
		}
	case code.Record:
		r := &Rec{}
		for i, a := range x.Args {
			v, err := m.expr(a, f, e, ctx.arg(i))
			if err != nil {
				return v, err
			}
			r.Vals, r.Names = append(r.Vals, v), append(r.Names, x.Labels[i])
		}
		v := Value{Kind: Recs, Ref: r}
		v.Static = m.typeOf(v)
		for i := range v.Static.Args {
			v.Static.Args[i] = r.Vals[i].Static
		}
		return v, nil
	case code.Match:
		if len(x.Args) != 2 {
			break
		}
		v, err := m.expr(x.Args[0], f, e, nil)
		if err != nil {
			return v, err
		}
		is, known, err := m.match(v, x.Args[1], f, e)
		if err == nil && !known {
			return unknown(boolType, v), nil
		}
		return boolOf(is), err
	}
	return Value{}, unfollowed("an expression", x.Pos)
}

// number is the value of a number in source. A whole one is a double where one is wanted.
func number(x *code.Expr, ctx *Type) (Value, error) {
	text := strings.ReplaceAll(x.Text, "_", "")
	if n, err := strconv.ParseInt(text, 0, 64); err == nil {
		if ctx.is("double") {
			return doubleOf(float64(n)), nil
		}
		return intOf(n), nil
	}
	if n, err := strconv.ParseUint(text, 0, 64); err == nil && strings.HasPrefix(text, "0x") {
		return intOf(int64(n)), nil
	}
	if f, err := strconv.ParseFloat(text, 64); err == nil {
		return doubleOf(f), nil
	}
	return Value{}, unfollowed("the number "+x.Text, x.Pos)
}

// template is a text with values put into it.
func (m *Machine) template(x *code.Expr, f *frame, e *env) (Value, error) {
	if len(x.Args) == 0 {
		return textOf(x.Text), nil
	}
	var b strings.Builder
	var open []Value
	for i, a := range x.Args {
		b.WriteString(x.Labels[i])
		v, err := m.expr(a, f, e, nil)
		if err != nil {
			return v, err
		}
		text, known, err := m.written(v, x.Pos)
		if err != nil {
			return v, err
		}
		if !known {
			open = append(open, v)
			if text = v.S; text == "" {
				text = "{}"
			}
		}
		b.WriteString(text)
	}
	b.WriteString(x.Labels[len(x.Args)])
	if b.Len() > maxText {
		return Value{}, unfollowed("a text that long", x.Pos)
	}
	if open != nil {
		v := unknown(stringType, open...)
		v.S = b.String()
		return v, nil
	}
	return textOf(b.String()), nil
}

// is is x is T.
func (m *Machine) is(x *code.Expr, f *frame, e *env) (Value, error) {
	if len(x.Args) != 1 || x.Type == nil {
		return Value{}, unfollowed("a test of a type", x.Pos)
	}
	v, err := m.expr(x.Args[0], f, e, nil)
	if err != nil {
		return v, err
	}
	is, known := m.isOf(v, m.resolve(x.Type, f.unit, f.by), f.legacy())
	if !known {
		return unknown(boolType, v), nil
	}
	return boolOf(is), nil
}

// choice is a ?? b, c ? a : b, a switch that is an expression, or what stands in brackets.
func (m *Machine) choice(x *code.Expr, f *frame, e *env, ctx *Type) (Value, error) {
	switch {
	case len(x.Args) == 1 && len(x.Body) == 0:
		return m.expr(x.Args[0], f, e, ctx)
	case len(x.Args) == 2 && len(x.Body) == 0:
		defer m.reach.choosing()()
		v, err := m.expr(x.Args[0], f, e, ctx.nullable())
		if err != nil {
			return v, err
		}
		want := ctx
		if want == nil {
			want = v.Static.solid()
		}
		if v.isUnknown() && v.Static != nil && !v.Static.Null {
			return v, nil
		}
		if v.isUnknown() || v.Kind == Obj && v.object().Null {
			return m.choose(f, v.places(), func() (Value, error) { return v.as(v.Static.solid()), nil }, func() (Value, error) { return m.expr(x.Args[1], f, e, want) })
		}
		if !v.IsNull() {
			if v.Static != nil {
				v.Static = v.Static.solid()
			}
			return v, nil
		}
		r, err := m.expr(x.Args[1], f, e, want)
		if err != nil {
			return r, err
		}
		if v.Static == nil && ctx == nil { // dynamic ?? x is dynamic
			r.Static = nil
		}
		r.From = union(r.From, v.places())
		return r, nil
	case len(x.Args) == 2:
		c, err := m.condition(x.Body[0].Value, f, e)
		if err != nil {
			return c, err
		}
		yes, known, err := m.truth(c)
		if err != nil {
			return c, err
		}
		if !known {
			return m.choose(f, c.places(), func() (Value, error) { return m.expr(x.Args[0], f, e, ctx) }, func() (Value, error) { return m.expr(x.Args[1], f, e, ctx) })
		}
		which := 1
		if yes {
			which = 0
		}
		v, err := m.expr(x.Args[which], f, e, ctx)
		if err == nil && !v.isUnknown() {
			v.Static = m.either(v.Static, x.Args[1-which], f, e, ctx)
		}
		return v, err
	case len(x.Body) == 1 && x.Body[0].Kind == code.Switch:
		return m.switched(&x.Body[0], f, e, ctx, true)
	}
	return Value{}, unfollowed("a choice", x.Pos)
}

// either is the static type of one branch of a condition, the other one of which does not run.
func (m *Machine) either(t *Type, other *code.Expr, f *frame, e *env, ctx *Type) *Type {
	if ctx != nil {
		return ctx
	}
	if other.Op == code.Name && other.Text == "null" {
		return t.nullable()
	}
	return t
}

// set is an assignment as an expression.
func (m *Machine) set(x *code.Expr, f *frame, e *env) (Value, error) {
	if len(x.Args) != 2 {
		return Value{}, unfollowed("an assignment", x.Pos)
	}
	target, op := x.Args[0], strings.TrimPrefix(x.Text, "post")
	if op == "=" {
		ctx, err := m.typeOfTarget(target, f, e)
		if err != nil {
			return Value{}, err
		}
		v, err := m.expr(x.Args[1], f, e, ctx)
		if err != nil {
			return v, err
		}
		return v, m.give(target, v, f, e)
	}
	before, err := m.expr(target, f, e, nil)
	if err != nil {
		return before, err
	}
	if op == "??=" {
		if before.isUnknown() {
			v, err := m.choose(f, before.places(), func() (Value, error) { return before, nil }, func() (Value, error) { return m.expr(x.Args[1], f, e, before.Static.solid()) })
			if err != nil {
				return v, err
			}
			return v, m.give(target, v, f, e)
		}
		if !before.IsNull() {
			return before, nil
		}
		v, err := m.expr(x.Args[1], f, e, before.Static.solid())
		if err != nil {
			return v, err
		}
		return v, m.give(target, v, f, e)
	}
	sign := strings.TrimSuffix(op, "=")
	if sign == "++" || sign == "--" {
		sign = sign[:1]
	}
	right, err := m.expr(x.Args[1], f, e, nil)
	if err != nil {
		return right, err
	}
	v, err := m.operator(sign, before, right, x, f)
	if err != nil {
		return v, err
	}
	if err := m.give(target, v, f, e); err != nil {
		return v, err
	}
	if strings.HasPrefix(x.Text, "post") {
		return before, nil
	}
	return v, nil
}

// typeOfTarget is the type of what is assigned to, where it is told without running anything.
func (m *Machine) typeOfTarget(x *code.Expr, f *frame, e *env) (*Type, error) {
	switch x.Op {
	case code.Name:
		if c := e.find(x.Text); c != nil {
			return c.t, nil
		}
		if f.this != nil {
			return m.typeOfField(f.this.Static, x.Text), nil
		}
	case code.Member:
		if len(x.Args) == 1 {
			switch r := x.Args[0]; {
			case r.Op == code.It && len(f.cast) > 0:
				return m.typeOfField(f.cast[len(f.cast)-1].Static, x.Text), nil
			case r.Op == code.Name && r.Text == "this" && f.this != nil:
				return m.typeOfField(f.this.Static, x.Text), nil
			case r.Op == code.Name:
				if c := e.find(r.Text); c != nil {
					return m.typeOfField(c.t, x.Text), nil
				}
			}
		}
	}
	return nil, nil
}

func (m *Machine) typeOfField(of *Type, name string) *Type {
	if fn, in := m.find(of, name, setter, 0); fn != nil && len(fn.Params) == 1 {
		return m.resolve(fn.Params[0].Type, m.p.unitOf(fn.File), m.own(in))
	}
	if p, in := m.field(of, name, 0); p != nil {
		return m.resolve(p.Type, m.p.unitOf(p.File), m.own(in))
	}
	return nil
}

// give puts a value where an expression says.
func (m *Machine) give(target *code.Expr, v Value, f *frame, e *env) error {
	switch target.Op {
	case code.Name:
		if c := e.find(target.Text); c != nil {
			v, err := m.coerce(v, c.t, f, false)
			if err != nil {
				return err
			}
			m.assign(c, v)
			return nil
		}
		if f.this != nil {
			if done, err := m.setMember(*f.this, target.Text, v, f); done || err != nil {
				return err
			}
		}
		return m.setStatic(f.of, target.Text, v, f, target)
	case code.Member:
		if len(target.Args) != 1 {
			break
		}
		of, err := m.part(target.Args[0], f, e, nil)
		if err != nil {
			if _, ok := err.(*chainEnds); ok {
				return nil
			}
			return err
		}
		if of.Kind == Class {
			return m.setStatic(of.Ref.(*Type), target.Text, v, f, target)
		}
		done, err := m.setMember(of, target.Text, v, f)
		if err == nil && !done && !of.isUnknown() {
			if of.IsNull() {
				return nullCall(target.Text+"=", false, of)
			}
			return unfollowed("the property "+target.Text, target.Pos)
		}
		return err
	case code.Index:
		if len(target.Args) != 2 {
			break
		}
		of, err := m.part(target.Args[0], f, e, nil)
		if err != nil {
			if _, ok := err.(*chainEnds); ok {
				return nil
			}
			return err
		}
		at, err := m.expr(target.Args[1], f, e, nil)
		if err != nil {
			return err
		}
		return m.put(of, at, v, target)
	}
	return unfollowed("an assignment", target.Pos)
}

// cascade hands a value to each of some sections.
func (m *Machine) cascade(x *code.Expr, f *frame, e *env, ctx *Type) (Value, error) {
	v, err := m.expr(x.Args[0], f, e, ctx)
	if err != nil {
		return v, err
	}
	if v.IsNull() && len(x.Args[0].Does.All()) > 0 {
		return v, nil
	}
	f.cast = append(f.cast, v)
	defer func() { f.cast = f.cast[:len(f.cast)-1] }()
	for _, section := range x.Args[1:] {
		if _, err := m.expr(section, f, e, nil); err != nil {
			return v, err
		}
	}
	return v, nil
}

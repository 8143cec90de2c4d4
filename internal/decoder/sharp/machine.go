package sharp

import (
	"errors"
	"slices"

	"vetta/internal/code"
	"vetta/internal/decoder"
	"vetta/internal/decoder/clr"
	"vetta/internal/decoder/survey"
	"vetta/internal/model"
	"vetta/internal/wire"
)

// World is the program that code is part of.
type World interface {
	// Resolve finds what the names in a type mean where it is written.
	Resolve(t *model.Type, at code.At) *model.Type
	// Named is the type that a name means there, nil for none of the source's.
	Named(name string, args int, at code.At) *code.Declared
	// OfModel is the type that a model is of.
	OfModel(m *model.Model) *code.Declared
	// DeclaredNamed is the type of a name that a type is, or one that extends it.
	DeclaredNamed(name string, t *model.Type) *code.Declared
	// Extensions are the functions of a name that extend the types of others.
	Extensions(name string) []*code.Func
	// Statics are the types whose members a file sees by name alone.
	Statics(file string) []*code.Declared
	// Of is the type that a class is a part of.
	Of(c *code.Class) *code.Declared
}

// Decode reads a value of a document as a type, by a library and options that an expression says, nil for none. from is
// what is read into, nil for a new instance.
type Decode func(t *model.Type, v *wire.Value, library string, options *code.Expr, fn *code.Func, from *decoder.Seen) (decoder.Outcome, bool)

// Machine runs code.
type Machine struct {
	world  World
	decode Decode
	left   int
	calls  int
	static map[*code.Declared]map[string]*Value
	last   *wire.Value                   // the value of the document that was asked last
	asked  map[*wire.Value]*survey.Asked // what values were asked for, nil where nobody wants to know
}

// New is a machine for the code of a program.
func New(world World, decode Decode) *Machine {
	return &Machine{world: world, decode: decode, static: map[*code.Declared]map[string]*Value{}}
}

// limits keep code that does not end, or calls itself, short.
const (
	maxSteps = 400000
	maxCalls = 200
	maxItems = 100000
)

// Thrown is an exception.
type Thrown struct {
	Class   string // without its namespace
	Message string
	At      *wire.Value    // the value of the document that it is about, nil for none
	Cause   *decoder.Error // what a library told
	Inner   Value
}

func (t *Thrown) Error() string { return t.Class + ": " + t.Message }

// Unfollowed is what is not followed, and where.
type Unfollowed struct {
	Why string
	Pos model.Pos
}

func (u *Unfollowed) Error() string { return u.Why }

func unfollowed(why string, pos model.Pos) error { return &Unfollowed{why, pos} }

func (m *Machine) throw(class, message string) error {
	return &Thrown{Class: class, Message: message, At: m.last}
}

// env are the names of a block, over those around it.
type env struct {
	names map[string]*Value
	outer *env
}

func inside(outer *env) *env { return &env{names: map[string]*Value{}, outer: outer} }

func (e *env) find(name string) *Value {
	for ; e != nil; e = e.outer {
		if v := e.names[name]; v != nil {
			return v
		}
	}
	return nil
}

// frame is a function that is running.
type frame struct {
	fn     *code.Func
	class  *code.Declared // whose code it is, nil for none
	this   *Value
	types  map[string]*model.Type // what type parameters stand for
	wants  *model.Type            // what it returns
	yields *list                  // of an iterator
}

func (f *frame) at() code.At {
	a := code.At{In: f.class}
	if f.class != nil {
		a.Space, a.File = f.class.Space, f.class.Parts[0].File
	}
	if f.fn != nil {
		if f.fn.File != "" {
			a.File = f.fn.File
		}
		a.Free = f.fn.Generics
	}
	return a
}

// typ is a type with what its names mean.
func (m *Machine) typ(t *model.Type, f *frame) *model.Type {
	if t == nil {
		return nil
	}
	return m.world.Resolve(t, f.at()).Bind(f.types)
}

// jump is how code leaves a block before its end.
type jump struct {
	kind string
	v    Value
}

func (*jump) Error() string { return "jump" }

// Call runs a function of a class with values for its parameters.
func (m *Machine) Call(fn *code.Func, class *code.Declared, this *Value, types map[string]*model.Type, args []Value) (Value, error) {
	m.left, m.calls, m.last = maxSteps, 0, nil
	return m.run(fn, &frame{fn: fn, class: class, this: this, types: types}, nil, args)
}

// run runs a function, its parameters bound.
func (m *Machine) run(fn *code.Func, f *frame, outer *env, args []Value) (Value, error) {
	if m.calls++; m.calls > maxCalls {
		return Value{}, unfollowed("functions that call each other", fn.Pos)
	}
	defer func() { m.calls-- }()
	if fn.Native && slices.Contains(fn.Mods, "partial") { // which nobody implements
		return Value{}, nil
	}
	if fn.Native {
		return Value{}, unfollowed("what "+fn.Name+" does is not in the source", fn.Pos)
	}
	e := inside(outer)
	if err := m.bind(fn, f, e, args); err != nil {
		return Value{}, err
	}
	if fn.Returns != nil {
		f.wants = m.typ(fn.Returns, f)
	}
	body := fn.Do()
	if iterates(body) {
		f.yields = &list{}
	}
	_, err := m.block(body, f, e)
	var j *jump
	switch {
	case errors.As(err, &j) && j.kind == "return":
		return m.convert(j.v, f.wants, f, false)
	case err != nil:
		return Value{}, err
	case f.yields != nil:
		return Value{Kind: Items, Ref: f.yields}, nil
	}
	return Value{}, nil
}

// iterates says whether some statements yield elements one by one.
func iterates(body []code.Stmt) bool {
	return slices.ContainsFunc(body, func(s code.Stmt) bool { return s.Op == code.Do && s.Name == "yield" || iterates(s.Body) })
}

// bind gives the parameters of a function their values; those that are left out get their defaults.
func (m *Machine) bind(fn *code.Func, f *frame, e *env, args []Value) error {
	for i := range fn.Params {
		p := &fn.Params[i]
		var v Value
		switch {
		case i < len(args) && args[i].Kind == Cell: // handed over as a variable
			e.names[p.Name] = args[i].Ref.(*Value)
			continue
		case i < len(args) && args[i].Kind != Default:
			v = args[i]
		case p.Default != nil:
			var err error
			if v, err = m.expr(p.Default, f, inside(nil), m.typ(p.Type, f)); err != nil {
				return err
			}
		case i < len(args):
			v = m.zero(m.typ(p.Type, f))
		case p.Optional: // params
			v = listOf(nil)
		default:
			return unfollowed("a call of "+fn.Name, fn.Pos)
		}
		if p.Type != nil {
			if f.types == nil {
				f.types = map[string]*model.Type{}
			}
			if t := m.typ(p.Type, f); v.IsNull() && t.Kind != model.Optional && clr.IsValue(t) { // a library hands over nothing
				v = m.zero(t)
			}
			var err error
			if v, err = m.convert(v, m.typ(p.Type, f), f, false); err != nil {
				return err
			}
		}
		e.names[p.Name] = &v
	}
	return nil
}

func (m *Machine) block(all []code.Stmt, f *frame, outer *env) (Value, error) {
	e := inside(outer)
	for i := range all { // functions are known before they are declared
		if s := &all[i]; s.Kind == code.Local && s.Value != nil {
			e.names[s.Name] = &Value{Kind: Function, Ref: &closure{fn: s.Value.Fn, env: e, frame: f}}
		}
	}
	var v Value
	for len(all) > 0 {
		n := 1
		for n < len(all) && follows(all[n].Kind) {
			n++
		}
		var err error
		if v, err = m.statement(all[:n], f, e); err != nil {
			return v, err
		}
		all = all[n:]
	}
	return v, nil
}

// follows says whether a statement goes on with the one before it.
func follows(k code.Kind) bool {
	return k == code.ElseIf || k == code.Else || k == code.Catch || k == code.Finally
}

func (m *Machine) step(pos model.Pos) error {
	if m.left--; m.left < 0 {
		return unfollowed("code that does not end", pos)
	}
	return nil
}

func (m *Machine) statement(all []code.Stmt, f *frame, e *env) (Value, error) {
	s := &all[0]
	if err := m.step(model.Pos{}); err != nil {
		return Value{}, err
	}
	if s.Torn {
		return Value{}, unfollowed("a statement", model.Pos{})
	}
	switch s.Op {
	case code.Let:
		if s.Kind == code.Local {
			return Value{}, nil
		}
		if s.Name == "" { // (var a, var b) = pair
			return m.expr(s.Value, f, e, nil)
		}
		t := m.typ(s.Type, f)
		v := Value{}
		if t != nil {
			v = m.zero(t)
		}
		if s.Value != nil {
			var err error
			if v, err = m.expr(s.Value, f, e, t); err != nil {
				return v, err
			}
			if v, err = m.convert(v, t, f, false); err != nil {
				return v, err
			}
		}
		own := v
		e.names[s.Name] = &own
		return Value{}, nil
	case code.Assign:
		target := &code.Expr{Op: code.Name, Text: s.Name, Pos: s.Value.Pos}
		if s.Of != nil {
			target = &code.Expr{Op: code.Member, Text: s.Name, Args: []*code.Expr{s.Of}, Pos: s.Value.Pos}
		}
		return m.assign(target, s.Value, f, e)
	case code.Return:
		v := Value{}
		if s.Value != nil {
			var err error
			if v, err = m.expr(s.Value, f, e, f.wants); err != nil {
				return v, err
			}
		}
		return v, &jump{kind: "return", v: v}
	case code.Do:
		switch {
		case s.Name == "yield":
			if s.Value == nil {
				return Value{}, &jump{kind: "return", v: Value{Kind: Items, Ref: f.yields}}
			}
			v, err := m.expr(s.Value, f, e, nil)
			if err == nil {
				f.yields.items = append(f.yields.items, v)
			}
			return Value{}, err
		case s.Kind == code.Jump:
			return Value{}, &jump{kind: s.Name}
		case s.Value == nil:
			return Value{}, nil
		}
		return m.expr(s.Value, f, e, nil)
	}
	return m.compound(all, f, e)
}

// compound does a statement with blocks: if, loops, switch, try.
func (m *Machine) compound(all []code.Stmt, f *frame, e *env) (Value, error) {
	s := &all[0]
	switch s.Kind {
	case code.Plain:
		return m.block(s.Body, f, e)
	case code.If:
		for i := range all {
			b := &all[i]
			if b.Kind == code.Else {
				return m.block(b.Body, f, e)
			}
			yes, err := m.truth(b.Body[0].Value, f, e) // what it declares is known behind it too
			if err != nil {
				return Value{}, err
			}
			if yes {
				return m.block(b.Body[1:], f, e)
			}
		}
		return Value{}, nil
	case code.While:
		for {
			yes, err := m.truth(s.Body[0].Value, f, e)
			if err != nil || !yes {
				return Value{}, err
			}
			if stop, err := m.turn(s.Body[1:], f, e); stop || err != nil {
				return Value{}, err
			}
		}
	case code.Repeat:
		for {
			if stop, err := m.turn(s.Body[1:], f, e); stop || err != nil {
				return Value{}, err
			}
			yes, err := m.truth(s.Body[0].Value, f, e)
			if err != nil || !yes {
				return Value{}, err
			}
		}
	case code.For:
		return m.loop(s, f, e)
	case code.Switch:
		v, err := m.switched(s, f, e)
		if errors.Is(err, errNoCase) { // which a statement passes over
			err = nil
		}
		return v, err
	case code.Try:
		return m.try(all, f, e)
	}
	return Value{}, unfollowed("a statement", model.Pos{})
}

func (m *Machine) loop(s *code.Stmt, f *frame, outer *env) (Value, error) {
	e := inside(outer)
	if s.Heads == 3 {
		for i := range s.Body[0].Body {
			if _, err := m.statement(s.Body[0].Body[i:i+1], f, e); err != nil {
				return Value{}, err
			}
		}
		for {
			if s.Body[1].Value != nil {
				yes, err := m.truth(s.Body[1].Value, f, e)
				if err != nil || !yes {
					return Value{}, err
				}
			}
			if stop, err := m.turn(s.Body[3:], f, e); stop || err != nil {
				return Value{}, err
			}
			for i := range s.Body[2].Body {
				if _, err := m.statement(s.Body[2].Body[i:i+1], f, e); err != nil {
					return Value{}, err
				}
			}
		}
	}
	if s.Heads != 2 || len(s.Body) < 2 {
		return Value{}, unfollowed("a loop", model.Pos{})
	}
	over, err := m.expr(s.Body[1].Value, f, e, nil)
	if err != nil {
		return Value{}, err
	}
	items, err := m.each(over, s.Body[1].Value.Pos)
	if err != nil {
		return Value{}, err
	}
	head := &s.Body[0]
	t := m.typ(head.Type, f)
	for _, item := range items {
		own := inside(e)
		if head.Name != "" {
			v, err := m.convert(item, t, f, true)
			if err != nil {
				return Value{}, err
			}
			own.names[head.Name] = &v
		} else if _, err := m.apart(head.Value, item, f, own); err != nil {
			return Value{}, err
		}
		if stop, err := m.turn(s.Body[2:], f, own); stop || err != nil {
			return Value{}, err
		}
	}
	return Value{}, nil
}

// turn does the block of a loop once; stop says that the loop ends.
func (m *Machine) turn(body []code.Stmt, f *frame, e *env) (stop bool, err error) {
	if err := m.step(model.Pos{}); err != nil {
		return true, err
	}
	_, err = m.block(body, f, e)
	var j *jump
	if errors.As(err, &j) && j.kind != "return" {
		return j.kind == "break", nil
	}
	return err != nil, err
}

// switched does a switch, a statement or an expression.
func (m *Machine) switched(s *code.Stmt, f *frame, outer *env) (Value, error) {
	e := inside(outer)
	subject, err := m.expr(s.Body[0].Value, f, e, nil)
	if err != nil {
		return Value{}, err
	}
	var fallback *code.Stmt
	cases := s.Body[1:]
	for i := range cases {
		c := &cases[i]
		if len(c.Value.Args) == 0 {
			fallback = c
			continue
		}
		for _, p := range c.Value.Args {
			own := inside(e)
			yes, err := m.matches(p, subject, f, own)
			if err != nil {
				return Value{}, err
			}
			if yes {
				return m.caseBody(c, f, own)
			}
		}
	}
	if fallback != nil {
		return m.caseBody(fallback, f, e)
	}
	return Value{}, errNoCase
}

// errNoCase says that no case of a switch fits; of an expression that is an exception.
var errNoCase = errors.New("no case")

func (m *Machine) caseBody(c *code.Stmt, f *frame, e *env) (Value, error) {
	if len(c.Body) == 1 && c.Body[0].Op == code.Do && c.Body[0].Kind == code.Plain && c.Body[0].Value != nil {
		return m.expr(c.Body[0].Value, f, e, f.wants)
	}
	v, err := m.block(c.Body, f, e)
	var j *jump
	if errors.As(err, &j) && j.kind == "break" {
		return Value{}, nil
	}
	return v, err
}

// try does try with its handlers.
func (m *Machine) try(all []code.Stmt, f *frame, e *env) (Value, error) {
	v, err := m.block(all[0].Body, f, e)
	var t *Thrown
	if errors.As(err, &t) {
		for i := range all[1:] {
			c := &all[1+i]
			if c.Kind != code.Catch {
				continue
			}
			class := "Exception"
			if c.Type != nil {
				class = model.SimpleName(c.Type.Name)
			}
			if !isKind(t.Class, class) {
				continue
			}
			own := inside(e)
			if c.Name != "" {
				own.names[c.Name] = &Value{Kind: Host, Ref: &caught{t}}
			}
			if c.Value != nil {
				yes, whenErr := m.truth(c.Value, f, own)
				if whenErr != nil {
					return Value{}, whenErr
				}
				if !yes {
					continue
				}
			}
			v, err = m.block(c.Body, f, own)
			if _, again := err.(*rethrow); again {
				err = t
			}
			break
		}
	}
	for i := range all[1:] {
		if all[1+i].Kind == code.Finally {
			if _, after := m.block(all[1+i].Body, f, e); after != nil {
				return Value{}, after
			}
		}
	}
	return v, err
}

// rethrow is throw without a value.
type rethrow struct{}

func (*rethrow) Error() string { return "rethrow" }

// caught is an exception that is handled.
type caught struct{ t *Thrown }

// parents are exceptions with what they extend; any other extends Exception.
var parents = map[string]string{
	"JsonReaderException": "JsonException", "JsonSerializationException": "JsonException", "ArgumentNullException": "ArgumentException", "ArgumentOutOfRangeException": "ArgumentException",
	"ArgumentException": "SystemException", "FormatException": "SystemException", "InvalidOperationException": "SystemException", "InvalidCastException": "SystemException", "NullReferenceException": "SystemException",
	"OverflowException": "ArithmeticException", "ArithmeticException": "SystemException", "DivideByZeroException": "ArithmeticException", "KeyNotFoundException": "SystemException", "IndexOutOfRangeException": "SystemException",
	"NotSupportedException": "SystemException", "ObjectDisposedException": "InvalidOperationException", "UriFormatException": "FormatException", "HttpRequestException": "Exception",
}

// isKind says whether an exception is of a class, or of one that extends it.
func isKind(class, of string) bool {
	for deep := 0; deep < 10; deep++ {
		if class == of {
			return true
		}
		if class == "Exception" {
			return false
		}
		next := parents[class]
		if next == "" {
			next = "Exception"
		}
		class = next
	}
	return false
}

func (m *Machine) truth(x *code.Expr, f *frame, e *env) (bool, error) {
	v, err := m.expr(x, f, e, nil)
	if err != nil {
		return false, err
	}
	if v.Kind != Bool {
		if v.Kind == Null && len(x.Args) > 0 {
			return false, m.throw("InvalidOperationException", "Nullable object must have a value.")
		}
		return false, unfollowed("a condition", x.Pos)
	}
	return v.Int == 1, nil
}

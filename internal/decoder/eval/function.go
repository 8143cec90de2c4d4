package eval

import (
	"errors"
	"strings"

	"vetta/internal/code"
	"vetta/internal/code/hand"
	"vetta/internal/decoder"
	"vetta/internal/model"
)

// Library is what code can ask of the library that calls it: what calls of its static functions answer.
type Library interface {
	// Static answers a function of the library's: of a class, JsonReader.Options.of(…), or called by its name alone,
	// where of is null; a property of a class where args is nil; an instance where name is new.
	Static(of Value, name string, args []Value, types []*model.Type) (v Value, known bool, err error)
}

// Caller is a library that calls functions of objects that the app makes.
type Caller interface {
	// Calls says whether it calls what is of a class or interface, by its name without a package.
	Calls(super string) bool
}

// limit is how many expressions one call evaluates at most: code need not come to an end.
const limit = 50000

// maxCalls is how many functions are inside each other at most.
const maxCalls = 64

// machine is one evaluation.
type machine struct {
	lib   Library
	left  int
	calls int
}

// env are the names of a block, over those around it.
type env struct {
	names map[string]*Value
	outer *env
	kept  bool // what is named is read alone from now on
}

// find is what a name stands for, nil for none, and whether that may only be read.
func (e *env) find(name string) (v *Value, kept bool) {
	for ; e != nil; e = e.outer {
		if v := e.names[name]; v != nil {
			return v, e.kept
		}
	}
	return nil, false
}

func inside(outer *env) *env { return &env{names: map[string]*Value{}, outer: outer} }

// jump is how code leaves a block before its end.
type jump struct {
	kind string // return, yield (from a closure), break, continue
	to   string // the label that it names
	v    Value
}

func (*jump) Error() string { return "jump" }

func unfollowed(why string, at model.Pos) error { return &Unfollowed{Why: why, Pos: at} }

// Run calls a function with values for its parameters, its receiver the first where it extends a type. The error is
// a *Thrown, or an *Unfollowed.
func Run(f *code.Routine, lib Library, args ...Value) (Value, error) {
	m := &machine{lib: lib, left: limit}
	return m.run(f, args)
}

func (m *machine) run(f *code.Routine, args []Value) (Value, error) {
	return m.runOn(nil, nil, f, args)
}

// runOn runs a function of an instance, with names around it; both may be nil.
func (m *machine) runOn(this *Value, around *env, f *code.Routine, args []Value) (Value, error) {
	if m.calls++; m.calls > maxCalls || len(args) > len(f.Params) {
		return Value{}, unfollowed("functions that call each other", model.Pos{})
	}
	defer func() { m.calls-- }()
	e := inside(around)
	for i, name := range f.Params {
		if i >= len(args) {
			return Value{}, unfollowed("a default of a parameter", model.Pos{})
		}
		e.names[name] = &args[i]
	}
	_, err := m.block(f.Body, &frame{f: f, this: this}, e)
	var j *jump
	if errors.As(err, &j) && j.kind == "return" {
		return j.v, nil
	}
	return Value{}, err
}

// frame is the function that is running, with the receiver of the block that it is in.
type frame struct {
	f    *code.Routine
	this *Value
}

// block does statements; the value is that of the last, where it has one.
func (m *machine) block(all []code.Stmt, in *frame, outer *env) (v Value, err error) {
	e := inside(outer)
	for len(all) > 0 {
		n := hand.Together(all)
		if v, err = m.statement(all[:n], in, e); err != nil {
			return v, err
		}
		all = all[n:]
	}
	return v, nil
}

func (m *machine) statement(all []code.Stmt, in *frame, e *env) (Value, error) {
	s := &all[0]
	if s.Torn {
		return Value{}, unfollowed("a statement", model.Pos{})
	}
	switch s.Op {
	case code.Let:
		if s.Value == nil {
			e.names[s.Name] = &Value{}
			return Value{}, nil
		}
		v, err := m.expr(s.Value, in, e)
		e.names[s.Name] = &v
		return Value{}, err
	case code.Assign:
		return Value{}, m.assign(s, in, e)
	case code.Return:
		v := Value{}
		var err error
		if s.Value != nil {
			if v, err = m.expr(s.Value, in, e); err != nil {
				return v, err
			}
		}
		if s.Name != "" && s.Name != in.f.Name {
			return v, &jump{kind: "yield", v: v}
		}
		return v, &jump{kind: "return", v: v}
	case code.Do:
		switch s.Kind {
		case code.Jump:
			j := &jump{kind: s.Name}
			if s.Value != nil {
				j.to = s.Value.Text
			}
			if j.to != "" {
				return Value{}, unfollowed("a jump to a label", model.Pos{})
			}
			return Value{}, j
		case code.Throw:
			return Value{}, m.throw(s.Value, in, e)
		case code.Plain:
			return m.expr(s.Value, in, e)
		}
	case code.Block:
		return m.compound(all, in, e)
	}
	return Value{}, unfollowed("a statement", model.Pos{})
}

func (m *machine) assign(s *code.Stmt, in *frame, e *env) error {
	v, err := m.expr(s.Value, in, e)
	if err != nil {
		return err
	}
	if s.Of != nil || s.Name == "" {
		return unfollowed("an assignment to "+s.Name, model.Pos{})
	}
	at, kept := e.find(s.Name)
	if at == nil || kept {
		return unfollowed("an assignment to "+s.Name, model.Pos{})
	}
	if s.Kind == code.Compound {
		if at.Items != nil && at.Names == nil { // tags += tag
			*at.Items = append(*at.Items, v)
			return nil
		}
		return unfollowed("an assignment with an operator", model.Pos{})
	}
	*at = v
	return nil
}

// compound does a statement with blocks: if, when, loops, try.
func (m *machine) compound(all []code.Stmt, in *frame, e *env) (Value, error) {
	s := &all[0]
	switch s.Kind {
	case code.Plain:
		if s.Value != nil || s.Heads != 0 {
			break
		}
		return m.block(s.Body, in, e)
	case code.If:
		for i := range all {
			b := &all[i]
			if b.Torn || b.Heads < 0 || int(b.Heads) > len(b.Body) {
				return Value{}, unfollowed("a condition", model.Pos{})
			}
			own := inside(e)
			holds := true
			for k := range b.Body[:b.Heads] {
				h := &b.Body[k]
				if h.Op != code.Block || h.Value == nil {
					return Value{}, unfollowed("a condition", model.Pos{})
				}
				yes, err := m.truth(h.Value, in, own)
				if err != nil {
					return Value{}, err
				}
				holds = holds && yes
			}
			if holds {
				return m.block(b.Body[b.Heads:], in, own)
			}
		}
		return Value{}, nil
	case code.While:
		if s.Heads != 1 || s.Body[0].Value == nil {
			break
		}
		for {
			yes, err := m.truth(s.Body[0].Value, in, e)
			if err != nil || !yes {
				return Value{}, err
			}
			if stop, err := m.turn(s.Body[1:], in, e); stop || err != nil {
				return Value{}, err
			}
		}
	case code.For:
		if s.Heads != 1 || s.Body[0].Op != code.Let || s.Body[0].Value == nil {
			break
		}
		over, err := m.expr(s.Body[0].Value, in, e)
		if err != nil {
			return Value{}, err
		}
		items, ok := m.items(over)
		if !ok {
			break
		}
		for _, item := range items {
			own := inside(e)
			own.names[s.Body[0].Name] = &item
			if stop, err := m.turn(s.Body[1:], in, own); stop || err != nil {
				return Value{}, err
			}
		}
		return Value{}, nil
	case code.Switch:
		return m.cases(s, in, e)
	case code.Try:
		return m.try(all, in, e)
	}
	return Value{}, unfollowed("a statement", model.Pos{})
}

// turn does the block of a loop once; stop says that the loop ends.
func (m *machine) turn(body []code.Stmt, in *frame, e *env) (stop bool, err error) {
	if m.left--; m.left < 0 {
		return true, unfollowed("a loop that does not end", model.Pos{})
	}
	_, err = m.block(body, in, e)
	var j *jump
	if errors.As(err, &j) && (j.kind == "break" || j.kind == "continue") {
		return j.kind == "break", nil
	}
	return err != nil, err
}

// cases does a switch: the first case with a pattern that the value equals.
func (m *machine) cases(s *code.Stmt, in *frame, e *env) (Value, error) {
	own := inside(e)
	var subject *Value
	body := s.Body
	if s.Heads == 1 {
		h := &s.Body[0]
		if h.Value == nil {
			return Value{}, unfollowed("a switch", model.Pos{})
		}
		v, err := m.expr(h.Value, in, own)
		if err != nil {
			return Value{}, err
		}
		if subject = &v; h.Op == code.Let {
			own.names[h.Name] = subject
		}
		body = s.Body[1:]
	} else if s.Heads != 0 {
		return Value{}, unfollowed("a switch", model.Pos{})
	}
	for i := range body {
		c := &body[i]
		if c.Kind != code.Case || c.Value == nil || c.Value.Op != code.List {
			return Value{}, unfollowed("a pattern of a switch", model.Pos{})
		}
		holds := len(c.Value.Args) == 0
		for _, p := range c.Value.Args {
			if holds {
				break
			}
			yes, err := m.matches(p, subject, in, own)
			if err != nil {
				return Value{}, err
			}
			holds = yes
		}
		if !holds {
			continue
		}
		for len(c.Body) == 0 && i+1 < len(body) { // of Java, which falls through
			i++
			c = &body[i]
		}
		v, err := m.block(c.Body, in, own)
		var j *jump
		if errors.As(err, &j) && j.kind == "break" && in.f.Language == "java" { // in Kotlin it leaves the loop around
			return Value{}, nil
		}
		return v, err
	}
	return Value{}, nil
}

// matches says whether a value is what a pattern of a switch stands for.
func (m *machine) matches(p *code.Expr, subject *Value, in *frame, e *env) (bool, error) {
	if subject == nil || p == nil {
		return m.truth(p, in, e)
	}
	if p.Op == code.Is && len(p.Args) == 0 && p.Type != nil {
		return m.isOf(*subject, p.Type)
	}
	if p.Op == code.Binary && (p.Text == "in" || p.Text == "!in") && len(p.Args) == 1 {
		return false, unfollowed("a pattern of a switch", p.Pos)
	}
	if p.Op == code.Name && subject.Model != nil && subject.Seen.Kind == decoder.SeenEnum { // of Java, a constant alone
		for _, k := range subject.Model.Cases {
			if k.Name == p.Text {
				return k.Name == subject.Seen.Text, nil
			}
		}
	}
	v, err := m.expr(p, in, e)
	if err != nil {
		return false, err
	}
	return m.equal(v, *subject)
}

// try does try with its catch and finally.
func (m *machine) try(all []code.Stmt, in *frame, e *env) (Value, error) {
	v, err := m.block(all[0].Body[max(0, int(all[0].Heads)):], in, e)
	var t *Thrown
	if errors.As(err, &t) {
		for i := range all[1:] {
			c := &all[1+i]
			if c.Kind != code.Catch {
				continue
			}
			yes, known := catches(c.Name, t)
			if !known {
				return Value{}, unfollowed("which exceptions are caught", model.Pos{})
			}
			if yes {
				own := inside(e)
				own.names[caughtName(c)] = &Value{Seen: decoder.Seen{Kind: decoder.SeenUnknown}}
				v, err = m.block(c.Body[max(0, int(c.Heads)):], in, own)
				break
			}
		}
	}
	for i := range all[1:] {
		if all[1+i].Kind == code.Finally && len(all[1+i].Body) > 0 {
			if _, after := m.block(all[1+i].Body[max(0, int(all[1+i].Heads)):], in, e); after != nil {
				return Value{}, after
			}
		}
	}
	return v, err
}

// catches says whether a catch takes an exception, by what it names: e: Lost, or Lost | Torn e.
func catches(name string, t *Thrown) (yes, known bool) {
	_, classes, kotlin := strings.Cut(name, ":")
	if !kotlin {
		classes = name
		if at := strings.LastIndexByte(strings.TrimSpace(name), ' '); at > 0 {
			classes = name[:at]
		}
	}
	known = true
	for _, class := range strings.Split(classes, "|") {
		class = strings.TrimPrefix(strings.TrimSpace(class), "final ")
		is, told := decoder.IsA(t.Class, model.SimpleName(class))
		yes, known = yes || is, known && (told || is)
	}
	return yes, known || yes
}

// caughtName is what a catch calls the exception.
func caughtName(c *code.Stmt) string {
	name, _, kotlin := strings.Cut(c.Name, ":")
	if kotlin {
		return strings.TrimSpace(name)
	}
	return name[strings.LastIndexByte(strings.TrimSpace(name), ' ')+1:]
}

// throw is what a statement throws.
func (m *machine) throw(e *code.Expr, in *frame, names *env) error {
	if e == nil {
		return unfollowed("what is thrown", model.Pos{})
	}
	_, name := hand.Method(e)
	if e.Op == code.Call && e.Type != nil {
		name = e.Type.Name
	}
	if name == "" || e.Op != code.Call {
		return unfollowed("what is thrown", e.Pos)
	}
	t := &Thrown{Class: model.SimpleName(name)}
	if len(e.Args) > 1 {
		if v, err := m.expr(e.Args[1], in, names); err == nil {
			t.Message, _ = m.written(v)
		}
	}
	return t
}

func (m *machine) truth(x *code.Expr, in *frame, e *env) (bool, error) {
	v, err := m.expr(x, in, e)
	if err != nil {
		return false, err
	}
	if v.Seen.Kind != decoder.SeenBool {
		return false, unfollowed("a condition", model.Pos{})
	}
	return v.Seen.Text == "true", nil
}

package code

import (
	"slices"

	"vetta/internal/model"
)

// Named is a value by the names that it goes by, the nearest first: those of a variable, of the constant
// that it is given, of the function that makes it.
type Named struct {
	Names []NameOf
	File  string // in which it is used
	// Several says that the value may be another one too: it is given one here and another one there.
	Several bool
}

// NameOf is one of them, "" for what has none. What it is given stands in File between two byte offsets; To
// is 0 where that is not told.
type NameOf struct {
	Text     string
	File     string
	From, To int32
}

func (n *Named) add(name, file string, from, to int32) {
	n.Names = append(n.Names, NameOf{Text: name, File: file, From: from, To: to})
}

// decoder is what is known of what decodes.
func (f *follower) decoder(d demand) Named {
	if d.decoder != nil {
		return f.p.named(d.decoder, d.fn)
	}
	return d.known
}

// decoderOf is what a decoding call is made on, or is given as its decoder; nil where it is neither.
func (p *Program) decoderOf(call *Expr) *Expr {
	for i, label := range call.Labels {
		if label != "" && slices.Contains(p.words.Decoder, label) {
			return call.Args[i+1]
		}
	}
	if callee := call.Args[0]; callee.Op == Member && len(callee.Args) > 0 {
		return p.withoutSelf(callee.Args[0])
	}
	return nil
}

func (p *Program) isSelf(e *Expr) bool { return e.Op == Name && e.Text == p.words.Self }

// withoutSelf is self.decoder as decoder.
func (p *Program) withoutSelf(e *Expr) *Expr {
	if e.Op == Member && len(e.Args) > 0 && p.isSelf(e.Args[0]) {
		return &Expr{Op: Name, Text: e.Text, Pos: e.Pos}
	}
	return e
}

// named are the names that a value goes by in the code of a function, nil's none.
func (p *Program) named(e *Expr, in *Func) Named {
	n := Named{File: in.File}
	p.addNames(e, in, &n, 0)
	return n
}

// isHanded says whether who calls a function says what a value in its code is: a parameter, or a property
// that is given nothing in the class.
func (p *Program) isHanded(e *Expr, fn *Func) bool {
	if e == nil || e.Op != Name {
		return false
	}
	if fn.param(e.Text) != nil {
		return true
	}
	prop := p.prop(e.Text, fn.Class)
	return prop != nil && prop.Class != nil && prop.Value == nil && prop.Get == nil && letIn(fn.Body, e.Text) == nil
}

// handedDecoder is what decodes in terms of a caller of the function that a demand is of, or its names where
// no caller can say more.
func (f *follower) handedDecoder(d demand, s site, fn *Func) (*Expr, Named) {
	e := d.decoder
	if e == nil {
		return nil, d.known
	}
	if own := f.p.ownProp(e, d.fn); own != "" && fn == d.fn {
		f.load(fn.Class.Name)
		if f.p.isOverridden(fn.Class.Name, own) {
			return nil, f.p.overridden(s, fn, own)
		}
	}
	switch {
	case f.p.isHanded(e, d.fn):
		return f.p.handed(e, s, fn), d.known
	case e.Op != Member || len(e.Args) != 1 || e.Args[0].Op != Name || fn.param(e.Args[0].Text) == nil:
		return nil, f.p.named(e, d.fn)
	}
	for i := range fn.Params { // of what the caller gives: endpoint.decoder
		arg := Argument(s.call, fn, i)
		if fn.Params[i].Name != e.Args[0].Text || arg == nil {
			continue
		}
		if arg.Op == Name && s.in.param(arg.Text) != nil {
			return &Expr{Op: Member, Text: e.Text, Pos: e.Pos, Args: []*Expr{arg}}, Named{}
		}
		return nil, f.memberNamed(arg, s.in, e.Text)
	}
	return nil, f.p.named(e, d.fn)
}

// memberNamed are the names of a member of a value: of what an instance is made with, or of what its class
// says that it is. It may be any where neither is seen.
func (f *follower) memberNamed(e *Expr, in *Func, member string) Named {
	p := f.p
	if e.Op == Name {
		if v := letIn(in.Body, e.Text); v != nil {
			e = v
		} else if prop := p.prop(e.Text, in.Class); prop != nil && prop.Value != nil {
			e, in = prop.Value, &Func{Class: prop.Class, File: prop.File}
		}
	}
	class := ""
	if t := p.typeOf(e, in, nil, 0); t != nil {
		class = model.SimpleName(t.Unwrapped().Name)
		f.load(class)
	}
	if e.Op == Call && p.makes(e, &model.Type{}) {
		for i, label := range e.Labels {
			if label == member && i+1 < len(e.Args) {
				return p.named(e.Args[i+1], in)
			}
		}
		for _, part := range p.Classes[class] {
			for _, init := range part.Funcs {
				for i := range init.Params {
					if !init.Init || init.Params[i].Name != member {
						continue
					}
					if arg := Argument(e, init, i); arg != nil {
						return p.named(arg, in)
					}
					return p.named(init.Params[i].Default, init)
				}
			}
		}
	}
	prop := p.propIn(class, member, 0)
	if prop == nil {
		return Named{File: in.File, Several: true}
	}
	n := Named{File: prop.File}
	p.addHeld(prop, &n, 0)
	n.Several = n.Several || e.Op != Call && p.isMadeWithAnother(prop)
	return n
}

func (p *Program) addNames(e *Expr, in *Func, n *Named, depth int) {
	if e == nil || depth > maxWay {
		return
	}
	switch e.Op {
	case Name:
		if a := in.param(e.Text); a != nil {
			p.addNames(a.Default, in, n, depth+1)
			return
		}
		if v := letIn(in.Body, e.Text); v != nil {
			n.add(e.Text, in.File, v.From, v.To)
			n.Several = n.Several || assigns(in.Body, func(s *Stmt) bool { return s.Name == e.Text && s.Of == nil })
			p.addNames(v, in, n, depth+1)
			return
		}
		p.addProp(e.Text, in, n, depth)
	case Member:
		if len(e.Args) > 0 && p.isSelf(e.Args[0]) {
			p.addProp(e.Text, in, n, depth)
			return
		}
		if prop := p.propOf(e, in); prop != nil {
			p.addHeld(prop, n, depth+1)
			n.Several = n.Several || p.isMadeWithAnother(prop)
			return
		}
		n.add(e.Text, "", 0, 0)
	case Call:
		n.add("", in.File, e.From, e.To) // made on the spot
		n.add(called(e), "", 0, 0)
	case Cascade: // new Options { … }
		n.add("", in.File, e.From, e.To)
	case Other: // of an instance that is not followed
		switch {
		case e.Text == "":
		case e.Type != nil:
			p.addOfClass(model.SimpleName(e.Type.Name), e.Text, in, n, depth)
		default:
			p.addProp(e.Text, in, n, depth)
		}
	case Choice:
		p.addNames(e.Args[0], in, n, depth+1)
	}
}

// addOfClass adds what a property of some instance of a class goes by.
func (p *Program) addOfClass(class, name string, in *Func, n *Named, depth int) {
	before := len(n.Names)
	if parts := p.Classes[class]; len(parts) > 0 {
		p.addProp(name, &Func{Class: parts[0], File: in.File}, n, depth+1)
	}
	if len(n.Names) == before {
		p.addProp(name, in, n, depth)
	}
}

// addMadeWith adds what instances of a class are made with for one of its properties, which must be one thing, and be what
// the class gives it else.
func (p *Program) addMadeWith(class, name string, n *Named, before, depth int) {
	for _, s := range p.calls[class] {
		arg := p.madeWith(s.call, class, name)
		if arg == nil {
			continue
		}
		other := Named{File: s.in.File}
		p.addNames(arg, s.in, &other, depth+1)
		switch {
		case len(other.Names) == 0:
		case len(n.Names) == before:
			n.Names, n.Several = append(n.Names, other.Names...), n.Several || other.Several
		case !slices.ContainsFunc(n.Names[before:], func(known NameOf) bool {
			return known == other.Names[0] || known.Text != "" && known.Text == other.Names[0].Text
		}):
			n.Several = true
		}
	}
}

// madeWith is what a call that makes an instance of a class gives one of its properties, nil where it gives it nothing.
func (p *Program) madeWith(call *Expr, class, name string) *Expr {
	for i, label := range call.Labels {
		if label == name && i+1 < len(call.Args) {
			return call.Args[i+1]
		}
	}
	for _, part := range p.Classes[class] {
		for _, init := range part.Funcs {
			if !init.Init {
				continue
			}
			param := paramOf(init, name)
			for i := range init.Params {
				if init.Params[i].Name == param {
					if arg := Argument(call, init, i); arg != nil {
						return arg
					}
				}
			}
		}
	}
	return nil
}

// addProp adds what a property goes by: its own name where it is given something, else what the class is
// made with unless it is told another.
func (p *Program) addProp(name string, in *Func, n *Named, depth int) {
	prop := p.prop(name, in.Class)
	if prop == nil {
		n.add(name, "", 0, 0)
		return
	}
	if prop.Value != nil || prop.Get != nil {
		p.addHeld(prop, n, depth)
		n.Several = n.Several || p.isMadeWithAnother(prop)
		return
	}
	if in.Class == nil {
		return
	}
	before := len(n.Names)
	for _, part := range p.Classes[in.Class.Name] {
		for _, init := range part.Funcs {
			if !init.Init {
				continue
			}
			for i := range init.Body {
				if s := &init.Body[i]; s.Op == Assign && s.Name == name && s.Value != nil {
					p.addNames(s.Value, init, n, depth+1)
				}
			}
			if a := init.param(name); a != nil && len(n.Names) == before {
				p.addNames(a.Default, init, n, depth+1)
			}
		}
	}
	p.addMadeWith(in.Class.Name, name, n, before, depth)
}

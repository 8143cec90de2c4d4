package code

// Named is a value by the names that it goes by in a file, the nearest first: those of a variable, of the
// constant that it is given, of the function that makes it.
type Named struct {
	Names []string
	File  string
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
		if label != "" && label == p.words.Decoder {
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
			n.Names = append(n.Names, e.Text)
			p.addNames(v, in, n, depth+1)
			return
		}
		p.addProp(e.Text, in, n, depth)
	case Member:
		if len(e.Args) > 0 && p.isSelf(e.Args[0]) {
			p.addProp(e.Text, in, n, depth)
			return
		}
		n.Names = append(n.Names, e.Text)
	case Call:
		n.Names = append(n.Names, called(e))
	case Other: // of an instance that is not followed
		if e.Text != "" {
			p.addProp(e.Text, in, n, depth)
		}
	case Choice:
		p.addNames(e.Args[0], in, n, depth+1)
	}
}

// addProp adds what a property goes by: its own name where it is given something, else what the class is
// made with unless it is told another.
func (p *Program) addProp(name string, in *Func, n *Named, depth int) {
	prop := p.prop(name, in.Class)
	if prop == nil || prop.Value != nil || prop.Get != nil {
		n.Names = append(n.Names, name)
		if prop != nil {
			p.addNames(prop.Value, in, n, depth+1)
		}
		return
	}
	if in.Class == nil {
		return
	}
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
			if a := init.param(name); a != nil && len(n.Names) == 0 {
				p.addNames(a.Default, init, n, depth+1)
			}
		}
	}
}

package swift

import (
	"vetta/internal/model"
	"vetta/internal/source/scan"
)

// loop follows the loops that read lists and maps element by element.
func (f *follower) loop(end int) ([]model.Step, error) {
	p := f.p
	start := p.I
	fail := func() ([]model.Step, error) {
		p.I = start
		f.passOver(end)
		return f.unknown(start, p.I, "a loop")
	}
	switch {
	case p.Accept("while"):
		// while !container.isAtEnd
		if !p.Accept("!") {
			return fail()
		}
		name := p.Text()
		b, ok := f.vars[name]
		if !ok || b.container != model.Unkeyed || !p.Ahead(1, ".") || !p.Ahead(2, "isAtEnd") {
			return fail()
		}
		p.I += 3
		return f.elements(name, b, start, fail)
	case p.Accept("for"):
		// for key in container.allKeys
		key := p.Text()
		p.Advance()
		if !p.Accept("in") {
			return fail()
		}
		b, ok := f.vars[p.Text()]
		if !ok || b.container != model.Keyed || !p.Ahead(1, ".") || !p.Ahead(2, "allKeys") {
			return fail()
		}
		p.I += 3
		return f.members(key, start, fail)
	}
	return fail()
}

// elements follows the body of a loop over an unkeyed container: one local list
// takes what is decoded in each round.
func (f *follower) elements(name string, b binding, start int, fail func() ([]model.Step, error)) ([]model.Step, error) {
	p := f.p
	if !p.Is("{") {
		return fail()
	}
	body, shut := p.I+1, p.Shut()
	outer := f.vars
	f.vars = copyVars(outer)
	f.vars[name] = binding{isContainer: true, container: model.Single, keys: b.keys} // in the loop: the element
	p.I = body
	target, elem, lossy, ok := f.collected(shut)
	f.vars = outer
	if !ok {
		return fail()
	}
	p.I = shut
	p.Advance()
	list := wrap(b.path, &model.Expr{Op: model.OpEach, Lossy: lossy, Args: []*model.Expr{elem}})
	return f.collect(target, list, start), nil
}

// collect makes the local or field that a loop has filled stand for its result.
func (f *follower) collect(target string, value *model.Expr, start int) []model.Step {
	value.Pos = f.p.F.Where(start)
	f.vars[target] = binding{value: value}
	field := ""
	if f.fields[target] {
		field = target
	}
	return f.step(start, field, value)
}

// collected reads the body of a loop: what is appended to which name, and whether
// elements that fail are left out.
func (f *follower) collected(shut int) (target string, elem *model.Expr, lossy, ok bool) {
	p := f.p
	for p.I < shut {
		switch {
		case p.Is("if"):
			// if let v = try? container.decode(T.self) { list.append(v) } else { skip }
			p.Advance()
			if !p.Accept("let") {
				return "", nil, false, false
			}
			name := p.Text()
			p.Advance()
			if !p.Accept("=") {
				return "", nil, false, false
			}
			value := f.value(p.parseCondition(shut))
			if hasUnknown(value) || !p.Is("{") {
				return "", nil, false, false
			}
			f.vars[name] = binding{value: value}
			inner := p.Shut()
			p.Advance()
			target, elem, _, ok = f.collected(inner)
			p.I = inner
			p.Advance()
			lossy = true
			if p.Accept("else") {
				p.Jump()
			}
		case p.Is("do"):
			p.Advance()
			inner := p.Shut()
			p.Advance()
			target, elem, _, ok = f.collected(inner)
			p.I = inner
			p.Advance()
			if !p.Accept("catch") {
				return "", nil, false, false
			}
			p.Jump()
			lossy = true
		case p.Is("let"):
			p.Advance()
			name := p.Text()
			p.Advance()
			if p.Accept(":") {
				p.parseType()
			}
			if !p.Accept("=") {
				return "", nil, false, false
			}
			f.vars[name] = binding{value: f.value(p.parseExpr(shut, 0))}
		case p.Kind() == scan.Ident && p.Ahead(1, ".") && p.Ahead(2, "append") && p.Ahead(3, "("):
			target = p.Text()
			p.I += 3
			call := p.arguments(exprCall, &expr{op: exprName, text: "append", start: p.I, end: p.I})
			if len(call.args) != 2 {
				return "", nil, false, false
			}
			elem = f.value(call.args[1])
			if hasUnknown(elem) {
				return "", nil, false, false
			}
			ok = true
		case p.Is("_") && p.Ahead(1, "="):
			p.I += 2
			p.parseExpr(shut, 0) // an element that is passed over
		case p.Is(";"):
			p.Advance()
		default:
			return "", nil, false, false
		}
	}
	return target, elem, lossy, ok
}

// members follows the body of a loop over all keys: dict[key.stringValue] = value.
func (f *follower) members(key string, start int, fail func() ([]model.Step, error)) ([]model.Step, error) {
	p := f.p
	if !p.Is("{") {
		return fail()
	}
	shut := p.Shut()
	p.Advance()
	outer := f.vars
	f.vars = copyVars(outer)
	f.vars[key] = binding{loopKey: true}
	var target string
	var value *model.Expr
	lossy := false
	for p.I < shut {
		switch {
		case p.Is("if") && p.Ahead(1, "let"):
			p.I += 2
			name := p.Text()
			p.Advance()
			if !p.Accept("=") {
				f.vars = outer
				return fail()
			}
			f.vars[name] = binding{value: f.value(p.parseCondition(shut))}
			lossy = true
			p.Advance() // into the block, which is read as part of the loop
		case p.Is("}") || p.Is(";"):
			p.Advance()
		case p.Is("let") && p.Ahead(2, "="):
			name := p.At(1).Text
			p.I += 3
			f.vars[name] = binding{value: f.value(p.parseExpr(shut, 0))}
		case p.Kind() == scan.Ident && p.Ahead(1, "[") && p.Ahead(2, key):
			target = p.Text()
			p.Advance()
			p.Jump()
			if !p.Accept("=") {
				f.vars = outer
				return fail()
			}
			value = f.value(p.parseExpr(shut, 0))
		default:
			f.vars = outer
			return fail()
		}
	}
	f.vars = outer
	if value == nil || hasUnknown(value) {
		return fail()
	}
	if value.Op == model.OpTry { // an assignment of nothing leaves the key out
		lossy = true
	}
	p.I = shut
	p.Advance()
	return f.collect(target, &model.Expr{Op: model.OpEachKey, Lossy: lossy, Args: []*model.Expr{value}}, start), nil
}

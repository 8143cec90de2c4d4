package swift

import (
	"vetta/internal/model"
	"vetta/internal/source/scan"
)

// loop follows the loops that read lists and maps element by element.
func (f *follower) loop(end int) ([]model.Step, error) {
	p := f.p
	start := p.i
	fail := func() ([]model.Step, error) {
		p.i = start
		f.passOver(end)
		return f.unknown(start, p.i, "a loop")
	}
	switch {
	case p.accept("while"):
		// while !container.isAtEnd
		if !p.accept("!") {
			return fail()
		}
		name := p.tok().Text
		b, ok := f.vars[name]
		if !ok || b.container != model.Unkeyed || !p.at(1).Is(".") || !p.at(2).Is("isAtEnd") {
			return fail()
		}
		p.i += 3
		return f.elements(name, b, start, fail)
	case p.accept("for"):
		// for key in container.allKeys
		key := p.tok().Text
		p.advance()
		if !p.accept("in") {
			return fail()
		}
		b, ok := f.vars[p.tok().Text]
		if !ok || b.container != model.Keyed || !p.at(1).Is(".") || !p.at(2).Is("allKeys") {
			return fail()
		}
		p.i += 3
		return f.members(key, start, fail)
	}
	return fail()
}

// elements follows the body of a loop over an unkeyed container: one local list
// takes what is decoded in each round.
func (f *follower) elements(name string, b binding, start int, fail func() ([]model.Step, error)) ([]model.Step, error) {
	p := f.p
	if !p.is("{") {
		return fail()
	}
	body, shut := p.i+1, p.shut()
	outer := f.vars
	f.vars = copyVars(outer)
	f.vars[name] = binding{isContainer: true, container: model.Single, keys: b.keys} // in the loop: the element
	p.i = body
	target, elem, lossy, ok := f.collected(shut)
	f.vars = outer
	if !ok {
		return fail()
	}
	p.i = shut
	p.advance()
	list := wrap(b.path, &model.Expr{Op: model.OpEach, Lossy: lossy, Args: []*model.Expr{elem}})
	return f.collect(target, list, start), nil
}

// collect makes the local or field that a loop has filled stand for its result.
func (f *follower) collect(target string, value *model.Expr, start int) []model.Step {
	value.Pos = f.p.f.Where(start)
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
	for p.i < shut {
		switch {
		case p.is("if"):
			// if let v = try? container.decode(T.self) { list.append(v) } else { skip }
			p.advance()
			if !p.accept("let") {
				return "", nil, false, false
			}
			name := p.tok().Text
			p.advance()
			if !p.accept("=") {
				return "", nil, false, false
			}
			value := f.value(p.parseCondition(shut))
			if hasUnknown(value) || !p.is("{") {
				return "", nil, false, false
			}
			f.vars[name] = binding{value: value}
			inner := p.shut()
			p.advance()
			target, elem, _, ok = f.collected(inner)
			p.i = inner
			p.advance()
			lossy = true
			if p.accept("else") {
				p.jump()
			}
		case p.is("do"):
			p.advance()
			inner := p.shut()
			p.advance()
			target, elem, _, ok = f.collected(inner)
			p.i = inner
			p.advance()
			if !p.accept("catch") {
				return "", nil, false, false
			}
			p.jump()
			lossy = true
		case p.is("let"):
			p.advance()
			name := p.tok().Text
			p.advance()
			if p.accept(":") {
				p.parseType()
			}
			if !p.accept("=") {
				return "", nil, false, false
			}
			f.vars[name] = binding{value: f.value(p.parseExpr(shut, 0))}
		case p.tok().Kind == scan.Ident && p.at(1).Is(".") && p.at(2).Is("append") && p.at(3).Is("("):
			target = p.tok().Text
			p.i += 3
			call := p.arguments(exprCall, &expr{op: exprName, text: "append", start: p.i, end: p.i})
			if len(call.args) != 2 {
				return "", nil, false, false
			}
			elem = f.value(call.args[1])
			if hasUnknown(elem) {
				return "", nil, false, false
			}
			ok = true
		case p.is("_") && p.at(1).Is("="):
			p.i += 2
			p.parseExpr(shut, 0) // an element that is passed over
		case p.is(";"):
			p.advance()
		default:
			return "", nil, false, false
		}
	}
	return target, elem, lossy, ok
}

// members follows the body of a loop over all keys: dict[key.stringValue] = value.
func (f *follower) members(key string, start int, fail func() ([]model.Step, error)) ([]model.Step, error) {
	p := f.p
	if !p.is("{") {
		return fail()
	}
	shut := p.shut()
	p.advance()
	outer := f.vars
	f.vars = copyVars(outer)
	f.vars[key] = binding{loopKey: true}
	var target string
	var value *model.Expr
	lossy := false
	for p.i < shut {
		switch {
		case p.is("if") && p.at(1).Is("let"):
			p.i += 2
			name := p.tok().Text
			p.advance()
			if !p.accept("=") {
				f.vars = outer
				return fail()
			}
			f.vars[name] = binding{value: f.value(p.parseCondition(shut))}
			lossy = true
			p.advance() // into the block, which is read as part of the loop
		case p.is("}") || p.is(";"):
			p.advance()
		case p.is("let") && p.at(2).Is("="):
			name := p.at(1).Text
			p.i += 3
			f.vars[name] = binding{value: f.value(p.parseExpr(shut, 0))}
		case p.tok().Kind == scan.Ident && p.at(1).Is("[") && p.at(2).Is(key):
			target = p.tok().Text
			p.advance()
			p.jump()
			if !p.accept("=") {
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
	p.i = shut
	p.advance()
	return f.collect(target, &model.Expr{Op: model.OpEachKey, Lossy: lossy, Args: []*model.Expr{value}}, start), nil
}

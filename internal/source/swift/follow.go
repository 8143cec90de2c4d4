package swift

import (
	"fmt"
	"strings"

	"vetta/internal/model"
	"vetta/internal/source/scan"
)

// follower turns the body of an initialiser that reads a response into steps,
// statement by statement. What it does not understand becomes an OpUnknown, and
// then nothing is claimed about the field that takes it; a statement that it does
// not understand and that may throw ends the following.
type follower struct {
	p       *parser
	end     int
	decl    *typeDecl
	link    *linker
	fields  map[string]bool // names of the stored properties
	decoder string          // the parameter that is the decoder, "" for none
	vars    map[string]binding
	depth   int  // of blocks inside each other
	yields  bool // the code is a closure that returns the value
}

// binding is what a local name stands for: a container somewhere below the value
// that is decoded, a value read from it, or a key in a loop over all keys.
type binding struct {
	isContainer bool
	path        []*model.Expr // an operation for each level, outermost first
	container   model.Container
	keys        map[string]string // case of the key type -> name on the wire; nil for a key type that takes any name
	next        int               // of an unkeyed container: the element that is read next
	value       *model.Expr
	loopKey     bool // the name is the key of the loop around it
}

// notFollowed ends the following of a whole initialiser.
type notFollowed struct {
	why string
	tok int
}

func (e *notFollowed) Error() string { return e.why }

// follow reads the init(from:) of a declaration. The error is a *notFollowed.
func (l *linker) follow(d *typeDecl, fn *function, fields map[string]bool) ([]model.Step, error) {
	f := l.newFollower(d, fn, fields)
	sig := &parser{f: d.file, i: fn.signature[0]}
	if !sig.accept("from") || sig.tok().Kind != scan.Ident {
		return nil, &notFollowed{"an initialiser whose parameter has no name", fn.signature[0]}
	}
	f.decoder = sig.tok().Text
	if fn.body[1] == 0 {
		return nil, &notFollowed{"an initialiser without a body", fn.signature[0]}
	}
	return f.block(f.end)
}

func (l *linker) newFollower(d *typeDecl, fn *function, fields map[string]bool) *follower {
	return &follower{p: &parser{f: d.file, i: fn.body[0]}, end: fn.body[1], decl: d, link: l, fields: fields, vars: map[string]binding{}}
}

// block follows statements up to token end. A branch that ends the reading makes
// what stands behind it part of the other branch.
func (f *follower) block(end int) ([]model.Step, error) {
	if f.depth++; f.depth > maxDepth {
		return nil, &notFollowed{"blocks too deep inside each other", f.p.i}
	}
	defer func() { f.depth-- }()
	var steps []model.Step
	for f.p.i < end {
		before := f.p.i
		more, err := f.statement(end)
		if err != nil {
			return nil, err
		}
		steps = append(steps, more...)
		if f.p.i == before {
			f.p.advance()
		}
	}
	return steps, nil
}

func (f *follower) step(start int, field string, e *model.Expr) []model.Step {
	pos := f.p.f.Where(start)
	if e.Pos.IsZero() {
		e.Pos = pos
	}
	return []model.Step{{Field: field, Expr: e, Pos: pos}}
}

func (f *follower) statement(end int) ([]model.Step, error) {
	p := f.p
	start := p.i
	switch t := p.tok(); {
	case t.Is(";"):
		p.advance()
		return nil, nil
	case t.Is("let") || t.Is("var"):
		return f.local(end)
	case t.Is("if"):
		return f.ifElse(end)
	case t.Is("guard"):
		return f.guard(end)
	case t.Is("do"):
		return f.doCatch(end)
	case t.Is("switch"):
		return f.switchCase(end)
	case t.Is("while") || t.Is("for") || t.Is("repeat"):
		return f.loop(end)
	case t.Is("return"):
		p.advance()
		if p.i < end && !p.tok().Newline && !p.is(";") && !p.is("}") {
			if p.is("nil") { // of a failable initialiser
				p.advance()
				return []model.Step{{Field: model.SelfField, Expr: &model.Expr{Op: model.OpConst, Value: &model.Literal{Kind: model.NullLiteral}}, Return: true, Pos: p.f.Where(start)}}, nil
			}
			if f.yields {
				value := f.value(p.parseExpr(end, 0))
				return append(f.step(start, model.SelfField, value), model.Step{Return: true, Pos: p.f.Where(start)}), nil
			}
			return nil, &notFollowed{"a return statement", start}
		}
		return []model.Step{{Return: true, Pos: p.f.Where(start)}}, nil
	case t.Is("throw"):
		p.advance()
		e := p.parseExpr(end, 0)
		return f.step(start, "", &model.Expr{Op: model.OpFail, Why: f.thrown(e)}), nil
	case t.Is("defer"):
		p.advance()
		p.jump()
		return nil, nil
	}
	if name, ok := f.target(); ok {
		value := f.value(p.parseExpr(end, 0))
		if name != model.SelfField {
			f.vars[name] = binding{value: value}
		}
		return f.step(start, name, value), nil
	}
	if steps, ok := f.assignLocal(end); ok {
		return steps, nil
	}
	e := p.parseExpr(end, 0)
	if p.i < end && !p.tok().Newline && !p.is(";") {
		f.passOver(end)
		return f.unknown(start, p.i, "a statement")
	}
	return f.call0(e, start)
}

// call0 follows a call that stands as a statement.
func (f *follower) call0(e *expr, start int) ([]model.Step, error) {
	call := withoutTry(e)
	receiver, name := call.method()
	switch {
	case name == "init" && receiver != nil && receiver.op == exprName && receiver.text == "super":
		if call.label("from") == nil {
			return nil, nil
		}
		return f.step(start, "", &model.Expr{Op: model.OpSuper}), nil
	case name == "init" && receiver != nil && receiver.op == exprName && receiver.text == "self":
		if e := f.selfInit(call); e != nil {
			return append(f.step(start, model.SelfField, e), model.Step{Return: true}), nil
		}
		return nil, &notFollowed{"a call of self.init", start}
	case name == "append" && receiver != nil && receiver.op == exprName && len(call.args) == 2:
		return f.unknown(start, f.p.i, "a call of append")
	case name == "print" || name == "assert" || name == "debugPrint" || name == "NSLog" || name == "assertionFailure":
		return nil, nil
	}
	// A value that is decoded and dropped: it may throw all the same.
	if e.op == exprTry || f.yields {
		if v := f.value(e); !hasUnknown(v) {
			return f.step(start, "", v), nil
		}
	}
	return f.unknown(start, f.p.i, "a call")
}

// passOver moves behind a statement that is not followed: through its blocks to
// the end of the line they close on.
func (f *follower) passOver(end int) {
	p := f.p
	for p.jump(); p.i < end; {
		if t := p.tok(); t.Newline && !p.continues() && !t.Is("else") && !t.Is("catch") || t.Is(";") {
			return
		}
		p.jump()
	}
}

// unknown notes that the tokens from start to end were not followed. What they
// assign to is unknown; if they may throw besides, so is the whole.
func (f *follower) unknown(start, end int, what string) ([]model.Step, error) {
	var steps []model.Step
	tokens := f.p.f.Tokens
	for i := start; i < end; i++ {
		t := tokens[i]
		if t.Is("throw") || t.Is("try") && !tokens[i+1].Is("?") || t.Is("return") {
			return nil, &notFollowed{what + " that is not followed and may throw", start}
		}
		if t.Kind != scan.Ident || !tokens[i+1].Is("=") && !tokens[i+1].Is(".") || tokens[i+2].Is("=") {
			continue
		}
		e := &model.Expr{Op: model.OpUnknown, Why: what}
		if _, local := f.vars[t.Text]; local {
			f.vars[t.Text] = binding{value: e}
		}
		if f.fields[t.Text] && tokens[i+1].Is("=") {
			steps = append(steps, f.step(start, t.Text, e)...)
		}
	}
	return steps, nil
}

// target reads the left side of an assignment to a field or to self.
func (f *follower) target() (string, bool) {
	p := f.p
	n := 0
	if p.is("self") {
		if p.at(1).Is("=") && !p.at(2).Is("=") {
			p.i += 2
			return model.SelfField, true
		}
		if !p.at(1).Is(".") {
			return "", false
		}
		n = 2
	} else if b, local := f.vars[p.tok().Text]; local && b.value == nil {
		return "", false
	}
	name := p.at(n)
	if name.Kind != scan.Ident || !f.fields[name.Text] || !p.at(n+1).Is("=") || p.at(n+2).Is("=") && !p.at(n+2).Space {
		return "", false
	}
	p.i += n + 2
	return name.Text, true
}

// assignLocal follows name = expression for a local name, also one declared
// without a value.
func (f *follower) assignLocal(end int) ([]model.Step, bool) {
	p := f.p
	name := p.tok()
	if _, known := f.vars[name.Text]; !known || name.Kind != scan.Ident || !p.at(1).Is("=") || p.at(2).Is("=") {
		return nil, false
	}
	start := p.i
	p.i += 2
	value := f.value(p.parseExpr(end, 0))
	f.vars[name.Text] = binding{value: value}
	return f.step(start, "", value), true
}

// local follows let name = expression.
func (f *follower) local(end int) ([]model.Step, error) {
	p := f.p
	start := p.i
	p.advance()
	name := p.tok()
	if name.Kind != scan.Ident {
		f.passOver(end)
		return f.unknown(start, p.i, "a declaration")
	}
	p.advance()
	var want *model.Type
	if p.accept(":") {
		want = f.link.resolve(p.parseType(), f.decl)
	}
	if !p.accept("=") {
		f.vars[name.Text] = binding{value: &model.Expr{Op: model.OpUnknown, Why: "a name without a value"}}
		return nil, nil
	}
	e := p.parseExpr(end, 0)
	return f.bind(name.Text, e, want, start)
}

// bind makes a local name stand for an expression. want is its declared type, nil
// where it has none.
func (f *follower) bind(name string, e *expr, want *model.Type, start int) ([]model.Step, error) {
	if b, ok := f.containerOf(e); ok {
		f.vars[name] = b
		if withoutTry(e).op == exprName {
			return nil, nil
		}
		if e.op == exprTry && e.text == "try?" {
			return nil, &notFollowed{"a container asked for with try?", start}
		}
		return f.step(start, "", wrap(b.path, &model.Expr{Op: model.OpContainer, Container: b.container})), nil
	}
	value := f.value(e)
	if value.Op == model.OpConst && want != nil {
		value.Type = want
	} else if value.Op == model.OpConst && value.Type == nil {
		value.Type = literalType(value.Value)
	}
	f.vars[name] = binding{value: value}
	return f.step(start, "", value), nil
}

// condition follows what stands between if or guard and its block: conditions
// joined by commas. names are those that it binds.
func (f *follower) condition(end int) (cond *model.Expr, before []model.Step, ok bool) {
	p := f.p
	for {
		var one *model.Expr
		if p.is("let") || p.is("var") {
			p.advance()
			name := p.tok().Text
			p.advance()
			if p.accept(":") {
				p.parseType()
			}
			var value *model.Expr
			var inner binding // a dictionary, if that is what is bound
			if p.accept("=") {
				e := p.parseCondition(end)
				value = f.value(e)
				if b, ok := f.containerOf(e); ok && b.container == jsonMap {
					inner = b
				}
			} else if b, known := f.vars[name]; known && !b.isContainer { // if let name
				value = b.value
			} else {
				return nil, nil, false
			}
			f.vars[name] = binding{value: value}
			if inner.isContainer {
				f.vars[name] = inner
			}
			one = &model.Expr{Op: model.OpCall, Func: "!= nil", Args: []*model.Expr{value}, Pos: value.Pos}
		} else {
			one = f.value(p.parseCondition(end))
		}
		if hasUnknown(one) {
			return nil, nil, false
		}
		if cond == nil {
			cond = one
		} else {
			cond = &model.Expr{Op: model.OpCall, Func: "&&", Args: []*model.Expr{cond, one}, Pos: cond.Pos}
		}
		if !p.accept(",") {
			return cond, nil, p.is("{") || p.is("else")
		}
	}
}

// braces follows { statements } with names of its own.
func (f *follower) braces() ([]model.Step, error) {
	p := f.p
	if !p.is("{") {
		return nil, &notFollowed{"a block", p.i}
	}
	shut := p.shut()
	p.advance()
	steps, err := f.block(shut)
	p.i = shut
	p.advance()
	return steps, err
}

// scope runs one branch and answers the names as they are behind it.
func (f *follower) scope(run func() ([]model.Step, error)) ([]model.Step, map[string]binding, error) {
	outer := f.vars
	f.vars = map[string]binding{}
	for k, v := range outer {
		f.vars[k] = v
	}
	steps, err := run()
	inner := f.vars
	f.vars = outer
	return steps, inner, err
}

// join makes names that two branches have left with different values stand for
// either, by the condition.
func (f *follower) join(cond *model.Expr, yes, no map[string]binding, yesEnds, noEnds bool) {
	for name, old := range f.vars {
		a, b := yes[name], no[name]
		switch {
		case a.value == old.value && b.value == old.value, old.isContainer:
		case yesEnds:
			f.vars[name] = b
		case noEnds:
			f.vars[name] = a
		case a.value != nil && b.value != nil:
			f.vars[name] = binding{value: &model.Expr{Op: model.OpIf, Args: []*model.Expr{cond, a.value, b.value}, Pos: cond.Pos}}
		}
	}
}

func ends(steps []model.Step) bool {
	if len(steps) == 0 {
		return false
	}
	last := steps[len(steps)-1]
	return last.Return || last.Expr != nil && last.Expr.Op == model.OpFail || last.Cond != nil && ends(last.Then) && ends(last.Else)
}

func (f *follower) ifElse(end int) ([]model.Step, error) {
	p := f.p
	start := p.i
	p.advance()
	outer := f.vars
	f.vars = copyVars(outer)
	cond, _, ok := f.condition(end)
	if !ok {
		f.vars = outer
		p.i = start
		f.passOver(end)
		return f.unknown(start, p.i, "an if statement")
	}
	yes, yesVars, err := f.scope(f.braces)
	f.vars = outer
	if err != nil {
		return nil, err
	}
	var no []model.Step
	noVars := copyVars(outer)
	if p.accept("else") {
		no, noVars, err = f.scope(func() ([]model.Step, error) {
			if p.is("if") {
				return f.ifElse(end)
			}
			return f.braces()
		})
		if err != nil {
			return nil, err
		}
	}
	step := model.Step{Cond: cond, Then: yes, Else: no, Pos: p.f.Where(start)}
	f.join(cond, yesVars, noVars, ends(yes), ends(no))
	if simple := f.simpleElse(step); simple != nil {
		return simple, nil
	}
	return []model.Step{step}, nil
}

func copyVars(vars map[string]binding) map[string]binding {
	out := make(map[string]binding, len(vars))
	for k, v := range vars {
		out[k] = v
	}
	return out
}

// simpleElse makes if let n = try? a { x = f(n) } else { x = b } one assignment,
// x = f(a) ?? b, which says the same and keeps what is known of each value apart.
func (f *follower) simpleElse(s model.Step) []model.Step {
	if s.Cond.Op != model.OpCall || s.Cond.Func != "!= nil" || len(s.Then) != 1 || len(s.Else) != 1 {
		return nil
	}
	a, b := s.Then[0], s.Else[0]
	if a.Field == "" || a.Field != b.Field || a.Cond != nil || b.Cond != nil || a.Return || b.Return || a.Do || b.Do || !made(a.Expr, s.Cond.Args[0]) {
		return nil
	}
	a.Expr = &model.Expr{Op: model.OpElse, Args: []*model.Expr{a.Expr, b.Expr}, Pos: s.Pos}
	return []model.Step{a}
}

// made says whether e has a value exactly where test has one.
func made(e, test *model.Expr) bool {
	return e == test || e.Op == model.OpCall && e.Func == "String" && len(e.Args) == 1 && made(e.Args[0], test)
}

func (f *follower) guard(end int) ([]model.Step, error) {
	p := f.p
	start := p.i
	p.advance()
	outer := copyVars(f.vars)
	cond, _, ok := f.condition(end)
	if !ok || !p.accept("else") {
		f.vars = outer
		p.i = start
		f.passOver(end)
		return f.unknown(start, p.i, "a guard statement")
	}
	bound := f.vars
	f.vars = outer
	no, _, err := f.scope(f.braces)
	f.vars = bound
	if err != nil {
		return nil, err
	}
	if !ends(no) {
		return nil, &notFollowed{"a guard statement", start}
	}
	return []model.Step{{Cond: cond, Else: no, Pos: p.f.Where(start)}}, nil
}

func (f *follower) doCatch(end int) ([]model.Step, error) {
	p := f.p
	start := p.i
	p.advance()
	yes, yesVars, err := f.scope(f.braces)
	if err != nil {
		return nil, err
	}
	if !p.is("catch") {
		f.vars = mergeInto(f.vars, yesVars)
		return yes, nil
	}
	p.advance()
	for p.i < end && !p.is("{") { // catch let error as DecodingError
		p.jump()
	}
	no, noVars, err := f.scope(f.braces)
	if err != nil {
		return nil, err
	}
	if p.is("catch") {
		return nil, &notFollowed{"several catch clauses", start}
	}
	for name, old := range f.vars {
		if a, b := yesVars[name], noVars[name]; !old.isContainer && a.value != nil && b.value != nil && (a.value != old.value || b.value != old.value) {
			f.vars[name] = binding{value: &model.Expr{Op: model.OpCatch, Args: []*model.Expr{a.value, b.value}, Pos: p.f.Where(start)}}
		}
	}
	if len(yes) == 1 && len(no) == 1 && yes[0].Field != "" && yes[0].Field == no[0].Field && yes[0].Cond == nil && no[0].Cond == nil && no[0].Expr != nil {
		s := yes[0]
		s.Expr = &model.Expr{Op: model.OpCatch, Args: []*model.Expr{yes[0].Expr, no[0].Expr}, Pos: s.Pos}
		return []model.Step{s}, nil
	}
	return []model.Step{{Do: true, Then: yes, Else: no, Pos: p.f.Where(start)}}, nil
}

func mergeInto(vars, inner map[string]binding) map[string]binding {
	for name := range vars {
		vars[name] = inner[name]
	}
	return vars
}

// switchCase follows switch value { case a, b: … default: … } as branches.
func (f *follower) switchCase(end int) ([]model.Step, error) {
	p := f.p
	start := p.i
	p.advance()
	subject := f.value(p.parseCondition(end))
	if !p.is("{") || hasUnknown(subject) {
		return nil, &notFollowed{"a switch statement", start}
	}
	shut := p.shut()
	p.advance()
	first := f.step(start, "", subject)
	type arm struct {
		cond  *model.Expr // nil for default
		steps []model.Step
		vars  map[string]binding
	}
	var arms []arm
	for p.i < shut {
		var a arm
		switch {
		case p.accept("default"):
		case p.accept("case"):
			for {
				at := p.i
				e := p.parseExpr(shut, 0)
				value := f.value(e)
				if value.Op != model.OpConst {
					return nil, &notFollowed{"a pattern of a switch statement", at}
				}
				one := &model.Expr{Op: model.OpCall, Func: "==", Args: []*model.Expr{subject, value}, Pos: p.f.Where(at)}
				if a.cond == nil {
					a.cond = one
				} else {
					a.cond = &model.Expr{Op: model.OpCall, Func: "||", Args: []*model.Expr{a.cond, one}, Pos: one.Pos}
				}
				if !p.accept(",") {
					break
				}
			}
		default:
			return nil, &notFollowed{"a switch statement", start}
		}
		if !p.accept(":") {
			return nil, &notFollowed{"a pattern of a switch statement", p.i}
		}
		stop := p.i
		for q := (&parser{f: p.f, i: p.i}); ; q.jump() {
			stop = q.i
			if q.i >= shut || (q.is("case") || q.is("default")) && (q.tok().Newline || q.at(-1).Is(";")) {
				break
			}
		}
		var err error
		if a.steps, a.vars, err = f.scope(func() ([]model.Step, error) { return f.block(stop) }); err != nil {
			return nil, err
		}
		p.i = stop
		arms = append(arms, a)
	}
	p.i = shut
	p.advance()
	var steps []model.Step
	for i := len(arms) - 1; i >= 0; i-- {
		if arms[i].cond == nil {
			steps = arms[i].steps
			f.join(subject, arms[i].vars, f.vars, false, true)
			continue
		}
		before := copyVars(f.vars)
		f.join(arms[i].cond, arms[i].vars, before, ends(arms[i].steps), ends(steps) && len(steps) > 0)
		steps = []model.Step{{Cond: arms[i].cond, Then: arms[i].steps, Else: steps, Pos: p.f.Where(start)}}
	}
	return append(first, steps...), nil
}

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

func hasUnknown(e *model.Expr) (found bool) {
	e.Walk(func(e *model.Expr) { found = found || e.Op == model.OpUnknown })
	return found
}

func withoutTry(e *expr) *expr {
	for e.op == exprTry && e.text == "try" {
		e = e.args[0]
	}
	return e
}

func wrap(path []*model.Expr, inner *model.Expr) *model.Expr {
	for i := len(path) - 1; i >= 0; i-- {
		level := *path[i]
		level.Args = []*model.Expr{inner}
		inner = &level
	}
	return inner
}

// thrown names the error of a throw statement as a log would show it.
func (f *follower) thrown(e *expr) string {
	text := f.p.f.Text(e.start, e.end)
	description := ""
	for i := e.start; i < e.end; i++ {
		if t := f.p.f.Tokens[i]; t.Kind == scan.String {
			description = t.Value
		}
	}
	for _, kind := range []string{"dataCorrupted", "typeMismatch", "valueNotFound", "keyNotFound"} {
		if strings.HasPrefix(text, "DecodingError."+kind) {
			if _, name := e.method(); strings.HasPrefix(name, "typeMismatch") || strings.HasPrefix(name, "valueNotFound") {
				if len(e.args) > 1 && e.args[1].op == exprType {
					return fmt.Sprintf("%s: %s: %s", kind, e.args[1].text, description)
				}
			}
			return kind + ": " + description
		}
	}
	return text
}

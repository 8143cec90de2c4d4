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
	sig := parserAt(d.file, fn.signature[0])
	if !sig.Accept("from") || sig.Kind() != scan.Ident {
		return nil, &notFollowed{"an initialiser whose parameter has no name", fn.signature[0]}
	}
	f.decoder = sig.Text()
	if fn.body[1] == 0 {
		return nil, &notFollowed{"an initialiser without a body", fn.signature[0]}
	}
	return f.block(f.end)
}

func (l *linker) newFollower(d *typeDecl, fn *function, fields map[string]bool) *follower {
	return &follower{p: parserAt(d.file, fn.body[0]), end: fn.body[1], decl: d, link: l, fields: fields, vars: map[string]binding{}}
}

// block follows statements up to token end. A branch that ends the reading makes
// what stands behind it part of the other branch.
func (f *follower) block(end int) ([]model.Step, error) {
	if f.depth++; f.depth > maxDepth {
		return nil, &notFollowed{"blocks too deep inside each other", f.p.I}
	}
	defer func() { f.depth-- }()
	var steps []model.Step
	for f.p.I < end {
		before := f.p.I
		more, err := f.statement(end)
		if err != nil {
			return nil, err
		}
		steps = append(steps, more...)
		if f.p.I == before {
			f.p.Advance()
		}
	}
	return steps, nil
}

func (f *follower) step(start int, field string, e *model.Expr) []model.Step {
	pos := f.p.F.Where(start)
	if e.Pos.IsZero() {
		e.Pos = pos
	}
	return []model.Step{{Field: field, Expr: e, Pos: pos}}
}

func (f *follower) statement(end int) ([]model.Step, error) {
	p := f.p
	start := p.I
	switch t := p.Tok(); {
	case t.Is(";"):
		p.Advance()
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
		p.Advance()
		if p.I < end && !p.Newline() && !p.Is(";") && !p.Is("}") {
			if p.Is("nil") { // of a failable initialiser
				p.Advance()
				return []model.Step{{Field: model.SelfField, Expr: &model.Expr{Op: model.OpConst, Value: &model.Literal{Kind: model.NullLiteral}}, Return: true, Pos: p.F.Where(start)}}, nil
			}
			if f.yields {
				value := f.value(p.parseExpr(end, 0))
				return append(f.step(start, model.SelfField, value), model.Step{Return: true, Pos: p.F.Where(start)}), nil
			}
			return nil, &notFollowed{"a return statement", start}
		}
		return []model.Step{{Return: true, Pos: p.F.Where(start)}}, nil
	case t.Is("throw"):
		p.Advance()
		e := p.parseExpr(end, 0)
		return f.step(start, "", &model.Expr{Op: model.OpFail, Why: f.thrown(e)}), nil
	case t.Is("defer"):
		p.Advance()
		for i := p.I; i < p.Shut(); i++ { // it runs last of all
			if t := p.F.TokenAt(i); f.fields[t.Text] || t.Is("self") {
				return nil, &notFollowed{"a defer block that may assign", start}
			}
		}
		p.Jump()
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
	if p.I < end && !p.Newline() && !p.Is(";") {
		f.passOver(end)
		return f.unknown(start, p.I, "a statement")
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
		return f.unknown(start, f.p.I, "a call of append")
	case name == "print" || name == "assert" || name == "debugPrint" || name == "NSLog" || name == "assertionFailure":
		return nil, nil
	}
	// A value that is decoded and dropped: it may throw all the same.
	if e.op == exprTry || f.yields {
		if v := f.value(e); !hasUnknown(v) {
			return f.step(start, "", v), nil
		}
	}
	return f.unknown(start, f.p.I, "a call")
}

// passOver moves behind a statement that is not followed: through its blocks to
// the end of the line they close on.
func (f *follower) passOver(end int) {
	p := f.p
	for p.Jump(); p.I < end; {
		if t := p.Tok(); t.Newline && !p.continues() && !t.Is("else") && !t.Is("catch") || t.Is(";") {
			return
		}
		p.Jump()
	}
}

// unknown notes that the tokens from start to end were not followed. What they
// assign to is unknown; if they may throw besides, so is the whole.
func (f *follower) unknown(start, end int, what string) ([]model.Step, error) {
	var steps []model.Step
	tokens := f.p.F
	for i := start; i < end; i++ {
		t := tokens.TokenAt(i)
		if t.Is("throw") || t.Is("try") && !tokens.Is(i+1, "?") || t.Is("return") {
			return nil, &notFollowed{what + " that is not followed and may throw", start}
		}
		// name = …, name += …, name.append(…), name[…] = …, name?.x = …, &name
		next := tokens.Word(i + 1)
		plain := next == "=" && !tokens.Is(i+2, "=") || next == "." || next == "[" || next == "?" || next == "!" && !tokens.Is(i+2, "=")
		compound := next != "" && strings.Contains("+-*/%|&^", next) && tokens.Is(i+2, "=") && !tokens.TokenAt(i+2).Space
		if t.Kind != scan.Ident || !plain && !compound && !tokens.Is(i-1, "&") || tokens.Is(i-1, ".") && !tokens.Is(i-2, "self") {
			continue
		}
		e := &model.Expr{Op: model.OpUnknown, Why: what}
		if _, local := f.vars[t.Text]; local && !tokens.Is(i-1, ".") {
			f.vars[t.Text] = binding{value: e}
		}
		if f.fields[t.Text] {
			steps = append(steps, f.step(start, t.Text, e)...)
		}
	}
	return steps, nil
}

// target reads the left side of an assignment to a field or to self.
func (f *follower) target() (string, bool) {
	p := f.p
	n := 0
	if p.Is("self") {
		if p.Ahead(1, "=") && !p.Ahead(2, "=") {
			p.I += 2
			return model.SelfField, true
		}
		if !p.Ahead(1, ".") {
			return "", false
		}
		n = 2
	} else if b, local := f.vars[p.Text()]; local && b.value == nil {
		return "", false
	}
	name := p.At(n)
	if name.Kind != scan.Ident || !f.fields[name.Text] || !p.Ahead(n+1, "=") || p.Ahead(n+2, "=") && !p.At(n+2).Space {
		return "", false
	}
	p.I += n + 2
	return name.Text, true
}

// assignLocal follows name = expression for a local name, also one declared
// without a value.
func (f *follower) assignLocal(end int) ([]model.Step, bool) {
	p := f.p
	name := p.Tok()
	if _, known := f.vars[name.Text]; !known || name.Kind != scan.Ident || !p.Ahead(1, "=") || p.Ahead(2, "=") {
		return nil, false
	}
	start := p.I
	p.I += 2
	value := f.value(p.parseExpr(end, 0))
	f.vars[name.Text] = binding{value: value}
	return f.step(start, "", value), true
}

// local follows let name = expression.
func (f *follower) local(end int) ([]model.Step, error) {
	p := f.p
	start := p.I
	p.Advance()
	name := p.Tok()
	if name.Kind != scan.Ident {
		f.passOver(end)
		return f.unknown(start, p.I, "a declaration")
	}
	p.Advance()
	var want *model.Type
	if p.Accept(":") {
		want = f.link.resolve(p.parseType(), f.decl)
	}
	if !p.Accept("=") {
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
	text := f.p.F.Text(e.start, e.end)
	description := ""
	for i := e.start; i < e.end; i++ {
		if t := f.p.F.TokenAt(i); t.Kind == scan.String {
			description = t.Text
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

package swift

import (
	"fmt"
	"strings"

	"vetta/internal/model"
	"vetta/internal/source/scan"
)

// follower turns the body of an init(from:) into steps, statement by statement.
// What it does not understand becomes an OpUnknown, and then nothing is claimed
// about the field that takes it.
type follower struct {
	p       *parser
	end     int
	decl    *typeDecl
	link    *linker
	fields  map[string]bool // names of the stored properties
	decoder string          // the parameter's name
	vars    map[string]binding
	steps   []model.Step
}

// binding is what a local name stands for: a container somewhere below the value
// that is decoded, or a value read from it.
type binding struct {
	isContainer bool
	path        []*model.Expr // an OpAt or OpAtIf for each level, outermost first
	container   model.Container
	keys        map[string]string // case of the key type -> name on the wire
	value       *model.Expr
}

// notFollowed ends the following of a whole initialiser.
type notFollowed struct {
	why string
	tok int
}

func (e *notFollowed) Error() string { return e.why }

// follow reads the initialiser of a declaration. The error is a *notFollowed.
func (l *linker) follow(d *typeDecl, fn *function, fields map[string]bool) ([]model.Step, error) {
	f := &follower{p: &parser{f: d.file, i: fn.body[0]}, end: fn.body[1], decl: d, link: l, fields: fields, vars: map[string]binding{}}
	sig := &parser{f: d.file, i: fn.signature[0]}
	if !sig.accept("from") || sig.tok().Kind != scan.Ident {
		return nil, &notFollowed{"an initialiser whose parameter has no name", fn.signature[0]}
	}
	f.decoder = sig.tok().Text
	if fn.body[1] == 0 {
		return nil, &notFollowed{"an initialiser without a body", fn.signature[0]}
	}
	if err := f.statements(f.end); err != nil {
		return nil, err
	}
	return f.steps, nil
}

func (f *follower) statements(end int) error {
	for f.p.i < end {
		before := f.p.i
		if err := f.statement(end); err != nil {
			return err
		}
		if f.p.i == before {
			f.p.advance()
		}
	}
	return nil
}

func (f *follower) statement(end int) error {
	p := f.p
	start := p.i
	switch t := p.tok(); {
	case t.Is(";"):
		p.advance()
		return nil
	case t.Is("let") || t.Is("var"):
		return f.local(end)
	case t.Is("if"):
		return f.ifElse(end)
	case t.Is("do"):
		return f.doCatch(end)
	case t.Is("guard") || t.Is("for") || t.Is("while") || t.Is("repeat") || t.Is("switch") || t.Is("defer"):
		f.passOver(end)
		return f.unknown(start, p.i, fmt.Sprintf("a %s statement", t.Text))
	case t.Is("throw") || t.Is("return"):
		return &notFollowed{fmt.Sprintf("a %s statement", t.Text), start}
	}
	if name, ok := f.target(); ok {
		expr := p.parseExpr(end, 0)
		f.add(name, f.value(expr), start)
		return nil
	}
	expr := p.parseExpr(end, 0)
	if p.i < end && !p.tok().Newline && !p.is(";") {
		f.passOver(end)
		return f.unknown(start, p.i, "a statement")
	}
	if call := withoutTry(expr); call.op == exprCall {
		if receiver, name := call.method(); name == "init" && receiver != nil && receiver.op == exprName && receiver.text == "super" {
			if call.label("from") != nil {
				f.add("", &model.Expr{Op: model.OpSuper}, start)
			}
			return nil
		}
	}
	return f.unknown(start, p.i, "a call")
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

// unknown notes that the tokens from start to end were not followed. Fields they
// assign to are unknown; if they may throw besides, so is the whole.
func (f *follower) unknown(start, end int, what string) error {
	assigned := false
	for i := start; i < end; i++ {
		t := f.p.f.Tokens[i]
		if t.Kind == scan.Ident && f.fields[t.Text] && f.p.f.Tokens[i+1].Is("=") && !f.p.f.Tokens[i+2].Is("=") {
			f.add(t.Text, &model.Expr{Op: model.OpUnknown, Why: what}, start)
			assigned = true
		}
	}
	for i := start; i < end; i++ {
		if t := f.p.f.Tokens[i]; t.Is("try") && !f.p.f.Tokens[i+1].Is("?") && !assigned || t.Is("throw") {
			return &notFollowed{what + " that may throw", start}
		}
	}
	return nil
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
	}
	name := p.at(n)
	if name.Kind != scan.Ident || !f.fields[name.Text] || !p.at(n+1).Is("=") || p.at(n+2).Is("=") && !p.at(n+2).Space {
		return "", false
	}
	p.i += n + 2
	return name.Text, true
}

func (f *follower) add(field string, e *model.Expr, start int) {
	e.Pos = f.p.f.Where(start)
	f.steps = append(f.steps, model.Step{Field: field, Expr: e, Pos: e.Pos})
}

// local reads let name = expression.
func (f *follower) local(end int) error {
	p := f.p
	start := p.i
	p.advance()
	name := p.tok()
	p.advance()
	if p.accept(":") {
		p.parseType()
	}
	if name.Kind != scan.Ident || !p.accept("=") {
		f.passOver(end)
		return f.unknown(start, p.i, "a declaration")
	}
	expr := p.parseExpr(end, 0)
	if b, ok := f.containerOf(expr); ok {
		f.vars[name.Text] = b
		if expr.op != exprTry || expr.text != "try" {
			return &notFollowed{"a container asked for without try", start}
		}
		f.add("", wrap(b.path, &model.Expr{Op: model.OpContainer, Container: b.container}), start)
		return nil
	}
	value := f.value(expr)
	f.vars[name.Text] = binding{value: value}
	f.add("", value, start)
	return nil
}

// ifElse follows if let name = expression { field = a } else { field = b }.
func (f *follower) ifElse(end int) error {
	p := f.p
	start := p.i
	fallback := func(why string) error {
		p.i = start
		f.passOver(end)
		return f.unknown(start, p.i, why)
	}
	p.advance()
	if !p.accept("let") {
		return fallback("an if statement")
	}
	name := p.tok().Text
	p.advance()
	if !p.accept("=") {
		return fallback("an if statement")
	}
	test := f.value(p.parseExpr(end, 0))
	if !p.is("{") || hasUnknown(test) {
		return fallback("an if statement")
	}
	saved, had := f.vars[name]
	f.vars[name] = binding{value: test}
	yes, ok := f.block()
	if had {
		f.vars[name] = saved
	} else {
		delete(f.vars, name)
	}
	if !ok || !p.accept("else") || !p.is("{") {
		return fallback("an if statement")
	}
	no, ok := f.block()
	if !ok || len(yes) != len(no) {
		return fallback("an if statement")
	}
	for i := range yes {
		// The first branch is taken where the test has a value; only an expression
		// made from that value tells the two apart.
		if yes[i].Field != no[i].Field || !made(yes[i].Expr, test) {
			return fallback("an if statement")
		}
	}
	for i := range yes {
		f.add(yes[i].Field, &model.Expr{Op: model.OpElse, Args: []*model.Expr{yes[i].Expr, no[i].Expr}}, start)
	}
	return nil
}

// made says whether e has a value exactly where test has one.
func made(e, test *model.Expr) bool {
	return e == test || e.Op == model.OpConvert && total[e.Func] && made(e.Args[0], test)
}

// total are the conversions that always succeed.
var total = map[string]bool{"String": true, "Double": false, "Int": false}

// doCatch follows do { field = try a } catch { field = b }.
func (f *follower) doCatch(end int) error {
	p := f.p
	start := p.i
	fallback := func() error {
		p.i = start
		f.passOver(end)
		return f.unknown(start, p.i, "a do statement")
	}
	p.advance()
	yes, ok := f.block()
	if !ok || !p.accept("catch") || !p.is("{") {
		return fallback()
	}
	no, ok := f.block()
	if !ok || len(yes) != 1 || len(no) != 1 || yes[0].Field != no[0].Field {
		return fallback()
	}
	f.add(yes[0].Field, &model.Expr{Op: model.OpCatch, Args: []*model.Expr{yes[0].Expr, no[0].Expr}}, start)
	return nil
}

// block follows { assignments } and answers its steps, of which every one must
// assign to a field and be wholly followed.
func (f *follower) block() (steps []model.Step, ok bool) {
	p := f.p
	if !p.is("{") {
		return nil, false
	}
	shut := p.shut()
	p.advance()
	outer := f.steps
	f.steps = nil
	err := f.statements(shut)
	steps, f.steps = f.steps, outer
	p.i = shut
	p.advance()
	for _, s := range steps {
		if s.Field == "" || hasUnknown(s.Expr) {
			return nil, false
		}
	}
	return steps, err == nil && len(steps) > 0
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

// containerOf says whether an expression is a container, and which.
func (f *follower) containerOf(e *expr) (binding, bool) {
	e = withoutTry(e)
	if e.op == exprName {
		b, ok := f.vars[e.text]
		return b, ok && b.isContainer
	}
	receiver, name := e.method()
	if receiver == nil {
		return binding{}, false
	}
	if receiver.op == exprName && receiver.text == f.decoder {
		switch name {
		case "container":
			if keys, ok := f.keys(e.label("keyedBy")); ok {
				return binding{isContainer: true, container: model.Keyed, keys: keys}, true
			}
		case "singleValueContainer":
			return binding{isContainer: true, container: model.Single}, true
		}
		return binding{}, false
	}
	outer, ok := f.containerOf(receiver)
	if !ok || name != "nestedContainer" || outer.container != model.Keyed {
		return binding{}, false
	}
	key, ok := f.key(e.label("forKey"), outer)
	keys, known := f.keys(e.label("keyedBy"))
	if !ok || !known {
		return binding{}, false
	}
	path := append(append([]*model.Expr{}, outer.path...), &model.Expr{Op: model.OpAt, Key: key})
	return binding{isContainer: true, container: model.Keyed, keys: keys, path: path}, true
}

// keys reads the names of a key type given as Keys.self.
func (f *follower) keys(e *expr) (map[string]string, bool) {
	if e == nil || e.op != exprType || e.typ.Kind != model.Named {
		return nil, false
	}
	d := f.link.lookup(e.typ.Name, f.decl)
	if d == nil || d.kind != "enum" {
		return nil, false
	}
	return codingKeys(d), true
}

// codingKeys are the names on the wire that the cases of a key type stand for.
func codingKeys(d *typeDecl) map[string]string {
	keys := map[string]string{}
	for _, c := range d.cases {
		keys[c.name] = c.name
		if c.raw != nil && c.raw.Kind == model.StringLiteral {
			keys[c.name] = c.raw.Text
		}
	}
	return keys
}

func (f *follower) key(e *expr, b binding) (string, bool) {
	if e == nil || e.op != exprMember {
		return "", false
	}
	key, ok := b.keys[e.text]
	return key, ok
}

// value turns an expression into an operation.
func (f *follower) value(e *expr) *model.Expr {
	v := f.valueOf(e)
	if v == nil {
		v = &model.Expr{Op: model.OpUnknown, Why: "the expression " + f.p.f.Text(e.start, e.end)}
	}
	v.Pos = f.p.f.Where(e.start)
	return v
}

func (f *follower) valueOf(e *expr) *model.Expr {
	switch e.op {
	case exprTry:
		inner := f.value(e.args[0])
		switch e.text {
		case "try?":
			return &model.Expr{Op: model.OpTry, Args: []*model.Expr{inner}}
		case "try":
			return inner
		}
	case exprLiteral, exprMember:
		if e.op == exprMember && len(e.args) > 0 && e.args[0].op != exprName {
			return nil
		}
		q := &parser{f: f.p.f, i: e.start}
		if l := q.literal(e.end); l.Kind != model.OtherLiteral {
			return &model.Expr{Op: model.OpConst, Value: l}
		}
	case exprName:
		if b, ok := f.vars[e.text]; ok && !b.isContainer {
			return b.value
		}
	case exprBinary:
		if e.text == "??" {
			return &model.Expr{Op: model.OpElse, Args: []*model.Expr{f.value(e.args[0]), f.value(e.args[1])}}
		}
	case exprCall:
		return f.call(e)
	}
	return nil
}

func (f *follower) call(e *expr) *model.Expr {
	receiver, name := e.method()
	if receiver == nil {
		if len(e.args) == 2 && e.labels[0] == "" {
			if _, known := total[name]; known {
				return &model.Expr{Op: model.OpConvert, Func: name, Args: []*model.Expr{f.value(e.args[1])}}
			}
		}
		return nil
	}
	b, ok := f.containerOf(receiver)
	if !ok || len(e.args) < 2 || e.args[1].op != exprType {
		return nil
	}
	typ := f.link.resolve(e.args[1].typ, f.decl)
	decode := &model.Expr{Op: model.OpDecode, Type: typ, Declared: strings.TrimSpace(e.args[1].text), Pos: f.p.f.Where(e.start)}
	if b.container == model.Single {
		if name != "decode" {
			return nil
		}
		return wrap(b.path, decode)
	}
	key, ok := f.key(e.label("forKey"), b)
	if !ok {
		return nil
	}
	op := model.OpAt
	switch name {
	case "decode":
	case "decodeIfPresent":
		op = model.OpAtIf
	default:
		return nil
	}
	return wrap(b.path, &model.Expr{Op: op, Key: key, Args: []*model.Expr{decode}, Pos: decode.Pos})
}

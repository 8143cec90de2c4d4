// Package byhand follows code of Kotlin and Java that reads parsed objects (org.json): in the class that is
// made, or where the text arrives. It goes over the tree of package code and makes the steps of a model.
package byhand

import (
	"slices"

	"vetta/internal/code"
	"vetta/internal/code/each"
	"vetta/internal/code/hand"
	"vetta/internal/model"
	"vetta/internal/source/jvm"
	"vetta/internal/source/lower"
)

// follower follows the statements by which a class reads a parsed object (org.json):
// in a constructor, a static factory or a function of its companion. It knows the forms
// that such code mostly has; where it meets another it says so, and nothing is claimed
// of the class.
type follower struct {
	p     *jvm.Project
	of    *jvm.Class // whose instance is made
	c     *jvm.Class // in which names are looked up, that of a function that is followed into
	f     *jvm.File
	why   string
	whyAt model.Pos
	// pending are steps that an expression takes besides having a value.
	pending []model.Step
	inlined int             // how many functions it has gone into
	filled  map[string]bool // the fields whose collections a loop has filled
	depth   int             // of blocks inside each other
	looped  int             // the depth of the block of the loop that is followed, 0 for none
	skipped bool            // what is followed of that block may be skipped
	must    []*model.Expr   // what is read of each element in that block, whatever becomes of it
	// elsewhere says that what is followed stands outside of the class, ofElement that it makes an
	// instance of each element of a list, which it asks for by an index: see site.
	elsewhere, ofElement bool
}

// value is what a name or an expression stands for.
type value struct {
	isNode   bool          // a JSONObject or JSONArray: what is reached by path
	path     []access      // from the object that is read
	expr     *model.Expr   // any other value
	instance bool          // the instance that is being made
	guards   []*value      // parts that must have been found for it to be anything: a?.b
	length   bool          // how many elements an array has
	fresh    bool          // a new JSONObject or JSONArray without anything in it
	orEmpty  bool          // such a one where an opt method has found no part
	property bool          // what a property of the class holds at first
	list     []*model.Expr // a list that is being filled; its elements come from loops
	isList   bool
	isMap    bool         // an empty map
	behind   []model.Step // what makes the instance, where expr is the call of its constructor
	storedIn string       // the field that a collection has been stored in, which holds what is added later
	keysOf   *value       // an iterator over the keys of a part of the document
	of       *value       // of the key of a loop, the part whose key it is
}

// access is one call that goes further into the document: getJSONObject("vessel").
type access struct {
	fn     string
	key    string
	each   bool // at each index of a loop, or at each key where member says so
	member bool
	index  int
	pos    model.Pos
}

// Follow makes the steps of a class from its method; ok is false where it cannot.
func Follow(p *jvm.Project, c *jvm.Class, m *model.Method) (steps []model.Step, why string, at model.Pos, ok bool) {
	w := &follower{p: p, of: c, c: c, f: c.File, filled: map[string]bool{}}
	env := map[string]*value{}
	for _, param := range m.Params {
		if jvm.TakesParsed(param) {
			env[param.Name] = &value{isNode: true}
		}
	}
	if jvm.ReaderOf(c, "JSONObject") != m {
		return nil, "it is made of a JSONArray", m.Pos, false
	}
	if slices.Contains(c.Ctors, m) && (m.Calls[1] > 0 || m.Body[1] > m.Body[0] || len(c.Inits) > 0 || c.SuperCall[1] > 0) {
		steps = w.constructed(m, env, m.Pos)
		if w.why == "" && len(steps) == 0 {
			w.why, w.whyAt = "what it makes", m.Pos
		}
		return w.withMentioned(steps), w.why, w.whyAt, w.why == ""
	}
	if m.Body[1] <= m.Body[0] {
		return nil, "it has no body", m.Pos, false
	}
	if m.IsExpression {
		v := w.expression(w.read(m.Body[0], m.Body[1]), env)
		steps = append(w.take(), w.made(v, m.Pos)...)
	} else {
		steps = w.statements(w.body(m.Body[0], m.Body[1]), env)
	}
	if w.why == "" && len(steps) == 0 {
		w.why, w.whyAt = "what it makes", m.Pos
	}
	if w.why != "" {
		return nil, w.why, w.whyAt, false
	}
	return w.withMentioned(steps), "", m.Pos, true
}

// language is how the code of the file is read that is followed.
func (w *follower) language() lower.Language {
	return lower.Language{
		Name: w.f.Language, Type: w.f.Parse,
		Resolve: func(t *model.Type, _ string, _ []string) *model.Type { return t },
	}
}

// body are the statements between two tokens.
func (w *follower) body(from, to int) []code.Stmt {
	return lower.Body(w.f.File, w.language(), from, to)
}

// read is the expression between two tokens, one that is not told apart where they are more.
func (w *follower) read(from, to int) *code.Expr {
	for to > from && w.f.Is(to-1, ";") {
		to--
	}
	if from >= to {
		return &code.Expr{From: w.f.TokenAt(from).Start, To: w.f.TokenAt(from).Start}
	}
	e, end := lower.Expression(w.f.File, w.language(), from, to)
	if end < to {
		return &code.Expr{Op: code.Other, From: w.f.TokenAt(from).Start, To: w.f.TokenAt(to - 1).End}
	}
	return e
}

// tokens are those that an expression or a statement stands in.
func (w *follower) tokens(from, to int32) (first, end int) {
	return w.f.Index(from), w.f.Index(to)
}

// where is the position of an expression.
func (w *follower) where(e *code.Expr) model.Pos { return w.f.At(e.From) }

// initialisers are the steps of what stands in the body of a Kotlin class. A property
// whose initialiser is not followed is not claimed; the others are.
func (w *follower) initialisers(env map[string]*value) (steps []model.Step) {
	for _, f := range w.c.Fields {
		if v := env[f.Name]; v != nil && v.isNode { // the parsed object itself is kept
			steps = append(steps, model.Step{Field: f.Name, Expr: &model.Expr{Op: model.OpUnknown, Why: "it keeps the parsed object", Pos: f.Pos}, Pos: f.Pos})
		}
	}
	for _, i := range w.c.Inits {
		pos := w.f.Where(i.From)
		if i.Field == "" {
			steps = append(steps, w.statements(w.body(i.From, i.To), env)...)
			if w.why != "" { // it may have set any of them
				w.why = ""
				steps = append(steps, w.unknownFields("", pos, pos)...)
			}
			continue
		}
		init := w.read(i.From, i.To)
		v := w.expression(init, env)
		e := &model.Expr{Op: model.OpUnknown, Why: w.why, Pos: pos}
		w.why = ""
		if v != nil && !v.isNode {
			if e = w.plain(v, init.From); w.why != "" {
				e, w.why = &model.Expr{Op: model.OpUnknown, Why: w.why, Pos: pos}, ""
			}
		}
		if v != nil {
			held := *v
			held.property = true
			env[i.Field] = &held
		}
		steps = append(steps, w.take()...)
		steps = append(steps, model.Step{Field: i.Field, Expr: e, Pos: pos})
	}
	return steps
}

func (w *follower) fail(at int32, why string) {
	if w.why == "" {
		w.why, w.whyAt = why, w.f.At(at)
	}
}

// made are the steps where an expression is the instance itself: a call of a
// constructor with values for its parameters.
func (w *follower) made(v *value, pos model.Pos) []model.Step {
	if v == nil || v.expr == nil || v.expr.Op != model.OpNew {
		return nil
	}
	if len(v.behind) > 0 {
		return v.behind
	}
	var steps []model.Step
	for i, name := range v.expr.Names {
		steps = append(steps, model.Step{Field: name, Expr: v.expr.Args[i], Pos: pos})
	}
	return steps
}

// statements follows the statements of a block.
func (w *follower) statements(all []code.Stmt, env map[string]*value) (steps []model.Step) {
	w.depth++
	defer func() { w.depth-- }()
	return w.rest(all, env)
}

// rest follows statements up to the end of their block.
func (w *follower) rest(all []code.Stmt, env map[string]*value) (steps []model.Step) {
	for len(all) > 0 && w.why == "" {
		n := hand.Together(all)
		more, returns, all2 := w.statement(all[:n], all[n:], env)
		if w.why != "" {
			w.pending = nil
			if more = w.passOver(all[:n], env); w.why != "" {
				return steps
			}
			all2 = all[n:]
		}
		steps = append(steps, more...)
		if returns && len(steps) > 0 && steps[len(steps)-1].Expr != nil && steps[len(steps)-1].Expr.Op == model.OpFail {
			return steps
		}
		if returns {
			return append(steps, model.Step{Return: true, Pos: w.f.At(all[0].From)})
		}
		all = all2
	}
	return steps
}

// statement follows one statement, with those that go on with it; returns says that nothing behind it runs.
// Of after, the statements behind it, it answers those that are still to be followed.
func (w *follower) statement(all, after []code.Stmt, env map[string]*value) (steps []model.Step, returns bool, rest []code.Stmt) {
	s := &all[0]
	if s.Torn {
		w.fail(s.From, "a statement")
		return nil, false, after
	}
	switch {
	case s.Kind == code.If:
		return w.branch(all, after, env)
	case s.Kind == code.For || s.Kind == code.While:
		if over, ok := w.keyLoop(s, env); ok {
			return over, false, after
		}
		if s.Kind == code.While {
			w.fail(s.From, "while")
			return nil, false, after
		}
		return w.loop(s, env), false, after
	case s.Kind == code.Try:
		return w.try(all, env), false, after
	case s.Kind == code.Switch:
		return w.cases(s, env), false, after
	case s.Kind == code.Throw:
		return []model.Step{w.thrown(s.Value, env)}, true, after
	case s.Kind == code.Repeat:
		w.fail(s.From, "do")
	case s.Kind == code.Jump:
		w.fail(s.From, s.Name)
	case s.Op == code.Block && s.Kind == code.Plain && len(all) == 1 && s.Value == nil && s.Heads == 0: // braces alone
		return w.statements(s.Body, env), false, after
	case s.Op == code.Block:
		w.fail(s.From, "a statement")
	case s.Op == code.Return:
		return w.returns(s, env), true, after
	case s.Op == code.Do && isCallOf(s.Value, "this"):
		v, _ := w.construct(s.Value, []string{w.of.Name}, env)
		return w.made(v, w.f.At(s.From)), false, after
	case s.Op == code.Do && isCallOf(s.Value, "super"):
		first, shut := w.tokens(s.Value.From, s.Value.To)
		return w.above(first+2, shut-1, env), false, after
	default:
		if skipped, ok := w.unlessSkipped(s, after, env); ok {
			return skipped, false, nil
		}
		if made, ok := w.handedOn(s, env); ok {
			return made, w.why == "", after
		}
		must := len(w.must)
		done := w.simple(s, env)
		if !w.inLoop() || w.skipped {
			w.must = w.must[:must]
		}
		return append(w.take(), done...), false, after
	}
	return nil, false, after
}

// inLoop says whether the statement that is followed stands right in the block of a loop.
func (w *follower) inLoop() bool { return w.depth == w.looped }

// isCallOf says whether an expression calls a bare name.
func isCallOf(e *code.Expr, name string) bool {
	return e != nil && e.Op == code.Call && e.Args[0].Op == code.Name && e.Args[0].Text == name
}

// returns are the steps of a return: what is returned is the instance, or there is none.
func (w *follower) returns(s *code.Stmt, env map[string]*value) (steps []model.Step) {
	if s.Value == nil {
		return nil
	}
	pos := w.where(s.Value)
	if s.Value.Op == code.Name && s.Value.Text == "null" { // there is no instance
		nothing := &model.Expr{Op: model.OpConst, Value: &model.Literal{Kind: model.NullLiteral}, Pos: pos}
		return []model.Step{{Field: model.SelfField, Expr: nothing, Pos: pos}}
	}
	v := w.expression(s.Value, env)
	steps = w.take()
	if v == nil || !v.instance {
		made := w.made(v, pos)
		if made == nil && w.why == "" {
			w.fail(s.Value.From, "what it returns")
		}
		steps = append(steps, made...)
	}
	return steps
}

// head is the condition of an if.
func (w *follower) head(s *code.Stmt, env map[string]*value) *model.Expr {
	if s.Heads != 1 || s.Body[0].Op != code.Block || s.Body[0].Value == nil {
		w.fail(s.From, "a condition")
		return &model.Expr{Op: model.OpUnknown}
	}
	return w.condition(s.Body[0].Value, env)
}

// inside is what a block holds behind its heads.
func inside(s *code.Stmt) []code.Stmt { return s.Body[max(0, s.Heads):] }

// otherwise are the statements of the else of an if, nil for none.
func otherwise(all []code.Stmt) []code.Stmt {
	switch {
	case len(all) < 2:
		return nil
	case all[1].Kind == code.Else:
		return all[1].Body
	}
	chain := slices.Clone(all[1:])
	chain[0].Kind = code.If
	return chain
}

func (w *follower) branch(all, after []code.Stmt, env map[string]*value) (steps []model.Step, returns bool, rest []code.Stmt) {
	s := &all[0]
	pos := w.f.At(s.From)
	cond := w.head(s, env)
	then, other := inside(s), otherwise(all)
	if cond.Op == model.OpConst { // whether the object that is read is there
		if cond.Value.Text == "true" {
			return w.statements(then, env), false, after
		}
		return w.statements(other, env), false, after
	}
	step := model.Step{Cond: cond, Pos: pos}
	yes, no := fork(env), fork(env)
	if skips(then) {
		if !w.inLoop() || len(all) > 1 {
			w.fail(s.From, "continue")
			return nil, false, after
		}
		around := w.skipped
		w.skipped = true
		step.Else = w.rest(after, no)
		w.skipped = around
		joined(env, yes, no, cond, false, over(step.Else), pos)
		return w.conditional(s.From, step), false, nil
	}
	step.Then = w.statements(then, yes)
	step.Else = w.statements(other, no)
	if must, steps := each.Refusal(step); must != nil && w.inLoop() && !w.skipped {
		w.must = append(w.must, must)
		joined(env, yes, no, cond, over(step.Then), over(step.Else), pos)
		return steps, false, after
	}
	joined(env, yes, no, cond, over(step.Then), over(step.Else), pos)
	return w.conditional(s.From, step), false, after
}

// simple follows a declaration, an assignment or a call.
func (w *follower) simple(s *code.Stmt, env map[string]*value) []model.Step {
	pos := w.f.At(s.From)
	if steps, ok := w.put(s, env); ok {
		return steps
	}
	switch {
	case s.Torn || s.Op == code.Block || s.Op == code.Return || s.Kind == code.Throw || s.Kind == code.Jump:
		w.fail(s.From, "a statement")
		return nil
	case s.Op == code.Let && isBare(s.Value):
		if s.Name == "" {
			w.fail(s.From, "a statement")
			return nil
		}
		env[s.Name] = changed(s.Name, pos)
		return nil
	case s.Op == code.Do:
		if w.isScope(s.Value, env) { // for what its block does
			if v := w.expression(s.Value, env); v != nil {
				return w.mustBe(v, pos)
			}
			return nil
		}
		if steps, ok := w.required(s.Value, env); ok {
			return steps
		}
		if steps, ok := w.forEach(s.Value, env); ok {
			return steps
		}
		if steps, ok := w.letBlock(s.Value, env); ok {
			return steps
		}
		return w.call(s, env, pos)
	case s.Op == code.Assign && s.Kind == code.Compound:
		return w.call(s, env, pos)
	}
	declared := s.Op == code.Let
	if declared {
		if of := w.keysAt(s.Value, env); of != nil {
			env[s.Name] = &value{keysOf: of}
			return nil
		}
	}
	v := w.expression(s.Value, env)
	if v == nil {
		return nil
	}
	name, target := s.Name, ""
	if s.Of != nil {
		target = s.Of.Text
	}
	switch {
	case name == "":
	case declared && v.expr != nil && v.expr.Op == model.OpNew && v.expr.Type == nil: // more may be done to it
		made := w.made(v, pos)
		env[name] = &value{instance: true}
		return made
	case declared:
		env[name] = v
		return w.mustBe(v, pos)
	case v.orEmpty && (target != "" || w.field(name)):
		w.fail(s.From, "a part of the document is kept as it is")
		return nil
	case target == "this" || target == "" && w.field(name) && (env[name] == nil || env[name].property) || target != "" && env[target] != nil && env[target].instance:
		if v.isNode {
			w.fail(s.From, "a part of the document is kept as it is")
			return nil
		}
		w.filled[name] = v.expr != nil || len(v.list) > 0
		if v.isList || v.isMap {
			v.storedIn = name
		}
		if target != "" || env[name] != nil && env[name].property {
			delete(env, name) // it holds another value from here on, or may
		}
		return []model.Step{{Field: name, Expr: w.stored(v, s.Value.From), Pos: pos}}
	case env[name] != nil && target == "":
		env[name] = v
		return w.mustBe(v, pos)
	}
	w.fail(s.From, "an assignment to "+name)
	return nil
}

// isBare says whether a declaration gives its name no value.
func isBare(e *code.Expr) bool {
	return e == nil || e.Op == code.Other && len(e.Args) == 0 && e.To == 0
}

// stored is plain for a value that a field is given, which a loop over elements may not be
// left with.
func (w *follower) stored(v *value, at int32) *model.Expr {
	e := w.plain(v, at)
	if each.OfLoop(e) {
		w.fail(at, "the value of one element of a loop")
		return &model.Expr{Op: model.OpUnknown}
	}
	return e
}

func (w *follower) field(name string) bool { return w.fieldOf(name) != nil }

// fieldOf is the field of a name, nil where the instance has none.
func (w *follower) fieldOf(name string) *model.Field {
	for _, f := range w.fields() {
		if f.Name == name {
			return f
		}
	}
	return nil
}

// plain is the expression of a value that is stored.
func (w *follower) plain(v *value, at int32) *model.Expr {
	if e := held(v); e != nil {
		return e
	}
	w.fail(at, "the value that is stored")
	return &model.Expr{Op: model.OpUnknown}
}

// node is the expression of a value that may be a part of the document.
func (w *follower) node(v *value, at int32) *model.Expr {
	if v.expr != nil {
		return v.expr
	}
	w.fail(at, "a part of the document is kept as it is")
	return nil
}

// nest puts what is read at the end of a path inside the accesses that lead there.
func nest(path []access, leaf *model.Expr) *model.Expr {
	for i := len(path) - 1; i >= 0; i-- {
		a := path[i]
		e := &model.Expr{Op: model.OpAt, Key: a.key, Func: a.fn, Args: []*model.Expr{leaf}, Pos: a.pos}
		switch {
		case a.member:
			e.Lossy = true
		case a.key == "":
			e.Op, e.Index, e.Lossy = model.OpElem, a.index, a.each
		}
		leaf = e
	}
	return leaf
}

package jvm

import (
	"slices"
	"strings"

	"vetta/internal/model"
	"vetta/internal/source/scan"
)

// follower follows the statements by which a class reads a parsed object (org.json):
// in a constructor, a static factory or a function of its companion. It knows the forms
// that such code mostly has; where it meets another it says so, and nothing is claimed
// of the class.
type follower struct {
	p      *project
	of     *Class // whose instance is made
	c      *Class // in which names are looked up, that of a function that is followed into
	f      *File
	why    string
	whyAt  model.Pos
	params map[string]bool
	// pending are steps that an expression takes besides having a value.
	pending []model.Step
	inlined int             // how many functions it has gone into
	filled  map[string]bool // the fields whose collections a loop has filled
	loopEnd int             // the token behind the block of the loop that is followed
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

// follow makes the steps of a class from its method; ok is false where it cannot.
func (p *project) follow(c *Class, m *model.Method) (steps []model.Step, why string, at model.Pos, ok bool) {
	w := &follower{p: p, of: c, c: c, f: c.File, filled: map[string]bool{}}
	env := map[string]*value{}
	for _, param := range m.Params {
		if takesParsed(param) {
			env[param.Name] = &value{isNode: true}
		}
	}
	if readerOf(c, "JSONObject") != m {
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
	cur := &scan.Cursor{F: w.f.File, I: m.Body[0]}
	if m.IsExpression {
		v := w.expression(cur, m.Body[1], env)
		steps = append(w.take(), w.made(v, m.Pos)...)
	} else {
		steps = w.statements(cur, m.Body[1], env)
	}
	if w.why == "" && len(steps) == 0 {
		w.why, w.whyAt = "what it makes", m.Pos
	}
	if w.why != "" {
		return nil, w.why, w.whyAt, false
	}
	return w.withMentioned(steps), "", m.Pos, true
}

// initialisers are the steps of what stands in the body of a Kotlin class. A property
// whose initialiser is not followed is not claimed; the others are.
func (w *follower) initialisers(env map[string]*value) (steps []model.Step) {
	for _, f := range w.c.Fields {
		if v := env[f.Name]; v != nil && v.isNode { // the parsed object itself is kept
			steps = append(steps, model.Step{Field: f.Name, Expr: &model.Expr{Op: model.OpUnknown, Why: "it keeps the parsed object", Pos: f.Pos}, Pos: f.Pos})
		}
	}
	for _, i := range w.c.Inits {
		cur := &scan.Cursor{F: w.f.File, I: i.From}
		pos := w.f.Where(i.From)
		if i.Field == "" {
			steps = append(steps, w.statements(cur, i.To, env)...)
			if w.why != "" { // it may have set any of them
				w.why = ""
				steps = append(steps, w.unknownFields("", pos, pos)...)
			}
			continue
		}
		v := w.expression(cur, i.To, env)
		e := &model.Expr{Op: model.OpUnknown, Why: w.why, Pos: pos}
		w.why = ""
		if v != nil && !v.isNode {
			if e = w.plain(v, cur); w.why != "" {
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

func (w *follower) fail(c *scan.Cursor, why string) {
	if w.why == "" {
		w.why, w.whyAt = why, c.F.Where(min(c.I, c.F.Len()))
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

// end is the token behind the statement at the cursor.
func (w *follower) end(c *scan.Cursor, limit int) int {
	ahead := *c
	for ahead.I < limit {
		if ahead.Is(";") {
			return ahead.I
		}
		if ahead.I > c.I && w.f.Language == "kotlin" && ahead.Newline() && !continues(&ahead) {
			return ahead.I
		}
		ahead.Jump()
	}
	return limit
}

// continues says whether a line of Kotlin goes on with the expression of the one before.
func continues(c *scan.Cursor) bool {
	if t := c.Tok(); t.Is(".") || t.Is("?") || t.Is("&") || t.Is("|") || t.Is("else") {
		return true
	}
	before := c.At(-1)
	return before.Kind == scan.Punct && strings.Contains("+-*/=<&|?:.,({", before.Text)
}

// statements follows statements up to a token.
func (w *follower) statements(c *scan.Cursor, limit int, env map[string]*value) (steps []model.Step) {
	for c.I < limit && w.why == "" {
		start := c.I
		more, returns := w.statement(c, limit, env)
		if w.why != "" {
			w.pending = nil
			if more = w.passOver(c, start, limit, env); w.why != "" {
				return steps
			}
		}
		steps = append(steps, more...)
		if returns && len(steps) > 0 && steps[len(steps)-1].Expr != nil && steps[len(steps)-1].Expr.Op == model.OpFail {
			return steps
		}
		if returns {
			return append(steps, model.Step{Return: true, Pos: c.F.Where(start)})
		}
	}
	return steps
}

// statement follows one statement; returns says that nothing behind it runs.
func (w *follower) statement(c *scan.Cursor, limit int, env map[string]*value) (steps []model.Step, returns bool) {
	t := c.Tok()
	switch {
	case t.Is(";"):
		c.Advance()
	case t.Is("{"):
		end := c.Shut()
		c.Advance()
		steps = append(steps, w.statements(c, end, env)...)
		c.I = end + 1
	case t.Is("if") && c.Ahead(1, "("):
		steps = append(steps, w.branch(c, limit, env)...)
	case (t.Is("for") || t.Is("while")) && c.Ahead(1, "("):
		if over, ok := w.keyLoop(c, limit, env); ok {
			return append(steps, over...), false
		}
		if t.Is("while") {
			w.fail(c, t.Text)
			return nil, false
		}
		steps = append(steps, w.loop(c, limit, env)...)
	case t.Is("try") && c.Ahead(1, "{"):
		steps = append(steps, w.try(c, env)...)
	case t.Is("throw"):
		end := w.end(c, limit)
		steps = append(steps, w.thrown(c, end, env))
		c.I = end
		return steps, true
	case t.Is("return"):
		c.Advance()
		end := w.end(c, limit)
		if c.Is("null") && end == c.I+1 { // there is no instance
			nothing := &model.Expr{Op: model.OpConst, Value: &model.Literal{Kind: model.NullLiteral}, Pos: c.Where()}
			steps = append(steps, model.Step{Field: model.SelfField, Expr: nothing, Pos: c.Where()})
			c.I = end
			return steps, true
		}
		if c.I < end {
			v := w.expression(c, end, env)
			steps = append(steps, w.take()...)
			if v == nil || !v.instance {
				made := w.made(v, c.Where())
				if made == nil && w.why == "" {
					w.fail(c, "what it returns")
				}
				steps = append(steps, made...)
			}
		}
		c.I = end
		return steps, true
	case t.Is("this") && c.Ahead(1, "("):
		c.Advance()
		v, _ := w.construct(c, []string{w.of.Name}, env, c.Where())
		steps = append(steps, w.made(v, c.Where())...)
	case t.Is("super") && c.Ahead(1, "("):
		c.Advance()
		from, to := c.I+1, c.Shut()
		c.Jump()
		steps = append(steps, w.above(c.F, from, to, env)...)
	case t.Is("switch") && c.Ahead(1, "(") || t.Is("when") && (c.Ahead(1, "(") || c.Ahead(1, "{")):
		steps = append(steps, w.cases(c, env)...)
	case t.Is("try") || t.Is("do"):
		w.fail(c, t.Text)
	default:
		end := w.end(c, limit)
		if c.F.Is(end-1, "continue") && c.F.Is(end-2, ":") && c.F.Is(end-3, "?") {
			return append(steps, w.unlessSkipped(c, end, limit, env)...), false
		}
		if made, ok := w.handedOn(c, end, env); ok {
			c.I = end
			return append(steps, made...), w.why == ""
		}
		must := len(w.must)
		done := w.simple(c, end, env)
		if limit != w.loopEnd || w.skipped {
			w.must = w.must[:must]
		}
		steps = append(append(steps, w.take()...), done...)
		c.I = end
	}
	return steps, false
}

// body is the block or the one statement behind a condition, as a range of tokens.
func (w *follower) body(c *scan.Cursor, limit int) (from, to int) {
	if c.Is("{") {
		from, to = c.I+1, c.Shut()
		c.Jump()
		return from, to
	}
	from, to = c.I, max(c.I, min(w.extent(c.I, limit), limit)) // of source that ends too soon there is none
	if !w.isBlock(from) {                                      // else stands on the same line in Kotlin
		to = from + elseAt(c.F, from, to)
	}
	c.I = to
	c.Accept(";")
	return from, to
}

// elseAt is how many tokens of a statement stand before the else that is not its own.
func elseAt(f *scan.File, from, to int) int {
	own := 0
	for i := from; i < to; i++ {
		switch {
		case f.Is(i, "if"):
			own++
		case f.Is(i, "else") && own > 0:
			own--
		case f.Is(i, "else") && !f.Is(i+1, "-"): // of when it is an arm
			return i - from
		}
		if m := f.Partner(i); m > i {
			i = m
		}
	}
	return to - from
}

// ifHead reads if (…) and what stands behind it, as a range of tokens.
func (w *follower) ifHead(c *scan.Cursor, limit int, env map[string]*value) (cond *model.Expr, from, to int) {
	c.Advance()
	shut := c.Shut()
	cond = w.condition(&scan.Cursor{F: c.F, I: c.I + 1}, shut, env)
	c.I = shut + 1
	from, to = w.body(c, limit)
	return cond, from, to
}

func (w *follower) branch(c *scan.Cursor, limit int, env map[string]*value) []model.Step {
	pos := c.Where()
	cond, from, to := w.ifHead(c, limit, env)
	if cond.Op == model.OpConst { // whether the object that is read is there
		holds := cond.Value.Text == "true"
		var steps []model.Step
		if holds {
			steps = w.statements(&scan.Cursor{F: c.F, I: from}, to, env)
		}
		if c.Accept("else") {
			from, to = w.body(c, limit)
			if !holds {
				steps = w.statements(&scan.Cursor{F: c.F, I: from}, to, env)
			}
		}
		return steps
	}
	step := model.Step{Cond: cond, Pos: pos}
	yes, no := fork(env), fork(env)
	if skips(c.F, from, to) {
		if limit != w.loopEnd || c.Is("else") {
			w.fail(c, "continue")
			return nil
		}
		around := w.skipped
		w.skipped = true
		step.Else = w.statements(c, limit, no)
		w.skipped = around
		joined(env, yes, no, cond, false, over(step.Else), pos)
		return w.conditional(c, step)
	}
	step.Then = w.statements(&scan.Cursor{F: c.F, I: from}, to, yes)
	if c.Is("else") {
		c.Advance()
		if c.Is("if") {
			step.Else = w.branch(c, limit, no)
		} else {
			from, to = w.body(c, limit)
			step.Else = w.statements(&scan.Cursor{F: c.F, I: from}, to, no)
		}
	}
	if must, steps := refusal(step); must != nil && limit == w.loopEnd && !w.skipped {
		w.must = append(w.must, must)
		joined(env, yes, no, cond, over(step.Then), over(step.Else), pos)
		return steps
	}
	joined(env, yes, no, cond, over(step.Then), over(step.Else), pos)
	return w.conditional(c, step)
}

// simple follows a declaration, an assignment or a call.
func (w *follower) simple(c *scan.Cursor, end int, env map[string]*value) []model.Step {
	pos := c.Where()
	if steps, ok := w.put(c, end, env); ok {
		return steps
	}
	// The last name before = is what is assigned.
	eq := -1
	for i := c.I; i < end; i++ {
		t := c.F.TokenAt(i)
		if m := c.F.Partner(i); m > i {
			i = m
			continue
		}
		if t.Is("=") && !c.F.Is(i+1, "=") && !c.F.Is(i-1, "!") && !c.F.Is(i-1, "=") && !c.F.Is(i-1, "<") && !c.F.Is(i-1, ">") && !c.F.Is(i-1, "+") && !c.F.Is(i-1, "-") {
			eq = i
			break
		}
	}
	if eq < 0 {
		if w.isScope(c, end, env) { // for what its block does
			if v := w.expression(c, end, env); v != nil {
				return w.mustBe(v, pos)
			}
			return nil
		}
		if steps, ok := w.required(c, env); ok {
			return steps
		}
		if name := declares(c, end); name != "" {
			env[name] = changed(name, pos)
			return nil
		}
		if steps, ok := w.forEach(c, end, env); ok {
			return steps
		}
		if steps, ok := w.letBlock(c, end, env); ok {
			return steps
		}
		return w.call(c, end, env, pos)
	}
	name := ""
	target := ""
	declared := false
	if c.Is("val") || c.Is("var") || c.Is("final") {
		declared = true
	}
	for i := eq - 1; i >= c.I; i-- {
		t := c.F.TokenAt(i)
		if t.Kind == scan.Ident && name == "" && (i == eq-1 || w.f.Language == "kotlin") {
			if w.f.Language == "kotlin" && i < eq-1 && declared && !c.F.Is(i-1, "val") && !c.F.Is(i-1, "var") {
				continue // a declared type
			}
			name = t.Text
			if i > c.I && c.F.Is(i-1, ".") && i-2 >= c.I {
				target = c.F.TokenAt(i - 2).Text
			} else if i > c.I {
				declared = true
			}
			break
		}
	}
	if of := w.keysAt(c.F, eq+1, end, env); of != nil && declared {
		env[name] = &value{keysOf: of}
		return nil
	}
	v := w.expression(&scan.Cursor{F: c.F, I: eq + 1}, end, env)
	if v == nil {
		return nil
	}
	switch {
	case declared && v.expr != nil && v.expr.Op == model.OpNew && v.expr.Type == nil: // more may be done to it
		made := w.made(v, pos)
		env[name] = &value{instance: true}
		return made
	case declared:
		env[name] = v
		return w.mustBe(v, pos)
	case v.orEmpty && (target != "" || w.field(name)):
		w.fail(c, "a part of the document is kept as it is")
		return nil
	case target == "this" || target == "" && w.field(name) && (env[name] == nil || env[name].property) || target != "" && env[target] != nil && env[target].instance:
		if v.isNode {
			w.fail(c, "a part of the document is kept as it is")
			return nil
		}
		w.filled[name] = v.expr != nil || len(v.list) > 0
		if v.isList || v.isMap {
			v.storedIn = name
		}
		if target != "" || env[name] != nil && env[name].property {
			delete(env, name) // it holds another value from here on, or may
		}
		return []model.Step{{Field: name, Expr: w.stored(v, c), Pos: pos}}
	case env[name] != nil && target == "":
		env[name] = v
		return w.mustBe(v, pos)
	}
	w.fail(c, "an assignment to "+name)
	return nil
}

// stored is plain for a value that a field is given, which a loop over elements may not be
// left with.
func (w *follower) stored(v *value, c *scan.Cursor) *model.Expr {
	e := w.plain(v, c)
	if ofLoop(e) {
		w.fail(c, "the value of one element of a loop")
		return &model.Expr{Op: model.OpUnknown}
	}
	return e
}

// ofLoop says whether an expression reads at the index or the key of a loop.
func ofLoop(e *model.Expr) bool {
	if (e.Op == model.OpElem || e.Op == model.OpAt) && e.Lossy {
		return true
	}
	return slices.ContainsFunc(e.Args, ofLoop)
}

// declares is the name that a statement declares without a value, "" where it is none: int n,
// val s: String.
func declares(c *scan.Cursor, end int) string {
	f := c.F
	if c.Is("val") || c.Is("var") {
		if f.KindAt(c.I+1) == scan.Ident && (f.Is(c.I+2, ":") || c.I+2 == end) {
			return f.Ident(c.I + 1)
		}
		return ""
	}
	if end-c.I < 2 || f.KindAt(end-1) != scan.Ident || f.KindAt(end-2) != scan.Ident && !f.Is(end-2, ">") && !f.Is(end-2, "]") || f.EndsLines() {
		return ""
	}
	for i := c.I; i < end-1; i++ {
		if f.KindAt(i) != scan.Ident && !f.Is(i, "<") && !f.Is(i, ">") && !f.Is(i, ",") && !f.Is(i, "[") && !f.Is(i, "]") && !f.Is(i, ".") && !f.Is(i, "?") {
			return ""
		}
	}
	return f.Ident(end - 1)
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
func (w *follower) plain(v *value, c *scan.Cursor) *model.Expr {
	if e := held(v); e != nil {
		return e
	}
	w.fail(c, "the value that is stored")
	return &model.Expr{Op: model.OpUnknown}
}

// node is the expression of a value that may be a part of the document.
func (w *follower) node(v *value, c *scan.Cursor) *model.Expr {
	if v.expr != nil {
		return v.expr
	}
	w.fail(c, "a part of the document is kept as it is")
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

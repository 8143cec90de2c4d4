package byhand

import (
	"slices"
	"strings"

	"vetta/internal/code"
	"vetta/internal/code/each"
	"vetta/internal/model"
	"vetta/internal/source/scan"
)

// passOver makes of a statement that is not followed what is known of it all the same: the
// fields that it names may hold anything behind it, and what it reads for certain is read
// all the same. One that may end the reading ends the following.
func (w *follower) passOver(all []code.Stmt, env map[string]*value) (steps []model.Step) {
	why, at := w.why, w.whyAt
	start, stop := w.tokens(all[0].From, all[len(all)-1].To)
	f := w.f.File
	pos := f.Where(start)
	w.why = ""
	if !w.isBlock(start) {
		steps = w.readsIn(start, stop, env)
	}
	if w.callsOwn(f, start, stop, env) { // which may assign to any of them
		steps = append(steps, w.unknownFields(why, at, pos)...)
	}
	for i := start; i < stop; i++ {
		t := f.TokenAt(i)
		if (t.Is("require") || t.Is("check") || t.Is("error")) && f.Is(i+1, "(") || t.Is("return") || t.Is("throw") || (t.Is("break") || t.Is("continue")) && !w.loops(start) || t.Is("super") {
			w.why, w.whyAt = why, at
			return nil
		}
		if t.Kind != scan.Ident {
			continue
		}
		assigned := assignedAt(f, i)
		if of := w.fieldOf(t.Text); of != nil && !f.Is(i+1, "(") && (assigned || !isValue(of.Type)) {
			w.filled[t.Text] = true
			steps = append(steps, model.Step{Field: t.Text, Expr: &model.Expr{Op: model.OpUnknown, Why: why, Pos: at}, Pos: pos})
		}
		if v := env[t.Text]; v != nil && v.storedIn != "" {
			steps = append(steps, model.Step{Field: v.storedIn, Expr: &model.Expr{Op: model.OpUnknown, Why: why, Pos: at}, Pos: pos})
		}
		if v := env[t.Text]; v != nil && (assigned || v.isList || v.isMap || v.instance && w.isBlock(start)) {
			env[t.Text] = &value{expr: &model.Expr{Op: model.OpUnknown, Why: why, Pos: at}}
		} else if v == nil && assigned && !w.field(t.Text) {
			env[t.Text] = &value{expr: &model.Expr{Op: model.OpUnknown, Why: why, Pos: at}}
		}
	}
	if !hasUnknownStep(steps) { // it may throw all the same
		steps = append(steps, model.Step{Expr: &model.Expr{Op: model.OpUnknown, Why: why, Pos: at}, Pos: pos})
	}
	return steps
}

// assignedAt says whether the name at a token is given another value there: a = b, a += b, a++.
func assignedAt(f *scan.File, i int) bool {
	if f.Is(i+1, "=") {
		return !f.Is(i+2, "=")
	}
	for _, op := range []string{"+", "-"} {
		if f.Is(i+1, op) && f.Is(i+2, op) || f.Is(i-1, op) && f.Is(i-2, op) {
			return true
		}
	}
	for j := i + 1; j <= i+3; j++ { // the operators that may stand before =, up to >>>
		if f.KindAt(j) != scan.Punct || !strings.Contains("+-*/%&|^<>", f.Word(j)) || f.Word(j) == "" {
			return false
		}
		if f.Is(j+1, "=") && !f.Is(j+2, "=") && (j > i+1 || !f.Is(j, "<") && !f.Is(j, ">")) {
			return true
		}
	}
	return false
}

// isValue says whether what a field of a type holds cannot be changed but by an assignment.
func isValue(t *model.Type) bool {
	if t == nil {
		return false
	}
	switch t.Unwrapped().Name {
	case "int", "long", "short", "byte", "char", "float", "double", "boolean", "String",
		"Integer", "Long", "Short", "Byte", "Character", "Float", "Double", "Boolean", "Int", "Char":
		return t.Unwrapped().Model == nil
	}
	return false
}

// callsOwn says whether a method of the instance that is made is called between tokens, or
// the instance is handed on.
func (w *follower) callsOwn(f *scan.File, from, to int, env map[string]*value) bool {
	for i := from; i < to; i++ {
		if f.KindAt(i) != scan.Ident {
			continue
		}
		v := env[f.Ident(i)]
		switch {
		case v != nil && v.instance || f.Is(i, "this"):
			if f.Is(i+1, ".") && f.Is(i+3, "(") || !f.Is(i+1, ".") {
				return true
			}
		case i == from && f.Is(i+1, "(") && !w.isBlock(i) && w.helperOf([]string{f.Ident(i)}, "", 1) == nil: // perhaps an inherited one
			return true
		case f.Is(i+1, "(") && !f.Is(i-1, ".") && !f.Is(i-1, "new"):
			for _, s := range w.chain() {
				if slices.ContainsFunc(s.Methods, func(m *model.Method) bool { return m.Name == f.Ident(i) && !m.Static }) {
					return true
				}
			}
		}
	}
	return false
}

// isBlock says whether the statement at a token holds others.
func (w *follower) isBlock(at int) bool {
	switch w.f.Word(at) {
	case "if", "for", "while", "switch", "when", "try", "do", "synchronized", "{":
		return true
	}
	return false
}

// loops says whether the statement at a token is a loop, which break and continue stay in.
func (w *follower) loops(at int) bool {
	return w.f.Is(at, "for") || w.f.Is(at, "while") || w.f.Is(at, "do")
}

// withMentioned are steps with one more, where some of them are not followed: what is not may
// read any key that the class names.
func (w *follower) withMentioned(steps []model.Step) []model.Step {
	if !hasUnknownStep(steps) {
		return steps
	}
	var names []string
	f := w.of.File
	for i := w.of.Body[0]; i < w.of.Body[1]; i++ {
		if f.KindAt(i) != scan.String && (f.KindAt(i) != scan.Ident || f.Is(i+1, "(")) {
			continue
		}
		if text := w.mentioned(i); text != "" && !slices.Contains(names, text) {
			names = append(names, text)
		}
	}
	return append(steps, model.Step{Expr: &model.Expr{Op: model.OpUnknown, Names: names, Pos: w.of.Pos}, Pos: w.of.Pos})
}

// readsIn are the reads of the document that stand between tokens, none of which is left
// out by a choice: what is done with them is not followed.
func (w *follower) readsIn(from, to int, env map[string]*value) (steps []model.Step) {
	f := w.f.File
	for i := from; i < to; i++ {
		if t := f.TokenAt(i); t.Is("?") || t.Is("{") || t.Is("if") || t.Is("when") || t.Is("&") || t.Is("|") {
			return nil
		}
	}
	for i := from; i < to; i++ {
		v := env[f.Ident(i)]
		if v == nil || !v.isNode || f.KindAt(i) != scan.Ident || f.Is(i-1, ".") || !f.Is(i+1, ".") {
			continue
		}
		stop := i + 1
		for stop+2 < to && f.Is(stop, ".") && f.Is(stop+2, "(") && (readers[f.Ident(stop+1)] || strings.HasSuffix(f.Ident(stop+1), "JSONObject") || strings.HasSuffix(f.Ident(stop+1), "JSONArray")) {
			stop = f.Partner(stop+2) + 1
		}
		read := w.expression(w.read(i, stop), env)
		if w.why == "" && read != nil && read.expr != nil && each.OfLoop(read.expr) { // what each loop reads
			if read.expr = each.Each(read.expr); read.expr != nil && each.OfLoop(read.expr) {
				read.expr = nil
			}
		}
		if w.why == "" && read != nil && read.expr != nil {
			steps = append(steps, model.Step{Expr: read.expr, Pos: f.Where(i)})
		}
		w.why = ""
		i = max(i, stop-1)
	}
	return steps
}

// mentioned is the text that a token of the class is, or the constant of its name.
func (w *follower) mentioned(i int) string {
	before := w.f
	w.f = w.of.File
	defer func() { w.f = before }()
	return w.textAt(i, i+1, nil)
}

// try follows try { … } catch (JSONException e) { … }: what the first block reads, and what
// the second does where that throws.
func (w *follower) try(all []code.Stmt, env map[string]*value) []model.Step {
	s := &all[0]
	pos := w.f.At(s.From)
	if len(all) < 2 || all[1].Kind != code.Catch || s.Heads > 0 {
		w.fail(s.From, "try without catch")
		return nil
	}
	step := model.Step{Do: true, Pos: pos}
	tried, caught := fork(env), fork(env)
	step.Then = w.statements(s.Body, tried)
	if !catches(all[1].Name, step.Then) {
		w.fail(s.From, "a catch of another error")
		return nil
	}
	if hasUnknownStep(step.Then) { // whether that throws is not known
		w.fail(s.From, "a try block that is not followed")
		return nil
	}
	step.Else = w.statements(inside(&all[1]), caught)
	joined(env, tried, caught, nil, over(step.Then), over(step.Else), pos)
	if len(all) > 2 {
		w.fail(s.From, "several catch blocks")
		return nil
	}
	return []model.Step{step}
}

func hasUnknownStep(steps []model.Step) (found bool) {
	model.WalkSteps(steps, func(_ string, e *model.Expr) { found = found || e.Op == model.OpUnknown })
	return found
}

// thrown is throw new JSONException("…").
func (w *follower) thrown(e *code.Expr, env map[string]*value) model.Step {
	pos := w.where(e)
	text := ""
	switch {
	case e.Op != code.Call:
		from, to := w.tokens(e.From, e.To)
		text = w.f.Joined(from, to)
	case e.Type != nil:
		text = e.Type.Name
	default:
		text = strings.Join(namesOf(e.Args[0]), ".")
	}
	if e.Op == code.Call && len(e.Args) > 1 {
		said := w.message(e.Args[1], env)
		if said == "" {
			said = model.NotTold
		}
		text += ": " + said
	}
	return model.Step{Expr: &model.Expr{Op: model.OpFail, Why: text, Pos: pos}, Pos: pos}
}

// message is the text that an error is given, "" where it is not known: texts and names of texts with +
// between them.
func (w *follower) message(e *code.Expr, env map[string]*value) string {
	if text := w.text(e, env); text != "" || e.Op != code.Plus {
		return text
	}
	left, right := w.message(e.Args[0], env), w.message(e.Args[1], env)
	if left == "" || right == "" {
		return ""
	}
	return left + right
}

// quietCalls are what statements may call that neither reads nor throws nor assigns.
var quietCalls = map[string]bool{"printStackTrace": true, "println": true, "d": true, "e": true, "i": true, "w": true, "v": true, "wtf": true}

// isQuiet says whether a statement only logs: e.printStackTrace(), Log.e(…).
func isQuiet(target []string, method string) bool {
	switch {
	case len(target) == 0:
		return method == "println" || method == "print"
	case method == "printStackTrace":
		return true
	case target[0] == "Log" || target[0] == "Timber":
		return quietCalls[method]
	}
	return target[0] == "System" && quietCalls[method]
}

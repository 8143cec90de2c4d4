package byhand

import (
	"strings"

	"vetta/internal/code"
	"vetta/internal/model"
	"vetta/internal/source/jvm"
	"vetta/internal/source/scan"
)

// chain is the class of the instance with those that it extends, as far as the source has them.
func (w *follower) chain() (all []*jvm.Class) {
	for s, n := w.of, 0; s != nil && n < jvm.MaxSupers; s, n = w.p.SuperOf(s), n+1 {
		s.Read()
		all = append(all, s)
	}
	return all
}

// fields are those of the instance. Of two of one name the first is meant.
func (w *follower) fields() (all []*model.Field) {
	for _, s := range w.chain() {
		for _, f := range s.Fields {
			if !f.Static {
				all = append(all, f)
			}
		}
	}
	return all
}

// hides says whether two fields of the instance have one name.
func (w *follower) hides() bool {
	names := map[string]bool{}
	for _, f := range w.fields() {
		if names[f.Name] {
			return true
		}
		names[f.Name] = true
	}
	return false
}

// unknownFields are the steps after which any field of the instance may hold anything.
func (w *follower) unknownFields(why string, at, pos model.Pos) (steps []model.Step) {
	for _, f := range w.fields() {
		steps = append(steps, model.Step{Field: f.Name, Expr: &model.Expr{Op: model.OpUnknown, Why: why, Pos: at}, Pos: pos})
	}
	return steps
}

// above follows what the constructor of the superclass does to the instance that is called
// with the arguments between two tokens: super(o), or the : Base(o) of Kotlin.
func (w *follower) above(from, to int, env map[string]*value) []model.Step {
	pos := w.f.Where(max(from-1, 0))
	at := w.f.TokenAt(from).Start
	s := w.p.SuperOf(w.c)
	if s == nil { // of a library, which knows nothing of these fields
		return nil
	}
	s.Read()
	var given []*code.Expr
	var names []string
	for i := from; i < to; i++ { // the arguments stand behind a name
		start := i
		for i < to && !w.f.Is(i, ",") {
			i = max(i, w.f.Partner(i)) + 1
		}
		label := ""
		if w.f.KindAt(start) == scan.Ident && w.f.Is(start+1, "=") && !w.f.Is(start+2, "=") {
			label, start = w.f.Ident(start), start+2
		}
		given, names = append(given, w.read(start, i)), append(names, label)
	}
	args, labels, ok := w.argumentsOf(given, names, env, false)
	if !ok {
		return nil
	}
	k := ctorFor(s, args)
	if k == nil && (len(args) > 0 || len(s.Ctors) > 0) || len(w.c.Super.Args) > 0 || w.hides() {
		w.fail(at, "what the constructor of "+s.Name+" does")
		return nil
	}
	if k == nil {
		k = &model.Method{}
	}
	inner := map[string]*value{}
	for i, a := range args {
		if labels[i] != "" && labels[i] != k.Params[i].Name {
			w.fail(at, "arguments in another order")
			return nil
		}
		inner[k.Params[i].Name] = a
	}
	return w.run(at, s, k, args, inner, pos)
}

// run are the steps of a constructor of a class that is given arguments, which env holds by the
// names of its parameters.
func (w *follower) run(at int32, class *jvm.Class, k *model.Method, args []*value, env map[string]*value, pos model.Pos) (steps []model.Step) {
	w.in(at, class, class.File, func() { steps = argumentsFirst(args, w.constructed(k, env, pos), pos) })
	if ends(steps) {
		w.fail(at, "a return inside "+class.Name)
	}
	return steps
}

// argumentsFirst are the steps of a constructor behind the reading of its arguments, which are
// read before it may throw anything of its own.
func argumentsFirst(args []*value, steps []model.Step, pos model.Pos) []model.Step {
	refuses := false
	model.WalkSteps(steps, func(_ string, e *model.Expr) { refuses = refuses || e.Op == model.OpFail })
	var before []model.Step
	for _, a := range args {
		if e := held(a); e != nil && (throws(e) || refuses && e.Op != model.OpConst && e.Op != model.OpUnknown) {
			before = append(before, model.Step{Expr: e, Pos: pos})
		}
	}
	return append(before, steps...)
}

// ctorFor is the one constructor of a class that takes arguments, nil where there is none or
// it is not clear which.
func ctorFor(c *jvm.Class, args []*value) (found *model.Method) {
	for _, k := range c.Ctors {
		fits := len(k.Params) == len(args)
		for i := 0; fits && i < len(args); i++ {
			fits = args[i].isNode == jvm.TakesParsed(k.Params[i])
		}
		if fits && found != nil {
			return nil
		}
		if fits {
			found = k
		}
	}
	return found
}

// constructed are the steps of a constructor of the class in which names are looked up: what
// that of its superclass does, its parameters that are properties, then what it does itself.
func (w *follower) constructed(k *model.Method, env map[string]*value, pos model.Pos) (steps []model.Step) {
	c, f := w.c, w.f.File
	body := w.body(k.Body[0], k.Body[1])
	at := f.TokenAt(k.Body[0]).Start
	switch {
	case k.Super[1] > 0:
		steps = w.above(k.Super[0], k.Super[1], env)
	case k.Calls[1] > 0 && c.File.Language == "kotlin":
		v, _ := w.construct(w.read(k.Calls[0]-2, k.Calls[1]+1), []string{c.Name}, env)
		steps = append(w.take(), w.made(v, pos)...)
		if w.why != "" {
			return nil
		}
		return append(steps, w.statements(body, env)...)
	case c.SuperCall[1] > 0:
		steps = w.above(c.SuperCall[0], c.SuperCall[1], env)
	case !(len(body) > 0 && (isCallOf(body[0].Value, "super") || isCallOf(body[0].Value, "this"))):
		steps = w.above(k.Body[0], k.Body[0], env)
	}
	if w.why != "" {
		return nil
	}
	if c.File.Language == "kotlin" {
		for i, name := range k.Fills {
			if name == "" || i >= len(k.Params) || k.Body[1] > k.Body[0] {
				continue
			}
			v := env[k.Params[i].Name]
			e := held(v)
			if v == nil || e == nil {
				e = &model.Expr{Op: model.OpUnknown, Why: "the value that is stored", Pos: pos}
			}
			steps = append(steps, model.Step{Field: name, Expr: e, Pos: pos})
		}
		steps = append(steps, w.initialisers(env)...)
	}
	steps = append(steps, w.statements(body, env)...)
	if c.Kind == "record" && !strings.Contains(f.Joined(k.Body[0], k.Body[1]), "this.") { // a compact one, of which the fields are given what its parameters hold at the end
		for _, param := range k.Params {
			if v := env[param.Name]; w.field(param.Name) {
				steps = append(steps, model.Step{Field: param.Name, Expr: w.plain(v, at), Pos: pos})
			}
		}
	}
	return steps
}

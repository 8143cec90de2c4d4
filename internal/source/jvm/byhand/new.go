package byhand

import (
	"strings"

	"vetta/internal/code"
	"vetta/internal/code/each"
	"vetta/internal/code/hand"
	"vetta/internal/model"
	"vetta/internal/source/jvm"
	"vetta/internal/source/scan"
)

// construct follows a call of a constructor, of a factory, or of a helper.
func (w *follower) construct(e *code.Expr, names []string, env map[string]*value) (*value, bool) {
	at, pos := e.From, w.where(e)
	if v, ok := w.assured(e, names, env); ok {
		return v, v != nil
	}
	if jvm.IsParsed(names[len(names)-1]) {
		return &value{isNode: true, fresh: len(e.Args) == 1}, true // of the text that is the document
	}
	if v, ok := w.parsed(e, names, env); ok {
		return v, v != nil
	}
	class := w.p.Find(w.f, w.c, names[0])
	if kind, ok := jvm.Collections[names[0]]; ok && class == nil && len(names) == 1 && (len(e.Args) == 1 || len(e.Args) == 2 && isSize(e.Args[1])) {
		return &value{isList: kind != model.Map, isMap: kind == model.Map}, true
	}
	method := ""
	if class == nil && len(names) == 1 { // a factory of the class itself
		class, method = w.c, names[0]
	} else if len(names) > 1 {
		method = names[len(names)-1]
		if inner := w.p.Find(w.f, w.c, strings.Join(names, ".")); inner != nil {
			class, method = inner, ""
		}
	}
	args, labels, ok := w.argumentsOf(e.Args[1:], e.Labels, env, method == "" && class == w.of)
	if !ok {
		return nil, false
	}
	if class == nil || method != "" && !(len(args) == 1 && args[0].isNode && jvm.ByHand(class) != nil && jvm.ByHand(class).Name == method) {
		if h := w.helperOf(names, "", len(args)); h != nil {
			if m := makes(w.p, h); m != nil && len(args) == 1 && args[0].isNode {
				return &value{expr: nest(args[0].path, madeOf(m, pos))}, true
			}
			v := w.inline(at, h, nil, args)
			return v, v != nil
		}
	}
	if class == nil {
		w.fail(at, "a call of "+strings.Join(names, "."))
		return nil, false
	}
	class.Read()
	m := class.Model
	if len(args) == 1 && args[0].isNode && m != nil {
		if by := jvm.ByHand(class); by != nil && (method == "" || method == by.Name) {
			v := &value{expr: nest(args[0].path, madeOf(m, pos))}
			if n := len(args[0].path); n > 0 && strings.HasPrefix(args[0].path[n-1].fn, "opt") && asksForNull(by, class.File) {
				if !answersNull(by, class.File) {
					w.fail(at, "what "+by.Name+" makes of null")
					return nil, false
				}
				v = guardedBy([]*value{args[0]}, v, pos)
			}
			return v, true
		}
	}
	if method != "" || m == nil || class.Kind != "class" && class.Kind != "record" {
		w.fail(at, "a call of "+strings.Join(names, "."))
		return nil, false
	}
	if class == w.of {
		return w.ownNew(at, args, labels, pos)
	}
	made := w.newOf(at, class, args, labels, pos)
	if made == nil {
		return nil, false
	}
	if class.Outer != nil && !class.Static || class.Computed || len(class.Inits) > 0 || class.Super != nil {
		w.fail(at, "what "+class.Name+" does besides")
		return nil, false
	}
	made.Type, made.Declared = &model.Type{Kind: model.Named, Name: m.Name, Model: m, Pos: pos}, m.Name
	if made = each.Hoisted(made); made == nil {
		w.fail(at, "elements of several lists in one "+class.Name)
		return nil, false
	}
	return &value{expr: made}, w.why == ""
}

// madeOf is an instance of a model, made of a part of the document by code that is followed for the
// model itself.
func madeOf(m *model.Model, pos model.Pos) *model.Expr {
	return &model.Expr{Op: model.OpDecode, Type: &model.Type{Kind: model.Named, Name: m.Name, Model: m, Pos: pos}, Declared: m.Name, Pos: pos}
}

// isSize says whether an expression is a size: a number, or what length() or size() answers.
func isSize(e *code.Expr) bool {
	_, name := hand.Method(e)
	return e.Op == code.Number || len(e.Args) == 1 && (name == "length" || name == "size")
}

// asksForNull says whether a factory compares what it is given with null; answersNull that it
// then answers null, before anything else.
func asksForNull(m *model.Method, f *jvm.File) bool {
	for i := m.Body[0]; i < m.Body[1]; i++ {
		if f.Is(i, "null") && f.Is(i-1, "=") && len(m.Params) > 0 && f.Ident(i-3) == m.Params[0].Name {
			return true
		}
	}
	return false
}

func answersNull(m *model.Method, f *jvm.File) bool {
	text := strings.ReplaceAll(f.Joined(m.Body[0], min(m.Body[0]+12, m.Body[1])), "{", "")
	return strings.HasPrefix(text, "if("+m.Params[0].Name+"==null)returnnull")
}

// argumentsOf are the values of arguments, with the names of parameters that Kotlin may give them. Where each
// is one of the instance's own, one that is not followed spoils nothing but its field.
func (w *follower) argumentsOf(given []*code.Expr, names []string, env map[string]*value, own bool) (args []*value, labels []string, ok bool) {
	for i, e := range given {
		var v *value
		if text := w.text(e, env); text != "" {
			v = &value{expr: &model.Expr{Op: model.OpConst, Value: &model.Literal{Kind: model.StringLiteral, Text: text}, Pos: w.where(e)}}
		} else {
			v = w.expression(e, env)
		}
		if v == nil && own {
			v = &value{expr: &model.Expr{Op: model.OpUnknown, Why: w.why, Pos: w.whyAt}}
			w.why = ""
			first, end := w.tokens(e.From, e.To)
			w.pending = append(w.pending, w.readsIn(first, end, env)...)
		}
		if v == nil {
			return nil, nil, false
		}
		args, labels = append(args, v), append(labels, names[i])
	}
	return args, labels, true
}

// ownNew is a call of a constructor of the class whose instance is made.
func (w *follower) ownNew(at int32, args []*value, labels []string, pos model.Pos) (*value, bool) {
	simple := !w.of.Computed && len(w.of.Inits) == 0 && w.p.SuperOf(w.of) == nil
	if len(args) == 0 && simple {
		return &value{instance: true}, true
	}
	if simple {
		if e := w.newOf(at, w.of, args, labels, pos); e != nil {
			return &value{expr: e}, w.why == ""
		}
		w.why = ""
	}
	k := ctorFor(w.of, args)
	for _, one := range w.of.Ctors { // of Kotlin, one whose other parameters have defaults
		if k == nil && w.of.File.Language == "kotlin" && len(args) < len(one.Params) {
			k = one
		}
	}
	if k == nil && (len(args) > 0 || len(w.of.Ctors) > 0) {
		w.fail(at, "which constructor is called")
	}
	if w.why != "" {
		return nil, false
	}
	if k == nil {
		k = &model.Method{}
	}
	env := map[string]*value{}
	for i, a := range args {
		name := labels[i]
		if name == "" {
			name = k.Params[i].Name
		}
		env[name] = a
	}
	steps := w.run(at, w.of, k, args, env, pos)
	switch {
	case w.why != "":
		return nil, false
	case len(args) == 0:
		w.pending = append(w.pending, steps...)
		return &value{instance: true}, true
	}
	return &value{expr: &model.Expr{Op: model.OpNew, Pos: pos}, behind: steps}, true
}

// newOf is a call of a constructor that does nothing but assign its parameters to fields.
func (w *follower) newOf(at int32, class *jvm.Class, args []*value, labels []string, pos model.Pos) *model.Expr {
	for _, k := range class.Ctors {
		if len(args) > len(k.Params) || len(k.Computes) > 0 || !assignsOnly(class, k) {
			continue
		}
		e := &model.Expr{Op: model.OpNew, Pos: pos}
		for i, a := range args {
			to := i
			if labels[i] != "" {
				to = -1
				for n, param := range k.Params {
					if param.Name == labels[i] {
						to = n
					}
				}
			}
			if to < 0 || to >= len(k.Fills) || k.Fills[to] == "" {
				break
			}
			e.Names, e.Args = append(e.Names, k.Fills[to]), append(e.Args, w.plain(a, at))
		}
		if len(e.Names) == len(args) {
			return e
		}
	}
	w.fail(at, "what the constructor of "+class.Name+" does with its parameters")
	return nil
}

// assignsOnly says whether the body of a constructor, where it has one, is made of nothing but
// assignments of a name to a name.
func assignsOnly(c *jvm.Class, k *model.Method) bool {
	f := c.File
	if f.Language == "kotlin" {
		return k.Body[1] <= k.Body[0]
	}
	for i := k.Body[0]; i < k.Body[1]; {
		if f.Is(i, "this") && f.Is(i+1, ".") {
			i += 2
		}
		if f.KindAt(i) != scan.Ident || !f.Is(i+1, "=") || f.KindAt(i+2) != scan.Ident || !f.Is(i+3, ";") {
			return false
		}
		i += 4
	}
	return true
}

package typescript

import (
	"slices"
	"strconv"
	"strings"

	"vetta/internal/code"
	"vetta/internal/model"
	"vetta/internal/types"
)

// Where a response goes that is parsed without a type: through names, members, lists, functions of the app, until it is
// taken for a type, or made into something else.

// Limits of what is followed of one response.
const (
	maxFlowDepth = 6    // of functions
	maxFlowSteps = 5000 // of expressions
)

// held is a part of a response that an expression stands for.
type held struct {
	within []string // the keys that lead to it
	lists  int      // how many lists it is an element of, below those keys
	// answer says that it is what a client wraps the response in, which has it as data.
	answer bool
	// deep says that it is a member of an element, which keys alone do not lead to.
	deep bool
	// picked says that it is what is left of a list, by what is in its elements.
	picked bool
	// several are the parts of a list that the app makes itself: what Promise.all yields.
	several []*held
}

func (h *held) member(key string) *held {
	switch {
	case h.answer && key == "data":
		return &held{}
	case h.answer, h.several != nil:
		return nil
	}
	return &held{within: append(slices.Clip(h.within), key), lists: h.lists, deep: h.deep || h.lists > 0, picked: h.picked}
}

func (h *held) element() *held {
	if h.answer || h.several != nil {
		return nil
	}
	return &held{within: h.within, lists: h.lists + 1, deep: h.deep, picked: h.picked}
}

// taken is a part of a response that the code takes for a type.
type taken struct {
	part *held
	typ  *model.Type
	at   model.Pos // of the call that yields the response there
	open bool      // the type is one that callers say
	by   *holding  // the schema that is held to it, nil for none
	// picked says that the code takes only some elements for it, by what is in them.
	picked bool
}

// flow follows one response.
type flow struct {
	p       *project
	program *code.Program
	sink    *code.Expr
	in      *code.Func // that the sink is in
	from    *held      // what the sink yields
	found   []taken
	// open says that it is taken for a type that callers say, changed that something else is made of it.
	open, changed bool
	handed        bool       // to a schema that callers hand on
	picking       int        // how many conditions on an element are around
	of            *code.Stmt // the innermost around
	steps         int
	depth         int
	went          map[*code.Func]bool // functions that were gone through for what they return
}

// known is what the names in a scope stand for.
type known struct {
	parts map[string]*held
	// sets are the types of what functions are given that hold it: setPorts of useState<Port[]>.
	sets  map[string]*model.Type
	calls map[string]*code.Expr // what names stand for that are taken apart later
	outer *known
}

func (k *known) inner() *known {
	return &known{parts: map[string]*held{}, sets: map[string]*model.Type{}, calls: map[string]*code.Expr{}, outer: k}
}

func (k *known) part(name string) *held {
	for ; k != nil; k = k.outer {
		if h, ok := k.parts[name]; ok {
			return h
		}
	}
	return nil
}

// bind gives a parameter a part, or each of the names in {a,b} the member of it.
func (k *known) bind(param string, part *held) {
	names, apart := strings.CutPrefix(param, "{")
	if !apart {
		k.parts[param] = part
		return
	}
	for _, name := range strings.Split(strings.TrimSuffix(names, "}"), ",") {
		if k.parts[name] = nil; part != nil {
			k.parts[name] = part.member(name)
		}
	}
}

func (k *known) set(name string) *model.Type {
	for ; k != nil; k = k.outer {
		if t, ok := k.sets[name]; ok {
			return t
		}
	}
	return nil
}

// followed is where a response goes that a call without a type yields in a function.
func (p *project) followed(program *code.Program, s site) *flow {
	f := &flow{p: p, program: program, sink: s.call, from: &held{answer: s.by == axios}, steps: maxFlowSteps, went: map[*code.Func]bool{}}
	f.function(s.in)
	return f
}

func called(e *code.Expr) string {
	if callee := e.Args[0]; callee.Op == code.Name || callee.Op == code.Member {
		return callee.Text
	}
	return ""
}

// function goes through one that holds the sink; what it returns without a type goes on where it is called.
func (f *flow) function(in *code.Func) {
	if in == nil || f.went[in] || f.depth >= maxFlowDepth {
		return
	}
	f.went[in] = true
	outer := f.in
	f.in = in
	defer func() { f.in = outer }()
	f.depth++
	defer func() { f.depth-- }()
	out := f.body(f.p.code(in), (*known)(nil).inner(), in)
	if out == nil {
		return
	}
	if in.Returns != nil && f.take(out, in.Returns, in) {
		return
	}
	if in.Name == "" {
		return
	}
	alone := len(f.program.FuncsOf(in.Name)) == 1
	sink, from := f.sink, f.from
	for e, caller := range f.program.CallsOf(in.Name) {
		if !alone && f.target(e.Args[0], e.Const, caller) != in {
			continue
		}
		f.sink, f.from = e, out
		f.function(caller)
	}
	f.sink, f.from = sink, from
}

// code is what a function does; of what only holds a value, what makes that.
func (p *project) code(in *code.Func) []code.Stmt {
	if len(in.Body) > 0 {
		return in.Body
	}
	var props []*code.Prop
	if in.Class != nil {
		props = in.Class.Props
	} else if u := p.byPath[in.File]; u != nil {
		props = u.tree.Props
	}
	for _, prop := range props {
		if prop.Name == in.Name && prop.Value != nil {
			return []code.Stmt{{Op: code.Return, Value: prop.Value}}
		}
	}
	return nil
}

// take notes what a part is taken for, and says whether the type says anything of it.
func (f *flow) take(part *held, t *model.Type, in *code.Func) bool {
	for t = t.Unwrapped(); t.Kind == model.Named && t.Model == nil && len(t.Args) > 0; t = t.Args[0].Unwrapped() {
	}
	if isAnything(t) {
		return false
	}
	free := slices.Clone(in.Generics)
	if in.Class != nil {
		free = append(free, in.Class.Generics...)
	}
	models, open := false, false
	t.Walk(func(t *model.Type) {
		models = models || t.Model != nil
		open = open || t.Kind == model.Param || t.Model == nil && slices.Contains(free, t.Name)
	})
	f.open = f.open || open
	switch {
	case !models && !open, open && in != f.in:
		f.changed = true
		return true
	case part.deep, part.several != nil:
		f.changed = true
		return true
	case part.answer: // a type of what wraps the response, or a client that unwraps it
		if isAnswer(t) {
			f.changed = true
			return true
		}
		part = &held{}
	}
	for range part.lists {
		t = &model.Type{Kind: model.List, Args: []*model.Type{t}}
	}
	f.found = append(f.found, taken{part: part, typ: t, at: f.sink.Pos, open: open, picked: part.picked || part.lists > 0 && f.picking > 0})
	return true
}

// answerKeys are the members of what axios yields for a request.
var answerKeys = strings.Fields("data status statusText headers config request")

// isAnswer says whether a type is one that the app writes for what axios yields: { data: Port }.
func isAnswer(t *model.Type) bool {
	of := types.Of(t)
	if of == nil || of.Kind != types.Object {
		return false
	}
	data := false
	for _, p := range of.Members().Props {
		data = data || p.Name == "data"
		if !slices.Contains(answerKeys, p.Name) {
			return false
		}
	}
	return data
}

// body goes through statements, and answers what part they return.
func (f *flow) body(all []code.Stmt, k *known, in *code.Func) (out *held) {
	for i := range all {
		s := &all[i]
		picks := code.Picks(all[:i+1], f.of, k.isElement)
		if picks {
			f.picking++
		}
		switch s.Op {
		case code.Return:
			if part := f.eval(s.Value, k, in); part != nil {
				out = part
			}
		case code.Let:
			part := f.eval(s.Value, k, in)
			if part != nil && s.Type != nil && f.take(part, s.Type, in) {
				part = nil
			}
			k.parts[s.Name] = part
			f.name(s, k)
		case code.Assign:
			part := f.eval(s.Value, k, in)
			target := &code.Expr{Op: code.Name, Text: s.Name}
			if s.Of != nil {
				target = &code.Expr{Op: code.Member, Text: s.Name, Args: []*code.Expr{s.Of}}
			}
			f.assign(target, part, k, in)
		case code.Block:
			f.eval(s.Value, k, in)
			of := f.of
			f.of = s
			if part := f.body(s.Body, k.inner(), in); part != nil {
				out = part
			}
			f.of = of
		default:
			f.eval(s.Value, k, in)
		}
		if picks {
			f.picking--
		}
	}
	return out
}

// isElement says whether a name stands for an element of a list that was sent, or for what is in it.
func (k *known) isElement(name string) bool {
	h := k.part(name)
	return h != nil && h.lists > 0
}

// name keeps what a name stands for of what is taken apart: the functions that set a state are told by it.
func (f *flow) name(s *code.Stmt, k *known) {
	switch v := s.Value; {
	case v == nil:
	case v.Op == code.Call:
		k.calls[s.Name] = v
	case v.Op == code.Index && len(v.Args) == 2 && v.Args[0].Op == code.Name && v.Args[1].Text == "1":
		if call := k.calls[v.Args[0].Text]; call != nil && called(call) == "useState" && len(call.Types) == 1 {
			k.sets[s.Name] = call.Types[0]
		}
	}
}

func (f *flow) assign(target *code.Expr, part *held, k *known, in *code.Func) {
	if target.Op == code.Name {
		for at := k; at != nil; at = at.outer {
			if _, ok := at.parts[target.Text]; ok || at.outer == nil {
				at.parts[target.Text] = part
				break
			}
		}
	}
	if part == nil {
		return
	}
	t := f.program.TypeOf(target, in)
	if t == nil && target.Op == code.Member && target.Text == "value" && len(target.Args) == 1 {
		t = f.holding(target.Args[0], k, in)
	}
	if t != nil {
		f.take(part, t, in)
	}
}

// holding is the type of what something holds that is made to hold it: ref<Port[]>([]), new BehaviorSubject<Port[]>([]);
// nil where that is not told.
func (f *flow) holding(e *code.Expr, k *known, in *code.Func) *model.Type {
	var made *code.Expr
	switch {
	case e.Op == code.Name:
		for at := k; at != nil && made == nil; at = at.outer {
			made = at.calls[e.Text]
		}
	case e.Op == code.Member && len(e.Args) == 1 && e.Args[0].Op == code.Name && e.Args[0].Text == "this" && in.Class != nil:
		for _, prop := range in.Class.Props {
			if prop.Name == e.Text {
				if made = prop.Value; made == nil || len(made.Types) == 0 {
					return prop.Type
				}
			}
		}
	}
	if made != nil && made.Op == code.Call && len(made.Types) == 1 {
		return made.Types[0]
	}
	return nil
}

// eval is the part of the response that an expression stands for, nil for anything else.
func (f *flow) eval(e *code.Expr, k *known, in *code.Func) *held {
	if f.steps--; e == nil || f.steps < 0 {
		return nil
	}
	switch e.Op {
	case code.Name:
		return k.part(e.Text)
	case code.Member:
		if len(e.Args) == 1 {
			if of := f.eval(e.Args[0], k, in); of != nil {
				return of.member(e.Text)
			}
		}
		return nil
	case code.Index:
		of := f.eval(e.Args[0], k, in)
		for _, a := range e.Args[1:] {
			f.eval(a, k, in)
		}
		switch {
		case of == nil:
			return nil
		case len(e.Args) == 2 && e.Args[1].Op == code.Text && len(e.Args[1].Args) == 0:
			return of.member(e.Args[1].Text)
		case of.several != nil && len(e.Args) == 2:
			if at, err := strconv.Atoi(e.Args[1].Text); err == nil && at >= 0 && at < len(of.several) {
				return of.several[at]
			}
			return nil
		case len(e.Args) == 1 || e.Args[1].Op == code.Number:
			return of.element()
		}
		f.changed = true
		return nil
	case code.As:
		part := f.eval(e.Args[0], k, in)
		if part != nil && e.Type != nil && f.take(part, e.Type, in) {
			return nil
		}
		return part
	case code.Choice:
		var part *held
		for _, a := range e.Args {
			if h := f.eval(a, k, in); part == nil {
				part = h
			}
		}
		return part
	case code.Set:
		part := f.eval(e.Args[1], k, in)
		f.assign(e.Args[0], part, k, in)
		return part
	case code.Lambda:
		f.body(e.Body, k.inner(), in)
		return nil
	case code.Call:
		return f.call(e, k, in)
	}
	for _, a := range e.Args {
		if f.eval(a, k, in) != nil {
			f.changed = true
		}
	}
	f.body(e.Body, k.inner(), in)
	return nil
}

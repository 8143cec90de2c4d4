// Package hand follows code that reads a parsed document by hand: it turns the statements of a function
// into the steps of a model, which say what becomes of any document. It knows names, branches, errors and
// loops, no language and no library: what a call reads, and which part of a document an expression is, the
// vocabulary says that it is given. What it does not understand it calls unknown, and then nothing is
// claimed about the field that takes it; what it does not understand and may throw ends the following.
package hand

import (
	"strings"

	"vetta/internal/code"
	"vetta/internal/model"
)

// Part is a part of the document: what code has asked a parsed value for, and holds.
type Part struct {
	Path []*model.Expr // an operation for each level, the outermost first
	Kind model.Container
	Keys map[string]string // names on the wire by what code calls them; nil where it writes them
	// Asked says that it has been seen to that the value is of that kind.
	Asked bool
	Next  int // of a list that is read in order: the element that comes next
}

// At is what an operation comes to at the place of the part.
func (p Part) At(inner *model.Expr) *model.Expr { return Wrap(p.Path, inner) }

// Below is the path to a part inside this one.
func (p Part) Below(level *model.Expr) []*model.Expr {
	return append(append([]*model.Expr{}, p.Path...), level)
}

// Wrap is an operation at the end of a path.
func Wrap(path []*model.Expr, inner *model.Expr) *model.Expr {
	for i := len(path) - 1; i >= 0; i-- {
		level := *path[i]
		level.Args = []*model.Expr{inner}
		inner = &level
	}
	return inner
}

// Binding is what a name stands for: a part of the document, a value, the key in a loop over all keys, or a
// type.
type Binding struct {
	Part  *Part
	Value *model.Expr
	IsKey bool
	Type  *model.Type // of a name that stands for a type
}

// Vocabulary is what a library and its language mean.
type Vocabulary interface {
	// Part says which part of the document an expression is. What is done with its value is passed over.
	Part(f *Follower, e *code.Expr) (Part, bool)
	// Holds is what must be so for a part to be given a name, nil for nothing.
	Holds(p Part) *model.Expr
	// Value is what an expression reads or makes that the follower knows nothing of, nil for neither.
	Value(f *Follower, e *code.Expr) *model.Expr
	// Do are the steps of a call that stands as a statement. It is told apart from one that is not known.
	Do(f *Follower, e *code.Expr) (steps []model.Step, known bool, lost error)
	// Constant is the literal that an expression is, nil where it is none.
	Constant(f *Follower, e *code.Expr) *model.Literal
	// Typed gives a constant the type that it has by itself, or is declared to have.
	Typed(constant *model.Expr, declared *model.Type)
	// Loop is what a loop goes over.
	Loop(f *Follower, s *code.Stmt) (Loop, bool)
	// Added is what a call adds to which list.
	Added(e *code.Expr) (list, element *code.Expr)
	// KeyText is the name of the key in a loop whose text an expression is, "" for none.
	KeyText(e *code.Expr) string
	// Thrown is what a log shows of an error.
	Thrown(f *Follower, e *code.Expr) string
	// Missing is what a log shows where there must be a value and is none.
	Missing() string
	// Called is the function of the app that a call is of, nil for none that is found.
	Called(f *Follower, e *code.Expr) *Callee
	// Self is the word for the instance.
	Self() string
}

// Loop is a loop over a part of the document.
type Loop struct {
	Part Part
	Of   string // the name of the part
	Key  string // of each key, where it goes over keys; else "": then the part is asked for each element in turn
	Each Part   // what the name of the part stands for in the loop
}

// File is the text in which a function stands.
type File interface {
	At(offset int32) model.Pos
	Between(from, to int32) string // on one line
}

// Follower follows one function.
type Follower struct {
	Words  Vocabulary
	Fields map[string]*model.Field // the stored properties
	File   File
	Yields bool // the code is a closure that returns the value

	names   map[string]Binding
	types   map[string]*model.Type // what the type parameters of a function stand for that is followed into
	want    *model.Type            // what the value that is asked for next is expected to be of, nil where nothing says
	depth   int                    // of blocks inside each other
	inlined int                    // how many functions are followed into each other
}

// Lost ends the following of a whole function.
type Lost struct {
	Why string
	Pos model.Pos
}

func (e *Lost) Error() string { return e.Why }

// maxDepth is how deep blocks may lie in each other: what is deeper nobody has written.
const maxDepth = 200

// Follow turns statements into steps. The error is a *Lost.
func (f *Follower) Follow(body []code.Stmt) ([]model.Step, error) {
	if f.names == nil {
		f.names = map[string]Binding{}
	}
	return f.block(body)
}

// Bind makes a name stand for something from the beginning on.
func (f *Follower) Bind(name string, b Binding) {
	if f.names == nil {
		f.names = map[string]Binding{}
	}
	f.names[name] = b
}

// Bound is what a name stands for.
func (f *Follower) Bound(name string) (Binding, bool) {
	b, ok := f.names[name]
	return b, ok
}

// Text is an expression as the source has it, on one line, without the word that says that it may throw.
func (f *Follower) Text(e *code.Expr) string {
	text := f.File.Between(e.From, e.To)
	if tries(e) {
		_, text, _ = strings.Cut(text, " ")
	}
	return text
}

func (f *Follower) lost(why string, at int32) error { return &Lost{why, f.File.At(at)} }

func (f *Follower) block(all []code.Stmt) (steps []model.Step, err error) {
	if f.depth++; f.depth > maxDepth {
		return nil, f.lost("blocks too deep inside each other", all[0].From)
	}
	defer func() { f.depth-- }()
	for len(all) > 0 {
		n := Together(all)
		more, err := f.statement(all[:n])
		if err != nil {
			return nil, err
		}
		steps = append(steps, more...)
		all = all[n:]
	}
	return steps, nil
}

// Together is how many statements are one: if with its else, do with its catch.
func Together(all []code.Stmt) int {
	n := 1
	for n < len(all) {
		switch all[n].Kind {
		case code.ElseIf, code.Else, code.Catch, code.Finally:
			n++
			continue
		}
		break
	}
	return n
}

// Step is the step that gives a field an operation; "" for none.
func (f *Follower) Step(from int32, field string, e *model.Expr) model.Step {
	pos := f.File.At(from)
	if e.Pos.IsZero() {
		e.Pos = pos
	}
	return model.Step{Field: field, Expr: e, Pos: pos}
}

func (f *Follower) steps(from int32, field string, e *model.Expr) []model.Step {
	return []model.Step{f.Step(from, field, e)}
}

// statement follows one statement, with those that go on with it.
func (f *Follower) statement(all []code.Stmt) ([]model.Step, error) {
	s := &all[0]
	if s.Torn {
		return f.unknown(all, "a statement")
	}
	switch s.Op {
	case code.Let:
		return f.local(s)
	case code.Assign:
		return f.assign(s)
	case code.Return:
		return f.returned(s)
	case code.Do:
		switch s.Kind {
		case code.Throw:
			return f.steps(s.From, "", &model.Expr{Op: model.OpFail, Why: f.Words.Thrown(f, s.Value)}), nil
		case code.Jump: // what stands behind it may be passed over
			return nil, f.lost(s.Name, s.From)
		}
		return f.do(s)
	}
	switch s.Kind {
	case code.If:
		return f.branch(all)
	case code.Guard:
		return f.guard(s)
	case code.Try:
		return f.try(all)
	case code.Switch:
		return f.choice(s)
	case code.For, code.While, code.Repeat:
		return f.loop(all)
	case code.Defer: // it runs last of all
		if f.mentions(s.Body) {
			return nil, f.lost("a defer block that may assign", s.From)
		}
		return nil, nil
	}
	return f.unknown(all, "a statement")
}

// mentions says whether a field is named among statements.
func (f *Follower) mentions(all []code.Stmt) (found bool) {
	eachExpr(all, func(e *code.Expr) {
		found = found || (e.Op == code.Name || e.Op == code.Member) && f.Fields[e.Text] != nil || e.Op == code.Name && e.Text == f.Words.Self()
	})
	for i := range all {
		found = found || all[i].Op == code.Assign && f.Fields[all[i].Name] != nil
	}
	return found
}

func (f *Follower) returned(s *code.Stmt) ([]model.Step, error) {
	done := model.Step{Return: true, Pos: f.File.At(s.From)}
	switch {
	case s.Value == nil:
		return []model.Step{done}, nil
	case f.isNull(s.Value): // of an initialiser that may make none
		done.Field, done.Expr = model.SelfField, &model.Expr{Op: model.OpConst, Value: &model.Literal{Kind: model.NullLiteral}}
		return []model.Step{done}, nil
	case f.Yields:
		value := f.Value(s.Value)
		return append(f.steps(s.From, model.SelfField, value), done), nil
	}
	return nil, f.lost("a return statement", s.From)
}

func (f *Follower) isNull(e *code.Expr) bool {
	l := f.Words.Constant(f, e)
	return l != nil && l.Kind == model.NullLiteral
}

// do follows an expression that stands as a statement.
func (f *Follower) do(s *code.Stmt) ([]model.Step, error) {
	if s.Value == nil {
		return nil, nil
	}
	steps, known, err := f.Words.Do(f, s.Value)
	if known || err != nil {
		return steps, err
	}
	// A value that is read and dropped: it may throw all the same.
	if tries(s.Value) || f.Yields {
		if v := f.Value(s.Value); !HasUnknown(v) {
			return f.steps(s.From, "", v), nil
		}
	}
	return f.unknown([]code.Stmt{*s}, "a call")
}

// tries says whether an expression is marked as one that may throw.
func tries(e *code.Expr) bool {
	for _, does := range e.Does.All() {
		if does == code.Tried || does == code.Attempted || does == code.Assured {
			return true
		}
	}
	return false
}

// Attempts says whether where an expression throws there is nothing in its place.
func Attempts(e *code.Expr) bool {
	for _, does := range e.Does.All() {
		if does == code.Attempted {
			return true
		}
	}
	return false
}

// assign follows an assignment to a field, to the instance, or to a name of the function.
func (f *Follower) assign(s *code.Stmt) ([]model.Step, error) {
	self := f.Words.Self()
	ofSelf := s.Of != nil && s.Of.Op == code.Name && s.Of.Text == self
	bound, local := f.names[s.Name]
	switch {
	case s.Name == "_" && s.Of == nil && s.Kind != code.Compound: // it may throw
		if v := f.Value(s.Value); !HasUnknown(v) {
			return f.steps(s.From, "", v), nil
		}
	case s.Kind == code.Compound || s.Name == "" || s.Of != nil && !ofSelf:
	case s.Name == self && s.Of == nil:
		return f.steps(s.From, model.SelfField, f.Value(s.Value)), nil
	case f.Fields[s.Name] != nil && (ofSelf || !local || bound.Value != nil):
		f.want = f.Fields[s.Name].Type
		value := f.Value(s.Value)
		f.names[s.Name] = Binding{Value: value}
		return f.steps(s.From, s.Name, value), nil
	case local && !ofSelf:
		return f.local(s)
	}
	return f.unknown([]code.Stmt{*s}, "a statement")
}

// local follows what gives a name of the function a value.
func (f *Follower) local(s *code.Stmt) ([]model.Step, error) {
	switch {
	case s.Name == "":
		return f.unknown([]code.Stmt{*s}, "a declaration")
	case isBare(s.Value):
		f.names[s.Name] = Binding{Value: &model.Expr{Op: model.OpUnknown, Why: "a name without a value"}}
		return nil, nil
	}
	if p, ok := f.Words.Part(f, s.Value); ok {
		f.names[s.Name] = Binding{Part: &p}
		holds := f.Words.Holds(p)
		switch {
		case holds == nil || s.Value.Op == code.Name:
			return nil, nil
		case Attempts(s.Value):
			return nil, f.lost("a container asked for with try?", s.From)
		}
		p.Asked = true
		return f.steps(s.From, "", p.At(holds)), nil
	}
	f.want = s.Type
	value := f.Value(s.Value)
	if value.Op == model.OpConst {
		f.Words.Typed(value, s.Type)
	}
	f.names[s.Name] = Binding{Value: value}
	return f.steps(s.From, "", value), nil
}

// isBare says whether a declaration gives its name no value, or that of the same name.
func isBare(e *code.Expr) bool {
	return e == nil || e.Op == code.Other && len(e.Args) == 0 && e.To == 0
}

// HasUnknown says whether some of an operation is not followed.
func HasUnknown(e *model.Expr) (found bool) {
	e.Walk(func(e *model.Expr) { found = found || e.Op == model.OpUnknown })
	return found
}

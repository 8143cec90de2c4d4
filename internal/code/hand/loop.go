package hand

import (
	"maps"

	"vetta/internal/code"
	"vetta/internal/model"
)

// loop follows the loops that read lists and maps element by element: one name takes what is made of each.
func (f *Follower) loop(all []code.Stmt) ([]model.Step, error) {
	s := &all[0]
	over, ok := f.Words.Loop(f, s)
	if !ok {
		return f.unknown(all, "a loop")
	}
	outer := f.names
	f.names = maps.Clone(outer)
	f.names[over.Of] = Binding{Part: &over.Each}
	if over.Key != "" {
		f.names[over.Key] = Binding{IsKey: true}
	}
	r := round{f: f, over: over}
	ok = r.block(s.Body[s.Heads:])
	f.names = outer
	if !ok || r.value == nil || !f.isEmpty(r.into) || r.stays && !r.goesOn {
		return f.unknown(all, "a loop")
	}
	op := model.OpEach
	if over.Key != "" {
		op = model.OpEachKey
	}
	value := over.Part.At(&model.Expr{Op: op, Lossy: r.lossy, Args: []*model.Expr{r.value}})
	value.Pos = f.File.At(s.From)
	f.names[r.into] = Binding{Value: value}
	field := ""
	if f.Fields[r.into] != nil {
		field = r.into
	}
	return f.steps(s.From, field, value), nil
}

// isEmpty says whether what a name stands for is a collection with nothing in it.
func (f *Follower) isEmpty(name string) bool {
	var l *model.Literal
	if b, ok := f.names[name]; ok {
		if b.Value == nil || b.Value.Op != model.OpConst {
			return false
		}
		l = b.Value.Value
	} else if field := f.Fields[name]; field != nil {
		l = field.Default
	}
	return l != nil && (l.Kind == model.ListLiteral || l.Kind == model.MapLiteral) && len(l.Elems) == 0
}

// round is what one round of a loop does: value goes into a list or a map, and is left out where something
// fails if the loop is lossy. What asks for an element and fails stays at it, so that the loop never ends
// unless it goes on by asking for the same element again.
type round struct {
	f      *Follower
	over   Loop
	into   string
	value  *model.Expr
	lossy  bool
	stays  bool // at an element that fails, unless
	goesOn bool
}

// block follows the body of a loop; false where it does anything else than to fill one collection.
func (r *round) block(all []code.Stmt) bool {
	for len(all) > 0 {
		n := Together(all)
		if !r.statement(all[:n]) {
			return false
		}
		all = all[n:]
	}
	return true
}

func (r *round) statement(all []code.Stmt) bool {
	f, s := r.f, &all[0]
	switch {
	case s.Torn:
		return false
	case s.Kind == code.If: // if let v = try? container.decode(T.self) { list.append(v) } else { skip }
		if s.Heads != 1 || s.Body[0].Op != code.Let || isBare(s.Body[0].Value) || len(all) > 2 {
			return false
		}
		value := f.Value(s.Body[0].Value)
		if HasUnknown(value) {
			return false
		}
		f.names[s.Body[0].Name] = Binding{Value: value}
		r.mayFail(all[1:], value.Op == model.OpTry)
		return r.block(s.Body[1:]) && r.skips(all[1:])
	case s.Kind == code.Try:
		r.mayFail(all[1:], true)
		return len(all) == 2 && r.block(s.Body) && r.skips(all[1:])
	case s.Op == code.Let:
		if s.Name == "" || isBare(s.Value) {
			return false
		}
		if p, ok := f.Words.Part(f, s.Value); ok && !Attempts(s.Value) {
			f.names[s.Name] = Binding{Part: &p}
			return true
		}
		f.names[s.Name] = Binding{Value: f.Value(s.Value)}
		return true
	case s.Op == code.Assign && s.Name == "_" && s.Of == nil: // an element that is passed over
		return true
	case s.Op == code.Assign && r.over.Key != "" && s.Name == "" && s.Of != nil && s.Of.Op == code.Index && s.Kind != code.Compound:
		if len(s.Of.Args) != 2 || f.Words.KeyText(s.Of.Args[1]) != r.over.Key {
			return false
		}
		return r.made(s.Of.Args[0], s.Value)
	case s.Op == code.Do && s.Value != nil && r.over.Key == "" && s.Kind == code.Plain:
		list, e := f.Words.Added(s.Value)
		return list != nil && r.made(list, e)
	}
	return false
}

// made notes what goes into a collection.
func (r *round) made(into, e *code.Expr) bool {
	if into.Op == code.Member && len(into.Args) == 1 && into.Args[0].Op == code.Name && into.Args[0].Text == r.f.Words.Self() && r.f.Fields[into.Text] != nil {
		into = &code.Expr{Op: code.Name, Text: into.Text}
	}
	if into.Op != code.Name || r.value != nil {
		return false
	}
	r.into, r.value = into.Text, r.f.Value(e)
	if r.value.Op == model.OpTry {
		r.lossy = r.lossy || r.over.Key != "" // an assignment of nothing leaves the key out
		r.stays = r.stays || r.over.Key == ""
	}
	return !HasUnknown(r.value)
}

// mayFail notes that elements may be left out, and what is done otherwise.
func (r *round) mayFail(otherwise []code.Stmt, fails bool) {
	r.lossy = true
	r.stays = r.stays || fails && r.over.Key == ""
	eachExpr(otherwise, func(e *code.Expr) { r.goesOn = r.goesOn || r.asks(e) })
}

// asks says whether an expression is a call by which the part is asked for its next element.
func (r *round) asks(e *code.Expr) bool {
	receiver, _ := Method(e)
	return receiver != nil && receiver.Op == code.Name && receiver.Text == r.over.Of
}

// skips says whether other branches of a round do nothing to a collection, and go on with the next round.
func (r *round) skips(all []code.Stmt) bool {
	plain := !endsLoop(all)
	for i := range all {
		r.f.changes(all[i].Body, func(name string, _ bool) {
			if b, ok := r.f.names[name]; r.f.Fields[name] != nil || ok && b.Part == nil {
				plain = false
			}
		})
	}
	return plain
}

// endsLoop says whether other branches of a round may end the loop, or the function. An error that is thrown
// by what they call is not among it.
func endsLoop(all []code.Stmt) bool {
	for i := range all {
		s := &all[i]
		next := s.Kind == code.Jump && s.Name == "continue" && s.Value == nil
		if s.Kind == code.Jump && !next || s.Op == code.Return || s.Kind == code.Throw || endsLoop(s.Body) {
			return true
		}
	}
	return false
}

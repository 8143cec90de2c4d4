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
	if over.Keys {
		f.names[over.Name] = Binding{IsKey: true}
	} else {
		element := Part{Kind: model.Single, Keys: over.Part.Keys}
		f.names[over.Name] = Binding{Part: &element}
	}
	r := round{f: f, key: over.Name, keys: over.Keys}
	ok = r.block(s.Body[s.Heads:])
	f.names = outer
	if !ok || r.value == nil {
		return f.unknown(all, "a loop")
	}
	op := model.OpEach
	if over.Keys {
		op = model.OpEachKey
		r.lossy = r.lossy || r.value.Op == model.OpTry // an assignment of nothing leaves the key out
	}
	value := over.Part.At(&model.Expr{Op: op, Lossy: r.lossy, Args: []*model.Expr{r.value}})
	value.Pos = f.File.At(s.From)
	f.names[r.into] = Binding{Value: value}
	field := ""
	if f.Fields[r.into] {
		field = r.into
	}
	return f.steps(s.From, field, value), nil
}

// round is what one round of a loop does: value goes into a list or a map, and is left out where something
// fails if the loop is lossy.
type round struct {
	f     *Follower
	key   string
	keys  bool
	into  string
	value *model.Expr
	lossy bool
}

// block follows the body of a loop; false where it does anything else than to fill one collection.
func (r *round) block(all []code.Stmt) bool {
	for len(all) > 0 {
		n := together(all)
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
		if s.Heads != 1 || s.Body[0].Op != code.Let || isBare(s.Body[0].Value) {
			return false
		}
		value := f.Value(s.Body[0].Value)
		if HasUnknown(value) {
			return false
		}
		f.names[s.Body[0].Name] = Binding{Value: value}
		r.lossy = true
		return r.block(s.Body[1:]) && len(all) < 3 && (len(all) == 1 || r.skips(all[1:]))
	case s.Kind == code.Try:
		r.lossy = true
		return len(all) == 2 && r.block(s.Body) && r.skips(all[1:])
	case s.Op == code.Let:
		if s.Name == "" || isBare(s.Value) {
			return false
		}
		f.names[s.Name] = Binding{Value: f.Value(s.Value)}
		return true
	case s.Op == code.Assign && s.Name == "_" && s.Of == nil: // an element that is passed over
		return true
	case s.Op == code.Assign && r.keys && s.Name == "" && s.Of != nil && s.Of.Op == code.Index && s.Kind != code.Compound:
		if len(s.Of.Args) != 2 || s.Of.Args[0].Op != code.Name || !r.isKey(s.Of.Args[1]) || r.value != nil {
			return false
		}
		r.into = s.Of.Args[0].Text
		return r.made(f.Value(s.Value))
	case s.Op == code.Do && s.Value != nil && !r.keys && s.Kind == code.Plain:
		list, e := f.Words.Added(s.Value)
		if list == "" || r.value != nil {
			return false
		}
		r.into = list
		return r.made(f.Value(e))
	}
	return false
}

func (r *round) made(value *model.Expr) bool {
	r.value = value
	return !HasUnknown(value)
}

// isKey says whether an expression is the key of the round, or its text.
func (r *round) isKey(e *code.Expr) bool {
	if e.Op == code.Member && len(e.Args) == 1 {
		e = e.Args[0]
	}
	return e.Op == code.Name && e.Text == r.key
}

// skips says whether other branches of a round do nothing to a collection.
func (r *round) skips(all []code.Stmt) bool {
	plain := true
	for i := range all {
		r.f.changes(all[i].Body, func(name string, _ bool) {
			if b, ok := r.f.names[name]; r.f.Fields[name] || ok && b.Part == nil {
				plain = false
			}
		})
	}
	return plain
}

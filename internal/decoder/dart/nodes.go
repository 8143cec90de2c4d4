package dart

import (
	"slices"
	"sync"

	"vetta/internal/code/run"
	"vetta/internal/decoder"
	"vetta/internal/model"
	"vetta/internal/wire"
)

// planner makes the nodes of a plan by experiment: it runs the code with a document of which nothing is known, which
// says what it would read, and then with one value at a time, which says what becomes of it.
type planner struct {
	program *run.Program
	models  func(*run.Type) *model.Model
	lock    sync.Mutex
	m       *run.Machine
	made    map[string]*decoder.Node
	names   map[*run.Place]string // of members that stand for any
	late    bool                  // a property is made when it is read, of several that were
}

// tried is code that is run with a part of a document, and where in it something is.
type tried struct {
	root *run.Place // the part
	try  func(*run.Probe) (run.Value, error)
	// of leads from what the code yields to the value that is looked at; ok is false where there is none.
	// err is what the app meets when it reads that.
	of func(run.Value) (v run.Value, ok bool, err error)
}

// property is tried for one property of what it yields.
func (p *planner) property(t tried, name string) tried {
	of := t.of
	t.of = func(v run.Value) (run.Value, bool, error) {
		v, ok, err := of(v)
		o := v.Object()
		if !ok || err != nil || o == nil {
			return run.Value{}, false, err
		}
		if o.Fields[name] == nil {
			return run.Value{}, false, p.m.Unset(v, name)
		}
		return *o.Fields[name], true, nil
	}
	return t
}

// whole is the value that code yields.
func whole(v run.Value) (run.Value, bool, error) { return v, true, nil }

// result is what became of a probe.
type result struct {
	seen    decoder.Seen
	err     *decoder.Error
	unknown bool
	later   bool
	at      *run.Place // of the error
}

// probe runs the code with one value known, and answers what became of it; the value is the element or member of a
// collection that it stands in.
func (p *planner) probe(t tried, probe *run.Probe) result {
	probe.Names = p.names
	v, err := t.try(probe)
	if err == nil {
		of, ok, later := t.of(v)
		if !ok && later == nil {
			return result{unknown: true}
		}
		if later == nil {
			if of, ok, later = p.inside(of, probe.At.Steps(t.root)); !ok {
				return result{seen: decoder.Seen{Kind: decoder.SeenLeftOut}}
			}
		}
		var view run.View
		if later == nil {
			view, later = p.m.See(of)
		}
		if later == nil {
			s := seen(view)
			return result{seen: s, unknown: s.Kind == decoder.SeenUnknown}
		}
		r := p.failed(later)
		if r.later = true; r.err != nil {
			r.err.Later = true
		}
		return r
	}
	return p.failed(err)
}

func (p *planner) failed(err error) result {
	if e, ok := err.(*run.Thrown); ok {
		return result{err: failure(e), at: e.At}
	}
	return result{unknown: true}
}

// inside is the element or member of a collection that a value of the document has become part of; ok is false where
// it was left out. What checks its elements only when they are read may throw.
func (p *planner) inside(v run.Value, steps []*run.Place) (of run.Value, ok bool, err error) {
	for _, s := range steps {
		if v.IsNull() {
			return v, true, nil
		}
		switch s.Kind {
		case run.Each:
			l := v.List()
			if l == nil || l.Lazy != nil {
				return v, true, nil
			}
			if len(l.Items) == 0 {
				return v, false, nil
			}
			v = l.Items[0]
			if l.Cast != nil {
				if v, err = p.m.Cast(v, l.Cast); err != nil {
					return v, true, err
				}
			}
		case run.Any:
			d := v.Map()
			if d == nil {
				return v, true, nil
			}
			if len(d.Vals) == 0 {
				return v, false, nil
			}
			v = d.Vals[0]
			if d.Cast {
				if v, err = p.m.Cast(v, d.Val); err != nil {
					return v, true, err
				}
			}
		}
	}
	return v, true, nil
}

// root is the node of a document, or of the part of it that is made into a value of a type.
func (p *planner) root(of *run.Type, entry *run.Entry) *decoder.Node {
	p.lock.Lock()
	defer p.lock.Unlock()
	root := run.NewRoot()
	t := tried{root: root, of: whole}
	at := root
	if entry != nil {
		t.try = func(pr *run.Probe) (run.Value, error) { return p.m.TryEntry(entry, root, pr) }
		for _, key := range entry.Within {
			at = at.Sub(run.Member, key, 0)
		}
	} else {
		t.try = func(pr *run.Probe) (run.Value, error) { return p.m.TryType(of, root, pr) }
	}
	v, err := t.try(nil)
	if err != nil {
		return &decoder.Node{Op: decoder.OpUnknown, Why: err.Error()}
	}
	return p.value(t, v, at, nil)
}

// value is the node for what stands at a place, of which v is made as far as nothing of it is known.
func (p *planner) value(t tried, v run.Value, at *run.Place, f *model.Field) *decoder.Node {
	null := p.probe(t, &run.Probe{At: at})
	n := p.solid(t, v, at, f)
	if n.Op == decoder.OpUnknown {
		return n
	}
	outer := &decoder.Node{Op: decoder.OpNil, Inner: n, Type: n.Type}
	switch {
	case null.err != nil:
		outer.NullError = nullError(null.err)
	case null.seen.Kind == decoder.SeenLeftOut:
		outer.Value, outer.NullLoss = null.seen, decoder.Dropped
	case null.unknown:
		return &decoder.Node{Op: decoder.OpUnknown, Why: "what null becomes is not followed", Opaque: true, Others: names(at, v)}
	default:
		outer.Value = null.seen
	}
	return outer
}

// nullError is an error as one of null.
func nullError(err *decoder.Error) *decoder.Error {
	e := *err
	e.Reason = decoder.ReasonNull
	return &e
}

// names are the members of what stands at a place that a value is made of.
func names(at *run.Place, v run.Value) (out []string) {
	for _, from := range v.Places() {
		if steps := from.Steps(at); len(steps) > 0 && from.Within(at) && steps[0].Kind == run.Member && !slices.Contains(out, steps[0].Name) {
			out = append(out, steps[0].Name)
		}
	}
	return out
}

// solid is the node for what stands at a place where it is not null.
func (p *planner) solid(t tried, v run.Value, at *run.Place, f *model.Field) *decoder.Node {
	var each, any, elem []*run.Place
	var members []string
	for _, from := range v.Places() {
		steps := from.Steps(at)
		if !from.Within(at) || len(steps) == 0 {
			continue
		}
		switch s := steps[0]; s.Kind {
		case run.Each:
			each = append(each, from)
		case run.Any, run.Key:
			any = append(any, from)
		case run.Elem:
			elem = append(elem, from)
		case run.Member:
			if !slices.Contains(members, s.Name) {
				members = append(members, s.Name)
			}
		}
	}
	if o := instanceAt(v, at); o != nil {
		return p.object(t, v, o, at)
	}
	kinds := 0
	for _, some := range []int{len(each), len(any), len(elem), len(members)} {
		if some > 0 {
			kinds++
		}
	}
	switch {
	case kinds == 0:
		return p.leaf(t, at, f, false)
	case kinds > 1:
		return p.leaf(t, at, f, true)
	case len(each) > 0 && p.refuses(t, at, wire.Array), len(any) > 0 && p.refuses(t, at, wire.Object): // whatever is in it
		return p.leaf(t, at, f, false)
	case len(each) > 0:
		n := &decoder.Node{Op: decoder.OpList, Inner: p.value(t, v, at.Sub(run.Each, "", 0), nil), Wrong: p.wrong(t, at)}
		p.accepts(t, at, n, wire.Array)
		p.lossy(t, n, at.Sub(run.Each, "", 0))
		return n
	case len(any) > 0:
		p.name(t, at.Sub(run.Any, "", 0))
		n := &decoder.Node{Op: decoder.OpMap, Inner: p.value(t, v, at.Sub(run.Any, "", 0), nil), Wrong: p.wrong(t, at), Key: p.key(t, at), Every: true}
		p.accepts(t, at, n, wire.Object)
		p.lossy(t, n, at.Sub(run.Any, "", 0))
		return n
	case len(members) == 1:
		n := &decoder.Node{Op: decoder.OpKeyed, Wrong: p.wrong(t, at), Inner: p.member(t, v, at, members[0], f)}
		p.accepts(t, at, n, wire.Object)
		return n
	}
	n := p.leaf(t, at, f, true)
	n.Others = members
	return n
}

// member is the node that reads a member of what stands at a place.
func (p *planner) member(t tried, v run.Value, at *run.Place, name string, f *model.Field) *decoder.Node {
	place := at.Sub(run.Member, name, 0)
	n := &decoder.Node{Op: decoder.OpAt, Name: name, Last: true, Field: f}
	absent := p.probe(t, &run.Probe{At: place, Absent: true})
	switch {
	case absent.err != nil:
		missing := *absent.err
		missing.Reason, missing.Key = decoder.ReasonMissing, name
		n.Missing = &missing
	case absent.unknown:
		n.Value = decoder.Seen{Kind: decoder.SeenUnknown}
	default:
		n.Value = absent.seen
	}
	n.Inner = p.value(t, v, place, f)
	return n
}

// wrong is the error for a value of another kind.
func (p *planner) wrong(t tried, at *run.Place) func(wire.Kind) *decoder.Error {
	return func(k wire.Kind) *decoder.Error {
		p.lock.Lock()
		defer p.lock.Unlock()
		r := p.probe(t, &run.Probe{At: at, Value: run.ProbeOf(sample(k), at)})
		if r.err == nil { // not reached: accepts has looked
			return &decoder.Error{Kind: "_TypeError", Reason: decoder.ReasonKind, Message: "_TypeError: a value of another kind"}
		}
		return r.err
	}
}

// sample is a value of a kind.
func sample(k wire.Kind) *wire.Value {
	text := map[wire.Kind]string{wire.Null: `null`, wire.Bool: `true`, wire.Number: `1`, wire.String: `"text"`, wire.Array: `[]`, wire.Object: `{}`}[k]
	v, err := wire.Parse([]byte(text))
	if err != nil {
		return &wire.Value{Kind: k}
	}
	return v
}

// accepts makes a node for a collection or an object take the kinds of value that the code takes too.
func (p *planner) accepts(t tried, at *run.Place, n *decoder.Node, want wire.Kind) {
	ok := func(k wire.Kind) bool {
		return p.probe(t, &run.Probe{At: at, Value: run.ProbeOf(sample(k), at)}).err == nil
	}
	texts, scalars := ok(wire.String), ok(wire.Number) || ok(wire.Bool)
	if !texts && !scalars {
		return
	}
	if n.Op == decoder.OpKeyed || n.Op == decoder.OpList {
		n.Second = p.leaf(t, at, nil, true)
		n.Scalars = scalars && n.Op == decoder.OpKeyed
	}
}

// refuses says whether even an empty collection fails.
func (p *planner) refuses(t tried, at *run.Place, kind wire.Kind) bool {
	v := sample(kind)
	r := p.probe(t, &run.Probe{At: at, Value: p.m.FromWire(v, at)})
	return r.err != nil && !r.later && r.err.Reason == decoder.ReasonKind
}

// keyNames are names to try for the members of a map.
var keyNames = []string{"key", "1", "2026-03-01", "en", "true"}

// name finds a name for the members of a map that the code takes, with a value of which nothing is known.
func (p *planner) name(t tried, any *run.Place) {
	for _, name := range keyNames {
		p.names[any] = name
		if r := p.refusesName(t, any); !r {
			return
		}
	}
	p.names[any] = keyNames[0]
}

// refusesName says whether a member of which only the name is known fails.
func (p *planner) refusesName(t tried, any *run.Place) bool {
	_, err := t.try(&run.Probe{At: any, Value: run.NotKnown(any), Names: p.names})
	_, thrown := err.(*run.Thrown)
	return thrown
}

// lossy says what becomes of a collection where the reader of an element fails.
func (p *planner) lossy(t tried, n *decoder.Node, at *run.Place) {
	v, err := t.try(&run.Probe{At: at, Value: run.Failing(at), Names: p.names})
	if err != nil {
		return
	}
	of, ok, err := t.of(v)
	if !ok || err != nil {
		return
	}
	if _, there, _ := p.inside(of, at.Steps(t.root)); !there {
		n.Lossy = true
	}
}

// key is what becomes of the name of a member that is read as the key of a map.
func (p *planner) key(t tried, at *run.Place) func(string) (decoder.Seen, *decoder.Error) {
	place := at.Sub(run.Key, "", 0)
	return func(name string) (decoder.Seen, *decoder.Error) {
		p.lock.Lock()
		defer p.lock.Unlock()
		v, err := t.try(&run.Probe{At: place, Value: run.TextOf(name), Names: p.names})
		if e, ok := err.(*run.Thrown); ok {
			r := failure(e)
			r.Reason = decoder.ReasonKey
			return decoder.Seen{}, r
		}
		_ = v
		return decoder.Seen{Kind: decoder.SeenString, Text: name}, nil
	}
}

// instanceAt is the instance that is made of what stands at a place, nil for none.
func instanceAt(v run.Value, at *run.Place) *run.Object {
	return find(v, at, 6)
}

func find(v run.Value, at *run.Place, deep int) *run.Object {
	if deep == 0 {
		return nil
	}
	if l := v.List(); l != nil {
		if l.Some != nil {
			return find(*l.Some, at, deep-1)
		}
		for _, e := range l.Items[:min(len(l.Items), 3)] {
			if o := find(e, at, deep-1); o != nil {
				return o
			}
		}
	}
	if d := v.Map(); d != nil {
		if d.Some != nil {
			return find(*d.Some, at, deep-1)
		}
		for _, e := range d.Vals[:min(len(d.Vals), 3)] {
			if o := find(e, at, deep-1); o != nil {
				return o
			}
		}
	}
	o := v.Object()
	if o == nil || o.Enum != "" {
		return nil
	}
	if o.Made != nil {
		if o.Made.Base == at {
			return o
		}
		if o.Made.Only {
			return nil
		}
	}
	if o.Made == nil && len(o.Fields) > 0 && run.Common(v.Places()) == at && !wraps(v, at) {
		return o
	}
	for _, f := range o.Fields {
		if found := find(*f, at, deep-1); found != nil {
			return found
		}
	}
	return nil
}

// wraps says whether an instance holds what is made of a collection as a whole, as Good(ports) does, and nothing of its
// members by their names.
func wraps(v run.Value, at *run.Place) bool {
	each := false
	for _, from := range v.Places() {
		steps := from.Steps(at)
		if !from.Within(at) || len(steps) == 0 {
			continue
		}
		if steps[0].Kind == run.Member {
			return false
		}
		each = each || steps[0].Kind == run.Each || steps[0].Kind == run.Any
	}
	return each
}

// object is the node for an instance that is made of what stands at a place.
func (p *planner) object(t tried, v run.Value, o *run.Object, at *run.Place) *decoder.Node {
	n := &decoder.Node{Op: decoder.OpKeyed, Wrong: p.wrong(t, at)}
	if o.Made != nil {
		n.Inner = p.reader(o.Made)
	} else {
		n.Inner = p.build(p.toObject(t, at), o, at)
	}
	p.accepts(t, at, n, wire.Object)
	// Whether the app drops what the reader throws.
	got, err := t.try(&run.Probe{At: at, Value: run.Failing(at), Names: p.names})
	if err != nil || o.Made == nil {
		return n
	}
	of, ok, _ := t.of(got)
	if !ok {
		return n
	}
	of, there, _ := p.inside(of, at.Steps(t.root))
	if !there {
		return n // the list leaves it out
	}
	view, err := p.m.See(of)
	if err != nil {
		return n
	}
	if of.IsNull() {
		return &decoder.Node{Op: decoder.OpTry, Inner: n}
	}
	if of.Object() == nil {
		return n
	}
	return &decoder.Node{Op: decoder.OpCatch, Inner: n, Second: &decoder.Node{Op: decoder.OpConst, Value: seen(view)}}
}

// toObject is tried for the instance that it makes of what stands at a place.
func (p *planner) toObject(t tried, at *run.Place) tried {
	of := t.of
	t.of = func(v run.Value) (run.Value, bool, error) {
		v, ok, err := of(v)
		if !ok || err != nil {
			return v, false, err
		}
		return p.inside(v, at.Steps(t.root))
	}
	return t
}

// reader is the node of what a reader makes of a part of a document.
func (p *planner) reader(made *run.Made) *decoder.Node {
	key := made.Key()
	if n := p.made[key]; n != nil {
		return n
	}
	n := &decoder.Node{Op: decoder.OpUnknown}
	p.made[key] = n
	root := run.NewRoot()
	t := tried{root: root, of: whole, try: func(pr *run.Probe) (run.Value, error) { return p.m.Try(made, root, pr) }}
	v, err := t.try(nil)
	o := v.Object()
	switch {
	case err != nil:
		n.Why = err.Error()
	case o == nil:
		n.Why = "what " + made.Fn.Name + " makes is not followed"
		n.Others = names(root, v)
	case o.Made != nil && o.Made.Only && o.Made.Base == root: // of another class
		*n = *p.reader(o.Made)
	default:
		*n = *p.build(t, o, root)
	}
	return n
}

// build is the node of the properties of an instance.
func (p *planner) build(t tried, o *run.Object, at *run.Place) *decoder.Node {
	m := p.models(o.Type)
	n := &decoder.Node{Op: decoder.OpBuild, Model: m, Type: o.Type.String()}
	if m == nil {
		return &decoder.Node{Op: decoder.OpUnknown, Why: "the class " + o.Type.Name + " is not in the source"}
	}
	n.Props = m.Fields
	for i, f := range p.m.FieldsOf(o) {
		p.late = p.late || f.Prop.Late && f.Prop.Value != nil
		if i >= len(m.Fields) || m.Fields[i].Name != f.Prop.Name {
			continue
		}
		n.Steps = append(n.Steps, decoder.Step{Property: i, Node: p.field(p.property(t, f.Prop.Name), f, at, m.Fields[i])})
	}
	return n
}

// field is the node of one property of an instance.
func (p *planner) field(t tried, f run.Field, at *run.Place, of *model.Field) *decoder.Node {
	var members []string
	other := false
	for _, from := range f.From {
		steps := from.Steps(at)
		switch {
		case !from.Within(at) || len(steps) == 0:
			other = other || len(steps) == 0
		case steps[0].Kind == run.Member:
			if !slices.Contains(members, steps[0].Name) {
				members = append(members, steps[0].Name)
			}
		default:
			other = true
		}
	}
	switch {
	case len(members) == 1 && !other:
		return p.member(t, f.V, at, members[0], of)
	case len(members) == 0 && !other:
		view, err := p.m.See(f.V)
		if err != nil {
			return &decoder.Node{Op: decoder.OpUnknown, Why: err.Error(), Field: of}
		}
		return &decoder.Node{Op: decoder.OpConst, Value: seen(view), Field: of}
	}
	why := "it is made of several keys together"
	if other {
		why = "it is made of the object as a whole"
	}
	return &decoder.Node{Op: decoder.OpUnknown, Why: why, Others: members, Opaque: other, Field: of}
}

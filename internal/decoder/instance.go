package decoder

import (
	"slices"

	"vetta/internal/model"
	"vetta/internal/wire"
)

func (r *run) build(n *Node, v *wire.Value) (Seen, *failure) {
	for i := len(r.making) - 1; i >= 0 && r.making[i].value == v; i-- {
		switch {
		case r.making[i].node != n:
		case n.Endless == nil:
			return Seen{Kind: SeenUnknown}, nil
		default:
			return Seen{}, r.fail(n.Endless)
		}
	}
	r.making = append(r.making, making{n, v})
	defer func() { r.making = r.making[:len(r.making)-1] }()
	out := Seen{Kind: SeenObject}
	if n.Model != nil {
		out.Type = n.Model.Name
	}
	if len(n.Props) > 0 {
		out.Names, out.Elems = make([]string, len(n.Props)), make([]Seen, len(n.Props))
	}
	for i, f := range n.Props {
		out.Names[i], out.Elems[i].Kind = f.Name, SeenUnknown
	}
	if v.Kind == wire.Object && !r.quiet {
		r.visits = append(r.visits, visit{v, clone(r.path)})
		r.watched(v)
	}
	if n.ByDocument {
		if err := r.byDocument(n, v, &out); err != nil {
			return Seen{}, err
		}
		if n.Check != nil {
			if cause := n.Check(out); cause != nil {
				return Seen{}, r.fail(cause)
			}
		}
		return out, nil
	}
	whole, done, err := r.steps(n, n.Steps, v, &out)
	if err != nil {
		return Seen{}, err
	}
	if done && whole != nil {
		return *whole, nil
	}
	return out, nil
}

// byDocument does the steps of a build member by member, in the order of the document;
// those whose members it lacks come last. A member that no step takes fails where it
// stands, or where the last of the members that the instance is made of has been read.
func (r *run) byDocument(n *Node, v *wire.Value, out *Seen) *failure {
	s := memberwise{run: r, n: n, v: v, out: out, taken: make([]bool, len(n.Steps)), read: make([]int, len(n.Steps))}
	waits := 0
	for _, step := range n.Steps {
		if step.First {
			waits++
		}
	}
	var unknown, unset *failure
	rest := Seen{}
	for i := range v.Members {
		m := &v.Members[i]
		found := false
		for k := range n.Steps {
			step := &n.Steps[k]
			if step.Node == nil || r.asked[m] && n.Passed != "" || !step.Node.reads(m.Name, r.match) {
				continue
			}
			found = found || n.Rest == nil || step.uses(m.Name, r.match)
			if s.taken[k] && step.Node.Op == OpAt && step.Node.Twice != nil {
				r.path, r.told = append(r.path, wire.MemberOf(m.Name)), append(r.told, wire.MemberOf(m.Name))
				return r.fail(step.Node.Twice(m.Name))
			}
			if step.Node.Op == OpBuild { // what is kept aside for it is read in the end
				continue
			}
			spent := step.First && s.taken[k] && waits == 0 && step.Spent != nil
			if spent && step.Spent == PassedOver {
				found = false
				continue
			}
			made := step.Unasked && s.taken[k] && waits == 0
			if step.First && !s.taken[k] {
				waits--
			}
			// What has no place any more is not read; what cannot be set is.
			if !spent || step.Spent.Reason == ReasonType {
				err := s.checked(k, s.take(k, i))
				if made && s.nulls != nil && s.nulls[k] != nil {
					s.nulls[k] = nil
					if step.Property >= 0 {
						out.Elems[step.Property] = Seen{Kind: SeenNull}
					}
				}
				if err != nil {
					return err
				}
			}
			if !spent && (step.First || step.Spent == nil) {
				continue
			}
			at, err := wire.MemberOf(m.Name), step.Spent
			if step.SpentNull != nil && m.Value.Kind == wire.Null {
				err = step.SpentNull
			}
			r.path, r.told = append(r.path, at), append(r.told, at)
			unset = r.fail(err)
			if spent {
				return unset
			}
			r.path, r.told = r.path[:len(r.path)-1], r.told[:len(r.told)-1]
		}
		if waits == 0 {
			if err := s.unmade(); err != nil {
				return err
			}
		}
		if unset != nil && waits == 0 {
			return unset
		}
		if !found && n.Rest != nil && !(r.asked[m] && n.Passed != "") && !n.Ignored(m.Name) {
			value, err := r.enter(wire.MemberOf(m.Name), n.Rest, m.Value)
			if err != nil {
				return err
			}
			r.ask(m)
			if n.RestInto >= 0 {
				rest.Names, rest.Elems = append(rest.Names, m.Name), append(rest.Elems, value)
			}
		}
		if !found && !(r.asked[m] && n.Passed != "") && n.Unknown != nil && unknown == nil && (n.Ignored == nil || !n.Ignored(m.Name)) {
			if err := n.Unknown(m.Name); err != nil {
				step := wire.MemberOf(m.Name)
				r.path, r.told = append(r.path, step), append(r.told, step)
				unknown = r.fail(err)
				r.path, r.told = r.path[:len(r.path)-1], r.told[:len(r.told)-1]
			}
		}
		if unknown != nil && waits == 0 {
			return unknown
		}
	}
	assigned := make([]bool, len(n.Props))
	for k, step := range n.Steps {
		if s.taken[k] && step.Property >= 0 {
			assigned[step.Property] = true
		}
	}
	// What the instance is made of is asked for first, whatever sets the field after.
	for k, step := range n.Steps {
		if s.taken[k] || !step.First {
			continue
		}
		before := Seen{}
		if step.Property >= 0 {
			before = out.Elems[step.Property]
		}
		_, err := r.step(n, step, v, out)
		if err = s.checked(k, err); err != nil {
			return err
		}
		if step.Property >= 0 && assigned[step.Property] {
			out.Elems[step.Property] = before
		} else if step.Property >= 0 {
			assigned[step.Property] = true
		}
	}
	if err := s.unmade(); err != nil {
		return err
	}
	if unset != nil {
		return unset
	}
	for k, step := range n.Steps {
		// What is unwrapped into a field is read whatever else sets that field.
		if s.taken[k] || step.First || step.Property >= 0 && assigned[step.Property] && step.Node.Op != OpBuild {
			continue
		}
		if step.Property >= 0 {
			assigned[step.Property] = true
		}
		if _, err := r.step(n, step, v, out); err != nil {
			return err
		}
	}
	if n.Rest != nil && n.RestInto >= 0 {
		if at := &out.Elems[n.RestInto]; n.RestMakes && at.Kind == SeenNull && len(rest.Names) > 0 {
			*at = Seen{Kind: SeenMap}
		}
		putInto(&out.Elems[n.RestInto], rest)
	}
	return unknown
}

// putInto puts members into a map.
func putInto(m *Seen, members Seen) {
	if m.Kind != SeenMap {
		return
	}
	filled := Seen{Kind: SeenMap, Names: slices.Clone(m.Names), Elems: slices.Clone(m.Elems)}
	for i, name := range members.Names {
		if at := slices.Index(filled.Names, name); at >= 0 {
			filled.Elems[at] = members.Elems[i]
			continue
		}
		filled.Names, filled.Elems = append(filled.Names, name), append(filled.Elems, members.Elems[i])
	}
	*m = filled
}

// memberwise is the state of a build that goes member by member.
type memberwise struct {
	*run
	n     *Node
	v     *wire.Value
	out   *Seen
	taken []bool     // by step
	read  []int      // by step: its index among the run's reads
	nulls []*failure // by step: of those that are checked for null in the end, nil where there are none
}

// checked puts off what a step fails by where that is asked in the end.
func (s *memberwise) checked(k int, err *failure) *failure {
	late := s.n.Steps[k].InTheEnd
	if len(late) == 0 {
		return err
	}
	if s.nulls == nil {
		s.nulls = make([]*failure, len(s.n.Steps))
	}
	if s.nulls[k] = nil; err != nil && slices.Contains(late, err.cause) {
		s.nulls[k], err = err, nil
	}
	return err
}

// unmade is what the first step fails by that was checked for null, once all have been read.
func (s *memberwise) unmade() *failure {
	for _, err := range s.nulls {
		if err != nil {
			return err
		}
	}
	return nil
}

// take does a step for the member at an index of the object.
func (s *memberwise) take(k, at int) *failure {
	step := s.n.Steps[k]
	if step.Node.Op != OpAt {
		if s.taken[k] {
			return nil
		}
		s.taken[k] = true
		_, err := s.step(s.n, step, s.v, s.out)
		return err
	}
	if s.taken[k] && !step.Node.Every {
		return nil
	}
	m := &s.v.Members[at]
	last := true
	for i := at + 1; i < len(s.v.Members) && last; i++ {
		last = !step.Node.Takes(s.v.Members[i].Name, s.match)
	}
	before := step.Node.Value
	reads := step.Node.Field != nil && step.Property >= 0 && !s.quiet
	if reads {
		read := Read{Model: s.n.Model, Field: step.Node.Field}
		read.Sent, read.Place = s.sentAt(step.Node.Inner, m.Value, append(clone(s.path), wire.MemberOf(m.Name)))
		if !s.taken[k] {
			s.read[k] = len(s.reads)
			s.reads = append(s.reads, read)
		} else {
			s.reads[s.read[k]] = read
		}
	}
	if s.taken[k] && step.Property >= 0 {
		before = s.out.Elems[step.Property]
	}
	s.taken[k] = true
	value, err := s.member(step.Node, m, before, last)
	if step.Node.Opaque && err == nil {
		value = Seen{Kind: SeenUnknown}
	}
	if reads {
		s.reads[s.read[k]].Seen = value
		if err != nil {
			s.reads[s.read[k]].Err = err.cause
		}
	}
	if err == nil && step.Property >= 0 {
		s.out.Elems[step.Property] = value
	}
	return err
}

// reads says whether a step's node reads members of that name of the current object.
func (n *Node) reads(name string, match func(string) string) bool {
	switch n.Op {
	case OpAt:
		return n.Takes(name, match)
	case OpBuild: // of an object that stands in the one around it
		for _, s := range n.Steps {
			if s.Node != nil && s.Node.reads(name, match) {
				return true
			}
		}
		return false
	case OpDo, OpPick, OpTry, OpElse, OpCatch, OpCall, OpIf:
		for _, inner := range append([]*Node{n.Inner, n.Second, n.Third}, n.Args...) {
			if inner != nil && inner.reads(name, match) {
				return true
			}
		}
	}
	return false
}

// Uses says whether a step of the build takes members of that name for itself, so that its Rest does
// not: what is unwrapped reads what is kept aside, and the Rest takes that too.
func (n *Node) Uses(name string, match func(string) string) bool {
	return slices.ContainsFunc(n.Steps, func(s Step) bool { return s.uses(name, match) })
}

func (s Step) uses(name string, match func(string) string) bool {
	return s.Node != nil && s.Node.Op != OpBuild && s.Node.reads(name, match)
}

// Reads says whether a step of the build takes members of that name.
func (n *Node) Reads(name string, match func(string) string) bool {
	for _, s := range n.Steps {
		if s.Node != nil && s.Node.reads(name, match) {
			return true
		}
	}
	return false
}

// steps does steps in turn. done says that one of them has ended the reading; whole
// is the instance where one made it as a whole.
func (r *run) steps(n *Node, steps []Step, v *wire.Value, out *Seen) (whole *Seen, done bool, err *failure) {
	for _, s := range steps {
		var made *Seen
		switch {
		case s.Cond != nil:
			asked := len(r.changes)
			cond, err := r.node(s.Cond, v)
			if err != nil {
				return nil, false, err
			}
			branch := s.Else
			if cond.Text == "true" {
				branch = s.Then
			}
			if cond.Kind == SeenUnknown {
				return &Seen{Kind: SeenUnknown}, true, nil
			}
			err = r.again(asked, func() (err *failure) {
				made, done, err = r.steps(n, branch, v, out)
				return err
			})
			if err != nil {
				return nil, false, err
			}
		case s.Do:
			path, own := len(r.path), r.own
			made, done, err = r.steps(n, s.Then, v, out)
			if err != nil && err.cause.Endless() {
				return nil, false, err
			}
			if err != nil {
				r.path, r.told, r.own = r.path[:path], r.told[:path], own
				if made, done, err = r.steps(n, s.Else, v, out); err != nil {
					return nil, false, err
				}
			}
		case s.Node != nil:
			if made, err = r.step(n, s, v, out); err != nil {
				return nil, false, err
			}
		}
		if made != nil {
			whole = made
		}
		if done || s.Return {
			return whole, true, nil
		}
	}
	return whole, whole != nil, nil
}

// step does one step; whole is the instance where the step makes it as a whole.
func (r *run) step(n *Node, s Step, v *wire.Value, out *Seen) (whole *Seen, err *failure) {
	at := len(r.reads)
	reads := s.Node.Field != nil && !r.quiet
	if reads {
		r.reads = append(r.reads, r.reading(n.Model, s.Node, v))
	}
	value, err := r.node(s.Node, v)
	if reads {
		r.reads[at].Seen = value
		switch {
		case err != nil:
			r.reads[at].Err = err.cause
		case s.Property < 0: // it is read for a field that is set later
			r.reads = append(r.reads[:at], r.reads[at+1:]...)
		}
	}
	switch {
	case err != nil:
		return nil, err
	case s.Property == WholeValue:
		return &value, nil
	case s.Property >= 0:
		out.Elems[s.Property] = value
	}
	return nil, nil
}

func (r *run) cases(n *Node, v *wire.Value) (Seen, *failure) {
	var found *Branch
	for _, m := range v.Members {
		for i := range n.Branches {
			b := &n.Branches[i]
			name := m.Name
			if r.match != nil {
				name = r.match(name)
			}
			if b.Key != name || b == found {
				continue
			}
			if found != nil {
				return Seen{}, r.fail(n.Error)
			}
			found = b
		}
	}
	if found == nil {
		return Seen{}, r.fail(n.Error)
	}
	values, err := r.node(found.Node, v)
	return Seen{Kind: SeenCase, Text: found.Case.Name, Type: n.Model.Name, Names: values.Names, Elems: values.Elems}, err
}

// reading notes what a step is about to read.
func (r *run) reading(m *model.Model, n *Node, v *wire.Value) Read {
	read := Read{Place: clone(r.path), Model: m, Field: n.Field, Asked: n.Name}
	read.Sent, read.Place = r.sentAt(n, v, read.Place)
	return read
}

// attempt does the operations that go on where something fails or is nothing.
func (r *run) attempt(n *Node, v *wire.Value) (Seen, *failure) {
	path, own, asked := len(r.path), r.own, len(r.changes)
	s, err := r.node(n.Inner, v)
	if err != nil {
		r.path, r.told, r.own = r.path[:path], r.told[:path], own
		if n.Op == OpElse || err.cause.Endless() {
			return s, err
		}
		sent := r.sent(n.Inner, v)
		if n.Op == OpTry {
			if sent != nil && sent.Kind != wire.Null && !r.quiet {
				r.changes = append(r.changes, Change{Loss: Swallowed, Place: err.place, Sent: sent, Err: err.cause})
			}
			return Seen{}, nil
		}
		return r.node(n.Second, v)
	}
	if n.Op == OpElse && s.Kind == SeenNull {
		err = r.again(asked, func() (err *failure) {
			s, err = r.node(n.Second, v)
			return err
		})
	}
	return s, err
}

// sent is the value that a node reads from, found without reading it; nil where
// nothing was sent.
func (r *run) sent(n *Node, v *wire.Value) *wire.Value {
	sent, _ := r.sentAt(n, v, nil)
	return sent
}

// sentAt is sent with the place of the value, from the path to v on.
func (r *run) sentAt(n *Node, v *wire.Value, path []wire.Step) (*wire.Value, []wire.Step) {
	switch n.Op {
	case OpAt:
		if v.Kind != wire.Object {
			return nil, path
		}
		if m := find(v, n.Name, r.match); m != nil {
			return r.sentAt(n.Inner, m.Value, append(path, wire.MemberOf(m.Name)))
		}
		return nil, path
	case OpHas:
		if v.Kind == wire.Object {
			if m := find(v, n.Name, r.match); m != nil {
				return m.Value, append(path, wire.MemberOf(m.Name))
			}
		}
		return nil, path
	case OpIf: // what is read, and of what that hangs on only where nothing is
		for _, branch := range []*Node{n.Second, n.Third, n.Inner} {
			if sent, at := r.sentAt(branch, v, path); len(at) > len(path) {
				return sent, at
			}
		}
		return r.sentAt(n.Inner, v, path)
	case OpKeyed:
		defer func(match func(string) string) { r.match = match }(r.match)
		r.match = n.Match
		if n.Inner != nil && (n.Assured || n.Inner.Op == OpAt || n.Inner.Op == OpHas) {
			return r.sentAt(n.Inner, v, path)
		}
	case OpCall:
		if len(n.Args) > 0 {
			return r.sentAt(n.Args[0], v, path)
		}
		return nil, path
	case OpTry, OpElse, OpCatch, OpPick, OpDo:
		return r.sentAt(n.Inner, v, path)
	case OpConst:
		return nil, path
	}
	return v, path
}

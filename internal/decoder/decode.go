package decoder

import (
	"bytes"
	"slices"

	"vetta/internal/markup"
	"vetta/internal/model"
	"vetta/internal/wire"
)

// Outcome is what became of one document.
type Outcome struct {
	Seen    Seen
	Err     *Error        // nil: the document decodes
	Later   bool          // Err is thrown only when what was decoded is read
	Place   []wire.Step   // the place that Err names, as the library tells it
	At      []wire.Step   // the same in the document, where names may be written otherwise
	Changes []Change      // what was lost or changed on the way, in the order it happened
	Unknown [][]wire.Step // places in Seen, by property names, that are not known
	Reads   []Read
	Unread  [][]wire.Step // members of objects that no part of the plan asked for
	// Differs are the places where a value is not of the type that the app takes it for, of a plan that Trusts.
	Differs []Difference
	// Issues are all that a validator complains of, of which Err is the first.
	Issues []Difference
}

// Difference is a place where a value is not of its declared type.
type Difference struct {
	At      []wire.Step
	Reason  string
	Message string // as the compiler of the language says it
}

// Read is one property that took its value.
type Read struct {
	Place []wire.Step // of the value that was sent, or of the object that lacks it
	Model *model.Model
	Field *model.Field
	Asked string      // the key that is read, "" where that is not told
	Sent  *wire.Value // nil where nothing was sent
	Seen  Seen
	Err   *Error // the error that ended the decoding here
}

// Change is a difference between what was sent and what is seen that no error
// reports.
type Change struct {
	Loss  Loss
	Place []wire.Step
	Sent  *wire.Value // nil where the key is absent
	Seen  Seen
	Err   *Error       // the error that was swallowed
	lost  *model.Field // that is not read, for its elements are out of their order
}

// Decode takes a document through a plan.
func (p *Plan) Decode(doc *wire.Value) Outcome {
	if p.Run != nil {
		return p.ran(doc)
	}
	if p.Prepared != nil {
		meant, fails, at, told := p.Prepared(doc)
		switch {
		case !told:
			return Outcome{Seen: Seen{Kind: SeenUnknown}, Unknown: [][]wire.Step{{}}}
		case fails != nil:
			place := doc.StepsTo(at)
			return Outcome{Err: fails.placed(place), Place: place, At: place}
		}
		doc = meant
	}
	return p.decode(doc)
}

// decode takes a document, or the part of one that the type is made of, through the nodes.
func (p *Plan) decode(doc *wire.Value) Outcome {
	r := run{asked: map[*wire.Member]bool{}}
	if p.MaxDepth > 0 && deeper(doc, p.MaxDepth) {
		return Outcome{Err: p.TooDeep.placed(nil)}
	}
	if p.Fragment != nil && doc.Kind != wire.Object && doc.Kind != wire.Array {
		return Outcome{Err: p.Fragment.placed(nil)}
	}
	seen, err := r.node(p.Root, doc)
	r.misplaced()
	out := Outcome{Seen: seen, Changes: r.changes, Reads: r.reads}
	for _, v := range r.visits {
		for i := range v.object.Members {
			if m := &v.object.Members[i]; !r.asked[m] && !silent(m) {
				r.asked[m] = true // one object may be visited for several models
				out.Unread = append(out.Unread, append(clone(v.path), wire.MemberOf(m.Name)))
			}
		}
	}
	if err != nil {
		out.Err, out.Place, out.At = err.cause, err.told, err.place
	}
	if err != nil && p.drops(err.cause) {
		out.Changes = append(out.Changes, Change{Loss: Swallowed, Place: nil, Sent: doc, Err: err.cause})
		out.Err, out.Place, out.At, out.Seen = nil, nil, nil, p.otherwise
	}
	out.Unknown = unknownIn(out.Seen, nil, nil)
	return out
}

// emptied notes that a value is read as an empty one.
func (r *run) emptied(lost bool, v *wire.Value) {
	if lost {
		r.change(Change{Loss: Defaulted, Sent: v})
	}
}

// silent says whether a member is one that nobody minds who reads an XML document: the order of elements, xsi:type where
// there is no choice, and no text.
func silent(m *wire.Member) bool {
	return m.Name == markup.OrderKey || m.Name == markup.TypeKey || m.Name == markup.TextKey && len(bytes.Trim(m.Value.Raw, `" `)) == 0
}

// deeper says whether arrays and objects are more than limit deep inside each other.
func deeper(v *wire.Value, limit int) bool {
	if v.Kind < wire.Array {
		return false
	}
	if limit == 0 {
		return true
	}
	for _, e := range v.Elems {
		if deeper(e, limit-1) {
			return true
		}
	}
	for _, m := range v.Members {
		if deeper(m.Value, limit-1) {
			return true
		}
	}
	return false
}

// run is the state of taking one document through a plan.
type run struct {
	path    []wire.Step // to the current value
	told    []wire.Step // the same as the library tells it
	own     int         // how much of the path leads to the innermost decoder
	match   func(string) string
	changes []Change
	reads   []Read
	asked   map[*wire.Member]bool // nil where nobody minds
	quiet   bool                  // nothing is noted but what is seen: whether it decodes is all that is asked
	visits  []visit
	making  []making
	arg     Seen // of the innermost function that is applied to a value
	// decoded are values that were decoded while somebody watches, nil while nobody does.
	decoded map[*wire.Value]bool
	// aside says that what is decoded was kept aside before, early which values will have been.
	aside bool
	early map[*wire.Value]bool
}

// read is what is decoded for a value: where it was kept aside, a copy that says so.
func (r *run) read(v *wire.Value) *wire.Value {
	if r.aside {
		return v.KeptAside()
	}
	return v
}

func (r *run) watched(v *wire.Value) {
	if r.decoded != nil {
		r.decoded[v] = true
	}
}

// again does what reads a value in another way after an attempt that failed, and forgets
// the errors dropped since change from on whose values were decoded then: nothing of them
// is lost.
func (r *run) again(from int, read func() *failure) *failure {
	dropped := len(r.changes)
	if from == dropped {
		return read()
	}
	outer := r.decoded
	r.decoded = map[*wire.Value]bool{}
	err := read()
	if err == nil {
		kept := append([]Change{}, r.changes[:from]...)
		for i, c := range r.changes[from:] {
			if from+i >= dropped || c.Loss != Swallowed || !r.decoded[c.Sent] {
				kept = append(kept, c)
			}
		}
		r.changes = kept
	}
	for v := range r.decoded {
		if outer != nil {
			outer[v] = true
		}
	}
	r.decoded = outer
	return err
}

// Bool is a bool that hand-written code computes.
func Bool(b bool) Seen {
	if b {
		return Seen{Kind: SeenBool, Text: "true"}
	}
	return Seen{Kind: SeenBool, Text: "false"}
}

// call computes a function of hand-written code. What is not known makes the result
// unknown.
func (r *run) call(n *Node, v *wire.Value) (Seen, *failure) {
	args := make([]Seen, len(n.Args))
	unknown := false
	for i, a := range n.Args {
		if i > 0 && i == len(n.Args)-1 && n.Applies {
			continue // done for each value that Call asks it for
		}
		s, err := r.node(a, v)
		if err != nil {
			return s, err
		}
		args[i] = s
		unknown = unknown || s.Kind == SeenUnknown
		if n.Joins() && (unknown || s.Text == "true" == (n.Name == "||")) { // what comes behind is not asked
			if unknown {
				return Seen{Kind: SeenUnknown}, nil
			}
			return s, nil
		}
	}
	if unknown && n.Name != model.After {
		return Seen{Kind: SeenUnknown}, nil
	}
	var failed *failure
	out := n.Call(args, func(s Seen) Seen {
		defer func(outer Seen) { r.arg = outer }(r.arg)
		r.arg = s
		out, err := r.node(n.Args[len(n.Args)-1], v)
		if err != nil && failed == nil {
			failed = err
		}
		return out
	})
	return out, failed
}

// visit is an object that a model was read from.
type visit struct {
	object *wire.Value
	path   []wire.Step
}

// making is a build that is under way.
type making struct {
	node  *Node
	value *wire.Value
}

// failure is an error with the place it names.
type failure struct {
	cause *Error
	place []wire.Step
	told  []wire.Step
}

// placed is the error with its message as it is at a path.
func (e *Error) placed(path []wire.Step) *Error {
	message := Placed(e.Message, path)
	if message == e.Message {
		return e
	}
	told := *e
	told.Message = message
	return &told
}

func (r *run) fail(e *Error) *failure {
	e = e.placed(r.path)
	switch e.Where {
	case AtRoot:
		return &failure{e, nil, nil}
	case AtDecoder:
		return &failure{e, clone(r.path[:r.own]), clone(r.told[:r.own])}
	}
	return &failure{e, clone(r.path), clone(r.told)}
}

func clone(path []wire.Step) []wire.Step { return append([]wire.Step(nil), path...) }

// ask notes that a part of the plan asks for a member.
func (r *run) ask(m *wire.Member) {
	if r.asked != nil {
		r.asked[m] = true
	}
}

func (r *run) change(c Change) {
	if r.quiet {
		return
	}
	c.Place = clone(r.path)
	r.changes = append(r.changes, c)
}

// node does what n says with v.
func (r *run) node(n *Node, v *wire.Value) (Seen, *failure) {
	if n.OwnPath {
		defer func(own int) { r.own = own }(r.own)
		r.own = len(r.path)
	}
	if n.Aside && n.Op != OpSubtype || r.early[v] {
		defer func(aside bool) { r.aside = aside }(r.aside)
		r.aside = true
	}
	switch n.Op {
	case OpLeaf:
		verdict := n.Read(r.read(v))
		if verdict.Err != nil {
			return Seen{}, r.fail(verdict.Err)
		}
		r.watched(v)
		if verdict.Loss != NoLoss {
			r.change(Change{Loss: verdict.Loss, Sent: v, Seen: verdict.Seen})
		}
		return verdict.Seen, nil
	case OpNil:
		if v.Kind == wire.Null {
			if n.NullError != nil {
				return Seen{}, r.fail(n.NullError)
			}
			if n.NullLoss != NoLoss {
				r.change(Change{Loss: n.NullLoss, Sent: v, Seen: n.Value})
			}
			return n.Value, nil
		}
		return r.node(n.Inner, v)
	case OpList:
		r.watched(v)
		if n.First && v.Kind == wire.Array && len(v.Elems) > 0 {
			return r.enter(wire.Step{Index: 0}, n.Inner, v.Elems[0])
		}
		if v.Kind == wire.Object && n.empties(v) {
			r.emptied(len(v.Members) > 0, v)
			v = &wire.Value{Kind: wire.Array, Start: v.Start, End: v.End}
		}
		return r.list(n, v)
	case OpMap:
		r.watched(v)
		return r.members(n, v)
	case OpPairs:
		return r.pairs(n, v)
	case OpEntries:
		return r.entries(n, v)
	case OpSubtype:
		return r.subtype(n, v)
	case OpKeyed:
		if n.Second != nil && (v.Kind == wire.String || n.Scalars && (v.Kind == wire.Number || v.Kind == wire.Bool)) {
			return r.node(n.Second, v)
		}
		if v.Kind == wire.Array && n.empties(v) {
			r.emptied(len(v.Elems) > 0, v)
			v = &wire.Value{Kind: wire.Object, Start: v.Start, End: v.End}
		}
		if v.Kind != wire.Object {
			if n.Lossy {
				r.change(Change{Loss: Swallowed, Sent: v, Err: n.Wrong(v.Kind)})
				return Seen{}, nil
			}
			return r.wrongKind(n, v)
		}
		defer func(match func(string) string) { r.match = match }(r.match)
		r.match = n.Match
		if n.Inner == nil {
			return Seen{}, nil
		}
		return r.node(n.Inner, v)
	case OpAt:
		return r.at(n, v)
	case OpBuild:
		return r.build(n, v)
	case OpCases:
		return r.cases(n, v)
	case OpConst:
		return n.Value, nil
	case OpElem:
		if n.Wrong != nil && v.Kind != wire.Array {
			return r.wrongKind(n, v)
		}
		if v.Kind != wire.Array || n.Index >= len(v.Elems) {
			return Seen{}, r.fail(n.Missing)
		}
		return r.enter(wire.Step{Index: n.Index}, n.Inner, v.Elems[n.Index])
	case OpIf:
		cond, err := r.node(n.Inner, v)
		switch {
		case err != nil || cond.Kind == SeenUnknown:
			return cond, err
		case cond.Text == "true":
			return r.node(n.Second, v)
		}
		return r.node(n.Third, v)
	case OpCall:
		return r.call(n, v)
	case OpHas:
		return Bool(v.Kind == wire.Object && find(v, n.Name, r.match) != nil), nil
	case OpIsNull:
		return Bool(v.Kind == wire.Null), nil
	case OpArg:
		return r.arg, nil
	case OpPick:
		s, err := r.node(n.Inner, v)
		if err != nil {
			return s, err
		}
		if s.Kind == SeenNull {
			return s, nil
		}
		if picked, ok := s.Get(n.Name); ok {
			return picked, nil
		}
		return Seen{Kind: SeenUnknown}, nil
	case OpTry, OpElse, OpCatch:
		return r.attempt(n, v)
	case OpDo:
		return r.node(n.Inner, v)
	case OpMade:
		if slices.Contains(r.making, making{n, v}) { // functions that ask for each other
			return Seen{Kind: SeenUnknown}, nil
		}
		r.making = append(r.making, making{n, v})
		defer func() { r.making = r.making[:len(r.making)-1] }()
		s, err := r.node(n.Inner, v)
		if err != nil {
			return s, err
		}
		made, cause := n.Make(s)
		if cause != nil {
			return Seen{}, r.fail(cause)
		}
		return made, nil
	case OpFail:
		return Seen{}, r.fail(n.Error)
	case OpUnknown:
		if n.Opaque { // it may well be decoded there
			r.watched(v)
		}
		for i := range v.Members {
			if n.Opaque || slices.Contains(n.Others, v.Members[i].Name) { // any may be the one that is read
				r.ask(&v.Members[i])
			}
		}
	}
	return Seen{Kind: SeenUnknown}, nil
}

// enter does what inner says at a value one step further in.
func (r *run) enter(step wire.Step, inner *Node, v *wire.Value) (Seen, *failure) {
	return r.enterAs(step, step, inner, v)
}

// enterAs is enter for a step that the library tells under another name.
func (r *run) enterAs(step, told wire.Step, inner *Node, v *wire.Value) (Seen, *failure) {
	r.path, r.told = append(r.path, step), append(r.told, told)
	s, err := r.node(inner, v)
	r.path, r.told = r.path[:len(r.path)-1], r.told[:len(r.told)-1]
	return s, err
}

// wrongKind is what becomes of a value that is not of the node's kind.
func (r *run) wrongKind(n *Node, v *wire.Value) (Seen, *failure) {
	if err := n.wrong(r.read(v)); err != nil {
		return Seen{}, r.fail(err)
	}
	return Seen{Kind: SeenUnknown}, nil
}

// wrong is the error for a value that is not of the node's kind.
func (n *Node) wrong(v *wire.Value) *Error {
	if n.WrongValue != nil {
		return n.WrongValue(v)
	}
	return n.Wrong(v.Kind)
}

// find is the first member whose name, after the library's renaming, is name.
func find(v *wire.Value, name string, match func(string) string) *wire.Member {
	for i := range v.Members {
		given := v.Members[i].Name
		if match != nil {
			given = match(given)
		}
		if given == name {
			return &v.Members[i]
		}
	}
	return nil
}

func (r *run) at(n *Node, v *wire.Value) (Seen, *failure) {
	members := r.taken(n, v)
	if len(members) == 0 {
		if n.MissingFrom != nil && v.Kind == wire.Object {
			return Seen{}, r.fail(n.MissingFrom(v))
		}
		if n.Missing != nil {
			return Seen{}, r.fail(n.Missing)
		}
		if n.AbsentLoss != NoLoss {
			r.path = append(r.path, wire.MemberOf(n.Name))
			r.change(Change{Loss: n.AbsentLoss, Seen: n.Value})
			r.path = r.path[:len(r.path)-1]
		}
		return n.Value, nil
	}
	out := n.Value
	for i, m := range members {
		s, err := r.member(n, m, out, i == len(members)-1)
		if err != nil {
			return s, err
		}
		out = s
	}
	return out, nil
}

// member reads one member that an OpAt takes. before is what the members read so far
// have yielded; last says that no other follows.
func (r *run) member(n *Node, m *wire.Member, before Seen, last bool) (Seen, *failure) {
	r.ask(m)
	if m.Value.Kind == wire.Null && (n.NullNil || n.KeepNull) {
		out := before
		if n.NullNil {
			out = Seen{}
		}
		if last && n.NullLoss != NoLoss {
			r.path = append(r.path, wire.MemberOf(m.Name))
			r.change(Change{Loss: n.NullLoss, Sent: m.Value, Seen: out})
			r.path = r.path[:len(r.path)-1]
		}
		return out, nil
	}
	told := n.Name
	if slices.Contains(n.Others, m.Name) {
		told = m.Name
	}
	changes := len(r.changes)
	out, err := r.enterAs(wire.MemberOf(m.Name), wire.MemberOf(told), n.Inner, m.Value)
	if n.Name == markup.OrderKey && len(r.changes) > changes {
		r.changes[changes].lost = n.Field
	}
	return out, err
}

// taken are the members that an OpAt reads.
func (r *run) taken(n *Node, v *wire.Value) (members []*wire.Member) {
	if v.Kind != wire.Object {
		return nil
	}
	if len(n.Others) == 0 && !n.Every && !n.Last {
		if m := find(v, n.Name, r.match); m != nil {
			members = append(members, m)
		}
		return members
	}
	for i := range v.Members {
		if n.Takes(v.Members[i].Name, r.match) {
			members = append(members, &v.Members[i])
		}
	}
	switch {
	case len(members) < 2 || n.Every:
	case n.Last:
		members = members[len(members)-1:]
	default:
		members = members[:1]
	}
	return members
}

// Takes says whether an OpAt reads members of that name; match is what the library
// makes of it, nil where it makes nothing.
func (n *Node) Takes(name string, match func(string) string) bool {
	if match != nil {
		name = match(name)
	}
	return name == n.Name || slices.Contains(n.Others, name)
}

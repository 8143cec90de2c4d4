package survey

import (
	"math"
	"slices"
	"strconv"
	"strings"
	"sync"

	"vetta/internal/decoder"
	"vetta/internal/model"
	"vetta/internal/wire"
)

// node is the node of the document as a whole.
func (s *survey) node() *decoder.Node {
	return s.value("", s.root, nil)
}

// value is the node for what stands at a spot, of which what a path leads to is made.
func (s *survey) value(path string, at *spot, f *model.Field) *decoder.Node {
	seen, ok := find(s.seen, path)
	if !ok {
		return &decoder.Node{Op: decoder.OpUnknown, Why: "what becomes of it is not followed", Opaque: true}
	}
	if at.as != nil {
		return s.nothing(at, path, s.library(at), f)
	}
	switch {
	case seen.Kind == decoder.SeenObject && at.shape == object:
		n := &decoder.Node{Op: decoder.OpKeyed, Wrong: s.wrong(at), Inner: s.build(path, seen, at)}
		s.accepts(n, at, path, wire.Object)
		return s.nothing(at, path, n, f)
	case (seen.Kind == decoder.SeenList || seen.Kind == decoder.SeenSet) && at.shape == list && len(seen.Elems) == 1:
		n := &decoder.Node{Op: decoder.OpList, Unique: seen.Kind == decoder.SeenSet, Wrong: s.wrong(at), Inner: s.value(path+"[]", at.inner[0], nil)}
		s.accepts(n, at, path, wire.Array)
		return s.nothing(at, path, n, f)
	case seen.Kind == decoder.SeenMap && at.shape == table && len(seen.Elems) == 1:
		n := &decoder.Node{Op: decoder.OpMap, Every: true, Wrong: s.wrong(at), Inner: s.value(path+step(seen, 0), at.inner[0], nil), Key: anyKey}
		s.accepts(n, at, path, wire.Object)
		return s.nothing(at, path, n, f)
	case at.shape == object: // an instance that is made of what is further in, or no instance
		return s.nothing(at, path, s.within(path, seen, at, f), f)
	}
	return s.nothing(at, path, s.leaf(at, path, f), f)
}

func anyKey(name string) (decoder.Seen, *decoder.Error) {
	return decoder.Seen{Kind: decoder.SeenString, Text: name}, nil
}

// library is the node for what a library decodes.
func (s *survey) library(at *spot) *decoder.Node {
	root := at.as.Root
	if root.Op == decoder.OpNil { // what the code makes of null is asked of the code
		root = root.Inner
	}
	return root
}

// within is the node for a value that is made of one member of an object.
func (s *survey) within(path string, seen decoder.Seen, at *spot, f *model.Field) *decoder.Node {
	inner := around(s.of(path))
	for inner != nil && inner.up != at {
		if inner == at || inner.up == nil {
			return s.opaque(at, path, "it is made of several keys together")
		}
		inner = inner.up
	}
	if inner == nil {
		return s.opaque(at, path, "what it is made of is not followed")
	}
	n := &decoder.Node{Op: decoder.OpKeyed, Wrong: s.wrong(at), Inner: s.member(path, inner, f, s.value(path, inner, f))}
	s.accepts(n, at, path, wire.Object)
	return n
}

// opaque is the node of what is not told.
func (s *survey) opaque(at *spot, path, why string) *decoder.Node {
	n := &decoder.Node{Op: decoder.OpUnknown, Why: why}
	for _, leaf := range s.of(path) {
		if way := leaf.path(at); len(way) > 0 && !slices.Contains(n.Others, way[0].name) {
			n.Others = append(n.Others, way[0].name)
		}
	}
	return n
}

// of are the leaves that what a path leads to depends on.
func (s *survey) of(path string) (all []*spot) {
	for _, leaf := range s.root.leaves() {
		if slices.ContainsFunc(s.changes[leaf], func(p string) bool { return isIn(p, path) }) {
			all = append(all, leaf)
		}
	}
	return all
}

// isIn says whether a path is another or leads further in.
func isIn(path, outer string) bool {
	return strings.HasPrefix(path, outer) && (len(path) == len(outer) || path[len(outer)] == '.' || path[len(outer)] == '[')
}

// build is the node of the properties of an instance that is made of what stands at a spot.
func (s *survey) build(path string, seen decoder.Seen, at *spot) *decoder.Node {
	m := s.models(seen.Type)
	if m == nil {
		return s.opaque(at, path, "the class "+seen.Type+" is not in the source")
	}
	n := &decoder.Node{Op: decoder.OpBuild, Model: m, Type: m.Name, Props: fieldsOf(m, 0)}
	read := map[string]bool{}
	for i, f := range n.Props {
		own := path + "." + f.Name
		v, ok := find(s.seen, own)
		if !ok || f.Static {
			continue
		}
		node := s.property(own, v, at, f)
		n.Steps = append(n.Steps, decoder.Step{Property: i, Node: node})
		for o := node; o != nil; o = o.Inner {
			if o.Op == decoder.OpAt {
				read[o.Name] = true
				break
			}
			for _, name := range o.Others {
				read[name] = true
			}
		}
	}
	if at.open { // whatever else is there may be read
		n.Steps = append(n.Steps, decoder.Step{Property: -1, Node: &decoder.Node{Op: decoder.OpUnknown, Opaque: true}})
	}
	for _, in := range at.inner { // what is asked for and goes into no property
		if !read[in.name] {
			n.Steps = append(n.Steps, decoder.Step{Property: -1, Node: s.beside(in)})
		}
	}
	return n
}

// fieldsOf are the properties of a class, inherited ones first.
func fieldsOf(m *model.Model, deep int) []*model.Field {
	if m.Super == nil || m.Super.Model == nil || deep > 50 {
		return m.Fields
	}
	inherited := fieldsOf(m.Super.Model, deep+1)
	return append(inherited[:len(inherited):len(inherited)], m.Fields...)
}

// beside is the node for a member that is asked for without going into a property.
func (s *survey) beside(in *spot) *decoder.Node {
	if in.gone || in.shape != scalar {
		return &decoder.Node{Op: decoder.OpUnknown, Others: []string{in.name}}
	}
	leaf := s.leaf(in, "", nil)
	read := leaf.Read
	leaf.Read = func(v *wire.Value) decoder.Verdict { return decoder.Verdict{Err: read(v).Err} }
	n := &decoder.Node{Op: decoder.OpAt, Name: in.name, Last: true, Inner: s.nothing(in, "", leaf, nil)}
	if r := s.with(&change{at: in, absent: true}); r.ok && r.out.Err != nil {
		n.Missing = missing(r.out.Err, in.name)
	}
	return n
}

func missing(err *decoder.Error, key string) *decoder.Error {
	e := *err
	e.Reason, e.Key = decoder.ReasonMissing, key
	return &e
}

// property is the node of a property, read from what stands at a spot.
func (s *survey) property(path string, seen decoder.Seen, at *spot, f *model.Field) *decoder.Node {
	n := s.made(path, seen, at, f)
	n.Field = f
	return n
}

func (s *survey) made(path string, seen decoder.Seen, at *spot, f *model.Field) *decoder.Node {
	leaves := s.of(path)
	if len(leaves) == 0 {
		return &decoder.Node{Op: decoder.OpConst, Value: seen, Meant: true}
	}
	if slices.ContainsFunc(leaves, func(l *spot) bool { return !l.within(at) }) {
		return &decoder.Node{Op: decoder.OpUnknown, Why: "it is made of what stands elsewhere, too", Opaque: true}
	}
	of := around(leaves)
	way := of.path(at)
	switch {
	case seen.Kind == decoder.SeenObject && of == at: // an instance of the same object
		return s.build(path, seen, at)
	case len(way) == 0:
		return s.opaque(at, path, "it is made of several keys together")
	case way[0].element:
		return &decoder.Node{Op: decoder.OpUnknown, Why: "it is made of some element", Opaque: true}
	}
	return s.member(path, way[0], f, s.value(path, way[0], f))
}

// member is the node that reads a member.
func (s *survey) member(path string, in *spot, f *model.Field, inner *decoder.Node) *decoder.Node {
	n := &decoder.Node{Op: decoder.OpAt, Name: in.name, Last: true, Inner: inner}
	r := s.with(&change{at: in, absent: true})
	switch {
	case !r.ok:
		n.Value = decoder.Seen{Kind: decoder.SeenUnknown}
	case r.out.Err != nil:
		n.Missing = missing(r.out.Err, in.name)
	default:
		n.Value, _ = find(r.out.Seen, path)
		switch {
		case s.zeroed[in]:
			n.AbsentLoss = decoder.Zeroed
		case hidesNull(f, n.Value):
			n.AbsentLoss = decoder.HiddenNull
		}
	}
	return n
}

// hidesNull says whether a value is null in a property whose declaration says that it never is.
func hidesNull(f *model.Field, s decoder.Seen) bool {
	return f != nil && s.Kind == decoder.SeenNull && !f.Oblivious && !f.AllowsNull && f.Type != nil && f.Type.Kind != model.Optional && f.Type.Kind != model.Param
}

// nothing puts what becomes of null before a node.
func (s *survey) nothing(at *spot, path string, n *decoder.Node, f *model.Field) *decoder.Node {
	outer := &decoder.Node{Op: decoder.OpNil, Inner: n, Type: n.Type}
	r := s.with(&change{at: at, text: "null"})
	switch {
	case !r.ok:
		return &decoder.Node{Op: decoder.OpUnknown, Why: "what becomes of null is not followed", Opaque: true}
	case r.out.Err != nil:
		e := *r.out.Err
		e.Reason = decoder.ReasonNull
		outer.NullError = &e
	default:
		outer.Value, _ = find(r.out.Seen, path)
		if hidesNull(f, outer.Value) {
			outer.NullLoss = decoder.HiddenNull
		}
	}
	return outer
}

// leaf is the node for a value that the code takes as it is; of a list or an object what is inside decides.
func (s *survey) leaf(at *spot, path string, f *model.Field) *decoder.Node {
	n := &decoder.Node{Op: decoder.OpLeaf, Inside: true}
	if f != nil {
		n.Type = f.Declared
		if m := f.Type.Unwrapped().Model; m != nil && m.Kind == model.Enum {
			n.Model = m
		}
	}
	read := func(v *wire.Value) decoder.Verdict {
		r := s.with(&change{at: at, text: text(v)})
		if !r.ok {
			return decoder.Verdict{Seen: decoder.Seen{Kind: decoder.SeenUnknown}}
		}
		if err := r.out.Err; err != nil {
			e := *err
			if e.Reason == decoder.ReasonKind && v.Kind == wire.String && n.Model != nil {
				e.Reason = decoder.ReasonConstant
			}
			return decoder.Verdict{Err: &e}
		}
		seen, ok := find(r.out.Seen, path)
		if !ok {
			return decoder.Verdict{}
		}
		return decoder.Verdict{Seen: seen, Loss: lost(v, seen)}
	}
	taken := sync.OnceValue(func() span { return spanOf(read) })
	n.Read = func(v *wire.Value) decoder.Verdict {
		if number, ok := whole(v); ok && taken().holds(number) {
			return decoder.Verdict{Seen: decoder.Seen{Kind: decoder.SeenInt, Text: string(v.Raw)}}
		}
		return read(v)
	}
	n.Minds = sync.OnceValues(func() (text, numbersByClass bool) { return decoder.Minds(n.Read) })
	return n
}

// span are the whole numbers from one to another that code takes as they are: where it does so with those at which types
// end, it does with those between them, which are too many to be tried.
type span struct {
	some      bool
	low, high int64
}

func (s span) holds(n int64) bool { return s.some && n >= s.low && n <= s.high }

// ends are the numbers at which types end, from 0 on up; those below are at one less.
var ends = []int64{1, math.MaxInt8, math.MaxUint8, math.MaxInt16, math.MaxUint16, math.MaxInt32, math.MaxUint32, 1 << 53, math.MaxInt64}

// spanOf is that of code that reads a number.
func spanOf(read func(*wire.Value) decoder.Verdict) (out span) {
	takes := func(n int64) bool {
		text := strconv.FormatInt(n, 10)
		verdict := read(&wire.Value{Kind: wire.Number, Raw: []byte(text)})
		return verdict.Err == nil && verdict.Seen.Text == text
	}
	if out.some = takes(0); !out.some {
		return out
	}
	for _, n := range ends {
		if !takes(n) {
			break
		}
		out.high = n
	}
	for _, n := range ends {
		if !takes(-n - 1) {
			break
		}
		out.low = -n - 1
	}
	return out
}

// whole is a number that is written with digits alone.
func whole(v *wire.Value) (n int64, ok bool) {
	if v.Kind != wire.Number {
		return 0, false
	}
	n, err := strconv.ParseInt(string(v.Raw), 10, 64)
	return n, err == nil
}

// text is a value as JSON; of lists and objects the empty one.
func text(v *wire.Value) string {
	switch v.Kind {
	case wire.Array:
		return "[]"
	case wire.Object:
		return "{}"
	case wire.Null:
		return "null"
	}
	return string(v.Raw)
}

// lost says whether digits of a number are.
func lost(v *wire.Value, s decoder.Seen) decoder.Loss {
	if v.Kind != wire.Number || s.Kind != decoder.SeenInt && s.Kind != decoder.SeenFloat {
		return decoder.NoLoss
	}
	sent, err := strconv.ParseFloat(string(v.Raw), 64)
	got, other := strconv.ParseFloat(s.Text, 64)
	if err == nil && other == nil && sent != got && sent-got < 1 && got-sent < 1 {
		return decoder.LostDigits
	}
	return decoder.NoLoss
}

// sample is a value of a kind.
func sample(k wire.Kind) string {
	return map[wire.Kind]string{wire.Null: `null`, wire.Bool: `true`, wire.Number: `1`, wire.String: `"text"`, wire.Array: `[]`, wire.Object: `{}`}[k]
}

// wrong is the error for a value of another kind.
func (s *survey) wrong(at *spot) func(wire.Kind) *decoder.Error {
	return func(k wire.Kind) *decoder.Error {
		if r := s.with(&change{at: at, text: sample(k)}); r.ok && r.out.Err != nil {
			e := *r.out.Err
			e.Reason = decoder.ReasonKind
			return &e
		}
		return nil
	}
}

// accepts makes a node for a list or an object take the kinds of value that the code takes too.
func (s *survey) accepts(n *decoder.Node, at *spot, path string, want wire.Kind) {
	takes := func(k wire.Kind) bool {
		r := s.with(&change{at: at, text: sample(k)})
		return !r.ok || r.out.Err == nil
	}
	texts, scalars := takes(wire.String), takes(wire.Number) || takes(wire.Bool)
	if texts || scalars {
		n.Second = s.leaf(at, path, nil)
		n.Scalars = scalars && want == wire.Object
	}
}

package jackson

import (
	"fmt"
	"maps"
	"slices"
	"strings"

	"vetta/internal/decoder"
	"vetta/internal/model"
	"vetta/internal/wire"
)

// Objects of a class with @JsonIdentityInfo have an id, and where one is expected its id may stand in its place: that of
// an object that was read, or will be (BeanDeserializerBase.deserializeFromObjectId, measured with 2.14). A document is
// read with the objects in the places of their ids.

// identity is how the objects of a class are told apart.
type identity struct {
	m       *model.Model
	key     string        // of the member that holds the id
	id      *decoder.Node // what reads it
	scope   string        // ids of one scope are told apart
	own     bool          // the key is none of the class's own members
	creator bool          // the id is taken by what makes the instance
	maker   string        // the generator, as messages name it
}

// identified is how the objects of a class are told apart, nil where they have no ids; why says what is not followed.
func (c *compiler) identified(t *model.Type) (id *identity, why string) {
	a := classMark(t, "JsonIdentityInfo")
	if a == nil {
		return nil, ""
	}
	scope := model.SimpleName(strings.TrimSuffix(a.Text("scope", ""), ".class"))
	if m := related(t.Model, scope); m != nil {
		scope = className(m)
	} else if scope == "" {
		scope = "java.lang.Object"
	}
	id = &identity{m: t.Model, key: a.Text("property", "@id"), maker: model.SimpleName(a.Text("generator", ""))}
	switch id.maker {
	case "None":
		return nil, ""
	case "PropertyGenerator":
		id.maker = "com.fasterxml.jackson.databind.deser.impl.PropertyBasedObjectIdGenerator"
	case "IntSequenceGenerator", "UUIDGenerator", "StringIdGenerator":
		id.own = true
		name := map[string]string{"IntSequenceGenerator": "Integer", "UUIDGenerator": "UUID", "StringIdGenerator": "String"}[id.maker]
		id.id = c.value(&model.Type{Kind: model.Named, Name: name, Pos: t.Pos}, format{})
		id.maker = "com.fasterxml.jackson.annotation.ObjectIdGenerators$" + id.maker
	default:
		return nil, "the ids of " + t.Model.Name + " are made by a generator of its own"
	}
	if a.Text("resolver", "") != "" {
		return nil, "a resolver of its own finds the objects of " + t.Model.Name + " by their ids"
	}
	if t.Model.Abstract || t.Model.Kind == model.Interface {
		return nil, "@JsonIdentityInfo of a class that others stand for is not followed: " + t.Model.Name
	}
	id.scope = id.maker + " of " + scope
	return id, ""
}

// identify notes that the node of a class reads objects with ids, or an id in the place of one.
func (c *compiler) identify(n *decoder.Node, id *identity) (why string) {
	for at := range membersOf(n.Inner, 0) {
		if at.Name == id.key && !id.own {
			id.id, id.creator = at.Inner, c.taken[at]
		}
	}
	if id.id == nil {
		return "the id " + id.key + " of " + id.m.Name + " is not read"
	}
	others := n.Second
	n.Scalars = true
	n.Second = &decoder.Node{Op: decoder.OpLeaf, MindsText: true, Refers: true, Read: func(v *wire.Value) decoder.Verdict {
		switch {
		case isID(v):
			return decoder.Verdict{Seen: decoder.Seen{Kind: decoder.SeenUnknown}}
		case others != nil && others.Read != nil:
			return others.Read(v)
		}
		return decoder.Verdict{Err: n.WrongValue(v)}
	}}
	if c.identities == nil {
		c.identities = map[*decoder.Node]*identity{}
	}
	c.identities[n] = id
	return ""
}

// isID says whether a value may be the id of an object.
func isID(v *wire.Value) bool {
	return v.Kind == wire.String || v.Kind == wire.Number && !strings.ContainsAny(string(v.Raw), ".eE")
}

// membersOf are the nodes that read the members of an object.
func membersOf(n *decoder.Node, deep int) map[*decoder.Node]bool {
	found := map[*decoder.Node]bool{}
	var steps func(all []decoder.Step, deep int)
	var visit func(n *decoder.Node, deep int)
	visit = func(n *decoder.Node, deep int) {
		switch {
		case n == nil || deep > 4:
		case n.Op == decoder.OpAt:
			found[n] = true
		case n.Op == decoder.OpBuild:
			steps(n.Steps, deep+1)
		case n.Op == decoder.OpDo || n.Op == decoder.OpMade:
			visit(n.Inner, deep+1)
		}
	}
	steps = func(all []decoder.Step, deep int) {
		for _, s := range all {
			visit(s.Node, deep)
			steps(s.Then, deep)
			steps(s.Else, deep)
		}
	}
	visit(n, deep)
	return found
}

// stands lets a plan take documents with the objects in the places of their ids.
func (c *compiler) stands(p *decoder.Plan) {
	if len(c.identities) == 0 {
		return
	}
	identities, taken := maps.Clone(c.identities), maps.Clone(c.taken) // others are added when other types are planned
	root := p.Root
	p.Prepared = func(doc *wire.Value) (*wire.Value, *decoder.Error, *wire.Value, bool) {
		r := &standing{of: identities, taken: taken, known: map[string]*identified{}, members: map[*decoder.Node]map[string]*decoder.Node{}}
		meant := r.walk(root, doc, false)
		if r.err == nil {
			r.settle()
		}
		if r.err == nil && !r.lost && !bounded(meant) {
			r.lost = true
		}
		if r.err != nil && r.late { // thrown when all has been read, unless something else is before
			if _, _, known := (&decoder.Plan{Root: root}).Failing().Fails(meant); !known {
				return nil, nil, nil, false
			}
			if fails, _, _ := (&decoder.Plan{Root: root}).Failing().Fails(meant); fails {
				return meant, nil, nil, true
			}
		}
		return meant, r.err, r.at, !r.lost
	}
}

// identified is an object with an id.
type identified struct {
	v    *wire.Value
	m    *model.Model
	open bool // it is being read
}

// reference is an id in the place of an object that was not read yet.
type reference struct {
	key, id string
	in      *wire.Value // what takes its place
	at      *wire.Value
	of      *identity
}

// standing are the objects of a document by their ids.
type standing struct {
	of      map[*decoder.Node]*identity
	taken   map[*decoder.Node]bool
	known   map[string]*identified
	open    []reference
	members map[*decoder.Node]map[string]*decoder.Node
	err     *decoder.Error
	at      *wire.Value
	late    bool
	lost    bool // what it means is not followed
}

func (r *standing) fail(at *wire.Value, err *decoder.Error) *wire.Value {
	if r.err == nil {
		r.err, r.at = err, at
	}
	return at
}

// walk is a value as it is meant; creator says that what makes an instance takes it.
func (r *standing) walk(n *decoder.Node, v *wire.Value, creator bool) *wire.Value {
	if n == nil || r.err != nil || r.lost {
		return v
	}
	if id := r.of[n]; id != nil && v.Kind != wire.Object && isID(v) {
		return r.reference(id, v, creator)
	}
	switch {
	case n.Op == decoder.OpNil && v.Kind != wire.Null:
		return r.walk(n.Inner, v, creator)
	case n.Op == decoder.OpAt: // the name of a root
		if len(v.Members) == 1 && v.Members[0].Name == n.Name {
			return withMember(v, 0, r.walk(n.Inner, v.Members[0].Value, false))
		}
	case n.Op == decoder.OpList && v.Kind == wire.Array:
		for i, e := range v.Elems {
			if meant := r.walk(n.Inner, e, false); meant != v.Elems[i] {
				own := *v
				own.Elems = slices.Clone(v.Elems)
				own.Elems[i] = meant
				v = &own
			}
		}
	case n.Op == decoder.OpMap && v.Kind == wire.Object:
		for i := range v.Members {
			v = withMember(v, i, r.walk(n.Inner, v.Members[i].Value, false))
		}
	case n.Op == decoder.OpSubtype && v.Kind == wire.Object:
		label := ""
		for _, m := range v.Members {
			if m.Name == n.Name {
				label, _ = m.Value.Text()
			}
		}
		for _, b := range n.Branches {
			if b.Key == label {
				return r.walk(b.Node, v, creator)
			}
		}
	case n.Op == decoder.OpKeyed && v.Kind == wire.Object:
		return r.object(n, v)
	}
	return v
}

func withMember(v *wire.Value, i int, meant *wire.Value) *wire.Value {
	if v.Members[i].Value == meant {
		return v
	}
	own := *v
	own.Members = slices.Clone(v.Members)
	own.Members[i].Value = meant
	return &own
}

// object is an object with what its members stand for, known by its id from where that is read.
func (r *standing) object(n *decoder.Node, v *wire.Value) *wire.Value {
	by := r.members[n]
	if by == nil {
		by = map[string]*decoder.Node{}
		for at := range membersOf(n.Inner, 0) {
			for _, name := range append([]string{at.Name}, at.Others...) {
				by[name] = at
			}
		}
		r.members[n] = by
	}
	id, had := r.of[n], false
	var own []*identified
	before := len(r.open)
	out := v
	for i := range v.Members {
		name, member := v.Members[i].Name, v.Members[i].Value
		at := by[name]
		if id != nil && name == id.key {
			had = true
			if b := r.bind(id, member); b != nil {
				own = append(own, b)
			}
		}
		if at != nil {
			out = withMember(out, i, r.walk(at.Inner, member, r.taken[at]))
		}
	}
	if id == nil || r.err != nil || r.lost {
		return out
	}
	if id.creator && !had {
		err := fault("MismatchedInputException", decoder.ReasonMissing, "No Object Id found for an instance of `%s`, to assign to property '%s'", className(id.m), id.key)
		err.Key = id.key
		return r.fail(v, err)
	}
	for _, b := range own {
		b.v, b.open = out, false
		for _, ref := range r.open[before:] { // it holds itself
			if r.known[ref.key] == b {
				r.lost = true
			}
		}
	}
	return out
}

// bind notes an id of an object that is being read, nil where it has none.
func (r *standing) bind(id *identity, v *wire.Value) *identified {
	if v.Kind == wire.Null {
		return nil
	}
	key, text, class := r.key(id, v)
	if r.err != nil || r.lost {
		return nil
	}
	if r.known[key] != nil {
		had := fmt.Sprintf("Already had POJO for id (%s) [[ObjectId: key=%s, type=%s, scope=%s]]", class, text, id.maker, id.scope[strings.LastIndex(id.scope, " ")+1:])
		if id.creator {
			r.fail(v, fault("ValueInstantiationException", decoder.ReasonKey, "Cannot construct instance of `%s`, problem: %s", className(id.m), had))
			return nil
		}
		r.fail(v, fault("JsonMappingException", decoder.ReasonKey, "%s", had))
		return nil
	}
	b := &identified{m: id.m, open: true}
	r.known[key] = b
	return b
}

// key is an id as it is compared with others, its text, and its class, as messages name it.
func (r *standing) key(id *identity, v *wire.Value) (key, text, class string) {
	out := (&decoder.Plan{Root: id.id}).Decode(v)
	switch {
	case out.Err != nil:
		r.fail(v, out.Err)
	case out.Seen.Kind == decoder.SeenUnknown:
		r.lost = true
	}
	class = "java.lang.Integer"
	switch out.Seen.Kind {
	case decoder.SeenString:
		class = "java.lang.String"
	case decoder.SeenInt:
	default:
		class = "java.lang.Object"
	}
	text = out.Seen.Text
	return id.scope + "\x00" + class + "\x00" + text, text, class
}

// reference is the object that an id stands for.
func (r *standing) reference(id *identity, v *wire.Value, creator bool) *wire.Value {
	key, text, _ := r.key(id, v)
	if r.err != nil || r.lost {
		return v
	}
	if b := r.known[key]; b != nil {
		if b.open || b.m != id.m {
			r.lost = true
			return v
		}
		return b.v
	}
	if creator {
		return r.fail(v, fault("UnresolvedForwardReference", decoder.ReasonKey, "Could not resolve Object Id [%s] (for [simple type, class %s]).", text, className(id.m)))
	}
	in := &wire.Value{Kind: wire.Null, Raw: []byte("null"), Start: v.Start, End: v.End}
	r.open = append(r.open, reference{key, text, in, v, id})
	return in
}

// settle puts what was read later in the places of its ids.
func (r *standing) settle() {
	var first *reference
	for i := range r.open {
		ref := &r.open[i]
		b := r.known[ref.key]
		switch {
		case b == nil && first == nil:
			first = ref
		case b == nil:
		case b.v == nil || b.m != ref.of.m:
			r.lost = true
		default:
			*ref.in = *b.v
		}
	}
	if first != nil && !r.lost {
		r.late = true
		r.fail(first.at, fault("UnresolvedForwardReference", decoder.ReasonKey, "Unresolved forward references for: Object id [%s] (for `%s`).", first.id, className(first.of.m)))
	}
}

// mostStanding is how many values a document may have with the objects in the places of their ids.
const mostStanding = 100_000

// bounded says whether a document comes to an end: objects may stand in each other.
func bounded(v *wire.Value) bool {
	left := mostStanding
	var within func(v *wire.Value, deep int) bool
	within = func(v *wire.Value, deep int) bool {
		if left--; left < 0 || deep > 1000 {
			return false
		}
		for _, e := range v.Elems {
			if !within(e, deep+1) {
				return false
			}
		}
		for _, m := range v.Members {
			if !within(m.Value, deep+1) {
				return false
			}
		}
		return true
	}
	return within(v, 0)
}

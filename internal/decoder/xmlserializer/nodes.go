package xmlserializer

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"vetta/internal/decoder"
	"vetta/internal/decoder/clr"
	"vetta/internal/markup"
	"vetta/internal/model"
	"vetta/internal/wire"
)

// nodes is the plan by which counts of documents are judged: what depends on the values at one place alone. The JSON text
// of a document is what they go by, see markup.Document.JSON.
func (c *compiler) nodes(t *model.Type) *decoder.Node {
	c.findExtending()
	if c.met != nil && len(c.extending) > 0 { // which classes may come in the place of one hangs on the root
		c.asNodes = map[*class]*decoder.Node{}
	}
	name := c.top.name
	at := &decoder.Node{Op: decoder.OpAt, Name: markup.ElementKey(name), Inner: c.node(c.top), Type: t.Written()}
	at.MissingFrom = func(object *wire.Value) *decoder.Error { return wrongRoot(name, object) }
	at.Missing = wrongRoot(name, nil)
	return &decoder.Node{Op: decoder.OpKeyed, Type: t.Written(), Inner: at, Match: c.match(), Wrong: func(wire.Kind) *decoder.Error {
		return &decoder.Error{Kind: "InvalidOperationException", Reason: decoder.ReasonKind, Message: "InvalidOperationException: There is an error in XML document (1, 1). <- XmlException: Data at the root level is invalid. Line 1, position 1.", Advice: "the response is JSON: decode it by a library for that"}
	}}
}

// match is what a reader without namespaces makes of keys, nil for one that has them.
func (c *compiler) match() func(string) string {
	if !c.options.Strips {
		return nil
	}
	return func(key string) string {
		switch {
		case markup.IsAttr(key):
			return markup.AttrKey(nameIn("", markup.NameOf(key).Local))
		case markup.IsElement(key):
			return markup.ElementKey(nameIn("", markup.NameOf(key).Local))
		}
		return key
	}
}

// wrongRoot is the error for another root element than the one that is read.
func wrongRoot(top markup.Name, object *wire.Value) *decoder.Error {
	sent, advice := "…", `"…", Namespace = "…"`
	if object != nil && len(object.Members) > 0 {
		n := markup.NameOf(object.Members[0].Name)
		sent, advice = fmt.Sprintf("<%s xmlns='%s'>", n.Local, n.Space), strconv.Quote(n.Local)
		if n.Space != "" {
			advice += ", Namespace = " + strconv.Quote(n.Space)
		}
	}
	return &decoder.Error{Kind: "InvalidOperationException", Key: markup.ElementKey(top), Reason: decoder.ReasonMissing, Where: decoder.AtRoot,
		Advice:  "name the root that is sent: [XmlRoot(" + advice + ")] on the class, or an XmlRootAttribute where the serializer is made",
		Message: "InvalidOperationException: There is an error in XML document. <- InvalidOperationException: " + sent + " was not expected."}
}

func broken(reason decoder.Reason, inner string) *decoder.Error {
	return &decoder.Error{Kind: "InvalidOperationException", Reason: reason, Message: "InvalidOperationException: There is an error in XML document. <- " + inner}
}

// node is what is done with the values of an accessor: elements, as objects, or null for what says that it is nothing.
func (c *compiler) node(a *accessor) *decoder.Node {
	u := a.typ.Unwrapped()
	switch {
	case a.items != nil:
		return &decoder.Node{Op: decoder.OpNil, Type: a.typ.Written(), Inner: c.list(a.items)}
	case a.class != nil:
		n := c.object(a.class)
		return &decoder.Node{Op: decoder.OpNil, Type: a.typ.Written(), Inner: n}
	case u.Name == "KeyValuePair" && u.Model == nil:
		return unknown("what a pair holds, which has no setters, is not counted")
	case u.Name == "object" && u.Model == nil, isNode(u):
		return unknown("what it holds is XML as it stands")
	}
	return c.scalarNode(a)
}

// list is what is done with the element around a list: no text, no attributes of it are looked at.
func (c *compiler) list(it *items) *decoder.Node {
	items := &decoder.Node{Op: decoder.OpBuild, Anonymous: true}
	for _, one := range it.choose {
		if len(it.choose) > 1 {
			one.attribute = "XmlArrayItem"
		}
		items.Steps = append(items.Steps, decoder.Step{Property: -1, Node: &decoder.Node{Op: decoder.OpAt, Holder: true, Name: markup.ElementKey(one.name), Value: decoder.Seen{Kind: decoder.SeenList, Elems: []decoder.Seen{}}, Type: it.list.Written(),
			Inner: &decoder.Node{Op: decoder.OpList, Unique: it.list.Kind == model.Unique, Inner: c.node(one), Wrong: wrongly}}})
	}
	if len(items.Steps) == 1 {
		items = items.Steps[0].Node
	}
	return &decoder.Node{Op: decoder.OpKeyed, Inner: items, Match: c.match(), Wrong: wrongly, Type: it.list.Written()}
}

func wrongly(kind wire.Kind) *decoder.Error {
	return broken(decoder.ReasonKind, "InvalidOperationException: "+kind.String()+" was not expected.")
}

// scalarNode reads the text of an element.
func (c *compiler) scalarNode(a *accessor) *decoder.Node {
	u := a.typ.Unwrapped()
	leaf := c.leaf(a, u)
	empty := c.leafOf(a, "")
	// An element has no text in the JSON of its document only where others stand in it.
	at := &decoder.Node{Op: decoder.OpAt, Name: markup.TextKey, Inner: leaf, Type: a.typ.Written(),
		Missing: broken(decoder.ReasonKind, "XmlException: ReadElementContentAs() methods cannot be called on an element that has child elements.")}
	n := &decoder.Node{Op: decoder.OpKeyed, Inner: at, Match: c.match(), Wrong: wrongly, Type: a.typ.Written()}
	out := &decoder.Node{Op: decoder.OpNil, Inner: n, Type: a.typ.Written()}
	if !a.nullable {
		out.Value = empty.Seen
		if empty.Err != nil && !defaulted(a.typ) {
			out.NullError = empty.Err
		}
	}
	return out
}

// leafOf is what becomes of a text.
func (c *compiler) leafOf(a *accessor, text string) decoder.Verdict {
	s, wrong, known := c.value(a.typ, a.data, text)
	switch {
	case !known:
		return decoder.Verdict{Seen: decoder.Seen{Kind: decoder.SeenUnknown}}
	case wrong != nil && text == "" && defaulted(a.typ): // written as one tag it is what it was
		return decoder.Verdict{Seen: decoder.Seen{Kind: decoder.SeenUnknown}}
	case wrong != nil:
		err := broken(wrong.Reason, wrong.Message)
		if a.attribute != "" {
			err.Advice = fmt.Sprintf("[%s(%q, typeof(string))], and convert it where it is used", a.attribute, a.name.Local)
		}
		return decoder.Verdict{Err: err}
	}
	return decoder.Verdict{Seen: s}
}

func (c *compiler) leaf(a *accessor, u *model.Type) *decoder.Node {
	n := &decoder.Node{Op: decoder.OpLeaf, Type: a.typ.Written(), MindsText: u.Name != "string", ByFacts: clr.IsNumber(u), ByDate: u.Model == nil}
	if u.Model != nil && u.Model.Kind == model.Enum {
		n.Model = u.Model
	}
	n.Read = reads(func(text string) decoder.Verdict {
		if strings.Trim(text, " \t\r\n") == "" { // which the reader passes over
			text = ""
		}
		return c.leafOf(a, text)
	})
	return n
}

// reads is what is done with a text; nothing else stands where one does.
func reads(read func(text string) decoder.Verdict) func(*wire.Value) decoder.Verdict {
	return func(v *wire.Value) decoder.Verdict {
		if v.Kind != wire.String {
			return decoder.Verdict{Err: wrongly(v.Kind)}
		}
		text, _ := v.Text()
		return read(text)
	}
}

// object is what is done with the elements of a class.
func (c *compiler) object(k *class) *decoder.Node {
	if n := c.asNodes[k]; n != nil {
		return n
	}
	n := &decoder.Node{}
	c.asNodes[k] = n
	m := k.t.Model
	switch {
	case k.raw:
		*n = *unknown(m.Name + " reads itself, by ReadXml")
		return n
	case m == nil:
		*n = *unknown("a tuple")
		return n
	case k.abstract || len(c.extending[k.t.Model]) > 0:
		c.polymorphic(k, n)
		return n
	}
	*n = *c.own(k)
	return n
}

// findExtending finds the classes that may come in the place of each, in the order of their names.
func (c *compiler) findExtending() {
	c.extending = map[*model.Model][]*class{}
	for o := range c.seen {
		if o.t.Model == nil || o.name.Local == "" {
			continue
		}
		for _, s := range clr.Chain(o.t) {
			if s.Model != o.t.Model {
				c.extending[s.Model] = append(c.extending[s.Model], o)
			}
		}
	}
	for _, all := range c.extending {
		slices.SortFunc(all, func(a, b *class) int {
			return strings.Compare(markup.TypeText(a.name), markup.TypeText(b.name))
		})
	}
}

// polymorphic fills in the node for a class in whose place others may come, as xsi:type says.
func (c *compiler) polymorphic(k *class, n *decoder.Node) {
	*n = decoder.Node{Op: decoder.OpSubtype, Name: markup.TypeKey, Model: k.t.Model, Wrong: wrongly, Match: c.match(), Type: k.t.Written()}
	if k.abstract {
		n.Missing = broken(decoder.ReasonMissing, fmt.Sprintf("InvalidOperationException: The specified type is abstract: name='%s', namespace='%s'.", k.name.Local, k.name.Space))
		n.Missing.Key, n.Missing.Advice = markup.TypeKey, "send xsi:type, or let the class not be abstract"
	} else {
		n.Second = c.own(k)
		n.Branches = append(n.Branches, decoder.Branch{Key: markup.TypeText(k.name), Node: n.Second})
	}
	for _, d := range c.extending[k.t.Model] {
		if d.abstract {
			continue
		}
		of := c.object(d)
		if of.Op == decoder.OpSubtype {
			of = of.Second
		}
		n.Branches = append(n.Branches, decoder.Branch{Key: markup.TypeText(d.name), Node: of})
	}
	if c.options.Strips { // the prefix of the name is read without what it stands for
		n.Third = unknown("xsi:type tells its class")
	}
	n.Key = func(id string) (decoder.Seen, *decoder.Error) {
		name := markup.NameOf(id)
		err := broken(decoder.ReasonClass, fmt.Sprintf("InvalidOperationException: The specified type was not recognized: name='%s', namespace='%s'.", name.Local, name.Space))
		err.Advice = "write the class, and put [XmlInclude(typeof(…))] for it on " + k.t.Model.Name
		return decoder.Seen{}, err
	}
}

// own is what is done with the elements that are of a class itself.
func (c *compiler) own(k *class) *decoder.Node {
	m := k.t.Model
	build := &decoder.Node{Op: decoder.OpBuild, Model: m}
	index := map[string]int{}
	for _, s := range clr.Chain(k.t) {
		for _, f := range s.Model.Fields {
			if _, known := index[f.Name]; known || !clr.Stored(f) {
				continue
			}
			index[f.Name] = len(build.Props)
			build.Props = append(build.Props, f)
		}
	}
	blank := c.blankOf(k)
	taken := map[int]bool{}
	for _, m := range k.members {
		at := -1
		if i, ok := index[clr.Backing(k.t, m.field.Name)]; ok {
			at, taken[i] = i, true
		}
		if len(m.choose) > 1 && !m.text {
			for _, n := range c.alternatives(m) {
				build.Steps = append(build.Steps, decoder.Step{Property: at, Node: n})
			}
		} else if n := c.memberNode(k, m, blank); n != nil {
			build.Steps = append(build.Steps, decoder.Step{Property: at, Node: n})
		}
	}
	if k.ordered {
		build.Steps = append(build.Steps, c.orderSteps(k, blank)...)
	}
	for i, f := range build.Props {
		if taken[i] {
			continue
		}
		v, ok := blank.Get(f.Name)
		if !ok {
			v = decoder.Seen{Kind: decoder.SeenUnknown}
		}
		build.Steps = append(build.Steps, decoder.Step{Property: i, Node: &decoder.Node{Op: decoder.OpConst, Field: f, Value: v, Why: c.passed(k, f), Meant: true}})
	}
	return &decoder.Node{Op: decoder.OpKeyed, Model: m, Wrong: wrongly, Inner: build, Match: c.match(), Type: k.t.Written()}
}

// passed is why no element or attribute is read for a member.
func (c *compiler) passed(k *class, f *model.Field) string {
	for _, m := range k.members {
		if m.spec != nil && m.spec.field == f {
			return "it says whether " + m.field.Name + " was sent"
		}
	}
	if find(c.marksOf(k.t.Model, f), "XmlIgnore") != nil {
		return "it is marked [XmlIgnore]"
	}
	return "XmlSerializer sets public members alone"
}

// memberNode reads one member.
func (c *compiler) memberNode(k *class, m *member, blank decoder.Seen) *decoder.Node {
	initial := get(blank, k, m.field.Name)
	if !has(blank, clr.Backing(k.t, m.field.Name)) {
		initial = decoder.Seen{Kind: decoder.SeenUnknown}
	}
	n := &decoder.Node{Op: decoder.OpAt, Field: m.field, Type: m.field.Declared, Value: initial}
	switch m.kind {
	case inAnyElement, inAnyAttribute, inDeclarations:
		return &decoder.Node{Op: decoder.OpConst, Field: m.field, Value: decoder.Seen{Kind: decoder.SeenUnknown}, Meant: true}
	case inText:
		n.Name, n.Inner = markup.TextKey, c.textNode(m, initial)
		return n
	}
	if m.text || len(m.choose) == 0 {
		out := unknown("text and elements stand in it")
		out.Field = m.field
		for _, a := range m.choose {
			out.Others = append(out.Others, markup.ElementKey(a.name))
		}
		return out
	}
	a := m.choose[0]
	switch {
	case m.kind == inAttribute:
		n.Name = markup.AttrKey(a.name)
		if m.flat {
			n.Inner = unknown("a list in an attribute")
			return n
		}
		leaf := c.leaf(a, a.typ.Unwrapped())
		leaf.Read = reads(func(text string) decoder.Verdict { return c.leafOf(a, text) })
		n.Inner = leaf
	case m.flat:
		n.Name = markup.ElementKey(a.name)
		list := m.typ.Unwrapped()
		n.Inner = &decoder.Node{Op: decoder.OpList, Unique: list.Kind == model.Unique, Inner: c.node(a), Wrong: wrongly, Type: m.field.Declared}
		if m.array {
			n.Value = decoder.Seen{}
		}
		c.keeps(m, n, initial)
	default:
		n.Name = markup.ElementKey(a.name)
		n.Inner = &decoder.Node{Op: decoder.OpList, First: true, Inner: c.node(a), Wrong: wrongly, Type: m.field.Declared}
		if a.items != nil {
			c.keeps(m, n, initial)
		}
	}
	if (m.list || m.array && !m.flat) && n.Value.Kind == decoder.SeenNull && m.list {
		n.Value = decoder.Seen{Kind: decoder.SeenList, Elems: []decoder.Seen{}}
	}
	c.absent(m, n)
	return n
}

// alternatives read a member of which several elements tell the class, each by its own: none of them is missed.
func (c *compiler) alternatives(m *member) (all []*decoder.Node) {
	for _, a := range m.choose {
		a.attribute = "XmlElement"
		list := &decoder.Node{Op: decoder.OpList, First: !m.flat, Inner: c.node(a), Wrong: wrongly, Type: m.field.Declared}
		all = append(all, &decoder.Node{Op: decoder.OpAt, Name: markup.ElementKey(a.name), Field: m.field, Type: m.field.Declared, Value: decoder.Seen{Kind: decoder.SeenUnknown}, Inner: list})
	}
	return all
}

func has(s decoder.Seen, name string) bool {
	_, ok := s.Get(name)
	return ok
}

// keeps says that what a list held before stays in it.
func (c *compiler) keeps(m *member, n *decoder.Node, initial decoder.Seen) {
	if !m.list || len(initial.Elems) == 0 {
		return
	}
	n.Inner = decoder.Made(n.Inner, func(s decoder.Seen) (decoder.Seen, *decoder.Error) {
		out := initial
		out.Elems = append(append([]decoder.Seen{}, initial.Elems...), s.Elems...)
		return out, nil
	})
}

// absent says what is lost where an element or attribute is not there.
func (c *compiler) absent(m *member, n *decoder.Node) {
	if m.spec != nil || m.list || m.array || n.Value.Kind == decoder.SeenUnknown || m.field.Default != nil && m.field.Default.Kind != model.NullLiteral || m.typ.Kind == model.Optional {
		return
	}
	switch u := m.typ.Unwrapped(); {
	case clr.IsValue(u):
		n.AbsentLoss = decoder.Zeroed
	case n.Value.Kind == decoder.SeenNull && !m.field.Oblivious && m.field.Type.Kind != model.Param:
		n.AbsentLoss = decoder.HiddenNull
	}
}

// textNode reads the text of a class's own element: blank it leaves what is there.
func (c *compiler) textNode(m *member, initial decoder.Seen) *decoder.Node {
	a := m.choose[0]
	leaf := c.leaf(a, a.typ.Unwrapped())
	leaf.MindsText = true
	leaf.Read = reads(func(text string) decoder.Verdict {
		if strings.Trim(text, " \t\r\n") == "" {
			return decoder.Verdict{Seen: initial}
		}
		return c.leafOf(a, text)
	})
	return leaf
}

// orderSteps say of each member that is read in an order whether its elements are lost by the order in which they stand,
// which is a text of its own in the JSON of a document.
func (c *compiler) orderSteps(k *class, blank decoder.Seen) (steps []decoder.Step) {
	var particles []*member
	for _, m := range k.members {
		if m.kind == inElement || m.kind == inAnyElement {
			particles = append(particles, m)
		}
	}
	for _, m := range particles {
		if m.kind != inElement {
			continue
		}
		lost := decoder.Verdict{Seen: get(blank, k, m.field.Name), Loss: decoder.Misplaced}
		steps = append(steps, decoder.Step{Property: -1, Node: &decoder.Node{Op: decoder.OpAt, Name: markup.OrderKey, Field: m.field, Type: m.field.Declared, Value: blank,
			Inner: &decoder.Node{Op: decoder.OpLeaf, MindsText: true, Type: m.field.Declared, Read: reads(func(text string) decoder.Verdict {
				if isLost(particles, m, strings.Fields(text)) {
					return lost
				}
				return decoder.Verdict{}
			})}}})
	}
	return steps
}

// isLost says whether elements of a member stand in a document, and none of them where the reader takes them.
func isLost(particles []*member, m *member, order []string) bool {
	state, there := 0, false
	for _, name := range order {
		own := takes(m, name)
		there = there || own
		for state < len(particles) {
			at := particles[state]
			if !takes(at, name) {
				state++
				continue
			}
			if at == m {
				return false
			}
			if !at.flat {
				state++
			}
			break
		}
	}
	return there
}

func takes(m *member, name string) bool {
	for _, a := range m.choose {
		if a.name.Show() == name {
			return true
		}
	}
	return m.kind == inAnyElement && len(m.choose) == 0
}

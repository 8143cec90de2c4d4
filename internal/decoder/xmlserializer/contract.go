package xmlserializer

import (
	"slices"
	"strconv"
	"strings"

	"vetta/internal/decoder"
	"vetta/internal/decoder/clr"
	"vetta/internal/decoder/sharp"
	"vetta/internal/markup"
	"vetta/internal/model"
)

// accessor is an element, or an attribute, by which a value of a type is read.
type accessor struct {
	name     markup.Name
	typ      *model.Type
	nullable bool // xsi:nil is nothing
	data     string
	class    *class // of a class of the source
	items    *items // of a list that stands inside an element of its own
	def      bool   // an empty element leaves what is there: [DefaultValue]
	// attribute is what an element is named by that is one of several of its member, "" where it is alone.
	attribute string
}

// items are the elements that a wrapped list is read from.
type items struct {
	list   *model.Type
	choose []*accessor
}

// place is where a member is read from.
type placeKind uint8

const (
	inElement placeKind = iota
	inAttribute
	inText
	inAnyElement
	inAnyAttribute
	inDeclarations
)

// member is a property or field of a class.
type member struct {
	field  *model.Field
	owner  *model.Type
	typ    *model.Type
	kind   placeKind
	choose []*accessor // the elements, or the one attribute
	text   bool        // of a list that takes text beside elements
	flat   bool        // it is a list of elements that stand in the class's own
	array  bool        // it is an array, which is made anew
	list   bool        // it is a list that items are added to
	order  int
	spec   *member // the bool that says that it was there
	choice *member // what is told which of several elements it was
	of     *model.Model
	at     int
}

type classKey struct {
	t     string
	space string
}

// class is what the library makes of a class or struct.
type class struct {
	t        *model.Type
	space    string // of its members
	members  []*member
	ordered  bool
	elements bool // some member is read from elements
	abstract bool
	collect  bool
	blank    decoder.Seen // an instance of which nothing was read
	made     bool         // blank is known
	code     bool         // a setter does more than set
	raw      bool         // it reads itself: IXmlSerializable
	name     markup.Name  // its XML type name
	holds    []*class     // what it leads to
}

// root compiles what stands at the root of a document.
func (c *compiler) root(t *model.Type) {
	u := t.Unwrapped()
	ns := c.options.Space
	top := &accessor{typ: t, nullable: !clr.IsValue(u) || t.Kind == model.Optional}
	name := ""
	if u.Model != nil {
		if mark := c.onType(u.Model, "XmlRoot"); mark != nil {
			name = encoded(mark.Text("value", mark.Text("ElementName", "")))
			if space, ok := given(mark, "Namespace"); ok {
				ns = space
			}
			if text, ok := given(mark, "IsNullable"); ok {
				top.nullable = text == "true"
			}
		}
	}
	if c.options.Root != "" {
		name = encoded(c.options.Root)
		ns = c.options.Space
	}
	if c.options.RootSpace != nil {
		ns = *c.options.RootSpace
	}
	c.byName = map[markup.Name]*model.Type{}
	c.compile(top, u, ns)
	if name == "" {
		name = c.typeName(u)
	}
	top.name = nameIn(ns, name)
	c.top = top
	for _, extra := range c.options.Extra {
		c.compile(&accessor{typ: extra}, extra.Unwrapped(), c.options.Space)
	}
}

// compile fills in how a value of a type is read; ns is the namespace that it stands in.
func (c *compiler) compile(a *accessor, t *model.Type, ns string) {
	if c.growth.Endless(t) {
		c.lose(t.Name + " grows without end")
		return
	}
	switch {
	case isList(t):
		c.usable(t)
		a.items = c.itemsOf(t, nil, ns, 0)
	case t.Model != nil && t.Model.Kind != model.Enum && t.Model.Collection != nil:
		c.checkClass(t)
		list := t.Model.Collection.Bind(t.Env())
		if list.Kind == model.Map {
			c.refuse(t.Model, dictionaryAdvice, "The type %s is not supported because it implements IDictionary.", shownName(t))
			return
		}
		a.items = c.itemsOf(list, nil, ns, 0)
	case t.Model != nil && t.Model.Kind == model.Enum:
		if !sharp.IsPublic(t.Model) {
			c.refuseBare(t.Model, "make it public", "%s is inaccessible due to its protection level. Only public types can be processed.", shownName(t))
		}
	case t.Model != nil:
		a.class = c.class(t, ns)
	case t.Kind == model.Tuple:
		a.class = c.tuple(t, ns)
	case t.Kind == model.Param:
		c.lose("what " + t.Name + " stands for is not told")
	case t.Kind == model.Map:
		c.refuse(c.within(), dictionaryAdvice, "The type %s is not supported because it implements IDictionary.", shownName(t))
	default:
		c.platform(t)
	}
}

const dictionaryAdvice = "declare a list of a class with a key and a value: XmlSerializer takes no dictionary"

// within is the class that is being looked at.
func (c *compiler) within() *model.Model { return c.breaks }

// platform looks at a type of the platform.
func (c *compiler) platform(t *model.Type) {
	switch {
	case primitives[t.Name] != "", isNode(t), clr.IsBytes(t), t.Name == "KeyValuePair", t.Name == "XmlSerializerNamespaces":
	case t.Name == "Uri":
		c.refuse(nil, "declare string, and make the Uri where it is used", "System.Uri cannot be serialized because it does not have a parameterless constructor.")
	default:
		c.lose("how XmlSerializer reads " + t.Written() + " is not known")
	}
}

// isNode says whether a type holds XML as it stands.
func isNode(t *model.Type) bool {
	switch t.Name {
	case "XmlElement", "XmlNode", "XmlAttribute", "XmlDocument":
		return t.Model == nil
	}
	return false
}

// listInterfaces are types of lists that are none of classes.
func isInterface(t *model.Type) bool {
	return t.Model != nil && t.Model.Kind == model.Interface || isList(t) && len(t.Class) > 1 && t.Class[0] == 'I' && t.Class[1] >= 'A' && t.Class[1] <= 'Z' && t.Class != "ImmutableArray" && !strings.HasPrefix(t.Class, "Immutable")
}

// usable refuses, or gives up on, lists that are made in ways of their own.
func (c *compiler) usable(t *model.Type) {
	switch t.Class {
	case "", "List", "Collection", "ObservableCollection", "HashSet", "SortedSet", "BindingList", "LinkedList":
		if strings.HasPrefix(t.Name, "[,") {
			c.lose("arrays of several dimensions are not followed")
		}
	default:
		if !strings.HasPrefix(t.Name, "[") && !isInterface(t) {
			c.lose("how XmlSerializer reads " + t.Written() + " is not known")
		}
	}
}

// itemsOf are the items of a list inside an element of its own; marks are those of the member that say how they are named.
func (c *compiler) itemsOf(list *model.Type, marks []*model.Annotation, ns string, level int) *items {
	out := &items{list: list}
	elem := list.Args[0]
	for _, mark := range marks {
		n, _ := strconv.Atoi(mark.Text("NestingLevel", "0"))
		if n != level {
			continue
		}
		t := elementType(mark)
		if t == nil {
			t = elem
		}
		a := c.item(t, mark, marks, ns, level)
		if name := elementName(mark, "ElementName"); name != "" {
			a.name.Local = encoded(name)
		}
		out.choose = append(out.choose, a)
	}
	if len(out.choose) == 0 {
		out.choose = append(out.choose, c.item(elem, nil, marks, ns, level))
	}
	return out
}

func (c *compiler) item(t *model.Type, mark *model.Annotation, marks []*model.Annotation, ns string, level int) *accessor {
	u := t.Unwrapped()
	a := &accessor{typ: t, nullable: !clr.IsValue(u) || t.Kind == model.Optional, data: mark.Text("DataType", "")}
	own := ns
	if space, ok := given(mark, "Namespace"); ok {
		own = space
	}
	if text, ok := given(mark, "IsNullable"); ok {
		a.nullable = text == "true"
	}
	if isList(u) {
		c.usable(u)
		a.items = c.itemsOf(u, marks, own, level+1)
	} else {
		c.compile(a, u, own)
	}
	a.name = nameIn(own, c.typeName(u))
	if mark.Text("Form", "") == "Unqualified" {
		a.name.Space = ""
	}
	return a
}

// checkClass refuses a class that the library cannot make.
func (c *compiler) checkClass(t *model.Type) bool {
	m := t.Model
	if !sharp.IsPublic(m) {
		c.refuseBare(m, "make it public, and the classes that it stands in: XmlSerializer reads no others", "%s is inaccessible due to its protection level. Only public types can be processed.", shownName(t))
		return false
	}
	if m.Kind == model.Struct || m.Abstract {
		return true
	}
	if len(m.Ctors) > 0 && !slices.ContainsFunc(m.Ctors, func(k *model.Method) bool { return len(k.Params) == 0 }) {
		c.refuseBare(m, "give it a constructor without parameters, a private one will do", "%s cannot be serialized because it does not have a parameterless constructor.", shownName(t))
		return false
	}
	return true
}

// class is what is made of a class of the source that stands in a namespace.
func (c *compiler) class(t *model.Type, ns string) *class {
	m := t.Model
	typeMark := c.onType(m, "XmlType")
	if space, ok := given(typeMark, "Namespace"); ok {
		ns = space
	}
	key := classKey{t.Key(), ns}
	if known := c.known(key); known != nil {
		return known
	}
	k := &class{t: t, space: ns, abstract: m.Abstract}
	defer c.enter(key, k)()
	if m.Kind == model.Interface {
		c.refuse(m, "declare a class: XmlSerializer makes no instances of interfaces", "Cannot serialize member of type %s because it is an interface.", shownName(t))
		return k
	}
	if m.Reading == model.Unfollowed && m.Why != "" && !strings.HasPrefix(m.Why, "code of the app") {
		c.lose(m.Name + ": " + m.Why)
	}
	if sharp.Conforms(t, "IXmlSerializable") {
		k.raw = true
		return k
	}
	c.checkClass(t) // what it would read is told all the same
	if typeMark.Text("AnonymousType", "") != "true" {
		k.name = nameIn(ns, c.typeName(t))
		if other := c.byName[k.name]; other != nil && other.Key() != t.Key() {
			c.refuse(m, "give one of them another name by [XmlType]", "Types '%s' and '%s' both use the XML type name, '%s', from namespace '%s'. Use XML attributes to specify a unique XML name and/or namespace for the type.",
				strings.ReplaceAll(shownName(t), "+", "."), strings.ReplaceAll(shownName(other), "+", "."), k.name.Local, k.name.Space)
		} else {
			c.byName[k.name] = t
		}
	}
	path := c.path
	c.path = append(slices.Clip(path), "There was an error reflecting type '"+strings.ReplaceAll(shownName(t), "+", ".")+"'.")
	c.fill(k)
	for _, s := range clr.Chain(t) { // the classes that may come in its place
		for _, mark := range c.includes(s.Model) {
			if of := elementType(mark); of != nil && of.Model != nil {
				c.class(of, c.options.Space)
			}
		}
	}
	c.path = path
	return k
}

func (c *compiler) includes(m *model.Model) []*model.Annotation {
	if marks, told := c.options.Overrides[Overridden{Class: m}]; told {
		return all(marks, "XmlInclude")
	}
	return all(m.Marks, "XmlInclude")
}

// blankOf is an instance of which nothing was read.
func (c *compiler) blankOf(k *class) decoder.Seen {
	if !k.made {
		k.made = true
		if k.t.Kind == model.Tuple {
			k.blank = clr.Zero(k.t)
		} else if k.t.Model.Kind == model.Struct && !slices.ContainsFunc(k.t.Model.Ctors, func(m *model.Method) bool { return len(m.Params) == 0 }) {
			k.blank = clr.Zero(k.t)
		} else if k.blank = clr.Instance(k.t, 0); sharp.NeedsCode(k.t, clr.Parameterless(k.t)) || clr.HoldsUnknown(k.blank) {
			if made, err := c.code.Filled(k.t, clr.Parameterless(k.t), nil, nil, nil); err == nil && made.Kind == decoder.SeenObject {
				k.blank = made
			}
		}
	}
	return k.blank
}

// tuple is what is made of a tuple: its members are fields, Item1, Item2.
func (c *compiler) tuple(t *model.Type, ns string) *class {
	key := classKey{t.Key(), ns}
	if known := c.known(key); known != nil {
		return known
	}
	k := &class{t: t, space: ns, elements: true}
	defer c.enter(key, k)()
	for i, a := range t.Args {
		name := "Item" + strconv.Itoa(i+1)
		m := &member{field: &model.Field{Name: name, Type: a, Declared: a.Written(), Access: model.Public}, owner: t, typ: a, at: i}
		at := &accessor{name: nameIn(ns, name), typ: a}
		c.compile(at, a.Unwrapped(), ns)
		m.choose = []*accessor{at}
		k.members = append(k.members, m)
	}
	return k
}

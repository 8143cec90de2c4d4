package xmlserializer

import (
	"slices"
	"sort"
	"strconv"
	"strings"

	"vetta/internal/decoder/clr"
	"vetta/internal/markup"
	"vetta/internal/model"
)

// fill finds the members of a class, those of its base classes first.
func (c *compiler) fill(k *class) {
	chain := clr.Chain(k.t)
	slices.Reverse(chain)
	var properties []*member // with those that are not read, which may say that others were there
	for _, s := range chain {
		for _, f := range s.Model.Fields {
			if f.Static || f.Access != model.Public && (f.Property == nil || f.Property.Get != model.Public) {
				continue
			}
			m := &member{field: f, owner: s, typ: f.Type.Bind(s.Env()), of: k.t.Model}
			if at := slices.IndexFunc(properties, func(o *member) bool { return o.field.Name == f.Name }); at >= 0 {
				properties[at] = m // hidden or overridden
			} else {
				properties = append(properties, m)
			}
		}
	}
	for _, m := range properties {
		path := c.path
		c.path = append(slices.Clip(path), "There was an error reflecting "+kindOfMember(m.field)+" '"+m.field.Name+"'.")
		if c.member(k, m) {
			m.at = len(k.members)
			k.members = append(k.members, m)
		}
		c.path = path
	}
	for _, m := range k.members {
		for _, o := range properties {
			if o.field.Name == m.field.Name+"Specified" && o.typ.Name == "bool" && m.kind != inText {
				m.spec = o
			}
		}
	}
	c.checkMembers(k, properties)
	c.prepare(k)
}

func kindOfMember(f *model.Field) string {
	if f.Property == nil {
		return "field"
	}
	return "property"
}

// member fills in how a member is read; false where it is none.
func (c *compiler) member(k *class, m *member) bool {
	marks := c.marksOf(m.owner.Model, m.field)
	if find(marks, "XmlIgnore") != nil {
		return false
	}
	u := m.typ.Unwrapped()
	list := isList(u) || u.Model != nil && u.Model.Kind != model.Enum && u.Model.Collection != nil
	if p := m.field.Property; p != nil {
		if p.Get == 0 || p.Set == 0 && (!list || strings.HasPrefix(u.Name, "[") || isInterface(u)) {
			return false
		}
		if p.Set != 0 && p.Set != model.Public && !list {
			c.refuseBare(k.t.Model, "give "+m.field.Name+" a public setter: init will do", "Cannot deserialize type '%s' because it contains property '%s' which has no public setter.", shownName(k.t), m.field.Name)
			return false
		}
	} else if m.field.Final && (!list || strings.HasPrefix(u.Name, "[")) {
		return false
	}
	text, attribute, elements := find(marks, "XmlText"), find(marks, "XmlAttribute"), all(marks, "XmlElement")
	switch {
	case find(marks, "XmlNamespaceDeclarations") != nil:
		m.kind = inDeclarations
		return true
	case find(marks, "XmlAnyAttribute") != nil:
		m.kind, m.array = inAnyAttribute, true
		return true
	case find(marks, "XmlAnyElement") != nil && len(elements) == 0:
		m.kind = inAnyElement
		for _, mark := range all(marks, "XmlAnyElement") {
			if name := mark.Text("value", mark.Text("Name", "")); name != "" {
				space, ok := given(mark, "Namespace")
				if !ok {
					space = k.space
				}
				m.choose = append(m.choose, &accessor{name: nameIn(space, encoded(name))})
			}
		}
		m.list, m.array = isList(u), strings.HasPrefix(u.Name, "[")
		return true
	case isInterface(u):
		c.refuseMember(k, m, "because it is an interface", "declare a class, or List<…> for a list")
		return false
	case u.Kind == model.Map, u.Model != nil && u.Model.Collection != nil && u.Model.Collection.Kind == model.Map:
		c.refuseMember(k, m, "because it implements IDictionary", dictionaryAdvice)
		return false
	case attribute != nil:
		return c.attribute(k, m, attribute)
	case text != nil && len(elements) == 0 && !isList(u):
		m.kind = inText
		m.choose = []*accessor{{typ: m.typ, data: text.Text("DataType", "")}}
		if c.complex(m.typ) {
			c.refuse(k.t.Model, "declare a string, and make the value of it", "Cannot serialize member '%s' of type %s. XmlAttribute/XmlText cannot be used to encode complex types.", m.field.Name, shownName(m.typ))
		}
		return true
	}
	m.text = text != nil
	c.element(k, m, marks, elements)
	return true
}

func (c *compiler) refuseMember(k *class, m *member, why, advice string) {
	owner := strings.ReplaceAll(shownName(k.t), "+", ".")
	c.refuse(k.t.Model, advice, "Cannot serialize member '%s.%s' of type '%s', see inner exception for more details. <- NotSupportedException: Cannot serialize member %s.%s of type %s %s.", owner, m.field.Name, shownName(m.typ), owner, m.field.Name, shownName(m.typ), why)
}

// complex says whether a value of a type is no text: a class, or a value that may be nothing.
func (c *compiler) complex(t *model.Type) bool {
	u := t.Unwrapped()
	return t.Kind == model.Optional && clr.IsValue(u) || u.Model != nil && u.Model.Kind != model.Enum || isNode(u) || u.Name == "object" || u.Kind == model.Tuple
}

func (c *compiler) attribute(k *class, m *member, mark *model.Annotation) bool {
	m.kind = inAttribute
	name := mark.Text("value", mark.Text("AttributeName", ""))
	if name == "" {
		name = m.field.Name
	}
	name = encoded(name)
	space, told := given(mark, "Namespace")
	form := mark.Text("Form", "")
	switch {
	case form == "Qualified" && !told:
		space = k.space
	case form == "Unqualified", !told:
		space = ""
	}
	elem := m.typ
	if u := m.typ.Unwrapped(); isList(u) {
		elem, m.flat, m.array = u.Args[0], true, strings.HasPrefix(u.Name, "[")
		m.list = !m.array
	}
	m.choose = []*accessor{{name: nameIn(space, name), typ: elem, data: mark.Text("DataType", "")}}
	if c.complex(elem) {
		c.refuse(k.t.Model, "declare a string and a property that makes the value of it, or an element: an attribute holds no value that may be nothing", "Cannot serialize member '%s' of type %s. XmlAttribute/XmlText cannot be used to encode complex types.", m.field.Name, shownName(elem))
		return true
	}
	c.compile(m.choose[0], elem.Unwrapped(), k.space)
	return true
}

// element compiles a member that is read from elements.
func (c *compiler) element(k *class, m *member, marks model.Annotated, elements []*model.Annotation) {
	u := m.typ.Unwrapped()
	list := isList(u)
	collection := u
	if !list && u.Model != nil && u.Model.Kind != model.Enum && u.Model.Collection != nil {
		list, collection = true, u.Model.Collection.Bind(u.Env())
	}
	m.array = list && strings.HasPrefix(u.Name, "[")
	m.list = list && !m.array
	def := slices.ContainsFunc(m.field.Marks, func(a model.Annotation) bool { return a.Name == "DefaultValue" })
	if list && (len(elements) > 0 || m.text) {
		m.flat = true
		if u.Model == nil {
			c.usable(u)
		}
	}
	if len(elements) == 0 {
		if m.flat { // of text alone
			return
		}
		a := &accessor{name: nameIn(k.space, encoded(m.field.Name)), typ: m.typ, nullable: m.typ.Kind == model.Optional && clr.IsValue(u), def: def}
		if list {
			a.nullable = false
			if u.Model == nil {
				c.usable(u)
			} else {
				c.checkClass(u)
			}
			array := find(marks, "XmlArray")
			own := k.space
			if name := array.Text("value", array.Text("ElementName", "")); name != "" {
				a.name.Local = encoded(name)
			}
			if space, ok := given(array, "Namespace"); ok {
				a.name.Space, own = space, space
			}
			if array.Text("Form", "") == "Unqualified" {
				a.name.Space = ""
			}
			if array.Text("IsNullable", "") == "true" {
				a.nullable = true
			}
			m.order = orderOf(array)
			a.items = c.itemsOf(collection, all(marks, "XmlArrayItem"), own, 0)
		} else {
			c.compile(a, u, k.space)
		}
		m.choose = []*accessor{a}
		return
	}
	for _, mark := range elements {
		t := elementType(mark)
		if t != nil && !list && clr.IsValue(u) && u.Model == nil {
			c.refuse(k.t.Model, "take the Type off, and read a text twin of the property", "The type for XmlElement may not be specified for primitive types.")
			return
		}
		if t == nil {
			t = m.typ
			if list {
				t = collection.Args[0]
			}
		}
		of := t.Unwrapped()
		a := &accessor{typ: t, nullable: t.Kind == model.Optional && clr.IsValue(of), data: mark.Text("DataType", ""), def: def}
		ns := k.space
		if space, ok := given(mark, "Namespace"); ok {
			ns = space
		}
		if text, ok := given(mark, "IsNullable"); ok {
			a.nullable = text == "true"
		}
		c.compile(a, of, ns)
		a.name = nameIn(ns, encoded(elementName(mark, "ElementName")))
		if a.name.Local == "" {
			a.name.Local = encoded(m.field.Name)
			if len(elements) > 1 {
				a.name.Local = c.typeName(of)
			}
		}
		if mark.Text("Form", "") == "Unqualified" {
			a.name.Space = ""
		}
		m.order = max(m.order, orderOf(mark))
		m.choose = append(m.choose, a)
	}
}

// orderOf is 1 + the Order of an attribute, 0 for none.
func orderOf(mark *model.Annotation) int {
	if text, ok := given(mark, "Order"); ok {
		if n, err := strconv.Atoi(text); err == nil {
			return n + 1
		}
	}
	return 0
}

// checkMembers refuses a class whose members contradict each other, and puts them into their order.
func (c *compiler) checkMembers(k *class, properties []*member) {
	names, attributes := map[markup.Name]bool{}, map[markup.Name]bool{}
	with, without := (*member)(nil), (*member)(nil)
	for _, m := range k.members {
		if m.kind == inElement || m.kind == inAnyElement {
			k.elements = k.elements || m.kind == inElement && len(m.choose) > 0
			if m.order > 0 {
				with = m
			} else {
				without = m
			}
		}
		seen := names
		if m.kind == inAttribute {
			seen = attributes
		}
		for _, a := range m.choose {
			if m.kind == inText {
				continue
			}
			if seen[a.name] {
				what := "element"
				if m.kind == inAttribute {
					what = "attribute"
				}
				path := c.path
				c.path = append(slices.Clip(path), "There was an error reflecting "+kindOfMember(m.field)+" '"+m.field.Name+"'.")
				c.refuse(k.t.Model, "give one of them another name", "The XML %s '%s' from namespace '%s' is already present in the current scope. Use XML attributes to specify another XML name or namespace for the %s.", what, a.name.Local, a.name.Space, what)
				c.path = path
			}
			seen[a.name] = true
		}
		marks := c.marksOf(m.owner.Model, m.field)
		if choice := find(marks, "XmlChoiceIdentifier"); choice != nil {
			name := model.SimpleName(choice.Text("value", choice.Text("MemberName", "")))
			for _, o := range properties {
				if o.field.Name == name {
					m.choice = o
				}
			}
		}
	}
	if with != nil && without != nil {
		c.refuse(k.t.Model, "give all of them an Order, or none", "Inconsistent sequencing: if used on one of the class's members, the 'Order' property is required on all particle-like members, please explicitly set 'Order' using XmlElement, XmlAnyElement or XmlArray custom attribute on class member '%s'.", without.field.Name)
	}
	if k.ordered = with != nil; k.ordered {
		c.ordered = true
		sort.SliceStable(k.members, func(i, j int) bool { return k.members[i].order < k.members[j].order })
	}
}

// prepare finds what an instance holds before anything is read.
func (c *compiler) prepare(k *class) {
	if c.broken != nil || k.abstract {
		return
	}
	for _, m := range k.members {
		if p := m.field.Property; p != nil && !m.list && p.Set != 0 && (len(p.Writes) > 0 || !p.Stored && p.Backs == "") {
			k.code = true
		}
	}
}

package sharp

import (
	"strings"

	"vetta/internal/code"
	"vetta/internal/decoder"
	"vetta/internal/markup"
	"vetta/internal/model"
	"vetta/internal/wire"
)

// XMLOptions is how an XmlSerializer was made and what it reads from.
type XMLOptions struct {
	Root      string // by an XmlRootAttribute that it is given, "" for none
	RootSpace *string
	Space     string // the namespace by default
	Extra     []*model.Type
	// Overrides are attributes that take the place of those in the source: by class and, of a member, its name.
	Overrides map[Overridden]model.Annotated
	// Keeps says that the reader keeps white space, Doctype that it takes a DOCTYPE, Strips that it knows no namespaces,
	// Placeless that it does not tell where it stands.
	Keeps, Doctype, Strips, Placeless bool
	// Unknown is told of elements and attributes that no member takes; nil for nobody.
	Unknown func(e *markup.Element, a *markup.Attr, expected string) *decoder.Error
}

// Overridden is a class, or a member of one, whose attributes are told elsewhere.
type Overridden struct {
	Class  *model.Model
	Member string
}

// Serializers read XML as a type, as the libraries for that do; the list of libraries sets it.
var Serializers struct {
	ReadXML     func(t *model.Type, o XMLOptions, doc *markup.Document, from *markup.Element) decoder.Outcome
	Accepts     func(t *model.Type, o XMLOptions, from *markup.Element) bool
	ReadObject  func(t *model.Type, settings *model.Settings, doc *markup.Document, from *markup.Element) decoder.Outcome
	ReadJSONDoc func(t *model.Type, settings *model.Settings, doc *wire.Value) decoder.Outcome
}

// xmlSerializer is a serializer of one of the three classes.
type xmlSerializer struct {
	class    string
	t        *model.Type
	options  XMLOptions
	settings *model.Settings
	unknown  map[string]Value // handlers of events, by name
}

// xmlAttribute is an attribute that code makes, xmlMarks some of them, xmlOverrides those for classes.
type xmlAttribute struct{ mark model.Annotation }

type xmlMarks struct{ all model.Annotated }

type xmlOverrides struct {
	all map[Overridden]model.Annotated
}

func attributeMade(name string, args []Value) *xmlAttribute {
	short := strings.TrimSuffix(name, "Attribute")
	if name == "XmlAttribute" {
		short = name
	}
	a := &xmlAttribute{model.Annotation{Name: short, Whole: "System.Xml.Serialization." + short}}
	for i, v := range args {
		arg := "value"
		if i > 0 {
			arg += string(rune('1' + i))
		}
		a.give(arg, v)
	}
	return a
}

func (a *xmlAttribute) give(name string, v Value) {
	arg := model.Argument{Name: name}
	switch {
	case v.Kind == String:
		arg.Texts = []string{v.Text}
	case v.Kind == Class:
		if t := v.Ref.(*typed).t; t != nil {
			arg.Texts, arg.Types = []string{t.Name}, []*model.Type{t}
		}
	case v.Kind == Bool || v.Kind == Int:
		arg.Texts = []string{plainText(v)}
		if v.Kind == Bool {
			arg.Texts[0] = strings.ToLower(arg.Texts[0])
		}
	default:
		if w, ok := v.Ref.(*platformWord); ok {
			arg.Texts = []string{w.name}
		}
	}
	a.mark.Args = append(a.mark.Args, arg)
}

func (a *xmlAttribute) setMember(name string, v Value) bool {
	a.give(name, v)
	return true
}

func (s *xmlMarks) setMember(name string, v Value) bool {
	if a, ok := v.Ref.(*xmlAttribute); ok {
		s.all = append(s.all, a.mark)
		return true
	}
	if name == "XmlIgnore" {
		if v.isTrue() {
			s.all = append(s.all, model.Annotation{Name: name, Whole: "System.Xml.Serialization." + name})
		}
		return true
	}
	return false
}

// markList is a list of attributes to which others are added: XmlElements, XmlArrayItems.
type markList struct{ of *xmlMarks }

func (l *markList) call(_ *Machine, name string, args []Value, _ []*model.Type, _ *code.Expr, _ *frame) (Value, bool, error) {
	if a, ok := first(args).Ref.(*xmlAttribute); ok && name == "Add" {
		l.of.all = append(l.of.all, a.mark)
		return Value{}, true, nil
	}
	return Value{}, false, nil
}

func (s *xmlMarks) call(_ *Machine, name string, _ []Value, _ []*model.Type, _ *code.Expr, _ *frame) (Value, bool, error) {
	switch name {
	case "XmlElements", "XmlArrayItems", "XmlAnyElements":
		return Value{Kind: Host, Ref: &markList{s}}, true, nil
	}
	return Value{}, false, nil
}

func (o *xmlOverrides) call(_ *Machine, name string, args []Value, _ []*model.Type, _ *code.Expr, _ *frame) (Value, bool, error) {
	if name != "Add" || len(args) < 2 {
		return Value{}, false, nil
	}
	t := classAt(args, 0)
	marks, ok := args[len(args)-1].Ref.(*xmlMarks)
	if t == nil || t.Model == nil || !ok {
		return Value{}, false, nil
	}
	key := Overridden{Class: t.Model}
	if len(args) == 3 {
		key.Member = args[1].Text
	}
	if o.all == nil {
		o.all = map[Overridden]model.Annotated{}
	}
	o.all[key] = marks.all
	return Value{}, true, nil
}

// xmlSerializer makes one for a type.
func (m *Machine) xmlSerializer(class string, args []Value, x *code.Expr) (Value, bool, error) {
	t := classAt(args, 0)
	if t == nil {
		return Value{}, true, unfollowed("the type that a serializer is made for", x.Pos)
	}
	s := &xmlSerializer{class: class, t: t, unknown: map[string]Value{}, settings: &model.Settings{Options: map[string]model.Option{}}}
	for i, a := range args[1:] {
		switch r := a.Ref.(type) {
		case *xmlAttribute:
			s.options.Root = r.mark.Text("value", r.mark.Text("ElementName", ""))
			if space := r.mark.Arg("Namespace"); len(space.Texts) > 0 {
				s.options.RootSpace = &space.Texts[0]
			}
		case *xmlOverrides:
			s.options.Overrides = r.all
		case *xmlSettings:
			for name, v := range r.set {
				s.settings.Options[name] = model.Option{Value: strings.ToLower(plainText(v))}
			}
		case *list:
			for _, e := range r.items {
				if e.Kind == Class && e.Ref.(*typed).t != nil {
					s.options.Extra = append(s.options.Extra, e.Ref.(*typed).t)
				}
			}
		default:
			switch {
			case a.IsNull():
			case a.Kind == String && class == "XmlSerializer":
				s.options.Space = a.Text
			case a.Kind == String && i == 0:
				s.settings.Options["root"] = model.Option{Value: a.Text}
			case a.Kind == String && i == 1:
				s.settings.Options["rootNamespace"] = model.Option{Value: a.Text}
			default:
				return Value{}, true, unfollowed("what a serializer is given", x.Pos)
			}
		}
	}
	return Value{Kind: Host, Ref: s}, true, nil
}

func (s *xmlSerializer) is(name string) (bool, bool) {
	return name == s.class || name == "object" || name == "XmlObjectSerializer" && s.class != "XmlSerializer", true
}

// subscribe takes a handler of an event.
func (s *xmlSerializer) subscribe(name string, fn Value) bool {
	if name != "UnknownElement" && name != "UnknownAttribute" && name != "UnknownNode" && name != "UnreferencedObject" {
		return false
	}
	s.unknown[name] = fn
	return true
}

// xmlEventArgs is what a handler is told.
type xmlEventArgs struct {
	node     *xmlNode
	expected string
}

func (a *xmlEventArgs) call(_ *Machine, name string, _ []Value, _ []*model.Type, _ *code.Expr, _ *frame) (Value, bool, error) {
	switch name {
	case "Element", "Attr":
		return Value{Kind: Host, Ref: a.node}, true, nil
	case "Name", "LocalName", "NamespaceURI":
		return TextOf(a.node.nameOf(name)), true, nil
	case "Text":
		return TextOf(a.node.value()), true, nil
	case "ExpectedElements", "ExpectedAttributes":
		return TextOf(a.expected), true, nil
	case "LineNumber", "LinePosition":
		return unknownValue(), true, nil
	}
	return Value{}, false, nil
}

func (s *xmlSerializer) call(m *Machine, name string, args []Value, types []*model.Type, x *code.Expr, f *frame) (Value, bool, error) {
	switch {
	case name == "CanDeserialize" && len(args) == 1 && s.class == "XmlSerializer":
		r, ok := args[0].Ref.(*xmlReader)
		if !ok || Serializers.Accepts == nil {
			return Value{}, false, nil
		}
		if err := r.fault(m); err != nil {
			return Value{}, true, err
		}
		r.content()
		if r.now().e == nil {
			return BoolOf(false), true, nil
		}
		return BoolOf(Serializers.Accepts(s.t, s.options, r.now().e)), true, nil
	case name == "Deserialize" && s.class == "XmlSerializer", name == "ReadObject" && s.class != "XmlSerializer":
		if len(args) == 0 {
			return Value{}, false, nil
		}
		v, err := s.deserialize(m, args[0], x)
		return v, true, err
	}
	return Value{}, false, nil
}

// deserialize reads what an argument holds.
func (s *xmlSerializer) deserialize(m *Machine, from Value, x *code.Expr) (Value, error) {
	if s.class == "DataContractJsonSerializer" {
		doc, err := m.parse(from, newtonsoftJSON)
		if err != nil {
			return Value{}, err
		}
		return m.outcome(Serializers.ReadJSONDoc(s.t, s.settings, doc), s.t, x)
	}
	o := s.options
	var doc *markup.Document
	var top *markup.Element
	if r, ok := from.Ref.(*xmlReader); ok {
		o.Placeless, o.Strips, o.Keeps = r.placeless, r.strips, !r.noSpace && !r.bare && !r.text
		o.Doctype = !r.prohibits
		if err := r.fault(m); err != nil {
			if t, ok := err.(*Thrown); ok && r.broken != nil {
				return Value{}, m.throw("InvalidOperationException", "There is an error in XML document. <- "+t.Error())
			}
			return Value{}, err
		}
		r.content()
		if doc = r.doc; r.now().kind == "Element" {
			top = r.now().e
		}
		r.skip()
	} else {
		if in, ok := from.Ref.(*input); ok {
			o.Doctype = in.chars
		}
		var err error
		if doc, err = m.xmlText(from); err != nil {
			if t, ok := err.(*Thrown); ok && t.Class == "XmlException" {
				return Value{}, m.throw("InvalidOperationException", "There is an error in XML document. <- "+t.Error())
			}
			return Value{}, err
		}
		top = doc.Root
	}
	if top == nil {
		return Value{}, m.throw("InvalidOperationException", "There is an error in XML document (0, 0). <- XmlException: Root element is missing.")
	}
	if s.class == "DataContractSerializer" {
		return m.outcome(Serializers.ReadObject(s.t, s.settings, doc, top), s.t, x)
	}
	var unfollowedHandler error
	if len(s.unknown) > 0 {
		o.Unknown = func(e *markup.Element, a *markup.Attr, expected string) *decoder.Error {
			fn, ok := s.unknown["UnknownElement"]
			if a != nil {
				fn, ok = s.unknown["UnknownAttribute"]
			}
			if !ok {
				return nil
			}
			args := &xmlEventArgs{node: &xmlNode{doc: doc, e: e, a: a, dom: true}, expected: expected}
			_, err := m.apply(fn, []Value{{Kind: Host, Ref: s}, {Kind: Host, Ref: args}}, x)
			switch t := err.(type) {
			case nil:
				return nil
			case *Thrown:
				return t.Err()
			}
			unfollowedHandler = err
			return nil
		}
	}
	out := Serializers.ReadXML(s.t, o, doc, top)
	if unfollowedHandler != nil {
		return Value{}, unfollowedHandler
	}
	return m.outcome(out, s.t, x)
}

// outcome is what a library reads as a value of the machine's.
func (m *Machine) outcome(out decoder.Outcome, t *model.Type, x *code.Expr) (Value, error) {
	if out.Err != nil {
		return Value{}, &Thrown{Class: out.Err.Kind, Message: strings.TrimPrefix(out.Err.Message, out.Err.Kind+": "), Cause: out.Err}
	}
	if out.Seen.Kind == decoder.SeenUnknown {
		return Value{}, unfollowed("what is decoded", x.Pos)
	}
	return m.ValueOf(out.Seen, t), nil
}

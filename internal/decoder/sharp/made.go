package sharp

import (
	"slices"
	"strings"

	"vetta/internal/code"
	"vetta/internal/decoder"
	"vetta/internal/decoder/clr"
	"vetta/internal/markup"
	"vetta/internal/model"
)

// platformMade makes an object of a class of the platform.
func (m *Machine) platformMade(t *model.Type, args []Value, x *code.Expr) (Value, error) {
	u := t.Unwrapped()
	switch u.Kind {
	case model.List, model.Unique:
		l := &list{set: u.Kind == model.Unique}
		if len(args) > 0 && (args[0].Kind == Items || args[0].Kind == Host) {
			items, err := m.each(args[0], x.Pos)
			if err != nil {
				return Value{}, err
			}
			if l.items = append(l.items, items...); l.set {
				l.items = unique(l.items)
			}
		} else if len(args) > 0 && args[0].IsNull() {
			return Value{}, m.throw("ArgumentNullException", "Value cannot be null. (Parameter 'collection')")
		}
		if u.Class == "Stack" {
			l.kind = "stack"
		}
		if len(u.Args) > 0 {
			l.of = u.Args[0]
		}
		return Value{Kind: Items, Ref: l}, nil
	case model.Map:
		en := &entries{of: valueType(u), fold: hasWord(args, "OrdinalIgnoreCase") || hasWord(args, "InvariantCultureIgnoreCase")}
		if len(args) > 0 && args[0].Kind == Entries {
			en.keys = append(en.keys, args[0].entries().keys...)
			en.vals = append(en.vals, args[0].entries().vals...)
		}
		return Value{Kind: Entries, Ref: en}, nil
	case model.Tuple:
		return Value{Kind: Tuple, Ref: &list{items: args}}, nil
	}
	name := model.SimpleName(u.Name)
	if v, known, err := m.xmlMade(u, args, x); known || err != nil {
		return v, err
	}
	switch {
	case strings.HasSuffix(name, "Exception"):
		t := &Thrown{Class: name, At: m.last}
		if len(args) > 0 && args[0].Kind == String {
			t.Message = args[0].Text
		}
		return Value{Kind: Host, Ref: &caught{t}}, nil
	case name == "KeyValuePair" && len(args) == 2:
		return pairOf(args[0], args[1]), nil
	case name == "Uri" && len(args) > 0 && args[0].Kind == String:
		if !strings.Contains(args[0].Text, ":") && len(args) == 1 {
			return Value{}, m.throw("UriFormatException", "Invalid URI: The format of the URI could not be determined.")
		}
		s, ok := clr.Uri(args[0].Text)
		if !ok {
			return Value{}, m.throw("UriFormatException", "Invalid URI: The hostname could not be parsed.")
		}
		return plainOf("Uri", s), nil
	case (name == "Guid" || name == "Version") && len(args) == 1 && args[0].Kind == String:
		v, _, err := m.parsed(name, args[0].Text, nil)
		return v, err
	case name == "DateOnly" && len(args) == 3:
		s := clr.Date(int(args[0].Int), int(args[1].Int), int(args[2].Int), 0, 0, 0, "", clr.NoZone)
		s.Text = s.Text[:10]
		return plainOf(name, s), nil
	case name == "DateTime" && len(args) >= 3 && args[0].Kind == Int:
		part := func(i int) int {
			if i < len(args) && args[i].Kind == Int {
				return int(args[i].Int)
			}
			return 0
		}
		zone := clr.NoZone
		if hasWord(args, "Utc") {
			zone = "Z"
		}
		return plainOf(name, clr.Date(part(0), part(1), part(2), part(3), part(4), part(5), "", zone)), nil
	case name == "TimeSpan" && len(args) == 3:
		return spanOf(float64(args[0].Int*3600 + args[1].Int*60 + args[2].Int)), nil
	case name == "object":
		return Value{Kind: Host, Ref: &struct{}{}}, nil
	case strings.HasSuffix(name, "EventArgs"), ofRequests[name]:
		return Value{Kind: Host, Ref: &opaque{name}}, nil
	case strings.HasSuffix(name, "Options") || strings.HasSuffix(name, "Settings") || strings.HasSuffix(name, "Converter") || strings.HasSuffix(name, "Resolver") || strings.HasSuffix(name, "Strategy"):
		return Value{Kind: Host, Ref: &opaque{name}}, nil
	case name == "StringBuilder":
		return Value{Kind: Host, Ref: &builder{}}, nil
	}
	if v, known, err := m.jsonMade(u, args, x); known || err != nil {
		return v, err
	}
	return Value{}, unfollowed("an instance of "+u.Name, x.Pos)
}

// ofRequests are classes of what is asked by, which say nothing of what is answered.
var ofRequests = map[string]bool{
	"HttpRequestMessage": true, "HttpMethod": true, "AuthenticationHeaderValue": true, "MediaTypeWithQualityHeaderValue": true, "StringContent": true,
	"ByteArrayContent": true, "FormUrlEncodedContent": true, "HttpClientHandler": true, "CancellationTokenSource": true, "UriBuilder": true, "Stopwatch": true, "SemaphoreSlim": true,
}

// builder is a StringBuilder.
type builder struct{ b strings.Builder }

func (b *builder) call(m *Machine, name string, args []Value, _ []*model.Type, x *code.Expr, f *frame) (Value, bool, error) {
	switch name {
	case "Append", "AppendLine":
		if len(args) > 0 {
			s, err := m.written(args[0], f, x)
			if err != nil {
				return Value{}, true, err
			}
			b.b.WriteString(s)
		}
		if name == "AppendLine" {
			b.b.WriteByte('\n')
		}
		return Value{Kind: Host, Ref: b}, true, nil
	case "ToString":
		return TextOf(b.b.String()), true, nil
	case "Length":
		return IntOf(int64(b.b.Len())), true, nil
	}
	return Value{}, false, nil
}

func (c *caught) call(_ *Machine, name string, _ []Value, _ []*model.Type, _ *code.Expr, _ *frame) (Value, bool, error) {
	if name == "Message" {
		return TextOf(c.t.Message), true, nil
	}
	return Value{}, false, nil
}

func (c *caught) is(name string) (bool, bool) { return isKind(c.t.Class, name), true }

// Filled is an instance that a constructor without parameters, nil for the one that the compiler makes, and setters of
// members of these names make, in this order.
func (c *Code) Filled(t *model.Type, ctor *model.Method, set []string, vals []decoder.Seen, of []*model.Type) (decoder.Seen, *decoder.Error) {
	if c == nil {
		return decoder.Seen{Kind: decoder.SeenUnknown}, nil
	}
	_, d := Of(t.Model)
	if d == nil {
		return decoder.Seen{Kind: decoder.SeenUnknown}, nil
	}
	c.lock.Lock()
	defer c.lock.Unlock()
	return Make(c.World, c.decode, d, t, ctor, nil, nil, set, vals, of, nil, nil)
}

// ReadXML is an instance of a class that reads itself from an element: IXmlSerializable.ReadXml.
func (c *Code) ReadXML(t *model.Type, doc *markup.Document, e *markup.Element) (decoder.Seen, *decoder.Error) {
	unknown := decoder.Seen{Kind: decoder.SeenUnknown}
	if c == nil {
		return unknown, nil
	}
	_, d := Of(t.Model)
	if d == nil {
		return unknown, nil
	}
	c.lock.Lock()
	defer c.lock.Unlock()
	m := New(c.World, c.decode)
	m.left = maxSteps
	v := m.blank(d, t)
	ctor, given := m.constructor(d, nil, nil)
	fn, in := m.methodOf(d, "ReadXml", 1)
	if fn == nil || m.build(v, d, ctor, given, nil) != nil {
		return unknown, nil
	}
	r := newXMLReader(doc, e)
	r.text = true
	r.list()
	r.read()
	if _, err := m.run(fn, &frame{fn: fn, class: in, this: &v}, nil, []Value{{Kind: Host, Ref: r}}); err != nil {
		if t, ok := err.(*Thrown); ok {
			return unknown, t.Err()
		}
		return unknown, nil
	}
	return SeenOf(v), nil
}

// IsPublic says whether everybody sees a class, and those that it stands in.
func IsPublic(m *model.Model) bool {
	if m.Access != model.Public {
		return false
	}
	_, d := Of(m)
	for d != nil && d.Outer != nil {
		d = d.Outer
		if !slices.ContainsFunc(d.Parts, func(c *code.Class) bool { return slices.Contains(c.Mods, "public") }) {
			return false
		}
	}
	return true
}

// Prepared is an instance that no constructor has run for, when what is marked [OnDeserializing] has run on it.
func (c *Code) Prepared(t *model.Type, blank decoder.Seen) decoder.Seen {
	if c == nil {
		return blank
	}
	_, d := Of(t.Model)
	if d == nil {
		return blank
	}
	var fns []*code.Func
	for _, part := range d.Parts {
		for _, fn := range part.Funcs {
			for _, mark := range fn.Marks {
				if len(mark.Args) > 0 && strings.TrimSuffix(model.SimpleName(mark.Args[0].Text), "Attribute") == "OnDeserializing" {
					fns = append(fns, fn)
				}
			}
		}
	}
	if len(fns) == 0 {
		return blank
	}
	c.lock.Lock()
	defer c.lock.Unlock()
	m := New(c.World, c.decode)
	m.left = maxSteps
	v := m.ValueOf(blank, t)
	for _, fn := range fns {
		if _, err := m.run(fn, &frame{fn: fn, class: d, this: &v}, nil, make([]Value, len(fn.Params))); err != nil {
			return decoder.Seen{Kind: decoder.SeenUnknown}
		}
	}
	return SeenOf(v)
}

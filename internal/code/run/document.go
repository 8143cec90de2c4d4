package run

import (
	"math"
	"strconv"
	"strings"

	"vetta/internal/code"
	"vetta/internal/model"
	"vetta/internal/wire"
)

// root is where the body of the answer to a request stands.
func (m *Machine) root(r *Request) *Place {
	key := r.Method + " " + r.Path
	if p := m.roots[key]; p != nil {
		return p
	}
	if m.roots == nil {
		m.roots = map[string]*Place{}
	}
	p := &Place{Name: key}
	m.roots[key] = p
	own := *r
	own.Way = m.way()
	m.decoded = append(m.decoded, own)
	return p
}

// way are the functions that are being run, those without a name left out.
func (m *Machine) way() (way []model.Through) {
	for _, f := range m.calls {
		if f.fn == nil || f.fn.Name == "" {
			continue
		}
		at := f.site
		if at == (codePos{}) {
			at = f.fn.Pos
		}
		way = append(way, model.Through{Name: f.fn.Name, Pos: at})
	}
	return way
}

// document is the body of an answer, decoded, as a value of a type.
func (m *Machine) document(v Value, t *Type) (Value, error) {
	r := v.Out.Request
	if r == nil {
		r = &Request{}
	}
	root := m.root(r)
	if m.doc != nil && (m.target == "" || m.target == root.Name) {
		d := *m.doc
		d.Static = nil
		if t == nil {
			return d, nil
		}
		return m.coerce(d, t, &frame{}, false)
	}
	return Value{Kind: Unknown, Static: t, At: root}, nil
}

// decode is jsonDecode.
func (m *Machine) decode(v Value, pos codePos) (Value, error) {
	switch {
	case v.isUnknown() && v.Out != nil:
		r := v.Out.Request
		if r == nil {
			r = &Request{}
		}
		return m.document(Value{Kind: Unknown, Out: &Outside{Request: r, Text: true}}, nil)
	case v.At != nil && (v.isUnknown() || v.Kind == Maps || v.Kind == Lists): // decoded already, or a document in a text
		if v.isUnknown() && v.At.Kind == Root {
			return v.as(nil), nil
		}
		return unknown(nil, v), nil
	case v.Kind == String:
		doc, err := wire.Parse([]byte(v.S))
		if err != nil {
			return v, &Thrown{Class: "FormatException", Message: "Unexpected character (at character 1)\n" + v.S + "\n^\n", At: v.At, Pos: pos}
		}
		return m.FromWire(doc, nil), nil
	case v.isUnknown():
		return unknown(nil, v), nil
	}
	return v, m.typeError(v, stringType, false, false)
}

// FromWire is a value of a document as jsonDecode makes it; at is where it stands, nil where nobody asks.
func FromWire(v *wire.Value, at *Place) Value {
	switch v.Kind {
	case wire.Null:
		return Value{At: at}
	case wire.Bool:
		b := boolOf(string(v.Raw) == "true")
		b.Static, b.At = nil, at
		return b
	case wire.Number:
		n := numberOf(string(v.Raw))
		n.Static, n.At = nil, at
		return n
	case wire.String:
		text, _ := v.Text()
		return Value{Kind: String, S: text, At: at}
	case wire.Array:
		l := &List{Kind: "List", Items: make([]Value, len(v.Elems))}
		for i, e := range v.Elems {
			var place *Place
			if at != nil {
				place = at.sub(Elem, "", i)
			}
			l.Items[i] = FromWire(e, place)
		}
		return Value{Kind: Lists, Ref: l, At: at}
	}
	d := &Map{Key: stringType}
	for i := range v.Members {
		mem := &v.Members[i]
		name := mem.Name
		var place *Place
		if at != nil {
			place = at.sub(Member, name, 0)
		}
		d.put(textOf(name), FromWire(mem.Value, place))
	}
	return Value{Kind: Maps, Ref: d, At: at}
}

// FromWire is a value of a document as the app's platform decodes it. On the web all numbers are of one kind: a whole
// one is an int whether it has a fraction or not, and beyond 2^53 it loses digits.
func (m *Machine) FromWire(v *wire.Value, at *Place) Value {
	out := FromWire(v, at)
	if m.p.web {
		out = onWeb(out)
	}
	return out
}

func onWeb(v Value) Value {
	switch v.Kind {
	case Int:
		v.N = int64(float64(v.N))
	case Double:
		if f := v.F; f == math.Trunc(f) && math.Abs(f) < 1<<63 {
			whole := intOf(int64(f))
			whole.Static, whole.At = v.Static, v.At
			return whole
		}
	case Lists:
		for i, e := range v.list().Items {
			v.list().Items[i] = onWeb(e)
		}
	case Maps:
		for i, e := range v.dict().Vals {
			v.dict().Vals[i] = onWeb(e)
		}
	}
	return v
}

// numberOf is a number as the VM's decoder reads it: whole where it is written so and fits 64 bits, else a double.
func numberOf(raw string) Value {
	if n, err := strconv.ParseInt(raw, 10, 64); err == nil {
		return intOf(n)
	}
	f, err := strconv.ParseFloat(raw, 64)
	if err != nil && !math.IsInf(f, 0) {
		return doubleOf(0)
	}
	return doubleOf(f)
}

// readers are the names of constructors and functions that make an instance of a part of a document.
var readers = []string{"fromJson", "fromMap", "fromJSON", "fromJsonMap", "parse", "fromDynamic", "fromObject", "fromApi", "fromResponse", "deserialize"}

// Reader is the constructor or function by which a class is made of a part of a document, nil for none. It is found by
// its name, or by what it takes.
func (m *Machine) Reader(c *code.Class) *code.Func {
	fits := func(f *code.Func) bool {
		if len(f.Params) == 0 || f.Params[0].Field || f.Params[0].Super || f.Setter || f.Getter || !f.Init && !f.Static {
			return false
		}
		for _, p := range f.Params[1:] {
			if !p.Optional && p.Default == nil && !isFunction(p) {
				return false
			}
		}
		if !f.Init {
			if f.Returns == nil || model.SimpleName(f.Returns.Unwrapped().Name) != c.Name {
				return false
			}
		}
		t := f.Params[0].Type
		if t == nil {
			return true
		}
		switch t.Unwrapped().Name {
		case "Map", "dynamic", "Object", "List", "Json", "JSON", "JsonMap", "JsonObject":
			return true
		}
		alias, _, ok := m.p.alias(t.Unwrapped().Name, m.p.unitOf(f.File))
		return ok && alias.Type != nil && alias.Type.Unwrapped().Name == "Map"
	}
	for _, name := range readers {
		for _, f := range c.Funcs {
			if f.Name == name && fits(f) {
				return f
			}
		}
	}
	for _, f := range c.Funcs {
		if f.Init && fits(f) && f.Params[0].Type != nil && f.Params[0].Type.Unwrapped().Name != "Object" && f.Params[0].Type.Unwrapped().Name != "dynamic" && f.Params[0].Type.Unwrapped().Name != "List" {
			return f
		}
	}
	for _, f := range c.Funcs {
		if f.Init && fits(f) && f.Params[0].Type != nil {
			return f
		}
	}
	return nil
}

func isFunction(p code.Param) bool {
	return p.Type != nil && (p.Type.Unwrapped().Name == "function" || readsArgument(p.Name))
}

// readsArgument says whether a parameter is by its name what makes a value of a type parameter.
func readsArgument(name string) bool {
	return strings.HasPrefix(name, "from") || strings.HasPrefix(name, "parse") || strings.HasPrefix(name, "create")
}

// MadeOf is a value of a type made of a part of a document as generators and their like do: by the reader of a class,
// element by element; ok is false where a class has none.
func (m *Machine) MadeOf(t *Type, doc Value) (v Value, ok bool, err error) {
	switch {
	case t == nil:
		return doc, true, nil
	case t.Null:
		if doc.IsNull() {
			return doc, true, nil
		}
		v, ok, err := m.MadeOf(t.solid(), doc)
		return v.as(t), ok, err
	case t.is("List", "Iterable", "Set"):
		doc, err := m.coerce(doc, untypedList, &frame{}, true)
		if err != nil {
			return doc, true, err
		}
		items, some, err := m.elements(doc, codePos{})
		if err != nil {
			return doc, true, err
		}
		l := &List{Elem: t.arg(0), Kind: "List"}
		for _, e := range items {
			v, ok, err := m.MadeOf(t.arg(0), e)
			if !ok || err != nil {
				return v, ok, err
			}
			l.Items = append(l.Items, v)
		}
		if some != nil {
			v, ok, err := m.MadeOf(t.arg(0), *some)
			if !ok || err != nil {
				return v, ok, err
			}
			l.Some = &v
		}
		return Value{Kind: Lists, Ref: l, Static: listOf(t.arg(0))}, true, nil
	case t.is("Map") && t.arg(1) != nil && t.arg(1).Class != nil:
		doc, err := m.coerce(doc, jsonMap, &frame{}, true)
		if err != nil {
			return doc, true, err
		}
		from := m.asMap(doc).dict()
		d, out := newMap(t.arg(0), t.arg(1))
		for i := range from.Keys {
			v, ok, err := m.MadeOf(t.arg(1), from.Vals[i])
			if !ok || err != nil {
				return v, ok, err
			}
			d.put(from.Keys[i], v)
		}
		if from.Some != nil {
			v, ok, err := m.MadeOf(t.arg(1), *from.Some)
			if !ok || err != nil {
				return v, ok, err
			}
			d.Some, d.Names = &v, from.Names
		}
		return out, true, nil
	case t.Class != nil:
		fn := m.Reader(t.Class)
		if fn == nil {
			return Value{}, false, nil
		}
		return m.madeBy(fn, t, doc)
	}
	v, err = m.coerce(doc, t, &frame{}, true)
	return v, true, err
}

// madeBy calls the reader of a class. A function that it is handed for a type parameter makes what the class's argument
// says.
func (m *Machine) madeBy(fn *code.Func, t *Type, doc Value) (Value, bool, error) {
	a := Args{List: []Value{doc}}
	u := m.p.unitOf(fn.File)
	ptype := m.paramType(fn, &fn.Params[0], u, m.own(t))
	checked, err := m.coerce(doc, ptype, &frame{unit: u}, false)
	if err != nil {
		return doc, true, err
	}
	a.List[0] = checked
	next := 0
	for i := range fn.Params[1:] {
		p := &fn.Params[1+i]
		if !isFunction(*p) || p.Label != "" {
			continue
		}
		arg := t.arg(next)
		next++
		a.List = append(a.List, Value{Kind: Fn, Static: &Type{Name: "Function"}, Ref: &Closure{Sig: &Type{Name: "Function", Args: []*Type{nil}, Yields: arg}, Host: func(in Args) (Value, error) {
			v, ok, err := m.MadeOf(arg, in.at(0))
			if err == nil && !ok {
				err = unfollowed("how "+arg.String()+" is made", fn.Pos)
			}
			return v, err
		}}})
	}
	v, err := m.invoke(fn, nil, t, m.own(t), a, nil)
	return v, true, err
}

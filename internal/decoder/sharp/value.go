// Package sharp runs code of apps in C# on values: converters, constructors that compute, and what reads a document by
// hand, over elements, nodes, tokens and readers. It goes over the tree of package code. What it does not know it says:
// then nothing is known of the value. The rules of the platform are those of .NET 10, measured (testdata/truth/csharp).
package sharp

import (
	"math"
	"math/big"
	"strconv"
	"strings"

	"vetta/internal/code"
	"vetta/internal/decoder"
	"vetta/internal/decoder/clr"
	"vetta/internal/model"
)

// Kind is what kind of value it is.
type Kind uint8

// The kinds of value.
const (
	Null Kind = iota
	Bool
	Int     // of the type Of: int, long, byte …
	Float   // double or float
	Decimal // Text are its digits
	Char
	String
	Enum
	Instance // of a class of the app
	Items    // a list, an array, a set, a sequence
	Entries  // a dictionary
	Tuple
	Function
	Class   // a type as a value, or one whose static members are asked for
	Host    // an object of a library
	Plain   // what the platform writes as a text: a date, a Guid, a span; Seen has it
	Default // the literal default, of the type that is wanted
	Cell    // a variable that is handed over: ref, out
	Unknown
)

// Value is what a name or an expression stands for.
type Value struct {
	Kind  Kind
	Of    string // the platform's type of a number, of what is Plain
	Int   int64
	Float float64
	Text  string
	Seen  decoder.Seen
	Model *model.Model
	Ref   any
	// Boxed says that the value is held as an object, of which a cast takes no type but its own.
	Boxed bool
}

// Object is an instance of a class of the app.
type Object struct {
	Class  *code.Declared
	Type   *model.Type // with its arguments
	Fields map[string]*Value
	Order  []string
}

// list is what Items refers to; of a set each value is there once.
type list struct {
	items []Value
	set   bool
	kind  string // array, stack
	of    *model.Type
}

// entries is what Entries refers to.
type entries struct {
	keys []Value
	vals []Value
	fold bool        // keys are compared without case
	of   *model.Type // of the values, nil where that is not told
}

// zero is what stands for a value that is not there.
func (e *entries) zero(m *Machine) (Value, bool) {
	t := e.of
	if t == nil && len(e.vals) > 0 {
		t = m.typeOfValue(e.vals[0])
	}
	if t == nil {
		return Value{}, false
	}
	return m.zero(t), true
}

func (e *entries) find(k Value) int {
	for i := range e.keys {
		if same(e.keys[i], k) || e.fold && k.Kind == String && e.keys[i].Kind == String && strings.EqualFold(e.keys[i].Text, k.Text) {
			return i
		}
	}
	return -1
}

// typed is what a Class refers to.
type typed struct {
	t *model.Type
	d *code.Declared
}

// closure is what a Function refers to: a lambda with what is around it, or methods of a class.
type closure struct {
	fn    *code.Func
	env   *env
	frame *frame
	this  *Value
	class *code.Declared
	host  func(args []Value) (Value, error)
}

// TextOf is a string.
func TextOf(s string) Value { return Value{Kind: String, Text: s, Of: "string"} }

// IntOf is a whole number of the type int.
func IntOf(n int64) Value { return Value{Kind: Int, Int: n, Of: "int"} }

func numberOf(n int64, of string) Value { return Value{Kind: Int, Int: n, Of: of} }

func floatOf(f float64) Value { return Value{Kind: Float, Float: f, Of: "double"} }

// BoolOf is a truth value.
func BoolOf(b bool) Value {
	if b {
		return Value{Kind: Bool, Int: 1, Of: "bool"}
	}
	return Value{Kind: Bool, Of: "bool"}
}

func decimalOf(text string) Value { return Value{Kind: Decimal, Text: text, Of: "decimal"} }

func plainOf(of string, s decoder.Seen) Value { return Value{Kind: Plain, Of: of, Seen: s} }

func listOf(items []Value) Value { return Value{Kind: Items, Ref: &list{items: items}} }

func unknownValue() Value { return Value{Kind: Unknown} }

func (v Value) isTrue() bool { return v.Kind == Bool && v.Int == 1 }

// IsNull says whether it is null.
func (v Value) IsNull() bool { return v.Kind == Null || v.Kind == Default }

func (v Value) list() *list {
	l, _ := v.Ref.(*list)
	return l
}

func (v Value) entries() *entries {
	e, _ := v.Ref.(*entries)
	return e
}

func (v Value) object() *Object {
	o, _ := v.Ref.(*Object)
	return o
}

// number is a value as a float, where it is a number.
func (v Value) number() (float64, bool) {
	switch v.Kind {
	case Int:
		return float64(v.Int), true
	case Float:
		return v.Float, true
	case Decimal:
		f, err := strconv.ParseFloat(v.Text, 64)
		return f, err == nil
	case Char:
		return float64([]rune(v.Text)[0]), true
	}
	return 0, false
}

// same says whether two values are equal, as == and Equals have it of what is compared by value.
func same(a, b Value) bool {
	if a.IsNull() || b.IsNull() {
		return a.IsNull() && b.IsNull()
	}
	if x, ok := a.number(); ok {
		y, ok := b.number()
		return ok && x == y && !(a.Kind == Char) == !(b.Kind == Char) || ok && x == y
	}
	switch {
	case a.Kind != b.Kind:
		return false
	case a.Kind == String:
		return a.Text == b.Text
	case a.Kind == Bool:
		return a.Int == b.Int
	case a.Kind == Enum:
		return a.Int == b.Int && a.Model == b.Model
	case a.Kind == Plain:
		return a.Seen.String() == b.Seen.String()
	case a.Kind == Tuple || a.Kind == Items && a.list() != nil && b.list() != nil && a.Ref == b.Ref:
		x, y := a.list(), b.list()
		if len(x.items) != len(y.items) {
			return false
		}
		for i := range x.items {
			if !same(x.items[i], y.items[i]) {
				return false
			}
		}
		return true
	case a.Kind == Instance:
		x, y := a.object(), b.object()
		if x == y {
			return true
		}
		if x.Class != y.Class || !strings.HasPrefix(x.Class.Kind(), "record") && x.Class.Kind() != "struct" {
			return false
		}
		for name, v := range x.Fields {
			if o := y.Fields[name]; o == nil || !same(*v, *o) {
				return false
			}
		}
		return true
	case a.Kind == Class:
		return a.Ref.(*typed).t.Key() == b.Ref.(*typed).t.Key()
	case a.Kind == Host:
		if x, ok := a.Ref.(interface{ sameAs(any) bool }); ok {
			return x.sameAs(b.Ref)
		}
	}
	return a.Ref == b.Ref
}

// maxDeep is how deep values may hold each other.
const maxDeep = 80

// SeenOf is a value as the app sees it; known is false where part of it cannot be told.
func SeenOf(v Value) decoder.Seen { return v.seen(0) }

func (v Value) seen(deep int) decoder.Seen {
	if deep > maxDeep {
		return decoder.Seen{Kind: decoder.SeenUnknown}
	}
	switch v.Kind {
	case Null, Default:
		return decoder.Seen{}
	case Bool:
		return decoder.Bool(v.Int == 1)
	case Int:
		if v.Of == "ulong" {
			return decoder.Seen{Kind: decoder.SeenInt, Text: strconv.FormatUint(uint64(v.Int), 10)}
		}
		return decoder.Seen{Kind: decoder.SeenInt, Text: strconv.FormatInt(v.Int, 10)}
	case Float:
		bits := 64
		if v.Of == "float" {
			bits = 32
		}
		return clr.FloatOf(v.Float, bits)
	case Decimal:
		return decoder.Seen{Kind: decoder.SeenDecimal, Text: v.Text}
	case Char, String:
		return clr.String(v.Text)
	case Enum:
		return clr.Constant(v.Model, v.Int)
	case Plain:
		return v.Seen
	case Items, Tuple:
		l := v.list()
		out := decoder.Seen{Kind: decoder.SeenList, Elems: []decoder.Seen{}}
		if l.set {
			out.Kind = decoder.SeenSet
		}
		if l.kind == "array" && v.Of == "byte[]" {
			out.Kind = decoder.SeenBytes
			for _, e := range l.items {
				out.Text += string([]byte{byte(e.Int)})
			}
			return out
		}
		for _, e := range l.items {
			out.Elems = append(out.Elems, e.seen(deep+1))
		}
		return out
	case Entries:
		e := v.entries()
		out := decoder.Seen{Kind: decoder.SeenMap, Names: []string{}, Elems: []decoder.Seen{}}
		for i, k := range e.keys {
			out.Names, out.Elems = append(out.Names, plainText(k)), append(out.Elems, e.vals[i].seen(deep+1))
		}
		return out
	case Instance:
		o := v.object()
		out := decoder.Seen{Kind: decoder.SeenObject, Type: o.Class.Name}
		for _, name := range o.Order {
			f := o.Fields[name]
			if f.Kind == Function {
				continue
			}
			out.Names, out.Elems = append(out.Names, name), append(out.Elems, f.seen(deep+1))
		}
		return out
	case Host:
		if h, ok := v.Ref.(interface{ seen() decoder.Seen }); ok {
			return h.seen()
		}
	}
	return decoder.Seen{Kind: decoder.SeenUnknown}
}

// ValueOf is what a library has decoded, as a value: instances with the classes of their models.
func (m *Machine) ValueOf(s decoder.Seen, t *model.Type) Value {
	v := m.valueOf(s, t)
	if t != nil && isObject(t.Unwrapped()) {
		switch v.Kind {
		case Bool, Int, Float, Decimal, Char, String, Plain:
			v.Boxed = true
		}
	}
	return v
}

func isObject(t *model.Type) bool {
	return t.Kind == model.Named && t.Model == nil && (t.Name == "object" || t.Name == "Object")
}

func (m *Machine) valueOf(s decoder.Seen, t *model.Type) Value {
	u := t
	if u != nil {
		if u = u.Unwrapped(); u.Model != nil && u.Model.Collection != nil && (s.Kind == decoder.SeenList || s.Kind == decoder.SeenSet || s.Kind == decoder.SeenMap) {
			u = u.Model.Collection.Bind(u.Env())
		}
	}
	elem := func(i int) *model.Type {
		if u != nil && i < len(u.Args) {
			return u.Args[i]
		}
		return nil
	}
	switch s.Kind {
	case decoder.SeenNull:
		return Value{}
	case decoder.SeenBool:
		return BoolOf(s.Text == "true")
	case decoder.SeenInt:
		of := "int"
		if u != nil && clr.IsNumber(u) {
			of = u.Name
		}
		if u != nil && u.Model != nil && u.Model.Kind == model.Enum {
			n, _ := strconv.ParseInt(s.Text, 10, 64)
			return Value{Kind: Enum, Int: n, Model: u.Model}
		}
		if u == nil || u.Name == "object" || u.Name == "dynamic" || u.Kind == model.Opaque || u.Name == "JToken" {
			of = "long"
		}
		n, err := strconv.ParseInt(s.Text, 10, 64)
		if err != nil {
			if of == "long" {
				return plainOf("BigInteger", s)
			}
			big, _ := new(big.Int).SetString(s.Text, 10)
			if big == nil || !big.IsUint64() {
				return unknownValue()
			}
			n = int64(big.Uint64())
		}
		return numberOf(n, of)
	case decoder.SeenFloat:
		f, err := strconv.ParseFloat(s.Text, 64)
		if err != nil {
			switch s.Text {
			case "NaN":
				f = math.NaN()
			case "Infinity":
				f = math.Inf(1)
			case "-Infinity":
				f = math.Inf(-1)
			}
		}
		v := floatOf(f)
		if u != nil && u.Name == "float" {
			v.Of = "float"
		}
		return v
	case decoder.SeenDecimal:
		return decimalOf(s.Text)
	case decoder.SeenString:
		if u != nil && u.Model == nil && u.Name != "string" && u.Name != "object" && u.Kind == model.Named {
			if u.Name == "char" {
				return Value{Kind: Char, Text: s.Text, Of: "char"}
			}
			return plainOf(u.Name, s)
		}
		return TextOf(s.Text)
	case decoder.SeenDate:
		of := "DateTime"
		if u != nil && u.Model == nil && u.Kind == model.Named {
			of = u.Name
		}
		return plainOf(of, s)
	case decoder.SeenEnum:
		if u != nil && u.Model != nil {
			for _, k := range u.Model.Cases {
				if k.Name == s.Text && k.Raw != nil {
					n, _ := strconv.ParseInt(k.Raw.Text, 10, 64)
					return Value{Kind: Enum, Int: n, Model: u.Model}
				}
			}
		}
	case decoder.SeenList, decoder.SeenSet:
		l := &list{set: s.Kind == decoder.SeenSet}
		for _, e := range s.Elems {
			l.items = append(l.items, m.ValueOf(e, elem(0)))
		}
		return Value{Kind: Items, Ref: l}
	case decoder.SeenMap:
		e := &entries{of: valueType(t)}
		for i, name := range s.Names {
			k := TextOf(name)
			if kt := elem(0); kt != nil && clr.IsNumber(kt) {
				n, _ := strconv.ParseInt(name, 10, 64)
				k = numberOf(n, kt.Name)
			} else if kt != nil && kt.Model != nil && kt.Model.Kind == model.Enum {
				if n, err := strconv.ParseInt(name, 10, 64); err == nil { // which no constant has
					k = Value{Kind: Enum, Int: n, Model: kt.Model}
				} else {
					k = m.ValueOf(decoder.Seen{Kind: decoder.SeenEnum, Text: name}, kt)
				}
			}
			e.keys, e.vals = append(e.keys, k), append(e.vals, m.ValueOf(s.Elems[i], elem(1)))
		}
		return Value{Kind: Entries, Ref: e}
	case decoder.SeenObject:
		if u != nil && u.Kind == model.Tuple && len(u.Args) == len(s.Elems) {
			l := &list{}
			for i, e := range s.Elems {
				l.items = append(l.items, m.ValueOf(e, elem(i)))
			}
			return Value{Kind: Tuple, Ref: l}
		}
		if u != nil && u.Name == "KeyValuePair" && len(s.Elems) == 2 {
			return pairOf(m.ValueOf(s.Elems[0], elem(0)), m.ValueOf(s.Elems[1], elem(1)))
		}
		if u == nil {
			break
		}
		d := m.world.DeclaredNamed(s.Type, u)
		if d == nil || d.Model == nil {
			break
		}
		o := &Object{Class: d, Type: u, Fields: map[string]*Value{}}
		for i, name := range s.Names {
			var ft *model.Type
			for _, c := range clr.Chain(&model.Type{Kind: model.Named, Name: d.Name, Model: d.Model, Args: u.Args}) {
				for _, f := range c.Model.Fields {
					if f.Name == name && ft == nil {
						ft = f.Type.Bind(c.Env())
					}
				}
			}
			v := m.ValueOf(s.Elems[i], ft)
			o.Fields[name] = &v
			o.Order = append(o.Order, name)
		}
		return Value{Kind: Instance, Ref: o, Model: d.Model}
	case decoder.SeenBytes:
		l := &list{kind: "array", of: &model.Type{Kind: model.Named, Name: "byte", Linked: true}}
		for _, b := range []byte(s.Text) {
			l.items = append(l.items, numberOf(int64(b), "byte"))
		}
		return Value{Kind: Items, Ref: l, Of: "byte[]"}
	}
	return unknownValue()
}

// plainText is what ToString makes of a value, as the invariant culture has it.
func plainText(v Value) string {
	switch v.Kind {
	case Bool:
		if v.Int == 1 {
			return "True"
		}
		return "False"
	case Null:
		return ""
	case Float:
		return netFloat(v.Float)
	case Enum:
		return clr.Constant(v.Model, v.Int).Text
	case Plain:
		if v.Of == "DateTime" || v.Of == "DateTimeOffset" {
			return dateText(v)
		}
	}
	return v.seen(0).Text
}

// netFloat is a double as the platform writes it: in full up to 15 places, else with an exponent.
func netFloat(f float64) string {
	switch {
	case math.IsNaN(f):
		return "NaN"
	case math.IsInf(f, 1):
		return "Infinity"
	case math.IsInf(f, -1):
		return "-Infinity"
	}
	if a := math.Abs(f); a != 0 && (a >= 1e15 || a < 1e-5) {
		s := strconv.FormatFloat(f, 'E', -1, 64)
		mantissa, exp, _ := strings.Cut(s, "E")
		sign := exp[:1]
		digits := strings.TrimLeft(exp[1:], "0")
		if len(digits) < 2 {
			digits = strings.Repeat("0", 2-len(digits)) + digits
		}
		return mantissa + "E" + sign + digits
	}
	return strconv.FormatFloat(f, 'f', -1, 64)
}

// dateText is a date as ToString has it in the invariant culture.
func dateText(v Value) string {
	return clr.DateText(v.Seen.Text, v.Of == "DateTimeOffset")
}

// valueType is the type of the values of a dictionary, nil where that is not told.
func valueType(t *model.Type) *model.Type {
	if t == nil {
		return nil
	}
	if u := t.Unwrapped(); len(u.Args) == 2 {
		return u.Args[1]
	}
	return nil
}

package sharp

import (
	"math"
	"slices"
	"strconv"
	"strings"

	"vetta/internal/code"
	"vetta/internal/decoder/clr"
	"vetta/internal/markup"
	"vetta/internal/model"
)

// declared is the type of the source that a type is, nil for none.
func (m *Machine) declared(t *model.Type) *code.Declared {
	if t == nil || t.Unwrapped().Model == nil {
		return nil
	}
	return m.world.OfModel(t.Unwrapped().Model)
}

// zero is what a variable of a type holds before it is given anything.
func (m *Machine) zero(t *model.Type) Value {
	if t == nil || t.Kind == model.Optional || !clr.IsValue(t) || m.calls > maxCalls {
		return Value{}
	}
	m.calls++ // of a struct that holds itself there is none
	defer func() { m.calls-- }()
	if t.Model != nil && t.Model.Kind == model.Struct {
		if d := m.declared(t); d != nil {
			return m.blank(d, t)
		}
	}
	if t.Kind == model.Tuple {
		l := &list{}
		for _, a := range t.Args {
			l.items = append(l.items, m.zero(a))
		}
		return Value{Kind: Tuple, Ref: l}
	}
	if t.Name == "JsonElement" {
		return Value{Kind: Host, Ref: &element{}}
	}
	return m.ValueOf(clr.Zero(t), t)
}

// widens says whether a number of one type becomes one of another by itself.
var widens = map[string]string{
	"sbyte": "short int long float double decimal", "byte": "short ushort int uint long ulong float double decimal", "short": "int long float double decimal",
	"ushort": "int uint long ulong float double decimal", "int": "long float double decimal", "uint": "long ulong float double decimal", "long": "float double decimal", "ulong": "float double decimal",
	"float": "double", "char": "ushort int uint long ulong float double decimal",
}

// convert makes a value one of a type: by itself, or because a cast says so.
func (m *Machine) convert(v Value, t *model.Type, f *frame, cast bool) (Value, error) {
	if t == nil || t.Kind == model.Param || t.Kind == model.Opaque {
		return v, nil
	}
	u := t
	if t.Kind == model.Optional {
		u = t.Args[0]
	}
	if v.Boxed && !isObject(u) {
		v.Boxed = false
		if cast && u.Name != "dynamic" && m.fit(v, u) < hit(true) {
			return v, m.throw("InvalidCastException", "Unable to cast object of type '"+clr.Name(&model.Type{Name: v.Of})+"' to type '"+clr.Name(u)+"'.")
		}
	}
	if u.Name == "dynamic" && u.Model == nil {
		return dynamic(v), nil
	}
	switch v.Kind {
	case String:
		if u.Name == "XNamespace" && u.Model == nil {
			return Value{Kind: Host, Ref: &xmlSpace{v.Text}}, nil
		}
		if u.Name == "XName" && u.Model == nil {
			return Value{Kind: Host, Ref: &xmlName{markup.NameOf(v.Text)}}, nil
		}
	case Unknown, Function, Class:
		return v, nil
	case Default:
		return m.zero(t), nil
	case Cell:
		return v, nil
	case Null:
		switch {
		case !clr.IsValue(u) || t.Kind == model.Optional:
		case cast:
			return v, m.throw("NullReferenceException", "Object reference not set to an instance of an object.")
		default: // of a dynamic: the compiler admits no other
			return v, m.throw("RuntimeBinderException", "Cannot convert null to '"+u.Name+"' because it is a non-nullable value type")
		}
		return v, nil
	case Host:
		if h, ok := v.Ref.(interface {
			cast(m *Machine, t *model.Type) (Value, bool, error)
		}); ok {
			out, known, err := h.cast(m, t)
			if err != nil || known {
				return out, err
			}
		}
		return v, nil
	}
	if u.Model != nil && u.Model.Kind == model.Enum {
		switch v.Kind {
		case Enum:
			if v.Model == u.Model || !cast {
				return v, nil
			}
			return Value{Kind: Enum, Int: v.Int, Model: u.Model}, nil
		case Int:
			return Value{Kind: Enum, Int: v.Int, Model: u.Model}, nil
		}
		return v, m.throw("InvalidCastException", "Unable to cast object.")
	}
	if v.Kind == Int || v.Kind == Float || v.Kind == Decimal || v.Kind == Char || v.Kind == Enum {
		if clr.IsNumber(u) || u.Name == "char" && u.Model == nil {
			return m.asNumber(v, u, cast)
		}
	}
	if v.Kind == Items && clr.IsBytes(u) && len(v.list().items) == 0 {
		s, _ := clr.Base64("")
		return m.ValueOf(s, nil), nil
	}
	if v.Kind == Items && u.Kind == model.Unique && !v.list().set {
		return Value{Kind: Items, Ref: &list{items: unique(v.list().items), set: true}}, nil
	}
	if cast && clr.IsNumber(u) && v.Kind == String || cast && u.Name == "string" && u.Model == nil && v.Kind != String {
		return v, m.throw("InvalidCastException", "Unable to cast object of type '"+v.Of+"' to type '"+clr.Name(u)+"'.")
	}
	if v.Kind == Plain && v.Of == "DateTime" && u.Name == "DateTimeOffset" {
		out := v
		out.Of = "DateTimeOffset"
		out.Seen.Text = strings.TrimSuffix(out.Seen.Text, "Z") + "+00:00"
		return out, nil
	}
	return m.implicit(v, u, f)
}

// dynamic is a value as one whose operations are found when they run: a cast takes what holds an object as the value in
// it, and a token as what it is a token of.
func dynamic(v Value) Value {
	v.Boxed = false
	held := func(e Value) bool {
		_, isToken := e.Ref.(*node)
		return e.Boxed || isToken
	}
	all := func(some []Value) []Value {
		if !slices.ContainsFunc(some, held) { // it stays the one that others hold too
			return some
		}
		out := make([]Value, len(some))
		for i, e := range some {
			out[i] = dynamic(e)
		}
		return out
	}
	switch r := v.Ref.(type) {
	case *node:
		own := *r
		own.dyn = own.token
		v.Ref = &own
	case *list:
		r.items = all(r.items)
	case *entries:
		r.vals = all(r.vals)
	}
	return v
}

// implicit does a conversion that a class of the app declares.
func (m *Machine) implicit(v Value, t *model.Type, f *frame) (Value, error) {
	d := m.declared(t)
	if d == nil || v.Kind == Instance && v.object().Class == d {
		return v, nil
	}
	for _, c := range d.Parts {
		for _, fn := range c.Funcs {
			if (fn.Name == "implicit" || fn.Name == "explicit") && len(fn.Params) == 1 {
				if p := m.typ(fn.Params[0].Type, &frame{class: d, fn: fn}); p != nil && m.fits(v, p) {
					return m.run(fn, &frame{fn: fn, class: d}, nil, []Value{v})
				}
			}
		}
	}
	return v, nil
}

// asNumber is a number as one of another type.
func (m *Machine) asNumber(v Value, t *model.Type, cast bool) (Value, error) {
	if v.Of == t.Name {
		return v, nil
	}
	if v.Kind == Char {
		v = numberOf(int64([]rune(v.Text)[0]), "char")
		if t.Name == "char" {
			return v, nil
		}
	}
	n, ok := v.number()
	if v.Kind == Enum {
		n, ok = float64(v.Int), true
	}
	if !ok {
		return v, nil
	}
	whole := v.Kind == Int || v.Kind == Enum
	switch {
	case t.Name == "decimal":
		switch {
		case whole:
			return decimalOf(strconv.FormatInt(v.Int, 10)), nil
		case v.Kind == Float:
			d, ok := clr.Decimal(strconv.FormatFloat(v.Float, 'g', 15, 64))
			if !ok {
				return v, m.throw("OverflowException", "Value was either too large or too small for a Decimal.")
			}
			return decimalOf(d), nil
		}
		return v, nil
	case t.Name == "double":
		return floatOf(n), nil
	case t.Name == "float":
		return Value{Kind: Float, Float: float64(float32(n)), Of: "float"}, nil
	case t.Name == "char":
		return Value{Kind: Char, Text: string(rune(v.Int)), Of: "char"}, nil
	}
	bits, signed := clr.Bits(t)
	if bits == 0 {
		return v, nil
	}
	i := v.Int
	if !whole {
		if math.IsNaN(n) || math.IsInf(n, 0) {
			return numberOf(math.MinInt64, t.Name), nil
		}
		i = int64(math.Trunc(n))
	}
	switch {
	case bits == 8 && signed:
		i = int64(int8(i))
	case bits == 8:
		i = int64(uint8(i))
	case bits == 16 && signed:
		i = int64(int16(i))
	case bits == 16:
		i = int64(uint16(i))
	case bits == 32 && signed:
		i = int64(int32(i))
	case bits == 32:
		i = int64(uint32(i))
	}
	return numberOf(i, t.Name), nil
}

// fits says whether a value may be handed to what is declared with a type, as far as that is told.
func (m *Machine) fits(v Value, t *model.Type) bool { return m.fit(v, t) > 0 }

// fit says how well a value fits a type: 0 not at all.
func (m *Machine) fit(v Value, t *model.Type) int {
	if t == nil || t.Kind == model.Param {
		return 2
	}
	u := t.Unwrapped()
	if u.Model == nil && u.Kind == model.Named && (u.Name == "object" || u.Name == "dynamic") {
		return 1
	}
	switch v.Kind {
	case Null, Default, Unknown:
		if clr.IsValue(u) && t.Kind != model.Optional && v.Kind == Null {
			return 0
		}
		return 2
	case Cell:
		return 3
	case Function:
		if u.Kind != model.Opaque {
			return 0
		}
		c := v.Ref.(*closure)
		if c.fn != nil && len(u.Args) > 0 && len(u.Args[0].Args) != len(c.fn.Params) {
			return 0
		}
		return 3
	case Bool:
		return hit(u.Name == "bool")
	case Int, Float, Decimal:
		switch {
		case u.Name == v.Of:
			return 4
		case strings.Contains(" "+widens[v.Of]+" ", " "+u.Name+" "):
			return 2
		}
		return 0
	case Char:
		return hit(u.Name == "char")
	case String:
		if u.Name == "XName" || u.Name == "XNamespace" {
			return 2
		}
		return hit(u.Name == "string")
	case Enum:
		return hit(u.Model == v.Model)
	case Plain:
		return hit(u.Name == v.Of)
	case Items:
		if u.Kind == model.List || u.Kind == model.Unique || u.Model != nil && u.Model.Collection != nil {
			return 3
		}
		return hit(u.Name == "IEnumerable" || u.Name == "byte[]")
	case Entries:
		return hit(u.Kind == model.Map || u.Model != nil && u.Model.Collection != nil)
	case Instance:
		if u.Model == nil {
			return 0
		}
		for d := v.object().Class; d != nil; d = m.super(d) {
			if d.Model == u.Model {
				return 4
			}
		}
		return m.implements(v.object().Class, u.Model)
	case Host:
		if h, ok := v.Ref.(interface {
			is(name string) (bool, bool)
		}); ok {
			is, known := h.is(u.Name)
			if known {
				return hit(is)
			}
		}
		return 1
	case Class:
		return hit(u.Name == "Type")
	case Tuple:
		return hit(u.Kind == model.Tuple)
	}
	return 1
}

func hit(yes bool) int {
	if yes {
		return 4
	}
	return 0
}

// implements says whether a class implements an interface of the source.
func (m *Machine) implements(d *code.Declared, of *model.Model) int {
	for ; d != nil; d = m.super(d) {
		for _, c := range d.Parts {
			for _, t := range c.Supers {
				if s := m.world.Named(t.Name, len(t.Args), code.At{File: c.File, Space: d.Space, In: d}); s != nil && s.Model == of {
					return 3
				}
			}
		}
	}
	return 0
}

// isOf says whether a value is of a type.
func (m *Machine) isOf(v Value, t *model.Type, x *code.Expr) (bool, error) {
	if v.IsNull() {
		return false, nil
	}
	if v.Kind == Unknown || t == nil {
		return false, unfollowed("whether it is of a type", x.Pos)
	}
	if v.Kind == Host {
		if h, ok := v.Ref.(interface {
			is(name string) (bool, bool)
		}); ok {
			name := t.Unwrapped().Name
			if name == "" {
				name = t.Unwrapped().Class
			}
			if n, isNode := v.Ref.(*node); isNode {
				m.asksKind(n.v, name)
			}
			is, known := h.is(name)
			if known {
				return is, nil
			}
		}
		return false, unfollowed("whether it is a "+t.Written(), x.Pos)
	}
	u := t.Unwrapped()
	if v.Kind == Int || v.Kind == Float || v.Kind == Decimal {
		return u.Name == v.Of && u.Model == nil || u.Name == "object", nil
	}
	return m.fit(v, t) > 0, nil
}

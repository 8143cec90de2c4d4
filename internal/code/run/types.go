package run

import (
	"slices"
	"strings"

	"vetta/internal/code"
	"vetta/internal/model"
)

// Type is a type at run time. Nil is dynamic.
type Type struct {
	Name   string
	Class  *code.Class // nil for one of the platform
	Args   []*Type     // nil for what is not said
	Null   bool        // it takes null
	Yields *Type       // of a function, what it yields; Args are what it takes
	Names  []string    // of a record, of its named fields, which are the last of Args
}

// The types of the platform that are met most.
var (
	intType     = &Type{Name: "int"}
	doubleType  = &Type{Name: "double"}
	numType     = &Type{Name: "num"}
	stringType  = &Type{Name: "String"}
	boolType    = &Type{Name: "bool"}
	nullType    = &Type{Name: "Null", Null: true}
	objectType  = &Type{Name: "Object"}
	voidType    = &Type{Name: "void", Null: true}
	untypedList = &Type{Name: "List", Args: []*Type{nil}}
	jsonMap     = &Type{Name: "Map", Args: []*Type{stringType, nil}}
)

func listOf(elem *Type) *Type   { return &Type{Name: "List", Args: []*Type{elem}} }
func iterOf(elem *Type) *Type   { return &Type{Name: "Iterable", Args: []*Type{elem}} }
func setOf(elem *Type) *Type    { return &Type{Name: "Set", Args: []*Type{elem}} }
func mapOf(k, v *Type) *Type    { return &Type{Name: "Map", Args: []*Type{k, v}} }
func (t *Type) takesNull() bool { return t == nil || t.Null || t.Name == "dynamic" }

// arg is an argument of a type, nil where it has none.
func (t *Type) arg(i int) *Type {
	if t == nil || i >= len(t.Args) {
		return nil
	}
	return t.Args[i]
}

// nullable is the type that takes null too.
func (t *Type) nullable() *Type {
	if t.takesNull() {
		return t
	}
	n := *t
	n.Null = true
	return &n
}

// solid is the type without null.
func (t *Type) solid() *Type {
	if t == nil || !t.Null {
		return t
	}
	n := *t
	n.Null = false
	return &n
}

// is says whether the type has a name.
func (t *Type) is(names ...string) bool { return t != nil && slices.Contains(names, t.Name) }

// String is the type as messages of the VM have it.
func (t *Type) String() string {
	if t == nil {
		return "dynamic"
	}
	var b strings.Builder
	switch {
	case t.Name == "Function" && (t.Yields != nil || t.Args != nil):
		b.WriteString("(" + joined(t.Args) + ") => " + t.Yields.String())
		if t.Null {
			return "(" + b.String() + ")?"
		}
		return b.String()
	case t.Name == "Record":
		b.WriteString("(" + joined(t.Args) + ")")
	default:
		b.WriteString(t.Name)
		if len(t.Args) > 0 {
			b.WriteString("<" + joined(t.Args) + ">")
		}
	}
	if t.Null && t.Name != "Null" && t.Name != "void" {
		b.WriteByte('?')
	}
	return b.String()
}

func joined(types []*Type) string {
	var names []string
	for _, a := range types {
		names = append(names, a.String())
	}
	return strings.Join(names, ", ")
}

// iterables are the classes that a list and a set are.
var supers = map[string][]string{
	"int": {"num", "Comparable"}, "double": {"num", "Comparable"}, "num": {"Comparable"}, "String": {"Comparable", "Pattern"},
	"List": {"Iterable", "EfficientLengthIterable"}, "Set": {"Iterable", "EfficientLengthIterable"}, "DateTime": {"Comparable"},
	"Duration": {"Comparable"}, "BigInt": {"Comparable"}, "LinkedHashMap": {"Map"}, "HashMap": {"Map"}, "SplayTreeMap": {"Map"},
	"LinkedHashSet": {"Set", "Iterable"}, "UnmodifiableListView": {"List", "Iterable"}, "UnmodifiableMapView": {"Map"},
	"FormatException": {"Exception"}, "TypeError": {"Error"}, "_TypeError": {"TypeError", "Error"}, "ArgumentError": {"Error"},
	"RangeError": {"ArgumentError", "Error"}, "IndexError": {"RangeError", "ArgumentError", "Error"}, "StateError": {"Error"},
	"NoSuchMethodError": {"Error"}, "UnsupportedError": {"Error"}, "UnimplementedError": {"UnsupportedError", "Error"},
	"LateInitializationError": {"Error"}, "LateError": {"LateInitializationError", "Error"}, "ConcurrentModificationError": {"Error"},
	"_Exception": {"Exception"}, "AssertionError": {"Error"}, "CheckedFromJsonException": {"Exception"}, "StackOverflowError": {"Error"},
	"MissingRequiredKeysException": {"BadKeyException", "Exception"}, "DisallowedNullValueException": {"BadKeyException", "Exception"},
	"UnrecognizedKeysException": {"BadKeyException", "Exception"}, "_CastError": {"CastError", "TypeError", "Error"},
}

// subtype says whether each value of a is one of b; legacy says that null is of every type.
func (m *Machine) subtype(a, b *Type, legacy bool) bool {
	switch {
	case b == nil || b.Name == "dynamic" || b.Name == "void" || b.Name == "Object" && b.Null:
		return true
	case a == nil:
		return b.Name == "Object" && legacy
	case a.Name == "Never":
		return true
	case a.Name == "Null":
		return b.Null || legacy || b.Name == "Null"
	case a.Null && !b.Null && !legacy:
		return false
	case b.Name == "Object":
		return true
	case b.is("FutureOr", "Future"):
		return m.subtype(a, b.arg(0), legacy)
	case b.Name == "Function":
		return a.Name == "Function" && (b.Yields == nil || len(a.Args) == len(b.Args) && m.subtype(a.Yields, b.Yields, legacy))
	case b.Name == "Record":
		return a.Name == "Record" && len(a.Args) == len(b.Args) && slices.Equal(a.Names, b.Names) && m.subtypes(a.Args, b.Args, legacy)
	}
	if rep := representation(b); rep != nil && !sameClass(a, b) {
		return m.subtype(a, m.resolve(rep.Type, m.p.unitOf(rep.File), m.own(b)), legacy)
	}
	if rep := representation(a); rep != nil && !sameClass(a, b) {
		return m.subtype(m.resolve(rep.Type, m.p.unitOf(rep.File), m.own(a)), b, legacy)
	}
	if sameClass(a, b) {
		if len(a.Args) == 0 || len(b.Args) == 0 {
			return len(b.Args) == 0 || !slices.ContainsFunc(b.Args, func(t *Type) bool { return t != nil })
		}
		return m.subtypes(a.Args, b.Args, legacy)
	}
	if a.Class != nil {
		for _, s := range m.supersOf(a) {
			if m.subtype(s, b, legacy) {
				return true
			}
		}
		return false
	}
	if slices.Contains(supers[a.Name], b.Name) {
		return b.is("Comparable", "Pattern") || m.subtypes(a.Args, b.Args, legacy) || len(b.Args) == 0
	}
	return false
}

func sameClass(a, b *Type) bool {
	return a.Class == b.Class && (a.Class != nil || a.Name == b.Name)
}

func (m *Machine) subtypes(a, b []*Type, legacy bool) bool {
	if len(a) != len(b) {
		return false
	}
	for i := range a {
		if !m.subtype(a[i], b[i], legacy) {
			return false
		}
	}
	return true
}

// supersOf are the types that the class of a type extends, implements or mixes in, with its arguments.
func (m *Machine) supersOf(t *Type) (out []*Type) {
	by := bindings{}
	for i, g := range t.Class.Generics {
		by[g] = t.arg(i)
	}
	for _, s := range t.Class.Supers {
		out = append(out, m.resolve(s, m.p.unitOf(t.Class.File), by))
	}
	if t.Class.Kind == "enum" {
		out = append(out, &Type{Name: "Enum"})
	}
	return out
}

// join is the least type that two are.
func (m *Machine) lub(a, b *Type) *Type {
	switch {
	case a == nil || b == nil:
		return nil
	case m.subtype(a, b, false):
		return b
	case m.subtype(b, a, false):
		return a
	case a.Name == "Null":
		return b.nullable()
	case b.Name == "Null":
		return a.nullable()
	case a.Null != b.Null:
		if m.subtype(a.solid(), b.solid(), false) {
			return b.nullable()
		}
		if m.subtype(b.solid(), a.solid(), false) {
			return a.nullable()
		}
	}
	number := func(t *Type) bool { return t.is("int", "double", "num") }
	if number(a) && number(b) {
		n := *numType
		n.Null = a.Null || b.Null
		return &n
	}
	if sameClass(a, b) && len(a.Args) == len(b.Args) && a.Name != "Function" {
		j := *a
		j.Null, j.Args = a.Null || b.Null, nil
		for i := range a.Args {
			j.Args = append(j.Args, m.lub(a.Args[i], b.Args[i]))
		}
		return &j
	}
	o := *objectType
	o.Null = a.Null || b.Null
	if a.Class != nil && b.Class != nil {
		for _, s := range m.supersOf(a) {
			if s != nil && s.Class != nil && m.subtype(b, s, true) {
				c := *s
				c.Null = o.Null
				return &c
			}
		}
	}
	return &o
}

// bindings are what type parameters stand for.
type bindings map[string]*Type

// resolve finds what a type that is written in a file means.
func (m *Machine) resolve(t *model.Type, u *code.Unit, by bindings) *Type {
	if t == nil {
		return nil
	}
	if cached, ok := m.types[typeKey{t, u}]; ok {
		return cached
	}
	r, open := m.resolved(t, u, by, 0)
	if !open {
		m.types[typeKey{t, u}] = r
	}
	return r
}

type typeKey struct {
	t *model.Type
	u *code.Unit
}

// resolved is resolve; open says that the type depends on what type parameters stand for.
func (m *Machine) resolved(t *model.Type, u *code.Unit, by bindings, deep int) (r *Type, open bool) {
	if t == nil || deep > 40 {
		return nil, false
	}
	args := func(of []*model.Type) (out []*Type) {
		for _, a := range of {
			r, o := m.resolved(a, u, by, deep+1)
			out, open = append(out, r), open || o
		}
		return out
	}
	switch t.Kind {
	case model.Optional:
		r, open = m.resolved(t.Args[0], u, by, deep+1)
		return r.nullable(), open
	case model.Tuple:
		r = &Type{Name: "Record"}
		for _, a := range t.Args {
			if name, ok := strings.CutPrefix(a.Name, "field "); ok {
				r.Names = append(r.Names, name)
				a = a.Args[0]
			}
			of, o := m.resolved(a, u, by, deep+1)
			r.Args, open = append(r.Args, of), open || o
		}
		return r, open
	case model.Opaque:
		if t.Name == "nothing" {
			return voidType, false
		}
		r = &Type{Name: "Function"}
		if len(t.Args) == 2 {
			r.Args = args(t.Args[0].Args)
			if r.Args == nil {
				r.Args = []*Type{}
			}
			yields, o := m.resolved(t.Args[1], u, by, deep+1)
			r.Yields, open = yields, open || o
		}
		return r, open
	case model.List, model.Unique, model.Map:
		name := map[model.TypeKind]string{model.List: "List", model.Unique: "Set", model.Map: "Map"}[t.Kind]
		return &Type{Name: name, Args: args(t.Args)}, open
	}
	if bound, ok := by[t.Name]; ok && len(t.Args) == 0 {
		return bound, true
	}
	switch t.Name {
	case "dynamic":
		return nil, false
	case "void":
		return voidType, false
	case "Null":
		return nullType, false
	case "Comparable":
		if len(t.Args) == 0 {
			return &Type{Name: "Comparable", Args: []*Type{nil}}, false
		}
	case "Object", "int", "double", "num", "String", "bool", "Never":
		return &Type{Name: t.Name}, false
	case "Function":
		return &Type{Name: "Function"}, false
	}
	if c := m.p.class(t.Name, u); c != nil {
		r = &Type{Name: c.Name, Class: c, Args: args(t.Args)}
		for len(r.Args) < len(c.Generics) {
			r.Args = append(r.Args, nil)
		}
		return r, open
	}
	if a, of, ok := m.p.alias(t.Name, u); ok && a.Type != nil {
		inner := bindings{}
		for i, g := range a.Generics {
			if i < len(t.Args) {
				inner[g], _ = m.resolved(t.Args[i], u, by, deep+1)
			} else {
				inner[g] = nil
			}
		}
		r, _ = m.resolved(a.Type, of, inner, deep+1)
		return r, true
	}
	name := model.SimpleName(t.Name)
	r = &Type{Name: name, Args: args(t.Args)}
	switch name {
	case "List", "Iterable", "Set", "Map", "Future", "FutureOr":
		n := 1
		if name == "Map" {
			n = 2
		}
		for len(r.Args) < n {
			r.Args = append(r.Args, nil)
		}
	case "LinkedHashMap", "HashMap":
		r.Name = "Map"
	}
	return r, open
}

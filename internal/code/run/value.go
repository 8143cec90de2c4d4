package run

import (
	"slices"
	"strconv"
	"strings"

	"vetta/internal/code"
	"vetta/internal/model"
)

// Kind is what kind of value it is.
type Kind uint8

// The kinds of value.
const (
	Null Kind = iota
	Bool
	Int
	Double
	String
	Lists // Ref is a *List: a list, a set, or what lazily goes over one
	Maps  // Ref is a *Map
	Obj   // Ref is an *Object: an instance, a constant of an enum
	Fn    // Ref is a *Closure
	Class // Ref is a *Type: a class, to call or ask for its static members
	Hosts // Ref is a Host: an object of the platform
	Recs  // Ref is a *Rec
	Unknown
)

// Value is what a name or an expression stands for. The zero Value is null.
type Value struct {
	Kind Kind
	Open bool  // Static is not known: only of what a Go function makes
	N    int64 // of an Int; 1 of a Bool that is true
	F    float64
	S    string // of a String; of an Unknown one, as much of its text as is known, with {} for the rest
	Ref  any
	// Static is the type that the compiler knows it to have, nil for dynamic.
	Static *Type
	// At is the place in the document that it is the value of, nil for one that code made; From are the places that
	// it depends on.
	At   *Place
	From []*Place
	// Out is what it has to do with the world outside of the app's code, of an Unknown one.
	Out *Outside
	// Fails says that reading it fails: see Survey.
	Fails bool
}

// Outside is what is known of a value that the platform, or a package, hands to the app.
type Outside struct {
	Request *Request
	Texts   []string // those that it was made of
	Method  string   // of a request, among them
	Text    bool     // it is the body of the answer to Request
	Type    *Type    // as what a client is asked to decode the body, nil for what is not said
}

// Request is what an app asks for.
type Request struct {
	Method string
	Path   string
	Way    []model.Through // the functions through which the app comes to its answer
}

// List is the value of a list, a set, or an iterable.
type List struct {
	Elem  *Type
	Items []Value
	Kind  string // List, Set, Iterable
	Cast  *Type  // each element is checked for this when it is read
	// Lazy yields the elements when they are asked for, nil where they are there.
	Lazy func() ([]Value, error)
	Some *Value // what its elements are like, where it is not known how many there are
	// Source is what a lazy one maps, and Item makes of an element of that its own; nil where it filters, or is not lazy.
	Source *Value
	Item   func(i int, v Value) (Value, error)
	Fixed  bool // nothing may be put into it or taken out
}

// Map is the value of a map.
type Map struct {
	Key, Val *Type
	Keys     []Value
	Vals     []Value
	index    map[string]int
	Cast     bool
	Fixed    bool
	Some     *Value // as of a List
	Names    *Value // and of its keys
	// Rest is where it stands in a document of which only Keys are known, and that those in Gone are absent; nil
	// where that is all.
	Rest *Place
	Gone []string
}

// Object is an instance of a class of the app.
type Object struct {
	Type   *Type
	Fields map[string]*Value
	Enum   string // the name of the constant
	Index  int
	// Made is the constructor, or the function of the class, that has made it of a value of the document; nil for
	// none.
	Made  *Made
	Null  bool // perhaps there is none
	depth int  // of forks where it was made
}

// Made is how an instance has come from the document.
type Made struct {
	Fn   *code.Func
	Args Args
	Of   *Type  // the class, with its arguments
	Base *Place // the place that it is made of
	At   int    // the argument that is the value there
	Only bool   // it is not known yet what it holds
}

// Closure is a function as a value.
type Closure struct {
	Fn    *code.Func
	Env   *env
	Frame *frame
	This  *Value
	Of    *Type // of a constructor, the class
	Host  func(args Args) (Value, error)
	Sig   *Type // its type, where that is told beforehand
}

// Rec is the value of a record.
type Rec struct {
	Names []string // "" for those without
	Vals  []Value
}

// Host is an object of the platform.
type Host interface {
	// Class is the name of its class.
	Class() string
}

// Args are what a function is given.
type Args struct {
	List  []Value
	Names []string // of the last of List
	Types []*Type
}

// named is an argument by its name.
func (a Args) named(name string) (Value, bool) {
	for i, n := range a.Names {
		if n == name {
			return a.List[len(a.List)-len(a.Names)+i], true
		}
	}
	return Value{}, false
}

// plain are the arguments without a name.
func (a Args) plain() []Value { return a.List[:len(a.List)-len(a.Names)] }

// at is an argument by its place, null where there is none.
func (a Args) at(i int) Value {
	if p := a.plain(); i < len(p) {
		return p[i]
	}
	return Value{}
}

// Place is a place in the document, as code reaches it.
type Place struct {
	Up   *Place // nil of the root
	Kind Step
	Name string
	N    int
	subs map[string]*Place
}

// Step is how a place is reached from what it is in.
type Step uint8

// The steps.
const (
	Root   Step = iota
	Member      // the member Name
	Each        // an element of a list, whichever
	Elem        // the element N
	Any         // a member of an object, whichever
	Key         // the name of such a member
)

// sub is a place in another.
func (p *Place) sub(kind Step, name string, n int) *Place {
	key := string(rune('0'+kind)) + name + strconv.Itoa(n)
	if s := p.subs[key]; s != nil {
		return s
	}
	if p.subs == nil {
		p.subs = map[string]*Place{}
	}
	s := &Place{Up: p, Kind: kind, Name: name, N: n}
	p.subs[key] = s
	return s
}

// Path are the steps from the root, which is not among them.
func (p *Place) Path() []*Place {
	var out []*Place
	for ; p != nil && p.Kind != Root; p = p.Up {
		out = append(out, p)
	}
	slices.Reverse(out)
	return out
}

// within says whether a place is another or in it.
func (p *Place) within(outer *Place) bool {
	for ; p != nil; p = p.Up {
		if p == outer {
			return true
		}
	}
	return false
}

// String is the place for people who look for faults.
func (p *Place) String() string {
	var b strings.Builder
	for _, s := range p.Path() {
		b.WriteString([]string{"", "." + s.Name, "[*]", "[" + strconv.Itoa(s.N) + "]", ".*", "~"}[s.Kind])
	}
	return "$" + b.String()
}

// The makers of plain values.
func boolOf(b bool) Value {
	v := Value{Kind: Bool, Static: boolType}
	if b {
		v.N = 1
	}
	return v
}
func intOf(n int64) Value      { return Value{Kind: Int, N: n, Static: intType} }
func doubleOf(f float64) Value { return Value{Kind: Double, F: f, Static: doubleType} }
func textOf(s string) Value    { return Value{Kind: String, S: s, Static: stringType} }
func hostOf(h Host) Value      { return Value{Kind: Hosts, Ref: h, Static: &Type{Name: h.Class()}} }

func newList(elem *Type, items []Value) Value {
	return Value{Kind: Lists, Ref: &List{Elem: elem, Items: items, Kind: "List"}, Static: listOf(elem)}
}

func newMap(key, val *Type) (*Map, Value) {
	m := &Map{Key: key, Val: val}
	return m, Value{Kind: Maps, Ref: m, Static: mapOf(key, val)}
}

// as is the value with another static type.
func (v Value) as(t *Type) Value {
	v.Static = t
	return v
}

// IsNull says whether it is null.
func (v Value) IsNull() bool { return v.Kind == Null }

func (v Value) isUnknown() bool { return v.Kind == Unknown }

// isOpen says whether it is an object of which nothing is known.
func (v Value) isOpen() bool {
	d := v.dict()
	return v.Kind == Maps && d.Rest != nil && len(d.Keys)+len(d.Gone) == 0 && d.Some == nil
}

func (v Value) list() *List {
	l, _ := v.Ref.(*List)
	return l
}

func (v Value) dict() *Map {
	m, _ := v.Ref.(*Map)
	return m
}

func (v Value) object() *Object {
	o, _ := v.Ref.(*Object)
	return o
}

// number is the value of a number.
func (v Value) number() (float64, bool) {
	switch v.Kind {
	case Int:
		return float64(v.N), true
	case Double:
		return v.F, true
	}
	return 0, false
}

// keyText tells keys of a map apart.
func (v Value) keyText() string {
	switch v.Kind {
	case String:
		return "s" + v.S
	case Int, Bool:
		return string(rune('a'+v.Kind)) + strconv.FormatInt(v.N, 10)
	case Double:
		if v.F == float64(int64(v.F)) {
			return string(rune('a'+Int)) + strconv.FormatInt(int64(v.F), 10)
		}
		return "d" + strconv.FormatFloat(v.F, 'g', -1, 64)
	case Obj:
		if o := v.object(); o.Enum != "" {
			return "e" + o.Type.Name + "." + o.Enum
		}
	case Class:
		return "c" + v.Ref.(*Type).String()
	}
	return ""
}

// find is where a map has a key, -1 for nowhere; known is false where that cannot be told.
func (d *Map) find(key Value) (at int, known bool) {
	text := key.keyText()
	if text == "" && key.Kind != Null {
		return -1, false
	}
	if len(d.Keys) > 12 {
		if d.index == nil {
			d.index = make(map[string]int, len(d.Keys))
			for i, k := range d.Keys {
				d.index[k.keyText()] = i
			}
		}
		if at, ok := d.index[text]; ok {
			return at, true
		}
		return -1, true
	}
	for i := range d.Keys {
		if d.Keys[i].keyText() == text {
			return i, true
		}
	}
	return -1, true
}

// put gives a key a value.
func (d *Map) put(key, val Value) {
	if at, _ := d.find(key); at >= 0 {
		d.Vals[at] = val
		return
	}
	d.Keys, d.Vals = append(d.Keys, key), append(d.Vals, val)
	if d.index != nil {
		d.index[key.keyText()] = len(d.Keys) - 1
	}
}

// remove takes a key out.
func (d *Map) remove(at int) {
	d.Keys, d.Vals, d.index = slices.Delete(d.Keys, at, at+1), slices.Delete(d.Vals, at, at+1), nil
}

// unknown is a value of a type that depends on some others.
func unknown(t *Type, of ...Value) Value {
	v := Value{Kind: Unknown, Static: t}
	for _, o := range of {
		v.From = union(v.From, o.places())
		v.Fails = v.Fails || o.Fails
		if o.Out != nil && v.Out == nil {
			v.Out = o.Out
		}
	}
	return v
}

// places are those that a value depends on, with what is in it.
func (v Value) places() []*Place { return v.placesIn(4) }

func (v Value) placesIn(deep int) []*Place {
	out := v.From
	if v.At != nil {
		out = union(out, []*Place{v.At})
	}
	if deep == 0 {
		return out
	}
	switch ref := v.Ref.(type) {
	case *List:
		if ref.Some != nil {
			out = union(out, ref.Some.placesIn(deep-1))
		}
		for _, e := range ref.Items[:min(len(ref.Items), 20)] {
			out = union(out, e.placesIn(deep-1))
		}
	case *Map:
		if ref.Some != nil {
			out = union(out, ref.Some.placesIn(deep-1))
		}
		for _, e := range ref.Vals[:min(len(ref.Vals), 20)] {
			out = union(out, e.placesIn(deep-1))
		}
	case *Object:
		if ref.Made != nil {
			return union(out, []*Place{ref.Made.Base})
		}
		for _, f := range ref.Fields {
			out = union(out, f.placesIn(deep-1))
		}
	}
	return out
}

func union(a, b []*Place) []*Place {
	if len(b) == 0 {
		return a
	}
	out := a
	for _, p := range b {
		if !slices.Contains(out, p) {
			out = append(out[:len(out):len(out)], p)
		}
	}
	return out
}

// richer says whether more is known of one value than of another.
func (v Value) rank() int {
	switch v.Kind {
	case Null:
		return 0
	case Obj:
		if v.object().Made != nil {
			return 5
		}
		return 4
	case Lists:
		if l := v.list(); l.Some != nil || len(l.Items) > 0 {
			return 4
		}
		return 1
	case Maps:
		if d := v.dict(); d.Some != nil || len(d.Keys) > 0 {
			return 4
		}
		return 1
	case Unknown:
		if v.At != nil {
			return 3
		}
		return 2
	}
	return 1
}

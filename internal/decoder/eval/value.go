// Package eval runs code of an app on one value: the functions by which adapters and serializers of its own make
// something of what a library reads. It goes over the tree of package code. Where it meets a form that it does not
// know, or a function of a platform whose rules it has not, it says so, and nothing is known of the value.
package eval

import (
	"strconv"

	"vetta/internal/code"
	"vetta/internal/decoder"
	"vetta/internal/model"
)

// Value is what a name or an expression stands for. The zero Value is null.
type Value struct {
	Seen  decoder.Seen // of what is plain: scalars, enum constants, instances of models
	Model *model.Model // of an enum constant or an instance; of a class as a value where Class is set
	Class string       // a class by its name, which is called or asked for its members
	Host  Host         // an object of a library, with methods of its own
	Items *[]Value     // a list, which may be added to
	Set   bool         // of Items: each is kept once
	Names []string     // of Items: the keys of a map
	fn    *closure
	obj   *object
}

// Host is an object that a library gives to code.
type Host interface {
	// Member answers a property, or a method that is called with arguments; known is false where it has none of
	// the name that is followed.
	Member(name string, args []Value, types []*model.Type) (v Value, known bool, err error)
	// Is says whether it is an instance of a class of a name; known is false where that cannot be told.
	Is(class string) (is, known bool)
}

// Holder is a Host that has elements, as a list has them.
type Holder interface {
	Items() []Value
}

// closure is a function as a value.
type closure struct {
	params []string
	body   []code.Stmt
	env    *env
	in     *code.Routine
	m      *machine
	host   func(args []Value) (Value, error)
}

// Of is a plain value.
func Of(s decoder.Seen) Value {
	switch s.Kind {
	case decoder.SeenList, decoder.SeenSet, decoder.SeenMap:
		items := make([]Value, len(s.Elems))
		for i, e := range s.Elems {
			items[i] = Of(e)
		}
		v := Value{Items: &items, Set: s.Kind == decoder.SeenSet}
		if s.Kind == decoder.SeenMap {
			v.Names = append([]string{}, s.Names...)
		}
		return v
	}
	return Value{Seen: s}
}

// Text is a string.
func Text(s string) Value { return Value{Seen: decoder.Seen{Kind: decoder.SeenString, Text: s}} }

// Int is a whole number.
func Int(n int64) Value {
	return Value{Seen: decoder.Seen{Kind: decoder.SeenInt, Text: strconv.FormatInt(n, 10)}}
}

// Bool is a truth value.
func Bool(b bool) Value { return Value{Seen: decoder.Bool(b)} }

// List is a list of values.
func List(items ...Value) Value { return Value{Items: &items} }

// HostOf is an object of a library.
func HostOf(h Host) Value { return Value{Host: h} }

// Call calls a function that is a value, with a receiver where it has one; known is false for any other value.
func (v Value) Call(this *Value, args ...Value) (out Value, known bool, err error) {
	if v.fn == nil || v.fn.m == nil {
		return Value{}, false, nil
	}
	out, err = v.fn.m.call(v.fn, this, args...)
	return out, true, err
}

// IsNull says whether it is null.
func (v Value) IsNull() bool {
	return v.Host == nil && v.Items == nil && v.fn == nil && v.obj == nil && v.Class == "" && v.Seen.Kind == decoder.SeenNull
}

// isUnknown says whether it is a value that is not known.
func (v Value) isUnknown() bool { return v.Seen.Kind == decoder.SeenUnknown }

func (v Value) text() (string, bool) {
	return v.Seen.Text, v.Items == nil && v.Host == nil && v.Seen.Kind == decoder.SeenString
}

func (v Value) whole() (int64, bool) {
	if v.Seen.Kind != decoder.SeenInt {
		return 0, false
	}
	n, err := strconv.ParseInt(v.Seen.Text, 10, 64)
	return n, err == nil
}

func (v Value) number() (float64, bool) {
	if v.Seen.Kind != decoder.SeenInt && v.Seen.Kind != decoder.SeenFloat {
		return 0, false
	}
	f, err := strconv.ParseFloat(v.Seen.Text, 64)
	return f, err == nil
}

// Result is the value as an app sees it; known is false where it holds what cannot be told.
func (v Value) Result() (s decoder.Seen, known bool) {
	left := maxItems
	return v.result(maxDeep, &left)
}

// result takes at most so many levels and elements: a list may hold itself.
func (v Value) result(deep int, left *int) (s decoder.Seen, known bool) {
	switch {
	case v.Items != nil:
		s.Kind = decoder.SeenList
		if v.Set {
			s.Kind = decoder.SeenSet
		}
		if v.Names != nil {
			s.Kind, s.Names = decoder.SeenMap, v.Names
		}
		s.Elems = []decoder.Seen{}
		for _, e := range *v.Items {
			if *left--; *left < 0 || deep == 0 {
				return decoder.Seen{Kind: decoder.SeenUnknown}, false
			}
			of, known := e.result(deep-1, left)
			if !known {
				return s, false
			}
			s.Elems = append(s.Elems, of)
		}
		return s, true
	case v.Host != nil || v.fn != nil || v.obj != nil || v.Class != "":
		return decoder.Seen{Kind: decoder.SeenUnknown}, false
	}
	return v.Seen, true
}

// maxItems is how many elements a value may have, maxText how many bytes a text: code may make them grow without end.
const (
	maxItems = 10000
	maxText  = 1 << 16
	maxDeep  = 100
)

// Thrown is an exception that code, or a library that it calls, throws.
type Thrown struct {
	Class   string // without its package
	Message string
	Cause   *decoder.Error // what the library told, nil where the code throws by itself
}

func (t *Thrown) Error() string { return t.Class + ": " + t.Message }

// Err is the exception as an error of decoding.
func (t *Thrown) Err() *decoder.Error {
	if t.Cause != nil {
		return t.Cause
	}
	return &decoder.Error{Kind: t.Class, Reason: decoder.ReasonCode, Message: t.Error()}
}

// Unfollowed is what is not followed, and where.
type Unfollowed struct {
	Why string
	Pos model.Pos
}

func (u *Unfollowed) Error() string { return u.Why }

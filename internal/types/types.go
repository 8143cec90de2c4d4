// Package types is the types of TypeScript, as its compiler has them once names are looked up and mapped, conditional and
// indexed types are worked out: what they are made of, what keys they have, and which of them fits which. The rules are
// those of TypeScript 5.9, measured (testdata/truth/typescript).
package types

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"vetta/internal/model"
)

// Kind is what a type is.
type Kind uint8

// The kinds.
const (
	Any Kind = iota
	Unknown
	Never
	Null
	Undefined
	String
	Number
	Boolean
	BigInt
	Symbol
	NonPrimitive // object
	StringLiteral
	NumberLiteral
	BoolLiteral
	BigIntLiteral
	Template   // a string of Texts with what Elems are between them
	Cased      // a string that Text (Uppercase and the like) leaves as it is
	EnumNumber // an enum that has a member which is computed: any number
	Object     // members
	Array      // of Elems[0]
	Tuple      // of Elems
	Union      // one of Elems
	Brand      // Elems[0], a primitive, and also Elems[1], an object: what no literal is
	Function   // what is called
	BuiltIn    // an instance of a class of the platform, named Text
	Unresolved // what is not followed; Text says why
	Parameter  // a type parameter that nothing is given for, named Text
	KeyOf      // the keys of a type parameter
)

// Type is a type.
type Type struct {
	Kind  Kind
	Text  string
	Texts []string
	Elems []*Type
	// Of a tuple: which elements may be left out, and which one stands for any number, -1 for none.
	Optional []bool
	Rest     int
	object   *Members
	lazy     func() *Members
	Written  string // as the source has it, for people
	// Decl is the declaration whose type it is, and Args what it is given; nil where it has no name.
	Decl *Decl
	Args []*Type
	Enum bool // it is of an enum
	// Node is what an object type without a name was written as, which only its reader knows; nil for others.
	Node   any
	Inline *model.Model // of such a type
	Label  string       // the name of the value that such a type was inferred of, "" for none
}

// Decl is a named declaration of a type.
type Decl struct {
	Name  string
	Model *model.Model
	// Make makes Model where nobody has asked for it yet.
	Make func() *model.Model
	// Of is its type with the arguments given.
	Of func(args []*Type) *Type
	// Schema is what a validator lets through as the type, a *schema.Schema, and Library the validator; nil where the type
	// is not inferred of one.
	Schema  any
	Library string
	// Loose says that null fits everywhere: strictNullChecks is off.
	Loose bool
}

// Members are what an object type has.
type Members struct {
	Props []*Prop
	Index []Index
	// Called says that it can be called, Symbols that it has a member whose name is a symbol: no data is of either.
	Called, Symbols bool
	Lost            string // why not all of them are known, "" where they are
}

// Index is an index signature: keys of Key lead to values of Value.
type Index struct{ Key, Value *Type }

// Prop is a member.
type Prop struct {
	Name     string
	Optional bool
	// How it is there where JSON does not carry it: Method, Accessor, Private, "" for a plain member.
	How   How
	Field *model.Field
	of    func() *Type
	typ   *Type
}

// How says why no document can have a member.
type How string

// The ways.
const (
	Plain    How = ""
	Method   How = "method"
	Accessor How = "accessor"
	Private  How = "private"
)

// NewProp is a member whose type is worked out when it is asked for.
func NewProp(name string, optional bool, how How, field *model.Field, of func() *Type) *Prop {
	return &Prop{Name: name, Optional: optional, How: how, Field: field, of: of}
}

// Type is the type of the member, without what being optional adds.
func (p *Prop) Type() *Type {
	if p.typ == nil {
		p.typ = p.of()
	}
	return p.typ
}

// With is the member with something else about it.
func (p *Prop) With(optional bool, of func() *Type) *Prop {
	if of == nil {
		of = p.Type
	}
	return &Prop{Name: p.Name, Optional: optional, How: p.How, Field: p.Field, of: of}
}

// The types that hold nothing else.
var (
	AnyType       = &Type{Kind: Any, Written: "any"}
	UnknownType   = &Type{Kind: Unknown, Written: "unknown"}
	NeverType     = &Type{Kind: Never, Written: "never"}
	NullType      = &Type{Kind: Null, Written: "null"}
	UndefinedType = &Type{Kind: Undefined, Written: "undefined"}
	StringType    = &Type{Kind: String, Written: "string"}
	NumberType    = &Type{Kind: Number, Written: "number"}
	BooleanType   = &Type{Kind: Boolean, Written: "boolean"}
	BigIntType    = &Type{Kind: BigInt, Written: "bigint"}
	SymbolType    = &Type{Kind: Symbol, Written: "symbol"}
	ObjectType    = &Type{Kind: NonPrimitive, Written: "object"}
	FunctionType  = &Type{Kind: Function, Written: "Function"}
	TrueType      = &Type{Kind: BoolLiteral, Text: "true", Written: "true"}
	FalseType     = &Type{Kind: BoolLiteral, Text: "false", Written: "false"}
)

// Literal is the type of one text.
func Literal(text string) *Type {
	return &Type{Kind: StringLiteral, Text: text, Written: quote(text)}
}

// NumberOf is the type of one number.
func NumberOf(n float64) *Type {
	text := Digits(n)
	return &Type{Kind: NumberLiteral, Text: text, Written: text}
}

// Digits is a number as a property of its name is written (ECMA-262, Number::toString).
func Digits(n float64) string {
	if n == 0 {
		return "0"
	}
	abs := n
	if abs < 0 {
		abs = -abs
	}
	if abs >= 1e-6 && abs < 1e21 {
		return strconv.FormatFloat(n, 'f', -1, 64)
	}
	s := strconv.FormatFloat(n, 'e', -1, 64)
	mantissa, exp, _ := strings.Cut(s, "e")
	sign := exp[:1]
	return mantissa + "e" + sign + strings.TrimLeft(exp[1:], "0")
}

func quote(text string) string {
	return "'" + strings.NewReplacer(`\`, `\\`, `'`, `\'`, "\n", `\n`).Replace(text) + "'"
}

// Lazy is an object type whose members are worked out when they are asked for.
func Lazy(written string, members func() *Members) *Type {
	return &Type{Kind: Object, Written: written, lazy: members}
}

// Members are those of an object type. Types are worked out as they are asked for, by one goroutine.
func (t *Type) Members() *Members {
	if t.object == nil {
		t.object = &Members{} // while it is worked out
		if t.lazy != nil {
			if o := t.lazy(); o != nil {
				t.object = o
			}
		}
	}
	return t.object
}

// Become makes a type that stood for another while that was worked out the other.
func (t *Type) Become(of *Type) {
	*t = *of
	if of.Kind == Object {
		t.object, t.lazy = nil, of.Members
	}
}

// Named is a type under the name that a declaration gives it.
func (t *Type) Named(written string, d *Decl, args []*Type) *Type {
	own := *t
	if t.Kind == Object {
		own.object, own.lazy = nil, t.Members
	}
	own.Written, own.Decl, own.Args = written, d, args
	return &own
}

// Prop is the member of a name, nil for none.
func (o *Members) Prop(name string) *Prop {
	for _, p := range o.Props {
		if p.Name == name {
			return p
		}
	}
	return nil
}

// ListOf is the type of arrays.
func ListOf(elem *Type, written string) *Type {
	return &Type{Kind: Array, Elems: []*Type{elem}, Written: written}
}

// Lost is a type that is not followed.
func Lost(why string) *Type { return &Type{Kind: Unresolved, Text: why, Written: "?"} }

// UnionOf is the type of what is of one of some, nested unions taken apart and what is there twice left out.
func UnionOf(all ...*Type) *Type {
	var flat []*Type
	var add func(t *Type)
	add = func(t *Type) {
		switch {
		case t.Kind == Never:
		case t.Kind == Union:
			for _, e := range t.Elems {
				add(e)
			}
		case !slices.ContainsFunc(flat, func(o *Type) bool { return o == t || Same(o, t) }):
			flat = append(flat, t)
		}
	}
	for _, t := range all {
		add(t)
	}
	for _, t := range flat {
		switch t.Kind {
		case Any:
			return AnyType
		case Unknown:
			return UnknownType
		}
	}
	if slices.ContainsFunc(flat, func(t *Type) bool { return t == TrueType }) && slices.ContainsFunc(flat, func(t *Type) bool { return t == FalseType }) {
		i := slices.IndexFunc(flat, func(t *Type) bool { return t.Kind == BoolLiteral })
		flat[i] = BooleanType
		flat = slices.DeleteFunc(flat, func(t *Type) bool { return t.Kind == BoolLiteral })
	}
	switch len(flat) {
	case 0:
		return NeverType
	case 1:
		return flat[0]
	}
	names := make([]string, len(flat))
	for i, t := range flat {
		names[i] = t.String()
	}
	return &Type{Kind: Union, Elems: flat, Written: strings.Join(names, " | ")}
}

// Each are the types that a value may be of one of: those of a union, true and false of boolean where apart says so.
func (t *Type) Each(apart bool) []*Type {
	switch {
	case t.Kind == Union && apart:
		var all []*Type
		for _, e := range t.Elems {
			all = append(all, e.Each(true)...)
		}
		return all
	case t.Kind == Union:
		return t.Elems
	case t.Kind == Boolean && apart:
		return []*Type{TrueType, FalseType}
	case t.Kind == Never:
		return nil
	}
	return []*Type{t}
}

// Without is a union without the members that leave says so of.
func (t *Type) Without(leave func(*Type) bool) *Type {
	all := t.Each(false)
	kept := slices.DeleteFunc(slices.Clone(all), leave)
	if len(kept) == len(all) {
		return t
	}
	return UnionOf(kept...)
}

// Takes says whether a union has a member of a kind, or the type is of it.
func (t *Type) Takes(k Kind) bool {
	return slices.ContainsFunc(t.Each(false), func(e *Type) bool { return e.Kind == k })
}

// Same says whether two types are the same without a look at what objects have.
func Same(a, b *Type) bool {
	if a == b {
		return true
	}
	if a.Kind != b.Kind || a.Text != b.Text || len(a.Elems) != len(b.Elems) || a.Decl != b.Decl || len(a.Args) != len(b.Args) || a.Enum != b.Enum {
		return false
	}
	if a.Kind == Object && a.Decl == nil {
		return false
	}
	for i := range a.Elems {
		if !Same(a.Elems[i], b.Elems[i]) {
			return false
		}
	}
	for i := range a.Args {
		if !Same(a.Args[i], b.Args[i]) {
			return false
		}
	}
	return slices.Equal(a.Texts, b.Texts) && slices.Equal(a.Optional, b.Optional) && a.Rest == b.Rest
}

// Key tells types apart that are not one in memory.
func (t *Type) Key() string {
	var b strings.Builder
	t.key(&b, 0)
	return b.String()
}

func (t *Type) key(b *strings.Builder, depth int) {
	b.WriteByte(byte('A' + t.Kind))
	b.WriteString(strconv.Quote(t.Text))
	switch {
	case t.Decl != nil:
		fmt.Fprintf(b, "@%p", t.Decl)
	case t.Kind == Object:
		fmt.Fprintf(b, "#%p", t)
	}
	for _, text := range t.Texts {
		b.WriteString(strconv.Quote(text))
	}
	if depth > 12 {
		return
	}
	for i, e := range t.Elems {
		b.WriteByte(',')
		if i < len(t.Optional) && t.Optional[i] {
			b.WriteByte('?')
		}
		if t.Kind == Tuple && i == t.Rest {
			b.WriteByte('*')
		}
		e.key(b, depth+1)
	}
	for _, a := range t.Args {
		b.WriteByte('<')
		a.key(b, depth+1)
	}
	b.WriteByte(';')
}

// String is the type as the source has it, or as it would be written.
func (t *Type) String() string {
	if t.Written != "" {
		return t.Written
	}
	return "?"
}

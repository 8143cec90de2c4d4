// Package classes is what class-transformer makes of a document, and class-validator says of that: instances of classes whose
// members have decorators. The rules are those of class-transformer 0.5 and class-validator 0.15, measured
// (testdata/truth/typescript, forms ctv-).
package classes

import (
	"slices"

	"vetta/internal/code"
	"vetta/internal/model"
	"vetta/internal/schema"
	"vetta/internal/types"
	"vetta/internal/wire"
)

// Name is what settings call the libraries.
const Name = "class-validator"

// Modules are those that decorators and functions are imported from.
var Modules = []string{"class-transformer", "class-validator"}

type (
	// Value is that of package schema.
	Value = schema.Value
	run   = schema.Run
	steps = []wire.Step
)

// Class is a class as the source declares it.
type Class struct {
	Name   string
	Scope  schema.Scope
	Super  *Class
	Fields []Field
	Type   *types.Type
	told   bool // the value says which class it is of
}

// Field is a member of a class that holds a value.
type Field struct {
	Name  string
	Marks []*code.Expr // its decorators
	Value *code.Expr   // its initialiser, nil for none
	Type  *types.Type
	Never bool // a method, or an accessor without a setter: nothing is put there
	Model *model.Field
}

// World also finds classes.
type World interface {
	schema.World
	Class(s schema.Scope, name string) *Class
}

// Options are those that the app gives the two libraries.
type Options struct {
	Transforms, Validates bool // it asks them at all
	Extraneous            bool // excludeExtraneousValues
	Defaults              bool // exposeDefaultValues
	Implicit              bool // enableImplicitConversion
	Whitelist, Forbid     bool
	SkipMissing           bool
	Lost                  string // why they are not known, "" where they are
}

// maker does what the two libraries do.
type maker struct {
	w       World
	options func() Options
	made    map[*Class]*schema.Schema
	o       Options
}

// maxDeep is how far instances are gone into.
const maxDeep = 200

// mark is a decorator of one of the libraries by its name, with its arguments; ok is false for others.
func (m *maker) mark(e *code.Expr, s schema.Scope) (name string, args []*code.Expr, ok bool) {
	callee := e
	if e.Op == code.Call {
		callee, args = e.Args[0], e.Args[1:]
	}
	if callee.Op != code.Name {
		return "", nil, false
	}
	module, of, ok := m.w.Import(s, callee.Text)
	return of, args, ok && slices.Contains(Modules, module)
}

// find is the decorator of a name of a field, in a class or those above; nil for none.
func (m *maker) find(c *Class, field, name string) (args []*code.Expr, in *Class, found bool) {
	for at := c; at != nil; at = at.Super {
		for _, f := range at.Fields {
			if f.Name != field {
				continue
			}
			for _, e := range f.Marks {
				if n, args, ok := m.mark(e, at.Scope); ok && n == name {
					return args, at, true
				}
			}
		}
	}
	return nil, nil, false
}

// fields are those of a class and the classes above, the highest first, each name once.
func fields(c *Class) (all []string) {
	for at := c; at != nil; at = at.Super {
		var own []string
		for _, f := range at.Fields {
			if !slices.Contains(all, f.Name) {
				own = append(own, f.Name)
			}
		}
		all = append(own, all...)
	}
	return all
}

// declared is a field as the class or the nearest one above has it.
func declared(c *Class, name string) *Field {
	for at := c; at != nil; at = at.Super {
		for i := range at.Fields {
			if at.Fields[i].Name == name {
				return &at.Fields[i]
			}
		}
	}
	return nil
}

// instance is a new instance with what initialisers give it.
func (m *maker) instance(r *run, c *Class) Value {
	made := Value{Kind: schema.Object, Class: c}
	for at, chain := c, []*Class(nil); ; at = at.Super {
		if at != nil {
			chain = append(chain, at)
			continue
		}
		for _, of := range slices.Backward(chain) {
			for _, f := range of.Fields {
				if f.Value == nil || f.Never {
					continue
				}
				v, ok := schema.Eval(m.w, of.Scope, f.Value)
				if !ok {
					v = Value{Kind: schema.Other}
				}
				made.Set(f.Name, v)
			}
		}
		return made
	}
}

// make makes an instance of a value (TransformOperationExecutor.transform). scalar is String, Number, Boolean or Date where
// that is the type, c the class where it is one.
func (m *maker) make(r *run, v Value, c *Class, scalar string, depth int) Value {
	if depth > maxDeep {
		r.Unknown = true
		return v
	}
	if v.Kind == schema.Array {
		out := Value{Kind: schema.Array, Elems: make([]Value, len(v.Elems))}
		for i, e := range v.Elems {
			out.Elems[i] = m.make(r, e, c, scalar, depth+1)
		}
		return out
	}
	if v.Kind <= schema.Null {
		return v
	}
	switch scalar {
	case "String":
		return schema.Text(schema.TextOf(v))
	case "Number":
		return schema.Num(schema.NumberOf(v))
	case "Boolean":
		return Value{Kind: schema.Bool, Bool: schema.Truthy(v)}
	case "Date":
		ms, ok := schema.DateOf(v)
		if !ok {
			return Value{Kind: schema.Other}
		}
		return Value{Kind: schema.Date, Number: ms}
	}
	if v.Kind != schema.Object {
		return v
	}
	if c != nil && c.told {
		c, _ = v.Class.(*Class)
		v.Class = nil
	}
	made := Value{Kind: schema.Object}
	if c != nil {
		made = m.instance(r, c)
	}
	for _, key := range m.keys(v, c) {
		m.put(r, &made, v, key, c, depth)
	}
	return made
}

// keys are those of a document that are gone through, and the ones that decorators expose.
func (m *maker) keys(v Value, c *Class) []string {
	keys := slices.Clone(v.Names)
	if c == nil {
		return keys
	}
	var exposed []string
	for _, name := range fields(c) {
		if args, in, ok := m.find(c, name, "Expose"); ok {
			exposed = append(exposed, m.exposedAs(name, args, in))
		}
	}
	if m.o.Extraneous {
		keys = exposed
	} else {
		keys = append(keys, exposed...)
	}
	var out []string
	for _, k := range keys {
		if _, _, excluded := m.find(c, k, "Exclude"); excluded || slices.Contains(out, k) || k == "__proto__" || k == "constructor" {
			continue
		}
		out = append(out, k)
	}
	return out
}

// exposedAs is the key that a field is exposed under.
func (m *maker) exposedAs(name string, args []*code.Expr, in *Class) string {
	if len(args) > 0 {
		if v, ok := schema.Eval(m.w, in.Scope, args[0]); ok {
			if as, has := v.Get("name"); has && as.Kind == schema.String {
				return as.Text
			}
		}
	}
	return name
}

// put gives an instance what a key of the document holds.
func (m *maker) put(r *run, made *Value, from Value, key string, c *Class, depth int) {
	to := key
	if c != nil {
		for _, name := range fields(c) {
			if args, in, ok := m.find(c, name, "Expose"); ok && m.exposedAs(name, args, in) == key {
				to = name
			}
		}
		if f := declared(c, to); f != nil && f.Never {
			return
		}
	}
	sent, _ := from.Get(key)
	if sent.Kind == schema.Undefined && m.o.Defaults {
		return // what is there stays
	}
	var of *Class
	scalar := ""
	if c != nil {
		of, scalar = m.typeOf(r, c, to, &sent)
	}
	final := m.make(r, sent, of, scalar, depth+1)
	if c != nil {
		if args, in, ok := m.find(c, to, "Transform"); ok && len(args) > 0 {
			params := Value{Kind: schema.Object}
			params.Set("value", final)
			params.Set("key", schema.Text(to))
			params.Set("obj", from)
			out, fine := schema.Call(m.w, in.Scope, args[0], params)
			if !fine {
				out = Value{Kind: schema.Other}
			}
			final = out
		}
	}
	made.Set(to, final)
}

// typeOf is the type that a field's values are made: by @Type, or by the declaration where conversion is implicit.
func (m *maker) typeOf(r *run, c *Class, field string, sent *Value) (of *Class, scalar string) {
	args, in, ok := m.find(c, field, "Type")
	if !ok {
		if f := declared(c, field); f != nil && m.o.Implicit && len(f.Marks) > 0 {
			return nil, reflected(f.Type)
		}
		return nil, ""
	}
	if len(args) == 0 || args[0].Op != code.Lambda || len(args[0].Body) != 1 || args[0].Body[0].Value == nil {
		r.Unknown = true
		return nil, ""
	}
	named := func(e *code.Expr) (*Class, string) {
		for e.Op == code.As {
			e = e.Args[0]
		}
		if e.Op != code.Name {
			r.Unknown = true
			return nil, ""
		}
		if found := m.w.Class(in.Scope, e.Text); found != nil {
			return found, ""
		}
		switch e.Text {
		case "String", "Number", "Boolean", "Date":
			return nil, e.Text
		}
		r.Unknown = true
		return nil, ""
	}
	of, scalar = named(args[0].Body[0].Value)
	if len(args) > 1 && args[1].Op == code.Dict {
		of = m.subtype(of, args[1], sent, named)
	}
	return of, scalar
}

// reflected is the class that the compiler notes of a declared type (emitDecoratorMetadata).
func reflected(t *types.Type) string {
	if t == nil {
		return ""
	}
	switch rest := t.Without(func(t *types.Type) bool { return t.Kind == types.Undefined }); rest.Kind {
	case types.String, types.StringLiteral, types.Template:
		return "String"
	case types.Number, types.NumberLiteral, types.EnumNumber:
		return "Number"
	case types.Boolean, types.BoolLiteral:
		return "Boolean"
	case types.BuiltIn:
		if rest.Text == "Date" {
			return "Date"
		}
	}
	return ""
}

// subtype is the class that a discriminator tells, of each element of a list by itself.
func (m *maker) subtype(base *Class, options *code.Expr, sent *Value, named func(*code.Expr) (*Class, string)) *Class {
	entry := func(e *code.Expr, key string) *code.Expr {
		for i := 0; e != nil && e.Op == code.Dict && i+1 < len(e.Args); i += 2 {
			if e.Args[i].Text == key {
				return e.Args[i+1]
			}
		}
		return nil
	}
	tells := entry(options, "discriminator")
	property, list := entry(tells, "property"), entry(tells, "subTypes")
	if property == nil || list == nil || list.Op != code.List {
		return base
	}
	of := func(v Value) *Class {
		told, _ := v.Get(property.Text)
		for _, sub := range list.Args {
			if name := entry(sub, "name"); name != nil && name.Text == told.Text && told.Kind == schema.String {
				found, _ := named(entry(sub, "value"))
				return found
			}
		}
		return base
	}
	keeps := entry(options, "keepDiscriminatorProperty")
	strip := func(v Value) Value {
		if keeps != nil && keeps.Text == "true" || v.Kind != schema.Object {
			return v
		}
		out := Value{Kind: schema.Object}
		for i, n := range v.Names {
			if n != property.Text {
				out.Set(n, v.Elems[i])
			}
		}
		return out
	}
	if sent.Kind != schema.Array {
		c := of(*sent)
		*sent = strip(*sent)
		return c
	}
	elems := Value{Kind: schema.Array}
	for _, e := range sent.Elems {
		if c := of(e); c != nil && e.Kind == schema.Object {
			e = strip(e)
			e.Class = c
		}
		elems.Elems = append(elems.Elems, e)
	}
	*sent = elems
	return &Class{told: true}
}

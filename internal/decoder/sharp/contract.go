package sharp

import (
	"slices"
	"strconv"
	"strings"

	"vetta/internal/code"
	"vetta/internal/decoder/clr"
	"vetta/internal/model"
)

// Property is a member of a class as a library knows it, which code of the app may change before any is read.
type Property struct {
	Field    *model.Field
	Name     string // the key
	Type     *model.Type
	Set      bool // it can be given a value
	Ignored  bool
	Required string            // as the library says it, "true" with System.Text.Json
	Said     map[string]string // further options of it, by name: NullValueHandling
}

// Modified are the members of a class as functions of the app leave them (JsonTypeInfo.Properties); ok is false where
// what they do is not followed.
func (c *Code) Modified(t *model.Type, by []*code.Modifier, all []*Property) (left []*Property, ok bool) {
	if c == nil {
		return all, false
	}
	c.lock.Lock()
	defer c.lock.Unlock()
	l := &list{}
	for _, p := range all {
		l.items = append(l.items, Value{Kind: Host, Ref: &property{p: p}})
	}
	m := New(c.World, c.decode)
	info := Value{Kind: Host, Ref: &typeInfo{t: t, props: l}}
	for _, f := range by {
		if _, err := m.Call(f.Fn, f.In, nil, map[string]*model.Type{}, []Value{info}); err != nil {
			return all, false
		}
	}
	for _, v := range l.items {
		p, known := v.Ref.(*property)
		if !known {
			return all, false
		}
		left = append(left, p.p)
	}
	return left, true
}

// Resolved is a member as CreateProperty of a contract resolver of the app's leaves it; ok is false where what that does
// is not followed.
func (c *Code) Resolved(class string, p *Property) (ok bool) {
	if c == nil {
		return false
	}
	c.lock.Lock()
	defer c.lock.Unlock()
	d := c.World.Named(class, 0, code.At{})
	if d == nil {
		return false
	}
	m := New(c.World, c.decode)
	m.left = maxSteps
	fn, in := m.methodOf(d, "CreateProperty", 2)
	if fn == nil {
		return false
	}
	this := m.blank(d, &model.Type{Kind: model.Named, Name: d.Name, Model: d.Model})
	its := &property{p: p, newtonsoft: true}
	out, err := m.Call(fn, in, &this, map[string]*model.Type{}, []Value{{Kind: Host, Ref: &memberInfo{its}}, word("MemberSerialization", "OptOut")})
	return err == nil && out.Ref == any(its)
}

// typeInfo is a JsonTypeInfo.
type typeInfo struct {
	t     *model.Type
	props *list
}

func (i *typeInfo) call(m *Machine, name string, args []Value, _ []*model.Type, _ *code.Expr, _ *frame) (Value, bool, error) {
	if args != nil {
		return Value{}, false, nil
	}
	switch name {
	case "Kind":
		return word("JsonTypeInfoKind", "Object"), true, nil
	case "Type":
		return classOf(m, i.t), true, nil
	case "Properties":
		return Value{Kind: Items, Ref: i.props}, true, nil
	}
	return Value{}, false, nil
}

func classOf(m *Machine, t *model.Type) Value {
	return Value{Kind: Class, Ref: &typed{t: t, d: m.declared(t)}}
}

// property is a JsonPropertyInfo, or a JsonProperty of Newtonsoft.Json.
type property struct {
	p          *Property
	newtonsoft bool
}

func (p *property) call(m *Machine, name string, args []Value, _ []*model.Type, _ *code.Expr, _ *frame) (Value, bool, error) {
	if args != nil {
		return Value{}, false, nil
	}
	switch name {
	case "Name", "PropertyName":
		return TextOf(p.p.Name), true, nil
	case "UnderlyingName":
		return TextOf(p.p.Field.Name), true, nil
	case "PropertyType":
		return classOf(m, p.p.Type), true, nil
	case "IsRequired":
		return BoolOf(p.p.Required == "true"), true, nil
	case "Required":
		required := p.p.Required
		if required == "" {
			required = "Default"
		}
		return word(name, required), true, nil
	case "Set", "Get":
		if name == "Set" && !p.p.Set {
			return Value{}, true, nil
		}
		return Value{Kind: Host, Ref: &opaque{"Delegate"}}, true, nil
	case "Writable":
		return BoolOf(p.p.Set), true, nil
	case "Readable":
		return BoolOf(true), true, nil
	case "Ignored":
		return BoolOf(p.p.Ignored), true, nil
	case "AttributeProvider":
		return Value{Kind: Host, Ref: &memberInfo{p}}, true, nil
	}
	return Value{}, false, nil
}

func (p *property) setMember(name string, v Value) bool {
	said, isWord := v.Ref.(*platformWord)
	switch {
	case (name == "Name" && !p.newtonsoft || name == "PropertyName") && v.Kind == String:
		p.p.Name = v.Text
	case name == "IsRequired" && v.Kind == Bool:
		p.p.Required = ""
		if v.isTrue() {
			p.p.Required = "true"
		}
	case name == "Set" && v.IsNull(), name == "Writable" && v.Kind == Bool:
		p.p.Set = v.isTrue()
	case name == "Ignored" && v.Kind == Bool:
		p.p.Ignored = v.isTrue()
	case name == "Required" && isWord:
		p.p.Required = said.name
	case isWord && (name == "NullValueHandling" || name == "DefaultValueHandling" || name == "ObjectCreationHandling"):
		if p.p.Said == nil {
			p.p.Said = map[string]string{}
		}
		p.p.Said[name] = said.name
	case name == "ShouldSerialize", name == "Get", name == "Order", name == "Readable": // of writing
	default:
		return false
	}
	return true
}

// memberInfo is what reflection knows of a member: a MemberInfo, a provider of attributes.
type memberInfo struct{ p *property }

func (i *memberInfo) is(name string) (bool, bool) {
	switch name {
	case "PropertyInfo":
		return i.p.p.Field.Property != nil, true
	case "FieldInfo":
		return i.p.p.Field.Property == nil, true
	}
	return name == "MemberInfo" || name == "ICustomAttributeProvider", true
}

func (i *memberInfo) call(m *Machine, name string, args []Value, types []*model.Type, _ *code.Expr, _ *frame) (Value, bool, error) {
	f := i.p.p.Field
	switch name {
	case "Name":
		return TextOf(f.Name), args == nil, nil
	case "PropertyType", "FieldType":
		return classOf(m, i.p.p.Type), args == nil, nil
	case "CanWrite":
		return BoolOf(i.p.p.Set), args == nil, nil
	case "IsDefined", "GetCustomAttributes", "GetCustomAttribute":
	default:
		return Value{}, false, nil
	}
	var of *typed
	if len(args) > 0 && args[0].Kind == Class {
		of, _ = args[0].Ref.(*typed)
	} else if len(types) == 1 {
		of = &typed{t: types[0], d: m.declared(types[0])}
	}
	if of == nil || of.t == nil {
		return Value{}, false, nil
	}
	found := &list{}
	for k := range f.Marks {
		mark := &f.Marks[k]
		own := of.d != nil && m.world.Named(mark.Whole, 0, code.At{}) == of.d
		if !own && (of.d != nil || mark.Name != strings.TrimSuffix(model.SimpleName(of.t.Name), "Attribute")) {
			continue
		}
		v := Value{Kind: Host, Ref: &opaque{mark.Name}}
		if own {
			var ok bool
			if v, ok = m.attribute(of.d, mark); !ok {
				return Value{}, false, nil
			}
		}
		found.items = append(found.items, v)
	}
	switch {
	case name == "IsDefined":
		return BoolOf(len(found.items) > 0), true, nil
	case name == "GetCustomAttributes":
		return Value{Kind: Items, Ref: found}, true, nil
	case len(found.items) == 0:
		return Value{}, true, nil
	}
	if _, lib := found.items[0].Ref.(*opaque); lib { // whose members are not known
		return Value{}, false, nil
	}
	return found.items[0], true, nil
}

// attribute is an instance of an attribute of the app's as it stands at a member.
func (m *Machine) attribute(d *code.Declared, mark *model.Annotation) (Value, bool) {
	v := m.blank(d, &model.Type{Kind: model.Named, Name: d.Name, Model: d.Model})
	var given []model.Argument
	var named []model.Argument
	for _, a := range mark.Args {
		switch {
		case a.Name == "extends" || a.Name == "converter" || a.Name == "types":
		case strings.HasPrefix(a.Name, "value"):
			given = append(given, a)
		default:
			named = append(named, a)
		}
	}
	var ctor *code.Func
	for _, part := range d.Parts {
		for _, fn := range part.Funcs {
			if fn.Init && takes(fn, len(given)) {
				ctor = fn
			}
		}
	}
	if ctor == nil && len(given) > 0 {
		return v, false
	}
	own := &frame{class: d}
	var args []Value
	for i, a := range given {
		arg, ok := m.argument(a, m.typ(ctor.Params[min(i, len(ctor.Params)-1)].Type, own))
		if !ok {
			return v, false
		}
		args = append(args, arg)
	}
	if m.build(v, d, ctor, args, nil) != nil {
		return v, false
	}
	for _, a := range named {
		prop, in := m.propOf(d, a.Name)
		if prop == nil {
			return v, false
		}
		arg, ok := m.argument(a, m.typ(prop.Type, &frame{class: in}))
		if !ok {
			return v, false
		}
		if known, err := m.setMember(&v, a.Name, arg, own); !known || err != nil {
			return v, false
		}
	}
	return v, true
}

// argument is what an attribute is given, as a value of a type.
func (m *Machine) argument(a model.Argument, t *model.Type) (Value, bool) {
	if len(a.Texts) != 1 || t == nil {
		return Value{}, false
	}
	text, u := a.Texts[0], t.Unwrapped()
	switch {
	case len(a.Types) == 1:
		return classOf(m, a.Types[0]), true
	case u.Name == "string":
		return TextOf(text), true
	case u.Name == "bool":
		return BoolOf(text == "true"), text == "true" || text == "false"
	case u.Model != nil && u.Model.Kind == model.Enum:
		i := slices.IndexFunc(u.Model.Cases, func(k *model.Case) bool { return k.Name == text && k.Raw != nil })
		if i < 0 {
			return Value{}, false
		}
		return m.constant(u.Model, u.Model.Cases[i]), true
	case clr.IsNumber(u):
		n, err := strconv.ParseInt(text, 10, 64)
		return numberOf(n, u.Name), err == nil
	}
	return Value{}, false
}

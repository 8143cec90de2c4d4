package eval

import (
	"strings"

	"vetta/internal/code"
	"vetta/internal/decoder"
	"vetta/internal/decoder/jvm"
	"vetta/internal/model"
)

// bare is a call by a name alone: of a local closure, of the block's receiver, of a function of the app or of the
// standard library, or of a constructor.
func (m *machine) bare(name string, x *code.Expr, in *frame, e *env) (Value, error) {
	if v, _ := e.find(name); v != nil && v.fn != nil {
		args, err := m.arguments(x, in, e)
		if err != nil {
			return Value{}, err
		}
		return m.call(v.fn, nil, args...)
	}
	if in.f.Scope != nil && in.f.Scope.Class(name) != nil {
		return m.construct(name, x, in, e)
	}
	args, err := m.arguments(x, in, e)
	if err != nil {
		return Value{}, err
	}
	if in.this != nil {
		if v, known, err := m.methodOf(*in.this, name, args, x); known || err != nil {
			return v, err
		}
	}
	if in.f.Scope != nil {
		if f := in.f.Scope.Routine(name); f != nil {
			return m.run(f, args)
		}
	}
	if v, known, err := m.standard(name, args, x); known || err != nil {
		return v, err
	}
	if m.lib != nil {
		if v, known, err := m.lib.Static(Value{}, name, args, x.Types); known || err != nil {
			return v, err
		}
	}
	return Value{}, unfollowed("a call of "+name, x.Pos)
}

// construct makes an instance of a class of the app: of what its primary constructor takes.
func (m *machine) construct(name string, x *code.Expr, in *frame, e *env) (Value, error) {
	var of *model.Model
	if in.f.Scope != nil {
		of = in.f.Scope.Class(name)
	}
	if v, known, err := m.behaving(name, of, x, in, e); known || err != nil {
		return v, err
	}
	if of == nil || of.Kind == model.Enum {
		args, err := m.arguments(x, in, e)
		if err != nil {
			return Value{}, err
		}
		if v, known, err := made(name, args); known || err != nil {
			return v, err
		}
		if m.lib != nil {
			if v, known, err := m.lib.Static(Value{Class: name, Model: of}, "new", args, x.Types); known || err != nil {
				return v, err
			}
		}
		return Value{}, unfollowed("a call of "+name, x.Pos)
	}
	var ctor *model.Method
	for _, k := range of.Ctors {
		if !k.Defaults && len(k.Params) >= len(x.Args)-1 {
			ctor = k
			break
		}
	}
	if ctor == nil || of.Computed {
		return Value{}, unfollowed("how a "+of.Name+" is made", x.Pos)
	}
	given := map[string]Value{}
	place := 0
	for i, a := range x.Args[1:] {
		v, err := m.expr(a, in, e)
		if err != nil {
			return v, err
		}
		label := ""
		if i < len(x.Labels) {
			label = x.Labels[i]
		}
		if label == "" {
			if place >= len(ctor.Params) {
				return v, unfollowed("how a "+of.Name+" is made", x.Pos)
			}
			label = ctor.Params[place].Name
			place++
		}
		given[label] = v
	}
	return instance(of, ctor, given, x)
}

// instance is one of a model, of what a constructor is given.
func instance(of *model.Model, ctor *model.Method, given map[string]Value, x *code.Expr) (Value, error) {
	out := decoder.Seen{Kind: decoder.SeenObject, Type: of.Name}
	fills := map[string]string{} // fields by parameters
	for i, p := range ctor.Params {
		fills[p.Name] = p.Name
		if of.Language != "kotlin" {
			fills[p.Name] = ""
			if i < len(ctor.Fills) {
				fills[p.Name] = ctor.Fills[i]
			}
		}
	}
	byField := map[string]Value{}
	for name, v := range given {
		if fills[name] == "" {
			return Value{}, unfollowed("what the constructor of "+of.Name+" does with "+name, x.Pos)
		}
		byField[fills[name]] = v
	}
	for _, s := range jvm.Chain(&model.Type{Kind: model.Named, Name: of.Name, Model: of}) {
		for _, f := range s.Model.Fields {
			if f.Static {
				continue
			}
			seen := decoder.Seen{Kind: decoder.SeenUnknown}
			if v, ok := byField[f.Name]; ok {
				if v.isUnknown() {
					return v, unfollowed("a value", x.Pos)
				}
				if seen, ok = v.Result(); !ok {
					return v, unfollowed("a value", x.Pos)
				}
				if jvm.Scalar(f.Type.Unwrapped()) == "double" && seen.Kind == decoder.SeenInt {
					seen = decoder.Seen{Kind: decoder.SeenFloat, Text: seen.Text + ".0"}
				}
			} else if f.Default != nil {
				seen = jvm.Constant(f.Default, f.Type)
			}
			out.Names, out.Elems = append(out.Names, f.Name), append(out.Elems, seen)
		}
	}
	return Value{Seen: out, Model: of}, nil
}

// memberOf is a property of a value.
func (m *machine) memberOf(of Value, name string, x *code.Expr) (v Value, known bool, err error) {
	switch {
	case of.Host != nil:
		v, known, err := of.Host.Member(name, nil, nil)
		if items, ok := m.items(of); ok && !known && err == nil {
			return m.listMethod(List(items...), name, nil)
		}
		return v, known, err
	case of.obj != nil:
		return m.field(of, name)
	case of.Class != "":
		return m.ofClass(of, name, x)
	case of.Model != nil && of.Seen.Kind == decoder.SeenEnum:
		return constantMember(of, name)
	case of.Seen.Kind == decoder.SeenObject:
		if s, ok := of.Seen.Get(name); ok && s.Kind != decoder.SeenUnknown {
			v := Of(s)
			v.Model = modelOf(of.Model, name)
			return v, true, nil
		}
		return Value{}, false, nil
	case name == "first" || name == "second" || name == "key" || name == "value":
		if a, b, ok := halves(of); ok && (name == of.Names[0] || name == of.Names[1]) {
			if name == of.Names[0] {
				return a, true, nil
			}
			return b, true, nil
		}
	}
	return m.methodOf(of, name, nil, x)
}

// modelOf is the class of a property that is one of the app's.
func modelOf(of *model.Model, name string) *model.Model {
	if of == nil {
		return nil
	}
	for _, f := range of.Fields {
		if f.Name == name && f.Type != nil {
			return f.Type.Unwrapped().Model
		}
	}
	return nil
}

// ofClass is a member of a class: a constant of an enum, all of them, a class inside it.
func (m *machine) ofClass(of Value, name string, x *code.Expr) (Value, bool, error) {
	if of.Model != nil && of.Model.Kind == model.Enum {
		if name == "entries" {
			return constants(of.Model), true, nil
		}
		for _, k := range of.Model.Cases {
			if k.Name == name {
				return constant(of.Model, name), true, nil
			}
		}
	}
	if of.Model != nil && of.Model.Related != nil {
		if inner := of.Model.Related(of.Class + "." + name); inner != nil {
			if inner.Kind == model.Object {
				return Value{Seen: decoder.Seen{Kind: decoder.SeenObject, Type: inner.Name}, Model: inner}, true, nil
			}
			return Value{Class: of.Class + "." + name, Model: inner}, true, nil
		}
	}
	if m.lib != nil {
		if v, known, err := m.lib.Static(of, name, nil, nil); known || err != nil {
			return v, known, err
		}
	}
	switch of.Class + "." + name {
	case "Int.MAX_VALUE", "Integer.MAX_VALUE":
		return Int(1<<31 - 1), true, nil
	case "Int.MIN_VALUE", "Integer.MIN_VALUE":
		return Int(-1 << 31), true, nil
	}
	if of.Model == nil { // a class inside another: JsonReader.Token
		return Value{Class: of.Class + "." + name}, true, nil
	}
	return Value{}, false, nil
}

func constant(of *model.Model, name string) Value {
	return Value{Seen: decoder.Seen{Kind: decoder.SeenEnum, Text: name, Type: of.Name}, Model: of}
}

func constants(of *model.Model) Value {
	var all []Value
	for _, k := range of.Cases {
		all = append(all, constant(of, k.Name))
	}
	return List(all...)
}

// constantMember is a property of a constant of an enum: what its constructor is given.
func constantMember(of Value, name string) (Value, bool, error) {
	for i, k := range of.Model.Cases {
		if k.Name != of.Seen.Text {
			continue
		}
		switch name {
		case "name", "toString":
			return Text(k.Name), !k.Text || name == "name", nil
		case "ordinal":
			return Int(int64(i)), true, nil
		}
		for _, ctor := range of.Model.Ctors {
			for n, p := range ctor.Params {
				field := p.Name
				if of.Model.Language != "kotlin" && n < len(ctor.Fills) {
					field = ctor.Fills[n]
				}
				if n >= len(k.Args) || field != name && !isGetter(name, field) {
					continue
				}
				s := jvm.Constant(k.Args[n], p.Type)
				return Of(s), s.Kind != decoder.SeenUnknown, nil
			}
		}
	}
	return Value{}, false, nil
}

// isGetter says whether a method gives a field, by its name: getCode, code().
func isGetter(name, field string) bool {
	rest, ok := strings.CutPrefix(name, "get")
	return field != "" && ok && strings.EqualFold(rest, field) || name == field
}

// static is a call of a function of a class.
func (m *machine) static(of Value, name string, args []Value, x *code.Expr, in *frame) (Value, error) {
	if of.Model != nil && of.Model.Kind == model.Enum {
		switch {
		case name == "values" && len(args) == 0:
			return constants(of.Model), nil
		case name == "valueOf" && len(args) == 1:
			text, ok := args[0].text()
			if !ok {
				break
			}
			for _, k := range of.Model.Cases {
				if k.Name == text {
					return constant(of.Model, text), nil
				}
			}
			return Value{}, &Thrown{Class: "IllegalArgumentException", Message: "No enum constant " + of.Model.Name + "." + text}
		}
	}
	if v, known, err := staticOf(of.Class, name, args); known || err != nil {
		return v, err
	}
	if m.lib != nil {
		if v, known, err := m.lib.Static(of, name, args, x.Types); known || err != nil {
			return v, err
		}
	}
	if of.Model != nil && in.f.Scope != nil {
		if f := in.f.Scope.Routine(of.Class + "." + name); f != nil {
			return m.runOn(&of, nil, f, args)
		}
	}
	return Value{}, unfollowed("a call of "+of.Class+"."+name, x.Pos)
}

// method is a call of a method of a value.
func (m *machine) method(of Value, name string, args []Value, x *code.Expr) (Value, error) {
	v, known, err := m.methodOf(of, name, args, x)
	if err == nil && !known {
		err = unfollowed("a call of "+name, x.Pos)
	}
	return v, err
}

func (m *machine) methodOf(of Value, name string, args []Value, x *code.Expr) (Value, bool, error) {
	if v, known, err := m.scoped(of, name, args); known || err != nil {
		return v, known, err
	}
	if name == "equals" && len(args) == 1 {
		same, err := m.equal(of, args[0])
		return Bool(same), err == nil, err
	}
	switch {
	case of.Host != nil:
		if args == nil {
			args = []Value{}
		}
		v, known, err := of.Host.Member(name, args, x.Types)
		if items, ok := m.items(of); ok && !known && err == nil {
			return m.listMethod(List(items...), name, args)
		}
		return v, known, err
	case of.obj != nil:
		return m.invoke(of, name, args)
	case of.fn != nil: // of an interface with one function
		v, err := m.call(of.fn, nil, args...)
		return v, true, err
	case of.IsNull():
		switch name {
		case "isNullOrEmpty", "isNullOrBlank":
			return Bool(true), true, nil
		case "orEmpty":
			return Value{}, false, nil
		}
		return Value{}, false, &Thrown{Class: "NullPointerException", Message: "null"}
	case of.Items != nil:
		return m.listMethod(of, name, args)
	}
	switch of.Seen.Kind {
	case decoder.SeenString:
		return m.textMethod(of.Seen.Text, name, args)
	case decoder.SeenInt, decoder.SeenFloat:
		return numberMethod(of, name, args)
	case decoder.SeenEnum:
		if of.Model != nil && len(args) == 0 {
			return constantMember(of, name)
		}
	case decoder.SeenObject:
		if len(args) == 0 {
			for i, field := range of.Seen.Names {
				if isGetter(name, field) && of.Seen.Elems[i].Kind != decoder.SeenUnknown {
					return Of(of.Seen.Elems[i]), true, nil
				}
			}
		}
	case decoder.SeenBool:
		if name == "toString" {
			return Text(of.Seen.Text), true, nil
		}
	}
	return Value{}, false, nil
}

// scoped are the functions that any value has in Kotlin.
func (m *machine) scoped(of Value, name string, args []Value) (Value, bool, error) {
	if len(args) != 1 || args[0].fn == nil {
		return Value{}, false, nil
	}
	switch name {
	case "let":
		v, err := m.call(args[0].fn, nil, of)
		return v, true, err
	case "run", "use":
		if name == "use" {
			v, err := m.call(args[0].fn, nil, of)
			return v, true, err
		}
		v, err := m.call(args[0].fn, &of)
		return v, true, err
	case "also":
		_, err := m.call(args[0].fn, nil, of)
		return of, true, err
	case "takeIf", "takeUnless":
		v, err := m.call(args[0].fn, nil, of)
		if err != nil || v.Seen.Kind != decoder.SeenBool {
			return Value{}, err == nil && false, err
		}
		if (v.Seen.Text == "true") == (name == "takeIf") {
			return of, true, nil
		}
		return Value{}, true, nil
	}
	return Value{}, false, nil
}

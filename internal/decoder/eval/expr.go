package eval

import (
	"slices"
	"strconv"
	"strings"

	"vetta/internal/code"
	"vetta/internal/code/hand"
	"vetta/internal/decoder"
	"vetta/internal/decoder/jvm"
	"vetta/internal/model"
)

// expr is the value of an expression, with what is done with it.
func (m *machine) expr(x *code.Expr, in *frame, e *env) (Value, error) {
	switch {
	case x == nil || len(x.Args) < needs[x.Op] || x.Op == code.As && x.Type == nil:
		return Value{}, unfollowed("an expression", model.Pos{})
	case m.left <= 0:
		return Value{}, unfollowed("code that does not end", x.Pos)
	}
	m.left--
	if slices.Contains(x.Does.All(), code.Thrown) {
		return Value{}, m.throw(x, in, e)
	}
	v, err := m.plainly(x, in, e)
	if err != nil {
		return v, err
	}
	if len(v.Seen.Text) > maxText || v.Items != nil && len(*v.Items) > maxItems {
		return Value{}, unfollowed("a value that large", x.Pos)
	}
	if m.left -= len(v.Seen.Text) / 256; v.Items != nil { // what is done with it takes as long
		m.left -= len(*v.Items)
	}
	for _, does := range x.Does.All() {
		switch does {
		case code.Forced:
			if v.IsNull() && x.Op != code.As {
				return v, &Thrown{Class: "NullPointerException", Message: "null"}
			}
		case code.Chained:
			if v.IsNull() {
				return v, &chainEnds{}
			}
		case code.Upcast:
		case code.Returned:
			return v, &jump{kind: "return", v: v}
		case code.Yielded:
			return v, &jump{kind: "yield", v: v}
		default:
			return v, unfollowed("what is done with a value", x.Pos)
		}
	}
	return v, nil
}

// needs are how many parts an expression must have; source that is torn may have fewer.
var needs = map[code.Op]int{code.As: 1, code.Plus: 2, code.Binary: 2, code.Unary: 1, code.Index: 2, code.Call: 1}

// chainEnds says that a?.b has found nothing at a: the whole chain is null.
type chainEnds struct{}

func (*chainEnds) Error() string { return "null in a chain" }

func (m *machine) plainly(x *code.Expr, in *frame, e *env) (Value, error) {
	if supers, body := anonymous(x); body != nil {
		return m.without(supers, body, in, e)
	}
	switch x.Op {
	case code.Number:
		return number(x)
	case code.Text:
		return m.template(x, in, e)
	case code.Name:
		return m.name(x, in, e)
	case code.Member, code.Call, code.Index:
		v, err := m.reached(x, in, e)
		if _, ends := err.(*chainEnds); ends { // a?.b is null where a is; what stands behind it goes on
			return Value{}, nil
		}
		return v, err
	case code.As:
		v, err := m.expr(x.Args[0], in, e)
		if err != nil || v.IsNull() {
			return v, err
		}
		is, err := m.isOf(v, x.Type)
		switch {
		case err != nil:
			return v, err
		case is:
			return v, nil
		case x.Does == 0: // as?
			return Value{}, nil
		}
		return v, &Thrown{Class: "ClassCastException", Message: "class cannot be cast to class " + x.Text}
	case code.Is:
		if len(x.Args) != 1 || x.Type == nil {
			break
		}
		v, err := m.expr(x.Args[0], in, e)
		if err != nil {
			return v, err
		}
		is, err := m.isOf(v, x.Type)
		return Bool(is), err
	case code.Plus:
		return m.plus(x, in, e)
	case code.Binary:
		return m.binary(x, in, e)
	case code.Unary:
		v, err := m.expr(x.Args[0], in, e)
		switch {
		case err != nil:
			return v, err
		case x.Text == "!" && v.Seen.Kind == decoder.SeenBool:
			return Bool(v.Seen.Text != "true"), nil
		case x.Text == "-" && v.Seen.Kind == decoder.SeenInt:
			n, _ := v.whole()
			return Int(-n), nil
		case x.Text == "-" && v.Seen.Kind == decoder.SeenFloat:
			f, _ := v.number()
			return double(-f), nil
		}
	case code.Choice:
		return m.choice(x, in, e)
	case code.Lambda:
		return Value{fn: &closure{params: x.Labels, body: x.Body, env: e, in: in.f, m: m}}, nil
	case code.List:
		var items []Value
		for _, a := range x.Args {
			v, err := m.expr(a, in, e)
			if err != nil {
				return v, err
			}
			items = append(items, v)
		}
		return List(items...), nil
	case code.TypeOf:
		if t := x.Type; t != nil && in.f.Language == "kotlin" && jvm.Scalar(t) != "" && t.Name != "Integer" && t.Name != "Character" && len(x.Labels) == 0 {
			return Value{Class: jvm.Scalar(t)}, nil // Int::class.java is the primitive
		} else if t != nil && t.Name != "" {
			return Value{Class: t.Name, Model: t.Model}, nil
		} else if t != nil && x.Text != "" { // List, Map
			return Value{Class: x.Text}, nil
		}
	}
	return Value{}, unfollowed("an expression", x.Pos)
}

func double(f float64) Value {
	return Value{Seen: decoder.Seen{Kind: decoder.SeenFloat, Text: jvm.FloatText(f, 64)}}
}

func number(x *code.Expr) (Value, error) {
	text := strings.ReplaceAll(x.Text, "_", "")
	if n, err := strconv.ParseInt(strings.TrimRight(text, "lL"), 0, 64); err == nil && !strings.ContainsAny(text, "fFdD") {
		return Int(n), nil
	}
	if f, err := strconv.ParseFloat(strings.TrimRight(text, "fFdD"), 64); err == nil {
		return double(f), nil
	}
	return Value{}, unfollowed("the number "+x.Text, x.Pos)
}

// template is a text with values put into it.
func (m *machine) template(x *code.Expr, in *frame, e *env) (Value, error) {
	parts := strings.Split(x.Text, "{}")
	if len(parts) != len(x.Args)+1 {
		if len(x.Args) == 0 {
			return Text(x.Text), nil
		}
		return Value{}, unfollowed("a text", x.Pos)
	}
	var b strings.Builder
	for i, part := range parts {
		b.WriteString(part)
		if i == len(x.Args) {
			break
		}
		v, err := m.expr(x.Args[i], in, e)
		if err != nil {
			return v, err
		}
		text, known := m.written(v)
		if !known {
			return v, unfollowed("a text with a value in it", x.Pos)
		}
		b.WriteString(text)
	}
	return Text(b.String()), nil
}

// written is what toString makes of a value.
func (m *machine) written(v Value) (string, bool) {
	switch v.Seen.Kind {
	case decoder.SeenString, decoder.SeenInt, decoder.SeenBool, decoder.SeenDecimal:
		return v.Seen.Text, v.Host == nil && v.Items == nil
	case decoder.SeenFloat:
		f, err := strconv.ParseFloat(v.Seen.Text, 64)
		return jvm.DoubleToString(f), err == nil
	case decoder.SeenEnum:
		return v.Seen.Text, true
	case decoder.SeenNull:
		return "null", v.IsNull()
	}
	return "", false
}

// name is what a name stands for: a variable, a property around the function, a class.
func (m *machine) name(x *code.Expr, in *frame, e *env) (Value, error) {
	switch x.Text {
	case "null":
		return Value{}, nil
	case "true", "false":
		return Bool(x.Text == "true"), nil
	case "this":
		if in.this != nil {
			return *in.this, nil
		}
	}
	if v, kept := e.find(x.Text); v != nil {
		if v.isUnknown() {
			return Value{}, unfollowed("the value of "+x.Text, x.Pos)
		}
		return read(*v, kept), nil
	}
	if in.this != nil {
		if v, known, err := m.memberOf(*in.this, x.Text, x); known || err != nil {
			return v, err
		}
	}
	if in.f.Scope != nil {
		if init, around := in.f.Scope.Value(x.Text); init != nil {
			return m.expr(init, &frame{f: &code.Routine{Name: x.Text, Language: in.f.Language, Scope: around}, this: in.this}, inside(nil))
		}
		if of := in.f.Scope.Class(x.Text); of != nil {
			return Value{Class: x.Text, Model: of}, nil
		}
	}
	if isClass(x.Text) {
		return Value{Class: x.Text}, nil
	}
	return Value{}, unfollowed("the name "+x.Text, x.Pos)
}

// isClass says whether a name is one of a class, by its first letter.
func isClass(name string) bool { return name != "" && name[:1] == strings.ToUpper(name[:1]) }

// choice is a ?: b, c ? a : b, or a statement with a value.
func (m *machine) choice(x *code.Expr, in *frame, e *env) (Value, error) {
	switch {
	case len(x.Body) == 0 && len(x.Args) == 2:
		v, err := m.expr(x.Args[0], in, e)
		if err != nil || !v.IsNull() {
			return v, err
		}
		return m.expr(x.Args[1], in, e)
	case len(x.Body) > 0 && x.Body[0].Kind == code.Plain && len(x.Args) == 2:
		yes, err := m.truth(x.Body[0].Value, in, e)
		if err != nil {
			return Value{}, err
		}
		if yes {
			return m.expr(x.Args[0], in, e)
		}
		return m.expr(x.Args[1], in, e)
	case len(x.Body) > 0:
		return m.statement(x.Body, in, e)
	}
	return Value{}, unfollowed("a choice", x.Pos)
}

// isOf says whether a value is of a type.
func (m *machine) isOf(v Value, t *model.Type) (bool, error) {
	u := t.Unwrapped()
	name := model.SimpleName(u.Name)
	if u.Kind == model.List || u.Kind == model.Unique {
		name = "List"
	} else if u.Kind == model.Map {
		name = "Map"
	}
	if v.obj != nil {
		if is, known := v.obj.is(name); known {
			return is, nil
		}
		return false, unfollowed("whether it is a "+name, t.Pos)
	}
	if v.Host != nil {
		if is, known := v.Host.Is(name); known {
			return is, nil
		}
		return false, unfollowed("whether it is a "+name, t.Pos)
	}
	switch {
	case name == "Any" || name == "Object":
		return !v.IsNull(), nil
	case v.IsNull():
		return false, nil
	case v.Items != nil:
		isMap := v.Names != nil
		switch name {
		case "Map":
			return isMap, nil
		case "List", "Collection", "Iterable":
			return !isMap && !v.Set, nil
		}
		if jvm.Scalar(u) != "" || name == "String" || name == "Number" {
			return false, nil
		}
	}
	switch v.Seen.Kind {
	case decoder.SeenString:
		return name == "String" || name == "CharSequence", nil
	case decoder.SeenBool:
		return name == "Boolean", nil
	case decoder.SeenInt:
		if name == "Number" {
			return true, nil
		}
		if name == "String" || name == "Boolean" || name == "Double" || name == "Float" || name == "Map" || name == "List" {
			return false, nil
		}
	case decoder.SeenFloat:
		if name == "Number" || name == "Double" {
			return true, nil
		}
		if name == "String" || name == "Boolean" || name == "Int" || name == "Long" || name == "Map" || name == "List" {
			return false, nil
		}
	case decoder.SeenEnum, decoder.SeenObject:
		if u.Model != nil && v.Model != nil {
			return u.Model == v.Model, nil
		}
	}
	return false, unfollowed("whether it is a "+name, t.Pos)
}

// items are the elements of a list, or the numbers of a range.
func (m *machine) items(v Value) ([]Value, bool) {
	if h, ok := v.Host.(Holder); ok && h.Items() != nil {
		return h.Items(), true
	}
	if v.Items == nil || v.Names != nil {
		return nil, false
	}
	return *v.Items, true
}

// arguments are the values that a call is given, with the closures among them.
func (m *machine) arguments(x *code.Expr, in *frame, e *env) ([]Value, error) {
	var args []Value
	for _, a := range x.Args[1:] {
		v, err := m.expr(a, in, e)
		if err != nil {
			return nil, err
		}
		args = append(args, v)
	}
	return args, nil
}

// reached is a member, a call or an element.
func (m *machine) reached(x *code.Expr, in *frame, e *env) (Value, error) {
	switch x.Op {
	case code.Member:
		if len(x.Args) != 1 {
			return Value{}, unfollowed("the name "+x.Text, x.Pos)
		}
		of, err := m.expr(x.Args[0], in, e)
		if err != nil {
			return of, err
		}
		v, known, err := m.memberOf(of, x.Text, x)
		if err == nil && !known && of.Class != "" && in.f.Scope != nil {
			if f := in.f.Scope.Routine(of.Class + "." + x.Text); f != nil && len(f.Params) == 0 {
				return m.run(f, nil)
			}
		}
		if err == nil && !known {
			err = unfollowed("the property "+x.Text, x.Pos)
		}
		return v, err
	case code.Index:
		of, err := m.expr(x.Args[0], in, e)
		if err != nil {
			return of, err
		}
		at, err := m.expr(x.Args[1], in, e)
		if err != nil {
			return at, err
		}
		return m.method(of, "get", []Value{at}, x)
	}
	receiver, name := hand.Method(x)
	if x.Type != nil && receiver == nil { // new
		made := x.Type.Name
		if made == "" { // a list or a map of the platform's
			made = name
		}
		return m.construct(made, x, in, e)
	}
	if receiver == nil {
		return m.bare(name, x, in, e)
	}
	of, err := m.expr(receiver, in, e)
	if err != nil {
		return of, err
	}
	if of.Class != "" && isClass(name) { // Notice.Delay(…)
		return m.construct(of.Class+"."+name, x, in, e)
	}
	args, err := m.arguments(x, in, e)
	if err != nil {
		return of, err
	}
	if of.Class != "" {
		return m.static(of, name, args, x, in)
	}
	return m.method(of, name, args, x)
}

// call calls a closure.
func (m *machine) call(fn *closure, this *Value, args ...Value) (Value, error) {
	if fn.host != nil {
		return fn.host(args)
	}
	e := inside(fn.env)
	if len(fn.params) == 0 && len(args) == 1 {
		e.names["it"] = &args[0]
	}
	if len(fn.params) == 2 && len(args) == 1 {
		if a, b, ok := halves(args[0]); ok {
			args = []Value{a, b}
		}
	}
	for i, name := range fn.params {
		if i < len(args) {
			e.names[name] = &args[i]
		}
	}
	if len(fn.params) > 1 && len(args) == 1 {
		return Value{}, unfollowed("a closure that takes a value apart", model.Pos{})
	}
	v, err := m.block(fn.body, &frame{f: fn.in, this: this}, e)
	if j, left := err.(*jump); left && (j.kind == "yield" || j.kind == "return" && fn.in.Language == "java") {
		return j.v, nil
	}
	if _, ends := err.(*chainEnds); ends {
		return Value{}, nil
	}
	return v, err
}

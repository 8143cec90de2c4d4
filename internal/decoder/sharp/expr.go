package sharp

import (
	"errors"
	"slices"
	"strconv"
	"strings"

	"vetta/internal/code"
	"vetta/internal/model"
)

// chainEnds says that a?.b has found nothing at a: the whole chain is null.
type chainEnds struct{}

func (*chainEnds) Error() string { return "null in a chain" }

// expr is the value of an expression; want is the type that is wanted of it, nil where nothing says.
func (m *Machine) expr(x *code.Expr, f *frame, e *env, want *model.Type) (Value, error) {
	if x == nil {
		return Value{}, unfollowed("an expression", model.Pos{})
	}
	if err := m.step(x.Pos); err != nil {
		return Value{}, err
	}
	does := x.Does.All()
	if slices.Contains(does, code.Thrown) {
		return Value{}, m.thrown(x, f, e)
	}
	v, err := m.plainly(x, f, e, want)
	var ends *chainEnds
	if errors.As(err, &ends) {
		return Value{}, nil
	}
	return m.whole(x, v, err)
}

// linked is what more of a chain stands behind: where a?.b has found nothing, all of the chain is null.
func (m *Machine) linked(x *code.Expr, f *frame, e *env) (Value, error) {
	if x.Op != code.Member && x.Op != code.Call && x.Op != code.Index || slices.Contains(x.Does.All(), code.Thrown) {
		return m.expr(x, f, e, nil)
	}
	if err := m.step(x.Pos); err != nil {
		return Value{}, err
	}
	v, err := m.reached(x, f, e, nil)
	return m.whole(x, v, err)
}

// whole says what an expression comes to as a link of a chain, and refuses what is too large.
func (m *Machine) whole(x *code.Expr, v Value, err error) (Value, error) {
	if err != nil {
		return v, err
	}
	if l := v.list(); v.Kind == Items && l != nil && len(l.items) > maxItems || len(v.Text) > 1<<20 {
		return Value{}, unfollowed("a value that large", x.Pos)
	}
	for _, d := range x.Does.All() {
		if d == code.Chained && v.IsNull() {
			return v, &chainEnds{}
		}
	}
	return v, nil
}

// thrown is what throw throws.
func (m *Machine) thrown(x *code.Expr, f *frame, e *env) error {
	plain := *x
	plain.Does = 0
	if plain.Op == code.Other || plain.Op == code.Name && plain.Text == "" {
		return &rethrow{}
	}
	v, err := m.expr(&plain, f, e, nil)
	if err != nil {
		return err
	}
	if c, ok := v.Ref.(*caught); ok {
		return c.t
	}
	if o := v.object(); o != nil { // an exception of the app's
		t := &Thrown{Class: o.Class.Name, At: m.last}
		if msg := o.Fields["Message"]; msg != nil {
			t.Message = msg.Text
		}
		return t
	}
	return unfollowed("what is thrown", x.Pos)
}

func (m *Machine) plainly(x *code.Expr, f *frame, e *env, want *model.Type) (Value, error) {
	switch x.Op {
	case code.Number:
		return literal(x, want)
	case code.Text:
		return m.text(x, f, e)
	case code.Name:
		return m.name(x, f, e, want)
	case code.Member, code.Call, code.Index:
		return m.reached(x, f, e, want)
	case code.As:
		v, err := m.expr(x.Args[0], f, e, nil)
		if err != nil {
			return v, err
		}
		t := m.typ(x.Type, f)
		if x.Does == 0 { // as
			if is, err := m.isOf(v, t, x); err != nil || !is {
				return Value{}, err
			}
			return v, nil
		}
		return m.convert(v, t, f, true)
	case code.Is:
		v, err := m.expr(x.Args[0], f, e, nil)
		if err != nil {
			return v, err
		}
		is, err := m.isOf(v, m.typ(x.Type, f), x)
		return BoolOf(is), err
	case code.Match:
		v, err := m.expr(x.Args[0], f, e, nil)
		if err != nil {
			return v, err
		}
		yes, err := m.matches(x.Args[1], v, f, e)
		return BoolOf(yes), err
	case code.Plus, code.Binary:
		return m.binary(x, f, e)
	case code.Unary:
		return m.unary(x, f, e, want)
	case code.Choice:
		return m.choice(x, f, e, want)
	case code.Lambda:
		return Value{Kind: Function, Ref: &closure{fn: x.Fn, env: e, frame: f}}, nil
	case code.List:
		return m.collection(x, f, e, want)
	case code.Record:
		return m.record(x, f, e)
	case code.Set:
		return m.set(x, f, e)
	case code.Cascade:
		return m.filled(x, f, e, want)
	case code.TypeOf:
		t := m.typ(x.Type, f)
		return Value{Kind: Class, Ref: &typed{t: t, d: m.declared(t)}}, nil
	case code.Bind: // a variable that is declared where it is handed over
		v, of := Value{}, ""
		if t := m.typ(x.Type, f); t != nil {
			v, of = m.zero(t), t.Unwrapped().Name
		}
		e.names[x.Text] = &v
		return Value{Kind: Cell, Ref: &v, Of: of}, nil
	case code.It:
		if v := e.find("$it"); v != nil {
			return *v, nil
		}
	case code.Other: // a value with a format in a text
		if len(x.Args) == 1 {
			v, err := m.expr(x.Args[0], f, e, nil)
			if err == nil && x.Text != "" {
				return m.formatted(v, strings.TrimLeft(x.Text, ":"), x)
			}
			return v, err
		}
	}
	return Value{}, unfollowed("an expression", x.Pos)
}

// literal is a number as it is written.
func literal(x *code.Expr, want *model.Type) (Value, error) {
	text := strings.ToLower(strings.ReplaceAll(x.Text, "_", ""))
	if strings.HasPrefix(text, "0x") || strings.HasPrefix(text, "0b") {
		n, err := strconv.ParseUint(strings.TrimRight(text, "ul"), 0, 64)
		if err != nil {
			return Value{}, unfollowed("a number", x.Pos)
		}
		return IntOf(int64(n)), nil
	}
	digits := strings.TrimRight(text, "ulfdm")
	switch suffix := text[len(digits):]; {
	case suffix == "m":
		return decimalOf(digits), nil
	case suffix == "f" || suffix == "d" || strings.ContainsAny(digits, ".e"):
		n, err := strconv.ParseFloat(digits, 64)
		if err != nil {
			return Value{}, unfollowed("a number", x.Pos)
		}
		v := floatOf(n)
		if suffix == "f" {
			v.Of, v.Float = "float", float64(float32(n))
		}
		return v, nil
	default:
		n, err := strconv.ParseInt(digits, 10, 64)
		if err != nil {
			return Value{}, unfollowed("a number", x.Pos)
		}
		of := map[string]string{"": "int", "l": "long", "u": "uint", "ul": "ulong", "lu": "ulong"}[suffix]
		if of == "int" && n > 1<<31-1 {
			of = "long"
		}
		return numberOf(n, of), nil
	}
}

// text is a string with values put into it, or a character.
func (m *Machine) text(x *code.Expr, f *frame, e *env) (Value, error) {
	if x.Const {
		return Value{Kind: Char, Text: x.Text, Of: "char"}, nil
	}
	if len(x.Args) == 0 {
		return TextOf(x.Text), nil
	}
	var b strings.Builder
	for i, piece := range x.Labels {
		b.WriteString(piece)
		if i == len(x.Args) {
			break
		}
		v, err := m.expr(x.Args[i], f, e, nil)
		if err != nil {
			return v, err
		}
		s, err := m.written(v, f, x)
		if err != nil {
			return v, err
		}
		b.WriteString(s)
	}
	return TextOf(b.String()), nil
}

// written is what ToString makes of a value.
func (m *Machine) written(v Value, f *frame, x *code.Expr) (string, error) {
	switch v.Kind {
	case Null, Bool, Int, Float, Decimal, Char, String, Enum, Plain:
		return plainText(v), nil
	case Instance:
		if d := v.object().Class; d != nil {
			if fn, of := m.methodOf(d, "ToString", 0); fn != nil {
				out, err := m.run(fn, &frame{fn: fn, class: of, this: &v}, nil, nil)
				return out.Text, err
			}
		}
	case Host:
		if h, ok := v.Ref.(interface {
			call(m *Machine, name string, args []Value, types []*model.Type, x *code.Expr, f *frame) (Value, bool, error)
		}); ok {
			out, known, err := h.call(m, "ToString", nil, nil, x, f)
			if known || err != nil {
				return out.Text, err
			}
		}
	}
	return "", unfollowed("a value as a text", x.Pos)
}

// name is what a name stands for.
func (m *Machine) name(x *code.Expr, f *frame, e *env, want *model.Type) (Value, error) {
	switch x.Text {
	case "null":
		return Value{}, nil
	case "true", "false":
		return BoolOf(x.Text == "true"), nil
	case "default":
		if x.Type != nil {
			return m.zero(m.typ(x.Type, f)), nil
		}
		if want != nil {
			return m.zero(want), nil
		}
		return Value{Kind: Default}, nil
	case "this", "base":
		if f.this != nil {
			return *f.this, nil
		}
	}
	if v := e.find(x.Text); v != nil {
		return *v, nil
	}
	v, known, err := m.member(x.Text, f)
	if known || err != nil {
		return v, err
	}
	if t := m.typeCalled(x, f); t != nil {
		return *t, nil
	}
	return Value{}, unfollowed("the name "+x.Text, x.Pos)
}

// typeCalled is the type that a name, or a chain of names, is; nil for none.
func (m *Machine) typeCalled(x *code.Expr, f *frame) *Value {
	name := chain(x)
	if name == "" {
		return nil
	}
	if t := f.types[name]; t != nil && t.Model != nil { // a type parameter: what it is bound to
		if _, d := Of(t.Model); d != nil {
			return &Value{Kind: Class, Ref: &typed{t: t.Unwrapped(), d: d}}
		}
	}
	if d := m.world.Named(name, len(x.Types), f.at()); d != nil {
		t := &model.Type{Kind: model.Named, Name: d.Name, Model: d.Model, Linked: true}
		for _, a := range x.Types {
			t.Args = append(t.Args, m.typ(a, f))
		}
		return &Value{Kind: Class, Ref: &typed{t: t, d: d}}
	}
	simple := model.SimpleName(name)
	if simple != "" && (simple[0] >= 'A' && simple[0] <= 'Z' || predefined[simple]) {
		t := &model.Type{Kind: model.Named, Name: simple, Linked: true}
		if short := words[simple]; short != "" {
			t.Name = short
		}
		for _, a := range x.Types {
			t.Args = append(t.Args, m.typ(a, f))
		}
		return &Value{Kind: Class, Ref: &typed{t: t}}
	}
	return nil
}

var predefined = map[string]bool{"int": true, "long": true, "string": true, "bool": true, "double": true, "decimal": true, "float": true, "byte": true, "short": true, "char": true, "uint": true, "ulong": true, "ushort": true, "sbyte": true, "object": true}

var words = map[string]string{"Int32": "int", "Int64": "long", "String": "string", "Boolean": "bool", "Double": "double", "Decimal": "decimal", "Single": "float", "Byte": "byte", "Int16": "short", "Char": "char", "Object": "object", "UInt32": "uint", "UInt64": "ulong"}

// chain is a name with those before it, "" for another expression.
func chain(e *code.Expr) string {
	switch e.Op {
	case code.Name:
		return e.Text
	case code.Member:
		if len(e.Args) == 1 {
			if of := chain(e.Args[0]); of != "" {
				return of + "." + e.Text
			}
		}
	}
	return ""
}

// choice is a ?? b, c ? a : b, or a switch.
func (m *Machine) choice(x *code.Expr, f *frame, e *env, want *model.Type) (Value, error) {
	switch {
	case len(x.Body) == 0 && len(x.Args) == 1:
		return m.expr(x.Args[0], f, e, want)
	case len(x.Body) == 0 && len(x.Args) == 2:
		v, err := m.expr(x.Args[0], f, e, want)
		if err != nil || !v.IsNull() {
			return v, err
		}
		return m.expr(x.Args[1], f, e, want)
	case len(x.Body) == 1 && x.Body[0].Kind == code.Switch:
		v, err := m.switched(&x.Body[0], f, e)
		if errors.Is(err, errNoCase) {
			return v, m.throw("SwitchExpressionException", "Non-exhaustive switch expression failed to match its input.")
		}
		return v, err
	case len(x.Body) == 1 && len(x.Args) == 2:
		yes, err := m.truth(x.Body[0].Value, f, e)
		if err != nil {
			return Value{}, err
		}
		branch, other := x.Args[0], x.Args[1]
		if !yes {
			branch, other = other, branch
		}
		v, err := m.expr(branch, f, e, want)
		if err == nil && v.Kind == Int && isFloatLiteral(other) { // the type of both
			v = floatOf(float64(v.Int))
		}
		return v, err
	}
	return Value{}, unfollowed("a choice", x.Pos)
}

// isFloatLiteral says whether an expression is a number with a point.
func isFloatLiteral(x *code.Expr) bool {
	return x.Op == code.Number && strings.ContainsAny(x.Text, ".") && !strings.HasSuffix(strings.ToLower(x.Text), "m")
}

// collection is a list of elements in brackets or braces.
func (m *Machine) collection(x *code.Expr, f *frame, e *env, want *model.Type) (Value, error) {
	var of *model.Type
	if want != nil && len(want.Unwrapped().Args) > 0 {
		of = want.Unwrapped().Args[len(want.Unwrapped().Args)-1]
	}
	l := &list{kind: "array"}
	if x.Type != nil {
		of = m.typ(x.Type, f)
		if of.Kind == model.List && strings.HasPrefix(of.Name, "[") && len(x.Args) > 0 {
			of = of.Args[0]
		}
	}
	l.of = of
	for _, a := range x.Args {
		if a.Op == code.Spread {
			v, err := m.expr(a.Args[0], f, e, nil)
			if err != nil {
				return v, err
			}
			items, err := m.each(v, a.Pos)
			if err != nil {
				return v, err
			}
			l.items = append(l.items, items...)
			continue
		}
		v, err := m.expr(a, f, e, of)
		if err != nil {
			return v, err
		}
		if v, err = m.convert(v, of, f, false); err != nil {
			return v, err
		}
		l.items = append(l.items, v)
	}
	if want != nil && (want.Unwrapped().Kind == model.Unique) {
		return Value{Kind: Items, Ref: &list{items: unique(l.items), set: true}}, nil
	}
	if want != nil && want.Unwrapped().Kind == model.Map && len(l.items) == 0 {
		return Value{Kind: Entries, Ref: &entries{of: valueType(want)}}, nil
	}
	return Value{Kind: Items, Ref: l}, nil
}

func unique(items []Value) (out []Value) {
	for _, v := range items {
		if !slices.ContainsFunc(out, func(o Value) bool { return same(o, v) }) {
			out = append(out, v)
		}
	}
	return out
}

// record is a tuple, or an object without a class.
func (m *Machine) record(x *code.Expr, f *frame, e *env) (Value, error) {
	l := &list{}
	names := []string{}
	for i, a := range x.Args {
		v, err := m.expr(a, f, e, nil)
		if err != nil {
			return v, err
		}
		l.items = append(l.items, v)
		name := ""
		if i < len(x.Labels) {
			name = x.Labels[i]
		}
		if name == "" && x.Text == "new" {
			name = a.Text
		}
		names = append(names, name)
	}
	return Value{Kind: Tuple, Ref: l, Text: strings.Join(names, ",")}, nil
}

// paramOf is the parameter of a record's own constructor by name.
func paramOf(d *code.Declared, name string) *code.Param {
	for _, c := range d.Parts {
		for _, fn := range c.Funcs {
			if fn.Init && slices.Contains(fn.Mods, "primary") {
				for i := range fn.Params {
					if fn.Params[i].Name == name {
						return &fn.Params[i]
					}
				}
			}
		}
	}
	return nil
}

// typesIn binds the type parameters of the class of an instance that declares a member: its own, or one that it extends.
func (m *Machine) typesIn(o *Object, in *code.Declared) map[string]*model.Type {
	types := typesOf(o)
	if o == nil {
		return types
	}
	class := o.Class
	for deep := 0; class != nil && class != in && deep < 16; deep++ {
		types, class = m.superTypes(class, types), m.super(class)
	}
	if class == nil {
		return typesOf(o)
	}
	return types
}

// typesOf binds the type parameters of the class of an instance.
func typesOf(o *Object) map[string]*model.Type {
	if o == nil || o.Type == nil || len(o.Class.Params) != len(o.Type.Args) {
		return nil
	}
	env := map[string]*model.Type{}
	for i, p := range o.Class.Params {
		env[p] = o.Type.Args[i]
	}
	return env
}

package sharp

import (
	"strconv"
	"strings"

	"vetta/internal/code"
	"vetta/internal/decoder"
	"vetta/internal/decoder/clr"
	"vetta/internal/model"
	"vetta/internal/wire"
)

// node is a JsonNode, or a token of Newtonsoft's: JObject, JArray, JValue, JProperty.
type node struct {
	v     *wire.Value
	token bool
	name  string // of a JProperty
	prop  bool
	dyn   bool // it is held as dynamic: what is done with it is found when it runs
}

// nodeOf is a JsonNode: null of a JSON null.
func nodeOf(v *wire.Value) Value {
	if v == nil || v.Kind == wire.Null {
		return Value{}
	}
	return Value{Kind: Host, Ref: &node{v: v}}
}

// tokenOf is a JToken, of a JSON null too.
func tokenOf(v *wire.Value) Value {
	if v == nil {
		return Value{}
	}
	return Value{Kind: Host, Ref: &node{v: v, token: true}}
}

func (n *node) of(v *wire.Value) Value {
	if !n.token {
		return nodeOf(v)
	}
	t := tokenOf(v)
	if n.dyn && !t.IsNull() {
		t.Ref.(*node).dyn = true
	}
	return t
}

func (n *node) seen() decoder.Seen { return clr.Any(n.v) }

func (n *node) sameAs(other any) bool {
	o, ok := other.(*node)
	return ok && o.v == n.v
}

func (n *node) is(name string) (bool, bool) {
	switch name {
	case "JsonNode", "JToken", "object", "JContainer":
		if name == "JContainer" {
			return n.v.Kind >= wire.Array, true
		}
		return name == "object" || n.token == (name == "JToken"), true
	case "JsonObject", "JObject":
		return n.v.Kind == wire.Object && n.token == (name == "JObject") && !n.prop, true
	case "JsonArray", "JArray":
		return n.v.Kind == wire.Array && n.token == (name == "JArray") && !n.prop, true
	case "JsonValue", "JValue":
		return n.v.Kind < wire.Array && n.token == (name == "JValue") && !n.prop, true
	case "JProperty":
		return n.prop, true
	case "string", "int", "long", "double", "bool", "decimal", "JsonElement":
		return false, true
	}
	return false, false
}

func (n *node) items(m *Machine) ([]Value, error) {
	m.asksElements(n.v, n.v.Kind == wire.Object)
	var out []Value
	switch n.v.Kind {
	case wire.Array:
		for _, e := range n.v.Elems {
			out = append(out, n.of(e))
		}
	case wire.Object:
		for _, mem := range lastOfNames(n.v) {
			if n.token {
				out = append(out, Value{Kind: Host, Ref: &node{v: mem.Value, token: true, name: mem.Name, prop: true}})
			} else {
				out = append(out, pairOf(TextOf(mem.Name), n.of(mem.Value)))
			}
		}
	default:
		switch {
		case n.dyn && n.v.Kind == wire.Null:
			return nil, m.throw("NullReferenceException", "Object reference not set to an instance of an object.")
		case n.dyn: // JValue's conversion of its value
			return nil, m.throw("ArgumentException", "Target type System.Collections.IEnumerable is not a value type or a non-abstract class. (Parameter 'targetType')")
		case n.token:
			return nil, nil
		}
		return nil, m.throw("InvalidOperationException", "The node must be of type 'JsonArray'.")
	}
	return out, nil
}

// lastOfNames are the members of an object that are the last of their names, in order.
func lastOfNames(v *wire.Value) []*wire.Member {
	last := make(map[string]int, len(v.Members))
	for i := range v.Members {
		last[v.Members[i].Name] = i
	}
	out := make([]*wire.Member, 0, len(last))
	for i := range v.Members {
		if m := &v.Members[i]; last[m.Name] == i {
			out = append(out, m)
		}
	}
	return out
}

func (n *node) index(m *Machine, at Value) (Value, bool, error) {
	m.note(n.v)
	switch at.Kind {
	case String:
		m.asksName(n.v, at.Text)
	case Int:
		m.asksElements(n.v, false)
	}
	switch {
	case n.prop:
		return Value{}, true, m.throw("InvalidOperationException", "Cannot access child value on Newtonsoft.Json.Linq.JProperty.")
	case at.Kind == String && n.v.Kind == wire.Object:
		v := m.memberIn(n.v, at.Text)
		if !n.token && v != nil && twice(n.v) {
			return Value{}, true, m.throw("ArgumentException", "An item with the same key has already been added. (Parameter 'key')")
		}
		return n.of(v), true, nil
	case at.Kind == String && n.token && n.v.Kind == wire.Array:
		return Value{}, true, m.throw("ArgumentException", "Accessed JArray values with invalid key value: \""+at.Text+"\". Int32 array index expected.")
	case at.Kind == String && n.token:
		return Value{}, true, m.throw("InvalidOperationException", "Cannot access child value on Newtonsoft.Json.Linq.JValue.")
	case at.Kind == String:
		return Value{}, true, m.throw("InvalidOperationException", "The node must be of type 'JsonObject'.")
	case at.Kind == Int && n.v.Kind == wire.Array:
		if at.Int < 0 || at.Int >= int64(len(n.v.Elems)) {
			return Value{}, true, m.throw("ArgumentOutOfRangeException", "Index was out of range. Must be non-negative and less than the size of the collection. (Parameter 'index')")
		}
		return n.of(n.v.Elems[at.Int]), true, nil
	case at.Kind == Int && !n.token && n.v.Kind == wire.Object:
		if at.Int < 0 || at.Int >= int64(len(n.v.Members)) {
			return Value{}, true, m.throw("ArgumentOutOfRangeException", "Index was out of range.")
		}
		return n.of(n.v.Members[at.Int].Value), true, nil
	case at.Kind == Int && n.token && n.v.Kind == wire.Object:
		return Value{}, true, m.throw("ArgumentException", "Accessed JObject values with invalid key value: 0. Object property name expected.")
	case at.Kind == Int:
		return Value{}, true, m.throw("InvalidOperationException", "The node must be of type 'JsonArray'.")
	}
	return Value{}, false, nil
}

func twice(v *wire.Value) bool { return len(lastOfNames(v)) < len(v.Members) }

// scalar is a value of a token as what the platform holds of it.
func (n *node) scalar(m *Machine) (Value, bool) {
	if n.v.Kind >= wire.Array {
		return Value{}, false
	}
	return m.boxed(n.v), true
}

// cast is an explicit conversion of a node or a token to a type.
func (n *node) cast(m *Machine, t *model.Type) (Value, bool, error) {
	u := t.Unwrapped()
	m.asksKind(n.v, u.Name)
	if is, known := n.is(u.Name); u.Kind == model.Named && u.Model == nil && known && !predefined[u.Name] {
		if !is {
			return Value{}, true, m.throw("InvalidCastException", "Unable to cast object of type.")
		}
		return Value{Kind: Host, Ref: n}, true, nil
	}
	if (u.Kind != model.Named || u.Model != nil || u.Name == "object" || u.Name == "dynamic") && !(n.token && clr.IsBytes(u)) {
		return Value{}, false, nil
	}
	m.note(n.v)
	if !n.token {
		v, err := n.value(m, u)
		return v, true, err
	}
	return n.tokenCast(m, t)
}

// value is GetValue<T> of a node.
func (n *node) value(m *Machine, u *model.Type) (Value, error) {
	fails := func() (Value, error) {
		m.note(n.v)
		if n.v.Kind >= wire.Array {
			return Value{}, m.throw("InvalidOperationException", "The node must be of type 'JsonValue'.")
		}
		return Value{}, m.throw("InvalidOperationException", "An element of type '"+(&element{v: n.v}).kind()+"' cannot be converted to a '"+clr.Name(u)+"'.")
	}
	switch {
	case clr.IsNumber(u):
		if n.v.Kind != wire.Number {
			return fails()
		}
		v, ok := numberIn(string(n.v.Raw), u.Name)
		if !ok {
			m.note(n.v)
			return Value{}, m.throw("FormatException", "Either the JSON value is not in a supported format, or is out of bounds for an "+u.Name+".")
		}
		return v, nil
	case u.Name == "string":
		if n.v.Kind != wire.String {
			return fails()
		}
		text, _ := n.v.Text()
		return TextOf(text), nil
	case u.Name == "bool":
		if n.v.Kind != wire.Bool {
			return fails()
		}
		return BoolOf(n.v.True()), nil
	case u.Name == "JsonElement":
		return elementOf(n.v), nil
	}
	if n.v.Kind != wire.String {
		return fails()
	}
	text, _ := n.v.Text()
	v, ok := textIn(m, text, u.Name)
	if !ok {
		if u.Name != "DateTime" && u.Name != "DateTimeOffset" && u.Name != "Guid" {
			return Value{}, unfollowed("a value as "+u.Name, model.Pos{})
		}
		m.note(n.v)
		return Value{}, m.throw("FormatException", "The JSON value is not in a supported "+u.Name+" format.")
	}
	return v, nil
}

func (n *node) call(m *Machine, name string, args []Value, types []*model.Type, x *code.Expr, f *frame) (Value, bool, error) {
	m.note(n.v)
	if n.prop {
		switch name {
		case "Name", "Key":
			return TextOf(n.name), true, nil
		case "Value", "First":
			return tokenOf(n.v), true, nil
		}
		return (&node{v: n.v, token: true}).call(m, name, args, types, x, f)
	}
	if n.token {
		return n.tokenCall(m, name, args, types, x, f)
	}
	switch name {
	case "GetValue":
		if len(types) == 1 {
			v, err := n.value(m, types[0].Unwrapped())
			return v, true, err
		}
	case "AsObject", "AsArray", "AsValue":
		want := map[string]string{"AsObject": "JsonObject", "AsArray": "JsonArray", "AsValue": "JsonValue"}[name]
		m.asksKind(n.v, want)
		if is, _ := n.is(want); !is {
			return Value{}, true, m.throw("InvalidOperationException", "The node must be of type '"+want+"'.")
		}
		return Value{Kind: Host, Ref: n}, true, nil
	case "GetValueKind":
		return word("JsonValueKind", (&element{v: n.v}).kind()), true, nil
	case "TryGetValue":
		if len(args) != 1 || args[0].Kind != Cell {
			break
		}
		var t *model.Type
		switch {
		case len(types) == 1:
			t = types[0]
		case args[0].Of != "":
			t = &model.Type{Kind: model.Named, Name: args[0].Of, Linked: true}
		default:
			t = m.typeOfValue(*args[0].Ref.(*Value))
		}
		if t == nil {
			return Value{}, true, unfollowed("the type that TryGetValue is asked for", x.Pos)
		}
		v, err := n.value(m, t.Unwrapped())
		if err != nil {
			put(args, 0, m.zero(t))
			return BoolOf(false), true, nil
		}
		put(args, 0, v)
		return BoolOf(true), true, nil
	case "Deserialize":
		if len(types) == 1 {
			v, err := m.decoded(types[0], n.v, systemTextJSON, x, f)
			return v, true, err
		}
	case "ContainsKey":
		return BoolOf(len(args) == 1 && m.memberIn(n.v, args[0].Text) != nil), true, nil
	case "TryGetPropertyValue":
		if len(args) == 2 && n.v.Kind == wire.Object {
			v := m.memberIn(n.v, args[0].Text)
			put(args, 1, nodeOf(v))
			return BoolOf(v != nil), true, nil
		}
	case "Count":
		if args == nil {
			return IntOf(int64(len(n.v.Elems) + len(n.v.Members))), true, nil
		}
	case "ToString":
		if n.v.Kind == wire.String {
			text, _ := n.v.Text()
			return TextOf(text), true, nil
		}
		if n.v.Kind < wire.Array {
			return TextOf(string(n.v.Raw)), true, nil
		}
		text := indented(n.v, 0)
		return TextOf(text), !strings.ContainsFunc(text, isEncoded), nil
	case "ToJsonString":
		return TextOf(rawText(n.v)), true, nil
	case "GetPath", "GetPropertyName", "Parent", "Root":
		return Value{}, false, nil
	}
	if args == nil {
		return Value{}, false, nil
	}
	items, err := n.items(m)
	if err != nil {
		return Value{}, true, err
	}
	return m.sequence(listOf(items), name, args, x, f)
}

// isEncoded says whether JavaScriptEncoder.Default may write a character otherwise than it was sent.
func isEncoded(r rune) bool { return r > '~' || strings.ContainsRune("\\<>&'+`", r) }

// indented is a node or a token as ToString writes it.
func indented(v *wire.Value, deep int) string {
	pad := strings.Repeat("  ", deep+1)
	switch v.Kind {
	case wire.Array:
		if len(v.Elems) == 0 {
			return "[]"
		}
		var parts []string
		for _, e := range v.Elems {
			parts = append(parts, pad+indented(e, deep+1))
		}
		return "[\n" + strings.Join(parts, ",\n") + "\n" + pad[2:] + "]"
	case wire.Object:
		if len(v.Members) == 0 {
			return "{}"
		}
		var parts []string
		for _, m := range lastOfNames(v) {
			parts = append(parts, pad+strconv.Quote(m.Name)+": "+indented(m.Value, deep+1))
		}
		return "{\n" + strings.Join(parts, ",\n") + "\n" + pad[2:] + "}"
	}
	return string(v.Raw)
}

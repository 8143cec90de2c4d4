package sharp

import (
	"strings"

	"vetta/internal/code"
	"vetta/internal/decoder"
	"vetta/internal/decoder/clr"
	"vetta/internal/model"
	"vetta/internal/wire"
)

// element is a JsonElement, or the JsonDocument that it is the root of; v is nil where it is undefined.
type element struct {
	v    *wire.Value
	name string // of a JsonProperty
	prop bool
}

func (e *element) seen() decoder.Seen {
	if e.v == nil {
		return decoder.Seen{}
	}
	return clr.Any(e.v)
}

func (e *element) is(name string) (bool, bool) {
	switch name {
	case "JsonElement", "JsonDocument", "object":
		return true, true
	case "string", "int", "long", "double", "bool", "decimal", "JToken", "JObject", "JsonNode":
		return false, true
	}
	return false, false
}

var kindNames = map[wire.Kind]string{wire.Null: "Null", wire.Number: "Number", wire.String: "String", wire.Array: "Array", wire.Object: "Object"}

func (e *element) kind() string {
	if e.v == nil {
		return "Undefined"
	}
	if e.v.Kind == wire.Bool {
		if e.v.True() {
			return "True"
		}
		return "False"
	}
	return kindNames[e.v.Kind]
}

func (e *element) wrong(m *Machine, want string) error {
	m.note(e.v)
	return m.throw("InvalidOperationException", "The requested operation requires an element of type '"+want+"', but the target element has type '"+e.kind()+"'.")
}

func elementOf(v *wire.Value) Value { return Value{Kind: Host, Ref: &element{v: v}} }

func (e *element) items(m *Machine) ([]Value, error) {
	m.asksElements(e.v, false)
	if e.v == nil || e.v.Kind != wire.Array {
		return nil, e.wrong(m, "Array")
	}
	var out []Value
	for _, el := range e.v.Elems {
		out = append(out, elementOf(el))
	}
	return out, nil
}

func (e *element) index(m *Machine, at Value) (Value, bool, error) {
	if at.Kind != Int {
		return Value{}, false, nil
	}
	m.asksElements(e.v, false)
	if e.v == nil || e.v.Kind != wire.Array {
		return Value{}, true, e.wrong(m, "Array")
	}
	if at.Int < 0 || at.Int >= int64(len(e.v.Elems)) {
		m.note(e.v)
		return Value{}, true, m.throw("IndexOutOfRangeException", "Index was outside the bounds of the array.")
	}
	return elementOf(e.v.Elems[at.Int]), true, nil
}

func (e *element) call(m *Machine, name string, args []Value, types []*model.Type, x *code.Expr, f *frame) (Value, bool, error) {
	m.note(e.v)
	if e.prop {
		switch name {
		case "Name":
			return TextOf(e.name), true, nil
		case "Value":
			return elementOf(e.v), true, nil
		case "NameEquals":
			return BoolOf(len(args) == 1 && args[0].Text == e.name), true, nil
		}
		return Value{}, false, nil
	}
	switch name {
	case "RootElement", "Clone":
		return elementOf(e.v), true, nil
	case "ValueKind":
		return word("JsonValueKind", e.kind()), true, nil
	case "Dispose":
		return Value{}, true, nil
	case "GetProperty":
		if len(args) == 1 {
			m.asksName(e.v, args[0].Text)
		}
		if e.v == nil || e.v.Kind != wire.Object {
			return Value{}, true, e.wrong(m, "Object")
		}
		if len(args) == 1 {
			if v := m.memberIn(e.v, args[0].Text); v != nil {
				return elementOf(v), true, nil
			}
			return Value{}, true, &Thrown{Class: "KeyNotFoundException", Message: "The given key was not present in the dictionary.", At: e.v}
		}
	case "TryGetProperty":
		if len(args) > 0 {
			m.asksName(e.v, args[0].Text)
		}
		if e.v == nil || e.v.Kind != wire.Object {
			return Value{}, true, e.wrong(m, "Object")
		}
		v := m.memberIn(e.v, args[0].Text)
		put(args, 1, elementOf(v))
		return BoolOf(v != nil), true, nil
	case "GetString":
		switch {
		case e.v != nil && e.v.Kind == wire.Null:
			return Value{}, true, nil
		case e.v != nil && e.v.Kind == wire.String:
			text, _ := e.v.Text()
			return TextOf(text), true, nil
		}
		return Value{}, true, e.wrong(m, "String")
	case "GetBoolean":
		if e.v != nil && e.v.Kind == wire.Bool {
			return BoolOf(e.v.True()), true, nil
		}
		return Value{}, true, e.wrong(m, "Boolean")
	case "GetRawText":
		return Value{Kind: String, Text: rawText(e.v), Of: "string", Ref: e.v}, e.v != nil, nil
	case "ToString":
		if args == nil && x != nil && x.Op == code.Member {
			break
		}
		if e.v == nil || e.v.Kind == wire.Null {
			return TextOf(""), true, nil
		}
		switch e.v.Kind {
		case wire.Bool:
			return TextOf(plainText(BoolOf(e.v.True()))), true, nil
		case wire.String:
			text, _ := e.v.Text()
			return TextOf(text), true, nil
		}
		return TextOf(rawText(e.v)), true, nil
	case "GetArrayLength":
		m.asksElements(e.v, false)
		if e.v == nil || e.v.Kind != wire.Array {
			return Value{}, true, e.wrong(m, "Array")
		}
		return IntOf(int64(len(e.v.Elems))), true, nil
	case "EnumerateArray":
		items, err := e.items(m)
		return listOf(items), true, err
	case "EnumerateObject":
		m.asksElements(e.v, true)
		if e.v == nil || e.v.Kind != wire.Object {
			return Value{}, true, e.wrong(m, "Object")
		}
		l := &list{}
		for _, mem := range e.v.Members {
			l.items = append(l.items, Value{Kind: Host, Ref: &element{v: mem.Value, name: mem.Name, prop: true}})
		}
		return Value{Kind: Items, Ref: l}, true, nil
	case "Deserialize":
		if len(types) == 1 && e.v != nil {
			v, err := m.decoded(types[0], e.v, systemTextJSON, x, f)
			return v, true, err
		}
	case "ValueEquals":
		if e.v != nil && len(args) == 1 {
			if e.v.Kind == wire.Null {
				return BoolOf(args[0].IsNull()), true, nil
			}
			if e.v.Kind != wire.String {
				return Value{}, true, e.wrong(m, "String")
			}
			text, _ := e.v.Text()
			return BoolOf(text == args[0].Text), true, nil
		}
	}
	try := strings.HasPrefix(name, "TryGet")
	of := getters[strings.TrimPrefix(strings.TrimPrefix(name, "Try"), "Get")]
	if of == "" || !try && !strings.HasPrefix(name, "Get") || args == nil {
		return Value{}, false, nil
	}
	return e.get(m, of, try, args)
}

// get is GetInt32, TryGetInt32 and their like.
func (e *element) get(m *Machine, of string, try bool, args []Value) (Value, bool, error) {
	zero := m.zero(&model.Type{Kind: model.Named, Name: of})
	isText := of == "DateTime" || of == "DateTimeOffset" || of == "Guid" || of == "byte[]"
	want := wire.Number
	if isText {
		want = wire.String
	}
	if e.v == nil || e.v.Kind != want {
		return Value{}, true, e.wrong(m, kindWanted(isText))
	}
	var v Value
	var ok bool
	if isText {
		text, _ := e.v.Text()
		v, ok = textIn(m, text, of)
	} else {
		v, ok = numberIn(string(e.v.Raw), of)
	}
	if try {
		if !ok {
			v = zero
		}
		put(args, 0, v)
		return BoolOf(ok), true, nil
	}
	if !ok {
		return Value{}, true, &Thrown{Class: "FormatException", Message: "One of the identified items was in an invalid format.", At: e.v}
	}
	return v, true, nil
}

func kindWanted(text bool) string {
	if text {
		return "String"
	}
	return "Number"
}

// rawText is a value as JSON, as it was sent.
func rawText(v *wire.Value) string {
	if v == nil {
		return ""
	}
	switch v.Kind {
	case wire.Array:
		var b strings.Builder
		b.WriteByte('[')
		for i, e := range v.Elems {
			if i > 0 {
				b.WriteByte(',')
			}
			b.WriteString(rawText(e))
		}
		return b.String() + "]"
	case wire.Object:
		var b strings.Builder
		b.WriteByte('{')
		for i, m := range v.Members {
			if i > 0 {
				b.WriteByte(',')
			}
			b.WriteString(wire.Quote(m.Name) + ":" + rawText(m.Value))
		}
		return b.String() + "}"
	}
	return string(v.Raw)
}

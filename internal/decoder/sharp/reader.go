package sharp

import (
	"strings"

	"vetta/internal/code"
	"vetta/internal/model"
	"vetta/internal/wire"
)

// event is a token of a document as a reader goes over it.
type event struct {
	kind string // StartObject, PropertyName, String, Number, True, False, Null, EndObject …
	v    *wire.Value
	name string
	end  int // of a start, the index of its end
}

// reader is a Utf8JsonReader, or a JsonTextReader of Newtonsoft's.
type reader struct {
	events []event
	at     int // -1 before the first
	text   bool
}

// newReader goes over a value; begun says that it stands at its first token, as a converter's does.
func newReader(v *wire.Value, text, begun bool) *reader {
	r := &reader{at: -1, text: text}
	r.add(v)
	if begun {
		r.at = 0
	}
	return r
}

func (r *reader) add(v *wire.Value) {
	switch v.Kind {
	case wire.Object:
		start := len(r.events)
		r.events = append(r.events, event{kind: "StartObject", v: v})
		for _, m := range v.Members {
			r.events = append(r.events, event{kind: "PropertyName", name: m.Name, v: v})
			r.add(m.Value)
		}
		r.events[start].end = len(r.events)
		r.events = append(r.events, event{kind: "EndObject", v: v})
	case wire.Array:
		start := len(r.events)
		r.events = append(r.events, event{kind: "StartArray", v: v})
		for _, e := range v.Elems {
			r.add(e)
		}
		r.events[start].end = len(r.events)
		r.events = append(r.events, event{kind: "EndArray", v: v})
	default:
		kind := (&element{v: v}).kind()
		if r.text {
			kind = (&node{v: v, token: true}).kind()
		}
		r.events = append(r.events, event{kind: kind, v: v})
	}
}

// current is the value at which the reader stands.
func (r *reader) current() *wire.Value {
	if r.at < 0 {
		r.at = 0
	}
	if e := r.events[min(r.at, len(r.events)-1)]; e.kind == "PropertyName" && r.at+1 < len(r.events) {
		return r.events[r.at+1].v
	}
	return r.events[min(r.at, len(r.events)-1)].v
}

// skip goes to the end of the value at which the reader stands.
func (r *reader) skip() {
	if r.at < 0 || r.at >= len(r.events) {
		return
	}
	if r.events[r.at].kind == "PropertyName" {
		r.at++
	}
	if end := r.events[r.at].end; end > 0 {
		r.at = end
	}
}

func (r *reader) is(name string) (bool, bool) {
	return name == "Utf8JsonReader" || name == "JsonReader" || name == "JsonTextReader", true
}

func (r *reader) call(m *Machine, name string, args []Value, types []*model.Type, x *code.Expr, f *frame) (Value, bool, error) {
	kind, cur := "None", event{}
	if r.at >= 0 && r.at < len(r.events) {
		cur = r.events[r.at]
		kind = cur.kind
		m.note(cur.v)
	}
	switch name {
	case "Read", "ReadAsync":
		if r.at+1 >= len(r.events) {
			r.at = len(r.events)
			return BoolOf(false), true, nil
		}
		r.at++
		return BoolOf(true), true, nil
	case "TokenType":
		of := "JsonTokenType"
		if r.text {
			of = "JsonToken"
		}
		return word(of, kind), true, nil
	case "Skip", "TrySkip", "SkipAsync":
		r.skip()
		return BoolOf(true), true, nil
	case "CurrentDepth", "Depth":
		depth := int64(0)
		for i := 0; i < r.at && i < len(r.events); i++ {
			if strings.HasPrefix(r.events[i].kind, "Start") {
				depth++
			} else if strings.HasPrefix(r.events[i].kind, "End") {
				depth--
			}
		}
		if strings.HasPrefix(kind, "End") {
			depth--
		}
		return IntOf(depth), true, nil
	case "ValueTextEquals":
		text := cur.name
		if kind == "String" {
			text, _ = cur.v.Text()
		} else if kind != "PropertyName" {
			return Value{}, true, m.throw("InvalidOperationException", "Cannot compare the value of a token type '"+kind+"' to text.")
		}
		return BoolOf(len(args) == 1 && args[0].Text == text), true, nil
	case "GetString":
		switch kind {
		case "PropertyName":
			return TextOf(cur.name), true, nil
		case "String":
			text, _ := cur.v.Text()
			return TextOf(text), true, nil
		case "Null":
			return Value{}, true, nil
		}
		return Value{}, true, m.throw("InvalidOperationException", "Cannot get the value of a token type '"+kind+"' as a string.")
	case "GetBoolean":
		if kind == "True" || kind == "False" {
			return BoolOf(kind == "True"), true, nil
		}
		return Value{}, true, m.throw("InvalidOperationException", "Cannot get the value of a token type '"+kind+"' as a boolean.")
	case "Value":
		switch {
		case kind == "PropertyName":
			return TextOf(cur.name), true, nil
		case cur.v != nil && cur.v.Kind < wire.Array:
			return m.held(cur.v), true, nil
		}
		return Value{}, true, nil
	case "ValueType", "Path", "HasValueSequence", "ValueSpan":
		return Value{}, false, nil
	case "ReadAsString", "ReadAsInt32", "ReadAsDouble", "ReadAsDecimal", "ReadAsBoolean", "ReadAsDateTime":
		if r.at+1 >= len(r.events) {
			return Value{}, true, nil
		}
		r.at++
		of := map[string]string{"ReadAsString": "string", "ReadAsInt32": "int", "ReadAsDouble": "double", "ReadAsDecimal": "decimal", "ReadAsBoolean": "bool", "ReadAsDateTime": "DateTime"}[name]
		e := r.events[r.at]
		if e.kind == "EndArray" || e.kind == "EndObject" {
			return Value{}, true, nil
		}
		v, err := m.decoded(&model.Type{Kind: model.Optional, Args: []*model.Type{{Kind: model.Named, Name: of}}}, e.v, newtonsoftJSON, x, f)
		return v, true, err
	case "Close", "Dispose":
		return Value{}, true, nil
	}
	try := strings.HasPrefix(name, "TryGet")
	of := getters[strings.TrimPrefix(strings.TrimPrefix(name, "Try"), "Get")]
	if of == "" || args == nil || !try && !strings.HasPrefix(name, "Get") {
		return Value{}, false, nil
	}
	isText := of == "DateTime" || of == "DateTimeOffset" || of == "Guid" || of == "byte[]"
	if want := kindWanted(isText); kind != want {
		return Value{}, true, m.throw("InvalidOperationException", "Cannot get the value of a token type '"+kind+"' as a "+strings.ToLower(want)+".")
	}
	return (&element{v: cur.v}).get(m, of, try, args)
}

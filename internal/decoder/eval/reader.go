package eval

import (
	"vetta/internal/decoder"
	"vetta/internal/model"
	"vetta/internal/wire"
)

// tokens are how a JsonReader names what it has found.
var tokens = map[wire.Kind]string{
	wire.Null: "NULL", wire.Bool: "BOOLEAN", wire.Number: "NUMBER", wire.String: "STRING", wire.Array: "BEGIN_ARRAY", wire.Object: "BEGIN_OBJECT",
}

// ThrownBy is an error of a library as code sees it.
func ThrownBy(err *decoder.Error) error {
	return &Thrown{Class: err.Kind, Message: err.Message, Cause: err}
}

// level is one array or object that a reader is in, or, the first, what it was made for.
type level struct {
	v    *wire.Value
	i    int  // how many elements or members are read; of the first 1 where the value is
	name bool // of an object: the name is read, its value is not
}

// Reader is a JsonReader of Moshi's or Gson's over a value, which code takes apart token by token.
type Reader struct {
	// Reads are what the methods that answer a scalar make of a value, by name: nextString, nextInt.
	Reads map[string]func(*wire.Value) decoder.Verdict
	// Any is what readJsonValue makes of one, nil where the library has no such method.
	Any func(*wire.Value) decoder.Verdict
	// Wrong is the error for another token than is wanted.
	Wrong func(want, token string) *decoder.Error
	stack []level
}

// At is a reader that stands before a value.
func (r Reader) At(v *wire.Value) *Reader {
	r.stack = []level{{v: v}}
	return &r
}

// Is is described at Host.
func (r *Reader) Is(class string) (bool, bool) { return class == "JsonReader", true }

// Next is the value that stands at the reader, nil where a name or an end does.
func (r *Reader) Next() *wire.Value {
	top := &r.stack[len(r.stack)-1]
	switch {
	case len(r.stack) == 1:
		if top.i == 0 {
			return top.v
		}
	case top.v.Kind == wire.Array && top.i < len(top.v.Elems):
		return top.v.Elems[top.i]
	case top.v.Kind == wire.Object && top.name:
		return top.v.Members[top.i].Value
	}
	return nil
}

// Consume goes on behind the value that stands at the reader.
func (r *Reader) Consume() {
	top := &r.stack[len(r.stack)-1]
	top.i++
	top.name = false
}

// token is what stands at the reader, by the name of JsonReader.Token.
func (r *Reader) token() string {
	top := &r.stack[len(r.stack)-1]
	if v := r.Next(); v != nil {
		return tokens[v.Kind]
	}
	switch {
	case len(r.stack) == 1:
		return "END_DOCUMENT"
	case top.v.Kind == wire.Array:
		return "END_ARRAY"
	case top.i < len(top.v.Members):
		return "NAME"
	}
	return "END_OBJECT"
}

func (r *Reader) wants(what string) error {
	return ThrownBy(r.Wrong(what, r.token()))
}

// Token is a constant of JsonReader.Token, or of JsonToken.
func Token(name string) Value {
	return Value{Seen: decoder.Seen{Kind: decoder.SeenEnum, Text: name, Type: "Token"}}
}

// Member is described at Host.
func (r *Reader) Member(name string, args []Value, _ []*model.Type) (Value, bool, error) {
	none := Value{}
	top := &r.stack[len(r.stack)-1]
	v := r.Next()
	switch name {
	case "peek":
		return Token(r.token()), true, nil
	case "hasNext":
		t := r.token()
		return Bool(t != "END_ARRAY" && t != "END_OBJECT" && t != "END_DOCUMENT"), true, nil
	case "beginObject", "beginArray":
		kind := map[string]wire.Kind{"beginObject": wire.Object, "beginArray": wire.Array}[name]
		if v == nil || v.Kind != kind {
			return none, true, r.wants(tokens[kind])
		}
		r.stack = append(r.stack, level{v: v})
		return none, true, nil
	case "endObject", "endArray":
		if want := map[string]string{"endObject": "END_OBJECT", "endArray": "END_ARRAY"}[name]; r.token() != want {
			return none, true, r.wants(want)
		}
		r.stack = r.stack[:len(r.stack)-1]
		r.Consume()
		return none, true, nil
	case "nextName", "selectName", "skipName":
		if r.token() != "NAME" {
			return none, true, r.wants("a name")
		}
		key := top.v.Members[top.i].Name
		if name == "selectName" {
			if len(args) != 1 || args[0].Items == nil {
				return none, false, nil
			}
			for i, option := range *args[0].Items {
				if option.Seen.Text == key {
					top.name = true
					return Int(int64(i)), true, nil
				}
			}
			return Int(-1), true, nil
		}
		top.name = true
		return Text(key), true, nil
	case "skipValue":
		if v == nil {
			return none, false, nil
		}
		r.Consume()
		return none, true, nil
	case "nextNull":
		if v == nil || v.Kind != wire.Null {
			return none, true, r.wants("null")
		}
		r.Consume()
		return none, true, nil
	case "nextString", "nextInt", "nextLong", "nextDouble", "nextBoolean":
		read := r.Reads[name]
		if v == nil {
			return none, true, r.wants("a value")
		}
		verdict := read(v)
		if verdict.Err != nil {
			return none, true, ThrownBy(verdict.Err)
		}
		r.Consume()
		return Of(verdict.Seen), true, nil
	case "readJsonValue":
		if v == nil || r.Any == nil {
			return none, false, nil
		}
		verdict := r.Any(v)
		if verdict.Err != nil {
			return none, true, ThrownBy(verdict.Err)
		}
		r.Consume()
		return Of(verdict.Seen), true, nil
	case "peekJson":
		if v == nil {
			return none, false, nil
		}
		return HostOf(r.At(v)), true, nil
	case "path", "getPath":
		return Text("$"), true, nil
	case "close":
		return none, true, nil
	}
	return none, false, nil
}

package sharp

import (
	"strconv"
	"strings"

	"vetta/internal/code"
	"vetta/internal/decoder/clr"
	"vetta/internal/model"
	"vetta/internal/wire"
)

// The libraries, by their names in settings.
const (
	systemTextJSON = "system.text.json"
	newtonsoftJSON = "newtonsoft.json"
)

// Document is the text of a document as a value.
func Document(text []byte, root *wire.Value) Value {
	return Value{Kind: String, Text: string(text), Of: "string", Ref: root}
}

// Stream is a stream, a response or a client that yields a document.
func Stream(text []byte, root *wire.Value) Value {
	return Value{Kind: Host, Ref: &input{text: text, root: root}}
}

// input is what yields the document, however it is asked.
type input struct {
	text  []byte
	root  *wire.Value
	chars bool // it is a reader of characters
}

func (in *input) call(m *Machine, name string, args []Value, types []*model.Type, x *code.Expr, f *frame) (Value, bool, error) {
	switch name {
	case "GetStringAsync", "ReadAsStringAsync", "ReadToEnd", "ReadToEndAsync", "GetString":
		return Document(in.text, in.root), true, nil
	case "GetFromJsonAsync", "ReadFromJsonAsync":
		if len(types) == 1 {
			v, err := m.decoded(types[0], in.root, systemTextJSON+"+web", x, f)
			return v, true, err
		}
	case "EnsureSuccessStatusCode", "Dispose", "DisposeAsync", "Close":
		return Value{Kind: Host, Ref: in}, true, nil
	case "IsSuccessStatusCode":
		return BoolOf(true), true, nil
	case "MediaType":
		if in.root != nil && in.root.Markup != nil {
			return TextOf("application/xml"), true, nil
		}
		return TextOf("application/json"), true, nil
	}
	return Value{Kind: Host, Ref: in}, true, nil
}

// parse reads a text as a document.
func (m *Machine) parse(v Value, library string) (*wire.Value, error) {
	switch r := v.Ref.(type) {
	case *wire.Value:
		return r, nil
	case *input:
		if r.root == nil {
			v = TextOf(string(r.text))
			break
		}
		return r.root, nil
	case *element:
		return r.v, nil
	}
	if v.IsNull() {
		return nil, m.throw("ArgumentNullException", "Value cannot be null. (Parameter 'json')")
	}
	if v.Kind != String {
		return nil, unfollowed("what is parsed", model.Pos{})
	}
	doc, err := wire.Parse([]byte(v.Text))
	if err != nil {
		class := "JsonException"
		if library == newtonsoftJSON {
			class = "JsonReaderException"
		}
		return nil, m.throw(class, err.Error())
	}
	return doc, nil
}

// decoded is what a library reads a value of the document as.
func (m *Machine) decoded(t *model.Type, v *wire.Value, library string, x *code.Expr, f *frame) (Value, error) {
	if t == nil || m.decode == nil {
		return Value{}, unfollowed("what is decoded", x.Pos)
	}
	var options *code.Expr
	for i, label := range x.Labels {
		if label == "$options" && i+1 < len(x.Args) {
			options = x.Args[i+1]
		}
	}
	if u := t.Unwrapped(); u.Kind == model.Named && u.Model == nil {
		switch u.Name {
		case "JsonElement", "JsonDocument":
			return Value{Kind: Host, Ref: &element{v: v}}, nil
		case "JsonNode", "JsonObject", "JsonArray":
			return nodeOf(v), nil
		case "JToken", "JObject", "JArray":
			return tokenOf(v), nil
		case "object", "dynamic":
			if library == systemTextJSON {
				return Value{Kind: Host, Ref: &element{v: v}}, nil
			}
			return tokenOf(v), nil
		}
	}
	if u := t.Unwrapped(); u.Kind == model.Map || u.Kind == model.List { // of elements: each by itself
		if out, ok, err := m.raw(u, v, library); ok || err != nil {
			return out, err
		}
	}
	out, ok := m.decode(t, v, library, options, f.fn, nil)
	if !ok {
		return Value{}, unfollowed("what is decoded", x.Pos)
	}
	if out.Err != nil {
		at := v
		for _, s := range out.At {
			at = at.At(s)
		}
		return Value{}, &Thrown{Class: out.Err.Kind, Message: out.Err.Message, At: at, Cause: out.Err}
	}
	return m.ValueOf(out.Seen, t), nil
}

// raw is a map or a list whose values are elements or tokens.
func (m *Machine) raw(u *model.Type, v *wire.Value, library string) (Value, bool, error) {
	elem := u.Args[len(u.Args)-1].Unwrapped()
	if elem.Kind != model.Named || elem.Model != nil {
		if elem.Kind != model.Map || u.Kind != model.List {
			return Value{}, false, nil
		}
	}
	wrap := func(e *wire.Value) (Value, bool, error) {
		switch elem.Name {
		case "JsonElement":
			return Value{Kind: Host, Ref: &element{v: e}}, true, nil
		case "JsonNode":
			return nodeOf(e), true, nil
		case "JToken", "JObject":
			return tokenOf(e), true, nil
		case "object":
			if library == systemTextJSON {
				if e.Kind == wire.Null {
					return Value{}, true, nil
				}
				return Value{Kind: Host, Ref: &element{v: e}}, true, nil
			}
			return m.held(e), true, nil
		}
		if elem.Kind == model.Map {
			return m.raw(elem, e, library)
		}
		return Value{}, false, nil
	}
	switch {
	case u.Kind == model.Map && v.Kind == wire.Object && u.Args[0].Name == "string":
		e := &entries{of: valueType(u)}
		for _, mem := range v.Members {
			val, ok, err := wrap(mem.Value)
			if err != nil || !ok {
				return val, false, err
			}
			k := TextOf(mem.Name)
			if i := e.find(k); i >= 0 {
				e.vals[i] = val
				continue
			}
			e.keys, e.vals = append(e.keys, k), append(e.vals, val)
		}
		return Value{Kind: Entries, Ref: e}, true, nil
	case u.Kind == model.List && v.Kind == wire.Array:
		l := &list{}
		for _, el := range v.Elems {
			val, ok, err := wrap(el)
			if err != nil || !ok {
				return val, false, err
			}
			l.items = append(l.items, val)
		}
		return Value{Kind: Items, Ref: l}, true, nil
	}
	return Value{}, false, nil
}

// held is what Newtonsoft.Json makes of a value for object, which a cast takes as nothing else.
func (m *Machine) held(e *wire.Value) Value {
	v := m.boxed(e)
	v.Boxed = v.Kind != Null && v.Kind != Host && v.Kind != Unknown
	return v
}

// boxed is such a value by itself: long, double, text, date, token.
func (m *Machine) boxed(e *wire.Value) Value {
	switch e.Kind {
	case wire.Bool:
		return BoolOf(e.True())
	case wire.Number:
		if strings.ContainsAny(string(e.Raw), ".eE") {
			f, _ := strconv.ParseFloat(string(e.Raw), 64)
			return floatOf(f)
		}
		n, err := strconv.ParseInt(string(e.Raw), 10, 64)
		if err != nil {
			return unknownValue()
		}
		return numberOf(n, "long")
	case wire.String:
		text, _ := e.Text()
		if s, ok := tokenDate(text); ok {
			return plainOf("DateTime", s)
		}
		return TextOf(text)
	case wire.Null:
		return Value{}
	}
	return tokenOf(e)
}

// populated is JsonConvert.PopulateObject.
func (m *Machine) populated(x *code.Expr, f *frame, e *env) (Value, bool, error) {
	args, _, err := m.arguments(x, f, e, nil)
	if err != nil {
		return Value{}, true, err
	}
	doc, err := m.parse(args[0], newtonsoftJSON)
	if err != nil {
		return Value{}, true, err
	}
	if args[1].Kind != Instance {
		return Value{}, true, unfollowed("what is populated", x.Pos)
	}
	var options *code.Expr
	if len(x.Args) > 3 {
		options = x.Args[3]
	}
	return Value{}, true, m.populate(args[1], doc, options, x, f)
}

// decoding is a call of a library that decodes.
func (m *Machine) decoding(of, name string, x *code.Expr, f *frame, e *env, want *model.Type) (Value, bool, error) {
	library := ""
	switch {
	case of == "JsonSerializer" && strings.HasPrefix(name, "Create"):
		s := &serializer{text: true}
		if len(x.Args) > 1 {
			s.options = x.Args[1]
		}
		return Value{Kind: Host, Ref: s}, true, nil
	case of == "JsonSerializer" && strings.HasPrefix(name, "Deserialize"):
		library = systemTextJSON
	case of == "JsonConvert" && name == "PopulateObject" && len(x.Args) >= 3:
		return m.populated(x, f, e)
	case of == "JsonConvert" && name == "DeserializeObject":
		library = newtonsoftJSON
	default:
		return Value{}, false, nil
	}
	if len(x.Args) < 2 {
		return Value{}, false, nil
	}
	first, err := m.expr(x.Args[1], f, e, nil)
	if err != nil {
		return first, true, err
	}
	var t *model.Type
	if len(x.Types) == 1 {
		t = m.typ(x.Types[0], f)
	} else if len(x.Args) > 2 && x.Args[2].Op == code.TypeOf {
		t = m.typ(x.Args[2].Type, f)
	} else if library == newtonsoftJSON {
		t = &model.Type{Kind: model.Named, Name: "object"}
	}
	if r, ok := first.Ref.(*reader); ok || first.Kind == Cell {
		if first.Kind == Cell {
			r, ok = first.Ref.(*Value).Ref.(*reader)
		}
		if !ok {
			return Value{}, true, unfollowed("what is decoded", x.Pos)
		}
		v, err := m.decoded(t, r.current(), library, x, f)
		r.skip()
		return v, true, err
	}
	if n, ok := first.Ref.(*node); ok {
		v, err := m.decoded(t, n.v, library, x, f)
		return v, true, err
	}
	if first.IsNull() && library == systemTextJSON {
		return Value{}, true, m.throw("ArgumentNullException", "Value cannot be null. (Parameter 'json')")
	}
	doc, err := m.parse(first, library)
	if err != nil {
		return Value{}, true, err
	}
	v, err := m.decoded(t, doc, library, x, f)
	if name == "DeserializeAsyncEnumerable" && err == nil && v.IsNull() { // which yields nothing
		return listOf(nil), true, nil
	}
	return v, true, err
}

// jsonStatic are Parse and its like of the libraries' own documents.
func (m *Machine) jsonStatic(of, name string, args []Value, x *code.Expr, f *frame) (Value, bool, error) {
	if len(args) == 0 {
		return Value{}, false, nil
	}
	if r := readerIn(args[0]); r != nil && (of == "JsonDocument" || of == "JsonElement" || of == "JsonNode") && strings.HasPrefix(name, "Parse") {
		v := r.current() // the value at which it stands, and no more
		r.skip()
		if of == "JsonNode" {
			return nodeOf(v), true, nil
		}
		return elementOf(v), true, nil
	}
	switch of {
	case "JsonDocument", "JsonElement":
		if strings.HasPrefix(name, "Parse") {
			doc, err := m.parse(args[0], systemTextJSON)
			return Value{Kind: Host, Ref: &element{v: doc}}, true, err
		}
	case "JsonNode":
		if strings.HasPrefix(name, "Parse") {
			doc, err := m.parse(args[0], systemTextJSON)
			if err != nil {
				return Value{}, true, err
			}
			return nodeOf(doc), true, nil
		}
	case "JObject", "JArray", "JToken":
		if name != "Parse" && name != "Load" && name != "LoadAsync" && name != "ReadFrom" {
			break
		}
		doc, err := m.parse(args[0], newtonsoftJSON)
		if r, ok := args[0].Ref.(*reader); ok {
			doc, err = r.current(), nil
			r.skip()
		}
		if err != nil {
			return Value{}, true, err
		}
		want := map[string]wire.Kind{"JObject": wire.Object, "JArray": wire.Array}[of]
		if of != "JToken" && doc.Kind != want {
			return Value{}, true, m.throw("JsonReaderException", "Error reading "+of+" from JsonReader. Current JsonReader item is not an "+strings.ToLower(of[1:])+".")
		}
		return tokenOf(doc), true, nil
	}
	return m.xmlStatic(of, name, args, x, f)
}

// readerIn is the reader that an argument is, by reference perhaps; nil for another.
func readerIn(arg Value) *reader {
	if of, ok := arg.Ref.(*Value); ok && arg.Kind == Cell {
		arg = *of
	}
	r, _ := arg.Ref.(*reader)
	return r
}

// jsonMade are readers and documents that are made of something.
func (m *Machine) jsonMade(t *model.Type, args []Value, x *code.Expr) (Value, bool, error) {
	switch t.Name {
	case "JObject", "JArray", "JsonObject", "JsonArray":
		if len(args) > 0 || len(x.Args) > 1 {
			break
		}
		empty := &wire.Value{Kind: wire.Object}
		if strings.HasSuffix(t.Name, "Array") {
			empty.Kind = wire.Array
		}
		if t.Name[1] == 's' {
			return nodeOf(empty), true, nil
		}
		return tokenOf(empty), true, nil
	case "JsonSerializer":
		return Value{Kind: Host, Ref: &serializer{text: true}}, len(args) == 0, nil
	case "Utf8JsonReader", "JsonTextReader", "StringReader", "StreamReader", "MemoryStream":
		if len(args) == 0 {
			break
		}
		switch r := args[0].Ref.(type) {
		case *wire.Value:
			if strings.HasPrefix(t.Name, "Utf8") || strings.HasPrefix(t.Name, "Json") {
				return Value{Kind: Host, Ref: newReader(r, t.Name == "JsonTextReader", false)}, true, nil
			}
			return Value{Kind: Host, Ref: &input{text: []byte(args[0].Text), root: r, chars: strings.HasSuffix(t.Name, "Reader")}}, true, nil
		case *input:
			if strings.HasPrefix(t.Name, "Utf8") || strings.HasPrefix(t.Name, "Json") {
				return Value{Kind: Host, Ref: newReader(r.root, t.Name == "JsonTextReader", false)}, true, nil
			}
			own := *r
			own.chars = strings.HasSuffix(t.Name, "Reader")
			return Value{Kind: Host, Ref: &own}, true, nil
		}
		if args[0].Kind == String { // a text that code has made
			return Value{Kind: Host, Ref: &input{text: []byte(args[0].Text), chars: strings.HasSuffix(t.Name, "Reader")}}, true, nil
		}
	}
	return Value{}, false, nil
}

// numberIn reads the digits of a JSON number as a type of the platform's.
func numberIn(raw, of string) (Value, bool) {
	t := &model.Type{Kind: model.Named, Name: of}
	if bits, signed := clr.Bits(t); bits > 0 {
		digits, ok := clr.ParseWhole(raw, bits, signed)
		if !ok {
			return Value{}, false
		}
		n, err := strconv.ParseInt(digits, 10, 64)
		if err != nil {
			u, _ := strconv.ParseUint(digits, 10, 64)
			n = int64(u)
		}
		return numberOf(n, of), true
	}
	switch of {
	case "double", "float":
		f, err := strconv.ParseFloat(raw, 64)
		if err != nil && f == 0 {
			return Value{}, false
		}
		v := floatOf(f)
		if of == "float" {
			v.Of, v.Float = "float", float64(float32(f))
		}
		return v, true
	case "decimal":
		d, ok := clr.Decimal(raw)
		return decimalOf(d), ok
	}
	return Value{}, false
}

// getters are the types that GetInt32 and its like read.
var getters = map[string]string{
	"Int32": "int", "Int64": "long", "Int16": "short", "Byte": "byte", "SByte": "sbyte", "UInt32": "uint", "UInt64": "ulong", "UInt16": "ushort", "Double": "double", "Single": "float", "Decimal": "decimal",
	"DateTime": "DateTime", "DateTimeOffset": "DateTimeOffset", "Guid": "Guid", "BytesFromBase64": "byte[]",
}

// textIn reads the text of a JSON string as a type of the platform's.
func textIn(m *Machine, text, of string) (Value, bool) {
	switch of {
	case "DateTime", "DateTimeOffset":
		d, ok := clr.ParseISO(text)
		if !ok {
			return Value{}, false
		}
		if of == "DateTimeOffset" {
			if d.Zone == "Z" || d.Zone == clr.NoZone {
				d.Zone = "+00:00"
			}
			return plainOf(of, d.Seen()), true
		}
		s := clr.Local(d.Seen(), d.Zone)
		return plainOf(of, s), true
	case "Guid":
		s, ok := clr.Guid(text)
		return plainOf(of, s), ok
	case "byte[]":
		s, ok := clr.Base64(text)
		return m.ValueOf(s, nil), ok
	}
	return Value{}, false
}

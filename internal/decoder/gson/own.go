package gson

import (
	"errors"
	"fmt"
	"math"
	"strconv"

	"vetta/internal/code"
	"vetta/internal/decoder"
	"vetta/internal/decoder/eval"
	"vetta/internal/decoder/jvm"
	"vetta/internal/model"
	"vetta/internal/wire"
)

// maxDeep is how many deserializers of the app's own may ask for one another.
const maxDeep = 64

// own is the node for an adapter of the app's own, whose code is run on the value: a JsonDeserializer, which is not
// asked for null, or a TypeAdapter, which is unless nullSafe says otherwise. Nil where its code is not in the source.
func (c *compiler) own(a *model.Adapter, nullSafe bool) *decoder.Node {
	r, _ := a.Code.(*code.Routine)
	if r == nil || c.deep > maxDeep {
		return nil
	}
	n := &decoder.Node{Op: decoder.OpLeaf, Inside: true, MindsText: true}
	if a.Of != nil {
		n.Model = a.Of.Unwrapped().Model
	}
	switch a.Form {
	case "deserialize":
		nullSafe = true
		n.Read = func(v *wire.Value) decoder.Verdict {
			return verdict(eval.Run(r, static{}, eval.HostOf(json{c, v}), eval.Value{Class: "Type"}, eval.HostOf(context{c})))
		}
	case "read":
		n.Read = func(v *wire.Value) decoder.Verdict {
			return verdict(eval.Run(r, static{}, eval.HostOf(c.reader().At(v))))
		}
	default:
		return nil
	}
	if nullSafe {
		return &decoder.Node{Op: decoder.OpNil, Inner: n}
	}
	return n
}

// follows says whether the code of an adapter is run.
func (c *compiler) follows(a *model.Adapter) bool { return a != nil && c.own(a, true) != nil }

// registered is the adapter that a Gson is given for a type, nil for one without.
func (c *compiler) registered(t *model.Type) *model.Adapter {
	if c.settings == nil || t.Kind != model.Named {
		return nil
	}
	for i := range c.settings.Adapters {
		if a := &c.settings.Adapters[i]; a.Of != nil && a.Of.Key() == t.Key() && jvm.Scalar(t) == "" {
			return a
		}
	}
	return nil
}

// verdict is what code makes, or what it throws: of an IllegalStateException fromJson makes another.
func verdict(v eval.Value, err error) decoder.Verdict {
	var thrown *eval.Thrown
	if errors.As(err, &thrown) && thrown.Class == "IllegalStateException" && thrown.Cause == nil {
		return decoder.Verdict{Err: syntax(decoder.ReasonCode, "java.lang."+thrown.Error())}
	}
	return eval.Verdict(v, err)
}

// reader is what a JsonReader of Gson's does with values.
func (c *compiler) reader() eval.Reader {
	return eval.Reader{
		Reads: map[string]func(*wire.Value) decoder.Verdict{
			"nextString": func(v *wire.Value) decoder.Verdict {
				s, err := stringOf(v)
				return decoder.Verdict{Seen: decoder.Seen{Kind: decoder.SeenString, Text: s}, Err: err}
			},
			"nextInt":    func(v *wire.Value) decoder.Verdict { return integer(v, "an int", 32) },
			"nextLong":   func(v *wire.Value) decoder.Verdict { return integer(v, "a long", 64) },
			"nextDouble": func(v *wire.Value) decoder.Verdict { return float(v, 64) },
			"nextBoolean": func(v *wire.Value) decoder.Verdict {
				if v.Kind != wire.Bool {
					return decoder.Verdict{Err: expected("a boolean", v.Kind)}
				}
				return boolean(v)
			},
		},
		Wrong: func(want, token string) *decoder.Error {
			return &decoder.Error{Kind: "IllegalStateException", Reason: decoder.ReasonKind, Message: fmt.Sprintf("IllegalStateException: Expected %s but was %s", want, token)}
		},
	}
}

// context is the JsonDeserializationContext that a JsonDeserializer is given.
type context struct{ c *compiler }

func (context) Is(class string) (bool, bool) { return class == "JsonDeserializationContext", true }

func (x context) Member(name string, args []eval.Value, types []*model.Type) (eval.Value, bool, error) {
	if name != "deserialize" || len(args) != 2 {
		return eval.Value{}, false, nil
	}
	e, ok := args[0].Host.(json)
	var t *model.Type
	switch {
	case args[1].Model != nil && len(args[1].Model.Params) == 0:
		t = &model.Type{Kind: model.Named, Name: args[1].Model.Name, Model: args[1].Model}
	case args[1].Class != "":
		if t = (&model.Type{Kind: model.Named, Name: args[1].Class}); x.c.scalar(t) == nil {
			return eval.Value{}, false, nil
		}
	}
	if !ok || t == nil {
		return eval.Value{}, false, nil
	}
	again := &compiler{settings: x.c.settings, nodes: map[string]*decoder.Node{}, deep: x.c.deep + 1} // code is run on several values at once
	out := (&decoder.Plan{Root: again.value(t, false)}).Decode(e.v)
	if out.Err != nil {
		return eval.Value{}, true, eval.ThrownBy(out.Err)
	}
	v := eval.Of(out.Seen)
	v.Model = t.Model
	return v, true, nil
}

// json is a JsonElement that code looks at.
type json struct {
	c *compiler
	v *wire.Value
}

func (e json) Is(class string) (bool, bool) { return eval.IsElement(e.v, class, false), true }

// Items are the elements of an array.
func (e json) Items() []eval.Value {
	if e.v.Kind != wire.Array {
		return nil
	}
	items := []eval.Value{}
	for _, v := range e.v.Elems {
		items = append(items, eval.HostOf(json{e.c, v}))
	}
	return items
}

// Member is described at eval.Host.
func (e json) Member(name string, args []eval.Value, _ []*model.Type) (eval.Value, bool, error) {
	none := eval.Value{}
	switch name = eval.Property(name); name {
	case "isJsonNull", "isJsonPrimitive", "isJsonArray", "isJsonObject":
		is, _ := e.Is(name[2:])
		return eval.Bool(is), true, nil
	case "asJsonObject", "asJsonArray", "asJsonPrimitive", "asJsonNull":
		if len(args) > 0 { // getAsJsonObject("stops") of an object
			break
		}
		if is, _ := e.Is(name[2:]); !is {
			return none, true, &eval.Thrown{Class: "IllegalStateException", Message: "Not a JSON " + map[string]string{"asJsonObject": "Object", "asJsonArray": "Array", "asJsonPrimitive": "Primitive", "asJsonNull": "Null"}[name]}
		}
		return eval.HostOf(e), true, nil
	case "asString", "asInt", "asLong", "asDouble", "asBoolean":
		return e.scalar(name)
	case "isString", "isNumber", "isBoolean":
		return eval.Bool(e.v.Kind == map[string]wire.Kind{"isString": wire.String, "isNumber": wire.Number, "isBoolean": wire.Bool}[name]), e.v.Kind < wire.Array && e.v.Kind != wire.Null, nil
	}
	if e.v.Kind != wire.Object {
		return none, false, nil
	}
	switch name {
	case "size":
		return eval.Int(int64(len(e.v.Members))), true, nil
	case "get", "has", "asJsonObject", "asJsonArray", "asJsonPrimitive":
		if len(args) != 1 || args[0].Seen.Kind != decoder.SeenString {
			return none, false, nil
		}
		found := eval.Found(e.v, args[0].Seen.Text)
		switch {
		case name == "has":
			return eval.Bool(found != nil), true, nil
		case found == nil:
			return none, true, nil
		}
		inner := json{e.c, found}
		if name != "get" {
			if is, _ := inner.Is(name[2:]); !is {
				return none, true, &eval.Thrown{Class: "ClassCastException", Message: "class cannot be cast to class " + name[2:]}
			}
		}
		return eval.HostOf(inner), true, nil
	}
	return none, false, nil
}

// scalar is getAsString and the like (JsonPrimitive; of an array of one it is that of the element).
func (e json) scalar(name string) (eval.Value, bool, error) {
	none := eval.Value{}
	switch {
	case e.v.Kind == wire.Array && len(e.v.Elems) == 1:
		return json{e.c, e.v.Elems[0]}.scalar(name)
	case e.v.Kind == wire.Array:
		return none, true, &eval.Thrown{Class: "IllegalStateException", Message: "Array must have size 1, but has size " + strconv.Itoa(len(e.v.Elems))}
	case e.v.Kind == wire.Object:
		return none, true, &eval.Thrown{Class: "UnsupportedOperationException", Message: "JsonObject"}
	case e.v.Kind == wire.Null:
		return none, true, &eval.Thrown{Class: "UnsupportedOperationException", Message: "JsonNull"}
	}
	text := string(e.v.Raw)
	if e.v.Kind == wire.String {
		text = jvm.Text(e.v)
	}
	if name == "asString" {
		return eval.Text(text), true, nil
	}
	if name == "asBoolean" {
		return eval.Bool(len(text) == 4 && (text[0]|0x20) == 't' && (text[1]|0x20) == 'r' && (text[2]|0x20) == 'u' && (text[3]|0x20) == 'e'), true, nil
	}
	noNumber := &eval.Thrown{Class: "NumberFormatException", Message: fmt.Sprintf("For input string: %q", text)}
	if name == "asDouble" {
		f, ok := jvm.ParseDouble(text)
		if !ok {
			return none, true, noNumber
		}
		return eval.Of(decoder.Seen{Kind: decoder.SeenFloat, Text: jvm.FloatText(f, 64)}), true, nil
	}
	bits := map[string]int{"asInt": 32, "asLong": 64}[name]
	if n, ok := jvm.ParseWhole(text, bits); ok {
		return eval.Int(n), true, nil
	}
	if e.v.Kind != wire.Number {
		return none, true, noNumber
	}
	// LazilyParsedNumber: what is no int is a long, then a decimal, cut to so many bits.
	if f, ok := jvm.ParseDouble(text); ok && math.Abs(f) < 1<<31 {
		return eval.Int(int64(f)), true, nil
	}
	return none, false, nil
}

// static are the functions and constants of Gson that code names by their class.
type static struct{}

// Static is described at eval.Library.
func (static) Static(of eval.Value, name string, args []eval.Value, _ []*model.Type) (eval.Value, bool, error) {
	if of.Class == "JsonToken" && args == nil {
		return eval.Token(name), true, nil
	}
	return eval.Value{}, false, nil
}

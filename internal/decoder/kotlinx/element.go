package kotlinx

import (
	"vetta/internal/decoder"
	"vetta/internal/decoder/eval"
	"vetta/internal/decoder/jvm"
	"vetta/internal/model"
	"vetta/internal/wire"
)

// element is a JsonElement that code looks at.
type element struct {
	c *compiler
	v *wire.Value
}

// Is is described at eval.Host.
func (e element) Is(class string) (bool, bool) { return eval.IsElement(e.v, class, true), true }

// Items are the elements of an array.
func (e element) Items() []eval.Value {
	if e.v.Kind != wire.Array {
		return nil
	}
	items := []eval.Value{}
	for _, v := range e.v.Elems {
		items = append(items, eval.HostOf(element{e.c, v}))
	}
	return items
}

// Equal says whether it is the same as another value, where that is told.
func (e element) Equal(other eval.Value) (same, known bool) {
	if other.Class == "JsonNull" {
		return e.v.Kind == wire.Null, true
	}
	return false, false
}

// Member is described at eval.Host.
func (e element) Member(name string, args []eval.Value, _ []*model.Type) (eval.Value, bool, error) {
	none := eval.Value{}
	if v, known, err := e.primitive(name); known {
		return v, true, err
	}
	switch name {
	case "jsonPrimitive", "jsonArray", "jsonObject", "jsonNull":
		want := map[string]string{"jsonPrimitive": "JsonPrimitive", "jsonArray": "JsonArray", "jsonObject": "JsonObject", "jsonNull": "JsonNull"}[name]
		if is, _ := e.Is(want); !is {
			return none, true, throws("IllegalArgumentException", "Element class kotlinx.serialization.json."+elements[e.v.Kind]+" is not a "+want)
		}
		return eval.HostOf(e), true, nil
	}
	if e.v.Kind != wire.Object {
		return none, false, nil
	}
	switch name {
	case "size":
		return eval.Int(int64(len(e.v.Members))), true, nil
	case "isEmpty":
		return eval.Bool(len(e.v.Members) == 0), true, nil
	case "keys":
		var names []eval.Value
		for _, m := range e.v.Members {
			names = append(names, eval.Text(m.Name))
		}
		return eval.List(names...), true, nil
	case "get", "getValue", "containsKey":
		if len(args) != 1 || args[0].Seen.Kind != decoder.SeenString {
			return none, false, nil
		}
		key := args[0].Seen.Text
		found := eval.Found(e.v, key)
		switch {
		case name == "containsKey":
			return eval.Bool(found != nil), true, nil
		case found != nil:
			return eval.HostOf(element{e.c, found}), true, nil
		case name == "getValue":
			return none, true, throws("NoSuchElementException", "Key "+key+" is missing in the map.")
		}
		return none, true, nil
	}
	return none, false, nil
}

// primitive are the properties of a JsonPrimitive.
func (e element) primitive(name string) (eval.Value, bool, error) {
	none := eval.Value{}
	text, quoted, ok := literal(e.v)
	if !ok {
		return none, false, nil
	}
	read := map[string]func(*wire.Value) decoder.Verdict{
		"int": integer(32, "int"), "intOrNull": integer(32, "int"), "long": integer(64, "long"), "longOrNull": integer(64, "long"),
	}[name]
	if read != nil {
		verdict := read(e.v)
		switch {
		case verdict.Err == nil:
			return eval.Of(verdict.Seen), true, nil
		case name == "int" || name == "long":
			return none, true, throws("NumberFormatException", verdict.Err.Message)
		}
		return none, true, nil
	}
	switch name {
	case "content":
		return eval.Text(text), true, nil
	case "contentOrNull":
		if e.v.Kind == wire.Null {
			return none, true, nil
		}
		return eval.Text(text), true, nil
	case "isString":
		return eval.Bool(quoted), true, nil
	case "double", "doubleOrNull", "float", "floatOrNull":
		f, ok := jvm.ParseDouble(text)
		switch {
		case ok && (name == "double" || name == "doubleOrNull"):
			return eval.Of(decoder.Seen{Kind: decoder.SeenFloat, Text: jvm.FloatText(f, 64)}), true, nil
		case ok:
			return eval.Of(decoder.Seen{Kind: decoder.SeenFloat, Text: jvm.FloatText(float64(float32(f)), 32)}), true, nil
		case name == "double" || name == "float":
			return none, true, throws("NumberFormatException", "For input string: \""+text+"\"")
		}
		return none, true, nil
	case "boolean", "booleanOrNull":
		switch {
		case text == "true" || text == "false":
			return eval.Bool(text == "true"), true, nil
		case name == "boolean":
			return none, true, throws("IllegalStateException", text+" does not represent a Boolean")
		}
		return none, true, nil
	}
	return none, false, nil
}

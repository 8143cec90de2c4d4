package kotlinx

import (
	"vetta/internal/decoder"
	"vetta/internal/decoder/jvm"
	"vetta/internal/model"
	"vetta/internal/wire"
)

// list is the node for collections and arrays.
func (c *compiler) list(t *model.Type) *decoder.Node {
	elem := t.Args[0]
	if t.Name != "" && t.Name != "[]" && t.Name != "Array" && jvm.Scalar(elem) == "" && !unsignedNames[elem.Name] { // of what class is not known
		return unknown("the type " + t.Name + " is not in the source")
	}
	inner := c.value(elem)
	n := starting(&decoder.Node{Op: decoder.OpList, Unique: t.Kind == model.Unique, Equal: jvm.Same(elem), Inner: inner}, "array", '[')
	n.Bytes = t.Name == "ByteArray"
	return n
}

var unsignedNames = map[string]bool{"UInt": true, "ULong": true, "UShort": true, "UByte": true}

// dictionary is the node for maps: objects where the key is a scalar or an enum, and where that is allowed
// arrays of keys and values in turn.
func (c *compiler) dictionary(t *model.Type) *decoder.Node {
	key := t.Args[0].Unwrapped()
	elem := c.value(t.Args[1])
	if key.Model != nil && key.Model.Inline != nil && len(key.Model.Fields) == 1 {
		key = key.Model.Fields[0].Type.Unwrapped()
	}
	var read func(*wire.Value) decoder.Verdict
	switch {
	case key.Model != nil && key.Model.Kind == model.Enum:
		if why := c.ownReader(key.Model); why != "" {
			return unknown(why)
		}
		read = c.constant(key.Model)
	case key.Kind == model.Named && key.Model == nil:
		read = c.scalar(key.Name)
	case key.Model != nil && key.Model.Kind == model.Class && c.on("allowStructuredMapKeys"):
		n := starting(&decoder.Node{Op: decoder.OpPairs, Inner: c.value(key), Second: elem}, "array", '[')
		n.Error = fault("IllegalArgumentException", decoder.ReasonKey, "Value must follow key in a map")
		return n
	case key.Model != nil && key.Model.Kind == model.Class:
		e := fault("JsonEncodingException", decoder.ReasonType, "Value of type '%s' can't be used in JSON as a key in the map. It should have either primitive or enum kind, but its kind is 'CLASS'", serialName(key.Model))
		e.Advice = "Json { allowStructuredMapKeys = true }"
		return &decoder.Node{Op: decoder.OpFail, Error: e}
	}
	if read == nil {
		return unknown("its keys are made by code that is not followed")
	}
	n := starting(&decoder.Node{Op: decoder.OpMap, Inner: elem, Every: true}, "object", '{')
	n.Key = decoder.KeyBy(read, jvm.StringValue)
	return n
}

// element is the node for JsonElement or one of its subclasses, nil for another type. null is an element too.
func (c *compiler) element(name string) *decoder.Node {
	wants := map[string]func(wire.Kind) bool{
		"JsonElement":   func(wire.Kind) bool { return true },
		"JsonPrimitive": func(k wire.Kind) bool { return k != wire.Array && k != wire.Object },
		"JsonArray":     func(k wire.Kind) bool { return k == wire.Array },
		"JsonObject":    func(k wire.Kind) bool { return k == wire.Object },
		"JsonNull":      func(k wire.Kind) bool { return k == wire.Null },
	}[model.SimpleName(name)]
	if wants == nil {
		return nil
	}
	return &decoder.Node{Op: decoder.OpLeaf, Read: func(v *wire.Value) decoder.Verdict {
		if !wants(v.Kind) {
			switch model.SimpleName(name) {
			case "JsonObject":
				return decoder.Verdict{Err: object.WrongValue(v)}
			case "JsonArray":
				return decoder.Verdict{Err: array.WrongValue(v)}
			}
			return decoder.Verdict{Err: fault("JsonDecodingException", reasonOf(v), "Unexpected JSON element, expected %s, had class kotlinx.serialization.json.%s", model.SimpleName(name), elements[v.Kind])}
		}
		return decoder.Verdict{Seen: jvm.Any(v, func(raw string) decoder.Seen { return decoder.Seen{Kind: decoder.SeenDecimal, Text: raw} })}
	}}
}

// object and array are asked for what is wrong with a value that is none.
var (
	object = starting(&decoder.Node{}, "object", '{')
	array  = starting(&decoder.Node{}, "array", '[')
)

// elements are the classes of elements.
var elements = map[wire.Kind]string{wire.Null: "JsonNull", wire.Bool: "JsonLiteral", wire.Number: "JsonLiteral", wire.String: "JsonLiteral", wire.Array: "JsonArray", wire.Object: "JsonObject"}

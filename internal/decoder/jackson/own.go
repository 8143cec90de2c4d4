package jackson

import (
	"errors"
	"math"
	"slices"
	"strings"

	"vetta/internal/code"
	"vetta/internal/decoder"
	"vetta/internal/decoder/eval"
	"vetta/internal/decoder/jvm"
	"vetta/internal/model"
	"vetta/internal/wire"
)

// own is the node for a JsonDeserializer of the app's own, whose code is run on the value; null does not come to it.
// Nil where its code is not in the source.
func (c *compiler) own(a *model.Adapter) *decoder.Node {
	if a == nil {
		return nil
	}
	r, _ := a.Code.(*code.Routine)
	if r == nil || a.Form != "deserialize" || len(r.Params) != 2 {
		return nil
	}
	n := &decoder.Node{Op: decoder.OpLeaf, Inside: true, MindsText: true, Read: func(v *wire.Value) decoder.Verdict {
		return ran(eval.Run(r, static{}, eval.HostOf(parser{v}), eval.Value{Class: "DeserializationContext"}))
	}}
	return nullable(n)
}

// ran is what code makes, or what it throws, which comes as a JsonMappingException.
func ran(v eval.Value, err error) decoder.Verdict {
	var thrown *eval.Thrown
	if errors.As(err, &thrown) && thrown.Cause == nil && !strings.HasPrefix(thrown.Class, "Json") {
		return decoder.Verdict{Err: fault("JsonMappingException", decoder.ReasonCode, "%s", thrown.Message)}
	}
	return eval.Verdict(v, err)
}

// registered is the deserializer that a module of the mapper has for a type, nil for none.
func (c *compiler) registered(t *model.Type) *model.Adapter {
	if c.settings == nil {
		return nil
	}
	for i := range c.settings.Adapters {
		if a := &c.settings.Adapters[i]; a.Of != nil && a.Of.Kind == model.Named && model.SimpleName(a.Of.Name) == model.SimpleName(t.Name) && jvm.Scalar(t) == "" {
			return a
		}
	}
	return nil
}

// static are the constants that code names by their class.
type static struct{}

// Static is described at eval.Library.
func (static) Static(of eval.Value, name string, args []eval.Value, _ []*model.Type) (eval.Value, bool, error) {
	if of.Class == "JsonToken" && args == nil {
		return eval.Token(name), true, nil
	}
	return eval.Value{}, false, nil
}

// parser is the JsonParser that a deserializer is given, before a value that it has not begun to read.
type parser struct{ v *wire.Value }

func (parser) Is(class string) (bool, bool) { return class == "JsonParser", true }

// Member is described at eval.Host.
func (p parser) Member(name string, args []eval.Value, _ []*model.Type) (eval.Value, bool, error) {
	switch name = eval.Property(name); name {
	case "text":
		switch p.v.Kind {
		case wire.Array:
			return eval.Text("["), true, nil
		case wire.Object:
			return eval.Text("{"), true, nil
		}
		return eval.Text(scalarText(p.v)), true, nil
	case "valueAsString":
		if p.v.Kind >= wire.Array || len(args) > 0 {
			return eval.Value{}, len(args) == 0, nil
		}
		return eval.Text(scalarText(p.v)), true, nil
	case "intValue", "longValue", "doubleValue":
		if p.v.Kind != wire.Number {
			return eval.Value{}, true, &eval.Thrown{Class: "JsonMappingException", Message: "Current token (" + bare(p.v) + ") not numeric, can not use numeric value accessors"}
		}
		return number(p.v, name)
	case "currentToken":
		return eval.Token(bare(p.v)), true, nil
	case "codec":
		return eval.HostOf(p), true, nil
	case "readTree", "readValueAsTree":
		return eval.HostOf(node(p)), true, nil
	}
	return eval.Value{}, false, nil
}

// scalarText is the text of a scalar as it was sent.
func scalarText(v *wire.Value) string {
	switch v.Kind {
	case wire.String:
		return jvm.Text(v)
	case wire.Null:
		return "null"
	}
	return string(v.Raw)
}

// number is a number as an int, a long or a double; what does not fit is not followed.
func number(v *wire.Value, name string) (eval.Value, bool, error) {
	f, ok := jvm.ParseDouble(string(v.Raw))
	if name == "doubleValue" || name == "asDouble" {
		return eval.Of(decoder.Seen{Kind: decoder.SeenFloat, Text: jvm.FloatText(f, 64)}), ok, nil
	}
	if n, whole := jvm.ParseWhole(string(v.Raw), 64); whole && (name != "intValue" && name != "asInt" || n == int64(int32(n))) {
		return eval.Int(n), true, nil
	}
	return eval.Int(int64(f)), ok && math.Abs(f) < 1<<31, nil
}

// node is a JsonNode; one without a value is what path answers for a member that is absent.
type node struct{ v *wire.Value }

func (n node) Is(class string) (bool, bool) {
	switch class {
	case "JsonNode":
		return true, true
	case "ObjectNode":
		return n.v != nil && n.v.Kind == wire.Object, true
	case "ArrayNode":
		return n.v != nil && n.v.Kind == wire.Array, true
	case "TextNode":
		return n.v != nil && n.v.Kind == wire.String, true
	}
	return false, false
}

// Items are the elements of an array.
func (n node) Items() []eval.Value {
	if n.v == nil || n.v.Kind != wire.Array {
		return nil
	}
	items := []eval.Value{}
	for _, v := range n.v.Elems {
		items = append(items, eval.HostOf(node{v}))
	}
	return items
}

var kindTests = map[string][]wire.Kind{"isTextual": {wire.String}, "isNumber": {wire.Number}, "isBoolean": {wire.Bool}, "isNull": {wire.Null}, "isObject": {wire.Object}, "isArray": {wire.Array}, "isValueNode": {wire.Null, wire.Bool, wire.Number, wire.String}, "isContainerNode": {wire.Array, wire.Object}}

// Member is described at eval.Host.
func (n node) Member(name string, args []eval.Value, _ []*model.Type) (eval.Value, bool, error) {
	none := eval.Value{}
	if kinds, ok := kindTests[name]; ok {
		return eval.Bool(n.v != nil && slices.Contains(kinds, n.v.Kind)), true, nil
	}
	absent := n.v == nil
	switch name {
	case "isMissingNode":
		return eval.Bool(absent), true, nil
	case "asText":
		switch {
		case len(args) > 0:
			return none, false, nil
		case absent || n.v.Kind >= wire.Array:
			return eval.Text(""), true, nil
		case n.v.Kind == wire.Number && strings.ContainsAny(string(n.v.Raw), ".eE"): // as a double writes itself
			f, ok := jvm.ParseDouble(string(n.v.Raw))
			return eval.Text(jvm.DoubleToString(f)), ok, nil
		}
		return eval.Text(scalarText(n.v)), true, nil
	case "textValue":
		if absent || n.v.Kind != wire.String {
			return none, true, nil
		}
		return eval.Text(jvm.Text(n.v)), true, nil
	case "intValue", "longValue", "doubleValue", "asInt", "asLong", "asDouble":
		switch {
		case len(args) > 0:
			return none, false, nil
		case !absent && n.v.Kind == wire.Number:
			return number(n.v, name)
		case absent || n.v.Kind != wire.String || strings.HasSuffix(name, "Value"):
			if strings.HasPrefix(name, "as") && !absent && n.v.Kind == wire.Bool {
				return none, false, nil
			}
			if strings.Contains(strings.ToLower(name), "double") {
				return eval.Of(decoder.Seen{Kind: decoder.SeenFloat, Text: "0.0"}), true, nil
			}
			return eval.Int(0), true, nil
		}
		if k, ok := jvm.ParseWhole(jvm.Text(n.v), 32); ok && name == "asInt" {
			return eval.Int(k), true, nil
		}
		return none, false, nil
	case "booleanValue":
		return eval.Bool(!absent && n.v.Kind == wire.Bool && n.v.True()), true, nil
	case "size":
		if absent {
			return eval.Int(0), true, nil
		}
		return eval.Int(int64(len(n.v.Elems) + len(n.v.Members))), true, nil
	case "get", "path", "has", "hasNonNull":
		if len(args) != 1 || args[0].Seen.Kind != decoder.SeenString {
			return none, false, nil
		}
		var found *wire.Value
		if !absent && n.v.Kind == wire.Object {
			found = eval.Found(n.v, args[0].Seen.Text)
		}
		switch {
		case name == "has":
			return eval.Bool(found != nil), true, nil
		case name == "hasNonNull":
			return eval.Bool(found != nil && found.Kind != wire.Null), true, nil
		case found == nil && name == "get":
			return none, true, nil
		}
		return eval.HostOf(node{found}), true, nil
	}
	return none, false, nil
}

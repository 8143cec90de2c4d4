package foundation

import (
	"fmt"
	"math"
	"strconv"
	"strings"

	"vetta/internal/decoder"
	"vetta/internal/model"
	"vetta/internal/wire"
)

// cast is the node for as? T on a value that JSONSerialization has parsed: nothing
// where the value is no T. Numbers and bools are NSNumbers, which bridge to any
// numeric type that holds them exactly, and to Bool if they are 0 or 1
// (NSNumber._conditionallyBridgeFromObjectiveC, as measured).
func (c *compiler) cast(t *model.Type) *decoder.Node {
	n := c.strictCast(t.Unwrapped())
	if n.Op == decoder.OpUnknown {
		return n
	}
	return &decoder.Node{Op: decoder.OpTry, Inner: n, Type: Text(t)}
}

// castError is what a failing cast is told as; nothing throws it.
func castError(want string) func(wire.Kind) *decoder.Error {
	return func(kind wire.Kind) *decoder.Error {
		if kind == wire.Null {
			return &decoder.Error{Kind: "cast", Reason: decoder.ReasonNull, Message: "the cast to " + want + " found null"}
		}
		return &decoder.Error{Kind: "cast", Reason: decoder.ReasonKind, Message: fmt.Sprintf("the cast to %s found %s", want, found(kind))}
	}
}

func (c *compiler) strictCast(t *model.Type) *decoder.Node {
	switch t.Kind {
	case model.List:
		if t.Args[0].Unwrapped().Name == "Any" {
			return &decoder.Node{Op: decoder.OpLeaf, Read: castAny("[Any]", wire.Array), Type: "[Any]"}
		}
		inner := c.strictCast(t.Args[0].Unwrapped())
		if inner.Op == decoder.OpUnknown {
			return inner
		}
		return &decoder.Node{Op: decoder.OpList, Wrong: castError(Text(t)), Inner: inner}
	case model.Map:
		if t.Args[1].Unwrapped().Name == "Any" && t.Args[0].Name == "String" {
			return &decoder.Node{Op: decoder.OpLeaf, Read: castAny(dictionary, wire.Object), Type: "[String: Any]"}
		}
		inner := c.strictCast(t.Args[1].Unwrapped())
		if inner.Op == decoder.OpUnknown || t.Args[0].Name != "String" {
			return unknown("the cast to " + Text(t))
		}
		return &decoder.Node{Op: decoder.OpMap, Wrong: castError(Text(t)), Inner: inner, Key: func(name string) (decoder.Seen, *decoder.Error) {
			return decoder.Seen{Kind: decoder.SeenString, Text: name}, nil
		}}
	case model.Named:
		if read := castScalar(t.Name); read != nil && t.Model == nil {
			return &decoder.Node{Op: decoder.OpLeaf, Read: read, Type: t.Name}
		}
	}
	return unknown("the cast to " + Text(t))
}

// castAny is the cast to a collection whose contents may be anything.
func castAny(name string, kind wire.Kind) func(*wire.Value) decoder.Verdict {
	fail := castError(name)
	return func(v *wire.Value) decoder.Verdict {
		if v.Kind != kind {
			return decoder.Verdict{Err: fail(v.Kind)}
		}
		return decoder.Verdict{Seen: anyValue(v)}
	}
}

// anyValue is what JSONSerialization makes of a value.
func anyValue(v *wire.Value) decoder.Seen {
	switch v.Kind {
	case wire.Bool:
		return decoder.Bool(v.True())
	case wire.Number:
		if n, _ := integerOf(string(v.Raw), integers["Int"]); n != nil && !strings.ContainsAny(string(v.Raw), ".eE") {
			return decoder.Seen{Kind: decoder.SeenInt, Text: n.String()}
		}
		f, _ := floatOf(string(v.Raw), 64)
		return decoder.Seen{Kind: decoder.SeenFloat, Text: FloatText(f, 64)}
	case wire.String:
		s, _ := v.Text()
		return decoder.Seen{Kind: decoder.SeenString, Text: s}
	case wire.Array:
		out := decoder.Seen{Kind: decoder.SeenList, Elems: []decoder.Seen{}}
		for _, e := range v.Elems {
			out.Elems = append(out.Elems, anyValue(e))
		}
		return out
	case wire.Object:
		out := decoder.Seen{Kind: decoder.SeenMap, Elems: []decoder.Seen{}}
		for _, m := range v.Members {
			out.Names, out.Elems = append(out.Names, m.Name), append(out.Elems, anyValue(m.Value))
		}
		return out
	}
	return decoder.Seen{}
}

// castScalar is the cast to a scalar type, nil where it is not known.
func castScalar(name string) func(*wire.Value) decoder.Verdict {
	fail := castError(name)
	number := func(v *wire.Value) (string, bool) {
		switch {
		case v.Kind == wire.Number:
			return string(v.Raw), true
		case v.Kind == wire.Bool && v.True():
			return "1", true
		case v.Kind == wire.Bool:
			return "0", true
		}
		return "", false
	}
	switch {
	case name == "Any":
		return func(v *wire.Value) decoder.Verdict { return decoder.Verdict{Seen: anyValue(v)} }
	case name == "NSNumber" || numberValues[strings.TrimPrefix(name, "NSNumber.")]:
		return func(v *wire.Value) decoder.Verdict {
			lit, ok := number(v)
			switch {
			case !ok:
				return decoder.Verdict{Err: fail(v.Kind)}
			case name == "NSNumber":
				return decoder.Verdict{Seen: anyValue(v)}
			}
			return numberValue(lit, strings.TrimPrefix(name, "NSNumber."))
		}
	case name == "String":
		return func(v *wire.Value) decoder.Verdict {
			if v.Kind != wire.String {
				return decoder.Verdict{Err: fail(v.Kind)}
			}
			return readString(v)
		}
	case name == "Double":
		return func(v *wire.Value) decoder.Verdict {
			lit, ok := number(v)
			if !ok {
				return decoder.Verdict{Err: fail(v.Kind)}
			}
			f, ok := floatOf(lit, 64)
			if !ok {
				return decoder.Verdict{Err: fail(v.Kind)}
			}
			verdict := decoder.Verdict{Seen: decoder.Seen{Kind: decoder.SeenFloat, Text: FloatText(f, 64)}}
			if losesDigits(lit, f, 64) {
				verdict.Loss = decoder.LostDigits
			}
			return verdict
		}
	case name == "Bool":
		return func(v *wire.Value) decoder.Verdict {
			lit, ok := number(v)
			if !ok {
				return decoder.Verdict{Err: fail(v.Kind)}
			}
			switch f, _ := floatOf(lit, 64); f {
			case 0, 1:
				return decoder.Verdict{Seen: decoder.Bool(f == 1)}
			}
			return decoder.Verdict{Err: fail(v.Kind)}
		}
	case integers[name].bits > 0:
		return func(v *wire.Value) decoder.Verdict {
			lit, ok := number(v)
			if !ok {
				return decoder.Verdict{Err: fail(v.Kind)}
			}
			n, exact := integerOf(lit, integers[name])
			if n == nil || !exact {
				return decoder.Verdict{Err: fail(v.Kind)}
			}
			return decoder.Verdict{Seen: decoder.Seen{Kind: decoder.SeenInt, Text: n.String()}}
		}
	}
	return nil
}

// numberValues are the properties of an NSNumber that make another number of it.
var numberValues = map[string]bool{"intValue": true, "int64Value": true, "doubleValue": true, "boolValue": true}

// numberValue is such a property of a number: a whole one is cut off behind the point (as measured), and
// what is beyond its range is not told.
func numberValue(lit, property string) decoder.Verdict {
	f, _ := floatOf(lit, 64)
	switch property {
	case "doubleValue":
		return decoder.Verdict{Seen: decoder.Seen{Kind: decoder.SeenFloat, Text: FloatText(f, 64)}, Loss: lossIf(losesDigits(lit, f, 64))}
	case "boolValue":
		return decoder.Verdict{Seen: decoder.Bool(f != 0), Loss: lossIf(f != 0 && f != 1)}
	}
	if n, exact := integerOf(lit, integers["Int64"]); n != nil && exact {
		return decoder.Verdict{Seen: decoder.Seen{Kind: decoder.SeenInt, Text: n.String()}}
	}
	if whole := math.Trunc(f); math.Abs(whole) < 1<<53 {
		return decoder.Verdict{Seen: decoder.Seen{Kind: decoder.SeenInt, Text: strconv.FormatInt(int64(whole), 10)}, Loss: decoder.LostDigits}
	}
	return decoder.Verdict{Seen: decoder.Seen{Kind: decoder.SeenUnknown}}
}

func lossIf(lost bool) decoder.Loss {
	if lost {
		return decoder.LostDigits
	}
	return decoder.NoLoss
}

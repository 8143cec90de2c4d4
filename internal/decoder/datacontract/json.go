package datacontract

import (
	"math/big"
	"regexp"
	"strconv"
	"strings"

	"vetta/internal/decoder"
	"vetta/internal/decoder/clr"
	"vetta/internal/decoder/sharp"
	"vetta/internal/model"
	"vetta/internal/wire"
)

// PlanJSON makes the plan by which DataContractJsonSerializer reads t with these settings. JSON is read as XML would be:
// an object or a list is an element with others in it, and anything else a text.
func PlanJSON(t *model.Type, declared string, settings *model.Settings) *decoder.Plan {
	c := newCompiler(settings, true)
	c.code = sharp.CodeOf(t)
	p := &decoder.Plan{Type: t, Declared: declared, Settings: settings, Refuses: settings.Refuses("DataContractJsonSerializer")}
	c.look(t, map[string]bool{})
	if c.lost != "" {
		p.Root = &decoder.Node{Op: decoder.OpUnknown, Why: c.lost}
		return p
	}
	p.Root = c.jsonNode(t, clr.Name(t))
	if p.Root.Op == decoder.OpNil { // a root that is null is nothing, whatever is declared
		root := *p.Root
		root.NullError = nil
		p.Root = &root
	}
	if c.broken != nil {
		p.Root = &decoder.Node{Op: decoder.OpFail, Type: declared, Model: c.breaks, Error: c.broken, Inner: p.Root}
	}
	return p
}

// ReadJSON reads a document of JSON as a type.
func ReadJSON(t *model.Type, settings *model.Settings, doc *wire.Value) decoder.Outcome {
	return PlanJSON(t, t.Written(), settings).Decode(doc)
}

// unparsed is the error for a text that is no value of a type.
func unparsed(of, text string, u *model.Type, reason decoder.Reason) *decoder.Error {
	name := model.SimpleName(clr.Name(u))
	switch {
	case u.Model != nil: // an enum, by its number
		name = "Int64"
	case u.Name == "double" || u.Name == "decimal":
		name = u.Name
	}
	return serialization(reason, "There was an error deserializing the object of type %s. The value '%s' cannot be parsed as the type '%s'.", of, text, name)
}

// state is the error for a text where an object or a list is read.
func state(kind wire.Kind) *decoder.Error {
	return serialization(decoder.ReasonKind, "Expecting state 'Element'.. Encountered 'Text'  with name '', namespace ''.")
}

// jsonNode is what is done with a value; of is the type that is decoded, which messages name.
func (c *compiler) jsonNode(t *model.Type, of string) *decoder.Node {
	u := t.Unwrapped()
	key := t.Key()
	if n := c.nodes[key]; n != nil {
		return n
	}
	n := &decoder.Node{}
	c.nodes[key] = n
	*n = decoder.Node{Op: decoder.OpNil, Type: t.Written(), Inner: c.jsonSolid(u, of)}
	if clr.IsValue(u) && t.Kind != model.Optional {
		n.NullError = serialization(decoder.ReasonNull, "ValueType '%s' cannot be null.", clr.Name(u))
	}
	return n
}

func (c *compiler) jsonSolid(u *model.Type, of string) *decoder.Node {
	switch {
	case clr.IsBytes(u):
		return &decoder.Node{Op: decoder.OpLeaf, MindsText: true, Inside: true, Type: u.Written(), Read: func(v *wire.Value) decoder.Verdict { return bytes(v, u, of) }}
	case isList(u):
		return c.jsonList(u, of)
	case u.Kind == model.Map:
		return c.jsonMap(u, of)
	case collection(u) != nil:
		if l := collection(u); l.Kind == model.Map {
			return c.jsonMap(l, of)
		}
		return c.jsonList(collection(u), of)
	case u.Model != nil && u.Model.Kind != model.Enum:
		return c.jsonClass(u, of)
	case u.Name == "object" && u.Model == nil:
		return &decoder.Node{Op: decoder.OpLeaf, Inside: true, MindsText: true, Type: u.Written(), Read: func(v *wire.Value) decoder.Verdict { return decoder.Verdict{Seen: anything(v)} }}
	}
	leaf := &decoder.Node{Op: decoder.OpLeaf, MindsText: true, Type: u.Written(), ByFacts: clr.IsNumber(u), ByDate: u.Model == nil}
	if u.Model != nil {
		leaf.Model = u.Model
	}
	leaf.Read = func(v *wire.Value) decoder.Verdict { return c.scalar(v, u, of) }
	return leaf
}

// blankText takes a text in place of an object or a list: one that is blank is an empty one.
func blankText(empty func() decoder.Seen) *decoder.Node {
	return &decoder.Node{Op: decoder.OpLeaf, MindsText: true, Read: func(v *wire.Value) decoder.Verdict {
		if v.Kind == wire.String {
			if text, _ := v.Text(); strings.TrimSpace(text) == "" {
				return decoder.Verdict{Seen: empty()}
			}
		}
		return decoder.Verdict{Err: state(v.Kind)}
	}}
}

func noElements() decoder.Seen { return decoder.Seen{Kind: decoder.SeenList, Elems: []decoder.Seen{}} }

func (c *compiler) jsonList(t *model.Type, of string) *decoder.Node {
	n := &decoder.Node{Op: decoder.OpList, Type: t.Written(), Unique: t.Kind == model.Unique, Inner: c.jsonNode(t.Args[0], of), Wrong: state, Second: blankText(noElements), Scalars: true, Empties: decoder.EmptiesAll, Value: noElements()}
	if elem := t.Args[0]; strings.HasPrefix(t.Name, "[") && elem.Kind == model.Named && (clr.IsNumber(elem) || elem.Name == "bool" || elem.Name == "DateTime") { // which have a reader of their own
		n.Empties = decoder.EmptiesEmpty
	}
	return n
}

// jsonMap is a dictionary: a list of objects with a Key and a Value, or an object where the settings say so.
func (c *compiler) jsonMap(t *model.Type, of string) *decoder.Node {
	empty := func() decoder.Seen {
		return decoder.Seen{Kind: decoder.SeenMap, Names: []string{}, Elems: []decoder.Seen{}}
	}
	if c.settings.Option("UseSimpleDictionaryFormat") == "true" {
		n := &decoder.Node{Op: decoder.OpMap, Type: t.Written(), Inner: c.jsonNode(t.Args[1], of), Wrong: func(kind wire.Kind) *decoder.Error {
			if kind == wire.Array {
				return unparsed(of, "", t.Args[1].Unwrapped(), decoder.ReasonKind)
			}
			return state(kind)
		}, Second: blankText(empty), Scalars: true}
		n.Key = func(name string) (decoder.Seen, *decoder.Error) { return clr.String(name), nil }
		return n
	}
	return &decoder.Node{Op: decoder.OpLeaf, Inside: true, MindsText: true, Type: t.Written(), Read: func(v *wire.Value) decoder.Verdict {
		out := empty()
		switch v.Kind {
		case wire.Object:
			return decoder.Verdict{Seen: out, Loss: lossOf(len(v.Members) > 0)}
		case wire.Array:
		default:
			return blankText(empty).Read(v)
		}
		for _, e := range v.Elems {
			var parts [2]*wire.Value
			for _, m := range e.Members {
				switch m.Name {
				case "Key":
					parts[0] = m.Value
				case "Value":
					parts[1] = m.Value
				}
			}
			if parts[0] == nil || parts[1] == nil {
				return decoder.Verdict{Err: serialization(decoder.ReasonMissing, "The data contract type 'System.Runtime.Serialization.KeyValue' cannot be deserialized because the required data members 'Key, Value' were not found.")}
			}
			key, val := c.scalarOrNode(t.Args[0], of, parts[0]), c.scalarOrNode(t.Args[1], of, parts[1])
			for _, o := range []decoder.Outcome{key, val} {
				if o.Err != nil {
					return decoder.Verdict{Err: o.Err}
				}
			}
			out.Names, out.Elems = append(out.Names, strings.Trim(key.Seen.String(), `"`)), append(out.Elems, val.Seen)
		}
		return decoder.Verdict{Seen: out}
	}}
}

func lossOf(lost bool) decoder.Loss {
	if lost {
		return decoder.Defaulted
	}
	return decoder.NoLoss
}

// scalarOrNode reads a part of an entry by the node for its type.
func (c *compiler) scalarOrNode(t *model.Type, of string, v *wire.Value) decoder.Outcome {
	p := decoder.Plan{Root: c.jsonNode(t, of), Type: t}
	return p.Decode(v)
}

func (c *compiler) jsonClass(t *model.Type, of string) *decoder.Node {
	k := c.class(t)
	build, index := c.build(k)
	build.ByDocument = true
	taken := map[int]bool{}
	for _, m := range k.members {
		at := &decoder.Node{Op: decoder.OpAt, Name: m.name, Field: m.field, Type: m.field.Declared, Value: c.initial(k, m), Inner: inElement(c.jsonNode(m.typ, of), m.name)}
		at.Twice = func(name string) *decoder.Error {
			return serialization(decoder.ReasonCode, "The data contract type '%s' cannot be deserialized because the data member '%s' was found more than once in the input.", clr.Name(t), name)
		}
		if m.required {
			at.Missing = serialization(decoder.ReasonMissing, "The data contract type '%s' cannot be deserialized because the required data member '%s' was not found.", clr.Name(t), m.name)
			at.Missing.Key = m.name
		}
		c.step(build, index, taken, k, m, at)
	}
	c.rest(build, taken, c.blankOf(k))
	return &decoder.Node{Op: decoder.OpKeyed, Model: t.Model, Type: t.Written(), Inner: build, Wrong: state, Second: blankText(func() decoder.Seen { return c.blankOf(k) }), Scalars: true, Empties: decoder.EmptiesAll}
}

// endElement is how the error begins for a scalar with elements in it, which stands in a list: a member's names its own.
const endElement = "End element 'item' from namespace '' expected. Found "

// inElement is a node for a member, whose scalars name it where elements stand in them.
func inElement(n *decoder.Node, name string) *decoder.Node {
	if n.Op != decoder.OpNil || n.Inner == nil || n.Inner.Op != decoder.OpLeaf {
		return n
	}
	own := *n
	own.Inner = clr.Told(n.Inner, func(message string) string {
		return strings.Replace(message, endElement, strings.Replace(endElement, "item", name, 1), 1)
	})
	return &own
}

// plainName is a key that can be the name of an element.
var plainName = regexp.MustCompile(`^[\pL_][\pL\pN_.-]*$`)

// elementOf is the first element that the reader makes of what stands in a value: item in a list, the key in an object,
// but for keys that are no names of XML.
func elementOf(v *wire.Value) string {
	switch {
	case v.Kind == wire.Array:
		return "element 'item' from namespace ''"
	case len(v.Members) == 0:
		return "another element"
	case !plainName.MatchString(v.Members[0].Name):
		return "element 'a:item' from namespace 'item'"
	}
	return "element '" + v.Members[0].Name + "' from namespace ''"
}

// given is the text of a value as XML would hold it; ok is false for one with others in it.
func given(v *wire.Value) (text string, ok bool) {
	switch v.Kind {
	case wire.String:
		text, _ = v.Text()
		return text, true
	case wire.Array:
		return "", len(v.Elems) == 0
	case wire.Object:
		return "", len(v.Members) == 0
	}
	return string(v.Raw), true
}

// msDate is a date as the serializer writes it: milliseconds since 1970, and the offset of whoever wrote it.
var msDate = regexp.MustCompile(`^\\?/Date\((-?\d+)([+-]\d{4})?\)\\?/$`)

// scalar reads a value as a type that is no class.
func (c *compiler) scalar(v *wire.Value, u *model.Type, of string) decoder.Verdict {
	text, ok := given(v)
	fails := func(reason decoder.Reason) decoder.Verdict {
		return decoder.Verdict{Err: unparsed(of, text, u, reason)}
	}
	switch enum := u.Model != nil; {
	case !ok && (enum || clr.IsNumber(u) || u.Name == "bool"): // whose text is asked for whatever stands in the element
		return fails(decoder.ReasonKind)
	case !ok:
		return decoder.Verdict{Err: serialization(decoder.ReasonKind, "There was an error deserializing the object of type %s. "+endElement+"%s.", of, elementOf(v))}
	}
	trimmed := strings.TrimSpace(text)
	if u.Model != nil { // an enum, by its number alone
		n, ok := wholeOf(trimmed)
		if !ok || !n.IsInt64() {
			return fails(decoder.ReasonConstant)
		}
		return decoder.Verdict{Seen: clr.Constant(u.Model, int64(int32(n.Int64())))}
	}
	if bits, signed := clr.Bits(u); bits > 0 {
		n, ok := wholeOf(trimmed)
		switch {
		case !ok:
			return fails(decoder.ReasonKind)
		case !clr.InRange(n, bits, signed):
			return fails(decoder.ReasonRange)
		}
		return decoder.Verdict{Seen: decoder.Seen{Kind: decoder.SeenInt, Text: n.String()}}
	}
	switch u.Name {
	case "string", "Uri":
		return decoder.Verdict{Seen: clr.String(text)}
	case "decimal":
		if _, ok := new(big.Rat).SetString(trimmed); ok && !strings.Contains(trimmed, "/") {
			if d, ok := clr.Decimal(trimmed); ok {
				return decoder.Verdict{Seen: decoder.Seen{Kind: decoder.SeenDecimal, Text: d}}
			}
			return fails(decoder.ReasonRange)
		}
		return fails(decoder.ReasonKind)
	case "DateTime", "DateTimeOffset":
		m := msDate.FindStringSubmatch(trimmed)
		if m == nil {
			return decoder.Verdict{Err: serialization(decoder.ReasonDate, `There was an error deserializing the object of type %s. DateTime content '%s' does not start with '\/Date(' and end with ')\/' as required for JSON.`, of, text)}
		}
		ms, err := strconv.ParseInt(m[1], 10, 64)
		if err != nil || ms > 253402300799999 || ms < -62135596800000 {
			return fails(decoder.ReasonDate)
		}
		s := clr.UnixMilli(ms)
		if m[2] != "" { // of the machine's zone, which is taken for UTC
			s.Text = strings.TrimSuffix(s.Text, "Z") + "+00:00"
		}
		return decoder.Verdict{Seen: s}
	case "bool":
		if text != trimmed && v.Kind == wire.String {
			text = trimmed
		}
	}
	s, wrong, known := clr.Lexical(u, "", text)
	switch {
	case !known:
		return decoder.Verdict{Seen: decoder.Seen{Kind: decoder.SeenUnknown}}
	case wrong != nil:
		reason := wrong.Reason
		if v.Kind != wire.String {
			reason = decoder.ReasonKind
		}
		return fails(reason)
	}
	return decoder.Verdict{Seen: s}
}

// wholeOf is a number without a fraction, however it is written.
func wholeOf(text string) (*big.Int, bool) {
	if len(text) > 400 || strings.ContainsAny(text, "/_xXpP") {
		return nil, false
	}
	if i := strings.IndexAny(text, "eE"); i >= 0 {
		if n, err := strconv.Atoi(text[i+1:]); err != nil || n > 40 || n < -400 {
			return nil, false
		}
	}
	r, ok := new(big.Rat).SetString(text)
	if !ok || !r.IsInt() {
		return nil, false
	}
	return new(big.Int).Set(r.Num()), true
}

// bytes reads a list of numbers.
func bytes(v *wire.Value, u *model.Type, of string) decoder.Verdict {
	out := decoder.Seen{Kind: decoder.SeenBytes}
	if v.Kind != wire.Array {
		if text, ok := given(v); ok && strings.TrimSpace(text) == "" {
			return decoder.Verdict{Seen: out}
		}
		if v.Kind == wire.Object {
			return decoder.Verdict{Err: serialization(decoder.ReasonKind, "There was an error deserializing the object of type %s. End element 'v' from namespace '' expected. Found element '%s' from namespace ''.", of, v.Members[0].Name)}
		}
		return decoder.Verdict{Err: state(v.Kind)}
	}
	for _, e := range v.Elems {
		text, ok := given(e)
		n, whole := wholeOf(strings.TrimSpace(text))
		if !ok || !whole || !clr.InRange(n, 8, false) {
			return decoder.Verdict{Err: unparsed(of, text, u.Args[0], decoder.ReasonKind)}
		}
		out.Text += string([]byte{byte(n.Int64())})
	}
	return decoder.Verdict{Seen: out}
}

// anything is a value for a member that may hold whatever comes.
func anything(v *wire.Value) decoder.Seen {
	switch v.Kind {
	case wire.Null:
		return decoder.Seen{}
	case wire.Bool:
		return decoder.Bool(v.True())
	case wire.String:
		text, _ := v.Text()
		return clr.String(text)
	case wire.Array:
		out := noElements()
		for _, e := range v.Elems {
			out.Elems = append(out.Elems, anything(e))
		}
		return out
	case wire.Object:
		return clr.String("System.Object")
	}
	raw := string(v.Raw)
	if n, ok := wholeOf(raw); ok && !strings.ContainsAny(raw, ".eE") {
		return decoder.Seen{Kind: decoder.SeenInt, Text: n.String()}
	}
	if !strings.ContainsAny(raw, "eE") {
		if d, ok := clr.Decimal(raw); ok {
			return decoder.Seen{Kind: decoder.SeenDecimal, Text: d}
		}
	}
	s, _ := clr.Float(raw, 64)
	return s
}

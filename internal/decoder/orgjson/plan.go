// Package orgjson is what code does that reads Android's org.json by hand: what
// JSONObject and JSONArray give for each value, as measured with the rewrite of
// 2009-02-11 (testdata/truth/java) and as its source has it (JSONObject, JSON).
package orgjson

import (
	"fmt"
	"strings"

	"vetta/internal/decoder"
	"vetta/internal/decoder/jvm"
	"vetta/internal/model"
	"vetta/internal/wire"
)

// Name is what settings call the library.
const Name = "orgjson"

// Plan makes the plan by which code reads an instance of t from a parsed object.
func Plan(t *model.Type, declared string, settings *model.Settings) *decoder.Plan {
	c := &compiler{nodes: map[*model.Model]*decoder.Node{}}
	p := &decoder.Plan{Type: t, Declared: declared, Settings: settings}
	u := t.Unwrapped()
	if u.Model == nil {
		p.Root = unknown("only a class that reads org.json itself is followed")
		return p
	}
	p.Root = c.model(u.Model)
	return p
}

type compiler struct {
	nodes map[*model.Model]*decoder.Node
}

func unknown(why string) *decoder.Node { return &decoder.Node{Op: decoder.OpUnknown, Why: why} }

func exception(reason decoder.Reason, format string, args ...any) *decoder.Error {
	return &decoder.Error{Kind: "JSONException", Reason: reason, Message: "JSONException: " + fmt.Sprintf(format, args...)}
}

// class is how messages name the class of a value.
func class(v *wire.Value) string {
	switch v.Kind {
	case wire.Bool:
		return "java.lang.Boolean"
	case wire.String:
		return "java.lang.String"
	case wire.Array:
		return "org.json.JSONArray"
	case wire.Object:
		return "org.json.JSONObject"
	case wire.Null:
		return "org.json.JSONObject$1"
	}
	switch n := number(v); n.Kind {
	case decoder.SeenInt:
		if _, ok := jvm.ParseWhole(n.Text, 32); ok {
			return "java.lang.Integer"
		}
		return "java.lang.Long"
	}
	return "java.lang.Double"
}

// text is how messages, and getString, write a value.
func text(v *wire.Value) string {
	switch v.Kind {
	case wire.String:
		return jvm.Text(v)
	case wire.Number:
		return number(v).Text
	case wire.Array, wire.Object:
		return jvm.Any(v, func(raw string) decoder.Seen { return number(&wire.Value{Kind: wire.Number, Raw: []byte(raw)}) }).String()
	}
	return string(v.Raw)
}

// number is JSONTokener.readLiteral: a whole number that a long holds, or a double.
func number(v *wire.Value) decoder.Seen {
	if n, ok := jvm.ParseWhole(string(v.Raw), 64); ok { // -0 too is 0
		return decoder.Seen{Kind: decoder.SeenInt, Text: fmt.Sprint(n)}
	}
	f, _ := jvm.ParseDouble(string(v.Raw))
	return decoder.Seen{Kind: decoder.SeenFloat, Text: jvm.DoubleToString(f)}
}

// mismatch is JSON.typeMismatch.
func mismatch(at, want string, v *wire.Value) *decoder.Error {
	reason := decoder.ReasonKind
	if v.Kind == wire.Null {
		reason = decoder.ReasonNull
	}
	return exception(reason, "Value %s at %s of type %s cannot be converted to %s", text(v), at, class(v), want)
}

// model is the node for a class that reads a parsed object itself.
func (c *compiler) model(m *model.Model) *decoder.Node {
	if n := c.nodes[m]; n != nil {
		return n
	}
	n := &decoder.Node{}
	c.nodes[m] = n
	switch {
	case m.Reading == model.Unfollowed:
		*n = *unknown(fmt.Sprintf("%s: %s (%s)", m.Name, m.Why, m.WhyPos))
	case m.Reading != model.ByCode:
		*n = *unknown(m.Name + " does not read org.json itself")
	default:
		build, at := c.initial(m)
		build.Steps = append(build.Steps, c.steps(m.Steps, build.Props, at)...)
		*n = decoder.Node{Op: decoder.OpKeyed, Model: m, Inner: build}
		n.Wrong = func(kind wire.Kind) *decoder.Error {
			return exception(decoder.ReasonKind, "Value of type %s cannot be converted to JSONObject", class(jvm.Sample(kind)))
		}
		n.WrongValue = func(v *wire.Value) *decoder.Error {
			return exception(decoder.ReasonKind, "Value %s of type %s cannot be converted to JSONObject", text(v), class(v))
		}
	}
	n.Type = m.Name
	return n
}

func (c *compiler) steps(steps []model.Step, props []*model.Field, at map[string]int) (out []decoder.Step) {
	for k, s := range steps {
		step := decoder.Step{Property: -1, Return: s.Return}
		switch {
		case s.Do:
			step.Do = true
			step.Then, step.Else = c.steps(s.Then, props, at), c.steps(s.Else, props, at)
		case s.Cond != nil:
			step.Cond = c.condition(s.Cond)
			step.Then, step.Else = c.steps(s.Then, props, at), c.steps(s.Else, props, at)
		case s.Expr == nil:
		default:
			i, ok := at[s.Field]
			switch {
			case s.Field == model.SelfField:
				i = decoder.WholeValue
			case !ok:
				i = -1
			}
			step.Property = i
			var f *model.Field
			if ok {
				f = props[i]
			}
			step.Node = c.expr(s.Expr, "the document", f)
			if s.Field == "" {
				forItsErrors(step.Node)
				f = readFor(s.Expr, steps[k+1:], props, at)
			}
			if f != nil {
				inner := step.Node
				step.Node = &decoder.Node{Op: decoder.OpDo, Inner: inner, Field: f, Type: f.Declared}
			}
		}
		out = append(out, step)
	}
	return out
}

// readFor is the field that what an expression reads is read for: the first that a later step
// reads the same key into, nil for none.
func readFor(e *model.Expr, later []model.Step, props []*model.Field, at map[string]int) *model.Field {
	if e.Op != model.OpAt {
		return nil
	}
	var found *model.Field
	model.WalkSteps(later, func(field string, of *model.Expr) {
		if i, ok := at[field]; ok && found == nil && of.Op == model.OpAt && of.Key == e.Key {
			found = props[i]
		}
	})
	return found
}

// forItsErrors makes of a node one for a value of which something is made that is not
// followed: what throws, throws, but of a zero nothing is known.
func forItsErrors(n *decoder.Node) {
	for ; n != nil; n = n.Inner {
		if n.Op == decoder.OpAt {
			n.AbsentLoss, n.Opaque = decoder.NoLoss, true
		}
	}
}

// expr is the node for an expression; where names the value that it is read from, as
// messages do.
func (c *compiler) expr(e *model.Expr, where string, f *model.Field) *decoder.Node {
	switch e.Op {
	case model.OpUnknown:
		n := unknown("an expression that is not followed")
		n.Others = e.Names
		return n
	case model.OpConst:
		if e.Value == nil {
			return unknown("an expression that is not followed")
		}
		t := &model.Type{Kind: model.Opaque}
		if f != nil {
			t = f.Type
		}
		return &decoder.Node{Op: decoder.OpConst, Value: jvm.Constant(e.Value, t)}
	case model.OpFail:
		kind, _, _ := strings.Cut(e.Why, ":")
		return &decoder.Node{Op: decoder.OpFail, Error: &decoder.Error{Kind: kind, Reason: decoder.ReasonCode, Message: e.Why}}
	case model.OpIf:
		return &decoder.Node{Op: decoder.OpIf, Inner: c.condition(e.Args[0]), Second: c.expr(e.Args[1], where, f), Third: c.expr(e.Args[2], where, f)}
	case model.OpCatch:
		return &decoder.Node{Op: decoder.OpCatch, Inner: c.expr(e.Args[0], where, f), Second: c.expr(e.Args[1], where, f)}
	case model.OpElse:
		return &decoder.Node{Op: decoder.OpElse, Inner: c.expr(e.Args[0], where, f), Second: c.expr(e.Args[1], where, f)}
	case model.OpLeftOut:
		return &decoder.Node{Op: decoder.OpConst, Value: decoder.Seen{Kind: decoder.SeenLeftOut}}
	case model.OpSelf:
		inner, _, _ := c.reading(e, where, f)
		return inner
	case model.OpDecode:
		return c.model(e.Type.Model)
	case model.OpNew:
		return c.instance(e, where)
	case model.OpCall:
		if e.Func == model.After || e.Func == model.Computed && len(e.Args) > 1 {
			return c.computed(e, where, f)
		}
		return c.converted(e, where)
	case model.OpAt, model.OpElem, model.OpEach, model.OpEachKey:
		return c.access(e, f)
	}
	return unknown("an expression that is not followed")
}

// instance is the node for a class that code makes of values itself.
func (c *compiler) instance(e *model.Expr, where string) *decoder.Node {
	if e.Type == nil || e.Type.Model == nil {
		return unknown("an instance that is not followed")
	}
	m := e.Type.Model
	n, at := c.initial(m)
	for i, name := range e.Names {
		k, ok := at[name]
		if !ok {
			return unknown("a field that is not there: " + name)
		}
		f := n.Props[k]
		n.Steps = append(n.Steps, decoder.Step{Property: k, Node: &decoder.Node{Op: decoder.OpDo, Inner: c.expr(e.Args[i], where, f), Field: f, Type: f.Declared}})
	}
	return n
}

// initial is the node for an instance of a class whose fields hold what they do at first,
// with their indexes by name.
func (c *compiler) initial(m *model.Model) (build *decoder.Node, at map[string]int) {
	build, at = &decoder.Node{Op: decoder.OpBuild, Model: m, Type: m.Name, Endless: jvm.Endless(m)}, map[string]int{}
	var computed []bool // by a block of Java, which is not followed
	for _, s := range jvm.Chain(&model.Type{Model: m}) {
		for _, f := range s.Model.Fields {
			if _, hidden := at[f.Name]; f.Static || hidden {
				continue
			}
			at[f.Name] = len(build.Props)
			build.Props = append(build.Props, f)
			computed = append(computed, s.Model.Computed && s.Model.Language == "java")
		}
	}
	for i, f := range build.Props {
		value := jvm.Zero(f.Type, m.Language == "kotlin")
		if f.Default != nil {
			value = jvm.Constant(f.Default, f.Type)
		}
		node := &decoder.Node{Op: decoder.OpConst, Value: value}
		if computed[i] {
			node = unknown("what code gives it as an instance is made")
		}
		build.Steps = append(build.Steps, decoder.Step{Property: i, Node: node})
	}
	return build, at
}

// access is the node for a call of a JSONObject or JSONArray: by key, at an index, or at
// each index.
func (c *compiler) access(e *model.Expr, f *model.Field) *decoder.Node {
	where := e.Key
	switch e.Op {
	case model.OpEach, model.OpEachKey:
		where = decoder.IndexMark
	case model.OpElem:
		where = fmt.Sprint(e.Index)
	}
	var inner *decoder.Node
	var fallback *decoder.Seen
	lossless := false
	if e.Op == model.OpEach && e.Func == "element" {
		inner = c.expr(e.Args[0], where, nil)
	} else {
		inner, fallback, lossless = c.reading(e, where, f)
	}
	switch e.Op {
	case model.OpEach:
		if f != nil && f.Type != nil && f.Type.Unwrapped().Kind == model.Unique { // which keeps equal ones once, and may order them
			return unknown("what a set keeps of its elements")
		}
		return &decoder.Node{Op: decoder.OpList, Inner: inner, Assured: true, Wrong: func(kind wire.Kind) *decoder.Error {
			return mismatch(where, "JSONArray", jvm.Sample(kind))
		}}
	case model.OpEachKey:
		name := func(name string) (decoder.Seen, *decoder.Error) {
			return decoder.Seen{Kind: decoder.SeenString, Text: name}, nil
		}
		return &decoder.Node{Op: decoder.OpMap, Inner: inner, Key: name, Every: true, Wrong: func(kind wire.Kind) *decoder.Error {
			return mismatch(where, "JSONObject", jvm.Sample(kind))
		}}
	case model.OpElem:
		n := &decoder.Node{Op: decoder.OpElem, Index: e.Index, Inner: inner, Missing: exception(decoder.ReasonMissing, "Index %d out of range", e.Index)}
		return n
	}
	if inner.Op == decoder.OpUnknown && strings.HasPrefix(e.Func, "optJSON") { // nor what is made of none
		inner.Others = append(inner.Others, e.Key)
		return inner
	}
	n := &decoder.Node{Op: decoder.OpAt, Name: e.Key, Last: true, Inner: inner, Type: inner.Type, Field: f}
	if fallback != nil {
		n.Value = *fallback
		if !lossless {
			n.AbsentLoss = decoder.Zeroed
		}
		return n
	}
	if err := nullPart(e); err != nil {
		err.Key = e.Key
		n.Missing = err
		return n
	}
	n.Missing = exception(decoder.ReasonMissing, "No value for %s", e.Key)
	n.Missing.Key = e.Key
	return n
}

// reading is the node for what a method gives of a value, with what it gives where there
// is none; nil where it throws then. lossless says that the fallback is the author's.
func (c *compiler) reading(e *model.Expr, where string, f *model.Field) (inner *decoder.Node, fallback *decoder.Seen, lossless bool) {
	leaf := e.Args[0]
	switch e.Func {
	case "getJSONObject", "optJSONObject":
		next := c.expr(leaf, where, f)
		if leaf.Op == model.OpDecode {
			next = c.model(leaf.Type.Model)
			if next.Op == decoder.OpKeyed {
				next = next.Inner
			}
		}
		if leaf.Op == model.OpHas || leaf.Op == model.OpIsNull || leaf.Op == model.OpGiven || leaf.Op == model.OpCall && !makes(leaf) {
			next = c.condition(leaf)
		}
		if next == nil || next.Op == decoder.OpUnknown {
			return unknown("what is read from " + where), nil, false
		}
		n := &decoder.Node{Op: decoder.OpKeyed, Inner: next}
		n.WrongValue = func(v *wire.Value) *decoder.Error {
			if err := nullPart(e); err != nil {
				err.Reason = mismatch(where, "JSONObject", v).Reason
				return err
			}
			return mismatch(where, "JSONObject", v)
		}
		n.Wrong = func(kind wire.Kind) *decoder.Error { return n.WrongValue(jvm.Sample(kind)) }
		return n, nil, false
	case "getJSONArray", "optJSONArray":
		next := c.expr(leaf, where, f)
		if leaf.Op == model.OpConst { // whether there is one at all
			next = &decoder.Node{Op: decoder.OpList, Inner: next, Assured: true}
		}
		wrongValue := func(v *wire.Value) *decoder.Error {
			if err := nullPart(e); err != nil {
				err.Reason = mismatch(where, "JSONArray", v).Reason
				return err
			}
			return mismatch(where, "JSONArray", v)
		}
		if next.Op == decoder.OpList {
			next.WrongValue = wrongValue
			next.Wrong = func(kind wire.Kind) *decoder.Error { return wrongValue(jvm.Sample(kind)) }
			return next, nil, false
		}
		return unknown("elements of " + where + " that are read one by one"), nil, false
	}
	if leaf.Op == model.OpCall && makes(leaf) { // of an element
		of := *e
		of.Args = leaf.Args
		inner, fallback, _ = c.reading(&of, where, f)
		if fallback != nil || inner.Op != decoder.OpLeaf {
			return unknown("what is made of a value that is not followed"), nil, false
		}
		inner.Read = making(inner.Read, conversion(leaf))
		return inner, nil, false
	}
	read, zero := scalar(leaf.Func, where)
	if read == nil {
		return unknown("a call of " + leaf.Func), nil, false
	}
	n := &decoder.Node{Op: decoder.OpLeaf, MindsText: true}
	if leaf.Func[0] == 'g' {
		n.Read = read
		return n, nil, false
	}
	value := zero
	if leaf.Value != nil {
		t := &model.Type{Kind: model.Named, Name: map[string]string{"optString": "String", "optInt": "int", "optLong": "long", "optDouble": "double", "optBoolean": "boolean"}[leaf.Func]}
		value, lossless = jvm.Constant(leaf.Value, t), true
	}
	n.Read = func(v *wire.Value) decoder.Verdict {
		out := read(v)
		if out.Err != nil {
			if v.Kind == wire.Null {
				out = decoder.Verdict{Seen: value}
				if !lossless {
					out.Loss = decoder.Zeroed
				}
				return out
			}
			return decoder.Verdict{Seen: value, Loss: decoder.Defaulted}
		}
		return out
	}
	return n, &value, lossless
}

// nullPart is the error of a call on what an opt method has found no part for, nil for a get
// method. A JVM of today words it so where the call stands right behind.
func nullPart(e *model.Expr) *decoder.Error {
	if !strings.HasPrefix(e.Func, "optJSON") {
		return nil
	}
	class, call := strings.TrimPrefix(e.Func, "opt"), "length()"
	if leaf := e.Args[0]; leaf.Op == model.OpAt && len(leaf.Args) > 0 {
		call = leaf.Func
		if inner := leaf.Args[0]; inner.Op == model.OpCast {
			call = inner.Func
			arguments := "String"
			if inner.Value != nil {
				arguments += ", " + map[string]string{"optString": "String", "optInt": "int", "optLong": "long", "optDouble": "double", "optBoolean": "boolean"}[inner.Func]
			}
			call += "(" + arguments + ")"
		} else {
			call += "(String)"
		}
	}
	return &decoder.Error{Kind: "NullPointerException", Reason: decoder.ReasonMissing,
		Message: fmt.Sprintf("NullPointerException: Cannot invoke \"org.json.%s.%s\" because the return value of \"org.json.JSONObject.%s(String)\" is null", class, call, e.Func)}
}

// scalar is what a method gives of a value that is there, and what its opt form gives
// where there is none.
func scalar(method, where string) (read func(*wire.Value) decoder.Verdict, zero decoder.Seen) {
	fail := func(want string, v *wire.Value) decoder.Verdict {
		return decoder.Verdict{Err: mismatch(where, want, v)}
	}
	whole := func(want string, to func(float64) int64, bits int) func(*wire.Value) decoder.Verdict {
		return func(v *wire.Value) decoder.Verdict {
			raw := string(v.Raw)
			switch v.Kind {
			case wire.Number:
			case wire.String:
				raw = jvm.Text(v)
			default:
				return fail(want, v)
			}
			if n, ok := jvm.ParseWhole(raw, 64); ok && v.Kind == wire.Number {
				cut := n
				if bits == 32 {
					cut = int64(int32(n))
				}
				out := decoder.Verdict{Seen: decoder.Seen{Kind: decoder.SeenInt, Text: fmt.Sprint(cut)}}
				if cut != n {
					out.Loss = decoder.LostDigits
				}
				return out
			}
			f, ok := jvm.ParseDouble(raw)
			if !ok {
				return fail(want, v)
			}
			n := to(f)
			out := decoder.Verdict{Seen: decoder.Seen{Kind: decoder.SeenInt, Text: fmt.Sprint(n)}}
			if float64(n) != f {
				out.Loss = decoder.LostDigits
			}
			return out
		}
	}
	switch method {
	case "getString", "optString":
		return func(v *wire.Value) decoder.Verdict {
			out := decoder.Verdict{Seen: decoder.Seen{Kind: decoder.SeenString, Text: text(v)}}
			if v.Kind == wire.Null { // the text "null"
				out.Loss = decoder.Defaulted
			}
			return out
		}, decoder.Seen{Kind: decoder.SeenString}
	case "getInt", "optInt":
		return whole("int", jvm.ToInt, 32), decoder.Seen{Kind: decoder.SeenInt, Text: "0"}
	case "getLong", "optLong":
		return whole("long", jvm.ToLong, 64), decoder.Seen{Kind: decoder.SeenInt, Text: "0"}
	case "getDouble", "optDouble":
		return func(v *wire.Value) decoder.Verdict {
			raw := string(v.Raw)
			switch v.Kind {
			case wire.Number:
			case wire.String:
				raw = jvm.Text(v)
			default:
				return fail("double", v)
			}
			f, ok := jvm.ParseDouble(raw)
			if !ok {
				return fail("double", v)
			}
			if f == 0 && v.Kind == wire.Number && number(v).Kind == decoder.SeenInt {
				f = 0 // it was a whole number, which has no negative zero
			}
			return decoder.Verdict{Seen: decoder.Seen{Kind: decoder.SeenFloat, Text: jvm.FloatText(f, 64)}}
		}, decoder.Seen{Kind: decoder.SeenFloat, Text: "NaN"}
	case "getBoolean", "optBoolean":
		return func(v *wire.Value) decoder.Verdict {
			switch v.Kind {
			case wire.Bool:
				return decoder.Verdict{Seen: decoder.Bool(v.True())}
			case wire.String:
				if word := jvm.Lower(jvm.Text(v)); word == "true" || word == "false" {
					return decoder.Verdict{Seen: decoder.Bool(word == "true")}
				}
			}
			return fail("boolean", v)
		}, decoder.Bool(false)
	case "get", "opt":
		return func(v *wire.Value) decoder.Verdict {
			return decoder.Verdict{Seen: jvm.Any(v, func(raw string) decoder.Seen { return number(&wire.Value{Kind: wire.Number, Raw: []byte(raw)}) })}
		}, decoder.Seen{}
	}
	return nil, decoder.Seen{}
}

package moshi

import (
	"vetta/internal/code"
	"vetta/internal/decoder"
	"vetta/internal/decoder/eval"
	"vetta/internal/model"
	"vetta/internal/wire"
)

// read is the node for an adapter of the app's that reads by a JsonReader itself.
func (c *compiler) read(a *model.Adapter) *decoder.Node {
	var delegates []*decoder.Node
	for _, t := range a.Delegates {
		if t == nil {
			return unknown(a.Name + " reads it, which is not followed")
		}
		other := newCompiler(c.without(a)) // the delegate is what would read it without this adapter
		delegates = append(delegates, other.value(t, "", false))
	}
	return &decoder.Node{Op: decoder.OpLeaf, Inside: true, MindsText: true, Read: func(v *wire.Value) decoder.Verdict {
		args := []eval.Value{eval.HostOf(&reader{c: c, stack: []level{{v: v}}})}
		for _, n := range delegates {
			args = append(args, eval.HostOf(delegate{n}))
		}
		s, err := result(eval.Run(a.Code.(*code.Routine), static{c}, args...))
		return decoder.Verdict{Seen: s, Err: err}
	}}
}

// without are the settings of the Moshi but for one adapter.
func (c *compiler) without(a *model.Adapter) *model.Settings {
	s := *c.settings
	s.Adapters = nil
	for i := range c.settings.Adapters {
		if other := &c.settings.Adapters[i]; other.Name != a.Name || other.Pos != a.Pos {
			s.Adapters = append(s.Adapters, *other)
		}
	}
	return &s
}

// delegate is a JsonAdapter that code is given.
type delegate struct{ n *decoder.Node }

func (d delegate) Is(class string) (bool, bool) { return class == "JsonAdapter", true }

func (d delegate) Member(name string, args []eval.Value, _ []*model.Type) (eval.Value, bool, error) {
	if name != "fromJson" || len(args) != 1 {
		return eval.Value{}, false, nil
	}
	r, ok := args[0].Host.(*reader)
	if !ok {
		return eval.Value{}, false, nil
	}
	v := r.next()
	if v == nil {
		return eval.Value{}, false, nil
	}
	out := (&decoder.Plan{Root: d.n}).Decode(v)
	if out.Err != nil {
		return eval.Value{}, true, thrown(out.Err)
	}
	r.consume()
	return eval.Of(out.Seen), true, nil
}

func thrown(err *decoder.Error) error {
	return &eval.Thrown{Class: err.Kind, Message: err.Message, Cause: err}
}

// level is one array or object that a reader is in, or, the first, what it was made for.
type level struct {
	v    *wire.Value
	i    int  // how many elements or members are read; of the first 1 where the value is
	name bool // of an object: the name is read, its value is not
}

// reader is a JsonReader over a value.
type reader struct {
	c     *compiler
	stack []level
}

func (r *reader) Is(class string) (bool, bool) { return class == "JsonReader", true }

// next is the value that stands at the reader, nil where a name or an end does.
func (r *reader) next() *wire.Value {
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

func (r *reader) consume() {
	top := &r.stack[len(r.stack)-1]
	top.i++
	top.name = false
}

// token is what stands at the reader, by the name of JsonReader.Token.
func (r *reader) token() string {
	top := &r.stack[len(r.stack)-1]
	if v := r.next(); v != nil {
		return token[v.Kind]
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

func (r *reader) wants(what string) error {
	return thrown(data(decoder.ReasonKind, "Expected %s but was %s at path %s", what, r.token(), decoder.PathMark))
}

func ofToken(name string) eval.Value {
	return eval.Value{Seen: decoder.Seen{Kind: decoder.SeenEnum, Text: name, Type: "Token"}}
}

// Member is described at eval.Host.
func (r *reader) Member(name string, args []eval.Value, _ []*model.Type) (eval.Value, bool, error) {
	none := eval.Value{}
	top := &r.stack[len(r.stack)-1]
	v := r.next()
	switch name {
	case "peek":
		return ofToken(r.token()), true, nil
	case "hasNext":
		t := r.token()
		return eval.Bool(t != "END_ARRAY" && t != "END_OBJECT" && t != "END_DOCUMENT"), true, nil
	case "beginObject", "beginArray":
		kind := map[string]wire.Kind{"beginObject": wire.Object, "beginArray": wire.Array}[name]
		if v == nil || v.Kind != kind {
			return none, true, r.wants(token[kind])
		}
		r.stack = append(r.stack, level{v: v})
		return none, true, nil
	case "endObject", "endArray":
		if want := map[string]string{"endObject": "END_OBJECT", "endArray": "END_ARRAY"}[name]; r.token() != want {
			return none, true, r.wants(want)
		}
		r.stack = r.stack[:len(r.stack)-1]
		r.consume()
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
					return eval.Int(int64(i)), true, nil
				}
			}
			return eval.Int(-1), true, nil
		}
		top.name = true
		return eval.Text(key), true, nil
	case "skipValue":
		if v == nil {
			return none, false, nil
		}
		r.consume()
		return none, true, nil
	case "nextNull":
		if v == nil || v.Kind != wire.Null {
			return none, true, r.wants("null")
		}
		r.consume()
		return none, true, nil
	case "nextString", "nextInt", "nextLong", "nextDouble", "nextBoolean":
		read := map[string]func(*wire.Value) decoder.Verdict{
			"nextString": text, "nextInt": integer("an int", -1<<31, 1<<31-1, 0), "nextLong": long, "nextDouble": r.c.float(64), "nextBoolean": boolean,
		}[name]
		if v == nil {
			return none, true, r.wants("a value")
		}
		verdict := read(v)
		if verdict.Err != nil {
			return none, true, thrown(verdict.Err)
		}
		r.consume()
		return eval.Of(verdict.Seen), true, nil
	case "readJsonValue":
		if v == nil {
			return none, false, nil
		}
		verdict := r.c.anything().Read(v)
		if verdict.Err != nil {
			return none, true, thrown(verdict.Err)
		}
		r.consume()
		return eval.Of(verdict.Seen), true, nil
	case "peekJson":
		if v == nil {
			return none, false, nil
		}
		return eval.HostOf(&reader{c: r.c, stack: []level{{v: v}}}), true, nil
	case "path", "getPath":
		return eval.Text("$"), true, nil
	case "close":
		return none, true, nil
	}
	return none, false, nil
}

// static are the functions and constants of Moshi that code names by their class.
type static struct{ c *compiler }

// Static is described at eval.Library.
func (s static) Static(of eval.Value, name string, args []eval.Value, _ []*model.Type) (eval.Value, bool, error) {
	switch {
	case (of.Class == "JsonReader.Token" || of.Class == "Token") && args == nil:
		return ofToken(name), true, nil
	case of.Class == "JsonReader.Options" && name == "of" || of.Class == "Options" && name == "of":
		return eval.List(args...), true, nil
	case of.Class == "JsonReader" && args == nil: // imported constants of its classes
		return eval.Value{Class: "JsonReader." + name}, true, nil
	}
	return eval.Value{}, false, nil
}

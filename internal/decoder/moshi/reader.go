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
	var delegates []*delegate
	for _, t := range a.Delegates {
		if t == nil {
			return unknown(a.Name + " reads it, which is not followed")
		}
		d := &delegate{c: newCompiler(c.without(a)), w: wanted{t.Unwrapped(), "", true}} // what would read it without this adapter
		delegates = append(delegates, d.shared())
	}
	return &decoder.Node{Op: decoder.OpLeaf, Inside: true, MindsText: true, Read: func(v *wire.Value) decoder.Verdict {
		args := []eval.Value{eval.HostOf(c.reader().At(v))}
		for _, d := range delegates {
			args = append(args, eval.HostOf(d))
		}
		s, err := result(eval.Run(a.Code.(*code.Routine), static{c}, args...))
		return decoder.Verdict{Seen: s, Err: err}
	}}
}

// reader is what a JsonReader of Moshi's does with values.
func (c *compiler) reader() eval.Reader {
	reads := map[string]func(*wire.Value) decoder.Verdict{
		"nextString": text, "nextInt": integer("an int", -1<<31, 1<<31-1, 0), "nextLong": long, "nextDouble": c.float(64), "nextBoolean": boolean,
	}
	if c.values {
		reads = map[string]func(*wire.Value) decoder.Verdict{
			"nextString": c.valueReads(""), "nextInt": c.valueReads("int"), "nextLong": c.valueReads("long"), "nextDouble": c.valueReads("double"), "nextBoolean": c.valueReads("boolean"),
		}
	}
	return eval.Reader{
		Reads: reads,
		Any:   c.anything().Read,
		Wrong: func(want, token string) *decoder.Error {
			return data(decoder.ReasonKind, "Expected %s but was %s at path %s", want, token, decoder.PathMark)
		},
	}
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

// static are the functions and constants of Moshi that code names by their class.
type static struct{ c *compiler }

// Calls is described at eval.Caller.
func (s static) Calls(super string) bool { return super == "JsonAdapter" || super == "Factory" }

// Static is described at eval.Library.
func (s static) Static(of eval.Value, name string, args []eval.Value, _ []*model.Type) (eval.Value, bool, error) {
	switch {
	case of.Class == "Types" && args != nil:
		return types(name, args)
	case name == "new" && (of.Class == "JsonAdapter.Factory" || of.Class == "Factory") && len(args) == 1: // a function as one
		return args[0], true, nil
	case (of.Class == "JsonReader.Token" || of.Class == "Token") && args == nil:
		return eval.Token(name), true, nil
	case of.Class == "JsonReader.Options" && name == "of" || of.Class == "Options" && name == "of":
		return eval.List(args...), true, nil
	case of.Class == "JsonReader" && args == nil: // imported constants of its classes
		return eval.Value{Class: "JsonReader." + name}, true, nil
	}
	return eval.Value{}, false, nil
}

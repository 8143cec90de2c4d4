package moshi

import (
	"errors"
	"sync"

	"vetta/internal/code"
	"vetta/internal/decoder"
	"vetta/internal/decoder/eval"
	"vetta/internal/decoder/jvm"
	"vetta/internal/model"
	"vetta/internal/wire"
)

// A JsonAdapter.Factory of the app's is run for every type that an adapter is looked for: what it answers is nothing,
// so that the next is asked, an adapter that the Moshi has made, or one of its own.

// wanted is a type that an adapter is looked for.
type wanted struct {
	t         *model.Type
	qualifier string
	boxed     bool
}

// maxFactories is how many adapters are made inside each other: a factory may ask for the adapter of another type each
// time.
const maxFactories = 24

// byFactory is the node of the adapter that a factory makes, nil where it makes none; at is its place among the
// adapters of the Moshi.
func (c *compiler) byFactory(a *model.Adapter, at int, w wanted) *decoder.Node {
	if a.Qualifier != "" && a.Qualifier != w.qualifier {
		return nil // it asks for the annotation first
	}
	why := "the factory " + a.Name + " is not followed"
	if a.Code == nil || c.deep >= maxFactories {
		return unknown(why)
	}
	c.deep++
	defer func() { c.deep-- }()
	annotations := []eval.Value{}
	if w.qualifier != "" {
		annotations = append(annotations, eval.HostOf(annotation(w.qualifier)))
	}
	made, err := eval.Run(a.Code.(*code.Routine), static{c}, eval.HostOf(reflected{w.t, w.boxed}), eval.List(annotations...), eval.HostOf(given{c, at}))
	var thrown *eval.Thrown
	var lost *eval.Unfollowed
	switch {
	case errors.As(err, &thrown):
		return c.refuse(w.t.Model, "", "%s", thrown.Message)
	case errors.As(err, &lost):
		return unknown(why + ": " + lost.Why)
	case err != nil:
		return unknown(why)
	case made.IsNull():
		return nil
	}
	if d, ok := made.Host.(*delegate); ok {
		return d.node()
	}
	made = made.Kept()
	reader := c.reader()
	n := &decoder.Node{Op: decoder.OpLeaf, Inside: true, MindsText: true, Read: func(v *wire.Value) decoder.Verdict {
		out, known, err := made.Invoke(static{c}, "fromJson", eval.HostOf(reader.At(v)))
		if !known && err == nil {
			return decoder.Verdict{Seen: decoder.Seen{Kind: decoder.SeenUnknown}}
		}
		return eval.Verdict(out, err) // what it throws is thrown on as it is
	}}
	return decoder.OfModel(n, w.t.Model)
}

// annotation is an instance of an annotation.
type annotation string

func (a annotation) Is(class string) (bool, bool) {
	return class == string(a) || class == "Annotation", true
}

func (a annotation) Member(name string, args []eval.Value, _ []*model.Type) (eval.Value, bool, error) {
	if name == "annotationClass" && args == nil || name == "annotationType" {
		return eval.Value{Class: string(a)}, true, nil
	}
	return eval.Value{}, false, nil
}

// given is the Moshi that a factory is given.
type given struct {
	c  *compiler
	at int // the place of the factory that it was given to
}

func (g given) Is(class string) (bool, bool) { return class == "Moshi", true }

func (g given) Member(name string, args []eval.Value, types []*model.Type) (eval.Value, bool, error) {
	from := 0
	switch {
	case name == "adapter" && len(args) == 0 && len(types) == 1 && types[0] != nil:
		args = []eval.Value{eval.HostOf(reflected{types[0].Unwrapped(), true})}
	case name == "adapter" && len(args) > 0:
	case name == "nextAdapter" && len(args) == 3:
		from, args = g.at+1, args[1:]
	default:
		return eval.Value{}, false, nil
	}
	w, ok := typeOf(args[0])
	if !ok {
		return eval.Value{}, false, nil
	}
	d := &delegate{c: g.c, from: from, w: wanted{t: w.t, boxed: w.boxed}}
	if len(args) > 1 {
		switch {
		case args[1].Items != nil && len(*args[1].Items) == 0:
		case args[1].Items != nil && len(*args[1].Items) == 1:
			a, is := (*args[1].Items)[0].Host.(annotation)
			if !is {
				return eval.Value{}, false, nil
			}
			d.w.qualifier = string(a)
		case args[1].Class != "":
			d.w.qualifier = model.SimpleName(args[1].Class)
		default:
			return eval.Value{}, false, nil
		}
	}
	return eval.HostOf(d.shared()), true, nil
}

// delegate is a JsonAdapter of the Moshi's that code is given.
type delegate struct {
	c        *compiler
	w        wanted
	from     int // the place among the adapters of the Moshi from which on they are asked
	nullSafe bool
	nonNull  bool
	// reads and values are what it does with a reader, and with what was parsed.
	reads, values func() *decoder.Node
}

// shared makes it ready to be asked from several goroutines, and answers it.
func (d *delegate) shared() *delegate {
	d.reads = sync.OnceValue(func() *decoder.Node { return d.apart(false) })
	d.values = sync.OnceValue(func() *decoder.Node { return d.apart(true) })
	return d
}

// node is the adapter as a part of the plan that it is asked for in.
func (d *delegate) node() *decoder.Node {
	inner := d.c.next(d.from, d.w)
	return d.safe(inner)
}

func (d *delegate) safe(inner *decoder.Node) *decoder.Node {
	switch {
	case d.nonNull:
		return &decoder.Node{Op: decoder.OpNil, Inner: inner, Type: jvm.TypeText(d.w.t), NullError: data(decoder.ReasonNull, "Unexpected null at %s", decoder.PathMark)}
	case inner.Op != decoder.OpUnknown && inner.Op != decoder.OpNil && (!inner.Inside || d.nullSafe):
		return &decoder.Node{Op: decoder.OpNil, Inner: inner, Type: jvm.TypeText(d.w.t)}
	}
	return inner
}

// apart is the adapter for code that runs later, on several goroutines: its plan is one of its own.
func (d *delegate) apart(values bool) *decoder.Node {
	c := newCompiler(d.c.settings)
	c.values, c.deep = values, d.c.deep+1
	inner := d.safe(c.next(d.from, d.w))
	if c.broken != nil {
		return &decoder.Node{Op: decoder.OpFail, Type: jvm.TypeText(d.w.t), Error: c.broken, Inner: inner}
	}
	return inner
}

// Is is described at eval.Host.
func (d *delegate) Is(class string) (bool, bool) { return class == "JsonAdapter", true }

// Member is described at eval.Host.
func (d *delegate) Member(name string, args []eval.Value, _ []*model.Type) (eval.Value, bool, error) {
	switch {
	case name == "nullSafe" || name == "nonNull":
		own := &delegate{c: d.c, w: d.w, from: d.from, nullSafe: name == "nullSafe", nonNull: name == "nonNull"}
		return eval.HostOf(own.shared()), true, nil
	case name == "serializeNulls":
		return eval.HostOf(d), true, nil
	case name == "fromJsonValue" && len(args) == 1:
		v := parsed(args[0])
		if v == nil {
			return eval.Value{}, false, nil
		}
		return answered(d.values(), v)
	case name == "fromJson" && len(args) == 1:
		r, ok := args[0].Host.(*eval.Reader)
		if !ok || r.Next() == nil {
			return eval.Value{}, false, nil
		}
		out, known, err := answered(d.reads(), r.Next())
		if known && err == nil {
			r.Consume()
		}
		return out, known, err
	}
	return eval.Value{}, false, nil
}

// answered is what a node makes of a value, for code.
func answered(n *decoder.Node, v *wire.Value) (eval.Value, bool, error) {
	out := (&decoder.Plan{Root: n}).Decode(v)
	if out.Err != nil {
		return eval.Value{}, true, eval.ThrownBy(out.Err)
	}
	return eval.Of(out.Seen), true, nil
}

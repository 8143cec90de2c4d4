package sharp

import (
	"sync"

	"vetta/internal/code"
	"vetta/internal/decoder"
	"vetta/internal/model"
	"vetta/internal/wire"
)

// Name is what settings call code of the app's that reads by hand.
const Name = "csharp"

// enters is a World that knows which functions of the app make a value of a response.
type enters interface {
	Entries(t *model.Type) (fns []*code.Func, of []*code.Declared)
}

// Entry makes a plan run the function of the app that makes its type of a response, where there is one that is
// followed: the library that decodes is asked on the way. What is not followed is left to the plan as it is. program is
// the one that the source makes up, for a type that names none of its models; nil where there is none.
func Entry(p *decoder.Plan, t *model.Type, program any) {
	c := CodeOf(t)
	if c == nil {
		c = codeOf(program)
	}
	if c == nil {
		return
	}
	w, ok := c.World.(enters)
	if !ok {
		return
	}
	fns, of := w.Entries(t)
	if len(fns) == 0 {
		return
	}
	own := *p
	c.Under(p.Settings)
	var lock sync.Mutex
	decode := func(t *model.Type, v *wire.Value, library string, options *code.Expr, in *code.Func, before *decoder.Seen) (decoder.Outcome, bool) {
		out, ok := c.decode(t, v, library, options, in, before)
		if !ok && before == nil && own.Settings != nil && own.Refuses == "" && t.Key() == own.Type.Key() { // with settings that are handed on
			return own.Decode(v), true
		}
		return out, ok
	}
	p.Run = func(doc *wire.Value) decoder.Outcome {
		lock.Lock()
		defer lock.Unlock()
		for i := range fns {
			if out, ok := c.run(fns[i], of[i], doc, decode); ok {
				return out
			}
		}
		if own.Refuses != "" {
			return decoder.Outcome{Seen: decoder.Seen{Kind: decoder.SeenUnknown}, Unknown: [][]wire.Step{{}}}
		}
		return own.Decode(doc)
	}
	p.Inexact = true
	p.Otherwise, p.Refuses = p.Refuses, "" // where the code is followed, it tells
}

// run runs a function on a document; ok is false where it is not followed.
func (c *Code) run(fn *code.Func, of *code.Declared, doc *wire.Value, decode Decode) (out decoder.Outcome, ok bool) {
	v, _, err := Run(fn, of, c.World, decode, doc, documentText(doc))
	switch e := err.(type) {
	case nil:
	case *Thrown:
		failed := *e.Err()
		at := doc.StepsTo(e.At)
		return decoder.Outcome{Err: &failed, Place: at, At: at}, true
	default:
		return out, false
	}
	s := SeenOf(v)
	if s.Kind == decoder.SeenUnknown {
		return out, false
	}
	return decoder.Outcome{Seen: s, Unknown: decoder.UnknownIn(s)}, true
}

// documentText is a document as it was sent.
func documentText(doc *wire.Value) []byte {
	if doc.Markup != nil {
		return []byte(doc.Markup.Text)
	}
	return []byte(rawText(doc))
}

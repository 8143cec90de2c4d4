package sharp

import (
	"sync"

	"vetta/internal/code"
	"vetta/internal/decoder"
	"vetta/internal/decoder/survey"
	"vetta/internal/model"
	"vetta/internal/wire"
)

// Name is what settings call code of the app's that reads by hand.
const Name = "csharp"

// enters is a World that knows which functions of the app make a value of a response.
type enters interface {
	Entries(t *model.Type) (fns []*code.Func, of []*code.Declared, whole bool)
}

// entry is how the app makes a value of a type of a response by its own code.
type entry struct {
	c      *Code
	fns    []*code.Func
	of     []*code.Declared
	whole  bool // the first of them is given what was sent, rather than an element of it
	decode Decode
	lock   sync.Mutex
}

// entryOf is that of a type, nil where no function of the app makes one. program is the one that the source makes up,
// for a type that names none of its models; nil where there is none. own is how the library decodes the type with
// settings that are handed on, nil for none.
func entryOf(t *model.Type, settings *model.Settings, program any, own *decoder.Plan) *entry {
	c := CodeOf(t)
	if c == nil {
		c = codeOf(program)
	}
	if c == nil {
		return nil
	}
	w, ok := c.World.(enters)
	if !ok {
		return nil
	}
	e := &entry{c: c.Under(settings)}
	if e.fns, e.of, e.whole = w.Entries(t); len(e.fns) == 0 {
		return nil
	}
	e.decode = func(t *model.Type, v *wire.Value, library string, options *code.Expr, in *code.Func, before *decoder.Seen) (decoder.Outcome, bool) {
		out, ok := c.decode(t, v, library, options, in, before)
		if !ok && before == nil && own != nil && own.Settings != nil && own.Refuses == "" && t.Key() == own.Type.Key() {
			return own.Decode(v), true
		}
		return out, ok
	}
	return e
}

// run runs the first of the functions that is followed; ok is false for none. What it asks values for goes into asked,
// unless that is nil.
func (e *entry) run(doc *wire.Value, asked map[*wire.Value]*survey.Asked) (out decoder.Outcome, ok bool) {
	decode := e.decode
	if asked != nil { // by which plan something is decoded is told for one run at a time
		e.lock.Lock()
		defer e.lock.Unlock()
		decode = func(t *model.Type, v *wire.Value, library string, options *code.Expr, in *code.Func, before *decoder.Seen) (decoder.Outcome, bool) {
			e.c.used = nil
			out, ok := e.decode(t, v, library, options, in, before)
			if a := asked[v]; e.c.used != nil && (a == nil || a.As == nil) {
				if a == nil {
					a = &survey.Asked{}
					asked[v] = a
				}
				a.As = e.c.used
			}
			return out, ok
		}
	}
	for i := range e.fns {
		if out, ok := e.c.run(e.fns[i], e.of[i], doc, decode, asked); ok {
			return out, true
		}
	}
	return decoder.Outcome{}, false
}

// Entry makes a plan run the function of the app that makes its type of a response, where there is one that is
// followed: the library that decodes is asked on the way. What is not followed is left to the plan as it is. program is
// the one that the source makes up, for a type that names none of its models; nil where there is none.
func Entry(p *decoder.Plan, t *model.Type, program any) {
	if p.Settings != nil && p.Settings.Library == Name && p.Run != nil { // which runs it already
		return
	}
	own := *p
	e := entryOf(t, p.Settings, program, &own)
	if e == nil {
		return
	}
	p.Run = func(doc *wire.Value) decoder.Outcome {
		if out, ok := e.run(doc, nil); ok {
			return out
		}
		if own.Refuses != "" {
			return unknownOutcome
		}
		return own.Decode(doc)
	}
	p.Inexact = true
	p.Otherwise, p.Refuses = p.Refuses, "" // where the code is followed, it tells
}

// RefusesNull makes a plan fail for null where the app does: its functions that make the type of a response throw for one
// that is null, in its whole. Types of other languages are left as they are.
func RefusesNull(p *decoder.Plan) {
	if p.Root == nil || p.Root.Op != decoder.OpNil || p.Root.NullError != nil || p.Refuses != "" || p.Run != nil || p.Swallowed {
		return
	}
	own := *p
	e := entryOf(p.Type, p.Settings, nil, &own)
	null, err := wire.Parse([]byte("null"))
	if e == nil || err != nil {
		return
	}
	var failed *decoder.Error
	for i := range e.fns {
		out, ok := e.c.run(e.fns[i], e.of[i], null, e.decode, nil)
		if !ok || out.Err == nil {
			return
		}
		failed = out.Err
	}
	thrown := *failed
	thrown.Reason = decoder.ReasonNull
	root := *p.Root
	root.NullError = &thrown
	p.Root = &root
}

var unknownOutcome = decoder.Outcome{Seen: decoder.Seen{Kind: decoder.SeenUnknown}, Unknown: [][]wire.Step{{}}}

// run runs a function on a document; ok is false where it is not followed.
func (c *Code) run(fn *code.Func, of *code.Declared, doc *wire.Value, decode Decode, asked map[*wire.Value]*survey.Asked) (out decoder.Outcome, ok bool) {
	v, _, err := Run(fn, of, c.World, decode, doc, documentText(doc), asked)
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

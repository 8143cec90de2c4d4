package drift

import (
	"slices"
	"sort"

	"vetta/internal/decoder"
	"vetta/internal/drift/finding"
	"vetta/internal/model"
	"vetta/internal/shape"
	"vetta/internal/wire"
)

// failures are what responses fail at first, as they were decoded.
type failures map[failing]*failed

// failing is a property that responses fail at, where that stands in them, and how.
type failing struct {
	model  *model.Model
	field  *model.Field
	place  string // JSONPath, with * for every element
	kind   string // of the error
	reason decoder.Reason
}

// failed is what is known of those responses.
type failed struct {
	responses int64
	err       *decoder.Error
	key       string // that is absent
	steps     []wire.Step
	value     shape.Class
	literal   string // of a text or a number
	example   shape.Example
}

// add notes that a document fails at the value that some steps lead to.
func (f failures) add(at decoder.Failure, doc *wire.Value, steps []wire.Step, example func([]wire.Step) shape.Example) {
	v := doc
	for i, s := range steps {
		inner := v.At(s)
		if inner == nil { // an absent member, at the object
			steps = steps[:i]
			break
		}
		v = inner
	}
	if at.Error.Reason == decoder.ReasonMissing && at.Error.Key != "" && v.Kind != wire.Object && len(steps) > 0 {
		steps = steps[:len(steps)-1]
	}
	key := failing{at.Model, at.Field, generally(steps), at.Error.Kind, at.Error.Reason}
	of := f[key]
	if of == nil {
		of = &failed{}
		f[key] = of
	}
	of.responses++
	ex := example(steps)
	if of.responses > 1 && !ex.Before(of.example) {
		return
	}
	*of = failed{responses: of.responses, err: at.Error, steps: slices.Clone(steps), value: shape.Class{Kind: v.Kind}, example: ex}
	if at.Error.Reason == decoder.ReasonMissing {
		of.key = at.Error.Key
	}
	if v.Kind == wire.String || v.Kind == wire.Number {
		of.literal = string(v.Raw)
		of.value = shape.ClassOf(v.Raw)
	}
}

// generally is the place that steps lead to, with * for every element.
func generally(steps []wire.Step) string {
	general := slices.Clone(steps)
	for i := range general {
		if general[i].Index >= 0 {
			general[i] = wire.Step{Index: wire.AnyElement}
		}
	}
	return wire.Path(general)
}

// only is the one property that responses fail at; ok is false where there are several.
func (f failures) only() (at decoder.Failure, ok bool) {
	for k := range f {
		own := decoder.Failure{Model: k.model, Field: k.field}
		if ok && own != at {
			return at, false
		}
		at, ok = own, true
	}
	return at, ok
}

// model is the one model whose properties responses fail at; ok is false where there are several, or none.
func (f failures) model() (m *model.Model, ok bool) {
	for k := range f {
		if k.model == nil || ok && k.model != m {
			return nil, false
		}
		m, ok = k.model, true
	}
	return m, ok
}

// explain makes findings of what responses of a pair fail at where more of them fail than the counts have told of: what
// code does with several values together, and where limits of a decoder are hit.
func (c *Checked) explain(p *PairResult, by *checker) {
	if p.Lost <= p.counted {
		return
	}
	var keys []failing
	for k := range p.failures {
		if !c.told(p, k) {
			keys = append(keys, k)
		}
	}
	sort.Slice(keys, func(i, k int) bool {
		a, b := keys[i], keys[k]
		if a.place != b.place {
			return a.place < b.place
		}
		return a.kind+string(a.reason) < b.kind+string(b.reason)
	})
	for _, k := range keys {
		c.tell(p, k, p.failures[k], by)
	}
}

// told says whether a finding tells what responses fail at.
func (c *Checked) told(p *PairResult, k failing) bool {
	message := p.failures[k].err.Message
	tells := func(f *finding.Finding) bool {
		if f.Level != finding.Breaks && !p.Plan.Swallowed {
			return false
		}
		return slices.ContainsFunc(f.Sites, func(s *finding.Site) bool {
			isPlace := s.Place == k.place && (f.Field == k.field || k.field == nil)
			return s.Endpoint.Name == p.Endpoint.Name && (isPlace || f.Error == message)
		})
	}
	if slices.ContainsFunc(p.Findings, tells) {
		return true
	}
	for _, m := range c.Models {
		if (k.model == nil || m.Model == k.model) && slices.ContainsFunc(m.Findings, tells) {
			return true
		}
	}
	return false
}

// tell makes a finding of a failure.
func (c *Checked) tell(p *PairResult, k failing, of *failed, by *checker) {
	place := p.Endpoint.Root.Nearest(of.steps)
	ev := finding.Event{Model: k.model, Field: k.field, Place: place, Err: of.err, Class: of.value, Literal: of.literal, Sent: of.value.String(), Key: of.key, Of: place.Total(), Values: of.responses}
	if of.key != "" {
		ev.Sent, ev.Literal, ev.Of = finding.NoKey(of.key), "", place.Count(wire.Object)
	}
	if of.value.Kind == wire.Null && of.err.Reason == decoder.ReasonKind {
		err := *of.err
		err.Reason, ev.Err = decoder.ReasonNull, &err
	}
	if k.field != nil {
		ev.Declared = k.field.Declared
	} else if k.model != nil && of.key == "" && ev.Err.Advice == "" {
		err := *ev.Err
		err.Advice, ev.Err = "admit what is sent there, or handle the error where it is caught", &err
	}
	_, known := by.results[k.model]
	f, site := by.event(p, p.Pair, p.Endpoint, &ev, nil, nil)
	if site == nil || len(site.Tallies)+len(site.Examples) > 0 { // no finding, or one that is counted
		return
	}
	site.Responses, site.Exact, site.Examples = of.responses, p.LostExact, []shape.Example{of.example}
	for i := range site.Sent {
		site.Sent[i].Responses = of.responses
	}
	finish(f)
	if k.model == nil {
		sortFindings(p.Findings)
		return
	}
	result := by.results[k.model]
	sortFindings(result.Findings)
	if !known {
		c.Models = append(c.Models, result)
		c.inOrder()
	}
}

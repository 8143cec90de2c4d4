package drift

import (
	"slices"

	"vetta/internal/code"
	"vetta/internal/decoder"
	"vetta/internal/drift/breaks"
	"vetta/internal/drift/finding"
	"vetta/internal/markup"
	"vetta/internal/model"
	"vetta/internal/shape"
	"vetta/internal/wire"
)

// finding is the model's finding of a kind about a field, made where there is none
// yet.
func (r *ModelResult) finding(k *finding.Kind, field *model.Field, name, declared string) *finding.Finding {
	for _, f := range r.Findings {
		if f.Kind == k && f.Field == field && f.Name == name {
			return f
		}
	}
	f := &finding.Finding{Kind: k, Level: k.Level, Model: r.Model, Field: field, Name: name, Declared: declared, Pos: r.Model.Pos}
	if field != nil {
		f.Pos = field.Pos
	}
	r.Findings = append(r.Findings, f)
	return f
}

// event makes an event part of a finding, and answers that with the site; nil where it is no finding.
func (c *checker) event(result *PairResult, p *Pair, e *shape.Endpoint, ev *finding.Event, renames map[renameKey]*rename, moves map[renameKey]*move) (f *finding.Finding, site *finding.Site) {
	kind := kindOf(ev)
	var renamed *rename
	if ev.Key != "" {
		renamed = renames[renameKey{ev.Place, ev.Key}]
	}
	if renamed != nil {
		switch {
		case ev.Breaks() && ev.Err.Reason == decoder.ReasonMissing:
			kind = breaks.RenamedKey
		case ev.Loss == finding.Quiet || ev.Loss == decoder.Zeroed || ev.Loss == decoder.HiddenNull:
			kind = breaks.RenamedSilently
		}
	}
	var moved *move
	if ev.Key != "" && renamed == nil {
		moved = moves[renameKey{ev.Place, ev.Key}]
	}
	if moved != nil {
		switch {
		case ev.Breaks() && ev.Err.Reason == decoder.ReasonMissing:
			kind = breaks.MovedKey
		case ev.Loss == finding.Quiet || ev.Loss == decoder.Zeroed || ev.Loss == decoder.HiddenNull:
			kind = breaks.MovedSilently
		}
	}
	if kind == nil {
		return nil, nil
	}
	if ev.Model == nil {
		f = &finding.Finding{Kind: kind, Level: kind.Level, Name: p.Plan.Declared, Declared: p.Plan.Declared, Sites: nil}
		if p.Call != nil {
			f.Pos = p.Call.Pos
		}
		for _, known := range result.Findings {
			if known.Kind == kind {
				f = known
			}
		}
		if len(f.Sites) == 0 {
			result.Findings = append(result.Findings, f)
		}
	} else {
		name := markup.ShowKey(ev.Key)
		switch {
		case ev.Field != nil:
			name = ev.Field.Name
		case ev.Key == "":
			name = markup.ShowKey(beside(ev))
		}
		if ev.Key != "" && ev.Field != nil && ev.Element {
			name = ev.Field.Name + "." + markup.ShowKey(ev.Key)
		}
		f = c.result(ev.Model).finding(kind, ev.Field, name, ev.Declared)
	}
	if ev.Why != "" && f.Note == "" {
		f.Note = ev.Why
	}
	if p.Plan.Settings != nil {
		f.Library = p.Plan.Settings.Library
	}
	if f.Model == nil && f.Language == "" {
		p.Plan.Type.Walk(func(t *model.Type) {
			if t.Model != nil {
				f.Language = t.Model.Language
			}
		})
	}
	if ev.Breaks() {
		switch {
		case p.Plan.Trusts:
			f.Level, f.Trusted = finding.Misreads, true
			if f.Seen == "" {
				f.Seen = trusted(ev)
			}
		case !p.Plan.Swallowed:
			f.Level = kind.Level
		case len(f.Sites) == 0:
			// The response is lost, but nothing crashes: the app sees nothing.
			f.Level, f.Seen = finding.Misreads, "nothing in place of the whole response"
			if p.Call != nil && slices.Contains(p.Call.Within, code.Element) {
				f.Seen = "nothing in place of the element"
			}
		}
	}
	f.Element = f.Element || ev.Element
	if f.Asked == "" {
		f.Asked = ev.Key
	}
	if ev.Err != nil && f.Error == "" {
		f.Error, f.Advice = ev.Err.Message, ev.Err.Advice
	}
	if ev.Loss != decoder.NoLoss {
		if ev.Loss != decoder.Swallowed && ev.Loss != decoder.Defaulted {
			f.Error = ""
		}
		if f.Seen == "" {
			f.Seen = ev.Seen
		}
	}
	if renamed != nil {
		f.Rename, f.Given, f.Note = renamed.key.Name, renamed.given, renamed.evidence
		if f.Seen == "" && kind == breaks.RenamedSilently {
			f.Seen = nothing(p.Plan)
		}
	}
	if moved != nil {
		f.Rename, f.Note = moved.place.Path(), moved.evidence
		f.Flat, f.Given = moved.flat, moved.key
		if f.Seen == "" && kind == breaks.MovedSilently {
			f.Seen = nothing(p.Plan)
		}
	}
	return f, f.Add(e, ev)
}

// beside is the key of a value that code of a class asks for without making a property of it; "" for what a class as a
// whole is made of.
func beside(ev *finding.Event) string {
	steps := ev.Place.Steps
	if len(steps) == 0 || steps[len(steps)-1].Index != wire.MemberStep || ev.Class.Kind >= wire.Array {
		return ""
	}
	if ev.Model.Kind == model.Enum || ev.Model.Raw != nil { // which are made of one value
		return ""
	}
	return steps[len(steps)-1].Name
}

// nothing is what an app sees of a key that is absent.
func nothing(p *decoder.Plan) string {
	if p.Trusts {
		return "undefined"
	}
	return "null"
}

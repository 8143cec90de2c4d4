package report

import (
	"fmt"
	"slices"
	"strconv"

	"vetta/internal/capture"
	"vetta/internal/decoder/library"
	"vetta/internal/drift"
	"vetta/internal/drift/finding"
	"vetta/internal/input"
	"vetta/internal/markup"
	"vetta/internal/model"
	"vetta/internal/pairing"
	"vetta/internal/shape"
	"vetta/internal/wire"
)

// maker makes a report's parts.
type maker struct{ Options }

// NewCheck makes the report of a check.
func NewCheck(set *model.Set, s *shape.Shape, checked *drift.Checked, pairs *pairing.Result, problems []CheckProblem, o Options) *Check {
	m := maker{o}
	c := &Check{Layout: LayoutVersion, Command: "check", options: o, Problems: problems}
	for _, r := range checked.Models {
		c.Models = append(c.Models, m.model(r))
	}
	for _, e := range pairs.Extended {
		c.Models = append(c.Models, CheckModel{
			Name: e.Model.Name, At: e.Model.Pos, Language: e.Model.Language, Settings: []Setting{}, Decoded: []Decoded{}, Findings: []CheckFinding{}, Unknown: []UnknownField{}, JudgedIn: e.In,
		})
	}
	for _, p := range checked.Pairs {
		c.Roots = append(c.Roots, m.root(p))
		for _, place := range p.Unkept {
			c.Limits = append(c.Limits, fmt.Sprintf("%s: the texts at %s are too many to be kept, or look secret, and fare one by one: nothing is said of them; give check the captures in place of a saved shape", p.Endpoint.Name, place))
		}
		for _, place := range p.Untold {
			c.Limits = append(c.Limits, fmt.Sprintf("%s: objects at %s are of several classes, which could not be told apart: nothing is said of what is in them; give check the captures in place of a saved shape", p.Endpoint.Name, place))
		}
	}
	c.SideBySide = []SideBySide{}
	c.sideBySide()
	c.Unpaired.Models, c.Unpaired.Endpoints, c.Unjudged = alone(pairs)
	c.Total.SourceFiles, c.Total.Declared = set.Files, len(set.Models)
	c.Total.Captures, c.Total.Responses, c.Total.Problems = s.Files, s.Documents, unread(problems)
	c.responses(s, checked, pairs)
	c.count()
	c.Models, c.Roots, c.Problems, c.Limits, c.Unjudged = nonNil(c.Models), nonNil(c.Roots), nonNil(c.Problems), nonNil(c.Limits), nonNil(c.Unjudged)
	c.Unpaired.Models, c.Unpaired.Endpoints = nonNil(c.Unpaired.Models), nonNil(c.Unpaired.Endpoints)
	c.PassedOver = PassedOver{Tests: []string{}, Shipped: []string{}}
	c.Passed, c.Partial = nonNil(s.Passed), s.Partial
	for _, e := range s.Endpoints {
		c.endpoints = append(c.endpoints, e.Name)
	}
	for _, m := range set.Models {
		if !slices.Contains(c.languages, m.Language) {
			c.languages = append(c.languages, m.Language)
		}
	}
	return c
}

// breaksAt says whether there is a finding that responses of a pair fail at.
func breaksAt(checked *drift.Checked, p *drift.PairResult) bool {
	at := func(f *finding.Finding) bool {
		return (f.Level == finding.Breaks || p.Plan.Swallowed && f.Error != "") && slices.ContainsFunc(f.Sites, func(s *finding.Site) bool { return s.Endpoint.Name == p.Endpoint.Name })
	}
	return slices.ContainsFunc(p.Findings, at) || slices.ContainsFunc(checked.Models, func(m *drift.ModelResult) bool { return slices.ContainsFunc(m.Findings, at) })
}

// responses sums up what becomes of the responses.
func (c *Check) responses(s *shape.Shape, checked *drift.Checked, pairs *pairing.Result) {
	lost := map[*shape.Endpoint]Count{}
	for _, p := range checked.Pairs {
		if p.Unjudged {
			continue
		}
		if p.Lost > 0 && p.Throws != "" && !breaksAt(checked, p) {
			c.Limits = append(c.Limits, fmt.Sprintf("%s: %s of %s would not decode into %s for what no finding tells (%s): vetta trial shows which", p.Endpoint.Name, strconv.FormatInt(p.Lost, 10), Plural(p.Endpoint.Responses, "response"), p.Plan.Declared, p.Throws))
			c.untold = c.untold || !p.Plan.Swallowed
		}
		n := checked.Lost[p.Endpoint]
		lost[p.Endpoint] = Count{n.Responses, n.Exact}
	}
	alone := map[*shape.Endpoint]bool{}
	for _, a := range pairs.Endpoints {
		alone[a.Endpoint] = true
	}
	t := &c.Total
	t.WouldNotDecode.Exact = true
	for _, e := range s.Endpoints {
		for _, text := range e.Capped {
			c.Limits = append(c.Limits, e.Name+": "+text)
		}
		count, paired := lost[e]
		switch {
		case e.Route != nil && e.Route.Request:
			t.Responses -= e.Responses
			if t.Requests += e.Responses; paired {
				t.RequestsChecked += e.Responses
			}
		case paired:
			t.Checked += e.Responses
			t.WouldNotDecode.Responses += count.Responses
			t.WouldNotDecode.Exact = t.WouldNotDecode.Exact && count.Exact
		case alone[e]:
			t.WithoutModel += e.Responses
		default:
			t.ResponsesNotJudged += e.Responses
		}
	}
}

// count sums up the models and their findings.
func (c *Check) count() {
	t := &c.Total
	t.Findings, t.Models, t.WithFindings, t.Clean = FindingCounts{}, len(c.Models), 0, 0
	for _, m := range c.Models {
		if c.found(m) {
			t.WithFindings++
		} else {
			t.Clean++
		}
	}
	accepted := 0
	for _, s := range c.subjects() {
		for _, f := range *s.findings {
			t.Findings.add(f.Level)
		}
		accepted += len(*s.accepted)
	}
	if c.Ledger != nil {
		c.Ledger.Accepted = accepted
	}
	t.WithoutResponse, t.NotJudged = len(c.Unpaired.Models), len(c.Unjudged)
}

// found says whether anything is found of a model, or of it as what a whole response is decoded into.
func (c *Check) found(m CheckModel) bool {
	return slices.ContainsFunc(m.Findings, func(f CheckFinding) bool { return f.Level != finding.Loose || c.options.Loose }) ||
		slices.ContainsFunc(c.Roots, func(r CheckRoot) bool { return len(r.Findings) > 0 && r.model == m.At })
}

// Unjudgeable are the models that could not be judged though there are responses that they seem to be
// decoded from.
func (c *Check) Unjudgeable() (names []string) {
	for _, u := range c.Unjudged {
		if u.Endpoint != "" {
			names = append(names, u.Name)
		}
	}
	return names
}

func (m maker) root(p *drift.PairResult) CheckRoot {
	root := CheckRoot{
		Type: p.Plan.Declared, Endpoint: p.Endpoint.Name, Place: p.Place.Path(), Responses: p.Endpoint.Responses,
		WouldNotDecode: Count{p.Lost, p.LostExact}, Swallowed: p.Plan.Swallowed, Evidence: nonNil(p.Evidence), Findings: []CheckFinding{}, Sent: p.Plan.Writes != nil,
	}
	p.Plan.Type.Walk(func(t *model.Type) {
		if t.Model == nil || root.Language != "" {
			return
		}
		root.Language, root.model = t.Model.Language, t.Model.Pos
		if lib := library.For(t.Model.Language, p.Plan.Settings); lib != nil {
			root.Library = lib.Title
		}
	})
	for _, f := range p.Findings {
		root.Findings = append(root.Findings, m.finding(f))
	}
	return root
}

// unread counts the problems that kept something from being read.
func unread(problems []CheckProblem) (n int) {
	for _, p := range problems {
		if !p.Odd {
			n++
		}
	}
	return n
}

// nonNil makes a list that JSON writes as [] where it is empty.
func nonNil[T any](list []T) []T {
	if list == nil {
		return []T{}
	}
	return list
}

func (m maker) model(r *drift.ModelResult) CheckModel {
	out := CheckModel{Name: r.Model.Name, At: r.Model.Pos, Language: r.Model.Language, Settings: []Setting{}, Findings: []CheckFinding{}, Unknown: []UnknownField{}}
	for _, site := range r.Sites {
		settings := site.Pair.Plan.Settings
		if lib := library.For(r.Model.Language, settings); lib != nil {
			out.Library = lib.Title
			out.Assumed = assumed(r.Model, settings)
		}
		if len(out.Settings) == 0 {
			out.Settings = Settings(settings)
		}
		out.Decoded = append(out.Decoded, Decoded{
			Endpoint: site.Pair.Endpoint.Name, Place: m.look(site.Place), Where: m.look(site.Where), Objects: site.Values, Responses: site.Responses,
			WouldNotDecode: Count{site.Lost, site.LostExact}, Evidence: nonNil(site.Pair.Evidence), Sent: site.Pair.Plan.Writes != nil,
		})
	}
	for _, f := range r.Findings {
		out.Findings = append(out.Findings, m.finding(f))
	}
	for _, f := range r.Model.Fields {
		if !f.Static {
			out.fields = append(out.fields, fieldAt{f.Name, f.Pos})
		}
	}
	for _, u := range r.Unknown {
		out.Unknown = append(out.Unknown, UnknownField{u.Field.Name, u.Field.Pos, u.Why})
	}
	return out
}

// Settings lists what the source sets on a decoder, by name.
func Settings(s *model.Settings) []Setting {
	out := []Setting{}
	if s == nil {
		return out
	}
	for _, name := range sortedNames(s.Options) {
		out = append(out, Setting{name, s.Options[name].Value, s.Options[name].Pos})
	}
	if s.Version.Value != "" {
		out = append(out, Setting{"version", s.Version.Value, s.Version.Pos})
	}
	return out
}

func (m maker) finding(f *finding.Finding) CheckFinding {
	out := CheckFinding{
		Kind: f.Kind.Name, Level: f.Level, Title: drift.Title(f), Field: f.Name, Declared: f.Declared, At: f.Pos,
		Error: errorOf(f), trusted: f.Trusted, Seen: f.Seen, Writes: f.Writes, SentAs: markup.ShowKey(f.Rename), Note: f.Note, Suggestion: f.Change.String(), Code: f.Change.Code, Sites: []CheckSite{},
	}
	for _, k := range f.Keys {
		out.Keys = append(out.Keys, CheckKey{m.look(k.Name), k.Endpoint.Name, m.look(k.Place), k.Values, k.Of})
	}
	for _, s := range f.Sites {
		site := CheckSite{
			Endpoint: s.Endpoint.Name, Place: m.look(s.Place), Where: m.look(s.Where), Values: s.Values, Of: s.Of, Responses: s.Responses, OfResponses: s.OfResponses,
			Exact: s.Exact, First: s.First, Last: s.Last, Since: s.Since, ofRequests: s.Endpoint.Route != nil && s.Endpoint.Route.Request, Sent: []CheckSent{}, Examples: []CheckExample{},
		}
		steps := []wire.Step{}
		for _, ex := range s.Examples {
			steps = ex.Steps
			site.Examples = append(site.Examples, m.example(ex))
		}
		for _, sent := range s.Sent {
			what := sent.What
			if !m.Secrets && len(what) > 0 && (what[0] == '"' || what[0] >= '0' && what[0] <= '9') {
				what = Mask(steps, what)
			}
			cs := CheckSent{What: what, Values: sent.Values, Responses: sent.Responses}
			if f.Kind.Name == "mixed-values" {
				cs.Error = sent.Error
			}
			site.Sent = append(site.Sent, cs)
		}
		if !m.Secrets { // errors and suggestions may quote the value
			literal := ""
			if len(s.Examples) > 0 {
				literal = s.Examples[0].Value
			}
			out.Seen = maskApp(out.Seen, steps)
			out.Error, out.Suggestion, out.Code = maskIn(out.Error, steps, literal), maskIn(out.Suggestion, steps, literal), maskIn(out.Code, steps, literal)
		}
		out.Sites = append(out.Sites, site)
	}
	out.Brief = m.brief(f)
	out.Responses, out.OfResponses, out.Exact = f.In()
	return out
}

// brief is what is wrong in the fewest words, with the first example.
func (m maker) brief(f *finding.Finding) string {
	literal, steps := "", []wire.Step{}
	if len(f.Sites) > 0 && len(f.Sites[0].Examples) > 0 {
		literal, steps = f.Sites[0].Examples[0].Value, f.Sites[0].Examples[0].Steps
	}
	if m.Secrets {
		return drift.Brief(f, literal)
	}
	shown := *f
	shown.Seen = maskApp(f.Seen, steps)
	return maskIn(drift.Brief(&shown, literal), steps, literal)
}

func (m maker) example(ex shape.Example) CheckExample {
	value := ex.Value
	if !m.Secrets {
		value = Mask(ex.Steps, value)
	}
	return CheckExample{Capture: ex.File, Entry: ex.Entry, Pointer: m.pointer(ex.Steps), Line: ex.Line, Column: ex.Column, Value: value}
}

// pointer is a place, in which the keys of a map may be what is secret.
func (m maker) pointer(steps []wire.Step) string { return m.look(wire.Pointer(steps)) }

// look is a text without what looks secret in it, whatever its key.
func (m maker) look(text string) string {
	if m.Secrets {
		return text
	}
	return byLook(text)
}

// Problems puts together all that could not be read.
func Problems(files []input.Problem, source []model.Problem, captures []capture.Problem) []CheckProblem {
	out := []CheckProblem{}
	for _, p := range files {
		out = append(out, CheckProblem{What: "input", File: p.Path, Reason: p.Reason})
	}
	for _, p := range source {
		out = append(out, CheckProblem{What: "source", File: p.Pos.File, Line: int(p.Pos.Line), Column: int(p.Pos.Col), Reason: p.Reason})
	}
	for _, p := range captures {
		out = append(out, CheckProblem{What: "capture", File: p.File, Line: p.Line, Column: p.Column, Entry: p.Entry, Reason: p.Reason, Odd: p.Odd, Plain: p.Plain})
	}
	return out
}

// Untold says whether responses would not decode for what no finding tells.
func (c *Check) Untold() bool { return c.untold }

// errorOf is the error of a finding, "" where the compiler would tell it and looks at no value, since that has no type.
func errorOf(f *finding.Finding) string {
	if f.Trusted && f.Model != nil && f.Model.FromMap {
		return ""
	}
	return f.Error
}

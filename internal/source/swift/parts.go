package swift

import (
	"strings"

	"vetta/internal/code"
	"vetta/internal/code/hand"
	"vetta/internal/model"
	"vetta/internal/source/lower"
)

// parts finds what code decodes of documents that it takes apart itself, and makes of what JSONSerialization has parsed.
func (s *settingsFinder) parts() {
	found := lower.NewDecoded(s.calls)
	rows := madeOfRows{picked: map[*model.Model]*model.Call{}, always: map[*model.Model]bool{}}
	for _, top := range s.l.files {
		src := top.file.Src
		parses := strings.Contains(src, "JSONSerialization")
		if !parses && !(found.Several(top.file.Name) && (strings.Contains(src, "switch") || strings.Contains(src, "=="))) {
			continue
		}
		p := lower.NewProgram("swift")
		s.l.lower(again(top.file), p)
		for call, in := range p.CallsOf("decode") {
			if c := found.At[call.Pos]; c != nil {
				part(c, call, in)
			}
		}
		if !parses {
			continue
		}
		for call, in := range p.CallsOf("compactMap") {
			if c := s.rowsAt(call, in); c != nil {
				s.calls = append(s.calls, c)
			}
		}
		for _, m := range s.l.models {
			if m.FromMap {
				rows.note(m, p)
			}
		}
	}
	for _, m := range s.l.models {
		if c := rows.picked[m]; c != nil && !rows.always[m] {
			s.calls = append(s.calls, c)
		}
	}
}

// part notes what of a document a call decodes: a message only where its head, which is decoded first, says so, or what
// JSONSerialization has written of a part of a document again:
//
//	let row = try JSONSerialization.data(withJSONObject: item)
//	try decoder.decode(Port.self, from: row)
func part(c *model.Call, call *code.Expr, in *code.Func) {
	from := hand.Label(call, "from")
	if from == nil {
		return
	}
	if from.Op == code.Name {
		if c.Part, c.Picked = code.PickedBy(from.Text, call, in); c.Picked {
			return
		}
		from = code.Given(from, in)
	}
	if from.Op != code.Call || from.Args[0].Text != "data" {
		return
	}
	if of := hand.Label(from, "withJSONObject"); of != nil {
		lower.Takes(c, code.PartOf(of, call, in, inward))
	}
}

// madeOfRows are the models that code makes of a row only where something in it is a certain value, with the first call of
// each, and those that it makes in any case:
//
//	switch row["kind"] as? String { case "fog": return Fog(row) … }
type madeOfRows struct {
	picked map[*model.Model]*model.Call
	always map[*model.Model]bool
}

// note goes through the calls by which a program makes a model.
func (r *madeOfRows) note(m *model.Model, p *code.Program) {
	for call, in := range p.CallsOf(model.SimpleName(m.Name)) {
		of := code.Part{}
		if len(call.Args) > 1 {
			of = code.PartOf(call.Args[1], call, in, inward)
		}
		if r.always[m] = r.always[m] || !of.Picked; r.always[m] || r.picked[m] != nil {
			continue
		}
		t := &model.Type{Kind: model.Named, Name: m.Name, Model: m, Pos: call.Pos}
		c := &model.Call{Pos: call.Pos, Type: t, Declared: typeText(t), Settings: &model.Settings{Library: "foundation", Pos: call.Pos, Options: map[string]model.Option{}}}
		lower.Takes(c, of)
		r.picked[m] = c
	}
}

// inward is a step into what JSONSerialization has parsed.
func inward(e *code.Expr) (of *code.Expr, keys []string, whole bool) {
	return nil, nil, e.Op == code.Call && e.Args[0].Text == "jsonObject"
}

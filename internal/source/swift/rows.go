package swift

import (
	"strings"

	"vetta/internal/code"
	"vetta/internal/model"
	"vetta/internal/source/lower"
)

// rows finds where the app makes models of the list that JSONSerialization has parsed:
//
//	let rows = try JSONSerialization.jsonObject(with: data) as? [[String: Any]] ?? []
//	return rows.compactMap { Port($0) }
//
// What is no list of objects is nothing there, or an empty list, and what gives no model is left out.
func (s *settingsFinder) rows() {
	picked, always := map[*model.Model]*model.Call{}, map[*model.Model]bool{}
	for _, top := range s.l.files {
		if !strings.Contains(top.file.Src, "JSONSerialization") {
			continue
		}
		p := lower.NewProgram("swift")
		s.l.lower(again(top.file), p)
		for call, in := range p.CallsOf("compactMap") {
			if c := s.rowsAt(call, in); c != nil {
				s.calls = append(s.calls, c)
			}
		}
		for _, m := range s.l.models {
			if !m.FromMap {
				continue
			}
			for call, in := range p.CallsOf(model.SimpleName(m.Name)) {
				if c := pickedRow(m, call, in); c == nil {
					always[m] = true
				} else if picked[m] == nil {
					picked[m] = c
				}
			}
		}
	}
	for _, m := range s.l.models {
		if c := picked[m]; c != nil && !always[m] {
			s.calls = append(s.calls, c)
		}
	}
}

// pickedRow is the call that makes a model of a row only where something in it is a certain value, nil where it does so in
// any case:
//
//	switch row["kind"] as? String { case "fog": return Fog(row) … }
func pickedRow(m *model.Model, call *code.Expr, in *code.Func) *model.Call {
	if len(call.Args) < 2 {
		return nil
	}
	part := code.PartOf(call.Args[1], call, in, inward)
	if !part.Picked {
		return nil
	}
	t := &model.Type{Kind: model.Named, Name: m.Name, Model: m, Pos: call.Pos}
	c := &model.Call{Pos: call.Pos, Type: t, Declared: typeText(t), Language: m.Language, Part: part.Of, Picked: true, Settings: &model.Settings{Library: "foundation", Pos: call.Pos, Options: map[string]model.Option{}}}
	if part.Told {
		c.Within = part.Keys
	}
	return c
}

// rowsAt is the call that makes models of rows, nil where it is something else.
func (s *settingsFinder) rowsAt(call *code.Expr, in *code.Func) *model.Call {
	if len(call.Args) != 2 || len(call.Args[0].Args) != 1 {
		return nil
	}
	d := s.madeOf(call.Args[1])
	if d == nil {
		return nil
	}
	set := &model.Settings{Library: "foundation", Pos: call.Pos, Options: map[string]model.Option{}}
	from := code.Given(call.Args[0].Args[0], in)
	if from.Op == code.Choice && len(from.Args) == 2 && from.Args[1].Op == code.List && len(from.Args[1].Args) == 0 { // ?? []
		set.Options["rows.absent"] = model.Option{Value: "[]", Pos: call.Pos}
		from = from.Args[0]
	}
	if from.Op != code.As || from.Type == nil || from.Type.Kind != model.List || !isJSONMap(from.Type.Args[0]) || !parses(from.Args[0]) {
		return nil
	}
	for _, label := range from.Args[0].Labels {
		if label == "options" { // perhaps .fragmentsAllowed
			set.Options["rows.fragments"] = model.Option{Value: "perhaps", Pos: call.Pos}
		}
	}
	set.Options["rows"] = model.Option{Value: "compactMap", Pos: call.Pos}
	t := &model.Type{Kind: model.List, Pos: call.Pos, Args: []*model.Type{s.l.resolve(&model.Type{Kind: model.Named, Name: d.full, Pos: call.Pos}, nil)}}
	return &model.Call{Pos: call.Pos, Type: t, Declared: typeText(t), Settings: set}
}

// madeOf is the declaration that { Port($0) } or Port.init makes an instance of, nil where that does not
// read a [String: Any].
func (s *settingsFinder) madeOf(e *code.Expr) *typeDecl {
	if e.Op != code.Lambda || len(e.Body) != 1 || e.Body[0].Value == nil {
		return nil
	}
	made := e.Body[0].Value
	if made.Op != code.Call || made.Args[0].Op != code.Name || len(made.Args) != 2 || made.Args[1].Op != code.Name {
		return nil
	}
	if d := s.l.lookup(made.Args[0].Text, nil); d != nil && s.l.mapReader(d) != nil {
		return d
	}
	return nil
}

// parses says whether a value is what JSONSerialization.jsonObject yields.
func parses(e *code.Expr) bool {
	return e.Op == code.Call && e.Args[0].Op == code.Member && e.Args[0].Text == "jsonObject"
}

package swift

import (
	"vetta/internal/code"
	"vetta/internal/model"
)

// rowsAt is the call that makes models of the list that JSONSerialization has parsed, nil where it is something else:
//
//	let rows = try JSONSerialization.jsonObject(with: data) as? [[String: Any]] ?? []
//	return rows.compactMap { Port($0) }
//
// What is no list of objects is nothing there, or an empty list, and what gives no model is left out.
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

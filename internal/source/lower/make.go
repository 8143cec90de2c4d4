package lower

import (
	"vetta/internal/code"
	"vetta/internal/model"
)

// made reads what Java makes by new. A token of a type by a subclass on the spot is that type.
func (r *reader) made(end int) *code.Expr {
	r.Advance()
	pos, written := r.Where(), r.Text()
	t := r.typ()
	if t == nil {
		return &code.Expr{Op: code.Other}
	}
	name := model.SimpleName(t.Name)
	if name == "" { // a list or a map of the platform's
		if name = model.SimpleName(t.Class); name == "" {
			name = written
		}
	}
	e := &code.Expr{Op: code.Call, Args: []*code.Expr{{Op: code.Name, Text: name, Pos: pos}}, Types: t.Args, Type: t, Pos: pos}
	if r.Is("(") {
		r.arguments(e)
	}
	for r.Is("[") || r.Is("{") && !isToken(t) {
		if r.Is("{") {
			e.Args = append(e.Args, &code.Expr{Op: code.Lambda, Body: r.anonymousBody()})
			e.Labels = append(e.Labels, "")
			continue
		}
		r.Jump()
	}
	if isToken(t) {
		if r.Is("{") {
			r.Jump()
		}
		return &code.Expr{Op: code.TypeOf, Type: t.Args[0], Pos: pos}
	}
	return e
}

// isToken says whether a type is one whose instances say a type by their argument.
func isToken(t *model.Type) bool {
	switch model.SimpleName(t.Name) {
	case "TypeToken", "TypeReference", "ParameterizedTypeReference", "GenericType":
		return len(t.Args) == 1
	}
	return false
}

// anonymousBody reads the methods of a class without a name: what they do, as statements.
func (r *reader) anonymousBody() (all []code.Stmt) {
	shut := r.Shut()
	inner := &code.Class{Name: "", Types: map[string]*model.Type{}}
	r.Advance()
	r.members(shut, inner)
	r.I = shut + 1
	for _, p := range inner.Props {
		if p.Value != nil {
			all = append(all, code.Stmt{Op: code.Let, Name: p.Name, Value: p.Value})
		}
	}
	for _, f := range inner.Funcs {
		all = append(all, code.Stmt{Op: code.Do, Value: &code.Expr{Op: code.Lambda, Body: f.Body, Fn: f}})
	}
	return append(all, code.Stmt{Op: code.Do})
}

// anonymous reads an object of Kotlin without a name.
func (r *reader) anonymous(end int) *code.Expr {
	pos := r.Where()
	r.Advance()
	var t *model.Type
	for r.I < end && (r.Is(":") || r.Is(",")) {
		r.Advance()
		super := r.typ()
		if t == nil {
			t = super
		}
		if r.Is("(") {
			r.Jump()
		}
	}
	var body []code.Stmt
	if r.Is("{") && r.I < end {
		body = r.anonymousBody()
	}
	if t != nil && isToken(t) {
		return &code.Expr{Op: code.TypeOf, Type: t.Args[0], Pos: pos}
	}
	e := &code.Expr{Op: code.Other, Pos: pos, Args: []*code.Expr{{Op: code.Lambda, Body: body}}}
	if t != nil {
		return &code.Expr{Op: code.As, Args: []*code.Expr{e}, Type: t}
	}
	return e
}

// tokenOf is the type as a value that a call makes: typeOf<List<Port>>(), TypeToken.
func (r *reader) tokenOf(call *code.Expr) *code.Expr {
	switch call.Args[0].Text {
	case "typeOf", "jacksonTypeRef", "typeInfo", "serializer":
		if len(call.Types) == 1 {
			return &code.Expr{Op: code.TypeOf, Type: call.Types[0], Pos: call.Pos}
		}
	case "getParameterized", "newParameterizedType", "constructParametricType", "constructCollectionType", "constructCollectionLikeType", "constructMapType":
		return r.composed(call)
	}
	return nil
}

// composed is the type that a call makes of a class and its arguments: getParameterized(Page.class, Port.class); nil where
// it is given something else.
func (r *reader) composed(call *code.Expr) *code.Expr {
	var made *model.Type
	for _, a := range call.Args[1:] {
		for a.Op != code.TypeOf && len(a.Args) == 1 { // token.getType(), token.type
			a = a.Args[0]
		}
		if a.Op != code.TypeOf || a.Type == nil {
			return nil
		}
		if made != nil {
			made.Args = append(made.Args, a.Type)
			continue
		}
		name := a.Text
		if name == "" {
			name = a.Type.Name
		}
		made = &model.Type{Kind: model.Named, Name: name, Pos: call.Pos}
		if a.Type.Kind == model.Named {
			*made = *a.Type
			made.Args, made.Linked = nil, false
		}
	}
	if made == nil {
		return nil
	}
	return &code.Expr{Op: code.TypeOf, Type: r.Resolve(made, r.path, r.generics), Pos: call.Pos}
}

package typescript

import (
	"slices"
	"strings"

	"vetta/internal/code"
	"vetta/internal/model"
	"vetta/internal/types"
)

// modelAsked is the model of what a function reads.
func (v *evaluator) modelAsked(fn *code.Func, root *asked) *model.Type {
	if root.by == nil {
		root.by = fn
	}
	t := v.typeAsked(root, nameAsked(root.by), 0)
	if t.Kind != types.Object || t.Decl == nil || t.Decl.Model == nil {
		return nil
	}
	m := t.Decl.Model
	return &model.Type{Kind: model.Named, Name: m.Name, Model: m, Linked: true}
}

// nameAsked is what the type is called that a function reads: the class that it makes, or its own name.
func nameAsked(fn *code.Func) string {
	if c := fn.Class; c != nil && (fn.Init || fn.Static) {
		return c.Name
	}
	return fn.Name
}

// namedAsked gives what a function reads a name: of the class that it makes, or is of, or its own.
func (v *evaluator) namedAsked(t *types.Type, fn *code.Func) *types.Type {
	if known := v.readBy[fn]; known != nil {
		return known
	}
	m := &model.Model{Name: nameAsked(fn), Pos: fn.Pos, Kind: model.Alias, Language: Language, Reading: model.ByLibrary, Decodable: true, FromMap: true, Library: Language}
	if c := fn.Class; c != nil && m.Name == c.Name {
		m.Pos, m.Kind = c.Pos, model.Class
	}
	d := &types.Decl{Name: m.Name, Model: m}
	named := t.Named(m.Name, d, nil)
	d.Of = func([]*types.Type) *types.Type { return named }
	m.Source = d
	if v.readBy == nil {
		v.readBy = map[*code.Func]*types.Type{}
	}
	v.readBy[fn] = named
	defer func(within string, at model.Pos, byCode bool) { v.within, v.at, v.byCode = within, at, byCode }(v.within, v.at, v.byCode)
	v.within, v.at, v.byCode = Language, m.Pos, true
	v.fieldsOf(m, named, nil)
	return named
}

// maxAskedLevels is how far what is read is followed into what it holds.
const maxAskedLevels = 12

// typeAsked is the type of a part as code reads it.
func (v *evaluator) typeAsked(a *asked, owner string, depth int) *types.Type {
	switch {
	case depth > maxAskedLevels:
		return types.AnyType
	case a.same != nil && a.same.by != nil && v.readBy[a.same.by] != nil:
		return v.readBy[a.same.by]
	case a.whole != nil && len(a.keys) == 0 && a.item == nil:
		if a.by != nil && a.whole.Kind == types.Object && a.whole.Decl == nil {
			return v.namedAsked(a.whole, a.by)
		}
		return a.whole
	case a.item != nil && len(a.keys) == 0:
		return &types.Type{Kind: types.Array, Elems: []*types.Type{v.typeAsked(a.item, owner, depth+1)}, Written: "any[]"}
	case len(a.keys) == 0:
		return types.AnyType
	}
	members := &types.Members{}
	for _, k := range a.keys {
		typ := func() *types.Type { // when it is known what functions around it read
			t, inner := k.typ, owner+"."+k.name
			if k.part.by != nil {
				inner = nameAsked(k.part.by)
			}
			if of := v.typeAsked(k.part, inner, depth+1); of.Kind != types.Any {
				t = of
			}
			if t == nil {
				t = types.AnyType
			}
			if k.optional && t.Kind != types.Any {
				t = types.UnionOf(t.Without(func(t *types.Type) bool { return t.Kind == types.Undefined }), types.NullType)
			}
			return t
		}
		field := &model.Field{Name: k.name, Keys: []string{k.name}, Pos: k.pos, Reading: model.ByLibrary, Access: model.Public}
		if k.prop != nil {
			if field.Name = k.prop.Name; k.prop.Type != nil {
				field.Declared = types.Written(k.prop.Type)
			}
			if !k.prop.Pos.IsZero() {
				field.Pos = k.prop.Pos
			}
		}
		members.Props = append(members.Props, types.NewProp(k.name, k.optional, types.Plain, field, typ))
	}
	t := types.Lazy(owner, func() *types.Members { return members })
	if a.by != nil {
		return v.namedAsked(t, a.by)
	}
	return t
}

// cutBraces are the names in {a,b}, which a parameter takes of what it is given; apart is false for a name alone.
func cutBraces(param string) (names []string, apart bool) {
	inner, apart := strings.CutPrefix(param, "{")
	if !apart {
		return nil, param == ""
	}
	names = strings.Split(strings.TrimSuffix(inner, "}"), ",")
	return slices.DeleteFunc(names, func(name string) bool { return name == "" }), true
}

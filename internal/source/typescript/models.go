package typescript

import (
	"slices"
	"strconv"
	"strings"

	"vetta/internal/code"
	"vetta/internal/model"
	"vetta/internal/types"
)

// Language is the name of the language in models and settings, and of what "decodes" them: nothing looks at the values.
const Language = "typescript"

// modelOf is the model of some declarations of one name.
func (v *evaluator) modelOf(parts []*decl) *model.Model {
	d := v.define(parts)
	if d.decl.Model != nil {
		return d.decl.Model
	}
	first := parts[0]
	m := &model.Model{Name: first.name, Language: Language, Pos: first.unit.at.of(first.start), Reading: model.ByLibrary, Decodable: true, Library: Language, Source: d.decl, Abstract: first.abstract}
	if first.in.name != "" {
		m.Name = first.in.name + "." + first.name
	}
	d.decl.Model, d.decl.Name = m, m.Name
	if d.decl.Library != "" {
		m.Library = d.decl.Library
	}
	for _, part := range parts {
		if len(part.generics) > len(m.Params) {
			m.Params = generics(part.generics)
		}
	}
	switch first.what {
	case isInterface:
		m.Kind = model.Interface
	case isClass:
		m.Kind = model.Class
	case isEnum:
		m.Kind = model.Enum
		for _, part := range parts {
			for i, c := range v.constants(part) {
				m.Cases = append(m.Cases, &model.Case{Name: c.name, Key: c.typ.Text, Pos: part.unit.at.of(part.cases[i].start)})
			}
		}
		return m
	default:
		m.Kind = model.Alias
	}
	v.due = append(v.due, due{m, parts})
	return m
}

// due is a model whose fields are to be filled.
type due struct {
	model *model.Model
	parts []*decl
}

// fill completes the models that were asked for, and those that they lead to.
func (v *evaluator) fill() {
	for len(v.due) > 0 {
		d := v.due[len(v.due)-1]
		v.due = v.due[:len(v.due)-1]
		v.complete(d.model, d.parts)
	}
	if v.program != nil {
		v.classSchemas()
	}
}

func (v *evaluator) complete(m *model.Model, parts []*decl) {
	defer func(within string) { v.within = within }(v.within)
	v.within = m.Library
	params := make([]*types.Type, len(m.Params))
	for i, name := range m.Params {
		params[i] = &types.Type{Kind: types.Parameter, Text: name, Written: name}
	}
	t := v.instance(parts, params)
	if t.Kind != types.Object {
		if t.Kind == types.Unresolved {
			m.Reading, m.Why, m.WhyPos = model.Unfollowed, t.Text, m.Pos
		}
		m.Collection = v.toModel(t, m.Name)
		return
	}
	for _, n := range parts[0].extends {
		if base := v.of(n, parts[0].in, params2env(m.Params, params)); base.Kind == types.Object && base.Decl != nil && m.Super == nil {
			m.Super = v.toModel(base, m.Name)
		}
	}
	v.fieldsOf(m, t, parts)
}

func params2env(names []string, given []*types.Type) (e *env) {
	for i, name := range names {
		e = e.with(name, given[i])
	}
	return e
}

// fieldsOf gives a model the fields that its type has; those that a model above declares are that one's.
func (v *evaluator) fieldsOf(m *model.Model, t *types.Type, parts []*decl) {
	own := map[*model.Field]bool{}
	for _, part := range parts {
		for _, mem := range part.members {
			if f := v.fields[mem]; f != nil {
				own[f] = true
			}
		}
	}
	for _, p := range t.Members().Props {
		if p.Field == nil {
			p.Field = &model.Field{Name: p.Name, Keys: []string{p.Name}, Pos: m.Pos, Reading: model.ByLibrary, Access: model.Public}
		}
		f := p.Field
		if f.Type == nil {
			v.at = f.Pos
			of := p.Type()
			f.Type = v.toModel(of, m.Name+"."+p.Name)
			if f.Declared == "" && of.Kind != types.Unresolved {
				f.Declared = of.String()
			}
			if p.Optional && f.Type.Kind != model.Optional {
				f.Type = model.OptionalOf(f.Type)
			}
			if p.How == types.Method || of.Kind == types.Function {
				f.Reading, f.Why = model.Never, "it is a function, which no document holds"
			}
		}
		if len(own) > 0 && !own[f] && m.Super != nil {
			continue
		}
		m.Fields = append(m.Fields, f)
	}
}

// toModel is a type as all languages have it. owner names what has no name of its own.
func (v *evaluator) toModel(t *types.Type, owner string) *model.Type {
	named := func(name string) *model.Type { return &model.Type{Kind: model.Named, Name: name, Linked: true} }
	if v.open[t] || len(v.open) > maxTypes { // a union that holds itself
		return &model.Type{Kind: model.Opaque, Name: t.String(), Linked: true}
	}
	v.open[t] = true
	defer delete(v.open, t)
	switch t.Kind {
	case types.Object:
		return v.objectModel(t, owner)
	case types.Array:
		return &model.Type{Kind: model.List, Name: "Array", Args: []*model.Type{v.toModel(t.Elems[0], owner)}, Linked: true}
	case types.Tuple:
		out := &model.Type{Kind: model.Tuple, Name: t.String(), Linked: true}
		for _, e := range t.Elems {
			out.Args = append(out.Args, v.toModel(e, owner))
		}
		return out
	case types.Parameter:
		return &model.Type{Kind: model.Param, Name: t.Text, Linked: true}
	case types.Union:
		if t.Decl != nil { // an enum
			v.modelFor(t.Decl)
			return &model.Type{Kind: model.Named, Name: t.Decl.Name, Model: t.Decl.Model, Linked: true}
		}
		nothing := func(t *types.Type) bool { return t.Kind == types.Null || t.Kind == types.Undefined }
		if rest := t.Without(nothing); rest != t && rest.Kind != types.Never {
			return model.OptionalOf(v.toModel(rest, owner))
		}
		out := &model.Type{Kind: model.Opaque, Name: t.String(), Linked: true}
		kinds := map[string]bool{}
		for i, e := range t.Elems {
			of := v.toModel(e, owner+"."+strconv.Itoa(i+1))
			kinds[of.Name] = true
			if of.Kind != model.Named || of.Model != nil {
				out.Args = append(out.Args, of)
			}
		}
		if len(kinds) == 1 && len(out.Args) == 0 {
			return v.toModel(t.Elems[0], owner)
		}
		return out
	case types.StringLiteral, types.Template, types.Cased:
		return named("string")
	case types.NumberLiteral, types.EnumNumber:
		return named("number")
	case types.BoolLiteral:
		return named("boolean")
	case types.Brand:
		return v.toModel(t.Elems[0], owner)
	}
	return &model.Type{Kind: model.Named, Name: t.String(), Linked: true}
}

// modelFor makes the model of a declaration, to be filled later.
func (v *evaluator) modelFor(d *types.Decl) {
	if def := v.byDecl[d]; d.Model == nil && def != nil {
		v.modelOf(def.parts)
	}
}

func (v *evaluator) objectModel(t *types.Type, owner string) *model.Type {
	if t.Decl != nil {
		v.modelFor(t.Decl)
		out := &model.Type{Kind: model.Named, Name: t.Decl.Name, Model: t.Decl.Model, Linked: true}
		for _, a := range t.Args {
			out.Args = append(out.Args, v.toModel(a, owner))
		}
		return out
	}
	o := t.Members()
	if len(o.Props) == 0 && len(o.Index) > 0 {
		return &model.Type{Kind: model.Map, Args: []*model.Type{v.toModel(o.Index[0].Key, owner), v.toModel(o.Index[0].Value, owner)}, Linked: true}
	}
	if len(o.Props) == 0 {
		return &model.Type{Kind: model.Named, Name: t.String(), Linked: true}
	}
	m := v.inline(t, owner)
	return &model.Type{Kind: model.Named, Name: m.Name, Model: m, Linked: true}
}

// inline is the model of an object type without a name, named for the field that it is the type of.
func (v *evaluator) inline(t *types.Type, owner string) *model.Model {
	if m := t.Inline; m != nil {
		return m
	}
	var key any = t
	if t.Node != nil {
		key = t.Node
	} else if o := t.Members(); t.Label != "" && len(o.Props) > 0 && o.Props[0].Field != nil { // one value, of which schemas were made twice
		key = t.Label + o.Props[0].Field.Pos.String()
	}
	if m := v.inlines[key]; m != nil {
		t.Inline = m
		return m
	}
	m := &model.Model{Name: owner, Language: Language, Kind: model.Alias, Reading: model.ByLibrary, Decodable: true, Library: v.within, Pos: v.at, FromMap: v.byCode}
	if t.Label != "" {
		owner = t.Label
		m.Name = owner
	}
	if f := slices.IndexFunc(t.Members().Props, func(p *types.Prop) bool { return p.Field != nil }); f >= 0 {
		m.Pos = t.Members().Props[f].Field.Pos
	}
	for n := 2; v.inlineNames[m.Name]; n++ {
		m.Name = owner + "." + strconv.Itoa(n)
	}
	v.inlineNames[m.Name] = true
	m.Source = &types.Decl{Name: m.Name, Model: m, Of: func([]*types.Type) *types.Type { return t }}
	v.inlines[key], t.Inline = m, m
	v.fieldsOf(m, t, nil)
	return m
}

// link looks up the types in the code of a file.
func (p *project) link(u *unit) {
	if u.linked {
		return
	}
	u.linked = true
	for _, late := range u.pending {
		*late.typ = *p.typeIn(late.node, late.scope, late.free, 0)
	}
}

// utilities are the types of the compiler that are not held by what is named so, but made of what they are given.
var utilities = names("Partial Required Readonly Pick Omit Exclude Extract NonNullable ReturnType Awaited Parameters Uppercase Lowercase Capitalize Uncapitalize Record InstanceType")

// typeIn is the type that a node in code stands for: what the follower of calls takes apart as all languages have it,
// the rest as what is worked out when its type parameters are known.
func (p *project) typeIn(n *node, s *scope, free []string, depth int) *model.Type {
	if n == nil {
		return nil
	}
	args := func(all []*node) (out []*model.Type) {
		for _, a := range all {
			out = append(out, p.typeIn(a, s, free, depth+1))
		}
		return out
	}
	if depth < 20 {
		switch n.op {
		case nRef:
			if slices.Contains(free, n.name) {
				return &model.Type{Kind: model.Named, Name: n.name}
			}
			if keywords[n.name] != nil {
				return &model.Type{Kind: model.Named, Name: n.name, Linked: true}
			}
			found := p.find(s, n.name, ofTypes)
			switch {
			case len(found) > 0 && found[0].what == isAlias && !p.isObject(found[0]):
				if len(found[0].generics) == 0 {
					return p.typeIn(found[0].typ, found[0].in, nil, depth+1)
				}
			case len(found) > 0:
				m := p.eval.modelOf(found)
				return &model.Type{Kind: model.Named, Name: m.Name, Model: m, Args: args(n.args), Linked: true}
			case (n.name == "Array" || n.name == "ReadonlyArray") && len(n.args) == 1:
				return &model.Type{Kind: model.List, Name: "Array", Args: args(n.args), Linked: true}
			case n.name == "Record" && len(n.args) == 2:
				return &model.Type{Kind: model.Map, Args: args(n.args), Linked: true}
			case len(n.args) > 0 && !utilities[n.name]:
				return &model.Type{Kind: model.Named, Name: n.name, Args: args(n.args)}
			case len(n.args) == 0:
				return &model.Type{Kind: model.Named, Name: n.name, Linked: true}
			}
		case nImport:
			if s == nil || s.unit == nil {
				break
			}
			if found := p.inside([]*decl{{what: isImport, unit: s.unit, in: s, from: n.val, of: "*"}}, n.name, ofTypes, 0); len(found) > 0 && (found[0].what != isAlias || p.isObject(found[0])) {
				m := p.eval.modelOf(found)
				return &model.Type{Kind: model.Named, Name: m.Name, Model: m, Args: args(n.args), Linked: true}
			}
		case nArray:
			return &model.Type{Kind: model.List, Name: "Array", Args: args(n.args), Linked: true}
		case nUnion:
			rest := slices.DeleteFunc(slices.Clone(n.args), func(a *node) bool { return a.op == nRef && (a.name == "null" || a.name == "undefined") })
			if len(rest) == 1 && len(n.args) > 1 {
				return model.OptionalOf(p.typeIn(rest[0], s, free, depth+1))
			}
		case nFunction:
			var takes []*model.Type
			for i := range n.params {
				t := n.params[i].Type
				if t == nil {
					t = code.Nothing
				}
				takes = append(takes, t)
			}
			return code.FunctionType(takes, p.typeIn(n.result, s, free, depth+1))
		}
	}
	t := &model.Type{Kind: model.Opaque, Name: p.eval.written(n, s)}
	for _, name := range free {
		t.Args = append(t.Args, &model.Type{Kind: model.Named, Name: name})
	}
	bound := len(free)
	refs(n, func(r *node) {
		if found := p.find(s, r.name, ofTypes); len(found) > 0 && !slices.Contains(free, r.name) {
			m := p.eval.modelOf(found)
			t.Args = append(t.Args, &model.Type{Kind: model.Named, Name: m.Name, Model: m, Linked: true})
		}
	})
	t.Exact = &types.Late{Of: func(given []*types.Type) *types.Type {
		var e *env
		for i := range min(bound, len(given)) {
			e = e.with(free[i], given[i])
		}
		return p.eval.of(n, s, e)
	}}
	if len(usedOf(n, free)) == 0 {
		t.Args = t.Args[bound:]
		bound = 0
	}
	return t
}

// usedOf are the names in a type that stand for others.
func usedOf(n *node, free []string) (used []string) {
	refs(n, func(r *node) {
		if slices.Contains(free, r.name) {
			used = append(used, r.name)
		}
	})
	return used
}

// refs calls visit for the names in a type.
func refs(n *node, visit func(*node)) {
	if n == nil {
		return
	}
	if n.op == nRef {
		visit(n)
	}
	for _, a := range n.args {
		refs(a, visit)
	}
	for _, m := range n.members {
		refs(m.typ, visit)
	}
	refs(n.result, visit)
	if n.mapped != nil {
		refs(n.mapped.keys, visit)
		refs(n.mapped.value, visit)
	}
}

// isObject says whether an alias is another name for what is written out as an object, so that it is a model.
func (p *project) isObject(d *decl) bool {
	if _, of := p.eval.inferred(d.typ, d.in); of != nil {
		return true
	}
	switch d.typ.op {
	case nObject, nMapped, nIntersect:
		return true
	case nRef:
		found := p.find(d.in, d.typ.name, ofTypes)
		if len(found) == 0 {
			return utilities[d.typ.name] && d.typ.name != "Record" && d.typ.name != "Awaited" && !strings.HasPrefix(d.typ.name, "Ex")
		}
		return len(d.generics) > 0 && found[0] != d && (found[0].what != isAlias || found[0].typ.op == nObject)
	}
	return false
}

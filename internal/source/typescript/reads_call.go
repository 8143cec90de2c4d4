package typescript

import (
	"slices"
	"strings"

	"vetta/internal/code"
	"vetta/internal/model"
	"vetta/internal/types"
)

// What a call makes of a part of a value that has no type: what is made of it, what a method is called for, and what a
// function of the app reads of it.

// makers are functions of the language that make a value of anything, with what they make sense of.
var makers = map[string]*types.Type{
	"Number": types.AnyType, "parseInt": types.AnyType, "parseFloat": types.AnyType, "String": types.AnyType, "BigInt": types.AnyType,
	"Date": types.UnionOf(types.StringType, types.NumberType),
}

func (a *askingFor) call(x *code.Expr, e *askedIn, fn *code.Func, want *model.Type, prop *code.Prop, perhaps bool) {
	callee, name := x.Args[0], called(x)
	given := x.Args[1:]
	switch {
	case callee.Op == code.Name && makers[name] != nil && len(given) > 0:
		if p, ok := a.place(given[0], e); ok {
			a.note(p, makers[name], prop, perhaps)
			return
		}
		a.value(given[0], e, fn, nil, prop, perhaps)
		return
	case callee.Op == code.Name && name == "Boolean" && len(given) > 0:
		a.value(given[0], e, fn, nil, prop, true)
		return
	case dotted(callee) == "Object.assign" && len(given) == 2 && given[0].Op == code.Name && given[0].Text == "this" && fn.Class != nil:
		if p, ok := a.place(given[1], e); ok {
			a.note(p, a.ownFields(fn), nil, perhaps)
			return
		}
	case strings.HasPrefix(dotted(callee), "console."):
		return
	case dotted(callee) == "Array.isArray" || x.Const && strings.HasSuffix(name, "Error"):
		for _, arg := range given {
			a.value(arg, e, fn, nil, nil, true)
		}
		return
	}
	if callee.Op == code.Member && len(callee.Args) == 1 {
		if of, ok := a.place(callee.Args[0], e); ok {
			a.method(of, x, name, e, fn, want, prop, perhaps)
			return
		}
		a.value(callee.Args[0], e, fn, nil, nil, perhaps)
	}
	target := a.f.target(callee, x.Const, fn)
	for i, arg := range given {
		p, ok := a.place(arg, e)
		if !ok {
			var t *model.Type
			if target != nil && i < len(target.Params) {
				t = target.Params[i].Type
			}
			a.value(arg, e, fn, t, nil, perhaps)
			continue
		}
		switch {
		case target == nil || i >= len(target.Params):
			a.lost = true
			return
		case !untyped(target.Params[i].Type):
			t := typeFor(target.Params[i].Type)
			if target.Params[i].Optional || target.Params[i].Default != nil {
				t = types.UnionOf(t, types.UndefinedType)
			}
			own := prop
			if target.Init && target.Params[i].Field {
				own = &code.Prop{Name: target.Params[i].Name, Pos: target.Params[i].Pos}
			}
			a.note(p, t, own, perhaps || target.Params[i].Optional || target.Params[i].Default != nil)
		default:
			a.note(p, nil, prop, perhaps)
			p.optional = false
			a.function(target, i, p)
		}
	}
}

// method is a call of a method of a part.
func (a *askingFor) method(of place, x *code.Expr, name string, e *askedIn, fn *code.Func, want *model.Type, prop *code.Prop, perhaps bool) {
	optional := perhaps || slices.Contains(x.Args[0].Args[0].Does.All(), code.Chained)
	given := x.Args[1:]
	switch name {
	case "map", "forEach", "filter", "flatMap", "find", "some", "every":
		if of.part.item == nil {
			of.part.item = &asked{}
		}
		a.note(of, nil, prop, optional)
		if len(given) == 0 {
			return
		}
		element := place{part: of.part.item}
		switch by := given[0]; {
		case by.Op == code.Lambda && len(by.Labels) > 0:
			inner := e.inner()
			if by.Fn != nil && len(by.Fn.Params) > 0 && !untyped(by.Fn.Params[0].Type) {
				a.note(element, typeFor(by.Fn.Params[0].Type), nil, false)
				inner.names[by.Labels[0]] = place{}
			} else {
				a.bind(by.Labels[0], element, inner)
			}
			own := *fn
			own.Returns = nil
			if want != nil && want.Unwrapped().Kind == model.List && name == "map" {
				own.Returns = want.Unwrapped().Args[0]
			}
			a.body(by.Body, inner, &own, name != "map" && name != "forEach")
		case by.Op == code.Lambda:
		default:
			target := a.f.target(by, false, fn)
			switch {
			case target == nil || len(target.Params) == 0:
				a.lost = name == "map" || name == "flatMap"
			case untyped(target.Params[0].Type):
				a.function(target, 0, element)
			default:
				a.note(element, typeFor(target.Params[0].Type), nil, false)
			}
		}
	case "toString", "trim", "toLowerCase", "toUpperCase", "split", "slice", "substring", "replace", "startsWith", "endsWith", "includes", "padStart", "charAt":
		var t *types.Type
		if name != "toString" && name != "slice" && name != "includes" {
			t = types.StringType
		}
		a.note(of, t, prop, optional)
		for _, arg := range given {
			a.value(arg, e, fn, nil, nil, perhaps)
		}
	case "toFixed":
		a.note(of, types.NumberType, prop, optional)
	case "hasOwnProperty":
	default:
		a.lost = true
	}
}

// ownFields is the type of what a class declares, all of which it is given at once.
func (a *askingFor) ownFields(fn *code.Func) *types.Type {
	members := &types.Members{}
	for _, p := range fn.Class.Props {
		if p.Static || p.Get != nil || p.Type == nil {
			continue
		}
		field := &model.Field{Name: p.Name, Keys: []string{p.Name}, Pos: p.Pos, Reading: model.ByLibrary, Access: model.Public}
		t := typeFor(p.Type)
		members.Props = append(members.Props, types.NewProp(p.Name, p.Optional || p.Value != nil || t.Kind == types.Any, types.Plain, field, func() *types.Type { return t }))
	}
	return types.Lazy(fn.Class.Name, func() *types.Members { return members })
}

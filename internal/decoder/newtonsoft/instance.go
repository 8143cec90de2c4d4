package newtonsoft

import (
	"slices"
	"strings"

	"vetta/internal/code"
	"vetta/internal/decoder"
	"vetta/internal/decoder/clr"
	"vetta/internal/decoder/sharp"
	"vetta/internal/model"
)

// constructor is the one that makes instances; several says that the library can choose none.
func (c *compiler) constructor(m *model.Model) (k *model.Method, several bool) {
	var public, marked, bare []*model.Method
	for _, k := range m.Ctors {
		if find(k.Marks, "JsonConstructor") != nil {
			marked = append(marked, k)
		}
		if len(k.Params) == 0 {
			bare = append(bare, k)
		}
		if k.Access == model.Public {
			public = append(public, k)
		}
	}
	switch {
	case len(marked) > 0:
		return marked[0], false
	case len(bare) > 0 && (bare[0].Access == model.Public || c.settings.Option("ConstructorHandling") == "AllowNonPublicDefaultConstructor"):
		return bare[0], false
	case m.Kind == model.Struct && len(public) == 0:
		return nil, false
	case m.Kind == model.Struct: // the implicit one
		return nil, false
	case len(public) == 1:
		return public[0], false
	case len(public) == 0 && len(bare) > 0:
		return bare[0], false
	case len(public) == 0 && len(m.Ctors) == 1:
		return nil, true
	}
	return nil, true
}

// immutable is the constructor of a struct that takes the values of members that nothing else sets, where it is its only
// one (DefaultContractResolver.GetImmutableConstructor); else nil.
func immutable(t *model.Type, all []*member) *model.Method {
	var only *model.Method
	for _, k := range t.Model.Ctors {
		if k.Access == model.Public && only != nil {
			return nil
		} else if k.Access == model.Public {
			only = k
		}
	}
	if only == nil || len(only.Params) == 0 {
		return nil
	}
	for _, p := range only.Params {
		if !slices.ContainsFunc(all, func(x *member) bool {
			return !x.set && strings.EqualFold(x.field.Name, p.Name) && x.typ.Written() == p.Type.Bind(t.Env()).Written()
		}) {
			return nil
		}
	}
	return only
}

// hooks are the methods that run before and behind reading an instance: those that are marked.
func hooks(t *model.Type) (before, after []string) {
	_, d := sharp.Of(t.Model)
	if d == nil {
		return nil, nil
	}
	for _, part := range d.Parts {
		for _, fn := range part.Funcs {
			for _, mark := range fn.Marks {
				switch strings.TrimSuffix(model.SimpleName(mark.Args[0].Text), "Attribute") {
				case "OnDeserializing":
					before = append(before, fn.Name)
				case "OnDeserialized":
					after = append(after, fn.Name)
				}
			}
		}
	}
	return before, after
}

// swallows says whether a class handles the errors of its members itself: by a method that is marked [OnError] and does
// nothing but say so.
func swallows(m *model.Model) bool {
	_, d := sharp.Of(m)
	if d == nil {
		return false
	}
	for _, part := range d.Parts {
		for _, fn := range part.Funcs {
			marked := slices.ContainsFunc(fn.Marks, func(mark *code.Expr) bool {
				return strings.TrimSuffix(model.SimpleName(mark.Args[0].Text), "Attribute") == "OnError"
			})
			if body := fn.Do(); !marked || len(body) != 1 || body[0].Value == nil {
				continue
			} else if st, v := &body[0], body[0].Value; st.Op == code.Assign && st.Name == "Handled" && v.Text == "true" || v.Op == code.Set && v.Args[0].Text == "Handled" && v.Args[1].Text == "true" {
				return true
			}
		}
	}
	return false
}

// byCode lets the class's own code make the instance, where what it holds hangs on that.
func (c *compiler) byCode(t *model.Type, n *decoder.Node, params, all []*member, k *model.Method, build *decoder.Node, s site) {
	before, after := hooks(t)
	if c.code == nil || build.Rest != nil || s.from != nil || optIn(t.Model) == "Fields" || len(before)+len(after) == 0 && !sharp.NeedsCode(t, k) {
		return
	}
	var parts []sharp.Part
	for _, x := range params {
		field := x.field
		if field == nil {
			field = &model.Field{Name: x.param.Name, Type: x.typ}
		}
		for _, step := range build.Steps {
			if step.Node.Op == decoder.OpAt && step.Node.Name == x.key && step.Node.Field == x.field {
				parts = append(parts, sharp.Part{Field: field, Type: x.typ, Node: step.Node, Param: x.at})
				break
			}
		}
	}
	for _, x := range all {
		if x.param != nil || x.rest || x.ignored {
			continue
		}
		for _, step := range build.Steps {
			if step.Node.Op != decoder.OpAt || step.Node.Field != x.field {
				continue
			}
			own := *step.Node
			own.Opaque = false
			own.Value = decoder.Seen{Kind: decoder.SeenLeftOut}
			if own.KeepNull {
				own.KeepNull = false
				own.Inner = &decoder.Node{Op: decoder.OpNil, Value: decoder.Seen{Kind: decoder.SeenLeftOut}, Inner: own.Inner}
			}
			parts = append(parts, sharp.Part{Field: x.field, Type: x.typ, Node: &own, Param: -1, Name: x.field.Name})
			break
		}
	}
	n.Inner = c.code.Made(t, build, k, parts, before, after)
}

func why(f *model.Field) string {
	if f.Access != model.Public {
		return "it is not public, and not marked [JsonProperty]"
	}
	return "it is none of the members that are chosen"
}

// match finds the members that the parameters of a constructor stand for, by key or by name.
func (c *compiler) match(t *model.Type, k *model.Method, all []*member) (params []*member) {
	for i, p := range k.Params {
		var met *member
		for _, x := range all {
			if met == nil && !x.rest && (strings.EqualFold(x.field.Name, p.Name) || strings.EqualFold(x.key, p.Name)) {
				met = x
			}
		}
		of := &member{param: p, at: i, typ: p.Type.Bind(t.Env()), key: p.Name, set: true}
		mark := find(p.Marks, "JsonProperty")
		if met != nil {
			of.field, of.owner, of.mark, of.required, of.nulls = met.field, met.owner, met.mark, met.required, met.nulls
			if met.key != p.Name {
				of.key = met.key
				if of.required != "Always" && of.required != "AllowNull" { // what is required is looked for by its key alone
					of.others = []string{p.Name}
				}
			}
			met.param, met.at = p, i
		}
		if keyOf(mark) != "" {
			of.key = keyOf(mark)
			if of.others = nil; met != nil && met.key != of.key { // what no key names is looked for by the name itself
				of.others = []string{p.Name}
			}
		} else if met == nil {
			of.key = c.named(p.Name, ownStrategy(t.Model))
			if of.key != p.Name {
				of.others = []string{p.Name}
			}
		}
		params = append(params, of)
	}
	return params
}

// initial is what a field holds when the constructor has made an instance.
func (c *compiler) initial(t *model.Type, f *model.Field, k *model.Method, s site) decoder.Seen {
	if s.from != nil {
		if v, ok := s.from.Get(f.Name); ok {
			return v
		}
	}
	owner := t
	for _, s := range clr.Chain(t) {
		if slices.Contains(s.Model.Fields, f) {
			owner = s
		}
	}
	typ := f.Type.Bind(owner.Env())
	if k == nil && t.Model.Kind == model.Struct {
		return clr.Zero(typ)
	}
	if optIn(t.Model) == "Fields" {
		return clr.Zero(typ)
	}
	if k != nil && (slices.Contains(k.Computes, f.Name) || slices.Contains(k.Fills, f.Name)) {
		return decoder.Seen{Kind: decoder.SeenUnknown}
	}
	for _, s := range clr.Chain(t)[1:] {
		for _, base := range s.Model.Ctors {
			if len(base.Params) == 0 && slices.Contains(base.Computes, f.Name) {
				return decoder.Seen{Kind: decoder.SeenUnknown}
			}
		}
	}
	return clr.Initial(f, typ)
}

// parameter is the step for a parameter of the constructor: an absent one gets the zero of its type.
func (c *compiler) parameter(t *model.Type, x *member, k *model.Method, index map[string]int) decoder.Step {
	step := decoder.Step{Property: -1}
	if x.at < len(k.Fills) && k.Fills[x.at] != "" {
		if i, ok := index[k.Fills[x.at]]; ok {
			step.Property = i
		}
	}
	at := &decoder.Node{Op: decoder.OpAt, Name: x.key, Others: x.others, Every: true, Field: x.field, Type: x.param.Declared, Value: clr.Zero(x.typ)}
	step.Node = at
	at.Inner = c.value(x.typ, c.inner(x))
	c.demands(t, x, at)
	c.handled(t.Model, at)
	if at.Missing == nil {
		switch {
		case x.typ.Kind == model.Optional || at.Value.Kind == decoder.SeenUnknown:
		case clr.IsValue(x.typ):
			at.AbsentLoss = decoder.Zeroed
		case x.field != nil && !x.field.Oblivious:
			at.AbsentLoss = decoder.HiddenNull
		}
	}
	c.hidden(x, at)
	return step
}

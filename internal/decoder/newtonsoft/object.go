package newtonsoft

import (
	"fmt"
	"slices"
	"strings"

	"vetta/internal/decoder"
	"vetta/internal/decoder/clr"
	"vetta/internal/model"
)

// object is the node for a class or struct.
func (c *compiler) object(t *model.Type, s site) *decoder.Node {
	m := t.Model
	all, clash := c.members(t)
	if clash != nil {
		return c.refused(m, "give one of them another name by [JsonProperty], or mark it [JsonIgnore]",
			"A member with the name '%s' already exists on '%s'. Use the JsonPropertyAttribute to specify another name.", clash.key, clr.Name(t))
	}
	k, several := c.constructor(m)
	if several {
		return &decoder.Node{Op: decoder.OpKeyed, Model: m, Wrong: wrongObject(t), Second: empty(t), Scalars: true, Inner: &decoder.Node{Op: decoder.OpFail, Model: m, Error: &decoder.Error{
			Kind: "JsonSerializationException", Reason: decoder.ReasonType, Advice: "give it a public constructor without parameters, or mark one [JsonConstructor]",
			Message: "JsonSerializationException: Unable to find a constructor to use for type " + clr.Name(t) + ". A class should either have a default constructor, one constructor with arguments or a constructor marked with the JsonConstructor attribute. Path '" + decoder.PathMark + "'."}}}
	}
	if k == nil && t.Model.Kind == model.Struct {
		k = immutable(t, all)
	}
	var params []*member
	if k != nil && len(k.Params) > 0 {
		params = c.match(t, k, all)
	}
	build := &decoder.Node{Op: decoder.OpBuild, Model: m, ByDocument: true}
	index := map[string]int{}
	chain := clr.Chain(t)
	for _, s := range chain {
		for _, f := range s.Model.Fields {
			if _, known := index[f.Name]; known || !clr.Stored(f) {
				continue
			}
			index[f.Name] = len(build.Props)
			build.Props = append(build.Props, f)
		}
	}
	c.missing(t, build, all)
	var keys []string
	taken := map[int]bool{}
	step := func(s decoder.Step) {
		if s.Property >= 0 {
			taken[s.Property] = true
		}
		build.Steps = append(build.Steps, s)
	}
	for _, x := range params {
		keys = append(append(keys, x.key), x.others...)
	}
	written := map[string]bool{}
	for _, x := range all {
		if !x.ignored && x.param == nil {
			keys = append(keys, x.key)
		}
		if p := x.field.Property; p != nil && x.set && x.param == nil {
			for _, name := range p.Writes {
				written[name] = true
			}
		}
	}
	for _, x := range params {
		step(c.parameter(t, x, k, index))
	}
	for _, x := range all {
		switch {
		case x.param != nil:
		case x.rest:
			c.restInto(build, x, index)
			if build.RestInto >= 0 {
				taken[build.RestInto] = true
			}
		default:
			for _, s := range c.steps(t, x, k, index, s, all) {
				step(s)
			}
		}
	}
	for name, i := range index {
		if taken[i] {
			continue
		}
		f := build.Props[i]
		v := c.initial(t, f, k, s)
		if written[name] {
			v = decoder.Seen{Kind: decoder.SeenUnknown}
		}
		build.Steps = append(build.Steps, decoder.Step{Property: i, Node: &decoder.Node{Op: decoder.OpConst, Field: f, Value: v, Why: why(f)}})
	}
	for i := range build.Steps {
		if at := build.Steps[i].Property; at >= 0 && written[build.Props[at].Name] && build.Steps[i].Node.Op == decoder.OpAt {
			build.Steps[i].Node.Opaque = true
		}
	}
	n := &decoder.Node{Op: decoder.OpKeyed, Model: m, Wrong: wrongObject(t), Inner: build, Match: matching(keys), Second: empty(t), Scalars: true}
	c.byCode(t, n, params, all, k, build, s)
	if clr.IsValue(t) {
		n.Second = nil
		n.Scalars = false
	}
	return n
}

// missing says what becomes of keys that no member has.
func (c *compiler) missing(t *model.Type, build *decoder.Node, all []*member) {
	how := c.settings.Option("MissingMemberHandling")
	if a := find(t.Model.Marks, "JsonObject"); a != nil {
		how = c.option(a.Text("MissingMemberHandling", ""), "MissingMemberHandling")
	}
	if how != "Error" {
		return
	}
	isIgnored := func(name string) bool {
		return strings.HasPrefix(name, "$id") || slices.ContainsFunc(all, func(x *member) bool { return strings.EqualFold(x.key, name) })
	}
	build.Unknown = func(name string) *decoder.Error {
		if isIgnored(name) {
			return nil
		}
		return serial(decoder.ReasonUnknown, fmt.Sprintf("Could not find member '%s' on object of type '%s'.", name, model.SimpleName(t.Model.Name)))
	}
}

func (c *compiler) restInto(build *decoder.Node, x *member, index map[string]int) {
	build.Rest = &decoder.Node{Op: decoder.OpLeaf, MindsText: true, Read: c.plain}
	build.Ignored = func(string) bool { return false } // what is marked [JsonIgnore] too
	build.RestInto, build.RestMakes = -1, true
	target := x.field
	if p := x.field.Property; p != nil && !p.Stored && p.Set != 0 {
		for _, f := range build.Props {
			if f.Name == p.Backs {
				target = f
			}
		}
	}
	if i, ok := index[target.Name]; ok {
		build.RestInto = i
		build.Steps = append(build.Steps, decoder.Step{Property: i, Node: &decoder.Node{Op: decoder.OpConst, Field: x.field, Value: clr.Initial(target, x.typ)}})
	}
}

// steps are what is done for a member that no parameter takes.
func (c *compiler) steps(t *model.Type, x *member, k *model.Method, index map[string]int, s site, all []*member) []decoder.Step {
	step := decoder.Step{Property: -1}
	target := x.field.Name
	if p := x.field.Property; p != nil && !p.Stored && p.Set != 0 {
		target = p.Backs
	}
	at, stored := index[target]
	if stored && target != "" {
		step.Property = at
	}
	initial := decoder.Seen{Kind: decoder.SeenUnknown}
	if step.Property >= 0 {
		for _, o := range clr.Chain(t) {
			for _, f := range o.Model.Fields {
				if f.Name == target && clr.Stored(f) && initial.Kind == decoder.SeenUnknown {
					initial = c.initial(t, f, k, s)
				}
			}
		}
	}
	if x.ignored {
		return []decoder.Step{{Property: step.Property, Node: &decoder.Node{Op: decoder.OpConst, Field: x.field, Value: initial, Why: "it is marked [JsonIgnore]", Meant: true}}}
	}
	n := &decoder.Node{Op: decoder.OpAt, Name: x.key, Every: true, Field: x.field, Type: x.field.Declared, Value: initial}
	inner := c.inner(x)
	if x.typ.Unwrapped().Name == "ExpandoObject" {
		inner.owner, inner.member = t, x.field.Name
	}
	replace := c.option(x.creates, "ObjectCreationHandling") == "Replace"
	if !x.set {
		return c.unset(x, n, step, initial, inner, replace, stored)
	}
	step.Node = n
	n.Inner = c.value(x.typ, inner)
	if !replace {
		n.Inner = c.populated(x, n.Inner, initial, inner)
	}
	if nulls := c.option(x.nulls, "NullValueHandling"); nulls == "Ignore" {
		n.KeepNull = true
		if readByType[x.typ.Name] || x.typ.Kind == model.Optional {
			n.Inner = keepsEmpty(n.Inner, initial)
		}
	}
	c.demands(t, x, n)
	declared := x.field.Default != nil && x.field.Default.Kind != model.NullLiteral
	zero := defaultValue(x)
	if handling := c.option(x.defaults, "DefaultValueHandling"); n.Missing == nil && (handling == "Populate" || handling == "IgnoreAndPopulate") {
		n.Value = zero
		declared = true
	} else if handling == "Ignore" { // what equals the default is not set
		n.Inner = decoder.Made(n.Inner, func(s decoder.Seen) (decoder.Seen, *decoder.Error) {
			if s.String() == zero.String() && s.Kind == zero.Kind {
				return initial, nil
			}
			return s, nil
		})
	}
	switch {
	case declared || x.typ.Kind == model.Optional || n.Missing != nil || n.Value.Kind == decoder.SeenUnknown:
	case clr.IsValue(x.typ):
		n.AbsentLoss = decoder.Zeroed
	case n.Value.Kind == decoder.SeenNull && !x.field.Oblivious && x.field.Type.Kind != model.Param:
		n.AbsentLoss = decoder.HiddenNull
	}
	c.hidden(x, n)
	c.handled(t.Model, n)
	for _, o := range all { // RankSpecified is set where Rank is sent
		if o.field.Name == x.field.Name+"Specified" && o.typ.Name == "bool" {
			if i, ok := index[o.field.Name]; ok {
				return []decoder.Step{step, {Property: i, Node: &decoder.Node{Op: decoder.OpAt, Name: x.key, Value: decoder.Bool(false), Inner: &decoder.Node{Op: decoder.OpConst, Value: decoder.Bool(true)}}}}
			}
		}
	}
	return []decoder.Step{step}
}

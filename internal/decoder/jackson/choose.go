package jackson

import (
	"slices"
	"strings"

	"vetta/internal/decoder/jvm"
	"vetta/internal/model"
)

// explicit says whether an annotation names a property.
func explicit(p *property) bool {
	return slices.ContainsFunc(p.all(), func(a *accessor) bool { return a.explicit })
}

// trimmed are the members of one kind that count: those with an annotation, or else
// those that are seen.
func trimmed(all []*accessor) []*accessor {
	if len(all) < 2 {
		return all
	}
	if marked := slices.DeleteFunc(slices.Clone(all), func(a *accessor) bool { return a.name == "" }); len(marked) > 0 {
		return marked
	}
	if seen := slices.DeleteFunc(slices.Clone(all), func(a *accessor) bool { return !a.visible }); len(seen) > 0 {
		return seen
	}
	return all
}

// choose finds what makes instances: a constructor or factory with annotations, a
// record's own constructor, or a constructor all of whose parameters have names.
func (k *collector) choose() {
	canonical := k.canonical()
	named := func(m *model.Method) bool {
		for _, p := range k.props {
			for _, a := range p.params {
				if a.param.of == m {
					return true
				}
			}
		}
		return false
	}
	explicit := false
	for _, m := range k.makers() {
		mode := creatorMode(m)
		if mode == "" || mode == "DISABLED" || len(m.Params) == 0 {
			continue
		}
		explicit = true
		delegates := mode == "DELEGATING"
		if mode == "DEFAULT" && len(m.Params) == 1 {
			name, _ := nameOf(m.Params[0].Marks, namesForReading)
			delegates = name == "" || k.unnamed(m) == 0 // also where an annotation leaves the property out
		}
		switch {
		case delegates && len(m.Params) > 1:
			k.refuse("Invalid type definition for type `%s`: More than one argument (#0 and #1) left as delegating for Creator %s: only one allowed", jvm.ClassName(k.t.Model), k.creatorText(m))
		case delegates:
			k.out.delegate = m
		default:
			if k.out.creator != nil {
				k.secondCreator(k.out.creator, m, true)
			}
			k.takesProperties(m, true)
			k.out.creator = m
		}
	}
	if canonical != nil && k.out.creator == nil { // a factory for the value as a whole leaves it
		k.out.creator = canonical
		return
	}
	if explicit {
		return
	}
	for _, m := range k.t.Model.Ctors {
		if !named(m) || creatorMode(m) == "DISABLED" || !k.visible("CREATOR", m.Access) {
			continue
		}
		if k.out.creator != nil {
			k.secondCreator(k.out.creator, m, false)
		}
		k.takesProperties(m, false)
		k.out.creator = m
	}
}

// finish settles what is read into each property.
func (k *collector) finish() {
	out := k.out
	if a := classMark(k.marked, "JsonIgnoreProperties"); a != nil {
		if a.Text("allowSetters", "false") != "true" {
			for _, name := range a.Texts("value") {
				out.ignored[name] = true
			}
		}
		out.lenient = a.Text("ignoreUnknown", "false") == "true"
	}
	if a := classMark(k.marked, "JsonIncludeProperties"); a != nil {
		out.only = map[string]bool{}
		for _, name := range a.Texts("value") {
			out.only[name] = true
		}
	}
	for _, p := range k.props {
		for _, a := range p.params {
			if a.param.of == out.creator {
				p.param = a
			}
		}
		if out.hides(p.name) && p.param == nil {
			continue
		}
		k.oneField(p)
		p.setter, p.field = k.setter(p), first(p.fields)
		if p.getter = first(p.getters); p.getter != nil && !(k.c.collects(p.getter.method.Returns) && !k.c.off("USE_GETTERS_AS_SETTERS")) || p.getter != nil && k.collected[p.name] {
			p.getter = nil
		}
		if p.param == nil && p.setter == nil && p.field == nil && p.getter == nil {
			continue
		}
		if p.marks = marksOf(p); p.collided {
			foremost := p.all()[0]
			p.marks = foremost.marks
			if merged, ok := p.merged[foremost]; ok {
				p.marks = merged
			}
		}
		if text := untold(p.marks); text != "" {
			out.why = "an annotation of " + p.implicit + " says " + text + ", a constant that is not in the source"
		}
		if p.marks.Find("JacksonInject") != nil {
			out.why = "its mapper injects " + p.name + ", which is not followed"
		}
		if a := p.marks.Find("JsonTypeInfo"); model.SimpleName(a.Text("include", "")) == "EXTERNAL_PROPERTY" { // the key beside it tells its class
			out.ignored[a.Text("property", "")] = true
		}
		if t := p.declared(); t != nil && strings.HasPrefix(t.Name, "Optional") && t.Name != "Optional" && k.c.settings.Option("module.Jdk8Module") == "" {
			out.why = "without its module " + t.Name + " fails the whole class, which is not followed"
		}
		if p.param != nil && on(p.marks, "JsonUnwrapped", "enabled") && (p.param.explicit || k.t.Model.Kind != model.Record) {
			k.refuse("Cannot define Creator property %q as `@JsonUnwrapped`: combination not yet supported", p.name)
		}
		if p.param != nil {
			p.param.param.required = p.marks.Find("JsonProperty").Text("required", "false") == "true"
		}
		if t := p.declared(); t != nil && p.param == nil && t.Model != nil {
			if a := t.Model.Marks.Find("JsonIgnoreType"); a != nil && a.Text("value", "true") == "true" {
				out.ignored[p.name] = true
				continue
			}
		}
		out.properties = append(out.properties, p)
	}
	if !out.any {
		for name := range k.collected {
			out.ignored[name] = true
		}
	}
}

func first(all []*accessor) *accessor {
	if len(all) == 0 {
		return nil
	}
	return all[len(all)-1] // that of the class itself, behind those of what it extends
}

// setter is the one that is called of several: that of a subclass, then one that is
// named set…, then one that takes a primitive, then one that takes a string.
func (k *collector) setter(p *property) *accessor {
	if len(p.setters) == 0 {
		return nil
	}
	rank := func(a *accessor) int {
		r := 0
		for i, s := range k.owners {
			if s == a.owner {
				r = i * 100
			}
		}
		if !strings.HasPrefix(a.method.Name, "set") {
			r += 10
		}
		switch t := a.method.Params[0].Type; {
		case jvm.IsPrimitive(t, false):
		case t.Name == "String":
			r++
		default:
			r += 2
		}
		return r
	}
	best := p.setters[0]
	for _, a := range p.setters[1:] {
		switch d := rank(a) - rank(best); {
		case d < 0:
			best = a
		case d == 0:
			one, other := asListed(best, a)
			k.refuse("Conflicting setter definitions for property \"%s\": %s vs %s", p.name, one.fullName(), other.fullName())
		}
	}
	return best
}

package jackson

import (
	"fmt"
	"maps"
	"slices"
	"strings"

	"vetta/internal/model"
)

// put adds a property under its name; what has the name already takes its members.
func (k *collector) put(p *property) (joined bool) {
	own := k.by[p.name]
	if own == nil {
		k.by[p.name] = p
		k.props = append(k.props, p)
		return false
	}
	own.fields, own.getters = append(own.fields, p.fields...), append(own.getters, p.getters...)
	own.setters, own.params = append(own.setters, p.setters...), append(own.params, p.params...)
	return true
}

// rename gives properties the names that annotations give their members.
func (k *collector) rename() {
	all := k.props
	k.props, k.by = nil, map[string]*property{}
	var renamed []*property
	for _, p := range all {
		var names []string
		for _, a := range slices.Concat(p.fields, p.getters, p.setters, p.params) {
			if a.explicit && !slices.Contains(names, a.name) {
				names = append(names, a.name)
			}
		}
		if len(names) == 0 {
			k.put(p)
			continue
		}
		if len(names) == 1 {
			p.name = names[0]
			renamed = append(renamed, p)
			continue
		}
		for _, name := range names {
			other := func(a *accessor) bool { return a.name != name || !a.explicit }
			renamed = append(renamed, &property{implicit: p.implicit, name: name,
				fields: slices.DeleteFunc(slices.Clone(p.fields), other), getters: slices.DeleteFunc(slices.Clone(p.getters), other),
				setters: slices.DeleteFunc(slices.Clone(p.setters), other), params: slices.DeleteFunc(slices.Clone(p.params), other)})
		}
		for _, a := range p.all() {
			if !a.explicit && a.visible {
				k.out.why = fmt.Sprintf("its property %s has several names (%s)", p.implicit, strings.Join(names, ", "))
			}
		}
	}
	for _, p := range renamed {
		k.put(p)
		if k.by[p.name] == p && len(p.params) > 0 {
			delete(k.collected, p.name)
		}
	}
}

// renameByStrategy gives the properties that no annotation names the names that the
// naming strategy makes.
func (k *collector) renameByStrategy() {
	strategy := k.c.settings.Option("naming")
	if a := classMark(k.marked, "JsonNaming"); a != nil {
		strategy = strings.TrimSuffix(model.SimpleName(a.Text("value", "")), "Strategy")
	}
	if strategy == "" {
		return
	}
	all := k.props
	k.props, k.by = nil, map[string]*property{}
	getters := map[string]*property{} // of a record, under the names that its fields get
	for _, p := range all {
		if len(p.params) > 0 && p.params[0].param.of == k.canonical() {
			// 2.14 leaves the names of a record's parameters alone, and takes the renamed
			// ones for its final fields (databind issue 2992).
			name, _ := Rename(strategy, p.name)
			if !explicit(p) && name != p.name && len(p.fields) > 0 {
				k.out.final = append(k.out.final, &property{implicit: p.implicit, name: name, field: p.fields[0]})
			}
			if explicit(p) {
				name = p.name
			}
			if same := getters[name]; same != nil {
				same.getters = append(same.getters, p.getters...)
				k.oneGetter(same)
			} else {
				getters[name] = &property{name: name, getters: slices.Clone(p.getters)}
			}
			k.joined(p)
			continue
		}
		if !explicit(p) || k.c.on("ALLOW_EXPLICIT_PROPERTY_RENAMING") {
			name, ok := Rename(strategy, p.name)
			if !ok {
				k.out.why = "its keys are renamed by " + strategy + ", which is not followed"
			}
			p.name = name
		}
		k.joined(p)
	}
}

// joined is put for a property whose members' annotations have been merged: of two that a
// strategy gives one name, only what the foremost member had by then counts.
func (k *collector) joined(p *property) {
	if all := p.all(); len(all) > 1 {
		p.merged = map[*accessor]model.Annotated{all[0]: marksOf(p)}
	}
	if k.put(p) {
		own := k.by[p.name]
		own.collided = true
		if own.merged == nil {
			own.merged = map[*accessor]model.Annotated{}
		}
		maps.Copy(own.merged, p.merged)
	}
}

// marksOf are the annotations of a property's members, the foremost first.
func marksOf(p *property) (marks model.Annotated) {
	for _, a := range p.all() {
		marks = append(marks, a.marks...)
	}
	return marks
}

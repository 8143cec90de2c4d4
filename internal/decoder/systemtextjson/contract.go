package systemtextjson

import (
	"slices"
	"strings"

	"vetta/internal/code"
	"vetta/internal/decoder/clr"
	"vetta/internal/decoder/sharp"
	"vetta/internal/model"
)

// member is a property or a field as the library has it in its contract of a class.
type member struct {
	field    *model.Field
	owner    *model.Type // that declares it
	typ      *model.Type
	key      string
	set      bool // it can be given a value
	ignored  bool
	required bool
	param    *model.Parameter // of the constructor, that it is handed to; nil for none
	at       int              // of that parameter
	rest     bool             // it takes what nothing else does: [JsonExtensionData]
	why      string           // why it is not set
}

// members are those of a class and of those that it extends, the most derived first, by the rules by which one hides
// another (DefaultJsonTypeInfoResolver.AddMembersDeclaredBySuperType).
func (c *compiler) members(t *model.Type) (all []*member, clash [2]*member) {
	byKey := map[string]*member{}
	ignoredNames := map[string]bool{}
	hidden := map[string]bool{}
	for _, s := range clr.Chain(t) {
		var shadows []string
		for _, f := range s.Model.Fields {
			m := c.member(f, s)
			if m == nil || hidden[f.Name] {
				continue
			}
			if m.ignored && f.Overrides {
				ignoredNames[f.Name] = true
			}
			if ignoredNames[f.Name] && !m.ignored && s.Model != t.Model {
				continue
			}
			if f.Hides && !m.ignored {
				shadows = append(shadows, f.Name)
			}
			if other := byKey[c.folded(m.key)]; other != nil && !m.ignored {
				switch {
				case other.ignored:
				case other.field.Name == f.Name && other.owner.Model != s.Model:
					continue
				default:
					return nil, [2]*member{other, m}
				}
			}
			if !m.ignored || byKey[c.folded(m.key)] == nil {
				byKey[c.folded(m.key)] = m
			}
			all = append(all, m)
		}
		for _, name := range shadows {
			hidden[name] = true
		}
	}
	if c.settings != nil && len(c.settings.Modifiers) > 0 {
		all = c.modified(t, all)
	}
	return all, clash
}

// modified are the members as the modifiers of the app's resolver leave them.
func (c *compiler) modified(t *model.Type, all []*member) []*member {
	var by []*code.Modifier
	for _, f := range c.settings.Modifiers {
		if f, ok := f.(*code.Modifier); ok {
			by = append(by, f)
		}
	}
	of := map[*sharp.Property]*member{}
	var props []*sharp.Property
	var out []*member
	for _, m := range all {
		if m.ignored { // which the library keeps to itself
			out = append(out, m)
			continue
		}
		p := &sharp.Property{Field: m.field, Name: m.key, Type: m.typ, Set: m.set}
		if m.required {
			p.Required = "true"
		}
		of[p], props = m, append(props, p)
	}
	left, ok := c.code.Modified(t, by, props)
	if !ok {
		c.lost = "what a modifier of its TypeInfoResolver does is not followed"
		return all
	}
	for _, p := range props {
		m := of[p]
		if !slices.Contains(left, p) {
			m.ignored, m.why = true, "a modifier takes it away"
		}
		if m.set && !p.Set {
			m.why = "a modifier takes its setter away"
		}
		m.key, m.set, m.required = p.Name, p.Set, p.Required == "true"
		out = append(out, m)
	}
	return out
}

// folded is a key as keys are compared.
func (c *compiler) folded(key string) string {
	if c.on("PropertyNameCaseInsensitive") {
		return strings.ToLower(key)
	}
	return key
}

// member is a field or property of a class in its contract, nil for one that is none.
func (c *compiler) member(f *model.Field, owner *model.Type) *member {
	if f.Static {
		return nil
	}
	include := find(f.Marks, "JsonInclude") != nil
	m := &member{field: f, owner: owner, typ: f.Type.Bind(owner.Env()), required: f.Required || find(f.Marks, "JsonRequired") != nil}
	m.ignored = ignored(f)
	m.rest = find(f.Marks, "JsonExtensionData") != nil
	if p := f.Property; p != nil {
		public := p.Get == model.Public || p.Set == model.Public
		if !public && !include {
			return nil
		}
		m.set = p.Set == model.Public || p.Set != 0 && include
		switch {
		case p.Set == 0:
			m.why = "it has no setter"
		case !m.set:
			m.why = "its setter is " + p.Set.String() + ", and it is not marked [JsonInclude]"
		}
	} else {
		if f.Access != model.Public && !include || !include && !c.on("IncludeFields") {
			return nil
		}
		m.set = !f.Final
		if f.Final {
			m.why = "it is readonly"
		}
	}
	m.key = c.named(f.Name)
	if a := find(f.Marks, "JsonPropertyName"); a != nil {
		m.key = a.Text("value", m.key)
	}
	return m
}

// ignored says whether a member is not read: [JsonIgnore], but for its conditions that are about writing.
func ignored(f *model.Field) bool {
	a := find(f.Marks, "JsonIgnore")
	if a == nil {
		return false
	}
	when := a.Text("Condition", "Always")
	return when == "Always" || when == "WhenReading"
}

// constructor is the one that makes instances of a class: nil for a struct's own. err says that there is none to use.
func constructor(m *model.Model) (k *model.Method, several, none bool) {
	var public []*model.Method
	var marked []*model.Method
	for _, k := range m.Ctors {
		if find(k.Marks, "JsonConstructor") != nil {
			marked = append(marked, k)
		}
		if k.Access == model.Public {
			public = append(public, k)
		}
	}
	switch {
	case len(marked) > 1:
		return nil, true, false
	case len(marked) == 1:
		return marked[0], false, false
	}
	for _, k := range public {
		if len(k.Params) == 0 {
			return k, false, false
		}
	}
	if m.Kind == model.Struct {
		return nil, false, false
	}
	if len(public) == 1 {
		return public[0], false, false
	}
	return nil, false, true
}

// fills is the field that a constructor gives the value of a parameter, "" for none that is followed.
func fills(k *model.Method, i int) string {
	if i < len(k.Fills) {
		return k.Fills[i]
	}
	return ""
}

// same says whether a parameter and a member are of one type.
func same(a, b *model.Type) bool {
	if a.Kind == model.Optional && !clr.IsValue(a.Args[0]) {
		a = a.Args[0]
	}
	if b.Kind == model.Optional && !clr.IsValue(b.Args[0]) {
		b = b.Args[0]
	}
	if a.Kind != b.Kind || a.Name != b.Name || a.Class != b.Class || a.Model != b.Model || len(a.Args) != len(b.Args) {
		return false
	}
	return !slices.ContainsFunc(a.Args, func(t *model.Type) bool { return !same(t, b.Args[slices.Index(a.Args, t)]) })
}

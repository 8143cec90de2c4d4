package pairing

import (
	"vetta/internal/model"
)

// app is a part of the source whose types decode responses by themselves: of one language or two that
// share their classes, of one library, and of modules that use each other's types. What another app
// decodes an endpoint into says nothing of what this one does.
type app struct {
	roots []*root
}

// family is the languages whose classes one program may share.
func family(language string) string {
	if language == "java" || language == "kotlin" {
		return "jvm"
	}
	return language
}

// appsOf divides roots among apps, in the order of their first roots.
func appsOf(set *model.Set, roots []*root) (apps []*app) {
	modules := modulesOf(set)
	type key struct{ family, library, module string }
	byKey := map[key]*app{}
	for _, r := range roots {
		k := key{family(r.model.Language), r.library, modules.of(set.Modules[r.model.Pos.File])}
		if k.family == "typescript" {
			k.library = "" // an app asks a validator of some of its types, and looks at others not at all
		}
		a := byKey[k]
		if a == nil {
			a = &app{}
			byKey[k] = a
			apps = append(apps, a)
		}
		a.roots = append(a.roots, r)
	}
	return apps
}

// modules are sets of modules that use each other's types: each names another of its set, or itself.
type modules map[string]string

// of is the module that stands for the set of one.
func (m modules) of(name string) string {
	for m[name] != "" && m[name] != name {
		name = m[name]
	}
	return name
}

func (m modules) join(a, b string) {
	if a, b = m.of(a), m.of(b); a != b {
		m[max(a, b)] = min(a, b)
	}
}

// modulesOf joins the modules of a project in which a type is used that another declares.
func modulesOf(set *model.Set) modules {
	m := modules{}
	use := func(file string, t *model.Type) {
		t.Walk(func(t *model.Type) {
			if t.Model != nil {
				m.join(set.Modules[file], set.Modules[t.Model.Pos.File])
			}
		})
	}
	for _, c := range set.Calls {
		if c.Type != nil {
			use(c.Pos.File, c.Type)
		}
	}
	for _, declared := range set.Models {
		use(declared.Pos.File, declared.Super)
		for _, f := range declared.Fields {
			use(declared.Pos.File, f.Type)
		}
	}
	return m
}

// Package trial decodes single documents as the library would.
package trial

import (
	"fmt"
	"slices"

	"vetta/internal/decoder"
	"vetta/internal/decoder/library"
	"vetta/internal/model"
	"vetta/internal/source"
)

// For makes the plan by which a type, given as the source would write it, is
// decoded: with the settings of the call that decodes it, or else those that the
// project uses. The error says why there is none.
func For(set *model.Set, typeText string) (*decoder.Plan, error) {
	t, err := source.ParseType(set, typeText)
	if t == nil {
		return nil, err
	}
	var m *model.Model
	t.Walk(func(t *model.Type) {
		if m == nil {
			m = t.Model
		}
	})
	language := ""
	switch {
	case m != nil:
		language = m.Language
	case len(set.Models) > 0: // a type of the library alone, [String: Int] say
		language = set.Models[0].Language
	}
	settings, swallowed := SettingsFor(set, t)
	lib := library.For(language, settings)
	if lib == nil {
		return nil, fmt.Errorf("%s names no model in the source", typeText)
	}
	plan := lib.Plan(t, typeText, settings)
	plan.Swallowed = swallowed
	if err != nil && unknownType(plan.Root) {
		return nil, err
	}
	return plan, nil
}

// unknownType says whether a library does not know a type that names no model.
func unknownType(n *decoder.Node) bool {
	return n != nil && (n.Op == decoder.OpUnknown || unknownType(n.Inner) || unknownType(n.Second))
}

// SettingsFor are the settings by which a type is decoded, and whether the app
// drops the error there: those of the call that decodes it, or a call that decodes
// a type that holds it, or else of the only decoder that the project builds.
func SettingsFor(set *model.Set, t *model.Type) (settings *model.Settings, swallowed bool) {
	var m *model.Model
	t.Walk(func(t *model.Type) {
		if m == nil {
			m = t.Model
		}
	})
	language, hint := "", ""
	if m != nil {
		language, hint = m.Language, m.Library
	}
	key := t.Key()
	var own, around, generic, any *model.Call
	for _, c := range set.Calls {
		if language != "" && c.Settings != nil && !decodes(c.Settings.Library, language) {
			continue
		}
		// A library that annotations name is the one unless the type is decoded by another.
		other := hint != "" && c.Settings != nil && c.Settings.Library != hint
		switch {
		case c.Type == nil:
			if generic == nil && c.Settings != nil && !other {
				generic = c
			}
		case c.Type.Key() == key || c.Type.Unwrapped().Key() == key:
			if own == nil || own.Settings == nil {
				own = c
			}
		case holds(c.Type, t) && !other:
			if around == nil {
				around = c
			}
		}
		if any == nil && c.Settings != nil && !other {
			any = c
		}
	}
	for _, c := range []*model.Call{own, around, generic, any} {
		if c != nil && c.Settings != nil {
			return c.Settings, c == own && c.Swallowed
		}
	}
	if hint != "" {
		settings = &model.Settings{Library: hint, Pos: m.Pos}
	}
	return settings, own != nil && own.Swallowed
}

// decodes says whether a library decodes models of a language.
func decodes(name, language string) bool {
	for _, lib := range library.All {
		if lib.Name == name {
			return slices.Contains(lib.Languages, language)
		}
	}
	return false
}

// holds says whether a value of type outer has values of one of inner's models
// somewhere inside.
func holds(outer, inner *model.Type) bool {
	want := map[*model.Model]bool{}
	inner.Walk(func(t *model.Type) {
		if t.Model != nil {
			want[t.Model] = true
		}
	})
	found := false
	source.Reach(outer, func(m *model.Model) { found = found || want[m] })
	return found
}

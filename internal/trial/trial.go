// Package trial decodes single documents as the library would.
package trial

import (
	"fmt"

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
	t = asCalled(set, t)
	settings, swallowed := library.NewFinder(set).For(t)
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

// asCalled is a type as the source decodes it: Port? where all calls that decode a Port decode that.
func asCalled(set *model.Set, t *model.Type) *model.Type {
	var nullable *model.Type
	for _, call := range set.Calls {
		switch {
		case call.Type == nil:
		case call.Type.Key() == t.Key():
			return t
		case call.Type.Kind == model.Optional && call.Type.Args[0].Key() == t.Key():
			nullable = call.Type
		}
	}
	if nullable == nil {
		return t
	}
	return nullable
}

// unknownType says whether a library does not know a type that names no model.
func unknownType(n *decoder.Node) bool {
	return n != nil && (n.Op == decoder.OpUnknown || unknownType(n.Inner) || unknownType(n.Second))
}

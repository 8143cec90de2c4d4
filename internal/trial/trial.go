// Package trial decodes single documents as the library would.
package trial

import (
	"fmt"
	"slices"

	"vetta/internal/decoder"
	"vetta/internal/decoder/kotlinx"
	"vetta/internal/decoder/library"
	"vetta/internal/decoder/sharp"
	"vetta/internal/model"
	"vetta/internal/source"
	"vetta/internal/wire"
)

// For makes the plan by which a type, given as the source would write it, is
// decoded: with the settings of the call that decodes it, or else those that the
// project uses. The error says why there is none.
func For(set *model.Set, typeText string) (*decoder.Plan, error) {
	t, err := source.ParseType(set, typeText)
	if t == nil {
		return nil, err
	}
	plan, unplanned := Of(set, t, typeText)
	if unplanned == nil && err != nil && unknownType(plan.Root) {
		return nil, err
	}
	return plan, unplanned
}

// Of is For of a type that is known; declared is how it is written.
func Of(set *model.Set, t *model.Type, declared string) (*decoder.Plan, error) {
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
	case len(set.Calls) > 0:
		language = set.Calls[0].Language
	case set.Runs["csharp"] != nil:
		language = "csharp"
	}
	finder := library.NewFinder(set)
	t = finder.AsCalled(t)
	settings, drops := finder.For(t)
	lib := library.For(language, settings)
	if lib == nil {
		return nil, fmt.Errorf("%s names no model in the source", declared)
	}
	plan := lib.Plan(t, declared, settings)
	library.Drops(plan, drops)
	library.Awaited(plan)
	if m == nil && settings == nil && set.Runs[language] != nil && plan.Refuses == "" {
		plan.Refuses = "no call of the source decodes " + declared
	}
	if language == "csharp" {
		sharp.Entry(plan, t, set.Runs[language])
	}
	if !plan.Whole {
		inside(plan, set)
	}
	return plan, nil
}

// inside puts a plan at the place of a document where all calls that decode the type do it, if they parse that first.
func inside(plan *decoder.Plan, set *model.Set) {
	var keys []string
	for _, call := range set.Calls {
		if call.Type == nil || call.Type.Key() != plan.Type.Key() {
			continue
		}
		if len(call.Within) == 0 || call.Part != "" || keys != nil && !slices.Equal(keys, call.Within) {
			return
		}
		keys = call.Within
	}
	for _, key := range slices.Backward(keys) {
		missing := &decoder.Error{Kind: "NoSuchElementException", Reason: decoder.ReasonMissing, Key: key, Message: "NoSuchElementException: Key " + key + " is missing in the map."}
		wrong := func(wire.Kind) *decoder.Error {
			return &decoder.Error{Kind: "IllegalArgumentException", Reason: decoder.ReasonKind, Message: "IllegalArgumentException: the element is no object, in which " + key + " is asked for"}
		}
		if plan.Settings == nil || plan.Settings.Library != kotlinx.Name { // what is absent is null there, and decodes to nothing
			missing = nil
		}
		plan.Root = &decoder.Node{Op: decoder.OpKeyed, Wrong: wrong, Inner: &decoder.Node{Op: decoder.OpAt, Name: key, Every: true, Missing: missing, Inner: plan.Root}}
	}
}

// unknownType says whether a library does not know a type that names no model.
func unknownType(n *decoder.Node) bool {
	return n != nil && (n.Op == decoder.OpUnknown || unknownType(n.Inner) || unknownType(n.Second))
}

package library

import (
	"vetta/internal/decoder"
	"vetta/internal/model"
)

// Planners plan the many types of a project: those of one library with the same settings share what they hold, so
// that a project whose classes all lead to each other costs no more than its length. They are for one goroutine.
type Planners map[planned]*planner

type planned struct {
	library  string
	settings *model.Settings
}

type planner struct {
	plan    func(t *model.Type, declared string) *decoder.Plan
	outline func(m *model.Model) decoder.Outline
}

// Plan is lib.Plan.
func (p Planners) Plan(lib *Library, t *model.Type, declared string, settings *model.Settings) *decoder.Plan {
	plan := p.of(lib, settings).plan(t, declared)
	plan.Settings = settings
	return plan
}

// Outline says how a library reads the fields of a class.
func (p Planners) Outline(lib *Library, m *model.Model, settings *model.Settings) decoder.Outline {
	return p.of(lib, settings).outline(m)
}

func (p Planners) of(lib *Library, settings *model.Settings) *planner {
	at := planned{lib.Name, settings}
	if saysNothing(settings) {
		at.settings = nil // where nothing is set, all read alike
	}
	if p[at] != nil {
		return p[at]
	}
	made := &planner{plan: func(t *model.Type, declared string) *decoder.Plan { return lib.Plan(t, declared, settings) }}
	if lib.Planner != nil {
		made.plan = lib.Planner(settings)
	}
	made.outline = func(m *model.Model) decoder.Outline {
		return decoder.OutlineOf(made.plan(&model.Type{Name: m.Name, Model: m}, m.Name), m)
	}
	if lib.Outline != nil {
		made.outline = lib.Outline(settings)
	}
	p[at] = made
	return made
}

// saysNothing says whether settings hold nothing that a plan would hang on.
func saysNothing(s *model.Settings) bool {
	return s != nil && len(s.Options)+len(s.Custom)+len(s.Adapters)+len(s.Families)+len(s.Assumed)+len(s.Qualifiers) == 0 &&
		s.Why == "" && s.Entry == nil && s.Root == model.RootSaid{}
}

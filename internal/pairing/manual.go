package pairing

import (
	"fmt"
	"path"
	"slices"
	"strings"

	"github.com/bmatcuk/doublestar/v4"

	"vetta/internal/decoder"
	"vetta/internal/decoder/library"
	"vetta/internal/drift"
	"vetta/internal/model"
	"vetta/internal/shape"
	"vetta/internal/trial"
	"vetta/internal/wire"
	"vetta/internal/words"
)

// Manual is a pairing that the user has set by hand.
type Manual struct {
	Type  string // as the source would write it
	Glob  string // of captures
	Place string // JSONPath, "" for the root
	By    string // what sets it, as messages and evidence name it
	// Lenient says that what it names may be missing: the pair is odd then, and no error.
	Lenient bool
}

// SetBy begins the evidence of what the user has set by hand.
const SetBy = "set by "

// Odd is a pairing set by hand that leads to nothing.
type Odd struct {
	Manual
	Err    error
	Claims bool // what it names is there, and nothing is claimed of it
}

// ParseManual reads TYPE=GLOB#PLACE, of which #PLACE may be left out.
func ParseManual(text string) (Manual, error) {
	typ, rest, ok := strings.Cut(text, "=")
	if !ok || typ == "" || rest == "" {
		return Manual{}, fmt.Errorf("%q is not TYPE=CAPTURES#PLACE, as in 'Sailing=captures/sailings*#$.sailings[*]'", text)
	}
	glob, place, _ := strings.Cut(rest, "#")
	if !doublestar.ValidatePattern(glob) {
		return Manual{}, fmt.Errorf("%q is no pattern for file names", glob)
	}
	return Manual{Type: strings.TrimSpace(typ), Glob: glob, Place: place}, nil
}

// setByHand makes the pairs that the user has set, those of each setting.
func (r *Result) setByHand(set *model.Set, s *shape.Shape, manual []Manual, roots []*root) (all [][]*drift.Pair, err error) {
	for _, m := range manual {
		pairs, err := byHand(set, s, m, roots)
		switch {
		case err != nil && m.Lenient:
			r.Odd = append(r.Odd, Odd{m, err, false})
			continue
		case err != nil:
			return nil, err
		}
		if why := pairs[0].Plan.Unclaimed(); why != "" {
			r.Odd = append(r.Odd, Odd{m, fmt.Errorf("nothing is claimed of %s: %s", m.Type, why), true})
		}
		all = append(all, pairs)
	}
	return all, nil
}

// byHand makes the pairs that one setting asks for.
func byHand(set *model.Set, s *shape.Shape, m Manual, roots []*root) (pairs []*drift.Pair, err error) {
	plan, err := trial.For(set, m.Type)
	if err != nil {
		return nil, err
	}
	var call *model.Call
	if i := slices.IndexFunc(roots, func(t *root) bool { return t.typ.Key() == plan.Type.Key() }); i >= 0 {
		plan, call = roots[i].plan, roots[i].call // so that it is one plan for a type, however it is paired
	}
	placed := false
	var of []*shape.Endpoint
	for _, e := range s.Endpoints {
		if !matches(e, m.Glob, s.Captures) || isRequest(e) && !strings.Contains(m.Glob, "request)") {
			continue
		}
		of = append(of, e)
		place := e.Root
		if m.Place != "" {
			if place = e.At(m.Place); place == nil {
				continue
			}
		}
		placed = true
		plan := plan
		if isRequest(e) && firstModel(plan.Type) != nil {
			plan = sendingPlanOf(set, plan)
		}
		pairs = append(pairs, &drift.Pair{Plan: plan, Endpoint: e, Place: place, Evidence: []string{SetBy + m.By}, Call: call})
	}
	switch {
	case len(of) == 0:
		return nil, fmt.Errorf("no capture and no endpoint goes by %s; there are %s", m.Glob, nearestOf(m.Glob, endpointNames(s.Endpoints)))
	case !placed:
		return nil, fmt.Errorf("%s has no place %s; it has %s", of[0].Name, m.Place, nearestOf(m.Place, placesOf(of)))
	}
	return pairs, nil
}

// sendingPlanOf is what is written for the type of a plan, by the call that does if there is one.
func sendingPlanOf(set *model.Set, plan *decoder.Plan) *decoder.Plan {
	for _, t := range sentRootsOf(set) {
		if t.plan.Type.Key() == plan.Type.Key() {
			return t.plan
		}
	}
	return sendingPlan(plan.Type, plan.Declared, nil, library.NewFinder(set))
}

func endpointNames(endpoints []*shape.Endpoint) (names []string) {
	for _, e := range endpoints {
		names = append(names, e.Name)
	}
	return names
}

// placesOf are the places of some endpoints that a type can be decoded from.
func placesOf(endpoints []*shape.Endpoint) (places []string) {
	for _, e := range endpoints {
		e.Root.Walk(func(p *shape.Place) {
			if path := p.Path(); (p.Count(wire.Object) > 0 || p.Count(wire.Array) > 0) && !slices.Contains(places, path) {
				places = append(places, path)
			}
		})
	}
	return places
}

// someNames is how many names an error lists.
const someNames = 4

// nearestOf lists the names that are most like another one, and how many more there are.
func nearestOf(name string, all []string) string {
	sorted := slices.Clone(all)
	slices.SortStableFunc(sorted, func(a, b string) int { return words.Distance(a, name) - words.Distance(b, name) })
	text := strings.Join(sorted[:min(len(sorted), someNames)], ", ")
	if more := len(sorted) - someNames; more > 0 {
		text += fmt.Sprintf(" and %d more", more)
	}
	return text
}

func matches(e *shape.Endpoint, glob string, files []string) bool {
	if e.Route != nil {
		for _, name := range []string{e.Name, e.Group, e.Route.Template(), e.Route.Path} {
			if ok, _ := doublestar.Match(glob, name); ok || name == glob {
				return true
			}
		}
	}
	for _, name := range []string{e.Name, e.Group} { // of files without numbers and dates
		if bare := strings.TrimPrefix(glob, "./"); name == bare || strings.HasSuffix(name, "/"+bare) {
			return true
		}
	}
	for order, file := range files {
		if !e.HasFile(order) {
			continue
		}
		file = strings.TrimPrefix(file, "./")
		for _, name := range []string{file, strings.TrimSuffix(file, path.Ext(file)), path.Base(file)} {
			if ok, _ := doublestar.Match(strings.TrimPrefix(glob, "./"), name); ok {
				return true
			}
		}
		if ok, _ := doublestar.Match("**/"+glob, file); ok || strings.HasPrefix(file, strings.TrimSuffix(strings.TrimPrefix(glob, "./"), "/")+"/") {
			return true
		}
	}
	return false
}

package run

import (
	"fmt"
	"slices"

	"vetta/internal/code"
)

// Reached is a key that code of the app asks a value of a property for which no class says what it is.
type Reached struct {
	Prop *code.Prop
	Path []*Place // the steps from the value on, the key the last of them
	Pos  codePos  // where it is asked for
	// Instead is the same of keys of which one stands for another, as in a['x'] ?? a['y']; 0 of one alone.
	Instead int
}

// reaching is what a machine notes of them.
type reaching struct {
	of    map[*code.Prop]*Place // of each property, what stands for its value
	props map[*Place]*code.Prop // the same, the other way round
	found []Reached
	seen  map[string]bool
	// choice is the one that is evaluated of what ?? joins, choices how many there were.
	choice, choices int
}

// choosing begins what ?? joins, and answers how to end it.
func (r *reaching) choosing() func() {
	if r == nil || r.choice > 0 {
		return func() {}
	}
	r.choices++
	r.choice = r.choices
	return func() { r.choice = 0 }
}

// maxReaching is how many functions are looked through for the keys of properties.
const maxReaching = 4000

// Reaches are the keys by which functions of the app reach into properties. Each function that names one is run with
// arguments of which nothing but the types is known, what it hands to others too; what it does behind something that is
// not followed is not seen.
func Reaches(p *Program, props []*code.Prop) []Reached {
	m := New(p)
	r := &reaching{of: map[*code.Prop]*Place{}, props: map[*Place]*code.Prop{}, seen: map[string]bool{}}
	m.reach = r
	ran := map[*code.Func]bool{}
	var all []*code.Func
	for _, prop := range props {
		at := &Place{}
		r.of[prop], r.props[at] = at, prop
		for _, fn := range p.indexed().users(prop.Name) {
			if !ran[fn] && !fn.Init && !fn.Setter {
				ran[fn] = true
				all = append(all, fn)
			}
		}
	}
	for _, fn := range all[:min(len(all), maxReaching)] {
		for _, e := range m.variants(fn) {
			_, _ = m.glance(e) // what it comes to does not matter here
		}
	}
	return r.found
}

// reached notes that a key is asked for, where that is of what stands for a property.
func (m *Machine) reached(v Value, pos codePos) {
	if m.reach == nil || v.At == nil || v.At.Kind != Member {
		return
	}
	root := v.At.root()
	prop := m.reach.props[root]
	if prop == nil || slices.ContainsFunc(m.conds, func(on []*Place) bool { return slices.Contains(on, v.At) }) { // behind containsKey, or what tests it
		return
	}
	path := v.At.Steps(root)
	key := fmt.Sprintf("%p %v", v.At, pos)
	if !m.reach.seen[key] {
		m.reach.seen[key] = true
		m.reach.found = append(m.reach.found, Reached{Prop: prop, Path: path, Pos: pos, Instead: m.reach.choice})
	}
}

package report

import (
	"path"
	"slices"
	"strings"

	"vetta/internal/drift/finding"
)

// Narrowed says what a report leaves out since the user asked for less.
type Narrowed struct {
	Only     []string `json:"only"`
	Skip     []string `json:"skip"`
	Models   int      `json:"models"`   // that are left out whole
	Findings int      `json:"findings"` // that are left out, those of such models among them
}

// Narrow leaves out the models whose names are none of only, where that names any, and what a pattern of
// skip stands for: a model, MODEL.FIELD, or a kind of finding; with * for any text. It answers those of
// only and skip that nothing goes by.
func (c *Check) Narrow(only, skip []string) (unused []string) {
	if len(only)+len(skip) == 0 {
		return nil
	}
	n := &Narrowed{Only: nonNil(only), Skip: nonNil(skip)}
	used := map[string]bool{}
	match := func(patterns []string, names ...string) bool {
		found := false
		for _, p := range patterns {
			for _, name := range names {
				if ok, err := path.Match(p, name); ok && err == nil || strings.HasSuffix(name, "."+p) && !strings.Contains(p, "*") {
					used[p], found = true, true
				}
			}
		}
		return found
	}
	wanted := func(model string) bool { return len(only) == 0 || match(only, model) }
	keep := func(model string, findings []CheckFinding) []CheckFinding {
		return slices.DeleteFunc(findings, func(f CheckFinding) bool {
			if !match(skip, f.Kind, model+"."+f.Field) {
				return false
			}
			n.Findings++
			return true
		})
	}
	accepted := func(model string, all []Accepted) []Accepted {
		return slices.DeleteFunc(all, func(a Accepted) bool { return match(skip, a.Kind, model+"."+a.Field) })
	}
	c.Models = slices.DeleteFunc(c.Models, func(m CheckModel) bool {
		if wanted(m.Name) && !match(skip, m.Name) {
			return false
		}
		n.Models++
		n.Findings += len(m.Findings)
		return true
	})
	c.Roots = slices.DeleteFunc(c.Roots, func(r CheckRoot) bool {
		if wanted(r.Type) && !match(skip, r.Type) {
			return false
		}
		n.Findings += len(r.Findings)
		return true
	})
	for _, s := range c.subjects() {
		*s.findings, *s.accepted = keep(s.name, *s.findings), accepted(s.name, *s.accepted)
	}
	out := func(name string) bool { return !wanted(name) || match(skip, name) }
	before := len(c.Unpaired.Models) + len(c.Unjudged)
	c.Unpaired.Models = slices.DeleteFunc(c.Unpaired.Models, func(m UnpairedModel) bool { return out(m.Name) })
	c.Unjudged = slices.DeleteFunc(c.Unjudged, func(m UnjudgedModel) bool { return out(m.Name) })
	n.Models += before - len(c.Unpaired.Models) - len(c.Unjudged)
	c.SideBySide = []SideBySide{}
	c.sideBySide()
	c.Narrowed = n
	c.count()
	for _, p := range append(slices.Clone(only), skip...) {
		if !used[p] {
			unused = append(unused, p)
		}
	}
	return unused
}

// faults are the levels of findings that are wrong whatever the model is meant for.
var faults = map[finding.Level]bool{finding.Breaks: true, finding.Misreads: true}

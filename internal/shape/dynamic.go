package shape

import (
	"regexp"

	"vetta/internal/wire"
)

// Names that are data rather than names: numbers, ids, dates, languages. Objects
// with such keys are maps, and a model reads them as such.
var dynamicNames = []*regexp.Regexp{
	regexp.MustCompile(`^-?\d+$`),
	regexp.MustCompile(`^\d{4}-\d{2}(-\d{2})?(T.*)?$`),
	regexp.MustCompile(`^[0-9a-fA-F]{8}-[0-9a-fA-F]{4}-[0-9a-fA-F]{4}-[0-9a-fA-F]{4}-[0-9a-fA-F]{12}$`),
	regexp.MustCompile(`^[0-9a-f]{16,}$`),
	regexp.MustCompile(`^[A-Za-z]{1,12}[-_]?\d{2,}$`),
	regexp.MustCompile(`^[a-z]{2}([-_][A-Z]{2})?$`),
}

// fewDynamic is how many names must look like data before an object is a map.
const fewDynamic = 4

// foldDynamic makes maps of objects whose keys are data: they are all of one look,
// the values under them are of one kind, and no object has them all.
func (e *Endpoint) foldDynamic() {
	var found []*Place
	e.Root.Walk(func(p *Place) {
		if p.Member == nil && len(p.Keys) >= fewDynamic && p.isDynamic() {
			found = append(found, p)
		}
	})
	for _, p := range found {
		e.toMap(p)
		p.dynamic = true
	}
}

func (p *Place) isDynamic() bool {
	objects := p.Count(wire.Object)
	present := int64(0)
	kind, mixed := wire.Null, false
	for _, k := range p.Keys {
		present += k.Objects
		for c, t := range k.Place.Classes {
			if c.Kind == wire.Null || t.Values == 0 {
				continue
			}
			mixed = mixed || kind != wire.Null && kind != c.Kind
			kind = c.Kind
		}
	}
	if mixed || objects == 0 || len(p.Keys) < 24 && 2*present > objects*int64(len(p.Keys)) {
		return false
	}
	for _, look := range dynamicNames {
		all := true
		for _, k := range p.Keys {
			if k.Objects > 0 && !look.MatchString(k.Name) {
				all = false
				break
			}
		}
		if all {
			return true
		}
	}
	return false
}

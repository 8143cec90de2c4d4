package report

import (
	"slices"

	"vetta/internal/config"
	"vetta/internal/model"
)

// subject is what findings are of: a type as a whole response, or a model.
type subject struct {
	name, language string
	at             model.Pos // of the model, or the first that the type names
	findings       *[]CheckFinding
	accepted       *[]Accepted
}

// subjects are all that findings are of: types as whole responses first, then models.
func (c *Check) subjects() (all []subject) {
	for i := range c.Roots {
		r := &c.Roots[i]
		all = append(all, subject{r.Type, r.Language, r.model, &r.Findings, &r.Accepted})
	}
	for i := range c.Models {
		m := &c.Models[i]
		all = append(all, subject{m.Name, m.Language, m.At, &m.Findings, &m.Accepted})
	}
	return all
}

// drift is what makes a finding of the subject the same from one check to the next; place writes where it was found.
func (s subject) drift(f *CheckFinding, place func(endpoint, place string) string) config.Drift {
	d := config.Drift{Language: s.language, Model: s.name, Field: f.Field, Kind: f.Kind}
	for _, at := range f.Sites {
		d.Places = append(d.Places, place(at.Endpoint, placed(at.Place, at.Where)))
	}
	for _, k := range f.Keys {
		d.Places = append(d.Places, place(k.Endpoint, k.Place))
	}
	slices.Sort(d.Places)
	d.Places = slices.Compact(d.Places)
	return d
}

// asRead is a place of an endpoint as the check names it.
func asRead(endpoint, place string) string { return endpoint + " " + place }

// joined is MODEL.FIELD, or the model alone.
func joined(model, field string) string { return config.Drift{Model: model, Field: field}.Name() }

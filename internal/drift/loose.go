package drift

import (
	"fmt"
	"strings"

	"vetta/internal/drift/finding"
	"vetta/internal/drift/loose"
	"vetta/internal/model"
	"vetta/internal/shape"
	"vetta/internal/wire"
)

// looseField is a field that is declared wider than anything seen.
type looseField struct {
	kind     *finding.Kind
	model    *model.Model
	field    *model.Field
	name     string
	declared string
	place    *shape.Place
	values   int64
	of       int64
	note     string
}

// enough is how many values must have been seen before anything is said of what
// never was.
const enough = 3

// loose gathers the fields that are declared wider than anything seen.
func (w *walk) loose() (out []looseField) {
	type at struct {
		field *model.Field
		place *shape.Place
	}
	sent := map[at]bool{} // by any of its keys
	for _, a := range w.asked {
		if len(a.keys) > 0 {
			sent[at{a.field, a.place}] = true
		}
	}
	tried := map[at]bool{} // of several keys of a field the first tells
	for _, a := range w.asked {
		if a.field == nil || a.model == nil || tried[at{a.field, a.place}] {
			continue
		}
		tried[at{a.field, a.place}] = true
		objects := a.place.Count(wire.Object)
		l := looseField{model: a.model, field: a.field, name: a.field.Name, declared: a.field.Declared, place: a.place, values: objects, of: objects}
		switch {
		case objects < enough:
			continue
		case !sent[at{a.field, a.place}] && a.node.Missing == nil:
			l.kind = loose.NeverSent
		case a.absent == 0 && admitsNull(a.field) && !hasNull(a.keys):
			l.kind = loose.NeverAbsent
		default:
			continue
		}
		out = append(out, l)
	}
	for _, a := range w.asked {
		if a.field == nil || a.model == nil || len(a.keys) != 1 || !strings.EqualFold(a.field.Type.Unwrapped().Name, "string") || a.field.Type.Unwrapped().Kind != model.Named {
			continue
		}
		place := a.keys[0].Place
		if n := few(place); n > 0 && a.model.Language == "typescript" {
			note := fmt.Sprintf("%d distinct texts in %d values: vetta shape lists them", n, place.Count(wire.String))
			out = append(out, looseField{kind: loose.FewTexts, model: a.model, field: a.field, name: a.field.Name, declared: a.field.Declared, place: place, values: place.Count(wire.String), of: place.Total(), note: note})
		}
		if note := narrower(place); note != "" {
			out = append(out, looseField{kind: loose.NumberInText, model: a.model, field: a.field, name: a.field.Name, declared: a.field.Declared, place: place, values: place.Count(wire.String), of: place.Total(), note: note})
		}
	}
	return out
}

// admitsNull says whether a field is declared as one that may hold nothing: in languages whose types
// say so by the type, in Java by an annotation or a class for it.
func admitsNull(f *model.Field) bool {
	return f.Type.Kind == model.Optional || f.Marks.Find("Nullable") != nil || f.Type.Kind == model.Named && f.Type.Model == nil && f.Type.Name == "Optional"
}

func hasNull(keys []*shape.Key) bool {
	for _, k := range keys {
		if k.Place.Count(wire.Null) > 0 {
			return true
		}
	}
	return false
}

// mostFew is how many texts are few, and oftenFew how often each must have been sent.
const (
	mostFew  = 3
	oftenFew = 4
)

// few is how many distinct texts there are at a place, 0 where they are many, or too few values to say so, or are
// numbers or dates.
func few(place *shape.Place) (n int) {
	if place.Open(wire.String) || narrower(place) != "" {
		return 0
	}
	for _, t := range place.SortedTexts(wire.String) {
		if n++; n > mostFew || t.Values < oftenFew {
			return 0
		}
	}
	if n < 2 { // of one nothing is known
		return 0
	}
	return n
}

// narrower says what all strings at a place are, "" for nothing in common.
func narrower(place *shape.Place) string {
	numbers, dates, strings := int64(0), int64(0), int64(0)
	form := ""
	for c, t := range place.Classes {
		if c.Kind != wire.String {
			continue
		}
		strings += t.Values
		if c.Facts&shape.IsNumber != 0 {
			numbers += t.Values
		}
		if c.Facts&shape.IsDate != 0 && (form == "" || form == c.Form) {
			dates, form = dates+t.Values, c.Form
		}
	}
	switch {
	case strings < enough:
		return ""
	case numbers == strings:
		return "every value is a number"
	case dates == strings:
		return "every value is a date or time written like " + form
	}
	return ""
}

// addLoose makes a field that is declared too wide part of the finding.
func addLoose(f *finding.Finding, e *shape.Endpoint, l looseField) {
	f.Sites = append(f.Sites, &finding.Site{Endpoint: e, Place: l.place.Path(), Where: l.place.Where, Values: l.values, Of: l.of, Responses: e.Responses, OfResponses: e.Responses, Exact: true})
	f.Note = l.note
}

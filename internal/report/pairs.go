package report

import (
	"fmt"
	"io"
	"slices"
	"strings"

	"vetta/internal/model"
	"vetta/internal/pairing"
	"vetta/internal/shape"
)

// Pairs are the pairings of types with responses, as the JSON layout has them.
type Pairs struct {
	Layout    int                `json:"layout"`
	Command   string             `json:"command"`
	Pairs     []PairEntry        `json:"pairs"`
	Models    []UnpairedModel    `json:"models"`    // that no response was found for
	Endpoints []UnpairedEndpoint `json:"endpoints"` // that no model was found for
	Unjudged  []UnjudgedModel    `json:"unjudged"`
	Problems  []CheckProblem     `json:"problems"`
}

// PairEntry is a type with the responses that it is decoded from, or the requests that it is sent as.
type PairEntry struct {
	Type      string           `json:"type"`
	At        model.Pos        `json:"at"`
	Endpoint  string           `json:"endpoint"`
	Place     string           `json:"place"`
	Responses int64            `json:"responses"`
	Sent      bool             `json:"sent"` // it is what the app sends
	Sureness  pairing.Sureness `json:"sureness"`
	Evidence  []string         `json:"evidence"`
	Next      *NextEntry       `json:"next,omitempty"`
}

// NextEntry is what fits the same responses next best.
type NextEntry struct {
	Type     string   `json:"type"`
	Place    string   `json:"place"`
	Evidence []string `json:"evidence"`
}

// NewPairs makes the report of pairings.
func NewPairs(s *shape.Shape, r *pairing.Result, problems []CheckProblem) *Pairs {
	out := &Pairs{Layout: LayoutVersion, Command: "pair", Pairs: []PairEntry{}, Models: []UnpairedModel{}, Endpoints: []UnpairedEndpoint{}, Unjudged: []UnjudgedModel{}, Problems: nonNil(problems)}
	for _, p := range r.Sure() {
		e := PairEntry{Type: p.Plan.Declared, Endpoint: p.Endpoint.Name, Place: p.Place.Path(), Responses: p.Endpoint.Responses, Sent: p.Plan.Writes != nil, Sureness: p.Sureness, Evidence: nonNil(p.Evidence)}
		p.Plan.Type.Walk(func(t *model.Type) {
			if t.Model != nil && e.At.IsZero() {
				e.At = t.Model.Pos
			}
		})
		if n := p.Next; n != nil {
			e.Next = &NextEntry{n.Type, n.Place, nonNil(n.Evidence)}
		}
		out.Pairs = append(out.Pairs, e)
	}
	out.Models, out.Endpoints, out.Unjudged = alone(r)
	return out
}

// alone are the models and endpoints that have no partner, and the models of which nothing is claimed.
func alone(r *pairing.Result) (models []UnpairedModel, endpoints []UnpairedEndpoint, unjudged []UnjudgedModel) {
	for _, a := range r.Models {
		models = append(models, UnpairedModel{a.Model.Name, a.Model.Pos, a.Nearest, a.Why})
	}
	for _, a := range r.Endpoints {
		endpoints = append(endpoints, UnpairedEndpoint{a.Endpoint.Name, a.Endpoint.Responses, a.Nearest, a.Why, a.Endpoint.Route != nil && a.Endpoint.Route.Request})
	}
	for _, a := range r.Unjudged {
		u := UnjudgedModel{Name: a.Model.Name, At: a.Model.Pos, Why: strings.TrimPrefix(a.Why, a.Model.Name+": ")}
		if a.Endpoint != nil {
			u.Endpoint, u.Responses = a.Endpoint.Name, a.Endpoint.Responses
		}
		unjudged = append(unjudged, u)
	}
	return nonNil(models), nonNil(endpoints), nonNil(unjudged)
}

// sureColors are the colours of how sure a pair is.
var sureColors = map[pairing.Sureness]string{pairing.ByHand: green, pairing.Certain: green, pairing.Likely: cyan, pairing.Unsure: yellow}

// Text writes the pairings for people.
func (p *Pairs) Text(out io.Writer, style Style) error {
	w := &writer{Style: style}
	last := ""
	for _, e := range p.Pairs {
		if e.Endpoint != last {
			if last != "" {
				w.WriteString("\n")
			}
			last = e.Endpoint
			w.line(0, bold, Safe(fmt.Sprintf("%s  %s", e.Endpoint, Plural(e.Responses, bodies(e.Sent)))))
		}
		e.text(w)
	}
	if len(p.Models)+len(p.Endpoints)+len(p.Unjudged) > 0 {
		if last != "" {
			w.WriteString("\n")
		}
		w.line(0, bold, "Alone")
		for _, e := range p.Endpoints {
			w.aloneLine(e.Endpoint, Plural(e.Responses, bodies(e.Sent)), e.Nearest, e.Why)
		}
		for _, m := range p.Models {
			w.aloneLine(m.Name, m.At.String(), m.Nearest, m.Why)
		}
		for _, m := range p.Unjudged {
			w.aloneLine(m.Name, m.At.String(), "", "not judged: "+m.Why)
		}
	}
	if w.Len() > 0 {
		w.WriteString("\n")
	}
	w.line(0, "", p.summary())
	_, err := io.WriteString(out, w.String())
	return err
}

func bodies(sent bool) string {
	if sent {
		return "request"
	}
	return "response"
}

func (e *PairEntry) text(w *writer) {
	w.line(2, "", Safe(fmt.Sprintf("%s  %s  %s", e.Place, e.Type, e.At))+"  "+w.paint(sureColors[e.Sureness], string(e.Sureness)))
	w.labelled(4, "why", 7, faint, Safe(strings.Join(e.Evidence, ", ")))
	if n := e.Next; n != nil {
		at := ""
		if n.Place != "$" {
			at = " at " + n.Place
		}
		w.labelled(4, "next", 7, faint, Safe(fmt.Sprintf("%s%s: %s", n.Type, at, strings.Join(n.Evidence, ", "))))
	}
}

// aloneLine writes what has no partner, with why.
func (w *writer) aloneLine(name, at, nearest, why string) {
	text := fmt.Sprintf("%s  %s: ", name, at)
	if nearest != "" {
		text += "nearest is " + nearest + ": "
	}
	w.line(2, "", Safe(text+why))
}

// summary counts the pairings by how sure they are.
func (p *Pairs) summary() string {
	var parts []string
	for _, s := range []pairing.Sureness{pairing.ByHand, pairing.Certain, pairing.Likely, pairing.Unsure} {
		n := len(slices.DeleteFunc(slices.Clone(p.Pairs), func(e PairEntry) bool { return e.Sureness != s }))
		if n > 0 {
			parts = append(parts, fmt.Sprintf("%d %s", n, s))
		}
	}
	text := Plural(int64(len(p.Pairs)), "pair")
	if len(parts) > 0 {
		text += ": " + strings.Join(parts, ", ")
	}
	if n := len(p.Models) + len(p.Unjudged); n > 0 {
		text += "; " + Plural(int64(n), "model") + " alone"
	}
	if n := len(p.Endpoints); n > 0 {
		text += "; " + Plural(int64(n), "endpoint") + " alone"
	}
	return text
}

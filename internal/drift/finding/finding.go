// Package drift compares what models declare with what responses were seen to
// hold, by the rules of the library that decodes them, and makes findings of it.
// Package finding is what a check says: a finding with its sites and examples, its kind and level, and what
// to change, in the words of the model's language and library.
package finding

import (
	"slices"
	"sort"

	"vetta/internal/decoder"
	"vetta/internal/markup"
	"vetta/internal/model"
	"vetta/internal/shape"
)

// Finding is one drift of one field, or of a model as a whole.
type Finding struct {
	Kind     *Kind
	Level    Level
	Model    *model.Model
	Field    *model.Field // nil where the model as a whole is meant
	Name     string       // of the field, or of the key where no field is
	Declared string       // the type, as the source writes it
	Pos      model.Pos
	Element  bool   // an element of the field's list or map is meant
	Error    string // the decoder's, as a crash log shows it; "" where nothing is thrown
	Trusted  bool   // Error is what a compiler would say: nothing is thrown
	Seen     string // what the app sees, where that is not what was sent
	Writes   string // what the app sends, where that is not what accepted requests have
	Change   Change
	Note     string // evidence, or what limits the counts
	Library  string // that decodes the model, "" for the language's usual one
	Language string // of the source, where no model is meant
	Rename   string // the key that seems to be sent in place of the one that is read
	Keys     []Unread
	Advice   string
	Given    string // Rename as the library compares it
	Asked    string // the key that the library looks for
	Flat     bool   // of XML: items stand where the element around them stood; Given is their key
	Sites    []*Site
}

// Site is a place where a finding was made.
type Site struct {
	Endpoint    *shape.Endpoint
	Place       string // JSONPath
	Where       string // in which objects, in words; "" for all
	Values      int64  // how many values, or objects without the key
	Of          int64  // out of how many looked at
	Responses   int64  // how many responses hold them
	OfResponses int64
	Exact       bool // false: Responses is the least it can be
	// First and Last are the captures in which it was met first and last, "" where that is not known;
	// Since says so in words, "" where it was so from the first capture to the last.
	First, Last string
	Since       string
	Sent        []Sent
	Examples    []shape.Example
	Tallies     []*shape.Tally
	Low, High   float64 // of the numbers there
}

// Sent is what was sent at a site: a class of value.
type Sent struct {
	What      string
	Values    int64
	Responses int64
	Error     string // the decoder's, where values of several classes fail in several ways
	Class     shape.Class
	Literal   string
	tallies   map[*shape.Tally]bool // that it was counted by
}

// Unread is a key that the API sends and the model does not read.
type Unread struct {
	Name     string
	Place    string
	Values   int64 // objects that have it
	Of       int64 // objects looked at
	Example  shape.Example
	Endpoint *shape.Endpoint
}

// Add makes the event part of the finding, and answers the site that it is part of.
func (f *Finding) Add(e *shape.Endpoint, ev *Event) (site *Site) {
	path := ev.Place.Path()
	for _, s := range f.Sites {
		if s.Endpoint == e && s.Place == path && s.Where == ev.Place.Where {
			site = s
		}
	}
	if site == nil {
		site = &Site{Endpoint: e, Place: path, Where: ev.Place.Where, Of: ev.Of, OfResponses: e.Responses, Exact: true, Low: ev.Place.Min, High: ev.Place.Max}
		f.Sites = append(f.Sites, site)
	}
	what := ev.Sent
	if ev.Literal != "" && (ev.Err != nil || ev.Loss == decoder.NoConstant) {
		what = ev.Literal
	}
	var sent *Sent
	for i := range site.Sent {
		if site.Sent[i].What == what {
			sent = &site.Sent[i]
		}
	}
	if sent != nil && sent.counts(ev) { // code that reads a value twice
		return site
	}
	site.Values += ev.Values
	if ev.Inexact {
		site.Exact = false
	}
	site.Tallies = append(site.Tallies, ev.Tallies...)
	responses, exact := e.Among(ev.Tallies)
	if !exact {
		site.Exact = false
	}
	if sent == nil {
		site.Sent = append(site.Sent, Sent{What: what, Class: ev.Class, Literal: ev.Literal, Error: message(ev), tallies: map[*shape.Tally]bool{}})
		sent = &site.Sent[len(site.Sent)-1]
	}
	for _, t := range ev.Tallies {
		sent.tallies[t] = true
	}
	all, _ := e.Among(site.Tallies)
	sent.Values, sent.Responses = sent.Values+ev.Values, min(sent.Responses+responses, all)
	return site
}

// Literal is the first text of those that were sent, as it stands in the response; nothing where
// none is known.
func (f *Finding) Literal() string {
	for _, s := range f.Sites {
		for _, sent := range s.Sent {
			if sent.Literal != "" {
				return sent.Literal
			}
		}
	}
	return ""
}

// counts says whether all that an event was met at is counted.
func (s *Sent) counts(ev *Event) bool {
	return len(ev.Tallies) > 0 && !slices.ContainsFunc(ev.Tallies, func(t *shape.Tally) bool { return !s.tallies[t] })
}

func message(ev *Event) string {
	if ev.Err == nil {
		return ""
	}
	return ev.Err.Message
}

// Settle completes a site when all its events are there.
func (s *Site) Settle() {
	var exact bool
	s.Responses, exact = s.Endpoint.Among(s.Tallies)
	s.Exact = s.Exact && exact
	s.Examples = shape.FirstExamples(s.Tallies)
	s.since()
	sort.SliceStable(s.Sent, func(i, k int) bool { return s.Sent[i].Values > s.Sent[k].Values })
}

// In is how many responses the finding is in, at all its sites, out of how many were looked at there; a
// response that it is in at several places counts once. exact is false where it is the least it can be.
func (f *Finding) In() (responses, of int64, exact bool) {
	exact = true
	tallies := map[*shape.Endpoint][]*shape.Tally{}
	alone := map[*shape.Endpoint]int64{}
	var endpoints []*shape.Endpoint
	for _, s := range f.Sites {
		if _, known := alone[s.Endpoint]; !known {
			endpoints = append(endpoints, s.Endpoint)
			of += s.OfResponses
		}
		alone[s.Endpoint] += s.Responses
		tallies[s.Endpoint] = append(tallies[s.Endpoint], s.Tallies...)
		exact = exact && s.Exact
	}
	for _, e := range endpoints {
		if len(tallies[e]) == 0 {
			responses += min(alone[e], e.Responses)
			continue
		}
		n, all := e.Among(tallies[e])
		responses, exact = responses+n, exact && all
	}
	return responses, of, exact
}

// Values and Responses are those of all sites.
func (f *Finding) counts() (values, of, responses, ofResponses int64) {
	for _, s := range f.Sites {
		values, of = values+s.Values, of+s.Of
		responses, ofResponses = responses+s.Responses, ofResponses+s.OfResponses
	}
	return
}

// Values is how many values the finding is about, at all its sites.
func (f *Finding) Values() int64 { v, _, _, _ := f.counts(); return v }

// Responses is how many responses hold them.
func (f *Finding) Responses() int64 { _, _, r, _ := f.counts(); return r }

// Never says whether no object at any of the finding's sites had the key.
func (f *Finding) Never() bool {
	for _, s := range f.Sites {
		if s.Values < s.Of {
			return false
		}
	}
	return true
}

// Key is the name on the wire that the finding is about.
func (f *Finding) Key() string {
	if f.Asked != "" {
		return markup.ShowKey(f.Asked)
	}
	if f.Field != nil && len(f.Field.Keys) > 0 {
		return markup.ShowKey(f.Field.Keys[0])
	}
	return f.Name
}

// Absent is how what is sent begins where a key is not there.
const Absent = "no "

// NoKey says that a key is not there, in the words of its notation.
func NoKey(key string) string {
	switch {
	case !markup.IsKey(key):
		return Absent + "key " + key
	case key == markup.TextKey:
		return Absent + "text"
	case markup.IsAttr(key):
		return Absent + "attribute " + markup.ShowKey(key)
	}
	return Absent + "element " + markup.ShowKey(key)
}

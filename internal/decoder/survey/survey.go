// Package survey finds by experiment what code makes of documents: it runs it on documents of its own making, sees what
// the code asks them for, and changes one value at a time to see what becomes of it. What it finds is a graph of nodes, as
// a library's plan has it, of what depends on the value at one place alone.
package survey

import (
	"slices"
	"strings"
	"unicode"

	"vetta/internal/decoder"
	"vetta/internal/model"
	"vetta/internal/wire"
)

// Asked is what code asks a value of a document for.
type Asked struct {
	Names    []string      // of members
	Elements bool          // of a list
	Members  bool          // of an object, all of them
	Object   bool          // whether it is an object
	As       *decoder.Plan // by which a library decodes it, nil for none
	Zeroed   []string      // members that are absent, for which it takes 0 or false without saying so
}

// Run runs code on a document; ok is false where it is not followed.
type Run func(doc *wire.Value) (out decoder.Outcome, asked map[*wire.Value]*Asked, ok bool)

// Of surveys code that makes a value of a type of a document. models finds a class by its name; words are texts that the
// code compares with. It is nil where no document was found that the code takes. The nodes run the code when they are
// asked, which must be able to run from several goroutines.
func Of(run Run, models func(name string) *model.Model, words []string) *decoder.Node {
	s := &survey{run: run, models: models, root: &spot{shape: object}, samples: samples}
	for _, w := range words {
		if isName(w) && len(s.names) < maxNames {
			s.names = append(s.names, w)
		}
	}
	for _, w := range words {
		if text := wire.Quote(w); !slices.Contains(s.samples, text) && len(s.samples) < maxSamples {
			s.samples = append(s.samples[:len(s.samples):len(s.samples)], text)
		}
	}
	for s.left = maxRuns; ; {
		if !s.grow() {
			return nil
		}
		if !s.refine() {
			break
		}
	}
	s.depend()
	if s.prune(s.root) {
		s.depend()
	}
	if n := s.node(); asks(n) {
		return n
	}
	return nil
}

// asks says whether a node asks for some member.
func asks(n *decoder.Node) bool {
	return (&decoder.Plan{Root: n}).Has(func(n *decoder.Node) bool { return n.Op == decoder.OpAt })
}

// isName says whether a text may be the name of a member.
func isName(text string) bool {
	return text != "" && !strings.ContainsFunc(text, func(r rune) bool {
		return !unicode.IsLetter(r) && !unicode.IsDigit(r) && r != '_' && r != '-' && r != '$'
	})
}

// limits keep the experiments short.
const (
	maxRuns    = 400 // until a document is found that the code takes
	maxSamples = 60
	maxNames   = 40
)

type survey struct {
	run     Run
	models  func(name string) *model.Model
	samples []string
	names   []string // that members may have which code compares with its own
	root    *spot
	seen    decoder.Seen       // what the code makes of the document
	changes map[*spot][]string // by leaf: the paths of what is seen otherwise when it changes
	zeroed  map[*spot]bool     // members for which 0 is taken without a word
	refined map[*spot]bool
	left    int // runs
}

// result is what became of a document.
type result struct {
	out   decoder.Outcome
	asked map[*wire.Value]*Asked
	spots map[*wire.Value]*spot
	doc   *wire.Value
	ok    bool
}

// with runs the code on the document with one change in it; nil for none.
func (s *survey) with(c *change) result {
	var b strings.Builder
	s.root.write(&b, c)
	doc, err := wire.Parse([]byte(b.String()))
	if err != nil {
		return result{}
	}
	r := result{doc: doc, spots: map[*wire.Value]*spot{}}
	s.root.locate(doc, c, r.spots)
	r.out, r.asked, r.ok = s.run(doc)
	return r
}

// at is the spot that an error is about.
func (r result) at() *spot {
	v := r.doc
	for _, step := range r.out.At {
		inner := v.At(step)
		if inner == nil {
			break
		}
		v = inner
	}
	return r.spots[v]
}

// grow finds a document that the code takes, and that has all that it asks for.
func (s *survey) grow() bool {
	for ; s.left > 0; s.left-- {
		r := s.with(nil)
		if !r.ok {
			return false
		}
		if s.take(r) {
			continue
		}
		if r.out.Err == nil {
			s.seen = r.out.Seen
			return true
		}
		culprit := r.at()
		if culprit == nil {
			return false
		}
		if e := r.out.Err; e.Reason == decoder.ReasonMissing && e.Key != "" {
			if culprit.shape != object {
				culprit.become(object)
			}
			if _, isNew := culprit.member(e.Key); isNew {
				continue
			}
		}
		if !s.advance(culprit) {
			return false
		}
	}
	return false
}

// refine looks for another value where what stands there makes no difference: code that looks first of what kind a value
// is passes over those of others. It says whether it has found one.
func (s *survey) refine() bool {
	if s.refined == nil {
		s.refined = map[*spot]bool{}
	}
	for _, leaf := range s.root.leaves() {
		if s.refined[leaf] || leaf.shape != scalar || leaf.up == nil || leaf.as != nil {
			continue
		}
		s.refined[leaf] = true
		without := s.with(&change{at: leaf, absent: true, text: "null"})
		if !without.ok || without.out.Err != nil || without.out.Seen.String() != s.seen.String() {
			continue
		}
		for _, text := range append([]string{`[1]`, `["text"]`, `{"key":1}`}, s.samples...) {
			r := s.with(&change{at: leaf, text: text})
			if !r.ok || r.out.Err != nil && !asksMore(r) {
				continue
			}
			var asked *Asked
			for v, sp := range r.spots {
				if sp == leaf && r.asked[v] != nil {
					asked = r.asked[v]
				}
			}
			switch {
			case asked != nil && asked.Elements && text[0] == '[':
				return leaf.become(list)
			case asked != nil && (len(asked.Names) > 0 || asked.Object) && text[0] == '{':
				return leaf.become(object)
			case asked != nil && asked.Members && text[0] == '{':
				return leaf.become(table)
			case text[0] != '[' && text[0] != '{' && (r.out.Err != nil || r.out.Seen.String() != s.seen.String()):
				leaf.text = text
				return true
			}
		}
	}
	return false
}

// asksMore says whether code has asked for members that the document has no place for yet.
func asksMore(r result) bool {
	for v, a := range r.asked {
		sp := r.spots[v]
		if sp == nil || sp.shape != object {
			continue
		}
		for _, name := range a.Names {
			if !slices.ContainsFunc(sp.inner, func(m *spot) bool { return m.name == name }) {
				return true
			}
		}
	}
	return false
}

// take makes the document have what the code has asked for; it says whether it had not.
func (s *survey) take(r result) (changed bool) {
	for v, a := range r.asked {
		sp := r.spots[v]
		if sp == nil {
			continue
		}
		if a.As != nil {
			sp.as = a.As
		}
		switch {
		case len(a.Names) > 0 || a.Object && len(sp.inner) == 0 && !a.Elements:
			if sp.shape == scalar || sp.shape == list && len(sp.inner[0].inner) == 0 {
				changed = sp.become(object) || changed
			}
		case a.Elements && sp.shape != list && len(sp.inner) == 0:
			changed = sp.become(list) || changed
		case a.Members && !a.Elements && !sp.open && sp.shape != table && len(sp.inner) == 0:
			// By their names, perhaps, or whatever they are.
			if sp.become(object); len(s.names) == 0 {
				sp.become(table)
			}
			sp.open, changed = true, true
			for _, name := range s.names {
				if m, isNew := sp.member(name); isNew {
					m.maybe = true
				}
			}
		}
		if sp.shape != object {
			continue
		}
		for _, name := range a.Names {
			_, isNew := sp.member(name)
			changed = changed || isNew
		}
	}
	return changed
}

// advance makes the next sample of a spot; false where there is none that it could be.
func (s *survey) advance(sp *spot) bool {
	if sp.shape == object && len(sp.inner) == 0 && !sp.turned { // an object was wanted by no one
		sp.turned = true
		return sp.become(list)
	}
	if sp.shape != scalar {
		// What a library decodes may be a scalar where an object would do as well.
		if sp.as == nil || len(sp.inner) > 0 {
			return false
		}
		sp.shape, sp.text, sp.tried = scalar, s.samples[0], 0
		return true
	}
	if sp.tried++; sp.tried < len(s.samples) {
		sp.text = s.samples[sp.tried]
		return true
	}
	switch sp.tried - len(s.samples) {
	case 0:
		sp.text = `{}`
	case 1:
		sp.text = `[]`
	case 2:
		if sp.up == nil || sp.element || sp.gone {
			return false
		}
		sp.gone = true
	default:
		return false
	}
	return true
}

// prune leaves members out that were tried by their names and make no difference; it says whether there were some.
func (s *survey) prune(sp *spot) (pruned bool) {
	if sp.open && sp.shape == object {
		before := len(sp.inner)
		sp.inner = slices.DeleteFunc(sp.inner, func(m *spot) bool {
			return m.maybe && !slices.ContainsFunc(m.leaves(), func(l *spot) bool { return len(s.changes[l]) > 0 })
		})
		pruned = len(sp.inner) < before
		if len(sp.inner) == 0 {
			sp.become(table)
		}
	}
	for _, in := range sp.inner {
		pruned = s.prune(in) || pruned
	}
	return pruned
}

// depend finds what is seen otherwise when a value is another.
func (s *survey) depend() {
	s.changes, s.zeroed = map[*spot][]string{}, map[*spot]bool{}
	for _, leaf := range s.root.leaves() {
		for _, text := range s.others(leaf) {
			r := s.with(&change{at: leaf, text: text})
			if r.ok && r.out.Err == nil {
				s.changes[leaf] = differences(s.changes[leaf], "", s.seen, r.out.Seen)
			}
		}
		if leaf.up == nil || leaf.element {
			continue
		}
		r := s.with(&change{at: leaf, absent: true})
		if r.ok && r.out.Err == nil {
			s.changes[leaf] = differences(s.changes[leaf], "", s.seen, r.out.Seen)
		}
		for v, a := range r.asked {
			if r.spots[v] == leaf.up && slices.Contains(a.Zeroed, leaf.name) {
				s.zeroed[leaf] = true
			}
		}
	}
}

// others are values of the kind of what stands at a leaf.
func (s *survey) others(leaf *spot) []string {
	switch {
	case leaf.as != nil:
		return append([]string{`null`, `[]`, `{}`, `["text"]`, `[1]`, `[true]`, `[{}]`}, s.samples...)
	case leaf.shape != scalar:
		return []string{`null`}
	case leaf.text == "true":
		return []string{`false`}
	case leaf.text[0] == '"':
		return s.samples
	case leaf.text == "1" || leaf.text == "1.5":
		return []string{`7`, `2.5`, `0`}
	}
	return []string{`null`}
}

// differences adds the paths at which two values differ, but for those that are there.
func differences(to []string, path string, a, b decoder.Seen) []string {
	isSame := a.Kind == b.Kind && len(a.Elems) == len(b.Elems) && slices.Equal(a.Names, b.Names)
	switch {
	case isSame && len(a.Elems) > 0:
		for i := range a.Elems {
			to = differences(to, path+step(a, i), a.Elems[i], b.Elems[i])
		}
		return to
	case isSame && a.String() == b.String(), slices.Contains(to, path):
		return to
	}
	return append(to, path)
}

// step is what leads from a value to one in it.
func step(s decoder.Seen, i int) string {
	if len(s.Names) > 0 {
		return "." + s.Names[i]
	}
	return "[]"
}

// find is the value that a path leads to; ok is false where it leads nowhere.
func find(s decoder.Seen, path string) (found decoder.Seen, ok bool) {
	for path != "" {
		next := -1
		for i := range s.Elems {
			if own := step(s, i); strings.HasPrefix(path, own) && (len(path) == len(own) || path[len(own)] == '.' || path[len(own)] == '[') {
				next = i
				path = path[len(own):]
				break
			}
		}
		if next < 0 {
			return decoder.Seen{}, false
		}
		s = s.Elems[next]
	}
	return s, true
}

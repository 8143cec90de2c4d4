package shape

import (
	"bytes"
	"cmp"
	"crypto/sha256"
	"encoding/json"
	"fmt"
	"io"
	"slices"
	"strconv"

	"vetta/internal/capture"
	"vetta/internal/traffic"
	"vetta/internal/wire"
)

// The saved form of a collection is described in docs/shape-file.md. It keeps counts,
// places of examples and literals that stand for their class; values that were sent
// are kept only where they are few and do not look secret, since enums ask for them.

const (
	saveFormat  = "vetta shape"
	saveVersion = 3
)

type savedFile struct {
	Format    string            `json:"format"`
	Version   int               `json:"version"`
	Limits    Limits            `json:"limits"`
	Captures  []string          `json:"captures"`
	Several   []int             `json:"several,omitempty"`
	Documents int64             `json:"documents"`
	Bytes     int64             `json:"bytes"`
	Problems  []capture.Problem `json:"problems,omitempty"`
	Passed    []savedPassed     `json:"passed,omitempty"`
	Partial   bool              `json:"partial,omitempty"`
	Groups    []savedGroup      `json:"groups"`
	Checksum  string            `json:"checksum,omitempty"` // see withChecksum
}

type savedGroup struct {
	Name  string          `json:"name"`
	Route *traffic.Route  `json:"request,omitempty"`
	Roots []savedEndpoint `json:"roots"`
}

type savedEndpoint struct {
	Root      string     `json:"root"`
	Responses int64      `json:"responses"`
	Captures  []int      `json:"captures"`
	Extent    *savedSpan `json:"extent,omitempty"`
	Moments   [][3]int64 `json:"moments,omitempty"` // capture, entry, milliseconds
	Symbols   Symbol     `json:"symbols"`
	GaveUp    bool       `json:"gaveUp,omitempty"`
	Combos    [][]int64  `json:"combos"` // the number of responses, then symbols
	Place     savedPlace `json:"place"`
}

type savedPlace struct {
	Classes   []savedTally `json:"classes,omitempty"`
	Texts     []savedTally `json:"texts,omitempty"`
	Keys      []savedKey   `json:"keys,omitempty"`
	Forms     []savedTally `json:"forms,omitempty"`
	Elem      *savedPlace  `json:"element,omitempty"`
	Member    *savedPlace  `json:"member,omitempty"`
	Range     []float64    `json:"range,omitempty"`
	Counts    []int        `json:"counts,omitempty"` // texts, numbers, date forms seen so far
	OpenTexts bool         `json:"openTexts,omitempty"`
	OpenNums  bool         `json:"openNumbers,omitempty"`
	OpenForms bool         `json:"openForms,omitempty"`
	Formless  bool         `json:"formless,omitempty"`
}

type savedTally struct {
	Kind      wire.Kind      `json:"kind,omitempty"`
	Facts     Facts          `json:"facts,omitempty"`
	Form      string         `json:"form,omitempty"`
	Literal   string         `json:"literal,omitempty"`
	Has       []int          `json:"has,omitempty"` // of a form: indexes of its keys
	Values    int64          `json:"values"`
	Responses int64          `json:"responses"`
	Symbol    Symbol         `json:"symbol"`
	Witness   string         `json:"witness,omitempty"`
	Examples  []savedExample `json:"examples,omitempty"`
	Span      *savedSpan     `json:"span,omitempty"`
}

// savedSpan is a Span: where a capture is named, its entry follows.
type savedSpan struct {
	First   [2]int   `json:"first"`
	Last    [2]int   `json:"last"`
	Dates   [2]int64 `json:"dates"`
	Undated bool     `json:"undated,omitempty"`
}

// savedPassed is what was passed over, with what was requested.
type savedPassed struct {
	Passed
	Route *traffic.Route `json:"request,omitempty"`
}

func savedSpanOf(s Span) *savedSpan {
	if s.Last == 0 {
		return nil
	}
	return &savedSpan{First: [2]int{s.First.Order(), s.First.Entry()}, Last: [2]int{s.Last.Order(), s.Last.Entry()}, Dates: [2]int64{s.Since, s.Until}, Undated: s.Undated}
}

type savedExample struct {
	Capture int    `json:"capture"`
	Entry   int    `json:"entry,omitempty"`
	Steps   []any  `json:"steps"` // a name, or a number of an element
	Line    int    `json:"line"`
	Column  int    `json:"column"`
	Offset  int64  `json:"offset"`
	Value   string `json:"value,omitempty"`
}

type savedKey struct {
	Name    string      `json:"name"`
	Objects int64       `json:"objects"`
	Doubles int64       `json:"doubles,omitempty"`
	Place   savedPlace  `json:"place"`
	Later   *savedPlace `json:"later,omitempty"`
}

// Save writes a collection, so that Load gives it back. secret says whether a literal
// at a place looks secret: such ones are left out. It is asked of names too, see IsName.
func (c *Collection) Save(out io.Writer, secret func(steps []wire.Step, literal string) bool) error {
	f := savedFile{
		Format: saveFormat, Version: saveVersion, Limits: c.c.limits, Captures: c.c.captures, Documents: c.c.docs, Bytes: c.c.bytes,
		Problems: c.c.problems, Groups: []savedGroup{},
	}
	slices.SortStableFunc(f.Problems, func(a, b capture.Problem) int {
		return cmp.Or(traffic.Compare(a.File, b.File), a.Entry-b.Entry, a.Line-b.Line, a.Column-b.Column)
	})
	for _, p := range c.c.passed.list() {
		f.Passed = append(f.Passed, savedPassed{p, p.route})
	}
	f.Partial = c.c.partial
	for order := range c.c.several {
		f.Several = append(f.Several, order)
	}
	slices.Sort(f.Several)
	names := make([]string, 0, len(c.c.groups))
	for name := range c.c.groups {
		names = append(names, name)
	}
	slices.Sort(names)
	for _, name := range names {
		g := savedGroup{Name: c.c.groups[name].name, Route: c.c.groups[name].route}
		for _, root := range sortedRoots(c.c.groups[name]) {
			if e := c.c.groups[name].roots[root]; e.Responses > 0 {
				s := saver{e: e, secret: secret, numbers: map[Symbol]Symbol{}}
				g.Roots = append(g.Roots, s.endpoint(root))
			}
		}
		f.Groups = append(f.Groups, g)
	}
	var text bytes.Buffer
	enc := json.NewEncoder(&text)
	enc.SetEscapeHTML(false)
	if err := enc.Encode(f); err != nil {
		return err
	}
	_, err := out.Write(withChecksum(text.Bytes()))
	return err
}

// checksumMember is the last member of the file: a checksum of all before it, as it stands there.
const checksumMember = `,"checksum":"`

// withChecksum adds the checksum to a saved shape that has none.
func withChecksum(text []byte) []byte {
	text = bytes.TrimSuffix(bytes.TrimRight(text, "\n"), []byte("}"))
	return fmt.Appendf(text, `%s%x"}`+"\n", checksumMember, sha256.Sum256(text))
}

type saver struct {
	e       *Endpoint
	secret  func([]wire.Step, string) bool
	numbers map[Symbol]Symbol // symbols anew, in the order in which places are walked
}

func (s *saver) symbol(sym Symbol) Symbol {
	sym = s.e.canonical(sym)
	n, ok := s.numbers[sym]
	if !ok {
		n = Symbol(len(s.numbers))
		s.numbers[sym] = n
	}
	return n
}

func (s *saver) endpoint(root string) savedEndpoint {
	s.e.arrange()
	out := savedEndpoint{Root: root, Responses: s.e.Responses, GaveUp: s.e.combos.gaveUp, Combos: [][]int64{}, Extent: savedSpanOf(s.e.moments.extent)}
	for _, m := range s.e.moments.all {
		out.Moments = append(out.Moments, [3]int64{int64(m.rank.Order()), int64(m.rank.Entry()), m.sent})
	}
	slices.SortFunc(out.Moments, func(a, b [3]int64) int { return slices.Compare(a[:], b[:]) })
	s.e.files.each(func(order int) { out.Captures = append(out.Captures, order) })
	out.Place = *s.place(s.e.Root)
	for _, bucket := range s.e.combos.byHash {
		for _, c := range bucket {
			if c.responses <= 0 {
				continue
			}
			combo := []int64{c.responses}
			for _, sym := range c.symbols {
				combo = append(combo, int64(s.symbol(sym)))
			}
			slices.Sort(combo[1:])
			combo = append(combo[:1], slices.Compact(combo[1:])...)
			out.Combos = append(out.Combos, combo)
		}
	}
	slices.SortFunc(out.Combos, func(a, b []int64) int {
		if c := slices.Compare(a[1:], b[1:]); c != 0 {
			return c
		}
		return int(a[0] - b[0])
	})
	// What was told apart while it was read may be one combination since.
	apart := out.Combos
	out.Combos = out.Combos[:0]
	for _, combo := range apart {
		if n := len(out.Combos); n > 0 && slices.Equal(out.Combos[n-1][1:], combo[1:]) {
			out.Combos[n-1][0] += combo[0]
		} else {
			out.Combos = append(out.Combos, combo)
		}
	}
	out.Symbols = Symbol(len(s.numbers))
	return out
}

func (s *saver) place(p *Place) *savedPlace {
	p.dropEmpty()
	if p != s.e.Root && p.Member == nil && slices.ContainsFunc(p.Keys, func(k *Key) bool { return s.secret(ofName, quoted(k.Name)) }) {
		s.e.toMap(p) // whose names are data
	}
	out := &savedPlace{OpenTexts: p.OpenTexts, OpenNums: p.OpenNums, OpenForms: p.OpenForms, Formless: p.formless}
	if p.ranged && !s.secret(p.Steps, strconv.FormatFloat(p.Min, 'g', -1, 64)) && !s.secret(p.Steps, strconv.FormatFloat(p.Max, 'g', -1, 64)) {
		out.Range = []float64{p.Min, p.Max}
	}
	open := map[wire.Kind]bool{wire.String: p.OpenTexts, wire.Number: p.OpenNums}
	for _, kind := range []wire.Kind{wire.String, wire.Number} {
		// One text that looks secret makes the place one whose texts are not kept.
		for _, t := range p.SortedTexts(kind) {
			if s.secret(p.Steps, t.Literal) && !open[kind] {
				s.e.open(p, kind)
				open[kind] = true
			}
		}
		out.OpenTexts, out.OpenNums = p.OpenTexts, p.OpenNums
	}
	for _, c := range p.Sorted() {
		t := s.tally(c.Tally)
		t.Kind, t.Facts, t.Form = c.Class.Kind, c.Class.Facts, c.Class.Form
		t.Witness = s.witness(p, c)
		out.Classes = append(out.Classes, t)
	}
	for _, kind := range []wire.Kind{wire.String, wire.Number} {
		for _, text := range p.SortedTexts(kind) {
			t := s.tally(&text.Tally)
			t.Kind, t.Facts, t.Form, t.Literal = text.Class.Kind, text.Class.Facts, text.Class.Form, text.Literal
			out.Texts = append(out.Texts, t)
		}
	}
	// What is told apart now: what was since given up on is not counted.
	counts := []int{len(p.SortedTexts(wire.String)), len(p.SortedTexts(wire.Number)), 0}
	for c := range p.Classes {
		if c.Form != "" {
			counts[2]++
		}
	}
	if counts[0]+counts[1]+counts[2] > 0 {
		out.Counts = counts
	}
	for _, k := range p.Keys {
		key := savedKey{Name: k.Name, Objects: k.Objects, Doubles: k.Doubles, Place: *s.place(k.Place)}
		if k.Later != nil {
			key.Later = s.place(k.Later)
		}
		out.Keys = append(out.Keys, key)
	}
	for _, f := range p.Forms {
		t := s.tally(&f.Tally)
		t.Has = []int{}
		for i, h := range f.Keys {
			if h {
				t.Has = append(t.Has, i)
			}
		}
		out.Forms = append(out.Forms, t)
	}
	if p.Elem != nil {
		out.Elem = s.place(p.Elem)
	}
	if p.Member != nil {
		out.Member = s.place(p.Member)
	}
	return out
}

func (s *saver) tally(t *Tally) savedTally {
	out := savedTally{Values: t.Values, Responses: t.Responses, Symbol: s.symbol(t.sym), Span: savedSpanOf(t.Span)}
	for _, ex := range t.Examples {
		saved := savedExample{Capture: ex.Order, Entry: ex.Entry, Steps: []any{}, Line: ex.Line, Column: ex.Column, Offset: ex.Offset}
		for _, step := range ex.Steps {
			if step.Index >= 0 {
				saved.Steps = append(saved.Steps, step.Index)
			} else {
				name := step.Name
				if s.secret(ofName, quoted(name)) {
					name = hiddenName
				}
				saved.Steps = append(saved.Steps, name)
			}
		}
		if ex.Value == "null" || ex.Value == "true" || ex.Value == "false" {
			saved.Value = ex.Value
		}
		out.Examples = append(out.Examples, saved)
	}
	return out
}

// ofName is the place by which secret is asked of names.
var ofName = []wire.Step{}

// IsName says whether a name is asked for, and no value.
func IsName(steps []wire.Step) bool { return steps != nil && len(steps) == 0 }

// hiddenName stands for a name that looks secret.
const hiddenName = "…"

// quoted is a text as a literal without escapes where it needs none.
func quoted(text string) string {
	out, err := json.Marshal(text)
	if err != nil {
		return `""`
	}
	return string(out)
}

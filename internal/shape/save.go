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
	"strings"

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

// span is the Span that was saved; ok is false where it names a capture that is not listed.
func (l *loader) span(s *savedSpan) (span Span, ok bool) {
	if s == nil {
		return Span{}, true
	}
	for _, at := range [][2]int{s.First, s.Last} {
		if at[0] < 0 || at[0] >= len(l.captures) || at[1] < 1 {
			return Span{}, false
		}
	}
	return Span{First: capture.RankOf(s.First[0], 0, s.First[1]), Last: capture.RankOf(s.Last[0], 0, s.Last[1]), Since: s.Dates[0], Until: s.Dates[1], Undated: s.Undated}, true
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

// intact says whether a saved shape is as it was written.
func intact(text []byte) bool {
	at := bytes.LastIndex(text, []byte(checksumMember))
	return at >= 0 && bytes.Equal(withChecksum(append(slices.Clone(text[:at]), '}')), text)
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

// witness is a literal of a class that tells nothing of what was sent: its letters and digits are others, as far as the
// class admits. Where none of the class is found, and the one that was sent looks secret, it is "": then nothing is known
// of how such values fare.
func (s *saver) witness(p *Place, c Counted) string {
	switch c.Class.Kind {
	case wire.Number:
		if !s.secret(p.Steps, c.Witness) {
			return c.Witness
		}
		if like := strings.Map(hiddenDigit, c.Witness); ClassOf([]byte(like)) == c.Class {
			return like
		}
		return ""
	case wire.String:
	default:
		return c.Witness
	}
	text, _ := wire.Unquote([]byte(c.Witness))
	likes := []string{strings.Map(hidden, text)}
	if c.Class.Form != "" || c.Class.Facts&IsNumber != 0 { // whose letters mean something
		likes = append(likes, strings.Map(hiddenDigit, text), asDate(strings.Map(hiddenDigit, text)))
	}
	for _, like := range append(likes, plainTexts...) {
		literal := quoted(like)
		if c.Class.Facts&HalfPair != 0 {
			literal = literal[:len(literal)-1] + `\ud800"`
		}
		if ClassOf([]byte(literal)) == c.Class {
			return literal
		}
	}
	if strings.Contains(c.Witness, `\`) || s.secret(p.Steps, c.Witness) {
		return ""
	}
	return c.Witness
}

// hidden is another character of the same kind.
func hidden(r rune) rune {
	switch {
	case r >= 'a' && r <= 'z':
		return 'a'
	case r >= 'A' && r <= 'Z':
		return 'A'
	case r >= '0' && r <= '9':
		return '1'
	case r == 0xFFFD, r < 0x20:
		return 'a'
	case r > 0x7F:
		return 'é'
	}
	return r
}

// hiddenDigit is another digit.
func hiddenDigit(r rune) rune {
	if r >= '0' && r <= '9' {
		return '1'
	}
	return r
}

// asDate makes the first of a text's digits those of a year of our time.
func asDate(text string) string {
	if len(text) < 4 {
		return text
	}
	return "2001" + text[4:]
}

// plainTexts are texts of the classes that have no form.
var plainTexts = []string{"", "a", "aaaa", "a:", "1a", "[a", "1:a a", "11111111-1111-1111-1111-111111111111"}

// quoted is a text as a literal without escapes where it needs none.
func quoted(text string) string {
	out, err := json.Marshal(text)
	if err != nil {
		return `""`
	}
	return string(out)
}

// IsSaved says whether a text begins as a saved shape does.
func IsSaved(head []byte) bool {
	return bytes.HasPrefix(bytes.TrimLeft(head, " \t\r\n"), []byte(`{"format":"`+saveFormat+`"`))
}

// mostCounted is how much may be counted of anything: sums of such numbers are numbers still.
const mostCounted = 1 << 53

// sensible says whether limits are some with which captures may have been read.
func (l Limits) sensible() bool {
	for _, n := range []int{l.Keys, l.Forms, l.Texts, l.Numbers, l.TextLen, l.Combos, l.Forms2} {
		if n < 0 || n > 1<<24 {
			return false
		}
	}
	return true
}

// ofName is the place by which secret is asked of names.
var ofName = []wire.Step{}

// IsName says whether a name is asked for, and no value.
func IsName(steps []wire.Step) bool { return steps != nil && len(steps) == 0 }

// hiddenName stands for a name that looks secret.
const hiddenName = "…"

// FormatError says that a file is no saved shape, or one that cannot be read.
type FormatError struct{ Reason string }

func (e *FormatError) Error() string { return e.Reason }

// Load reads what Save has written. The error is a *FormatError for what is no
// saved shape.
func Load(in io.Reader) (*Collection, error) {
	text, err := io.ReadAll(in)
	if err != nil {
		return nil, err
	}
	var about struct {
		Format  string `json:"format"`
		Version int    `json:"version"`
	}
	d := json.NewDecoder(bytes.NewReader(text))
	if err := d.Decode(&about); err != nil {
		return nil, &FormatError{"it is no saved shape: " + err.Error()}
	}
	if _, err := d.Token(); err != io.EOF {
		return nil, &FormatError{"something follows the saved shape"}
	}
	switch {
	case about.Format != saveFormat:
		return nil, &FormatError{"it is no saved shape"}
	case about.Version != saveVersion:
		return nil, &FormatError{fmt.Sprintf("it is a saved shape of version %d, and this program reads version %d: make it again of its captures", about.Version, saveVersion)}
	case !intact(text):
		return nil, &FormatError{"it is damaged: it does not have the checksum that it was written with; make it again of its captures"}
	}
	var f savedFile
	d = json.NewDecoder(bytes.NewReader(text))
	d.DisallowUnknownFields()
	if err := d.Decode(&f); err != nil {
		return nil, &FormatError{"it is no saved shape: " + strings.TrimPrefix(err.Error(), "json: ")}
	}
	switch {
	case f.Documents <= 0:
		return nil, &FormatError{"it holds no responses"}
	case f.Bytes < 0 || f.Documents > mostCounted || f.Limits != DefaultLimits && !f.Limits.sensible():
		return nil, &FormatError{"a count is out of range"}
	}
	c := newCollector(f.Limits)
	c.captures, c.docs, c.bytes, c.problems, c.partial = f.Captures, f.Documents, f.Bytes, f.Problems, f.Partial
	for _, p := range f.Passed {
		key := passedKey{kind: p.Kind, status: p.Status}
		if p.Passed.route = p.Route; p.Route != nil {
			key.group = (&group{route: p.Route}).key()
		}
		c.passed.put(key, p.Passed)
	}
	for _, order := range f.Several {
		if order < 0 || order >= len(f.Captures) {
			return nil, &FormatError{"it says of a capture that is not listed that it holds several documents"}
		}
		c.several[order] = true
	}
	for _, g := range f.Groups {
		own := c.group(&group{name: g.Name, route: g.Route})
		for _, saved := range g.Roots {
			if saved.Root == "" {
				return nil, &FormatError{"a root has no name"}
			}
			if int64(saved.Symbols) > int64(len(text)) { // each of them stands in the file at least once
				return nil, &FormatError{"an endpoint has more symbols than the file has room for"}
			}
			l := loader{e: NewEndpoint(own.title(), f.Limits), captures: f.Captures, symbols: saved.Symbols}
			l.e.Route = g.Route
			if err := l.endpoint(saved); err != nil {
				return nil, err
			}
			own.roots[saved.Root] = l.e
		}
	}
	return &Collection{c}, nil
}

type loader struct {
	e        *Endpoint
	captures []string
	symbols  Symbol
}

func (l *loader) endpoint(s savedEndpoint) error {
	e := l.e
	if s.Responses < 0 || s.Responses > mostCounted {
		return &FormatError{"a count is out of range"}
	}
	e.fixed, e.Responses, e.symbols = s.Root, s.Responses, s.Symbols
	for _, order := range s.Captures {
		if order < 0 || order >= len(l.captures) {
			return &FormatError{"it names a capture that it does not list"}
		}
		e.addFile(order)
	}
	var ok bool
	if e.moments.extent, ok = l.span(s.Extent); !ok {
		return &FormatError{"a span names a capture that is not listed"}
	}
	for _, m := range s.Moments {
		if m[0] < 0 || m[0] >= int64(len(l.captures)) || m[1] < 1 {
			return &FormatError{"a moment is in a capture that is not listed"}
		}
		e.moments.all = append(e.moments.all, moment{capture.RankOf(int(m[0]), 0, int(m[1])), m[2]})
	}
	e.moments.many = int64(len(e.moments.all)) != e.Responses
	e.combos.gaveUp = s.GaveUp
	for _, combo := range s.Combos {
		if len(combo) == 0 || combo[0] < 0 || combo[0] > mostCounted {
			return &FormatError{"a combination counts no responses"}
		}
		var symbols []Symbol
		for _, sym := range combo[1:] {
			if sym < 0 || sym >= int64(s.Symbols) {
				return &FormatError{"a combination names a symbol that is not there"}
			}
			symbols = append(symbols, Symbol(sym))
		}
		e.combos.add(symbols, combo[0])
	}
	return l.place(e.Root, &s.Place, 0)
}

func (l *loader) place(p *Place, s *savedPlace, depth int) error {
	if depth > 2*wire.DefaultMaxDepth {
		return &FormatError{"its places are too deep inside each other"}
	}
	p.OpenTexts, p.OpenNums, p.OpenForms, p.formless = s.OpenTexts, s.OpenNums, s.OpenForms, s.Formless
	if len(s.Range) == 2 {
		p.widen(s.Range[0], s.Range[1])
	}
	for _, n := range s.Counts {
		if n < 0 || n > mostCounted {
			return &FormatError{"a count is out of range"}
		}
	}
	if len(s.Range) == 2 && s.Range[0] > s.Range[1] {
		return &FormatError{"a range ends before it begins"}
	}
	if len(s.Counts) == 3 {
		p.texts, p.dateForms = [2]int{s.Counts[0], s.Counts[1]}, s.Counts[2]
	}
	for i := range s.Classes {
		c := &s.Classes[i]
		t := &Tally{}
		if err := l.tally(t, c); err != nil {
			return err
		}
		if err := validLiteral(c.Kind, c.Witness); err != nil {
			return err
		}
		t.Witness = c.Witness
		p.Classes[Class{Kind: c.Kind, Facts: c.Facts, Form: c.Form}] = t
	}
	for i := range s.Texts {
		c := &s.Texts[i]
		t := &Text{Class: Class{Kind: c.Kind, Facts: c.Facts, Form: c.Form}, Literal: c.Literal}
		if err := l.tally(&t.Tally, c); err != nil {
			return err
		}
		if p.Classes[t.Class] == nil || c.Literal == "" {
			return &FormatError{"a text is of a class that its place does not have"}
		}
		if err := validLiteral(c.Kind, c.Literal); err != nil {
			return err
		}
		t.Witness = c.Literal
		p.Texts[t.Literal] = t
	}
	for i := range s.Keys {
		k := &s.Keys[i]
		if p.names[k.Name] != nil {
			return &FormatError{"a place has a key twice"}
		}
		if k.Objects < 0 || k.Doubles < 0 || k.Objects > mostCounted || k.Doubles > mostCounted {
			return &FormatError{"a count is out of range"}
		}
		key := p.addKey(k.Name)
		key.Objects, key.Doubles = k.Objects, k.Doubles
		if err := l.place(key.Place, &k.Place, depth+1); err != nil {
			return err
		}
		if k.Later != nil {
			if err := l.place(key.later(), k.Later, depth+1); err != nil {
				return err
			}
		}
	}
	for i := range s.Forms {
		f := &Form{}
		if err := l.tally(&f.Tally, &s.Forms[i]); err != nil {
			return err
		}
		for _, at := range s.Forms[i].Has {
			if at < 0 || at >= len(p.Keys) {
				return &FormatError{"a form has a key that is not there"}
			}
			if p.Keys[at].Objects < f.Values {
				return &FormatError{"a form has a key more often than its place has"}
			}
			for len(f.Keys) <= at {
				f.Keys = append(f.Keys, false)
			}
			f.Keys[at] = true
		}
		p.Forms = append(p.Forms, f)
	}
	if len(p.Keys)+len(p.Forms) > 0 && p.Classes[Class{Kind: wire.Object}] == nil {
		return &FormatError{"a place has keys and no objects"}
	}
	p.indexForms()
	if s.Elem != nil {
		p.Elem = p.in(wire.Step{Index: wire.AnyElement})
		if err := l.place(p.Elem, s.Elem, depth+1); err != nil {
			return err
		}
	}
	if s.Member != nil {
		p.Member = p.in(wire.Step{Index: wire.AnyMember})
		if err := l.place(p.Member, s.Member, depth+1); err != nil {
			return err
		}
	}
	return nil
}

// validLiteral refuses a literal that is none of its kind: what judges it relies
// on that.
func validLiteral(kind wire.Kind, literal string) error {
	if kind > wire.Object {
		return &FormatError{"a class is of no kind"}
	}
	if kind != wire.String && kind != wire.Number || literal == "" { // none was kept
		return nil
	}
	v, err := wire.Parse([]byte(literal))
	if err != nil || v.Kind != kind || len(v.Raw) != len(literal) {
		return &FormatError{fmt.Sprintf("%q is no literal of its class", literal)}
	}
	return nil
}

func (l *loader) tally(t *Tally, s *savedTally) error {
	if s.Symbol >= l.symbols || s.Values < 0 || s.Values > mostCounted || s.Responses < 0 || s.Responses > min(s.Values, l.e.Responses) {
		return &FormatError{"a count is out of range"}
	}
	var ok bool
	if t.Span, ok = l.span(s.Span); !ok {
		return &FormatError{"a span names a capture that is not listed"}
	}
	t.Values, t.Responses, t.sym = s.Values, s.Responses, s.Symbol
	for _, ex := range s.Examples {
		if ex.Capture < 0 || ex.Capture >= len(l.captures) {
			return &FormatError{"an example is from a capture that is not listed"}
		}
		out := Example{Origin: Origin{File: l.captures[ex.Capture], Order: ex.Capture, Entry: ex.Entry}, Line: ex.Line, Column: ex.Column, Offset: ex.Offset, Value: ex.Value}
		for _, step := range ex.Steps {
			switch step := step.(type) {
			case string:
				out.Steps = append(out.Steps, wire.MemberOf(step))
			case float64:
				out.Steps = append(out.Steps, wire.Step{Index: int(step)})
			default:
				return &FormatError{"a step of an example is neither a name nor a number"}
			}
		}
		t.Examples = append(t.Examples, out)
	}
	return nil
}

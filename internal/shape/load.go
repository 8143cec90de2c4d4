package shape

import (
	"bytes"
	"encoding/json"
	"fmt"
	"io"
	"slices"
	"strings"

	"vetta/internal/capture"
	"vetta/internal/wire"
)

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

// FormatError says that a file is no saved shape, or one that cannot be read.
type FormatError struct{ Reason string }

func (e *FormatError) Error() string { return e.Reason }

// intact says whether a saved shape is as it was written.
func intact(text []byte) bool {
	at := bytes.LastIndex(text, []byte(checksumMember))
	return at >= 0 && bytes.Equal(withChecksum(append(slices.Clone(text[:at]), '}')), text)
}

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

package report

import (
	"fmt"
	"io"
	"strconv"
	"strings"
	"unicode/utf8"

	"vetta/internal/markup"
	"vetta/internal/shape"
	"vetta/internal/wire"
)

// Shape is the structure of responses, as the JSON layout has it.
type Shape struct {
	Layout    int             `json:"layout"`
	Command   string          `json:"command"`
	Endpoints []ShapeEndpoint `json:"endpoints"`
	Problems  []CheckProblem  `json:"problems"`
	Captures  int             `json:"captures"`
	Responses int64           `json:"responses"`
	// Passed is what was passed over since it holds no JSON.
	Passed []shape.Passed `json:"passed"`
	// Partial says that the reading was interrupted.
	Partial bool `json:"partial,omitempty"`
}

// ShapeEndpoint is an endpoint.
type ShapeEndpoint struct {
	Name      string      `json:"endpoint"`
	Responses int64       `json:"responses"`
	Captures  int         `json:"captures"`
	Limits    []string    `json:"limits"`
	Root      *ShapePlace `json:"root"`
}

// ShapePlace is a place with what is inside it.
type ShapePlace struct {
	Name     string        `json:"name"`  // the key, or the name of elements; [*] for elements and members of a map; $ for the root
	Place    string        `json:"place"` // JSONPath, or XPath
	Kinds    []ShapeKind   `json:"kinds"`
	Present  int64         `json:"present"`            // objects around that have it; elements; responses
	Of       int64         `json:"of"`                 // objects around; lists; responses
	Doubles  int64         `json:"doubles,omitempty"`  // further times in one object
	Elements int64         `json:"elements,omitempty"` // of an XML document: how many there are of the name
	Range    []float64     `json:"range,omitempty"`    // of numbers
	Values   []string      `json:"values,omitempty"`   // distinct ones, where they are few
	Example  *CheckExample `json:"example,omitempty"`
	Children []*ShapePlace `json:"children,omitempty"`
}

// ShapeKind is a kind of value, told as finely as people ask.
type ShapeKind struct {
	Kind      string `json:"kind"`
	Values    int64  `json:"values"`
	Responses int64  `json:"responses"`
}

// NewShape makes the report of a shape. place is where each endpoint is entered, ""
// for the root; endpoints without it are left out.
func NewShape(s *shape.Shape, place string, problems []CheckProblem, o Options) *Shape {
	m := maker{o}
	out := &Shape{Layout: LayoutVersion, Command: "shape", Endpoints: []ShapeEndpoint{}, Problems: problems, Captures: s.Files, Responses: s.Documents, Passed: nonNil(s.Passed), Partial: s.Partial}
	for _, e := range s.Endpoints {
		root := e.Root
		name, of := "$", e.Responses
		if place != "" {
			if root = e.At(place); root == nil {
				continue
			}
			name = root.Path()
			of = root.Total()
		}
		p := m.place(root, name, root.Total(), of)
		out.Endpoints = append(out.Endpoints, ShapeEndpoint{Name: e.Name, Responses: e.Responses, Captures: e.Files, Limits: nonNil(e.Capped), Root: p})
	}
	return out
}

// shapeKinds are the kinds that the view tells apart.
func shapeKind(c shape.Class) string {
	switch c.Kind {
	case wire.Number:
		if c.Facts&shape.Broken != 0 {
			return "fraction"
		}
		return "whole"
	case wire.String:
		switch {
		case c.Facts&shape.Empty != 0:
			return "empty string"
		case c.Facts&shape.IsDate != 0:
			return "date"
		case c.Facts&shape.IsNumber != 0:
			return "number in text"
		case c.Facts&shape.IsUUID != 0:
			return "uuid"
		}
	case wire.Array:
		return "list"
	}
	return c.Kind.String()
}

func (m maker) place(p *shape.Place, name string, present, of int64) *ShapePlace {
	out := &ShapePlace{Name: m.look(name), Place: m.look(p.Path()), Kinds: []ShapeKind{}, Present: present, Of: of}
	at := map[string]int{}
	var first *shape.Example
	for _, c := range p.Sorted() {
		kind := shapeKind(c.Class)
		i, ok := at[kind]
		if !ok {
			i = len(out.Kinds)
			at[kind] = i
			out.Kinds = append(out.Kinds, ShapeKind{Kind: kind})
		}
		out.Kinds[i].Values += c.Values
		out.Kinds[i].Responses = max(out.Kinds[i].Responses, c.Responses)
		if first == nil && len(c.Examples) > 0 && c.Class.Kind < wire.Array {
			first = &c.Examples[0]
		}
	}
	if p.Count(wire.Number) > 0 && p.Min < p.Max {
		out.Range = []float64{p.Min, p.Max}
	}
	secret := false
	for _, kind := range []wire.Kind{wire.String, wire.Number} {
		texts := p.SortedTexts(kind)
		if len(texts) > 12 || kind == wire.Number && len(texts) > 6 {
			continue
		}
		for _, t := range texts {
			literal := t.Literal
			if !m.Secrets {
				if literal = Mask(p.Steps, literal); literal != t.Literal {
					secret = true
				}
			}
			out.Values = append(out.Values, literal)
		}
	}
	for _, c := range p.Sorted() {
		if c.Class.Kind == wire.Bool {
			out.Values = append(out.Values, fmt.Sprint(c.Class.Facts&shape.True != 0))
		}
	}
	if secret || !telling(out.Values, p.Total()) {
		out.Values = nil
	}
	if first != nil {
		ex := m.example(*first)
		out.Example = &ex
	}
	objects := p.Count(wire.Object)
	for _, k := range p.Keys {
		if k.Name == markup.OrderKey || k.Name == markup.TextKey && onlyEmpty(k.Place) {
			continue // of an XML document: they say nothing of what is sent
		}
		child := m.place(k.Place, markup.ShowKey(k.Name), k.Objects, objects)
		child.Doubles = k.Doubles
		if markup.IsElement(k.Name) {
			child = asElement(child)
		}
		out.Children = append(out.Children, child)
	}
	if p.Member != nil {
		out.Children = append(out.Children, m.place(p.Member, "{*}", p.Member.Total(), objects))
	}
	if p.Elem != nil {
		out.Children = append(out.Children, m.place(p.Elem, "[*]", p.Elem.Total(), p.Count(wire.Array)))
	}
	return out
}

// onlyEmpty says whether nothing but empty texts were sent at a place.
func onlyEmpty(p *shape.Place) bool {
	for _, c := range p.Sorted() {
		if c.Class.Kind != wire.String || c.Class.Facts&shape.Empty == 0 {
			return false
		}
	}
	return true
}

// asElement is a list of elements as people think of it: what is in the elements, and how many there are; of elements
// that hold a text alone, what that is.
func asElement(list *ShapePlace) *ShapePlace {
	if len(list.Children) != 1 || list.Children[0].Name != "[*]" {
		return list
	}
	elem := list.Children[0]
	out := *elem
	out.Name, out.Place, out.Present, out.Of = list.Name, list.Place, list.Present, list.Of
	out.Elements = elem.Present
	if len(elem.Children) == 1 && elem.Children[0].Name == "text()" {
		text := elem.Children[0]
		out.Children, out.Kinds, out.Values, out.Example, out.Range = nil, text.Kinds, text.Values, text.Example, text.Range
		for _, k := range elem.Kinds {
			if k.Kind == "null" {
				out.Kinds = append(out.Kinds, k)
			}
		}
		return &out
	}
	for i, k := range out.Kinds {
		if k.Kind == "object" {
			out.Kinds[i].Kind = "element"
		}
	}
	if len(elem.Children) == 0 && len(out.Kinds) == 1 {
		out.Kinds[0].Kind = "empty element"
	}
	return &out
}

// telling says whether distinct values say more of a place than an example: they
// are short, or come again and again.
func telling(values []string, total int64) bool {
	length := 0
	for _, v := range values {
		length += len(v) + 1
	}
	return length <= 48 || length <= 120 && int64(len(values))*3 <= total
}

// shapeRow is a line of the view.
type shapeRow struct {
	name, kinds, presence, values string
	mixed                         bool
}

// Text writes a shape for people: a tree with, for each key, the kinds of its
// values, how often it is there, and what the values are.
func (s *Shape) Text(out io.Writer, style Style) error {
	w := &writer{Style: style}
	for _, e := range s.Endpoints {
		w.WriteString(w.paint(bold, Safe(e.Name)) + "  " + Plural(e.Responses, "response") + " in " + Plural(int64(e.Captures), "capture") + "\n")
		var rows []shapeRow
		rows = shapeRows(rows, e.Root, 0)
		var widths [3]int
		for _, r := range rows {
			for i, cell := range []string{r.name, r.kinds, r.presence} {
				widths[i] = max(widths[i], min(44, utf8.RuneCountInString(cell)))
			}
		}
		for _, r := range rows {
			line := "  " + cell(Safe(r.name), widths[0]) + "  "
			kinds := cell(r.kinds, widths[1])
			if r.mixed {
				kinds = w.paint(yellow, kinds)
			}
			presence := cell(r.presence, widths[2])
			if r.presence != "" && !strings.HasPrefix(r.presence, "×") {
				presence = w.paint(cyan, presence)
			}
			values := Safe(r.values)
			if room := style.Width - widths[0] - widths[1] - widths[2] - 9; style.Width > 0 && room > 8 {
				values = short(values, room)
			}
			w.WriteString(strings.TrimRight(line+kinds+"  "+presence+"  "+w.paint(faint, values), " ") + "\n")
		}
		for _, l := range e.Limits {
			w.line(2, yellow, Safe(l))
		}
		w.WriteString("\n")
	}
	w.line(0, "", fmt.Sprintf("%s, %s in %s", Plural(int64(len(s.Endpoints)), "endpoint"), Plural(s.Responses, "response"), Plural(int64(s.Captures), "capture")))
	if text := PassedText(s.Passed, "passed over: "); text != "" {
		w.line(0, "", Safe(text))
	}
	if s.Partial {
		w.line(0, yellow, "the run was interrupted: this is of what was read until then")
	}
	_, err := io.WriteString(out, w.String())
	return err
}

func shapeRows(rows []shapeRow, p *ShapePlace, depth int) []shapeRow {
	r := shapeRow{name: strings.Repeat("  ", depth) + p.Name}
	var kinds []string
	told := 0
	for _, k := range p.Kinds {
		text := k.Kind
		if len(p.Kinds) > 1 {
			text += " " + strconv.FormatInt(k.Values, 10)
		}
		kinds = append(kinds, text)
		if k.Kind != "null" {
			told++
		}
	}
	r.kinds, r.mixed = strings.Join(kinds, ", "), told > 1 || len(p.Kinds) > told
	switch {
	case p.Name == "[*]" || p.Name == "{*}":
		r.presence = "× " + strconv.FormatInt(p.Present, 10)
	case p.Present < p.Of:
		r.presence = fmt.Sprintf("in %d of %d", p.Present, p.Of)
	}
	if p.Elements > p.Present {
		r.presence = strings.TrimSpace("× " + strconv.FormatInt(p.Elements, 10) + "  " + r.presence)
	}
	if p.Doubles > 0 {
		r.presence = strings.TrimSpace(fmt.Sprintf("%s, twice %d times", r.presence, p.Doubles))
	}
	var values []string
	if len(p.Range) == 2 && len(p.Values) > 6 || len(p.Range) == 2 && len(p.Values) == 0 {
		values = append(values, fmt.Sprintf("%s to %s", number(p.Range[0]), number(p.Range[1])))
	}
	if len(p.Values) > 0 && len(values) == 0 {
		values = append(values, strings.Join(p.Values, " "))
	} else if p.Example != nil && p.Example.Value != "" && len(values) == 0 {
		if p.Example.Value != "null" {
			values = append(values, "e.g. "+p.Example.Value)
		}
	}
	r.values = strings.Join(values, ", ")
	rows = append(rows, r)
	for _, c := range p.Children {
		rows = shapeRows(rows, c, depth+1)
	}
	return rows
}

func number(f float64) string { return strconv.FormatFloat(f, 'g', 12, 64) }

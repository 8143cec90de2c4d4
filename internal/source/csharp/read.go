package csharp

import (
	"fmt"
	"maps"
	"slices"
	"strings"

	"vetta/internal/code"
	"vetta/internal/model"
	"vetta/internal/source/scan"
)

// Read reads the files of some projects; building are those that say how they are built.
func Read(files, building []scan.Source) *model.Set {
	set := &model.Set{Files: len(files)}
	units := make([]*code.Unit, len(files))
	scanned := make([]*scan.File, len(files))
	passed := make([][]branch, len(files))
	texts := map[string]string{}
	scan.Each(len(files), func(i int) {
		f := files[i]
		f.Text, passed[i] = directives(f.Text)
		cut := f.Scan(dialect)
		units[i] = Parse(cut)
		units[i].Module = f.Module
		cut.Free()
		scanned[i] = cut
	})
	for i, f := range files {
		set.Bytes += int64(len(f.Text))
		set.Problems = append(set.Problems, scanned[i].Problems...)
		texts[f.Name] = strings.TrimPrefix(f.Text, "\ufeff")
		for _, b := range passed[i] {
			set.PassedOver = append(set.PassedOver, model.Problem{Pos: model.Pos{File: f.Name, Line: int32(b.line), Col: 1}, Reason: fmt.Sprintf("#if %s does not hold in what is released", b.condition)})
		}
	}
	p := newProject(units, texts, builtBy(building))
	set.Runs = map[string]any{"csharp": p.world}
	p.link(set)
	return set
}

// standIns are the attributes that name classes which may be sent in the place of another.
var standIns = words(`JsonDerivedType XmlInclude KnownType XmlElement XmlArrayItem`)

// stoodFor visits the classes that attributes name as what may be sent.
func stoodFor(marks model.Annotated, each func(*model.Type)) {
	for i := range marks {
		if !standIns[marks[i].Name] {
			continue
		}
		for _, a := range marks[i].Args {
			for _, t := range a.Types {
				each(t)
			}
		}
	}
}

// link makes models of the types that the source decodes, or that a library's attributes mark; of all that look like
// data where it decodes nothing.
func (p *project) link(set *model.Set) {
	set.Calls = p.calls(p.texts)
	p.fill()
	wanted := map[*model.Model]bool{}
	var want func(m *model.Model)
	want = func(m *model.Model) {
		if m == nil || wanted[m] {
			return
		}
		wanted[m] = true
		p.fill()
		each := func(t *model.Type) {
			t.Walk(func(t *model.Type) { want(t.Model) })
		}
		each(m.Super)
		each(m.Collection)
		for _, f := range m.Fields {
			if !f.Static {
				each(f.Type)
			}
		}
		stoodFor(m.Marks, each)
		for _, f := range m.Fields {
			stoodFor(f.Marks, each)
		}
	}
	called := false
	wants := func(c *model.Call) {
		called = true
		c.Type.Walk(func(t *model.Type) { want(t.Model) })
	}
	isByHand := func(c *model.Call) bool { return c.Settings != nil && c.Settings.Library == byOwnCode }
	for _, c := range set.Calls {
		if c.Type != nil && !isUnmeasured(c) && !isByHand(c) {
			wants(c)
		}
	}
	set.Calls = readByHand(set.Calls, wanted)
	for _, c := range set.Calls {
		if c.Type != nil && isByHand(c) {
			wants(c)
			c.Type.Walk(func(t *model.Type) { // the code may make what extends it
				if d := p.of[t.Model]; d != nil {
					for _, e := range p.naming(d) {
						want(p.modelOf(e))
					}
				}
			})
		}
	}
	decoded := maps.Clone(wanted)
	for _, c := range set.Calls { // of readers whose rules are not known
		if c.Type != nil && isUnmeasured(c) {
			called = true
			before := maps.Clone(wanted)
			c.Type.Walk(func(t *model.Type) { want(t.Model) })
			for m := range wanted {
				if !before[m] && m.Kind != model.Enum {
					m.Reading, m.Why, m.WhyPos = model.Unfollowed, c.Settings.Why, c.Pos
				}
			}
		}
	}
	for _, d := range p.order {
		if p.looksLikeData(d, called) {
			want(p.modelOf(d))
		}
	}
	p.fill()
	p.byHand(decoded)
	p.fill()
	for _, d := range p.order {
		if d.model != nil && wanted[d.model] {
			set.Models = append(set.Models, d.model)
		}
	}
	slices.SortStableFunc(set.Models, func(a, b *model.Model) int { return before(a.Pos, b.Pos) })
	slices.SortStableFunc(set.Calls, func(a, b *model.Call) int { return before(a.Pos, b.Pos) })
	set.Others = func(name string) *model.Model {
		for _, d := range p.order {
			if d.name == name || d.full() == name {
				m := p.modelOf(d)
				p.fill()
				return m
			}
		}
		return nil
	}
	set.OtherNames = func() (names []string) {
		for _, d := range p.order {
			names = append(names, d.name)
		}
		slices.Sort(names)
		return names
	}
}

// looksLikeData says whether a type is taken for a model though nothing is seen to decode it: one that a library's
// attributes mark, or where nothing decodes anything, one that holds values and does little else.
func (p *project) looksLikeData(d *declared, called bool) bool {
	if d.has("static") || d.kind() == "interface" {
		return false
	}
	for _, c := range d.parts {
		for _, prop := range c.Props {
			for _, mark := range prop.Marks {
				switch strings.TrimSuffix(model.SimpleName(mark.Args[0].Text), "Attribute") {
				case "JsonPropertyName", "JsonProperty", "DataMember":
					return !called || !p.isKept(d)
				}
			}
		}
	}
	if called || p.isMadeOf(d) {
		return false
	}
	values := 0
	for _, c := range d.parts {
		for _, prop := range c.Props {
			if !prop.Static && slices.Contains(prop.Mods, "public") {
				values++
			}
		}
		for _, fn := range c.Funcs {
			if isPrimary(fn) && strings.HasPrefix(d.kind(), "record") {
				values += len(fn.Params)
			}
		}
	}
	return values > 0
}

// isMadeOf says whether a type has a function of its own that makes it of another type of the source: what a screen
// shows, made of a response.
func (p *project) isMadeOf(d *declared) bool {
	for _, c := range d.parts {
		for _, fn := range c.Funcs {
			if !fn.Static || len(fn.Params) != 1 || fn.Returns == nil || model.SimpleName(fn.Returns.Name) != c.Name || fn.Params[0].Type == nil {
				continue
			}
			if of := p.find(fn.Params[0].Type.Unwrapped().Name, 0, c.File, d.space, d); of != nil && of != d {
				return true
			}
		}
	}
	return false
}

// isKept says whether a type is a row of a database: it is marked as such.
func (p *project) isKept(d *declared) bool {
	for _, c := range d.parts {
		for _, mark := range c.Marks {
			if strings.TrimSuffix(model.SimpleName(mark.Args[0].Text), "Attribute") == "Table" {
				return true
			}
		}
	}
	return false
}

func before(a, b model.Pos) int {
	if c := strings.Compare(a.File, b.File); c != 0 {
		return c
	}
	if a.Line != b.Line {
		return int(a.Line - b.Line)
	}
	return int(a.Col - b.Col)
}

// ParseType reads a type as the language writes it, its names not yet resolved; nil if the text is none.
func ParseType(text string) *model.Type {
	p := &parser{Cursor: scan.Cursor{F: scan.Scan("", text, dialect)}}
	t := p.typ()
	if t == nil || p.Kind() != scan.EOF {
		return nil
	}
	return (&project{units: nil}).resolve(t, scope{})
}

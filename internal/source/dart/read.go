package dart

import (
	"cmp"
	"maps"
	"slices"
	"strings"

	"vetta/internal/code"
	"vetta/internal/code/run"
	"vetta/internal/model"
	"vetta/internal/source/scan"
	"vetta/internal/wire"
)

// Library is the name of what decodes in settings: the code of the app.
const Library = "dart"

// Read reads the files of an app; builds say what it is built for.
func Read(files, builds []scan.Source) *model.Set {
	set := &model.Set{Files: len(files)}
	units := make([]*code.Unit, len(files))
	scanned := make([]*scan.File, len(files))
	scan.Each(len(files), func(i int) {
		f := files[i].Scan(dialect)
		units[i] = Parse(f)
		units[i].Module = files[i].Module
		f.Free()
		scanned[i] = f
	})
	for i, f := range files {
		set.Bytes += int64(len(f.Text))
		set.Problems = append(set.Problems, scanned[i].Problems...)
	}
	byModule := map[string][]*code.Unit{}
	var modules []string
	for _, u := range units {
		if byModule[u.Module] == nil {
			modules = append(modules, u.Module)
		}
		byModule[u.Module] = append(byModule[u.Module], u)
	}
	slices.Sort(modules)
	for _, module := range modules {
		read(set, byModule[module])
	}
	onWeb(set, builds)
	slices.SortStableFunc(set.Models, func(a, b *model.Model) int { return before(a.Pos, b.Pos) })
	slices.SortStableFunc(set.Calls, func(a, b *model.Call) int { return before(a.Pos, b.Pos) })
	return set
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

// reading is one app that is read.
type reading struct {
	set     *model.Set
	program *run.Program
	machine *run.Machine
	parts   *parts
	models  map[*code.Class]*model.Model
	all     map[string][]*code.Class
}

func read(set *model.Set, units []*code.Unit) {
	parts := newParts(units)
	p := run.NewProgram(parts.units)
	r := &reading{set: set, parts: parts, program: p, machine: run.New(p), models: map[*code.Class]*model.Model{}, all: map[string][]*code.Class{}}
	var classes []*code.Class
	for _, u := range p.Units() {
		for _, c := range u.Classes {
			if c.Kind == "extension" || c.Name == "" {
				continue
			}
			r.all[c.Name] = append(r.all[c.Name], c)
			classes = append(classes, c)
		}
	}
	called := r.calls()
	for _, c := range classes {
		fn := r.machine.Reader(c)
		if fn == nil || isGenerated(c) || c.Kind == "enum" {
			continue
		}
		// Where calls say what is decoded, what reads the rows of a table is told by its name.
		if !called || strings.HasPrefix(strings.ToLower(fn.Name), "fromjson") {
			r.model(c)
		}
	}
	r.reaches()
	p.Forget()
	others := func(name string) *model.Model {
		if all := r.all[name]; len(all) == 1 {
			return r.model(all[0])
		}
		return nil
	}
	set.Also(&model.Set{Others: others, OtherNames: func() []string {
		var names []string
		for name := range r.all {
			names = append(names, name)
		}
		slices.Sort(names)
		return names
	}})
}

// calls notes the functions that decode a response, and says whether there are any.
func (r *reading) calls() (any bool) {
	for _, e := range run.Entries(r.program) {
		if e.Type == nil {
			continue
		}
		any = true
		t := r.typeOf(e.Type)
		s := &model.Settings{Library: Library, Pos: e.Fn.Pos, Entry: e}
		c := &model.Call{
			Pos: e.Fn.Pos, Type: t, Declared: t.Written(), Settings: s, Language: Library,
			Endpoint: e.Request.Path, Method: e.Request.Method, Within: e.Within, Way: passed(e.Request.Way),
		}
		some := r.picked(e.Fn)
		if _, is := some[elementOf(e.Type)]; !is {
			r.set.Calls = append(r.set.Calls, c)
		}
		for _, class := range slices.SortedFunc(maps.Keys(some), func(a, b *code.Class) int { return cmp.Compare(a.Name, b.Name) }) {
			own := *c
			own.Type = r.typeOf(run.TypeOf(class))
			own.Declared, own.Part, own.Picked = own.Type.Written(), some[class]+" "+class.Name, true
			r.set.Calls = append(r.set.Calls, &own)
		}
	}
	return any
}

// passed is the way of a call, none where it decodes on the spot.
func passed(way []model.Through) []model.Through {
	if len(way) < 2 {
		return nil
	}
	return way
}

// reaches notes the keys by which the app reaches into fields that no class says more of.
func (r *reading) reaches() {
	fields := map[*code.Prop]*model.Field{}
	var props []*code.Prop
	for c, m := range r.models {
		for _, f := range m.Fields {
			if f.Reading != model.ByCode || len(f.Deep) == 0 || !isOpen(f.Type) {
				continue
			}
			for _, p := range c.Props {
				if p.Name == f.Name && !p.Static {
					fields[p] = f
					props = append(props, p)
				}
			}
		}
	}
	slices.SortFunc(props, func(a, b *code.Prop) int { return before(a.Pos, b.Pos) })
	if len(props) == 0 {
		return
	}
	for _, reached := range run.Reaches(r.program, props) {
		f := fields[reached.Prop]
		f.Reached = append(f.Reached, model.Reach{Path: stepsOf(reached.Path), Pos: reached.Pos, Instead: reached.Instead})
	}
	for _, f := range fields {
		slices.SortStableFunc(f.Reached, func(a, b model.Reach) int { return before(a.Pos, b.Pos) })
	}
}

// isOpen says whether no class tells what is in a value of a type.
func isOpen(t *model.Type) bool {
	switch t = t.Unwrapped(); t.Kind {
	case model.List, model.Map:
		return len(t.Args) == 0 || isOpen(t.Args[len(t.Args)-1])
	}
	return t.Model == nil && (t.Name == "dynamic" || t.Name == "Object")
}

func stepsOf(path []*run.Place) (steps []wire.Step) {
	for _, p := range path {
		switch p.Kind {
		case run.Member:
			steps = append(steps, wire.MemberOf(p.Name))
		case run.Any, run.Key:
			steps = append(steps, wire.Step{Index: wire.AnyMember})
		default:
			steps = append(steps, wire.Step{Index: wire.AnyElement})
		}
	}
	return steps
}

// isGenerated says whether a class is one that a generator writes beside another.
func isGenerated(c *code.Class) bool {
	return strings.HasPrefix(c.Name, "_$") || strings.HasPrefix(c.Name, "_")
}

// model is what a class declares, and what its reader makes of a document.
func (r *reading) model(c *code.Class) *model.Model {
	if of := r.parts.alone[c]; of != nil {
		c = of
	}
	if m := r.models[c]; m != nil {
		return m
	}
	m := &model.Model{
		Name: c.Name, Language: "dart", Kind: model.Class, Pos: c.Pos, Params: c.Generics, Abstract: c.Abstract,
		Decodable: true, FromMap: true, Reading: model.ByCode, Source: &run.Declared{Program: r.program, Class: c, Model: func(c *code.Class) any { return r.model(c) }}, Library: Library,
	}
	r.models[c] = m
	r.set.Models = append(r.set.Models, m)
	if c.Kind == "enum" {
		m.Kind = model.Enum
		for _, name := range c.Order {
			m.Cases = append(m.Cases, &model.Case{Name: name, Pos: c.Pos})
		}
		return m
	}
	fn := r.machine.Reader(c)
	var o *run.Object
	if fn != nil {
		s := r.machine.SurveyOf(fn, run.TypeOf(c))
		r.standsFor(c, s)
		switch o = s.Object; {
		case s.Lost != "":
			m.Reading, m.Why, m.WhyPos = model.Unfollowed, s.Lost, fn.Pos
		case o == nil:
			m.Reading, m.Why, m.WhyPos = model.Unfollowed, "what "+fn.Name+" makes is not followed", fn.Pos
		}
	}
	stale := r.parts.stale(c, r.machine)
	if why := r.parts.unknown[c]; why != "" && m.Reading == model.Unfollowed {
		m.Why = "its generated part is missing, and what it would be is not known: " + why
	}
	if o == nil {
		o = &run.Object{Type: run.TypeOf(c), Fields: map[string]*run.Value{}}
	}
	for _, f := range r.machine.FieldsOf(o) {
		of := r.field(f)
		if o.Type.Class != c { // of the class that a generator writes for it
			of.Pos = declaredAt(c, of)
		}
		of.Stale = stale[of.Name]
		m.Fields = append(m.Fields, of)
	}
	return m
}

// standsFor notes that a class whose reader hands out an instance of another one stands for that: the class that a generator
// writes behind a factory constructor.
func (r *reading) standsFor(c *code.Class, s *run.Survey) {
	o := s.Object
	if o != nil && o.Type.Class != nil && o.Type.Class != c && r.models[o.Type.Class] == nil && strings.HasPrefix(o.Type.Class.Name, "_") {
		r.parts.alone[o.Type.Class] = c
	}
}

// declaredAt is where a class declares a property as a parameter of a factory constructor; where it does not, it is where
// the property stands.
func declaredAt(c *code.Class, f *model.Field) model.Pos {
	for _, fn := range c.Funcs {
		if !fn.Factory || fn.Redirect == nil {
			continue
		}
		for _, param := range fn.Params {
			if param.Name == f.Name {
				return param.Pos
			}
		}
	}
	return f.Pos
}

func (r *reading) field(f run.Field) *model.Field {
	out := &model.Field{Name: f.Prop.Name, Pos: f.Prop.Pos, Reading: model.ByCode, Final: f.Prop.Final}
	if f.Prop.Type != nil {
		out.Type, out.Declared = r.link(f.Prop.Type, f.In), f.Prop.Type.Written()
	} else {
		out.Type = &model.Type{Kind: model.Named, Name: "dynamic"}
		out.Declared = "dynamic"
	}
	for _, p := range f.From {
		if path := p.Path(); len(path) > 0 && path[0].Kind == run.Member && !slices.Contains(out.Keys, path[0].Name) {
			out.Keys = append(out.Keys, path[0].Name)
		}
	}
	if at := outermost(f.From); at != nil {
		for _, step := range at.Path() {
			if step.Kind != run.Member {
				break
			}
			out.Deep = append(out.Deep, step.Name)
		}
	}
	if len(f.From) == 0 {
		out.Reading, out.Why = model.Never, "the code gives it no value of the response"
	}
	return out
}

// outermost is the one of some places that all others are in, nil where there is none.
func outermost(places []*run.Place) *run.Place {
	for _, at := range places {
		if !slices.ContainsFunc(places, func(p *run.Place) bool { return !p.Within(at) }) {
			return at
		}
	}
	return nil
}

// link is a type with what its names mean.
func (r *reading) link(t *model.Type, in *run.Type) *model.Type {
	return r.typeOf(r.machine.Resolve(t, in))
}

// typeOf is a type at run time as the source declares it.
func (r *reading) typeOf(t *run.Type) *model.Type {
	if t == nil {
		return &model.Type{Kind: model.Named, Name: "dynamic", Linked: true}
	}
	if t.Null && t.Name != "void" && t.Name != "Null" {
		solid := *t
		solid.Null = false
		return model.OptionalOf(r.typeOf(&solid))
	}
	out := &model.Type{Kind: model.Named, Name: t.Name, Linked: true}
	for _, a := range t.Args {
		out.Args = append(out.Args, r.typeOf(a))
	}
	switch t.Name {
	case "List", "Iterable":
		out.Kind, out.Name = model.List, ""
	case "Set":
		out.Kind, out.Name = model.Unique, ""
	case "Map":
		out.Kind, out.Name = model.Map, ""
	case "Function":
		out.Kind = model.Opaque
	}
	if t.Class != nil {
		out.Model = r.model(t.Class)
	}
	return out
}

// ParseType reads a type as the language writes it, its names not yet resolved; nil if the text is none.
func ParseType(text string) *model.Type {
	p := &parser{Cursor: scan.Cursor{F: scan.Scan("", text, dialect)}}
	t := p.typ()
	if t == nil || p.Kind() != scan.EOF {
		return nil
	}
	return collections(t)
}

// collections is a type with lists, sets and maps told apart from classes.
func collections(t *model.Type) *model.Type {
	for i, a := range t.Args {
		t.Args[i] = collections(a)
	}
	if t.Kind == model.Named {
		kind, n := model.Named, len(t.Args)
		switch t.Name {
		case "List", "Iterable":
			kind = model.List
		case "Set":
			kind = model.Unique
		case "Map":
			kind = model.Map
		}
		if kind != model.Named && n > 0 {
			t.Kind, t.Name = kind, ""
		}
	}
	return t
}

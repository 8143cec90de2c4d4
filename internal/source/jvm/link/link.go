// Package link makes models of what the files of a project in Kotlin and Java declare.
package link

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"vetta/internal/model"
	"vetta/internal/source/jvm"
	"vetta/internal/source/jvm/asks"
	"vetta/internal/source/jvm/byhand"
	"vetta/internal/source/scan"
)

// Link makes models of what files declare: of the classes that code decodes, that
// annotations of a library mark, or that hold nothing but data; and of those that
// these lead to. builds are the files that say how the project is built.
func Link(files []*jvm.File, builds []scan.Source) *model.Set {
	set := &model.Set{Files: len(files)}
	p := jvm.NewProject(files)
	p.Filling = func(c *jvm.Class) { fill(p, c) }
	p.Builds = builds
	all := make([]*jvm.Class, 0, p.Size)
	for _, f := range files {
		set.Problems = append(set.Problems, f.Problems...)
		set.Bytes += int64(len(f.Src))
		all = append(all, f.Models...)
	}
	set.Calls, set.Sends = asks.Calls(p)
	for _, call := range set.Calls {
		told(p, call.Settings)
	}
	versions(p, set.Calls)
	set.Calls = append(set.Calls, want(p, all, set.Calls)...)
	wantSent(p, set.Sends)
	lent := lenders(set.Calls)
	for _, c := range all {
		if c.Wanted && !lent[c.Model] {
			set.Models = append(set.Models, c.Model)
			complete(p, c.Model)
		}
	}
	set.Others = func(name string) *model.Model {
		p.Asking.Lock()
		defer p.Asking.Unlock()
		for _, c := range all {
			if full := c.FullName(); full == name || c.Name == name || c.Package != "" && c.Package+"."+full == name {
				complete(p, c.Model)
				return c.Model
			}
		}
		return nil
	}
	set.OtherNames = func() (names []string) {
		for _, c := range all {
			names = append(names, c.FullName())
		}
		return names
	}
	byPos := func(a, b *model.Model) int { return comparePos(a.Pos, b.Pos) }
	if !slices.IsSortedFunc(set.Models, byPos) { // as it mostly is
		slices.SortStableFunc(set.Models, byPos)
	}
	return set
}

// lenders are the classes that lend others their annotations, and that nothing is decoded into.
func lenders(calls []*model.Call) map[*model.Model]bool {
	lent := map[*model.Model]bool{}
	for _, call := range calls {
		if call.Settings != nil {
			for _, x := range call.Settings.MixIns {
				lent[x.By] = true
			}
		}
	}
	for _, call := range calls {
		if call.Type != nil && len(lent) > 0 {
			call.Type.Walk(func(t *model.Type) { delete(lent, t.Model) })
		}
	}
	return lent
}

// versions says what version of Jackson reads what Kotlin calls it for, as its Kotlin module goes by that.
func versions(p *jvm.Project, calls []*model.Call) {
	type of struct {
		settings *model.Settings
		version  model.Option
	}
	known := map[of]*model.Settings{}
	released := map[string]model.Option{}
	modules := map[string]string{}
	for _, f := range p.Files {
		modules[f.Name] = f.Module
	}
	for _, call := range calls {
		if call.Language != "kotlin" || call.Settings == nil || call.Settings.Library != "jackson" {
			continue
		}
		module := modules[call.Pos.File]
		version, ok := released[module]
		if !ok {
			version = p.Release(module, "jackson-module-kotlin", "jackson-bom", "jackson-databind", "jackson-core")
			released[module] = version
		}
		if version.Value == "" {
			continue
		}
		key := of{call.Settings, version}
		if known[key] == nil {
			said := *call.Settings
			said.Version = version
			known[key] = &said
		}
		call.Settings = known[key]
	}
}

// told completes what a decoder is told of: the types that its adapters make and read, and the families.
func told(p *jvm.Project, s *model.Settings) {
	eachTold(s, func(t *model.Type) {
		t.Walk(func(t *model.Type) {
			if t.Model != nil {
				complete(p, t.Model)
			}
		})
	})
}

// eachTold calls visit for the types that a decoder is told of.
func eachTold(s *model.Settings, visit func(*model.Type)) {
	if s == nil {
		return
	}
	for _, a := range s.Adapters {
		visit(a.Of)
		visit(a.Reads)
		for _, t := range a.Delegates {
			visit(t)
		}
	}
	for _, x := range s.MixIns {
		visit(&model.Type{Kind: model.Named, Name: x.By.Name, Model: x.By})
	}
	for _, f := range s.Families {
		visit(f.Of)
		for _, m := range f.Members {
			visit(m.Type)
		}
		if f.Otherwise != nil {
			visit(f.Otherwise.Type)
		}
	}
}

// comparePos orders positions by file, then by place.
func comparePos(a, b model.Pos) int {
	return cmp.Or(strings.Compare(a.File, b.File), cmp.Compare(a.Line, b.Line), cmp.Compare(a.Col, b.Col))
}

var kinds = map[string]model.Kind{"class": model.Class, "interface": model.Interface, "enum": model.Enum, "record": model.Record, "object": model.Object}

// complete fills a model and all that it leads to.
func complete(p *jvm.Project, m *model.Model) {
	p.Lead(m)
	for len(p.Due) > 0 {
		last := len(p.Due) - 1
		c := p.Due[last]
		p.Due = p.Due[:last]
		fill(p, c)
	}
}

// fill makes the model of a class, once.
func fill(p *jvm.Project, c *jvm.Class) {
	if c.Filled {
		return
	}
	c.Filled = true
	c.Read()
	m := c.Model
	m.Kind = kinds[c.Kind]
	m.Abstract = m.Abstract || c.Kind == "interface"
	m.Private = c.Access == model.Private
	m.Decodable, m.Reading = true, model.ByLibrary
	m.Related = func(name string) *model.Model {
		p.Asking.Lock() // models are completed as they are asked for
		defer p.Asking.Unlock()
		if found := p.Find(c.File, c, name); found != nil {
			complete(p, found.Model)
			return found.Model
		}
		return nil
	}
	jvm.Lombok(c)
	if c.File.Language == "kotlin" && c.File.Mentions&jvm.Creators != 0 {
		addFactories(c)
	}
	m.Ctors = c.Ctors
	if c.AllDefaults {
		m.Ctors = append(m.Ctors, &model.Method{Name: c.Name, Access: model.Public, Defaults: true, Pos: c.Pos})
	}
	if !c.Static && c.Outer != nil && c.Kind == "class" {
		outer := &model.Parameter{Name: "this", Type: &model.Type{Kind: model.Opaque}}
		if len(m.Ctors) == 0 {
			m.Ctors = []*model.Method{{Name: c.Name, Pos: c.Pos}}
		}
		for _, k := range m.Ctors {
			k.Params = append([]*model.Parameter{outer}, k.Params...)
			k.Fills = append([]string{""}, k.Fills...)
		}
	}
	var params map[string]bool
	for o := c; o != nil; o = o.Outer {
		for _, name := range o.Params {
			if params == nil {
				params = map[string]bool{}
			}
			params[name] = true
		}
	}
	resolve := func(t *model.Type) { p.Resolve(c.File, c, params, t) }
	if c.Super != nil {
		p.Resolve(c.File, c.Outer, params, c.Super)
		if c.Super.Model != nil {
			m.Super = c.Super
		} else {
			m.Conforms = append(m.Conforms, c.Super.Name)
		}
	}
	for _, t := range c.Implements {
		p.Resolve(c.File, c.Outer, params, t)
		if d := jvm.ClassOf(t.Model); d != nil && d.Kind == "class" && c.Super == nil && m.Language == "kotlin" { // Kotlin's, which secondary constructors call
			c.Super, m.Super = t, t
		}
		m.Conforms = append(m.Conforms, t.Name)
	}
	p.Told(c, c.Marks)
	m.Adapter = serializer(p, c, c.Marks)
	if checks := asks.Checks(p, c); checks != nil {
		m.Init = checks
	}
	for _, k := range c.Cases {
		p.Told(c, k.Marks)
		for i, l := range k.Args {
			k.Args[i] = p.Literal(c, l)
		}
	}
	keys := make([]string, len(c.Fields))
	for i, f := range c.Fields {
		resolve(f.Type)
		p.Told(c, f.Marks)
		p.Told(c, f.Elsewhere)
		if f.Adapter = serializer(p, c, f.Marks); f.Adapter == nil {
			f.Adapter = serializer(p, c, f.Elsewhere)
		}
		f.Default = p.Literal(c, f.Default)
		keys[i] = f.Name
		f.Keys = keys[i : i+1 : i+1]
	}
	for _, all := range [][]*model.Method{c.Methods, m.Ctors} {
		for _, f := range all {
			own := params
			resolve(f.Returns)
			p.Told(c, f.Marks)
			for _, a := range f.Params {
				p.Told(c, a.Marks)
				p.Resolve(c.File, c, own, a.Type)
			}
		}
	}
	if c.Inline && len(c.Fields) == 1 {
		m.Inline = c.Fields[0].Type
	}
	if m.Library = c.Library; m.Library == "" {
		m.Library = c.File.ImportedLibrary()
	}
	if m.Library == "" {
		m.Library, m.Assumed = p.Built(c.File.Module)
	}
	if m.Sealed {
		for _, sub := range p.Extending(c) {
			sub.FullName()
			sub.Package, sub.Language, sub.Source = sub.File.Package, sub.File.Language, sub
			fill(p, sub)
			m.Subs = append(m.Subs, sub.Model)
		}
	}
	s := c.Site
	var by *model.Method
	if len(p.Mentioning(jvm.Parsed)) > 0 {
		by = jvm.ByHand(c)
	}
	if by != nil || s != nil {
		var steps []model.Step
		var why, name string
		var at model.Pos
		var ok bool
		if s != nil {
			name = s.Called
			steps, why, at, ok = byhand.FollowSite(p, c, s)
		} else {
			name = by.Name
			steps, why, at, ok = byhand.Follow(p, c, by)
		}
		m.Library, m.FromMap = "orgjson", true
		if ok {
			m.Reading, m.Steps = model.ByCode, steps
			fieldsByCode(m)
			model.WalkSteps(steps, func(_ string, e *model.Expr) {
				e.Type.Walk(func(t *model.Type) { p.Lead(t.Model) })
			})
		} else {
			m.Reading, m.WhyPos = model.Unfollowed, at
			m.Why = name + "(…) reads it by code that is not followed: " + why
		}
	}
}

// serializer is what annotations say that reads in the library's place, nil for nothing.
func serializer(p *jvm.Project, in *jvm.Class, marks model.Annotated) *model.Adapter {
	mark := marks.Find("Serializable")
	name := mark.Text("with", mark.Text("value", marks.Find("JsonAdapter").Text("value", marks.Find("JsonDeserialize").Text("using", ""))))
	if name == "" {
		return nil
	}
	a := asks.Serializer(p, in, name)
	if a != nil && a.Of != nil {
		a.Of.Walk(func(t *model.Type) { p.Lead(t.Model) })
	}
	return a
}

// addFactories gives a class of Kotlin the methods of its companion that annotations say make
// instances of it.
func addFactories(c *jvm.Class) {
	for _, n := range c.Nested {
		if n.Kind != "object" {
			continue
		}
		n.Read()
		for _, f := range n.Methods {
			if f.Marks.Find("JsonCreator") != nil && f.Marks.Find("JvmStatic") != nil {
				static := *f
				static.Static, static.Opaque = true, true
				c.Methods = append(c.Methods, &static)
			}
		}
	}
}

// fieldsByCode notes of each field of a model which keys the code reads it from.
func fieldsByCode(m *model.Model) {
	keys := map[string][]string{}
	model.WalkSteps(m.Steps, func(field string, e *model.Expr) {
		if e.Op == model.OpAt && field != "" && !slices.Contains(keys[field], e.Key) {
			keys[field] = append(keys[field], e.Key)
		}
	})
	assigned := map[string]bool{}
	unknown := map[string]*model.Expr{}
	model.WalkSteps(m.Steps, func(field string, e *model.Expr) {
		assigned[field] = true
		if e.Op == model.OpUnknown && e.Why != "" && unknown[field] == nil {
			unknown[field] = e
		}
	})
	for _, f := range m.Fields {
		f.Keys, f.Reading = keys[f.Name], model.ByCode
		switch e := unknown[f.Name]; {
		case e != nil:
			f.Reading, f.Why = model.Unfollowed, fmt.Sprintf("%s (%s)", e.Why, e.Pos)
		case !assigned[f.Name]:
			f.Reading = model.Never
			f.Why = "the code assigns nothing to it"
		}
	}
}

// Package typescript reads model source in TypeScript: interfaces, aliases, classes, enums and namespaces over modules,
// works out the types that they declare, and finds where the app takes a response for one.
package typescript

import (
	"path"
	"slices"
	"strings"

	"vetta/internal/model"
	"vetta/internal/source/scan"
	"vetta/internal/types"
)

// Extensions are the endings of files in TypeScript.
var Extensions = []string{".ts", ".tsx", ".mts", ".cts", ".vue", ".svelte", ".js", ".jsx", ".mjs"}

// Generated are the endings of what is bundled.
var Generated = []string{".min.js", ".bundle.js"}

// Read reads the files of some projects; builds are those that say how they are compiled.
func Read(files, builds []scan.Source) *model.Set {
	files = slices.DeleteFunc(slices.Clone(files), func(f scan.Source) bool { return isScript(f.Name) && !hasTypes(f.Text) })
	set := &model.Set{Files: len(files)}
	units := make([]*unit, len(files))
	scan.Each(len(files), func(i int) {
		u := &unit{file: slashes(files[i].Name), module: files[i].Module, src: strings.TrimPrefix(files[i].Text, "\ufeff")}
		switch strings.ToLower(path.Ext(u.file)) {
		case ".tsx", ".jsx", ".js":
			parse(u, true)
		case ".vue", ".svelte":
			u.src = scripts(u.src)
			parse(u, false)
		default:
			parse(u, false)
		}
		units[i] = u
	})
	for i := range files {
		if units[i].problem != nil {
			set.Problems = append(set.Problems, *units[i].problem)
		}
		set.Bytes += int64(len(files[i].Text))
	}
	p := newProject(units, builds)
	p.eval = newEvaluator(p)
	p.models(set)
	return set
}

// models makes models of the types that the app takes responses for; of all that look like data where it takes none for
// any.
func (p *project) models(set *model.Set) {
	v := p.eval
	set.Calls = p.calls()
	v.fill()
	wanted := map[*model.Model]bool{}
	var want func(m *model.Model)
	want = func(m *model.Model) {
		if m == nil || wanted[m] {
			return
		}
		wanted[m] = true
		v.fill()
		each := func(t *model.Type) { t.Walk(func(t *model.Type) { want(t.Model) }) }
		each(m.Super)
		each(m.Collection)
		for _, f := range m.Fields {
			each(f.Type)
		}
	}
	called := false
	for _, c := range set.Calls {
		if c.Type != nil {
			called = true
			c.Type.Walk(func(t *model.Type) { want(t.Model) })
			if late, ok := c.Type.Exact.(*types.Late); ok {
				v.toModel(late.Of(nil), types.Written(c.Type)).Walk(func(t *model.Type) { want(t.Model) })
			}
		}
	}
	if !called {
		for _, parts := range p.declared() {
			if !looksLikeData(parts) {
				continue
			}
			if t, reads := p.ownReader(parts[0]); reads {
				if t != nil {
					want(t.Model)
				}
				continue
			}
			want(v.modelOf(parts))
		}
	}
	v.fill()
	for m := range wanted {
		if len(m.Fields) > 0 || m.Kind == model.Enum || m.Reading == model.Unfollowed {
			set.Models = append(set.Models, m)
		}
	}
	slices.SortStableFunc(set.Models, func(a, b *model.Model) int {
		if c := before(a.Pos, b.Pos); c != 0 {
			return c
		}
		return strings.Compare(a.Name, b.Name)
	})
	slices.SortStableFunc(set.Calls, func(a, b *model.Call) int { return before(a.Pos, b.Pos) })
	set.Others = func(name string) *model.Model {
		for _, parts := range p.declared() {
			if parts[0].name == name || parts[0].in.name+"."+parts[0].name == name {
				m := v.modelOf(parts)
				v.fill()
				return m
			}
		}
		for _, u := range p.units {
			for _, d := range u.decls {
				if d.what == isValue && d.name == name && v.schemaOf(d) != nil {
					m := v.modelOfSchema(d)
					v.fill()
					return m
				}
			}
		}
		return nil
	}
	set.OtherNames = func() (all []string) {
		for _, parts := range p.declared() {
			all = append(all, parts[0].name)
		}
		slices.Sort(all)
		return all
	}
}

// ownReader is what code of a class reads of a value that has no type, to make an instance: nil where that is not
// followed; reads says that there is such code.
func (p *project) ownReader(d *decl) (t *model.Type, reads bool) {
	if d.what != isClass || p.eval.program == nil {
		return nil, false
	}
	for _, c := range p.eval.program.Classes[d.name] {
		if c.File != d.unit.file {
			continue
		}
		for _, fn := range c.Funcs {
			makes := fn.Init || fn.Static && fn.Returns != nil && fn.Returns.Unwrapped().Name == c.Name
			if !makes || len(fn.Params) != 1 || fn.Params[0].Type == nil || !untyped(fn.Params[0].Type) {
				continue
			}
			if t := (&flow{p: p, program: p.eval.program}).readBy(fn, 0); t != nil {
				return t, true
			}
			reads = true
		}
	}
	return nil, reads
}

// declared are the types that the files declare outside of functions, the parts of one together.
func (p *project) declared() (all [][]*decl) {
	seen := map[*decl]bool{}
	for _, u := range p.units {
		for _, d := range u.decls {
			if d.what > isEnum || d.what == isInterface && d.name == "" || seen[d] || !isOuter(d.in) {
				continue
			}
			parts := p.augmented(slices.DeleteFunc(slices.Clone(d.in.types[d.name]), func(o *decl) bool { return o.what == isImport }))
			if len(parts) == 0 {
				continue
			}
			for _, part := range parts {
				seen[part] = true
			}
			all = append(all, parts)
		}
	}
	return all
}

// isOuter says whether a scope is that of a file, of all files, or of a namespace in one.
func isOuter(s *scope) bool {
	return s.name != "" || s == s.unit.scope || s == s.unit.global || s.outer == s.unit.global
}

// looksLikeData says whether a type is taken for what a response holds though nothing says so.
func looksLikeData(parts []*decl) bool {
	values := 0
	for _, d := range parts {
		switch d.what {
		case isInterface, isClass:
			for _, m := range d.members {
				if m.method && !m.optional {
					return false
				}
				if !m.static && !m.private && !m.method {
					values++
				}
			}
			values += len(d.extends)
		case isAlias:
			switch d.typ.op {
			case nObject, nIntersect, nMapped:
				values++
			case nRef:
				if utilities[d.typ.name] {
					values++
				}
			}
		}
	}
	return values > 0
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
	u := &unit{src: text, at: newPlaces("", text)}
	u.scope = newScope(nil, u)
	p := &parser{u: u, all: lex(text, false), scope: u.scope}
	n := p.typ()
	if p.bad || p.tok().kind != eof {
		return nil
	}
	pr := &project{byPath: map[string]*unit{}, open: map[exporting]bool{}, named: map[*decl]bool{}}
	pr.eval = newEvaluator(pr)
	return pr.typeIn(n, u.scope, nil, 0)
}

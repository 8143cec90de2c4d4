package run

import (
	"path"
	"slices"
	"strings"

	"vetta/internal/code"
	"vetta/internal/model"
)

// Program is the code of an app, file by file.
type Program struct {
	units    map[string]*code.Unit
	names    []string // of the files, sorted
	library  map[*code.Unit]*code.Unit
	classes  map[string][]*code.Class
	funcs    map[string][]*code.Func
	props    map[string][]*code.Prop
	aliases  map[string][]aliased
	extends  []*code.Class // the extensions
	methods  map[string]bool
	inherits map[string][]*code.Class // by the name of a class, those that extend or implement it
	index    *index                   // made when it is asked for
	web      bool                     // compiled to JavaScript, where all numbers are of one kind
}

type aliased struct {
	code.Alias
	unit *code.Unit
}

// NewProgram puts the files of an app together.
func NewProgram(units []*code.Unit) *Program {
	p := &Program{
		units: map[string]*code.Unit{}, library: map[*code.Unit]*code.Unit{}, classes: map[string][]*code.Class{}, funcs: map[string][]*code.Func{},
		props: map[string][]*code.Prop{}, aliases: map[string][]aliased{}, methods: map[string]bool{}, inherits: map[string][]*code.Class{},
	}
	for _, u := range units {
		p.units[u.File] = u
		p.names = append(p.names, u.File)
	}
	slices.Sort(p.names)
	for _, name := range p.names {
		u := p.units[name]
		for _, c := range u.Classes {
			if c.Kind == "extension" {
				p.extends = append(p.extends, c)
				for _, f := range c.Funcs {
					p.methods[f.Name] = true
				}
			}
			if c.Name != "" {
				p.classes[c.Name] = append(p.classes[c.Name], c)
			}
			for _, s := range c.Supers {
				p.inherits[model.SimpleName(s.Name)] = append(p.inherits[model.SimpleName(s.Name)], c)
			}
		}
		for _, f := range u.Funcs {
			p.funcs[f.Name] = append(p.funcs[f.Name], f)
		}
		for _, v := range u.Props {
			p.props[v.Name] = append(p.props[v.Name], v)
		}
		for alias, a := range u.Aliases {
			p.aliases[alias] = append(p.aliases[alias], aliased{a, u})
		}
		for _, part := range u.Parts {
			if of := p.units[path.Join(path.Dir(u.File), part)]; of != nil {
				p.library[of] = u
			}
		}
	}
	for _, name := range p.names {
		u := p.units[name]
		if u.PartOf != "" && strings.HasSuffix(u.PartOf, ".dart") && p.library[u] == nil {
			if of := p.units[path.Join(path.Dir(u.File), u.PartOf)]; of != nil {
				p.library[u] = of
			}
		}
		if of := p.library[u]; of != nil {
			u.Legacy = of.Legacy
		}
	}
	return p
}

// OnWeb is the same app as compilers to JavaScript make it (dart2js and DDC; WebAssembly has the numbers of the VM).
func (p *Program) OnWeb() *Program {
	own := *p
	own.web = true
	return &own
}

func (p *Program) unitOf(file string) *code.Unit { return p.units[file] }

// Units are the files, by name.
func (p *Program) Units() []*code.Unit {
	var out []*code.Unit
	for _, name := range p.names {
		out = append(out, p.units[name])
	}
	return out
}

// main is the file that a part belongs to, or the file itself.
func (p *Program) main(u *code.Unit) *code.Unit {
	if of := p.library[u]; of != nil {
		return of
	}
	return u
}

// imported is the file that an import means, nil where it is none of the app's.
func (p *Program) imported(from *code.Unit, in code.Import) *code.Unit {
	switch {
	case strings.HasPrefix(in.Path, "dart:"):
		return nil
	case strings.HasPrefix(in.Path, "package:"):
		_, rest, ok := strings.Cut(strings.TrimPrefix(in.Path, "package:"), "/")
		if !ok {
			return nil
		}
		for _, name := range p.names {
			if strings.HasSuffix("/"+name, "/lib/"+rest) {
				return p.units[name]
			}
		}
		return nil
	}
	return p.units[path.Join(path.Dir(from.File), in.Path)]
}

// sees says whether a file sees what another declares under a name.
func (p *Program) sees(u, other *code.Unit, name, prefix string, deep int, visited map[*code.Unit]bool) bool {
	u, other = p.main(u), p.main(other)
	if deep > 0 && u == other {
		return true
	}
	if visited[u] {
		return false
	}
	visited[u] = true
	for _, in := range u.Imports {
		if deep > 0 && !in.Export || deep == 0 && in.Prefix != prefix || in.Show != nil && !slices.Contains(in.Show, name) || slices.Contains(in.Hide, name) {
			continue
		}
		if of := p.imported(u, in); of != nil && p.sees(of, other, name, prefix, deep+1, visited) {
			return true
		}
	}
	return false
}

// nearest is which of several declarations of a name a file means: its own, or the one that it imports, or the only
// one. -1 says that this is not told.
func (p *Program) nearest(u *code.Unit, name, prefix string, files []string) int {
	if len(files) == 1 && (u == nil || prefix == "") {
		return 0
	}
	if u == nil {
		return -1
	}
	if prefix == "" {
		for i, f := range files {
			if of := p.units[f]; of == u {
				return i
			}
		}
		for i, f := range files {
			if of := p.units[f]; of != nil && p.main(of) == p.main(u) {
				return i
			}
		}
	}
	found := -1
	for i, f := range files {
		if of := p.units[f]; of != nil && p.sees(u, of, name, prefix, 0, map[*code.Unit]bool{}) {
			if found >= 0 {
				return -1
			}
			found = i
		}
	}
	return found
}

func (p *Program) hasPrefix(u *code.Unit, prefix string) bool {
	return slices.ContainsFunc(p.main(u).Imports, func(in code.Import) bool { return in.Prefix == prefix })
}

// class is the class that a name means in a file, nil for none.
func (p *Program) class(name string, u *code.Unit) *code.Class {
	prefix, short := "", name
	if at := strings.LastIndexByte(name, '.'); at >= 0 {
		prefix, short = name[:at], name[at+1:]
	}
	all := p.classes[short]
	if len(all) == 0 {
		return nil
	}
	files := make([]string, len(all))
	for i, c := range all {
		files[i] = c.File
	}
	if at := p.nearest(u, short, prefix, files); at >= 0 {
		return all[at]
	}
	return nil
}

// alias is the type that a name is another one for.
func (p *Program) alias(name string, u *code.Unit) (code.Alias, *code.Unit, bool) {
	all := p.aliases[model.SimpleName(name)]
	for _, a := range all {
		if len(all) == 1 || a.unit == u || u != nil && p.sees(u, a.unit, model.SimpleName(name), "", 0, map[*code.Unit]bool{}) {
			return a.Alias, a.unit, true
		}
	}
	return code.Alias{}, nil, false
}

// function is the function outside of classes that a name means; get says that it computes a variable.
func (p *Program) function(name, prefix string, u *code.Unit, setter bool) *code.Func {
	var all []*code.Func
	var files []string
	for _, f := range p.funcs[name] {
		if f.Setter == setter {
			all, files = append(all, f), append(files, f.File)
		}
	}
	if len(all) == 0 {
		return nil
	}
	if at := p.nearest(u, name, prefix, files); at >= 0 {
		return all[at]
	}
	return nil
}

// variable is the one outside of classes that a name means.
func (p *Program) variable(name, prefix string, u *code.Unit) *code.Prop {
	all := p.props[name]
	if len(all) == 0 {
		return nil
	}
	files := make([]string, len(all))
	for i, v := range all {
		files[i] = v.File
	}
	if at := p.nearest(u, name, prefix, files); at >= 0 {
		return all[at]
	}
	return nil
}

// declares says whether something outside of classes has a name.
func (p *Program) declares(name string) bool {
	return len(p.funcs[name])+len(p.props[name])+len(p.classes[name]) > 0 || platformFunctions[name]
}

// static is a function of a class by its name, a constructor among them.
func static(c *code.Class, name string) *code.Func {
	for _, f := range c.Funcs {
		if f.Name == name && (f.Static || f.Init) && !f.Setter {
			return f
		}
	}
	return nil
}

func staticProp(c *code.Class, name string) *code.Prop {
	for _, v := range c.Props {
		if v.Name == name && v.Static {
			return v
		}
	}
	return nil
}

// parents are what a class takes members from, the first asked first: its mixins, the last one first, what it
// extends; then, for who only looks for a name, what it implements.
func (m *Machine) parents(t *Type) (out []*Type) {
	by := m.own(t)
	u := m.p.unitOf(t.Class.File)
	for i := len(t.Class.Mixins) - 1; i >= 0; i-- {
		out = append(out, m.resolve(t.Class.Mixins[i], u, by))
	}
	if t.Class.Extends != nil {
		out = append(out, m.resolve(t.Class.Extends, u, by))
	}
	return out
}

// own are what the type parameters of a class stand for in a type of it.
func (m *Machine) own(t *Type) bindings {
	if t == nil || t.Class == nil || len(t.Class.Generics) == 0 {
		return nil
	}
	by := bindings{}
	for i, g := range t.Class.Generics {
		by[g] = t.arg(i)
	}
	return by
}

// what of a class is asked for.
type wanted uint8

const (
	method wanted = iota
	getter
	setter
)

func (w wanted) fits(f *code.Func) bool {
	return f.Getter == (w == getter) && f.Setter == (w == setter)
}

// find is the member of an instance that a name means, with the type that declares it; abstract ones only where there
// is no other.
func (m *Machine) find(t *Type, name string, what wanted, deep int) (*code.Func, *Type) {
	if t == nil || t.Class == nil || deep > 30 {
		return nil, nil
	}
	var native *code.Func
	for _, f := range t.Class.Funcs {
		if f.Name == name && !f.Static && !f.Init && what.fits(f) {
			if !f.Native {
				return f, t
			}
			native = f
		}
	}
	for _, p := range m.parents(t) {
		if f, of := m.find(p, name, what, deep+1); f != nil && !f.Native {
			return f, of
		}
	}
	if native != nil {
		return native, t
	}
	return nil, nil
}

// field is the property of an instance by a name, with the type that declares it.
func (m *Machine) field(t *Type, name string, deep int) (*code.Prop, *Type) {
	if t == nil || t.Class == nil || deep > 30 {
		return nil, nil
	}
	for _, v := range t.Class.Props {
		if v.Name == name && !v.Static {
			return v, t
		}
	}
	for _, p := range m.parents(t) {
		if v, of := m.field(p, name, deep+1); v != nil {
			return v, of
		}
	}
	return nil, nil
}

// fields are the properties of an instance, those of what its class extends first.
func (m *Machine) fields(t *Type, deep int, visit func(*code.Prop, *Type)) {
	if t == nil || t.Class == nil || deep > 30 {
		return
	}
	parents := m.parents(t)
	for i := len(parents) - 1; i >= 0; i-- {
		m.fields(parents[i], deep+1, visit)
	}
	for _, v := range t.Class.Props {
		if !v.Static {
			visit(v, t)
		}
	}
}

package csharp

import (
	"slices"
	"strings"

	"vetta/internal/code"
	"vetta/internal/model"
)

// declared is a type that the source declares, of all its parts.
type declared struct {
	name   string // with the types around it: Api.Reply
	space  string
	parts  []*code.Class
	outer  *declared
	model  *model.Model
	params []string // its own type parameters, those of the types around it first
	code   *code.Declared
}

func (d *declared) full() string {
	if d.space == "" {
		return d.name
	}
	return d.space + "." + d.name
}

// kind is class, struct, record, record struct, interface or enum.
func (d *declared) kind() string { return d.parts[0].Kind }

// has says whether one of the parts has a modifier.
func (d *declared) has(mod string) bool {
	return slices.ContainsFunc(d.parts, func(c *code.Class) bool { return slices.Contains(c.Mods, mod) })
}

// project is what the files of one project declare, and how it is built.
type project struct {
	units  map[string]*code.Unit
	files  []*code.Unit
	byName map[string][]*declared // by the last part of the name
	full   map[string]*declared   // by full name and number of type parameters
	order  []*declared
	usings map[string][]string    // by file: the namespaces whose types are seen, those of the whole project too
	static map[string][]string    // by file: the classes whose members are seen
	alias  map[string]code.Alias  // of the whole project
	nulls  map[string][]nullRange // by file: where annotations of null hold
	texts  map[string]string
	builds builds
	around map[string][2]string // by folder of a project: the library that it uses, and why
	byPart map[*code.Class]*declared
	world  *world
	asking *asking
	due    []*declared // whose models are to be filled
	of     map[*model.Model]*declared
}

func newProject(units []*code.Unit, texts map[string]string, b builds) *project {
	p := &project{
		units: map[string]*code.Unit{}, files: units, byName: map[string][]*declared{}, full: map[string]*declared{}, usings: map[string][]string{},
		around: map[string][2]string{}, static: map[string][]string{}, alias: map[string]code.Alias{}, nulls: map[string][]nullRange{}, builds: b, texts: texts, of: map[*model.Model]*declared{}, byPart: map[*code.Class]*declared{},
	}
	p.world = &world{p: p}
	global, static := map[string][]string{}, map[string][]string{}
	for dir, of := range b {
		global[dir] = slices.Clone(of.usings)
	}
	for _, u := range units {
		p.units[u.File] = u
		dir := b.folder(u.File)
		for _, in := range u.Imports {
			switch {
			case !in.Export:
			case in.Prefix != "":
				p.alias[in.Prefix] = u.Aliases[in.Prefix]
			case in.Static:
				static[dir] = append(static[dir], in.Path)
			default:
				global[dir] = append(global[dir], in.Path)
			}
		}
	}
	for _, u := range units {
		dir := b.folder(u.File)
		p.usings[u.File], p.static[u.File] = global[dir], static[dir]
		for _, in := range u.Imports {
			switch {
			case in.Export || in.Prefix != "":
			case in.Static:
				p.static[u.File] = append(slices.Clip(p.static[u.File]), in.Path)
			default:
				p.usings[u.File] = append(slices.Clip(p.usings[u.File]), in.Path)
			}
		}
		p.nulls[u.File] = nullRanges(texts[u.File], b[dir].nullable)
		outers := map[*code.Class]*declared{}
		for _, c := range u.Classes {
			outers[c] = p.declare(c, outers[c.Outer])
			p.byPart[c] = outers[c]
		}
	}
	return p
}

// declare notes a part of a type.
func (p *project) declare(c *code.Class, outer *declared) *declared {
	name, params := c.Name, c.Generics
	if outer != nil {
		name, params = outer.name+"."+name, append(slices.Clip(outer.params), params...)
	}
	key := arity(c.Space+"."+name, len(params))
	if d := p.full[key]; d != nil && (slices.Contains(c.Mods, "partial") || d.has("partial")) {
		d.parts = append(d.parts, c)
		d.code.Parts = d.parts
		return d
	}
	d := &declared{name: name, space: c.Space, parts: []*code.Class{c}, outer: outer, params: params}
	d.code = &code.Declared{Name: name, Space: c.Space, Parts: d.parts, Params: params}
	if outer != nil {
		d.code.Outer = outer.code
	}
	if p.full[key] == nil {
		p.full[key] = d
	}
	p.byName[c.Name] = append(p.byName[c.Name], d)
	p.order = append(p.order, d)
	return d
}

func arity(name string, params int) string { return name + "`" + string(rune('0'+params)) }

// find is the type that a name means in a file, inside a type and a namespace; nil for one of the platform's or of a
// library's. args is how many type arguments it is written with.
func (p *project) find(name string, args int, file, space string, in *declared) *declared {
	last := model.SimpleName(name)
	all := p.byName[last]
	if len(all) == 0 {
		return nil
	}
	var best *declared
	rank := 0
	for _, d := range all {
		if len(d.params) != args && len(d.parts[0].Generics) != args {
			continue
		}
		if r := p.sees(d, name, file, space, in); r > rank {
			best, rank = d, r
		}
	}
	return best
}

// findAny is find whatever the number of type arguments.
func (p *project) findAny(name string, s scope) *declared {
	for args := range 3 {
		if d := p.find(name, args, s.file, s.space, s.in); d != nil {
			return d
		}
	}
	return nil
}

// sees says how surely a name means a type: 0 not at all; above 1 the language says so.
func (p *project) sees(d *declared, name, file, space string, in *declared) int {
	full := d.full()
	if full == name {
		return 6
	}
	for o := in; o != nil; o = o.outer { // in the types around, or those that these extend
		if d.full() == o.full()+"."+name {
			return 9
		}
		if o.full() == full && name == model.SimpleName(d.name) {
			return 9
		}
	}
	for s := space; ; {
		if full == join(s, name) {
			return 7
		}
		i := strings.LastIndexByte(s, '.')
		if s == "" {
			break
		}
		s = s[:max(i, 0)]
	}
	for _, using := range p.usings[file] {
		if full == using+"."+name {
			return 5
		}
	}
	for _, class := range p.static[file] {
		if full == class+"."+name {
			return 5
		}
	}
	if strings.HasSuffix("."+full, "."+name) && !platform[name] { // by a using that is not in the source
		return 1
	}
	return 0
}

func join(space, name string) string {
	if space == "" {
		return name
	}
	return space + "." + name
}

// imports says whether a file sees the types of a namespace.
func (p *project) imports(file, space string) bool { return slices.Contains(p.usings[file], space) }

// usesAny says whether some file of the project sees the types of a namespace, or of those in it.
func (p *project) usesAny(space string) bool {
	for _, all := range p.usings {
		for _, u := range all {
			if u == space || strings.HasPrefix(u, space+".") {
				return true
			}
		}
	}
	return false
}

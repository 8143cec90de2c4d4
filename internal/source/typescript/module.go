package typescript

import (
	"encoding/json"
	"maps"
	"path"
	"slices"
	"strings"
	"unicode/utf8"

	"vetta/internal/code"
	"vetta/internal/model"
	"vetta/internal/source/scan"
)

// project is the files that are read together.
type project struct {
	units    []*unit
	byPath   map[string]*unit
	configs  []*config             // the deepest folder first
	parses   map[model.Pos]holding // where schemas are held to values
	packages []packages            // the deepest folder first
	// global are the names that files declare for all, and those of scripts without imports and exports.
	global *scope
	eval   *evaluator
	open   map[exporting]bool // names of modules that are being looked for
	named  map[*decl]bool     // other names for parts of namespaces that are being looked for
	// readers are the types of what functions read of a value without a type; nil for those of which that is not told.
	readers map[*code.Func]*model.Type
	added   map[*unit][]*decl // what other files declare in a module: declare module "./port" { … }
}

// config is a tsconfig.json.
type config struct {
	dir    string
	base   string
	paths  map[string][]string
	order  []string // of paths, those that say most first
	strict bool     // strictNullChecks
	web    bool
}

// endings are what a path in an import may lack.
var endings = []string{"", ".ts", ".tsx", ".d.ts", ".mts", ".cts", ".vue", ".svelte", ".js", ".jsx", ".mjs", "/index.ts", "/index.tsx", "/index.d.ts", "/index.mts", "/index.js"}

// newProject puts files together with what says how they are compiled.
func newProject(units []*unit, builds []scan.Source) *project {
	p := &project{units: units, byPath: map[string]*unit{}, open: map[exporting]bool{}, named: map[*decl]bool{}}
	for _, u := range units {
		p.byPath[path.Clean(u.file)] = u
	}
	p.global = &scope{types: map[string][]*decl{}, values: map[string][]*decl{}, spaces: map[string][]*decl{}}
	for _, u := range units {
		u.global.outer = p.global
		if !u.isMod {
			p.declare(u.scope)
		}
		p.declare(u.global)
		u.scope.outer = p.global
	}
	p.readConfigs(builds)
	p.added = map[*unit][]*decl{}
	for _, u := range units {
		for _, name := range slices.Sorted(maps.Keys(u.augment)) {
			if of := p.module(u, name); of != nil {
				p.added[of] = append(p.added[of], u.augment[name]...)
			}
		}
	}
	return p
}

// declare makes what a scope declares global.
func (p *project) declare(s *scope) {
	add := func(to, from map[string][]*decl) {
		for name, all := range from {
			to[name] = append(to[name], all...)
		}
	}
	add(p.global.types, s.types)
	add(p.global.values, s.values)
	add(p.global.spaces, s.spaces)
}

// options are those of a tsconfig.json that matter here.
type options struct {
	Extends         json.RawMessage `json:"extends"`
	CompilerOptions struct {
		Strict           *bool               `json:"strict"`
		StrictNullChecks *bool               `json:"strictNullChecks"`
		BaseURL          string              `json:"baseUrl"`
		Paths            map[string][]string `json:"paths"`
	} `json:"compilerOptions"`
}

// readConfigs reads the tsconfig.json and package.json files of a project; one that cannot be read says nothing.
func (p *project) readConfigs(builds []scan.Source) {
	p.readPackages(builds)
	texts := map[string]string{}
	for _, b := range builds {
		if strings.HasSuffix(b.Name, ".json") {
			texts[path.Clean(slashes(b.Name))] = b.Text
		}
	}
	for name := range texts {
		if base := path.Base(name); base != "tsconfig.json" && base != "jsconfig.json" {
			continue
		}
		c := &config{dir: path.Dir(name)}
		var strict, nulls *bool
		var follow func(name string, depth int)
		follow = func(name string, depth int) {
			text, ok := texts[name]
			if !ok || depth > 8 {
				return
			}
			var o options
			if json.Unmarshal([]byte(plainJSON(text)), &o) != nil {
				return
			}
			dir := path.Dir(name)
			if strict == nil {
				strict = o.CompilerOptions.Strict
			}
			if nulls == nil {
				nulls = o.CompilerOptions.StrictNullChecks
			}
			if c.base == "" && o.CompilerOptions.BaseURL != "" {
				c.base = path.Join(dir, o.CompilerOptions.BaseURL)
			}
			if c.paths == nil && o.CompilerOptions.Paths != nil {
				c.paths = map[string][]string{}
				from := dir
				if o.CompilerOptions.BaseURL != "" {
					from = path.Join(dir, o.CompilerOptions.BaseURL)
				}
				for pattern, to := range o.CompilerOptions.Paths {
					for _, t := range to {
						c.paths[pattern] = append(c.paths[pattern], path.Join(from, t))
					}
					c.order = append(c.order, pattern)
				}
				slices.SortFunc(c.order, func(a, b string) int {
					if len(a) != len(b) {
						return len(b) - len(a)
					}
					return strings.Compare(a, b)
				})
			}
			var one string
			var several []string
			if json.Unmarshal(o.Extends, &one) == nil && one != "" {
				several = []string{one}
			} else {
				_ = json.Unmarshal(o.Extends, &several)
			}
			for _, other := range slices.Backward(several) {
				if strings.HasPrefix(other, ".") {
					next := path.Join(dir, other)
					if _, ok := texts[next]; !ok {
						next += ".json"
					}
					follow(next, depth+1)
				} else {
					c.web = true
				}
			}
		}
		follow(name, 0)
		switch {
		case nulls != nil:
			c.strict = *nulls
		case strict != nil:
			c.strict = *strict
		default:
			c.strict = c.web // what a package's configuration extends is strict in most
		}
		p.configs = append(p.configs, c)
	}
	slices.SortFunc(p.configs, func(a, b *config) int {
		if len(a.dir) != len(b.dir) {
			return len(b.dir) - len(a.dir)
		}
		return strings.Compare(a.dir, b.dir)
	})
}

// plainJSON is a text without comments and trailing commas.
func plainJSON(text string) string {
	text = strings.TrimPrefix(text, "\ufeff")
	if !utf8.ValidString(text) {
		text = strings.ToValidUTF8(text, "\ufffd")
	}
	var b strings.Builder
	all := lex(text, false)
	for i, t := range all {
		if t.kind == eof || t.is(",") && t.kind == punct && i+1 < len(all) && (all[i+1].is("}") || all[i+1].is("]")) {
			continue
		}
		b.WriteString(text[t.start:t.end])
	}
	return b.String()
}

func slashes(name string) string { return strings.ReplaceAll(name, `\`, "/") }

// configOf is the configuration of a file: the nearest, nil for none.
func (p *project) configOf(file string) *config {
	dir := path.Dir(path.Clean(slashes(file)))
	for _, c := range p.configs {
		if c.dir == "." || dir == c.dir || strings.HasPrefix(dir, c.dir+"/") {
			return c
		}
	}
	return nil
}

// loose says whether null fits everywhere in a file.
func (p *project) loose(file string) bool {
	c := p.configOf(file)
	return c != nil && !c.strict
}

// module is the file that an import in another names, nil where it is not among those that are read.
func (p *project) module(from *unit, name string) *unit {
	if strings.HasPrefix(name, ".") || strings.HasPrefix(name, "/") {
		return p.fileAt(path.Join(path.Dir(path.Clean(slashes(from.file))), name))
	}
	c := p.configOf(from.file)
	if c == nil {
		return nil
	}
	for _, pattern := range c.order {
		rest := ""
		if before, after, ok := strings.Cut(pattern, "*"); ok {
			if len(name) < len(before)+len(after) || !strings.HasPrefix(name, before) || !strings.HasSuffix(name, after) {
				continue
			}
			rest = name[len(before) : len(name)-len(after)]
		} else if pattern != name {
			continue
		}
		for _, to := range c.paths[pattern] {
			if u := p.fileAt(strings.Replace(to, "*", rest, 1)); u != nil {
				return u
			}
		}
	}
	if c.base != "" {
		return p.fileAt(path.Join(c.base, name))
	}
	return nil
}

func (p *project) fileAt(name string) *unit {
	for _, ending := range endings {
		if u := p.byPath[name+ending]; u != nil {
			return u
		}
	}
	for _, js := range []string{".js", ".jsx", ".mjs", ".cjs"} { // as what is compiled is called
		if rest, ok := strings.CutSuffix(name, js); ok {
			for _, ending := range []string{".ts", ".tsx", ".d.ts", ".mts", ".cts"} {
				if u := p.byPath[rest+ending]; u != nil {
					return u
				}
			}
		}
	}
	return nil
}

// space says in which of the three rooms of names something is looked for.
type space uint8

const (
	ofTypes space = iota
	ofValues
	ofSpaces
)

func (s *scope) in(sp space) map[string][]*decl {
	switch sp {
	case ofValues:
		return s.values
	case ofSpaces:
		return s.spaces
	}
	return s.types
}

// maxImports is how many files a name is followed through.
const maxImports = 32

// find are the declarations that a name means, with those that other files add to them; nil for none.
func (p *project) find(s *scope, name string, sp space) []*decl {
	first, rest, qualified := strings.Cut(name, ".")
	if !qualified {
		for at := s; at != nil; at = at.outer {
			if all := p.settled(at.in(sp)[first], sp, 0); len(all) > 0 {
				return all
			}
		}
		return nil
	}
	for at := s; at != nil; at = at.outer {
		if all := p.settled(at.spaces[first], ofSpaces, 0); len(all) > 0 {
			if found := p.inside(all, rest, sp, 0); len(found) > 0 {
				return found
			}
		}
		if enums := p.settled(at.types[first], ofTypes, 0); len(enums) > 0 && enums[0].what == isEnum && sp == ofTypes {
			return enums // one of its members
		}
	}
	return nil
}

// inside are the declarations of a name in namespaces or modules.
func (p *project) inside(all []*decl, name string, sp space, depth int) []*decl {
	if depth > maxImports {
		return nil
	}
	first, rest, qualified := strings.Cut(name, ".")
	var found []*decl
	for _, d := range all {
		want := sp
		if qualified {
			want = ofSpaces
		}
		var here []*decl
		switch {
		case d.what == isNamespace:
			here = p.settled(d.inner.in(want)[first], want, depth+1)
			if qualified && len(here) == 0 && sp == ofTypes {
				if enums := p.settled(d.inner.types[first], ofTypes, depth+1); len(enums) > 0 && enums[0].what == isEnum {
					return enums
				}
			}
		case d.what == isImport && d.from != "":
			if u := p.module(d.unit, d.from); u != nil {
				here = p.exportOf(u, first, want, depth+1)
				if len(here) == 0 && u.assigns != "" {
					here = p.inside(p.find(u.scope, u.assigns, ofSpaces), first, want, depth+1)
				}
			}
		}
		if qualified {
			here = p.inside(here, rest, sp, depth+1)
		}
		found = append(found, here...)
	}
	return found
}

// settled are declarations with imports replaced by what they import; namespaces that are modules stay.
func (p *project) settled(all []*decl, sp space, depth int) []*decl {
	if !slices.ContainsFunc(all, func(d *decl) bool { return d.what == isImport }) || depth > maxImports {
		return p.augmented(all)
	}
	var out []*decl
	for _, d := range all {
		if d.what != isImport {
			out = append(out, d)
			continue
		}
		out = append(out, p.imported(d, sp, depth)...)
	}
	return p.augmented(out)
}

// imported are the declarations that an import means.
func (p *project) imported(d *decl, sp space, depth int) []*decl {
	if d.from == "" { // import name = A.B
		if p.named[d] { // one that leads to itself
			return nil
		}
		p.named[d] = true
		defer delete(p.named, d)
		return p.find(d.in, d.of, sp)
	}
	u := p.module(d.unit, d.from)
	if u == nil {
		return nil
	}
	switch {
	case d.of == "*" || d.of == "=":
		if u.assigns != "" && sp != ofSpaces {
			return p.find(u.scope, u.assigns, sp)
		}
		if sp == ofSpaces {
			return []*decl{d}
		}
		return nil
	case d.of == "default" && u.assigns != "":
		return p.find(u.scope, u.assigns, sp)
	}
	found := p.exportOf(u, d.of, sp, depth+1)
	if len(found) == 0 && u.assigns != "" {
		found = p.inside(p.find(u.scope, u.assigns, ofSpaces), d.of, sp, depth+1)
	}
	return found
}

// exporting is a name of a module that is being looked for.
type exporting struct {
	u    *unit
	name string
	sp   space
}

// exportOf are the declarations that a module gives others under a name.
func (p *project) exportOf(u *unit, name string, sp space, depth int) []*decl {
	key := exporting{u, name, sp}
	if depth > maxImports || p.open[key] { // modules that export each other
		return nil
	}
	p.open[key] = true
	defer delete(p.open, key)
	for _, x := range u.exports {
		if x.name != name || x.name == "*" {
			continue
		}
		if x.from == "" {
			if all := p.settled(u.scope.in(sp)[x.of], sp, depth+1); len(all) > 0 {
				return all
			}
			continue
		}
		of := p.module(u, x.from)
		if of == nil {
			continue
		}
		if x.of == "*" { // export * as name
			if sp == ofSpaces {
				return []*decl{{what: isImport, unit: u, in: u.scope, name: name, from: x.from, of: "*"}}
			}
			continue
		}
		if all := p.exportOf(of, x.of, sp, depth+1); len(all) > 0 {
			return all
		}
	}
	for _, x := range u.exports {
		if x.name != "*" || name == "default" {
			continue
		}
		if of := p.module(u, x.from); of != nil {
			if all := p.exportOf(of, name, sp, depth+1); len(all) > 0 {
				return all
			}
		}
	}
	if strings.HasSuffix(u.file, ".d.ts") { // all that is declared there is given to others
		return p.settled(u.scope.in(sp)[name], sp, depth+1)
	}
	return nil
}

// augmented are declarations of a module with those that others add to them.
func (p *project) augmented(all []*decl) []*decl {
	if len(all) == 0 || all[0].what != isInterface && all[0].what != isClass && all[0].what != isNamespace {
		return all
	}
	first := all[0]
	if first.in != first.unit.scope {
		return all
	}
	for _, d := range p.added[first.unit] {
		if d.name == first.name && !slices.Contains(all, d) {
			all = append(all[:len(all):len(all)], d)
		}
	}
	return all
}

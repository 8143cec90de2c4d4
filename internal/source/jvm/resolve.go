package jvm

import (
	"maps"
	"slices"
	"strings"
	"sync"

	"vetta/internal/model"
	"vetta/internal/source/scan"
)

// Project is all that the files of a project declare.
type Project struct {
	Unsure     []*model.Call // whose decoder was not found, or may be another of its name
	ByVariable []model.Pos   // calls whose type is that of a variable of a name, which may be another one
	Files      []*File
	ByName     map[string]*Class    // by simple name, the last one; next leads to the others
	outer      map[qualified]*Class // those that no other class is around
	Size       int                  // how many classes there are
	aliases    map[string][]*File   // by name, the files that declare one
	constants  map[string][]*File   // those that have a constant of a name, once one was asked for
	within     []*model.Type        // what the aliases that are gone into stand for
	aliased    int                  // how many aliases the outermost of them has led to
	renamed    map[string]bool      // what imports call classes
	Due        []*Class             // what models lead to, and is not filled yet
	foreign    [64]string           // names that are no class's and no alias, those last asked for
	Asked      int                  // how many literals were looked at for the text of a constant
	Builds     []scan.Source        // the files that say how it is built
	built      map[string][2]string // see Built
	extending  map[*Class][]*Class  // see Extending
	Filling    func(*Class)         // makes the model of a class, once
	Created    []Creation           // see creations
	byMention  map[mentions][]*File // see mentioning
	Asking     sync.Mutex           // for models that are asked for when all is linked
}

// NewProject puts together what files declare, by name and package.
func NewProject(files []*File) *Project {
	n, outer := 0, 0
	for _, f := range files {
		n += f.Declares
		outer += len(f.Classes)
	}
	p := &Project{Files: files, Size: n, ByName: make(map[string]*Class, n), outer: make(map[qualified]*Class, outer)}
	var add func(c *Class)
	add = func(c *Class) {
		c.next, p.ByName[c.Name] = p.ByName[c.Name], c
		for _, n := range c.Nested {
			add(n)
		}
	}
	p.aliases, p.byMention = map[string][]*File{}, map[mentions][]*File{}
	for _, f := range files {
		p.noteMentions(f)
		for _, c := range f.Classes {
			add(c)
			if name := (qualified{f.Package, c.Name}); p.outer[name] == nil {
				p.outer[name] = c
			}
		}
		for _, i := range f.Imports {
			if i.As != i.Name && i.Name != "*" {
				if p.renamed == nil {
					p.renamed = map[string]bool{}
				}
				p.renamed[i.As] = true
			}
		}
		for name := range f.Aliases {
			p.aliases[name] = append(p.aliases[name], f)
		}
	}
	return p
}

// Find is the class that a name means in a file, inside a class where in is one: a
// nested class of what is around it or of a superclass, an imported one, one of the
// same package, of a package imported whole, and last the only one of that name in
// the project where nothing imports the name from elsewhere.
func (p *Project) Find(f *File, in *Class, name string) *Class {
	if p.ByName[name] == nil && !p.renamed[name] && strings.IndexByte(name, '.') < 0 {
		return nil
	}
	first, rest, qualified := strings.Cut(name, ".")
	found := p.single(f, in, first)
	for found != nil && qualified {
		first, rest, qualified = strings.Cut(rest, ".")
		found = nestedIn(found, first)
	}
	if found == nil {
		found = p.at(name)
	}
	return found
}

// qualified is the name of a class with its package.
type qualified struct{ pack, name string }

// at is the class that a path of its package and full name leads to.
func (p *Project) at(path string) *Class {
	for end := len(path); end > 0; { // the last words may be those of classes inside each other
		dot := strings.LastIndexByte(path[:end], '.')
		pack := path[:max(dot, 0)]
		first, rest, nested := strings.Cut(path[dot+1:], ".")
		c := p.outer[qualified{pack, first}]
		for c != nil && nested {
			first, rest, nested = strings.Cut(rest, ".")
			c = nestedIn(c, first)
		}
		if c != nil {
			return c
		}
		end = dot
	}
	return nil
}

// inside is the class of a name in a package, or in the class that a path leads to.
func (p *Project) inside(path, name string) *Class {
	if c := p.outer[qualified{path, name}]; c != nil {
		return c
	}
	if c := p.at(path); c != nil {
		return nestedIn(c, name)
	}
	return nil
}

// MaxSupers is how many superclasses are gone through: classes may extend each other in a
// circle.
const MaxSupers = 64

func nestedIn(c *Class, name string) *Class {
	for _, n := range c.Nested {
		if n.Name == name {
			return n
		}
	}
	return nil
}

func (p *Project) single(f *File, in *Class, name string) *Class {
	for c := in; c != nil; c = c.Outer {
		if c.Name == name {
			return c
		}
		for s, steps := c, 0; s != nil && steps < MaxSupers; s, steps = p.SuperOf(s), steps+1 {
			if n := nestedIn(s, name); n != nil {
				return n
			}
		}
	}
	for _, i := range f.importsOf(name) {
		if i.As == name && i.Name != "*" {
			return p.inside(i.Path, i.Name) // nil where it is from elsewhere
		}
	}
	if c := p.outer[qualified{f.Package, name}]; c != nil {
		return c
	}
	for _, i := range f.Imports {
		if i.Name == "*" {
			if c := p.inside(i.Path, name); c != nil {
				return c
			}
		}
	}
	if only := p.ByName[name]; only != nil && only.next == nil && !known[name] && only.Outer == nil {
		return only
	}
	return nil
}

// SuperOf is the class that c extends, where the source declares it.
func (p *Project) SuperOf(c *Class) *Class {
	if c.Super == nil {
		return nil
	}
	if c.Super.Model != nil {
		return ClassOf(c.Super.Model)
	}
	return p.Find(c.File, c.Outer, c.Super.Name)
}

// maxAliases is how many aliases one may lead to.
const maxAliases = 1000

// known are the names of types that libraries know without an import from the project.
var known = map[string]bool{}

func init() {
	for _, words := range []string{
		"Locale Currency StringBuilder StringBuffer AtomicInteger AtomicLong AtomicBoolean UInt ULong UShort UByte",
		"String Object Any Number Integer Int Long Short Byte Float Double Boolean Character Char CharSequence Void Unit Date URL URI UUID BigDecimal BigInteger Optional",
		"List ArrayList LinkedList Collection Iterable MutableList Set HashSet MutableSet Map HashMap MutableMap Array JSONObject JSONArray JsonObject JsonArray JsonElement JsonNode",
	} {
		for _, w := range strings.Fields(words) {
			known[w] = true
		}
	}
}

// packages are those whose types are known by their simple names.
var packages = []string{"java.lang.", "java.util.concurrent.atomic.", "java.util.concurrent.", "java.util.", "java.math.", "java.net.", "java.time.", "kotlin.collections.", "kotlin.", "org.json.", "com.google.gson.", "com.fasterxml.jackson.databind."}

// Collections are the kinds that library types stand for.
var Collections = func() map[string]model.TypeKind {
	kinds := map[string]model.TypeKind{}
	for kind, words := range map[model.TypeKind]string{
		model.List:   "List ArrayList LinkedList Collection Iterable MutableList MutableCollection MutableIterable AbstractList Queue Deque ArrayDeque Vector Stack CopyOnWriteArrayList",
		model.Unique: "EnumSet Set HashSet LinkedHashSet TreeSet SortedSet NavigableSet MutableSet AbstractSet",
		model.Map:    "EnumMap Map HashMap LinkedHashMap TreeMap SortedMap NavigableMap MutableMap ConcurrentHashMap ConcurrentMap Hashtable AbstractMap",
	} {
		for _, w := range strings.Fields(words) {
			kinds[w] = kind
		}
	}
	return kinds
}()

// elementOf are Kotlin's arrays of primitives.
var elementOf = map[string]string{
	"IntArray": "Int", "LongArray": "Long", "ShortArray": "Short", "ByteArray": "Byte", "FloatArray": "Float", "DoubleArray": "Double", "BooleanArray": "Boolean", "CharArray": "Char",
}

// platform are the names of all collections and arrays.
var platform = scan.NewWords("Array", strings.Join(slices.Collect(maps.Keys(elementOf)), " "), strings.Join(slices.Collect(maps.Keys(Collections)), " "))

// Resolve finds what the names in a type mean; params are the type parameters that are
// in scope. The type is changed in place, once.
func (p *Project) Resolve(f *File, in *Class, params map[string]bool, t *model.Type) {
	if t == nil || t.Linked {
		return
	}
	t.Linked = true
	for _, a := range t.Args {
		p.Resolve(f, in, params, a)
	}
	if t.Kind != model.Named {
		return
	}
	if params[t.Name] && len(t.Args) == 0 {
		t.Kind = model.Param
		return
	}
	if p.isForeign(t.Name) {
		p.library(f, t)
		return
	}
	if c := p.Find(f, in, t.Name); c != nil {
		if m := c.Model; c.IsModel() {
			t.Model, t.Name = m, m.Name
			p.Lead(m)
			return
		}
	}
	for _, other := range p.aliases[t.Name] {
		if a := other.Aliases[t.Name]; a.Type != nil && (other == f || other.Package == f.Package || Imports(f, other.Package, t.Name)) {
			if len(p.within) == 0 {
				p.aliased = 0
			}
			if p.aliased++; p.aliased > maxAliases || slices.Contains(p.within, a.Type) { // one may lead to itself, or to ever more
				return
			}
			own := map[string]bool{}
			env := map[string]*model.Type{}
			for i, name := range a.Params {
				own[name] = true
				if i < len(t.Args) {
					env[name] = t.Args[i]
				}
			}
			target := copyOf(a.Type)
			p.within = append(p.within, a.Type)
			p.Resolve(other, nil, own, target)
			p.within = p.within[:len(p.within)-1]
			bound := target.Bind(env)
			pos := t.Pos
			*t = *bound
			t.Pos, t.Linked = pos, true
			return
		}
	}
	p.library(f, t)
}

// isForeign says whether nothing in the project has a name, which most types of fields have.
func (p *Project) isForeign(name string) bool {
	if name == "" || strings.IndexByte(name, '.') >= 0 {
		return false
	}
	known := &p.foreign[(int(name[0])+31*int(name[len(name)-1])+7*len(name))%len(p.foreign)]
	if *known == name {
		return true
	}
	if p.ByName[name] != nil || p.renamed[name] || p.aliases[name] != nil {
		return false
	}
	*known = name
	return true
}

// library finds what the name of a type that the project does not declare means.
func (p *Project) library(f *File, t *model.Type) {
	name := t.Name
	if strings.Contains(name, ".") {
		for _, pack := range packages {
			if rest, ok := strings.CutPrefix(name, pack); ok && rest != "" && !(rest[0] >= 'a' && rest[0] <= 'z') { // else of a package inside that one
				name = rest
				break
			}
		}
	} else {
		for _, i := range f.importsOf(t.Name) {
			if i.As == t.Name && i.Name != "*" {
				name = i.Name
				if !standard(i.Path + ".") {
					t.Name = i.Path + "." + i.Name
					return
				}
			}
		}
	}
	t.Name = name
	standardType(t, f.Language)
}

// Standard makes of the names of the platform's collections and arrays, written in a
// language, the kinds of type that they are.
func Standard(t *model.Type, language string) {
	t.Walk(func(t *model.Type) { standardType(t, language) })
}

func standardType(t *model.Type, language string) {
	if t.Kind != model.Named || t.Model != nil {
		return
	}
	name := t.Name
	if !platform.Has(name) {
		return
	}
	object := "Object"
	if language == "kotlin" {
		object = "Any"
	}
	if elem := elementOf[name]; elem != "" {
		t.Kind, t.Args = model.List, []*model.Type{{Kind: model.Named, Name: elem, Pos: t.Pos}}
		return
	}
	if name == "Array" && len(t.Args) == 1 {
		t.Kind = model.List
		return
	}
	kind, ok := Collections[name]
	if !ok {
		return
	}
	want := 1
	if kind == model.Map {
		want = 2
	}
	for len(t.Args) < want {
		t.Args = append(t.Args, &model.Type{Kind: model.Named, Name: object, Pos: t.Pos})
	}
	t.Kind, t.Name, t.Args = kind, "", t.Args[:want]
	if !usual[name] {
		t.Class = name
	}
}

// usual are the collections that libraries make of themselves what they like.
var usual = map[string]bool{
	"List": true, "MutableList": true, "Set": true, "MutableSet": true, "Map": true, "MutableMap": true,
}

func standard(path string) bool {
	for _, pack := range packages {
		if path == pack {
			return true
		}
	}
	return false
}

// Imports says whether a file imports a name from a package, or all of that.
func Imports(f *File, pack, name string) bool {
	for _, i := range f.Imports {
		if i.Path == pack && (i.Name == "*" || i.As == name) {
			return true
		}
	}
	return false
}

// copyOf is a type of its own that can be resolved by itself.
func copyOf(t *model.Type) *model.Type {
	out := *t
	out.Args, out.Linked = nil, false
	for _, a := range t.Args {
		out.Args = append(out.Args, copyOf(a))
	}
	return &out
}

// Creation is where a client may make a service interface: a call of create, with what it is given.
type Creation struct {
	File *File
	At   int
	Text string
}

// Extending are the classes and objects that extend or implement a class themselves, in the order of the
// source.
func (p *Project) Extending(c *Class) []*Class {
	if p.extending == nil {
		p.extending = map[*Class][]*Class{}
		var look func(c *Class)
		look = func(c *Class) {
			for _, t := range append([]*model.Type{c.Super}, c.Implements...) {
				if t == nil {
					continue
				}
				if of := p.Find(c.File, c.Outer, t.Name); of != nil {
					p.extending[of] = append(p.extending[of], c)
				}
			}
			for _, n := range c.Nested {
				look(n)
			}
		}
		for _, f := range p.Files {
			for _, c := range f.Classes {
				look(c)
			}
		}
	}
	return p.extending[c]
}

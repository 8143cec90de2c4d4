package swift

import (
	"iter"
	"slices"
	"strings"

	"vetta/internal/code"
	"vetta/internal/code/hand"
	"vetta/internal/model"
	"vetta/internal/source/lower"
	"vetta/internal/source/scan"
)

// linker knows the declarations of all files and finds what a name means at a
// place in them.
type linker struct {
	files   []*typeDecl
	types   map[string][]*typeDecl // by full name, no extensions
	exts    map[string][]*typeDecl // extensions by the full name of what they extend
	aliases map[string][]scopedAlias
	// names are the last names of all types and aliases, and those of parameters: what
	// else a type may be called is the library's.
	names  map[string]bool
	models []*model.Model
	// What models are made of comes from here.
	shells scan.Slab[model.Model]
	fields scan.Slab[model.Field]
	linked scan.Slab[model.Type]
	alone  scan.Slab[*typeDecl]
	// replaced are types whose decoding an extension of a container replaces, with
	// the place of that extension.
	replaced map[string]replacement
	// formatted are calls of date formatters in hand-written code.
	formatted []formattedDate
	helpers   helpers
	sent      map[*model.Model]bool // those that something writes
}

type scopedAlias struct {
	*alias
	decl *typeDecl
}

func newLinker(files []*typeDecl) *linker {
	l := &linker{
		files: files, types: map[string][]*typeDecl{}, exts: map[string][]*typeDecl{},
		aliases: map[string][]scopedAlias{}, replaced: map[string]replacement{},
		names: map[string]bool{}, sent: map[*model.Model]bool{},
		shells: scan.SlabOf[model.Model](atOnce / 4), fields: scan.SlabOf[model.Field](atOnce), linked: scan.SlabOf[model.Type](atOnce), alone: scan.SlabOf[*typeDecl](atOnce),
	}
	for _, f := range files {
		l.index(f)
	}
	return l
}

func (l *linker) index(d *typeDecl) {
	l.names[d.full[strings.LastIndexByte(d.full, '.')+1:]] = true
	for _, name := range d.params {
		l.names[name] = true
	}
	switch d.kind {
	case "file":
	case "extension":
		l.exts[d.full] = append(l.exts[d.full], d)
		l.indexReplaced(d)
	default:
		if same := l.types[d.full]; same != nil {
			l.types[d.full] = append(same, d)
		} else {
			l.types[d.full] = l.alone.One(d)
		}
	}
	for _, a := range d.aliases {
		full := qualify(d, a.name)
		l.names[a.name] = true
		for _, name := range a.params {
			l.names[name] = true
		}
		l.aliases[full] = append(l.aliases[full], scopedAlias{a, d})
	}
	for _, n := range d.nested {
		l.index(n)
	}
}

// indexReplaced notes the overloads of decode that an extension of a decoding
// container adds: synthesised code calls them in place of the library's.
func (l *linker) indexReplaced(d *typeDecl) {
	if !strings.HasSuffix(d.name, "DecodingContainer") && !strings.HasSuffix(d.name, "DecodingContainerProtocol") {
		return
	}
	for _, fn := range d.funcs {
		if fn.name != "decode" && fn.name != "decodeIfPresent" {
			continue
		}
		p := parserAt(d.file, fn.signature[0])
		for p.I < fn.signature[1] && !p.Is(":") {
			p.Advance()
		}
		p.Advance()
		if t := p.parseType(); t != nil && t.Kind == model.Named && strings.HasSuffix(t.Name, ".Type") {
			l.replaced[strings.TrimSuffix(t.Name, ".Type")] = replacement{pos: fn.pos, lenient: isLenient(d.file, fn)}
		}
	}
}

// replacement is an overload of decode for one type. A lenient one takes a value of
// its own where the key is absent or null, and decodes as usual else.
type replacement struct {
	pos     model.Pos
	lenient bool
}

// isLenient says whether the body of an overload is
// decodeIfPresent(type, forKey: key) ?? .init(), or the same with the type's name.
func isLenient(f *scan.File, fn *function) bool {
	body := lower.Body(f, (&linker{}).language(&typeDecl{file: f}), fn.body[0], fn.body[1])
	if len(body) != 1 || body[0].Torn || body[0].Value == nil || body[0].Value.Op != code.Choice || len(body[0].Value.Body) > 0 {
		return false
	}
	e := body[0].Value
	receiver, name := hand.Method(e.Args[0])
	if name != "decodeIfPresent" || receiver != nil && receiver.Text != "self" {
		return false
	}
	_, how := hand.Method(e.Args[1])
	return how != "" && len(e.Args[1].Args) == 1
}

// scopes are the full names in which a name is looked up from within d, innermost
// first, the file scope "" last.
func scopes(d *typeDecl) iter.Seq[string] {
	return func(yield func(string) bool) {
		if d != nil {
			for full := d.full; full != ""; full = outer(full) {
				if !yield(full) {
					return
				}
			}
		}
		yield("")
	}
}

func outer(full string) string {
	if dot := strings.LastIndexByte(full, '.'); dot >= 0 {
		return full[:dot]
	}
	return ""
}

func join(scope, name string) string {
	if scope == "" {
		return name
	}
	return scope + "." + name
}

// lookup finds the declaration that a name means within d, through aliases, or nil.
func (l *linker) lookup(name string, d *typeDecl) *typeDecl {
	for range 16 { // aliases of aliases, and no further
		next := ""
		for scope := range scopes(d) {
			full := join(scope, name)
			if found := l.types[full]; len(found) > 0 {
				return nearest(found, d)
			}
			if a := l.aliases[full]; len(a) > 0 && a[0].typ.Kind == model.Named && a[0].typ.Name != name {
				next, d = a[0].typ.Name, a[0].decl
				break
			}
		}
		if next == "" {
			return nil
		}
		name = next
	}
	return nil
}

// nearest picks among declarations of one name that several targets of a project
// may have: the one in the same file, then the one in the nearest folder.
func nearest(found []*typeDecl, from *typeDecl) *typeDecl {
	best, most := found[0], -1
	if from == nil || len(found) == 1 {
		return best
	}
	for _, d := range found {
		if d.file == from.file {
			return d
		}
		if shared := sharedFolders(d.file.Name, from.file.Name); shared > most {
			best, most = d, shared
		}
	}
	return best
}

// sharedFolders is how many folders two paths have in common from their beginning.
func sharedFolders(a, b string) (n int) {
	for i := 0; i < len(a) && i < len(b) && a[i] == b[i]; i++ {
		if a[i] == '/' {
			n++
		}
	}
	return n
}

// parameters are the generic parameters in force within d.
func (l *linker) isParameter(name string, d *typeDecl) bool {
	for scope := range scopes(d) {
		for _, t := range l.types[scope] {
			for _, p := range t.params {
				if p == name {
					return true
				}
			}
		}
	}
	return false
}

// resolve finds what the names in a type mean within d. Names that are not found
// stay as they are: the library may know them.
func (l *linker) resolve(t *model.Type, d *typeDecl) *model.Type { return l.resolveIn(t, d, 0) }

func (l *linker) resolveIn(t *model.Type, d *typeDecl, depth int) *model.Type {
	if t == nil || depth > 32 {
		return t
	}
	if t.Kind == model.Named && len(t.Args) == 0 && !l.names[t.Name[strings.LastIndexByte(t.Name, '.')+1:]] {
		return t // the library's, if anything's
	}
	r := l.linked.New(*t)
	if len(t.Args) > 0 {
		r.Args = make([]*model.Type, len(t.Args))
		for i, a := range t.Args {
			r.Args[i] = l.resolveIn(a, d, depth+1)
		}
	}
	if t.Kind != model.Named {
		return r
	}
	if !l.names[t.Name[strings.LastIndexByte(t.Name, '.')+1:]] {
		return builtin(r)
	}
	if l.isParameter(t.Name, d) && l.shadowing(t.Name, d) == nil {
		r.Kind = model.Param
		return r
	}
	if aliased := l.throughAlias(r, d, depth); aliased != nil {
		return aliased
	}
	if found := l.lookup(t.Name, d); found != nil {
		if r.Model = l.modelOf(found); r.Model != nil {
			r.Name = r.Model.Name
		}
		return r
	}
	return builtin(r)
}

// shadowing is a type of the parameter's name that is nested deeper than the
// parameter's own declaration; none in sane code, but cheap to rule out.
func (l *linker) shadowing(name string, d *typeDecl) *typeDecl {
	if d == nil || d.full == "" {
		return nil
	}
	if found := l.types[join(d.full, name)]; len(found) > 0 {
		return found[0]
	}
	return nil
}

// throughAlias resolves a name that is an alias, also one of a type it names in
// part: Port.Metres. It answers nil where no alias is in the way.
func (l *linker) throughAlias(t *model.Type, d *typeDecl, depth int) *model.Type {
	for scope := range scopes(d) {
		full := join(scope, t.Name)
		if len(l.types[full]) > 0 {
			return nil
		}
		if named := l.aliases[full]; len(named) > 0 {
			a := named[0]
			target := a.typ
			if len(a.params) > 0 {
				env := map[string]*model.Type{}
				for i, p := range a.params {
					if i < len(t.Args) {
						env[p] = t.Args[i]
					}
				}
				target = bindNames(target, env)
			}
			if target.Kind == model.Named && target.Name == t.Name && a.decl == d {
				return nil // typealias Name = Name
			}
			return l.resolveIn(target, a.decl, depth+1)
		}
	}
	// Outer.Inner where Outer is an alias.
	if dot := strings.IndexByte(t.Name, '.'); dot > 0 {
		if base := l.lookup(t.Name[:dot], d); base != nil && base.full != t.Name[:dot] {
			inner := *t
			inner.Name = base.full + t.Name[dot:]
			if len(l.types[inner.Name]) > 0 || len(l.aliases[inner.Name]) > 0 {
				return l.resolveIn(&inner, nil, depth+1)
			}
		}
	}
	return nil
}

// bindNames replaces the parameters of a generic alias, which are plain names
// until they are resolved.
func bindNames(t *model.Type, env map[string]*model.Type) *model.Type {
	if t.Kind == model.Named && len(t.Args) == 0 {
		if bound := env[t.Name]; bound != nil {
			return bound
		}
	}
	r := *t
	r.Args = nil
	for _, a := range t.Args {
		r.Args = append(r.Args, bindNames(a, env))
	}
	return &r
}

// builtin gives the generic types of the standard library the kind that their
// short form has.
func builtin(t *model.Type) *model.Type {
	var kind model.TypeKind
	args := 1
	switch t.Name {
	case "Optional":
		kind = model.Optional
	case "Array", "ContiguousArray", "ArraySlice":
		kind = model.List
	case "Set":
		kind = model.Unique
	case "Dictionary":
		kind, args = model.Map, 2
	default:
		return t
	}
	if len(t.Args) != args {
		return t
	}
	return &model.Type{Kind: kind, Args: t.Args, Pos: t.Pos}
}

// conformances are the names of all that a declaration conforms to: what it and
// its extensions name, through protocols, aliases and compositions.
func (l *linker) conformances(d *typeDecl) []string {
	if d.conforms != nil {
		return d.conforms
	}
	seen := make([]string, 0, len(d.inherits))
	var visit func(t *model.Type, from *typeDecl)
	visitAll := func(d *typeDecl) {
		for _, t := range d.inherits {
			visit(t, d)
		}
		for _, e := range l.exts[d.full] {
			for _, t := range e.inherits {
				visit(t, e)
			}
		}
	}
	visit = func(t *model.Type, from *typeDecl) {
		if t.Kind == model.Opaque {
			for _, name := range strings.Split(t.Name, "&") {
				visit(&model.Type{Name: strings.TrimSpace(name)}, from)
			}
			return
		}
		if slices.Contains(seen, t.Name) {
			return
		}
		seen = append(seen, t.Name)
		if !l.names[t.Name[strings.LastIndexByte(t.Name, '.')+1:]] {
			return
		}
		for scope := range scopes(from) {
			for _, a := range l.aliases[join(scope, t.Name)] {
				visit(a.typ, a.decl)
			}
		}
		if p := l.lookup(t.Name, from); p != nil && p.kind == "protocol" {
			visitAll(p)
		}
	}
	visitAll(d)
	d.conforms = seen
	return seen
}

// superclass is the class that d extends, nil where the source declares none.
func (l *linker) superclass(d *typeDecl) *typeDecl {
	if d.kind != "class" || len(d.inherits) == 0 {
		return nil
	}
	first := l.classOf(d)
	for s, steps := first, 0; s != nil; s, steps = l.classOf(s), steps+1 {
		if s == d || steps > 64 {
			return nil // classes that extend each other in a circle
		}
	}
	return first
}

func (l *linker) classOf(d *typeDecl) *typeDecl {
	if d.kind != "class" || len(d.inherits) == 0 {
		return nil
	}
	if s := l.lookup(d.inherits[0].Name, d); s != nil && s.kind == "class" {
		return s
	}
	return nil
}

// nested finds a type declared inside d or an extension of it.
func (l *linker) nestedType(d *typeDecl, name string) *typeDecl {
	if !l.names[name] {
		return nil
	}
	if found := l.types[d.full+"."+name]; len(found) > 0 {
		return nearest(found, d)
	}
	for _, a := range l.aliases[d.full+"."+name] {
		return l.lookup(a.typ.Name, a.decl)
	}
	return nil
}

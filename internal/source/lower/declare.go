package lower

import (
	"slices"

	"vetta/internal/code"
	"vetta/internal/model"
	"vetta/internal/source/scan"
)

// modifiers are the words that may stand before a declaration. What they mean here is only whether what
// they are of is static.
var modifiers = map[string]bool{
	"public": true, "private": true, "fileprivate": true, "internal": true, "protected": true, "open": true, "final": true, "static": true,
	"abstract": true, "override": true, "inline": true, "suspend": true, "const": true, "lateinit": true, "data": true, "sealed": true,
	"value": true, "inner": true, "companion": true, "mutating": true, "nonisolated": true, "lazy": true, "weak": true, "unowned": true,
	"required": true, "convenience": true, "synchronized": true, "volatile": true, "transient": true, "default": true, "native": true,
	"operator": true, "infix": true, "tailrec": true, "external": true, "actual": true, "expect": true, "indirect": true, "annotation": true,
	"noinline": true, "crossinline": true, "vararg": true, "reified": true, "dynamic": true, "nonmutating": true, "strictfp": true,
}

var typeWords = map[string]bool{
	"class": true, "struct": true, "enum": true, "actor": true, "protocol": true, "extension": true, "interface": true, "object": true, "record": true,
}

// members reads declarations up to a token, into a class or outside of any.
func (r *reader) members(end int, c *code.Class) {
	if r.depth++; r.depth > maxDepth {
		r.depth--
		r.I = end
		return
	}
	defer func() { r.depth-- }()
	for r.I < end {
		start := r.I
		static := r.modifiers(c)
		generics := len(r.generics)
		if r.java() && r.Is("<") { // of a method
			r.generics = append(slices.Clip(r.generics), r.parameters()...)
		}
		switch {
		case r.I >= end:
		case r.Is("import") || r.Is("package"):
			for r.Advance(); r.I < end && !r.Newline() && !r.Is(";"); {
				r.Advance()
			}
		case r.Is("enum") && r.Ahead(1, "class"):
			r.Advance()
		case r.Kind() == scan.Ident && typeWords[r.Text()] && (r.KindAhead(1) == scan.Ident || r.Is("object") && r.Ahead(1, "{")):
			r.declareClass(end, c)
		case r.Is("typealias"):
			r.alias(c)
		case r.swift() && r.Is("case") && c != nil:
			r.cases(end, c)
		case r.swift() && (r.Is("func") || r.Is("init") && c != nil):
			r.swiftFunction(end, c)
		case r.kotlin() && r.Is("fun"):
			r.kotlinFunction(end, c)
		case !r.java() && (r.Is("let") || r.Is("var") || r.Is("val")):
			r.property(end, c, static)
		case r.java() && c != nil:
			r.javaMember(end, c, static, r.generics[generics:])
		default:
			r.Jump()
		}
		r.generics = r.generics[:generics]
		if r.I == start {
			r.Jump()
		}
	}
	r.I = end
}

// modifiers passes over annotations and the words before a declaration, and says whether one of them is
// static.
func (r *reader) modifiers(c *code.Class) (static bool) {
	for {
		switch {
		case r.Is("@") && !r.Ahead(1, "interface"):
			r.Advance()
			for r.Advance(); r.Is(".") || r.Is(":"); { // @file:Name, @a.b.Name
				r.I += 2
			}
			if r.Is("(") && !r.Newline() {
				r.Jump()
			}
		case r.Kind() == scan.Ident && !r.Tok().Quoted && modifiers[r.Text()] && (r.KindAhead(1) == scan.Ident || r.Ahead(1, "@") || r.Ahead(1, "(") && r.swift() || r.Ahead(1, "<") && r.java()),
			r.Is("class") && c != nil && r.swift() && (r.Ahead(1, "func") || r.Ahead(1, "var") || r.Ahead(1, "let")):
			static = static || r.Is("static") || r.Is("class")
			r.Advance()
			if r.swift() && r.Is("(") { // private(set)
				r.Jump()
			}
		default:
			return static
		}
	}
}

// parameters reads type parameters, from their bracket on: the names.
func (r *reader) parameters() (names []string) {
	first := true
	for depth := 0; r.Kind() != scan.EOF && !r.Is("{"); r.Advance() {
		switch {
		case r.Is("<"):
			depth++
		case r.Is(">"):
			if depth--; depth == 0 {
				r.Advance()
				return names
			}
		case r.Is(","):
			first = first || depth == 1
		case first && r.Kind() == scan.Ident && !r.Is("reified") && !r.Is("out") && !r.Is("in") && !r.Is("each"):
			names = append(names, r.Text())
			first = false
		}
	}
	return names
}

// declareClass reads a type from its keyword on.
func (r *reader) declareClass(end int, outer *code.Class) {
	kind := r.Text()
	if r.F.Is(r.I-1, "enum") { // enum class
		kind = "enum"
	}
	r.Advance()
	d := &code.Class{Outer: outer, File: r.F.Name, Pos: r.Where(), Types: map[string]*model.Type{}}
	companion := kind == "object" && outer != nil && (r.F.Is(r.I-2, "companion"))
	if r.Kind() == scan.Ident {
		d.Name = r.Text()
		r.Advance()
	}
	for r.swift() && r.Is(".") && r.KindAhead(1) == scan.Ident { // extension Outer.Inner
		r.Advance()
		d.Name = r.Text()
		r.Advance()
	}
	if companion {
		d.Name = outer.Name
	}
	outerClass, outerPath, generics := r.class, r.path, r.generics
	defer func() { r.class, r.path, r.generics = outerClass, outerPath, generics }()
	r.class = d
	if !companion {
		if r.path != "" {
			r.path += "."
		}
		r.path += d.Name
	}
	if r.Is("<") {
		d.Generics = r.parameters()
	}
	if outer != nil && r.swift() && outer.Types[d.Name] == nil { // a type that stands for an associated one
		outer.Types[d.Name] = r.Resolve(&model.Type{Kind: model.Named, Name: d.Name, Pos: d.Pos}, outerPath, r.generics)
	}
	r.generics = append(slices.Clip(r.generics), d.Generics...)
	var params []code.Param
	for r.kotlin() && (r.Is("@") || modifiers[r.Text()] || r.Is("constructor")) {
		if r.Is("@") { // @Inject constructor(
			r.modifiers(nil)
		} else {
			r.Advance()
		}
	}
	if r.Is("(") && !r.swift() { // a primary constructor, a record's components
		params = r.params(d)
	}
	r.supers(end, d)
	if r.Is("where") && r.swift() {
		r.equalities(end, d)
	}
	for r.I < end && !r.Is("{") && !(r.Newline() && r.kotlin()) && !r.Is(";") && !r.Is("}") {
		r.Jump()
	}
	if params != nil || r.kotlin() && kind == "class" {
		d.Funcs = append(d.Funcs, &code.Func{Name: d.Name, Params: params, Returns: classType(d), File: r.F.Name, Pos: d.Pos, Init: true})
	}
	if r.Is("{") && r.I < end {
		shut := r.Shut()
		r.Advance()
		if kind == "enum" && !r.swift() {
			r.constants(shut, d)
		}
		r.members(shut, d)
		r.I = shut
		r.Advance()
	}
	if kind == "struct" && r.swift() {
		r.memberwise(d)
	}
	r.program.AddClass(d)
}

// memberwise gives a struct of Swift without an initialiser the one that the compiler writes.
func (r *reader) memberwise(d *code.Class) {
	f := &code.Func{Name: d.Name, Returns: classType(d), File: r.F.Name, Pos: d.Pos, Init: true}
	for _, own := range d.Funcs {
		if own.Init {
			return
		}
	}
	for _, p := range d.Props {
		if !p.Static && p.Get == nil && p.Type != nil {
			f.Params = append(f.Params, code.Param{Label: p.Name, Name: p.Name, Type: p.Type, Default: p.Value})
		}
	}
	if len(f.Params) > 0 {
		d.Funcs = append(d.Funcs, f)
	}
}

// constants reads those of an enum of Java or Kotlin: each makes an instance.
func (r *reader) constants(end int, d *code.Class) {
	d.Cases = map[string]*code.Expr{}
	for r.I < end && !r.Is(";") {
		r.modifiers(nil)
		if r.Kind() != scan.Ident || typeWords[r.Text()] || r.Is("fun") || r.Is("val") || r.Is("override") {
			return
		}
		made := &code.Expr{Op: code.Call, Args: []*code.Expr{{Op: code.Name, Text: d.Name}}, Pos: r.Where()}
		name := r.Text()
		r.Advance()
		if r.Is("(") {
			r.arguments(made)
		}
		if r.Is("{") {
			r.Jump()
		}
		d.Cases[name] = made
		if !r.Accept(",") {
			return
		}
	}
}

// cases reads those of an enum of Swift, with the values that they stand for.
func (r *reader) cases(end int, c *code.Class) {
	if c.Cases == nil {
		c.Cases = map[string]*code.Expr{}
	}
	for r.Advance(); r.I < end && r.Kind() == scan.Ident; {
		name := r.F.Ident(r.I)
		r.Advance()
		if r.Is("(") {
			r.Jump()
		}
		c.Cases[name] = nil
		if r.Accept("=") {
			c.Cases[name] = r.expr(end)
		}
		if !r.Accept(",") {
			return
		}
	}
}

// classType is the type of the instances of a class.
func classType(c *code.Class) *model.Type {
	t := &model.Type{Kind: model.Named, Name: c.Name}
	for _, name := range c.Generics {
		t.Args = append(t.Args, &model.Type{Kind: model.Named, Name: name})
	}
	return t
}

// supers reads what a class extends and implements.
func (r *reader) supers(end int, d *code.Class) {
	for r.I < end && (r.Is(":") || r.Is(",") || r.Is("extends") || r.Is("implements") || r.Is("permits")) {
		r.Advance()
		t := r.typ()
		if t == nil {
			return
		}
		d.Supers = append(d.Supers, t)
		if r.Is("(") && r.kotlin() {
			d.Super = &code.Expr{Op: code.Call, Args: []*code.Expr{{Op: code.Name, Text: model.SimpleName(t.Name)}}}
			r.arguments(d.Super)
		}
		if r.Is("by") && r.kotlin() {
			r.Advance()
			r.expr(end)
		}
	}
}

// equalities reads what an extension says that type parameters are: where Response == [Port].
func (r *reader) equalities(end int, d *code.Class) {
	for r.Advance(); r.I < end && !r.Is("{"); {
		name := r.Text()
		r.Advance()
		if r.Operator("==") {
			r.I += 2
			if t := r.typ(); t != nil {
				d.Types[name] = t
			}
		}
		r.toBefore(end, ",", "{")
		r.Accept(",")
	}
}

// toBefore goes on token by token to one of some characters, or to end.
func (r *reader) toBefore(end int, texts ...string) {
	for r.I < end && !slices.ContainsFunc(texts, r.Is) {
		r.Advance()
	}
}

func (r *reader) alias(c *code.Class) {
	r.Advance()
	name := r.Text()
	r.Advance()
	a := code.Alias{}
	outside := r.generics
	if r.Is("<") {
		a.Generics = r.parameters()
		r.generics = append(slices.Clip(r.generics), a.Generics...)
	}
	if r.Accept("=") {
		if a.Type = r.typ(); a.Type != nil {
			r.program.Aliases[name] = a
			if c != nil {
				c.Types[name] = a.Type
			}
		}
	}
	r.generics = outside
}

// property reads a property of Swift or Kotlin from its keyword on.
func (r *reader) property(end int, c *code.Class, static bool) {
	r.Advance()
	if r.Is("<") {
		r.parameters()
	}
	for r.kotlin() && r.KindAhead(1) == scan.Punct && r.Ahead(1, ".") { // an extension
		r.I += 2
	}
	if r.Kind() != scan.Ident {
		return
	}
	p := &code.Prop{Name: r.Text(), Static: static, File: r.F.Name}
	get := r.newFunc()
	r.Advance()
	if r.Accept(":") {
		p.Type = r.typ()
	}
	get.Returns = p.Type
	switch {
	case r.Is("=") && !r.Operator("=="):
		r.Advance()
		p.Value = r.expr(end)
	case r.kotlin() && r.Is("by"):
		r.Advance()
		p.Value = r.expr(end)
		if e := p.Value; e.Op == code.Call && len(e.Args) > 1 && e.Args[len(e.Args)-1].Op == code.Lambda { // lazy { … }
			if v := lastValue(e.Args[len(e.Args)-1].Body); v != nil {
				whole := *v
				whole.From, whole.To = e.From, e.To
				p.Value = &whole
			}
		}
	case r.swift() && r.Is("{") && r.I < end:
		if !r.Ahead(1, "get") {
			get.Body = r.body()
			p.Get = get
			break
		}
		shut := r.Shut()
		r.I += 2
		for r.Is("async") || r.Is("throws") {
			r.Advance()
		}
		if r.Is("{") { // what a protocol requires has no code
			get.Body = r.body()
			p.Get = get
		}
		r.I = shut + 1
	}
	if r.kotlin() && r.Is("get") && r.Ahead(1, "(") && r.I < end {
		r.Advance()
		r.Jump()
		if r.Accept("=") {
			get.Body = []code.Stmt{{Op: code.Return, Value: r.expr(end)}}
		} else if r.Is("{") {
			get.Body = r.body()
		}
		p.Get = get
	}
	if c != nil {
		c.Props = append(c.Props, p)
		return
	}
	r.program.AddProp(p)
}

// lastValue is what the last of some statements yields.
func lastValue(all []code.Stmt) *code.Expr {
	if len(all) == 0 {
		return nil
	}
	return all[len(all)-1].Value
}

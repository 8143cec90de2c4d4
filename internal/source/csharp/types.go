package csharp

import (
	"strings"

	"vetta/internal/code"
	"vetta/internal/model"
	"vetta/internal/source/scan"
)

// typ reads a type, nil where none begins; then the cursor stays.
func (p *parser) typ() *model.Type { return p.typeUpTo(true) }

// typeUpTo reads a type; whole says that a question mark and brackets behind it belong to it.
func (p *parser) typeUpTo(whole bool) *model.Type {
	if p.depth++; p.depth > maxDepth {
		p.depth--
		return nil
	}
	defer func() { p.depth-- }()
	start := p.I
	for p.Is("ref") || p.Is("scoped") && p.KindAhead(1) == scan.Ident || p.Is("readonly") || p.Is("in") && p.KindAhead(1) == scan.Ident || p.Is("out") && p.KindAhead(1) == scan.Ident {
		p.Advance()
	}
	t := p.typeAlone()
	if t == nil {
		p.I = start
		return nil
	}
	for whole {
		switch {
		case p.Is("?") && !p.joinedMark():
			p.Advance()
			if t.Kind != model.Optional {
				t = model.OptionalOf(t)
			}
		case p.Is("[") && p.rank() > 0:
			rank := p.rank()
			p.I = p.Shut() + 1
			name := "[]"
			if rank > 1 {
				name = "[" + strings.Repeat(",", rank-1) + "]"
			}
			t = arrayOf(t, name)
		case p.Is("*") && !p.beginsBehind(1):
			p.Advance()
			t = &model.Type{Kind: model.Opaque, Name: t.Name + "*", Pos: t.Pos}
		default:
			return t
		}
	}
	return t
}

// arrayOf is an array of some elements. Of int[][,] the rank that is written first is the outer one's.
func arrayOf(t *model.Type, name string) *model.Type {
	if t.Kind == model.List && strings.HasPrefix(t.Name, "[") {
		inner := *t
		inner.Args = []*model.Type{arrayOf(t.Args[0], name)}
		return &inner
	}
	return &model.Type{Kind: model.List, Name: name, Args: []*model.Type{t}, Pos: t.Pos}
}

// joinedMark says whether the question mark at the cursor is part of a longer operator.
func (p *parser) joinedMark() bool {
	if p.I+1 >= p.F.Len() || p.At(1).Space {
		return false
	}
	return p.Ahead(1, "?") || p.Ahead(1, ".") && !p.Ahead(2, ".")
}

// rank is how many dimensions the brackets at the cursor tell, 0 where they are not those of an array's type.
func (p *parser) rank() int {
	rank := 1
	for i := 1; ; i++ {
		switch {
		case p.Ahead(i, ","):
			rank++
		case p.Ahead(i, "]"):
			return rank
		default:
			return 0
		}
	}
}

// beginsBehind says whether an operand stands so many tokens ahead.
func (p *parser) beginsBehind(n int) bool {
	k := p.KindAhead(n)
	return k == scan.Ident && !p.Ahead(n, "is") && !p.Ahead(n, "as") || k == scan.Number || k == scan.String || p.Ahead(n, "(")
}

// typeAlone reads a type without what stands behind it.
func (p *parser) typeAlone() *model.Type {
	switch {
	case p.Is("("):
		return p.tuple()
	case p.Is("delegate") && p.Ahead(1, "*"):
		t := &model.Type{Kind: model.Opaque, Name: "delegate*", Pos: p.Where()}
		p.I += 2
		for !p.Is("<") && p.Kind() == scan.Ident {
			p.Advance()
		}
		if p.Is("<") {
			p.typeArgs()
		}
		return t
	case p.Kind() != scan.Ident || p.reservedHere() && !predefined[p.Text()]:
		return nil
	}
	t := &model.Type{Kind: model.Named, Name: p.Text(), Pos: p.Where()}
	p.Advance()
	if p.Is(":") && p.Ahead(1, ":") && p.KindAhead(2) == scan.Ident { // global::System.Uri
		p.I += 2
		if t.Name = p.Text(); p.F.Word(p.I-3) != "global" {
			t.Name = p.F.Word(p.I-3) + "." + t.Name
		}
		p.Advance()
	}
	if !p.argsOf(t) {
		return nil
	}
	for p.Is(".") && p.KindAhead(1) == scan.Ident {
		p.Advance()
		t.Name += "." + p.Text()
		p.Advance()
		if !p.argsOf(t) {
			return nil
		}
	}
	return t
}

// argsOf reads the type arguments behind a name; ok is false where they do not end.
func (p *parser) argsOf(t *model.Type) (ok bool) {
	if !p.Is("<") {
		return true
	}
	start := p.I
	args, ok := p.typeArgs()
	if !ok {
		p.I = start
		return false
	}
	t.Args = append(t.Args, args...)
	return true
}

// typeArgs reads types in angle brackets; ok is false where that is none, or they do not end. Those of typeof(A<,>)
// are empty.
func (p *parser) typeArgs() (args []*model.Type, ok bool) {
	start := p.I
	p.Advance()
	for p.Is(",") || p.Is(">") && p.I == start+1 {
		open := p.Is(">")
		p.Advance()
		args = append(args, &model.Type{Kind: model.Named, Name: ""})
		if open {
			return nil, true
		}
		if p.Accept(">") {
			return nil, true
		}
	}
	for {
		for p.Is("[") {
			p.attributes()
		}
		if p.Accept("in") || p.Accept("out") {
			continue
		}
		t := p.typ()
		if t == nil {
			p.I = start
			return nil, false
		}
		args = append(args, t)
		if p.Accept(",") {
			continue
		}
		if p.Accept(">") {
			return args, true
		}
		p.I = start
		return nil, false
	}
}

// tuple reads the type of a tuple.
func (p *parser) tuple() *model.Type {
	t := &model.Type{Kind: model.Tuple, Pos: p.Where()}
	shut := p.Shut()
	if shut == p.I {
		return nil
	}
	for p.Advance(); p.I < shut; {
		of := p.typ()
		if of == nil {
			return nil
		}
		t.Args = append(t.Args, of)
		if p.Kind() == scan.Ident && p.I < shut {
			p.Advance()
		}
		if p.I < shut && !p.Accept(",") {
			return nil
		}
	}
	p.I = shut + 1
	if len(t.Args) < 2 {
		return nil
	}
	return t
}

// typeParams reads type parameters, and answers the names.
func (p *parser) typeParams() (names []string) {
	p.Advance()
	for !p.Is(">") && p.Kind() != scan.EOF {
		switch {
		case p.Is("["):
			p.attributes()
		case p.Accept(","), p.Accept("in"), p.Accept("out"):
		case p.Kind() == scan.Ident:
			names = append(names, p.Text())
			p.Advance()
		default:
			return names
		}
	}
	p.Accept(">")
	p.generics = append(p.generics[:len(p.generics):len(p.generics)], names...)
	return names
}

// constraints reads what stands behind where, up to a body, an arrow or a semicolon.
func (p *parser) constraints() {
	for p.Is("where") && p.KindAhead(1) == scan.Ident && p.Ahead(2, ":") {
		for p.I += 3; !p.Is("where") && !p.Is("{") && !p.Is(";") && !p.Operator("=>") && p.Kind() != scan.EOF; {
			p.Jump()
		}
	}
}

// functionOf is a delegate's type as one of a function: Func<int, string>, Action<int>, Predicate<T>, Task-yielding
// ones among them; nil for another.
func functionOf(t *model.Type) *model.Type {
	name := model.SimpleName(t.Name)
	switch n := len(t.Args); {
	case name == "Func" && n > 0:
		return code.FunctionType(t.Args[:n-1], t.Args[n-1])
	case name == "Action":
		return code.FunctionType(t.Args, nil)
	case name == "Converter" && n == 2:
		return code.FunctionType(t.Args[:1], t.Args[1])
	case name == "Predicate" && n == 1:
		return code.FunctionType(t.Args, &model.Type{Kind: model.Named, Name: "bool"})
	}
	return nil
}

// predefined are the words that are types.
var predefined = map[string]bool{
	"bool": true, "byte": true, "sbyte": true, "short": true, "ushort": true, "int": true, "uint": true, "long": true, "ulong": true, "nint": true, "nuint": true,
	"char": true, "float": true, "double": true, "decimal": true, "string": true, "object": true, "void": true, "dynamic": true,
}

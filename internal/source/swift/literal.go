package swift

import (
	"strings"

	"vetta/internal/model"
	"vetta/internal/source/scan"
)

// literal reads the expression from the parser up to the token end. Where it is
// no literal the answer is an OtherLiteral with the source it stands in.
func (p *parser) literal(end int) *model.Literal {
	start := p.I
	l := p.literalValue(end)
	if l == nil || p.I != end {
		l = &model.Literal{Kind: model.OtherLiteral}
	}
	l.Source = p.F.Text(start, end)
	return l
}

func (p *parser) literalValue(end int) *model.Literal {
	sign := ""
	if p.Is("-") {
		sign = "-"
		p.Advance()
	}
	t := p.Tok()
	if p.I >= end {
		return nil
	}
	switch {
	case t.Kind == scan.Number:
		p.Advance()
		l := &model.Literal{Kind: model.IntLiteral, Text: sign + strings.ReplaceAll(t.Text, "_", "")}
		if hex := strings.Contains(l.Text, "0x"); hex && strings.ContainsAny(l.Text, ".pP") || !hex && strings.ContainsAny(l.Text, ".eE") {
			l.Kind = model.FloatLiteral
		}
		return l
	case sign != "":
		return nil
	case t.Kind == scan.String:
		p.Advance()
		if !t.Plain {
			return nil
		}
		return &model.Literal{Kind: model.StringLiteral, Text: t.Text}
	case t.Is("true") || t.Is("false"):
		p.Advance()
		return &model.Literal{Kind: model.BoolLiteral, Text: t.Text}
	case t.Is("nil"):
		p.Advance()
		return &model.Literal{Kind: model.NullLiteral}
	case t.Is("."):
		if name := p.At(1); name.Kind == scan.Ident {
			p.I += 2
			if name.Is("none") {
				return &model.Literal{Kind: model.CaseLiteral, Text: "none"}
			}
			return &model.Literal{Kind: model.CaseLiteral, Text: name.Text}
		}
	case t.Is("["):
		return p.collection()
	case t.Kind == scan.Ident:
		// Type.case, or Type() of an empty collection.
		q := *p
		typ := q.parseNamed()
		if q.I == end && strings.Contains(typ.Name, ".") && len(typ.Args) == 0 {
			p.I = q.I
			return &model.Literal{Kind: model.CaseLiteral, Text: typ.Name[strings.LastIndex(typ.Name, ".")+1:]}
		}
	}
	return nil
}

// collection reads [a, b], [k: v], [:] or [T]() and [K: V]().
func (p *parser) collection() *model.Literal {
	shut := p.Shut()
	l := &model.Literal{Kind: model.ListLiteral}
	if open := p.At(shut - p.I + 1); open.Is("(") && !open.Space {
		q := *p
		if typ := q.parseType(); typ != nil && q.Is("(") && q.Ahead(1, ")") {
			if typ.Kind == model.Map {
				l.Kind = model.MapLiteral
			}
			p.I = q.I + 2
			return l
		}
		return nil
	}
	p.Advance()
	if p.Is(":") && p.I+1 == shut {
		l.Kind = model.MapLiteral
		p.I = shut
	}
	if p.depth >= maxDepth {
		return nil
	}
	p.depth++
	defer func() { p.depth-- }()
	for p.I < shut {
		item := p.literalValue(shut)
		if item == nil {
			return nil
		}
		l.Elems = append(l.Elems, item)
		if p.Accept(":") {
			l.Kind = model.MapLiteral
		} else if !p.Accept(",") {
			break
		}
	}
	if p.I != shut {
		return nil
	}
	p.Advance()
	return l
}

// inferType is the type of a property that is declared by its initialiser alone,
// with the way the source would write it, or nil.
func inferType(f *scan.File, prop *property) (*model.Type, string) {
	if t := literalType(prop.init); t != nil {
		return t, typeText(t)
	}
	// Type(…) or [Type](…), or a constant of a type: Type.name.
	p := parserAt(f, prop.value[0])
	start := p.I
	t := p.parseType()
	if t == nil || p.I > prop.value[1] {
		return nil, ""
	}
	switch {
	case p.Is("(") && p.Shut()+1 == prop.value[1]:
		return t, f.Text(start, p.I)
	case p.I == prop.value[1] && t.Kind == model.Named && strings.Contains(t.Name, "."):
		t.Name = t.Name[:strings.LastIndex(t.Name, ".")]
		return t, t.Name
	}
	return nil, ""
}

func literalType(l *model.Literal) *model.Type {
	if l == nil {
		return nil
	}
	switch l.Kind {
	case model.BoolLiteral:
		return &model.Type{Name: "Bool"}
	case model.IntLiteral:
		return &model.Type{Name: "Int"}
	case model.FloatLiteral:
		return &model.Type{Name: "Double"}
	case model.StringLiteral:
		return &model.Type{Name: "String"}
	case model.ListLiteral:
		if len(l.Elems) == 0 {
			return nil
		}
		if elem := literalType(l.Elems[0]); elem != nil {
			return &model.Type{Kind: model.List, Args: []*model.Type{elem}}
		}
	case model.MapLiteral:
		if len(l.Elems) < 2 {
			return nil
		}
		key, value := literalType(l.Elems[0]), literalType(l.Elems[1])
		if key != nil && value != nil {
			return &model.Type{Kind: model.Map, Args: []*model.Type{key, value}}
		}
	}
	return nil
}

// typeText writes a type as Swift source would.
func typeText(t *model.Type) string {
	switch t.Kind {
	case model.Optional:
		return typeText(t.Args[0]) + "?"
	case model.List:
		return "[" + typeText(t.Args[0]) + "]"
	case model.Map:
		return "[" + typeText(t.Args[0]) + ": " + typeText(t.Args[1]) + "]"
	case model.Unique:
		return "Set<" + typeText(t.Args[0]) + ">"
	case model.Tuple:
		parts := make([]string, len(t.Args))
		for i, a := range t.Args {
			parts[i] = typeText(a)
		}
		return "(" + strings.Join(parts, ", ") + ")"
	}
	if len(t.Args) == 0 {
		return t.Name
	}
	args := make([]string, len(t.Args))
	for i, a := range t.Args {
		args[i] = typeText(a)
	}
	return t.Name + "<" + strings.Join(args, ", ") + ">"
}

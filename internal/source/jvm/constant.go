package jvm

import (
	"slices"
	"strings"

	"vetta/internal/model"
	"vetta/internal/source/scan"
)

// Parts are what the tokens of an expression put together to a text: strings, and names
// of constants as literals whose Source is the path. Nil where they are anything else.
func Parts(f *scan.File, from, to int) (parts []*model.Literal) {
	for i := from; i < to; i++ {
		if len(parts) > 0 {
			if !f.Is(i, "+") {
				return nil
			}
			i++
		}
		switch t := f.TokenAt(i); {
		case i >= to:
			return nil
		case t.Kind == scan.String && t.Plain:
			parts = append(parts, &model.Literal{Kind: model.StringLiteral, Text: t.Text})
		case t.Kind == scan.String:
			inner := template(f.Text(i, i+1))
			if inner == nil {
				return nil
			}
			parts = append(parts, inner...)
		case t.Kind == scan.Ident:
			start := i
			for i+2 < to && f.Is(i+1, ".") && f.KindAt(i+2) == scan.Ident {
				i += 2
			}
			parts = append(parts, &model.Literal{Kind: model.CaseLiteral, Text: f.TokenAt(i).Text, Source: f.Joined(start, i+1)})
		default:
			return nil
		}
	}
	return parts
}

// template takes a string of Kotlin apart that names constants: "$PREFIX-id",
// "${Keys.A}_x". Nil where it holds more.
func template(written string) (parts []*model.Literal) {
	text := strings.Trim(written, `"`)
	if strings.ContainsAny(text, `"\`) {
		return nil
	}
	for text != "" {
		at := strings.IndexByte(text, '$')
		if at < 0 {
			at = len(text)
		}
		if at > 0 {
			parts = append(parts, &model.Literal{Kind: model.StringLiteral, Text: text[:at]})
		}
		if text = text[at:]; text == "" {
			break
		}
		name, rest := text[1:], ""
		if inner, braced := strings.CutPrefix(name, "{"); braced {
			end := strings.IndexByte(inner, '}')
			if end < 0 {
				return nil
			}
			name, rest = inner[:end], inner[end+1:]
		} else if end := strings.IndexFunc(name, func(r rune) bool { return !IsWordRune(r) }); end >= 0 {
			name, rest = name[:end], name[end:]
		}
		if name == "" || strings.IndexFunc(name, func(r rune) bool { return r != '.' && !IsWordRune(r) }) >= 0 {
			return nil
		}
		parts = append(parts, &model.Literal{Kind: model.CaseLiteral, Text: Last(name), Source: name})
		text = rest
	}
	return parts
}

// IsWordRune says whether a character may stand in a name.
func IsWordRune(r rune) bool {
	return r == '_' || r >= '0' && r <= '9' || r >= 'a' && r <= 'z' || r >= 'A' && r <= 'Z' || r > 0x7F
}

// plainText is the text of parts that are all strings; ok is false where they are not, or
// where there are none.
func plainText(parts []*model.Literal) (text string, ok bool) {
	for _, l := range parts {
		if l.Kind != model.StringLiteral {
			return "", false
		}
		text += l.Text
	}
	return text, len(parts) > 0
}

// MaxConstants bounds how deep constants are named by others, which may be in a circle,
// maxAsked how many literals are looked at for one value, maxText how many bytes it has.
const (
	MaxConstants = 16
	maxAsked     = 1000
	maxText      = 4096
)

// Told puts in what the arguments of annotations are, where the source says it by
// constants. What is not found stays as it is written, and Made tells of what.
func (p *Project) Told(c *Class, marks model.Annotated) {
	for _, a := range marks {
		for _, arg := range a.Args {
			for i, parts := range arg.Made {
				p.Asked = 0
				if l := p.joined(c.File, c, parts, MaxConstants); l != nil {
					arg.Texts[i] = l.Text
					delete(arg.Made, i)
				}
			}
			p.Told(c, arg.Marks)
		}
	}
}

// Literal is a literal of a class, with what a constant is in the place of its name.
func (p *Project) Literal(c *Class, l *model.Literal) *model.Literal {
	p.Asked = 0
	v := p.value(c.File, c, l, MaxConstants)
	if v == nil || v == l {
		return l
	}
	return &model.Literal{Kind: v.Kind, Text: v.Text, Source: l.Source}
}

// joined is the one part there is, or the text that several make; nil where that is not
// known.
func (p *Project) joined(f *File, in *Class, parts []*model.Literal, depth int) *model.Literal {
	switch len(parts) {
	case 0:
		return nil
	case 1:
		return p.value(f, in, parts[0], depth)
	}
	text := ""
	for _, l := range parts {
		l = p.value(f, in, l, depth)
		if l == nil || l.Kind != model.StringLiteral && l.Kind != model.IntLiteral && l.Kind != model.BoolLiteral {
			return nil
		}
		if text += l.Text; len(text) > maxText {
			return nil
		}
	}
	return &model.Literal{Kind: model.StringLiteral, Text: text}
}

// value is what a literal stands for, seen from a class; nil where that is no scalar, or
// not known.
func (p *Project) value(f *File, in *Class, l *model.Literal, depth int) *model.Literal {
	if p.Asked++; depth == 0 || l == nil || p.Asked > maxAsked {
		return nil
	}
	switch l.Kind {
	case model.CaseLiteral:
		return p.Constant(f, in, l.Source, depth-1)
	case model.OtherLiteral:
		return p.joined(f, in, l.Elems, depth-1)
	case model.ListLiteral, model.MapLiteral:
		return nil
	}
	return l
}

// Constant is what the constant is that a path names in a file, inside a class where in is
// one: of what is around it, of what these extend, of a companion, of an import or of the
// file's package. It is nil where there is none.
func (p *Project) Constant(f *File, in *Class, path string, depth int) *model.Literal {
	path = strings.ReplaceAll(path, " ", "")
	if dot := strings.LastIndexByte(path, '.'); dot >= 0 {
		if owner := p.Find(f, in, path[:dot]); owner != nil {
			return p.constantOf(owner, path[dot+1:], depth)
		}
		return p.constantIn(path[:dot], path[dot+1:], depth)
	}
	for k := in; k != nil; k = k.Outer {
		if l := p.constantOf(k, path, depth); l != nil {
			return l
		}
	}
	for _, i := range f.Imports {
		name := i.Name
		switch name {
		case "*":
			name = path
		default:
			if i.As != path {
				continue
			}
		}
		if l := p.constantIn(i.Path, name, depth); l != nil {
			return l
		}
	}
	return p.constantIn(f.Package, path, depth)
}

// constantIn is a constant in a package, or in a class that a path names.
func (p *Project) constantIn(path, name string, depth int) *model.Literal {
	if c := p.at(path); c != nil {
		return p.constantOf(c, name, depth)
	}
	if p.constants == nil {
		p.constants = map[string][]*File{}
		for _, f := range p.Files {
			for name, l := range f.Constants {
				if l != nil {
					p.constants[name] = append(p.constants[name], f)
				}
			}
		}
	}
	for _, f := range p.constants[name] {
		if f.Package == path {
			return p.value(f, nil, f.Constants[name], depth)
		}
	}
	return nil
}

// constantOf is a constant that a class holds, one of its objects, or one of those that it
// extends.
func (p *Project) constantOf(c *Class, name string, depth int) *model.Literal {
	if depth == 0 {
		return nil
	}
	c.Read()
	for _, f := range c.Fields {
		if f.Name == name && c.constant(f) {
			return p.value(c.File, c, f.Default, depth)
		}
	}
	for _, n := range c.Nested {
		if n.Kind != "object" {
			continue
		}
		if l := p.constantOf(n, name, depth-1); l != nil {
			return l
		}
	}
	above := c.Implements
	if c.Super != nil {
		above = append([]*model.Type{c.Super}, above...)
	}
	for _, t := range above {
		if k := p.Find(c.File, c.Outer, t.Name); k != nil {
			if l := p.constantOf(k, name, depth-1); l != nil {
				return l
			}
		}
	}
	return nil
}

// constant says whether a field holds its initialiser for good: one that is static, or
// final and no parameter of Kotlin's primary constructor.
func (c *Class) constant(f *model.Field) bool {
	return f.Static || f.Final && (c.File.Language == "java" || slices.ContainsFunc(c.Inits, func(i Init) bool { return i.Field == f.Name }))
}

package csharp

import (
	"strconv"
	"strings"

	"vetta/internal/code"
	"vetta/internal/model"
)

// maxConstants is how often a constant may lead to another.
const maxConstants = 20

// literal is a value that an expression stands for where the source is read; one of kind OtherLiteral where that
// hangs on code that runs.
func (p *project) literal(e *code.Expr, s scope) *model.Literal {
	l := p.value(e, s, 0)
	l.Source = p.written(e, s)
	return l
}

// written is an expression as the source has it.
func (p *project) written(e *code.Expr, s scope) string {
	if e == nil {
		return ""
	}
	if u := p.texts[s.file]; e.To > e.From && int(e.To) <= len(u) {
		return u[e.From:e.To]
	}
	return e.Text
}

func (p *project) value(e *code.Expr, s scope, deep int) *model.Literal {
	other := &model.Literal{}
	if e == nil || deep > maxConstants {
		return other
	}
	switch e.Op {
	case code.Text:
		if len(e.Args) == 0 {
			return &model.Literal{Kind: model.StringLiteral, Text: e.Text}
		}
		var b strings.Builder
		for i, piece := range e.Labels {
			b.WriteString(piece)
			if i < len(e.Args) {
				v := p.value(e.Args[i], s, deep+1)
				if v.Kind != model.StringLiteral && v.Kind != model.IntLiteral {
					return other
				}
				b.WriteString(v.Text)
			}
		}
		return &model.Literal{Kind: model.StringLiteral, Text: b.String()}
	case code.Number:
		return number(e.Text)
	case code.Plus:
		a, b := p.value(e.Args[0], s, deep+1), p.value(e.Args[1], s, deep+1)
		if a.Kind == model.StringLiteral && b.Kind != model.OtherLiteral && b.Kind != model.ListLiteral || b.Kind == model.StringLiteral && a.Kind != model.OtherLiteral {
			return &model.Literal{Kind: model.StringLiteral, Text: a.Text + b.Text}
		}
		if a.Kind == model.IntLiteral && b.Kind == model.IntLiteral {
			x, _ := strconv.ParseInt(a.Text, 10, 64)
			y, _ := strconv.ParseInt(b.Text, 10, 64)
			return &model.Literal{Kind: model.IntLiteral, Text: strconv.FormatInt(x+y, 10)}
		}
	case code.Unary:
		if e.Text == "-" {
			if v := p.value(e.Args[0], s, deep+1); v.Kind == model.IntLiteral || v.Kind == model.FloatLiteral {
				return &model.Literal{Kind: v.Kind, Text: "-" + v.Text}
			}
		}
	case code.Binary:
		if e.Text == "<<" {
			a, b := p.value(e.Args[0], s, deep+1), p.value(e.Args[1], s, deep+1)
			x, err := strconv.ParseInt(a.Text, 10, 64)
			y, err2 := strconv.ParseInt(b.Text, 10, 64)
			if err == nil && err2 == nil && y >= 0 && y < 63 {
				return &model.Literal{Kind: model.IntLiteral, Text: strconv.FormatInt(x<<y, 10)}
			}
		}
	case code.Name, code.Member:
		return p.named(e, s, deep)
	case code.As:
		return p.value(e.Args[0], s, deep+1)
	case code.Choice:
		if e.Text == "()" {
			return p.value(e.Args[0], s, deep+1)
		}
	case code.List:
		return p.list(e, e.Args, s, deep)
	case code.Call:
		return p.made(e, s)
	case code.Cascade:
		return p.filled(e, s, deep)
	}
	return other
}

// list is a literal of elements.
func (p *project) list(e *code.Expr, args []*code.Expr, s scope, deep int) *model.Literal {
	l := &model.Literal{Kind: model.ListLiteral}
	if e.Type != nil {
		l.Text = "[]"
	}
	for _, a := range args {
		v := p.value(a, s, deep+1)
		if v.Kind == model.OtherLiteral || a.Op == code.Spread {
			return &model.Literal{}
		}
		l.Elems = append(l.Elems, v)
	}
	return l
}

// made is an instance without arguments; one of a collection is empty.
func (p *project) made(e *code.Expr, s scope) *model.Literal {
	callee := e.Args[0]
	switch {
	case len(e.Args) > 1:
	case callee.Op == code.Name && callee.Text == "new":
		return &model.Literal{Kind: model.MadeLiteral}
	case e.Type != nil:
		return &model.Literal{Kind: model.MadeLiteral, Text: e.Type.Written()}
	case callee.Op == code.Member && callee.Text == "Empty": // Array.Empty<int>(), Enumerable.Empty<int>()
		return &model.Literal{Kind: model.ListLiteral, Text: "[]"}
	}
	return &model.Literal{}
}

// filled is a collection that is made with elements, or a map with entries.
func (p *project) filled(e *code.Expr, s scope, deep int) *model.Literal {
	made := p.value(e.Args[0], s, deep+1)
	if made.Kind != model.MadeLiteral || e.Text == "with" {
		return &model.Literal{}
	}
	out := &model.Literal{Kind: model.ListLiteral, Text: made.Text}
	for i, section := range e.Args[1:] {
		switch {
		case section.Op == code.Call && len(section.Args) == 2 && (i == 0 || out.Kind == model.ListLiteral):
			v := p.value(section.Args[1], s, deep+1)
			if v.Kind == model.OtherLiteral {
				return &model.Literal{}
			}
			out.Elems = append(out.Elems, v)
		case section.Op == code.Set && section.Args[0].Op == code.Index && len(section.Args[0].Args) == 2, section.Op == code.Call && len(section.Args) == 3:
			k, v := section.Args[1], section.Args[len(section.Args)-1]
			if section.Op == code.Set {
				k, v = section.Args[0].Args[1], section.Args[1]
			}
			if i > 0 && out.Kind != model.MapLiteral {
				return &model.Literal{}
			}
			out.Kind = model.MapLiteral
			key, value := p.value(k, s, deep+1), p.value(v, s, deep+1)
			if key.Kind == model.OtherLiteral || value.Kind == model.OtherLiteral {
				return &model.Literal{}
			}
			out.Elems = append(out.Elems, key, value)
		case section.Op == code.Set && section.Args[0].Op == code.Member: // of an object: its members by name
			if i > 0 && out.Kind != model.MadeLiteral {
				return &model.Literal{}
			}
			out.Kind = model.MadeLiteral
			v := p.value(section.Args[1], s, deep+1)
			out.Elems = append(out.Elems, &model.Literal{Kind: model.StringLiteral, Text: section.Args[0].Text}, v)
		default:
			return &model.Literal{}
		}
	}
	return out
}

// number is a number as the source writes it.
func number(text string) *model.Literal {
	text = strings.ReplaceAll(text, "_", "")
	lower := strings.ToLower(text)
	if strings.HasPrefix(lower, "0x") || strings.HasPrefix(lower, "0b") {
		if n, err := strconv.ParseUint(strings.TrimRight(lower, "ul"), 0, 64); err == nil {
			return &model.Literal{Kind: model.IntLiteral, Text: strconv.FormatUint(n, 10)}
		}
		return &model.Literal{}
	}
	digits := strings.TrimRight(lower, "ulfdm")
	if strings.ContainsAny(digits, ".e") || strings.ContainsAny(lower, "fdm") {
		return &model.Literal{Kind: model.FloatLiteral, Text: digits}
	}
	return &model.Literal{Kind: model.IntLiteral, Text: digits}
}

// named is what a name stands for: a word of the language, a constant of a class, of an enum.
func (p *project) named(e *code.Expr, s scope, deep int) *model.Literal {
	if e.Op == code.Name {
		switch e.Text {
		case "null":
			return &model.Literal{Kind: model.NullLiteral}
		case "default":
			return &model.Literal{Kind: model.NullLiteral, Text: "default"}
		case "true", "false":
			return &model.Literal{Kind: model.BoolLiteral, Text: e.Text}
		}
		for d := s.in; d != nil; d = d.outer {
			if v, in := p.constant(d, e.Text, 0); v != nil {
				return p.value(v, in, deep+1)
			}
		}
		for _, class := range p.static[s.file] {
			if d := p.find(class, 0, s.file, s.space, nil); d != nil {
				if v, in := p.constant(d, e.Text, 0); v != nil {
					return p.value(v, in, deep+1)
				}
			}
		}
		return &model.Literal{Text: e.Text}
	}
	of := chain(e.Args[0])
	if of == "" {
		return &model.Literal{}
	}
	if e.Text == "Empty" && (of == "string" || of == "String" || of == "System.String") {
		return &model.Literal{Kind: model.StringLiteral}
	}
	d := p.find(of, 0, s.file, s.space, s.in)
	if d == nil { // of the platform: MidpointRounding.ToEven, DateTime.MinValue
		return &model.Literal{Text: of + "." + e.Text}
	}
	if d.kind() == "enum" {
		for _, name := range d.parts[0].Order {
			if name == e.Text {
				return &model.Literal{Kind: model.CaseLiteral, Text: name}
			}
		}
	}
	if v, in := p.constant(d, e.Text, 0); v != nil {
		return p.value(v, in, deep+1)
	}
	return &model.Literal{Text: of + "." + e.Text}
}

// chain is a name with those before it, "" for another expression.
func chain(e *code.Expr) string {
	switch e.Op {
	case code.Name:
		return e.Text
	case code.Member:
		if len(e.Args) == 1 {
			if of := chain(e.Args[0]); of != "" {
				return of + "." + e.Text
			}
		}
	}
	return ""
}

// targeted is a value whose new() makes an instance of the type that it is given to.
func targeted(v *code.Expr, t *model.Type) *code.Expr {
	switch {
	case t == nil:
	case v.Op == code.Cascade && len(v.Args) > 0:
		if made := targeted(v.Args[0], t); made != v.Args[0] {
			own := *v
			own.Args = append([]*code.Expr{made}, v.Args[1:]...)
			return &own
		}
	case v.Op == code.Call && v.Type == nil && v.Args[0].Op == code.Name && v.Args[0].Text == "new":
		own := *v
		own.Type = t.Unwrapped()
		return &own
	}
	return v
}

// constant is what a static member of a type, or of one that it extends, is given where it is declared.
func (p *project) constant(d *declared, name string, deep int) (*code.Expr, scope) {
	for _, part := range d.parts {
		for _, prop := range part.Props {
			if prop.Name != name || !prop.Static {
				continue
			}
			in := scope{file: part.File, space: d.space, in: d}
			if prop.Value != nil {
				return targeted(prop.Value, prop.Type), in
			}
			if prop.Get != nil {
				if body := prop.Get.Do(); len(body) == 1 && body[0].Op == code.Return {
					return body[0].Value, in
				}
			}
		}
		for _, t := range part.Supers {
			if super := p.find(t.Name, len(t.Args), part.File, d.space, d); super != nil && deep < 8 && super != d {
				if v, in := p.constant(super, name, deep+1); v != nil {
					return v, in
				}
			}
		}
	}
	return nil, scope{}
}

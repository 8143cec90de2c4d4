package kotlin

import (
	"slices"
	"strings"

	"vetta/internal/model"
	"vetta/internal/source/jvm"
	"vetta/internal/source/scan"
)

// arguments reads the parameters in round brackets. The next call of it overwrites what
// it answers.
func (p *parser) arguments() []jvm.Argument {
	all := (*p.file.Arguments())[:0]
	end := p.Shut()
	p.Advance()
	for p.I < end {
		m := p.modifiers()
		a := jvm.Argument{Access: m.access}
		a.Marks = m.marks
		field := ofField(m.marks)
		if p.Is("val") || p.Is("var") {
			a.Property, a.Constant = true, p.Is("val")
			p.Advance()
		}
		if p.Kind() != scan.Ident {
			p.Jump()
			continue
		}
		a.Name, a.Pos = p.Text(), p.Where()
		p.Advance()
		if p.Accept(":") {
			start := p.I
			a.Type = p.typ()
			a.Declared = p.F.Text(start, p.I)
		}
		if a.Type == nil {
			a.Type = p.file.NewType(model.Type{Kind: model.Opaque, Name: a.Declared, Pos: a.Pos})
		}
		if m.has(wordVararg) {
			a.Type = p.file.NewType(model.Type{Kind: model.List, Name: "Array", Args: []*model.Type{a.Type}, Pos: a.Pos})
		}
		if p.Is("=") {
			p.Advance()
			start := p.I
			for p.I < end && !p.Is(",") {
				if p.Is("<") && p.KindAhead(-1) == scan.Ident {
					p.angles()
					continue
				}
				p.Jump()
			}
			a.Default, a.Value = true, jvm.Literal(p.F, start, p.I)
		}
		if a.Property {
			a.Elsewhere, a.Marks = elsewhere(m.marks), field
		}
		all = append(all, a)
		for p.I < end && !p.Accept(",") {
			p.Jump()
		}
	}
	p.I = end
	p.Advance()
	*p.file.Arguments() = all
	return all
}

// ofField are the annotations of a property that its field gets: those for no other part
// of it ("Annotation use-site targets").
func ofField(marks model.Annotated) model.Annotated {
	if !slices.ContainsFunc(marks, isElsewhere) {
		return marks
	}
	return slices.DeleteFunc(slices.Clone(marks), isElsewhere)
}

// transient says whether one of the annotations is @Transient of the platform. Kotlin has it without an import;
// one that a library imports under the name is the library's, and another one.
func (p *parser) transient(marks model.Annotated) bool {
	mark := marks.Find("Transient")
	switch {
	case mark == nil:
		return false
	case strings.Contains(mark.Whole, "."):
		return mark.Whole == "kotlin.jvm.Transient"
	}
	for _, i := range p.file.Imports {
		if i.As == mark.Whole || i.Name == "*" && i.Path == "kotlinx.serialization" {
			return i.Path == "kotlin.jvm"
		}
	}
	return true
}

// elsewhere are the others.
func elsewhere(marks model.Annotated) model.Annotated {
	if !slices.ContainsFunc(marks, isElsewhere) {
		return nil
	}
	return slices.DeleteFunc(slices.Clone(marks), func(a model.Annotation) bool { return !isElsewhere(a) })
}

func isElsewhere(a model.Annotation) bool { return a.Target != "" && a.Target != "field" }

// function passes over a function, and notes it as a method.
func (p *parser) function(c *jvm.Class, m modifiers) {
	p.Advance()
	if p.Is("<") {
		p.parameters()
	}
	name, receiver, pos := "", "", p.Where()
	for p.Kind() == scan.Ident || p.Is(".") || p.Is("<") || p.Is("?") { // fun Type<A>.name(
		if p.Is("<") {
			p.angles()
			continue
		}
		if p.Kind() == scan.Ident {
			receiver, name, pos = name, p.Text(), p.Where()
		}
		p.Advance()
		if p.Is("(") {
			break
		}
	}
	f := p.file.NewMethod(model.Method{Name: name, Receiver: receiver, Marks: m.marks, Access: m.access, Suspends: m.has(wordSuspend), Pos: pos})
	if !p.Is("(") {
		return
	}
	f.Params = p.file.Parameters(p.arguments())
	if p.Accept(":") {
		start := p.I
		f.Returns = p.typ()
		f.Declared = p.F.Text(start, p.I)
	}
	if p.Is("where") {
		for p.Kind() != scan.EOF && !p.Is("{") && !p.Is("=") {
			p.Advance()
		}
	}
	switch {
	case p.Is("{"):
		f.Body = [2]int{p.I + 1, p.Shut()}
		p.Jump()
	case p.Is("=") && !p.Ahead(1, "="):
		p.Advance()
		f.Body, f.IsExpression = [2]int{p.I, p.I}, true
		p.expression()
		f.Body[1] = p.I
	}
	if c == nil {
		p.file.Functions = append(p.file.Functions, f)
		return
	}
	c.Methods = append(c.Methods, f)
}

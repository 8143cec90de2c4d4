package jvm

import (
	"strings"

	"vetta/internal/model"
	"vetta/internal/source/scan"
)

// targets are the parts of a declaration that Kotlin names before an annotation ("Annotation use-site
// targets"). Only they may stand apart from their colon: in class A @Mark : B() it is another one.
var targets = Words("file field property get set receiver param setparam delegate")

// Annotation reads an annotation at the cursor, which must stand at its @. Several in
// one pair of brackets, @field:[A B], come as several.
func Annotation(c *scan.Cursor) (all []model.Annotation) {
	pos := c.Where()
	c.Advance()
	target := ""
	if c.Kind() == scan.Ident && c.Ahead(1, ":") && (!c.At(1).Space || targets[c.Text()]) {
		target = c.Text()
		c.I += 2
	}
	if c.Is("[") {
		end := c.Shut()
		c.Advance()
		for c.I < end {
			at := c.I
			a := named(c, pos)
			a.Target = target
			all = append(all, a)
			if c.I == at {
				c.Advance()
			}
		}
		c.I = end
		c.Advance()
		return all
	}
	a := named(c, pos)
	a.Target = target
	return append(all, a)
}

// named reads an annotation behind its @.
func named(c *scan.Cursor, pos model.Pos) model.Annotation {
	a := model.Annotation{Pos: pos}
	for c.Kind() == scan.Ident {
		a.Name = c.Text()
		if a.Whole += a.Name; c.Ahead(1, ".") {
			a.Whole += "."
		}
		c.Advance()
		if c.Is("<") { // type arguments
			SkipAngles(c)
		}
		if !c.Is(".") || c.KindAhead(1) != scan.Ident {
			break
		}
		c.Advance()
	}
	if !c.Is("(") || c.F.EndsLines() && c.Newline() {
		return a
	}
	end := c.Shut()
	c.Advance()
	for c.I < end {
		name := "value"
		if c.Kind() == scan.Ident && c.Ahead(1, "=") && !c.Ahead(2, "=") {
			name = c.Text()
			c.I += 2
		}
		element(c, end, argument(&a, name))
		for c.I < end && !c.Is(",") {
			c.Jump()
		}
		c.Accept(",")
	}
	c.I = end
	c.Advance()
	return a
}

// argument is what an annotation keeps its argument of that name in.
func argument(a *model.Annotation, name string) *model.Argument {
	for i := range a.Args {
		if a.Args[i].Name == name {
			return &a.Args[i]
		}
	}
	a.Args = append(a.Args, model.Argument{Name: name})
	return &a.Args[len(a.Args)-1]
}

// element reads an argument, or the elements of one: {a, b} in Java, [a, b] and
// arrayOf(a, b) in Kotlin.
func element(c *scan.Cursor, end int, arg *model.Argument) {
	t := c.Tok()
	switch {
	case t.Is("{") || t.Is("[") || t.Is("arrayOf") && c.Ahead(1, "("):
		if t.Kind == scan.Ident {
			c.Advance()
		}
		inner := c.Shut()
		c.Advance()
		for c.I < inner {
			element(c, inner, arg)
			for c.I < inner && !c.Is(",") {
				c.Jump()
			}
			c.Accept(",")
		}
		c.I = inner
		c.Advance()
	case t.Is("@"):
		arg.Marks = append(arg.Marks, Annotation(c)...)
	case t.Kind == scan.Ident && isAnnotationCall(c):
		arg.Marks = append(arg.Marks, named(c, c.Where()))
	default:
		start := c.I
		if t.Kind == scan.String && t.Plain && (c.I+1 == end || c.Ahead(1, ",")) {
			arg.Texts = append(arg.Texts, t.Text)
			c.Jump()
			return
		}
		for c.I < end && !c.Is(",") {
			c.Jump()
		}
		parts := Parts(c.F, start, c.I)
		text, plain := plainText(parts)
		if !plain {
			text = c.F.Text(start, c.I)
			text = strings.TrimSuffix(text, ".class")
			if class, ok := strings.CutSuffix(text, "::class"); ok {
				text = strings.ReplaceAll(class, "`", "") // which Kotlin may quote names with
			}
		}
		if !plain && text != "true" && text != "false" && !c.F.Is(c.I-1, "class") {
			if arg.Made == nil {
				arg.Made = map[int][]*model.Literal{}
			}
			arg.Made[len(arg.Texts)] = parts
		}
		arg.Texts = append(arg.Texts, text)
	}
}

// isAnnotationCall says whether an annotation inside another begins here, which Kotlin
// writes without @: JsonSubTypes.Type(value = …).
func isAnnotationCall(c *scan.Cursor) bool {
	n := 0
	for c.KindAhead(n) == scan.Ident && c.Ahead(n+1, ".") {
		n += 2
	}
	word := c.At(n)
	return word.Kind == scan.Ident && c.Ahead(n+1, "(") && word.Text != "" && word.Text[0] >= 'A' && word.Text[0] <= 'Z'
}

// SkipAngles passes over <…>, or what there is of it before a semicolon or a brace.
func SkipAngles(c *scan.Cursor) {
	for depth := 0; c.Kind() != scan.EOF; {
		switch {
		case c.Is("<"):
			depth++
		case c.Is(">"):
			if depth--; depth == 0 {
				c.Advance()
				return
			}
		case c.Is(";") || c.Is("{"):
			return
		}
		c.Advance()
	}
}

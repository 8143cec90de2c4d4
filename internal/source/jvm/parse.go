package jvm

import (
	"vetta/internal/model"
	"vetta/internal/source/scan"
)

// MaxDepth is how deep types may lie inside each other: what is deeper is no source that
// anybody has written.
const MaxDepth = 100

// WholeType is the type that the whole file is, nil if it is anything else.
func (f *File) WholeType() *model.Type {
	t, end := f.Parse(0)
	if t == nil || end != f.Len() || len(f.Problems) > 0 {
		return nil
	}
	Standard(t, f.Language)
	return t
}

// NamedType reads names with dots between them and the type arguments of the last, from the
// first name on: Page.Link<Port>. One argument is read by arg; a dot is part of the type
// where goesOn says so. It answers nil where type arguments do not end.
func NamedType(c *scan.Cursor, f *File, arg func() *model.Type, goesOn func() bool) *model.Type {
	t := f.NewType(model.Type{Kind: model.Named, Name: c.Text(), Pos: c.Where()})
	for {
		c.Advance()
		if c.Is("<") {
			c.Advance()
			var room [4]*model.Type
			args := room[:0]
			for !c.Is(">") {
				a := arg()
				if a == nil {
					break
				}
				args = append(args, a)
				if !c.Accept(",") {
					break
				}
			}
			t.Args = f.Types(args)
			if !c.Accept(">") {
				return nil
			}
		}
		if !c.Is(".") || !goesOn() {
			return t
		}
		c.Advance()
		t.Name += "." + c.Text()
	}
}

// ConstantBody passes over what stands behind the name of a constant of an enum, its
// arguments and its body, and answers the arguments and whether the body says what toString answers.
func ConstantBody(c *scan.Cursor) (args []*model.Literal, toString bool) {
	if c.Is("(") {
		shut := c.Shut()
		c.Advance()
		for c.I < shut {
			start := c.I
			for c.I < shut && !c.Is(",") {
				c.Jump()
			}
			args = append(args, Literal(c.F, start, c.I))
			c.Accept(",")
		}
		c.I = shut
		c.Advance()
	}
	if c.Is("{") {
		for i := c.I; i < c.Shut(); i++ {
			toString = toString || c.F.Is(i, "toString")
		}
		c.Jump()
	}
	return args, toString
}

// Members reads what stands in the braces of a class: the constants of an enum, then one
// member after the other. A token that begins no member is passed over.
func Members(c *scan.Cursor, of *Class, constants func(end int), member func()) {
	end := c.Shut()
	of.Body = [2]int{c.I + 1, end}
	c.Advance()
	if of.Kind == "enum" {
		constants(end)
	}
	for c.I < end {
		start := c.I
		member()
		if c.I == start {
			c.Jump()
		}
	}
	c.I = end
	c.Advance()
}

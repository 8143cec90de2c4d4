package finding

import (
	"vetta/internal/shape"
	"vetta/internal/wire"
)

// Change is what a finding says to do about it.
type Change struct {
	Code string // to put in place of what is there, in the model's language; "" where no line of code would do
	Why  string // what it does; where there is no code, what to do
}

// String is the change on one line that can be pasted: the code, with the rest as a comment behind it.
func (c Change) String() string {
	if c.Code == "" {
		return c.Why
	}
	if c.Why == "" {
		return c.Code
	}
	return c.Code + "  // " + c.Why
}

// Say is a change in words alone.
func Say(text string) Change { return Change{Why: text} }

// Redeclare is the finding's field with another type.
func (f *Finding) Redeclare(typ, why string) Change {
	if f.Model != nil && f.Field == nil && f.Declared == "" { // what code asks for without making a property of it
		return Say("admit what is sent there, or handle the error where it is caught")
	}
	return Change{Code: f.declared(typ), Why: why}
}

// SuggestedType is a type of the model's language that admits the finding's values, "" for
// none.
func (f *Finding) SuggestedType() string { return f.Speech().Types[commonType(f.Classes())] }

// commonType is a type that admits values of all the classes, "" for none.
func commonType(classes []shape.Class) string {
	text := ""
	for _, c := range classes {
		t := ""
		switch c.Kind {
		case wire.String:
			t = "String"
		case wire.Bool:
			t = "Bool"
		case wire.Number:
			t = "Int"
			if c.Facts&(shape.Broken|shape.Beyond63) != 0 {
				t = "Double"
			}
		}
		switch {
		case t == "" || text != "" && text != t && !(isNumber(text) && isNumber(t)):
			return ""
		case text != "Double":
			text = t
		}
	}
	return text
}

func isNumber(t string) bool { return t == "Int" || t == "Double" }

package drift

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

// say is a change in words alone.
func say(text string) Change { return Change{Why: text} }

// redeclare is the finding's field with another type.
func (f *Finding) redeclare(typ, why string) Change { return Change{Code: f.declared(typ), Why: why} }

// suggestedType is a type of the model's language that admits the finding's values, "" for
// none.
func (f *Finding) suggestedType() string { return f.speech().types[commonType(f.classes())] }

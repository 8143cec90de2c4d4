package code

import "vetta/internal/model"

// Routine is a function of an app as its source has it, with what the names in it stand for, for who runs it on a
// value.
type Routine struct {
	Name     string
	Language string
	Params   []string
	Body     []Stmt // of one expression: a Return of it
	Scope    Scope
	Pos      model.Pos
}

// Scope is what names outside of a routine stand for.
type Scope interface {
	// Class is the model that a name is, nil for none.
	Class(name string) *model.Model
	// Value is what a property of the object around the routine, or one outside of classes, is given; nil for
	// none of the name; in is the scope of that.
	Value(name string) (init *Expr, in Scope)
	// Routine is a function that is called by its name alone, or by the name of its class and its own; of a constant of
	// a class what it is given, without parameters; nil for none.
	Routine(name string) *Routine
}

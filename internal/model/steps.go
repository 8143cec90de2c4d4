package model

// Step is one statement of hand-written reading, in the order it runs: it assigns,
// or branches, or tries a block and catches what that throws, or ends the reading.
type Step struct {
	Field  string // the field that takes the value; "" for none, SelfField for the whole
	Expr   *Expr
	Cond   *Expr // of a branch: Then where it is true, else Else
	Do     bool  // Then, and Else where something in Then throws
	Then   []Step
	Else   []Step
	Return bool // nothing behind it runs
	Pos    Pos
}

// WalkSteps calls visit for every expression in steps, with the field that takes
// its value.
func WalkSteps(steps []Step, visit func(field string, e *Expr)) {
	for _, s := range steps {
		if s.Expr != nil {
			s.Expr.Walk(func(e *Expr) { visit(s.Field, e) })
		}
		if s.Cond != nil {
			s.Cond.Walk(func(e *Expr) { visit("", e) })
		}
		WalkSteps(s.Then, visit)
		WalkSteps(s.Else, visit)
	}
}

// SelfField is the Field of a step that makes the whole instance.
const SelfField = "self"

// The Funcs of an OpCall whose readers and followers must agree on them beyond what they are named
// for: the value of After is that of its last argument, when the others have been evaluated; what
// Computed comes to is not told, but its arguments are evaluated.
const (
	After    = "after"
	Computed = "computed"
)

// NotTold stands in the message of an error for what code computes.
const NotTold = "…"

// Op is what an Expr does.
type Op uint8

// The operations of hand-written reading. Every one is evaluated at a current
// value of the document, which begins as the value the model is decoded from.
const (
	OpUnknown   Op = iota // code that was not followed: Why
	OpDecode              // the library decodes the current value as Type
	OpContainer           // the current value must be of the kind Container; yields nothing
	OpAt                  // Args[0] at the member Key of the current value; must be there
	OpAtIf                // likewise, but nothing where the member is absent or null; Lossy also where there is no object
	OpElem                // Args[0] at the element Index of the current value
	OpTry                 // Args[0], and nothing where that fails
	OpElse                // Args[0], and Args[1] where that is nothing
	OpCatch               // Args[0], and Args[1] where that fails
	OpIf                  // Args[1] where Args[0] is true, else Args[2]
	OpConst               // Value
	OpCall                // the function Func of the Args, as the library's folder defines it
	OpMake                // the case Func of the enum that is wanted, with Args as its values
	OpNew                 // an instance of Type with Args as the fields named in Names
	OpHas                 // whether the current value has the member Key
	OpIsNull              // whether the current value is null
	OpGiven               // whether the current value has the member Key, of the kind Func: object or array; of an OpSelf whether it is of that kind itself, or of any but null: value
	OpEach                // Args[0] for each element; Lossy leaves out those that fail or are nothing
	OpEachKey             // Args[0] for each member, as a map; Lossy likewise
	OpCast                // the current value as Type, as JSON objects are cast; nothing where it is none
	OpFail                // throws an error: Why
	OpSuper               // the superclass reads its fields
	OpSelf                // Args[0] of the current value, which is read as Func reads it
	OpLeftOut             // the element of a list that is made is left out of it
)

// Container is what OpContainer asks of the current value.
type Container string

// The containers that code may ask for.
const (
	Keyed   Container = "keyed"
	Unkeyed Container = "unkeyed"
	Single  Container = "single"
)

// Expr is an operation of hand-written reading.
type Expr struct {
	Op        Op
	Key       string
	Type      *Type
	Declared  string    // Type as the source writes it
	Container Container // of an OpContainer; of another one that it asks for it itself
	Func      string
	Names     []string
	Index     int
	Lossy     bool
	Args      []*Expr
	Value     *Literal
	Why       string
	Pos       Pos
}

// Walk calls visit for e and every expression within it.
func (e *Expr) Walk(visit func(*Expr)) {
	visit(e)
	for _, a := range e.Args {
		a.Walk(visit)
	}
}

// LiteralKind is what a literal in source is.
type LiteralKind uint8

// The kinds of literal. An Other one is an expression whose value is not known.
const (
	OtherLiteral LiteralKind = iota
	NullLiteral
	BoolLiteral
	IntLiteral
	FloatLiteral
	StringLiteral
	ListLiteral
	MapLiteral
	CaseLiteral // a constant of an enum, by name
	MadeLiteral // an instance that the constructor without arguments makes, of the class Text, or of the declared one
)

// Literal is a value written in source.
type Literal struct {
	Kind   LiteralKind
	Text   string     // as written; of strings and cases, the plain text
	Elems  []*Literal // of a list; of a map, keys and values in turn
	Source string     // the whole expression as written
}

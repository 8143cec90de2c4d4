package model

// Step is one statement of hand-written reading, in the order it runs.
type Step struct {
	Field string // the field that takes the value; "" for none, SelfField for the whole
	Expr  *Expr
	Pos   Pos
}

// SelfField is the Field of a step that makes the whole instance.
const SelfField = "self"

// Op is what an Expr does.
type Op uint8

// The operations of hand-written reading. Every one is evaluated at a current
// value of the document, which begins as the value the model is decoded from.
const (
	OpUnknown   Op = iota // code that was not followed: Why
	OpDecode              // the library decodes the current value as Type
	OpContainer           // the current value must be of the kind Container; yields nothing
	OpAt                  // Args[0] at the member Key of the current value; must be there
	OpAtIf                // likewise, but nothing where the member is absent or null
	OpTry                 // Args[0], and nothing where that fails
	OpElse                // Args[0], and Args[1] where that is nothing
	OpCatch               // Args[0], and Args[1] where that fails
	OpConst               // Value
	OpConvert             // Args[0] through the conversion Func to Type; nothing stays nothing
	OpFail                // throws
	OpSuper               // the superclass reads its fields
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
	Declared  string // Type as the source writes it
	Container Container
	Func      string
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
)

// Literal is a value written in source.
type Literal struct {
	Kind   LiteralKind
	Text   string     // as written; of strings and cases, the plain text
	Elems  []*Literal // of a list; of a map, keys and values in turn
	Source string     // the whole expression as written
}

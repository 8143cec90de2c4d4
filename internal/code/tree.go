// Package code is one tree of declarations, statements and expressions for the code in which an app asks
// for responses and reads them, whatever its language, and the follower of what is asked for that goes over
// it. It knows no language and no library: readers lower the sugar of theirs into the tree, and say at which
// calls a library decodes.
package code

import (
	"unicode"

	"vetta/internal/model"
)

// Op is what an expression is.
type Op uint8

// The expressions.
const (
	Other   Op = iota // what is not told apart; Args are what it is made of
	Name              // Text
	Member            // Args[0].Text; of .Text alone Args is empty; Labels name the parameters of a function that is meant
	Call              // Args[0] called with Args[1:], which have Labels; Types are explicit type arguments
	Text              // a string: Text, with {} for each of Args that is put into it; Labels, if any, are the pieces around those
	TypeOf            // a type as a value: Type, written as Text; Labels says which of its classes, where it has several
	As                // Args[0] cast to Type, written as Text: nothing where it is none, unless Does says otherwise
	Plus              // Args[0] + Args[1]
	Choice            // one of Args: by what Body begins with, which may be the statement that they are branches of; or the second where the first is nothing
	Lambda            // Body, with Labels for the names of its parameters
	Number            // Text
	List              // Args
	Dict              // Args, keys and values in turn
	Index             // Args[0][Args[1:]]
	Unary             // Text Args[0]
	Binary            // Args[0] Text Args[1]
	KeyPath           // the property Text of what it is given
	Is                // whether Args[0] is of Type
	Cascade           // Args[0], which It stands for in each of Args[1:]; its value is Args[0]'s
	It                // what the Cascade around it is of
	Set               // Args[0] is given Args[1]; Text is the operator: =, +=, ??=; "post" before one that yields what was there
	Spread            // the elements of Args[0] among those of a List or Dict; of one that is Chained none where it is nothing
	Gather            // the elements that Body, a loop or a branch, yields: each a Do of one, or of an Entry
	Entry             // Args[0] with Args[1] behind it, of a Dict
	Record            // Args with Labels; of a pattern, with Type, an object of it whose properties are so
	Bind              // of a pattern: Text is the name of the value, which must be of Type where there is one; "" for any
	Match             // whether Args[0] is as the pattern Args[1]
)

// IsTold says whether it is told apart what an expression is, as far as what is asked for depends on it.
func (e *Expr) IsTold() bool {
	switch e.Op {
	case Other, Number, List, Dict, Index, Unary, Binary, KeyPath, Is, Cascade, It, Set, Spread, Gather, Entry, Record, Bind, Match:
		return false
	}
	return true
}

// Expr is an expression.
type Expr struct {
	Op     Op
	Does   Effects // what is done with its value
	From   int32   // byte offsets of what it stands in
	To     int32
	Text   string
	Args   []*Expr
	Labels []string // of a call, one for each of Args[1:], "" for none
	Types  []*model.Type
	Type   *model.Type
	Body   []Stmt
	Fn     *Func     // of a Lambda whose parameters are more than names, nil for none
	Pos    model.Pos // of a call, that of the name that is called
	// Const says of a literal that nothing may be put into it.
	Const bool
}

// Effect is what is done with the value of an expression.
type Effect uint8

// The effects.
const (
	Forced    Effect = iota + 1 // there must be one
	Chained                     // what follows is done only where there is one
	Tried                       // it may throw
	Attempted                   // where it throws there is none
	Assured                     // it must not throw
	Upcast                      // a cast that needs no look at the value
	Thrown                      // it is thrown
	Returned                    // it is returned
	Yielded                     // it is what the closure around it, which a label names, answers
)

// Effects are some of them, one after the other.
type Effects uint32

const effectBits = 4

// With is effects with one behind them.
func (e Effects) With(last Effect) Effects {
	for shift := 0; shift < 32; shift += effectBits {
		if e>>shift&(1<<effectBits-1) == 0 {
			return e | Effects(last)<<shift
		}
	}
	return e
}

// All are the effects in their order.
func (e Effects) All() (all []Effect) {
	for ; e != 0; e >>= effectBits {
		all = append(all, Effect(e&(1<<effectBits-1)))
	}
	return all
}

// StmtOp is what a statement is.
type StmtOp uint8

// The statements.
const (
	Do     StmtOp = iota // Value for what it does
	Let                  // Name, of Type where one is written, is Value
	Assign               // the same of a name that is declared elsewhere
	Return               // Value, nil for nothing
	Block                // Body, perhaps more than once or not at all; Value is what decides it, Name the constant that a case is for
)

// Kind is what a statement is more closely, for who must know in which order code runs.
type Kind uint8

// The kinds. Those that go on with the statement before stand behind it.
const (
	Plain Kind = iota
	If
	ElseIf
	Else
	Guard // Body behind the heads runs where they do not hold
	For   // the first head is the name of what it goes through the second for
	While
	Repeat
	Switch // by its one head
	Case   // of a Switch: Value is a List of the patterns, empty for all others
	Try
	Catch
	Finally
	Defer
	Throw    // a Do: Value
	Jump     // a Do: break, continue or fallthrough, as Name has it; Value is the label that it names
	Local    // a function inside another
	Compound // an Assign: with what the name stood for before
)

// Stmt is a statement.
type Stmt struct {
	Op   StmtOp
	Kind Kind
	Torn bool // something stands in it that was not read
	// Heads is how many of Body are what a block runs by: a Let, which gives something a name, or a Block
	// of a Value alone. -1 says that this is not told.
	Heads int16
	From  int32 // byte offsets of what it stands in
	To    int32
	Name  string
	Of    *Expr // that an assigned name is a member of, or with no name what is assigned to; nil for none
	Type  *model.Type
	Value *Expr
	Body  []Stmt
}

// Param is a parameter of a function.
type Param struct {
	Label   string // that a caller writes before the argument, "" for none
	Name    string
	Type    *model.Type
	Default *Expr // nil where a caller must give it
	// Optional says that a caller may leave it out, Field that it is what the property of its name is given, Super
	// that it is handed on to the constructor of the class that is extended.
	Optional, Field, Super bool
	Marks                  []*Expr // its annotations
	Pos                    model.Pos
}

// Func is a function, a method, an initialiser, or what computes a property.
type Func struct {
	Name     string
	Class    *Class // nil outside of classes
	Generics []string
	Params   []Param
	Returns  *model.Type // nil for nothing
	Body     []Stmt
	Unread   Unread // its body, where that is read when it is asked for
	Init     bool   // makes an instance of its class, whose name it has
	Receiver bool   // extends a type of another, which a call of it stands behind
	File     string
	Pos      model.Pos

	Static, Factory, Getter, Setter bool
	Native                          bool // it has no body: abstract, or of the platform
	Later                           bool // it yields what comes later, or elements one by one
	// Inits are what a constructor does before its body: an Assign of a property, a Do of the call of another
	// constructor.
	Inits    []Stmt
	Redirect *Expr // the constructor that is called in its place, nil for none
	Marks    []*Expr
	Mods     []string // its modifiers, of a language whose libraries go by them
}

// Unread is the body of a function that was passed over when its file was read.
type Unread interface {
	Read() []Stmt         // the body, safe for use from several goroutines
	Has(name string) bool // whether a name stands in its text; behind a point, as that of a member
}

// Do is what the function does, read now if it was not yet.
func (f *Func) Do() []Stmt {
	if f.Unread != nil {
		return f.Unread.Read()
	}
	return f.Body
}

// Class is a declaration of a type, or of a part of one.
type Class struct {
	Name     string // without those of the classes around it
	Generics []string
	Supers   []*model.Type
	// Types are those that it gives a name: associated types and aliases, and what an extension says
	// that its type parameters are.
	Types map[string]*model.Type
	Props []*Prop
	Funcs []*Func
	// Cases are the constants of an enum with what each is made of, nil for nothing.
	Cases map[string]*Expr
	Super *Expr  // the call by which it is made as what it extends, where that stands at its head
	Outer *Class // that it is declared in, nil for none
	File  string
	Pos   model.Pos

	Kind    string      // class, enum, mixin, extension; "" where that is not told
	Extends *model.Type // the one of Supers that it extends, nil for none
	On      *model.Type // what an extension is of
	Mixins  []*model.Type
	Order   []string // the constants of an enum
	// Abstract says that there are no instances of itself, Sealed that those that extend it stand beside it.
	Abstract, Sealed bool
	Marks            []*Expr // its annotations
	OfCase           map[string][]*Expr

	Space string   // the namespace that it is in, "" for none
	Mods  []string // its modifiers, of a language whose libraries go by them
	// Bounds are the types that type parameters must be of, by name.
	Bounds map[string][]*model.Type
}

// Prop is a property, or a constant outside of classes.
type Prop struct {
	Name   string
	Class  *Class
	Type   *model.Type // nil where none is written
	Value  *Expr       // nil where it is computed, or nothing is known of it
	Get    *Func       // what computes it, nil for none
	Static bool
	File   string

	Late, Final bool
	Optional    bool // an instance need not have it
	Marks       []*Expr
	Pos         model.Pos
	Mods        []string
	// Accessors are those of a property; nil for a field.
	Accessors []Accessor
}

// Accessor is what reads or writes a property: get, set, or init, which writes while an instance is made.
type Accessor struct {
	Word string
	Mods []string
	Fn   *Func // what it does, nil where the compiler makes that
}

// Program is the code of some files.
type Program struct {
	words   *Words
	Funcs   []*Func
	Classes map[string][]*Class // by name, each with its extensions
	Aliases map[string]Alias
	funcs   map[string][]*Func // by name
	calls   map[string][]site  // by the name that is called
	at      map[model.Pos]site // by where that name stands
	freed   map[string]freed   // by class
	props   map[string][]*Prop
	propsIn map[ofClass][]*Prop
	funcsIn map[ofClass][]*Func
	// assigned are the functions that give a name something, by name.
	assigned map[string][]*Func
	load     Load // of files that are not part of it yet, nil for none
}

// classes are those of a name, the file that declares them read where it is not yet.
func (p *Program) classes(name string) []*Class {
	if len(p.Classes[name]) == 0 && p.load != nil && name != "" && unicode.IsUpper(rune(name[0])) {
		p.load(name)
	}
	return p.Classes[name]
}

// ofClass is what a class has by a name; class is "" for what is of none.
type ofClass struct{ class, name string }

// NewProgram is a program without any code, in the words of a language.
func NewProgram(words *Words) *Program {
	return &Program{words: words, Classes: map[string][]*Class{}, Aliases: map[string]Alias{}, funcs: map[string][]*Func{}, calls: map[string][]site{}, at: map[model.Pos]site{}, freed: map[string]freed{}, props: map[string][]*Prop{}, propsIn: map[ofClass][]*Prop{}, funcsIn: map[ofClass][]*Func{}, assigned: map[string][]*Func{}}
}

// GenericsOf are the type parameters of a class that the program has.
func (p *Program) GenericsOf(name string) []string {
	for _, c := range p.Classes[name] {
		if len(c.Generics) > 0 {
			return c.Generics
		}
	}
	return nil
}

func (p *Program) genericsOf(c *Class) []string {
	if c == nil {
		return nil
	}
	return p.GenericsOf(c.Name)
}

// FuncsOf are the functions of a name.
func (p *Program) FuncsOf(name string) []*Func { return p.funcs[name] }

// AddClass adds a class with its functions and properties.
func (p *Program) AddClass(c *Class) {
	p.Classes[c.Name] = append(p.Classes[c.Name], c)
	for _, f := range c.Funcs {
		f.Class = c
		p.AddFunc(f)
	}
	for _, prop := range c.Props {
		prop.Class = c
		p.AddProp(prop)
	}
}

// AddFunc adds a function, and notes what it calls.
func (p *Program) AddFunc(f *Func) {
	p.Funcs = append(p.Funcs, f)
	p.funcs[f.Name] = append(p.funcs[f.Name], f)
	in := ofClass{name: f.Name}
	if f.Class != nil && !f.Receiver {
		in.class = f.Class.Name
	}
	p.funcsIn[in] = append(p.funcsIn[in], f)
	(&walker{p: p, in: f}).body(f.Body, f.Returns, f.Returns)
}

// AddProp adds a property, and notes what its value calls.
func (p *Program) AddProp(prop *Prop) {
	p.props[prop.Name] = append(p.props[prop.Name], prop)
	in := ofClass{name: prop.Name}
	if prop.Class != nil {
		in.class = prop.Class.Name
	}
	p.propsIn[in] = append(p.propsIn[in], prop)
	if prop.Get != nil {
		prop.Get.Class = prop.Class
		p.AddFunc(prop.Get)
	}
	if prop.Value != nil {
		holder := &Func{Name: prop.Name, Class: prop.Class, Returns: prop.Type, File: prop.File}
		(&walker{p: p, in: holder}).expr(prop.Value, prop.Type)
	}
}

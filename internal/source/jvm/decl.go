// Package jvm is what Java and Kotlin source have in common: declarations of classes
// whose instances libraries make by reflection, their types and annotations, and how
// they become models. The readers of the two languages fill it.
package jvm

import (
	"slices"

	"vetta/internal/model"
	"vetta/internal/source/scan"
)

// File is one file of source with the types that it declares.
type File struct {
	*scan.File
	Language string
	Module   string // see scan.Source
	Package  string
	Imports  []Import
	Classes  []*Class
	Aliases  map[string]Alias // Kotlin's typealias
	// Constants are what Kotlin's properties outside of classes are given, by name.
	Constants map[string]*model.Literal
	// Functions are Kotlin's outside of classes.
	Functions []*model.Method
	// parse reads the type at a token, and answers the token behind it; body what stands
	// behind the head of a class.
	Parse func(at int) (t *model.Type, end int)
	Again func(name, text string) *File
	body  func(c *Class, at int)
	// eager says that bodies of classes are read at once.
	eager   bool
	library *string // that the imports name, nil before it is asked for
	unread  int     // how many bodies are not read yet
	mask    uint64  // of what the imports give names
	masked  int     // how many of them

	Mentions mentions
	Declares int      // how many classes
	Models   []*Class // of them, those that may be models
	rooms    *Rooms
	made     *shelf // where the declarations are taken from
}

// Parameters are arguments as those of a method.
func (f *File) Parameters(args []Argument) []*model.Parameter {
	if len(args) == 0 {
		return nil
	}
	out := f.made.paramRows.Row(len(args))
	for i := range args {
		out[i] = f.NewParameter(args[i].Parameter)
	}
	return out
}

// Argument is a parameter with what a reader knows of it.
type Argument struct {
	model.Parameter
	Pos                model.Pos
	Property, Constant bool // of a primary constructor of Kotlin: val or var, and val
	Elsewhere          model.Annotated
	Access             model.Access
	Value              *model.Literal // that it has by default
}

// NewFile is a file of a language, of which nothing is read yet but its tokens. Rooms may be nil
// where little is read.
func NewFile(tokens *scan.File, language string, rooms *Rooms) *File {
	return &File{File: tokens, Language: language, rooms: rooms, made: &single}
}

// TypesBy tells how the file's language reads a type that stands at a token, and how it makes a
// file of other text.
func (f *File) TypesBy(parse func(at int) (t *model.Type, end int), again func(name, text string) *File) {
	f.Parse, f.Again = parse, again
}

// BodiesBy tells how the file's language reads what stands behind the head of a class: from
// its brace, which is a token. Where all are wanted, each is read at once.
func (f *File) BodiesBy(all bool, body func(c *Class, at int)) { f.eager, f.body = all, body }

// Body reads the body of a class, from its brace at the cursor, and passes over it; or it
// puts the reading off, where nothing from the token of the class's name on asks for it.
func (f *File) Body(c *Class, p *scan.Cursor, name int) {
	open, shut := p.I, p.Shut()
	c.Body = [2]int{open + 1, shut}
	p.Jump()
	renamed := func(i Import) bool { return i.As != i.Name && i.Name != "*" } // perhaps an annotation
	if f.eager || f.HasNote(name, shut) || slices.ContainsFunc(f.Imports, renamed) {
		f.body(c, open)
		return
	}
	c.unread = true
	f.unread++
}

// Read reads the body of a class if that was put off.
func (c *Class) Read() {
	if c.unread {
		c.unread = false
		c.File.unread--
		defer c.File.Reading()()
		c.File.body(c, c.Body[0]-1)
	}
}

// maskOf is the bit of a name in a set that may hold more names than were put into it.
func maskOf(name string) uint64 {
	if name == "" {
		return 0
	}
	return 1 << ((uint(name[0]) + 5*uint(len(name)) + 11*uint(name[len(name)-1])) & 63)
}

// importsOf are the imports of a file where one of them may give a name, none where none can.
func (f *File) importsOf(name string) []Import {
	if len(f.Imports) != f.masked {
		f.mask = 0
		for _, i := range f.Imports {
			f.mask |= maskOf(i.As)
		}
		f.masked = len(f.Imports)
	}
	if f.mask&maskOf(name) == 0 {
		return nil
	}
	return f.Imports
}

// Import is an import: of one name, or of all in a package where Name is *.
type Import struct {
	Path string // without Name
	Name string
	As   string // what Kotlin calls it here, Name where it gives no other name
}

// Alias is another name for a type.
type Alias struct {
	Params []string
	Type   *model.Type
}

// Class is a declaration of a class, an interface, an enum, a record or an object. What it has
// in common with the model that is made of it is in that model from the first, where others may
// find less than is true until it is filled.
type Class struct {
	*model.Model
	Name   string // without those of the classes around it
	Kind   string // class, interface, enum, record, object, annotation
	Access model.Access
	Static bool // nested and without an outer instance
	Inline bool // a Kotlin value class: a property of it is compiled to its one field
	// AllDefaults says that Kotlin makes a constructor without parameters, since all
	// those of the primary one have defaults.
	AllDefaults bool
	unread      bool   // the body is not read yet
	IsMarked    bool   // see marked
	Library     string // that its annotations name, "" for none
	Filled      bool   // the model is
	Wanted      bool   // responses are decoded into it, as far as can be told
	due         bool   // something leads to it, so that it is filled in the end
	Super       *model.Type
	Implements  []*model.Type
	Ctors       []*model.Method // as declared, and those that Lombok makes
	Nested      []*Class
	Outer       *Class
	File        *File
	// Assigned are fields that an initialiser, or a constructor without parameters, assigns
	// a value to.
	Assigned []*model.Field
	// SuperCall are the tokens of the arguments with which the head of a Kotlin class calls
	// the constructor of its superclass, 0 and 0 where it has none.
	SuperCall [2]int
	// Inits are what runs behind Kotlin's primary constructor, in order: initialisers of
	// properties and blocks.
	Inits []Init
	next  *Class // another one of the same simple name
	Site  *Site  // where code elsewhere makes an instance by hand, nil where none is known to
	// Body are the tokens between its braces, 0 and 0 where it has none.
	Body [2]int
}

// Init is an initialiser of a property, or a block where Field is "": the tokens of it.
type Init struct {
	Field    string
	From, To int
}

// FullName is the name with those of the classes around it: Page.Link.
func (c *Class) FullName() string {
	if c.Model.Name == "" {
		c.Model.Name = c.Name
		if c.Outer != nil {
			c.Model.Name = c.Outer.FullName() + "." + c.Name
		}
	}
	return c.Model.Name
}

// IsModel says whether a class may be one: not an annotation, and not an object, which has no
// instances to decode into.
func (c *Class) IsModel() bool { return c.Kind != "annotation" && c.Kind != "object" }

// Site is a place where code outside of a class makes an instance of it of a part of a document.
type Site struct {
	File   *File
	Class  *Class   // around it, nil outside of classes
	At     int      // the token of the constructor's name
	Called string   // the function that it stands in
	Nodes  []string // what the part of the document is called there, "this" in an extension of it
	Index  string   // of elements without a name, the index at which they are asked of the one node; else ""
	From   int      // the statements, or the expression, that make the instance
	To     int
	Why    string // why they are not followed, "" where they may be
	// isExpression says that they are an expression; whole that the document itself is read;
	// swallowed that its errors are dropped there.
	IsExpression, Whole, Swallowed bool
}

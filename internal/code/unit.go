package code

import "vetta/internal/model"

// Unit is what one file declares, of a language whose code is run from its declarations.
type Unit struct {
	File    string
	Module  string
	Imports []Import
	Parts   []string // the files that are parts of it, as it writes them
	PartOf  string   // the file that it is a part of, or the name of its library; "" for none
	Legacy  bool     // written before null safety: every type takes null
	Classes []*Class
	Funcs   []*Func
	Props   []*Prop
	Aliases map[string]Alias
	// Unread says whether a name may stand in the bodies that were passed over, nil where there are none.
	Unread func(name string) bool
}

// Import is another file whose declarations a file sees.
type Import struct {
	Path   string
	Prefix string   // before its names, "" for none
	Show   []string // the names that are seen, nil for all but those of Hide
	Hide   []string
	Export bool // who imports this file sees them too, or all files of the project do
	Static bool // the members of the class Path are seen, rather than the classes of a namespace
	Pos    model.Pos
}

// Declared is a type that a program declares, of all its parts.
type Declared struct {
	Name   string // with the types around it
	Space  string // its namespace
	Parts  []*Class
	Outer  *Declared
	Params []string // its type parameters, those of the types around it first
	Model  *model.Model
}

// Kind is what it is declared as: class, struct, record, record struct, interface, enum.
func (d *Declared) Kind() string { return d.Parts[0].Kind }

// At is where code stands: what names mean there.
type At struct {
	File, Space string
	In          *Declared
	Free        []string // type parameters of the function around
}

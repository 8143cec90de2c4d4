package jvm

import (
	"slices"

	"vetta/internal/model"
	"vetta/internal/source/scan"
)

// shelf is where the readers of files take values from that a project has very many of, and
// what they put the arguments of one function after another into. Files that are read side by
// side each have one of their own.
type shelf struct {
	types   scan.Slab[model.Type]
	fields  scan.Slab[model.Field]
	methods scan.Slab[model.Method]
	params  scan.Slab[model.Parameter]
	classes scan.Slab[declared]
	// Slices of pointers to these, and of names.
	typeRows  scan.Slab[*model.Type]
	fieldRows scan.Slab[*model.Field]
	paramRows scan.Slab[*model.Parameter]
	names     scan.Slab[string]
	args      []Argument
	imports   []Import // where those of a file are put until it is known how many they are
}

// atOnce is how many values a shelf makes at once.
const atOnce = 64

// Rooms are where the files of one project are read.
type Rooms = scan.Rooms[shelf]

// NewRooms makes the rooms of a project.
func NewRooms() *Rooms {
	return &Rooms{Make: func() *shelf {
		return &shelf{
			types: scan.SlabOf[model.Type](atOnce), fields: scan.SlabOf[model.Field](atOnce), methods: scan.SlabOf[model.Method](atOnce),
			params: scan.SlabOf[model.Parameter](atOnce), classes: scan.SlabOf[declared](atOnce / 4),
			typeRows: scan.SlabOf[*model.Type](atOnce), fieldRows: scan.SlabOf[*model.Field](atOnce), paramRows: scan.SlabOf[*model.Parameter](atOnce), names: scan.SlabOf[string](atOnce),
		}
	}}
}

// single makes each value by itself: there are few of them where no file is read as a whole.
var single shelf

// Reading gives the file what its declarations are made in; the function that it answers must
// be called when they are read.
func (f *File) Reading() (done func()) {
	before := f.made
	if before != &single || f.rooms == nil {
		return func() {}
	}
	f.made = f.rooms.Take()
	first := f.Imports == nil
	if first {
		f.Imports = f.made.imports[:0]
	}
	return func() {
		if first {
			f.made.imports, f.Imports = f.Imports, slices.Clone(f.Imports)
		}
		clear(f.made.args[:cap(f.made.args)])
		f.rooms.Give(f.made)
		f.made = before
	}
}

// Arguments is a place for the arguments of a function while the file is read: with room, and
// to leave them at. What the next function reads overwrites it.
func (f *File) Arguments() *[]Argument {
	if f.made == &single {
		return new([]Argument)
	}
	return &f.made.args
}

// NewType, NewField, NewMethod, NewParameter and NewClass answer what they are given, as
// values of their own.
func (f *File) NewType(v model.Type) *model.Type { return f.made.types.New(v) }

// NewField is described at NewType.
func (f *File) NewField(v model.Field) *model.Field { return f.made.fields.New(v) }

// NewMethod is described at NewType.
func (f *File) NewMethod(v model.Method) *model.Method { return f.made.methods.New(v) }

// NewParameter is described at NewType.
func (f *File) NewParameter(v model.Parameter) *model.Parameter { return f.made.params.New(v) }

// OptionalOf is the type that also admits nothing, where another stands.
func (f *File) OptionalOf(t *model.Type) *model.Type {
	return f.NewType(model.Type{Kind: model.Optional, Args: f.made.typeRows.One(t), Pos: t.Pos})
}

// Types are types as the arguments of another.
func (f *File) Types(all []*model.Type) []*model.Type {
	row := f.made.typeRows.Row(len(all))
	copy(row, all)
	return row
}

// Names and FieldRow are slices of so many names and fields.
func (f *File) Names(n int) []string { return f.made.names.Row(n) }

// FieldRow is described at Names.
func (f *File) FieldRow(n int) []*model.Field { return f.made.fieldRows.Row(n) }

// declared is a class with its model.
type declared struct {
	class Class
	model model.Model
}

// NewClass is described at NewType. The class gets a model of its own.
func (f *File) NewClass(v Class) *Class {
	d := f.made.classes.New(declared{})
	d.class = v
	d.class.Model = &d.model
	return &d.class
}

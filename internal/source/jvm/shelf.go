package jvm

import (
	"sync"

	"vetta/internal/model"
)

// shelfSize is how many values are made at once.
const shelfSize = 64

// shelf is where the readers of files take values from that a project has very many of, made
// many at a time, and what they put the arguments of one function after another into. Files
// that are read side by side each have one of their own.
type shelf struct {
	types   slab[model.Type]
	fields  slab[model.Field]
	methods slab[model.Method]
	params  slab[model.Parameter]
	args    []Argument
}

var shelves = sync.Pool{New: func() any { return new(shelf) }}

// slab is a row of values that were made at once, those that nothing has taken yet.
type slab[T any] []T

func (s *slab[T]) of(v T) *T {
	if len(*s) == 0 {
		*s = make([]T, shelfSize)
	}
	p := &(*s)[0]
	*s = (*s)[1:]
	*p = v
	return p
}

// Reading gives the file what its declarations are made in; the function that it answers must
// be called when they are read.
func (f *File) Reading() (done func()) {
	if f.made != nil {
		return func() {}
	}
	f.made = shelves.Get().(*shelf)
	return func() {
		clear(f.made.args[:cap(f.made.args)])
		shelves.Put(f.made)
		f.made = nil
	}
}

// Arguments is an empty slice with room for the arguments of a function, and the place to
// leave it at when they are read. What the next function reads overwrites it.
func (f *File) Arguments() *[]Argument { return &f.made.args }

// NewType, NewField, NewMethod and NewParameter answer what they are given, as values of
// their own.
func (f *File) NewType(v model.Type) *model.Type {
	if f.made == nil {
		own := v
		return &own
	}
	return f.made.types.of(v)
}

// NewField is described at NewType.
func (f *File) NewField(v model.Field) *model.Field {
	if f.made == nil {
		own := v
		return &own
	}
	return f.made.fields.of(v)
}

// NewMethod is described at NewType.
func (f *File) NewMethod(v model.Method) *model.Method {
	if f.made == nil {
		own := v
		return &own
	}
	return f.made.methods.of(v)
}

// NewParameter is described at NewType.
func (f *File) NewParameter(v model.Parameter) *model.Parameter {
	if f.made == nil {
		own := v
		return &own
	}
	return f.made.params.of(v)
}

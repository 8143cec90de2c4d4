// Package dart decodes what the code of Dart apps decodes, by running it: in Dart there is no library that fills
// classes, every cast in their code is a rule. The rules are those that package run has, measured on the VM (Dart
// 3.7.3, and 2.19.5 for sources before null safety).
package dart

import (
	"sync"

	"vetta/internal/code/run"
	"vetta/internal/decoder"
	"vetta/internal/model"
	"vetta/internal/wire"
)

// Name is that of the library in settings.
const Name = "dart"

// Plan says how the app makes a value of a type of a document: by the function that the settings name, where it makes
// that, else by the reader of the class.
func Plan(t *model.Type, declared string, settings *model.Settings) *decoder.Plan {
	p := &decoder.Plan{Type: t, Declared: declared, Settings: settings}
	program := programOf(t, settings)
	if program == nil {
		p.Root = &decoder.Node{Op: decoder.OpUnknown, Why: "no class of the source is named"}
		return p
	}
	if settings.Option("numbers") == "web" {
		program = program.OnWeb()
	}
	of := typeOf(t)
	var entry *run.Entry
	if settings != nil {
		if e, ok := settings.Entry.(*run.Entry); ok && !e.Partial && e.Type.String() == of.String() {
			entry = e
			p.Whole, p.Within = true, e.Within
		}
	}
	machines := sync.Pool{New: func() any { return run.New(program) }}
	p.Run = func(doc *wire.Value) decoder.Outcome {
		m := machines.Get().(*run.Machine)
		defer machines.Put(m)
		var v run.Value
		var err error
		ok := true
		if entry != nil {
			v, err = m.Run(entry, doc, true)
		} else {
			v, ok, err = m.Make(of, doc, true)
		}
		if !ok {
			return decoder.Outcome{Seen: decoder.Seen{Kind: decoder.SeenUnknown}, Unknown: [][]wire.Step{{}}}
		}
		return outcome(m, v, err)
	}
	own := &planner{program: program, models: modelsOf(t, settings), m: run.New(program), made: map[string]*decoder.Node{}, names: map[*run.Place]string{}}
	p.Root = own.root(of, entry)
	p.Inexact = p.Guesses() || own.late
	return p
}

// modelsOf finds the model of a class by the models that lead to others.
func modelsOf(t *model.Type, settings *model.Settings) func(*run.Type) *model.Model {
	var find func(*run.Type) *model.Model
	t.Walk(func(t *model.Type) {
		if t.Model != nil && find == nil {
			if d, ok := t.Model.Source.(*run.Declared); ok {
				find = func(of *run.Type) *model.Model {
					m, _ := d.Model(of.Class).(*model.Model)
					return m
				}
			}
		}
	})
	if find == nil {
		return func(*run.Type) *model.Model { return nil }
	}
	return find
}

// programOf is the program whose class a type names.
func programOf(t *model.Type, settings *model.Settings) (p *run.Program) {
	t.Walk(func(t *model.Type) {
		if t.Model != nil && p == nil {
			if d, ok := t.Model.Source.(*run.Declared); ok {
				p = d.Program
			}
		}
	})
	if p == nil && settings != nil {
		if e, ok := settings.Entry.(*run.Entry); ok {
			p = e.Program
		}
	}
	return p
}

// typeOf is a declared type at run time.
func typeOf(t *model.Type) *run.Type {
	args := func() (out []*run.Type) {
		for _, a := range t.Args {
			out = append(out, typeOf(a))
		}
		return out
	}
	switch t.Kind {
	case model.Optional:
		return typeOf(t.Args[0]).Nullable()
	case model.List:
		return run.NewType("List", args()...)
	case model.Unique:
		return run.NewType("Set", args()...)
	case model.Map:
		return run.NewType("Map", args()...)
	}
	if t.Model != nil {
		if d, ok := t.Model.Source.(*run.Declared); ok {
			return run.TypeOf(d.Class, args()...)
		}
	}
	if t.Name == "dynamic" {
		return nil
	}
	return run.NewType(t.Name, args()...)
}

// Text is a type as the language writes it.
func Text(t *model.Type) string { return t.Written() }

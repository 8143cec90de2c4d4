package sharp

import (
	"slices"
	"strings"

	"vetta/internal/code"
	"vetta/internal/decoder"
	"vetta/internal/decoder/survey"
	"vetta/internal/model"
	"vetta/internal/wire"
)

// Plan says how code of the app makes a value of a type of a document, by hand: what the code does with a document is
// found by running it, and what it reads by experiment.
func Plan(t *model.Type, declared string, settings *model.Settings) *decoder.Plan {
	p := &decoder.Plan{Type: t, Declared: declared, Settings: settings, Refuses: "code of the app reads it, in a way that is not followed", Root: &decoder.Node{Op: decoder.OpUnknown}}
	if settings != nil && settings.Why != "" {
		p.Refuses = settings.Why
	}
	e := entryOf(t, settings, nil, nil)
	if e == nil {
		if around, ok := heldIn(settings); ok && around.Key() != t.Key() {
			return partOf(t, declared, Plan(around, around.Written(), settings))
		}
		return p
	}
	p.Refuses = "code of the app reads it, in " + e.fns[0].Name + ", which is not followed"
	root := survey.Of(func(doc *wire.Value) (decoder.Outcome, map[*wire.Value]*survey.Asked, bool) {
		asked := map[*wire.Value]*survey.Asked{}
		out, ok := e.run(doc, asked)
		return out, asked, ok
	}, e.models(t), e.words(t))
	if root == nil {
		return p
	}
	p.Root, p.Refuses, p.Whole = root, "", e.whole
	p.Run = func(doc *wire.Value) decoder.Outcome {
		if out, ok := e.run(doc, nil); ok {
			return out
		}
		return unknownOutcome
	}
	p.Inexact = true
	return p
}

// heldIn is the type that the code makes of a response, for one that is a part of it.
func heldIn(settings *model.Settings) (around *model.Type, ok bool) {
	if settings == nil {
		return nil, false
	}
	around, ok = settings.Entry.(*model.Type)
	return around, ok
}

// partOf is the plan of a class that code makes as a part of another type: as the code of that reads it.
func partOf(t *model.Type, declared string, around *decoder.Plan) *decoder.Plan {
	p := &decoder.Plan{Type: t, Declared: declared, Settings: around.Settings, Refuses: around.Refuses, Root: &decoder.Node{Op: decoder.OpUnknown}}
	if t.Model == nil || around.Refuses != "" {
		return p
	}
	switch n := around.Reads(t.Model); {
	case n != nil:
		p.Root = n
	case t.Model.Kind != model.Enum: // of which the code says what it is made of where it is read
		p.Refuses = "code of the app reads it, as a part of " + around.Declared
	}
	return p
}

// models finds the classes that a type holds, and those of the program, by name.
func (e *entry) models(t *model.Type) func(name string) *model.Model {
	known := map[string]*model.Model{}
	t.Reach(func(m *model.Model) {
		if known[m.Name] == nil {
			known[m.Name] = m
		}
	})
	return func(name string) *model.Model {
		if known[name] == nil {
			if d := e.c.World.Named(name, 0, code.At{}); d != nil && extendsOneOf(d.Model, known) {
				known[name] = d.Model
			}
		}
		return known[name]
	}
}

// extendsOneOf says whether a class extends one that is known.
func extendsOneOf(m *model.Model, known map[string]*model.Model) bool {
	for deep := 0; m != nil && m.Super != nil && deep < maxDeep; deep++ {
		if m = m.Super.Model; m != nil && known[m.Name] == m {
			return true
		}
	}
	return false
}

// words are the texts that the functions compare with, and names of constants that a type holds.
func (e *entry) words(t *model.Type) (words []string) {
	add := func(text string) {
		if text != "" && len(text) < 40 && !slices.Contains(words, text) {
			words = append(words, text)
		}
	}
	in := func(fn *code.Func) {
		code.WalkBody(fn.Do(), func(x *code.Expr) {
			if x.Op == code.Text {
				add(x.Text)
				add(someDate(x.Text, "2026", "03", "01"))
				add(someDate(x.Text, "2025", "11", "17"))
			}
		})
	}
	for _, fn := range e.fns {
		in(fn)
	}
	t.Reach(func(m *model.Model) {
		if _, d := Of(m); d != nil && m.Kind != model.Enum {
			for _, c := range d.Parts {
				for _, fn := range c.Funcs {
					in(fn)
				}
			}
		}
		if m.Kind == model.Enum && len(m.Cases) > 0 {
			add(m.Cases[0].Name)
		}
	})
	return words
}

// someDate is a date in a custom format of .NET's, "" for what is none.
func someDate(format, year, month, day string) string {
	if !strings.Contains(format, "yy") {
		return ""
	}
	return strings.NewReplacer("yyyy", year, "yy", year[2:], "MM", month, "dd", day, "HH", "09", "hh", "09", "mm", "30", "ss", "00", "'", "").Replace(format)
}

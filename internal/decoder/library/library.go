// Package library lists the decoding libraries that Vetta knows, and finds which of them,
// set how, decodes a type.
package library

import (
	"vetta/internal/decoder"
	"vetta/internal/decoder/foundation"
	"vetta/internal/decoder/gson"
	"vetta/internal/decoder/jackson"
	"vetta/internal/decoder/jvm"
	"vetta/internal/decoder/orgjson"
	"vetta/internal/model"
)

// Library is a decoding library: its name in settings, the languages whose models
// it decodes unless the source says otherwise, and how it decodes a type.
type Library struct {
	Name      string
	Title     string // as people call it
	Languages []string
	Plan      func(t *model.Type, declared string, settings *model.Settings) *decoder.Plan
	Text      func(t *model.Type) string // a type as the language writes it
	// Outline says of many classes with the same settings how their own fields are read; nil where that is
	// taken from a plan of each.
	Outline func(settings *model.Settings) func(m *model.Model) decoder.Outline
}

// All are the libraries, the default one of each language first.
var All = []Library{
	{Name: foundation.Name, Title: "Foundation JSONDecoder", Languages: []string{"swift"}, Plan: foundation.Plan, Text: foundation.Text},
	{Name: gson.Name, Title: "Gson", Languages: []string{"java", "kotlin"}, Plan: gson.Plan, Outline: gson.Outline, Text: jvm.TypeText},
	{Name: jackson.Name, Title: "Jackson", Languages: []string{"java", "kotlin"}, Plan: jackson.Plan, Outline: jackson.Outline, Text: jvm.TypeText},
	{Name: orgjson.Name, Title: "org.json by hand", Languages: []string{"java", "kotlin"}, Plan: orgjson.Plan, Text: jvm.TypeText},
	{Name: "moshi", Title: "Moshi", Languages: []string{"java", "kotlin"}, Plan: unread("Moshi"), Text: jvm.TypeText},
	{Name: "kotlinx.serialization", Title: "kotlinx.serialization", Languages: []string{"kotlin"}, Plan: unread("kotlinx.serialization"), Text: jvm.TypeText},
}

// unread plans for a library whose rules are not known: nothing is claimed of any value.
func unread(title string) func(*model.Type, string, *model.Settings) *decoder.Plan {
	return func(t *model.Type, declared string, settings *model.Settings) *decoder.Plan {
		why := title + " decodes it, a library that is not read yet"
		return &decoder.Plan{Type: t, Declared: declared, Settings: settings, Refuses: why, Root: &decoder.Node{Op: decoder.OpUnknown, Why: why}}
	}
}

// For is the library that decodes a model: the one its settings name, or the
// default of its language.
func For(language string, settings *model.Settings) *Library {
	for i := range All {
		if settings != nil && settings.Library == All[i].Name {
			return &All[i]
		}
	}
	for i := range All {
		for _, l := range All[i].Languages {
			if l == language {
				return &All[i]
			}
		}
	}
	return nil
}

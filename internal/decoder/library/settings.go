package library

import (
	"slices"
	"strings"
	"sync"

	"vetta/internal/decoder/sharp"
	"vetta/internal/model"
)

// Finder finds the settings by which types are decoded: those of the call that decodes a
// type, or a call that decodes a type that holds it, or else of the only decoder that the
// project builds. It is safe for use from several goroutines.
type Finder struct {
	own    map[string][]*model.Call // by the key of the type that a call decodes
	around map[held]int             // the first call whose values hold a model, from 1 on
	calls  []*model.Call
	// libraries are those of the calls in around, in the order of All, and the one that is not known.
	libraries []string
	generic   []*model.Call // the first call of each library that names no type
	first     []*model.Call // the first call of each library
	differ    sync.Map      // by asked: see several
}

// asked is what models are told apart by of which no call is found: their language, and the library that annotations name.
type asked struct{ language, hint string }

// held is a model that the values of a call hold, with the call's library.
type held struct {
	model   *model.Model
	library string
}

// NewFinder looks through the calls of a project once.
func NewFinder(set *model.Set) *Finder {
	f := &Finder{own: map[string][]*model.Call{}, around: map[held]int{}, calls: set.Calls}
	reached := map[string]bool{} // types by key and library: what they hold is noted
	for i, c := range set.Calls {
		name := libraryName(c)
		if c.Settings != nil {
			f.first = addFirst(f.first, c)
		}
		if c.Type == nil {
			if c.Settings != nil {
				f.generic = addFirst(f.generic, c)
			}
			continue
		}
		key := c.Type.Key()
		f.own[key] = append(f.own[key], c)
		if inner := c.Type.Unwrapped().Key(); inner != key {
			f.own[inner] = append(f.own[inner], c)
		}
		if reached[key+"\x00"+name] {
			continue
		}
		reached[key+"\x00"+name] = true
		c.Type.Reach(func(m *model.Model) {
			if at := (held{m, name}); f.around[at] == 0 {
				f.around[at] = i + 1
			}
		})
	}
	for _, lib := range All {
		if slices.ContainsFunc(set.Calls, func(c *model.Call) bool { return libraryName(c) == lib.Name }) {
			f.libraries = append(f.libraries, lib.Name)
		}
	}
	f.libraries = append(f.libraries, "")
	return f
}

func libraryName(c *model.Call) string {
	if c.Settings == nil {
		return ""
	}
	return c.Settings.Library
}

// addFirst adds a call unless there is one of its library.
func addFirst(calls []*model.Call, c *model.Call) []*model.Call {
	if slices.ContainsFunc(calls, func(other *model.Call) bool { return libraryName(other) == libraryName(c) }) {
		return calls
	}
	return append(calls, c)
}

// For answers the settings by which a type is decoded, nil where nothing tells, and
// the call whose error the app drops there, nil where it drops none. What the user says of a class goes before what the source does.
func (f *Finder) For(t *model.Type) (settings *model.Settings, drops *model.Call) {
	settings, drops = f.inSource(t)
	var said *model.Settings
	t.Walk(func(t *model.Type) {
		if said == nil && t.Model != nil {
			said = t.Model.Decoder
		}
	})
	if said != nil {
		settings = said.Over(settings)
	}
	return settings, drops
}

// AsCalled is a type as the source decodes it: Port? where all calls that decode a Port decode that.
func (f *Finder) AsCalled(t *model.Type) *model.Type {
	calls := f.own[t.Key()]
	if len(calls) == 0 || slices.ContainsFunc(calls, func(c *model.Call) bool { return c.Type.Kind != model.Optional }) {
		return t
	}
	return calls[len(calls)-1].Type
}

// inSource is For as the source has it.
func (f *Finder) inSource(t *model.Type) (settings *model.Settings, drops *model.Call) {
	var m *model.Model
	var models []*model.Model
	t.Walk(func(t *model.Type) {
		if t.Model != nil {
			models = append(models, t.Model)
			if m == nil {
				m = t.Model
			}
		}
	})
	language, hint := "", ""
	if m != nil {
		language, hint = m.Language, m.Library
	}
	fits := func(c *model.Call) bool {
		return language == "" || c.Settings == nil || decodes(c.Settings.Library, language)
	}
	// A library that annotations name is the one unless the type is decoded by another.
	hinted := func(c *model.Call) bool {
		return fits(c) && (hint == "" || c.Settings == nil || c.Settings.Library == hint || c.Settings.Library == sharp.Name)
	}
	var own, around *model.Call
	nearest := 0
	if len(f.own) > 0 {
		for _, c := range f.own[t.Key()] {
			if fits(c) && (own == nil || own.Settings == nil) {
				own = c
			}
		}
	}
	for _, name := range f.libraries {
		for _, m := range models {
			if i := f.around[held{m, name}]; i > 0 && (nearest == 0 || i < nearest) && hinted(f.calls[i-1]) {
				nearest, around = i, f.calls[i-1]
			}
		}
	}
	firstOf := func(calls []*model.Call) *model.Call {
		for _, c := range calls {
			if hinted(c) {
				return c
			}
		}
		return nil
	}
	if own == nil && around == nil {
		at := asked{language, hint}
		several, known := f.differ.Load(at)
		if !known {
			several, _ = f.differ.LoadOrStore(at, f.several(hinted))
		}
		if s := several.(*model.Settings); s != nil {
			return s, nil
		}
	}
	for _, c := range []*model.Call{own, around, firstOf(f.generic), firstOf(f.first)} {
		if c != nil && c.Settings != nil {
			if c == own && c.Swallowed {
				drops = c
			}
			return c.Settings, drops
		}
	}
	if hint != "" {
		settings = &model.Settings{Library: hint, Pos: m.Pos}
	}
	if own != nil && own.Swallowed {
		drops = own
	}
	return settings, drops
}

// several are settings that are not known, since no call decodes a type and those that are made for others differ; nil
// where they do not.
func (f *Finder) several(fits func(*model.Call) bool) *model.Settings {
	var one *model.Settings
	for _, c := range f.calls {
		switch {
		case c.Settings == nil || c.Settings.Why != "" || !fits(c):
		case one == nil:
			one = c.Settings
		case one.Library != c.Settings.Library: // which is asked first is told by what the class is marked with
			return nil
		case !reading(one).Same(reading(c.Settings)):
			return &model.Settings{Library: one.Library, Pos: one.Pos, Why: "no call of it was found, and the source decodes in ways that differ"}
		}
	}
	return nil
}

// reading are settings without those that say how a library writes alone.
func reading(s *model.Settings) *model.Settings {
	settable := Settings(s.Library)
	own := *s
	own.Options = map[string]model.Option{}
	for name, o := range s.Options {
		if slices.ContainsFunc(settable, func(pattern string) bool {
			start, open := strings.CutSuffix(pattern, "*")
			return name == pattern || open && strings.HasPrefix(name, start)
		}) {
			own.Options[name] = o
		}
	}
	return &own
}

// decodes says whether a library decodes models of a language.
func decodes(name, language string) bool {
	for _, lib := range All {
		if lib.Name == name {
			return slices.Contains(lib.Languages, language)
		}
	}
	return false
}

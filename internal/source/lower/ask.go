package lower

import (
	"slices"
	"strings"

	"vetta/internal/code"
	"vetta/internal/model"
	"vetta/internal/source/scan"
)

// Unit is a file that may be read into the tree when something asks for it.
type Unit struct {
	Text string
	Scan func()                // cuts it into tokens, side by side with others
	Add  func(p *code.Program) // reads them
	read bool
}

// atOnce is how many files are held in tokens.
const atOnce = 64

// IsOpen says whether the type that a call names may stand for others: nil, or one with a name that neither
// the source declares nor everybody knows.
func IsOpen(t *model.Type) (open bool) {
	if t == nil {
		return true
	}
	t.Walk(func(t *model.Type) {
		open = open || t.Kind == model.Param || t.Kind == model.Named && t.Model == nil && len(t.Args) == 0 && !known[t.Name]
	})
	return open
}

// known are names of types that are no type parameters.
var known = map[string]bool{
	"String": true, "Int": true, "Integer": true, "Long": true, "Double": true, "Float": true, "Boolean": true, "Bool": true, "Any": true,
	"Object": true, "Date": true, "URL": true, "Data": true, "int": true, "long": true, "double": true, "boolean": true, "Unit": true,
}

// Asking is what is to be followed of the calls of a language.
type Asking struct {
	// Files are those that calls may stand in, by name.
	Files   map[string]*Unit
	Program *code.Program
	Spell   func(*model.Type) string // a type as the language writes it
	// Decoder finds the settings of what decodes or writes at a call by the names that it goes by, nil where
	// those that the call has stay.
	Decoder func(*model.Call, code.Named) *model.Settings
	// Resolve finds what the names in a type mean in a file, for types that are named by what makes their
	// instances; nil where that is not wanted.
	Resolve func(t *model.Type, file string) *model.Type
	// Whole says that all of Files are part of the program already.
	Whole bool
	// Sends says that the calls write what they are given, rather than that they read.
	Sends bool
}

// Follow finds what the calls whose type is open decode: the callers that say it become calls of their
// own, in addition to those, which are marked with what was found.
func (a *Asking) Follow(calls []*model.Call) (more []*model.Call) {
	sinks := make([]*code.Sink, 0, len(calls))
	for _, c := range calls {
		if u := a.Files[c.Pos.File]; u != nil {
			addAll([]*Unit{u}, a.Program)
			sinks = append(sinks, &code.Sink{Pos: c.Pos, Call: c, Sends: a.Sends})
		}
	}
	if len(sinks) == 0 {
		return nil
	}
	found, lost := a.Program.Follow(sinks, a.loader())
	for _, s := range sinks {
		if found := a.Decoder(s.Call, s.Decoder); found != nil {
			s.Call.Settings = found
		}
	}
	for s, why := range lost {
		s.Call.Type, s.Call.Lost = nil, why
	}
	for _, f := range found {
		s := f.Sink.Call
		s.Type = nil
		if a.Resolve != nil && !leadsToModel(f.Type) {
			f.Type = a.Resolve(f.Type, f.Pos.File)
		}
		if !leadsToModel(f.Type) {
			if !s.Followed && s.Lost == "" {
				s.Lost = noClass
			}
			continue
		}
		if s.Lost == noClass {
			s.Lost = ""
		}
		s.Followed = s.Lost == ""
		c := &model.Call{
			Pos: f.Pos, Type: f.Type, Declared: a.Spell(f.Type), Swallowed: s.Swallowed, Settings: s.Settings, Language: s.Language,
			Endpoint: f.Path, Method: f.Method, Way: f.Way, Within: s.Within, Picked: s.Picked,
		}
		if s.Part != "" { // what it is of is what each caller hands on
			c.Part = f.Pos.String()
		}
		if found := a.Decoder(s, f.Decoder); found != nil {
			c.Settings = found
		}
		more = append(more, c)
	}
	return more
}

// loader makes sure that the files in which a name stands are part of the program.
func (a *Asking) loader() code.Load {
	asked := map[string]bool{}
	return func(name string) {
		if a.Whole || asked[name] {
			return
		}
		asked[name] = true
		var wanted []*Unit
		for _, file := range sorted(a.Files) {
			if u := a.Files[file]; !u.read && calledIn(u.Text, name) {
				wanted = append(wanted, u)
			}
		}
		for some := range slices.Chunk(wanted, atOnce) {
			addAll(some, a.Program)
		}
	}
}

// noClass is why a call is lost whose callers name String and the like.
const noClass = "what its callers name is no class of the source"

// addAll adds those of some files that are not read yet.
func addAll(some []*Unit, p *code.Program) {
	some = slices.DeleteFunc(some, func(u *Unit) bool { return u.read })
	scan.Each(len(some), func(i int) { some[i].Scan() })
	for _, u := range some {
		u.read = true
		u.Add(p)
	}
}

func sorted(files map[string]*Unit) []string {
	names := make([]string, 0, len(files))
	for name := range files {
		names = append(names, name)
	}
	slices.Sort(names)
	return names
}

// calledIn says whether a text may call, extend, implement or declare what has a name.
func calledIn(text, name string) bool {
	for rest := text; ; {
		at := strings.Index(rest, name)
		if at < 0 {
			return false
		}
		end := at + len(name)
		whole := at == 0 || wordLength(rest[at-1:at]) == 0
		behind := strings.TrimPrefix(rest[end:min(len(rest), end+2)], " ")
		if whole && behind != "" && strings.ContainsRune("(<{,:=", rune(behind[0])) || strings.HasSuffix(rest[:at], "class ") {
			return true
		}
		rest = rest[end:]
	}
}

func leadsToModel(t *model.Type) (found bool) {
	t.Walk(func(t *model.Type) { found = found || t.Model != nil })
	return found
}

// Unasked are calls of no type for those of some settings that no call decodes by: they still tell how the project
// decodes what no call is found for.
func Unasked(calls []*model.Call, made []*model.Settings, language string) (more []*model.Call) {
	used := map[model.Pos]bool{}
	for _, c := range calls {
		if c.Settings != nil {
			used[c.Settings.Pos] = true
		}
	}
	for _, s := range made {
		if !used[s.Pos] {
			used[s.Pos] = true
			more = append(more, &model.Call{Pos: s.Pos, Language: language, Settings: s})
		}
	}
	return more
}

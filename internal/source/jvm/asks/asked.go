package asks

import (
	"slices"

	"vetta/internal/code"
	"vetta/internal/model"
	"vetta/internal/source/jvm"
	"vetta/internal/source/lower"
)

// followed finds what calls decode that name a type parameter, or a value that holds a type, by those that
// call the functions around them.
func followed(p *jvm.Project, calls []*model.Call, all *decoders) []*model.Call {
	var open []*model.Call
	for _, c := range calls {
		if slices.Contains(p.Unsure, c) || c.Endpoint == "" {
			open = append(open, c)
		}
	}
	if len(open) == 0 {
		return nil
	}
	asking := &lower.Asking{Files: units(p), Program: lower.NewProgram("kotlin"), Spell: (*model.Type).Written, Decoder: all.asked(p)}
	return asking.Follow(open)
}

// units are the files of a project, to be read into the tree as they are asked for.
func units(p *jvm.Project) map[string]*lower.Unit {
	files := make(map[string]*lower.Unit, len(p.Files))
	for _, f := range p.Files {
		var whole *jvm.File
		files[f.Name] = &lower.Unit{
			Text: f.Src, Scan: func() { whole = f.Again(f.Name, f.Src) },
			Add: func(program *code.Program) { readInto(p, f, whole, program); whole = nil },
		}
	}
	return files
}

// asked tells the settings of the decoder of a call by the names that it goes by, under those that a reader
// sets for itself; nil where nothing is known.
func (d *decoders) asked(p *jvm.Project) func(*model.Call, code.Named) *model.Settings {
	made := lower.NewDecoders(d.all, func(b *built) lower.Built { return lower.Built{File: b.file.File, At: b.at, Names: b.names} })
	return func(c *model.Call, n code.Named) *model.Settings {
		unsure := slices.Contains(p.Unsure, c)
		if !unsure && c.Type != nil {
			return nil
		}
		base := c.Settings
		if r, ok := d.readers[c]; ok {
			base = r.of
		}
		return withOptions(d.meant(made, base, n, unsure, c.Pos), d.readers[c].own)
	}
}

// meant are the settings of what goes by some names, instead of those that the text of a call says; of a call
// that is not sure of its own, or whose decoder changes, those of the decoders that are handed on. nil where
// nothing is known.
func (d *decoders) meant(made *lower.Decoders[*built], said *model.Settings, n code.Named, unsure bool, at model.Pos) *model.Settings {
	if n.Several && said != nil {
		return lower.Handed(d.handed(said.Library), said.Library, at)
	}
	meant := made.Meant(n)
	switch {
	case len(meant) == 1:
		return meant[0].settings
	case len(meant) > 1:
		var settings []*model.Settings
		for _, b := range meant {
			settings = append(settings, b.settings)
		}
		return lower.Handed(settings, settings[0].Library, at)
	case !unsure || d.made(said) && (len(n.Names) > 0 || n.File == ""): // by a name that is declared elsewhere
		return nil
	}
	return lower.Handed(d.handed(said.Library), said.Library, at)
}

// made says whether settings are those of a decoder that the project makes.
func (d *decoders) made(s *model.Settings) bool {
	return slices.ContainsFunc(d.all, func(b *built) bool { return b.settings == s })
}

// handed are the settings of the decoders of a library that have a name, so that they may be handed on.
func (d *decoders) handed(library string) (all []*model.Settings) {
	for _, b := range d.byLibrary[library] {
		if len(b.names) > 0 {
			all = append(all, b.settings)
		}
	}
	return all
}

// readInto reads the code of a file, which has been cut into tokens whole, into a program.
func readInto(p *jvm.Project, f, whole *jvm.File, program *code.Program) {
	named := map[string]*jvm.Class{}
	addNamed(named, f.Classes)
	lower.File(program, whole.File, lower.Language{
		Name: f.Language,
		Type: whole.Parse,
		Resolve: func(t *model.Type, class string, params []string) *model.Type {
			own := make(map[string]bool, len(params))
			for _, name := range params {
				own[name] = true
			}
			p.Resolve(f, named[class], own, t)
			return t
		},
	})
}

// addNamed adds classes, and those in them, by their full names; of two of one name the first counts.
func addNamed(named map[string]*jvm.Class, all []*jvm.Class) {
	for _, c := range all {
		if name := c.FullName(); named[name] == nil {
			named[name] = c
			addNamed(named, c.Nested)
		}
	}
}

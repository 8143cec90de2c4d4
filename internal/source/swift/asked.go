package swift

import (
	"slices"
	"strings"

	"vetta/internal/code"
	"vetta/internal/model"
	"vetta/internal/source/lower"
	"vetta/internal/source/scan"
)

// follow finds what calls decode that name a type parameter, by those that call the functions around them.
func (s *settingsFinder) follow() {
	var open []*model.Call
	for _, c := range s.calls {
		if lower.IsOpen(c.Type) || s.unsure[c] || c.Endpoint == "" {
			open = append(open, c)
		}
	}
	if len(open) == 0 {
		return
	}
	s.asking = &lower.Asking{Files: s.units(), Program: lower.NewProgram("swift"), Spell: typeText, Decoder: s.decoderNamed}
	s.calls = append(s.calls, s.asking.Follow(open)...)
}

// units are the files, to be read into the tree as they are asked for.
func (s *settingsFinder) units() map[string]*lower.Unit {
	files := make(map[string]*lower.Unit, len(s.l.files))
	for _, top := range s.l.files {
		f := top.file
		var whole *scan.File
		files[f.Name] = &lower.Unit{
			Text: f.Src, Scan: func() { whole = again(f) },
			Add: func(p *code.Program) { s.l.lower(whole, p); whole = nil },
		}
	}
	return files
}

// decoderNamed are the settings of the decoder of a call that goes by some names; else, of a call that is
// not sure of its own or whose decoder changes, those of the decoders that are handed on. nil where nothing
// is known.
func (s *settingsFinder) decoderNamed(c *model.Call, n code.Named) *model.Settings {
	if !s.unsure[c] && c.Type != nil {
		return nil
	}
	if n.Several {
		return lower.Handed(s.named(), "foundation", c.Pos)
	}
	meant := s.decoders.Meant(n)
	switch {
	case len(meant) == 1:
		return s.settings(meant[0])
	case len(meant) > 1:
		var settings []*model.Settings
		for _, o := range meant {
			settings = append(settings, s.settings(o))
		}
		return lower.Handed(settings, "foundation", c.Pos)
	case !s.unsure[c] || c.Settings != nil && len(n.Names) > 0: // by a name that is declared elsewhere
		return nil
	}
	return lower.Handed(s.named(), "foundation", c.Pos)
}

// named are the settings of the decoders that have a name, so that they may be handed on.
func (s *settingsFinder) named() []*model.Settings {
	if s.handedOn == nil {
		for _, o := range s.objects {
			if o.class == "JSONDecoder" && len(o.names) > 0 {
				s.handedOn = append(s.handedOn, s.settings(o))
			}
		}
	}
	return s.handedOn
}

// pathAround is the path that the function around a call requests, "" where none is seen.
func pathAround(top *typeDecl, i int, call model.Pos) string {
	in := top.functionAround(i)
	if in == nil {
		return ""
	}
	typ := func(at int) (*model.Type, int) {
		q := parserAt(top.file, at)
		return q.parseType(), q.I
	}
	return lower.Path(top.file, "swift", typ, in.body[0], in.body[1], call)
}

// functionAround is the function whose body a token is in, nil where it is in none.
func (d *typeDecl) functionAround(i int) *function {
	for _, all := range [][]*function{d.funcs, d.inits} {
		for _, fn := range all {
			if fn.body[0] <= i && i < fn.body[1] {
				return fn
			}
		}
	}
	for _, n := range d.nested {
		if fn := n.functionAround(i); fn != nil {
			return fn
		}
	}
	return nil
}

// again is all of a file in tokens.
func again(f *scan.File) *scan.File {
	whole := f.Again(f.Src)
	selectBranches(whole)
	return whole
}

// lower reads the code of a file, which has been cut into tokens whole, into a program.
func (l *linker) lower(whole *scan.File, p *code.Program) {
	lower.File(p, whole, lower.Language{
		Name: "swift",
		Type: func(at int) (*model.Type, int) {
			q := parserAt(whole, at)
			return q.parseType(), q.I
		},
		Resolve: func(t *model.Type, class string, params []string) *model.Type {
			return l.resolveBeside(t, &typeDecl{full: class, file: whole}, params)
		},
	})
}

// resolveBeside resolves a type in which some names are type parameters of a function, which stay.
func (l *linker) resolveBeside(t *model.Type, d *typeDecl, params []string) *model.Type {
	isParam := func(t *model.Type) bool {
		name, _, _ := strings.Cut(t.Name, ".")
		return t.Kind == model.Named && slices.Contains(params, name)
	}
	open := false
	t.Walk(func(t *model.Type) { open = open || isParam(t) })
	switch {
	case !open:
		return l.resolve(t, d)
	case isParam(t):
		return t
	}
	alone := *t
	alone.Args = nil
	r := &alone
	if t.Kind == model.Named {
		r = l.resolve(&alone, d)
	}
	made := *r
	for _, a := range t.Args {
		made.Args = append(made.Args, l.resolveBeside(a, d, params))
	}
	return builtin(&made)
}

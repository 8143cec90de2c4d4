package swift

import (
	"strings"

	"vetta/internal/code"
	"vetta/internal/code/hand"
	"vetta/internal/model"
	"vetta/internal/source/lower"
	"vetta/internal/source/scan"
)

// findSends finds what is written by a JSONEncoder, or given to a request as its parameters, and follows what
// type that is.
func (s *settingsFinder) findSends() {
	var open []*model.Call
	for _, top := range s.l.files {
		if f := top.file; strings.Contains(f.Src, ".encode(") || strings.Contains(f.Src, "parameters:") && strings.Contains(f.Src, "encoder:") {
			open = append(open, s.sendsIn(again(f))...)
		}
	}
	if len(open) == 0 {
		return
	}
	if s.asking == nil {
		s.asking = &lower.Asking{Files: s.units(), Program: lower.NewProgram("swift"), Spell: typeText}
	}
	asking := *s.asking
	asking.Sends, asking.Decoder = true, s.encoderNamed
	asking.Resolve = func(t *model.Type, file string) *model.Type {
		for _, top := range s.l.files {
			if top.file.Name == file {
				return s.l.resolve(t, &typeDecl{kind: "file", file: top.file})
			}
		}
		return t
	}
	s.sends = append(open, asking.Follow(open)...)
	for _, c := range s.sends {
		s.l.fillSent(c.Type) // nil for one that is not known
	}
}

// sendsIn are the places of a file where something is written, of a type that is not told yet.
func (s *settingsFinder) sendsIn(f *scan.File) (calls []*model.Call) {
	in := &typeDecl{kind: "file", file: f}
	for i := 1; i < f.Len()-1; i++ {
		if f.KindAt(i) != scan.Ident || !f.Is(i+1, "(") || f.Is(i-1, "func") {
			continue
		}
		if !f.Is(i, "encode") {
			if !f.Is(i+2, ")") && hasLabel(f, i+1, "parameters") && hasLabel(f, i+1, "encoder") {
				calls = append(calls, &model.Call{Pos: f.Where(i)})
			}
			continue
		}
		if !f.Is(i-1, ".") || !s.isEncoder(f, i) {
			continue
		}
		call, _ := lower.Expression(f, s.l.language(in), i, f.Partner(i+1)+1)
		if len(call.Args) == 2 && call.Labels[0] == "" && hand.Label(call, "for") == nil {
			calls = append(calls, &model.Call{Pos: f.Where(i)})
		}
	}
	return calls
}

// hasLabel says whether an argument of a call has a label; open is the bracket of the arguments.
func hasLabel(f *scan.File, open int, label string) bool {
	shut := f.Partner(open)
	for k := open + 1; k < shut; k++ {
		if p := f.Partner(k); p > k {
			k = p
			continue
		}
		if f.Is(k, label) && f.Is(k+1, ":") && (f.Is(k-1, ",") || k == open+1) {
			return true
		}
	}
	return false
}

// isEncoder says whether what a method is called on is an encoder of JSON: by where it is made, or by its
// name.
func (s *settingsFinder) isEncoder(f *scan.File, i int) bool {
	name := receiverName(f, i)
	if o := s.lookup(name, f, i); o != nil {
		return o.class == "JSONEncoder"
	}
	return name == "JSONEncoder" || strings.HasSuffix(strings.ToLower(name), "encoder") && name[0] >= 'a' && name[0] <= 'z'
}

// encoderNamed are the settings of an encoder that goes by some names: of one that is made where they lead,
// else those of the encoders of the project, where they are alike.
func (s *settingsFinder) encoderNamed(c *model.Call, n code.Named) *model.Settings {
	plain := &model.Settings{Library: "foundation", Pos: c.Pos, Options: map[string]model.Option{}}
	var all []*model.Settings
	for _, name := range n.Names {
		var found []*object
		for _, o := range s.objects {
			inside := name.To > 0 && o.file.Name == name.File && o.file.Index(name.From) <= o.at && o.at < o.file.Index(name.To)
			if o.class == "JSONEncoder" && inside {
				found = append(found, o)
			}
		}
		if len(found) == 1 && !n.Several {
			return s.settings(found[0])
		}
	}
	for _, o := range s.objects {
		if o.class == "JSONEncoder" && (len(o.names) > 0 || len(o.props) > 0) {
			all = append(all, s.settings(o))
		}
	}
	if len(n.Names) > 0 && len(n.Names[0].Text) == 0 && len(n.Names) > 1 && n.Names[1].Text == "JSONEncoder" { // made on the spot
		return plain
	}
	if len(all) == 0 {
		return plain
	}
	return lower.Handed(all, "foundation", c.Pos)
}

// fillSent fills the models of a type that is written.
func (l *linker) fillSent(t *model.Type) {
	t.Walk(func(t *model.Type) {
		m := t.Model
		if m == nil {
			return
		}
		d, ok := m.Source.(*typeDecl)
		if !ok {
			return
		}
		if d.unfilled {
			l.fillMembers(d, m)
		}
		if l.sent[m] {
			return
		}
		l.sent[m] = true
		m.Sent = !m.Decodable && !m.FromMap
		m.Writes = l.unwritten(d)
		for _, f := range m.Fields {
			l.fillSent(f.Type)
		}
	})
}

// unwritten is why it is not followed what is written of a type, "" where the compiler says it.
func (l *linker) unwritten(d *typeDecl) string {
	for _, part := range l.parts(d) {
		for _, fn := range part.funcs {
			if fn.name == "encode" && fn.label == "to" {
				return d.full + " is written by code of its own (" + fn.pos.String() + "), which is not followed"
			}
		}
	}
	if super := l.superclass(d); super != nil {
		return d.full + " extends " + super.full + ", and what is written of a subclass is not followed"
	}
	return ""
}

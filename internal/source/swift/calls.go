package swift

import (
	"slices"
	"strings"

	"vetta/internal/code"
	"vetta/internal/code/hand"
	"vetta/internal/model"
	"vetta/internal/source/lower"
	"vetta/internal/source/scan"
)

// findCalls finds decoder.decode(Type.self, from: …), and other places that hand
// on a Type.self of a model.
func (s *settingsFinder) findCalls(top *typeDecl) {
	f := top.file
	for _, hit := range f.Hits {
		i := int(hit)
		if !decodingCalls[f.Word(i)] || !f.Is(i+1, "(") || !f.Is(i-1, ".") {
			continue
		}
		inside := s.declAround(top, i)
		if inside == nil {
			inside = &typeDecl{kind: "file", file: f}
		}
		call, _ := lower.Expression(f, s.l.language(inside), i, f.Partner(i+1)+1)
		handed := hand.Label(call, "decoder") // the decoder is an argument, as publishers and HTTP clients have it
		if handed == nil && f.Is(i, "map") {
			handed = hand.Label(call, "using")
		}
		if len(call.Args) < 2 || f.Is(i, "decode") && hand.Label(call, "from") == nil && (handed == nil || hand.Label(call, "type") == nil) {
			continue
		}
		if f.Is(i, "map") && (call.Args[1].Op != code.TypeOf || call.Labels[0] != "") { // of a list or a stream
			continue
		}
		c := &model.Call{Pos: f.Where(i), Swallowed: swallowed(f, i)}
		if path := hand.Label(call, "atKeyPath"); path != nil && path.Op == code.Text && f.Is(i, "map") {
			c.Within = strings.Split(path.Text, ".")
		}
		if first := call.Args[1]; first.Op == code.TypeOf {
			if typ := first.Type; !s.generic(typ, f, i) {
				c.Type, c.Declared = typ, first.Text
				if !lower.IsOpen(typ) {
					c.Endpoint = pathAround(top, i, c.Pos)
				}
			}
		}
		if name := receiverName(f, i); handed != nil || !f.Is(i, "decode") {
			c.Settings = s.handed(handed, f, i)
		} else if name != "" {
			if objectClasses[name] { // JSONDecoder().decode(…)
				c.Settings = &model.Settings{Library: "foundation", Pos: f.Where(i), Options: map[string]model.Option{}}
			} else if o := s.lookup(name, f, i); o != nil && o.class == "JSONDecoder" {
				c.Settings = s.settings(o)
			}
		}
		if name := receiverName(f, i); s.several && (!s.isHere(name, f, i) || lower.IsAssigned(f.Src, name)) {
			s.unsure[c] = true
		}
		s.calls = append(s.calls, c)
	}
}

// isHere says whether a decoder of a name is made in the blocks around a token, or whether the name is that
// of the class itself.
func (s *settingsFinder) isHere(name string, f *scan.File, i int) bool {
	if objectClasses[name] {
		return true
	}
	o := s.lookup(name, f, i)
	return o != nil && o.file == f && o.scope[0] <= i && i <= o.scope[1]
}

// decodingCalls are the methods that decode a type which one of their arguments names.
var decodingCalls = map[string]bool{"decode": true, "serializingDecodable": true, "responseDecodable": true, "publishDecodable": true, "map": true}

// handed are the settings of a decoder that is an argument of a call: of one that is made there, or that a
// name leads to; where none is handed over the call makes a plain one. nil where it is not found.
func (s *settingsFinder) handed(e *code.Expr, f *scan.File, call int) *model.Settings {
	plain := &model.Settings{Library: "foundation", Pos: f.Where(call), Options: map[string]model.Option{}}
	if e == nil {
		return plain
	}
	name := ""
	for i := f.Index(e.From); i < f.Index(e.To); i++ { // the last name: self.decoder, API.decoder, makeDecoder()
		if f.KindAt(i) == scan.Ident && !f.Is(i+1, ":") {
			name = f.Word(i)
		}
	}
	if o := s.lookup(name, f, call); o != nil && o.class == "JSONDecoder" {
		return s.settings(o)
	}
	if objectClasses[name] {
		return plain
	}
	return nil
}

// generic says whether a type is, at its root, a parameter of the function around
// token i rather than a type.
func (s *settingsFinder) generic(t *model.Type, f *scan.File, i int) bool {
	t = t.Unwrapped()
	if t.Kind == model.List || t.Kind == model.Unique {
		return s.generic(t.Args[0], f, i)
	}
	if t.Kind == model.Param || t.Kind == model.Opaque {
		return true
	}
	return t.Kind == model.Named && t.Model == nil && len(t.Name) <= 2
}

// declAround is the innermost declaration whose body holds token i.
func (s *settingsFinder) declAround(top *typeDecl, i int) *typeDecl {
	b := blocksOf(top.file).around(i)
	for ; b != nil; b = b.parent {
		if b.typ == "" {
			continue
		}
		for _, d := range top.nested {
			if d.name == b.typ {
				return d
			}
		}
	}
	return nil
}

// swallowed says whether the call whose method name is token i stands behind
// try?, in its own statement.
func swallowed(f *scan.File, i int) bool {
	for k := i - 1; k > 0; k-- {
		t := f.TokenAt(k)
		switch {
		case t.Is(")") && f.Partner(k) >= 0:
			k = f.Partner(k)
		case t.Is("?") && f.Is(k-1, "try"):
			return true
		case t.Is("try") || t.Is("{") || t.Is("}") || t.Is(";") || t.Is("=") || t.Is("return"):
			return false
		}
	}
	return false
}

// unasked adds the decoders of which no call was found: they still tell how the project decodes.
func (s *settingsFinder) unasked() {
	var made []*model.Settings
	for _, o := range s.objects {
		if o.class == "JSONDecoder" && len(o.names) > 0 && len(o.props) > 0 && !s.isSubclass(o) {
			made = append(made, s.settings(o))
		}
	}
	s.calls = append(s.calls, lower.Unasked(s.calls, made, "")...)
}

// isSubclass says whether an object stands for a class that extends one, which instances are made of.
func (s *settingsFinder) isSubclass(o *object) bool {
	return slices.ContainsFunc(s.objects, func(other *object) bool { return other.sub != "" && slices.Contains(o.names, other.sub) })
}

package run

import (
	"vetta/internal/code"
	"vetta/internal/model"
)

// View is what a value is to who looks at it: the app, when it reads what was decoded.
type View struct {
	Kind     Kind
	Text     string // of a scalar
	Host     Host
	Names    []string
	Elems    []View
	Type     *Type
	Set      bool
	Enum     bool
	Place    *Place
	Class    *code.Class
	Instance bool
}

// See reads all of a value: what is lazy or late is done now. What it throws is thrown only then.
func (m *Machine) See(v Value) (View, error) {
	left := maxItems
	return m.see(v, 60, &left)
}

// Unset is what is thrown where a property of an instance is read that nothing was put into, nil for nothing.
func (m *Machine) Unset(of Value, name string) error {
	if p, in := m.field(of.object().Type, name, 0); p != nil {
		if _, err := m.read(of, p, in, &code.Expr{Pos: p.Pos}); err != nil {
			return err
		}
	}
	return nil
}

func (m *Machine) see(v Value, deep int, left *int) (View, error) {
	out := View{Kind: v.Kind, Place: v.At}
	if *left--; *left < 0 || deep == 0 {
		return View{Kind: Unknown}, nil
	}
	switch v.Kind {
	case Bool, Int, Double, String:
		text, _, _ := m.written(v, model.Pos{})
		out.Text = text
	case Lists:
		l := v.list()
		items, some, err := m.elements(v, model.Pos{})
		if err != nil {
			return out, err
		}
		if some != nil {
			return View{Kind: Unknown, Place: v.At}, nil
		}
		out.Set = l.Kind == "Set"
		out.Elems = []View{}
		for _, e := range items {
			of, err := m.see(e, deep-1, left)
			if err != nil {
				return out, err
			}
			out.Elems = append(out.Elems, of)
		}
	case Maps:
		d := v.dict()
		if d.Some != nil || d.Rest != nil {
			return View{Kind: Unknown, Place: v.At}, nil
		}
		out.Names, out.Elems = []string{}, []View{}
		for i, k := range d.Keys {
			e := d.Vals[i]
			if d.Cast {
				var err error
				if k, err = m.coerce(k, d.Key, &frame{}, true); err != nil {
					return out, err
				}
				if e, err = m.coerce(e, d.Val, &frame{}, true); err != nil {
					return out, err
				}
			}
			name, known, err := m.written(k, model.Pos{})
			if o := k.object(); o != nil && o.Enum != "" {
				name = o.Enum
			}
			if err != nil || !known {
				return View{Kind: Unknown}, err
			}
			of, err := m.see(e, deep-1, left)
			if err != nil {
				return out, err
			}
			out.Names, out.Elems = append(out.Names, name), append(out.Elems, of)
		}
	case Obj:
		return m.seeObject(v, deep, left)
	case Hosts:
		out.Host = v.Ref.(Host)
		switch h := out.Host.(type) {
		case *entry:
			out.Names = []string{"key", "value"}
			for _, e := range []Value{h.key, h.val} {
				of, err := m.see(e, deep-1, left)
				if err != nil {
					return out, err
				}
				out.Elems = append(out.Elems, of)
			}
			out.Kind = Obj
		case URI:
			out.Kind, out.Text = String, normalURI(h.Text)
		case Big:
			out.Kind, out.Text = String, h.N.String()
		}
	case Recs:
		r := v.Ref.(*Rec)
		at := 0
		for i, e := range r.Vals {
			name := r.Names[i]
			if name == "" {
				at++
				name = "$" + string(rune('0'+at))
			}
			of, err := m.see(e, deep-1, left)
			if err != nil {
				return out, err
			}
			out.Names, out.Elems = append(out.Names, name), append(out.Elems, of)
		}
		out.Kind = Obj
	default:
		out.Kind = v.Kind
		if v.Kind == Fn || v.Kind == Class {
			out.Kind = Unknown
		}
	}
	return out, nil
}

func (m *Machine) seeObject(v Value, deep int, left *int) (View, error) {
	o := v.object()
	out := View{Kind: Obj, Type: o.Type, Class: o.Type.Class, Instance: true, Place: v.At}
	if o.Made != nil {
		out.Place = o.Made.Base
	}
	if o.Enum != "" {
		return View{Kind: Obj, Text: o.Enum, Enum: true, Type: o.Type, Class: o.Type.Class}, nil
	}
	if err := m.force(o); err != nil {
		return out, err
	}
	var failed error
	m.fields(o.Type, 0, func(p *code.Prop, in *Type) {
		if failed != nil {
			return
		}
		for i, n := range out.Names {
			if n == p.Name {
				out.Names, out.Elems = append(out.Names[:i], out.Names[i+1:]...), append(out.Elems[:i], out.Elems[i+1:]...)
				break
			}
		}
		f, err := m.read(v, p, in, &code.Expr{Pos: p.Pos})
		if err != nil {
			failed = err
			return
		}
		of, err := m.see(f, deep-1, left)
		if err != nil {
			failed = err
			return
		}
		out.Names, out.Elems = append(out.Names, p.Name), append(out.Elems, of)
	})
	return out, failed
}

// normalURI is the text of a Uri, in which what may not stand there is escaped.
func normalURI(s string) string {
	const hex = "0123456789ABCDEF"
	var b []byte
	for i := range len(s) {
		c := s[i]
		switch {
		case c <= ' ' || c >= 0x7f || c == '"' || c == '<' || c == '>' || c == '\\' || c == '^' || c == '`' || c == '{' || c == '|' || c == '}':
			b = append(b, '%', hex[c>>4], hex[c&15])
		default:
			b = append(b, c)
		}
	}
	return string(b)
}

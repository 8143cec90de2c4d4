package run

import (
	"fmt"

	"vetta/internal/wire"
)

// Probe is a part of a document of which one place is known: what stands there, or that nothing does.
type Probe struct {
	At     *Place // in the document of a survey
	Value  Value
	Absent bool // of a member
	// Names are those of the members that stand for any at a place, where not every name will do.
	Names map[*Place]string
}

// ProbeOf is a value to put somewhere: an object and an array of which nothing is known may stand for any.
func ProbeOf(v *wire.Value, at *Place) Value {
	if v.Kind == wire.Object && len(v.Members) == 0 {
		return OpenObject(at)
	}
	return FromWire(v, at)
}

// OpenObject is an object of which nothing is known.
func OpenObject(at *Place) Value {
	return Value{Kind: Maps, Ref: &Map{Key: stringType, Rest: at}, At: at}
}

// Failing is a value that each reader refuses.
func Failing(at *Place) Value { return Value{Kind: Unknown, At: at, Fails: true} }

// NotKnown is a value of which nothing is known.
func NotKnown(at *Place) Value { return Value{Kind: Unknown, At: at} }

// document is the whole of which only the probe is known.
func (p Probe) document(root *Place) Value {
	v := p.Value
	v.At = p.At
	gone := p.Absent
	for at := p.At; at != root && at != nil; at = at.Up {
		up := at.Up
		switch at.Kind {
		case Member:
			d := &Map{Key: stringType, Rest: up}
			if gone {
				d.Gone, gone = []string{at.Name}, false
			} else {
				d.put(textOf(at.Name), v)
			}
			v = Value{Kind: Maps, Ref: d, At: up}
		case Any, Key:
			d := &Map{Key: stringType}
			key := "key"
			if name, ok := p.Names[at]; ok {
				key = name
			}
			if at.Kind == Key && v.Kind == String {
				key = v.S
				v = Value{Kind: Unknown, At: up.sub(Any, "", 0)}
			}
			d.put(textOf(key), v)
			v = Value{Kind: Maps, Ref: d, At: up}
		case Each:
			v = Value{Kind: Lists, Ref: &List{Kind: "List", Items: []Value{v}}, At: up}
		case Elem:
			l := &List{Kind: "List"}
			for i := range max(at.N, 0) + 1 {
				if i == at.N || at.N < 0 {
					l.Items = append(l.Items, v)
				} else {
					l.Items = append(l.Items, Value{Kind: Unknown, At: up.sub(Elem, "", i)})
				}
			}
			v = Value{Kind: Lists, Ref: l, At: up}
		}
	}
	return v
}

// Try makes an instance of a part of a document of which only the probe is known. root is what the places of the
// probe are in.
func (m *Machine) Try(made *Made, root *Place, p *Probe) (Value, error) {
	m.reset()
	m.shallow = true
	a := made.Args
	a.List = append([]Value{}, a.List...)
	doc := Value{Kind: Unknown, At: root}
	if p != nil {
		doc, m.probed = p.document(root), p.At
	}
	doc.Static = a.List[made.At].Static
	a.List[made.At] = doc
	fn := made.Fn
	v, err := m.coerce(doc, m.argType(made), &frame{unit: m.p.unitOf(fn.File)}, false)
	if err != nil {
		return v, err
	}
	a.List[made.At] = v
	return m.finished(m.invoke(fn, nil, made.Of, nil, a, nil))
}

// argType is the type of the parameter that takes the part of the document.
func (m *Machine) argType(made *Made) *Type {
	label := ""
	if k := made.At - len(made.Args.plain()); k >= 0 {
		label = made.Args.Names[k]
	}
	if p := param(made.Fn, made.At, label); p != nil {
		return m.paramType(made.Fn, p, m.p.unitOf(made.Fn.File), m.own(made.Of))
	}
	return nil
}

// finished is what a probe has come to, with the instance filled in.
func (m *Machine) finished(v Value, err error) (Value, error) {
	if err != nil {
		return v, err
	}
	if o := v.object(); o != nil {
		err = m.force(o)
	}
	return v, err
}

// TryEntry runs the function of an entry with a document of which only the probe is known; nil for nothing at all.
func (m *Machine) TryEntry(e *Entry, root *Place, p *Probe) (Value, error) {
	m.reset()
	m.shallow = true
	doc := Value{Kind: Unknown, At: root}
	if p != nil {
		doc, m.probed = p.document(root), p.At
	}
	m.doc, m.target = &doc, e.root
	return m.start(e)
}

// TryType makes a value of a type of a document of which only the probe is known.
func (m *Machine) TryType(t *Type, root *Place, p *Probe) (Value, error) {
	m.reset()
	m.shallow = true
	doc := Value{Kind: Unknown, At: root}
	if p != nil {
		doc, m.probed = p.document(root), p.At
	}
	m.calls = []*frame{{fn: noFunc}}
	v, ok, err := m.MadeOf(t, doc)
	m.calls = nil
	if err == nil && !ok {
		err = unfollowed("no constructor takes a part of a document", noFunc.Pos)
	}
	return v, err
}

// NewRoot is the root of a document.
func NewRoot() *Place { return &Place{} }

// Sub is a place in another.
func (p *Place) Sub(kind Step, name string, n int) *Place { return p.sub(kind, name, n) }

// Steps are the steps from an outer place to one in it.
func (p *Place) Steps(outer *Place) (out []*Place) {
	for ; p != nil && p != outer; p = p.Up {
		out = append([]*Place{p}, out...)
	}
	return out
}

// Within says whether a place is another or in it.
func (p *Place) Within(outer *Place) bool { return p.within(outer) }

// TextOf is a text.
func TextOf(s string) Value { return textOf(s) }

// Places are those that a value depends on, with what is in it.
func (v Value) Places() []*Place { return v.places() }

// Common is the place that others are in.
func Common(places []*Place) *Place { return common(places) }

// Key tells readers apart: by the function, the class it makes, and what else it is handed.
func (d *Made) Key() string {
	key := fmt.Sprintf("%p %s", d.Fn, d.Of)
	for i, v := range d.Args.List {
		if i == d.At {
			continue
		}
		switch ref := v.Ref.(type) {
		case *Closure:
			key += fmt.Sprintf(" %p", ref.Fn)
			if ref.Fn == nil {
				key += ref.Sig.String()
			}
		default:
			key += " " + v.keyText()
		}
	}
	return key
}

package shape

import "vetta/internal/wire"

// recall finds again what a place has had, faster than its maps do. Each table has
// one slot for all that share it, and remembers the last of them; forgetting is
// always safe.
type recall struct {
	simple  [wire.StringValue]*Tally // of values that are of one class by kind alone, by wire.EventKind
	classes *[1 << classSlots]Counted
	texts   *[1 << textSlots]*Text
	keys    *[1 << keySlots]*Key
	forms   *[1 << formSlots]*Form
	asked   uint8 // how often something was to be remembered, up to warm
}

// warm is how often something must be to be remembered at a place before tables are made for it: the places of
// thousands of endpoints with a response each are not worth theirs.
const warm = 16

// isWarm notes that something is to be remembered, and says whether it is worth it.
func (m *recall) isWarm() bool {
	if m.asked < warm {
		m.asked++
	}
	return m.asked == warm
}

// Sizes of the tables, as powers of two.
const (
	classSlots = 4
	textSlots  = 5
	keySlots   = 5
	formSlots  = 4
)

// classSlot is the slot of a class.
func classSlot(c *Class) int {
	return int((uint64(c.Facts)*0x9E3779B97F4A7C15 ^ uint64(c.Kind)<<60) >> (64 - classSlots))
}

// class is the tally of a class, nil where it is not remembered.
func (m *recall) class(c *Class) *Tally {
	if m.classes == nil {
		return nil
	}
	known := &m.classes[classSlot(c)]
	if known.Class.Facts == c.Facts && known.Class.Kind == c.Kind && known.Class.Form == c.Form && known.Class.Fares == c.Fares {
		return known.Tally
	}
	return nil
}

func (m *recall) setClass(c Class, t *Tally) {
	if m.classes == nil {
		if !m.isWarm() {
			return
		}
		m.classes = new([1 << classSlots]Counted)
	}
	m.classes[classSlot(&c)] = Counted{c, t}
}

// text is the text with these ends between two offsets of data, nil where it is not
// remembered.
func (m *recall) text(data []byte, start, end int, e wire.Ends) *Text {
	if m.texts == nil {
		return nil
	}
	if t := m.texts[e.Slot(textSlots)]; t != nil && t.token.Is(data, start, end, e) {
		return t
	}
	return nil
}

func (m *recall) setText(t *Text) {
	if m.texts == nil {
		if !m.isWarm() {
			return
		}
		m.texts = new([1 << textSlots]*Text)
	}
	if t.token.Text() == "" {
		t.token = wire.TokenOf(t.Literal)
	}
	m.texts[t.token.Ends().Slot(textSlots)] = t
}

// key is the key that is written between two offsets of data, in its quotes and with
// its colon, nil where it is not remembered.
func (m *recall) key(data []byte, start, end int) *Key {
	if m.keys == nil {
		return nil
	}
	e := wire.EndsOf(data, start, end)
	if k := m.keys[e.Slot(keySlots)]; k != nil && k.quoted.Is(data, start, end, e) {
		return k
	}
	return nil
}

func (m *recall) setKey(k *Key) {
	if m.keys == nil {
		if !m.isWarm() {
			return
		}
		m.keys = new([1 << keySlots]*Key)
	}
	m.keys[k.quoted.Ends().Slot(keySlots)] = k
}

func formSlot(mask uint64) uint64 { return mask * 0x9E3779B97F4A7C15 >> (64 - formSlots) }

// form is the form of the keys in mask and no others, nil where it is not remembered.
func (m *recall) form(mask uint64) *Form {
	if m.forms == nil {
		return nil
	}
	if f := m.forms[formSlot(mask)]; f != nil && f.mask == mask {
		return f
	}
	return nil
}

// setForm remembers a form that has no keys but the first 64 of its place.
func (m *recall) setForm(f *Form) {
	if m.forms == nil {
		if !m.isWarm() {
			return
		}
		m.forms = new([1 << formSlots]*Form)
	}
	m.forms[formSlot(f.mask)] = f
}

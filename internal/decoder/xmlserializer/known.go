package xmlserializer

import (
	"vetta/internal/decoder/clr"
	"vetta/internal/markup"
)

// meeting is what the classes of several roots have to do with each other. Which of them a root leads to matters where two
// have one name, where one extends another, and where one is read in an order; that mostly none does saves going through
// all of them for each root.
type meeting struct {
	names   map[markup.Name]string // the type of each
	matters bool
}

// meet notes a class that is new to all roots.
func (m *meeting) meet(k *class) {
	if m == nil {
		return
	}
	m.matters = m.matters || k.ordered || len(clr.Chain(k.t)) > 1
	if k.name.Local == "" {
		return
	}
	if other, known := m.names[k.name]; known && other != k.t.Key() {
		m.matters = true
	}
	m.names[k.name] = k.t.Key()
}

// known is a class that was met before, from this root or another.
func (c *compiler) known(key classKey) *class {
	k := c.classes[key]
	if k != nil {
		c.leads(k)
		c.adopt(k)
	}
	return k
}

// enter notes a class that is new; what it hands back is called when its members are known.
func (c *compiler) enter(key classKey, k *class) (leave func()) {
	c.classes[key] = k
	c.seen[k] = true
	c.fresh = append(c.fresh, key)
	c.leads(k)
	around := c.around
	c.around = k
	return func() {
		c.around = around
		c.met.meet(k)
	}
}

// leads notes that the class whose members are looked at leads to another.
func (c *compiler) leads(k *class) {
	if c.met != nil && c.around != nil {
		c.around.holds = append(c.around.holds, k)
	}
}

// adopt takes a class that is known from another root, with those that it leads to.
func (c *compiler) adopt(k *class) {
	if c.met == nil || !c.met.matters || c.seen[k] {
		return
	}
	c.seen[k] = true
	c.ordered = c.ordered || k.ordered
	if k.name.Local != "" {
		if other := c.byName[k.name]; other != nil && other.Key() != k.t.Key() {
			c.clash = true
		}
		c.byName[k.name] = k.t
	}
	for _, inner := range k.holds {
		c.adopt(inner)
	}
}

package drift

import (
	"vetta/internal/decoder"
	"vetta/internal/markup"
	"vetta/internal/shape"
	"vetta/internal/wire"
)

// What of XML renames and moves must know: an element is a list of objects with a text, an attribute is a text.

// likeNames says how alike two names of an XML document are, and in what.
func likeNames(a, b string) (float64, string) {
	if a == markup.TextKey || b == markup.TextKey || a == markup.OrderKey || b == markup.OrderKey {
		return 0, ""
	}
	x, y := markup.NameOf(a), markup.NameOf(b)
	score, why := likeness(x.Local, y.Local)
	switch {
	case x.Local == y.Local && markup.IsAttr(a) && !markup.IsAttr(b):
		why = "it was an attribute, and is an element"
	case x.Local == y.Local && markup.IsAttr(b) && !markup.IsAttr(a):
		why = "it was an element, and is an attribute"
	case x.Local == y.Local && x.Space != y.Space:
		why = "the name is the same in another namespace: " + spaceText(y.Space)
	case x.Space != y.Space:
		score *= 0.9
	}
	return score, why
}

// objects are what the objects at a place are called.
func objects(p *shape.Place) string {
	if wire.IsMarkup(p.Steps) {
		return "elements"
	}
	return "objects"
}

func spaceText(space string) string {
	if space == "" {
		return "none"
	}
	return space
}

// fitsKey is the share of the values of a key that the node of one that is asked decodes.
func (w *walk) fitsKey(a asked, k *shape.Key) float64 {
	from, to := a.node.Name, k.Name
	if !markup.IsKey(from) || !markup.IsKey(to) {
		return w.fits(a.node.Inner, k.Place)
	}
	switch {
	case markup.IsAttr(from) && markup.IsElement(to):
		if text := textOf(k.Place); text != nil {
			return w.fits(a.node.Inner, text)
		}
		return 0
	case markup.IsElement(from) && markup.IsAttr(to):
		if leaf := scalarOf(a.node.Inner); leaf != nil {
			return w.fits(leaf, k.Place)
		}
		return 0
	}
	if item := itemOf(a.node.Inner); item != "" { // a list in an element of its own holds its items
		elem := k.Place.Elem
		if elem == nil || elem.Key(item) == nil {
			return 0
		}
	}
	return w.fits(a.node.Inner, k.Place)
}

// textOf is the place of the text of elements, nil for none.
func textOf(list *shape.Place) *shape.Place {
	if list.Elem == nil {
		return nil
	}
	if k := list.Elem.Key(markup.TextKey); k != nil {
		return k.Place
	}
	return nil
}

// scalarOf is what reads the text of an element, nil for one that is no scalar.
func scalarOf(n *decoder.Node) *decoder.Node {
	for deep := 0; n != nil && deep < wrappers; deep++ {
		switch {
		case n.Op == decoder.OpLeaf:
			return n
		case n.Op == decoder.OpBuild || n.Op == decoder.OpAt && n.Name != markup.TextKey:
			return nil
		}
		n = n.Inner
	}
	return nil
}

// wrappers is how many nodes stand around what an element is read as, at most: the nodes of other notations may lead back
// to themselves.
const wrappers = 16

// itemOf is the key of the items of a list that stands in an element of its own, "" for anything else.
func itemOf(n *decoder.Node) string {
	for deep := 0; n != nil && n.Op != decoder.OpBuild && deep < wrappers; deep++ {
		if n.Op == decoder.OpAt {
			if n.Holder {
				return n.Name
			}
			return ""
		}
		n = n.Inner
	}
	return ""
}

// flattened finds the items of a list where the element around them is absent, and they stand in its place.
func (w *walk) flattened(a *asked) *move {
	if !markup.IsElement(a.node.Name) || a.absent == 0 {
		return nil
	}
	item := itemOf(a.node.Inner)
	if item == "" {
		return nil
	}
	k := a.place.Key(item)
	if k == nil || w.read[a.place][item] {
		return nil
	}
	return &move{place: k.Place, flat: true, key: item, sent: k, evidence: markup.ShowKey(item) + " stands in " + a.place.Path() + " itself, where " + markup.ShowKey(a.node.Name) + " was around it"}
}

// wrapped finds the elements of a flat list that stand in one more element now.
func (w *walk) wrapped(a *asked) *move {
	if !markup.IsElement(a.node.Name) || a.absent == 0 || a.node.Inner == nil || a.node.Inner.Op != decoder.OpList && a.node.Inner.Op != decoder.OpMade {
		return nil
	}
	for _, k := range a.place.Keys {
		if !markup.IsElement(k.Name) || w.read[a.place][k.Name] || k.Place.Elem == nil || a.together(k) {
			continue
		}
		inner := k.Place.Elem.Key(a.node.Name)
		if inner == nil || k.Place.Elem.Count(wire.Object) == 0 || w.fits(a.node.Inner, inner.Place) < 0.5 {
			continue
		}
		return &move{place: inner.Place, key: inner.Name, sent: k, evidence: markup.ShowKey(a.node.Name) + " stands in " + markup.ShowKey(k.Name) + " now, and nothing reads it there"}
	}
	return nil
}

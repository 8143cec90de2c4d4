package moshi

import (
	"strings"

	"vetta/internal/decoder"
	"vetta/internal/decoder/jvm"
	"vetta/internal/model"
	"vetta/internal/wire"
)

// interfaces are the collections that have adapters, as Kotlin and Java write them.
var interfaces = map[string]bool{
	"": true, "List": true, "MutableList": true, "Collection": true, "MutableCollection": true, "Set": true, "MutableSet": true, "Map": true, "MutableMap": true,
}

// list is the node for arrays, and for lists and sets by their interfaces: their implementations are classes of the
// platform's that no adapter is made for.
func (c *compiler) list(t *model.Type) *decoder.Node {
	elem := t.Args[0]
	n := &decoder.Node{Op: decoder.OpList, Unique: t.Kind == model.Unique, Equal: jvm.Same(elem), Wrong: wrongStart("BEGIN_ARRAY")}
	if t.Name != "" { // an array
		primitive := jvm.IsPrimitive(elem, false) && t.Name == "[]" || t.Name != "[]" && t.Name != "Array"
		if primitive {
			n.Inner = c.notNull(elem, "", false)
			n.Bytes = jvm.Scalar(elem) == "byte"
			return n
		}
	} else if !interfaces[t.Class] {
		return c.noPlatform(fullName(t.Class))
	}
	n.Inner = c.element(elem, t)
	return n
}

// fullName is a collection with its package.
func fullName(class string) string { return jvm.Package(class) + class }

// element is the node for an element of a collection, a box: null passes whatever the source says.
func (c *compiler) element(elem, of *model.Type) *decoder.Node {
	kotlin := strings.HasSuffix(of.Pos.File, ".kt")
	return c.value(elem, "", kotlin && elem.Kind != model.Optional && elem.Kind != model.Param)
}

// dictionary is the node for maps (MapJsonAdapter): keys are read as texts by the adapter of their type, and none
// may come twice.
func (c *compiler) dictionary(t *model.Type) *decoder.Node {
	if !interfaces[t.Class] {
		return c.noPlatform(fullName(t.Class))
	}
	n := &decoder.Node{Op: decoder.OpMap, Wrong: wrongStart("BEGIN_OBJECT"), Inner: c.element(t.Args[1], t), Every: true}
	n.Twice = func(name string) *decoder.Error {
		return data(decoder.ReasonTwice, "Map key '%s' has multiple values at path %s", name, decoder.PathMark)
	}
	of := t.Args[0].Unwrapped()
	key := c.notNull(of, "", true)
	if key.Op == decoder.OpNil {
		key = key.Inner
	}
	read := key.Read
	if key.Op != decoder.OpLeaf || read == nil {
		if c.broken == nil && of.Model != nil && of.Model.Kind != model.Enum {
			n.Key = func(name string) (decoder.Seen, *decoder.Error) {
				err := *expected("BEGIN_OBJECT", wire.String)
				err.Reason = decoder.ReasonKey
				return decoder.Seen{}, &err
			}
			return n
		}
		return unknown("its keys are made by code that is not followed")
	}
	n.Key = decoder.KeyBy(read, jvm.StringValue)
	return n
}

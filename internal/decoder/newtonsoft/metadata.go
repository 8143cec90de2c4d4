package newtonsoft

import (
	"vetta/internal/decoder"
	"vetta/internal/wire"
)

// Keys of the library's own that come first in an object (JsonSerializerInternalReader.ReadMetadataProperties): $id names
// the object, $ref stands for the one of that name, $values holds the elements of a list.
const (
	idKey     = "$id"
	refKey    = "$ref"
	valuesKey = "$values"
	typeKey   = "$type"
)

// prepares lets a plan take documents with such keys as they are meant.
func (c *compiler) prepares(p *decoder.Plan) {
	if c.settings.Option("MetadataPropertyHandling") == "Ignore" {
		return
	}
	ahead := c.settings.Option("MetadataPropertyHandling") == "ReadAhead" // wherever the keys stand
	types := c.settings.Option("TypeNameHandling")
	typed := types != "" && types != "None"
	p.Metadata = []string{refKey, valuesKey}
	if typed {
		p.Metadata = append(p.Metadata, typeKey)
	}
	p.Prepared = func(doc *wire.Value) (*wire.Value, *decoder.Error, *wire.Value, bool) {
		if ahead && refers(doc, true) {
			return nil, nil, nil, false
		}
		if !refers(doc, false) {
			return doc, nil, nil, true
		}
		r := references{typed: typed, known: map[string]named{}}
		meant := r.resolve(doc)
		return meant, r.err, r.at, !r.lost
	}
}

// refers says whether an object of a document begins with a key of the library's own, or has one anywhere.
func refers(v *wire.Value, anywhere bool) bool {
	for _, e := range v.Elems {
		if refers(e, anywhere) {
			return true
		}
	}
	for i := range v.Members {
		switch name := v.Members[i].Name; {
		case (i == 0 || anywhere) && (name == idKey || name == refKey || name == typeKey):
			return true
		case refers(v.Members[i].Value, anywhere):
			return true
		}
	}
	return false
}

// named is an object that others may refer to: nil for one that is being read, and how many values stand in it.
type named struct {
	v    *wire.Value
	size int
}

// mostReferred is how many values references may stand for in a document: each may double those before it.
const mostReferred = 100_000

// references are the objects that were named so far.
type references struct {
	typed    bool // $type names a class
	known    map[string]named
	values   int // that were read, and stood for
	referred int // of those, stood for by references
	err      *decoder.Error
	at       *wire.Value
	lost     bool // what it means is not followed
}

func (r *references) fail(at *wire.Value, message string) *wire.Value {
	if r.err == nil {
		r.err, r.at = serial(decoder.ReasonClass, message), at
	}
	return at
}

func (r *references) resolve(v *wire.Value) *wire.Value {
	r.values++
	switch v.Kind {
	case wire.Array:
		out := *v
		out.Elems = make([]*wire.Value, len(v.Elems))
		for i, e := range v.Elems {
			out.Elems[i] = r.resolve(e)
		}
		return &out
	case wire.Object:
		return r.object(v)
	}
	return v
}

func (r *references) object(v *wire.Value) *wire.Value {
	rest, before := v.Members, r.values
	if len(rest) > 0 && rest[0].Name == refKey {
		switch of := rest[0].Value; of.Kind {
		case wire.String:
			if len(rest) > 1 {
				return r.fail(rest[1].Value, "Additional content found in JSON reference object. A JSON reference object should only have a $ref property.")
			}
			name, _ := of.Text()
			found, known := r.known[name]
			r.values, r.referred = r.values+found.size, r.referred+found.size
			r.lost = r.lost || known && found.v == nil || r.referred > mostReferred // of one in itself
			if found.v == nil || r.lost {
				return &wire.Value{Kind: wire.Null, Raw: []byte("null"), Start: v.Start, End: v.End}
			}
			return found.v
		case wire.Null:
			rest = rest[1:]
		default:
			return r.fail(of, "JSON reference $ref property must have a string or null value.")
		}
	}
	id := ""
	for len(rest) > 0 {
		if rest[0].Name == typeKey {
			r.lost = r.lost || r.typed
		} else if rest[0].Name == idKey && id == "" && rest[0].Value.Kind == wire.String {
			id, _ = rest[0].Value.Text()
			r.known[id] = named{}
		} else {
			break
		}
		rest = rest[1:]
	}
	if len(rest) == 1 && rest[0].Name == valuesKey && len(v.Members) > 1 {
		list := r.resolve(rest[0].Value)
		if id != "" {
			r.known[id] = named{list, r.values - before}
		}
		return list
	}
	out := *v
	out.Members = make([]wire.Member, len(rest))
	for i := range rest {
		out.Members[i] = rest[i]
		out.Members[i].Value = r.resolve(rest[i].Value)
	}
	if id != "" {
		r.known[id] = named{&out, r.values - before}
	}
	return &out
}

package csharp

import (
	"slices"
	"strings"

	"vetta/internal/code"
	"vetta/internal/model"
)

// handed are the types of what code is given to read a value from.
var handed = words("JsonElement JsonDocument JsonNode JsonObject JsonArray JsonProperty Utf8JsonReader JToken JObject JArray JProperty JsonReader JsonTextReader XElement XDocument XmlNode XmlElement XmlDocument XmlReader XPathNavigator")

// parsings are the methods by which the classes in parsesJSON make a value of JSON that code asks for what is in it; parses
// are the classes of any text, whose Parse or Load does.
var (
	parsings   = []string{"Parse", "ParseAsync"}
	parsesJSON = []string{"JsonDocument", "JsonNode", "JObject", "JArray", "JToken"}
	parses     = []string{"JsonDocument", "JsonNode", "JObject", "JArray", "JToken", "Utf8JsonReader", "JsonTextReader", "XDocument", "XElement", "XmlDocument", "XmlReader", "XPathDocument"}
)

// byOwnCode is what settings call code of the app's that reads by hand.
const byOwnCode = "csharp"

// byHand is the call of a function that makes what it returns of a document by hand, nil where it is given none that is
// known, or has a library decode the same.
func (a *asking) byHand(c *model.Call, fn *code.Func) *model.Call {
	if fn == nil || fn.Returns == nil || len(fn.Generics) > 0 || fn.Init || a.p.taken(fn) < ofMember {
		return nil
	}
	t := a.p.resolve(fn.Returns, a.p.scopeOf(fn)).Unwrapped()
	if !holdsModel(t) {
		return nil
	}
	c.Type, c.Declared, c.Within = t, t.Written(), nil
	c.Settings = &model.Settings{Library: byOwnCode, Pos: c.Pos, Options: map[string]model.Option{}, Entry: t}
	return c
}

// holdsModel says whether values of a type hold instances of a class of the source.
func holdsModel(t *model.Type) (holds bool) {
	t.Walk(func(t *model.Type) { holds = holds || t.Model != nil && t.Model.Kind != model.Enum })
	return holds
}

// readByHand takes the calls of code that reads by hand out of all, but for those whose type no library decodes, and
// which therefore stand for it.
func readByHand(all []*model.Call, decoded map[*model.Model]bool) []*model.Call {
	return slices.DeleteFunc(all, func(c *model.Call) bool {
		if c.Settings == nil || c.Settings.Library != byOwnCode || c.Type == nil {
			return false
		}
		own := false
		c.Type.Walk(func(t *model.Type) { own = own || t.Model != nil && decoded[t.Model] })
		return own
	})
}

// readInside takes out of some calls those of elements that a function which reads by hand has a library decode by what is
// in them: the function is run, and they with it.
func readInside(all []*model.Call, within map[*model.Call]*code.Func) []*model.Call {
	byHand := map[*code.Func]bool{}
	for _, c := range all {
		byHand[within[c]] = byHand[within[c]] || c.Settings.Library == byOwnCode
	}
	picks := model.PickedOf(all)
	return slices.DeleteFunc(all, func(c *model.Call) bool { return picks(c) && byHand[within[c]] })
}

// byHand says of the models that no library is seen to decode, though code of the app reads them from a value, that their
// reading is not followed: their declarations alone would be judged by rules that do not hold for them.
func (p *project) byHand(decoded map[*model.Model]bool) {
	for _, d := range p.order {
		if d.kind() == "interface" || d.kind() == "enum" {
			continue
		}
		for _, c := range d.parts {
			for _, fn := range c.Funcs {
				given := slices.ContainsFunc(fn.Params, func(a code.Param) bool {
					return a.Type != nil && handed[model.SimpleName(a.Type.Unwrapped().Name)]
				})
				if !given && !makesByHand(fn) {
					continue
				}
				if given && (fn.Init || !fn.Static) {
					p.readBy(d, fn, decoded)
				}
				if fn.Returns == nil {
					continue
				}
				if m := p.madeOf(fn, scope{file: c.File, space: c.Space, in: d, free: fn.Generics}); m != nil && !decoded[m] && m.Reading != model.Unfollowed {
					m.Decoder = &model.Settings{Library: byOwnCode, Options: map[string]model.Option{}}
				} else {
					p.resolve(fn.Returns, scope{file: c.File, space: c.Space, in: d, free: fn.Generics}).Walk(func(t *model.Type) {
						if t.Model != nil {
							p.readBy(p.of[t.Model], fn, decoded)
						}
					})
				}
			}
		}
	}
}

// madeOf is the class of which a function makes an instance of an element, a node or a token of JSON that it is given, and
// of nothing else; nil for another function.
func (p *project) madeOf(fn *code.Func, s scope) *model.Model {
	if fn.Init || !fn.Static || len(fn.Generics) > 0 || p.taken(fn) != ofElement {
		return nil
	}
	for _, a := range fn.Params {
		if name := model.SimpleName(a.Type.Unwrapped().Name); strings.HasPrefix(name, "X") {
			return nil
		}
	}
	m := p.resolve(fn.Returns, s).Unwrapped().Model
	if m == nil || m.Kind == model.Enum {
		return nil
	}
	return m
}

// makesByHand says whether the body of a function parses a text into values by itself; a reader that a serializer is given
// is none that does.
func makesByHand(fn *code.Func) bool {
	has := func(name string) bool { return mentions(fn, name) }
	return fn.Returns != nil && slices.ContainsFunc(parses, has) && !has("Deserialize")
}

// readBy notes that a function reads a type, and with it those that extend it.
func (p *project) readBy(d *declared, fn *code.Func, decoded map[*model.Model]bool) {
	if d == nil {
		return
	}
	for _, of := range append([]*declared{d}, p.extending(d)...) {
		m := of.model
		if m == nil || decoded[m] || m.Kind == model.Enum || m.Reading == model.Unfollowed || m.Decoder != nil {
			continue
		}
		m.Reading, m.Why, m.WhyPos = model.Unfollowed, "code of the app reads it, in "+fn.Name, fn.Pos
	}
}

// naming are the types that have the name of another among those that they extend.
func (p *project) naming(d *declared) (all []*declared) {
	for _, o := range p.order {
		if o != d && slices.ContainsFunc(o.parts, func(c *code.Class) bool {
			return slices.ContainsFunc(c.Supers, func(t *model.Type) bool { return model.SimpleName(t.Name) == d.name })
		}) {
			all = append(all, o)
		}
	}
	return all
}

// extending are the types whose declarations name a type as one that they extend.
func (p *project) extending(d *declared) (all []*declared) {
	for _, o := range p.order {
		if o != d && o.model != nil && o.model.Super != nil && o.model.Super.Model == d.model && d.model != nil {
			all = append(all, o)
		}
	}
	return all
}

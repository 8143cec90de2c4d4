package gson

import (
	"vetta/internal/decoder"
	"vetta/internal/decoder/jvm"
	"vetta/internal/model"
)

// Outline says of many classes which keys a Gson with these settings reads their own fields from, and
// what is not followed, without a plan for what they hold.
func Outline(settings *model.Settings) func(m *model.Model) decoder.Outline {
	c := &compiler{settings: settings, nodes: map[string]*decoder.Node{}}
	refuses := refusal(settings)
	unread := map[string]string{} // by the name of a type that is no class of the source
	whyOf := func(t *model.Type) string {
		t = t.Unwrapped()
		switch {
		case c.adapted(t) || t.Kind == model.Map && c.adapted(t.Args[0]):
			return c.make(t).Why
		case t.Kind == model.Named && t.Model != nil:
			if c.follows(t.Model.Adapter) {
				return ""
			}
			return ownReader(t.Model)
		case t.Kind == model.List, t.Kind == model.Unique, t.Kind == model.Map, t.Kind == model.Param:
			return "" // what is in them is told where it is declared
		case t.Kind != model.Named || len(t.Args) > 0:
			return c.make(t).Why
		}
		why, known := unread[t.Name]
		if !known {
			if n := c.make(t); n.Op == decoder.OpUnknown {
				why = n.Why
			}
			unread[t.Name] = why
		}
		return why
	}
	return func(m *model.Model) decoder.Outline {
		out := decoder.Outline{Unclaimed: refuses}
		t := &model.Type{Name: m.Name, Model: m}
		switch {
		case refuses != "", c.follows(c.registered(t)), c.follows(m.Adapter):
		case c.adapted(t):
			out.Unclaimed = "a TypeAdapter of its own reads " + jvm.TypeText(t)
		default:
			out.Unclaimed = ownReader(m)
		}
		if m.Kind == model.Enum {
			return out
		}
		out.Fields = make([]decoder.FieldReading, 0, len(m.Fields))
		for _, f := range m.Fields {
			r := decoder.FieldReading{Field: f, How: f.Reading}
			switch {
			case f.Static:
				continue
			case c.excluded(f) != "":
				r.How, r.Why = model.Never, c.excluded(f)
			case f.Marks.Find("SerializedName").Untold("value", "alternate") != "":
				r.How, r.Why = model.Unfollowed, "its key is "+f.Marks.Find("SerializedName").Untold("value", "alternate")+", a constant that is not in the source"
			default:
				name, others, _ := c.names(f)
				r.Keys = append([]string{name}, others...)
				if r.Why = whyOf(compiled(f.Type)); f.Marks.Find("JsonAdapter") != nil && (jvm.IsPrimitive(f.Type, isKotlin(m)) || !c.follows(f.Adapter)) {
					r.Why = "a TypeAdapter of its own reads it"
				}
				if f.Marks.Find("JsonAdapter") != nil && c.follows(f.Adapter) && !jvm.IsPrimitive(f.Type, isKotlin(m)) {
					r.Why = ""
				}
				if r.Why != "" {
					r.How = model.Unfollowed
				}
			}
			out.Fields = append(out.Fields, r)
		}
		return out
	}
}

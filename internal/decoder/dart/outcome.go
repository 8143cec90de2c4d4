package dart

import (
	"strings"

	"vetta/internal/code/run"
	"vetta/internal/decoder"
	"vetta/internal/wire"
)

// outcome is what a run came to, as trials show it.
func outcome(m *run.Machine, v run.Value, err error) decoder.Outcome {
	later := false
	var view run.View
	if err == nil {
		view, err = m.See(v)
		later = err != nil
	}
	switch e := err.(type) {
	case nil:
		s := seen(view)
		return decoder.Outcome{Seen: s, Unknown: decoder.UnknownIn(s)}
	case *run.Thrown:
		from := e.At
		if from == nil && e.Class != "LateInitializationError" {
			from = m.Last()
		}
		at := place(from)
		failed := failure(e)
		failed.Later = later
		return decoder.Outcome{Err: failed, Place: at, At: at, Later: later}
	}
	s := decoder.Seen{Kind: decoder.SeenUnknown}
	return decoder.Outcome{Seen: s, Unknown: [][]wire.Step{{}}}
}

// place is where a value stands in the document.
func place(p *run.Place) (out []wire.Step) {
	for _, s := range p.Path() {
		switch s.Kind {
		case run.Member:
			out = append(out, wire.MemberOf(s.Name))
		case run.Elem:
			out = append(out, wire.Step{Index: s.N})
		}
	}
	return out
}

// failure is an exception as an error of decoding.
func failure(t *run.Thrown) *decoder.Error {
	kind := t.Class
	if kind == "" {
		kind, _, _ = strings.Cut(t.Message, ":")
	}
	return &decoder.Error{Kind: kind, Message: t.Error(), Reason: reason(t)}
}

// reason is what is wrong, by the kind and the text of an exception.
func reason(t *run.Thrown) decoder.Reason {
	switch {
	case strings.HasPrefix(t.Message, "type 'Null' is") || strings.Contains(t.Message, "null value") || strings.Contains(t.Message, "called on null") || strings.Contains(t.Message, "Must not be null"):
		return decoder.ReasonNull
	case t.Class == "_TypeError" || t.Class == "_CastError" || t.Class == "NoSuchMethodError":
		return decoder.ReasonKind
	case strings.HasPrefix(t.Message, "Invalid date format"):
		return decoder.ReasonDate
	case t.Class == "FormatException":
		return decoder.ReasonText
	case t.Class == "ArgumentError" && (strings.Contains(t.Message, "No enum value") || strings.Contains(t.Message, "supported values")), t.Message == "Bad state: No element", strings.Contains(t.Message, "Invalid union type"):
		return decoder.ReasonConstant
	case t.Class == "RangeError":
		return decoder.ReasonRange
	case t.Class == "MissingRequiredKeysException":
		return decoder.ReasonMissing
	case t.Class == "UnrecognizedKeysException":
		return decoder.ReasonUnknown
	}
	return decoder.ReasonCode
}

// seen is what the app sees.
func seen(v run.View) decoder.Seen {
	s := decoder.Seen{Text: v.Text}
	if v.Type != nil {
		s.Type = v.Type.Name
	}
	elems := func() {
		s.Elems = []decoder.Seen{}
		for _, e := range v.Elems {
			s.Elems = append(s.Elems, seen(e))
		}
	}
	switch v.Kind {
	case run.Null:
		s.Kind = decoder.SeenNull
	case run.Bool:
		s.Kind = decoder.SeenBool
	case run.Int:
		s.Kind = decoder.SeenInt
	case run.Double:
		s.Kind = decoder.SeenFloat
	case run.String:
		s.Kind = decoder.SeenString
	case run.Lists:
		s.Kind = decoder.SeenList
		if v.Set {
			s.Kind = decoder.SeenSet
		}
		elems()
	case run.Maps:
		s.Kind, s.Names = decoder.SeenMap, v.Names
		elems()
	case run.Obj:
		if v.Enum {
			s.Kind = decoder.SeenEnum
			break
		}
		s.Kind, s.Names = decoder.SeenObject, v.Names
		elems()
	case run.Hosts:
		switch h := v.Host.(type) {
		case run.Date:
			s.Kind, s.Seconds = decoder.SeenDate, float64(h.Micros)/1e6
		case run.Span:
			s.Kind, s.Text = decoder.SeenString, h.Text()
		default:
			s.Kind = decoder.SeenUnknown
		}
	default:
		s.Kind = decoder.SeenUnknown
	}
	return s
}

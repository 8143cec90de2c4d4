package xmlserializer

import (
	"strconv"
	"strings"

	"vetta/internal/decoder"
	"vetta/internal/decoder/clr"
	"vetta/internal/model"
)

// value reads a text as a value of a type that is no class; known is false where that is not told.
func (c *compiler) value(t *model.Type, data, text string) (s decoder.Seen, wrong *clr.Format, known bool) {
	u := t.Unwrapped()
	if u.Model != nil && u.Model.Kind == model.Enum {
		s, wrong = c.constant(u.Model, text)
		return s, wrong, true
	}
	return clr.Lexical(u, data, text)
}

// wireName is what a constant is called in a document.
func wireName(k *model.Case) string {
	if mark := find(k.Marks, "XmlEnum"); mark != nil {
		if name := mark.Text("value", mark.Text("Name", "")); name != "" {
			return name
		}
	}
	return k.Name
}

// constant is the constant of a name; of flags, all of those that stand in the text.
func (c *compiler) constant(m *model.Model, text string) (decoder.Seen, *clr.Format) {
	of := func(name string) (int64, bool) {
		for _, k := range m.Cases {
			if wireName(k) == name && find(k.Marks, "XmlIgnore") == nil && k.Raw != nil {
				n, err := strconv.ParseInt(k.Raw.Text, 10, 64)
				return n, err == nil
			}
		}
		return 0, false
	}
	wrong := func() *clr.Format {
		name := strings.ReplaceAll(m.Name, "+", ".")
		if m.Marks.Find("Flags") != nil {
			name = "global::" + name
		} else {
			name = model.SimpleName(name)
		}
		return &clr.Format{Reason: decoder.ReasonConstant, Message: "InvalidOperationException: Instance validation error: '" + text + "' is not a valid value for " + name + "."}
	}
	if m.Marks.Find("Flags") == nil {
		n, ok := of(text)
		if !ok {
			return decoder.Seen{}, wrong()
		}
		return clr.Constant(m, n), nil
	}
	total := int64(0)
	for _, name := range strings.Fields(text) {
		n, ok := of(name)
		if !ok {
			return decoder.Seen{}, wrong()
		}
		total |= n
	}
	return clr.Constant(m, total), nil
}

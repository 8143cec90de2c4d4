package sharp

import (
	"slices"

	"vetta/internal/decoder/survey"
	"vetta/internal/wire"
)

// asks is what a value of the document was asked for, nil where nobody wants to know.
func (m *Machine) asks(v *wire.Value) *survey.Asked {
	if m.asked == nil || v == nil {
		return nil
	}
	if m.asked[v] == nil {
		m.asked[v] = &survey.Asked{}
	}
	return m.asked[v]
}

// asksName notes that a value was asked for a member.
func (m *Machine) asksName(v *wire.Value, name string) {
	if a := m.asks(v); a != nil && !slices.Contains(a.Names, name) {
		a.Names = append(a.Names, name)
	}
}

// asksElements notes that a value was asked for what is in it; members says that it is an object's that is meant.
func (m *Machine) asksElements(v *wire.Value, members bool) {
	if a := m.asks(v); a != nil {
		a.Elements, a.Members = a.Elements || !members, a.Members || members
	}
}

// asksKind notes that a value was asked whether it is of a class of tokens.
func (m *Machine) asksKind(v *wire.Value, class string) {
	a := m.asks(v)
	if a == nil {
		return
	}
	switch class {
	case "JArray", "JsonArray":
		a.Elements = true
	case "JObject", "JsonObject":
		a.Object = true
	}
}

// memberIn is the last member of a name of a value, which is noted as asked for.
func (m *Machine) memberIn(v *wire.Value, name string) *wire.Value {
	m.asksName(v, name)
	found := v.At(wire.MemberOf(name))
	m.note(found)
	return found
}

package run

import (
	"fmt"
	"strings"
)

// nullCall is the error of a member of null.
func nullCall(name string, get bool, v Value) error {
	return nullCalled(name, get, v, "")
}

// nullCalled is nullCall of a method with arguments, as they are written.
func nullCalled(name string, get bool, v Value, args string, types ...*Type) error {
	kind, call := "method", calledAs(name, Args{Types: types})+"("+args+")"
	if get {
		kind, call = "getter", name
	}
	if strings.HasSuffix(name, "=") && name != "==" {
		kind = "setter"
	}
	return &Thrown{Class: "NoSuchMethodError", Message: fmt.Sprintf("NoSuchMethodError: The %s '%s' was called on null. Receiver: null Tried calling: %s", kind, name, call), At: v.At}
}

// noMember is the error of a member that a value does not have.
func noMember(m *Machine, v Value, name, kind string, args ...Value) error {
	call := name
	if kind == "method" {
		call += "(" + m.writtenArgs(args) + ")"
	}
	return &Thrown{Class: "NoSuchMethodError", Message: fmt.Sprintf("NoSuchMethodError: Class '%s' has no instance %s '%s'. Receiver: %s Tried calling: %s", m.typeOf(v).spelt(v), kind, name, m.shown(v), call), At: v.At}
}

// writtenArgs are arguments as errors have them.
func (m *Machine) writtenArgs(args []Value) string {
	var parts []string
	for _, a := range args {
		parts = append(parts, m.shown(a))
	}
	return strings.Join(parts, ", ")
}

// shown is a value as errors have it.
func (m *Machine) shown(v Value) string {
	switch v.Kind {
	case String:
		return "\"" + v.S + "\""
	case Lists:
		if l := v.list(); l.Kind == "List" && l.Lazy == nil {
			return fmt.Sprintf("Instance(length:%d) of '_GrowableList'", len(l.Items))
		}
	case Maps:
		return fmt.Sprintf("_Map len:%d", len(v.dict().Keys))
	case Fn:
		c := v.Ref.(*Closure)
		if t := m.signature(c); t.Yields == nil && c.Fn != nil {
			own := *t
			own.Yields = m.yieldOf(c, t.Args)
			return "Closure: " + own.String()
		} else if c.Fn != nil {
			return "Closure: " + t.String()
		}
	}
	text, known, err := m.written(v, codePos{})
	if err != nil || !known {
		return "Instance of '" + m.typeOf(v).String() + "'"
	}
	return text
}

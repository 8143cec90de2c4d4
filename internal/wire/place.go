package wire

import (
	"bytes"
	"strconv"
	"strings"
	"unicode/utf8"

	"vetta/internal/markup"
)

// Step is one step from a value to a value inside it: a member's name, or an
// element of an array where Name is empty and Index is 0 or more. AnyElement
// stands for all elements at once; it occurs in places, never in pointers.
type Step struct {
	Name  string
	Index int // MemberStep for a member
}

// What Step.Index says besides an element's number.
const (
	MemberStep = -1
	AnyElement = -2
	AnyMember  = -3
)

// Member is the step to the member of that name.
func MemberOf(name string) Step { return Step{Name: name, Index: MemberStep} }

// Pointer writes steps as a JSON Pointer (RFC 6901); the root is "". Those into an XML document it writes as Path does.
func Pointer(steps []Step) string {
	if IsMarkup(steps) {
		return xpath(steps)
	}
	var b strings.Builder
	for _, s := range steps {
		b.WriteByte('/')
		if s.Index >= 0 {
			b.WriteString(strconv.Itoa(s.Index))
			continue
		}
		name := strings.ReplaceAll(s.Name, "~", "~0")
		b.WriteString(strings.ReplaceAll(name, "/", "~1"))
	}
	return b.String()
}

// Path writes steps as a JSONPath (RFC 9535): a normalised meaning in the short
// form where a name admits it, $.sailings[3].vessel, and ['…'] where not; into an XML document as XPath 1.0.
func Path(steps []Step) string {
	if IsMarkup(steps) {
		return xpath(steps)
	}
	var b strings.Builder
	b.WriteByte('$')
	for _, s := range steps {
		switch {
		case s.Index == AnyElement || s.Index == AnyMember:
			b.WriteString("[*]")
		case s.Index >= 0:
			b.WriteString("[" + strconv.Itoa(s.Index) + "]")
		case shorthand(s.Name):
			b.WriteString("." + s.Name)
		default:
			b.WriteString("['" + quoteName(s.Name) + "']")
		}
	}
	return b.String()
}

// IsMarkup says whether steps lead into an XML document.
func IsMarkup(steps []Step) bool { return len(steps) > 0 && markup.IsKey(steps[0].Name) }

// xpath writes steps into an XML document as XPath 1.0: of one exact element its position among those of its name. The
// text of an element stands where the element does.
func xpath(steps []Step) string {
	var b strings.Builder
	for _, s := range steps {
		switch {
		case s.Index >= 0:
			b.WriteString("[" + strconv.Itoa(s.Index+1) + "]")
		case s.Index == AnyElement || s.Name == markup.TextKey || s.Name == markup.OrderKey:
		case s.Index == AnyMember:
			b.WriteString("/*")
		default:
			b.WriteString("/" + markup.ShowKey(s.Name))
		}
	}
	return b.String()
}

// shorthand says whether a name may follow a dot: RFC 9535 section 2.5.1.1,
// member-name-shorthand.
func shorthand(name string) bool {
	for i, c := range name {
		letter := c == '_' || c|0x20 >= 'a' && c|0x20 <= 'z' && c < 0x80 || c >= 0x80 && c != utf8.RuneError
		if !letter && (i == 0 || c < '0' || c > '9') {
			return false
		}
	}
	return name != ""
}

func quoteName(name string) string {
	var b strings.Builder
	for _, c := range name {
		switch {
		case c == '\'' || c == '\\':
			b.WriteByte('\\')
			b.WriteRune(c)
		case c < 0x20:
			b.WriteString(`\u00`)
			b.WriteByte("0123456789abcdef"[c>>4])
			b.WriteByte("0123456789abcdef"[c&15])
		default:
			b.WriteRune(c)
		}
	}
	return b.String()
}

// LineColumn answers the line and the column, both from 1, of a byte offset into
// data. Columns count characters, not bytes, as editors do.
func LineColumn(data []byte, offset int) (line, column int) {
	offset = min(offset, len(data))
	line = 1 + bytes.Count(data[:offset], []byte{'\n'})
	start := bytes.LastIndexByte(data[:offset], '\n') + 1
	return line, 1 + utf8.RuneCount(data[start:offset])
}

// Each calls visit for the values at a place of a document, with the steps to each.
func (v *Value) Each(place []Step, visit func(v *Value, steps []Step)) { v.each(place, nil, visit) }

// At is the value that a step leads to from another, nil for none; of members of one name the last one.
func (v *Value) At(s Step) (inner *Value) {
	switch {
	case v == nil:
	case s.Index >= 0 && s.Index < len(v.Elems):
		return v.Elems[s.Index]
	case s.Index == MemberStep:
		for _, m := range v.Members {
			if m.Name == s.Name {
				inner = m.Value
			}
		}
	}
	return inner
}

func (v *Value) each(place, done []Step, visit func(*Value, []Step)) {
	if len(place) == 0 {
		visit(v, done)
		return
	}
	switch step := place[0]; {
	case step.Index == AnyElement && v.Kind == Array:
		for i, e := range v.Elems {
			e.each(place[1:], append(done[:len(done):len(done)], Step{Index: i}), visit)
		}
	case v.Kind == Object:
		for _, m := range v.Members {
			if step.Index == AnyMember || m.Name == step.Name {
				m.Value.each(place[1:], append(done[:len(done):len(done)], MemberOf(m.Name)), visit)
			}
		}
	}
}

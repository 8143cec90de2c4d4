package wire

import (
	"slices"

	"vetta/internal/markup"
)

// Kind is what JSON calls a value (RFC 8259 section 3), with true and false as one.
type Kind uint8

// The kinds of value.
const (
	Null Kind = iota
	Bool
	Number
	String
	Array
	Object
)

var kindNames = [...]string{"null", "bool", "number", "string", "array", "object"}

// String is the word used for the kind in messages.
func (k Kind) String() string { return kindNames[k] }

// Value is a value of a parsed document.
type Value struct {
	Kind       Kind
	Aside      bool     // of a copy: see KeptAside
	Start, End int      // byte offsets in the data that was parsed
	Raw        []byte   // the literal as it was written, for all but arrays and objects
	Elems      []*Value // of an array
	Members    []Member // of an object, in order, duplicates kept
	// Of a document that is XML: Markup is the document, of its root alone, and Element what an object or a null of its
	// JSON text was made of.
	Markup  *markup.Document
	Element *markup.Element
}

// Attach says of the values of the JSON text of an XML document what they were made of.
func (v *Value) Attach(doc *markup.Document) {
	v.Markup = doc
	if len(v.Members) == 1 {
		v.Members[0].Value.attach(doc.Root)
	}
}

func (v *Value) attach(e *markup.Element) {
	v.Element = e
	if v.Kind != Object || len(v.Members) == 0 {
		return
	}
	// Members stand in the order in which their names come first, so the next one is mostly the one that is looked for.
	met := make([]int, len(v.Members))
	var index map[markup.Name]int
	if len(v.Members) > manyMembers {
		index = make(map[markup.Name]int, len(v.Members))
		for i := range v.Members {
			if markup.IsElement(v.Members[i].Name) {
				index[markup.NameOf(v.Members[i].Name)] = i
			}
		}
	}
	at := 0
	for i := range e.Nodes {
		inner := e.Nodes[i].Element
		if inner == nil {
			continue
		}
		if index != nil {
			at = index[inner.Name]
		} else {
			for n := 0; n < len(v.Members) && !inner.Name.HasKey(v.Members[at].Name); n++ {
				at = (at + 1) % len(v.Members)
			}
		}
		if list := v.Members[at].Value; met[at] < len(list.Elems) {
			list.Elems[met[at]].attach(inner)
			met[at]++
		}
	}
}

// manyMembers is how many members are looked through one by one.
const manyMembers = 24

// Member is a name and its value in an object.
type Member struct {
	Name      string
	NameStart int // byte offset of the name's opening quote
	Value     *Value
}

// Behind is what stands behind a literal in the data that was parsed, nothing where the value is
// not part of any: for a library that reads on where a literal has ended.
func (v *Value) Behind() []byte { return v.Raw[len(v.Raw):cap(v.Raw)] }

// True says whether the value is the literal true.
func (v *Value) True() bool { return v.Kind == Bool && v.Raw[0] == 't' }

// KeptAside is a copy of a value and of all in it that says so: for a library that keeps values
// aside before it decodes them, and makes something else of them then.
func (v *Value) KeptAside() *Value {
	out := *v
	out.Aside = true
	out.Elems = slices.Clone(v.Elems)
	for i, e := range v.Elems {
		out.Elems[i] = e.KeptAside()
	}
	out.Members = slices.Clone(v.Members)
	for i, m := range v.Members {
		out.Members[i].Value = m.Value.KeptAside()
	}
	return &out
}

// Text is Unquote of a string value.
func (v *Value) Text() (text string, whole bool) { return Unquote(v.Raw) }

// Parse reads one document from data, which may have white space around it, and
// nothing else behind it. The error is a *SyntaxError or wraps one.
func Parse(data []byte) (*Value, error) {
	v, end, err := ParseNext(data, 0)
	if err != nil {
		return nil, err
	}
	if end = skipSpace(data, end); end < len(data) {
		return nil, &SyntaxError{Offset: end, Reason: describe(data[end:]) + " behind the end of the document"}
	}
	return v, nil
}

// ParseNext reads one document that starts at offset or behind white space there,
// and answers it with the offset behind it.
func ParseNext(data []byte, offset int) (*Value, int, error) {
	return new(Parser).ParseNext(data, offset)
}

// Of is the kind of the value that an event begins.
func (k EventKind) Of() Kind {
	switch k {
	case BeginObject:
		return Object
	case BeginArray:
		return Array
	case FalseValue, TrueValue:
		return Bool
	case NumberValue:
		return Number
	case StringValue, KeyName:
		return String
	}
	return Null
}

// Skip reads one document as ParseNext does, and keeps nothing of it: the answer is the offset behind it.
func Skip(data []byte, offset int) (end int, err error) {
	var r Reader
	r.Reset(data, offset)
	for {
		switch ev, err := r.Next(); {
		case err != nil:
			return r.Offset(), err
		case ev.Kind == EndDocument:
			return ev.End, nil
		}
	}
}

// StepsTo leads from a value to one in it, nil where that is none.
func (v *Value) StepsTo(to *Value) []Step {
	if to == nil || v == to {
		return nil
	}
	for i, e := range v.Elems {
		if e == to {
			return []Step{{Index: i}}
		}
		if path := e.StepsTo(to); path != nil {
			return append([]Step{{Index: i}}, path...)
		}
	}
	for _, m := range v.Members {
		if m.Value == to {
			return []Step{MemberOf(m.Name)}
		}
		if path := m.Value.StepsTo(to); path != nil {
			return append([]Step{MemberOf(m.Name)}, path...)
		}
	}
	return nil
}

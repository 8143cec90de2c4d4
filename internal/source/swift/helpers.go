package swift

import (
	"slices"
	"strings"

	"vetta/internal/code"
	"vetta/internal/code/hand"
	"vetta/internal/model"
	"vetta/internal/source/lower"
	"vetta/internal/source/scan"
)

// helpers are functions of the app that code which reads by hand calls. Their files are read when one of
// them is asked for, as bodies are passed over in which nothing is decoded.
type helpers struct {
	program *code.Program
	asked   map[string]bool
	read    map[*typeDecl]bool
	files   map[string]*scan.File // those that were read, by name
}

// named are the functions of a name.
func (l *linker) named(name string) []*code.Func {
	h := &l.helpers
	if h.program == nil {
		*h = helpers{program: lower.NewProgram("swift"), asked: map[string]bool{}, read: map[*typeDecl]bool{}, files: map[string]*scan.File{}}
	}
	if !h.asked[name] {
		h.asked[name] = true
		for _, top := range l.files {
			if h.read[top] || !strings.Contains(top.file.Src, "func "+name) {
				continue
			}
			h.read[top] = true
			whole := again(top.file)
			h.files[whole.Name] = whole
			l.lower(whole, h.program)
		}
	}
	return h.program.FuncsOf(name)
}

// extended are the names of the types whose extensions a container's methods stand in.
var extended = map[model.Container][]string{
	jsonMap:       {"Dictionary"},
	model.Keyed:   {"KeyedDecodingContainer", "KeyedDecodingContainerProtocol"},
	model.Single:  {"SingleValueDecodingContainer"},
	model.Unkeyed: {"UnkeyedDecodingContainer"},
}

// Called is the only function of the app that a call may be of: of the class around, of what is named before
// it, of an extension of the container that it is called on, or outside of classes.
func (v *vocabulary) Called(f *hand.Follower, e *code.Expr) *hand.Callee {
	receiver, name := hand.Method(e)
	if name == "" || name[0] == '.' {
		return nil
	}
	classes := []string{""}
	self, within := f.Bound("self")
	c := &hand.Callee{}
	switch {
	case receiver == nil && within && self.Part != nil:
		classes, c.Receiver = append(classes, extended[self.Part.Kind]...), &code.Expr{Op: code.Name, Text: "self"}
	case receiver == nil:
		classes = append(classes, v.decl.name)
	case receiver.Op == code.Name && receiver.Text == "Self":
		classes = []string{v.decl.name}
	default:
		if p, ok := v.Part(f, receiver); ok {
			classes, c.Receiver = extended[p.Kind], receiver
		} else if receiver.Op == code.Name && v.link.lookup(receiver.Text, v.decl) != nil {
			classes = []string{receiver.Text}
		} else {
			return nil
		}
	}
	for _, fn := range v.link.named(name) {
		class := ""
		if fn.Class != nil {
			class = fn.Class.Name
		}
		if !slices.Contains(classes, class) || !takes(fn, e) {
			continue
		}
		if c.Func != nil {
			return nil // which of them is not told
		}
		c.Func = fn
	}
	if c.Func == nil {
		return nil
	}
	if c.Func.Class == nil || c.Func.Class.Name == v.decl.name {
		c.Receiver = nil
	}
	whole := v.link.helpers.files[c.Func.File]
	in := &typeDecl{kind: "file", file: whole}
	if c.Func.Class != nil {
		in.name, in.full = c.Func.Class.Name, c.Func.Class.Name
	}
	c.File, c.Words = whole, &vocabulary{link: v.link, decl: in, file: whole}
	return c
}

// takes says whether a function takes what a call gives: each argument is of a parameter, and each parameter
// without a default has one.
func takes(fn *code.Func, e *code.Expr) bool {
	n := 0
	for i := range fn.Params {
		switch {
		case code.Argument(e, fn, i) != nil:
			n++
		case fn.Params[i].Default == nil:
			return false
		}
	}
	return n == len(e.Args)-1
}

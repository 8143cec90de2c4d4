// Package lower reads the code of files in Swift, Kotlin and Java into the tree of package code: what they
// declare, and what bodies of functions do as far as it says what an app asks for. It reads tolerantly:
// what it does not know it passes over.
package lower

import (
	"strings"

	"vetta/internal/code"
	"vetta/internal/model"
	"vetta/internal/source/scan"
)

// Language says how the language of a file is read, and what the names in its types mean.
type Language struct {
	Name string // "swift", "kotlin" or "java"
	// Type reads the type that begins at a token, and answers the token behind it; nil where none does.
	Type func(at int) (t *model.Type, end int)
	// Resolve finds what the names in a type mean in a class, "" for none. Params are the type parameters
	// there, which stay the names that they are.
	Resolve func(t *model.Type, class string, params []string) *model.Type
}

// File adds what a file declares to a program. The file must have been scanned whole.
func File(p *code.Program, f *scan.File, l Language) {
	r := &reader{Cursor: scan.Cursor{F: f}, Language: l, program: p}
	r.members(f.Len(), nil)
}

// Path is the path that the code between two tokens requests before the call at a position decodes, ""
// where none is seen. The file need not be whole. typ reads a type, as that of a Language does; params are those of the
// function, as far as they tell what a name is.
func Path(f *scan.File, language string, typ func(at int) (*model.Type, int), from, to int, call model.Pos, params ...code.Param) string {
	r := &reader{Cursor: scan.Cursor{F: f, I: from}, Language: Language{
		Name: language, Type: typ, Resolve: func(t *model.Type, _ string, _ []string) *model.Type { return t },
	}, program: NewProgram(language)}
	return code.PathIn(words(language), &code.Func{Params: params, Body: r.block(to)}, call)
}

// Body reads the statements between two tokens, which need no file that is whole.
func Body(f *scan.File, l Language, from, to int) []code.Stmt {
	r := &reader{Cursor: scan.Cursor{F: f, I: from}, Language: l, program: NewProgram(l.Name)}
	return r.block(to)
}

// Expression reads the expression that begins at a token, before another one, and answers the token behind it.
func Expression(f *scan.File, l Language, from, to int) (e *code.Expr, end int) {
	r := &reader{Cursor: scan.Cursor{F: f, I: from}, Language: l, program: NewProgram(l.Name)}
	e = r.expr(to)
	return e, r.I
}

// maxDepth is how deep code may lie in other code: what is deeper nobody has written.
const maxDepth = 200

// reader walks the tokens of one file.
type reader struct {
	scan.Cursor
	Language
	program  *code.Program
	class    *code.Class // around the cursor, nil for none
	path     string      // the name of that class with those around it
	generics []string    // type parameters in scope
	depth    int
	// conditional says that an expression stands behind if, guard, while or switch, where a brace begins
	// the statement's block and no closure.
	conditional bool
}

func (r *reader) swift() bool  { return r.Name == "swift" }
func (r *reader) kotlin() bool { return r.Name == "kotlin" }
func (r *reader) java() bool   { return r.Name == "java" }

// typ reads a type. One of a function has the types of its parameters as arguments.
func (r *reader) typ() *model.Type {
	start := r.I
	for r.swift() && r.Is("@") || r.Is("suspend") || r.Is("inout") {
		if r.Accept("@") && r.KindAhead(1) == scan.Punct && r.Ahead(1, "(") && r.Is("convention") {
			r.Advance()
			r.Jump()
			continue
		}
		r.Advance()
	}
	if r.Is("(") && !r.java() {
		if shut := r.Shut(); r.arrowAt(shut + 1) {
			return r.functionType(shut)
		}
	}
	r.I = start
	t, end := r.Type(r.I)
	if t == nil {
		return nil
	}
	r.I = end
	if found := r.Resolve(t, r.path, r.generics); found.Kind != model.Opaque || t.Kind != model.Named || r.program.Aliases[t.Name].Type == nil {
		return found
	}
	named := *t // of a function's type, which the program has
	named.Args = nil
	for _, a := range t.Args {
		named.Args = append(named.Args, r.Resolve(a, r.path, r.generics))
	}
	return &named
}

// arrowAt says whether a function type goes on at a token: -> or async throws ->.
func (r *reader) arrowAt(i int) bool {
	for r.F.Is(i, "async") || r.F.Is(i, "throws") {
		i++
	}
	return r.F.Is(i, "-") && r.F.Is(i+1, ">")
}

// functionType reads the type of a function from the bracket of its parameters on.
func (r *reader) functionType(shut int) *model.Type {
	var takes []*model.Type
	r.Advance()
	for r.I < shut {
		if r.KindAhead(1) == scan.Punct && r.Ahead(1, ":") { // a name
			r.I += 2
		} else if r.KindAhead(1) == scan.Ident && r.Ahead(2, ":") {
			r.I += 3
		}
		a := r.typ()
		if a == nil {
			break
		}
		takes = append(takes, a)
		r.to(shut, ",")
		r.Accept(",")
	}
	r.I = shut + 1
	for !r.Is("-") && r.Kind() != scan.EOF {
		r.Advance()
	}
	r.I += 2
	return code.FunctionType(takes, r.typ())
}

// to goes on to one of some characters outside of brackets, or to end.
func (r *reader) to(end int, texts ...string) {
	for ; r.I < end; r.Jump() {
		for _, text := range texts {
			if r.Is(text) {
				return
			}
		}
	}
}

// template is the text of a string token, with {} for each value that is put into it, and those values
// where they are names.
func (r *reader) template() *code.Expr {
	t := r.Tok()
	e := &code.Expr{Op: code.Text, Text: t.Text, Pos: r.Where()}
	r.Advance()
	if t.Plain || r.java() {
		return e
	}
	raw := strings.Trim(r.F.Src[t.Start:t.End], `"#`)
	var text strings.Builder
	for raw != "" {
		open, shut, at := `\(`, ")", 0
		if r.kotlin() {
			open, shut = "${", "}"
		}
		if at = strings.Index(raw, open[:1]); at < 0 {
			break
		}
		text.WriteString(raw[:at])
		raw = raw[at:]
		inner := ""
		switch {
		case strings.HasPrefix(raw, open):
			end := balanced(raw, open[1], shut[0])
			inner = raw[2:max(2, end-1)]
			raw = raw[end:]
		case r.kotlin() && len(raw) > 1 && wordLength(raw[1:]) > 0:
			n := 1 + wordLength(raw[1:])
			inner, raw = raw[1:n], raw[n:]
		default:
			text.WriteString(raw[:min(2, len(raw))])
			raw = raw[min(2, len(raw)):]
			continue
		}
		text.WriteString("{}")
		arg := &code.Expr{Op: code.Other}
		if inner = strings.TrimPrefix(strings.TrimPrefix(inner, "self."), "this."); wordLength(inner) == len(inner) && inner != "" {
			arg = &code.Expr{Op: code.Name, Text: inner}
		} else if object, name, ok := strings.Cut(inner, "."); ok && object != "" && name != "" && wordLength(object) == len(object) && wordLength(name) == len(name) {
			arg = &code.Expr{Op: code.Member, Text: name, Args: []*code.Expr{{Op: code.Name, Text: object}}}
		}
		e.Args = append(e.Args, arg)
	}
	text.WriteString(raw)
	e.Text = text.String()
	return e
}

// balanced is the length of text up to and with the bracket that closes its first one.
func balanced(text string, open, shut byte) int {
	depth := 0
	for i := range len(text) {
		switch text[i] {
		case open:
			depth++
		case shut:
			if depth--; depth == 0 {
				return i + 1
			}
		}
	}
	return len(text)
}

func wordLength(text string) int {
	for i := range len(text) {
		if c := text[i]; c != '_' && (c < '0' || c > '9') && (c|0x20 < 'a' || c|0x20 > 'z') {
			return i
		}
	}
	return len(text)
}

package swift

import (
	"strings"

	"vetta/internal/code"
	"vetta/internal/code/hand"
	"vetta/internal/model"
	"vetta/internal/source/lower"
	"vetta/internal/source/scan"
)

// vocabulary is what the code of a declaration means by Foundation and the standard library.
type vocabulary struct {
	link    *linker
	decl    *typeDecl
	file    *scan.File
	decoder string // the parameter that is the decoder, "" for none
}

func (l *linker) newFollower(d *typeDecl, fields map[string]*model.Field, decoder string) *hand.Follower {
	return &hand.Follower{Words: &vocabulary{link: l, decl: d, file: d.file, decoder: decoder}, File: d.file, Fields: fields}
}

// language is how the code in a declaration is read.
func (l *linker) language(d *typeDecl) lower.Language {
	return lower.Language{
		Name: "swift",
		Type: func(at int) (*model.Type, int) {
			q := parserAt(d.file, at)
			return q.parseType(), q.I
		},
		Resolve: func(t *model.Type, _ string, _ []string) *model.Type { return l.resolve(t, d) },
	}
}

// follow reads the init(from:) of a declaration. The error is a *hand.Lost.
func (l *linker) follow(d *typeDecl, fn *function, fields map[string]*model.Field) ([]model.Step, error) {
	sig := parserAt(d.file, fn.signature[0])
	if !sig.Accept("from") || sig.Kind() != scan.Ident {
		return nil, &hand.Lost{Why: "an initialiser whose parameter has no name", Pos: d.file.Where(fn.signature[0])}
	}
	if fn.body[1] == 0 {
		return nil, &hand.Lost{Why: "an initialiser without a body", Pos: d.file.Where(fn.signature[0])}
	}
	return l.newFollower(d, fields, sig.Text()).Follow(lower.Body(d.file, l.language(d), fn.body[0], fn.body[1]))
}

// Self is the word for the instance.
func (v *vocabulary) Self() string { return "self" }

// Missing is what the runtime says where nil is forced.
func (v *vocabulary) Missing() string {
	return "Fatal error: Unexpectedly found nil while unwrapping an Optional value"
}

// Constant reads literals as the initialisers of properties are read.
func (v *vocabulary) Constant(_ *hand.Follower, e *code.Expr) *model.Literal {
	switch e.Op {
	case code.Number, code.Text, code.List, code.Dict:
	case code.Name:
		if e.Text != "true" && e.Text != "false" && e.Text != "nil" {
			return nil
		}
	case code.Call: // [Int]()
		if callee := e.Args[0].Op; len(e.Args) != 1 || callee != code.List && callee != code.Dict {
			return nil
		}
	default:
		return nil
	}
	if l := v.literal(e); l.Kind != model.OtherLiteral {
		return l
	}
	return nil
}

func (v *vocabulary) literal(e *code.Expr) *model.Literal {
	return parserAt(v.file, v.file.Index(e.From)).literal(v.file.Index(e.To))
}

// Typed gives a constant the type that it has by itself, or is declared to have.
func (v *vocabulary) Typed(constant *model.Expr, declared *model.Type) {
	switch {
	case declared != nil:
		constant.Type = declared
	case constant.Type == nil:
		constant.Type = literalType(constant.Value)
	}
}

// Do follows calls that stand alone.
func (v *vocabulary) Do(f *hand.Follower, e *code.Expr) (steps []model.Step, known bool, lost error) {
	receiver, name := hand.Method(e)
	ofName := func(text string) bool { return receiver != nil && receiver.Op == code.Name && receiver.Text == text }
	switch {
	case name == "init" && ofName("super"):
		if hand.Label(e, "from") == nil {
			return nil, true, nil
		}
		return []model.Step{f.Step(e.From, "", &model.Expr{Op: model.OpSuper})}, true, nil
	case name == "init" && ofName("self"):
		if made := v.selfInit(f, e); made != nil {
			return []model.Step{f.Step(e.From, model.SelfField, made), {Return: true}}, true, nil
		}
		return nil, true, &hand.Lost{Why: "a call of self.init", Pos: v.file.At(e.From)}
	case name == "print" || name == "assert" || name == "debugPrint" || name == "NSLog" || name == "assertionFailure":
		return nil, true, nil
	}
	return nil, false, nil
}

// Added is what a call of append adds to which list.
func (v *vocabulary) Added(e *code.Expr) (list, element *code.Expr) {
	if receiver, name := hand.Method(e); name == "append" && receiver != nil && len(e.Args) == 2 && e.Labels[0] == "" {
		return receiver, e.Args[1]
	}
	return nil, nil
}

// KeyText is the key of which key.stringValue is the text.
func (v *vocabulary) KeyText(e *code.Expr) string {
	if e.Op == code.Member && e.Text == "stringValue" && len(e.Args) == 1 && e.Args[0].Op == code.Name {
		return e.Args[0].Text
	}
	return ""
}

// Thrown names the error of a throw statement as a log would show it.
func (v *vocabulary) Thrown(f *hand.Follower, e *code.Expr) string {
	text := f.Text(e)
	description := ""
	for i := v.file.Index(e.From); i < v.file.Index(e.To); i++ {
		if t := v.file.TokenAt(i); t.Kind == scan.String {
			description = t.Text
		}
	}
	for _, kind := range []string{"dataCorrupted", "typeMismatch", "valueNotFound", "keyNotFound"} {
		if strings.HasPrefix(text, "DecodingError."+kind) {
			if _, name := hand.Method(e); strings.HasPrefix(name, "typeMismatch") || strings.HasPrefix(name, "valueNotFound") {
				if len(e.Args) > 1 && e.Args[1].Op == code.TypeOf {
					return kind + ": " + e.Args[1].Text + ": " + description
				}
			}
			return kind + ": " + description
		}
	}
	return text
}

// Value follows what the follower knows nothing of: members, casts, calls.
func (v *vocabulary) Value(f *hand.Follower, e *code.Expr) *model.Expr {
	switch e.Op {
	case code.Member:
		return v.member(f, e)
	case code.As:
		return v.cast(f, e)
	case code.Index:
		if path, ok := v.mapPath(f, e); ok {
			return hand.Wrap(path, &model.Expr{Op: model.OpCast, Type: &model.Type{Name: "Any"}, Declared: "Any"})
		}
	case code.Call:
		return v.call(f, e)
	}
	return nil
}

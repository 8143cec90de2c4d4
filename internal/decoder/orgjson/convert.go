package orgjson

import (
	"fmt"
	"strings"

	"vetta/internal/decoder"
	"vetta/internal/decoder/jvm"
	"vetta/internal/model"
	"vetta/internal/wire"
)

// converted is the node for what code makes of a value that it reads: it is made where the
// value is read, so that what cannot be made is told of the value.
func (c *compiler) converted(e *model.Expr, where string) *decoder.Node {
	make := conversion(e)
	n := c.expr(e.Args[0], where, nil)
	if make == nil {
		return unknown("a call of " + e.Func)
	}
	var at *decoder.Node
	leaf := n
	for leaf != nil && (leaf.Op == decoder.OpAt || leaf.Op == decoder.OpKeyed || leaf.Op == decoder.OpDo) {
		if leaf.Op == decoder.OpAt {
			at = leaf
		}
		leaf = leaf.Inner
	}
	if leaf == nil || leaf.Op != decoder.OpLeaf || at == nil && e.Args[0].Op != model.OpSelf {
		return unknown("what is made of a value that is not followed")
	}
	leaf.Read = making(leaf.Read, make)
	if at != nil && at.Missing == nil { // what an opt method gives then
		seen, err := make(at.Value)
		if at.Value = seen; err != nil {
			missing := *err
			missing.Reason, missing.Key = decoder.ReasonMissing, at.Name
			at.Missing, at.AbsentLoss = &missing, decoder.NoLoss
		}
	}
	return n
}

// making reads a value and makes another of it.
func making(read func(*wire.Value) decoder.Verdict, make func(decoder.Seen) (decoder.Seen, *decoder.Error)) func(*wire.Value) decoder.Verdict {
	return func(v *wire.Value) decoder.Verdict {
		verdict := read(v)
		if verdict.Err != nil || verdict.Seen.Kind == decoder.SeenUnknown {
			return verdict
		}
		seen, err := make(verdict.Seen)
		if err != nil {
			return decoder.Verdict{Err: err}
		}
		verdict.Seen = seen
		return verdict
	}
}

// makes says whether an expression makes a value of another one.
func makes(e *model.Expr) bool { return len(e.Args) == 1 && conversion(e) != nil }

// computed is the node for what code computes of several values: it is not told what that is,
// but each of them is read; or for the last of them, behind the others.
func (c *compiler) computed(e *model.Expr, where string, f *model.Field) *decoder.Node {
	n := &decoder.Node{Op: decoder.OpCall, Name: e.Func, Call: func(args []decoder.Seen, _ func(decoder.Seen) decoder.Seen) decoder.Seen {
		if e.Func == model.After {
			return args[len(args)-1]
		}
		return decoder.Seen{Kind: decoder.SeenUnknown}
	}}
	for i, a := range e.Args {
		of := f
		if e.Func != model.After || i < len(e.Args)-1 {
			of = nil
		}
		arg := c.expr(a, where, of)
		if arg.Op == decoder.OpUnknown {
			return arg
		}
		n.Args = append(n.Args, arg)
	}
	return n
}

// conversion is the function for what an expression makes of a text, nil where it is not known.
func conversion(e *model.Expr) func(decoder.Seen) (decoder.Seen, *decoder.Error) {
	text := func(of func(string) string) func(decoder.Seen) (decoder.Seen, *decoder.Error) {
		return func(s decoder.Seen) (decoder.Seen, *decoder.Error) {
			if s.Kind != decoder.SeenString {
				return decoder.Seen{Kind: decoder.SeenUnknown}, nil
			}
			s.Text = of(s.Text)
			return s, nil
		}
	}
	switch e.Func {
	case "trim":
		return text(jvm.Trim)
	case "lower":
		return text(strings.ToLower)
	case "upper":
		return text(strings.ToUpper)
	case "constant":
		return constant(e.Type.Model)
	case model.Computed:
		return func(decoder.Seen) (decoder.Seen, *decoder.Error) { return decoder.Seen{Kind: decoder.SeenUnknown}, nil }
	}
	kind, orNull := strings.CutSuffix(e.Func, "?")
	if kind != "int" && kind != "long" && kind != "double" {
		return nil
	}
	return func(s decoder.Seen) (decoder.Seen, *decoder.Error) {
		if s.Kind != decoder.SeenString {
			return decoder.Seen{Kind: decoder.SeenUnknown}, nil
		}
		if n, ok := parsedNumber(s.Text, kind); ok {
			return n, nil
		}
		if orNull {
			return decoder.Seen{}, nil
		}
		detail := fmt.Sprintf("For input string: %q", s.Text)
		if kind == "double" && jvm.Trim(s.Text) == "" {
			detail = "empty String"
		}
		return decoder.Seen{}, &decoder.Error{Kind: "NumberFormatException", Reason: decoder.ReasonText, Message: "NumberFormatException: " + detail}
	}
}

// parsedNumber is the number that a text says.
func parsedNumber(text, kind string) (decoder.Seen, bool) {
	if kind == "double" {
		f, ok := jvm.ParseDouble(text)
		return decoder.Seen{Kind: decoder.SeenFloat, Text: jvm.FloatText(f, 64)}, ok
	}
	bits := 32
	if kind == "long" {
		bits = 64
	}
	n, ok := jvm.ParseWhole(text, bits)
	return decoder.Seen{Kind: decoder.SeenInt, Text: fmt.Sprint(n)}, ok
}

// constant is valueOf of an enum.
func constant(m *model.Model) func(decoder.Seen) (decoder.Seen, *decoder.Error) {
	return func(s decoder.Seen) (decoder.Seen, *decoder.Error) {
		if s.Kind != decoder.SeenString {
			return decoder.Seen{Kind: decoder.SeenUnknown}, nil
		}
		for _, k := range m.Cases {
			if k.Name == s.Text {
				return decoder.Seen{Kind: decoder.SeenEnum, Text: k.Name, Type: m.Name}, nil
			}
		}
		name := strings.ReplaceAll(jvm.ClassName(m), "$", ".")
		return decoder.Seen{}, &decoder.Error{Kind: "IllegalArgumentException", Reason: decoder.ReasonConstant, Message: "IllegalArgumentException: No enum constant " + name + "." + s.Text}
	}
}

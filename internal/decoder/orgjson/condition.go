package orgjson

import (
	"strings"

	"vetta/internal/decoder"
	"vetta/internal/decoder/jvm"
	"vetta/internal/model"
	"vetta/internal/wire"
)

// compares says how two numbers compare, as the sign has it; no where one of them is no
// number.
func compares(sign string, a, b decoder.Seen) bool {
	isNumber := func(s decoder.Seen) bool { return s.Kind == decoder.SeenInt || s.Kind == decoder.SeenFloat }
	x, _ := jvm.ParseDouble(a.Text)
	y, _ := jvm.ParseDouble(b.Text)
	if !isNumber(a) || !isNumber(b) {
		return false
	}
	return sign[0] == '<' && x < y || sign[0] == '>' && x > y || len(sign) == 2 && x == y
}

// operand is the node for one side of a comparison: a literal is of its own type there.
func (c *compiler) operand(e *model.Expr) *decoder.Node {
	if e.Op == model.OpSelf {
		return c.expr(e, decoder.IndexMark, nil)
	}
	if e.Op != model.OpConst || e.Value == nil {
		return c.expr(e, "the document", nil)
	}
	own := map[model.LiteralKind]string{model.StringLiteral: "String", model.IntLiteral: "long", model.FloatLiteral: "double", model.BoolLiteral: "boolean"}[e.Value.Kind]
	return &decoder.Node{Op: decoder.OpConst, Value: jvm.Constant(e.Value, &model.Type{Kind: model.Named, Name: own})}
}

// condition is the node for a condition.
func (c *compiler) condition(e *model.Expr) *decoder.Node {
	truth := func(name string, call func(args []decoder.Seen) bool, args ...*decoder.Node) *decoder.Node {
		return &decoder.Node{Op: decoder.OpCall, Name: name, Args: args, Call: func(args []decoder.Seen, _ func(decoder.Seen) decoder.Seen) decoder.Seen {
			return decoder.Bool(call(args))
		}}
	}
	given := func(key string) *decoder.Node { // whether there is a value that is not null
		at := &decoder.Node{Op: decoder.OpAt, Name: key, NullNil: true, Last: true, Inner: &decoder.Node{Op: decoder.OpLeaf, Read: func(*wire.Value) decoder.Verdict { return decoder.Verdict{Seen: decoder.Bool(true)} }}}
		return truth("!= nil", func(args []decoder.Seen) bool { return args[0].Kind != decoder.SeenNull }, at)
	}
	switch e.Op {
	case model.OpConst:
		return c.operand(e)
	case model.OpHas:
		return &decoder.Node{Op: decoder.OpHas, Name: e.Key}
	case model.OpGiven:
		kind, want := wire.Object, "JSONObject"
		if e.Func == "array" {
			kind, want = wire.Array, "JSONArray"
		}
		yes := &decoder.Node{Op: decoder.OpLeaf, Read: func(v *wire.Value) decoder.Verdict {
			if v.Kind != kind {
				return decoder.Verdict{Err: mismatch(e.Key, want, v)}
			}
			return decoder.Verdict{Seen: decoder.Bool(true)}
		}}
		at := &decoder.Node{Op: decoder.OpAt, Name: e.Key, NullNil: true, Last: true, Inner: &decoder.Node{Op: decoder.OpTry, Inner: yes}}
		return truth("!= nil", func(args []decoder.Seen) bool { return args[0].Kind != decoder.SeenNull }, at)
	case model.OpIsNull:
		return truth("!", func(args []decoder.Seen) bool { return args[0].Text != "true" }, given(e.Key))
	case model.OpCall:
		switch e.Func {
		case "==":
			return truth("==", func(args []decoder.Seen) bool {
				return args[0].Kind == args[1].Kind && args[0].Text == args[1].Text || compares("==", args[0], args[1])
			}, c.operand(e.Args[0]), c.operand(e.Args[1]))
		case "empty", "blank":
			return truth(e.Func, func(args []decoder.Seen) bool {
				text := args[0].Text
				if e.Func == "blank" {
					text = strings.TrimSpace(text)
				}
				return text == "" || args[0].Kind == decoder.SeenNull
			}, c.operand(e.Args[0]))
		case "<", ">", "<=", ">=":
			return truth(e.Func, func(args []decoder.Seen) bool { return compares(e.Func, args[0], args[1]) }, c.operand(e.Args[0]), c.operand(e.Args[1]))
		case "!":
			if e.Args[0].Op == model.OpIsNull {
				return given(e.Args[0].Key)
			}
			return truth("!", func(args []decoder.Seen) bool { return args[0].Text != "true" }, c.condition(e.Args[0]))
		case "&&":
			return truth("&&", func(args []decoder.Seen) bool { return args[0].Text == "true" && args[1].Text == "true" }, c.condition(e.Args[0]), c.condition(e.Args[1]))
		case "||":
			return truth("||", func(args []decoder.Seen) bool { return args[0].Text == "true" || args[1].Text == "true" }, c.condition(e.Args[0]), c.condition(e.Args[1]))
		}
	case model.OpAt:
		if n := c.access(e, nil); n.Op != decoder.OpUnknown {
			return n
		}
	case model.OpSelf:
		if leaf := e.Args[0]; e.Func == "element" && leaf.Op == model.OpGiven {
			is := &decoder.Node{Op: decoder.OpLeaf, Read: func(v *wire.Value) decoder.Verdict {
				if want, ok := map[string]wire.Kind{"object": wire.Object, "array": wire.Array}[leaf.Func]; ok && v.Kind != want || v.Kind == wire.Null {
					return decoder.Verdict{Err: mismatch(decoder.IndexMark, leaf.Func, v)}
				}
				return decoder.Verdict{Seen: decoder.Bool(true)}
			}}
			return truth("!= nil", func(args []decoder.Seen) bool { return args[0].Kind != decoder.SeenNull }, &decoder.Node{Op: decoder.OpTry, Inner: is})
		}
		if n, _, _ := c.reading(e, decoder.IndexMark, nil); n.Op != decoder.OpUnknown {
			return n
		}
	}
	return unknown("a condition that is not followed")
}

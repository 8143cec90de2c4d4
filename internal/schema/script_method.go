package schema

import (
	"regexp"
	"slices"
	"strings"

	"vetta/internal/code"
)

// method runs a method of a text, a list or a date.
func (c *script) method(callee, e *code.Expr) Value {
	if on := callee.Args[0]; on.Op == code.Other && on.Text == "RegExp" && callee.Text == "test" && len(e.Args) == 2 {
		re, ok := Regexp(on)
		if !ok {
			return c.lost()
		}
		return Value{Kind: Bool, Bool: re.MatchString(TextOf(c.expr(e.Args[1])))}
	}
	of := c.expr(callee.Args[0])
	if of.Kind <= Null {
		return Value{}
	}
	arg := func(i int) Value {
		if i+1 < len(e.Args) {
			return c.expr(e.Args[i+1])
		}
		return Value{}
	}
	switch of.Kind {
	case String:
		switch callee.Text {
		case "trim":
			return Text(strings.TrimSpace(of.Text))
		case "toLowerCase":
			return Text(strings.ToLower(of.Text))
		case "toUpperCase":
			return Text(strings.ToUpper(of.Text))
		case "toString":
			return of
		case "split":
			out := Value{Kind: Array, Elems: []Value{}}
			by := arg(0)
			if by.Kind != String {
				return c.lost()
			}
			for _, part := range strings.Split(of.Text, by.Text) {
				out.Elems = append(out.Elems, Text(part))
			}
			return out
		case "startsWith":
			return Value{Kind: Bool, Bool: strings.HasPrefix(of.Text, TextOf(arg(0)))}
		case "endsWith":
			return Value{Kind: Bool, Bool: strings.HasSuffix(of.Text, TextOf(arg(0)))}
		case "includes":
			return Value{Kind: Bool, Bool: strings.Contains(of.Text, TextOf(arg(0)))}
		}
	case Array:
		switch callee.Text {
		case "includes":
			v := arg(0)
			return Value{Kind: Bool, Bool: slices.ContainsFunc(of.Elems, func(e Value) bool { return Same(e, v) })}
		case "join":
			sep := ","
			if len(e.Args) > 1 {
				sep = TextOf(arg(0))
			}
			all := make([]string, len(of.Elems))
			for i, e := range of.Elems {
				if e.Kind > Null {
					all[i] = TextOf(e)
				}
			}
			return Text(strings.Join(all, sep))
		case "map", "filter", "every", "some":
			return c.each(callee.Text, of, e)
		case "slice":
			if len(e.Args) == 1 {
				return of
			}
		}
	case Number:
		if callee.Text == "toString" && len(e.Args) == 1 {
			return Text(NumberText(of.Number))
		}
	case Date:
		switch callee.Text {
		case "getTime", "valueOf":
			return Num(of.Number)
		}
	}
	return c.lost()
}

func (c *script) each(name string, of Value, e *code.Expr) Value {
	if len(e.Args) != 2 {
		return c.lost()
	}
	fn := e.Args[1]
	out := Value{Kind: Array, Elems: []Value{}}
	for i, elem := range of.Elems {
		inner := &script{w: c.w, s: c.s, vars: c.vars, ok: true, budget: c.budget}
		var v Value
		switch {
		case fn.Op == code.Lambda && len(fn.Labels) >= 1 && fn.Labels[0] != "":
			inner.vars = inner.vars.With(fn.Labels[0], elem)
			if len(fn.Labels) > 1 {
				inner.vars = inner.vars.With(fn.Labels[1], Num(float64(i)))
			}
			v, _ = inner.body(fn.Body)
		case fn.Op == code.Name:
			v, inner.ok = call(c.w, c.s, fn, c.budget, []Value{elem})
		default:
			return c.lost()
		}
		if !inner.ok {
			return c.lost()
		}
		switch name {
		case "map":
			out.Elems = append(out.Elems, v)
		case "filter":
			if Truthy(v) {
				out.Elems = append(out.Elems, elem)
			}
		case "every":
			if !Truthy(v) {
				return Value{Kind: Bool}
			}
		case "some":
			if Truthy(v) {
				return Value{Kind: Bool, Bool: true}
			}
		}
	}
	if name == "every" || name == "some" {
		return Value{Kind: Bool, Bool: name == "every"}
	}
	return out
}

// Regexp is the pattern that an expression is, as far as Go reads it alike.
func Regexp(e *code.Expr) (*regexp.Regexp, bool) {
	if e == nil || e.Op != code.Other || len(e.Labels) != 1 {
		return nil, false
	}
	body, flags := e.Labels[0], ""
	end := strings.LastIndexByte(body, '/')
	if end < 1 {
		return nil, false
	}
	body, flags = body[1:end], body[end+1:]
	if strings.Contains(flags, "i") {
		body = "(?i)" + body
	}
	re, err := regexp.Compile(body)
	return re, err == nil
}

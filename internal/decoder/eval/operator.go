package eval

import (
	"math"

	"vetta/internal/code"
	"vetta/internal/decoder"
	"vetta/internal/model"
)

func (m *machine) plus(x *code.Expr, in *frame, e *env) (Value, error) {
	a, err := m.expr(x.Args[0], in, e)
	if err != nil {
		return a, err
	}
	b, err := m.expr(x.Args[1], in, e)
	if err != nil {
		return b, err
	}
	_, isText := a.text()
	if _, other := b.text(); isText || other {
		left, ok := m.written(a)
		right, ok2 := m.written(b)
		if ok && ok2 {
			return Text(left + right), nil
		}
	}
	if a.Items != nil && a.Names == nil {
		items := append([]Value{}, *a.Items...)
		if b.Items != nil {
			items = append(items, *b.Items...)
		} else {
			items = append(items, b)
		}
		return Value{Items: &items, Set: a.Set}, nil
	}
	return arithmetic("+", a, b, x)
}

// arithmetic is a sum, a difference, a product or a quotient. What leaves 32 bits may be cut or not, by the types of
// both, which are not known.
func arithmetic(op string, a, b Value, x *code.Expr) (Value, error) {
	n, isWhole := a.whole()
	k, isWhole2 := b.whole()
	if isWhole && isWhole2 {
		f := float64(n)
		r := int64(0)
		switch op {
		case "+":
			r, f = n+k, f+float64(k)
		case "-":
			r, f = n-k, f-float64(k)
		case "*":
			r, f = n*k, f*float64(k)
		case "/", "%":
			if k == 0 {
				return Value{}, &Thrown{Class: "ArithmeticException", Message: "/ by zero"}
			}
			if r = n / k; op == "%" {
				r = n % k
			}
			f = float64(r)
		default:
			return Value{}, unfollowed("the operator "+op, x.Pos)
		}
		if math.Abs(f) > 1<<62 {
			return Value{}, unfollowed("a number beyond 64 bits", x.Pos)
		}
		return Int(r), nil
	}
	f, ok := a.number()
	g, ok2 := b.number()
	if !ok || !ok2 {
		return Value{}, unfollowed("the operator "+op, x.Pos)
	}
	switch op {
	case "+":
		return double(f + g), nil
	case "-":
		return double(f - g), nil
	case "*":
		return double(f * g), nil
	case "/":
		return double(f / g), nil
	}
	return Value{}, unfollowed("the operator "+op, x.Pos)
}

func (m *machine) binary(x *code.Expr, in *frame, e *env) (Value, error) {
	if x.Text == "&&" || x.Text == "||" {
		yes, err := m.truth(x.Args[0], in, e)
		if err != nil || yes == (x.Text == "||") {
			return Bool(yes), err
		}
		yes, err = m.truth(x.Args[1], in, e)
		return Bool(yes), err
	}
	a, err := m.expr(x.Args[0], in, e)
	if err != nil {
		return a, err
	}
	if bounds := x.Args[1]; x.Text == "in" && bounds != nil && bounds.Op == code.Binary && len(bounds.Args) == 2 && (bounds.Text == ".." || bounds.Text == "until" || bounds.Text == "..<") {
		return m.within(a, bounds, in, e)
	}
	b, err := m.expr(x.Args[1], in, e)
	if err != nil {
		return b, err
	}
	switch x.Text {
	case "..", "until", "..<":
		from, ok := a.whole()
		to, ok2 := b.whole()
		if x.Text == ".." {
			to++
		}
		if !ok || !ok2 || to-from > maxItems {
			break
		}
		items := []Value{}
		for n := from; n < to; n++ {
			items = append(items, Int(n))
		}
		return Value{Items: &items}, nil
	case "==", "===", "!=", "!==":
		same, err := m.equal(a, b)
		return Bool(same == (x.Text[0] == '=')), err
	case "<", ">", "<=", ">=":
		f, ok := a.number()
		g, ok2 := b.number()
		if !ok || !ok2 {
			break
		}
		return Bool(map[string]bool{"<": f < g, ">": f > g, "<=": f <= g, ">=": f >= g}[x.Text]), nil
	case "to":
		return Value{Items: &[]Value{a, b}, Names: []string{"first", "second"}}, nil
	case "in", "!in":
		if items, ok := m.items(b); ok {
			found := false
			for _, item := range items {
				same, err := m.equal(a, item)
				if err != nil {
					return Value{}, err
				}
				found = found || same
			}
			return Bool(found == (x.Text == "in")), nil
		}
	case "-", "*", "/", "%":
		return arithmetic(x.Text, a, b, x)
	}
	return Value{}, unfollowed("the operator "+x.Text, x.Pos)
}

// within says whether a number is between the bounds of a range.
func (m *machine) within(v Value, bounds *code.Expr, in *frame, e *env) (Value, error) {
	low, err := m.expr(bounds.Args[0], in, e)
	if err != nil {
		return low, err
	}
	high, err := m.expr(bounds.Args[1], in, e)
	if err != nil {
		return high, err
	}
	f, ok := v.number()
	from, ok2 := low.number()
	to, ok3 := high.number()
	if !ok || !ok2 || !ok3 {
		return Value{}, unfollowed("a range", bounds.Pos)
	}
	return Bool(f >= from && (f < to || f == to && bounds.Text == "..")), nil
}

// equal is ==.
func (m *machine) equal(a, b Value) (bool, error) {
	if a.IsNull() || b.IsNull() {
		return a.IsNull() == b.IsNull(), nil
	}
	if h, ok := a.Host.(interface{ Equal(Value) (bool, bool) }); ok {
		if same, known := h.Equal(b); known {
			return same, nil
		}
	}
	if h, ok := b.Host.(interface{ Equal(Value) (bool, bool) }); ok {
		if same, known := h.Equal(a); known {
			return same, nil
		}
	}
	if a.obj != nil && b.obj != nil {
		return a.obj == b.obj, nil
	}
	f, isNumber := a.number()
	g, isNumber2 := b.number()
	switch {
	case isNumber && isNumber2:
		return f == g, nil
	case a.Host != nil || b.Host != nil || a.fn != nil || b.fn != nil || a.obj != nil || b.obj != nil:
		return false, unfollowed("a comparison", model.Pos{})
	case a.Seen.Kind == decoder.SeenUnknown || b.Seen.Kind == decoder.SeenUnknown:
		return false, unfollowed("a comparison", model.Pos{})
	}
	s, ok := a.Result()
	t, ok2 := b.Result()
	if !ok || !ok2 {
		return false, unfollowed("a comparison", model.Pos{})
	}
	return s.Kind == t.Kind && s.String() == t.String(), nil
}

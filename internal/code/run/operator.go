package run

import (
	"fmt"
	"math"
	"strings"

	"vetta/internal/code"
)

// operated is a binary operator with its operands.
func (m *Machine) operated(x *code.Expr, f *frame, e *env, ctx *Type) (Value, error) {
	if len(x.Args) != 2 {
		return Value{}, unfollowed("an operator", x.Pos)
	}
	op := x.Text
	if op == "" {
		op = "+"
	}
	var want *Type
	if ctx.is("double") && strings.Contains("+-*/%", op) {
		want = nil
	}
	left, err := m.expr(x.Args[0], f, e, want)
	if err != nil {
		return left, err
	}
	if op == "&&" || op == "||" {
		return m.joined(op, left, x, f, e)
	}
	var rightWant *Type
	if left.Static.is("double") && strings.Contains("+-*/%", op) {
		rightWant = doubleType // 2 in d * 2 is a double
	}
	right, err := m.expr(x.Args[1], f, e, rightWant)
	if err != nil {
		return right, err
	}
	v, err := m.operator(op, left, right, x, f)
	return v, placed(err, x)
}

// joined is a && b, or a || b.
func (m *Machine) joined(op string, left Value, x *code.Expr, f *frame, e *env) (Value, error) {
	yes, known, err := m.truth(left)
	if err != nil {
		return left, err
	}
	if known && yes == (op == "||") {
		return boolOf(yes), nil
	}
	if !known {
		return m.choose(f, left.places(), func() (Value, error) { return left, nil }, func() (Value, error) { return m.expr(x.Args[1], f, e, boolType) })
	}
	right, err := m.expr(x.Args[1], f, e, boolType)
	if err != nil {
		return right, err
	}
	if _, _, err := m.truth(right); err != nil {
		return right, err
	}
	return right, nil
}

// operator is what a binary operator yields.
func (m *Machine) operator(op string, a, b Value, x *code.Expr, f *frame) (Value, error) {
	if op == "==" || op == "!=" {
		is, known, err := m.equal(a, b, x.Pos)
		if err != nil || !known {
			return unknown(boolType, a, b), err
		}
		return boolOf(is == (op == "==")), nil
	}
	t := classOf(a)
	if t != nil && t.Class != nil {
		if fn, in := m.find(t, op, method, 0); fn != nil {
			return m.invoke(fn, &a, in, nil, Args{List: []Value{b}}, x)
		}
	}
	if a.isUnknown() || b.isUnknown() {
		return m.operatorOfUnknown(op, a, b), nil
	}
	dynamic := a.Static == nil
	v, err := m.operatorOf(op, a, b, x)
	if dynamic && err == nil {
		v.Static = nil
	}
	return v, err
}

func (m *Machine) operatorOfUnknown(op string, a, b Value) Value {
	switch op {
	case "<", ">", "<=", ">=":
		return unknown(boolType, a, b)
	}
	t := a.Static
	if op == "/" && (t.is("int", "num", "double")) {
		t = doubleType
	}
	if op == "~/" && t.is("int", "num", "double") {
		t = intType
	}
	if t.is("int") && (b.Static.is("double") || b.Static == nil) && op != "~/" {
		t = numType
		if b.Static.is("double") {
			t = doubleType
		}
	}
	v := unknown(t, a, b)
	if op == "+" && (t.is("String") || b.Static.is("String")) { // as much of a path as is known
		text := func(v Value) string {
			if v.Kind == String || v.S != "" {
				return v.S
			}
			return "{}"
		}
		v.S = text(a) + text(b)
	}
	return v
}

func (m *Machine) operatorOf(op string, a, b Value, x *code.Expr) (Value, error) {
	x1, isNum := a.number()
	y1, other := b.number()
	switch {
	case a.IsNull():
		return a, nullCalled(op, false, a, m.shown(b))
	case isNum:
		if !other {
			return b, m.otherError(a, b, numType)
		}
		return arithmetic(op, a, b, x1, y1, x)
	case a.Kind == String:
		switch op {
		case "+":
			if b.Kind != String {
				return b, m.otherError(a, b, stringType)
			}
			if len(a.S)+len(b.S) > maxText {
				return a, unfollowed("a text that long", x.Pos)
			}
			return textOf(a.S + b.S), nil
		case "*":
			if b.Kind != Int {
				return b, &Thrown{Class: "_TypeError", Message: fmt.Sprintf("type '%s' is not a subtype of type 'int' of 'times'", m.typeOf(b).spelt(b)), At: b.At}
			}
			if n := max(b.N, 0); n*int64(len(a.S)) < maxText {
				return textOf(strings.Repeat(a.S, int(n))), nil
			}
			return a, unfollowed("a text that long", x.Pos)
		}
	case a.Kind == Bool && b.Kind == Bool:
		switch op {
		case "&":
			return boolOf(a.N&b.N == 1), nil
		case "|":
			return boolOf(a.N|b.N == 1), nil
		case "^":
			return boolOf(a.N^b.N == 1), nil
		}
	case a.Kind == Lists && op == "+" && a.list().Kind == "List":
		if b.Kind != Lists {
			t := m.typeError(b, listOf(a.list().Elem), false, false)
			t.Message += " of 'other'"
			return b, t
		}
		return m.platformCall(a, "followedBy", Args{List: []Value{b}}, &frame{}, x)
	case a.Kind == Hosts:
		if v, ok := hostOperator(op, a.Ref.(Host), b); ok {
			return v, nil
		}
	}
	if a.Static == nil || isNum || a.Kind == Bool {
		return a, noMember(m, a, op, "method", b)
	}
	return a, unfollowed("the operator "+op, x.Pos)
}

// otherError is the error of a right operand: the compiler checks it where it knows the left one's type.
func (m *Machine) otherError(a, b Value, want *Type) error {
	t := m.typeError(b, want, false, false)
	if a.Static == nil {
		t.Message += " of 'other'"
	}
	return t
}

// arithmetic is what an operator makes of two numbers: whole ones wrap at 64 bits.
func arithmetic(op string, a, b Value, x, y float64, at *code.Expr) (Value, error) {
	whole := a.Kind == Int && b.Kind == Int
	switch op {
	case "+":
		if whole {
			return intOf(a.N + b.N), nil
		}
		return doubleOf(x + y), nil
	case "-":
		if whole {
			return intOf(a.N - b.N), nil
		}
		return doubleOf(x - y), nil
	case "*":
		if whole {
			return intOf(a.N * b.N), nil
		}
		return doubleOf(x * y), nil
	case "/":
		return doubleOf(x / y), nil
	case "~/":
		if whole && b.N != 0 {
			if b.N == -1 {
				return intOf(-a.N), nil
			}
			return intOf(a.N / b.N), nil
		}
		if whole {
			return a, &Thrown{Class: "UnsupportedError", Message: "IntegerDivisionByZeroException", Pos: at.Pos}
		}
		return truncated(x/y, "Unsupported operation: Infinity or NaN toInt")
	case "%":
		if whole && b.N != 0 {
			r := a.N % b.N
			if r < 0 {
				if b.N < 0 {
					r -= b.N
				} else {
					r += b.N
				}
			}
			return intOf(r), nil
		}
		if whole {
			return a, &Thrown{Class: "UnsupportedError", Message: "IntegerDivisionByZeroException", Pos: at.Pos}
		}
		r := math.Mod(x, y)
		if r < 0 {
			r += math.Abs(y)
		}
		return doubleOf(r), nil
	case "<":
		return boolOf(x < y), nil
	case ">":
		return boolOf(x > y), nil
	case "<=":
		return boolOf(x <= y), nil
	case ">=":
		return boolOf(x >= y), nil
	}
	if whole {
		switch op {
		case "&":
			return intOf(a.N & b.N), nil
		case "|":
			return intOf(a.N | b.N), nil
		case "^":
			return intOf(a.N ^ b.N), nil
		case "<<":
			if b.N >= 0 {
				return intOf(a.N << min(uint64(b.N), 64)), nil
			}
		case ">>":
			if b.N >= 0 {
				return intOf(a.N >> min(uint64(b.N), 63)), nil
			}
		case ">>>":
			if b.N >= 0 {
				return intOf(int64(uint64(a.N) >> min(uint64(b.N), 64))), nil
			}
		}
	}
	return a, &Thrown{Class: "NoSuchMethodError", Message: fmt.Sprintf("Class '%s' has no instance method '%s'.", map[Kind]string{Int: "int", Double: "double"}[a.Kind], op), At: a.At, Pos: at.Pos}
}

// truncated is a double as an int, which is clamped at 64 bits.
func truncated(f float64, why string) (Value, error) {
	switch {
	case math.IsNaN(f) || math.IsInf(f, 0):
		return Value{}, &Thrown{Class: "UnsupportedError", Message: why}
	case f >= math.MaxInt64:
		return intOf(math.MaxInt64), nil
	case f <= math.MinInt64:
		return intOf(math.MinInt64), nil
	}
	return intOf(int64(f)), nil
}

// unary is an operator before its operand.
func (m *Machine) unary(x *code.Expr, f *frame, e *env, ctx *Type) (Value, error) {
	if len(x.Args) != 1 {
		return Value{}, unfollowed("an operator", x.Pos)
	}
	v, err := m.expr(x.Args[0], f, e, ctx)
	if err != nil {
		return v, err
	}
	if v.isUnknown() {
		t := v.Static
		if x.Text == "!" {
			t = boolType
		}
		u := unknown(t, v)
		return u, nil
	}
	switch {
	case x.Text == "!":
		yes, _, err := m.truth(v)
		return boolOf(!yes), err
	case x.Text == "-" && v.Kind == Int:
		return intOf(-v.N), nil
	case x.Text == "-" && v.Kind == Double:
		return doubleOf(-v.F), nil
	case x.Text == "~" && v.Kind == Int:
		return intOf(^v.N), nil
	case x.Text == "-" && v.Kind == Obj:
		if fn, in := m.find(v.object().Type, "unary-", method, 0); fn != nil {
			return m.invoke(fn, &v, in, nil, Args{}, x)
		}
	case x.Text == "-" && v.Kind == Hosts:
		if out, ok := hostOperator("unary-", v.Ref.(Host), Value{}); ok {
			return out, nil
		}
	case v.IsNull():
		return v, nullCall("unary-", false, v)
	}
	if v.Static == nil {
		return v, noMember(m, v, "unary-", "method")
	}
	return v, unfollowed("the operator "+x.Text, x.Pos)
}

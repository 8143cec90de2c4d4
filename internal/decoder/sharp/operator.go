package sharp

import (
	"math"
	"math/big"
	"strings"

	"vetta/internal/code"
	"vetta/internal/model"
	"vetta/internal/wire"
)

// declare declares the variables of an expression that is not come to: code behind it may give them values.
func declare(x *code.Expr, e *env) {
	code.Walk(x, func(x *code.Expr) {
		if x.Op == code.Bind && x.Text != "" && e.find(x.Text) == nil {
			e.names[x.Text] = &Value{}
		}
	})
}

func (m *Machine) binary(x *code.Expr, f *frame, e *env) (Value, error) {
	a, err := m.expr(x.Args[0], f, e, nil)
	if err != nil {
		return a, err
	}
	switch x.Text {
	case "&&", "||":
		if a.Kind != Bool {
			return a, unfollowed("a condition", x.Pos)
		}
		if a.isTrue() == (x.Text == "||") {
			declare(x.Args[1], e)
			return a, nil
		}
		b, err := m.truth(x.Args[1], f, e)
		return BoolOf(b), err
	}
	b, err := m.expr(x.Args[1], f, e, nil)
	if err != nil {
		return b, err
	}
	if v, ok := joined(a, b); ok && x.Text == "+" {
		return v, nil
	}
	if x.Text == "+" && (a.Kind == String || b.Kind == String) {
		s, err := m.written(a, f, x)
		if err != nil {
			return a, err
		}
		t, err := m.written(b, f, x)
		return TextOf(s + t), err
	}
	return m.operate(x.Text, a, b, x)
}

// operate does a binary operator on two values.
func (m *Machine) operate(op string, a, b Value, x *code.Expr) (Value, error) {
	if op == "==" || op == "!=" {
		if equal, ok := m.dynamicallyEqual(a, b); ok {
			return BoolOf(equal == (op == "==")), nil
		}
	}
	a, b = m.plain(a), m.plain(b)
	if op == "==" || op == "!=" {
		a, b = named(a, b)
		b, a = named(b, a)
	}
	if a.Kind == Unknown || b.Kind == Unknown {
		return Value{}, unfollowed("a value", x.Pos)
	}
	switch op {
	case "==":
		if err := comparable(a, b, x); err != nil {
			return a, err
		}
		return BoolOf(same(a, b)), nil
	case "!=":
		if err := comparable(a, b, x); err != nil {
			return a, err
		}
		return BoolOf(!same(a, b)), nil
	}
	if a.IsNull() || b.IsNull() {
		switch op {
		case "<", ">", "<=", ">=":
			return BoolOf(false), nil
		}
		return Value{}, nil
	}
	if a.Kind == Bool && b.Kind == Bool {
		switch op {
		case "&":
			return BoolOf(a.isTrue() && b.isTrue()), nil
		case "|":
			return BoolOf(a.isTrue() || b.isTrue()), nil
		case "^":
			return BoolOf(a.isTrue() != b.isTrue()), nil
		}
	}
	if a.Kind == Enum && b.Kind == Enum && (op == "|" || op == "&" || op == "^") {
		v, err := m.operate(op, IntOf(a.Int), IntOf(b.Int), x)
		return Value{Kind: Enum, Model: a.Model, Int: v.Int}, err
	}
	if a.Kind == Enum {
		a = IntOf(a.Int)
	}
	if b.Kind == Enum {
		b = IntOf(b.Int)
	}
	if a.Kind == Char {
		a = IntOf(int64([]rune(a.Text)[0]))
	}
	if b.Kind == Char {
		b = IntOf(int64([]rune(b.Text)[0]))
	}
	if a.Kind == Plain && b.Kind == Plain {
		c := strings.Compare(a.Seen.String(), b.Seen.String())
		if a.Of == "DateTime" || a.Of == "DateTimeOffset" {
			c = 0
			switch {
			case a.Seen.Seconds < b.Seen.Seconds:
				c = -1
			case a.Seen.Seconds > b.Seen.Seconds:
				c = 1
			}
		}
		switch op {
		case "<":
			return BoolOf(c < 0), nil
		case ">":
			return BoolOf(c > 0), nil
		case "<=":
			return BoolOf(c <= 0), nil
		case ">=":
			return BoolOf(c >= 0), nil
		}
	}
	switch {
	case a.Kind == Decimal || b.Kind == Decimal:
		return decimals(op, a, b, x, m)
	case a.Kind == Float || b.Kind == Float:
		return floats(op, a, b, x)
	case a.Kind == Int && b.Kind == Int:
		return m.wholes(op, a, b, x)
	}
	return Value{}, unfollowed("the operator "+op, x.Pos)
}

// comparable says whether == of two values is known.
func comparable(a, b Value, x *code.Expr) error {
	if a.Kind == Host && b.Kind == Host {
		if _, ok := a.Ref.(interface{ sameAs(any) bool }); !ok {
			return unfollowed("whether two values are equal", x.Pos)
		}
	}
	return nil
}

// plain is a value as what it compares as: of a token that is held as dynamic, its own.
func (m *Machine) plain(v Value) Value {
	if n, ok := v.Ref.(*node); ok && n.dyn && n.v.Kind < wire.Array && !n.prop {
		return m.boxed(n.v)
	}
	return v
}

// dynamicallyEqual is == where one of two is a token that is held as dynamic, as JValue.Compare has it: by the kind of
// the token. ok is false where that is not known.
func (m *Machine) dynamicallyEqual(a, b Value) (equal, ok bool) {
	x, y := m.plain(a), m.plain(b)
	if y.Kind != b.Kind && x.Kind == a.Kind {
		x, y = y, x
	} else if x.Kind == a.Kind {
		return false, false
	}
	switch {
	case x.IsNull() || y.IsNull():
		return x.IsNull() && y.IsNull(), true
	case x.Kind == Bool && (y.Kind == Bool || y.Kind == Int || y.Kind == Float):
		n, _ := y.number()
		return x.isTrue() == (y.isTrue() || n != 0), true
	case (x.Kind == Int || x.Kind == Float) && y.Kind == Bool:
		n, _ := x.number()
		return n == float64(y.Int), true
	}
	return false, false
}

func (m *Machine) wholes(op string, a, b Value, x *code.Expr) (Value, error) {
	of := "int"
	if a.Of == "long" || b.Of == "long" || a.Of == "ulong" || b.Of == "ulong" || a.Of == "uint" || b.Of == "uint" {
		of = "long"
	}
	wrap := func(n int64) (Value, error) {
		if of == "int" {
			n = int64(int32(n))
		}
		return numberOf(n, of), nil
	}
	switch op {
	case "+":
		return wrap(a.Int + b.Int)
	case "-":
		return wrap(a.Int - b.Int)
	case "*":
		return wrap(a.Int * b.Int)
	case "/", "%":
		if b.Int == 0 {
			return Value{}, m.throw("DivideByZeroException", "Attempted to divide by zero.")
		}
		if op == "/" {
			return wrap(a.Int / b.Int)
		}
		return wrap(a.Int % b.Int)
	case "<":
		return BoolOf(a.Int < b.Int), nil
	case ">":
		return BoolOf(a.Int > b.Int), nil
	case "<=":
		return BoolOf(a.Int <= b.Int), nil
	case ">=":
		return BoolOf(a.Int >= b.Int), nil
	case "&":
		return wrap(a.Int & b.Int)
	case "|":
		return wrap(a.Int | b.Int)
	case "^":
		return wrap(a.Int ^ b.Int)
	case "<<":
		return wrap(a.Int << uint(b.Int&63))
	case ">>":
		return wrap(a.Int >> uint(b.Int&63))
	}
	return Value{}, unfollowed("the operator "+op, x.Pos)
}

func floats(op string, a, b Value, x *code.Expr) (Value, error) {
	p, ok := a.number()
	q, ok2 := b.number()
	if !ok || !ok2 {
		return Value{}, unfollowed("the operator "+op, x.Pos)
	}
	switch op {
	case "+":
		return floatOf(p + q), nil
	case "-":
		return floatOf(p - q), nil
	case "*":
		return floatOf(p * q), nil
	case "/":
		return floatOf(p / q), nil
	case "%":
		return floatOf(math.Mod(p, q)), nil
	case "<":
		return BoolOf(p < q), nil
	case ">":
		return BoolOf(p > q), nil
	case "<=":
		return BoolOf(p <= q), nil
	case ">=":
		return BoolOf(p >= q), nil
	}
	return Value{}, unfollowed("the operator "+op, x.Pos)
}

func rational(v Value) *big.Rat {
	switch v.Kind {
	case Decimal:
		r, ok := new(big.Rat).SetString(v.Text)
		if ok {
			return r
		}
	case Int:
		return new(big.Rat).SetInt64(v.Int)
	}
	return nil
}

func decimals(op string, a, b Value, x *code.Expr, m *Machine) (Value, error) {
	p, q := rational(a), rational(b)
	if p == nil || q == nil {
		return Value{}, unfollowed("the operator "+op, x.Pos)
	}
	scale := func(v Value) int {
		if _, behind, ok := strings.Cut(v.Text, "."); ok && v.Kind == Decimal {
			return len(behind)
		}
		return 0
	}
	out := func(r *big.Rat, digits int) (Value, error) { return decimalOf(r.FloatString(min(digits, 28))), nil }
	switch op {
	case "+":
		return out(new(big.Rat).Add(p, q), max(scale(a), scale(b)))
	case "-":
		return out(new(big.Rat).Sub(p, q), max(scale(a), scale(b)))
	case "*":
		return out(new(big.Rat).Mul(p, q), scale(a)+scale(b))
	case "/":
		if q.Sign() == 0 {
			return Value{}, m.throw("DivideByZeroException", "Attempted to divide by zero.")
		}
		text := new(big.Rat).Quo(p, q).FloatString(28)
		text = strings.TrimRight(text, "0")
		return decimalOf(strings.TrimSuffix(text, ".")), nil
	case "<":
		return BoolOf(p.Cmp(q) < 0), nil
	case ">":
		return BoolOf(p.Cmp(q) > 0), nil
	case "<=":
		return BoolOf(p.Cmp(q) <= 0), nil
	case ">=":
		return BoolOf(p.Cmp(q) >= 0), nil
	}
	return Value{}, unfollowed("the operator "+op, x.Pos)
}

func (m *Machine) unary(x *code.Expr, f *frame, e *env, want *model.Type) (Value, error) {
	if x.Text == "out" || x.Text == "ref" || x.Text == "in" {
		return m.handedOver(x.Args[0], f, e)
	}
	v, err := m.expr(x.Args[0], f, e, want)
	if err != nil {
		return v, err
	}
	switch {
	case x.Text == "!" && v.Kind == Bool:
		return BoolOf(v.Int != 1), nil
	case x.Text == "-" && v.Kind == Int:
		v.Int = -v.Int
		return v, nil
	case x.Text == "-" && v.Kind == Float:
		v.Float = -v.Float
		return v, nil
	case x.Text == "-" && v.Kind == Decimal:
		if strings.HasPrefix(v.Text, "-") {
			v.Text = v.Text[1:]
		} else if strings.Trim(v.Text, "0.") != "" {
			v.Text = "-" + v.Text
		}
		return v, nil
	case x.Text == "+":
		return v, nil
	case x.Text == "~" && v.Kind == Int:
		v.Int = ^v.Int
		return v, nil
	case x.Text == "^" && v.Kind == Int: // from the end
		return Value{Kind: Tuple, Of: "end", Int: v.Int, Ref: &list{}}, nil
	case v.IsNull():
		return Value{}, nil
	}
	return Value{}, unfollowed("the operator "+x.Text, x.Pos)
}

// handedOver is a variable that a call may give a value.
func (m *Machine) handedOver(x *code.Expr, f *frame, e *env) (Value, error) {
	switch x.Op {
	case code.Bind:
		return m.plainly(x, f, e, nil)
	case code.Name:
		if x.Text == "_" {
			return Value{Kind: Cell, Ref: &Value{}}, nil
		}
		if at := e.find(x.Text); at != nil {
			if at.Kind == Cell {
				return *at, nil
			}
			return Value{Kind: Cell, Ref: at}, nil
		}
		if f.this != nil && f.this.object() != nil {
			if at := f.this.object().Fields[x.Text]; at != nil {
				return Value{Kind: Cell, Ref: at}, nil
			}
		}
	}
	return Value{}, unfollowed("a variable that is handed over", x.Pos)
}

// formatted is a value by a format: {value:0.00}.
func (m *Machine) formatted(v Value, format string, x *code.Expr) (Value, error) {
	if v.Kind == Plain && (format == "O" || format == "o") {
		return TextOf(v.Seen.Text), nil
	}
	if n, ok := v.number(); ok && len(format) > 1 && (format[0] == 'F' || format[0] == 'f') {
		digits := int(format[1] - '0')
		return TextOf(big.NewFloat(n).Text('f', digits)), nil
	}
	if v.Kind == Int && len(format) > 1 && format[0] == 'D' {
		s := plainText(v)
		for len(s) < int(format[1]-'0') {
			s = "0" + s
		}
		return TextOf(s), nil
	}
	return Value{}, unfollowed("a value by the format "+format, x.Pos)
}

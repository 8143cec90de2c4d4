package foundation

import (
	"math"
	"math/big"
	"strconv"
	"strings"

	"vetta/internal/decoder"
	"vetta/internal/model"
)

type seen = decoder.Seen

// function is the node for a function, operator or initialiser that hand-written
// code calls on what it has decoded.
func (c *compiler) function(e *model.Expr, env map[string]*model.Type, want *model.Type) *decoder.Node {
	switch e.Func {
	case "$0":
		return &decoder.Node{Op: decoder.OpArg}
	case "rawValue":
		return c.fromRaw(e, env, want)
	case "date", "iso8601":
		return c.formatted(e, env)
	case "map", "flatMap", "compactMap":
		return c.transform(e, env)
	}
	n := &decoder.Node{Op: decoder.OpCall, Name: e.Func}
	for i, a := range e.Args {
		var t *model.Type
		if i == 1 {
			t = typeOf(e.Args[0], env) // a constant is of the type that it is compared with
		}
		n.Args = append(n.Args, c.expr(a, env, t))
	}
	if property, ok := strings.CutPrefix(e.Func, "property "); ok {
		n.Call = func(args []seen, _ func(seen) seen) seen {
			if v, ok := args[0].Get(property); ok {
				return v
			}
			return seen{Kind: decoder.SeenUnknown}
		}
		return n
	}
	compute := functions[e.Func]
	if compute == nil {
		return unknown("the function " + e.Func)
	}
	n.Call = func(args []seen, _ func(seen) seen) seen { return compute(args) }
	return n
}

// typeOf is the type that an expression has, nil where it is not plain to see.
func typeOf(e *model.Expr, env map[string]*model.Type) *model.Type {
	switch e.Op {
	case model.OpDecode, model.OpCast:
		return e.Type.Bind(env)
	case model.OpAt, model.OpAtIf, model.OpElem, model.OpTry, model.OpElse, model.OpCatch:
		return typeOf(e.Args[0], env)
	case model.OpConst:
		return e.Type
	}
	return nil
}

// fromRaw is the node for Enum(rawValue:): nothing where no constant has the value.
func (c *compiler) fromRaw(e *model.Expr, env map[string]*model.Type, want *model.Type) *decoder.Node {
	t := want
	if e.Type != nil {
		t = e.Type.Bind(env)
	}
	if t == nil || t.Unwrapped().Model == nil || t.Unwrapped().Model.Raw == nil {
		return unknown("an initialiser with rawValue")
	}
	m := t.Unwrapped().Model
	if m.Kind != model.Enum {
		return unknown("the initialiser of " + m.Name + " with rawValue")
	}
	cases := map[string]string{}
	for _, mc := range m.Cases {
		if mc.Raw != nil {
			cases[rawKey(Constant(mc.Raw, m.Raw))] = mc.Name
		}
	}
	n := &decoder.Node{Op: decoder.OpCall, Args: []*decoder.Node{c.expr(e.Args[0], env, m.Raw)}, MindsText: true}
	n.Call = func(args []seen, _ func(seen) seen) seen {
		if name, ok := cases[rawKey(args[0])]; ok && args[0].Kind != decoder.SeenNull {
			return seen{Kind: decoder.SeenEnum, Text: name, Type: m.Name}
		}
		return seen{}
	}
	return n
}

// formatted is the node for a date that a formatter makes of text.
func (c *compiler) formatted(e *model.Expr, env map[string]*model.Type) *decoder.Node {
	parse := parseISO8601
	if e.Func == "date" {
		p, zone := parsePattern(e.Value.Text), zoneOf(e.Key)
		if p == nil {
			return unknown("the date format " + e.Value.Text)
		}
		parse = func(s string) (float64, bool) { return p.parse(s, zone) }
	}
	return &decoder.Node{Op: decoder.OpCall, Args: []*decoder.Node{c.expr(e.Args[0], env, nil)}, Call: func(args []seen, _ func(seen) seen) seen {
		if seconds, ok := parse(args[0].Text); ok && args[0].Kind == decoder.SeenString {
			return seen{Kind: decoder.SeenDate, Seconds: seconds}
		}
		return seen{}
	}}
}

// transform is the node for map, flatMap and compactMap of a list or an optional.
func (c *compiler) transform(e *model.Expr, env map[string]*model.Type) *decoder.Node {
	lossy := e.Func == "compactMap"
	return &decoder.Node{
		Op: decoder.OpCall, Applies: true, Args: []*decoder.Node{c.expr(e.Args[0], env, nil), c.expr(e.Args[1], env, nil)},
		Call: func(args []seen, apply func(seen) seen) seen {
			list := args[0]
			if list.Kind == decoder.SeenNull {
				return list
			}
			if list.Kind != decoder.SeenList && list.Kind != decoder.SeenSet {
				return apply(list)
			}
			out := seen{Kind: decoder.SeenList, Elems: []seen{}}
			for _, elem := range list.Elems {
				if made := apply(elem); !lossy || made.Kind != decoder.SeenNull {
					out.Elems = append(out.Elems, made)
				}
			}
			return out
		},
	}
}

// functions are those that need nothing but the values they are called with.
// Nothing stays nothing where a function is called behind a question mark.
var functions = map[string]func(args []seen) seen{
	"!= nil": func(a []seen) seen { return decoder.Bool(a[0].Kind != decoder.SeenNull) },
	"!":      func(a []seen) seen { return decoder.Bool(a[0].Text != "true") },
	"&&":     func(a []seen) seen { return decoder.Bool(a[0].Text == "true" && a[1].Text == "true") },
	"||":     func(a []seen) seen { return decoder.Bool(a[0].Text == "true" || a[1].Text == "true") },
	"==":     func(a []seen) seen { return decoder.Bool(equal(a[0], a[1])) },
	"!=":     func(a []seen) seen { return decoder.Bool(!equal(a[0], a[1])) },
	"<":      func(a []seen) seen { return decoder.Bool(compare(a[0], a[1]) < 0) },
	">":      func(a []seen) seen { return decoder.Bool(compare(a[0], a[1]) > 0) },
	"<=":     func(a []seen) seen { return decoder.Bool(compare(a[0], a[1]) <= 0) },
	">=":     func(a []seen) seen { return decoder.Bool(compare(a[0], a[1]) >= 0) },
	"+":      func(a []seen) seen { return arithmetic('+', a[0], a[1]) },
	"-":      func(a []seen) seen { return arithmetic('-', a[0], a[1]) },
	"*":      func(a []seen) seen { return arithmetic('*', a[0], a[1]) },
	"/":      func(a []seen) seen { return arithmetic('/', a[0], a[1]) },
	"%":      func(a []seen) seen { return arithmetic('%', a[0], a[1]) },

	".isEmpty": optional(func(s seen) seen { return decoder.Bool(s.Text == "" && len(s.Elems) == 0) }),
	".count":   optional(count),
	".first":   optional(func(s seen) seen { return element(s, 0) }),
	".last":    optional(func(s seen) seen { return element(s, len(s.Elems)-1) }),
	".lowercased": optional(func(s seen) seen {
		s.Text = strings.ToLower(s.Text)
		return s
	}),
	".uppercased": optional(func(s seen) seen {
		s.Text = strings.ToUpper(s.Text)
		return s
	}),
	".trimmingCharacters": optional(func(s seen) seen {
		s.Text = strings.TrimSpace(s.Text)
		return s
	}),
	".hasPrefix": func(a []seen) seen { return decoder.Bool(strings.HasPrefix(a[0].Text, a[1].Text)) },
	".hasSuffix": func(a []seen) seen { return decoder.Bool(strings.HasSuffix(a[0].Text, a[1].Text)) },
	".contains":  func(a []seen) seen { return decoder.Bool(holds(a[0], a[1])) },
	".rounded":   optional(func(s seen) seen { return float(math.Round(value(s))) }),

	"Int:": integer("Int"), "Int8:": integer("Int8"), "Int16:": integer("Int16"), "Int32:": integer("Int32"), "Int64:": integer("Int64"),
	"UInt:": integer("UInt"), "UInt8:": integer("UInt8"), "UInt16:": integer("UInt16"), "UInt32:": integer("UInt32"), "UInt64:": integer("UInt64"),
	"Double:": toDouble, "CGFloat:": toDouble, "TimeInterval:": toDouble,
	"String:": toText, "String:describing": toText,
	"Bool:": optional(func(s seen) seen {
		switch {
		case s.Kind == decoder.SeenBool, s.Kind == decoder.SeenString && (s.Text == "true" || s.Text == "false"):
			return seen{Kind: decoder.SeenBool, Text: s.Text}
		case s.Kind == decoder.SeenString:
			return seen{}
		}
		return seen{Kind: decoder.SeenUnknown}
	}),
	"Decimal:": optional(func(s seen) seen {
		if text, _, ok := decimalOf(s.Text); ok && s.Kind == decoder.SeenInt {
			return seen{Kind: decoder.SeenDecimal, Text: text}
		}
		return seen{Kind: decoder.SeenUnknown}
	}),
	"Decimal:string": optional(func(s seen) seen {
		if _, err := strconv.ParseFloat(s.Text, 64); err != nil || s.Text == "" || strings.Trim(s.Text, "+-.eE0123456789") != "" {
			return seen{}
		}
		text, _, ok := decimalOf(strings.TrimPrefix(s.Text, "+"))
		if !ok {
			return seen{}
		}
		return seen{Kind: decoder.SeenDecimal, Text: text}
	}),
	"URL:string": optional(func(s seen) seen {
		if text, ok := urlString(s.Text); ok {
			return seen{Kind: decoder.SeenString, Text: text, Type: "URL"}
		}
		return seen{}
	}),
	"UUID:uuidString": optional(func(s seen) seen {
		if isUUID(s.Text) {
			return seen{Kind: decoder.SeenString, Text: strings.ToUpper(s.Text), Type: "UUID"}
		}
		return seen{}
	}),
	"Date:timeIntervalSince1970": optional(func(s seen) seen { return seen{Kind: decoder.SeenDate, Seconds: value(s)} }),
	"Array:": optional(func(s seen) seen {
		s.Kind = decoder.SeenList
		return s
	}),
	"Set:": optional(func(s seen) seen {
		out := seen{Kind: decoder.SeenSet, Elems: []seen{}}
		for _, e := range s.Elems {
			if !holds(out, e) {
				out.Elems = append(out.Elems, e)
			}
		}
		return out
	}),
}

// optional is a function of one value that nothing passes through.
func optional(f func(seen) seen) func([]seen) seen {
	return func(args []seen) seen {
		if args[0].Kind == decoder.SeenNull {
			return args[0]
		}
		return f(args[0])
	}
}

func isNumber(s seen) bool {
	return s.Kind == decoder.SeenInt || s.Kind == decoder.SeenFloat || s.Kind == decoder.SeenDecimal
}

func value(s seen) float64 {
	f, err := strconv.ParseFloat(s.Text, 64)
	if err != nil {
		return math.NaN()
	}
	return f
}

func equal(a, b seen) bool {
	if isNumber(a) && isNumber(b) {
		return compare(a, b) == 0
	}
	if a.Kind == decoder.SeenCase && b.Kind == decoder.SeenEnum || a.Kind == decoder.SeenEnum && b.Kind == decoder.SeenCase {
		return a.Text == b.Text
	}
	return a.Kind == b.Kind && a.String() == b.String()
}

func compare(a, b seen) int {
	x, okX := new(big.Rat).SetString(a.Text)
	y, okY := new(big.Rat).SetString(b.Text)
	if isNumber(a) && isNumber(b) && okX && okY {
		return x.Cmp(y)
	}
	return strings.Compare(a.Text, b.Text)
}

// arithmetic computes with two numbers of one type, or joins two strings or lists.
func arithmetic(op byte, a, b seen) seen {
	unknown := seen{Kind: decoder.SeenUnknown}
	switch {
	case op == '+' && a.Kind == decoder.SeenString && b.Kind == decoder.SeenString:
		return seen{Kind: decoder.SeenString, Text: a.Text + b.Text}
	case op == '+' && a.Kind == decoder.SeenList && b.Kind == decoder.SeenList:
		return seen{Kind: decoder.SeenList, Elems: append(append([]seen{}, a.Elems...), b.Elems...)}
	case a.Kind == decoder.SeenInt && b.Kind == decoder.SeenInt:
		x, _ := new(big.Int).SetString(a.Text, 10)
		y, _ := new(big.Int).SetString(b.Text, 10)
		if x == nil || y == nil || y.Sign() == 0 && (op == '/' || op == '%') {
			return unknown
		}
		z := new(big.Int)
		switch op {
		case '+':
			z.Add(x, y)
		case '-':
			z.Sub(x, y)
		case '*':
			z.Mul(x, y)
		case '/':
			z.Quo(x, y)
		default:
			z.Rem(x, y)
		}
		return seen{Kind: decoder.SeenInt, Text: z.String()}
	case (a.Kind == decoder.SeenFloat || b.Kind == decoder.SeenFloat) && isNumber(a) && isNumber(b):
		x, y := value(a), value(b)
		switch op {
		case '+':
			return float(x + y)
		case '-':
			return float(x - y)
		case '*':
			return float(x * y)
		case '/':
			return float(x / y)
		}
	}
	return unknown
}

func float(f float64) seen {
	if math.IsNaN(f) || math.IsInf(f, 0) {
		return seen{Kind: decoder.SeenUnknown}
	}
	return seen{Kind: decoder.SeenFloat, Text: FloatText(f, 64)}
}

func count(s seen) seen {
	n := len(s.Elems)
	if s.Kind == decoder.SeenString {
		n = len([]rune(s.Text))
	}
	return seen{Kind: decoder.SeenInt, Text: strconv.Itoa(n)}
}

func element(s seen, i int) seen {
	if i < 0 || i >= len(s.Elems) {
		return seen{}
	}
	return s.Elems[i]
}

func holds(list, s seen) bool {
	if list.Kind == decoder.SeenString {
		return strings.Contains(list.Text, s.Text)
	}
	for _, e := range list.Elems {
		if equal(e, s) {
			return true
		}
	}
	return false
}

// integer is an integer type's initialiser: of a float it cuts the fraction off, of
// text it wants digits with an optional sign. A number out of range is a crash in
// Swift, and unknown here.
func integer(name string) func([]seen) seen {
	w := integers[name]
	return optional(func(s seen) seen {
		text := s.Text
		switch s.Kind {
		case decoder.SeenString:
			text = strings.TrimPrefix(text, "+")
			if text == "" || strings.HasPrefix(s.Text, "+-") {
				return seen{}
			}
		case decoder.SeenFloat:
			text = strconv.FormatFloat(math.Trunc(value(s)), 'f', 0, 64)
		case decoder.SeenInt:
		default:
			return seen{Kind: decoder.SeenUnknown}
		}
		n, ok := new(big.Int).SetString(text, 10)
		if ok && w.holds(n) && !strings.Contains(text, "_") {
			return seen{Kind: decoder.SeenInt, Text: n.String()}
		}
		if s.Kind == decoder.SeenString {
			return seen{}
		}
		return seen{Kind: decoder.SeenUnknown}
	})
}

var toDouble = optional(func(s seen) seen {
	if s.Kind == decoder.SeenString && strings.ContainsAny(s.Text, "_ \t\n") {
		return seen{}
	}
	f, err := strconv.ParseFloat(s.Text, 64)
	switch {
	case err != nil && s.Kind == decoder.SeenString:
		return seen{}
	case err != nil:
		return seen{Kind: decoder.SeenUnknown}
	}
	return float(f)
})

var toText = optional(func(s seen) seen {
	switch s.Kind {
	case decoder.SeenString, decoder.SeenInt, decoder.SeenFloat, decoder.SeenDecimal, decoder.SeenBool:
		return seen{Kind: decoder.SeenString, Text: s.Text}
	}
	return seen{Kind: decoder.SeenUnknown}
})

package schema

import (
	"math"
	"regexp"
	"strconv"
	"strings"

	"vetta/internal/code"
)

// Scope is where an expression stands: what names mean there is a matter of who reads the source.
type Scope any

// World finds what names mean.
type World interface {
	// Find is the expression that a name is given in a scope, and the scope where that stands.
	Find(s Scope, name string) (e *code.Expr, in Scope, ok bool)
	// Import is the module that a name is imported from, and its name there: * of all, default.
	Import(s Scope, name string) (module, of string, ok bool)
	// Enum is the enum or constant object of a name, as an object of its values.
	Enum(s Scope, name string) (v Value, ok bool)
}

// known are functions of libraries that code of the app may call.
var known = map[string]func([]Value) Value{}

// Known lets code of the app call a function of a library.
func Known(module, name string, do func(args []Value) Value) { known[module+"."+name] = do }

// Vars are what names in a function are given.
type Vars struct {
	name  string
	value Value
	outer *Vars
}

// With are the names with one more.
func (v *Vars) With(name string, value Value) *Vars { return &Vars{name, value, v} }

func (v *Vars) find(name string) (Value, bool) {
	for ; v != nil; v = v.outer {
		if v.name == name {
			return v.value, true
		}
	}
	return Value{}, false
}

// Call runs a function of the app on some values; ok is false where it does what is not followed.
func Call(w World, s Scope, fn *code.Expr, args ...Value) (out Value, ok bool) {
	return call(w, s, fn, &budget{}, args)
}

// budget is what is left of what is run for one value.
type budget struct{ steps, deep int }

// How much code is run for one value, and how many functions inside each other.
const (
	maxSteps = 100000
	maxCalls = 100
)

func call(w World, s Scope, fn *code.Expr, b *budget, args []Value) (out Value, ok bool) {
	if b.deep++; b.deep > maxCalls {
		return out, false
	}
	defer func() { b.deep-- }()
	if fn.Op == code.Name {
		e, in, found := w.Find(s, fn.Text)
		if !found {
			switch fn.Text { // functions of the platform
			case "Number", "String", "Boolean", "parseFloat", "parseInt":
				sc := &script{w: w, s: s, ok: true, budget: b}
				return sc.platform(fn.Text, args), sc.ok
			}
			return out, false
		}
		fn, s = e, in
	}
	if fn.Op != code.Lambda {
		return out, false
	}
	var vars *Vars
	for i, name := range fn.Labels {
		v := Value{}
		if i < len(args) {
			v = args[i]
		}
		if names, ok := strings.CutPrefix(name, "{"); ok { // of an object its members
			for _, member := range strings.Split(strings.TrimSuffix(names, "}"), ",") {
				of, _ := v.Get(member)
				vars = vars.With(member, of)
			}
			continue
		}
		if name == "" {
			return out, false
		}
		vars = vars.With(name, v)
	}
	sc := &script{w: w, s: s, vars: vars, ok: true, budget: b}
	out, _ = sc.body(fn.Body)
	return out, sc.ok
}

// Eval is the value of an expression without a function around it.
func Eval(w World, s Scope, e *code.Expr) (Value, bool) {
	sc := &script{w: w, s: s, ok: true, budget: &budget{}}
	return sc.expr(e), sc.ok
}

// script runs the code of one function.
type script struct {
	w    World
	s    Scope
	vars *Vars
	ok   bool
	*budget
}

func (c *script) lost() Value {
	c.ok = false
	return Value{Kind: Other}
}

// body runs statements, and says whether they returned.
func (c *script) body(all []code.Stmt) (Value, bool) {
	taken := false // a branch before an else
	for i := range all {
		if c.steps++; !c.ok || c.steps > maxSteps {
			return c.lost(), true
		}
		st := &all[i]
		switch {
		case st.Op == code.Return:
			if st.Value == nil {
				return Value{}, true
			}
			return c.expr(st.Value), true
		case st.Op == code.Let:
			if st.Name == "" || st.Value == nil {
				return c.lost(), true
			}
			c.vars = c.vars.With(st.Name, c.expr(st.Value))
		case st.Op == code.Block && (st.Kind == code.If || st.Kind == code.Else):
			do := !taken
			if st.Kind == code.If {
				do = Truthy(c.expr(st.Value))
				taken = do
			}
			if do {
				if v, done := c.body(st.Body); done {
					return v, true
				}
			}
		default:
			return c.lost(), true
		}
	}
	return Value{}, false
}

func (c *script) expr(e *code.Expr) Value {
	if c.steps++; !c.ok || c.steps > maxSteps {
		return c.lost()
	}
	switch e.Op {
	case code.Text:
		text := e.Text
		for _, a := range e.Args {
			text = strings.Replace(text, "{}", strings.ReplaceAll(TextOf(c.expr(a)), "{}", "\x00"), 1)
		}
		return Text(strings.ReplaceAll(text, "\x00", "{}"))
	case code.Number:
		n := strings.ReplaceAll(e.Text, "_", "")
		sign := 1.0
		if rest, ok := strings.CutPrefix(n, "-"); ok {
			n, sign = rest, -1
		}
		if f := textNumber(n); !math.IsNaN(f) {
			return Num(sign * f)
		}
	case code.As:
		return c.expr(e.Args[0])
	case code.Name:
		switch e.Text {
		case "true", "false":
			return Value{Kind: Bool, Bool: e.Text == "true"}
		case "null":
			return Value{Kind: Null}
		case "undefined":
			return Value{}
		case "NaN":
			return Num(math.NaN())
		case "Infinity":
			return Num(math.Inf(1))
		}
		if v, ok := c.vars.find(e.Text); ok {
			return v
		}
		if v, ok := c.w.Enum(c.s, e.Text); ok {
			return v
		}
		if of, in, ok := c.w.Find(c.s, e.Text); ok && of.Op != code.Lambda {
			if c.deep++; c.deep > maxCalls {
				return c.lost()
			}
			inner := &script{w: c.w, s: in, ok: true, budget: c.budget}
			v := inner.expr(of)
			c.deep--
			c.ok = c.ok && inner.ok
			return v
		}
	case code.List:
		out := Value{Kind: Array, Elems: []Value{}}
		for _, a := range e.Args {
			if a.Op == code.Spread {
				v := c.expr(a.Args[0])
				if v.Kind != Array {
					return c.lost()
				}
				out.Elems = append(out.Elems, v.Elems...)
				continue
			}
			out.Elems = append(out.Elems, c.expr(a))
		}
		return out
	case code.Dict:
		out := Value{Kind: Object}
		for i := 0; i+1 < len(e.Args); i += 2 {
			if e.Args[i+1].Op == code.Spread {
				v := c.expr(e.Args[i+1].Args[0])
				for k, name := range v.Names {
					out.Set(name, v.Elems[k])
				}
				continue
			}
			out.Set(TextOf(c.expr(e.Args[i])), c.expr(e.Args[i+1]))
		}
		return out
	case code.Member:
		return c.member(c.expr(e.Args[0]), e.Text)
	case code.Index:
		of, by := c.expr(e.Args[0]), c.expr(e.Args[1])
		return c.member(of, TextOf(by))
	case code.Plus:
		a, b := c.expr(e.Args[0]), c.expr(e.Args[1])
		if a.Kind == Number && b.Kind == Number {
			return Num(a.Number + b.Number)
		}
		if a.Kind == String || b.Kind == String {
			return Text(TextOf(a) + TextOf(b))
		}
	case code.Choice:
		return c.choice(e)
	case code.Unary:
		v := c.expr(e.Args[0])
		switch e.Text {
		case "!":
			return Value{Kind: Bool, Bool: !Truthy(v)}
		case "-":
			return Num(-NumberOf(v))
		case "+":
			return Num(NumberOf(v))
		case "typeof":
			return Text(typeName(v))
		}
	case code.Binary:
		return c.binary(e)
	case code.Call:
		return c.call(e)
	}
	return c.lost()
}

func typeName(v Value) string {
	return [...]string{"undefined", "object", "boolean", "number", "string", "object", "object", "object", "bigint", "object"}[v.Kind]
}

func (c *script) choice(e *code.Expr) Value {
	if len(e.Args) != 2 {
		return c.lost()
	}
	switch e.Text {
	case "??":
		if v := c.expr(e.Args[0]); v.Kind > Null {
			return v
		}
		return c.expr(e.Args[1])
	case "||":
		if v := c.expr(e.Args[0]); Truthy(v) {
			return v
		}
		return c.expr(e.Args[1])
	}
	if len(e.Body) != 1 {
		return c.lost()
	}
	if Truthy(c.expr(e.Body[0].Value)) {
		return c.expr(e.Args[0])
	}
	return c.expr(e.Args[1])
}

func (c *script) binary(e *code.Expr) Value {
	a := c.expr(e.Args[0])
	if e.Text == "&&" {
		if !Truthy(a) {
			return a
		}
		return c.expr(e.Args[1])
	}
	if e.Text == "instanceof" {
		if e.Args[1].Op == code.Name && e.Args[1].Text == "Date" {
			return Value{Kind: Bool, Bool: a.Kind == Date}
		}
		return c.lost()
	}
	b := c.expr(e.Args[1])
	truth := func(t bool) Value { return Value{Kind: Bool, Bool: t} }
	switch e.Text {
	case "===":
		return truth(Same(a, b))
	case "!==":
		return truth(!Same(a, b))
	case "==":
		if a.Kind == b.Kind || a.Kind <= Null && b.Kind <= Null {
			return truth(Same(a, b) || a.Kind <= Null && b.Kind <= Null)
		}
		if a.Kind <= Null || b.Kind <= Null {
			return truth(false)
		}
	case "!=":
		if a.Kind == b.Kind || a.Kind <= Null && b.Kind <= Null {
			return truth(!(Same(a, b) || a.Kind <= Null && b.Kind <= Null))
		}
		if a.Kind <= Null || b.Kind <= Null {
			return truth(true)
		}
	case "<", ">", "<=", ">=":
		if a.Kind == String && b.Kind == String {
			n := strings.Compare(a.Text, b.Text)
			return truth(e.Text == "<" && n < 0 || e.Text == ">" && n > 0 || e.Text == "<=" && n <= 0 || e.Text == ">=" && n >= 0)
		}
		x, y := NumberOf(a), NumberOf(b)
		return truth(e.Text == "<" && x < y || e.Text == ">" && x > y || e.Text == "<=" && x <= y || e.Text == ">=" && x >= y)
	case "-":
		return Num(NumberOf(a) - NumberOf(b))
	case "*":
		return Num(NumberOf(a) * NumberOf(b))
	case "/":
		return Num(NumberOf(a) / NumberOf(b))
	case "%":
		return Num(math.Mod(NumberOf(a), NumberOf(b)))
	case "in":
		_, has := b.Get(TextOf(a))
		return truth(has)
	}
	return c.lost()
}

func (c *script) member(of Value, name string) Value {
	switch of.Kind {
	case Object:
		v, _ := of.Get(name)
		return v
	case Array:
		if name == "length" {
			return Num(float64(len(of.Elems)))
		}
		if i, err := strconv.Atoi(name); err == nil {
			if i >= 0 && i < len(of.Elems) {
				return of.Elems[i]
			}
			return Value{}
		}
	case String:
		if name == "length" {
			return Num(float64(len([]rune(of.Text))))
		}
	case Undefined, Null: // of ?., which is not told apart from what throws
		return Value{}
	}
	return c.lost()
}

// call runs a call of a function of the platform, or of the app.
func (c *script) call(e *code.Expr) Value {
	callee := e.Args[0]
	var args []Value
	given := func() []Value {
		for _, a := range e.Args[1:] {
			args = append(args, c.expr(a))
		}
		return args
	}
	switch callee.Op {
	case code.Name:
		if e.Const && callee.Text == "Date" {
			return c.date(given())
		}
		if _, _, ok := c.w.Find(c.s, callee.Text); ok {
			v, ok := call(c.w, c.s, callee, c.budget, given())
			c.ok = c.ok && ok
			return v
		}
		return c.platform(callee.Text, given())
	case code.Member:
		if on := callee.Args[0]; on.Op == code.Name {
			if module, _, ok := c.w.Import(c.s, on.Text); ok && known[module+"."+callee.Text] != nil {
				return known[module+"."+callee.Text](given())
			}
			switch on.Text + "." + callee.Text {
			case "Array.isArray":
				return Value{Kind: Bool, Bool: c.expr(e.Args[1]).Kind == Array}
			case "Number.isInteger", "Number.isSafeInteger":
				v := c.expr(e.Args[1])
				return Value{Kind: Bool, Bool: v.Kind == Number && v.Number == math.Trunc(v.Number) && !math.IsInf(v.Number, 0)}
			case "Number.isNaN":
				v := c.expr(e.Args[1])
				return Value{Kind: Bool, Bool: v.Kind == Number && math.IsNaN(v.Number)}
			case "Number.isFinite":
				v := c.expr(e.Args[1])
				return Value{Kind: Bool, Bool: v.Kind == Number && !math.IsNaN(v.Number) && !math.IsInf(v.Number, 0)}
			case "Math.round":
				return Num(math.Floor(NumberOf(c.expr(e.Args[1])) + 0.5))
			case "Math.floor":
				return Num(math.Floor(NumberOf(c.expr(e.Args[1]))))
			case "Math.trunc":
				return Num(math.Trunc(NumberOf(c.expr(e.Args[1]))))
			case "Number.parseFloat", "Number.parseInt":
				return c.platform(callee.Text, given())
			}
		}
		return c.method(callee, e)
	}
	return c.lost()
}

// platform is what a function of the platform answers.
func (c *script) platform(name string, args []Value) Value {
	arg := Value{}
	if len(args) > 0 {
		arg = args[0]
	}
	switch name {
	case "Number":
		return Num(NumberOf(arg))
	case "String":
		if arg.Kind == Date || arg.Kind == Other {
			return c.lost()
		}
		return Text(TextOf(arg))
	case "Boolean":
		return Value{Kind: Bool, Bool: Truthy(arg)}
	case "parseInt", "parseFloat":
		text := strings.TrimSpace(TextOf(arg))
		pattern := wholeStart
		if name == "parseFloat" {
			pattern = floatStart
		}
		n, err := strconv.ParseFloat(pattern.FindString(text), 64)
		if err != nil {
			return Num(math.NaN())
		}
		return Num(n)
	}
	return c.lost()
}

var (
	wholeStart = regexp.MustCompile(`^[+-]?\d+`)
	floatStart = regexp.MustCompile(`^[+-]?(\d+\.?\d*|\.\d+)([eE][+-]?\d+)?`)
)

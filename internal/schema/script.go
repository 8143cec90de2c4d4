package schema

import (
	"math"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"time"

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

func (c *script) date(args []Value) Value {
	if len(args) != 1 {
		return c.lost()
	}
	ms, ok := DateOf(args[0])
	if !ok {
		return c.lost()
	}
	return Value{Kind: Date, Number: ms}
}

// DateOf is what new Date() makes of a value, in milliseconds, not a number for none that is; ok is false for a text in
// a form that engines read as they like (ECMA-262, Date Time String Format).
func DateOf(v Value) (ms float64, ok bool) {
	switch v.Kind {
	case Date:
		return v.Number, true
	case Number:
		if math.Abs(v.Number) > 8.64e15 {
			return math.NaN(), true
		}
		return math.Trunc(v.Number), true
	case Bool, Null:
		return NumberOf(v), true
	case Undefined:
		return math.NaN(), true
	case Object:
		return math.NaN(), true
	}
	return DateOfText(TextOf(v))
}

// layouts are forms that engines read beside the standard's.
var layouts = []string{
	"January 2, 2006 15:04 MST", "January 2, 2006 MST", "January 2, 2006", "2 January 2006", "Jan 2, 2006", "2 Jan 2006", time.RFC1123, time.RFC1123Z,
	"2006-01-02 15:04:05", "2006-01-02 15:04", "2006/01/02", "1/2/2006", "2006-1-2",
}

var isoDate = regexp.MustCompile(`^(\d{4}|[+-]\d{6})(-(\d\d)(-(\d\d))?)?(T(\d\d):(\d\d)(:(\d\d)([.,]\d+)?)?(Z|[+-]\d\d:\d\d)?)?$`)

// DateOfText is what Date.parse makes of a text, where the standard says it. Times without an offset are in UTC here.
func DateOfText(s string) (ms float64, ok bool) {
	m := isoDate.FindStringSubmatch(s)
	if m == nil {
		for _, layout := range layouts {
			if t, err := time.Parse(layout, s); err == nil {
				return float64(t.UnixMilli()), true
			}
		}
		// One word, or digits that are no year, are no date for any engine.
		return math.NaN(), !strings.ContainsAny(s, " /-.,:") || s == ""
	}
	part := func(i, byDefault int) int {
		if m[i] == "" {
			return byDefault
		}
		n, _ := strconv.Atoi(m[i])
		return n
	}
	year, month, day := part(1, 0), part(3, 1), part(5, 1)
	hour, minute, second := part(7, 0), part(8, 0), part(10, 0)
	if month < 1 || month > 12 || day < 1 || day > 31 || hour > 24 || minute > 59 || second > 59 || hour == 24 && (minute > 0 || second > 0) {
		return math.NaN(), true
	}
	t := time.Date(year, time.Month(month), day, hour, minute, second, 0, time.UTC)
	ms = float64(t.UnixMilli())
	if m[11] != "" {
		f, _ := strconv.ParseFloat("0."+m[11][1:], 64)
		ms += math.Trunc(f*1000 + 1e-9)
	}
	if zone := m[12]; len(zone) == 6 {
		h, _ := strconv.Atoi(zone[1:3])
		min, _ := strconv.Atoi(zone[4:])
		offset := float64((h*60 + min) * 60000)
		if zone[0] == '-' {
			offset = -offset
		}
		ms -= offset
	}
	return ms, true
}

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

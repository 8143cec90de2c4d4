package classes

import (
	"math"
	"regexp"
	"slices"
	"strings"
	"time"

	"vetta/internal/code"
	"vetta/internal/schema"
	"vetta/internal/wire"
)

// checkOf is a decorator of a field that class-validator knows, with the class that has it.
type checkOf struct {
	name string
	args []*code.Expr
	in   *Class
}

func (m *maker) checksOf(c *Class, field string) (all []checkOf) {
	for at := c; at != nil; at = at.Super {
		for _, f := range at.Fields {
			if f.Name != field {
				continue
			}
			for _, e := range f.Marks {
				name, args, ok := m.mark(e, at.Scope)
				if !ok || transforms[name] || slices.ContainsFunc(all, func(o checkOf) bool { return o.name == name }) {
					continue
				}
				all = append(all, checkOf{name, args, at})
			}
		}
	}
	return all
}

// transforms are the decorators of class-transformer.
var transforms = map[string]bool{"Expose": true, "Exclude": true, "Type": true, "Transform": true}

// validate holds an instance to its decorators (ValidationExecutor.execute); with a whitelist it loses what has none.
func (m *maker) validate(r *run, v *Value, at steps) {
	c, _ := v.Class.(*Class)
	known := false
	if c != nil {
		for _, name := range fields(c) {
			known = known || len(m.checksOf(c, name)) > 0
		}
	}
	if !known { // of which nothing is registered
		r.Issue(at, "unknownValue", "an unknown value was passed to the validate function")
		return
	}
	if m.o.Whitelist || m.o.Forbid {
		kept := Value{Kind: v.Kind, Class: v.Class}
		for i, name := range v.Names {
			switch {
			case len(m.checksOf(c, name)) > 0:
				kept.Names, kept.Elems = append(kept.Names, name), append(kept.Elems, v.Elems[i])
			case m.o.Forbid && v.Elems[i].Kind != schema.Undefined:
				r.Issue(append(at, wire.MemberOf(name)), "whitelistValidation", "property "+name+" should not exist")
			}
		}
		*v = kept
	}
	for _, name := range fields(c) {
		all := m.checksOf(c, name)
		if len(all) == 0 {
			continue
		}
		value, has := v.Get(name)
		m.property(r, &value, name, all, append(at, wire.MemberOf(name)))
		if has {
			v.Set(name, value)
		}
	}
}

// property holds the value of one field to what its decorators ask.
func (m *maker) property(r *run, v *Value, name string, all []checkOf, at steps) {
	nested, each := false, false
	for _, c := range all {
		switch c.name {
		case "IsOptional":
			if v.Kind <= schema.Null {
				return
			}
		case "ValidateIf":
			r.Unknown = true
			return
		}
	}
	if m.o.SkipMissing && v.Kind <= schema.Null {
		return
	}
	for _, c := range all {
		if c.name == "ValidateNested" {
			nested, each = true, m.isEach(c)
			continue
		}
		if c.name == "IsOptional" || c.name == "Allow" {
			continue
		}
		f, known := validators[c.name]
		if !known {
			r.Unknown = true
			continue
		}
		args := make([]Value, len(c.args))
		for i, a := range c.args {
			v, ok := schema.Eval(m.w, c.in.Scope, a)
			if a.Op == code.Other && a.Text == "RegExp" {
				v, ok = Value{Kind: schema.Other}, true
			}
			if !ok {
				r.Unknown = true
			}
			args[i] = v
		}
		meets := func(v Value) bool { return f.meets(v, args, c.args) }
		fine := false
		if v.Kind == schema.Array && m.isEach(c) {
			fine = !slices.ContainsFunc(v.Elems, func(e Value) bool { return !meets(e) })
		} else {
			fine = meets(*v)
		}
		if !fine {
			r.Issue(at, f.code, name+" "+f.says)
		}
	}
	if nested {
		m.nested(r, v, name, each, at)
	}
}

// isEach says whether a decorator is of the elements of a list.
func (m *maker) isEach(c checkOf) bool {
	for _, a := range c.args {
		if a.Op != code.Dict {
			continue
		}
		if v, ok := schema.Eval(m.w, c.in.Scope, a); ok {
			if each, _ := v.Get("each"); schema.Truthy(each) {
				return true
			}
		}
	}
	return false
}

func (m *maker) nested(r *run, v *Value, name string, each bool, at steps) {
	switch v.Kind {
	case schema.Undefined:
	case schema.Array:
		for i := range v.Elems {
			m.nested(r, &v.Elems[i], name, each, append(at, wire.MemberOf(schema.NumberText(float64(i)))))
		}
	case schema.Object:
		m.validate(r, v, at)
	case schema.Date:
		r.Unknown = true
	default:
		r.Issue(at, "nestedValidation", "nested property "+name+" must be either object or array")
	}
}

// validator is what a decorator asks of a value.
type validator struct {
	code, says string
	meets      func(v Value, args []Value, written []*code.Expr) bool
}

func of(kind schema.Kind) func(Value, []Value, []*code.Expr) bool {
	return func(v Value, _ []Value, _ []*code.Expr) bool { return v.Kind == kind }
}

func number(ask func(n, limit float64) bool) func(Value, []Value, []*code.Expr) bool {
	return func(v Value, args []Value, _ []*code.Expr) bool {
		limit := 0.0
		if len(args) > 0 {
			limit = args[0].Number
		}
		return v.Kind == schema.Number && ask(v.Number, limit)
	}
}

func length(ask func(n float64, args []Value) bool, kind schema.Kind) func(Value, []Value, []*code.Expr) bool {
	return func(v Value, args []Value, _ []*code.Expr) bool {
		n := float64(len([]rune(v.Text)))
		if kind == schema.Array {
			n = float64(len(v.Elems))
		}
		return v.Kind == kind && ask(n, args)
	}
}

func among(v Value, all []Value) bool {
	return slices.ContainsFunc(all, func(o Value) bool { return schema.Same(o, v) })
}

func format(re *regexp.Regexp) func(Value, []Value, []*code.Expr) bool {
	return func(v Value, _ []Value, _ []*code.Expr) bool {
		return v.Kind == schema.String && re.MatchString(v.Text)
	}
}

var (
	isoText   = regexp.MustCompile(`^[+-]?\d{4}(-?((0[1-9]|1[0-2])(-?([12]\d|0[1-9]|3[01]))?|W([0-4]\d|5[0-3])(-?[1-7])?|(00[1-9]|0[1-9]\d|[12]\d{2}|3([0-5]\d|6[1-6])))([T\s](([01]\d|2[0-3])(:?[0-5]\d)?|24:?00)([.,]\d+)?(:?[0-5]\d([.,]\d+)?)?([zZ]|[+-]([01]\d|2[0-3]):?([0-5]\d)?)?)?)?$`)
	dayText   = regexp.MustCompile(`^\d{4}-\d\d-\d\d`)
	emailText = regexp.MustCompile(`^[A-Za-z0-9!#$%&'*+/=?^_{|}~-]+(\.[A-Za-z0-9!#$%&'*+/=?^_{|}~-]+)*@([A-Za-z0-9]([A-Za-z0-9-]*[A-Za-z0-9])?\.)+[A-Za-z]{2,}$`)
	uuidText  = regexp.MustCompile(`^[0-9a-fA-F]{8}-[0-9a-fA-F]{4}-[0-9a-fA-F]{4}-[0-9a-fA-F]{4}-[0-9a-fA-F]{12}$`)
	numText   = regexp.MustCompile(`^[+-]?(\d*\.)?\d+$`)
)

// isISO says whether a text is a date of ISO 8601; strictly, whether there is such a day.
func isISO(v Value, args []Value, _ []*code.Expr) bool {
	if v.Kind != schema.String || !isoText.MatchString(v.Text) {
		return false
	}
	strict := false
	if len(args) > 0 {
		s, _ := args[0].Get("strict")
		strict = schema.Truthy(s)
	}
	if !strict || !dayText.MatchString(v.Text) {
		return true
	}
	_, err := time.Parse("2006-01-02", v.Text[:10])
	return err == nil
}

// validators are the decorators that are followed.
var validators = map[string]validator{
	"IsString":      {"isString", "must be a string", of(schema.String)},
	"IsBoolean":     {"isBoolean", "must be a boolean value", of(schema.Bool)},
	"IsArray":       {"isArray", "must be an array", of(schema.Array)},
	"IsObject":      {"isObject", "must be an object", of(schema.Object)},
	"IsInt":         {"isInt", "must be an integer number", number(func(n, _ float64) bool { return n == math.Trunc(n) && !math.IsInf(n, 0) })},
	"IsNumber":      {"isNumber", "must be a number conforming to the specified constraints", isNumber},
	"IsPositive":    {"isPositive", "must be a positive number", number(func(n, _ float64) bool { return n > 0 })},
	"IsNegative":    {"isNegative", "must be a negative number", number(func(n, _ float64) bool { return n < 0 })},
	"Min":           {"min", "must not be less than the limit", number(func(n, limit float64) bool { return n >= limit })},
	"Max":           {"max", "must not be greater than the limit", number(func(n, limit float64) bool { return n <= limit })},
	"IsDivisibleBy": {"isDivisibleBy", "must be divisible", number(func(n, by float64) bool { return math.Mod(n, by) == 0 })},
	"IsDate":        {"isDate", "must be a Date instance", func(v Value, _ []Value, _ []*code.Expr) bool { return v.Kind == schema.Date && !math.IsNaN(v.Number) }},
	"IsDateString":  {"isDateString", "must be a valid ISO 8601 date string", isISO},
	"IsISO8601":     {"isIso8601", "must be a valid ISO 8601 date string", isISO},
	"IsEnum": {"isEnum", "must be one of the values of the enum", func(v Value, args []Value, _ []*code.Expr) bool {
		if len(args) == 0 {
			return false
		}
		all := slices.Clone(args[0].Elems)
		for i, e := range args[0].Elems {
			if e.Kind == schema.Number { // a numeric enum has its names as values too
				all = append(all, schema.Text(args[0].Names[i]))
			}
		}
		return among(v, all)
	}},
	"IsIn": {"isIn", "must be one of the values", func(v Value, args []Value, _ []*code.Expr) bool { return len(args) > 0 && among(v, args[0].Elems) }},
	"IsNotIn": {"isNotIn", "should not be one of the values", func(v Value, args []Value, _ []*code.Expr) bool {
		return len(args) > 0 && !among(v, args[0].Elems)
	}},
	"Equals":        {"equals", "must be equal", func(v Value, args []Value, _ []*code.Expr) bool { return len(args) > 0 && schema.Same(v, args[0]) }},
	"NotEquals":     {"notEquals", "should not be equal", func(v Value, args []Value, _ []*code.Expr) bool { return len(args) > 0 && !schema.Same(v, args[0]) }},
	"IsDefined":     {"isDefined", "should not be null or undefined", func(v Value, _ []Value, _ []*code.Expr) bool { return v.Kind > schema.Null }},
	"IsNotEmpty":    {"isNotEmpty", "should not be empty", func(v Value, _ []Value, _ []*code.Expr) bool { return !isEmpty(v) }},
	"IsEmpty":       {"isEmpty", "must be empty", func(v Value, _ []Value, _ []*code.Expr) bool { return isEmpty(v) }},
	"MinLength":     {"minLength", "must be longer", length(func(n float64, args []Value) bool { return len(args) > 0 && n >= args[0].Number }, schema.String)},
	"MaxLength":     {"maxLength", "must be shorter", length(func(n float64, args []Value) bool { return len(args) > 0 && n <= args[0].Number }, schema.String)},
	"ArrayMinSize":  {"arrayMinSize", "must contain more elements", length(func(n float64, args []Value) bool { return len(args) > 0 && n >= args[0].Number }, schema.Array)},
	"ArrayMaxSize":  {"arrayMaxSize", "must contain fewer elements", length(func(n float64, args []Value) bool { return len(args) > 0 && n <= args[0].Number }, schema.Array)},
	"ArrayNotEmpty": {"arrayNotEmpty", "should not be empty", length(func(n float64, _ []Value) bool { return n > 0 }, schema.Array)},
	"Length": {"isLength", "must be of another length", length(func(n float64, args []Value) bool {
		return len(args) > 0 && n >= args[0].Number && (len(args) < 2 || args[1].Kind != schema.Number || n <= args[1].Number)
	}, schema.String)},
	"IsEmail":        {"isEmail", "must be an email", format(emailText)},
	"IsUUID":         {"isUuid", "must be a UUID", format(uuidText)},
	"IsNumberString": {"isNumberString", "must be a number string", format(numText)},
	"Contains": {"contains", "must contain the text", func(v Value, args []Value, _ []*code.Expr) bool {
		return v.Kind == schema.String && len(args) > 0 && strings.Contains(v.Text, args[0].Text)
	}},
	"Matches": {"matches", "must match the pattern", func(v Value, _ []Value, written []*code.Expr) bool {
		if len(written) == 0 {
			return true
		}
		re, ok := schema.Regexp(written[0])
		return v.Kind == schema.String && (!ok || re.MatchString(v.Text))
	}},
}

func isEmpty(v Value) bool { return v.Kind <= schema.Null || v.Kind == schema.String && v.Text == "" }

func isNumber(v Value, _ []Value, _ []*code.Expr) bool {
	return v.Kind == schema.Number && !math.IsNaN(v.Number) && !math.IsInf(v.Number, 0)
}

package types

import (
	"regexp"
	"strconv"
	"strings"
)

// maxDeep is how far types are followed into each other; what is deeper is taken to fit.
const maxDeep = 24

// Fits says whether every value of a type is one of another, as extends in a conditional type asks.
func Fits(t, of *Type) bool { return fits(t, of, 0) }

func fits(t, of *Type, depth int) bool {
	switch {
	case depth > maxDeep, of.Kind == Any || of.Kind == Unknown, t.Kind == Never, t.Kind == Any && of.Kind != Never, Same(t, of):
		return true
	case of.Kind == Never:
		return false
	case t.Kind == Union || t.Kind == Boolean && (of.Kind == Union || of.Kind == BoolLiteral):
		for _, e := range t.Each(true) {
			if !fits(e, of, depth+1) {
				return false
			}
		}
		return true
	case of.Kind == Union:
		for _, e := range of.Elems {
			if fits(t, e, depth+1) {
				return true
			}
		}
		return false
	case of.Kind == Brand:
		return t.Kind == Brand && fits(t.Elems[0], of.Elems[0], depth+1) && fits(t.Elems[1], of.Elems[1], depth+1)
	case t.Kind == Brand:
		return fits(t.Elems[0], of, depth+1) || fits(t.Elems[1], of, depth+1)
	}
	switch of.Kind {
	case String:
		return t.Kind == StringLiteral || t.Kind == Template || t.Kind == Cased
	case Number:
		return t.Kind == NumberLiteral || t.Kind == EnumNumber
	case Boolean:
		return t.Kind == BoolLiteral
	case BigInt:
		return t.Kind == BigIntLiteral
	case Template, Cased:
		return t.Kind == StringLiteral && Matches(of, t.Text)
	case StringLiteral, NumberLiteral, BoolLiteral, BigIntLiteral:
		return t.Kind == of.Kind && t.Text == of.Text
	case NonPrimitive:
		return isObject(t)
	case Function:
		return t.Kind == Function || t.Kind == Object && t.Members().Called
	case Array:
		switch t.Kind {
		case Array:
			return fits(t.Elems[0], of.Elems[0], depth+1)
		case Tuple:
			for _, e := range t.Elems {
				if !fits(e, of.Elems[0], depth+1) {
					return false
				}
			}
			return true
		}
		return false
	case Tuple:
		if t.Kind != Tuple || len(t.Elems) != len(of.Elems) {
			return false
		}
		for i := range t.Elems {
			if !fits(t.Elems[i], of.Elems[i], depth+1) {
				return false
			}
		}
		return true
	case BuiltIn:
		return t.Kind == BuiltIn && t.Text == of.Text
	case Object:
		return fitsObject(t, of, depth)
	}
	return false
}

func isObject(t *Type) bool {
	switch t.Kind {
	case Object, Array, Tuple, Function, BuiltIn, NonPrimitive:
		return true
	}
	return false
}

func fitsObject(t, of *Type, depth int) bool {
	o := of.Members()
	if len(o.Props) == 0 && len(o.Index) == 0 && !o.Called && !o.Symbols {
		return t.Kind != Null && t.Kind != Undefined && t.Kind != Unknown
	}
	if t.Kind != Object {
		return false
	}
	own := t.Members()
	for _, p := range o.Props {
		mine := own.Prop(p.Name)
		if mine == nil {
			if !p.Optional {
				return false
			}
			continue
		}
		if mine.Optional && !p.Optional || !fits(mine.Type(), p.Type(), depth+1) {
			return false
		}
	}
	for _, ix := range o.Index {
		for _, p := range own.Props {
			if !fits(p.Type(), ix.Value, depth+1) {
				return false
			}
		}
	}
	return !o.Called || own.Called
}

// bigText is what the compiler reads as a bigint in a template literal type.
var bigText = regexp.MustCompile(`^-?(0|[1-9]\d*|0[xX][0-9a-fA-F]+|0[oO][0-7]+|0[bB][01]+)$`)

// Matches says whether a text is of a type of texts: a template literal type, or one of those that change case.
func Matches(t *Type, text string) bool {
	switch t.Kind {
	case Any, Unknown, String:
		return true
	case StringLiteral:
		return t.Text == text
	case Number, EnumNumber:
		return isNumber(text)
	case BigInt:
		return bigText.MatchString(text)
	case Boolean:
		return text == "true" || text == "false"
	case Null:
		return text == "null"
	case Undefined:
		return text == "undefined"
	case NumberLiteral, BoolLiteral, BigIntLiteral:
		return t.Text == text
	case Union:
		for _, e := range t.Elems {
			if Matches(e, text) {
				return true
			}
		}
		return false
	case Cased:
		return Recase(t.Text, text) == text && (len(t.Elems) == 0 || Matches(t.Elems[0], text))
	case Brand:
		return Matches(t.Elems[0], text)
	case Template:
		return matchTemplate(t, 0, text)
	}
	return false
}

// isNumber says whether a text is one of ${number}: JavaScript's Number makes a finite number of it (isValidNumberString).
func isNumber(text string) bool {
	text = strings.TrimSpace(text)
	if text == "" || strings.ContainsAny(text, "_nNiIpP") {
		return false
	}
	if len(text) > 2 && text[0] == '0' && strings.ContainsAny(text[1:2], "xXoObB") {
		_, err := strconv.ParseUint(text, 0, 64)
		return err == nil
	}
	_, err := strconv.ParseFloat(text, 64)
	return err == nil && !strings.ContainsAny(text, "xX")
}

// numberRound says whether a text is a number as the name of a property: one that is written back as that text
// (isNumericLiteralName).
func numberRound(text string) bool {
	n, err := strconv.ParseFloat(text, 64)
	return err == nil && Digits(n) == text
}

// matchTemplate matches what comes from the hole i on: each but the last hole takes as little as it can, at least one
// character where another hole follows directly.
func matchTemplate(t *Type, i int, text string) bool {
	if i == 0 {
		rest, ok := strings.CutPrefix(text, t.Texts[0])
		if !ok {
			return false
		}
		text = rest
	}
	if i == len(t.Elems) {
		return text == ""
	}
	next := t.Texts[i+1]
	if i == len(t.Elems)-1 {
		inner, ok := strings.CutSuffix(text, next)
		return ok && Matches(t.Elems[i], inner)
	}
	for end := 0; end <= len(text); end++ {
		rest, ok := strings.CutPrefix(text[end:], next)
		if !ok || next == "" && end == 0 && text != "" {
			continue
		}
		return Matches(t.Elems[i], text[:end]) && matchTemplate(t, i+1, rest) || next == "" && t.Elems[i].Kind != String && matchLater(t, i, text, end+1)
	}
	return false
}

// matchLater matches a hole that another follows directly with more than it can do with least.
func matchLater(t *Type, i int, text string, from int) bool {
	for end := from; end <= len(text); end++ {
		if Matches(t.Elems[i], text[:end]) && matchTemplate(t, i+1, text[end:]) {
			return true
		}
	}
	return false
}

// Recase is a text as one of the compiler's own string types makes it: Uppercase, Lowercase, Capitalize, Uncapitalize.
func Recase(how, text string) string {
	if text == "" {
		return text
	}
	first := []rune(text)[:1]
	rest := text[len(string(first)):]
	switch how {
	case "Uppercase":
		return strings.ToUpper(text)
	case "Lowercase":
		return strings.ToLower(text)
	case "Capitalize":
		return strings.ToUpper(string(first)) + rest
	case "Uncapitalize":
		return strings.ToLower(string(first)) + rest
	}
	return text
}

package zod

import (
	"math"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"vetta/internal/schema"
)

// What zod 3 does in another way than zod 4: it lets Infinity and absent keys of any and unknown through, tells literals and
// enums apart, and says it in words of its own. Measured with zod/v3 of zod 4.6 (seen-v3.tsv of the forms zod-).

// three is the major version that is told apart, moduleThree what it is imported from.
const (
	three       = 3
	moduleThree = "zod/v3"
)

// nativeEnum is the kind of an enum of the source, of which version 3 speaks as of others.
const nativeEnum = "native enum"

func invalidThree(r *run, at steps, expected string, v Value) Value {
	switch expected {
	case "tuple":
		expected = "array"
	case "record":
		expected = "object"
	case "NaN":
		expected = "nan"
	case "nonoptional":
		expected = "undefined"
	}
	switch {
	case expected == "date" && v.Kind == schema.Date:
		r.Issue(at, "invalid_date", "Invalid date")
	case v.Kind == schema.Undefined:
		r.Issue(at, "invalid_type", "Required")
	default:
		r.Issue(at, "invalid_type", "Expected "+expected+", received "+receivedThree(v))
	}
	return v
}

func receivedThree(v Value) string {
	switch {
	case v.Kind == schema.Date:
		return "date"
	case v.Kind == schema.Number && math.IsNaN(v.Number):
		return "nan"
	case v.Kind == schema.Number:
		return "number"
	}
	return received(v)
}

// notOneThree is the issue of a value that is none of those that a literal or an enum has.
func notOneThree(r *run, at steps, kind string, all []Value, v Value) Value {
	if kind == "literal" {
		wanted := ""
		if len(all) > 0 {
			if wanted = schema.TextOf(all[0]); all[0].Kind == schema.String {
				wanted = strconv.Quote(wanted)
			}
		}
		r.Issue(at, "invalid_literal", "Invalid literal value, expected "+wanted)
		return v
	}
	names := make([]string, len(all))
	for i, one := range all {
		if names[i] = schema.TextOf(one); one.Kind == schema.String {
			names[i] = "'" + one.Text + "'"
		}
	}
	wanted := strings.Join(names, " | ")
	switch {
	case v.Kind == schema.Undefined:
		r.Issue(at, "invalid_type", "Required")
	case v.Kind == schema.String, v.Kind == schema.Number && kind == nativeEnum:
		r.Issue(at, "invalid_enum_value", "Invalid enum value. Expected "+wanted+", received '"+schema.TextOf(v)+"'")
	default:
		r.Issue(at, "invalid_type", "Expected "+wanted+", received "+receivedThree(v))
	}
	return v
}

// boundThree is the issue of a measure that is not between two others.
func boundThree(r *run, at steps, what string, n, low, high float64, inclusive bool) {
	small := n < low || !inclusive && n == low
	code, limit := "too_big", high
	if small {
		code, limit = "too_small", low
	}
	how := map[bool]string{true: "at least ", false: "at most "}[small]
	switch {
	case low == high:
		how = "exactly "
	case !inclusive:
		how = map[bool]string{true: "over ", false: "under "}[small]
	}
	text := schema.NumberText(limit)
	switch what {
	case "array":
		r.Issue(at, code, "Array must contain "+how+text+" element(s)")
	case "string":
		r.Issue(at, code, "String must contain "+how+text+" character(s)")
	default:
		than := map[bool]string{true: "greater than ", false: "less than "}[small]
		if inclusive {
			than += "or equal to "
		}
		r.Issue(at, code, "Number must be "+than+text)
	}
}

// lengthThree asks for as many elements as a tuple has, and says whether they are looked at: of one with a rest too.
func lengthThree(r *run, at steps, have, items int, rest bool) bool {
	switch {
	case have < items:
		r.Issue(at, "too_small", "Array must contain at least "+strconv.Itoa(items)+" element(s)")
		return false
	case have > items && !rest:
		r.Issue(at, "too_big", "Array must contain at most "+strconv.Itoa(items)+" element(s)")
	}
	return true
}

// safeCheck asks for a number that a double holds exactly; of version 4 it must be whole too.
func safeCheck(r *run, v Value, at steps) {
	const largest = 1<<53 - 1
	switch {
	case r.Major != three:
		intCheck(r, v, at)
	case v.Number > largest:
		r.Issue(at, "too_big", "Number must be less than or equal to 9007199254740991")
	case v.Number < -largest:
		r.Issue(at, "too_small", "Number must be greater than or equal to -9007199254740991")
	}
}

// finiteCheck asks version 3 for what version 4 asks of every number.
func finiteCheck(r *run, v Value, at steps) {
	if r.Major == three && math.IsInf(v.Number, 0) {
		r.Issue(at, "not_finite", "Number must be finite")
	}
}

var (
	clockThree = regexp.MustCompile(`^([01]\d|2[0-3]):[0-5]\d(:[0-5]\d(\.\d+)?)?$`)
	cuidThree  = regexp.MustCompile(`(?i)^c[^\s-]{8,}$`)
	zoneThree  = regexp.MustCompile(`(Z|[+-]\d{2}:?\d{2})$`)
)

// formatThree asks for a format; seconds may be left out, and offsets may stand without a colon.
func formatThree(r *run, at steps, name, text string, fits func(string) bool, options map[string]bool) {
	words := name
	switch name {
	case "datetime":
		fits = func(text string) bool {
			day, rest, ok := strings.Cut(text, "T")
			zone := zoneThree.FindString(rest)
			return ok && isDay(day) && clockThree.MatchString(strings.TrimSuffix(rest, zone)) &&
				(zone == "Z" || zone == "" && options["local"] || zone != "" && options["offset"])
		}
	case "time":
		fits = clockThree.MatchString
	case "uuid":
		fits = formats["guid"]
	case "cuid":
		fits = cuidThree.MatchString
	}
	if !fits(text) {
		r.Issue(at, "invalid_string", "Invalid "+words)
	}
}

// dirty are the codes of what checks refuse: a value of the right kind all the same.
var dirty = []string{"too_small", "too_big", "invalid_string", "not_multiple_of", "not_finite", "custom", "unrecognized_keys"}

// isDirty says whether only checks refuse a value; a union then says what they say.
func isDirty(issues []schema.Issue) bool {
	return !slices.ContainsFunc(issues, func(i schema.Issue) bool { return !slices.Contains(dirty, i.Code) })
}

// bare are names without their quotes.
func bare(quoted []string) []string {
	out := make([]string, len(quoted))
	for i, q := range quoted {
		if name, err := strconv.Unquote(q); err == nil {
			out[i] = name
		}
	}
	return out
}

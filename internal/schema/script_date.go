package schema

import (
	"math"
	"regexp"
	"strconv"
	"strings"
	"time"
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

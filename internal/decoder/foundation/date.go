package foundation

import (
	"strconv"
	"strings"
	"time"
	_ "time/tzdata" // zones by name on machines that have no zone files

	"vetta/internal/decoder"
	"vetta/internal/wire"
)

// referenceDate is 2001-01-01T00:00:00Z in seconds since 1970: what Date counts from.
const referenceDate = 978307200

// date is what the decoder's dateDecodingStrategy makes of a value, nil where code
// of the app's own decides.
func (c *compiler) date() func(*wire.Value) decoder.Verdict {
	switch c.settings.Option("dates") {
	case "", "deferredToDate":
		return dateOfNumber(func(f float64) float64 { return f + referenceDate }, isSeconds)
	case "secondsSince1970":
		return dateOfNumber(func(f float64) float64 { return f }, isMilliseconds)
	case "millisecondsSince1970":
		return dateOfNumber(func(f float64) float64 { return f / 1000 }, isSeconds)
	case "iso8601":
		return dateOfText(parseISO8601, corrupted(decoder.ReasonDate, decoder.AtDecoder, "Expected date string to be ISO8601-formatted."))
	case "formatted":
		zone := zoneOf(c.settings.Option("dates.zone"))
		f := parsePattern(c.settings.Option("dates.pattern"))
		if f == nil {
			return nil
		}
		return dateOfText(func(s string) (float64, bool) { return f.parse(s, zone) },
			corrupted(decoder.ReasonDate, decoder.AtValue, "Date string does not match format expected by formatter."))
	}
	return nil
}

// A number in these ranges is, as seconds or as milliseconds since 1970, a date
// from 2008 to 2100: far from where the decoder's own unit puts the dates of today.
func isSeconds(f float64) bool      { return f >= 1200000000 && f < 4102444800 }
func isMilliseconds(f float64) bool { return f >= 1200000000000 && f < 4102444800000 }

// dateOfNumber reads a date that is sent as a number. otherUnit says which numbers
// look like dates in another unit than the decoder takes them for.
func dateOfNumber(seconds func(float64) float64, otherUnit func(float64) bool) func(*wire.Value) decoder.Verdict {
	double := readFloat("Double", 64, nil)
	return func(v *wire.Value) decoder.Verdict {
		if v.Kind == wire.Null {
			return decoder.Verdict{Err: valueNotFound("Date")}
		}
		verdict := double(v)
		if verdict.Err != nil {
			return verdict
		}
		f, _ := strconv.ParseFloat(verdict.Seen.Text, 64)
		verdict = decoder.Verdict{Seen: decoder.Seen{Kind: decoder.SeenDate, Seconds: seconds(f)}}
		if otherUnit(f) {
			verdict.Loss = decoder.WrongUnit
		}
		return verdict
	}
}

func dateOfText(parse func(string) (float64, bool), refused *decoder.Error) func(*wire.Value) decoder.Verdict {
	return func(v *wire.Value) decoder.Verdict {
		if v.Kind == wire.Null {
			return decoder.Verdict{Err: valueNotFound("Date")}
		}
		s, err := text(v)
		if err != nil {
			return decoder.Verdict{Err: err}
		}
		seconds, ok := parse(s)
		if !ok {
			return decoder.Verdict{Err: refused}
		}
		return decoder.Verdict{Seen: decoder.Seen{Kind: decoder.SeenDate, Seconds: seconds}}
	}
}

// digits reads digits at the start of s, at least min and at most max, 0 for any
// number, and answers their value and what follows.
func digits(s string, min, max int) (n int, rest string, ok bool) {
	i := 0
	for i < len(s) && s[i] >= '0' && s[i] <= '9' && (max == 0 || i < max) && i < 9 {
		n = n*10 + int(s[i]-'0')
		i++
	}
	return n, s[i:], i >= min && i > 0
}

// parseISO8601 is Date.ISO8601FormatStyle with its default fields: a date and a
// time joined by T, with a zone. Fractional seconds are read where they come. What
// follows the zone is not looked at.
func parseISO8601(s string) (seconds float64, ok bool) {
	var field [6]int
	for i, after := range []string{"-", "-", "T", ":", ":", ""} {
		if field[i], s, ok = digits(s, 1, 0); !ok {
			return 0, false
		}
		if s, ok = strings.CutPrefix(s, after); !ok {
			return 0, false
		}
	}
	fraction := 0.0
	if rest, found := strings.CutPrefix(s, "."); found {
		end := 0
		for end < len(rest) && rest[end] >= '0' && rest[end] <= '9' {
			end++
		}
		if end == 0 {
			return 0, false
		}
		fraction, _ = strconv.ParseFloat("0."+rest[:end], 64)
		s = rest[end:]
	}
	offset, _, ok := zoneOffset(s)
	if !ok {
		return 0, false
	}
	t := time.Date(field[0], time.Month(field[1]), field[2], field[3], field[4], field[5], 0, time.UTC)
	return float64(t.Unix()-int64(offset)) + fraction, true
}

// zoneOffset reads Z, GMT, UTC or an offset such as +02:00, +0200 or +02, in
// seconds east, and answers what follows it.
func zoneOffset(s string) (offset int, rest string, ok bool) {
	for _, name := range []string{"Z", "UTC", "GMT"} {
		if rest, found := strings.CutPrefix(s, name); found {
			return 0, rest, true
		}
	}
	if s == "" || s[0] != '+' && s[0] != '-' {
		return 0, s, false
	}
	sign := 1
	if s[0] == '-' {
		sign = -1
	}
	hours, rest, ok := digits(s[1:], 2, 2)
	if !ok {
		return 0, s, false
	}
	total := hours * 3600
	for _, unit := range []int{60, 1} {
		n, after, ok := digits(strings.TrimPrefix(rest, ":"), 2, 2)
		if !ok {
			break
		}
		total, rest = total+n*unit, after
	}
	return sign * total, rest, true
}

// zoneOf is the zone that a TimeZone(…) in source names: seconds from GMT or a
// name. Where it names none that is known, or the source sets none and so the
// device's is used, it is UTC.
func zoneOf(name string) *time.Location {
	if n, err := strconv.Atoi(name); err == nil {
		return time.FixedZone("", n)
	}
	if zone, err := time.LoadLocation(name); err == nil && name != "" {
		return zone
	}
	return time.UTC
}

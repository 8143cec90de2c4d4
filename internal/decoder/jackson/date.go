package jackson

import (
	"fmt"
	"strconv"
	"strings"
	"time"

	"vetta/internal/decoder"
	"vetta/internal/decoder/jvm"
	"vetta/internal/wire"
)

// date reads milliseconds since 1970, ISO 8601 and RFC 1123 (StdDateFormat), or the
// pattern that is set or annotated, which errors tell apart; zone is that of texts which name none.
func (s *scalar) date(pattern string, annotated bool, zone *time.Location) func(*wire.Value) decoder.Verdict {
	take := func(ms int64) decoder.Verdict {
		seen := decoder.Seen{Kind: decoder.SeenDate, Seconds: float64(ms) / 1000}
		if exact := 1 << 53; ms > int64(exact) || ms < -int64(exact) { // which no float64 tells, and RFC 3339 has no text for
			seen.Text = strconv.FormatInt(ms, 10)
		}
		return decoder.Verdict{Seen: seen}
	}
	return func(v *wire.Value) decoder.Verdict {
		switch {
		case v.Kind == wire.Null:
			return decoder.Verdict{}
		case v.Kind == wire.Number && !isFloat(v):
			n, err := strconv.ParseInt(string(v.Raw), 10, 64)
			if err != nil {
				return decoder.Verdict{Err: fault("InvalidFormatException", decoder.ReasonRange, "Cannot deserialize value of type `%s` from number %s: not a valid 64-bit `long` for creating `%s`", s.typ, v.Raw, s.typ)}
			}
			out := take(n)
			if n >= 1200000000 && n < 4102444800 { // a time in seconds
				out.Loss = decoder.WrongUnit
			}
			return out
		case v.Kind == wire.String:
			text := jvm.Trim(jvm.Text(v))
			if text == "" && s.c.off("ALLOW_COERCION_OF_SCALARS") {
				return decoder.Verdict{Err: fault("InvalidFormatException", decoder.ReasonKind, "Cannot coerce empty String (\"\") to `%s` value (but could if coercion was enabled using `CoercionConfig`)", s.typ)}
			}
			if text == "" || text == "null" && pattern == "" {
				return decoder.Verdict{}
			}
			if pattern != "" {
				if at, ok, _ := jvm.ParsePattern(pattern, text, zone); ok {
					return take(at.UnixMilli())
				}
				problem := fmt.Sprintf("not a valid representation (error: Failed to parse Date value '%s': Unparseable date: %q)", text, text)
				if annotated {
					problem = fmt.Sprintf("expected format %q", pattern)
				}
				return decoder.Verdict{Err: weird(s.typ, text, problem, decoder.ReasonDate)}
			}
			if ms, ok := standardDate(text, zone); ok {
				return take(ms)
			}
			return decoder.Verdict{Err: weird(s.typ, text, fmt.Sprintf("not a valid representation (error: Failed to parse Date value '%s': %s)", text, dateProblem(text)), decoder.ReasonDate)}
		}
		return decoder.Verdict{Err: mismatched(s.typ, v)}
	}
}

// zone is that of texts which name none: of an annotation, of the mapper, or UTC; nil for one that is not followed.
func (c *compiler) zone(as format) *time.Location {
	name := as.zone
	if name == "" {
		name = c.settings.Option("dates.zone")
	}
	switch {
	case as.zone == "" && c.settings.Option("dates") != "":
		return nil
	case name == "" || name == "UTC" || name == "GMT" || name == "Z":
		return time.UTC
	case !strings.Contains(name, "/"): // EST, GMT+1: names of Java's own
		return nil
	}
	zone, err := time.LoadLocation(name)
	if err != nil {
		return nil
	}
	return zone
}

// dateProblem is what StdDateFormat says of a text that it cannot parse.
func dateProblem(s string) string {
	if looksISO(s) {
		return fmt.Sprintf("Cannot parse date %q: while it seems to fit format 'yyyy-MM-dd'T'HH:mm:ss.SSSX', parsing fails (leniency? null)", s)
	}
	return fmt.Sprintf("Cannot parse date %q: not compatible with any of standard forms (\"yyyy-MM-dd'T'HH:mm:ss.SSSX\", \"yyyy-MM-dd'T'HH:mm:ss.SSS\", \"EEE, dd MMM yyyy HH:mm:ss zzz\", \"yyyy-MM-dd\")", s)
}

func looksISO(s string) bool {
	return len(s) >= 7 && s[4] == '-' && strings.Trim(s[:4], "0123456789") == ""
}

// standardDate is StdDateFormat.parse: a date, a date with a time, with or without a
// zone (in where there is none), milliseconds as digits, or RFC 1123.
func standardDate(s string, in *time.Location) (ms int64, ok bool) {
	if !looksISO(s) {
		if n, err := strconv.ParseInt(s, 10, 64); err == nil {
			return n, true
		}
		at, ok, _ := jvm.ParsePattern("EEE, dd MMM yyyy HH:mm:ss zzz", s, in)
		return at.UnixMilli(), ok
	}
	date, clock, timed := strings.Cut(s, "T")
	if len(date) != 10 || date[7] != '-' || strings.Trim(date[5:7]+date[8:], "0123456789") != "" {
		return 0, false
	}
	number := func(s string) int { n, _ := strconv.Atoi(s); return n }
	at := func(h, m, s int) time.Time {
		return time.Date(number(date[:4]), time.Month(number(date[5:7])), number(date[8:]), h, m, s, 0, in)
	}
	if !timed {
		return at(0, 0, 0).UnixMilli(), true
	}
	offset := time.Duration(0)
	zone := strings.IndexAny(clock, "Z+-")
	if zone >= 0 {
		in = time.UTC
		if clock[zone] == 'Z' {
			if zone != len(clock)-1 {
				return 0, false
			}
		} else {
			digits := strings.ReplaceAll(clock[zone+1:], ":", "")
			if len(digits) != 2 && len(digits) != 4 || strings.Trim(digits, "0123456789") != "" {
				return 0, false
			}
			offset = time.Duration(number(digits[:2])) * time.Hour
			if len(digits) == 4 {
				offset += time.Duration(number(digits[2:])) * time.Minute
			}
			if clock[zone] == '-' {
				offset = -offset
			}
		}
		clock = clock[:zone]
	}
	clock, fraction, _ := strings.Cut(clock, ".")
	parts := strings.Split(clock, ":")
	if len(parts) < 2 || len(parts) > 3 || strings.Trim(fraction, "0123456789") != "" || len(fraction) > 9 {
		return 0, false
	}
	var hms [3]int
	for i, p := range parts {
		if len(p) != 2 || strings.Trim(p, "0123456789") != "" {
			return 0, false
		}
		hms[i] = number(p)
	}
	return at(hms[0], hms[1], hms[2]).Add(-offset).UnixMilli() + int64(number((fraction + "000")[:3])), true
}

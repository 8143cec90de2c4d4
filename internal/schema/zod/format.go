package zod

import (
	"regexp"
	"strings"
	"time"

	"vetta/internal/code"
	"vetta/internal/schema"
)

// formats are those of texts (zod 4, regexes.ts).
var formats = map[string]func(text string) bool{
	"email":    matches(`^(?:[A-Za-z0-9_'+\-.]*[A-Za-z0-9_+-])@(?:[A-Za-z0-9][A-Za-z0-9\-]*\.)+[A-Za-z]{2,}$`, func(s string) bool { return !strings.HasPrefix(s, ".") && !strings.Contains(s, "..") }),
	"uuid":     matches(`^([0-9a-fA-F]{8}-[0-9a-fA-F]{4}-[1-8][0-9a-fA-F]{3}-[89abAB][0-9a-fA-F]{3}-[0-9a-fA-F]{12}|00000000-0000-0000-0000-000000000000|ffffffff-ffff-ffff-ffff-ffffffffffff)$`, nil),
	"guid":     matches(`^[0-9a-fA-F]{8}-[0-9a-fA-F]{4}-[0-9a-fA-F]{4}-[0-9a-fA-F]{4}-[0-9a-fA-F]{12}$`, nil),
	"datetime": always, "date": isDay, "time": always,
	"ulid":   matches(`^[0-9A-HJKMNP-TV-Za-hjkmnp-tv-z]{26}$`, nil),
	"cuid2":  matches(`^[0-9a-z]+$`, nil),
	"cuid":   matches(`^[cC][0-9a-z]{6,}$`, nil),
	"nanoid": matches(`^[a-zA-Z0-9_-]{21}$`, nil),
	"xid":    matches(`^[0-9a-vA-V]{20}$`, nil),
	"ksuid":  matches(`^[A-Za-z0-9]{27}$`, nil),
	"e164":   matches(`^\+[1-9]\d{6,14}$`, nil),
	"base64": matches(`^$|^(?:[0-9a-zA-Z+/]{4})*(?:(?:[0-9a-zA-Z+/]{2}==)|(?:[0-9a-zA-Z+/]{3}=))?$`, nil),
	"ipv4":   matches(`^(?:`+octet+`\.){3}`+octet+`$`, nil),
	"cidrv4": matches(`^(?:`+octet+`\.){3}`+octet+`/([0-9]|[1-2][0-9]|3[0-2])$`, nil),
	"url":    isURL,
}

// octet is a number of an IPv4 address.
const octet = `(?:25[0-5]|2[0-4][0-9]|1[0-9][0-9]|[1-9][0-9]|[0-9])`

// named are the formats as messages have them, where that is not by their names.
var named = map[string]string{
	"datetime": "ISO datetime", "date": "ISO date", "time": "ISO time", "email": "email address", "uuid": "UUID", "guid": "GUID", "url": "URL", "ulid": "ULID",
	"xid": "XID", "ksuid": "KSUID", "e164": "E.164 number", "base64": "base64-encoded string", "ipv4": "IPv4 address", "cidrv4": "IPv4 range",
}

func isURL(text string) bool {
	valid, _ := schema.ParsesAsURL(text)
	return valid
}

// always stands for a format whose options say what it takes: see format.
func always(string) bool { return true }

func matches(pattern string, and func(string) bool) func(string) bool {
	re := regexp.MustCompile(pattern)
	return func(s string) bool { return re.MatchString(s) && (and == nil || and(s)) }
}

func isDay(s string) bool {
	if !dayText.MatchString(s) {
		return false
	}
	_, err := time.Parse("2006-01-02", s)
	return err == nil
}

var (
	dayText  = regexp.MustCompile(`^\d{4}-\d\d-\d\d$`)
	timeText = regexp.MustCompile(`^([01]\d|2[0-3]):[0-5]\d(:[0-5]\d(\.\d+)?)?$`)
	zoneText = regexp.MustCompile(`(Z|[+-]([01]\d|2[0-3]):[0-5]\d)$`)
)

// format is a schema of texts with a format that they must have.
func format(on *Schema, name string, e *code.Expr, b *builder, s schema.Scope) *Schema {
	options := map[string]bool{}
	if len(e.Args) > 1 {
		if v, ok := schema.Eval(b.w, s, e.Args[len(e.Args)-1]); ok && v.Kind == schema.Object {
			for i, n := range v.Names {
				options[n] = schema.Truthy(v.Elems[i])
				if n == "precision" || n == "hostname" || n == "protocol" {
					return schema.Lost("the " + n + " of ." + name + " is not followed")
				}
			}
		}
	}
	fits := formats[name]
	words := named[name]
	switch name {
	case "datetime":
		fits = func(text string) bool { return isDateTime(text, options["offset"], options["local"]) }
	case "time":
		fits = timeText.MatchString
	}
	if fits == nil {
		return schema.Lost("the format of ." + name + " is not followed")
	}
	if words == "" {
		words = name
	}
	return check(on, func(r *run, v Value, at steps) {
		if name == "url" {
			if _, known := schema.ParsesAsURL(v.Text); !known {
				r.Unknown = true
				return
			}
		}
		if r.Major == three {
			formatThree(r, at, name, v.Text, fits, options)
			return
		}
		if !fits(v.Text) {
			r.Issue(at, "invalid_format", "Invalid "+words)
		}
	})
}

// isDateTime says whether a text is a date and time as .datetime() takes it: in UTC, with an offset or without one where
// that is allowed. Seconds may be left out where nothing is behind them but an offset or nothing that is required.
func isDateTime(text string, offset, local bool) bool {
	day, rest, ok := strings.Cut(text, "T")
	if !ok || !isDay(day) {
		return false
	}
	zone := zoneText.FindString(rest)
	clock := strings.TrimSuffix(rest, zone)
	switch {
	case zone == "":
		if !local {
			return false
		}
	case zone != "Z":
		if !offset {
			return false
		}
	}
	return timeText.MatchString(clock) && (zone == "" || strings.Count(clock, ":") == 2)
}

package newtonsoft

import (
	"regexp"
	"strconv"
	"strings"
	"time"

	"vetta/internal/decoder"
	"vetta/internal/decoder/clr"
	"vetta/internal/model"
	"vetta/internal/wire"
)

// takesDates says whether texts that look like dates become dates while they are read.
func (c *compiler) takesDates() bool { return c.settings.Option("DateParseHandling") != "None" }

// dateOf is the date that the reader takes a text for, as DateParseHandling has it.
func (c *compiler) dateOf(text string) (seen decoder.Seen, ok bool) {
	kept := c.settings.Option("DateParseHandling") == "DateTimeOffset"
	if d, ok := isoDate(text); ok {
		if !kept {
			return c.zoned(clr.Local(d.Seen(), d.Zone)), true
		}
		return withOffset(d.Seen()), true
	}
	if seen, ok = microsoftDate(text); ok && kept {
		seen = withOffset(seen)
	}
	return seen, ok
}

// looksLikeDate says whether the reader takes a text for a date: an ISO one with a T, or one of Microsoft's.
func looksLikeDate(text string) bool {
	if _, ok := isoDate(text); ok {
		return true
	}
	_, ok := microsoftDate(text)
	return ok
}

// isoDate reads what DateTimeParser takes: yyyy-MM-ddTHH:mm:ss, perhaps with a fraction, and an offset with or
// without a colon.
func isoDate(text string) (d clr.ISO, ok bool) {
	if len(text) < 19 || text[10] != 'T' || text[16] != ':' {
		return d, false
	}
	if n := len(text); n >= 24 && (text[n-5] == '+' || text[n-5] == '-') && text[n-3] != ':' {
		text = text[:n-2] + ":" + text[n-2:]
	}
	return clr.ParseISO(text)
}

var msDate = regexp.MustCompile(`^/Date\((-?\d+)([+-]\d{4})?\)/$`)

// microsoftDate reads /Date(ms)/.
func microsoftDate(text string) (decoder.Seen, bool) {
	m := msDate.FindStringSubmatch(text)
	if m == nil {
		return decoder.Seen{}, false
	}
	ms, err := strconv.ParseInt(m[1], 10, 64)
	if err != nil {
		return decoder.Seen{}, false
	}
	t := time.UnixMilli(ms).UTC()
	if t.Year() < 1 || t.Year() > 9999 {
		return decoder.Seen{}, false
	}
	fraction := strconv.Itoa(1000 + t.Nanosecond()/1e6)[1:]
	return clr.Date(t.Year(), int(t.Month()), t.Day(), t.Hour(), t.Minute(), t.Second(), fraction, "Z"), true
}

// dated is the converter of dates at a site, "" for none.
func (c *compiler) dated(s site) string {
	if s.dates != "" {
		return s.dates
	}
	return c.settings.Option("dates")
}

// asDate is JsonReader.ReadAsDateTime and ReadAsDateTimeOffset, or a converter of dates.
func (c *compiler) asDate(v *wire.Value, t *model.Type, s site) decoder.Verdict {
	how := c.dated(s)
	name, format, _ := strings.Cut(how, ":")
	if name == "UnixDateTimeConverter" {
		return unix(v, t)
	}
	if name == "IsoDateTimeConverter" {
		return c.byConverter(v, t, format)
	}
	if v.Kind != wire.String {
		return decoder.Verdict{Err: reading(decoder.ReasonKind, "Unexpected character encountered while parsing value: "+first(v)+".")}
	}
	text, _ := v.Text()
	if text == "" {
		return decoder.Verdict{Err: serial(decoder.ReasonText, "Error converting value {null} to type '"+clr.Name(t)+"'.")}
	}
	if format == "" {
		format = c.settings.Option("DateFormatString")
	}
	if format != "" {
		seen, ok, known := clr.ByFormat(text, format)
		if ok {
			return decoder.Verdict{Seen: offset(seen, t)}
		}
		if !known {
			return decoder.Verdict{Seen: decoder.Seen{Kind: decoder.SeenUnknown}}
		}
	}
	if d, ok := isoDate(text); ok {
		if t.Name == "DateTimeOffset" {
			if d.Zone == "Z" || d.Zone == clr.NoZone {
				d.Zone = "+00:00"
			}
			return decoder.Verdict{Seen: d.Seen()}
		}
		return decoder.Verdict{Seen: c.zoned(clr.Local(d.Seen(), d.Zone))}
	}
	if seen, ok := microsoftDate(text); ok {
		return decoder.Verdict{Seen: offset(seen, t)}
	}
	if seen, ok := clr.ParseDate(text); ok {
		if seen.Kind == decoder.SeenDate && t.Name == "DateTimeOffset" {
			return decoder.Verdict{Seen: offset(seen, t)}
		}
		if seen.Kind == decoder.SeenDate {
			seen = c.zoned(seen)
		}
		return decoder.Verdict{Seen: seen}
	}
	return decoder.Verdict{Err: reading(decoder.ReasonDate, "Could not convert string to "+t.Name+": "+text+".")}
}

// byConverter is IsoDateTimeConverter: of a text that the reader has taken for a date before, that, with its offset lost;
// of another one by the format alone, or as DateTime.Parse has it.
func (c *compiler) byConverter(v *wire.Value, t *model.Type, format string) decoder.Verdict {
	if v.Kind != wire.String {
		return decoder.Verdict{Err: serial(decoder.ReasonKind, "Unexpected token parsing date. Expected String, got "+tokenName(v)+".")}
	}
	text, _ := v.Text()
	if c.takesDates() {
		if d, ok := isoDate(text); ok {
			return decoder.Verdict{Seen: offset(c.zoned(clr.Local(d.Seen(), d.Zone)), t)}
		}
		if seen, ok := microsoftDate(text); ok {
			return decoder.Verdict{Seen: offset(seen, t)}
		}
	}
	seen, ok := decoder.Seen{}, false
	if format != "" {
		var known bool
		if seen, ok, known = clr.ByFormat(text, format); !known {
			return decoder.Verdict{Seen: decoder.Seen{Kind: decoder.SeenUnknown}}
		}
	} else {
		seen, ok = clr.ParseDate(text)
	}
	if !ok {
		return decoder.Verdict{Err: &decoder.Error{Kind: "FormatException", Reason: decoder.ReasonDate, Message: "FormatException: String '" + text + "' was not recognized as a valid DateTime."}}
	}
	return decoder.Verdict{Seen: offset(seen, t)}
}

// zoned is a date as DateTimeZoneHandling has it.
func (c *compiler) zoned(s decoder.Seen) decoder.Seen {
	if c.settings.Option("DateTimeZoneHandling") == "Utc" && !strings.HasSuffix(s.Text, "Z") {
		s.Text += "Z"
	}
	if c.settings.Option("DateTimeZoneHandling") == "Unspecified" {
		s.Text = strings.TrimSuffix(s.Text, "Z")
	}
	return s
}

// offset is a date as one with an offset, where that is declared.
func offset(s decoder.Seen, t *model.Type) decoder.Seen {
	if t.Name != "DateTimeOffset" || s.Kind != decoder.SeenDate {
		return s
	}
	return withOffset(s)
}

func withOffset(s decoder.Seen) decoder.Seen {
	if !hasZone.MatchString(s.Text) {
		s.Text += "+00:00"
	}
	s.Text = strings.Replace(s.Text, "Z", "+00:00", 1)
	return s
}

var hasZone = regexp.MustCompile(`(Z|[+-]\d\d:\d\d)$`)

// unix is UnixDateTimeConverter: whole seconds, not below zero.
func unix(v *wire.Value, t *model.Type) decoder.Verdict {
	given := string(v.Raw)
	if v.Kind == wire.String {
		given, _ = v.Text()
		given = strings.TrimSpace(given)
	} else if v.Kind != wire.Number || isFloat(given) {
		return decoder.Verdict{Err: serial(decoder.ReasonKind, "Unexpected token parsing date. Expected Integer or String, got "+tokenName(v)+".")}
	}
	n, err := strconv.ParseInt(given, 10, 64)
	if err != nil {
		return decoder.Verdict{Err: serial(decoder.ReasonText, "Cannot convert invalid value to "+clr.Name(t)+".")}
	}
	if n < 0 {
		return decoder.Verdict{Err: serial(decoder.ReasonRange, "Cannot convert value that is before Unix epoch of 00:00:00 UTC on 1 January 1970 to "+clr.Name(t)+".")}
	}
	at := time.Unix(n, 0).UTC()
	if at.Year() > 9999 {
		return decoder.Verdict{Err: &decoder.Error{Kind: "ArgumentOutOfRangeException", Reason: decoder.ReasonRange, Message: "ArgumentOutOfRangeException: Value to add was out of range. (Parameter 'value')"}}
	}
	return decoder.Verdict{Seen: offset(clr.Date(at.Year(), int(at.Month()), at.Day(), at.Hour(), at.Minute(), at.Second(), "", "Z"), t)}
}

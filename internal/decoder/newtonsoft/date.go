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

// asDate is JsonReader.ReadAsDateTime and ReadAsDateTimeOffset, or a converter of dates.
func (c *compiler) asDate(v *wire.Value, t *model.Type, s site) decoder.Verdict {
	how := s.dates
	if how == "" {
		how = c.settings.Option("dates")
	}
	name, format, _ := strings.Cut(how, ":")
	if name == "UnixDateTimeConverter" {
		return unix(v, t)
	}
	if v.Kind != wire.String {
		return decoder.Verdict{Err: reading(decoder.ReasonKind, "Unexpected character encountered while parsing value: "+string(v.Raw)+".")}
	}
	text, _ := v.Text()
	if text == "" {
		return decoder.Verdict{Err: serial(decoder.ReasonText, "Error converting value {null} to type '"+clr.Name(t)+"'.")}
	}
	if format == "" {
		format = c.settings.Option("DateFormatString")
	}
	if format != "" {
		seen, ok, known := byFormat(text, format)
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
	if seen, ok := parsed(text); ok {
		if seen.Kind == decoder.SeenDate && t.Name == "DateTimeOffset" {
			return decoder.Verdict{Seen: offset(seen, t)}
		}
		return decoder.Verdict{Seen: seen}
	}
	return decoder.Verdict{Err: reading(decoder.ReasonDate, "Could not convert string to "+t.Name+": "+text+".")}
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
		return decoder.Verdict{Err: serial(decoder.ReasonKind, "Unexpected token parsing date. Expected Integer or String.")}
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

// layouts are forms that DateTime.TryParse takes in the invariant culture, beside ISO 8601.
var layouts = []string{
	"2006-01-02T15:04Z07:00", "2006-01-02T15:04", "2006-01-02 15:04:05.9999999Z07:00", "2006-01-02 15:04:05.9999999", "2006-01-02 15:04:05Z07:00", "2006-01-02 15:04:05", "2006-01-02 15:04", "2006-01-02", "2006-1-2",
	"2006/01/02 15:04:05", "2006/01/02 15:04", "2006/01/02", "2006/1/2", "1/2/2006 15:04:05", "1/2/2006 15:04", "1/2/2006 3:04:05 PM", "1/2/2006 3:04 PM", "1/2/2006", "1-2-2006", "1.2.2006",
	"Mon, 02 Jan 2006 15:04:05 GMT", "Mon, 2 Jan 2006 15:04:05 GMT", "2 January 2006", "2 Jan 2006", "January 2, 2006", "Jan 2, 2006", "January 2 2006", "2 January 2006 15:04", "2 January 2006 15:04:05", "2006-01", "January 2006",
	"2 Jan 2006 15:04:05", "Jan 2, 2006 15:04:05", "02-Jan-2006", "2006-01-02T15:04:05.9999999Z07:00", "2006-01-02T15:04:05.9999999",
}

var timeAlone = regexp.MustCompile(`^\d{1,2}:\d\d(:\d\d(\.\d+)?)?( ?[AaPp][Mm])?$`)

// parsed reads what DateTime.TryParse takes; what hangs on the day on which it runs is unknown.
func parsed(text string) (decoder.Seen, bool) {
	text = strings.TrimSpace(text)
	if timeAlone.MatchString(text) {
		return decoder.Seen{Kind: decoder.SeenUnknown}, true
	}
	for _, layout := range layouts {
		t, err := time.Parse(layout, text)
		if err != nil {
			continue
		}
		zone := clr.NoZone
		if strings.HasSuffix(layout, "Z07:00") || strings.HasSuffix(layout, "GMT") {
			zone = "Z"
			t = t.UTC()
		}
		fraction := strings.TrimRight(strconv.Itoa(1e9 + t.Nanosecond())[1:8], "0")
		return clr.Date(t.Year(), int(t.Month()), t.Day(), t.Hour(), t.Minute(), t.Second(), fraction, zone), true
	}
	if monthDay.MatchString(text) { // a month and a day of this year, or a month and a year
		return decoder.Seen{Kind: decoder.SeenUnknown}, true
	}
	return decoder.Seen{}, false
}

var monthDay = regexp.MustCompile(`^(0?[1-9]|1[0-2])[./,-](0?[1-9]|[12]\d|3[01]|\d{3,4})$`)

// formats are the parts of a custom format of the platform with those of Go's.
var formats = []struct{ net, layout string }{
	{"yyyy", "2006"}, {"yy", "06"}, {"MMMM", "January"}, {"MMM", "Jan"}, {"MM", "01"}, {"M", "1"}, {"dddd", "Monday"}, {"ddd", "Mon"}, {"dd", "02"}, {"d", "2"}, {"HH", "15"}, {"hh", "03"}, {"h", "3"},
	{"mm", "04"}, {"m", "4"}, {"ss", "05"}, {"s", "5"}, {"tt", "PM"}, {"zzz", "-07:00"}, {"K", "Z07:00"},
}

// byFormat reads a date by a format; known is false where that is not followed.
func byFormat(text, format string) (s decoder.Seen, ok, known bool) {
	var b strings.Builder
	rest := format
	for rest != "" {
		found := false
		for _, f := range formats {
			if strings.HasPrefix(rest, f.net) {
				b.WriteString(f.layout)
				rest, found = rest[len(f.net):], true
				break
			}
		}
		switch {
		case found:
		case rest[0] == '\'':
			end := strings.IndexByte(rest[1:], '\'')
			if end < 0 {
				return s, false, false
			}
			b.WriteString(rest[1 : 1+end])
			rest = rest[end+2:]
		case rest[0] == 'f' || rest[0] == 'F' || rest[0] == 'z' || rest[0] == 'g' || rest[0] == 'H':
			n := 0
			for n < len(rest) && rest[n] == rest[0] {
				n++
			}
			if rest[0] != 'f' && rest[0] != 'F' {
				return s, false, false
			}
			b.WriteString(strings.Repeat("0", n))
			rest = rest[n:]
		case rest[0] == '\\' && len(rest) > 1:
			b.WriteByte(rest[1])
			rest = rest[2:]
		default:
			b.WriteByte(rest[0])
			rest = rest[1:]
		}
	}
	t, err := time.Parse(b.String(), text)
	if err != nil {
		return s, false, true
	}
	zone := clr.NoZone
	if strings.Contains(format, "zzz") || strings.Contains(format, "K") && strings.HasSuffix(text, "Z") {
		zone = "Z"
		t = t.UTC()
	}
	return clr.Date(t.Year(), int(t.Month()), t.Day(), t.Hour(), t.Minute(), t.Second(), "", zone), true, true
}

package clr

import (
	"regexp"
	"strconv"
	"strings"
	"time"

	"vetta/internal/decoder"
)

// layouts are forms that DateTime.TryParse takes in the invariant culture, beside ISO 8601.
var layouts = []string{
	"2006-01-02T15:04Z07:00", "2006-01-02T15:04", "2006-01-02 15:04:05.9999999Z07:00", "2006-01-02 15:04:05.9999999", "2006-01-02 15:04:05Z07:00", "2006-01-02 15:04:05", "2006-01-02 15:04", "2006-01-02", "2006-1-2",
	"2006/01/02 15:04:05", "2006/01/02 15:04", "2006/01/02", "2006/1/2", "1/2/2006 15:04:05", "1/2/2006 15:04", "1/2/2006 3:04:05 PM", "1/2/2006 3:04 PM", "1/2/2006", "1-2-2006", "1.2.2006",
	"Mon, 02 Jan 2006 15:04:05 GMT", "Mon, 2 Jan 2006 15:04:05 GMT", "2 January 2006", "2 Jan 2006", "January 2, 2006", "Jan 2, 2006", "January 2 2006", "2 January 2006 15:04", "2 January 2006 15:04:05", "2006-01", "January 2006",
	"2 Jan 2006 15:04:05", "Jan 2, 2006 15:04:05", "02-Jan-2006", "2006-01-02T15:04:05.9999999Z07:00", "2006-01-02T15:04:05.9999999",
}

var timeAlone = regexp.MustCompile(`^\d{1,2}:\d\d(:\d\d(\.\d+)?)?( ?[AaPp][Mm])?$`)

// ParseDate reads what DateTime.TryParse takes; what hangs on the day on which it runs is unknown.
func ParseDate(text string) (decoder.Seen, bool) {
	text = strings.TrimSpace(text)
	if timeAlone.MatchString(text) {
		return decoder.Seen{Kind: decoder.SeenUnknown}, true
	}
	for _, layout := range layouts {
		t, err := time.Parse(layout, text)
		if err != nil {
			continue
		}
		zone := NoZone
		if strings.HasSuffix(layout, "Z07:00") || strings.HasSuffix(layout, "GMT") {
			zone = "Z"
			t = t.UTC()
		}
		fraction := strings.TrimRight(strconv.Itoa(1e9 + t.Nanosecond())[1:8], "0")
		return Date(t.Year(), int(t.Month()), t.Day(), t.Hour(), t.Minute(), t.Second(), fraction, zone), true
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

// ByFormat reads a date by a format; known is false where that is not followed.
func ByFormat(text, format string) (s decoder.Seen, ok, known bool) {
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
	zone := NoZone
	if strings.Contains(format, "zzz") || strings.Contains(format, "K") && strings.HasSuffix(text, "Z") {
		zone = "Z"
		t = t.UTC()
	}
	return Date(t.Year(), int(t.Month()), t.Day(), t.Hour(), t.Minute(), t.Second(), "", zone), true, true
}

package clr

import (
	"fmt"
	"math"
	"strconv"
	"strings"
	"time"

	"vetta/internal/decoder"
)

// NoZone is the offset of a date that is of no zone: DateTimeKind.Unspecified.
const NoZone = ""

// Date is a date as the platform's round-trip form has it; fraction is up to seven digits, zone Z, ±hh:mm or NoZone.
// Year 0 stands for 1.
func Date(year, month, day, hour, minute, second int, fraction, zone string) decoder.Seen {
	year = max(year, 1)
	fraction += strings.Repeat("0", 7-len(fraction))
	t := time.Date(year, time.Month(month), day, hour, minute, second, 0, time.UTC)
	seconds := float64(t.Unix())
	if f, err := strconv.ParseFloat("0."+fraction, 64); err == nil {
		seconds += f
	}
	if len(zone) == 6 {
		h, _ := strconv.Atoi(zone[1:3])
		m, _ := strconv.Atoi(zone[4:6])
		off := float64(h*3600 + m*60)
		if zone[0] == '-' {
			off = -off
		}
		seconds -= off
	}
	return decoder.Seen{Kind: decoder.SeenDate, Seconds: seconds, Text: fmt.Sprintf("%04d-%02d-%02dT%02d:%02d:%02d.%s%s", year, month, day, hour, minute, second, fraction, zone)}
}

// Local turns a date with an offset into one of the zone of the machine, which is taken for UTC: the instant is the
// same wherever the app runs.
func Local(s decoder.Seen, zone string) decoder.Seen {
	if zone == NoZone || zone == "Z" {
		return s
	}
	whole := int64(s.Seconds)
	if float64(whole) > s.Seconds {
		whole--
	}
	t := time.Unix(whole, 0).UTC()
	fraction := s.Text[strings.IndexByte(s.Text, '.')+1:][:7]
	if t.Year() < 1 {
		return s
	}
	return Date(t.Year(), int(t.Month()), t.Day(), t.Hour(), t.Minute(), t.Second(), fraction, "Z")
}

// ISO is a date and a time by ISO 8601-1:2019 as System.Text.Json takes it (Utf8Parser, JsonHelpers.TryParseAsISO):
// YYYY-MM-DD, then perhaps Thh:mm[:ss[.f…]] and an offset.
type ISO struct {
	Year, Month, Day, Hour, Minute, Second int
	Fraction                               string // at most seven digits
	Zone                                   string // Z, ±hh:mm, or NoZone
	HasTime                                bool
}

// Seen is the date as a DateTime that keeps its zone.
func (d ISO) Seen() decoder.Seen {
	return Date(d.Year, d.Month, d.Day, d.Hour, d.Minute, d.Second, d.Fraction, d.Zone)
}

// ParseISO reads one; short says that the time may go without seconds, and the offset without minutes.
func ParseISO(text string) (d ISO, ok bool) {
	r := reader{text: text}
	if !r.digits(4, &d.Year) || !r.accept('-') || !r.digits(2, &d.Month) || !r.accept('-') || !r.digits(2, &d.Day) || !validDay(d.Year, d.Month, d.Day) {
		return d, false
	}
	if r.done() {
		return d, true
	}
	d.HasTime = true
	if !r.accept('T') || !r.digits(2, &d.Hour) || !r.accept(':') || !r.digits(2, &d.Minute) {
		return d, false
	}
	if r.accept(':') {
		if !r.digits(2, &d.Second) {
			return d, false
		}
		if r.accept('.') {
			from := r.at
			for r.at < len(text) && text[r.at] >= '0' && text[r.at] <= '9' {
				r.at++
			}
			if n := r.at - from; n == 0 || n > 16 {
				return d, false
			}
			d.Fraction = text[from:min(r.at, from+7)]
		}
	}
	if d.Hour > 23 || d.Minute > 59 || d.Second > 59 {
		return d, false
	}
	switch {
	case r.done():
	case r.accept('Z'):
		d.Zone = "Z"
	case r.peek('+'), r.peek('-'):
		sign := text[r.at]
		r.at++
		var h, m int
		if !r.digits(2, &h) || h > 14 {
			return d, false
		}
		if !r.done() && (!r.accept(':') || !r.digits(2, &m)) || m > 59 || h == 14 && m > 0 {
			return d, false
		}
		d.Zone = fmt.Sprintf("%c%02d:%02d", sign, h, m)
	default:
		return d, false
	}
	return d, r.done()
}

func validDay(year, month, day int) bool {
	return year >= 1 && month >= 1 && month <= 12 && day >= 1 && day <= time.Date(year, time.Month(month)+1, 0, 0, 0, 0, 0, time.UTC).Day()
}

type reader struct {
	text string
	at   int
}

func (r *reader) done() bool { return r.at == len(r.text) }

func (r *reader) peek(c byte) bool { return r.at < len(r.text) && r.text[r.at] == c }

func (r *reader) accept(c byte) bool {
	if r.peek(c) {
		r.at++
		return true
	}
	return false
}

// digits reads exactly so many.
func (r *reader) digits(n int, into *int) bool {
	if r.at+n > len(r.text) {
		return false
	}
	v := 0
	for _, c := range []byte(r.text[r.at : r.at+n]) {
		if c < '0' || c > '9' {
			return false
		}
		v = v*10 + int(c-'0')
	}
	r.at += n
	*into = v
	return true
}

// some reads from least to most digits.
func (r *reader) some(least, most int, into *int) bool {
	n := 0
	for n < most && r.at+n < len(r.text) && r.text[r.at+n] >= '0' && r.text[r.at+n] <= '9' {
		n++
	}
	return n >= least && r.digits(n, into)
}

// TimeSpan reads [-][d.]hh:mm[:ss[.fffffff]] or d alone (TimeSpan.Parse, format c with the parts that may be left out),
// and answers it in format c.
func TimeSpan(text string) (string, bool) {
	r := reader{text: text}
	neg := r.accept('-')
	var d, h, m, s int
	fraction := ""
	if !r.some(1, 8, &d) {
		return "", false
	}
	switch {
	case r.done():
		return span(neg, d, 0, 0, 0, "")
	case r.accept('.'):
		if !r.some(1, 2, &h) || !r.accept(':') {
			return "", false
		}
	case r.accept(':'):
		d, h = 0, d
	default:
		return "", false
	}
	if !r.some(1, 2, &m) {
		return "", false
	}
	if r.accept(':') {
		if !r.some(1, 2, &s) {
			return "", false
		}
		if r.accept('.') {
			from := r.at
			for r.at < len(text) && text[r.at] >= '0' && text[r.at] <= '9' {
				r.at++
			}
			if fraction = text[from:r.at]; fraction == "" || len(fraction) > 7 {
				return "", false
			}
		}
	}
	if !r.done() || h > 23 || m > 59 || s > 59 {
		return "", false
	}
	return span(neg, d, h, m, s, fraction)
}

func span(neg bool, d, h, m, s int, fraction string) (string, bool) {
	if d > 10675199 {
		return "", false
	}
	out := fmt.Sprintf("%02d:%02d:%02d", h, m, s)
	if d > 0 {
		out = strconv.Itoa(d) + "." + out
	}
	if strings.Trim(fraction, "0") != "" {
		out += "." + fraction + strings.Repeat("0", 7-len(fraction))
	}
	if neg && strings.Trim(out, "0:.") != "" {
		out = "-" + out
	}
	return out, true
}

// TimeOnly is a time of the day in the platform's round-trip form.
func TimeOnly(h, m, s int, fraction string) decoder.Seen {
	return decoder.Seen{Kind: decoder.SeenString, Text: fmt.Sprintf("%02d:%02d:%02d.%s", h, m, s, fraction+strings.Repeat("0", 7-len(fraction)))}
}

// ParseTime reads h:mm[:ss[.fffffff]] or hh:mm and the like, perhaps with AM or PM behind it, as a time of the day.
func ParseTime(text string) (decoder.Seen, bool) {
	half := ""
	if n := len(text) - 2; n > 0 && (strings.EqualFold(text[n:], "AM") || strings.EqualFold(text[n:], "PM")) {
		text, half = strings.TrimSpace(text[:n]), strings.ToUpper(text[n:])
	}
	c, ok := TimeSpan(text)
	if !ok || strings.HasPrefix(c, "-") || strings.Count(text, ":") == 0 || len(c) > 8 && c[8] != '.' {
		return decoder.Seen{}, false
	}
	h, _ := strconv.Atoi(c[:2])
	switch {
	case half == "":
	case h < 1 || h > 12:
		return decoder.Seen{}, false
	case half == "PM":
		h = h%12 + 12
	default:
		h %= 12
	}
	m, _ := strconv.Atoi(c[3:5])
	s, _ := strconv.Atoi(c[6:8])
	return TimeOnly(h, m, s, strings.TrimPrefix(c[8:], ".")), true
}

// UnixMilli is the instant of so many milliseconds since 1970, in UTC.
func UnixMilli(ms int64) decoder.Seen {
	t := time.UnixMilli(ms).UTC()
	fraction := strconv.Itoa(1000 + t.Nanosecond()/1e6)[1:]
	return Date(t.Year(), int(t.Month()), t.Day(), t.Hour(), t.Minute(), t.Second(), fraction, "Z")
}

// SpanText is so many seconds as a TimeSpan writes them.
func SpanText(seconds float64) string {
	neg := seconds < 0
	ticks := int64(math.Round(math.Abs(seconds) * 1e7))
	fraction := ""
	if rest := ticks % 1e7; rest != 0 {
		fraction = strconv.FormatInt(1e7+rest, 10)[1:]
	}
	s := ticks / 1e7
	text, _ := span(neg, int(s/86400), int(s/3600%24), int(s/60%60), int(s%60), fraction)
	return text
}

// DateText is a date in round-trip form as ToString writes it in the invariant culture: 03/01/2026 09:30:00, with
// +00:00 behind it where it is a DateTimeOffset.
func DateText(roundTrip string, offset bool) string {
	s := roundTrip
	if len(s) < 19 {
		return s
	}
	out := s[5:7] + "/" + s[8:10] + "/" + s[:4] + " " + s[11:19]
	if offset {
		out += " " + s[len(s)-6:]
	}
	return out
}

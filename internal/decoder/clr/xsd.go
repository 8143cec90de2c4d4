package clr

import (
	"encoding/base64"
	"fmt"
	"slices"
	"strconv"
	"strings"
	"time"

	"vetta/internal/decoder"
)

// xmlSpace is white space of XML.
const xmlSpace = " \t\r\n"

// XSDDate reads a text as XmlConvert.ToDateTime does (XsdDateTime, all kinds): a date and a time, either alone, a month,
// a year; offset says that the answer keeps the offset, as a DateTimeOffset does.
func XSDDate(text string, offset bool) (decoder.Seen, bool) {
	r := reader{text: strings.Trim(text, xmlSpace)}
	d := ISO{Month: 1, Day: 1}
	switch {
	case strings.HasPrefix(r.text, "--"): // a month, a day, or both
		r.at = 2
		d.Year = 1904 // one that leaps, as the runtime has it
		day := strings.HasPrefix(r.text, "---")
		if day {
			r.at = 3
		}
		into := &d.Month
		if day {
			into = &d.Day
		}
		if !r.digits(2, into) {
			return decoder.Seen{}, false
		}
		if !day && r.accept('-') && !r.peek('-') && !r.digits(2, &d.Day) {
			return decoder.Seen{}, false
		}
	case len(r.text) > 2 && r.text[2] == ':':
		if !r.time(&d) {
			return decoder.Seen{}, false
		}
		d.Year = 1
	default:
		if !r.digits(4, &d.Year) {
			return decoder.Seen{}, false
		}
		if r.accept('-') {
			if !r.digits(2, &d.Month) {
				return decoder.Seen{}, false
			}
			if r.peek('-') && r.at+1 < len(r.text) && r.text[r.at+1] >= '0' && r.text[r.at+1] <= '9' && !(len(r.text) == r.at+6 && r.text[r.at+3] == ':') {
				r.at++
				if !r.digits(2, &d.Day) {
					return decoder.Seen{}, false
				}
				if r.accept('T') && !r.time(&d) {
					return decoder.Seen{}, false
				}
			}
		}
	}
	if !validDay(d.Year, d.Month, d.Day) || !r.zone(&d) || !r.done() {
		return decoder.Seen{}, false
	}
	s := d.Seen()
	if offset {
		if d.Zone == NoZone {
			d.Zone = "+00:00" // of the machine, which is taken for UTC
		}
		s = Date(d.Year, d.Month, d.Day, d.Hour, d.Minute, d.Second, d.Fraction, strings.Replace(d.Zone, "Z", "+00:00", 1))
		return s, true
	}
	return local(s, d.Zone), true
}

// local is a date with an offset as a DateTime of the machine's zone, which is taken for UTC.
func local(s decoder.Seen, zone string) decoder.Seen {
	if zone == NoZone || zone == "Z" {
		return s
	}
	out := Local(s, zone)
	out.Text = strings.TrimSuffix(out.Text, "Z")
	if !strings.HasSuffix(out.Text, "+00:00") {
		out.Text += "+00:00"
	}
	return out
}

// time reads hh:mm:ss with a fraction.
func (r *reader) time(d *ISO) bool {
	if !r.digits(2, &d.Hour) || !r.accept(':') || !r.digits(2, &d.Minute) || !r.accept(':') || !r.digits(2, &d.Second) {
		return false
	}
	if r.accept('.') {
		from := r.at
		for r.at < len(r.text) && r.text[r.at] >= '0' && r.text[r.at] <= '9' {
			r.at++
		}
		if r.at == from {
			return false
		}
		d.Fraction = r.text[from:min(r.at, from+7)]
	}
	d.HasTime = true
	return d.Hour <= 23 && d.Minute <= 59 && d.Second <= 59
}

// zone reads an offset, or none.
func (r *reader) zone(d *ISO) bool {
	switch {
	case r.done():
		return true
	case r.accept('Z'):
		d.Zone = "Z"
		return true
	case r.peek('+'), r.peek('-'):
		sign := r.text[r.at]
		r.at++
		var h, m int
		if !r.digits(2, &h) || !r.accept(':') || !r.digits(2, &m) || h > 14 || m > 59 {
			return false
		}
		d.Zone = fmt.Sprintf("%c%02d:%02d", sign, h, m)
		return true
	}
	return false
}

// XSDDay reads a date alone, XSDTime a time alone, as a DateTime that XmlSerializer is told to read so by a DataType.
func XSDDay(text string) (decoder.Seen, bool) {
	r := reader{text: text}
	var d ISO
	if !r.digits(4, &d.Year) || !r.accept('-') || !r.digits(2, &d.Month) || !r.accept('-') || !r.digits(2, &d.Day) || !validDay(d.Year, d.Month, d.Day) || !r.zone(&d) || !r.done() {
		return decoder.Seen{}, false
	}
	zone := d.Zone
	if zone == "Z" {
		zone = "+00:00"
	}
	return local(Date(d.Year, d.Month, d.Day, 0, 0, 0, "", zone), zone), true
}

// XSDTime is described at XSDDay.
func XSDTime(text string) (decoder.Seen, bool) {
	r := reader{text: text}
	d := ISO{Year: 1, Month: 1, Day: 1}
	if !r.time(&d) || !r.zone(&d) || !r.done() {
		return decoder.Seen{}, false
	}
	return d.Seen(), true
}

// spans are the parts of a duration in their order; those from 4 on stand behind its T.
var spans = []durationPart{{'Y', 0, 365 * 86400}, {'M', 1, 30 * 86400}, {'D', 2, 86400}, {'H', 4, 3600}, {'M', 5, 60}, {'S', 6, 1}}

type durationPart struct {
	letter  byte
	at      int
	seconds float64
}

// Duration reads a duration of XML Schema as a TimeSpan: years of 365 days and months of 30 (XsdDuration.ToTimeSpan).
func Duration(text string) (string, bool) {
	text = strings.Trim(text, xmlSpace)
	neg := strings.HasPrefix(text, "-")
	text = strings.TrimPrefix(text, "-")
	if !strings.HasPrefix(text, "P") || len(text) < 3 {
		return "", false
	}
	text = text[1:]
	total, at, any := 0.0, 0, false
	for text != "" {
		if text[0] == 'T' {
			if at > 3 || len(text) == 1 {
				return "", false
			}
			at, text = 4, text[1:]
			continue
		}
		n := 0
		for n < len(text) && (text[n] >= '0' && text[n] <= '9' || text[n] == '.') {
			n++
		}
		if n == 0 || n == len(text) {
			return "", false
		}
		v, err := strconv.ParseFloat(text[:n], 64)
		to := slices.IndexFunc(spans, func(s durationPart) bool { return s.letter == text[n] && s.at >= at && (s.at > 3) == (at > 3) })
		if to < 0 || err != nil || strings.Contains(text[:n], ".") && text[n] != 'S' {
			return "", false
		}
		total += v * spans[to].seconds
		at, any, text = spans[to].at+1, true, text[n+1:]
	}
	if !any {
		return "", false
	}
	if neg {
		total = -total
	}
	return SpanText(total), true
}

// AnyGuid reads a Guid in any of the platform's forms, and answers it in the usual one.
func AnyGuid(text string) (string, bool) {
	text = strings.TrimSpace(text)
	if n := len(text); n > 2 && (text[0] == '{' && text[n-1] == '}' || text[0] == '(' && text[n-1] == ')') {
		if text = text[1 : n-1]; len(text) != 36 {
			return "", false
		}
	}
	digits := text
	if len(text) == 36 {
		for _, i := range []int{8, 13, 18, 23} {
			if text[i] != '-' {
				return "", false
			}
		}
		digits = text[:8] + text[9:13] + text[14:18] + text[19:23] + text[24:]
	}
	if len(digits) != 32 || strings.Trim(digits, "0123456789abcdefABCDEF") != "" {
		return "", false
	}
	digits = strings.ToLower(digits)
	return digits[:8] + "-" + digits[8:12] + "-" + digits[12:16] + "-" + digits[16:20] + "-" + digits[20:], true
}

// LooseBase64 reads base64 as readers of XML do: white space between and the padding do not matter.
func LooseBase64(text string) (string, bool) {
	text = strings.Map(func(r rune) rune {
		if strings.ContainsRune(xmlSpace, r) {
			return -1
		}
		return r
	}, text)
	text = strings.TrimSuffix(strings.TrimSuffix(text, "="), "=")
	if len(text)%4 == 1 { // the rest is no byte
		text = text[:len(text)-1]
	}
	out, err := base64.RawStdEncoding.DecodeString(text)
	return string(out), err == nil
}

// Hex reads pairs of hexadecimal digits; one that is left over is dropped.
func Hex(text string) (string, bool) {
	text = strings.Trim(text, xmlSpace)
	var out []byte
	for i := 0; i+1 < len(text); i += 2 {
		n, err := strconv.ParseUint(text[i:i+2], 16, 8)
		if err != nil {
			return "", false
		}
		out = append(out, byte(n))
	}
	return string(out), strings.Trim(text, "0123456789abcdefABCDEF") == ""
}

// DayOnly is a DateOnly of yyyy-MM-dd.
func DayOnly(text string) (decoder.Seen, bool) {
	t, err := time.Parse("2006-01-02", text)
	if err != nil {
		return decoder.Seen{}, false
	}
	return decoder.Seen{Kind: decoder.SeenDate, Seconds: float64(t.Unix()), Text: text}, true
}

package jvm

import (
	"strings"
	"time"
)

// ParsePattern is SimpleDateFormat.parse with Locale.US and a calendar that rolls over,
// as it does by default: text behind what the pattern takes is passed over. zone is
// that of a text that names none. known is false where the pattern has letters that are
// not followed here.
func ParsePattern(pattern, text string, zone *time.Location) (at time.Time, ok, known bool) {
	p := patternReader{text: text, zone: zone, year: 1970, month: 1, day: 1}
	ok, known = p.read(pattern)
	if !ok || !known {
		return at, false, known
	}
	hour := p.hour
	if p.half >= 0 {
		hour = hour%12 + 12*p.half
	}
	return time.Date(p.year, time.Month(p.month), p.day, hour, p.minute, p.second, p.millis*1e6, p.zone), true, true
}

type patternReader struct {
	text                                           string
	zone                                           *time.Location
	year, month, day, hour, minute, second, millis int
	half                                           int
}

// PatternLetters are those that ParsePattern follows.
const PatternLetters = "yuMLdHhkKmsSaEzZX"

func (p *patternReader) read(pattern string) (ok, known bool) {
	p.half = -1
	if !followed(pattern) {
		return false, false
	}
	for i := 0; i < len(pattern); {
		c := pattern[i]
		if c == '\'' {
			text, size := quoted(pattern[i:])
			if !p.literal(text) {
				return false, true
			}
			i += size
			continue
		}
		if c|0x20 < 'a' || c|0x20 > 'z' {
			if !p.literal(pattern[i : i+1]) {
				return false, true
			}
			i++
			continue
		}
		n := 1
		for i+n < len(pattern) && pattern[i+n] == c {
			n++
		}
		i += n
		// Digits that touch the next number are as many as there are letters.
		width := 0
		if i < len(pattern) && pattern[i] != c && strings.IndexByte("yuMdHhkKmsS", pattern[i]) >= 0 {
			width = n
		}
		if !p.field(c, n, width) {
			return false, true
		}
	}
	return true, true
}

// quoted is the text of a quoted stretch at the start of a pattern and how long it is
// there; two quotes stand for one. The size is 0 where it never ends.
func quoted(pattern string) (text string, size int) {
	if strings.HasPrefix(pattern, "''") {
		return "'", 2
	}
	for i := 1; i < len(pattern); i++ {
		switch {
		case pattern[i] != '\'':
			text += pattern[i : i+1]
		case i+1 < len(pattern) && pattern[i+1] == '\'':
			text += "'"
			i++
		default:
			return text, i + 1
		}
	}
	return "", 0
}

// followed says whether all letters of a pattern are.
func followed(pattern string) bool {
	for i := 0; i < len(pattern); i++ {
		c := pattern[i]
		switch {
		case c == '\'':
			_, size := quoted(pattern[i:])
			if size == 0 {
				return false
			}
			i += size - 1
		case c|0x20 >= 'a' && c|0x20 <= 'z' && strings.IndexByte(PatternLetters, c) < 0:
			return false
		}
	}
	return true
}

func (p *patternReader) literal(s string) bool {
	rest, ok := strings.CutPrefix(p.text, s)
	p.text = rest
	return ok
}

func (p *patternReader) field(c byte, n, width int) bool {
	p.text = strings.TrimLeft(p.text, " \t")
	switch c {
	case 'a':
		for half, word := range []string{"AM", "PM"} {
			if len(p.text) >= 2 && strings.EqualFold(p.text[:2], word) {
				p.half, p.text = half, p.text[2:]
				return true
			}
		}
		return false
	case 'E':
		return p.name(func(i int) string { return time.Weekday(i % 7).String() }, 7) >= 0
	case 'M', 'L':
		if n >= 3 {
			m := p.name(func(i int) string { return time.Month(i + 1).String() }, 12)
			p.month = m + 1
			return m >= 0
		}
	case 'z', 'Z', 'X':
		return p.offset(c)
	}
	negative := strings.HasPrefix(p.text, "-")
	body := strings.TrimPrefix(p.text, "-")
	digits, size := 0, 0
	for size < len(body) && body[size] >= '0' && body[size] <= '9' && (width == 0 || size < width) && size < 9 {
		digits = digits*10 + int(body[size]-'0')
		size++
	}
	if size == 0 || negative && width > 0 {
		return false
	}
	p.text = body[size:]
	if negative {
		digits = -digits
	}
	switch c {
	case 'y', 'u':
		if c == 'y' && n <= 2 && size == 2 && !negative { // within 80 years before and 20 after today
			digits += 2000
			if limit := time.Now().Year() + 20; digits > limit {
				digits -= 100
			}
		}
		p.year = digits
	case 'M', 'L':
		p.month = digits
	case 'd':
		p.day = digits
	case 'H':
		p.hour = digits
	case 'k':
		p.hour = digits % 24
	case 'h', 'K':
		p.hour = digits
		if p.half < 0 {
			p.half = 0
			if digits > 12 {
				p.half = -1
			}
		}
	case 'm':
		p.minute = digits
	case 's':
		p.second = digits
	case 'S':
		p.millis = digits
	}
	return true
}

// name reads the longest of names, in full or by its first three letters, and answers
// which; -1 for none.
func (p *patternReader) name(at func(int) string, count int) int {
	for i := range count {
		for _, word := range []string{at(i), at(i)[:3]} {
			if len(p.text) >= len(word) && strings.EqualFold(p.text[:len(word)], word) {
				p.text = p.text[len(word):]
				return i
			}
		}
	}
	return -1
}

// offset reads a time zone: GMT, UTC, Z, +02:00, +0200.
func (p *patternReader) offset(c byte) bool {
	for _, word := range []string{"GMT", "UTC", "Z"} {
		if word == "Z" && c != 'X' {
			continue
		}
		if rest, ok := strings.CutPrefix(p.text, word); ok {
			p.text, p.zone = rest, time.UTC
			if word == "Z" || rest == "" || rest[0] != '+' && rest[0] != '-' {
				return true
			}
			break
		}
	}
	if p.text == "" || p.text[0] != '+' && p.text[0] != '-' {
		return false
	}
	sign := 1
	if p.text[0] == '-' {
		sign = -1
	}
	two := func(s string) (int, bool) {
		if len(s) < 2 || s[0] < '0' || s[0] > '9' || s[1] < '0' || s[1] > '9' {
			return 0, false
		}
		return int(s[0]-'0')*10 + int(s[1]-'0'), true
	}
	rest := p.text[1:]
	hours, ok := two(rest)
	if !ok {
		return false
	}
	rest = strings.TrimPrefix(rest[2:], ":")
	minutes, ok := two(rest)
	if ok {
		rest = rest[2:]
	} else if c != 'X' {
		return false
	}
	p.text, p.zone = rest, time.FixedZone("", sign*(hours*3600+minutes*60))
	return true
}

// ParseISO is com.google.gson.internal.bind.util.ISO8601Utils.parse, which Jackson has
// too: a date, alone or with a time and a zone. Text behind the zone is passed over.
func ParseISO(s string, zone *time.Location) (time.Time, bool) {
	i := 0
	number := func(size int) (int, bool) {
		n := 0
		for range size {
			if i >= len(s) || s[i] < '0' || s[i] > '9' {
				return 0, false
			}
			n = n*10 + int(s[i]-'0')
			i++
		}
		return n, true
	}
	is := func(c byte) bool { return i < len(s) && s[i] == c }
	skip := func(c byte) {
		if is(c) {
			i++
		}
	}
	year, ok1 := number(4)
	skip('-')
	month, ok2 := number(2)
	skip('-')
	day, ok3 := number(2)
	if !ok1 || !ok2 || !ok3 {
		return time.Time{}, false
	}
	hasTime := is('T')
	hour, minute, second, millis := 0, 0, 0, 0
	if !hasTime && i >= len(s) {
		at := time.Date(year, time.Month(month), day, 0, 0, 0, 0, zone)
		return at, at.Month() == time.Month(month) && at.Day() == day
	}
	if hasTime {
		i++
		var ok bool
		if hour, ok = number(2); !ok {
			return time.Time{}, false
		}
		skip(':')
		if minute, ok = number(2); !ok {
			return time.Time{}, false
		}
		skip(':')
		if i < len(s) && !is('Z') && !is('+') && !is('-') {
			if second, ok = number(2); !ok {
				return time.Time{}, false
			}
			if second > 59 && second < 63 {
				second = 59
			}
			if is('.') {
				i++
				start := i
				for i < len(s) && s[i] >= '0' && s[i] <= '9' {
					if i-start < 3 {
						millis = millis*10 + int(s[i]-'0')
					}
					i++
				}
				if i == start {
					return time.Time{}, false
				}
				for n := i - start; n < 3; n++ {
					millis *= 10
				}
			}
		}
	}
	if i >= len(s) {
		return time.Time{}, false
	}
	switch {
	case is('Z'):
		zone = time.UTC
	case is('+') || is('-'):
		p := patternReader{text: s[i:], zone: zone}
		if len(p.text) < 5 {
			p.text += "00"
		}
		if len(p.text) != 5 && len(p.text) != 6 || !p.offset('Z') || p.text != "" {
			return time.Time{}, false
		}
		zone = p.zone
	default:
		return time.Time{}, false
	}
	at := time.Date(year, time.Month(month), day, hour, minute, second, millis*1e6, zone)
	real := at.Month() == time.Month(month) && at.Day() == day && hour < 24 && minute < 60 && second < 60
	return at, real
}

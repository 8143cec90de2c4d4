package foundation

import (
	"strings"
	"time"
)

// pattern is a DateFormatter's dateFormat (Unicode TR 35, part 4, Date Field
// Symbols) as parts to read in turn.
type pattern []part

// part is a field of so many letters, or text that stands for itself.
type part struct {
	letter byte // 0 for text
	count  int
	text   string
}

// parsePattern reads a pattern, nil where it has a field that is not known here.
func parsePattern(format string) pattern {
	var p pattern
	for i := 0; i < len(format); {
		c := format[i]
		switch {
		case c == '\'':
			end := strings.IndexByte(format[i+1:], '\'')
			if end < 0 {
				return nil
			}
			text := format[i+1 : i+1+end]
			if text == "" {
				text = "'"
			}
			p = append(p, part{text: text})
			i += end + 2
		case c|0x20 >= 'a' && c|0x20 <= 'z':
			n := 1
			for i+n < len(format) && format[i+n] == c {
				n++
			}
			if strings.IndexByte("yuMLdHhkKmsSaEZXxz", c) < 0 {
				return nil
			}
			p = append(p, part{letter: c, count: n})
			i += n
		default:
			p = append(p, part{text: format[i : i+1]})
			i++
		}
	}
	if len(p) == 0 {
		return nil
	}
	return p
}

var (
	monthNames = []string{"January", "February", "March", "April", "May", "June", "July", "August", "September", "October", "November", "December"}
	dayNames   = []string{"Sunday", "Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday"}
)

// name reads one of names, whole or its first three letters, without regard to case.
func name(s string, names []string) (index int, rest string, ok bool) {
	for _, short := range []bool{false, true} {
		for i, n := range names {
			if short {
				n = n[:3]
			}
			if len(s) >= len(n) && strings.EqualFold(s[:len(n)], n) {
				return i, s[len(n):], true
			}
		}
	}
	return 0, s, false
}

// parse reads a date in the pattern's form. A number may have fewer digits than
// the pattern has letters, as measured; the whole text must be read.
func (p pattern) parse(s string, zone *time.Location) (seconds float64, ok bool) {
	year, month, day, hour, minute, second := 2000, 1, 1, 0, 0, 0
	fraction := 0.0
	afternoon, half := false, false
	for i, f := range p {
		if f.letter == 0 {
			if s, ok = strings.CutPrefix(s, f.text); !ok {
				return 0, false
			}
			continue
		}
		// A field right before another one of digits takes no more than its share.
		max := 0
		if i+1 < len(p) && p[i+1].letter != 0 && strings.IndexByte("yuMdHhmsS", p[i+1].letter) >= 0 {
			max = f.count
		}
		var n int
		switch f.letter {
		case 'y', 'u':
			before := len(s)
			if n, s, ok = digits(s, 1, max); ok {
				year = n
				if f.count == 2 && before-len(s) == 2 { // within 80 years back and 20 ahead
					year = 2000 + n
					if year > time.Now().Year()+20 {
						year -= 100
					}
				}
			}
		case 'M', 'L':
			if f.count >= 3 {
				if n, s, ok = name(s, monthNames); ok {
					month = n + 1
				}
			} else {
				n, s, ok = digits(s, 1, max)
				month = n
			}
		case 'd':
			day, s, ok = digits(s, 1, max)
		case 'H', 'k':
			hour, s, ok = digits(s, 1, max)
		case 'h', 'K':
			hour, s, ok = digits(s, 1, max)
			half = true
		case 'm':
			minute, s, ok = digits(s, 1, max)
		case 's':
			second, s, ok = digits(s, 1, max)
		case 'S':
			before := s
			if n, s, ok = digits(s, 1, max); ok {
				fraction = float64(n)
				for range len(before) - len(s) {
					fraction /= 10
				}
			}
		case 'a':
			if len(s) >= 2 && (strings.EqualFold(s[:2], "AM") || strings.EqualFold(s[:2], "PM")) {
				afternoon, s, ok = s[0]|0x20 == 'p', s[2:], true
			} else {
				ok = false
			}
		case 'E':
			_, s, ok = name(s, dayNames)
		case 'Z', 'X', 'x', 'z':
			var offset int
			if offset, s, ok = zoneOffset(s); ok {
				zone = time.FixedZone("", offset)
			}
		}
		if !ok {
			return 0, false
		}
	}
	if half {
		if hour > 12 {
			return 0, false
		}
		hour %= 12
		if afternoon {
			hour += 12
		}
	}
	if s != "" || month < 1 || month > 12 || hour > 24 || minute > 59 || second > 60 {
		return 0, false
	}
	t := time.Date(year, time.Month(month), day, hour, minute, second, 0, zone)
	if t.Day() != day && hour < 24 {
		return 0, false // a day that the month does not have
	}
	return float64(t.Unix()) + fraction, true
}

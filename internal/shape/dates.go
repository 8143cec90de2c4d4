package shape

import "encoding/binary"

// dateForm writes to buf how a text is written that looks like a date or a time,
// nil if it does not look like one: it begins with a digit or a name of three
// letters and more, and has a mark that dates have between digits.
func dateForm(buf, body []byte) []byte {
	first := charBits[body[0]]
	if first&(charDigit|charHex|charLetter) == 0 {
		return nil
	}
	if first&charDigit == 0 {
		digits := 0
		for _, b := range body {
			if charBits[b]&charDigit != 0 {
				digits++
			}
		}
		if digits < 4 {
			return nil
		}
	}
	letters, digits, mark := 0, 0, false
	for i, b := range body {
		switch {
		case charBits[b]&charDigit != 0:
			digits++
			buf = append(buf, '0')
		case charBits[b]&(charHex|charLetter) != 0:
			letters++
			alone := (i == 0 || charBits[body[i-1]]&(charHex|charLetter) == 0) &&
				(i+1 == len(body) || charBits[body[i+1]]&(charHex|charLetter) == 0)
			switch {
			case alone || isZone(body[i:]) || i > 0 && isZone(body[i-1:]) || i > 1 && isZone(body[i-2:]):
				buf = append(buf, b)
			case len(buf) > 0 && buf[len(buf)-1] == 'a':
				// Names of months and days differ in length; one a stands for any of them.
			default:
				buf = append(buf, 'a')
			}
		default:
			mark = mark || b == '-' || b == ':' || b == '/' || b == '.' || b == ' '
			buf = append(buf, b)
		}
	}
	if !mark || digits < 3 || digits > 20 || letters > 14 {
		return nil
	}
	return buf
}

// isoForm is the form that most dates have.
const isoForm = "0000-00-00T00:00:00Z"

// isISO says whether a text of its length is of the form isoForm, and whether the
// date and the time exist: what dateForm and isDate say, for the most frequent form.
func isISO(body []byte) (ok, exists bool) {
	for _, part := range isoParts {
		if !part.fits(body) {
			return false, false
		}
	}
	two := func(at int) int { return int(body[at]-'0')*10 + int(body[at+1]-'0') }
	return true, isDay(two(0)*100+two(2), two(5), two(8)) && two(11) < 24 && two(14) < 60 && two(17) <= 60
}

// formPart is eight characters of a form, to be compared at once.
type formPart struct {
	at   int
	form uint64
	most uint64 // bytes that, added to what differs from the form, reach 0x80 where it is too much
}

// isoParts are those of isoForm.
var isoParts = [3]formPart{partOf(isoForm, 0), partOf(isoForm, 8), partOf(isoForm, len(isoForm)-8)}

func partOf(form string, at int) formPart {
	p := formPart{at: at, form: binary.LittleEndian.Uint64([]byte(form[at:]))}
	for i := range 8 {
		most := uint64(0x7F)
		if form[at+i] == '0' {
			most -= 9
		}
		p.most |= most << (8 * i)
	}
	return p
}

// fits says whether a text has a digit wherever the part has 0, and what the part
// has elsewhere.
func (p *formPart) fits(body []byte) bool {
	differs := binary.LittleEndian.Uint64(body[p.at:]) ^ p.form
	return (differs|(differs+p.most))&0x8080808080808080 == 0
}

func isZone(s []byte) bool {
	return len(s) >= 3 && (string(s[:3]) == "GMT" || string(s[:3]) == "UTC")
}

// isPlainDate says whether a text that isDate is one of ISO 8601 in its extended form, in the years 1900 to 2199, with a
// time up to 23:59:59 if there is one and an offset of less than 14 hours: of such texts no reader that takes the form
// refuses one and takes another.
func isPlainDate(body []byte) bool {
	digits := func(at, n int) (value int, ok bool) {
		if at+n > len(body) {
			return 0, false
		}
		for _, b := range body[at : at+n] {
			if b < '0' || b > '9' {
				return 0, false
			}
			value = value*10 + int(b-'0')
		}
		return value, true
	}
	year, ok := digits(0, 4)
	if !ok || year < 1900 || year >= 2200 || len(body) < 10 || body[4] != '-' || body[7] != '-' {
		return false
	}
	if _, ok := digits(5, 2); !ok {
		return false
	}
	if _, ok := digits(8, 2); !ok || len(body) == 10 {
		return ok
	}
	hour, ok := digits(11, 2)
	_, isMinute := digits(14, 2)
	second, isSecond := digits(17, 2)
	if !ok || !isMinute || !isSecond || hour > 23 || second > 59 || body[13] != ':' || body[16] != ':' {
		return false
	}
	rest := body[19:]
	if len(rest) > 0 && rest[0] == '.' {
		for rest = rest[1:]; len(rest) > 0 && rest[0] >= '0' && rest[0] <= '9'; rest = rest[1:] {
		}
	}
	if len(rest) == 0 || string(rest) == "Z" {
		return true
	}
	at := len(body) - len(rest)
	offset, ok := digits(at+1, 2)
	return ok && (rest[0] == '+' || rest[0] == '-') && offset < 14
}

// isDate says whether the numbers in a text make a date, a time or both that
// exist, in one of the orders that dates are written in.
func isDate(body []byte) bool {
	var n [9]int
	var width [9]int
	count := 0
	for i := 0; i < len(body); {
		if charBits[body[i]]&charDigit == 0 {
			i++
			continue
		}
		if count == len(n) {
			return false
		}
		start := i
		for i < len(body) && charBits[body[i]]&charDigit != 0 {
			n[count] = n[count]*10 + int(body[i]-'0')
			i++
		}
		if width[count] = i - start; width[count] > 9 {
			return false
		}
		count++
	}
	time := n[:count]
	switch {
	case count >= 3 && width[0] == 4: // year, month, day
		if !isDay(n[0], n[1], n[2]) {
			return false
		}
		time = n[3:count]
	case count >= 3 && width[2] == 4: // day and month in either order, year
		if !isDay(n[2], n[1], n[0]) && !isDay(n[2], n[0], n[1]) {
			return false
		}
		time = n[3:count]
	case count >= 2 && width[1] == 4: // day, name of the month, year
		time = n[2:count]
	}
	return len(time) == 0 || time[0] < 24 && (len(time) < 2 || time[1] < 60) && (len(time) < 3 || time[2] <= 60)
}

func isDay(year, month, day int) bool {
	if month < 1 || month > 12 || day < 1 {
		return false
	}
	days := [...]int{31, 28, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31}[month-1]
	if month == 2 && year%4 == 0 && (year%100 != 0 || year%400 == 0) {
		days++
	}
	return day <= days
}

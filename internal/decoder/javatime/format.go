// Package javatime is what java.time makes of texts and numbers: the ISO formats of DateTimeFormatter and the patterns
// that apps write, with the exceptions that they end in, as OpenJDK 17 has them.
package javatime

import (
	"fmt"
	"strings"
	"unicode/utf16"
)

// field is a part of a date or a time.
type field uint8

const (
	year field = iota
	month
	day
	hour
	minute
	second
	nano
	half   // AM 0, PM 1
	halfed // the hour of half a day, 1 to 12
)

// ranges are what values the fields take, by the names that messages have for them.
var ranges = map[field]struct {
	name      string
	low, high int64
}{
	year: {"Year", -999999999, 999999999}, month: {"MonthOfYear", 1, 12}, day: {"DayOfMonth", 1, 31}, hour: {"HourOfDay", 0, 23},
	minute: {"MinuteOfHour", 0, 59}, second: {"SecondOfMinute", 0, 59}, nano: {"NanoOfSecond", 0, 999999999}, halfed: {"ClockHourOfAmPm", 1, 12},
}

// sign is which signs a number may have.
type sign uint8

const (
	never   sign = iota
	normal       // a minus
	exceeds      // a plus too, where there are more digits than must be
)

// part is one part of a format.
type part struct {
	kind     kind
	field    field
	min, max int
	sign     sign
	reserve  int    // digits behind it that the numbers next to it take
	text     string // literally
	fold     bool   // in capitals or not
	era      bool   // of a year: counted from 1 on
	inner    []part // optional
}

type kind uint8

const (
	number kind = iota
	literal
	optional
	fraction // of a second, behind a point
	digits   // of a second, without one
	offset   // +01:00, +01, Z
	region   // [Europe/London]
	reduced  // a year of this century in two digits
	halfDay  // AM, PM
	offsetX  // offsets by pattern letters, text is the pattern
)

// Format is how a text is read.
type Format struct {
	parts  []part
	strict bool // no day is beyond its month
}

func two(f field) part { return part{kind: number, field: f, min: 2, max: 2} }

func lit(s string) part { return part{kind: literal, text: s, fold: true} }

var (
	dateParts = []part{{kind: number, field: year, min: 4, max: 10, sign: exceeds}, lit("-"), two(month), lit("-"), two(day)}
	timeParts = []part{two(hour), lit(":"), two(minute), {kind: optional, inner: []part{lit(":"), two(second), {kind: optional, inner: []part{{kind: fraction, max: 9}}}}}}
	bothParts = append(append(append([]part{}, dateParts...), lit("T")), timeParts...)
	zoned     = append(append([]part{}, bothParts...), part{kind: offset})

	// The formats of DateTimeFormatter that have names.
	LocalDate      = &Format{dateParts, true}
	LocalTime      = &Format{timeParts, true}
	LocalDateTime  = &Format{bothParts, true}
	OffsetDateTime = &Format{zoned, true}
	OffsetTime     = &Format{append(append([]part{}, timeParts...), part{kind: offset}), true}
	ZonedDateTime  = &Format{append(append([]part{}, zoned...), part{kind: optional, inner: []part{{kind: region}}}), true}
	Year           = &Format{[]part{{kind: number, field: year, min: 1, max: 10, sign: normal}}, true}
	// YearMonth is the pattern u-MM, which the date module reads by.
	YearMonth = &Format{[]part{{kind: number, field: year, min: 1, max: 19, sign: normal}, lit("-"), two(month)}, true}
	MonthDay  = &Format{[]part{lit("--"), two(month), lit("-"), two(day)}, true}
)

// Moment is what a text says of a date and a time; what it does not say is zero.
type Moment struct {
	Year                                   int64
	Month, Day, Hour, Minute, Second, Nano int
	Offset                                 int // seconds from UTC
	HasOffset                              bool
	Zone                                   string // a region, "" for none
}

// reading is one attempt to read a text.
type reading struct {
	s      string
	fields map[field]int64
	m      Moment
	era    bool // the year is one of an era
	lost   bool // the text is of a form that is not followed
}

// Parse reads a text. problem is the rest of what is refused (see Refusal), "" where it is read; known is false where that is not told.
func (f *Format) Parse(text string) (m Moment, problem string, known bool) {
	r := reading{s: text, fields: map[field]int64{}}
	end := r.all(f.parts, 0)
	switch {
	case r.lost:
		return m, "", false
	case end < 0:
		return m, fmt.Sprintf(" at index %d", index(text, ^end)), true
	case end < len(text):
		return m, fmt.Sprintf(", unparsed text found at index %d", index(text, end)), true
	}
	if problem = r.resolve(f.strict); problem != "" {
		return m, ": " + problem, true
	}
	return r.m, "", true
}

// maxQuoted is how much of a text an exception quotes (java.time.format.DateTimeFormatter.createError).
const maxQuoted = 64

// Refusal is the message of the DateTimeParseException for a text: problem is what Parse says of it.
func Refusal(text, problem string) string {
	if units := utf16.Encode([]rune(text)); len(units) > maxQuoted {
		text = string(utf16.Decode(units[:maxQuoted])) + "..."
	}
	return "Text '" + text + "' could not be parsed" + problem
}

// index is where a byte of a text stands, as Java counts.
func index(s string, at int) int { return len(utf16.Encode([]rune(s[:min(at, len(s))]))) }

// all reads parts one after the other; the place where that fails is answered as its complement.
func (r *reading) all(parts []part, at int) int {
	for i := range parts {
		if at = r.one(&parts[i], at); at < 0 || r.lost {
			return at
		}
	}
	return at
}

func (r *reading) one(p *part, at int) int {
	switch p.kind {
	case number, reduced:
		return r.number(p, at)
	case literal:
		end := at + len(p.text)
		if end > len(r.s) || r.s[at:end] != p.text && !(p.fold && strings.EqualFold(r.s[at:end], p.text)) {
			return ^at
		}
		return end
	case optional:
		fields, m := r.fields, r.m
		r.fields = map[field]int64{}
		for k, v := range fields {
			r.fields[k] = v
		}
		end := r.all(p.inner, at)
		if end < 0 {
			r.fields, r.m = fields, m
			return at
		}
		return end
	case fraction:
		if at == len(r.s) || r.s[at] != '.' {
			return at
		}
		return r.fraction(at+1, 0, p.max)
	case digits:
		return r.fraction(at, p.min, p.max)
	case offset:
		return r.offset(at, p.min > 0)
	case offsetX:
		return r.offsetBy(p.text, at)
	case region:
		return r.region(at)
	case halfDay:
		for i, word := range []string{"AM", "PM"} {
			if strings.HasPrefix(r.s[at:], word) {
				r.fields[half] = int64(i)
				return at + 2
			}
		}
		if at+2 <= len(r.s) && strings.EqualFold(r.s[at+1:at+2], "m") { // am, in languages that write it so
			r.lost = true
		}
		return ^at
	}
	return ^at
}

// number is NumberPrinterParser.parse.
func (r *reading) number(p *part, at int) int {
	if at == len(r.s) {
		return ^at
	}
	start, negative, positive := at, false, false
	switch c := r.s[at]; {
	case c == '+' && p.sign == exceeds:
		positive = true
		at++
	case c == '-' && p.sign != never:
		negative = true
		at++
	case c == '+' || c == '-':
		return ^at
	}
	from := at
	if from+p.min > len(r.s) {
		return ^from
	}
	end := from
	for end < len(r.s) && end-from < p.max && r.s[end] >= '0' && r.s[end] <= '9' {
		end++
	}
	if p.reserve > 0 { // the numbers next to it take their digits first
		end = max(from+p.min, end-p.reserve)
	}
	if end-from < p.min {
		return ^from
	}
	total := int64(0)
	for _, c := range r.s[from:end] {
		if total > 1<<58 {
			r.lost = true
			return at
		}
		total = total*10 + int64(c-'0')
	}
	switch {
	case negative && total == 0 && p.sign == exceeds:
		return ^start
	case negative:
		total = -total
	case p.sign == exceeds && positive && end-from <= p.min:
		return ^(from - 1)
	case p.sign == exceeds && !positive && end-from > p.min && p.min > 1:
		return ^from
	}
	if p.kind == reduced {
		total += 2000
	}
	r.fields[p.field] = total
	r.era = r.era || p.era
	return end
}

func (r *reading) fraction(at, low, high int) int {
	end, value := at, 0
	for end < len(r.s) && end-at < high && r.s[end] >= '0' && r.s[end] <= '9' {
		value = value*10 + int(r.s[end]-'0')
		end++
	}
	if end-at < low {
		return ^at
	}
	for n := end - at; n < 9; n++ {
		value *= 10
	}
	r.fields[nano] = int64(value)
	return end
}

func pair(s string, at int) (int, bool) {
	if at+2 > len(s) || s[at] < '0' || s[at] > '9' || s[at+1] < '0' || s[at+1] > '9' {
		return 0, false
	}
	return int(s[at]-'0')*10 + int(s[at+1]-'0'), true
}

// offset is +HH:MM:ss, read leniently as the ISO formats have it, or with minutes that must be there; "Z" is none.
func (r *reading) offset(at int, minutes bool) int {
	if at < len(r.s) && (r.s[at] == 'Z' || r.s[at] == 'z') {
		r.m.HasOffset = true
		return at + 1
	}
	if at == len(r.s) || r.s[at] != '+' && r.s[at] != '-' {
		return ^at
	}
	h, ok := pair(r.s, at+1)
	if !ok {
		r.lost = at+1 < len(r.s) && r.s[at+1] >= '0' && r.s[at+1] <= '9' // one digit, which it may take
		return ^at
	}
	end, m, s := at+3, 0, 0
	if minutes && (end == len(r.s) || r.s[end] != ':') {
		return ^at
	}
	if end < len(r.s) && r.s[end] >= '0' && r.s[end] <= '9' { // without colons
		r.lost = true
		return ^at
	}
	if end < len(r.s) && r.s[end] == ':' {
		if m, ok = pair(r.s, end+1); !ok {
			r.lost = true
			return ^at
		}
		end += 3
		if end < len(r.s) && r.s[end] == ':' {
			if s, ok = pair(r.s, end+1); !ok {
				r.lost = true
				return ^at
			}
			end += 3
		}
	}
	return r.offsetOf(at, end, h, m, s)
}

// offsetOf notes an offset; one of more than 18 hours is none.
func (r *reading) offsetOf(at, end, h, m, s int) int {
	if h > 18 || m > 59 || s > 59 || h == 18 && m+s > 0 {
		r.lost = true
		return end
	}
	r.m.Offset, r.m.HasOffset = h*3600+m*60+s, true
	if r.s[at] == '-' {
		r.m.Offset = -r.m.Offset
	}
	return end
}

// offsetBy is an offset by the letters of a pattern: X, XX, XXX, where Z is none, and x, xx, xxx, Z, ZZZZZ.
func (r *reading) offsetBy(letters string, at int) int {
	if letters[0] == 'X' || letters == "ZZZZZ" {
		if at < len(r.s) && r.s[at] == 'Z' {
			r.m.HasOffset = true
			return at + 1
		}
	}
	if at == len(r.s) || r.s[at] != '+' && r.s[at] != '-' {
		return ^at
	}
	h, ok := pair(r.s, at+1)
	if !ok {
		return ^at
	}
	end, m := at+3, 0
	colon := letters == "XXX" || letters == "xxx" || letters == "ZZZZZ"
	if colon {
		if end == len(r.s) || r.s[end] != ':' {
			return ^at
		}
		end++
	}
	minutes, has := pair(r.s, end)
	switch {
	case has:
		m, end = minutes, end+2
	case letters != "X" && letters != "x":
		return ^at
	}
	return r.offsetOf(at, end, h, m, 0)
}

// region is a zone in brackets. Only those without rules of their own are followed.
func (r *reading) region(at int) int {
	if at == len(r.s) || r.s[at] != '[' {
		return ^at
	}
	end := strings.IndexByte(r.s[at:], ']')
	if end < 0 {
		return ^at
	}
	r.m.Zone = r.s[at+1 : at+end]
	return at + end + 1
}

// months are how messages call them.
var months = []string{"JANUARY", "FEBRUARY", "MARCH", "APRIL", "MAY", "JUNE", "JULY", "AUGUST", "SEPTEMBER", "OCTOBER", "NOVEMBER", "DECEMBER"}

func isLeap(y int64) bool { return y%4 == 0 && (y%100 != 0 || y%400 == 0) }

func lengthOf(y int64, m int) int {
	switch m {
	case 4, 6, 9, 11:
		return 30
	case 2:
		if isLeap(y) {
			return 29
		}
		return 28
	}
	return 31
}

// outside is what is said of a value that its field does not take, "" for one that it takes.
func outside(f field, v int64) string {
	if r := ranges[f]; v < r.low || v > r.high {
		return fmt.Sprintf("Invalid value for %s (valid values %d - %d): %d", r.name, r.low, r.high, v)
	}
	return ""
}

// Date says what is wrong with a date, "" for nothing (LocalDate.of).
func Date(y int64, m, d int) string {
	for _, v := range []struct {
		f field
		v int64
	}{{year, y}, {month, int64(m)}, {day, int64(d)}} {
		if problem := outside(v.f, v.v); problem != "" {
			return problem
		}
	}
	if d > lengthOf(y, m) {
		if d == 29 {
			return fmt.Sprintf("Invalid date 'February 29' as '%d' is not a leap year", y)
		}
		return fmt.Sprintf("Invalid date '%s %d'", months[m-1], d)
	}
	return ""
}

// Time says what is wrong with a time, "" for nothing (LocalTime.of).
func Time(h, m, s, n int) string {
	for _, v := range []struct {
		f field
		v int
	}{{hour, h}, {minute, m}, {second, s}, {nano, n}} {
		if problem := outside(v.f, int64(v.v)); problem != "" {
			return problem
		}
	}
	return ""
}

// nextDay moves the date to the next.
func (m *Moment) nextDay() {
	if m.Day++; m.Day > lengthOf(m.Year, m.Month) {
		m.Day = 1
		if m.Month++; m.Month > 12 {
			m.Month, m.Year = 1, m.Year+1
		}
	}
}

// resolve makes a date and a time of the fields. problem is what is wrong with them.
func (r *reading) resolve(strict bool) (problem string) {
	if y := r.fields[year]; r.era && y < 1 {
		return fmt.Sprintf("Invalid value for YearOfEra (valid values 1 - 999999999/1000000000): %d", y)
	}
	next := !strict && r.fields[hour] == 24 && r.fields[minute] == 0 && r.fields[second] == 0 && r.fields[nano] == 0
	if next { // the end of a day
		r.fields[hour] = 0
	}
	for _, f := range []field{year, month, day, halfed, hour, minute, second, nano} {
		if v, ok := r.fields[f]; ok {
			if problem := outside(f, v); problem != "" {
				return problem
			}
		}
	}
	get := func(f field) int { return int(r.fields[f]) }
	r.m.Year, r.m.Month, r.m.Day = r.fields[year], get(month), get(day)
	r.m.Hour, r.m.Minute, r.m.Second, r.m.Nano = get(hour), get(minute), get(second), get(nano)
	if h, ok := r.fields[halfed]; ok {
		r.m.Hour = int(h)%12 + 12*get(half)
	}
	_, hasYear := r.fields[year]
	_, hasDay := r.fields[day]
	if hasYear && hasDay && r.m.Month > 0 {
		if strict {
			return Date(r.m.Year, r.m.Month, r.m.Day)
		}
		if r.m.Day = min(r.m.Day, lengthOf(r.m.Year, r.m.Month)); next {
			r.m.nextDay()
		}
	}
	return ""
}

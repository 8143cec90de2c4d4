package decoder

import (
	"encoding/base64"
	"math"
	"strconv"

	"vetta/internal/wire"
)

// SeenKind is what kind of value an app holds after decoding.
type SeenKind uint8

// The kinds of value that an app holds.
const (
	SeenNull    SeenKind = iota
	SeenBool             // Text is true or false
	SeenInt              // Text is its digits
	SeenFloat            // Text is the shortest decimal that gives the same number
	SeenDecimal          // Text is its digits
	SeenString           // Text
	SeenList             // Elems
	SeenSet              // Elems, each once
	SeenMap              // Names and Elems
	SeenObject           // Names and Elems: a model's properties
	SeenEnum             // Text is the constant's name
	SeenCase             // Text is the case's name; Names and Elems its associated values
	SeenDate             // Seconds since 1970; Text is how the platform writes it, "" for RFC 3339 in UTC
	SeenBytes            // Text is the bytes
	SeenUnknown          // read by code that could not be followed
	SeenLeftOut          // an element that code leaves out of its list
)

// Seen is the value that an app gets.
type Seen struct {
	Kind    SeenKind
	Text    string
	Seconds float64
	Names   []string
	Elems   []Seen
	Type    string // of an object or an enum: the model's name
}

// Get answers the property of an object by name.
func (s Seen) Get(name string) (Seen, bool) {
	for i, n := range s.Names {
		if n == name {
			return s.Elems[i], true
		}
	}
	return Seen{}, false
}

// MarshalJSON writes the value as the trial command documents it: null for
// nothing, enums by name, dates in RFC 3339 in UTC, bytes in base64, numbers that
// JSON cannot write as strings. Properties whose value is not known are left out.
func (s Seen) MarshalJSON() ([]byte, error) { return s.append(nil, true), nil }

// append writes the value; strict says that it must be JSON whatever it is.
func (s Seen) append(b []byte, strict bool) []byte {
	switch s.Kind {
	case SeenBool, SeenInt:
		return append(b, s.Text...)
	case SeenFloat, SeenDecimal:
		// What RFC 8259 has no number for, infinity say, or the text that a lazily parsed number
		// keeps, is written as a string.
		if _, _, ok := wire.ParseNumber([]byte(s.Text)); strict && !ok {
			return appendString(b, s.Text)
		}
		return append(b, s.Text...)
	case SeenString, SeenEnum:
		return appendString(b, s.Text)
	case SeenDate:
		if s.Text != "" {
			return appendString(b, s.Text)
		}
		return appendString(b, DateText(s.Seconds))
	case SeenBytes:
		return appendString(b, base64.StdEncoding.EncodeToString([]byte(s.Text)))
	case SeenList, SeenSet:
		b = append(b, '[')
		for i, e := range s.Elems {
			if i > 0 {
				b = append(b, ',')
			}
			b = e.append(b, strict)
		}
		return append(b, ']')
	case SeenMap, SeenObject:
		return s.appendMembers(b, strict)
	case SeenCase:
		if len(s.Names) == 0 {
			return appendString(b, s.Text)
		}
		b = appendString(append(b, '{'), s.Text)
		return append(s.appendMembers(append(b, ':'), strict), '}')
	}
	return append(b, "null"...)
}

func (s Seen) appendMembers(b []byte, strict bool) []byte {
	b = append(b, '{')
	first := true
	for i, e := range s.Elems {
		if e.Kind == SeenUnknown {
			continue
		}
		if !first {
			b = append(b, ',')
		}
		first = false
		b = appendString(b, s.Names[i])
		b = append(b, ':')
		b = e.append(b, strict)
	}
	return append(b, '}')
}

func appendString(b []byte, text string) []byte { return append(b, wire.Quote(text)...) }

// String writes the value on one line for people.
func (s Seen) String() string { return string(s.append(nil, false)) }

// DateText writes seconds since 1970 as RFC 3339 in UTC, with milliseconds where
// they are not zero. Years beyond 9999, which RFC 3339 cannot write, have as many
// digits as they need; a date beyond any calendar is written in seconds.
func DateText(seconds float64) string {
	ms := math.Round(seconds * 1000)
	if math.IsNaN(ms) || math.Abs(ms) > 1e23 {
		return strconv.FormatFloat(seconds, 'g', -1, 64) + " s"
	}
	days := math.Floor(ms / 86400000)
	inDay := int64(ms - days*86400000)
	year, month, day := civil(int64(days))
	sign := ""
	if year < 0 {
		sign, year = "-", -year
	}
	out := sign + pad(year, 4) + "-" + pad(month, 2) + "-" + pad(day, 2) +
		"T" + pad(inDay/3600000, 2) + ":" + pad(inDay/60000%60, 2) + ":" + pad(inDay/1000%60, 2)
	if inDay%1000 != 0 {
		out += "." + pad(inDay%1000, 3)
	}
	return out + "Z"
}

func pad(n int64, width int) string {
	s := strconv.FormatInt(n, 10)
	for len(s) < width {
		s = "0" + s
	}
	return s
}

// civil is the date in the proleptic Gregorian calendar of a day counted from
// 1970-01-01. time.Time ends long before the dates that a number of milliseconds
// read as seconds can name.
func civil(days int64) (year, month, day int64) {
	days += 719468 // from 0000-03-01
	era := days / 146097
	if days < 0 {
		era = (days - 146096) / 146097
	}
	ofEra := days - era*146097
	yearOfEra := (ofEra - ofEra/1460 + ofEra/36524 - ofEra/146096) / 365
	ofYear := ofEra - (365*yearOfEra + yearOfEra/4 - yearOfEra/100)
	mp := (5*ofYear + 2) / 153
	day = ofYear - (153*mp+2)/5 + 1
	month = mp + 3
	if month > 12 {
		month -= 12
	}
	year = yearOfEra + era*400
	if month <= 2 {
		year++
	}
	return year, month, day
}

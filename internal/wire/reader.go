// Package wire turns the bytes of a JSON document (RFC 8259) into a stream of
// events with byte offsets, or into a tree of values that keeps them.
//
// The grammar is held to strictly: no comments, no trailing commas, no bare
// words, UTF-8 only (RFC 8259 section 8.1). What the grammar leaves open is let
// through, because decoding libraries differ there and the difference matters:
// duplicate names (section 4) and \u escapes that name half a surrogate pair
// (section 8.2).
package wire

import (
	"bytes"
	"encoding/binary"
	"errors"
	"fmt"
	"math/bits"
	"unicode/utf8"
)

// EventKind says what a Reader has read.
type EventKind uint8

// The kinds of event. A key and its value are two events.
const (
	EndDocument EventKind = iota
	BeginObject
	EndObject
	BeginArray
	EndArray
	KeyName
	NullValue
	FalseValue
	TrueValue
	NumberValue
	StringValue
)

// Traits are facts about a literal that the Reader meets anyway while it reads.
type Traits uint8

// The traits of a literal.
const (
	Escaped  Traits = 1 << iota // a string with at least one backslash
	NonASCII                    // a string with at least one byte above 0x7F
	Fraction                    // a number with a decimal point
	Exponent                    // a number with an exponent
)

// Event is one step through a document. Start and End are byte offsets into the
// data the Reader was given; literals include their quotes.
type Event struct {
	Kind       EventKind
	Traits     Traits
	Start, End int
}

// DefaultMaxDepth is how many arrays and objects may enclose each other before a
// document is refused. Foundation's JSONDecoder stops at 512, others at 1000 or
// more; a document deeper than this is hostile rather than data.
const DefaultMaxDepth = 1000

// SyntaxError says where a document stops being JSON and why.
type SyntaxError struct {
	Offset    int    // of the first byte that does not fit
	Reason    string // in words that need no further context
	Truncated bool   // the data ended where more was needed
}

func (e *SyntaxError) Error() string { return fmt.Sprintf("%s at byte %d", e.Reason, e.Offset) }

// ErrDepth is wrapped by the error for a document nested deeper than the limit.
var ErrDepth = errors.New("nested too deeply")

// Reader reads one document after another from a slice of bytes. The zero Reader
// reads nothing; Reset gives it data. It never allocates but for its stack.
type Reader struct {
	data     []byte
	pos      int
	stack    []byte // '{' or '[' for each open container
	state    state
	decimal  Decimal
	MaxDepth int // 0 means DefaultMaxDepth
}

// Decimal is the number that the last event was about; only good behind NumberValue.
func (r *Reader) Decimal() *Decimal { return &r.decimal }

type state uint8

const (
	wantValue      state = iota // a value must come
	wantFirstElem               // a value or ']'
	wantFirstKey                // a name or '}'
	wantKey                     // a name
	wantColon                   // ':' and then a value
	wantCommaOrEnd              // ',' or the end of the container
	done                        // the document has ended
)

// Reset makes the reader start at the given offset of data.
func (r *Reader) Reset(data []byte, offset int) {
	r.data, r.pos, r.stack, r.state = data, offset, r.stack[:0], wantValue
}

// Continue makes the reader go on in data, which follows what it has read to its end.
func (r *Reader) Continue(data []byte) { r.data, r.pos = data, 0 }

// Offset is the byte offset behind the last event.
func (r *Reader) Offset() int { return r.pos }

// Depth is how many containers are open.
func (r *Reader) Depth() int { return len(r.stack) }

func (r *Reader) fail(at int, format string, args ...any) error {
	return &SyntaxError{Offset: at, Reason: fmt.Sprintf(format, args...), Truncated: at >= len(r.data)}
}

// unexpected words the error for a byte that the grammar does not admit here.
func (r *Reader) unexpected(at int, want string) error {
	if at >= len(r.data) {
		return r.fail(at, "the document ends where %s should come", want)
	}
	return r.fail(at, "%s where %s should come", describe(r.data[at:]), want)
}

// describe names the next character of b for an error message.
func describe(b []byte) string {
	c, size := utf8.DecodeRune(b)
	switch {
	case c == utf8.RuneError && size <= 1:
		return fmt.Sprintf("byte 0x%02X", b[0])
	case c < 0x20 || c == 0x7F || (c >= 0x80 && c < 0xA0):
		return fmt.Sprintf("control character U+%04X", c)
	case c == '\'':
		return "a single quote"
	default:
		return fmt.Sprintf("'%c'", c)
	}
}

// space marks the four characters of RFC 8259 section 2 that may stand between tokens.
var space = [256]bool{' ': true, '\t': true, '\n': true, '\r': true}

// skipSpace is the offset of the first byte at or behind pos that is no white space.
func skipSpace(data []byte, pos int) int {
	for pos < len(data) && space[data[pos]] {
		pos++
	}
	return pos
}

// SkipSpace is the offset of the first byte at or behind offset that is not JSON
// white space, or the length of the data.
func SkipSpace(data []byte, offset int) int { return skipSpace(data, offset) }

// Next reads one event. After the root value it answers EndDocument, again and
// again, with Start at the offset behind that value. An error is a *SyntaxError
// (or wraps ErrDepth) and ends the document.
func (r *Reader) Next() (Event, error) {
	data := r.data
	pos := r.pos
	if pos < len(data) && data[pos] <= ' ' && r.state != done {
		pos = skipSpace(data, pos)
	}
	switch r.state {
	case done:
		return Event{Kind: EndDocument, Start: r.pos, End: r.pos}, nil
	case wantFirstElem:
		if pos < len(data) && data[pos] == ']' {
			return r.pop(EndArray, pos)
		}
		return r.value(pos, "a value or ']'")
	case wantFirstKey:
		if pos < len(data) && data[pos] == '}' {
			return r.pop(EndObject, pos)
		}
		return r.key(pos, "a name in double quotes or '}'")
	case wantKey:
		return r.key(pos, "a name in double quotes")
	case wantColon:
		if pos >= len(data) || data[pos] != ':' {
			return Event{}, r.unexpected(pos, "':'")
		}
		return r.value(skipSpace(data, pos+1), "a value")
	case wantCommaOrEnd:
		if pos >= len(data) {
			return Event{}, r.unexpected(pos, "',' or the end of the "+r.inside())
		}
		inObject := r.stack[len(r.stack)-1] == '{'
		switch c := data[pos]; {
		case c == ',' && inObject:
			return r.key(skipSpace(data, pos+1), "a name in double quotes")
		case c == ',':
			return r.value(skipSpace(data, pos+1), "a value")
		case c == '}' && inObject:
			return r.pop(EndObject, pos)
		case c == ']' && !inObject:
			return r.pop(EndArray, pos)
		case inObject:
			return Event{}, r.unexpected(pos, "',' or '}'")
		default:
			return Event{}, r.unexpected(pos, "',' or ']'")
		}
	}
	return r.value(pos, "a value")
}

// Member reads a member of an object whose key is one of two tokens (the name in its
// quotes with the colon behind it) and before which nothing stands but a comma: the
// key, and then the event that its value begins with, which is answered. It is a
// short cut for two calls of Next: where it answers no key nothing has been read.
func (r *Reader) Member(first, second *Token) (key *Token, ev Event, err error) {
	data, pos := r.data, r.pos
	switch r.state {
	case wantCommaOrEnd:
		if pos >= len(data) || data[pos] != ',' || r.stack[len(r.stack)-1] != '{' {
			return nil, Event{}, nil
		}
		pos++
	case wantFirstKey:
	default:
		return nil, Event{}, nil
	}
	if pos+wordy >= len(data) {
		return nil, Event{}, nil
	}
	head := binary.LittleEndian.Uint64(data[pos:])
	switch {
	case first.begins(data, pos, head):
		key = first
	case second.begins(data, pos, head):
		key = second
	default:
		return nil, Event{}, nil
	}
	pos += len(key.text)
	c := data[pos]
	if c == ' ' {
		pos++
		c = data[pos]
	}
	switch {
	case c == '"':
		for i := pos + 1; i+8 <= len(data); i += 8 {
			mark := special(binary.LittleEndian.Uint64(data[i:]))
			if mark == 0 {
				continue
			}
			if i += bits.TrailingZeros64(mark) / 8; data[i] == '"' {
				r.pos, r.state = i+1, wantCommaOrEnd
				return key, Event{Kind: StringValue, Start: pos, End: i + 1}, nil
			}
			break
		}
	case isDigit(c) || c == '-':
		d, traits, end, fault := scanDecimal(data, pos)
		if fault == "" {
			r.decimal, r.pos, r.state = d, end, wantCommaOrEnd
			return key, Event{Kind: NumberValue, Traits: traits, Start: pos, End: end}, nil
		}
	}
	ev, err = r.value(skipSpace(data, pos), "a value")
	return key, ev, err
}

func (r *Reader) inside() string {
	if r.stack[len(r.stack)-1] == '{' {
		return "object"
	}
	return "array"
}

func (r *Reader) push(open byte, kind EventKind, next state, pos int) (Event, error) {
	limit := r.MaxDepth
	if limit == 0 {
		limit = DefaultMaxDepth
	}
	if len(r.stack) >= limit {
		return Event{}, fmt.Errorf("%w: %w", ErrDepth, r.fail(pos, "more than %d arrays and objects inside each other", limit))
	}
	r.stack = append(r.stack, open)
	r.state = next
	r.pos = pos + 1
	return Event{Kind: kind, Start: pos, End: pos + 1}, nil
}

func (r *Reader) pop(kind EventKind, pos int) (Event, error) {
	r.stack = r.stack[:len(r.stack)-1]
	r.pos = pos + 1
	r.afterValue()
	return Event{Kind: kind, Start: pos, End: pos + 1}, nil
}

func (r *Reader) afterValue() {
	if len(r.stack) == 0 {
		r.state = done
	} else {
		r.state = wantCommaOrEnd
	}
}

func (r *Reader) key(pos int, want string) (Event, error) {
	if pos >= len(r.data) || r.data[pos] != '"' {
		return Event{}, r.unexpected(pos, want)
	}
	end, traits, err := r.scanString(pos)
	if err != nil {
		return Event{}, err
	}
	r.pos, r.state = end, wantColon
	return Event{Kind: KeyName, Traits: traits, Start: pos, End: end}, nil
}

func (r *Reader) value(pos int, want string) (Event, error) {
	if pos >= len(r.data) {
		return Event{}, r.unexpected(pos, want)
	}
	ev := Event{Start: pos}
	var err error
	switch c := r.data[pos]; c {
	case '{':
		return r.push('{', BeginObject, wantFirstKey, pos)
	case '[':
		return r.push('[', BeginArray, wantFirstElem, pos)
	case '"':
		ev.Kind = StringValue
		ev.End, ev.Traits, err = r.scanString(pos)
	case 't':
		ev.Kind = TrueValue
		ev.End, err = r.literal(pos, "true")
	case 'f':
		ev.Kind = FalseValue
		ev.End, err = r.literal(pos, "false")
	case 'n':
		ev.Kind = NullValue
		ev.End, err = r.literal(pos, "null")
	default:
		if c != '-' && (c < '0' || c > '9') {
			return Event{}, r.unexpected(pos, want)
		}
		ev.Kind = NumberValue
		ev.End, ev.Traits, err = r.scanNumber(pos)
	}
	if err != nil {
		return Event{}, err
	}
	r.pos = ev.End
	r.afterValue()
	return ev, nil
}

func (r *Reader) literal(pos int, word string) (int, error) {
	end := pos + len(word)
	if end <= len(r.data) && string(r.data[pos:end]) == word {
		return end, nil
	}
	rest := r.data[pos:]
	if len(rest) < len(word) && bytes.HasPrefix([]byte(word), rest) {
		return 0, r.fail(len(r.data), "the document ends inside %s", word)
	}
	return 0, r.fail(pos, "a word that is not true, false or null")
}

// scanNumber reads a number as in RFC 8259 section 6, and notes its digits.
func (r *Reader) scanNumber(pos int) (int, Traits, error) {
	d, traits, end, fault := scanDecimal(r.data, pos)
	switch {
	case fault == "":
		r.decimal = d
		return end, traits, nil
	case fault == faultLeadingZero:
		return 0, 0, r.fail(end, "%s", fault)
	case end == pos+1 && end == len(r.data):
		return 0, 0, r.fail(end, "the document ends inside a number")
	}
	return 0, 0, r.unexpected(end, fault)
}

// plain marks the ASCII bytes that stand for themselves in a string.
var plain = func() (t [256]bool) {
	for c := 0x20; c < 0x80; c++ {
		t[c] = c != '"' && c != '\\'
	}
	return
}()

// special has the high bit of each of eight bytes set that is a quote, a backslash,
// a control character or no ASCII; bytes behind the first such one may be marked
// falsely.
func special(x uint64) uint64 {
	const ones, highs = 0x0101010101010101, 0x8080808080808080
	quote, slash := x^(ones*'"'), x^(ones*'\\')
	return (x | (x - ones*0x20) | (quote-ones)&^quote | (slash-ones)&^slash) & highs
}

// scanString reads a string as in RFC 8259 section 7 from its opening quote and
// answers the offset behind the closing one.
func (r *Reader) scanString(pos int) (int, Traits, error) {
	data := r.data
	var traits Traits
	i := pos + 1
	for {
		// Eight bytes at once while none of them ends the plain stretch.
		mark := uint64(0)
		for i+8 <= len(data) {
			if mark = special(binary.LittleEndian.Uint64(data[i:])); mark != 0 {
				i += bits.TrailingZeros64(mark) / 8
				break
			}
			i += 8
		}
		if mark == 0 {
			for i < len(data) && plain[data[i]] {
				i++
			}
		}
		if i >= len(data) {
			return 0, 0, r.fail(i, "the document ends inside a string")
		}
		switch c := data[i]; {
		case c == '"':
			return i + 1, traits, nil
		case c == '\\':
			traits |= Escaped
			size, err := r.scanEscape(i)
			if err != nil {
				return 0, 0, err
			}
			i += size
		case c < 0x20:
			return 0, 0, r.fail(i, "an unescaped control character U+%04X in a string", c)
		default:
			traits |= NonASCII
			_, size := utf8.DecodeRune(data[i:])
			if size <= 1 {
				if !utf8.FullRune(data[i:]) {
					return 0, 0, r.fail(len(data), "the document ends inside a character")
				}
				return 0, 0, r.fail(i, "byte 0x%02X, which is not UTF-8", c)
			}
			i += size
		}
	}
}

// scanEscape answers the length of the escape that starts at the backslash at i.
func (r *Reader) scanEscape(i int) (int, error) {
	data := r.data
	if i+1 >= len(data) {
		return 0, r.fail(len(data), "the document ends inside an escape")
	}
	switch data[i+1] {
	case '"', '\\', '/', 'b', 'f', 'n', 'r', 't':
		return 2, nil
	case 'u':
		for k := 2; k < 6; k++ {
			if i+k >= len(data) {
				return 0, r.fail(len(data), "the document ends inside an escape")
			}
			if hexValue(data[i+k]) < 0 {
				return 0, r.fail(i+k, "%s in a \\u escape, which takes four hexadecimal digits", describe(data[i+k:]))
			}
		}
		return 6, nil
	}
	return 0, r.fail(i, "an escape that JSON does not have: \\%s", describe(data[i+1:]))
}

func hexValue(c byte) int {
	switch {
	case isDigit(c):
		return int(c - '0')
	case c|0x20 >= 'a' && c|0x20 <= 'f':
		return int(c|0x20-'a') + 10
	}
	return -1
}

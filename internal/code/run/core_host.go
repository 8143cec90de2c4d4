package run

import (
	"fmt"
	"math/big"
	"regexp"
	"strconv"
	"strings"
	"time"
	"unicode/utf8"
)

// Date is a DateTime: an instant, shown in UTC or in the local zone, for which UTC is taken.
type Date struct {
	Micros int64 // since 1970
	UTC    bool
}

// Class is DateTime.
func (Date) Class() string { return "DateTime" }

func (d Date) time() time.Time { return time.UnixMicro(d.Micros).UTC() }

// Span is a Duration.
type Span struct{ Micros int64 }

// Class is Duration.
func (Span) Class() string { return "Duration" }

// Big is a BigInt.
type Big struct{ N *big.Int }

// Class is BigInt.
func (Big) Class() string { return "BigInt" }

// URI is a Uri, by its text.
type URI struct{ Text string }

// Class is Uri.
func (URI) Class() string { return "Uri" }

// entry is a MapEntry.
type entry struct{ key, val Value }

// Class is MapEntry.
func (*entry) Class() string { return "MapEntry" }

type pattern struct {
	re   *regexp.Regexp
	text string
}

// Class is RegExp.
func (pattern) Class() string { return "RegExp" }

// buffer is a StringBuffer.
type buffer struct{ text []string }

// Class is StringBuffer.
func (*buffer) Class() string { return "StringBuffer" }

// codec is json, utf8, or one that they make.
type codec struct{ name string }

// Class is that of the codec.
func (c codec) Class() string { return c.name }

// equalHosts is == of two objects of the platform.
func equalHosts(a, b Host) (is, known bool, err error) {
	switch x := a.(type) {
	case Date:
		y, ok := b.(Date)
		return ok && x == y, true, nil
	case Span:
		y, ok := b.(Span)
		return ok && x == y, true, nil
	case Big:
		y, ok := b.(Big)
		return ok && x.N.Cmp(y.N) == 0, true, nil
	case URI:
		y, ok := b.(URI)
		return ok && x == y, true, nil
	}
	return a == b, a == b, nil
}

// hostText is what toString makes of an object of the platform.
func hostText(h Host) (string, bool) {
	switch x := h.(type) {
	case Date:
		return strings.Replace(x.iso(), "T", " ", 1), true
	case Span:
		us := x.Micros
		sign := ""
		if us < 0 {
			sign, us = "-", -us
		}
		return fmt.Sprintf("%s%d:%02d:%02d.%06d", sign, us/3600e6, us/60e6%60, us/1e6%60, us%1e6), true
	case Big:
		return x.N.String(), true
	case URI:
		return normalURI(x.Text), true
	case *buffer:
		return strings.Join(x.text, ""), true
	case *failure:
		if x.t.Class == "FormatException" || x.t.Class == "" {
			return x.t.Error(), true
		}
		return x.t.Message, true
	}
	return "", false
}

// iso is the date as toIso8601String has it.
func (d Date) iso() string {
	t := d.time()
	y := t.Year()
	year := fmt.Sprintf("%04d", y)
	switch {
	case y < 0:
		year = fmt.Sprintf("-%04d", -y)
		if y < -9999 {
			year = fmt.Sprintf("-%06d", -y)
		}
	case y > 9999:
		year = fmt.Sprintf("+%06d", y)
	}
	us := int(((d.Micros % 1e6) + 1e6) % 1e6)
	s := fmt.Sprintf("%s-%02d-%02dT%02d:%02d:%02d.%03d", year, t.Month(), t.Day(), t.Hour(), t.Minute(), t.Second(), us/1000)
	if us%1000 != 0 {
		s += fmt.Sprintf("%03d", us%1000)
	}
	if d.UTC {
		s += "Z"
	}
	return s
}

// dateForm is what DateTime.parse reads (its documentation has this expression).
var dateForm = regexp.MustCompile(`^([+-]?\d{4,6})-?(\d\d)-?(\d\d)(?:[ T](\d\d)(?::?(\d\d)(?::?(\d\d)(?:[.,](\d+))?)?)?( ?[zZ]| ?([-+])(\d\d)(?::?(\d\d))?)?)?$`)

// parseDate reads a date as DateTime.parse does: days and hours beyond their range roll over.
func parseDate(text string) (Date, bool) {
	g := dateForm.FindStringSubmatch(text)
	if g == nil {
		return Date{}, false
	}
	number := func(i int) int {
		n, _ := strconv.Atoi(strings.TrimPrefix(g[i], "+"))
		return n
	}
	micros := 0
	if g[7] != "" {
		micros, _ = strconv.Atoi((g[7] + "000000")[:6])
	}
	d := Date{UTC: g[8] != ""}
	minute := number(5)
	if g[9] != "" {
		offset := number(10)*60 + number(11)
		if g[9] == "-" {
			offset = -offset
		}
		minute -= offset
	}
	t := time.Date(number(1), time.Month(number(2)), number(3), number(4), minute, number(6), micros*1000, time.UTC)
	d.Micros = t.UnixMicro()
	if d.Micros > 8640000000000000*1000 || d.Micros < -8640000000000000*1000 {
		return Date{}, false
	}
	return d, true
}

// hostOperator is an operator of an object of the platform.
func hostOperator(op string, a Host, b Value) (Value, bool) {
	switch x := a.(type) {
	case Span:
		switch y := b.Ref.(type) {
		case Span:
			switch op {
			case "+":
				return hostOf(Span{x.Micros + y.Micros}), true
			case "-":
				return hostOf(Span{x.Micros - y.Micros}), true
			case "<":
				return boolOf(x.Micros < y.Micros), true
			case ">":
				return boolOf(x.Micros > y.Micros), true
			case "<=":
				return boolOf(x.Micros <= y.Micros), true
			case ">=":
				return boolOf(x.Micros >= y.Micros), true
			}
		}
		if f, ok := b.number(); ok && op == "*" {
			return hostOf(Span{int64(float64(x.Micros) * f)}), true
		}
		if op == "~/" && b.Kind == Int && b.N != 0 {
			return hostOf(Span{x.Micros / b.N}), true
		}
		if op == "unary-" {
			return hostOf(Span{-x.Micros}), true
		}
	case Big:
		if op == "unary-" {
			return hostOf(Big{new(big.Int).Neg(x.N)}), true
		}
		y, ok := b.Ref.(Big)
		if !ok {
			break
		}
		switch op {
		case "+":
			return hostOf(Big{new(big.Int).Add(x.N, y.N)}), true
		case "-":
			return hostOf(Big{new(big.Int).Sub(x.N, y.N)}), true
		case "*":
			return hostOf(Big{new(big.Int).Mul(x.N, y.N)}), true
		case "<":
			return boolOf(x.N.Cmp(y.N) < 0), true
		case ">":
			return boolOf(x.N.Cmp(y.N) > 0), true
		}
	}
	return Value{}, false
}

// hostMember is a property of an object of the platform.
func hostMember(h Host, name string) (Value, bool) {
	switch x := h.(type) {
	case Date:
		t := x.time()
		switch name {
		case "year":
			return intOf(int64(t.Year())), true
		case "month":
			return intOf(int64(t.Month())), true
		case "day":
			return intOf(int64(t.Day())), true
		case "hour":
			return intOf(int64(t.Hour())), true
		case "minute":
			return intOf(int64(t.Minute())), true
		case "second":
			return intOf(int64(t.Second())), true
		case "millisecond":
			return intOf(int64(t.Nanosecond() / 1e6)), true
		case "microsecond":
			return intOf(int64(t.Nanosecond() / 1e3 % 1e3)), true
		case "weekday":
			return intOf(int64((t.Weekday()+6)%7 + 1)), true
		case "millisecondsSinceEpoch":
			return intOf(floorDiv(x.Micros, 1000)), true
		case "microsecondsSinceEpoch":
			return intOf(x.Micros), true
		case "isUtc":
			return boolOf(x.UTC), true
		case "timeZoneOffset":
			return hostOf(Span{}), true
		}
	case Span:
		per := map[string]int64{"inDays": 86400e6, "inHours": 3600e6, "inMinutes": 60e6, "inSeconds": 1e6, "inMilliseconds": 1e3, "inMicroseconds": 1}
		if n := per[name]; n > 0 {
			return intOf(x.Micros / n), true
		}
		if name == "isNegative" {
			return boolOf(x.Micros < 0), true
		}
	case Big:
		switch name {
		case "isNegative":
			return boolOf(x.N.Sign() < 0), true
		case "isEven":
			return boolOf(x.N.Bit(0) == 0), true
		case "isOdd":
			return boolOf(x.N.Bit(0) == 1), true
		case "sign":
			return intOf(int64(x.N.Sign())), true
		}
	case URI:
		scheme, rest, ok := strings.Cut(x.Text, ":")
		if !ok || strings.ContainsAny(scheme, "/?#") {
			scheme, rest = "", x.Text
		}
		authority := ""
		if after, ok := strings.CutPrefix(rest, "//"); ok {
			at := strings.IndexAny(after, "/?#")
			if at < 0 {
				at = len(after)
			}
			authority, rest = after[:at], after[at:]
		}
		path, _, _ := strings.Cut(rest, "#")
		path, query, _ := strings.Cut(path, "?")
		switch name {
		case "scheme":
			return textOf(strings.ToLower(scheme)), true
		case "host":
			host := authority[strings.LastIndexByte(authority, '@')+1:]
			host, _, _ = strings.Cut(host, ":")
			return textOf(strings.ToLower(host)), true
		case "path":
			return textOf(path), true
		case "query":
			return textOf(query), true
		case "isAbsolute", "hasScheme":
			return boolOf(scheme != ""), true
		case "hasAuthority":
			return boolOf(authority != ""), true
		}
	case *entry:
		switch name {
		case "key":
			return x.key, true
		case "value":
			return x.val, true
		}
	case *failure:
		switch name {
		case "message":
			return textOf(strings.TrimPrefix(x.t.Message, x.t.Class+": ")), true
		case "stackTrace":
			return Value{Kind: Unknown, Out: &Outside{}}, true
		}
	case pattern:
		if name == "pattern" {
			return textOf(x.text), true
		}
	case *buffer:
		switch name {
		case "length":
			return intOf(int64(len(units(strings.Join(x.text, ""))))), true
		case "isEmpty":
			return boolOf(strings.Join(x.text, "") == ""), true
		case "isNotEmpty":
			return boolOf(strings.Join(x.text, "") != ""), true
		}
	case codec:
		switch {
		case name == "decoder" || name == "encoder":
			return hostOf(codec{x.name + "." + name}), true
		}
	}
	return Value{}, false
}

func floorDiv(a, b int64) int64 {
	q := a / b
	if a%b < 0 {
		q--
	}
	return q
}

// hostCall is a method of an object of the platform.
func (m *Machine) hostCall(h Host, name string, a Args, x codePos) (Value, bool, error) {
	arg := a.at(0)
	switch d := h.(type) {
	case Date:
		switch name {
		case "toLocal":
			return hostOf(Date{Micros: d.Micros}), true, nil
		case "toUtc":
			return hostOf(Date{Micros: d.Micros, UTC: true}), true, nil
		case "toIso8601String":
			return textOf(d.iso()), true, nil
		case "add", "subtract":
			if s, ok := arg.Ref.(Span); ok {
				n := s.Micros
				if name == "subtract" {
					n = -n
				}
				return hostOf(Date{Micros: d.Micros + n, UTC: d.UTC}), true, nil
			}
		case "difference", "isBefore", "isAfter", "isAtSameMomentAs", "compareTo":
			o, ok := arg.Ref.(Date)
			if !ok {
				break
			}
			switch name {
			case "difference":
				return hostOf(Span{d.Micros - o.Micros}), true, nil
			case "isBefore":
				return boolOf(d.Micros < o.Micros), true, nil
			case "isAfter":
				return boolOf(d.Micros > o.Micros), true, nil
			case "compareTo":
				return intOf(compare(d.Micros, o.Micros)), true, nil
			}
			return boolOf(d.Micros == o.Micros), true, nil
		}
	case Span:
		switch name {
		case "abs":
			return hostOf(Span{max(d.Micros, -d.Micros)}), true, nil
		case "compareTo":
			if o, ok := arg.Ref.(Span); ok {
				return intOf(compare(d.Micros, o.Micros)), true, nil
			}
		}
	case Big:
		switch name {
		case "toInt":
			if d.N.IsInt64() {
				return intOf(d.N.Int64()), true, nil
			}
			if d.N.Sign() < 0 {
				return intOf(-1 << 63), true, nil
			}
			return intOf(1<<63 - 1), true, nil
		case "toDouble":
			f, _ := new(big.Float).SetInt(d.N).Float64()
			return doubleOf(f), true, nil
		}
	case pattern:
		if arg.Kind == String && d.re != nil {
			switch name {
			case "hasMatch":
				return boolOf(d.re.MatchString(arg.S)), true, nil
			case "stringMatch":
				if at := d.re.FindStringIndex(arg.S); at != nil {
					return textOf(arg.S[at[0]:at[1]]), true, nil
				}
				return Value{Static: stringType.nullable()}, true, nil
			}
		}
	case *buffer:
		switch name {
		case "write", "writeln", "writeCharCode":
			text, known, err := m.written(arg, x)
			if err != nil || !known {
				return Value{}, false, err
			}
			if name == "writeCharCode" {
				text = string(rune(arg.N))
			}
			if name == "writeln" {
				text += "\n"
			}
			if m.forks > 0 {
				return Value{}, false, unfollowed("a text that is put together", x)
			}
			d.text = append(d.text, text)
			return Value{}, true, nil
		}
	case codec:
		switch {
		case name == "convert" && strings.HasSuffix(d.name, ".decoder") || name == "decode":
			if strings.HasPrefix(d.name, "Json") {
				v, err := m.decode(arg, x)
				return v, true, err
			}
			if strings.HasPrefix(d.name, "Base64") {
				return unknown(listOf(intType), arg), true, nil
			}
			return m.textOfBytes(arg), true, nil
		case name == "fuse":
			return hostOf(codec{"JsonCodec.decoder"}), true, nil
		case name == "encode" || name == "convert":
			if strings.HasPrefix(d.name, "Json") {
				return unknown(stringType, arg), true, nil
			}
			if strings.HasPrefix(d.name, "Base64") {
				return unknown(stringType, arg), true, nil
			}
			return bytesOf(arg), true, nil
		}
	}
	switch name {
	case "toString":
		text, known := hostText(h)
		if known {
			return textOf(text), true, nil
		}
	case "compareTo", "hashCode":
	}
	return Value{}, false, nil
}

func compare(a, b int64) int64 {
	switch {
	case a < b:
		return -1
	case a > b:
		return 1
	}
	return 0
}

// bytesOf are the bytes of a text in UTF-8.
func bytesOf(v Value) Value {
	if v.Kind != String {
		return v.as(listOf(intType))
	}
	items := make([]Value, len(v.S))
	for i := range len(v.S) {
		items[i] = intOf(int64(v.S[i]))
	}
	out := newList(intType, items)
	out.At = v.At
	return out
}

// textOfBytes is the text that bytes are in UTF-8; the body of an answer is its bytes too.
func (m *Machine) textOfBytes(v Value) Value {
	if v.Kind == String || v.isUnknown() {
		return v.as(stringType)
	}
	if v.Kind == Lists && v.list().Some == nil && v.list().Lazy == nil {
		var b []byte
		for _, e := range v.list().Items {
			if e.Kind != Int || e.N < 0 || e.N > 255 {
				return unknown(stringType, v)
			}
			b = append(b, byte(e.N))
		}
		if utf8.Valid(b) {
			out := textOf(string(b))
			out.At = v.At
			return out
		}
	}
	return unknown(stringType, v)
}

// parseURI reads a text as Uri.parse does; what it refuses is a first segment with a colon that is no scheme, and
// a port or escape that is none.
func parseURI(text string) (why string) {
	end := strings.IndexAny(text, "/?#")
	if end < 0 {
		end = len(text)
	}
	first := text[:end]
	if at := strings.IndexByte(first, ':'); at >= 0 {
		scheme := first[:at]
		for i := range len(scheme) {
			c := scheme[i]
			letter := c|0x20 >= 'a' && c|0x20 <= 'z'
			if i == 0 && !letter {
				return "Scheme not starting with alphabetic character (at character 1)\n" + text + "\n^\n"
			}
			if !letter && !(c >= '0' && c <= '9') && !strings.ContainsRune("+-.", rune(c)) {
				return "Illegal scheme character (at character " + strconv.Itoa(i+1) + ")\n" + text + "\n" + strings.Repeat(" ", i) + "^\n"
			}
		}
		if at == 0 {
			return "Invalid empty scheme (at character 1)\n" + text + "\n^\n"
		}
	}
	if at := strings.Index(text, "//"); at >= 0 && (at == 0 || text[at-1] == ':' && !strings.ContainsAny(text[:at-1], "/?#")) {
		authority := text[at+2:]
		if end := strings.IndexAny(authority, "/?#"); end >= 0 {
			authority = authority[:end]
		}
		host := authority[strings.LastIndexByte(authority, '@')+1:]
		if strings.HasPrefix(host, "[") {
			if !strings.Contains(host, "]") {
				at := strings.IndexByte(text, '[')
				return fmt.Sprintf("Missing end `]` to match `[` in host (at character %d)\n%s\n%s^\n", at+1, text, strings.Repeat(" ", at))
			}
			host = host[strings.IndexByte(host, ']'):]
		}
		if colon := strings.LastIndexByte(host, ':'); colon >= 0 {
			port := host[colon+1:]
			if _, err := strconv.ParseUint(port, 10, 16); err != nil && port != "" {
				return "Invalid port (at character " + strconv.Itoa(at+3+colon) + ")\n" + text
			}
		}
	}
	return ""
}

// Text is the span as toString has it.
func (s Span) Text() string {
	text, _ := hostText(s)
	return text
}

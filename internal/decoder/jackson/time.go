package jackson

import (
	"fmt"
	"math/big"
	"regexp"
	"strconv"
	"strings"
	"time"

	"vetta/internal/decoder"
	"vetta/internal/decoder/javatime"
	"vetta/internal/decoder/jvm"
	"vetta/internal/wire"
)

// What the date module (jackson-datatype-jsr310 2.14, measured) reads into the types of java.time.

// timed is a reader of one of those types.
type timed struct {
	c      *compiler
	name   string           // LocalDate
	format *javatime.Format // of its texts
	own    bool             // the format is that of an annotation
	zone   *time.Location   // that a point in time is shown in
}

// timeOf is the node of a type of java.time that the date module reads, nil where that is not followed.
func (c *compiler) timeOf(name string, as format) *decoder.Node {
	r := &timed{c: c, name: name}
	formats := map[string]*javatime.Format{
		"LocalDate": javatime.LocalDate, "LocalTime": javatime.LocalTime, "LocalDateTime": javatime.LocalDateTime, "OffsetDateTime": javatime.OffsetDateTime, "ZonedDateTime": javatime.ZonedDateTime,
		"OffsetTime": javatime.OffsetTime, "Year": javatime.Year, "YearMonth": javatime.YearMonth, "MonthDay": javatime.MonthDay,
	}
	r.format = formats[name]
	if as.pattern != "" {
		f, has := javatime.Pattern(as.pattern)
		reads := map[string]bool{"LocalDate": has.Date, "LocalTime": has.Time, "LocalDateTime": has.Date && has.Time, "OffsetDateTime": has.Date && has.Time && has.Offset, "ZonedDateTime": has.Date && has.Time && has.Offset}[name]
		if f == nil || !reads {
			return unknown("the pattern " + as.pattern + " of a " + name + " is not followed")
		}
		r.format, r.own = f, true
	}
	if name == "OffsetDateTime" || name == "ZonedDateTime" {
		r.zone = c.zone(as)
	}
	if (as.zone != "" || r.zone == nil) && (name == "OffsetDateTime" || name == "ZonedDateTime") {
		return unknown("the time zone of a " + name + " is not followed")
	}
	var read func(v *wire.Value) decoder.Verdict
	switch name {
	case "LocalDate", "LocalTime", "LocalDateTime", "OffsetTime":
		read = r.local
	case "Instant", "OffsetDateTime", "ZonedDateTime":
		read = r.instant
	case "Duration":
		read = r.duration
	case "Period":
		read = r.period
	case "Year":
		read = r.year
	case "YearMonth", "MonthDay":
		read = r.months
	default:
		return unknown("a module reads " + name + ", which is not followed")
	}
	return nullable(&decoder.Node{Op: decoder.OpLeaf, Inside: true, MindsText: true, Read: read})
}

func (r *timed) typ() string { return "java.time." + r.name }

func plain(text string) decoder.Verdict {
	return decoder.Verdict{Seen: decoder.Seen{Kind: decoder.SeenString, Text: text}}
}

func notTold() decoder.Verdict {
	return decoder.Verdict{Seen: decoder.Seen{Kind: decoder.SeenUnknown}}
}

func mismatchedInput(format string, args ...any) decoder.Verdict {
	return decoder.Verdict{Err: fault("MismatchedInputException", decoder.ReasonKind, format, args...)}
}

// wrapped is an exception of java.time's.
func wrapped(message string) decoder.Verdict {
	return decoder.Verdict{Err: fault("JsonMappingException", decoder.ReasonRange, "%s", message)}
}

// parsed is what a text is read as.
func (r *timed) parsed(text string) decoder.Verdict {
	m, problem, known := r.format.Parse(text)
	return r.told(text, text, r.show(m), problem, known)
}

// told is the verdict on a text that was sent, of what was parsed of it.
func (r *timed) told(sent, text, shown, problem string, known bool) decoder.Verdict {
	switch {
	case !known:
		return notTold()
	case problem != "":
		err := weird(r.typ(), sent, fmt.Sprintf("Failed to deserialize %s: (java.time.format.DateTimeParseException) %s", r.typ(), javatime.Refusal(text, problem)), decoder.ReasonDate)
		err.Advice = "give it @JsonFormat(pattern = …) as it is sent, or declare the type of java.time that reads it"
		return decoder.Verdict{Err: err}
	}
	return plain(shown)
}

func (r *timed) show(m javatime.Moment) string {
	switch r.name {
	case "LocalDate":
		return m.DateText()
	case "LocalTime":
		return m.TimeText()
	case "OffsetTime":
		return m.TimeText() + m.OffsetText()
	case "Year":
		return strconv.FormatInt(m.Year, 10)
	case "YearMonth":
		return m.YearMonthText()
	case "MonthDay":
		return fmt.Sprintf("--%02d-%02d", m.Month, m.Day)
	}
	return m.DateTimeText()
}

// local reads dates and times without a zone (LocalDateDeserializer, LocalTimeDeserializer, LocalDateTimeDeserializer,
// OffsetTimeDeserializer).
func (r *timed) local(v *wire.Value) decoder.Verdict {
	switch v.Kind {
	case wire.String:
		return r.localText(jvm.Trim(jvm.Text(v)))
	case wire.Array:
		return r.localArray(v.Elems)
	case wire.Object:
		return decoder.Verdict{Err: mismatched(r.typ(), v)}
	case wire.Number:
		switch {
		case isFloat(v):
		case r.name != "LocalDate":
			raw := string(v.Raw)
			if raw == "-0" {
				raw = "0"
			}
			return mismatchedInput("raw timestamp (%s) not allowed for `%s`: need additional information such as an offset or time-zone (see class Javadocs)", raw, r.typ())
		default:
			return epochDay(v)
		}
	}
	if r.name == "OffsetTime" {
		return mismatchedInput("Unexpected token (%s), expected START_ARRAY: Expected array or string.", tokenName(v))
	}
	return mismatchedInput("Expected array or string.")
}

// epochDay is a LocalDate of a number: days since 1970.
func epochDay(v *wire.Value) decoder.Verdict {
	n, err := strconv.ParseInt(string(v.Raw), 10, 64)
	switch {
	case err != nil:
		return decoder.Verdict{Err: outOfRange(string(v.Raw), "long (-9223372036854775808 - 9223372036854775807)")}
	case n < -365243219162 || n > 365241780471:
		return wrapped(fmt.Sprintf("Invalid value for EpochDay (valid values -365243219162 - 365241780471): %d", n))
	}
	m, _ := javatime.At(n*86400, 0)
	out := plain(m.DateText())
	if n > 1e7 { // seconds, or milliseconds
		out.Loss = decoder.WrongUnit
	}
	return out
}

func (r *timed) localText(text string) decoder.Verdict {
	if text == "" {
		return decoder.Verdict{}
	}
	sent, format := text, r.format
	if !r.own && len(text) > 10 && text[10] == 'T' { // a date and a time, as JavaScript writes it
		switch r.name {
		case "LocalDate":
			format = javatime.LocalDateTime
			text = strings.TrimSuffix(text, "Z")
		case "LocalTime":
			if format = javatime.LocalDateTime; strings.HasSuffix(text, "Z") {
				format = javatime.LocalTime
			}
		case "LocalDateTime":
			text = strings.TrimSuffix(text, "Z")
		}
	}
	m, problem, known := format.Parse(text)
	return r.told(sent, text, r.show(m), problem, known)
}

// localArray reads a list of numbers: [2026,3,1], [9,30], [2026,3,1,9,30,15,500].
func (r *timed) localArray(elems []*wire.Value) decoder.Verdict {
	if len(elems) == 0 {
		return decoder.Verdict{}
	}
	if r.name == "OffsetTime" {
		return notTold()
	}
	if first := elems[0]; first.Kind != wire.Number || isFloat(first) {
		return mismatchedInput("Unexpected token (%s) within Array, expected VALUE_NUMBER_INT", tokenName(first))
	}
	var n []int
	for _, e := range elems {
		i, err := strconv.ParseInt(string(e.Raw), 10, 32)
		if err != nil || e.Kind != wire.Number {
			if r.name != "LocalDate" {
				return wrapped("Current token (" + tokenName(e) + ") not numeric, can not use numeric value accessors")
			}
			i = -1
		}
		n = append(n, int(i))
	}
	of := func(i int) int {
		if i < len(n) {
			return n[i]
		}
		return 0
	}
	m := javatime.Moment{}
	low, high, clock := 3, 3, 3 // how many there must be, may be, and where the time begins
	switch r.name {
	case "LocalTime":
		low, high, clock = 2, 4, 0
	case "LocalDateTime":
		low, high = 5, 7
	}
	if len(n) < low {
		if r.name == "LocalDate" {
			return mismatchedInput("Unexpected token (END_OBJECT), expected END_ARRAY: Expected array to end")
		}
		return wrapped("Current token (END_ARRAY) not numeric, can not use numeric value accessors")
	}
	if len(n) > high {
		return mismatchedInput("Unexpected token (%s), expected END_ARRAY: Expected array to end", tokenName(elems[high]))
	}
	if r.name != "LocalTime" {
		m.Year, m.Month, m.Day = int64(of(0)), of(1), of(2)
		if problem := javatime.Date(m.Year, m.Month, m.Day); problem != "" {
			return wrapped(problem)
		}
	}
	if r.name != "LocalDate" {
		m.Hour, m.Minute, m.Second, m.Nano = of(clock), of(clock+1), of(clock+2), of(clock+3)
		if r.c.off("READ_DATE_TIMESTAMPS_AS_NANOSECONDS") && m.Nano < 1000 {
			m.Nano *= 1e6
		}
		if problem := javatime.Time(m.Hour, m.Minute, m.Second, m.Nano); problem != "" {
			return wrapped(problem)
		}
	}
	return plain(r.show(m))
}

var (
	zeroOffset    = regexp.MustCompile(`\+00:?(00)?$`)
	bareOffset    = regexp.MustCompile(`([+-]\d\d)(\d\d)(\[|$)`)
	onlyDigits    = regexp.MustCompile(`^\d+$`)
	decimalDigits = regexp.MustCompile(`^\d*\.\d*$`)
)

// instant reads what stands at a point in time (InstantDeserializer).
func (r *timed) instant(v *wire.Value) decoder.Verdict {
	switch {
	case v.Kind == wire.Number && isFloat(v):
		return r.decimal(string(v.Raw))
	case v.Kind == wire.Number:
		n, err := strconv.ParseInt(string(v.Raw), 10, 64)
		if err != nil {
			return decoder.Verdict{Err: outOfRange(string(v.Raw), "long (-9223372036854775808 - 9223372036854775807)")}
		}
		return r.stamp(n)
	case v.Kind == wire.Array || v.Kind == wire.Object:
		return decoder.Verdict{Err: mismatched(r.typ(), v)}
	case v.Kind != wire.String:
		return mismatchedInput("Unexpected token (%s), expected one of [VALUE_STRING, VALUE_NUMBER_INT, VALUE_NUMBER_FLOAT] for %s value", tokenName(v), r.typ())
	}
	text := jvm.Trim(jvm.Text(v))
	if text == "" {
		return decoder.Verdict{}
	}
	sent := text
	if !r.own {
		if onlyDigits.MatchString(text) {
			if n, err := strconv.ParseInt(text, 10, 64); err == nil {
				return r.stamp(n)
			}
		}
		if decimalDigits.MatchString(text) && text != "." {
			return r.decimal(text)
		}
		if r.name != "ZonedDateTime" {
			text = zeroOffset.ReplaceAllString(text, "Z")
		}
		if r.name != "Instant" {
			text = bareOffset.ReplaceAllString(text, "$1:$2$3")
		}
	}
	if r.name == "Instant" {
		m, problem, known := javatime.Instant(text)
		return r.told(sent, text, m.InstantText(), problem, known)
	}
	m, problem, known := r.format.Parse(text)
	if problem != "" || !known {
		return r.told(sent, text, "", problem, known)
	}
	if m.Zone != "" && m.Zone != "UTC" && m.Zone != "GMT" && m.Zone != "Z" && (r.c.off("ADJUST_DATES_TO_CONTEXT_TIME_ZONE") || m.Offset%900 != 0) {
		return notTold()
	}
	if r.c.off("ADJUST_DATES_TO_CONTEXT_TIME_ZONE") {
		shown := r.show(m) + m.OffsetText()
		if m.Zone != "" {
			shown += "[" + m.Zone + "]"
		}
		return plain(shown)
	}
	return r.at(m.Seconds(), m.Nano)
}

// at is a point in time in UTC, which is the zone of a mapper.
func (r *timed) at(seconds int64, nano int) decoder.Verdict {
	offset := 0
	if r.zone != nil {
		_, offset = time.Unix(seconds, 0).In(r.zone).Zone()
	}
	m, ok := javatime.At(seconds+int64(offset), nano)
	if !ok {
		return wrapped("Instant exceeds minimum or maximum instant")
	}
	m.Offset = offset
	switch r.name {
	case "Instant":
		return plain(m.InstantText())
	case "ZonedDateTime":
		return plain(r.show(m) + m.OffsetText() + "[" + r.zone.String() + "]")
	}
	return plain(r.show(m) + m.OffsetText())
}

// stamp is a whole number: seconds, or milliseconds where the mapper is told so.
func (r *timed) stamp(n int64) decoder.Verdict {
	seconds, nano, millis := r.counted(n)
	out := r.at(seconds, nano)
	if millis && n >= 1200000000 && n < 4102444800 || !millis && n >= 1200000000000 && n < 4102444800000 {
		out.Loss = decoder.WrongUnit
	}
	return out
}

// counted is a whole number as seconds and nanoseconds; millis says whether the mapper takes it for milliseconds.
func (r *timed) counted(n int64) (seconds int64, nano int, millis bool) {
	if !r.c.off("READ_DATE_TIMESTAMPS_AS_NANOSECONDS") {
		return n, 0, false
	}
	seconds, rest := n/1000, n%1000
	if rest < 0 {
		seconds, rest = seconds-1, rest+1000
	}
	return seconds, int(rest) * 1e6, true
}

// parts are the seconds and nanoseconds of a decimal (DecimalUtils.extractSecondsAndNanos), as an instant or a duration
// is made of them: nanoseconds count forward.
func parts(text string) (seconds int64, nano int, known bool) {
	f, ok := jvm.ParseDouble(text)
	switch {
	case !ok:
		return 0, 0, false
	case f >= 1e64 || f <= -1e64: // of so many zeros nothing is left
		return 0, 0, strings.ContainsAny(text, "eE")
	case f > 9e18 || f < -9e18:
		return 0, 0, false
	}
	if strings.ContainsAny(text, "eE") && (f > -1e-9 && f < 1e-9) {
		return 0, 0, true
	}
	exact, ok := new(big.Rat).SetString(text)
	if !ok {
		return 0, 0, false
	}
	nanos := new(big.Int).Quo(new(big.Int).Mul(exact.Num(), big.NewInt(1e9)), exact.Denom())
	whole := new(big.Int).Quo(exact.Num(), exact.Denom())
	rest := new(big.Int).Sub(nanos, new(big.Int).Mul(whole, big.NewInt(1e9)))
	seconds, nano = whole.Int64(), int(rest.Int64())
	switch {
	case nano < 0 && seconds < 0:
		nano = -nano
	case nano < 0:
		seconds, nano = seconds-1, nano+1e9
	}
	return seconds, nano, true
}

func (r *timed) decimal(text string) decoder.Verdict {
	seconds, nano, known := parts(text)
	if !known {
		return notTold()
	}
	return r.at(seconds, nano)
}

// duration reads a Duration (DurationDeserializer).
func (r *timed) duration(v *wire.Value) decoder.Verdict {
	switch {
	case v.Kind == wire.Number && isFloat(v):
		seconds, nano, known := parts(string(v.Raw))
		if !known {
			return notTold()
		}
		return plain(javatime.DurationText(seconds, nano))
	case v.Kind == wire.Number:
		n, err := strconv.ParseInt(string(v.Raw), 10, 64)
		if err != nil {
			return decoder.Verdict{Err: outOfRange(string(v.Raw), "long (-9223372036854775808 - 9223372036854775807)")}
		}
		seconds, nano, _ := r.counted(n)
		return plain(javatime.DurationText(seconds, nano))
	case v.Kind == wire.Array || v.Kind == wire.Object:
		return decoder.Verdict{Err: mismatched(r.typ(), v)}
	case v.Kind != wire.String:
		return mismatchedInput("Unexpected token (%s), expected one of [VALUE_STRING, VALUE_NUMBER_INT, VALUE_NUMBER_FLOAT] for %s value", tokenName(v), r.typ())
	}
	text := jvm.Trim(jvm.Text(v))
	if text == "" {
		return decoder.Verdict{}
	}
	seconds, nano, ok := javatime.Duration(text)
	if !ok {
		return r.noAmount(text, "Text cannot be parsed to a Duration")
	}
	return plain(javatime.DurationText(seconds, nano))
}

func (r *timed) noAmount(text, why string) decoder.Verdict {
	err := weird(r.typ(), text, fmt.Sprintf("Failed to deserialize %s: (java.time.format.DateTimeParseException) %s", r.typ(), why), decoder.ReasonDate)
	err.Advice = "declare String, and make a " + r.name + " of it where it is used"
	return decoder.Verdict{Err: err}
}

// period reads a Period (JSR310StringParsableDeserializer).
func (r *timed) period(v *wire.Value) decoder.Verdict {
	switch v.Kind {
	case wire.Array, wire.Object:
		return decoder.Verdict{Err: mismatched(r.typ(), v)}
	case wire.String:
	default:
		return mismatchedInput("Unexpected token (%s), expected VALUE_STRING", tokenName(v))
	}
	text := jvm.Trim(jvm.Text(v))
	if text == "" {
		return decoder.Verdict{}
	}
	shown, ok := javatime.PeriodText(text)
	if !ok {
		return r.noAmount(text, "Text cannot be parsed to a Period")
	}
	return plain(shown)
}

// year reads a Year (YearDeserializer).
func (r *timed) year(v *wire.Value) decoder.Verdict {
	switch {
	case v.Kind == wire.Array || v.Kind == wire.Object:
		return decoder.Verdict{Err: mismatched(r.typ(), v)}
	case v.Kind == wire.Number && !isFloat(v):
		n, err := strconv.ParseInt(string(v.Raw), 10, 32)
		switch {
		case err != nil:
			return decoder.Verdict{Err: outOfRange(string(v.Raw), "int (-2147483648 - 2147483647)")}
		case n < -999999999 || n > 999999999:
			return wrapped(fmt.Sprintf("Invalid value for Year (valid values -999999999 - 999999999): %d", n))
		}
		return plain(strconv.FormatInt(n, 10))
	case v.Kind != wire.String:
		return mismatchedInput("Unexpected token (%s), expected one of [VALUE_STRING, VALUE_NUMBER_INT] for %s value", tokenName(v), r.typ())
	}
	text := jvm.Trim(jvm.Text(v))
	if text == "" {
		return decoder.Verdict{}
	}
	if strings.HasPrefix(text, "+") {
		return notTold()
	}
	return r.parsed(text)
}

// months reads a YearMonth or a MonthDay.
func (r *timed) months(v *wire.Value) decoder.Verdict {
	switch v.Kind {
	case wire.Object:
		return decoder.Verdict{Err: mismatched(r.typ(), v)}
	case wire.String:
		text := jvm.Trim(jvm.Text(v))
		if text == "" {
			return decoder.Verdict{}
		}
		if r.name == "MonthDay" {
			m, problem, known := r.format.Parse(text)
			if known && problem == "" && javatime.Date(2024, m.Month, m.Day) != "" {
				problem = fmt.Sprintf(": Unable to obtain MonthDay from TemporalAccessor: {MonthOfYear=%d, DayOfMonth=%d},ISO of type java.time.format.Parsed", m.Month, m.Day)
			}
			return r.told(text, text, r.show(m), problem, known)
		}
		return r.parsed(text)
	case wire.Array:
	default:
		return mismatchedInput("Unexpected token (%s), expected one of [VALUE_STRING, START_ARRAY] for %s value", tokenName(v), r.typ())
	}
	if len(v.Elems) == 0 {
		return decoder.Verdict{}
	}
	words := []string{"years", "months"}
	if r.name == "MonthDay" {
		words = []string{"month", "day"}
	}
	var n [2]int64
	for i, word := range words {
		token := "END_ARRAY"
		if i < len(v.Elems) {
			if token = tokenName(v.Elems[i]); token == "VALUE_NUMBER_INT" {
				n[i], _ = strconv.ParseInt(string(v.Elems[i].Raw), 10, 32)
				continue
			}
		}
		return mismatchedInput("Unexpected token (%s), expected VALUE_NUMBER_INT: Expected VALUE_NUMBER_INT for '%s' of %s value", token, word, r.typ())
	}
	if len(v.Elems) > 2 {
		return mismatchedInput("Unexpected token (%s), expected END_ARRAY: Expected array to end", tokenName(v.Elems[2]))
	}
	m := javatime.Moment{Year: n[0], Month: int(n[1]), Day: 1}
	if r.name == "MonthDay" {
		m = javatime.Moment{Year: 2024, Month: int(n[0]), Day: int(n[1])}
	}
	if problem := javatime.Date(m.Year, m.Month, m.Day); problem != "" {
		return wrapped(problem)
	}
	return plain(r.show(m))
}

package javatime

import (
	"fmt"
	"math/big"
	"regexp"
	"strconv"
	"strings"
	"time"
)

// DateText is LocalDate.toString.
func (m Moment) DateText() string {
	return yearText(m.Year) + fmt.Sprintf("-%02d-%02d", m.Month, m.Day)
}

// YearMonthText is YearMonth.toString.
func (m Moment) YearMonthText() string {
	return strings.TrimPrefix(yearText(m.Year), "+") + fmt.Sprintf("-%02d", m.Month)
}

func yearText(y int64) string {
	switch {
	case y < 0:
		return fmt.Sprintf("-%04d", -y)
	case y > 9999:
		return "+" + strconv.FormatInt(y, 10)
	}
	return fmt.Sprintf("%04d", y)
}

// TimeText is LocalTime.toString.
func (m Moment) TimeText() string {
	out := fmt.Sprintf("%02d:%02d", m.Hour, m.Minute)
	if m.Second == 0 && m.Nano == 0 {
		return out
	}
	return out + fmt.Sprintf(":%02d", m.Second) + groups(m.Nano)
}

// groups are a fraction of a second in three, six or nine digits.
func groups(nano int) string {
	switch {
	case nano == 0:
		return ""
	case nano%1e6 == 0:
		return fmt.Sprintf(".%03d", nano/1e6)
	case nano%1e3 == 0:
		return fmt.Sprintf(".%06d", nano/1e3)
	}
	return fmt.Sprintf(".%09d", nano)
}

// DateTimeText is LocalDateTime.toString.
func (m Moment) DateTimeText() string { return m.DateText() + "T" + m.TimeText() }

// OffsetText is ZoneOffset.toString.
func (m Moment) OffsetText() string {
	if m.Offset == 0 {
		return "Z"
	}
	sign, s := "+", m.Offset
	if s < 0 {
		sign, s = "-", -s
	}
	out := fmt.Sprintf("%s%02d:%02d", sign, s/3600, s/60%60)
	if s%60 != 0 {
		out += fmt.Sprintf(":%02d", s%60)
	}
	return out
}

// The seconds of Instant.MIN and Instant.MAX.
const (
	minSecond = -31557014167219200
	maxSecond = 31556889864403199
)

// At is the moment of a second since 1970 in UTC; ok is false for one beyond what an Instant holds.
func At(seconds int64, nano int) (m Moment, ok bool) {
	if seconds < minSecond || seconds > maxSecond {
		return m, false
	}
	t := time.Unix(seconds, int64(nano)).UTC()
	return Moment{Year: int64(t.Year()), Month: int(t.Month()), Day: t.Day(), Hour: t.Hour(), Minute: t.Minute(), Second: t.Second(), Nano: t.Nanosecond(), HasOffset: true}, true
}

// Seconds are those since 1970.
func (m Moment) Seconds() int64 {
	return time.Date(int(m.Year), time.Month(m.Month), m.Day, m.Hour, m.Minute, m.Second, 0, time.UTC).Unix() - int64(m.Offset)
}

// InstantText is Instant.toString of a moment in UTC.
func (m Moment) InstantText() string {
	return m.DateText() + fmt.Sprintf("T%02d:%02d:%02d", m.Hour, m.Minute, m.Second) + groups(m.Nano) + "Z"
}

// instantForm is InstantPrinterParser of ISO_INSTANT.
var instantForm = &Format{append(append(append([]part{}, dateParts...), lit("T"), two(hour), lit(":"), two(minute), lit(":"), two(second), part{kind: fraction, max: 9}), part{kind: offset, min: 1}), true}

// Instant is Instant.parse, in UTC. problem and known are described at Parse.
func Instant(text string) (m Moment, problem string, known bool) {
	r := reading{s: text, fields: map[field]int64{}}
	end := r.all(instantForm.parts, 0)
	switch {
	case r.lost:
		return m, "", false
	case end < 0:
		return m, fmt.Sprintf(" at index %d", index(text, ^end)), true
	}
	days := 0
	switch { // the end of a day, and a leap second
	case r.fields[hour] == 24 && r.fields[minute] == 0 && r.fields[second] == 0 && r.fields[nano] == 0:
		r.fields[hour], days = 0, 1
	case r.fields[hour] == 23 && r.fields[minute] == 59 && r.fields[second] == 60:
		r.fields[second] = 59
	}
	if r.resolve(true) != "" {
		return m, " at index 0", true
	}
	if end < len(text) {
		return m, fmt.Sprintf(", unparsed text found at index %d", index(text, end)), true
	}
	m, ok := At(r.m.Seconds()+int64(days)*86400, r.m.Nano)
	if !ok {
		return m, "", false
	}
	return m, "", true
}

var (
	durationLook = regexp.MustCompile(`^(?i)([-+]?)P(?:([-+]?[0-9]+)D)?(T(?:([-+]?[0-9]+)H)?(?:([-+]?[0-9]+)M)?(?:([-+]?[0-9]+)(?:[.,]([0-9]{0,9}))?S)?)?$`)
	periodLook   = regexp.MustCompile(`^(?i)([-+]?)P(?:([-+]?[0-9]+)Y)?(?:([-+]?[0-9]+)M)?(?:([-+]?[0-9]+)W)?(?:([-+]?[0-9]+)D)?$`)
)

// Duration is Duration.parse, as its seconds and nanoseconds; ok is false for a text that is none.
func Duration(text string) (seconds int64, nano int, ok bool) {
	g := durationLook.FindStringSubmatch(text)
	if g == nil || strings.EqualFold(g[3], "T") || g[2]+g[4]+g[5]+g[6] == "" {
		return 0, 0, false
	}
	total := new(big.Int)
	for i, unit := range map[int]int64{2: 86400, 4: 3600, 5: 60, 6: 1} {
		if g[i] == "" {
			continue
		}
		n, ok := new(big.Int).SetString(strings.TrimPrefix(g[i], "+"), 10)
		if !ok {
			return 0, 0, false
		}
		total.Add(total, n.Mul(n, big.NewInt(unit)))
	}
	fraction := 0
	if g[7] != "" {
		fraction, _ = strconv.Atoi((g[7] + "000000000")[:9])
		if strings.HasPrefix(g[6], "-") {
			fraction = -fraction
		}
	}
	total.Mul(total, big.NewInt(1e9)).Add(total, big.NewInt(int64(fraction)))
	if g[1] == "-" {
		total.Neg(total)
	}
	rest := new(big.Int)
	total.DivMod(total, big.NewInt(1e9), rest)
	return total.Int64(), int(rest.Int64()), total.IsInt64()
}

// DurationText is Duration.toString.
func DurationText(seconds int64, nano int) string {
	if seconds == 0 && nano == 0 {
		return "PT0S"
	}
	whole := seconds
	if seconds < 0 && nano > 0 {
		whole++
	}
	var b strings.Builder
	b.WriteString("PT")
	if h := whole / 3600; h != 0 {
		fmt.Fprintf(&b, "%dH", h)
	}
	if m := whole % 3600 / 60; m != 0 {
		fmt.Fprintf(&b, "%dM", m)
	}
	s := whole % 60
	if s == 0 && nano == 0 {
		return b.String()
	}
	if seconds < 0 && nano > 0 {
		if s == 0 {
			b.WriteString("-0")
		} else {
			b.WriteString(strconv.FormatInt(s, 10))
		}
		nano = 1e9 - nano
	} else {
		b.WriteString(strconv.FormatInt(s, 10))
	}
	if nano > 0 {
		b.WriteString("." + strings.TrimRight(fmt.Sprintf("%09d", nano), "0"))
	}
	return b.String() + "S"
}

// PeriodText is Period.parse(text).toString(); ok is false for a text that is none.
func PeriodText(text string) (out string, ok bool) {
	g := periodLook.FindStringSubmatch(text)
	if g == nil || g[2]+g[3]+g[4]+g[5] == "" {
		return "", false
	}
	var n [6]int64
	for i := 2; i <= 5; i++ {
		if g[i] == "" {
			continue
		}
		v, err := strconv.ParseInt(g[i], 10, 32)
		if err != nil {
			return "", false
		}
		if n[i] = v; g[1] == "-" {
			n[i] = -v
		}
	}
	days := n[4]*7 + n[5]
	if days != int64(int32(days)) {
		return "", false
	}
	var b strings.Builder
	for _, v := range []struct {
		n    int64
		unit string
	}{{n[2], "Y"}, {n[3], "M"}, {days, "D"}} {
		if v.n != 0 {
			fmt.Fprintf(&b, "%d%s", v.n, v.unit)
		}
	}
	if b.Len() == 0 {
		return "P0D", true
	}
	return "P" + b.String(), true
}

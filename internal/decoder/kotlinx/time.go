package kotlinx

import (
	"regexp"
	"strconv"
	"strings"
	"time"

	"vetta/internal/decoder"
)

// The serializers of kotlin.time, kotlin.uuid and kotlinx.datetime read texts in ISO 8601.

var (
	instantLook  = regexp.MustCompile(`^([+-]?\d{4,10})-(\d\d)-(\d\d)[Tt](\d\d):(\d\d):(\d\d)(?:\.(\d{1,9}))?([Zz]|[+-]\d\d(?::?\d\d(?::?\d\d)?)?)$`)
	dateLook     = regexp.MustCompile(`^([+-]?\d{4,10})-(\d\d)-(\d\d)$`)
	dateTimeLook = regexp.MustCompile(`^([+-]?\d{4,10}-\d\d-\d\d)[Tt](\d\d:\d\d(?::\d\d(?:\.\d{1,9})?)?)$`)
	timeLook     = regexp.MustCompile(`^(\d\d):(\d\d)(?::(\d\d)(?:\.(\d{1,9}))?)?$`)
	durationLook = regexp.MustCompile(`^[+-]?P(?:(\d+)D)?(?:T(?:(\d+)H)?(?:(\d+)M)?(?:(\d+)(?:\.(\d+))?S)?)?$`)
	bareUUID     = regexp.MustCompile(`^[0-9a-f]{32}$`)
	uuidLook     = regexp.MustCompile(`^[0-9a-fA-F]{8}-[0-9a-fA-F]{4}-[0-9a-fA-F]{4}-[0-9a-fA-F]{4}-[0-9a-fA-F]{12}$`)
)

func plain(text string) decoder.Seen { return decoder.Seen{Kind: decoder.SeenString, Text: text} }

// uuid is Uuid.parse: with hyphens, or 32 digits.
func uuid(s string) (decoder.Seen, bool) {
	s = strings.ToLower(s)
	if bareUUID.MatchString(s) {
		s = s[:8] + "-" + s[8:12] + "-" + s[12:16] + "-" + s[16:20] + "-" + s[20:]
	}
	return plain(s), uuidLook.MatchString(s)
}

// instant is Instant.parse: a date, a time with seconds, and an offset.
func instant(s string) (decoder.Seen, bool) {
	m := instantLook.FindStringSubmatch(s)
	if m == nil {
		return decoder.Seen{}, false
	}
	layout := "2006-01-02T15:04:05Z07:00"
	offset := strings.ToUpper(m[8])
	if len(offset) == 3 {
		offset += ":00"
	} else if len(offset) == 5 && offset != "Z" {
		return decoder.Seen{}, false // +0200 lacks the colon
	}
	at, err := time.Parse(layout, m[1]+"-"+m[2]+"-"+m[3]+"T"+m[4]+":"+m[5]+":"+m[6]+offset)
	if err != nil {
		return decoder.Seen{}, false
	}
	nanos := 0
	if m[7] != "" {
		nanos, _ = strconv.Atoi((m[7] + "000000000")[:9])
	}
	at = at.UTC().Add(time.Duration(nanos))
	return decoder.Seen{Kind: decoder.SeenDate, Seconds: float64(at.Unix()) + float64(at.Nanosecond())/1e9}, true
}

func isDate(s string) bool {
	m := dateLook.FindStringSubmatch(s)
	if m == nil {
		return false
	}
	_, err := time.Parse(time.DateOnly, strings.TrimPrefix(s, "+"))
	return err == nil || len(m[1]) != 4
}

func localDate(s string) (decoder.Seen, bool) { return plain(s), isDate(s) }

// shortTime is LocalTime.toString: without seconds that are zero, and fractions in groups of three digits.
func shortTime(s string) (string, bool) {
	m := timeLook.FindStringSubmatch(s)
	if m == nil || m[1] > "23" || m[2] > "59" || m[3] > "59" {
		return "", false
	}
	out := m[1] + ":" + m[2]
	fraction := strings.TrimRight(m[4], "0")
	if m[3] != "" && m[3] != "00" || fraction != "" {
		out += ":" + m[3]
	}
	if fraction != "" {
		for len(fraction)%3 != 0 {
			fraction += "0"
		}
		out += "." + fraction
	}
	return out, true
}

func localTime(s string) (decoder.Seen, bool) {
	t, ok := shortTime(s)
	return plain(t), ok
}

func localDateTime(s string) (decoder.Seen, bool) {
	m := dateTimeLook.FindStringSubmatch(s)
	if m == nil || !isDate(m[1]) {
		return decoder.Seen{}, false
	}
	t, ok := shortTime(m[2])
	return plain(m[1] + "T" + t), ok
}

// duration is Duration.parseIsoString.
func duration(s string) (decoder.Seen, bool) {
	m := durationLook.FindStringSubmatch(s)
	if m == nil || strings.HasSuffix(s, "P") || strings.HasSuffix(s, "T") {
		return decoder.Seen{}, false
	}
	return decoder.Seen{Kind: decoder.SeenUnknown}, true
}

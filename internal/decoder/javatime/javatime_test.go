package javatime

import "testing"

// shown is what a text is read as by a format, or what is wrong with it.
func shown(f *Format, text string) string {
	m, problem, known := f.Parse(text)
	switch {
	case !known:
		return "unknown"
	case problem != "":
		return problem
	}
	return m.DateText() + " " + m.TimeText() + " " + m.OffsetText()
}

// TestPatterns: what DateTimeFormatter.ofPattern makes of a text, as OpenJDK 17 has it.
func TestPatterns(t *testing.T) {
	for _, c := range []struct{ pattern, text, want string }{
		{"yyyy-MM-dd", "2026-03-01", "2026-03-01 00:00 Z"},
		{"yyyy-MM-dd", "2026-02-31", "2026-02-28 00:00 Z"},
		{"yyyy-MM-dd", "2024-02-31", "2024-02-29 00:00 Z"},
		{"yyyy-MM-dd", "2026-02-32", ": Invalid value for DayOfMonth (valid values 1 - 31): 32"},
		{"yyyy-MM-dd", "2026-3-1", " at index 5"},
		{"yyyy-MM-dd", "2026-03-01 ", ", unparsed text found at index 10"},
		{"yyyy-MM-dd", "0000-03-01", ": Invalid value for YearOfEra (valid values 1 - 999999999/1000000000): 0"},
		{"uuuu-MM-dd", "0000-03-01", "0000-03-01 00:00 Z"},
		{"yy-MM-dd", "26-03-01", "2026-03-01 00:00 Z"},
		{"yyyyMMdd", "20260301", "2026-03-01 00:00 Z"},
		{"yyyyMMddHHmm", "202603010930", "2026-03-01 09:30 Z"},
		{"d.M.yyyy", "1.3.2026", "2026-03-01 00:00 Z"},
		{"yyyy-MM-dd[ HH:mm]", "2026-03-01", "2026-03-01 00:00 Z"},
		{"yyyy-MM-dd[ HH:mm]", "2026-03-01 09:30", "2026-03-01 09:30 Z"},
		{"yyyy-MM-dd HH:mm", "2026-12-31 24:00", "2027-01-01 00:00 Z"},
		{"yyyy-MM-dd HH:mm", "2026-12-31 24:01", ": Invalid value for HourOfDay (valid values 0 - 23): 24"},
		{"dd/MM/yyyy hh:mm a", "01/03/2026 12:30 AM", "2026-03-01 00:30 Z"},
		{"dd/MM/yyyy hh:mm a", "01/03/2026 12:30 PM", "2026-03-01 12:30 Z"},
		{"yyyy-MM-dd'T'HH:mm:ss.SSSXXX", "2026-03-01T09:30:00.125+05:30", "2026-03-01 09:30:00.125 +05:30"},
		{"yyyy-MM-dd'T'HH:mm:ssX", "2026-03-01T09:30:00Z", "2026-03-01 09:30 Z"},
		{"yyyy 'o''clock' MM dd", "2026 o'clock 03 01", "2026-03-01 00:00 Z"},
	} {
		f, _ := Pattern(c.pattern)
		if f == nil {
			t.Errorf("%s is not followed", c.pattern)
			continue
		}
		if got := shown(f, c.text); got != c.want {
			t.Errorf("%q by %s is %q, want %q", c.text, c.pattern, got, c.want)
		}
	}
	for _, pattern := range []string{"dd MMM yyyy", "EEE", "yyyy-MM-dd {", "'open", "YYYY-ww", "[yyyy", "]"} {
		if f, _ := Pattern(pattern); f != nil {
			t.Errorf("%s is said to be followed", pattern)
		}
	}
}

// TestAmounts: durations and periods, read and written as the platform has them.
func TestAmounts(t *testing.T) {
	for text, want := range map[string]string{
		"PT36H": "PT36H", "P1DT2H": "PT26H", "PT90.5S": "PT1M30.5S", "-PT3H": "PT-3H", "PT-0.5S": "PT-0.5S", "PT-1.25S": "PT-1.25S", "pt61m": "PT1H1M", "PT0S": "PT0S", "P0D": "PT0S",
		"PT": "", "P": "", "3:00": "", "P1Y": "", "PT1.1234567891S": "", "PT1H ": "",
	} {
		got := ""
		if seconds, nano, ok := Duration(text); ok {
			got = DurationText(seconds, nano)
		}
		if got != want {
			t.Errorf("the duration %s is %q, want %q", text, got, want)
		}
	}
	for text, want := range map[string]string{"P1Y2M3D": "P1Y2M3D", "P2W": "P14D", "-P1D": "P-1D", "P0D": "P0D", "P": "", "PT1H": "", "P1D2Y": ""} {
		if got, _ := PeriodText(text); got != want {
			t.Errorf("the period %s is %q, want %q", text, got, want)
		}
	}
}

// FuzzParse: no text and no pattern ends a reading otherwise than by a value or a reason.
func FuzzParse(f *testing.F) {
	for _, seed := range [][2]string{{"yyyy-MM-dd'T'HH:mm:ss.SSSXXX", "2026-03-01T09:30:00.123+01:00"}, {"[yyyy][MM]dd a", "20260301 AM"}, {"yyyyMMdd", "٢٠٢٦"}, {"''''", "''"}} {
		f.Add(seed[0], seed[1])
	}
	f.Fuzz(func(t *testing.T, pattern, text string) {
		if f, _ := Pattern(pattern); f != nil {
			f.Parse(text)
		}
		for _, f := range []*Format{LocalDate, LocalTime, LocalDateTime, OffsetDateTime, OffsetTime, ZonedDateTime, Year, YearMonth, MonthDay} {
			f.Parse(text)
		}
		Instant(text)
		if seconds, nano, ok := Duration(text); ok {
			back := DurationText(seconds, nano)
			if s, n, ok := Duration(back); !ok || s != seconds || n != nano {
				t.Errorf("%q is %d %d, and %q is %d %d", text, seconds, nano, back, s, n)
			}
		}
		PeriodText(text)
	})
}

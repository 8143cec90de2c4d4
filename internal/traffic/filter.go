package traffic

import (
	"fmt"
	"strconv"
	"strings"
	"time"

	"github.com/bmatcuk/doublestar/v4"
)

// Filter says which responses are wanted by how they were sent. What a response does not tell it is not
// wanted for: a bare file is of no host. The zero Filter wants all.
type Filter struct {
	Hosts, Paths []string // patterns with * for any text, and ** in paths for any number of segments
	Statuses     []Statuses
	Since, Until time.Time // zero for no bound; Until is the first moment that is not wanted
}

// Statuses are those from one to another.
type Statuses struct{ From, To int }

// IsZero says whether the filter wants all.
func (f *Filter) IsZero() bool {
	return len(f.Hosts)+len(f.Paths)+len(f.Statuses) == 0 && f.Since.IsZero() && f.Until.IsZero()
}

// Want says whether a response is wanted, nil for one of which nothing is known.
func (f *Filter) Want(x *Exchange) bool {
	if x == nil {
		return f.IsZero()
	}
	return matchesAny(f.Hosts, x.Host) && matchesAny(f.Paths, x.Path) && f.wantsStatus(x.Status) &&
		(f.Since.IsZero() || !x.Time.IsZero() && !x.Time.Before(f.Since)) &&
		(f.Until.IsZero() || !x.Time.IsZero() && x.Time.Before(f.Until))
}

func (f *Filter) wantsStatus(status int) bool {
	for _, s := range f.Statuses {
		if status >= s.From && status <= s.To {
			return true
		}
	}
	return len(f.Statuses) == 0
}

// matchesAny says whether a text is of one of some patterns; of none where there are none is of all.
func matchesAny(patterns []string, text string) bool {
	for _, p := range patterns {
		if ok, _ := doublestar.Match(p, text); ok && text != "" {
			return true
		}
	}
	return len(patterns) == 0
}

// AddHost adds a pattern of hosts, without their port unless it has one.
func (f *Filter) AddHost(pattern string) error {
	pattern = strings.ToLower(pattern)
	if !doublestar.ValidatePattern(pattern) || pattern == "" {
		return fmt.Errorf("it is no pattern of hosts, such as *.saltmere.example")
	}
	f.Hosts = append(f.Hosts, pattern)
	if !strings.Contains(pattern, ":") {
		f.Hosts = append(f.Hosts, pattern+":*")
	}
	return nil
}

// AddPath adds a pattern of paths.
func (f *Filter) AddPath(pattern string) error {
	if !strings.HasPrefix(pattern, "/") && !strings.HasPrefix(pattern, "*") {
		pattern = "/" + pattern
	}
	if !doublestar.ValidatePattern(pattern) {
		return fmt.Errorf("it is no pattern of paths, such as /v2/sailings/**")
	}
	f.Paths = append(f.Paths, pattern)
	return nil
}

// AddStatus adds a status, a class (4xx) or a range (200-299).
func (f *Filter) AddStatus(text string) error {
	wrong := fmt.Errorf("it is no status (404), class (4xx) or range (200-299)")
	if class, ok := strings.CutSuffix(strings.ToLower(text), "xx"); ok {
		n, err := strconv.Atoi(class)
		if err != nil || n < 1 || n > 9 {
			return wrong
		}
		f.Statuses = append(f.Statuses, Statuses{100 * n, 100*n + 99})
		return nil
	}
	from, to, ranged := strings.Cut(text, "-")
	a, err := strconv.Atoi(from)
	b := a
	if ranged && err == nil {
		b, err = strconv.Atoi(to)
	}
	if err != nil || a < 100 || b < a || b > 999 {
		return wrong
	}
	f.Statuses = append(f.Statuses, Statuses{a, b})
	return nil
}

// moments are how a moment may be written; those without an offset are in UTC.
var momentLayouts = []string{time.RFC3339Nano, "2006-01-02T15:04:05", "2006-01-02T15:04", "2006-01-02 15:04:05", "2006-01-02 15:04"}

// Moment reads a date or a moment (RFC 3339), and answers where it begins and where it ends: a date is a
// whole day in UTC.
func Moment(text string) (from, behind time.Time, err error) {
	if day := DateOf(text, time.DateOnly); !day.IsZero() {
		return day, day.AddDate(0, 0, 1), nil
	}
	if at := DateOf(text, momentLayouts...); !at.IsZero() {
		return at, at.Add(time.Nanosecond), nil
	}
	return from, behind, fmt.Errorf("it is no date (2026-03-09) and no moment (2026-03-09T14:00:00Z)")
}

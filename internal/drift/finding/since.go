package finding

import (
	"fmt"
	"path"
	"path/filepath"
	"regexp"
	"strings"
	"time"

	"vetta/internal/capture"
	"vetta/internal/shape"
)

// since notes in which captures a site was met first and last.
func (s *Site) since() {
	span, ok := shape.SpanOf(s.Tallies)
	if !ok {
		return
	}
	e := s.Endpoint
	s.First, s.Last = e.Capture(span.First), e.Capture(span.Last)
	first, last := e.Moments(span)
	from, to := e.Moments(e.Extent())
	all, counted := e.Since(first)
	at, until := when(e, first, span.First), when(e, last, span.Last)
	in := "in "
	if e.Dated() {
		in = "at "
	}
	switch {
	case s.First == "" || s.Last == "" || first == from && last == to || !told(e):
	case first == last:
		s.Since = in + at + " alone"
	case counted && s.Exact && s.Responses == all:
		s.Since = "all since " + at
	case last == to:
		s.Since = "first " + in + at
	case first == from:
		s.Since = "last " + in + until
	default:
		s.Since = "from " + at + " to " + until
	}
}

// when names the moment of a response: by the clock where all of its endpoint's tell it, by the capture
// where not.
func when(e *shape.Endpoint, moment int64, in capture.Rank) string {
	if e.Dated() {
		return time.UnixMilli(moment).UTC().Format("2006-01-02 15:04")
	}
	name := captureName(e.Capture(in))
	if e.HoldsSeveral(in) {
		name = fmt.Sprintf("%s#%d", name, in.Entry())
	}
	return name
}

// Timed says whether the responses of an endpoint have an order in time: they tell when they were sent, one
// capture holds them one behind the other, or the names of the captures tell it: by a date, or by a number
// that counts them, 1, 2, 3. Numbers of four digits and more are taken for ids.
func Timed(e *shape.Endpoint) bool {
	extent := e.Extent()
	return extent.First.File() == extent.Last.File() || told(e)
}

// told is Timed where the order has names that say when.
func told(e *shape.Endpoint) bool {
	extent := e.Extent()
	return e.Dated() || inTime(e.Capture(extent.First)) && inTime(e.Capture(extent.Last))
}

var (
	dated   = regexp.MustCompile(`(19|20)[0-9]{2}[-_.]?[01][0-9][-_.]?[0-3][0-9]`)
	counted = regexp.MustCompile(`(^|[^0-9])[0-9]{1,3}\)?$`)
)

func inTime(file string) bool {
	name := path.Base(filepath.ToSlash(strings.TrimSuffix(file, filepath.Ext(file))))
	return dated.MatchString(name) || counted.MatchString(name)
}

// captureName is the name of a capture without its folder and ending; with the last folder where the
// name alone says little: sailings-2026-03-09, routes/6.
func captureName(file string) string {
	file = filepath.ToSlash(file)
	name := path.Base(strings.TrimSuffix(file, path.Ext(file)))
	if strings.Trim(name, "0123456789-_. ") == "" && strings.Contains(file, "/") {
		return path.Base(path.Dir(file)) + "/" + name
	}
	return name
}

// WordsIn takes a name apart at underscores, marks and capitals, in lower case.
func WordsIn(name string) (out []string) {
	start := 0
	flush := func(end int) {
		if end > start {
			out = append(out, strings.ToLower(name[start:end]))
		}
	}
	for i := 0; i < len(name); i++ {
		c := name[i]
		letter := c|0x20 >= 'a' && c|0x20 <= 'z' || c >= '0' && c <= '9' || c >= 0x80
		upper := c >= 'A' && c <= 'Z'
		switch {
		case !letter:
			flush(i)
			start = i + 1
		case upper && i > start && (name[i-1] < 'A' || name[i-1] > 'Z' || i+1 < len(name) && name[i+1] >= 'a' && name[i+1] <= 'z'):
			flush(i)
			start = i
		}
	}
	flush(len(name))
	return out
}

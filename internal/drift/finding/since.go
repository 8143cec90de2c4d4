package finding

import (
	"path"
	"path/filepath"
	"regexp"
	"strings"

	"vetta/internal/shape"
)

// since notes in which captures a site was met first and last.
func (s *Site) since() {
	first, last, ok := shape.SpanOf(s.Tallies)
	if !ok {
		return
	}
	e := s.Endpoint
	s.First, s.Last = e.Capture(first), e.Capture(last)
	from, to := e.Span()
	single := e.Responses == int64(e.Files) // one response in each capture
	switch {
	case s.First == "" || s.Last == "" || first == from && last == to || !Timed(e):
	case first == last:
		s.Since = "in " + captureName(s.First) + " alone"
	case single && s.Exact && s.Responses == int64(e.From(first)):
		s.Since = "all since " + captureName(s.First)
	case last == to:
		s.Since = "first in " + captureName(s.First)
	case first == from:
		s.Since = "last in " + captureName(s.Last)
	default:
		s.Since = "from " + captureName(s.First) + " to " + captureName(s.Last)
	}
}

// Timed says whether the names of an endpoint's captures tell an order in time: by a date, or by a number
// that counts them, 1, 2, 3. Numbers of four digits and more are taken for ids.
func Timed(e *shape.Endpoint) bool {
	from, to := e.Span()
	return inTime(e.Capture(from)) && inTime(e.Capture(to))
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

package traffic

import (
	"regexp"
	"strings"
)

// Route is what responses have in common that are of one endpoint, by what was requested: with what
// varies in the path left out.
type Route struct {
	Method  string
	Host    string
	Path    string // with Varying for each segment that is a value
	Op      string
	Request bool // of the bodies that were sent
	Failed  bool // of the answers with a status of 400 and more, or of what was so answered
}

// Varying stands for a segment of a path that is a value.
const Varying = "{}"

// Route is the endpoint of an exchange, with segments that are values by their look left out. It is only
// good where the exchange is Known.
func (x *Exchange) Route() Route {
	parts := strings.Split(strings.TrimRight(x.Path, "/"), "/")
	for i, part := range parts {
		if isValue(part) {
			parts[i] = Varying
		}
	}
	path := strings.TrimRight(strings.Join(parts, "/"), "/")
	if path == "" {
		path = "/"
	}
	method := x.Method
	if method == "" {
		method = "GET"
	}
	return Route{Method: method, Host: x.Host, Path: path, Op: x.Op, Request: x.Request, Failed: x.Failed()}
}

var (
	uuid    = regexp.MustCompile(`^\{?[0-9a-fA-F]{8}-[0-9a-fA-F]{4}-[0-9a-fA-F]{4}-[0-9a-fA-F]{4}-[0-9a-fA-F]{12}\}?$`)
	numeral = regexp.MustCompile(`^[-+]?[0-9]+([.,:;_][-+]?[0-9]+)*$`)
)

// isValue says whether a segment of a path is a value by its look: a number, a UUID, a hash, a date, or
// a word with a number behind a mark. Versions (v2) are none, nor words that end in a digit (oauth2).
func isValue(segment string) bool {
	if segment == "" || segment == Varying || len(segment) < 24 && !strings.ContainsAny(segment, "0123456789@%") {
		return false
	}
	if base, ext, ok := strings.Cut(segment, "."); ok && (ext == "json" || ext == "xml") {
		segment = base
	}
	if isVersion(segment) || isVersion(strings.SplitN(segment, ".", 2)[0]) && numeral.MatchString(segment[1:]) {
		return false
	}
	if numeral.MatchString(segment) || uuid.MatchString(segment) || isHexID(segment) {
		return true
	}
	if isIdentifier(segment) {
		return true
	}
	letters, digits, marks, capitals := 0, 0, 0, 0
	for _, c := range []byte(segment) {
		switch {
		case isDigit(c):
			digits++
		case isWord(c):
			letters++
			if c >= 'A' && c <= 'Z' {
				capitals++
			}
		default:
			marks++
		}
	}
	switch {
	case strings.Contains(segment, "@"), strings.Contains(segment, "%40"): // an address
		return true
	case digits == 0:
		return len(segment) >= 24 && capitals > 2 && capitals < letters-2 // base64 without a digit
	case marks > 0: // SP-0104, 2026-03-09T10:00Z, tern_2; but not fares-v2
		last := segment[strings.LastIndexAny(segment, "-_.~:;,%$")+1:]
		return !isVersion(last)
	}
	return isDigit(segment[0]) || digits >= 3 || len(segment) >= 16
}

// isIdentifier says whether a segment is one that a program has made, of letters in both cases and digits,
// as dQw4w9WgXcQ; but no word with a capital in it or a number behind it.
func isIdentifier(segment string) bool {
	if len(segment) < 8 {
		return false
	}
	changes := 0 // between small letters, capitals and digits
	kind := func(c byte) int {
		switch {
		case isDigit(c):
			return 1
		case c >= 'a' && c <= 'z':
			return 2
		case c >= 'A' && c <= 'Z':
			return 3
		}
		return 0
	}
	for i := 1; i < len(segment); i++ {
		if kind(segment[i]) == 0 {
			return false
		}
		if kind(segment[i]) != kind(segment[i-1]) {
			changes++
		}
	}
	capitals := len(segment) >= 16 && segment == strings.ToUpper(segment) // a key of base32, say
	return (changes >= 5 || capitals) && strings.ContainsAny(segment, "0123456789")
}

// Template is the path with names for what varies, as RFC 6570 level 1 writes it: each by the segment
// before it, in the singular.
func (r *Route) Template() string {
	parts := strings.Split(r.Path, "/")
	used := map[string]bool{}
	for i, part := range parts {
		if part != Varying {
			continue
		}
		name := "id"
		for k := i - 1; k > 0; k-- {
			if !strings.HasPrefix(parts[k], "{") && !isVersion(parts[k]) {
				name = singular(parts[k])
				break
			}
		}
		for n := name; used[name]; {
			n += "_id"
			name = n
		}
		used[name] = true
		parts[i] = "{" + name + "}"
	}
	return strings.Join(parts, "/")
}

// singular makes the name of a variable of a segment: the singular of an English plural, with nothing in
// it but letters, digits and underscores (RFC 6570 section 2.3).
func singular(segment string) string {
	name := strings.Map(func(c rune) rune {
		if c < 0x80 && isWord(byte(c)) {
			return c
		}
		return '_'
	}, segment)
	switch {
	case strings.HasSuffix(name, "ies") && len(name) > 4:
		name = strings.TrimSuffix(name, "ies") + "y"
	case strings.HasSuffix(name, "sses"), strings.HasSuffix(name, "xes"), strings.HasSuffix(name, "ches"), strings.HasSuffix(name, "shes"):
		name = strings.TrimSuffix(name, "es")
	case strings.HasSuffix(name, "s") && !strings.HasSuffix(name, "ss") && !strings.HasSuffix(name, "us") && len(name) > 2:
		name = strings.TrimSuffix(name, "s")
	}
	return name
}

// String names the endpoint: method and path template, with the operation, and what the bodies are where
// they are not what is answered to begin with.
func (r *Route) String() string { return r.named(false) }

// Full is String with the host.
func (r *Route) Full() string { return r.named(true) }

func (r *Route) named(host bool) string {
	text := r.Method + " "
	if host {
		text += r.Host
	}
	text += r.Template()
	if r.Op != "" {
		text += "?op=" + r.Op
	}
	switch {
	case r.Request && r.Failed:
		text += " (refused request)"
	case r.Request:
		text += " (request)"
	case r.Failed:
		text += " (error)"
	}
	return text
}

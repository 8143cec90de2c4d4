package systemtextjson

import (
	"strings"
	"unicode"

	"vetta/internal/model"
)

// policies are the naming policies of the library (JsonNamingPolicy).
var policies = map[string]func(string) string{
	"CamelCase":      camel,
	"SnakeCaseLower": func(s string) string { return strings.ToLower(separated(s, '_')) },
	"SnakeCaseUpper": func(s string) string { return strings.ToUpper(separated(s, '_')) },
	"KebabCaseLower": func(s string) string { return strings.ToLower(separated(s, '-')) },
	"KebabCaseUpper": func(s string) string { return strings.ToUpper(separated(s, '-')) },
}

// named is a member's name by the policy of the options.
func (c *compiler) named(name string) string {
	if class, ok := strings.CutPrefix(c.settings.Option("PropertyNamingPolicy"), "code:"); ok {
		renamed, followed := c.code.Renamed(class, "ConvertName", name)
		if !followed {
			c.lost = "what " + class + " makes of names is not followed"
		}
		return renamed
	}
	if rename := policies[c.settings.Option("PropertyNamingPolicy")]; rename != nil {
		return rename(name)
	}
	return name
}

// camel lowers a leading run of capitals up to the last one before what is none (JsonCamelCaseNamingPolicy).
func camel(name string) string {
	runes := []rune(name)
	if len(runes) == 0 || !unicode.IsUpper(runes[0]) {
		return name
	}
	for i := range runes {
		if i == 1 && !unicode.IsUpper(runes[i]) {
			break
		}
		next := i+1 < len(runes)
		if i > 0 && next && !unicode.IsUpper(runes[i+1]) {
			if runes[i+1] == ' ' {
				runes[i] = unicode.ToLower(runes[i])
			}
			break
		}
		runes[i] = unicode.ToLower(runes[i])
	}
	return string(runes)
}

// separated puts a separator between the words of a name (JsonSeparatorNamingPolicy).
func separated(name string, sep rune) string {
	var b strings.Builder
	const (
		start = iota
		upper
		lower
		digit
		space
	)
	state := start
	runes := []rune(name)
	for i, c := range runes {
		switch {
		case unicode.IsUpper(c):
			switch state {
			case lower, digit, space:
				b.WriteRune(sep)
			case upper:
				if i+1 < len(runes) && unicode.IsLower(runes[i+1]) {
					b.WriteRune(sep)
				}
			}
			b.WriteRune(c)
			state = upper
		case unicode.IsLetter(c), unicode.IsDigit(c):
			if state == space {
				b.WriteRune(sep)
			}
			b.WriteRune(c)
			state = lower
			if unicode.IsDigit(c) {
				state = digit
			}
		case unicode.IsSpace(c):
			if state != start {
				state = space
			}
		default:
			b.WriteRune(c)
			state = start
		}
	}
	return b.String()
}

// keyOf is the key that a member would be read from.
func (c *compiler) keyOf(f *model.Field) string {
	if a := find(f.Marks, "JsonPropertyName"); a != nil {
		return a.Text("value", f.Name)
	}
	return c.named(f.Name)
}

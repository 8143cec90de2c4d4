package newtonsoft

import (
	"strings"
	"unicode"

	"vetta/internal/model"
)

// strategy is how names are changed: by which class, and whether names that are given are changed too.
type strategy struct {
	rename    func(string) string
	specified bool
}

// strategies are those of the library.
var strategies = map[string]func(string) string{
	"CamelCaseNamingStrategy": camel, "SnakeCaseNamingStrategy": func(s string) string { return separated(s, '_') },
	"KebabCaseNamingStrategy": func(s string) string { return separated(s, '-') }, "DefaultNamingStrategy": func(s string) string { return s },
}

// strategyOf is what a setting says, or what an attribute names.
func strategyOf(text string) (s strategy, ok bool) {
	name, flags, _ := strings.Cut(text, ":")
	rename := strategies[name]
	return strategy{rename, strings.Contains(flags, "specified")}, rename != nil
}

// fromSettings is the strategy that the settings name; ok is false for none.
func (c *compiler) fromSettings() (s strategy, ok bool) {
	text := c.settings.Option("naming")
	class, own := strings.CutPrefix(text, "code:")
	if !own {
		return strategyOf(text)
	}
	class, specified := strings.CutSuffix(class, ":specified")
	return strategy{func(name string) string {
		renamed, followed := c.code.Renamed(class, "ResolvePropertyName", name)
		if !followed {
			c.lost = "what " + class + " makes of names is not followed"
		}
		return renamed
	}, specified}, true
}

// named is a name by the strategy of a class, or of the settings.
func (c *compiler) named(name string, own *strategy) string {
	s := own
	if s == nil {
		if of, ok := c.fromSettings(); ok {
			s = &of
		}
	}
	if s == nil {
		return name
	}
	return s.rename(name)
}

// ownStrategy is that of a class, nil for none: [JsonObject(NamingStrategyType = typeof(…))].
func ownStrategy(m *model.Model) *strategy {
	a := find(m.Marks, "JsonObject")
	if a == nil {
		return nil
	}
	s, ok := strategyOf(model.SimpleName(a.Text("NamingStrategyType", "")))
	if !ok {
		return nil
	}
	return &s
}

// camel lowers a leading run of capitals up to the last one before what is none (StringUtils.ToCamelCase).
func camel(name string) string {
	runes := []rune(name)
	if len(runes) == 0 || !unicode.IsUpper(runes[0]) {
		return name
	}
	for i := range runes {
		if i == 1 && !unicode.IsUpper(runes[i]) {
			break
		}
		if i > 0 && i+1 < len(runes) && !unicode.IsUpper(runes[i+1]) {
			if unicode.IsSpace(runes[i+1]) {
				runes[i] = unicode.ToLower(runes[i])
			}
			break
		}
		runes[i] = unicode.ToLower(runes[i])
	}
	return string(runes)
}

// separated puts a separator between the words of a name, all in small letters (StringUtils.ToSeparatedCase).
func separated(name string, sep rune) string {
	const (
		start = iota
		lower
		upper
		word
	)
	var b strings.Builder
	state := start
	runes := []rune(name)
	for i, c := range runes {
		switch {
		case c == ' ':
			if state != start {
				state = word
			}
		case unicode.IsUpper(c):
			switch state {
			case upper:
				if i > 0 && i+1 < len(runes) {
					if next := runes[i+1]; !unicode.IsUpper(next) && next != sep {
						b.WriteRune(sep)
					}
				}
			case lower, word:
				b.WriteRune(sep)
			}
			b.WriteRune(unicode.ToLower(c))
			state = upper
		case c == sep:
			b.WriteRune(sep)
			state = start
		default:
			if state == word {
				b.WriteRune(sep)
			}
			b.WriteRune(c)
			state = lower
		}
	}
	return b.String()
}

// matching finds the member that a name means: the one of that very key, else the first in any case.
func matching(keys []string) func(string) string {
	exact, fold := map[string]bool{}, map[string]string{}
	for _, k := range keys {
		exact[k] = true
		if f := strings.ToLower(k); fold[f] == "" {
			fold[f] = k
		}
	}
	return func(name string) string {
		if exact[name] {
			return name
		}
		if k := fold[strings.ToLower(name)]; k != "" {
			return k
		}
		return name
	}
}

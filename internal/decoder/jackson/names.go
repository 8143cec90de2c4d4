package jackson

import (
	"strings"
	"unicode"
)

// Rename is what a naming strategy makes of a property's name; ok is false for one that
// is code of the app.
func Rename(strategy, name string) (renamed string, ok bool) {
	switch strategy {
	case "", "LowerCamelCase", "LOWER_CAMEL_CASE":
		return name, true
	case "SnakeCase", "SNAKE_CASE", "LowerCaseWithUnderscores", "CAMEL_CASE_TO_LOWER_CASE_WITH_UNDERSCORES":
		return snake(name), true
	case "UpperSnakeCase", "UPPER_SNAKE_CASE":
		return strings.ToUpper(snake(name)), true
	case "UpperCamelCase", "UPPER_CAMEL_CASE", "PascalCase", "PASCAL_CASE_TO_CAMEL_CASE":
		if name == "" {
			return name, true
		}
		return strings.ToUpper(name[:1]) + name[1:], true
	case "LowerCase", "LOWER_CASE":
		return strings.ToLower(name), true
	case "KebabCase", "KEBAB_CASE":
		return separated(name, '-'), true
	case "LowerDotCase", "LOWER_DOT_CASE":
		return separated(name, '.'), true
	}
	return name, false
}

// snake is SnakeCaseStrategy.translate: a run of capitals is one word.
func snake(name string) string {
	var out []rune
	before := false // the last character was a capital
	for i, c := range name {
		if i == 0 && c == '_' {
			continue
		}
		if unicode.IsUpper(c) {
			if !before && len(out) > 0 && out[len(out)-1] != '_' {
				out = append(out, '_')
			}
			c = unicode.ToLower(c)
			before = true
		} else {
			before = false
		}
		out = append(out, c)
	}
	if len(out) == 0 {
		return name
	}
	return string(out)
}

// separated is NamingBase.translateLowerCaseWithSeparator: the last of a run of capitals
// begins the next word.
func separated(name string, mark rune) string {
	var out []rune
	capitals := 0
	for i, c := range name {
		lower := unicode.ToLower(c)
		if lower == c {
			if capitals > 1 {
				out = append(out[:len(out)-1], mark, out[len(out)-1])
			}
			capitals = 0
		} else {
			if capitals == 0 && i > 0 {
				out = append(out, mark)
			}
			capitals++
		}
		out = append(out, lower)
	}
	return string(out)
}

// mangled is BeanUtil.legacyManglePropertyName: all capitals that a name begins with
// become small letters.
func mangled(name string) string {
	out := []rune(name)
	for i, c := range out {
		if unicode.ToLower(c) == c {
			break
		}
		out[i] = unicode.ToLower(c)
	}
	return string(out)
}

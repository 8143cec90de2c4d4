package gson

import (
	"strings"
	"unicode"

	"vetta/internal/model"
)

// Rename is what a FieldNamingPolicy makes of a field's name; ok is false for a policy
// that is code of the app.
func Rename(policy, name string) (renamed string, ok bool) {
	switch policy {
	case "", "IDENTITY":
		return name, true
	case "LOWER_CASE_WITH_UNDERSCORES":
		return strings.ToLower(separate(name, '_')), true
	case "LOWER_CASE_WITH_DASHES":
		return strings.ToLower(separate(name, '-')), true
	case "LOWER_CASE_WITH_DOTS":
		return strings.ToLower(separate(name, '.')), true
	case "UPPER_CASE_WITH_UNDERSCORES":
		return strings.ToUpper(separate(name, '_')), true
	case "UPPER_CAMEL_CASE":
		return upperFirst(name), true
	case "UPPER_CAMEL_CASE_WITH_SPACES":
		return upperFirst(separate(name, ' ')), true
	}
	return name, false
}

// separate is FieldNamingPolicy.separateCamelCase: a mark before each capital letter
// but the first character.
func separate(name string, mark byte) string {
	var b strings.Builder
	for _, c := range name {
		if unicode.IsUpper(c) && b.Len() > 0 {
			b.WriteByte(mark)
		}
		b.WriteRune(c)
	}
	return b.String()
}

// upperFirst makes the first letter a capital, wherever it stands.
func upperFirst(name string) string {
	for i, c := range name {
		if unicode.IsLetter(c) {
			return name[:i] + string(unicode.ToUpper(c)) + name[i+len(string(c)):]
		}
	}
	return name
}

// names are the keys of a field: that of its annotation with the alternates, or what
// the policy makes of its name.
func (c *compiler) names(f *model.Field) (name string, others []string, ok bool) {
	if a := f.Marks.Find("SerializedName"); a != nil {
		return a.Text("value", f.Name), a.Texts("alternate"), true
	}
	name, ok = Rename(c.settings.Option("naming"), f.Name)
	return name, nil, ok
}

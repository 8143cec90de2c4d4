package cli

import (
	"fmt"
	"strings"

	"vetta/internal/model"
	"vetta/internal/source"
)

// namesakes says which of several models of one name a type that was given by hand is taken for,
// and how to name the others, a line for each of those.
func namesakes(set *model.Set, typeText string) (told []string) {
	t, _ := source.ParseType(set, typeText) // what is wrong with it has been said
	t.Walk(func(t *model.Type) {
		m := t.Model
		if m == nil || strings.Contains(typeText, "@") || m.Package != "" && strings.Contains(typeText, m.Package+"."+m.Name) {
			return
		}
		for _, other := range set.Models {
			if other == m || other.Name != m.Name {
				continue
			}
			how := "name it as " + typeText + "@" + other.Pos.File
			if other.Package != "" && typeText == m.Name {
				how = "name it as " + other.Package + "." + other.Name + " or " + typeText + "@" + other.Pos.File
			}
			told = append(told, fmt.Sprintf("%s is taken for the one at %s; for the one at %s, %s", m.Name, m.Pos, other.Pos, how))
		}
	})
	return told
}

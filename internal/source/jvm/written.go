package jvm

import (
	"strings"

	"vetta/internal/model"
)

// TypeText writes a type as Kotlin and Java do, one that may be null with Kotlin's question mark.
func TypeText(t *model.Type) string {
	var args []string
	for _, a := range t.Args {
		args = append(args, TypeText(a))
	}
	name := t.Name
	if t.Class != "" {
		return t.Class + "<" + strings.Join(args, ", ") + ">"
	}
	switch t.Kind {
	case model.Optional:
		return args[0] + "?"
	case model.List:
		switch {
		case name == "[]":
			return args[0] + "[]"
		case name == "":
			name = "List"
		case name != "Array":
			return name
		}
	case model.Unique:
		name = "Set"
	case model.Map:
		name = "Map"
	}
	if len(args) == 0 {
		return name
	}
	return name + "<" + strings.Join(args, ", ") + ">"
}

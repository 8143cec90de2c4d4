package drift

import (
	"vetta/internal/decoder"
)

var constantAsNull = &Kind{
	Name:  "constant-as-null",
	Level: Misreads,
	Title: "a text that no constant of the enum has becomes null",
	Text: `The library knows the constants of the enum by their names and annotations, exactly as
written. Any other text becomes null, without an error.`,
	Examples: []Example{
		{"Java, Gson", `class Notice { Level level; }
enum Level { INFO, WARN }`, `{"level": "severe"}`},
		{"Kotlin, Gson", `data class Notice(val level: Level?)
enum class Level { INFO, WARN }`, `{"level": "severe"}`},
	},
	Fix: `Add the constant, or annotate it with the text that is sent; and handle null where the
field is used.`,
	takes: loss(decoder.NoConstant),
	suggest: func(f *Finding) Change {
		if text := f.literal(); text != "" {
			return Change{f.speech().constant(text, f.Library), "and handle null for those still to come"}
		}
		return say("add the constant, with the text that is sent in its annotation")
	},
}

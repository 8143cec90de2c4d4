package misreads

import (
	"vetta/internal/decoder"
	"vetta/internal/drift/finding"
)

// ConstantAsNull is the kind constant-as-null: a text that no constant of the enum has becomes null.
var ConstantAsNull = &finding.Kind{
	Name:  "constant-as-null",
	Level: finding.Misreads,
	Title: "a text that no constant of the enum has becomes null",
	Text: `The library knows the constants of the enum by their names and annotations, exactly as
written. Any other text becomes null, without an error.`,
	Examples: []finding.Example{
		{In: "Java, Gson", Code: `class Notice { Level level; }
enum Level { INFO, WARN }`, Sent: `{"level": "severe"}`},
		{In: "Kotlin, Gson", Code: `data class Notice(val level: Level?)
enum class Level { INFO, WARN }`, Sent: `{"level": "severe"}`},
	},
	Fix: `Add the constant, or annotate it with the text that is sent; and handle null where the
field is used.`,
	Takes: finding.Loss(decoder.NoConstant),
	Suggest: func(f *finding.Finding) finding.Change {
		if text := f.Literal(); text != "" {
			return finding.Change{Code: f.Speech().Constant(text, f.Library), Why: "and handle null for those still to come"}
		}
		return finding.Say("add the constant, with the text that is sent in its annotation")
	},
}

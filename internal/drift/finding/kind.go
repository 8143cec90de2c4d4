package finding

import (
	"vetta/internal/decoder"
	"vetta/internal/shape"
)

// Level is how bad a finding is.
type Level string

// The levels, from worst.
const (
	Breaks   Level = "breaks"   // decoding throws
	Misreads Level = "misreads" // the app sees another value than was sent
	Ignores  Level = "ignores"  // sent and never read
	Loose    Level = "loose"    // declared wider than anything seen
)

// Levels are all of them, worst first.
var Levels = []Level{Breaks, Misreads, Ignores, Loose}

// Rank is 0 for the worst level.
func (l Level) Rank() int {
	for i, other := range Levels {
		if l == other {
			return i
		}
	}
	return len(Levels)
}

// Kind is a kind of finding. Each has a file of its own, with what help says of it.
type Kind struct {
	Name  string // as output and help call it
	Level Level
	Title string // what is wrong, in a few words
	Text  string // what it means, for help
	Fix   string // what to do, for help
	// Examples show it, one for each language and library that it occurs in, or for one of several
	// that are alike.
	Examples []Example

	// takes says whether an event is of this kind; nil for kinds that are not made
	// of events.
	Takes func(ev *Event) bool
	// suggest says what to change, for one finding.
	Suggest func(f *Finding) Change
}

// Example is a declaration and responses in which a kind of finding is found.
type Example struct {
	In   string // the language, with the library where it has several
	Code string // the first type that it declares is what is decoded
	Sent string // the responses, one on each line
	// Posted says that Sent are requests, each of which was accepted, and that the app sends the type.
	Posted bool
}

// Reason takes failures for one of some reasons.
func Reason(reasons ...decoder.Reason) func(*Event) bool {
	return func(ev *Event) bool {
		if !ev.Breaks() {
			return false
		}
		for _, r := range reasons {
			if ev.Err.Reason == r {
				return true
			}
		}
		return false
	}
}

// Loss takes events that lose something in a way.
func Loss(l decoder.Loss) func(*Event) bool {
	return func(ev *Event) bool { return ev.Loss == l }
}

// Classes are the classes that the finding's values are of.
func (f *Finding) Classes() (classes []shape.Class) {
	for _, s := range f.Sites {
		for _, sent := range s.Sent {
			classes = append(classes, sent.Class)
		}
	}
	return classes
}

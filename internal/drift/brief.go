package drift

import (
	"fmt"
	"math"
	"strconv"
	"strings"

	"vetta/internal/shape"
	"vetta/internal/wire"
)

// Title is what is wrong, in a few words.
func (f *Finding) Title() string {
	if f.Kind == missingKey && f.never() {
		return "the key is never sent"
	}
	return f.Kind.Title
}

// Brief is what is wrong in the fewest words that tell it, for a list of findings. literal is a value that
// was sent, as the reader may see it, "" for none.
func (f *Finding) Brief(literal string) string {
	var all []string
	for _, s := range f.Sites {
		for _, sent := range s.Sent {
			all = append(all, sent.What)
		}
	}
	sent := ""
	if len(all) > 0 {
		sent = all[0]
	}
	absent := strings.HasPrefix(sent, "no key ")
	if absent || strings.HasPrefix(literal, "{") || strings.HasPrefix(literal, "[") {
		literal = ""
	}
	value := literal
	if value == "" {
		value = sent
	}
	switch f.Kind {
	case renamedKey, renamedSilently:
		return "sent as " + f.Rename
	case movedKey, movedSilently:
		return "sent at " + f.Rename
	case missingKey:
		if f.never() {
			return "is never sent"
		}
		return "not always sent"
	case nullValue:
		return "null"
	case unknownKey:
		return "an unknown key fails"
	case hiddenNull, silentZero:
		if absent {
			sent = "absent"
		}
		if f.Kind == hiddenNull {
			return sent + " in a property that is never null"
		}
		return sent + " seen as " + f.Seen
	case unreadableDate:
		return value + " is no date that it reads"
	case unknownConstant, constantAsNull:
		return value + " is no constant of it"
	case unreadableText:
		return value + " cannot be made " + f.Declared
	case outOfRange:
		if sent == "a number with a fraction" && literal != "" {
			return literal
		}
		return sent
	case wrongKind:
		return value + ", not " + f.Declared
	case listMismatch:
		if sent == "an array" {
			return "a list"
		}
		return sent + ", not a list"
	case wrongRoot:
		return fmt.Sprintf("%s, not %s", sent, f.Declared)
	case undecodableType:
		return "cannot be decoded at all"
	case unknownClass:
		return value + " is of no class"
	case mixedValues:
		return strings.Join(all[:min(3, len(all))], ", ")
	case keptDefault, swallowedError, neverFits, neverRead, lostDigits, wrongUnit:
		if value != "" && f.Seen != "" {
			return value + " seen as " + f.Seen
		}
	}
	return f.Title()
}

// numbers says of whole numbers that a type cannot hold how far those that were sent go.
func (s *Site) numbers(sent *Sent) {
	if sent.class.Kind != wire.Number || sent.class.Facts&shape.Broken != 0 || sent.literal != "" || s.low == 0 && s.high == 0 {
		return
	}
	end, words := s.high, "whole numbers up to "
	if sent.class.Facts&shape.Negative != 0 {
		end, words = s.low, "whole numbers down to "
	}
	if sent.Values == 1 && len(s.Sent) == 1 && len(s.Examples) > 0 && s.Examples[0].Value != "" {
		sent.What = s.Examples[0].Value
		return
	}
	sent.What = words + wholeText(end)
}

// wholeText writes a whole number; one beyond what a double holds exactly is about that.
func wholeText(f float64) string {
	if math.Abs(f) >= 1<<53 {
		return "about " + strconv.FormatFloat(f, 'g', 6, 64)
	}
	return strconv.FormatFloat(f, 'f', -1, 64)
}

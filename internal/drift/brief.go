package drift

import (
	"fmt"
	"math"
	"strconv"
	"strings"

	"vetta/internal/drift/breaks"
	"vetta/internal/drift/finding"
	"vetta/internal/drift/misreads"
	"vetta/internal/drift/sends"
	"vetta/internal/shape"
	"vetta/internal/wire"
)

// Title is what is wrong, in a few words.
func Title(f *finding.Finding) string {
	switch {
	case isOtherRoot(f):
		return "the root element is another"
	case f.Kind == breaks.MissingKey && f.Never():
		return "the key is never sent"
	}
	return f.Kind.Title
}

// Brief is what is wrong in the fewest words that tell it, for a list of findings. literal is a value that
// was sent, as the reader may see it, "" for none.
func Brief(f *finding.Finding, literal string) string {
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
	absent := strings.HasPrefix(sent, finding.Absent)
	if absent || strings.HasPrefix(literal, "<") || strings.HasPrefix(literal, "{") || strings.HasPrefix(literal, "[") {
		literal = ""
	}
	value := literal
	if value == "" {
		value = sent
	}
	switch f.Kind {
	case breaks.RenamedKey, breaks.RenamedSilently:
		return "sent as " + strings.TrimPrefix(strings.TrimPrefix(finding.NoKey(f.Rename), finding.Absent), "key ")
	case breaks.MovedKey, breaks.MovedSilently:
		return "sent at " + f.Rename
	case sends.OtherName:
		return "accepted requests have " + f.Rename
	case sends.UnsentKey:
		return "the class does not send it"
	case sends.OtherKind:
		return fmt.Sprintf("written as %s, accepted as %s", f.Writes, sent)
	case breaks.MissingKey:
		if isOtherRoot(f) {
			return "another root than " + strings.TrimPrefix(sent, finding.Absent+"element ")
		}
		if f.Never() {
			return "is never sent"
		}
		return "not always sent"
	case breaks.NullValue:
		return "null"
	case breaks.UnknownKey:
		return "an unknown key fails"
	case misreads.HiddenNull, misreads.SilentZero:
		if absent {
			sent = "absent"
		}
		if f.Kind == misreads.HiddenNull {
			return sent + " in a property that is never null"
		}
		return sent + " seen as " + f.Seen
	case breaks.UnreadableDate:
		return value + " is no date that it reads"
	case breaks.UnknownConstant, misreads.ConstantAsNull:
		return value + " is no constant of it"
	case misreads.LostOrder:
		return "out of its order, seen as " + f.Seen
	case breaks.UnreadableText:
		return value + " cannot be made " + f.Declared
	case breaks.RefusedValue:
		return value + " is refused by a rule"
	case breaks.OutOfRange:
		if sent == "a number with a fraction" && literal != "" {
			return literal
		}
		return sent
	case breaks.WrongKind:
		if f.Declared == "" {
			return value + " is of another kind"
		}
		return value + ", not " + f.Declared
	case breaks.ListMismatch:
		if sent == "an array" {
			return "a list"
		}
		return sent + ", not a list"
	case breaks.WrongRoot:
		return fmt.Sprintf("%s, not %s", sent, f.Declared)
	case breaks.UndecodableType:
		return "cannot be decoded at all"
	case breaks.UnknownClass:
		return value + " is of no class"
	case misreads.ReachedKey:
		return "asked for a key that nothing has"
	case misreads.StalePart:
		return "its generated part is older"
	case misreads.MixedValues:
		return strings.Join(all[:min(3, len(all))], ", ")
	case misreads.KeptDefault, misreads.SwallowedError, misreads.NeverFits, misreads.NeverRead, misreads.LostDigits, misreads.WrongUnit:
		if value != "" && f.Seen != "" {
			return value + " seen as " + f.Seen
		}
	}
	return Title(f)
}

// numbers says of whole numbers that a type cannot hold how far those that were sent go.
func numbers(s *finding.Site, sent *finding.Sent) {
	if sent.Class.Kind != wire.Number || sent.Class.Facts&shape.Broken != 0 || sent.Literal != "" || s.Low == 0 && s.High == 0 {
		return
	}
	end, words := s.High, "whole numbers up to "
	if sent.Class.Facts&shape.Negative != 0 {
		end, words = s.Low, "whole numbers down to "
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

// isOtherRoot says whether XML documents have another root element than the one that is read.
func isOtherRoot(f *finding.Finding) bool {
	return f.Kind == breaks.MissingKey && f.Model == nil && len(f.Sites) > 0 && len(f.Sites[0].Sent) > 0 && strings.HasPrefix(f.Sites[0].Sent[0].What, finding.Absent+"element ")
}

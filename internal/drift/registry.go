package drift

import (
	"sort"

	"vetta/internal/drift/breaks"
	"vetta/internal/drift/finding"
	"vetta/internal/drift/loose"
	"vetta/internal/drift/misreads"
	"vetta/internal/drift/sends"
)

// Kinds are all kinds, by level and name.
func Kinds() []*finding.Kind {
	out := append([]*finding.Kind(nil), kinds...)
	sort.Slice(out, func(i, k int) bool {
		if a, b := out[i].Level.Rank(), out[k].Level.Rank(); a != b {
			return a < b
		}
		return out[i].Name < out[k].Name
	})
	return out
}

// kinds are all kinds; of two that take an event, the first in this list does.
var kinds = []*finding.Kind{
	breaks.IntForDouble, breaks.UntypedList, breaks.MissingKey, breaks.NullValue, breaks.WrongRoot, breaks.ListMismatch, breaks.WrongKind, breaks.OutOfRange, breaks.UnknownConstant, breaks.UnreadableDate,
	breaks.UnreadableText, breaks.RefusedValue, breaks.WrongCase, breaks.WrongMapKey, breaks.RepeatedKey, breaks.UnknownKey, breaks.UnknownClass, breaks.UndecodableType, breaks.ThrownByCode,
	breaks.RenamedKey, breaks.RenamedSilently, breaks.MovedKey, breaks.MovedSilently, misreads.MixedValues, misreads.LostDigits, misreads.WrongUnit, misreads.RolledDate, misreads.NeverFits, misreads.KeptDefault, misreads.SwallowedError, breaks.DroppedElement, misreads.StalePart, misreads.ReachedKey, misreads.NeverRead, misreads.LostOrder, misreads.SilentZero, misreads.HiddenNull, misreads.ConstantAsNull,
	loose.UnreadKeys,
	loose.NeverAbsent, loose.NeverSent, loose.NumberInText, loose.FewTexts,
	sends.UnsentKey, sends.UnsentOptional, sends.OtherName, sends.OtherKind, sends.LeftOut, sends.Unasked,
}

// kindOf is the kind of an event, nil where it is no finding.
func kindOf(ev *finding.Event) *finding.Kind {
	if ev.Loss == finding.Quiet {
		return nil
	}
	for _, k := range kinds {
		if k.Takes != nil && k.Takes(ev) {
			return k
		}
	}
	return nil
}

package drift

import (
	"sort"
)

// Kinds are all kinds, by level and name.
func Kinds() []*Kind {
	out := append([]*Kind(nil), kinds...)
	sort.Slice(out, func(i, k int) bool {
		if a, b := out[i].Level.Rank(), out[k].Level.Rank(); a != b {
			return a < b
		}
		return out[i].Name < out[k].Name
	})
	return out
}

// kinds are all kinds; of two that take an event, the first in this list does.
var kinds = []*Kind{
	missingKey, nullValue, wrongRoot, listMismatch, wrongKind, outOfRange, unknownConstant, unreadableDate,
	unreadableText, wrongCase, wrongMapKey, unknownKey, unknownClass, undecodableType, thrownByCode,
	renamedKey, renamedSilently, movedKey, movedSilently, mixedValues, lostDigits, wrongUnit, neverFits, keptDefault, swallowedError, droppedElement, neverRead, silentZero, hiddenNull, constantAsNull,
	unreadKeys,
	neverAbsent, neverSent, numberInText,
}

// kindOf is the kind of an event, nil where it is no finding.
func kindOf(ev *event) *Kind {
	if ev.loss == quiet {
		return nil
	}
	for _, k := range kinds {
		if k.takes != nil && k.takes(ev) {
			return k
		}
	}
	return nil
}

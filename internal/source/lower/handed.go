package lower

import (
	"slices"
	"strings"

	"vetta/internal/code"
	"vetta/internal/model"
	"vetta/internal/source/scan"
)

// severalDecoders is why nothing is claimed of what a decoder that is handed on decodes.
const severalDecoders = "it is decoded by one of several decoders, and which of them is not followed"

// Handed are the settings of a decoder that is handed to code from where it is not followed: those of the
// decoders that the project gives a name, where they are alike; nil where it gives none a name.
func Handed(decoders []*model.Settings, library string, at model.Pos) *model.Settings {
	if len(decoders) == 0 {
		return nil
	}
	for _, d := range decoders[1:] {
		if !d.Same(decoders[0]) {
			return &model.Settings{Library: library, Pos: at, Why: severalDecoders}
		}
	}
	return decoders[0]
}

// IsAssigned says whether a name is given something in a text other than where it is declared, so that who
// uses it must be followed.
func IsAssigned(text, name string) bool {
	for at := 0; name != ""; {
		i := strings.Index(text[at:], name)
		if i < 0 {
			break
		}
		start := at + i
		at = start + len(name)
		rest := strings.TrimLeft(text[at:], " \t")
		if !strings.HasPrefix(rest, "=") || strings.HasPrefix(rest, "==") {
			continue
		}
		switch before := strings.TrimRight(text[:start], " \t"); {
		case before == "":
			return true
		case strings.IndexByte("\n;{}(.", before[len(before)-1]) >= 0:
			return true
		}
	}
	return false
}

// Built is where source makes a decoder, as a token of a file, and the names that it gives it.
type Built struct {
	File  *scan.File
	At    int
	Names []string
}

// Meant are those of some decoders that a value is by the names it goes by: by the nearest of them, those
// that are made in what it is given; else one of that name, in the file where it is used before the only one
// elsewhere. None where none is seen.
func Meant[D any](all []D, built func(D) Built, n code.Named) (found []D) {
	for _, name := range n.Names {
		var here, elsewhere []D
		for _, d := range all {
			b := built(d)
			switch {
			case name.To > 0 && b.File.Name == name.File && b.File.Index(name.From) <= b.At && b.At < b.File.Index(name.To):
				found = append(found, d)
			case !slices.Contains(b.Names, name.Text):
			case b.File.Name == n.File:
				here = append(here, d)
			default:
				elsewhere = append(elsewhere, d)
			}
		}
		switch {
		case len(found) > 0:
			return found
		case len(here) > 0 && name.To == 0:
			return here[:1]
		case len(elsewhere) == 1 && len(here) == 0:
			return elsewhere
		}
	}
	return nil
}

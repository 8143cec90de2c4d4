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

// Decoders are those that source makes, to be found by where and by name.
type Decoders[D any] struct {
	built          func(D) Built
	byFile, byName map[string][]D
}

// NewDecoders puts decoders in order, each where source makes it.
func NewDecoders[D any](all []D, built func(D) Built) *Decoders[D] {
	d := &Decoders[D]{built: built, byFile: map[string][]D{}, byName: map[string][]D{}}
	for _, one := range all {
		b := built(one)
		d.byFile[b.File.Name] = append(d.byFile[b.File.Name], one)
		for i, name := range b.Names {
			if !slices.Contains(b.Names[:i], name) {
				d.byName[name] = append(d.byName[name], one)
			}
		}
	}
	return d
}

// Meant are those that a value is by the names it goes by: by the nearest of them, those that are made in
// what it is given; else one of that name, in the file where it is used before the only one elsewhere. None
// where none is seen.
func (d *Decoders[D]) Meant(n code.Named) (found []D) {
	for _, name := range n.Names {
		if name.To > 0 {
			for _, one := range d.byFile[name.File] {
				if b := d.built(one); b.File.Index(name.From) <= b.At && b.At < b.File.Index(name.To) {
					found = append(found, one)
				}
			}
			if len(found) > 0 {
				return found
			}
		}
		all := d.byName[name.Text]
		here := slices.IndexFunc(all, func(one D) bool { return d.built(one).File.Name == n.File })
		switch {
		case here >= 0 && name.To == 0:
			return all[here : here+1]
		case here < 0 && len(all) == 1:
			return all
		}
	}
	return nil
}

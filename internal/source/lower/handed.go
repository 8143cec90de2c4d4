package lower

import "vetta/internal/model"

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

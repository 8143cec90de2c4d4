package swift

import (
	"vetta/internal/code/hand"
	"vetta/internal/model"
	"vetta/internal/source/lower"
)

// mapReader is the initialiser of a declaration that takes one [String: Any], nil
// for none: that is how code reads what JSONSerialization has parsed.
func (l *linker) mapReader(d *typeDecl) *function {
	fn, _, _ := l.mapReaderOf(d)
	return fn
}

func (l *linker) mapReaderOf(d *typeDecl) (fn *function, part *typeDecl, param string) {
	for _, part := range l.parts(d) {
		for _, fn := range part.inits {
			if fn.typ == nil {
				continue
			}
			if t := l.resolve(fn.typ, part); isJSONMap(t) && t.Kind == model.Map {
				return fn, part, fn.param
			}
		}
	}
	return nil, nil, ""
}

// fillFromMap follows the initialiser that reads a model from a [String: Any].
func (l *linker) fillFromMap(d *typeDecl, m *model.Model) bool {
	fn, part, param := l.mapReaderOf(d)
	if fn == nil {
		return false
	}
	m.FromMap = true
	f := l.newFollower(part, byName(m), "")
	f.Bind(param, hand.Binding{Part: &hand.Part{Kind: jsonMap}})
	steps, err := f.Follow(lower.Body(part.file, l.language(part), fn.body[0], fn.body[1]))
	if err != nil {
		l.lost(m, err)
		return true
	}
	m.Reading, m.Steps = model.ByCode, steps
	l.fieldsOfSteps(m)
	return true
}

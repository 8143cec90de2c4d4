package eval

import (
	"errors"

	"vetta/internal/code"
	"vetta/internal/decoder"
	"vetta/internal/model"
)

// Checks is what the init blocks of a class throw of an instance, nil for a class without such. What they do with a
// property that is not known, and forms that are not followed, throw nothing as far as can be told.
func Checks(m *model.Model) func(decoder.Seen) *decoder.Error {
	r, _ := m.Init.(*code.Routine)
	if r == nil {
		return nil
	}
	return func(instance decoder.Seen) *decoder.Error {
		args := make([]Value, len(r.Params))
		for i, name := range r.Params {
			s, ok := instance.Get(name)
			if !ok {
				s.Kind = decoder.SeenUnknown
			}
			args[i] = Of(s)
			args[i].Model = modelOf(m, name)
		}
		_, err := Run(r, nil, args...)
		var thrown *Thrown
		if errors.As(err, &thrown) {
			return thrown.Err()
		}
		return nil
	}
}

package library

import (
	"vetta/internal/code"
	"vetta/internal/decoder"
	"vetta/internal/decoder/eval"
	"vetta/internal/model"
)

// Drops makes a plan that of a call whose error the app drops, nil for one that it does not: with the value that the
// app then takes in its place, as far as the code that makes it is followed.
func Drops(p *decoder.Plan, call *model.Call) {
	otherwise := decoder.Seen{}
	if call != nil && call.Instead {
		otherwise.Kind = decoder.SeenUnknown
		if r, ok := call.Otherwise.(*code.Routine); ok && r != nil {
			if v, err := eval.Run(r, nil); err == nil {
				if s, known := v.Result(); known {
					otherwise = s
				}
			}
		}
	}
	p.Drops(call, otherwise)
}

package library

import (
	"vetta/internal/code"
	"vetta/internal/decoder"
	"vetta/internal/decoder/eval"
	"vetta/internal/decoder/sharp"
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

// Awaited makes a plan that of a call that waits for the response and must not be given null (Retrofit, of a function of
// Kotlin that suspends): where the library takes null for the whole, the call throws.
func Awaited(p *decoder.Plan) {
	if p.Settings == nil || p.Settings.Root.Awaits == "" || p.Root == nil || p.Root.Op != decoder.OpNil || p.Root.NullError != nil {
		return
	}
	root := *p.Root
	root.NullError = &decoder.Error{
		Kind: "KotlinNullPointerException", Reason: decoder.ReasonNull, Where: decoder.AtRoot,
		Message: "KotlinNullPointerException: Response from " + p.Settings.Root.Awaits + " was null but response body type was declared as non-null",
		Advice:  "return the type with ?, or Response<…>, and look whether there is a body",
	}
	p.Root = &root
}

// RefusesNull makes a plan fail for a response that is null where code of the app does: see sharp.RefusesNull.
func RefusesNull(p *decoder.Plan) { sharp.RefusesNull(p) }

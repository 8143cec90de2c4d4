package asks

import (
	"vetta/internal/model"
	"vetta/internal/source/jvm"
)

// dropped notes that the error of a call is dropped, nil for one that is not.
func dropped(p *jvm.Project, f *jvm.File, call *model.Call, drop *jvm.Drop) {
	if drop == nil {
		return
	}
	call.Swallowed, call.Catches, call.Instead = true, drop.Classes, drop.Instead
	if drop.To > drop.From {
		s := &scope{p: p, f: f, c: p.ClassAt(f, drop.From)}
		call.Otherwise = s.value("otherwise", f.File, drop.From, drop.To)
	}
}

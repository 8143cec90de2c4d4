package dart

import (
	"maps"
	"slices"

	"vetta/internal/code"
	"vetta/internal/code/run"
	"vetta/internal/model"
)

// picked are the classes of which a function makes instances of those elements alone of which its code says so, by what is in
// them, with what names those:
//
//	for (final e in rows) { if (e['kind'] == 'fog') out.add(Fog.fromJson(e)); }
func (r *reading) picked(fn *code.Func) map[*code.Class]string {
	out := map[*code.Class]string{}
	always := map[*code.Class]bool{}
	body := fn.Do()
	in := *fn
	in.Body, in.Unread = body, nil
	code.WalkBody(body, func(x *code.Expr) {
		if x.Op != code.Call || len(x.Args) < 2 {
			return
		}
		class := r.madeBy(x.Args[0])
		if class == nil {
			return
		}
		if p := code.PartOf(x.Args[1], x, &in, inward); p.Picked && slices.Contains(p.Keys, code.Element) {
			out[class] = p.Of
		} else {
			always[class] = true
		}
	})
	maps.DeleteFunc(out, func(c *code.Class, _ string) bool { return always[c] })
	return out
}

// elementOf is the class that a list is of, nil for another type.
func elementOf(t *run.Type) *code.Class {
	class := t.Class
	for class == nil && len(t.Args) == 1 && t.Args[0] != nil {
		t = t.Args[0]
		class = t.Class
	}
	return class
}

// madeBy is the class of which what is called makes an instance of a map, nil for another function.
func (r *reading) madeBy(callee *code.Expr) *code.Class {
	if callee.Op != code.Member || len(callee.Args) == 0 || callee.Args[0].Op != code.Name {
		return nil
	}
	all := r.all[callee.Args[0].Text]
	if len(all) != 1 {
		return nil
	}
	if reader := r.machine.Reader(all[0]); reader == nil || model.SimpleName(reader.Name) != callee.Text {
		return nil
	}
	return all[0]
}

// inward is a step into what jsonDecode answers: rows.cast<Map>(), List.from(rows).
func inward(e *code.Expr) (of *code.Expr, keys []string, whole bool) {
	if e.Op != code.Call {
		return nil, nil, false
	}
	callee := e.Args[0]
	switch {
	case callee.Text == "jsonDecode" || callee.Text == "decode":
		return nil, nil, true
	case callee.Op != code.Member || len(callee.Args) == 0:
	case callee.Text == "from" && len(e.Args) == 2:
		return e.Args[1], nil, false
	case callee.Text == "cast" || callee.Text == "toList":
		return callee.Args[0], nil, false
	}
	return nil, nil, false
}

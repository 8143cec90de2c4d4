package pairing

import (
	"slices"
	"strings"

	"vetta/internal/decoder"
	"vetta/internal/decoder/library"
	"vetta/internal/drift"
	"vetta/internal/model"
)

// root is a type that may be what a response is decoded into.
type root struct {
	typ      *model.Type
	declared string
	model    *model.Model // the first that it names
	call     *model.Call  // nil where no call names it
	held     bool         // another model holds it, and no call names it
	plan     *decoder.Plan
	library  string
	inner    map[*model.Model]bool // those that a generic wrapper is given
	asks     keys
	words    []string                // see names
	requests []request               // that its calls decode the responses of, as far as they are known
	asking   map[request]*model.Call // the first call of each
	// elsewhere says that there are responses of that path: others are not what it decodes.
	elsewhere bool
}

// rootsOf are the types that responses may be decoded into: those that a call names, and models with
// keys. The latter that another model holds come last.
func rootsOf(set *model.Set) (roots []*root) {
	known := map[string]*root{}
	called := map[*model.Model]bool{}
	finder, planners := library.NewFinder(set), library.Planners{}
	add := func(t *model.Type, declared string, call *model.Call, held bool) {
		m := firstModel(t)
		if m == nil {
			return
		}
		if r := known[t.Key()]; r != nil {
			r.asksFor(call)
			return
		}
		settings, drops := finder.For(t)
		lib := library.For(m.Language, settings)
		plan := planners.Plan(lib, finder.AsCalled(t), declared, settings)
		library.Drops(plan, drops)
		library.Awaited(plan)
		if call == nil || call.Part == "" && len(call.Within) == 0 {
			library.RefusesNull(plan)
		}
		r := &root{typ: t, declared: declared, model: m, call: call, held: held, plan: plan, library: lib.Name}
		known[t.Key()] = r
		r.asks = keysOf(plan)
		r.asksFor(call)
		if len(m.Params) > 0 {
			r.inner = map[*model.Model]bool{}
			t.Walk(func(t *model.Type) {
				if t.Model != nil && t.Model != m {
					r.inner[t.Model] = true
				}
			})
		}
		roots = append(roots, r)
	}
	for _, isPart := range []bool{false, true} { // a type that is decoded as a whole, too, is found by that
		for _, c := range set.Calls {
			if c.Type != nil && (c.Part != "") == isPart {
				add(c.Type.Unwrapped(), c.Declared, c, false)
				c.Type.Reach(func(m *model.Model) { called[m] = true })
			}
		}
	}
	picked(set, roots)
	held := map[*model.Model]bool{}
	for _, m := range set.Models {
		m.Held(func(inner *model.Model) {
			if inner != m {
				held[inner] = true
			}
		})
	}
	for _, later := range []bool{false, true} {
		for _, m := range set.Models {
			if (m.Decodable || m.FromMap) && (held[m] || called[m]) == later && hasKeys(m) && len(m.Params) == 0 && !(isForSending(m) && !called[m]) {
				add(&model.Type{Name: m.Name, Model: m}, m.Name, nil, later)
			}
		}
	}
	return roots
}

// picked claims nothing of types that code decodes from some elements alone, by what is in them: which those are is not
// followed.
func picked(set *model.Set, roots []*root) {
	picks := model.PickedOf(set.Calls)
	for _, t := range roots {
		if t.call != nil && picks(t.call) {
			own := *t.plan
			own.Refuses = "code of the app picks what is decoded as it, at " + t.call.Pos.String() + ", by what is in it"
			t.plan = &own
		}
	}
}

// isForSending says whether a model is one for what an app sends, by its name alone: CreatePassBody,
// BookingRequest.
func isForSending(m *model.Model) bool {
	all := drift.Words(m.Name[strings.LastIndexByte(m.Name, '.')+1:])
	if len(all) < 2 {
		return false
	}
	return slices.Contains(sentLast, all[len(all)-1]) || slices.Contains(sentFirst, all[0]) && len(all) > 2
}

var (
	sentLast  = []string{"request", "body", "params", "parameters", "command", "input"}
	sentFirst = []string{"create", "update", "post", "put", "patch", "submit"}
)

// asksFor notes what a call requests, nil for no call.
func (t *root) asksFor(call *model.Call) {
	if call == nil {
		return
	}
	if r := (request{lastWord(call.Endpoint), call.Endpoint, call.Method}); r.word != "" && !slices.Contains(t.requests, r) {
		t.requests = append(t.requests, r)
		if t.asking == nil {
			t.asking = map[request]*model.Call{}
		}
		t.asking[r] = call
	}
}

// request is the path that a call requests, the last word of it that is no parameter, and the method, "" where
// that is not known.
type request struct{ word, path, method string }

// String is the request as evidence has it.
func (r request) String() string {
	if r.method == "" || r.method == "GET" {
		return r.path
	}
	return r.method + " " + r.path
}

func firstModel(t *model.Type) (found *model.Model) {
	t.Walk(func(t *model.Type) {
		if found == nil {
			found = t.Model
		}
	})
	return found
}

// hasKeys says whether a model is read from the keys of an object: enums and
// wrappers of one value are not roots of responses.
func hasKeys(m *model.Model) bool {
	if m.Raw != nil {
		return false
	}
	for _, f := range m.Fields {
		if len(f.Keys) > 0 {
			return true
		}
	}
	return false
}

package model

// Held calls visit for the models that are named in what the model declares or reads: its superclass, the
// types of its fields and cases, and those that its code makes.
func (m *Model) Held(visit func(*Model)) {
	each := func(t *Type) {
		t.Walk(func(t *Type) {
			if t.Model != nil {
				visit(t.Model)
			}
		})
	}
	each(m.Super)
	for _, sub := range m.Subs {
		visit(sub)
	}
	for _, f := range m.Fields {
		each(f.Type)
		each(f.Wrapper)
	}
	for _, c := range m.Cases {
		for _, v := range c.Values {
			each(v.Type)
		}
	}
	WalkSteps(m.Steps, func(_ string, e *Expr) { each(e.Type) })
}

// Reach calls visit for every model that a value of the type may hold, once each.
func (t *Type) Reach(visit func(*Model)) {
	seen := map[*Model]bool{}
	var reach func(m *Model)
	reach = func(m *Model) {
		if !seen[m] {
			seen[m] = true
			visit(m)
			m.Held(reach)
		}
	}
	t.Walk(func(t *Type) {
		if t.Model != nil {
			reach(t.Model)
		}
	})
}

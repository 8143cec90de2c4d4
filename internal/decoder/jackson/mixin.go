package jackson

import (
	"slices"

	"vetta/internal/decoder/jvm"
	"vetta/internal/model"
)

// A mix-in is a class whose annotations a mapper takes for those of another one (AnnotatedClassResolver,
// AnnotatedFieldCollector, AnnotatedMethodCollector, AnnotatedCreatorCollector): of the class, of fields of the same
// name, of methods and constructors with the same parameters. Of two of a kind that of the mix-in holds.

// mixIn is the class whose annotations hold for a class of the source, nil where the mapper has none for it.
func (c *compiler) mixIn(m *model.Model) *model.Model {
	if c.settings == nil {
		return nil
	}
	for _, x := range slices.Backward(c.settings.MixIns) { // the last one for a class holds
		if x.Of == m {
			return x.By
		}
	}
	return nil
}

// mixes says whether the mapper has mix-ins.
func (c *compiler) mixes() bool { return c.settings != nil && len(c.settings.MixIns) > 0 }

// mixed is a class of Java as a mapper with mix-ins sees it.
func (c *compiler) mixed(m *model.Model) *model.Model {
	c.views.begin()
	if c.views.models[m] != nil {
		return m
	}
	if known := c.views.of[m]; known != nil {
		return known
	}
	v := new(model.Model)
	*v = *m
	c.views.of[m], c.views.models[v] = v, m
	v.Super = c.java(m.Super)
	v.Related = c.relatedView(m)
	v.Fields, v.Methods, v.Ctors, v.Builder = nil, c.mixedMethods(m.Methods), c.mixedMethods(m.Ctors), c.mixedMethods(m.Builder)
	for _, f := range m.Fields {
		own := *f
		own.Type = c.java(f.Type)
		c.views.same[&own] = f
		v.Fields = append(v.Fields, &own)
	}
	c.mix(v, m)
	return v
}

func (c *compiler) mixedMethods(all []*model.Method) (out []*model.Method) {
	for _, m := range all {
		own := *m
		own.Returns, own.Params = c.java(m.Returns), nil
		for _, p := range m.Params {
			of := *p
			of.Type = c.java(p.Type)
			own.Params = append(own.Params, &of)
		}
		out = append(out, &own)
	}
	return out
}

// relatedView finds what the source of a class names, as Jackson sees it: a mix-in may name classes that the class that
// it is for does not.
func (c *compiler) relatedView(m *model.Model) func(string) *model.Model {
	return func(name string) *model.Model {
		found := related(m, name)
		if by := c.mixIn(m); found == nil && by != nil {
			found = related(by, name)
		}
		if found == nil {
			return nil
		}
		return c.java(&model.Type{Kind: model.Named, Name: found.Name, Model: found}).Model
	}
}

// mix gives the view of a class the annotations of its mix-in, and of what that extends.
func (c *compiler) mix(v, m *model.Model) {
	by := c.mixIn(m)
	if by == nil {
		return
	}
	if m.Kind == model.Enum {
		v.Reading, v.Why, v.WhyPos = model.Unfollowed, "the mix-in "+by.Name+" of an enum is not followed", m.Pos
		return
	}
	t := &model.Type{Kind: model.Named, Name: by.Name, Model: by}
	all := supertypes(t)
	for i := range slices.Backward(all) { // the nearest comes last, and holds
		over := all[i].Model
		if over.Language == "kotlin" && !c.isView(over) {
			over = c.view(over)
		}
		v.Marks = overridden(v.Marks, over.Marks)
		for _, f := range v.Fields {
			for _, of := range over.Fields {
				if of.Name == f.Name {
					f.Marks = overridden(f.Marks, of.Marks)
				}
			}
		}
		overrideMethods(v.Methods, over.Methods, true)
		if i == 0 {
			overrideMethods(v.Ctors, over.Ctors, false)
		}
	}
}

func overrideMethods(methods, by []*model.Method, named bool) {
	for _, m := range methods {
		for _, over := range by {
			if named && over.Name != m.Name || !sameParams(m, over) {
				continue
			}
			m.Marks = overridden(m.Marks, over.Marks)
			for i, p := range m.Params {
				p.Marks = overridden(p.Marks, over.Params[i].Marks)
			}
		}
	}
}

// sameParams says whether two methods take the same classes.
func sameParams(a, b *model.Method) bool {
	return len(a.Params) == len(b.Params) && !slices.ContainsFunc(a.Params, func(p *model.Parameter) bool {
		return erased(p.Type) != erased(b.Params[slices.Index(a.Params, p)].Type)
	})
}

// erased is the class of a type, as far as it tells methods apart.
func erased(t *model.Type) string {
	u := t.Unwrapped()
	switch u.Kind {
	case model.List:
		if u.Name != "" { // an array
			return erased(u.Args[0]) + "[]"
		}
		return "List" + u.Class
	case model.Unique:
		return "Set" + u.Class
	case model.Map:
		return "Map" + u.Class
	case model.Param:
		return "Object"
	}
	if s := jvm.Scalar(u); s != "" {
		return u.Name
	}
	return model.SimpleName(u.Name)
}

// overridden are annotations with others in the place of those of the same kind.
func overridden(marks, by model.Annotated) model.Annotated {
	if len(by) == 0 {
		return marks
	}
	kept := slices.DeleteFunc(slices.Clone(marks), func(a model.Annotation) bool { return by.Find(a.Name) != nil })
	return append(kept, by...)
}

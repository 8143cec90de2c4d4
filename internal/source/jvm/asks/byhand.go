package asks

import (
	"strings"

	"vetta/internal/model"
	"vetta/internal/source/jvm"
	"vetta/internal/source/scan"
)

// byHandIn finds where a file hands a parsed text to a class that reads it by hand, or to a function
// that makes one of it: Sailing.of(new JSONObject(text)), Sailing(JSONObject(text)),
// Parser.sailing(JSONObject(text)), JSONObject(text).toSailing().
func byHandIn(p *jvm.Project, f *jvm.File) (calls []*model.Call) {
	add := func(class *jvm.Class, at, parsed int) {
		m := class.Model
		m.Name = class.FullName()
		calls = append(calls, &model.Call{
			Pos: f.Where(at), Language: f.Language, Declared: m.Name, Type: &model.Type{Kind: model.Named, Name: m.Name, Model: m, Pos: f.Where(at)},
			Settings: &model.Settings{Library: "orgjson", Pos: f.Where(parsed), Options: map[string]model.Option{}},
		})
	}
	for _, hit := range f.Hits {
		i := int(hit)
		if !f.Is(i, "JSONObject") || !f.Is(i+1, "(") {
			continue
		}
		if shut := f.Partner(i + 1); f.Is(shut+1, ".") && f.KindAt(shut+2) == scan.Ident && f.Is(shut+3, "(") {
			if class := madeByFunction(p, f, nil, f.Ident(shut+2), true); class != nil {
				add(class, shut+2, i)
			}
			continue
		}
		at := i - 1
		if at > 0 && f.Is(at, "new") {
			at--
		}
		if at < 1 || !f.Is(at, "(") {
			continue
		}
		start := at - 1
		for start >= 2 && f.Is(start-1, ".") {
			start -= 2
		}
		found := false
		for end := at - 1; end >= start && !found; end -= 2 {
			class := p.Find(f, p.ClassAt(f, i), strings.ReplaceAll(f.Text(start, end+1), " ", ""))
			if class == nil {
				continue
			}
			if by := jvm.ByHand(class); class.IsModel() && by != nil && class.IsMadeBy(by) {
				add(class, start, i)
				found = true
			} else if made := madeByFunction(p, f, class, f.Ident(at-1), false); made != nil && p.SuperOf(class) != made {
				add(made, start, i)
				found = true
			} else if class.IsModel() && by != nil {
				add(class, start, i)
				found = true
			}
		}
		if made := madeByFunction(p, f, nil, f.Ident(at-1), false); !found && made != nil {
			add(made, start, i)
		}
	}
	return calls
}

// madeByFunction is the class that a function of a name makes of a JSONObject: a function of a class or
// its objects, or of nil any function of that name, where there is one alone. extends says that it is an
// extension of JSONObject; else it takes one alone.
func madeByFunction(p *jvm.Project, f *jvm.File, of *jvm.Class, name string, extends bool) (made *jvm.Class) {
	several := false
	look := func(file *jvm.File, c *jvm.Class, all []*model.Method) {
		for _, m := range all {
			if m.Name != name || m.Returns == nil {
				continue
			}
			takes := extends && m.Receiver == "JSONObject" || !extends && m.Receiver == "" && len(m.Params) == 1 && m.Params[0].Type != nil && jvm.Last(m.Params[0].Type.Unwrapped().Name) == "JSONObject"
			if !takes {
				continue
			}
			r := p.Find(file, c, m.Returns.Unwrapped().Name)
			if r == nil || !r.IsModel() || !jvm.HoldsData(r) {
				continue
			}
			several = several || made != nil && made != r
			made = r
		}
	}
	var within func(c *jvm.Class)
	within = func(c *jvm.Class) {
		look(c.File, c, c.Methods)
		for _, n := range c.Nested {
			within(n)
		}
	}
	if of != nil {
		within(of)
	} else {
		for _, file := range p.Files {
			look(file, nil, file.Functions)
			for _, c := range file.Classes {
				within(c)
			}
		}
	}
	if several {
		return nil
	}
	return made
}

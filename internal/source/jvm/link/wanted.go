package link

import (
	"slices"
	"strings"

	"vetta/internal/model"
	"vetta/internal/source/jvm"
	"vetta/internal/source/jvm/byhand"
)

// Classified notes of each class of a file what its own declaration says of it, while that is at hand:
// which it is not any more when all files are read.
func Classified(f *jvm.File) {
	f.Mentions = jvm.MentionsIn(f.Src)
	var visit func(c *jvm.Class)
	visit = func(c *jvm.Class) {
		f.Declares++
		if c.IsModel() {
			f.Models = append(f.Models, c)
			c.FullName()
			c.Package, c.Language, c.Source = f.Package, f.Language, c
			c.IsMarked, c.Library = looksMarked(c), jvm.AnnotatedFor(c)
		}
		for _, n := range c.Nested {
			visit(n)
		}
	}
	for _, c := range f.Classes {
		visit(c)
	}
}

// want marks the classes that responses are decoded into, as far as can be told, and answers where
// code makes one of a document as a whole.
func want(p *jvm.Project, all []*jvm.Class, calls []*model.Call) (more []*model.Call) {
	var reach func(t *model.Type)
	var take func(m *model.Model)
	reach = func(t *model.Type) {
		t.Walk(func(t *model.Type) {
			if t.Model != nil {
				take(t.Model)
			}
		})
	}
	take = func(m *model.Model) {
		c := jvm.ClassOf(m)
		if c == nil || c.Wanted {
			return
		}
		c.Wanted = true
		fill(p, c)
		reach(m.Super)
		for _, f := range m.Fields {
			if !f.Static {
				reach(f.Type)
			}
		}
		for _, a := range m.Marks {
			for _, arg := range a.Args {
				for _, inner := range arg.Marks {
					for _, name := range inner.Texts("value") {
						for _, c := range all {
							if c.Name == jvm.Last(name) {
								take(c.Model)
							}
						}
					}
				}
			}
		}
	}
	generic := false
	handed := map[*jvm.Class]bool{} // by code that has parsed the text itself
	for _, c := range calls {
		eachTold(c.Settings, reach)
		switch {
		case c.Type == nil:
			generic = true
		case c.Settings != nil && c.Settings.Library == "orgjson":
			handed[jvm.ClassOf(c.Type.Model)] = true
		default:
			reach(c.Type)
		}
	}
	if generic { // what a helper of the app decodes is told where that is called
		named := namedClasses(p)
		for _, c := range all {
			if named[c.Name] && jvm.HoldsData(c) {
				take(c.Model)
			}
		}
	}
	byHand := slices.ContainsFunc(p.Files, func(f *jvm.File) bool { return byhand.SpeaksOfParsed(f) }) // nothing but code of the project's own decodes, as far as is known
	for c, s := range byhand.Sites(p) {
		if c.Wanted || marked(c) {
			continue
		}
		c.Site = s
		if s.Whole && s.Why == "" {
			more = append(more, &model.Call{
				Pos: s.File.Where(s.At), Language: s.File.Language, Declared: c.FullName(), Swallowed: s.Swallowed,
				Type:     &model.Type{Kind: model.Named, Name: c.FullName(), Model: c.Model, Pos: s.File.Where(s.At)},
				Settings: &model.Settings{Library: "orgjson", Pos: s.File.Where(s.At), Options: map[string]model.Option{}},
			})
		}
	}
	parsed := map[*jvm.File]bool{}
	for _, c := range all {
		if handed[c] || marked(c) || madeByHand(c, parsed) || c.Site != nil {
			take(c.Model)
		}
	}
	byHand = byHand && !slices.ContainsFunc(p.Files, func(f *jvm.File) bool {
		return slices.ContainsFunc(jvm.Libraries, func(l jvm.Library) bool { return f.ImportsFrom(l.Imports) })
	})
	// A decoder alone, of which no call was found, says nothing of what is decoded either.
	silent := len(calls) == 0 || !slices.ContainsFunc(calls, func(c *model.Call) bool { return c.Type != nil || c.Lost != "" }) && !slices.ContainsFunc(all, func(c *jvm.Class) bool { return c.Wanted })
	if silent && !byHand { // anything may be
		for _, likely := range []bool{true, false} {
			for _, c := range all {
				if !c.Wanted && jvm.HoldsData(c) && (looksLikeData(c) == likely || c.Wanted) {
					take(c.Model)
					c.Model.Likely, c.Model.Perhaps = likely, !likely
				}
			}
		}
		for _, c := range all { // what they hold is as likely as they are
			c.Model.Likely = c.Model.Likely || c.Wanted && !c.Model.Perhaps && !marked(c)
		}
	}
	slices.SortFunc(more, func(a, b *model.Call) int { return comparePos(a.Pos, b.Pos) })
	return more
}

// looksLikeData says whether a class is one for data by its look: a record or a data class, or a class that
// extends nothing and has no methods but those that give and take its fields.
func looksLikeData(c *jvm.Class) bool {
	switch {
	case c.Kind == "record" || c.Data:
		return true
	case c.Kind != "class" || c.Super != nil || len(c.Implements) > 1 || c.Abstract:
		return false
	}
	for _, m := range c.Methods {
		if !m.Static && m.Receiver == "" && !isAccessor(m) {
			return false
		}
	}
	return true
}

// usual are the methods that any class has.
var usual = jvm.Words("equals hashCode toString copy clone describeContents writeToParcel")

// isAccessor says whether a method gives or takes a field, by its name and shape.
func isAccessor(m *model.Method) bool {
	if usual[m.Name] {
		return true
	}
	for prefix, params := range map[string]int{"get": 0, "is": 0, "has": 0, "set": 1, "with": 1, "component": 0} {
		if rest, ok := strings.CutPrefix(m.Name, prefix); ok && rest != "" && len(m.Params) == params {
			return true
		}
	}
	return false
}

// wantSent marks the classes that are written alone, with what they hold.
func wantSent(p *jvm.Project, sends []*model.Call) {
	var reach func(t *model.Type)
	reach = func(t *model.Type) {
		t.Walk(func(t *model.Type) {
			c := jvm.ClassOf(t.Model)
			if c == nil || c.Wanted {
				return
			}
			c.Wanted = true
			fill(p, c)
			c.Model.Sent = true
			reach(c.Model.Super)
			for _, f := range c.Model.Fields {
				if !f.Static {
					reach(f.Type)
				}
			}
		})
	}
	for _, s := range sends {
		reach(s.Type)
	}
}

// madeByHand says whether a class has a constructor or a factory that makes it of a parsed object:
// whoever calls it need not be the code that parses the text. parsed are the files that have such objects.
func madeByHand(c *jvm.Class, parsed map[*jvm.File]bool) bool {
	holds, known := parsed[c.File]
	if !known {
		holds = slices.ContainsFunc(c.File.Hits, func(i int32) bool { return jvm.IsParsed(c.File.Word(int(i))) })
		parsed[c.File] = holds
	}
	if !holds {
		return false
	}
	by := jvm.ByHand(c)
	return by != nil && jvm.HoldsData(c) && c.IsMadeBy(by)
}

// namedClasses are the simple names of classes that source hands on as values: Port.class,
// Port::class.
func namedClasses(p *jvm.Project) map[string]bool {
	named := map[string]bool{}
	for _, f := range p.Files {
		for _, mark := range []string{".class", "::class"} {
			for at := 0; ; {
				n := strings.Index(f.Src[at:], mark)
				if n < 0 {
					break
				}
				end := at + n
				start := end
				for start > 0 && jvm.IsWordByte(f.Src[start-1]) {
					start--
				}
				named[f.Src[start:end]] = true
				at = end + len(mark)
			}
		}
	}
	return named
}

// marked says whether a class is one for data by what stands at it: annotations of a
// library, of Lombok for data, or data and record.
func marked(c *jvm.Class) bool { return c.IsMarked }

func looksMarked(c *jvm.Class) bool {
	if c.Kind == "record" || c.Kind != "enum" && (c.Marks.Find("Data") != nil || c.Marks.Find("Value") != nil) {
		return true
	}
	if c.Kind == "interface" {
		return c.Marks.Find("JsonTypeInfo") != nil
	}
	marked := false
	c.EachMarks(func(marks model.Annotated) {
		for _, a := range marks {
			marked = marked || jvm.LibraryOfMark(a.Name) != nil
		}
	})
	return marked
}

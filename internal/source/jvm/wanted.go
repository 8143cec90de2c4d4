package jvm

import (
	"slices"
	"strings"

	"vetta/internal/model"
)

// Classified notes of each class of a file what its own declaration says of it, while that is at hand:
// which it is not any more when all files are read.
func (f *File) Classified() {
	f.mentions = mentionsIn(f.Src)
	var visit func(c *Class)
	visit = func(c *Class) {
		f.classes++
		if c.isModel() {
			f.models = append(f.models, c)
			c.FullName()
			c.Package, c.Language, c.Source = f.Package, f.Language, c
			c.isMarked, c.library = c.looksMarked(), annotatedFor(c)
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
func (p *project) want(all []*Class, calls []*model.Call) (more []*model.Call) {
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
		c := classOf(m)
		if c == nil || c.wanted {
			return
		}
		c.wanted = true
		p.fill(c)
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
							if c.Name == last(name) {
								take(c.Model)
							}
						}
					}
				}
			}
		}
	}
	generic := false
	handed := map[*Class]bool{} // by code that has parsed the text itself
	for _, c := range calls {
		switch {
		case c.Type == nil:
			generic = true
		case c.Settings != nil && c.Settings.Library == "orgjson":
			handed[classOf(c.Type.Model)] = true
		default:
			reach(c.Type)
		}
	}
	if generic { // what a helper of the app decodes is told where that is called
		named := p.namedClasses()
		for _, c := range all {
			if named[c.Name] && holdsData(c) {
				take(c.Model)
			}
		}
	}
	byHand := slices.ContainsFunc(p.files, (*File).readsByHand) // nothing but code of the project's own decodes, as far as is known
	for c, s := range p.sites() {
		if c.wanted || c.marked() {
			continue
		}
		c.site = s
		if s.whole && s.why == "" {
			more = append(more, &model.Call{
				Pos: s.file.Where(s.at), Language: s.file.Language, Declared: c.FullName(), Swallowed: s.swallowed,
				Type:     &model.Type{Kind: model.Named, Name: c.FullName(), Model: c.Model, Pos: s.file.Where(s.at)},
				Settings: &model.Settings{Library: "orgjson", Pos: s.file.Where(s.at), Options: map[string]model.Option{}},
			})
		}
	}
	for _, c := range all {
		if handed[c] || c.marked() || c.madeByHand() || c.site != nil {
			take(c.Model)
		}
	}
	byHand = byHand && !slices.ContainsFunc(p.files, func(f *File) bool {
		return slices.ContainsFunc(libraries, func(l library) bool { return f.imports(l.imports) })
	})
	if len(calls) == 0 && !byHand { // nothing says what is decoded: anything may be
		for _, c := range all {
			if holdsData(c) {
				take(c.Model)
			}
		}
	}
	slices.SortFunc(more, func(a, b *model.Call) int { return comparePos(a.Pos, b.Pos) })
	return more
}

// madeByHand says whether a class has a constructor or a factory that makes it of a parsed object:
// whoever calls it need not be the code that parses the text.
func (c *Class) madeByHand() bool {
	if !slices.ContainsFunc(c.File.Hits, func(i int32) bool { return isParsed(c.File.Word(int(i))) }) {
		return false
	}
	by := byHand(c)
	return by != nil && holdsData(c) && c.isMadeBy(by)
}

// namedClasses are the simple names of classes that source hands on as values: Port.class,
// Port::class.
func (p *project) namedClasses() map[string]bool {
	named := map[string]bool{}
	for _, f := range p.files {
		for _, mark := range []string{".class", "::class"} {
			for at := 0; ; {
				n := strings.Index(f.Src[at:], mark)
				if n < 0 {
					break
				}
				end := at + n
				start := end
				for start > 0 && isWordByte(f.Src[start-1]) {
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
func (c *Class) marked() bool { return c.isMarked }

func (c *Class) looksMarked() bool {
	if c.Kind == "record" || c.Kind != "enum" && (c.Marks.Find("Data") != nil || c.Marks.Find("Value") != nil) {
		return true
	}
	if c.Kind == "interface" {
		return c.Marks.Find("JsonTypeInfo") != nil
	}
	marked := false
	c.eachMarks(func(marks model.Annotated) {
		for _, a := range marks {
			marked = marked || libraryOfMark(a.Name) != nil
		}
	})
	return marked
}

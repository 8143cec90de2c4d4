package asks

import (
	"strings"

	"vetta/internal/model"
	"vetta/internal/source/jvm"
)

// verbs are the annotations of a request in a service interface.
var verbs = map[string]bool{"GET": true, "POST": true, "PUT": true, "PATCH": true, "DELETE": true, "HTTP": true}

// bodiless are the types of requests whose answer nothing decodes.
var bodiless = map[string]bool{"Void": true, "Unit": true, "Nothing": true, "Completable": true, "ResponseBody": true, "void": true}

// wraps says whether a type is one around what a request yields: Call, Response, Flow, or any
// other of a library that is told what it is around.
func wraps(t *model.Type) bool {
	return t.Kind == model.Named && t.Model == nil && len(t.Args) > 0 && jvm.Last(t.Name) != "Optional"
}

// adapts says whether a type is the app's own around what a request yields, ApiResult<Port>: one that an
// adapter of calls in the source names, so that its first parameter is what is decoded.
func (d *decoders) adapts(p *jvm.Project, t *model.Type) bool {
	if t.Kind != model.Named || t.Model == nil || len(t.Args) == 0 {
		return false
	}
	is, known := d.adapted[t.Model]
	if !known {
		is = d.namedByAdapter(p, t.Model)
		d.adapted[t.Model] = is
	}
	return is
}

// namedByAdapter says whether a file that speaks of adapters of calls names a class, but where it declares the class
// itself or a request that yields one.
func (d *decoders) namedByAdapter(p *jvm.Project, m *model.Model) bool {
	name := jvm.Last(m.Name)
	for _, f := range p.Mentioning(jvm.Adapters) {
		declared := d.requestLines(f)
		line := int32(1)
		for rest := f.Src; ; {
			at := strings.Index(rest, name)
			if at < 0 {
				break
			}
			line += int32(strings.Count(rest[:at], "\n"))
			end := at + len(name)
			whole := (at == 0 || !jvm.IsWordByte(rest[at-1])) && (end == len(rest) || !jvm.IsWordByte(rest[end]))
			itself := m.Pos.File == f.Name && m.Pos.Line == line
			if whole && !itself && !declared[line] {
				return true
			}
			rest = rest[end:]
		}
	}
	return false
}

// requestLines are the lines of a file on which service interfaces declare requests: what they yield is named there
// whether an adapter makes it or not.
func (d *decoders) requestLines(f *jvm.File) map[int32]bool {
	if lines, ok := d.requests[f]; ok {
		return lines
	}
	lines := map[int32]bool{}
	d.requests[f] = lines
	var visit func(c *jvm.Class)
	visit = func(c *jvm.Class) {
		for _, m := range c.Methods {
			for _, a := range m.Marks {
				if verbs[a.Name] {
					lines[m.Pos.Line] = true
				}
			}
		}
		for _, n := range c.Nested {
			visit(n)
		}
	}
	for _, c := range f.Classes {
		visit(c)
	}
	return lines
}

// requests are the calls that a service interface declares.
func requests(p *jvm.Project, c *jvm.Class, all *decoders) (calls []*model.Call) {
	for _, m := range c.Methods {
		for _, a := range m.Marks {
			if !verbs[a.Name] || m.Returns == nil {
				continue
			}
			p.Filling(c)
			t, declared := m.Returns, m.Declared
			for wraps(t.Unwrapped()) || all.adapts(p, t.Unwrapped()) {
				t = t.Unwrapped().Args[0]
				declared = firstArgument(declared)
			}
			if t.Kind == model.Named && bodiless[jvm.Last(t.Name)] {
				continue
			}
			call := &model.Call{Pos: m.Pos, Language: c.File.Language, Type: t, Declared: declared, Endpoint: a.Text("value", a.Text("path", "")), Method: methodOf(a)}
			call.Settings = converterOf(p, c, all)
			if m.Suspends && t == m.Returns && t.Kind != model.Optional && call.Settings != nil && c.File.ImportsFrom("retrofit2") {
				said := *call.Settings
				said.Root.Awaits = c.FullName() + "." + m.Name
				if c.File.Package != "" {
					said.Root.Awaits = c.File.Package + "." + said.Root.Awaits
				}
				call.Settings = &said
			}
			calls = append(calls, call)
		}
	}
	for _, n := range c.Nested {
		calls = append(calls, requests(p, n, all)...)
	}
	return calls
}

// methodOf is the method of the request that an annotation asks for, "" where it does not tell.
func methodOf(a model.Annotation) string {
	if a.Name == "HTTP" {
		return strings.ToUpper(a.Text("method", ""))
	}
	return a.Name
}

// firstArgument is the first of the type arguments in the text of a type.
func firstArgument(text string) string {
	open := strings.IndexByte(text, '<')
	depth := 0
	for i := open; i >= 0 && i < len(text); i++ {
		switch c := text[i]; {
		case c == '<':
			depth++
		case c == '>', c == ',' && depth == 1:
			if depth--; depth == 0 {
				return strings.TrimSpace(text[open+1 : i])
			}
		}
	}
	return text
}

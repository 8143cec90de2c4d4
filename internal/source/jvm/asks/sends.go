package asks

import (
	"slices"

	"vetta/internal/model"
	"vetta/internal/source/jvm"
	"vetta/internal/source/lower"
	"vetta/internal/source/scan"
)

// writing are the methods by which something is written as JSON, by library; "" is that of the HTTP client
// of ktor, whose negotiation says the library.
var writing = map[string]string{"toJson": "gson", "toJsonTree": "gson", "writeValueAsString": "jackson", "writeValueAsBytes": "jackson", "encodeToString": jvm.Kotlinx, "setBody": ""}

// sends are where the source asks a library to write what a request sends: the bodies of service interfaces,
// and what is given to the methods that write, by the type of that.
func sends(p *jvm.Project, all *decoders) (calls []*model.Call) {
	for _, f := range p.Files {
		for _, c := range f.Classes {
			calls = append(calls, bodies(p, c, all)...)
		}
	}
	var open []*model.Call
	for _, f := range p.Mentioning(jvm.Writers) {
		open = append(open, writtenIn(p, f, all)...)
	}
	if len(open) == 0 {
		return calls
	}
	asking := &lower.Asking{
		Files: units(p), Program: lower.NewProgram("kotlin"), Spell: (*model.Type).Written, Decoder: all.asked(p), Sends: true,
		Resolve: func(t *model.Type, file string) *model.Type {
			i := slices.IndexFunc(p.Files, func(f *jvm.File) bool { return f.Name == file })
			if i < 0 {
				return t
			}
			r := *t
			p.Resolve(p.Files[i], nil, nil, &r)
			return &r
		},
	}
	return append(append(calls, open...), asking.Follow(open)...)
}

// bodies are the bodies of the requests that a service interface declares.
func bodies(p *jvm.Project, c *jvm.Class, all *decoders) (calls []*model.Call) {
	for _, m := range c.Methods {
		for _, a := range m.Marks {
			if !verbs[a.Name] {
				continue
			}
			for _, param := range m.Params {
				if param.Marks.Find("Body") == nil || param.Type == nil {
					continue
				}
				t := *param.Type
				p.Resolve(c.File, c, nil, &t)
				if firstModel(&t) == nil {
					continue
				}
				calls = append(calls, &model.Call{
					Pos: m.Pos, Language: c.File.Language, Type: &t, Declared: param.Declared, Endpoint: a.Text("value", a.Text("path", "")),
					Method: methodOf(a), Settings: converterOf(p, c, all),
				})
			}
		}
	}
	for _, n := range c.Nested {
		calls = append(calls, bodies(p, n, all)...)
	}
	return calls
}

func firstModel(t *model.Type) (found *model.Model) {
	t.Walk(func(t *model.Type) {
		if found == nil {
			found = t.Model
		}
	})
	return found
}

// writtenIn are the calls of a file that write something, of a type that is not told yet.
func writtenIn(p *jvm.Project, f *jvm.File, all *decoders) (calls []*model.Call) {
	whole := f.Again(f.Name, f.Src)
	for i := 1; i < whole.Len()-2; i++ {
		library, writes := writing[whole.Word(i)]
		if !writes || whole.KindAt(i) != scan.Ident || !whole.Is(i+1, "(") || whole.Is(i+2, ")") || whole.Is(i-1, "fun") || library != "" && !whole.Is(i-1, ".") {
			continue
		}
		call := &model.Call{Pos: whole.Where(i), Language: f.Language}
		switch other := otherThan(p, f, library); {
		case library == "":
			if !f.ImportsFrom("io.ktor.client") {
				continue
			}
			call.Settings = ktorSettings(p, all)
		case other != "":
			call.Settings = &model.Settings{Library: other, Pos: call.Pos}
		default:
			var sure bool
			if call.Settings, sure = settingsAt(whole, i, library, all); !sure {
				p.Unsure = append(p.Unsure, call)
			}
		}
		calls = append(calls, call)
	}
	return calls
}

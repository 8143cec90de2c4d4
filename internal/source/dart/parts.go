package dart

import (
	"path"
	"slices"
	"strings"

	"vetta/internal/code"
	"vetta/internal/code/run"
	"vetta/internal/wire"
)

// parts looks after what generators write beside the files of an app: those that are missing are made, and those that
// are there are held to what a new run of the generator would write.
type parts struct {
	units  []*code.Unit
	byName map[string][]*code.Class
	funcs  map[string][]*code.Func
	// fresh is the app with all parts as a new run would write them, nil where there is none that could be older.
	fresh *run.Program
	// written are the classes whose parts are there, why the others' are not known.
	written []*code.Class
	unknown map[*code.Class]string
	// alone are, by the class that a generator makes behind the only constructor of another, that other one.
	alone map[*code.Class]*code.Class
}

// newParts adds the parts that are missing to the files of an app.
func newParts(units []*code.Unit) *parts {
	p := &parts{units: units, byName: map[string][]*code.Class{}, funcs: map[string][]*code.Func{}, unknown: map[*code.Class]string{}, alone: map[*code.Class]*code.Class{}}
	for _, u := range units {
		for _, c := range u.Classes {
			if c.Kind != "extension" {
				p.byName[c.Name] = append(p.byName[c.Name], c)
			}
		}
		for _, f := range u.Funcs {
			p.funcs[f.Name] = append(p.funcs[f.Name], f)
		}
	}
	made := map[*code.Class]*code.Unit{}
	for _, u := range units {
		for _, c := range u.Classes {
			if annotation(c.Marks, freezed...) != nil {
				p.variants(c, u)
			}
			mark := annotation(c.Marks, "JsonSerializable", "jsonSerializable")
			if mark == nil || isFalse(said(mark, "createFactory")) {
				continue
			}
			part, why := p.generated(c, u)
			if why != "" {
				p.unknown[c] = why
				continue
			}
			made[c] = part
		}
	}
	var stale []*code.Unit
	for c, part := range made {
		if name := "_$" + c.Name + "FromJson"; p.has(name, c) {
			p.written = append(p.written, c)
			stale = append(stale, part)
		} else {
			p.units = append(p.units, part)
		}
	}
	slices.SortFunc(p.written, func(a, b *code.Class) int { return before(a.Pos, b.Pos) })
	if len(stale) > 0 {
		p.fresh = run.NewProgram(append(p.without(), stale...))
	}
	return p
}

// generated is the part that the generator would write of a class of a file; why says what is not known of it.
func (p *parts) generated(c *code.Class, u *code.Unit) (part *code.Unit, why string) {
	g := &generator{class: c, named: map[string]*code.Expr{}, helpers: map[string]bool{}, of: func(name string) *code.Class { return p.near(name, u) }, funcs: func(name string) *code.Func {
		if all := p.funcs[name]; len(all) > 0 {
			return all[0]
		}
		return nil
	}}
	if part, why = g.unit(path.Join(path.Dir(u.File), "part of "+c.Name+" in "+path.Base(u.File))); why == "" {
		p.belongs(part, u)
	}
	return part, why
}

// belongs makes a part one of the library of a file.
func (p *parts) belongs(part, u *code.Unit) {
	part.PartOf, part.Module, part.Legacy = path.Base(u.File), u.Module, u.Legacy
	if u.PartOf != "" {
		part.PartOf = u.PartOf
	}
}

// near is the class that a name means in a file: the one of the file itself, or the only one.
func (p *parts) near(name string, u *code.Unit) *code.Class {
	all := p.byName[name]
	for _, c := range all {
		if c.File == u.File || len(all) == 1 {
			return c
		}
	}
	return nil
}

// has says whether a function of a name stands in the folder of a class.
func (p *parts) has(name string, c *code.Class) bool {
	return slices.ContainsFunc(p.funcs[name], func(f *code.Func) bool { return path.Dir(f.File) == path.Dir(c.File) || len(p.byName[c.Name]) == 1 })
}

// without are the files without the functions and the maps of constants that generators write.
func (p *parts) without() (out []*code.Unit) {
	generated := func(name string) bool {
		return strings.HasPrefix(name, "_$") && (strings.HasSuffix(name, "FromJson") || strings.HasSuffix(name, "EnumMap"))
	}
	for _, u := range p.units {
		own := *u
		own.Funcs = slices.DeleteFunc(slices.Clone(u.Funcs), func(f *code.Func) bool { return generated(f.Name) })
		own.Props = slices.DeleteFunc(slices.Clone(u.Props), func(v *code.Prop) bool { return generated(v.Name) })
		out = append(out, &own)
	}
	return out
}

// stale says, by the name of the field, how the part of a class reads it otherwise than the class says.
func (p *parts) stale(c *code.Class, m *run.Machine) map[string]string {
	if p.fresh == nil || !slices.Contains(p.written, c) {
		return nil
	}
	fn := m.Reader(c)
	if fn == nil {
		return nil
	}
	now := m.SurveyOf(fn, run.TypeOf(c))
	fresh := run.New(p.fresh)
	then := fresh.SurveyOf(fn, run.TypeOf(c))
	if now.Object == nil || then.Object == nil || now.Lost != "" || then.Lost != "" {
		return nil
	}
	out := map[string]string{}
	old := m.FieldsOf(now.Object)
	for i, f := range fresh.FieldsOf(then.Object) {
		if i >= len(old) {
			break
		}
		has, wants := keysOf(old[i], now.Root), keysOf(f, then.Root)
		switch {
		case len(wants) == 0 && len(has) == 0:
		case len(has) == 0:
			out[f.Prop.Name] = "the generated part does not read it; the class says the key " + strings.Join(wants, ", ")
		case len(wants) == 0:
			out[f.Prop.Name] = "the generated part reads it as " + strings.Join(has, ", ") + "; the class says that it is not read"
		case !slices.Equal(has, wants):
			out[f.Prop.Name] = "the generated part reads the key " + strings.Join(has, ", ") + ", and the class says " + strings.Join(wants, ", ")
		case len(has) == 1:
			if kind := differs(m, now, fresh, then, f.Prop.Name, has[0]); kind != "" {
				out[f.Prop.Name] = "the generated part reads it as another type than " + f.Prop.Type.Written() + ": " + kind
			}
		}
	}
	if said(annotation(c.Marks, "JsonSerializable", "jsonSerializable"), "fieldRename") == nil && styled(out, old, now, func(i int) []string { return keysOf(fresh.FieldsOf(then.Object)[i], then.Root) }) {
		return nil
	}
	return out
}

// styled says whether all that a part reads otherwise is so by one style of names, which the project's options for
// the generator may say for all classes.
func styled(stale map[string]string, fields []run.Field, now *run.Survey, wants func(i int) []string) bool {
	return len(stale) > 0 && slices.ContainsFunc([]string{"snake", "kebab", "pascal", "screamingSnake"}, func(style string) bool {
		for i, f := range fields {
			keys := keysOf(f, now.Root)
			own := []string{f.Prop.Name}
			if stale[f.Prop.Name] != "" && !(len(keys) == 1 && keys[0] == renamed(f.Prop.Name, style) && slices.Equal(wants(i), own) && !slices.Equal(keys, own)) {
				return false
			}
		}
		return true
	})
}

// keysOf are the keys of an object that a field is made of.
func keysOf(f run.Field, root *run.Place) (keys []string) {
	for _, from := range f.From {
		if steps := from.Steps(root); len(steps) > 0 && from.Within(root) && steps[0].Kind == run.Member && !slices.Contains(keys, steps[0].Name) {
			keys = append(keys, steps[0].Name)
		}
	}
	slices.Sort(keys)
	return keys
}

// kinds are samples of what may be sent: of some kinds any of several will do.
var kinds = []struct {
	name  string
	texts []string
}{
	{"null", []string{`null`}}, {"a bool", []string{`true`}}, {"a number", []string{`1`, `1.5`}}, {"a list", []string{`[]`}}, {"an object", []string{`{}`}},
	{"a text", []string{`"a"`, `"2026-03-01"`, `"1"`}},
}

// differs says of which kind a value decodes by one of two readers alone, "" for none.
func differs(m *run.Machine, now *run.Survey, fresh *run.Machine, then *run.Survey, field, key string) string {
	takes := func(m *run.Machine, s *run.Survey, texts []string) (yes, known bool) {
		made := s.Object.Made
		if made == nil {
			return false, false
		}
		at := s.Root.Sub(run.Member, key, 0)
		for _, text := range texts {
			v, err := wire.Parse([]byte(text))
			if err != nil {
				return false, false
			}
			_, err = m.Try(made, s.Root, &run.Probe{At: at, Value: run.ProbeOf(v, at)})
			if err == nil {
				return true, true
			}
			if _, thrown := err.(*run.Thrown); !thrown {
				return false, false
			}
		}
		return false, true
	}
	for _, k := range kinds {
		was, told := takes(m, now, k.texts)
		is, also := takes(fresh, then, k.texts)
		switch {
		case !told || !also:
			return ""
		case was && !is:
			return "it takes " + k.name
		case is && !was:
			return "it does not take " + k.name
		}
	}
	return ""
}

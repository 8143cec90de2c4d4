package typescript

import (
	"slices"
	"strings"

	"vetta/internal/code"
	"vetta/internal/model"
	"vetta/internal/schema"
	"vetta/internal/schema/classes"
	"vetta/internal/schema/iots"
	"vetta/internal/schema/valibot"
	"vetta/internal/schema/zod"
	"vetta/internal/types"
)

// validator is a library whose schemas say what a value is let through as.
type validator struct {
	name    string
	modules []string
	build   func(w schema.World, s schema.Scope, e *code.Expr) *schema.Schema
	infers  []string // its types that are what a schema lets through
	inputs  []string // and what a schema is given
}

var validators = []validator{
	{name: valibot.Name, modules: valibot.Modules, build: valibot.Build, infers: []string{"InferOutput"}, inputs: []string{"InferInput"}},
	{name: iots.Name, modules: iots.Modules, build: iots.Build, infers: []string{"TypeOf"}, inputs: []string{"OutputOf"}},
	{name: zod.Name, modules: zod.Modules, build: zod.Build, infers: []string{"infer", "output", "TypeOf"}, inputs: []string{"input"}},
}

// world finds for schemas what names mean in the source.
type world struct{ v *evaluator }

func (w world) scope(s schema.Scope) *scope {
	of, _ := s.(*scope)
	return of
}

// Find is the expression that a name is given.
func (w world) Find(s schema.Scope, name string) (*code.Expr, schema.Scope, bool) {
	found := w.v.p.find(w.scope(s), name, ofValues)
	if len(found) != 1 || found[0].value == nil {
		return nil, nil, false
	}
	return found[0].value, found[0].in, true
}

// Import is the module that a name comes from, of those that are not among the sources.
func (w world) Import(s schema.Scope, name string) (module, of string, ok bool) {
	for at := w.scope(s); at != nil; at = at.outer {
		if declared := at.values[name]; len(declared) > 0 {
			if declared[0].what == isImport {
				return w.v.p.origin(declared[0], 0)
			}
			return "", "", false
		}
	}
	return "", "", false
}

// origin is the module outside of the sources that an import leads to.
func (p *project) origin(d *decl, depth int) (module, of string, ok bool) {
	if d.from == "" || depth > maxImports {
		return "", "", false
	}
	u := p.module(d.unit, d.from)
	if u == nil {
		if d.from == "zod" && p.isMajor(d.unit.file, "zod", "3") {
			return "zod/v3", d.of, true
		}
		return d.from, d.of, true
	}
	for _, x := range u.exports {
		switch {
		case x.name != d.of || x.name == "*":
		case x.from != "":
			return p.origin(&decl{unit: u, from: x.from, of: x.of}, depth+1)
		default:
			for _, inner := range u.scope.values[x.of] {
				if inner.what == isImport {
					return p.origin(inner, depth+1)
				}
			}
		}
	}
	return "", "", false
}

// Enum is an enum as an object of its values.
func (w world) Enum(s schema.Scope, name string) (schema.Value, bool) {
	found := w.v.p.find(w.scope(s), name, ofValues)
	if len(found) == 0 || found[0].what != isEnum {
		return schema.Value{}, false
	}
	out := schema.Value{Kind: schema.Object}
	for _, part := range found {
		if part.what != isEnum {
			continue
		}
		for _, c := range w.v.constants(part) {
			switch c.typ.Kind {
			case types.StringLiteral:
				out.Set(c.name, schema.Text(c.typ.Text))
			case types.NumberLiteral:
				n, _ := parseNumber(c.typ.Text)
				out.Set(c.name, schema.Num(n))
			default:
				return out, false
			}
		}
	}
	return out, true
}

// inferred is the type of a name such as z.infer, with the schema that it is of; nil for other names.
func (v *evaluator) inferred(n *node, s *scope) (*types.Type, *decl) {
	if len(n.args) != 1 || n.args[0].op != nTypeof {
		return nil, nil
	}
	space, name, qualified := strings.Cut(n.name, ".")
	module := n.val // of import('zod').infer
	if n.op == nRef {
		var of string
		var ok bool
		if module, of, ok = (world{v}).Import(s, space); !ok {
			return nil, nil
		}
		if !qualified {
			name = of
		}
	} else {
		name = n.name
	}
	for i := range validators {
		lib := &validators[i]
		if !slices.Contains(lib.modules, module) {
			continue
		}
		found := v.p.find(s, n.args[0].name, ofValues)
		if len(found) == 0 || found[0].what != isValue {
			return types.Lost("the schema " + n.args[0].name + " is not in the source"), nil
		}
		made := v.schemaOf(found[0])
		switch {
		case made == nil:
			return types.Lost(n.args[0].name + " is no schema that is followed"), nil
		case slices.Contains(lib.infers, name):
			return made.Out, found[0]
		case slices.Contains(lib.inputs, name):
			return made.In, nil
		}
	}
	return nil, nil
}

// schemaOf is the schema that a value is, nil for what is none.
func (v *evaluator) schemaOf(d *decl) *schema.Schema {
	if made, ok := v.schemas[d]; ok {
		return made.schema
	}
	v.schemas[d] = madeSchema{}
	if d.value == nil || d.what != isValue {
		return nil
	}
	for i := range validators {
		lib := &validators[i]
		if !v.uses(d.unit, lib, 0, map[*unit]bool{}) {
			continue
		}
		if made := lib.build(world{v}, d.in, d.value); made.Lost == "" || v.isMadeBy(d, lib) {
			v.schemas[d] = madeSchema{made, lib.name}
			return made
		}
	}
	return nil
}

// madeSchema is a schema with the library that it is of.
type madeSchema struct {
	schema  *schema.Schema
	library string
}

// classWorld finds classes too.
type classWorld struct{ world }

// Class is the class of a name, nil for none.
func (w classWorld) Class(s schema.Scope, name string) *classes.Class {
	found := w.v.p.find(w.scope(s), name, ofTypes)
	if len(found) == 0 || found[0].what != isClass {
		return nil
	}
	return w.v.classOf(found)
}

// classOf is a class as the libraries that fill and check classes see it.
func (v *evaluator) classOf(parts []*decl) *classes.Class {
	first := parts[0]
	if c := v.classes[first]; c != nil {
		return c
	}
	c := &classes.Class{Name: first.name, Scope: first.in}
	v.classes[first] = c
	if len(first.extends) > 0 && first.extends[0].op == nRef {
		if found := v.p.find(first.in, first.extends[0].name, ofTypes); len(found) > 0 && found[0].what == isClass && found[0] != first {
			c.Super = v.classOf(found)
		}
	}
	c.Type = v.instance(parts, nil)
	for _, m := range first.members {
		if m.static || m.name == "" || m.index != nil {
			continue
		}
		f := classes.Field{Name: m.name, Marks: m.marks, Value: m.value, Never: m.method || m.getter, Model: v.field(m, m.name, first.unit)}
		switch {
		case m.typ != nil && !m.method:
			f.Type = v.of(m.typ, first.in, nil)
		case m.value != nil:
			f.Type = v.valueType(m.value, first.in, false)
		default:
			f.Type = types.UnknownType
		}
		if f.Never {
			f.Value = nil
		}
		c.Fields = append(c.Fields, f)
	}
	return c
}

// isDecorated says whether a class, or one above it, has decorators of the libraries that fill and check classes.
func (v *evaluator) isDecorated(d *decl) bool {
	for depth := 0; d != nil && depth < maxImports; depth++ {
		for _, m := range d.members {
			for _, e := range m.marks {
				name := e
				if e.Op == code.Call {
					name = e.Args[0]
				}
				if module, _, ok := (world{v}).Import(d.in, name.Text); ok && slices.Contains(classes.Modules, module) {
					return true
				}
			}
		}
		if len(d.extends) == 0 || d.extends[0].op != nRef {
			return false
		}
		found := v.p.find(d.in, d.extends[0].name, ofTypes)
		if len(found) == 0 || found[0].what != isClass || found[0] == d {
			return false
		}
		d = found[0]
	}
	return false
}

// classSchemas makes the schemas of classes whose instances the app has made and checked.
func (v *evaluator) classSchemas() {
	for len(v.decorated) > 0 {
		d := v.decorated[0]
		v.decorated = v.decorated[1:]
		name := d.parts[0].name
		c := v.classOf(d.parts)
		d.decl.Schema = classes.Build(classWorld{world{v}}, c, func() classes.Options { return v.classOptions(name) })
	}
}

// classOptions are those by which the app makes and checks instances of a class: of the call that names it, and of the
// checks of the project.
func (v *evaluator) classOptions(name string) (o classes.Options) {
	if v.program == nil {
		return classes.Options{Lost: "how its instances are made is not known"}
	}
	read := func(e *code.Expr, at int) {
		if len(e.Args) <= at {
			return
		}
		u := v.p.byPath[e.Pos.File]
		if u == nil {
			return
		}
		set, ok := schema.Eval(world{v}, u.scope, e.Args[at])
		if !ok || set.Kind != schema.Object {
			o.Lost = "the options of " + e.Args[0].Text + " are not followed"
			return
		}
		for i, option := range set.Names {
			on := schema.Truthy(set.Elems[i])
			switch option {
			case "excludeExtraneousValues":
				o.Extraneous = on
			case "exposeDefaultValues":
				o.Defaults = on
			case "enableImplicitConversion":
				o.Implicit = on
			case "whitelist":
				o.Whitelist = on
			case "forbidNonWhitelisted":
				o.Forbid = on
			case "skipMissingProperties":
				o.SkipMissing = on
			case "transform", "forbidUnknownValues", "validationError", "stopAtFirstError", "transformOptions", "enableDebugMessages", "enableCircularCheck", "exposeUnsetFields":
			default:
				if on {
					o.Lost = "the option " + option + " is not followed"
				}
			}
		}
	}
	for _, fn := range []string{"plainToInstance", "plainToClass"} {
		for e := range v.program.CallsOf(fn) {
			if len(e.Args) > 2 && (e.Args[1].Text == name || e.Args[1].Op == code.Name && v.p.find(v.p.byPath[e.Pos.File].scope, e.Args[1].Text, ofTypes) == nil) {
				o.Transforms = true
				read(e, 3)
			}
		}
	}
	for _, fn := range []string{"validateSync", "validate", "validateOrReject"} {
		for e := range v.program.CallsOf(fn) {
			if e.Args[0].Op == code.Name {
				o.Validates = true
				read(e, 2)
			}
		}
	}
	for e := range v.program.CallsOf("ValidationPipe") {
		o.Transforms, o.Validates = true, true
		read(e, 1)
	}
	return o
}

// instances are the places where the app has instances of classes made of what a response holds.
func (p *project) instances(program *code.Program) (calls []*model.Call) {
	for _, name := range []string{"plainToInstance", "plainToClass"} {
		for e := range program.CallsOf(name) {
			u := p.byPath[e.Pos.File]
			if u == nil || len(e.Args) < 3 || e.Args[1].Op != code.Name {
				continue
			}
			found := p.find(u.scope, e.Args[1].Text, ofTypes)
			if len(found) == 0 || found[0].what != isClass {
				continue
			}
			m := p.eval.modelOf(found)
			c := &model.Call{Pos: e.Pos, Language: Language, Type: &model.Type{Kind: model.Named, Name: m.Name, Model: m, Linked: true}, Declared: m.Name, Settings: p.settings(e.Pos)}
			c.Settings.Library = classes.Name
			calls = append(calls, c)
		}
	}
	return calls
}

// uses says whether a file imports a library, or a file that it imports does.
func (v *evaluator) uses(u *unit, lib *validator, depth int, seen map[*unit]bool) bool {
	if seen[u] || depth > 3 {
		return false
	}
	seen[u] = true
	for _, all := range u.scope.values {
		for _, d := range all {
			if d.what != isImport || d.from == "" {
				continue
			}
			if slices.Contains(lib.modules, d.from) {
				return true
			}
			if inner := v.p.module(u, d.from); inner != nil && v.uses(inner, lib, depth+1, seen) {
				return true
			}
		}
	}
	return false
}

// isMadeBy says whether a value is made by a call that begins at the namespace of a library.
func (v *evaluator) isMadeBy(d *decl, lib *validator) bool {
	e := d.value
	for range 50 {
		switch {
		case e.Op == code.Call || e.Op == code.Member && len(e.Args) > 0:
			e = e.Args[0]
		case e.Op == code.Name:
			module, _, ok := (world{v}).Import(d.in, e.Text)
			return ok && slices.Contains(lib.modules, module)
		default:
			return false
		}
	}
	return false
}

// modelOfSchema is the model of what a schema lets through: that of the type that is inferred of it, where the source
// gives that a name.
func (v *evaluator) modelOfSchema(d *decl) *model.Model {
	if d.typ != nil && d.typ.op == nRef && len(d.typ.args) > 0 && d.typ.args[0].name == d.name {
		if found := v.p.find(d.in, d.name, ofTypes); len(found) > 0 {
			return v.modelOf(found)
		}
	}
	for _, all := range d.in.types {
		for _, alias := range all {
			if alias.what != isAlias || alias.typ == nil {
				continue
			}
			if _, of := v.inferred(alias.typ, alias.in); of == d {
				return v.modelOf([]*decl{alias})
			}
		}
	}
	return v.modelOf([]*decl{d})
}

// parsed are the places where a schema is held to a value. Schemas of libraries whose lists are not known are looked for by
// their name alone.
func (p *project) parsed(program *code.Program) (calls []*model.Call) {
	p.parses = map[model.Pos]holding{}
	for _, name := range []string{"parse", "safeParse", "parseAsync", "safeParseAsync", "decode", "is", "assert"} {
		for e, fn := range program.CallsOf(name) {
			callee := e.Args[0]
			if callee.Op != code.Member || len(callee.Args) != 1 || len(e.Args) < 2 {
				continue
			}
			u := p.byPath[e.Pos.File]
			if u == nil {
				continue
			}
			of, given := callee.Args[0], e.Args[1]
			if p.isValidator(u, of) && len(e.Args) > 2 { // v.parse(Schema, json)
				of, given = e.Args[1], e.Args[2]
			}
			d, lists := p.schemaNamed(u, of, 0)
			drops := strings.HasPrefix(name, "safe") || name == "is" || name == "decode"
			if d == nil {
				if all := p.handed(program, of, given, fn, drops); len(all) > 0 {
					calls = append(calls, all...)
					p.parses[e.Pos] = holding{given: given}
				}
				continue
			}
			c := p.holds(d, lists, e.Pos, drops)
			p.parses[e.Pos] = holding{c, given, p.eval.schemaOf(d).List != nil}
			calls = append(calls, c)
		}
	}
	return calls
}

// holds is the call at a place where a schema, or that of a list of it, is held to a value.
func (p *project) holds(d *decl, lists int, at model.Pos, drops bool) *model.Call {
	m := p.eval.modelOfSchema(d)
	c := &model.Call{Pos: at, Language: Language, Type: &model.Type{Kind: model.Named, Name: m.Name, Model: m, Linked: true}, Settings: p.settings(at), Swallowed: drops}
	for range lists {
		c.Type = &model.Type{Kind: model.List, Args: []*model.Type{c.Type}}
	}
	c.Declared = types.Written(c.Type)
	c.Settings.Library = p.eval.schemas[d].library
	return c
}

// handed are the calls of a function that hand it the schema which it holds to a whole response.
func (p *project) handed(program *code.Program, schema, given *code.Expr, fn *code.Func, drops bool) (calls []*model.Call) {
	if response := code.Given(given, fn); schema.Op != code.Name || response.Op != code.Call || called(response) != "json" {
		return nil
	}
	i := slices.IndexFunc(fn.Params, func(a code.Param) bool { return a.Name == schema.Text })
	if i < 0 || len(program.FuncsOf(fn.Name)) != 1 {
		return nil
	}
	for e := range program.CallsOf(fn.Name) {
		arg, u := code.Argument(e, fn, i), p.byPath[e.Pos.File]
		if arg == nil || u == nil {
			continue
		}
		if d, lists := p.schemaNamed(u, arg, 0); d != nil {
			calls = append(calls, p.holds(d, lists, e.Pos, drops))
		}
	}
	return calls
}

// holding is where a schema is held to a value.
type holding struct {
	call   *model.Call
	given  *code.Expr // the value
	inList bool       // that of a list of what it is held to is known too
}

// schemaNamed is the value of the source that an expression names as a schema, and of how many lists in each other that is the
// element: z.array(Port), Port.array(); nil for none.
func (p *project) schemaNamed(u *unit, e *code.Expr, depth int) (d *decl, lists int) {
	if e.Op == code.Call && called(e) == "array" && depth < 8 {
		callee := e.Args[0]
		of := callee
		switch {
		case len(e.Args) == 2 && (callee.Op == code.Name || p.isValidator(u, callee.Args[0])):
			of = e.Args[1]
		case len(e.Args) == 1 && callee.Op == code.Member && len(callee.Args) == 1:
			of = callee.Args[0]
		default:
			return nil, 0
		}
		if d, lists = p.schemaNamed(u, of, depth+1); d == nil || p.eval.schemaOf(d).List == nil {
			return nil, 0
		}
		return d, lists + 1
	}
	name := dotted(e)
	if found := p.find(u.scope, name, ofValues); name != "" && len(found) == 1 && p.eval.schemaOf(found[0]) != nil {
		if of := found[0]; of.value != nil && depth < 8 { // of a list that has a name, what it is of
			if d, lists = p.schemaNamed(of.unit, of.value, depth+1); d != nil {
				return d, lists
			}
		}
		return found[0], 0
	}
	return nil, 0
}

// isValidator says whether an expression is the namespace of a validator.
func (p *project) isValidator(u *unit, e *code.Expr) bool {
	module, _, ok := (world{p.eval}).Import(u.scope, dotted(e))
	return ok && isValidator(module)
}

func isValidator(module string) bool {
	return slices.ContainsFunc(validators, func(v validator) bool { return slices.Contains(v.modules, module) })
}

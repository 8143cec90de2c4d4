package typescript

import (
	"slices"
	"strings"
	"unicode"
	"unicode/utf8"

	"vetta/internal/code"
	"vetta/internal/model"
	"vetta/internal/schema/classes"
	"vetta/internal/types"
)

// env is what type parameters stand for.
type env struct {
	name  string
	typ   *types.Type
	outer *env
}

func (e *env) find(name string) *types.Type {
	for ; e != nil; e = e.outer {
		if e.name == name {
			return e.typ
		}
	}
	return nil
}

func (e *env) with(name string, t *types.Type) *env { return &env{name, t, e} }

// evaluator works out what written types are.
type evaluator struct {
	readBy  map[*code.Func]*types.Type // what functions read of what has no type
	byCode  bool                       // such a type is being filled
	p       *project
	defs    map[*decl]*definition
	byDecl  map[*types.Decl]*definition
	fields  map[*member]*model.Field
	values  map[*decl]*types.Type
	depth   int
	within  string    // the library of the model that is being filled
	at      model.Pos // the field of it whose type is looked at
	due     []due
	schemas map[*decl]madeSchema
	classes map[*decl]*classes.Class
	// decorated are classes that a library fills and checks, whose schemas are made when all is read.
	decorated []*definition
	program   *code.Program        // the code of the project, nil while it is read
	open      map[*types.Type]bool // that are being made types of all languages
	inlines   map[any]*model.Model // by the node or type without a name
	// inlineNames are those that such models have.
	inlineNames map[string]bool
}

// definition is a name that declares a type, of all its parts.
type definition struct {
	parts []*decl
	decl  *types.Decl
	memo  map[string]*types.Type
}

func newEvaluator(p *project) *evaluator {
	return &evaluator{p: p, defs: map[*decl]*definition{}, byDecl: map[*types.Decl]*definition{}, fields: map[*member]*model.Field{}, values: map[*decl]*types.Type{}, schemas: map[*decl]madeSchema{}, classes: map[*decl]*classes.Class{}, open: map[*types.Type]bool{}, inlines: map[any]*model.Model{}, inlineNames: map[string]bool{}}
}

// maxTypes is how deep types are worked out inside each other.
const maxTypes = 200

// keywords are the types that a name of the language stands for.
var keywords = map[string]*types.Type{
	"any": types.AnyType, "unknown": types.UnknownType, "never": types.NeverType, "null": types.NullType, "undefined": types.UndefinedType, "void": types.UndefinedType,
	"string": types.StringType, "number": types.NumberType, "boolean": types.BooleanType, "bigint": types.BigIntType, "symbol": types.SymbolType, "object": types.ObjectType,
	"true": types.TrueType, "false": types.FalseType, "Function": types.FunctionType, "String": types.StringType, "Number": types.NumberType, "Boolean": types.BooleanType,
	"unique": types.SymbolType, "Object": types.Lazy("Object", func() *types.Members { return &types.Members{} }),
}

// of is the type that a node stands for.
func (v *evaluator) of(n *node, s *scope, e *env) *types.Type {
	if n == nil {
		return types.AnyType
	}
	v.depth++
	defer func() { v.depth-- }()
	if v.depth > maxTypes {
		return types.Lost("types stand inside each other deeper than is followed")
	}
	switch n.op {
	case nRef:
		return v.ref(n, s, e)
	case nString:
		return types.Literal(n.val)
	case nNumber:
		if f, ok := parseNumber(n.val); ok {
			return types.NumberOf(f)
		}
	case nBig:
		return &types.Type{Kind: types.BigIntLiteral, Text: n.val, Written: n.val + "n"}
	case nTemplate:
		holes := make([]*types.Type, len(n.args))
		for i, a := range n.args {
			holes[i] = v.of(a, s, e)
		}
		return template(n.parts, holes)
	case nUnion:
		all := make([]*types.Type, len(n.args))
		for i, a := range n.args {
			all[i] = v.of(a, s, e)
		}
		return types.UnionOf(all...)
	case nIntersect:
		t := types.UnknownType
		for _, a := range n.args {
			t = types.Intersect(t, v.of(a, s, e))
		}
		return t
	case nArray:
		elem := v.of(n.args[0], s, e)
		return types.ListOf(elem, bracketed(elem)+"[]")
	case nTuple:
		return v.tuple(n, s, e)
	case nObject:
		return v.object(n, s, e)
	case nMapped:
		return v.mapped(n, s, e)
	case nConditional:
		return v.conditional(n, s, e)
	case nInfer:
		if t := e.find(n.name); t != nil {
			return t
		}
		return types.UnknownType
	case nKeyof:
		return types.Keys(v.of(n.args[0], s, e))
	case nTypeof:
		return v.typeof(n.name, s)
	case nIndexed:
		return types.At(v.of(n.args[0], s, e), v.of(n.args[1], s, e))
	case nFunction:
		inner := e
		for _, g := range n.generics {
			inner = inner.with(g.name, types.UnknownType)
		}
		result := types.UndefinedType
		if n.result != nil {
			result = v.of(n.result, s, inner)
		}
		return &types.Type{Kind: types.Function, Elems: []*types.Type{result}, Written: "() => " + result.String()}
	case nImport:
		return v.importType(n, s, e)
	case nThis:
		if t := e.find("this"); t != nil {
			return t
		}
	case nPredicate:
		return types.BooleanType
	case nUnique:
		return types.SymbolType
	}
	return types.Lost("the type " + v.written(n, s) + " could not be read")
}

func bracketed(t *types.Type) string {
	if t.Kind == types.Union && t.Decl == nil && strings.Contains(t.String(), " ") || t.Kind == types.Function {
		return "(" + t.String() + ")"
	}
	return t.String()
}

func (v *evaluator) written(n *node, s *scope) string {
	if s != nil && s.unit != nil && n.start < n.end && int(n.end) <= len(s.unit.src) {
		return oneLine(s.unit.src[n.start:n.end])
	}
	return n.name
}

func (v *evaluator) args(all []*node, s *scope, e *env) []*types.Type {
	out := make([]*types.Type, len(all))
	for i, a := range all {
		out[i] = v.of(a, s, e)
	}
	return out
}

// ref is the type of a name.
func (v *evaluator) ref(n *node, s *scope, e *env) *types.Type {
	if t := e.find(n.name); t != nil && len(n.args) == 0 {
		return t
	}
	if t := keywords[n.name]; t != nil && (t.Kind != types.Function && n.name[0] >= 'a' || v.p.find(s, n.name, ofTypes) == nil) {
		return t
	}
	if t, _ := v.inferred(n, s); t != nil {
		return t
	}
	if found := v.p.find(s, n.name, ofTypes); len(found) > 0 {
		if found[0].what == isEnum {
			if member, ok := memberOfEnum(n.name, found[0].name); ok {
				return v.enumMember(found, member)
			}
		}
		return v.instance(found, v.args(n.args, s, e))
	}
	return v.library(n, s, e)
}

func (v *evaluator) importType(n *node, s *scope, e *env) *types.Type {
	if t, _ := v.inferred(n, s); t != nil {
		return t
	}
	u := v.p.module(s.unit, n.val)
	if u == nil {
		return types.Lost("the module " + n.val + " is not among the sources")
	}
	found := v.p.inside([]*decl{{what: isImport, unit: s.unit, in: s, from: n.val, of: "*"}}, n.name, ofTypes, 0)
	if len(found) == 0 {
		return types.Lost("the type " + n.name + " is not in " + n.val)
	}
	return v.instance(found, v.args(n.args, s, e))
}

// define is what some declarations of one name define together.
func (v *evaluator) define(parts []*decl) *definition {
	first := parts[0]
	if d := v.defs[first]; d != nil {
		return d
	}
	d := &definition{parts: parts, memo: map[string]*types.Type{}}
	d.decl = &types.Decl{Name: first.name, Loose: v.p.loose(first.unit.file)}
	d.decl.Of = func(args []*types.Type) *types.Type { return v.instance(parts, args) }
	d.decl.Make = func() *model.Model {
		m := v.modelOf(parts)
		v.fill()
		return m
	}
	v.defs[first], v.byDecl[d.decl] = d, d
	if first.what == isClass && v.isDecorated(first) {
		d.decl.Library = classes.Name
		v.decorated = append(v.decorated, d)
	}
	schemaOf := first
	if first.what == isAlias && first.typ != nil {
		_, schemaOf = v.inferred(first.typ, first.in)
	}
	if schemaOf == nil || schemaOf.what != isValue { // export const Menu: z.ZodType<Menu> = …
		for _, of := range first.in.values[first.name] {
			if of.what == isValue && of.typ != nil && of.typ.op == nRef && len(of.typ.args) > 0 && of.typ.args[0].name == first.name {
				schemaOf = of
			}
		}
	}
	if schemaOf != nil && schemaOf.what == isValue {
		if made := v.schemaOf(schemaOf); made != nil {
			d.decl.Schema, d.decl.Library = made, v.schemas[schemaOf].library
		}
	}
	return d
}

// instance is the type that declarations of one name are with some arguments.
func (v *evaluator) instance(parts []*decl, args []*types.Type) *types.Type {
	d := v.define(parts)
	first := parts[0]
	var params []*generic
	for _, part := range parts {
		if len(part.generics) > len(params) {
			params = part.generics
		}
	}
	var e *env
	if len(args) > len(params) {
		args = args[:len(params)]
	}
	given := slices.Clone(args)
	for i, g := range params {
		if i >= len(given) {
			t := types.UnknownType
			switch {
			case g.byName != nil:
				t = v.of(g.byName, first.in, e)
			case g.bound != nil:
				t = v.of(g.bound, first.in, e)
			}
			given = append(given, t)
		}
		e = e.with(g.name, given[i])
	}
	key := ""
	for _, a := range given {
		key += a.Key() + ","
	}
	if t := d.memo[key]; t != nil {
		return t
	}
	written := first.name
	if len(given) > 0 {
		names := make([]string, len(given))
		for i, a := range given {
			names[i] = a.String()
		}
		written += "<" + strings.Join(names, ", ") + ">"
	}
	switch first.what {
	case isInterface, isClass:
		t := types.Lazy(written, nil).Named(written, d.decl, given)
		t.SetMembers(func() *types.Members { return v.membersOf(parts, e.with("this", t)) })
		d.memo[key] = t
		return t
	case isEnum:
		t := v.enum(parts)
		d.memo[key] = t
		return t
	}
	t := types.Lost("the type " + written + " leads to itself")
	d.memo[key] = t
	var made *types.Type
	if first.what == isValue {
		made = v.schemaOf(first).Out
	} else {
		made = v.of(first.typ, first.in, e)
	}
	switch {
	case made == t:
	case made.Kind == types.Object && made.Decl == nil:
		t.Become(made.Named(written, d.decl, given))
	case made.Kind == types.Union && made.Decl == nil && (first.typ == nil || first.typ.op != nRef):
		t.Become(made.Named(written, nil, nil))
	default:
		t.Become(made)
	}
	return t
}

// membersOf are the members of an interface or a class: its own, and those of what it extends.
func (v *evaluator) membersOf(parts []*decl, e *env) *types.Members {
	out := &types.Members{}
	v.depth++
	defer func() { v.depth-- }()
	if v.depth > maxTypes {
		return &types.Members{Lost: "what " + parts[0].name + " extends has no end"}
	}
	for _, part := range parts {
		if part.what != isInterface && part.what != isClass {
			continue
		}
		for _, n := range part.extends {
			base := v.of(n, part.in, e)
			switch base.Kind {
			case types.Object:
				inherit(out, base.Members())
			case types.Any:
			case types.Unresolved:
				out.Lost = base.Text
			default:
				out.Lost = "what " + part.name + " extends is not followed"
			}
		}
	}
	own := &types.Members{}
	for _, part := range parts {
		if part.what == isInterface || part.what == isClass {
			v.addMembers(own, part.members, part.in, e, part.what == isClass, part.unit)
		}
	}
	index := byName(out.Props)
	for _, p := range own.Props {
		if i, there := index[p.Name]; there {
			out.Props[i] = p
		} else {
			index[p.Name] = len(out.Props)
			out.Props = append(out.Props, p)
		}
	}
	out.Index = append(own.Index, out.Index...)
	out.Called = out.Called || own.Called
	return out
}

// byName are the places of properties by their names.
func byName(all []*types.Prop) map[string]int {
	index := make(map[string]int, len(all))
	for i, p := range all {
		index[p.Name] = i
	}
	return index
}

func inherit(out, base *types.Members) {
	for _, p := range base.Props {
		if !slices.ContainsFunc(out.Props, func(o *types.Prop) bool { return o.Name == p.Name }) {
			out.Props = append(out.Props, p)
		}
	}
	out.Index = append(out.Index, base.Index...)
	out.Called = out.Called || base.Called
	if out.Lost == "" {
		out.Lost = base.Lost
	}
}

// addMembers adds members as they are declared.
func (v *evaluator) addMembers(out *types.Members, all []*member, s *scope, e *env, class bool, u *unit) {
	index := byName(out.Props)
	for _, m := range all {
		switch {
		case m.static:
			continue
		case m.call:
			out.Called = true
			continue
		case m.index != nil:
			out.Index = append(out.Index, types.Index{Key: v.of(m.index, s, e), Value: v.of(m.typ, s, e)})
			continue
		}
		name := m.name
		if m.computed != nil {
			t := v.valueType(m.computed, s, true)
			if t.Kind != types.StringLiteral && t.Kind != types.NumberLiteral {
				if t.Kind == types.Symbol || t.Kind == types.Unresolved || t.Kind == types.Any {
					if !m.optional { // a key that is a symbol, which no document has
						out.Symbols = true
					}
				}
				continue
			}
			name = t.Text
		}
		how := types.Plain
		switch {
		case m.private:
			how = types.Private
		case m.method:
			how = types.Method
		case class && (m.getter || m.setter):
			how = types.Accessor
		}
		if i, there := index[name]; there {
			if m.getter || m.setter || m.method { // the other half, or another signature
				if m.getter {
					out.Props[i] = v.prop(m, name, how, s, e, u)
				}
				continue
			}
			out.Props = slices.Delete(out.Props, i, i+1)
			index = byName(out.Props)
		}
		index[name] = len(out.Props)
		out.Props = append(out.Props, v.prop(m, name, how, s, e, u))
	}
}

func (v *evaluator) prop(m *member, name string, how types.How, s *scope, e *env, u *unit) *types.Prop {
	return types.NewProp(name, m.optional, how, v.field(m, name, u), func() *types.Type {
		switch {
		case m.typ != nil:
			t := v.of(m.typ, s, e)
			if r, _ := utf8.DecodeRuneInString(name); m.typ.op == nObject && unicode.IsUpper(r) && t.Label == "" { // schemas: { Port: … }
				t.Label = name
			}
			return t
		case m.value != nil:
			return v.valueType(m.value, s, m.readonly && m.value.Op != code.Dict && m.value.Op != code.List)
		case m.getter || m.setter:
			return types.AnyType
		}
		return types.AnyType
	})
}

// field is the field of a model that a member is.
func (v *evaluator) field(m *member, name string, u *unit) *model.Field {
	if f := v.fields[m]; f != nil {
		return f
	}
	f := &model.Field{Name: name, Keys: []string{name}, Pos: u.at.of(m.start), Reading: model.ByLibrary, Access: model.Public}
	if m.typ != nil {
		f.Declared = v.written(m.typ, &scope{unit: u})
	}
	v.fields[m] = f
	return f
}

// object is the type of members in braces.
func (v *evaluator) object(n *node, s *scope, e *env) *types.Type {
	t := types.Lazy(v.written(n, s), func() *types.Members {
		out := &types.Members{}
		v.addMembers(out, n.members, s, e, false, s.unit)
		return out
	})
	t.Node = n
	return t
}

// tuple is the type of some elements in order.
func (v *evaluator) tuple(n *node, s *scope, e *env) *types.Type {
	t := &types.Type{Kind: types.Tuple, Rest: -1}
	for i, a := range n.args {
		elem := v.of(a, s, e)
		el := n.elems[i]
		if !el.rest {
			t.Elems, t.Optional = append(t.Elems, elem), append(t.Optional, el.optional)
			continue
		}
		switch elem.Kind {
		case types.Array:
			t.Rest = len(t.Elems)
			t.Elems, t.Optional = append(t.Elems, elem.Elems[0]), append(t.Optional, false)
		case types.Tuple:
			if elem.Rest >= 0 {
				t.Rest = len(t.Elems) + elem.Rest
			}
			t.Elems, t.Optional = append(t.Elems, elem.Elems...), append(t.Optional, elem.Optional...)
		default:
			return types.Lost("what is spread in " + v.written(n, s) + " is not followed")
		}
	}
	names := make([]string, len(t.Elems))
	for i, a := range t.Elems {
		names[i] = a.String()
		if i == t.Rest {
			names[i] = "..." + bracketed(a) + "[]"
		} else if t.Optional[i] {
			names[i] += "?"
		}
	}
	t.Written = "[" + strings.Join(names, ", ") + "]"
	return t
}

// template is a type of texts, taken apart where its holes are literals.
func template(texts []string, holes []*types.Type) *types.Type {
	all := []string{texts[0]}
	for i, hole := range holes {
		var words []string
		for _, t := range hole.Each(true) {
			switch t.Kind {
			case types.StringLiteral, types.NumberLiteral, types.BoolLiteral, types.BigIntLiteral:
				words = append(words, t.Text)
			case types.Null, types.Undefined:
				words = append(words, t.Written)
			default:
				return openTemplate(texts, holes)
			}
		}
		var next []string
		for _, a := range all {
			for _, w := range words {
				next = append(next, a+w+texts[i+1])
			}
		}
		if len(next) > 10000 {
			return openTemplate(texts, holes)
		}
		all = next
	}
	out := make([]*types.Type, len(all))
	for i, text := range all {
		out[i] = types.Literal(text)
	}
	return types.UnionOf(out...)
}

// openTemplate is one whose holes are not literals alone; those that are one text are part of what is around.
func openTemplate(texts []string, holes []*types.Type) *types.Type {
	t := &types.Type{Kind: types.Template, Texts: []string{texts[0]}}
	for i, hole := range holes {
		switch hole.Kind {
		case types.StringLiteral, types.NumberLiteral:
			t.Texts[len(t.Texts)-1] += hole.Text + texts[i+1]
			continue
		case types.Template:
			t.Texts[len(t.Texts)-1] += hole.Texts[0]
			t.Elems = append(t.Elems, hole.Elems...)
			t.Texts = append(t.Texts, hole.Texts[1:]...)
			t.Texts[len(t.Texts)-1] += texts[i+1]
			continue
		case types.Unresolved:
			return hole
		}
		t.Elems, t.Texts = append(t.Elems, hole), append(t.Texts, texts[i+1])
	}
	if len(t.Elems) == 1 && t.Texts[0] == "" && t.Texts[1] == "" && t.Elems[0].Kind == types.String {
		return types.StringType
	}
	var b strings.Builder
	b.WriteString("`" + t.Texts[0])
	for i, e := range t.Elems {
		b.WriteString("${" + e.String() + "}" + t.Texts[i+1])
	}
	t.Written = b.String() + "`"
	return t
}

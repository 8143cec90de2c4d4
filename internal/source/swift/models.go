package swift

import (
	"errors"
	"fmt"
	"slices"
	"strings"

	"vetta/internal/code/hand"
	"vetta/internal/model"
)

// rawTypes are the types an enum's raw values may have and be decoded from.
var rawTypes = map[string]bool{
	"String": true, "Int": true, "Int8": true, "Int16": true, "Int32": true, "Int64": true,
	"UInt": true, "UInt8": true, "UInt16": true, "UInt32": true, "UInt64": true,
	"Double": true, "Float": true, "Bool": true,
}

// buildModels makes models of all types that responses are decoded into, and fills them. Others
// get one where something names them.
func (l *linker) buildModels() {
	var build func(*typeDecl)
	build = func(d *typeDecl) {
		if isModel(d) {
			l.fill(d)
		}
		for _, n := range d.nested {
			build(n)
		}
	}
	for _, f := range l.files {
		build(f)
	}
}

func isModel(d *typeDecl) bool {
	switch d.kind {
	case "struct", "class", "enum", "actor":
		return true
	}
	return false
}

// modelOf is the model of a declaration, its members perhaps not filled yet; nil where it
// declares no type that could have any.
func (l *linker) modelOf(d *typeDecl) *model.Model {
	if d.model != nil || !isModel(d) {
		return d.model
	}
	m := l.shells.New(model.Model{Name: d.full, Language: "swift", Kind: model.Kind(d.kind), Pos: d.pos, Params: l.allParams(d), Source: d, Reading: model.ByLibrary})
	if d.kind == "actor" {
		m.Kind = model.Class
	}
	d.model, d.unfilled = m, true
	l.models = append(l.models, m)
	for _, part := range l.parts(d) {
		for _, t := range part.inherits {
			m.Conforms = append(m.Conforms, typeText(t))
		}
	}
	m.Decodable = l.decodable(d)
	if super := l.superclass(d); super != nil {
		m.Super = l.resolve(d.inherits[0], d)
	}
	return m
}

// allParams are the generic parameters of d, and of the types around it, which a
// nested type may use too.
func (l *linker) allParams(d *typeDecl) (params []string) {
	params = append(params, d.params...)
	for full := outer(d.full); full != ""; full = outer(full) {
		for _, t := range l.types[full] {
			params = append(params, t.params...)
		}
	}
	return params
}

// parts are a declaration and its extensions.
func (l *linker) parts(d *typeDecl) []*typeDecl {
	return append([]*typeDecl{d}, l.exts[d.full]...)
}

// reader is the init(from:) of a declaration, with the part that holds it.
func (l *linker) reader(d *typeDecl) (*function, *typeDecl) {
	for _, part := range l.parts(d) {
		for _, fn := range part.inits {
			if t := fn.typ; t != nil && fn.label == "from" && (t.Name == "Decoder" || strings.HasSuffix(t.Name, " Decoder")) {
				return fn, part
			}
		}
	}
	return nil, nil
}

func (l *linker) decodable(d *typeDecl) bool {
	if c := l.conformances(d); slices.Contains(c, "Decodable") || slices.Contains(c, "Codable") {
		return true
	}
	super := l.superclass(d)
	return super != nil && l.decodable(super)
}

// other is the model of a type that nothing decodes, by its name: as it would be were it Decodable. It is nil
// for a name that no type has, or several.
func (l *linker) other(name string) (m *model.Model) {
	var d *typeDecl
	if exact := l.types[name]; len(exact) > 0 {
		d = exact[0]
	} else {
		for full, decls := range l.types {
			if !strings.HasSuffix(full, "."+name) {
				continue
			}
			if d != nil {
				return nil
			}
			d = decls[0]
		}
	}
	if d == nil || !isModel(d) {
		return nil
	}
	known := d.model != nil && !d.unfilled
	if m = l.modelOf(d); !known {
		l.fillMembers(d, m)
	}
	if !m.Decodable && !m.FromMap {
		m.Decodable = true
		l.fillReading(d, m)
	}
	l.completeModel(m)
	return m
}

// otherNames are the names of all types that a source declares.
func (l *linker) otherNames() (names []string) {
	for full, decls := range l.types {
		if isModel(decls[0]) {
			names = append(names, full)
		}
	}
	slices.Sort(names)
	return names
}

// fill fills the model of a type that is decoded. Most types of a project never are.
func (l *linker) fill(d *typeDecl) {
	switch {
	case l.decodable(d):
		m := l.modelOf(d)
		l.fillMembers(d, m)
		l.fillReading(d, m)
	case d.kind != "enum" && l.mapReader(d) != nil:
		m := l.modelOf(d)
		l.fillMembers(d, m)
		l.fillFromMap(d, m)
	}
}

func (l *linker) fillMembers(d *typeDecl, m *model.Model) {
	d.unfilled = false
	if d.kind == "enum" {
		l.fillEnum(d, m)
	} else {
		l.fillFields(d, m)
	}
}

// complete fills what a type leads to, as far as it was left.
func (l *linker) complete(t *model.Type) {
	t.Walk(func(t *model.Type) {
		if t.Model == nil {
			return
		}
		if d, ok := t.Model.Source.(*typeDecl); ok && d.unfilled {
			l.fillMembers(d, t.Model)
			l.completeModel(t.Model)
		}
	})
}

// completeModel fills what a model leads to.
func (l *linker) completeModel(m *model.Model) {
	l.complete(&model.Type{Kind: model.Named, Model: m})
	l.complete(m.Super)
	for _, f := range m.Fields {
		l.complete(f.Type)
		l.complete(f.Wrapper)
	}
	for _, c := range m.Cases {
		for _, v := range c.Values {
			l.complete(v.Type)
		}
	}
	model.WalkSteps(m.Steps, func(_ string, e *model.Expr) { l.complete(e.Type) })
}

// lost marks a model whose initialiser could not be followed.
func (l *linker) lost(m *model.Model, err error) {
	m.Reading, m.Why = model.Unfollowed, err.Error()
	var at *hand.Lost
	if errors.As(err, &at) {
		m.WhyPos = at.Pos
	}
	for _, f := range m.Fields {
		f.Reading, f.Why, f.Keys = model.Unfollowed, m.Why, nil
	}
}

// fillReading says how the model is decoded: by an initialiser of its own, by one
// that it inherits, or by the one that the compiler writes.
func (l *linker) fillReading(d *typeDecl, m *model.Model) {
	if fn, part := l.reader(d); fn != nil {
		steps, err := l.follow(part, fn, byName(m))
		if err != nil {
			l.lost(m, err)
			return
		}
		m.Reading, m.Steps = model.ByCode, steps
		l.fieldsOfSteps(m)
		return
	}
	if super := l.superclass(d); super != nil && l.decodable(super) {
		for _, f := range m.Fields {
			f.Reading, f.Keys = model.Never, nil
			f.Why = fmt.Sprintf("%s inherits init(from:) from %s, which does not know its fields", m.Name, super.full)
		}
		return
	}
	if raw := l.rawValueField(d, m); raw != nil && (m.Raw == nil || m.Raw.Name == "") {
		m.Raw = raw.Type
		for _, part := range l.parts(d) {
			for _, fn := range part.inits {
				if fn.label == "rawValue" && fn.failable {
					m.Reading, m.Why, m.WhyPos = model.Unfollowed, "an init?(rawValue:) of its own may refuse a value", fn.pos
				}
			}
		}
	}
}

// rawValueField is the stored rawValue of a struct that is RawRepresentable: such
// a struct is decoded as its raw value.
func (l *linker) rawValueField(d *typeDecl, m *model.Model) *model.Field {
	if c := l.conformances(d); d.kind == "enum" || !slices.Contains(c, "RawRepresentable") && !slices.Contains(c, "OptionSet") {
		return nil
	}
	for _, f := range m.Fields {
		if f.Name == "rawValue" {
			return f
		}
	}
	return nil
}

// byName are the fields of a model.
func byName(m *model.Model) map[string]*model.Field {
	fields := make(map[string]*model.Field, len(m.Fields))
	for _, f := range m.Fields {
		fields[f.Name] = f
	}
	return fields
}

// fieldsOfSteps notes on the fields of a model that code reads which keys the
// code takes them from.
func (l *linker) fieldsOfSteps(m *model.Model) {
	for _, f := range m.Fields {
		if f.Reading != model.Unfollowed {
			f.Reading, f.Keys = model.Never, nil
			f.Why = "init(from:) does not assign it"
		}
	}
	fields := byName(m)
	model.WalkSteps(m.Steps, func(field string, e *model.Expr) {
		if field == model.SelfField { // all of them at once
			for _, f := range m.Fields {
				if f.Reading == model.Never {
					f.Reading, f.Why = model.ByCode, ""
				}
			}
		}
		f := fields[field]
		if f == nil {
			return
		}
		if f.Reading == model.Never {
			f.Reading, f.Why = model.ByCode, ""
		}
		switch e.Op {
		case model.OpAt, model.OpAtIf:
			if inner := e.Args[0]; inner.Op != model.OpAt && inner.Op != model.OpAtIf && !slices.Contains(f.Keys, e.Key) {
				f.Keys = append(f.Keys, e.Key)
			}
		case model.OpUnknown:
			f.Reading, f.Why = model.Unfollowed, fmt.Sprintf("%s (%s)", e.Why, e.Pos)
		}
	})
}

// fillFields makes a field of every stored property, with its key as the
// synthesised init(from:) would use it.
func (l *linker) fillFields(d *typeDecl, m *model.Model) {
	keysDecl := l.nestedType(d, "CodingKeys")
	var keys map[string]string
	if keysDecl != nil && keysDecl.kind == "enum" {
		keys = codingKeys(keysDecl)
	}
	names := make([]string, 0, len(d.props))
	m.Fields = make([]*model.Field, 0, len(d.props))
	for _, prop := range d.props {
		if prop.static || prop.computed {
			continue
		}
		f := l.fields.New(model.Field{Name: prop.name, Pos: prop.pos, Declared: prop.text, Default: prop.init, Final: prop.constant, Reading: model.ByLibrary})
		m.Fields = append(m.Fields, f)
		f.Type = l.resolve(prop.typ, d)
		if f.Type == nil {
			f.Type = &model.Type{Kind: model.Opaque, Name: "its initialiser's type"}
		}
		n := len(names)
		names = append(names, prop.name)
		f.Keys = names[n : n+1 : n+1]
		if keys != nil {
			if key, ok := keys[prop.name]; ok {
				names[n] = key
			} else {
				never(f, "CodingKeys leaves it out")
			}
		}
		if len(f.Keys) > 0 {
			f.Written = f.Keys[0]
		}
		switch {
		case prop.lazy:
			never(f, "it is lazy")
		case prop.constant && prop.value[1] > 0:
			never(f, "it is a constant with a value of its own")
		}
		l.wrapper(d, prop, f)
		if at, ok := l.replaced[f.Type.Unwrapped().Name]; ok && f.Reading == model.ByLibrary {
			unfollowed(f, fmt.Sprintf("an extension at %s decodes its type", at.pos))
		}
	}
	if keysDecl != nil && keysDecl.kind != "enum" {
		for _, f := range m.Fields {
			unfollowed(f, "its CodingKeys are not an enum")
		}
	}
	if keysDecl != nil {
		orderBy(m, keysDecl)
	}
}

func never(f *model.Field, why string) {
	f.Reading, f.Keys, f.Why = model.Never, nil, why
}

func unfollowed(f *model.Field, why string) {
	f.Reading, f.Why = model.Unfollowed, why
}

// orderBy notes the order in which synthesised code reads: that of the key type's
// cases, where the author wrote one. The fields themselves stay as declared.
func orderBy(m *model.Model, keys *typeDecl) {
	m.KeyOrder = nil
	for _, c := range keys.cases {
		m.KeyOrder = append(m.KeyOrder, c.name)
	}
}

// plainAttributes are attributes of properties that leave their storage alone.
var plainAttributes = map[string]bool{
	"available": true, "objc": true, "nonobjc": true, "MainActor": true, "usableFromInline": true, "inlinable": true,
	"IBInspectable": true, "IBOutlet": true, "NSCopying": true, "ObservationIgnored": true, "ObservationTracked": true,
	"inline": true, "_alwaysEmitIntoClient": true, "_semantics": true, "backDeployed": true, "warn_unqualified_access": true,
	"preconcurrency": true, "_spi": true, "GKInspectable": true, "DecimalAttribute": true, "Transient": true, "Attribute": true,
}

// wrapper looks for a property wrapper among the attributes of a property: it is
// what is decoded then, in the property's stead.
func (l *linker) wrapper(d *typeDecl, prop *property, f *model.Field) {
	for _, a := range prop.attrs {
		w := l.lookup(a.typ.Name, d)
		if w == nil {
			if !plainAttributes[a.typ.Name] {
				unfollowed(f, "the property wrapper @"+a.typ.Name+" is not in the source")
			}
			continue
		}
		if !hasAttribute(w, "propertyWrapper") {
			continue
		}
		f.Wrapper = l.resolve(a.typ, d)
		if at, ok := l.replaced[w.name]; ok {
			if f.Fallback = l.emptyWrapper(w); !at.lenient || f.Fallback == nil {
				unfollowed(f, fmt.Sprintf("an extension at %s decodes @%s", at.pos, w.name))
				return
			}
		}
		if len(w.params) > 0 && len(f.Wrapper.Args) == 0 {
			f.Wrapper.Args = l.inferWrapper(w, f.Type)
			if f.Wrapper.Args == nil {
				unfollowed(f, "the type that @"+w.name+" wraps could not be told")
			}
		}
		return
	}
}

// emptyWrapper is what a wrapper that is made without arguments wraps: the initial
// value of its wrappedValue, nil if that cannot be told.
func (l *linker) emptyWrapper(w *typeDecl) *model.Literal {
	for _, prop := range w.props {
		if prop.name == "wrappedValue" && prop.init != nil && prop.init.Kind != model.OtherLiteral {
			return prop.init
		}
	}
	return nil
}

func hasAttribute(d *typeDecl, name string) bool {
	for _, a := range d.attrs {
		if a.typ.Name == name {
			return true
		}
	}
	return false
}

// inferWrapper finds the generic arguments of a wrapper from the type of what it
// wraps: its wrappedValue is declared with the parameters in it.
func (l *linker) inferWrapper(w *typeDecl, wrapped *model.Type) []*model.Type {
	for _, prop := range w.props {
		if prop.name != "wrappedValue" || prop.typ == nil {
			continue
		}
		env := map[string]*model.Type{}
		if !unify(l.resolve(prop.typ, w), wrapped, env) {
			return nil
		}
		args := make([]*model.Type, len(w.params))
		for i, p := range w.params {
			if args[i] = env[p]; args[i] == nil {
				return nil
			}
		}
		return args
	}
	return nil
}

// unify binds the parameters in pattern so that it becomes t.
func unify(pattern, t *model.Type, env map[string]*model.Type) bool {
	if pattern.Kind == model.Param {
		if bound := env[pattern.Name]; bound != nil {
			return bound.Key() == t.Key()
		}
		env[pattern.Name] = t
		return true
	}
	if pattern.Kind != t.Kind || pattern.Name != t.Name || len(pattern.Args) != len(t.Args) {
		return false
	}
	for i := range pattern.Args {
		if !unify(pattern.Args[i], t.Args[i], env) {
			return false
		}
	}
	return true
}

// fillEnum makes the cases of an enum, with raw values as the compiler fills them
// in ("Declarations", Enumerations with Cases of a Raw-Value Type).
func (l *linker) fillEnum(d *typeDecl, m *model.Model) {
	for _, t := range d.inherits {
		if r := l.resolve(t, d); r.Kind == model.Named && rawTypes[r.Name] && r.Model == nil {
			m.Raw = r
			break
		}
	}
	keysDecl := l.nestedType(d, "CodingKeys")
	var keys map[string]string
	if keysDecl != nil {
		keys = codingKeys(keysDecl)
	}
	next := int64(0)
	for _, c := range d.cases {
		mc := &model.Case{Name: c.name, Pos: c.pos, Key: c.name, Raw: c.raw}
		if m.Raw != nil && m.Raw.Name == "String" && mc.Raw == nil {
			mc.Raw = &model.Literal{Kind: model.StringLiteral, Text: c.name}
		}
		if m.Raw != nil && m.Raw.Name != "String" {
			if mc.Raw == nil {
				mc.Raw = &model.Literal{Kind: model.IntLiteral, Text: fmt.Sprint(next)}
			}
			if n, ok := intValue(mc.Raw); ok {
				next = n + 1
			}
		}
		if keysDecl != nil {
			mc.Key = keys[c.name]
		}
		var valueKeys *typeDecl
		if len(c.values) > 0 {
			valueKeys = l.nestedType(d, strings.ToUpper(c.name[:1])+c.name[1:]+"CodingKeys")
		}
		for i, v := range c.values {
			f := &model.Field{Name: v.name, Type: l.resolve(v.typ, d), Declared: v.text, Default: v.init, Pos: v.pos, Reading: model.ByLibrary}
			if f.Name == "" || f.Name == "_" {
				f.Name = fmt.Sprintf("_%d", i)
			}
			f.Keys = []string{f.Name}
			if valueKeys != nil {
				if key, ok := codingKeys(valueKeys)[f.Name]; ok {
					f.Keys = []string{key}
				} else {
					never(f, valueKeys.name+" leaves it out")
				}
			}
			mc.Values = append(mc.Values, f)
		}
		m.Cases = append(m.Cases, mc)
	}
}

func intValue(l *model.Literal) (n int64, ok bool) {
	text := strings.ToLower(l.Text)
	if l.Kind != model.IntLiteral {
		return 0, false
	}
	for prefix, verb := range map[string]string{"0x": "%x", "0b": "%b", "0o": "%o"} {
		if rest, found := strings.CutPrefix(text, prefix); found {
			_, err := fmt.Sscanf(rest, verb, &n)
			return n, err == nil
		}
	}
	_, err := fmt.Sscanf(text, "%d", &n)
	return n, err == nil
}

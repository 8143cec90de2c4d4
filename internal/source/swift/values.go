package swift

import (
	"strings"

	"vetta/internal/model"
	"vetta/internal/source/scan"
)

// jsonMap is the container of code that reads a [String: Any] by hand.
const jsonMap model.Container = "map"

// containerOf says whether an expression is a container, and which.
func (f *follower) containerOf(e *expr) (binding, bool) {
	e = withoutTry(e)
	if e.op == exprTry {
		e = e.args[0]
	}
	if e.op == exprName {
		b, ok := f.vars[e.text]
		return b, ok && b.isContainer
	}
	if e.op == exprChain || e.op == exprForce {
		return f.containerOf(e.args[0])
	}
	if e.op == exprCast && isJSONMap(e.typ) {
		// map["key"] as? [String: Any]
		if path, ok := f.mapPath(e.args[0]); ok {
			return binding{isContainer: true, container: jsonMap, path: path}, true
		}
	}
	receiver, name := e.method()
	if receiver == nil {
		return binding{}, false
	}
	if receiver.op == exprName && receiver.text == f.decoder && f.decoder != "" {
		switch name {
		case "container":
			if keys, ok := f.keys(e.label("keyedBy")); ok {
				return binding{isContainer: true, container: model.Keyed, keys: keys}, true
			}
		case "singleValueContainer":
			return binding{isContainer: true, container: model.Single}, true
		case "unkeyedContainer":
			return binding{isContainer: true, container: model.Unkeyed}, true
		}
		return binding{}, false
	}
	outer, ok := f.containerOf(receiver)
	if !ok {
		return binding{}, false
	}
	inner := binding{isContainer: true, path: append([]*model.Expr{}, outer.path...)}
	switch name {
	case "nestedContainer":
		inner.container = model.Keyed
		if inner.keys, ok = f.keys(e.label("keyedBy")); !ok {
			return binding{}, false
		}
	case "nestedUnkeyedContainer":
		inner.container = model.Unkeyed
	default:
		return binding{}, false
	}
	if level := f.levelOf(receiver, outer, e.label("forKey")); level != nil {
		inner.path = append(inner.path, level)
	} else if outer.container != model.Single {
		return binding{}, false
	}
	return inner, true
}

// levelOf is the step from a container to what is read from it: a member by its
// key, or the next element. It is nil where what is read is the current value
// itself, as in a loop over elements, or cannot be told.
func (f *follower) levelOf(receiver *expr, b binding, key *expr) *model.Expr {
	switch b.container {
	case model.Keyed:
		if name, ok := f.key(key, b); ok {
			return &model.Expr{Op: model.OpAt, Key: name}
		}
	case model.Unkeyed:
		if receiver.op == exprName {
			own := f.vars[receiver.text]
			own.next++
			f.vars[receiver.text] = own
			return &model.Expr{Op: model.OpElem, Index: b.next}
		}
	}
	return nil
}

// keys reads the names of a key type given as Keys.self. They are nil for a type
// that takes any name.
func (f *follower) keys(e *expr) (map[string]string, bool) {
	if e == nil || e.op != exprType || e.typ.Kind != model.Named {
		return nil, false
	}
	d := f.link.lookup(e.typ.Name, f.decl)
	switch {
	case d == nil:
		return nil, false
	case d.kind == "enum":
		return codingKeys(d), true
	}
	return nil, d.kind == "struct"
}

// codingKeys are the names on the wire that the cases of a key type stand for.
func codingKeys(d *typeDecl) map[string]string {
	keys := map[string]string{}
	for _, c := range d.cases {
		keys[c.name] = c.name
		if c.raw != nil && c.raw.Kind == model.StringLiteral {
			keys[c.name] = c.raw.Text
		}
	}
	return keys
}

// key is the name on the wire that a key expression stands for: .case,
// Keys.case, Keys(stringValue: "name")!.
func (f *follower) key(e *expr, b binding) (string, bool) {
	if e == nil {
		return "", false
	}
	for e.op == exprForce {
		e = e.args[0]
	}
	if e.op == exprMember {
		key, ok := b.keys[e.text]
		return key, ok
	}
	if e.op == exprCall && len(e.args) == 2 && e.args[1].op == exprLiteral {
		if t := f.p.F.TokenAt(e.args[1].start); t.Kind == scan.String && t.Plain {
			return t.Text, true
		}
	}
	return "", false
}

// isJSONMap says whether a type is [String: Any].
func isJSONMap(t *model.Type) bool {
	t = t.Unwrapped()
	return t.Kind == model.Map && t.Args[0].Name == "String" && (t.Args[1].Unwrapped().Name == "Any" || strings.HasPrefix(t.Args[1].Name, "any "))
}

// mapPath is how map["a"], or map["a"]?["b"], is reached, where map is [String: Any].
func (f *follower) mapPath(e *expr) ([]*model.Expr, bool) {
	for e.op == exprChain || e.op == exprForce {
		e = e.args[0]
	}
	if e.op != exprIndex || len(e.args) != 2 {
		return nil, false
	}
	t := f.p.F.TokenAt(e.args[1].start)
	if e.args[1].op != exprLiteral || t.Kind != scan.String || !t.Plain {
		return nil, false
	}
	b, ok := f.containerOf(e.args[0])
	if !ok || b.container != jsonMap {
		return nil, false
	}
	return append(append([]*model.Expr{}, b.path...), &model.Expr{Op: model.OpAtIf, Key: t.Text, Lossy: true}), true
}

// value turns an expression into an operation.
func (f *follower) value(e *expr) *model.Expr {
	v := f.valueOf(e)
	if v == nil {
		v = &model.Expr{Op: model.OpUnknown, Why: "the expression " + f.p.F.Text(e.start, e.end)}
	}
	if v.Pos.IsZero() {
		v.Pos = f.p.F.Where(e.start)
	}
	return v
}

func (f *follower) valueOf(e *expr) *model.Expr {
	switch e.op {
	case exprTry:
		inner := f.value(e.args[0])
		if e.text == "try?" {
			return &model.Expr{Op: model.OpTry, Args: []*model.Expr{inner}}
		}
		return inner
	case exprLiteral:
		q := parserAt(f.p.F, e.start)
		if l := q.literal(e.end); l.Kind != model.OtherLiteral {
			return &model.Expr{Op: model.OpConst, Value: l}
		}
	case exprMember:
		return f.member(e)
	case exprName:
		if b, ok := f.vars[e.text]; ok && !b.isContainer && b.value != nil {
			return b.value
		}
	case exprBinary:
		left, right := f.value(e.args[0]), f.value(e.args[1])
		if e.text == "??" {
			return &model.Expr{Op: model.OpElse, Args: []*model.Expr{left, right}}
		}
		if e.text == "!=" && right.Op == model.OpConst && right.Value.Kind == model.NullLiteral {
			return f.function("!= nil", left)
		}
		if e.text == "==" && right.Op == model.OpConst && right.Value.Kind == model.NullLiteral {
			return f.function("!", f.function("!= nil", left))
		}
		return f.function(e.text, left, right)
	case exprTernary:
		return &model.Expr{Op: model.OpIf, Args: []*model.Expr{f.value(e.args[0]), f.value(e.args[1]), f.value(e.args[2])}}
	case exprForce:
		return &model.Expr{Op: model.OpElse, Args: []*model.Expr{f.value(e.args[0]), {Op: model.OpFail, Why: "Fatal error: Unexpectedly found nil while unwrapping an Optional value"}}}
	case exprChain:
		return f.value(e.args[0])
	case exprNot:
		return f.function("!", f.value(e.args[0]))
	case exprCast:
		return f.cast(e)
	case exprIndex:
		if path, ok := f.mapPath(e); ok {
			return wrap(path, &model.Expr{Op: model.OpCast, Type: &model.Type{Name: "Any"}, Declared: "Any"})
		}
	case exprCall:
		return f.call(e)
	}
	return nil
}

func (f *follower) function(name string, args ...*model.Expr) *model.Expr {
	return &model.Expr{Op: model.OpCall, Func: name, Args: args}
}

// properties are members of values that can be computed from them.
var properties = map[string]bool{"isEmpty": true, "count": true, "first": true, "last": true, "rawValue": true, "lowercased": true, "uppercased": true}

// member follows value.property, self.field and Type.case.
func (f *follower) member(e *expr) *model.Expr {
	q := parserAt(f.p.F, e.start)
	if l := q.literal(e.end); l.Kind == model.CaseLiteral {
		base := ""
		if len(e.args) > 0 && e.args[0].op == exprName {
			base = e.args[0].text
		}
		if _, local := f.vars[base]; !local && base != "self" {
			c := &model.Expr{Op: model.OpConst, Value: l}
			if base != "" {
				c.Type = f.link.resolve(&model.Type{Name: base}, f.decl)
			}
			return c
		}
	}
	if len(e.args) == 0 {
		return nil
	}
	if base := e.args[0]; base.op == exprName && base.text == "self" {
		if b, ok := f.vars[e.text]; ok && b.value != nil {
			return b.value
		}
		return nil
	}
	if properties[e.text] {
		return f.function("."+e.text, f.value(e.args[0]))
	}
	return nil
}

// cast follows map["key"] as? T.
func (f *follower) cast(e *expr) *model.Expr {
	path, ok := f.mapPath(e.args[0])
	if !ok {
		return nil
	}
	typ := f.link.resolve(e.typ, f.decl)
	cast := &model.Expr{Op: model.OpCast, Type: typ, Declared: typeText(e.typ), Pos: f.p.F.Where(e.start)}
	v := wrap(path, cast)
	switch e.text {
	case "as?":
		return v
	case "as!":
		return &model.Expr{Op: model.OpElse, Args: []*model.Expr{v, {Op: model.OpFail, Why: "Could not cast value to " + typeText(e.typ)}}}
	}
	return nil
}

// conversions are initialisers of the standard library and Foundation that make
// one value of another, by name and label.
var conversions = map[string]bool{
	"Int:": true, "Int8:": true, "Int16:": true, "Int32:": true, "Int64:": true, "UInt:": true, "UInt8:": true, "UInt16:": true, "UInt32:": true, "UInt64:": true,
	"Double:": true, "Float:": true, "CGFloat:": true, "String:": true, "Bool:": true, "Decimal:": true, "Decimal:string": true,
	"URL:string": true, "UUID:uuidString": true, "Date:timeIntervalSince1970": true, "Set:": true, "Array:": true, "TimeInterval:": true,
	"String:describing": true,
}

// methods are those of values that can be computed.
var methods = map[string]bool{"lowercased": true, "uppercased": true, "trimmingCharacters": true, "hasPrefix": true, "hasSuffix": true, "contains": true, "rounded": true}

func (f *follower) call(e *expr) *model.Expr {
	receiver, name := e.method()
	if receiver == nil {
		if strings.HasPrefix(name, ".") {
			return f.implicit(e, name[1:])
		}
		return f.initialiser(e, name)
	}
	if b, ok := f.containerOf(receiver); ok && b.container != jsonMap {
		return f.containerCall(e, receiver, b, name)
	}
	if receiver.op == exprName {
		if _, local := f.vars[receiver.text]; !local {
			if d := f.link.lookup(receiver.text, f.decl); d != nil {
				if d.kind == "enum" && hasCase(d, name) { // Type.case(value)
					return f.make(e, name, &model.Type{Name: receiver.text})
				}
			}
			if name == "date" && e.label("from") != nil { // formatter.date(from: text)
				return f.formatted(e, receiver)
			}
			if name == "init" { // Type.init(…)
				return f.initialiser(e, receiver.text)
			}
		}
	}
	base := f.value(receiver)
	switch name {
	case "map", "flatMap", "compactMap", "mapValues", "compactMapValues":
		return f.transform(e, base, name)
	}
	if methods[name] {
		args := []*model.Expr{base}
		for _, a := range e.args[1:] {
			if name != "trimmingCharacters" {
				args = append(args, f.value(a))
			}
		}
		return f.function("."+name, args...)
	}
	return nil
}

func hasCase(d *typeDecl, name string) bool {
	for _, c := range d.cases {
		if c.name == name {
			return true
		}
	}
	return false
}

// implicit follows .case(value) and .init(rawValue: value).
func (f *follower) implicit(e *expr, name string) *model.Expr {
	if name == "init" {
		if raw := e.label("rawValue"); raw != nil {
			return f.function("rawValue", f.value(raw))
		}
		return nil
	}
	return f.make(e, name, nil)
}

// make follows the making of an enum's case with associated values.
func (f *follower) make(e *expr, name string, typ *model.Type) *model.Expr {
	v := &model.Expr{Op: model.OpMake, Func: name}
	if typ != nil {
		v.Type = f.link.resolve(typ, f.decl)
	}
	for _, a := range e.args[1:] {
		v.Args = append(v.Args, f.value(a))
	}
	return v
}

// initialiser follows Type(…).
func (f *follower) initialiser(e *expr, name string) *model.Expr {
	if name == "Self" || name == "self" {
		return f.selfInit(e)
	}
	if len(e.args) == 2 && conversions[name+":"+e.labels[0]] && f.link.lookup(name, f.decl) == nil {
		return f.function(name+":"+e.labels[0], f.value(e.args[1]))
	}
	d := f.link.lookup(name, f.decl)
	if d == nil {
		return nil
	}
	if raw := e.label("rawValue"); raw != nil && len(e.args) == 2 {
		v := f.function("rawValue", f.value(raw))
		v.Type = f.link.resolve(&model.Type{Name: name}, f.decl)
		return v
	}
	if m := f.fromMap(e, d); m != nil {
		return m
	}
	return f.memberwise(e, d, name)
}

// selfInit follows self.init(rawValue: value).
func (f *follower) selfInit(e *expr) *model.Expr {
	if raw := e.label("rawValue"); raw != nil && len(e.args) == 2 {
		return f.function("rawValue", f.value(raw))
	}
	return nil
}

// memberwise follows the initialiser that the compiler gives a struct.
func (f *follower) memberwise(e *expr, d *typeDecl, name string) *model.Expr {
	if d.kind != "struct" || len(d.inits) > 0 || len(d.params) > 0 {
		return nil
	}
	v := &model.Expr{Op: model.OpNew, Type: f.link.resolve(&model.Type{Name: name}, f.decl)}
	for i, a := range e.args[1:] {
		v.Names, v.Args = append(v.Names, e.labels[i]), append(v.Args, f.value(a))
	}
	return v
}

// fromMap follows Type(map) where Type is read from a [String: Any].
func (f *follower) fromMap(e *expr, d *typeDecl) *model.Expr {
	if len(e.args) != 2 || f.link.mapReader(d) == nil {
		return nil
	}
	b, ok := f.containerOf(e.args[1])
	if !ok || b.container != jsonMap {
		return nil
	}
	return wrap(b.path, &model.Expr{Op: model.OpDecode, Type: f.link.resolve(&model.Type{Name: d.full}, nil), Declared: d.name})
}

// formatted follows formatter.date(from: text) for a formatter with a pattern.
func (f *follower) formatted(e, receiver *expr) *model.Expr {
	v := f.function("date", f.value(e.label("from")))
	v.Value = &model.Literal{Kind: model.StringLiteral, Text: receiver.text}
	f.link.formatted = append(f.link.formatted, formattedDate{v, receiver.text, f.p.F, e.start})
	return v
}

// formattedDate is a call of a formatter whose pattern is found once all files are
// read.
type formattedDate struct {
	expr *model.Expr
	name string
	file *scan.File
	tok  int
}

// containerCall follows a call of a decoding container's method.
func (f *follower) containerCall(e, receiver *expr, b binding, name string) *model.Expr {
	if name == "contains" && b.container == model.Keyed && len(e.args) == 2 {
		if key, ok := f.key(e.args[1], b); ok {
			return wrap(b.path, &model.Expr{Op: model.OpHas, Key: key})
		}
		return nil
	}
	if name == "decodeNil" {
		isNull := &model.Expr{Op: model.OpIsNull}
		if b.container == model.Single {
			return wrap(b.path, isNull)
		}
		if level := f.levelOf(receiver, b, e.label("forKey")); level != nil {
			return wrap(append(append([]*model.Expr{}, b.path...), level), isNull)
		}
		return nil
	}
	if name != "decode" && name != "decodeIfPresent" || len(e.args) < 2 || e.args[1].op != exprType {
		return nil
	}
	typ := f.link.resolve(e.args[1].typ, f.decl)
	decode := &model.Expr{Op: model.OpDecode, Type: typ, Declared: strings.TrimSpace(e.args[1].text), Pos: f.p.F.Where(e.start)}
	path := append([]*model.Expr{}, b.path...)
	if b.container != model.Single {
		key := e.label("forKey")
		if key != nil && key.op == exprName && f.vars[key.text].loopKey {
			if name == "decodeIfPresent" {
				decode.Type = model.OptionalOf(typ)
			}
			return wrap(path, decode) // the member that the loop is at
		}
		level := f.levelOf(receiver, b, key)
		if level == nil {
			return nil
		}
		if name == "decodeIfPresent" {
			if level.Op != model.OpAt {
				return nil
			}
			level.Op = model.OpAtIf
		}
		level.Pos = decode.Pos
		path = append(path, level)
	}
	return wrap(path, decode)
}

// transform follows list.map { … } and optional.flatMap { … } where the closure is
// a conversion, a property or the making of a model, also written as a function or
// a key path.
func (f *follower) transform(e *expr, base *model.Expr, name string) *model.Expr {
	if len(e.args) != 2 {
		return nil
	}
	elem := &model.Expr{Op: model.OpCall, Func: "$0"}
	var each *model.Expr
	switch arg := e.args[1]; {
	case arg.op == exprClosure:
		each = f.closure(arg, elem)
	case arg.op == exprKeyPath:
		each = f.function("property "+arg.text, elem)
	case arg.op == exprMember && arg.text == "init" && len(arg.args) == 1 && arg.args[0].op == exprName: // Int.init, URL.init(string:)
		label := ""
		if len(arg.labels) == 1 {
			label = arg.labels[0]
		}
		typeName := arg.args[0].text
		if conversions[typeName+":"+label] {
			each = f.function(typeName+":"+label, elem)
		} else if d := f.link.lookup(typeName, f.decl); d != nil && f.link.mapReader(d) != nil {
			each = &model.Expr{Op: model.OpDecode, Type: f.link.resolve(&model.Type{Name: typeName}, f.decl), Declared: typeName}
		}
	}
	if each == nil || hasUnknown(each) {
		return nil
	}
	if each.Op == model.OpDecode { // elements that are read from maps themselves
		return f.eachMap(base, each, name)
	}
	if strings.HasSuffix(name, "Values") {
		return nil
	}
	return f.function(name, base, each)
}

// eachMap makes a list or a map of maps one of models that are read from them, and one map such a model,
// by the method of a name.
func (f *follower) eachMap(base, each *model.Expr, name string) *model.Expr {
	switch base.Op {
	case model.OpElse:
		inner := f.eachMap(base.Args[0], each, name)
		if inner == nil {
			return nil
		}
		return &model.Expr{Op: model.OpElse, Args: []*model.Expr{inner, base.Args[1]}}
	case model.OpAtIf:
		inner := f.eachMap(base.Args[0], each, name)
		if inner == nil {
			return nil
		}
		level := *base
		level.Args = []*model.Expr{inner}
		return &level
	case model.OpCast:
		of := base.Type.Unwrapped()
		op, lossy := model.OpEach, strings.HasPrefix(name, "compact")
		switch values := strings.HasSuffix(name, "Values"); {
		case isJSONMap(of) && !values: // one map, of an optional: (x as? [String: Any]).flatMap { Port($0) }
			return each
		case of.Kind == model.Map && values && isJSONMap(of.Args[1]):
			op = model.OpEachKey
		case of.Kind != model.List || values:
			return nil
		}
		return &model.Expr{Op: op, Lossy: lossy, Args: []*model.Expr{each}, Type: base.Type, Func: "cast"}
	}
	return nil
}

// closure follows { $0 … } or { name in … } of one expression.
func (f *follower) closure(e *expr, elem *model.Expr) *model.Expr {
	q := parserAt(f.p.F, e.start+1)
	shut := e.end - 1
	name := "$0"
	if q.Kind() == scan.Ident && q.Ahead(1, "in") {
		name = q.Text()
		q.I += 2
	}
	q.Accept("return")
	outer, outerParser := f.vars, f.p
	f.vars = copyVars(outer)
	f.vars[name] = binding{value: elem}
	f.p = q
	body := q.parseExpr(shut, 0)
	var each *model.Expr
	if q.I == shut {
		switch receiver, _ := body.method(); {
		case body.op == exprCall && receiver == nil && len(body.args) == 2 && body.args[1].op == exprName && body.args[1].text == name && body.args[0].op == exprName:
			if d := f.link.lookup(body.args[0].text, f.decl); d != nil && f.link.mapReader(d) != nil {
				each = &model.Expr{Op: model.OpDecode, Type: f.link.resolve(&model.Type{Name: body.args[0].text}, f.decl), Declared: body.args[0].text}
			} else {
				each = f.value(body)
			}
		case body.op == exprMember && len(body.args) == 1 && body.args[0].op == exprName && body.args[0].text == name && !properties[body.text]:
			each = f.function("property "+body.text, elem)
		default:
			each = f.value(body)
		}
	}
	f.vars, f.p = outer, outerParser
	return each
}

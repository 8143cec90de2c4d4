package swift

import (
	"strings"

	"vetta/internal/code"
	"vetta/internal/code/hand"
	"vetta/internal/model"
	"vetta/internal/source/scan"
)

// What code makes of values that it has read, by functions of the standard library and of Foundation.

// properties are members of values that can be computed from them.
var properties = map[string]bool{"isEmpty": true, "count": true, "first": true, "last": true, "rawValue": true, "lowercased": true, "uppercased": true}

// member follows value.property and Type.case.
func (v *vocabulary) member(f *hand.Follower, e *code.Expr) *model.Expr {
	if l := v.literal(e); l.Kind == model.CaseLiteral {
		base := ""
		if len(e.Args) > 0 && e.Args[0].Op == code.Name {
			base = e.Args[0].Text
		}
		if _, local := f.Bound(base); !local && base != "self" {
			c := &model.Expr{Op: model.OpConst, Value: l}
			if base != "" {
				c.Type = v.link.resolve(&model.Type{Name: base}, v.decl)
			}
			return c
		}
	}
	switch {
	case len(e.Args) == 0:
	case properties[e.Text]:
		return hand.Function("."+e.Text, f.Value(e.Args[0]))
	case numberValues[e.Text]:
		return ofNumber(f.Value(e.Args[0]), e.Text)
	}
	return nil
}

// numberValues are the properties of an NSNumber that make another number of it.
var numberValues = map[string]bool{"intValue": true, "int64Value": true, "doubleValue": true, "boolValue": true}

// ofNumber is a property of what was cast to NSNumber, nil where it is of something else.
func ofNumber(e *model.Expr, property string) *model.Expr {
	made := *e
	switch {
	case e.Op == model.OpCast && e.Type != nil && e.Type.Unwrapped().Name == "NSNumber":
		made.Type, made.Declared = &model.Type{Kind: model.Named, Name: "NSNumber." + property}, e.Declared+"."+property
		return &made
	case e.Op == model.OpAtIf || e.Op == model.OpElse && e.Args[1].Op == model.OpFail:
		inner := ofNumber(e.Args[0], property)
		if inner == nil {
			return nil
		}
		made.Args = append([]*model.Expr{inner}, e.Args[1:]...)
		return &made
	}
	return nil
}

// cast follows map["key"] as? T.
func (v *vocabulary) cast(f *hand.Follower, e *code.Expr) *model.Expr {
	path, ok := v.mapPath(f, e.Args[0])
	if !ok || e.Type == nil || len(e.Does.All()) > 0 && e.Does.All()[0] == code.Upcast {
		return nil
	}
	return hand.Wrap(path, &model.Expr{Op: model.OpCast, Type: f.Type(e.Type), Declared: declared(f, e), Pos: v.file.At(e.From)})
}

// declared is the type of a cast as it is written, or what its type parameter stands for.
func declared(f *hand.Follower, e *code.Expr) string {
	if t := f.Type(e.Type); t != e.Type {
		return typeText(t)
	}
	return e.Text
}

// conversions are initialisers of the standard library and Foundation that make one value of another, by
// name and label.
var conversions = map[string]bool{
	"Int:": true, "Int8:": true, "Int16:": true, "Int32:": true, "Int64:": true, "UInt:": true, "UInt8:": true, "UInt16:": true, "UInt32:": true, "UInt64:": true,
	"Double:": true, "Float:": true, "CGFloat:": true, "String:": true, "Bool:": true, "Decimal:": true, "Decimal:string": true,
	"URL:string": true, "UUID:uuidString": true, "Date:timeIntervalSince1970": true, "Set:": true, "Array:": true, "TimeInterval:": true,
	"String:describing": true,
}

// methods are those of values that can be computed.
var methods = map[string]bool{"lowercased": true, "uppercased": true, "trimmingCharacters": true, "hasPrefix": true, "hasSuffix": true, "contains": true, "rounded": true}

func (v *vocabulary) call(f *hand.Follower, e *code.Expr) *model.Expr {
	receiver, name := hand.Method(e)
	if receiver == nil {
		if strings.HasPrefix(name, ".") {
			return v.implicit(f, e, name[1:])
		}
		if b, ok := f.Bound("self"); ok && b.Part != nil && b.Part.Kind != jsonMap { // in an extension of a container
			if made := v.contained(f, e, &code.Expr{Op: code.Name, Text: "self"}, *b.Part, name); made != nil {
				return made
			}
		}
		return v.initialiser(f, e, name)
	}
	if p, ok := v.Part(f, receiver); ok && p.Kind != jsonMap {
		return v.contained(f, e, receiver, p, name)
	}
	if receiver.Op == code.Name {
		if _, local := f.Bound(receiver.Text); !local {
			if d := v.link.lookup(receiver.Text, v.decl); d != nil && d.kind == "enum" && hasCase(d, name) { // Type.case(value)
				return v.make(f, e, name, &model.Type{Name: receiver.Text})
			}
			if name == "date" && hand.Label(e, "from") != nil { // formatter.date(from: text)
				return v.formatted(f, e, receiver)
			}
			if name == "init" { // Type.init(…)
				return v.initialiser(f, e, receiver.Text)
			}
		}
	}
	base := f.Value(receiver)
	switch name {
	case "map", "flatMap", "compactMap", "mapValues", "compactMapValues":
		return v.transform(f, e, base, name)
	}
	if methods[name] {
		args := []*model.Expr{base}
		for _, a := range e.Args[1:] {
			if name != "trimmingCharacters" {
				args = append(args, f.Value(a))
			}
		}
		return hand.Function("."+name, args...)
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
func (v *vocabulary) implicit(f *hand.Follower, e *code.Expr, name string) *model.Expr {
	if name == "init" {
		return v.selfInit(f, e)
	}
	return v.make(f, e, name, nil)
}

// make follows the making of an enum's case with associated values.
func (v *vocabulary) make(f *hand.Follower, e *code.Expr, name string, typ *model.Type) *model.Expr {
	made := &model.Expr{Op: model.OpMake, Func: name}
	if typ != nil {
		made.Type = v.link.resolve(typ, v.decl)
	}
	for _, a := range e.Args[1:] {
		made.Args = append(made.Args, f.Value(a))
	}
	return made
}

// initialiser follows Type(…).
func (v *vocabulary) initialiser(f *hand.Follower, e *code.Expr, name string) *model.Expr {
	if name == "Self" || name == "self" {
		return v.selfInit(f, e)
	}
	d := v.link.lookup(name, v.decl)
	switch {
	case len(e.Args) == 2 && d == nil && conversions[name+":"+e.Labels[0]]:
		return hand.Function(name+":"+e.Labels[0], f.Value(e.Args[1]))
	case d == nil:
		return nil
	}
	if made := v.selfInit(f, e); made != nil {
		made.Type = v.link.resolve(&model.Type{Name: name}, v.decl)
		return made
	}
	if m := v.fromMap(f, e, d); m != nil {
		return m
	}
	return v.memberwise(f, e, d, name)
}

// selfInit follows init(rawValue: value).
func (v *vocabulary) selfInit(f *hand.Follower, e *code.Expr) *model.Expr {
	if raw := hand.Label(e, "rawValue"); raw != nil && len(e.Args) == 2 {
		return hand.Function("rawValue", f.Value(raw))
	}
	return nil
}

// memberwise follows the initialiser that the compiler gives a struct.
func (v *vocabulary) memberwise(f *hand.Follower, e *code.Expr, d *typeDecl, name string) *model.Expr {
	if d.kind != "struct" || len(d.inits) > 0 || len(d.params) > 0 {
		return nil
	}
	made := &model.Expr{Op: model.OpNew, Type: v.link.resolve(&model.Type{Name: name}, v.decl)}
	for i, a := range e.Args[1:] {
		made.Names, made.Args = append(made.Names, e.Labels[i]), append(made.Args, f.Value(a))
	}
	return made
}

// fromMap follows Type(map) where Type is read from a [String: Any].
func (v *vocabulary) fromMap(f *hand.Follower, e *code.Expr, d *typeDecl) *model.Expr {
	if len(e.Args) != 2 || v.link.mapReader(d) == nil {
		return nil
	}
	p, ok := v.Part(f, e.Args[1])
	if !ok || p.Kind != jsonMap {
		return nil
	}
	return p.At(&model.Expr{Op: model.OpDecode, Type: v.link.resolve(&model.Type{Name: d.full}, nil), Declared: d.name})
}

// formatted follows formatter.date(from: text) for a formatter with a pattern.
func (v *vocabulary) formatted(f *hand.Follower, e, receiver *code.Expr) *model.Expr {
	made := hand.Function("date", f.Value(hand.Label(e, "from")))
	made.Value = &model.Literal{Kind: model.StringLiteral, Text: receiver.Text}
	v.link.formatted = append(v.link.formatted, formattedDate{made, receiver.Text, v.file, v.file.Index(e.From)})
	return made
}

// formattedDate is a call of a formatter whose pattern is found once all files are read.
type formattedDate struct {
	expr *model.Expr
	name string
	file *scan.File
	tok  int
}

// transform follows list.map { … } and optional.flatMap { … } where the closure is a conversion, a property
// or the making of a model, also written as a function or a key path.
func (v *vocabulary) transform(f *hand.Follower, e *code.Expr, base *model.Expr, name string) *model.Expr {
	if len(e.Args) != 2 {
		return nil
	}
	elem := &model.Expr{Op: model.OpCall, Func: "$0"}
	var each *model.Expr
	switch arg := e.Args[1]; {
	case arg.Op == code.Lambda:
		each = f.Yielded(arg, "$0", hand.Binding{Value: elem}, func(name string, body *code.Expr) *model.Expr {
			return v.yielded(f, name, body, elem)
		})
	case arg.Op == code.KeyPath:
		each = hand.Function("property "+arg.Text, elem)
	case arg.Op == code.Member && arg.Text == "init" && len(arg.Args) == 1 && arg.Args[0].Op == code.Name: // Int.init, URL.init(string:)
		label := ""
		if len(arg.Labels) == 1 {
			label = arg.Labels[0]
		}
		typeName := arg.Args[0].Text
		if conversions[typeName+":"+label] {
			each = hand.Function(typeName+":"+label, elem)
		} else {
			each = v.readFromMap(typeName)
		}
	}
	if each == nil || hand.HasUnknown(each) {
		return nil
	}
	if each.Op == model.OpDecode { // elements that are read from maps themselves
		return eachMap(base, each, name)
	}
	if strings.HasSuffix(name, "Values") {
		return nil
	}
	return hand.Function(name, base, each)
}

// readFromMap is the reading of a type of a name from a map, nil where it is not read so.
func (v *vocabulary) readFromMap(name string) *model.Expr {
	d := v.link.lookup(name, v.decl)
	if d == nil || v.link.mapReader(d) == nil {
		return nil
	}
	return &model.Expr{Op: model.OpDecode, Type: v.link.resolve(&model.Type{Name: name}, v.decl), Declared: name}
}

// yielded is what the one expression of a closure makes of each element, which it has under a name.
func (v *vocabulary) yielded(f *hand.Follower, name string, body *code.Expr, elem *model.Expr) *model.Expr {
	isElem := func(e *code.Expr) bool { return e.Op == code.Name && e.Text == name }
	switch {
	case body.Op == code.Call && len(body.Args) == 2 && body.Args[0].Op == code.Name && isElem(body.Args[1]):
		if made := v.readFromMap(body.Args[0].Text); made != nil {
			return made
		}
	case body.Op == code.Member && len(body.Args) == 1 && isElem(body.Args[0]) && !properties[body.Text]:
		return hand.Function("property "+body.Text, elem)
	}
	return f.Value(body)
}

// eachMap makes a list or a map of maps one of models that are read from them, and one map such a model, by
// the method of a name.
func eachMap(base, each *model.Expr, name string) *model.Expr {
	switch base.Op {
	case model.OpElse:
		inner := eachMap(base.Args[0], each, name)
		if inner == nil {
			return nil
		}
		return &model.Expr{Op: model.OpElse, Args: []*model.Expr{inner, base.Args[1]}}
	case model.OpAtIf:
		inner := eachMap(base.Args[0], each, name)
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

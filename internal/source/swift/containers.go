package swift

import (
	"strings"

	"vetta/internal/code"
	"vetta/internal/code/hand"
	"vetta/internal/model"
	"vetta/internal/source/lower"
)

// Containers of a Decoder ("Encoding and Decoding Custom Types"), and dictionaries that JSONSerialization
// has made.

const (
	// jsonMap is the container of code that reads a [String: Any] by hand.
	jsonMap model.Container = "map"
	// members is a keyed container in a loop over its keys: only the member that the loop is at is told.
	members model.Container = "members"
)

// Part says whether an expression is a container, and which.
func (v *vocabulary) Part(f *hand.Follower, e *code.Expr) (hand.Part, bool) {
	none := hand.Part{}
	switch e.Op {
	case code.Name:
		if b, ok := f.Bound(e.Text); ok && b.Part != nil {
			return *b.Part, true
		}
		return none, false
	case code.As:
		if isJSONMap(f.Type(e.Type)) { // map["key"] as? [String: Any]
			if path, ok := v.mapPath(f, e.Args[0]); ok {
				return hand.Part{Kind: jsonMap, Path: path}, true
			}
		}
		return none, false
	}
	receiver, name := hand.Method(e)
	if receiver == nil {
		return none, false
	}
	if receiver.Op == code.Name && receiver.Text == v.decoder && v.decoder != "" {
		switch name {
		case "container":
			if keys, ok := v.keys(hand.Label(e, "keyedBy")); ok {
				return hand.Part{Kind: model.Keyed, Keys: keys}, true
			}
		case "singleValueContainer":
			return hand.Part{Kind: model.Single}, true
		case "unkeyedContainer":
			return hand.Part{Kind: model.Unkeyed}, true
		}
		return none, false
	}
	outer, ok := v.Part(f, receiver)
	if !ok {
		return none, false
	}
	inner := hand.Part{Path: append([]*model.Expr{}, outer.Path...)}
	switch name {
	case "nestedContainer":
		inner.Kind = model.Keyed
		if inner.Keys, ok = v.keys(hand.Label(e, "keyedBy")); !ok {
			return none, false
		}
	case "nestedUnkeyedContainer":
		inner.Kind = model.Unkeyed
	default:
		return none, false
	}
	key := hand.Label(e, "forKey")
	if level := v.level(f, receiver, outer, key); level != nil {
		inner.Path = append(inner.Path, level)
	} else if outer.Kind != model.Single && !(outer.Kind == members && isLoopKey(f, key)) {
		return none, false
	}
	return inner, true
}

// isLoopKey says whether an expression is the key that a loop over all keys is at.
func isLoopKey(f *hand.Follower, e *code.Expr) bool {
	if e == nil || e.Op != code.Name {
		return false
	}
	b, ok := f.Bound(e.Text)
	return ok && b.IsKey
}

// Holds is that the value is of the kind that a container of it is asked for as.
func (v *vocabulary) Holds(p hand.Part) *model.Expr {
	if p.Kind == jsonMap {
		return nil
	}
	return &model.Expr{Op: model.OpContainer, Container: p.Kind}
}

// level is the step from a container to what is read from it: a member by its key, or the next element. It
// is nil where what is read is the current value itself, as in a loop over elements, or cannot be told.
func (v *vocabulary) level(f *hand.Follower, receiver *code.Expr, p hand.Part, key *code.Expr) *model.Expr {
	asked := p.Kind
	if p.Asked {
		asked = ""
	}
	switch p.Kind {
	case model.Keyed:
		if name, ok := keyOf(f, key, p); ok {
			return &model.Expr{Op: model.OpAt, Key: name, Container: asked}
		}
	case model.Unkeyed:
		if receiver.Op == code.Name {
			if b, ok := f.Bound(receiver.Text); ok && b.Part != nil {
				own := *b.Part
				own.Next++
				f.Bind(receiver.Text, hand.Binding{Part: &own})
			}
			return &model.Expr{Op: model.OpElem, Index: p.Next, Container: asked}
		}
	}
	return nil
}

// keys reads the names of a key type given as Keys.self. They are nil for a type that takes any name.
func (v *vocabulary) keys(e *code.Expr) (map[string]string, bool) {
	if e == nil || e.Op != code.TypeOf {
		return nil, false
	}
	d := v.link.lookup(e.Text, v.decl)
	switch {
	case d == nil:
		return nil, false
	case d.kind == "enum":
		return codingKeys(d), true
	}
	return nil, d.kind == "struct" && v.takesAnyName(d)
}

// takesAnyName says whether a key type keeps the name that it is made of, and refuses none: a container of
// such keys has them all.
func (v *vocabulary) takesAnyName(d *typeDecl) bool {
	kept := false
	for _, prop := range d.props {
		kept = kept || prop.name == "stringValue" && !prop.computed && !prop.static
	}
	if !kept {
		return false
	}
	for _, part := range v.link.parts(d) {
		for _, fn := range part.inits {
			if fn.label != "stringValue" || fn.body[1] == 0 {
				continue
			}
			for _, s := range lower.Body(part.file, v.link.language(part), fn.body[0], fn.body[1]) {
				switch {
				case s.Torn || s.Op != code.Assign || s.Kind == code.Compound || s.Name != "stringValue" && s.Name != "intValue":
					return false
				case s.Name == "stringValue" && (s.Value.Op != code.Name || s.Value.Text != fn.param):
					return false
				}
			}
		}
	}
	return true
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

// keyOf is the name on the wire that a key expression stands for: .case, Keys.case,
// Keys(stringValue: "name")!.
func keyOf(f *hand.Follower, e *code.Expr, p hand.Part) (string, bool) {
	switch {
	case e == nil:
		return "", false
	case e.Op == code.Name: // that a helper was given
		if b, ok := f.Bound(e.Text); ok && b.Value != nil && b.Value.Op == model.OpConst && b.Value.Value.Kind == model.CaseLiteral {
			key, ok := p.Keys[b.Value.Value.Text]
			return key, ok
		}
	case e.Op == code.Member:
		key, ok := p.Keys[e.Text]
		return key, ok
	case e.Op == code.Call && len(e.Args) == 2 && isText(e.Args[1]):
		return e.Args[1].Text, true
	}
	return "", false
}

// isText says whether an expression is a string with nothing put into it.
func isText(e *code.Expr) bool { return e.Op == code.Text && len(e.Args) == 0 }

// text is the string that an expression is for certain: a literal, or what a helper was given.
func text(f *hand.Follower, e *code.Expr) (string, bool) {
	if isText(e) {
		return e.Text, true
	}
	if e.Op == code.Name {
		if b, ok := f.Bound(e.Text); ok && b.Value != nil && b.Value.Op == model.OpConst && b.Value.Value.Kind == model.StringLiteral {
			return b.Value.Value.Text, true
		}
	}
	return "", false
}

// isJSONMap says whether a type is [String: Any].
func isJSONMap(t *model.Type) bool {
	if t == nil {
		return false
	}
	t = t.Unwrapped()
	return t.Kind == model.Map && t.Args[0].Name == "String" && (t.Args[1].Unwrapped().Name == "Any" || strings.HasPrefix(t.Args[1].Name, "any "))
}

// mapPath is how map["a"], or map["a"]?["b"], is reached, where map is [String: Any].
func (v *vocabulary) mapPath(f *hand.Follower, e *code.Expr) ([]*model.Expr, bool) {
	if e.Op != code.Index || len(e.Args) != 2 {
		return nil, false
	}
	key, ok := text(f, e.Args[1])
	if !ok {
		return nil, false
	}
	p, ok := v.Part(f, e.Args[0])
	if !ok || p.Kind != jsonMap {
		return nil, false
	}
	return p.Below(&model.Expr{Op: model.OpAtIf, Key: key, Lossy: true}), true
}

// Loop is what while !container.isAtEnd and for key in container.allKeys go over.
func (v *vocabulary) Loop(f *hand.Follower, s *code.Stmt) (hand.Loop, bool) {
	named := func(e *code.Expr, member string, kind model.Container) (hand.Loop, bool) {
		if e == nil || e.Op != code.Member || e.Text != member || len(e.Args) != 1 || e.Args[0].Op != code.Name {
			return hand.Loop{}, false
		}
		b, ok := f.Bound(e.Args[0].Text)
		if !ok || b.Part == nil || b.Part.Kind != kind {
			return hand.Loop{}, false
		}
		return hand.Loop{Part: *b.Part, Of: e.Args[0].Text, Each: hand.Part{Kind: model.Single}}, true
	}
	switch {
	case s.Kind == code.While && s.Heads == 1 && s.Body[0].Value != nil && s.Body[0].Value.Op == code.Unary && s.Body[0].Value.Text == "!":
		return named(s.Body[0].Value.Args[0], "isAtEnd", model.Unkeyed)
	case s.Kind == code.For && s.Heads == 2 && s.Body[0].Value != nil && s.Body[0].Value.Op == code.Name:
		over, ok := named(s.Body[1].Value, "allKeys", model.Keyed)
		if over.Part.Keys != nil { // of those that the key type has no name for there is no key
			return hand.Loop{}, false
		}
		over.Key, over.Each = s.Body[0].Value.Text, hand.Part{Kind: members}
		return over, ok
	}
	return hand.Loop{}, false
}

// typeNamed is the type that an argument says, as it is written; nil where it says none.
func typeNamed(f *hand.Follower, e *code.Expr) (t *model.Type, written string) {
	switch e.Op {
	case code.TypeOf:
		if t = f.Type(e.Type); t == e.Type {
			return t, strings.TrimSpace(e.Text)
		}
	case code.Name: // that a helper was given
		if b, ok := f.Bound(e.Text); ok {
			t = b.Type
		}
	}
	if t == nil {
		return nil, ""
	}
	return t, typeText(t)
}

// contained follows a call of a decoding container's method.
func (v *vocabulary) contained(f *hand.Follower, e, receiver *code.Expr, p hand.Part, name string) *model.Expr {
	if name == "contains" && p.Kind == model.Keyed && len(e.Args) == 2 {
		if key, ok := keyOf(f, e.Args[1], p); ok {
			return p.At(&model.Expr{Op: model.OpHas, Key: key})
		}
		return nil
	}
	if name == "decodeNil" {
		isNull := &model.Expr{Op: model.OpIsNull}
		if p.Kind == model.Single || p.Kind == members && isLoopKey(f, hand.Label(e, "forKey")) {
			return p.At(isNull)
		}
		if level := v.level(f, receiver, p, hand.Label(e, "forKey")); level != nil {
			return hand.Wrap(p.Below(level), isNull)
		}
		return nil
	}
	if name != "decode" && name != "decodeIfPresent" || len(e.Args) < 2 {
		return nil
	}
	typ, written := typeNamed(f, e.Args[1])
	if typ == nil {
		return nil
	}
	if _, replaced := v.link.replaced[typ.Unwrapped().Name]; replaced && p.Kind == model.Keyed { // by a method of the app's own
		return nil
	}
	decode := &model.Expr{Op: model.OpDecode, Type: typ, Declared: written, Pos: v.file.At(e.From)}
	if p.Kind == model.Single {
		return p.At(decode)
	}
	key := hand.Label(e, "forKey")
	if p.Kind == members {
		if !isLoopKey(f, key) {
			return nil
		}
		if name == "decodeIfPresent" {
			decode.Type = model.OptionalOf(typ)
		}
		return p.At(decode)
	}
	level := v.level(f, receiver, p, key)
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
	return hand.Wrap(p.Below(level), decode)
}

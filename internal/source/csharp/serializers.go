package csharp

import (
	"slices"

	"vetta/internal/code"
	"vetta/internal/model"
)

// serializers are the classes of the platform whose instances are made for a type, with their libraries.
var serializers = map[string]string{"XmlSerializer": xmlSerializer, "DataContractSerializer": dataContract, "DataContractJsonSerializer": dataContractJS}

// makerName is what the making of an instance is found by: of a serializer its own name, however it is qualified.
func makerName(t *model.Type) string {
	if name := model.SimpleName(t.Name); serializers[name] != "" {
		return name
	}
	return t.Name
}

// serializerFor is a value whose new(…) makes the serializer that its name is declared with.
func serializerFor(v *code.Expr, t *model.Type) *code.Expr {
	if t == nil || serializers[model.SimpleName(t.Name)] == "" {
		return v
	}
	made := targeted(v, t)
	if call := made; made != v && call.Op == code.Call {
		name := *call.Args[0]
		name.Text = makerName(t)
		call.Args = append([]*code.Expr{&name}, call.Args[1:]...)
	}
	return made
}

// serializer is the call of a library that the making of one of its serializers stands for, nil for anything else that is
// made: what it is made for is what it decodes, wherever that is asked for.
func (a *asking) serializer(e *code.Expr, c *model.Call, fn *code.Func, s scope) *model.Call {
	library := serializers[model.SimpleName(e.Type.Name)]
	if library == "" || c.Type == nil || a.p.findAny(e.Type.Name, s) != nil {
		return nil
	}
	c.Settings.Library = library
	e.Types = []*model.Type{c.Type}
	c.Declared = c.Type.Written()
	at := where{fn: fn, s: s}
	for i, arg := range e.Args[1:] {
		if arg.Op != code.TypeOf {
			a.serializerArgument(c.Settings, i, arg, at)
		}
	}
	if asked := a.readsPart(e, fn); asked != "" {
		c.Settings.Why = asked
	}
	if call := a.deserialized(e, fn); call != nil {
		if drops, classes, instead := dropped(fn.Body, call); drops {
			c.Swallowed, c.Catches, c.Instead = true, classes, instead
		}
	}
	return c
}

// serializerArgument takes in what a serializer is given beside its type.
func (a *asking) serializerArgument(s *model.Settings, i int, arg *code.Expr, at where) {
	put := func(option string, v *code.Expr) {
		if texts := a.p.argumentTexts(v, at.s); len(texts) == 1 {
			s.Options[option] = model.Option{Value: texts[0], Pos: v.Pos}
		}
	}
	made, section := arg, []*code.Expr(nil)
	if arg.Op == code.Name || arg.Op == code.Member {
		if v := a.valueOf(arg, at); v != nil {
			made = v
		}
	}
	if made.Op == code.Cascade {
		made, section = made.Args[0], made.Args[1:]
	}
	name := ""
	if made.Op == code.Call && made.Type != nil {
		name = model.SimpleName(made.Type.Name)
	}
	switch {
	case name == "XmlRootAttribute" || name == "XmlRoot":
		if len(made.Args) > 1 {
			put("root", made.Args[1])
		}
		for _, set := range section {
			if set.Op != code.Set || set.Args[0].Op != code.Member {
				continue
			}
			switch set.Args[0].Text {
			case "ElementName":
				put("root", set.Args[1])
			case "Namespace":
				put("rootNamespace", set.Args[1])
			}
		}
	case name == "DataContractJsonSerializerSettings":
		for _, set := range section {
			if set.Op != code.Set || set.Args[0].Op != code.Member {
				continue
			}
			switch option := set.Args[0].Text; option {
			case "UseSimpleDictionaryFormat":
				put(option, set.Args[1])
			case "EmitTypeInformation", "SerializeReadOnlyTypes", "MaxItemsInObjectGraph", "IgnoreExtensionDataObject":
			default:
				unfollowed(s, option, set.Pos)
			}
		}
	case name == "" && s.Library == dataContract && i == 1:
		put("root", arg)
	case name == "" && s.Library == dataContract && i == 2:
		put("rootNamespace", arg)
	case name == "" && s.Library == xmlSerializer && i == 1 && len(a.p.argumentTexts(arg, at.s)) == 1 && (arg.Op == code.Text || arg.Op == code.Member || arg.Op == code.Name):
		put("namespace", arg)
	default:
		unfollowed(s, "what the serializer is given beside its type", arg.Pos)
	}
}

// deserialized is the call by which the serializer that an expression makes reads, in the same function; nil for none.
func (a *asking) deserialized(made *code.Expr, fn *code.Func) (call *code.Expr) {
	name := ""
	for i := range fn.Body {
		name = heldBy(fn.Body[i:], made, name)
	}
	code.WalkBody(fn.Body, func(e *code.Expr) {
		if e.Op != code.Call || e.Args[0].Op != code.Member || len(e.Args[0].Args) != 1 || !slices.Contains([]string{"Deserialize", "ReadObject"}, e.Args[0].Text) {
			return
		}
		if on := e.Args[0].Args[0]; on == made || on.Op == code.Name && on.Text == name && name != "" {
			call = e
		}
	})
	return call
}

// heldBy is the local name that the first of some statements gives what an expression makes, else the one that is known.
func heldBy(body []code.Stmt, made *code.Expr, known string) string {
	st := &body[0]
	if st.Op == code.Let && st.Value == made {
		return st.Name
	}
	for i := range st.Body {
		known = heldBy(st.Body[i:], made, known)
	}
	return known
}

// readsPart is why it is not told what a serializer reads: a part of a document, or through a reader of the app's own; ""
// where it reads a response as a whole.
func (a *asking) readsPart(made *code.Expr, fn *code.Func) string {
	call := a.deserialized(made, fn)
	if call == nil || len(call.Args) < 2 {
		return ""
	}
	from := call.Args[1]
	if from.Op == code.Name {
		if v := code.Given(from, fn); v != nil {
			from = v
		}
	}
	if from.Op != code.Call {
		return ""
	}
	if from.Args[0].Op == code.Member {
		switch from.Args[0].Text {
		case "CreateReader", "CreateNavigator", "ReadSubtree":
			if isWhole(from.Args[0].Args, fn) {
				return ""
			}
			return "it reads a part of a document, which is not followed"
		}
	}
	if from.Type != nil && (a.p.findAny(from.Type.Name, a.p.scopeOf(fn)) != nil || model.SimpleName(from.Type.Name) == "XmlNodeReader") {
		return "it reads through " + model.SimpleName(from.Type.Name) + ", which is not followed"
	}
	return ""
}

// isWhole says whether a node is a document as it was parsed, or its root.
func isWhole(on []*code.Expr, fn *code.Func) bool {
	if len(on) != 1 {
		return false
	}
	e := on[0]
	for deep := 0; deep < 4; deep++ {
		switch {
		case e.Op == code.Name:
			v := code.Given(e, fn)
			if v == nil || v == e {
				return false
			}
			e = v
		case e.Op == code.Member && len(e.Args) == 1 && (e.Text == "Root" || e.Text == "DocumentElement"):
			e = e.Args[0]
		case e.Op == code.Call && e.Args[0].Op == code.Member:
			switch chain(e.Args[0]) {
			case "XDocument.Parse", "XDocument.Load", "XElement.Parse", "XElement.Load", "XDocument.LoadAsync":
				return true
			}
			return false
		default:
			return false
		}
	}
	return false
}

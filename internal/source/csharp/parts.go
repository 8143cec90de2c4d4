package csharp

import (
	"strings"

	"vetta/internal/code"
	"vetta/internal/model"
	"vetta/internal/source/lower"
)

// elements are the types of what stands in a document; a JsonDocument is one as a whole.
var elements = words("JsonElement JsonNode JsonObject JsonArray JsonValue JToken JObject JArray JValue")

// part notes what of a document a call decodes that is given the text, the reader or the element of it.
func (a *asking) part(c *model.Call, call *code.Expr, fn *code.Func, s scope) {
	for _, arg := range call.Args[1:] {
		if a.isTypeValue(arg, fn) {
			continue
		}
		if p := code.PartOf(arg, call, fn, inward); p.Told || a.isElement(arg, fn, s) {
			lower.Takes(c, p)
		} else if arg.Op == code.Name {
			c.Part, c.Picked = code.PickedBy(arg.Text, call, fn)
		}
		return
	}
}

// isElement says whether an expression is an element or a token, or the text of one.
func (a *asking) isElement(e *code.Expr, fn *code.Func, s scope) bool {
	if e.Op == code.Call && e.Args[0].Op == code.Member && len(e.Args[0].Args) > 0 {
		switch e.Args[0].Text {
		case "GetRawText", "ToJsonString", "CreateReader":
			return true
		case "ToString":
			return a.isElement(e.Args[0].Args[0], fn, s)
		}
	}
	t := a.typeOf(e, fn, s)
	return t != nil && elements[model.SimpleName(t.Name)]
}

// through are the methods whose value is what they are called on, in another guise; makers those that make a document of a
// text.
var (
	through = words("EnumerateArray AsArray AsObject Children Clone GetRawText ToString ToJsonString CreateReader DeepClone Cast OfType ToList ToArray Value Values Take Skip Reverse OrderBy")
	makers  = words("Parse ParseAsync Load LoadAsync ParseValue")
)

// inward is a step into a document: root.GetProperty("data"), row.AsObject().
func inward(e *code.Expr) (of *code.Expr, keys []string, whole bool) {
	switch e.Op {
	case code.Unary:
		if e.Text == "await" || e.Text == "!" {
			return e.Args[0], nil, false
		}
	case code.Member:
		if (e.Text == "RootElement" || e.Text == "Root") && len(e.Args) > 0 {
			return e.Args[0], nil, false
		}
	case code.Call:
		callee := e.Args[0]
		if callee.Op != code.Member || len(callee.Args) == 0 {
			return nil, nil, false
		}
		name := callee.Text
		isKey := len(e.Args) == 2 && e.Args[1].Op == code.Text
		switch {
		case name == "GetProperty" && isKey, name == "Value" && isKey, name == "Property" && isKey:
			return callee.Args[0], []string{e.Args[1].Text}, false
		case name == "SelectToken" && isKey && !strings.ContainsAny(e.Args[1].Text, "[*?"):
			return callee.Args[0], strings.Split(strings.TrimPrefix(e.Args[1].Text, "$."), "."), false
		case makers[name]:
			return nil, nil, true
		case through[name]:
			return callee.Args[0], nil, false
		}
	}
	return nil, nil, false
}

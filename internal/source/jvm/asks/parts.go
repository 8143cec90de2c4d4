package asks

import (
	"slices"
	"strings"

	"vetta/internal/code"
	"vetta/internal/model"
	"vetta/internal/source/jvm"
	"vetta/internal/source/lower"
)

// elements are the types of what stands in a document.
var elements = jvm.Words("JsonElement JsonObject JsonArray JsonPrimitive JsonNode ObjectNode ArrayNode JSONObject JSONArray")

// treeWords stand in files whose code takes a document apart before a library decodes what is in it.
var treeWords = []string{"JsonElement", "JsonNode", "JsonObject", "jsonObject", "jsonArray", "readTree", "parseToJsonElement", "JsonParser", "JSONObject"}

// pickWords stand where code does one thing or another by what a value is.
var pickWords = []string{"switch", "when", "equals(", "=="}

// ofElements are the methods that decode an element, never a text.
var ofElements = jvm.Words("treeToValue decodeFromJsonElement fromJsonTree")

// parts notes of calls what of a document they decode, where code takes that apart first.
func parts(p *jvm.Project, calls []*model.Call) {
	found := lower.NewDecoded(calls)
	for _, f := range p.Files {
		has := func(w string) bool { return strings.Contains(f.Src, w) }
		picks := found.Several(f.Name) && slices.ContainsFunc(pickWords, has)
		if !picks && !(found.Any(f.Name) && slices.ContainsFunc(treeWords, has)) {
			continue
		}
		program := lower.NewProgram(f.Language)
		readInto(p, f, f.Again(f.Name, f.Src), program)
		for name := range jvm.Decoding {
			for e, fn := range program.CallsOf(name) {
				if c := found.At[e.Pos]; c != nil {
					part(program, c, e, fn)
				}
			}
		}
	}
}

// part notes what of a document a call decodes.
func part(program *code.Program, c *model.Call, e *code.Expr, fn *code.Func) {
	for _, arg := range e.Args[1:] {
		p := code.PartOf(arg, e, fn, inward)
		if p.Told || isElement(program, arg, e, fn) {
			lower.Takes(c, p)
			return
		}
		if arg.Op == code.Name {
			if c.Part, c.Picked = code.PickedBy(arg.Text, e, fn); c.Picked {
				return
			}
		}
	}
}

// isElement says whether an argument of a call is an element, or the text of one.
func isElement(program *code.Program, arg, call *code.Expr, fn *code.Func) bool {
	if arg.Op == code.Call && arg.Args[0].Op == code.Member && len(arg.Args[0].Args) > 0 && (arg.Args[0].Text == "toString" || arg.Args[0].Text == "traverse") {
		return isElement(program, arg.Args[0].Args[0], call, fn)
	}
	if t := program.TypeOf(arg, fn); t != nil {
		return elements[model.SimpleName(t.Unwrapped().Name)]
	}
	return arg.Op == code.Name && ofElements[call.Args[0].Text]
}

// through are the methods and properties whose value is what they are called on, in another guise; trees those that make an
// element of a text.
var (
	through = jvm.Words("jsonObject jsonArray asJsonObject asJsonArray getAsJsonObject getAsJsonArray toString traverse deepCopy elements asSequence toList stream orEmpty iterator")
	trees   = jvm.Words("parse parseString parseReader readTree parseToJsonElement JSONObject JSONArray toJsonTree valueToTree")
)

// reaches are the methods of elements that answer a member, or an element by its number.
var reaches = jvm.Words("get getValue path required getAsJsonObject getAsJsonArray getJSONObject getJSONArray optJSONObject optJSONArray")

// inward is a step into a document: node.get("data"), row.getAsJsonObject().
func inward(e *code.Expr) (of *code.Expr, keys []string, whole bool) {
	switch e.Op {
	case code.Member:
		if through[e.Text] && len(e.Args) > 0 {
			return e.Args[0], nil, false
		}
	case code.Call:
		callee := e.Args[0]
		if trees[callee.Text] {
			return nil, nil, true
		}
		if callee.Op != code.Member || len(callee.Args) == 0 {
			return nil, nil, false
		}
		of, one := callee.Args[0], len(e.Args) == 2
		isText := one && e.Args[1].Op == code.Text
		switch {
		case reaches[callee.Text] && isText:
			return of, []string{e.Args[1].Text}, false
		case reaches[callee.Text] && one:
			return of, []string{code.Element}, false
		case callee.Text == "at" && isText && strings.HasPrefix(e.Args[1].Text, "/"):
			return of, strings.Split(e.Args[1].Text[1:], "/"), false
		case through[callee.Text]:
			return of, nil, false
		}
	}
	return nil, nil, false
}

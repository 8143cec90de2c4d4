package systemtextjson

import (
	"slices"
	"strings"

	"vetta/internal/decoder"
	"vetta/internal/decoder/clr"
	"vetta/internal/model"
)

// A context that the compiler fills (JsonSerializerContext) knows the types that its attributes name and all that they
// hold. Reflection reads the others where the options say so, and none does where they do not.

// generated says whether a context knows a class.
func (c *compiler) generated(m *model.Model) bool {
	if c.settings.Option("generated") == "" {
		return false
	}
	known := c.settings.Option("context")
	return known == "" || slices.Contains(strings.Split(known, ","), m.Name)
}

// unregistered is the node for a type that no context knows, where nothing else reads it; nil for another.
func (c *compiler) unregistered(t *model.Type) *decoder.Node {
	u := t.Unwrapped()
	if u.Model == nil || c.settings.Option("context") == "" || c.settings.Option("reflection") == "true" || c.settings.Option("generated") == "" || c.generated(u.Model) {
		return nil
	}
	return &decoder.Node{Op: decoder.OpFail, Type: t.Written(), Model: u.Model, Error: &decoder.Error{
		Kind: "NotSupportedException", Reason: decoder.ReasonType, Where: decoder.AtRoot, Advice: "add [JsonSerializable(typeof(" + u.Model.Name + "))] to the context",
		Message: "NotSupportedException: JsonTypeInfo metadata for type '" + clr.Name(u) + "' was not provided by TypeInfoResolver.",
	}}
}

// unseen says why the generator cannot reach a member that is marked [JsonInclude]: whatever is sent where it is a field.
func (c *compiler) unseen(owner *model.Model, x *member) (err *decoder.Error, always bool) {
	if !c.generated(owner) || find(x.field.Marks, "JsonInclude") == nil {
		return nil, false
	}
	p := x.field.Property
	hidden := func(a model.Access) bool { return a == model.Private || a == model.Protected }
	if p == nil && !hidden(x.field.Access) || p != nil && !hidden(p.Set) {
		return nil, false
	}
	return &decoder.Error{
		Kind: "InvalidOperationException", Reason: decoder.ReasonType, Advice: "let it be internal or public, or read the class by reflection",
		Message: "InvalidOperationException: The member '" + model.SimpleName(owner.Name) + "." + x.field.Name + "' has been annotated with the JsonIncludeAttribute but is not visible to the source generator.",
	}, p == nil
}

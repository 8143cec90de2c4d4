package xmlserializer

import (
	"fmt"
	"strings"

	"vetta/internal/decoder/clr"
	"vetta/internal/markup"
	"vetta/internal/model"
)

// primitives are the names that XML Schema, and beyond it the library, has for types of the platform.
var primitives = map[string]string{
	"string": "string", "bool": "boolean", "sbyte": "byte", "byte": "unsignedByte", "short": "short", "ushort": "unsignedShort", "int": "int", "uint": "unsignedInt", "long": "long", "ulong": "unsignedLong",
	"float": "float", "double": "double", "decimal": "decimal", "DateTime": "dateTime", "Guid": "guid", "char": "char", "TimeSpan": "TimeSpan", "DateTimeOffset": "dateTimeOffset", "object": "anyType",
	"DateOnly": "dateOnly", "TimeOnly": "timeOnly", "XmlQualifiedName": "QName",
}

// platformNames are the names of such types to the runtime, as names of generic classes are put together of.
var platformNames = map[string]string{
	"string": "String", "bool": "Boolean", "sbyte": "SByte", "byte": "Byte", "short": "Int16", "ushort": "UInt16", "int": "Int32", "uint": "UInt32", "long": "Int64", "ulong": "UInt64",
	"float": "Single", "double": "Double", "decimal": "Decimal", "char": "Char", "object": "Object",
}

// runtimeName is a type's name as TypeScope.TypeName makes it: PageOfSailing, ArrayOfInt32.
func runtimeName(t *model.Type) string {
	u := t
	if t.Kind == model.Optional {
		u = t.Args[0]
		if clr.IsValue(u) {
			return "NullableOf" + runtimeName(u)
		}
	}
	joined := func(name string, args []*model.Type) string {
		out := name + "Of"
		for _, a := range args {
			out += runtimeName(a)
		}
		return out
	}
	switch {
	case u.Kind == model.List && strings.HasPrefix(u.Name, "["):
		return "ArrayOf" + runtimeName(u.Args[0])
	case u.Kind == model.List || u.Kind == model.Unique || u.Kind == model.Map:
		return joined(u.Class, u.Args)
	case u.Model != nil && len(u.Args) > 0:
		return joined(model.SimpleName(u.Model.Name), u.Args)
	case u.Model != nil:
		return model.SimpleName(u.Model.Name)
	case u.Kind == model.Tuple:
		return joined("ValueTuple", u.Args)
	}
	if name := platformNames[u.Name]; name != "" {
		return name
	}
	return u.Name
}

// typeName is the XML type name of a type: what items of lists are named by, and roots without a name of their own.
func (c *compiler) typeName(t *model.Type) string {
	u := t.Unwrapped()
	switch {
	case isList(u):
		if clr.IsBytes(u) {
			return "base64Binary"
		}
		item := c.typeName(u.Args[0])
		if item == "" {
			return "ArrayOf"
		}
		return "ArrayOf" + strings.ToUpper(item[:1]) + item[1:]
	case u.Model != nil && u.Model.Collection != nil:
		if mark := c.onType(u.Model, "XmlType"); mark.Text("value", mark.Text("TypeName", "")) != "" {
			return encoded(mark.Text("value", mark.Text("TypeName", "")))
		}
		return c.typeName(u.Model.Collection.Bind(u.Env()))
	case u.Model != nil:
		if mark := c.onType(u.Model, "XmlType"); mark != nil {
			if name := mark.Text("value", mark.Text("TypeName", "")); name != "" {
				return encoded(name)
			}
		}
		return runtimeName(u)
	}
	if name := primitives[u.Name]; name != "" && u.Kind == model.Named {
		return name
	}
	return runtimeName(u)
}

// encoded is a name with what no XML name may hold written by its number: a_x0020_b (XmlConvert.EncodeLocalName).
func encoded(name string) string {
	var b strings.Builder
	for i, r := range name {
		ok := r == '_' || r >= 'a' && r <= 'z' || r >= 'A' && r <= 'Z' || r >= 0x80 || i > 0 && (r >= '0' && r <= '9' || r == '-' || r == '.')
		if ok {
			b.WriteRune(r)
		} else {
			fmt.Fprintf(&b, "_x%04X_", r)
		}
	}
	return b.String()
}

// isList says whether a type holds others one by one: an array, a list, a set; not one of bytes.
func isList(t *model.Type) bool {
	return (t.Kind == model.List || t.Kind == model.Unique) && !clr.IsBytes(t)
}

// onType is an attribute of a class, as overrides have it where they tell.
func (c *compiler) onType(m *model.Model, name string) *model.Annotation {
	if marks, told := c.options.Overrides[Overridden{Class: m}]; told {
		return find(marks, name)
	}
	return find(m.Marks, name)
}

// marksOf are the attributes of a member.
func (c *compiler) marksOf(owner *model.Model, f *model.Field) model.Annotated {
	if marks, told := c.options.Overrides[Overridden{Class: owner, Member: f.Name}]; told {
		return marks
	}
	return f.Marks
}

// elementName is what an attribute names an element by, "" where it leaves that open.
func elementName(mark *model.Annotation, arg string) string {
	if name := mark.Text(arg, ""); name != "" {
		return name
	}
	if a := mark.Arg("value"); len(a.Types) == 0 {
		return mark.Text("value", "")
	}
	return ""
}

// elementType is the type that an attribute names, nil for none.
func elementType(mark *model.Annotation) *model.Type {
	for _, name := range []string{"Type", "value2", "value"} {
		if a := mark.Arg(name); len(a.Types) > 0 {
			return a.Types[0]
		}
	}
	return nil
}

// given is the text of an argument, and whether it is there.
func given(mark *model.Annotation, arg string) (string, bool) {
	a := mark.Arg(arg)
	if len(a.Texts) == 0 {
		return "", false
	}
	return a.Texts[0], a.Texts[0] != "null"
}

func nameIn(space, local string) markup.Name { return markup.Name{Space: space, Local: local} }

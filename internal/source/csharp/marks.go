package csharp

import (
	"strings"

	"vetta/internal/code"
	"vetta/internal/model"
)

// attributeSpaces are the namespaces of attributes whose short names more than one library has, or that decide what a
// library reads.
var attributeSpaces = map[string][]string{
	"JsonPropertyName":            {stj},
	"JsonInclude":                 {stj},
	"JsonIgnore":                  {stj, newtonsoft},
	"JsonRequired":                {stj, newtonsoft},
	"JsonConstructor":             {stj, newtonsoft},
	"JsonConverter":               {stj, newtonsoft},
	"JsonExtensionData":           {stj, newtonsoft},
	"JsonPropertyOrder":           {stj},
	"JsonNumberHandling":          {stj},
	"JsonUnmappedMemberHandling":  {stj},
	"JsonObjectCreationHandling":  {stj},
	"JsonPolymorphic":             {stj},
	"JsonDerivedType":             {stj},
	"JsonStringEnumMemberName":    {stj},
	"JsonSerializable":            {stj},
	"JsonSourceGenerationOptions": {stj},
	"JsonProperty":                {newtonsoft},
	"JsonObject":                  {newtonsoft},
	"JsonArray":                   {newtonsoft},
	"JsonDictionary":              {newtonsoft},
	"DataContract":                {serialization},
	"DataMember":                  {serialization},
	"EnumMember":                  {serialization},
	"IgnoreDataMember":            {serialization},
	"CollectionDataContract":      {serialization},
	"OnDeserialized":              {serialization},
	"OnDeserializing":             {serialization},
	"OnError":                     {serialization},
	"XmlRoot":                     {xmlSpace},
	"XmlElement":                  {xmlSpace},
	"XmlAttribute":                {xmlSpace},
	"XmlArray":                    {xmlSpace},
	"XmlArrayItem":                {xmlSpace},
	"XmlText":                     {xmlSpace},
	"XmlIgnore":                   {xmlSpace},
	"XmlType":                     {xmlSpace},
	"XmlEnum":                     {xmlSpace},
	"XmlInclude":                  {xmlSpace},
	"XmlAnyElement":               {xmlSpace},
	"XmlAnyAttribute":             {xmlSpace},
	"XmlChoiceIdentifier":         {xmlSpace},
	"XmlNamespaceDeclarations":    {xmlSpace},
	"KnownType":                   {serialization},
}

// The namespaces of the libraries' attributes.
const (
	stj           = "System.Text.Json.Serialization"
	newtonsoft    = "Newtonsoft.Json"
	serialization = "System.Runtime.Serialization"
	xmlSpace      = "System.Xml.Serialization"
)

// marks are attributes as libraries see them: by the full names of their classes, with constants as what they are.
func (p *project) marks(all []*code.Expr, s scope) model.Annotated {
	var out model.Annotated
	for _, e := range all {
		a := model.Annotation{Pos: e.Pos, Target: e.Text}
		name := e.Args[0].Text
		if alias, ok := p.aliasOf(name, s.file); ok {
			name = alias.Name
		}
		if d := p.attribute(name, s); d != nil {
			a.Name, a.Whole = strings.TrimSuffix(model.SimpleName(d.name), "Attribute"), d.full()
			a.Args = p.arguments(e, s)
			a.Args = append(a.Args, p.extended(d)...)
			out = append(out, a)
			continue
		}
		a.Name = model.SimpleName(name)
		switch a.Name {
		case "Attribute", "XmlAttribute", "XmlAnyAttribute": // which end so without a suffix
		default:
			a.Name = strings.TrimSuffix(a.Name, "Attribute")
		}
		a.Whole = p.attributeSpace(name, a.Name, s.file) + a.Name
		a.Args = p.arguments(e, s)
		for i := range a.Args {
			if firstParameters[a.Args[i].Name] {
				a.Args[i].Name = "value"
			}
		}
		out = append(out, a)
	}
	return out
}

func (p *project) aliasOf(name, file string) (*model.Type, bool) {
	if a, ok := p.alias[name]; ok && a.Type != nil {
		return a.Type, true
	}
	if u := p.units[file]; u != nil {
		if a, ok := u.Aliases[name]; ok && a.Type != nil {
			return a.Type, true
		}
		first, rest, dotted := strings.Cut(name, ".")
		if a, ok := u.Aliases[first]; ok && a.Type != nil && dotted {
			return &model.Type{Name: a.Type.Name + "." + rest}, true
		}
	}
	return nil, false
}

// attribute is the class of an attribute that the source declares.
func (p *project) attribute(name string, s scope) *declared {
	for _, n := range []string{name + "Attribute", name} {
		if d := p.find(n, 0, s.file, s.space, s.in); d != nil {
			return d
		}
	}
	return nil
}

// extended tells of an attribute of the app's what it is a kind of: the arguments that it gives the one it extends.
func (p *project) extended(d *declared) (out []model.Argument) {
	for _, part := range d.parts {
		for _, t := range part.Supers {
			out = append(out, model.Argument{Name: "extends", Texts: []string{strings.TrimSuffix(model.SimpleName(t.Name), "Attribute")}})
		}
		for _, fn := range part.Funcs {
			if fn.Name != "CreateConverter" {
				continue
			}
			if v := returned(fn.Do()); v != nil && v.Op == code.Call && v.Type != nil && len(v.Args) == 1 {
				in := scope{file: part.File, space: d.space, in: d}
				out = append(out, model.Argument{Name: "converter", Texts: []string{p.typeText(v.Type, in)}, Types: []*model.Type{p.resolve(v.Type, in)}})
			}
		}
	}
	return out
}

// attributeSpace is the namespace of an attribute with a point behind it, "" where it is not told.
func (p *project) attributeSpace(written, name, file string) string {
	if i := strings.LastIndexByte(written, '.'); i > 0 {
		space := written[:i]
		for _, known := range attributeSpaces[name] { // Json.JsonIgnore behind using Newtonsoft
			if known == space || strings.HasSuffix(known, "."+space) {
				return known + "."
			}
		}
		return space + "."
	}
	all := attributeSpaces[name]
	for _, space := range all {
		if p.imports(file, space) {
			return space + "."
		}
	}
	u := p.units[file]
	for _, space := range all { // inside a namespace of its own: Newtonsoft.Json.Converters
		for _, c := range u.Classes {
			if strings.HasPrefix(c.Space+".", space+".") {
				return space + "."
			}
		}
	}
	switch { // by a using that is not in the source: of the one library that it is about
	case len(all) == 1:
		return all[0] + "."
	case len(all) == 0:
		return ""
	case p.usesAny("Newtonsoft.Json") && !p.usesAny("System.Text.Json"):
		return newtonsoft + "."
	case !p.usesAny("Newtonsoft.Json"):
		return stj + "."
	}
	return ""
}

// firstParameters are the names of the first parameter of the constructors of the libraries' attributes, by which it may
// be given: [JsonProperty(propertyName: "a")]. Their properties begin with capitals.
var firstParameters = map[string]bool{"propertyName": true, "name": true, "converterType": true, "derivedType": true, "namingStrategyType": true, "elementName": true, "attributeName": true}

// arguments are what an attribute is given: those without a name as value, value2 and so on.
func (p *project) arguments(e *code.Expr, s scope) (out []model.Argument) {
	for i, a := range e.Args[1:] {
		name := e.Labels[i]
		if name == "" {
			if name = "value"; i > 0 {
				name += string(rune('1' + i))
			}
		}
		arg := model.Argument{Name: name, Texts: p.argumentTexts(a, s)}
		switch a.Op {
		case code.TypeOf:
			arg.Types = []*model.Type{p.resolve(a.Type, s)}
		case code.Number:
			arg.Types = []*model.Type{{Kind: model.Named, Name: "int", Linked: true}}
		}
		out = append(out, arg)
	}
	if len(e.Types) > 0 { // JsonConverter<T>
		arg := model.Argument{Name: "types"}
		for _, t := range e.Types {
			arg.Texts, arg.Types = append(arg.Texts, p.typeText(t, s)), append(arg.Types, p.resolve(t, s))
		}
		out = append(out, arg)
	}
	return out
}

// typeText is a type by the full name of its class, where the source declares it.
func (p *project) typeText(t *model.Type, s scope) string {
	if d := p.findAny(t.Name, s); d != nil {
		return d.full()
	}
	return t.Name
}

// argumentTexts are the values of an argument: several where flags are joined, or it is a list.
func (p *project) argumentTexts(e *code.Expr, s scope) []string {
	switch e.Op {
	case code.TypeOf:
		return []string{p.typeText(e.Type, s)}
	case code.Binary:
		if e.Text == "|" {
			return append(p.argumentTexts(e.Args[0], s), p.argumentTexts(e.Args[1], s)...)
		}
	case code.List:
		var out []string
		for _, a := range e.Args {
			out = append(out, p.argumentTexts(a, s)...)
		}
		return out
	case code.Choice:
		if e.Text == "()" {
			return p.argumentTexts(e.Args[0], s)
		}
	}
	l := p.value(e, s, 0)
	switch l.Kind {
	case model.OtherLiteral:
		if l.Text != "" {
			return []string{model.SimpleName(l.Text)}
		}
		return []string{p.written(e, s)}
	case model.NullLiteral:
		return []string{"null"}
	}
	return []string{l.Text}
}

package asks

import (
	"strings"

	"vetta/internal/model"
	"vetta/internal/source/jvm"
	"vetta/internal/source/scan"
)

// What Json of kotlinx.serialization is set to, and the types that its calls name by their serializers.

// makesJson says whether a token Json makes a Json: Json { … }, Json(from = …) { … }.
func makesJson(f *jvm.File, i int) bool {
	if f.Language != "kotlin" || !f.ImportsFrom("kotlinx.serialization") && !f.Is(i-1, ".") {
		return false
	}
	open := i + 1
	if f.Is(open, "(") {
		open = f.Partner(open) + 1
	}
	return f.Is(open, "{") && open > 0
}

// json reads what a Json is set to, over what it is made from; the cursor stands behind the name.
func (b *built) json(c *scan.Cursor, named map[string]*built) {
	if c.Is("(") { // Json(from = other)
		shut := c.Shut()
		switch base := c.F.Word(shut - 1); {
		case base == "Json" || base == "Default":
		case named[base] != nil:
			for name, o := range named[base].settings.Options {
				b.settings.Options[name] = o
			}
		default:
			b.settings.Options["unfollowed"] = model.Option{Value: "Json(from = …)", Pos: c.Where()}
		}
		c.Jump()
	}
	if !c.Is("{") {
		return
	}
	end := c.Shut()
	for c.Advance(); c.I < end; {
		if c.Kind() != scan.Ident || !c.Ahead(1, "=") || c.Ahead(2, "=") {
			c.Jump()
			continue
		}
		name, pos, start := c.Text(), c.Where(), c.I+2
		k := start
		for k < end && !(k > start && c.F.TokenAt(k).Newline && !c.F.Is(k, ".")) && !c.F.Is(k, ";") {
			if p := c.F.Partner(k); p > k {
				k = p
			}
			k++
		}
		if name == "serializersModule" {
			b.serializers(c.F, start, k, pos)
		} else {
			value := b.jsonOption(c.F, start, k)
			if switches[name] && value != "true" && value != "false" {
				name, value = "unfollowed", name+" = "+strings.TrimSpace(c.F.Text(start, k))
			}
			b.settings.Options[name] = model.Option{Value: value, Pos: pos}
		}
		c.I = k
	}
}

// switches are the options that are on or off and decide what is read: where the source does not tell which, nothing
// is known of what the Json reads.
var switches = jvm.Words("ignoreUnknownKeys coerceInputValues isLenient explicitNulls allowSpecialFloatingPointValues useAlternativeNames decodeEnumsCaseInsensitive allowStructuredMapKeys useArrayPolymorphism")

// jsonOption is what an option is set to: true, a text, the last word of a constant; of anything longer the
// source.
func (b *built) jsonOption(f *scan.File, from, to int) string {
	if l := jvm.Literal(f, from, to); l.Kind == model.StringLiteral {
		return l.Text
	}
	text := strings.TrimSpace(f.Text(from, to))
	if strings.ContainsAny(text, "({") {
		return text
	}
	return b.truth(jvm.Last(text))
}

// jsonAt are the settings of the Json object by itself, which a call is made on: Json.decodeFromString(…).
func jsonAt(f *jvm.File, at int) *model.Settings {
	if f.Is(at, "Json") && f.Is(at+1, ".") || f.Is(at, "Default") && f.Is(at-2, "Json") {
		return &model.Settings{Library: jvm.Kotlinx, Pos: f.Where(at), Options: map[string]model.Option{}}
	}
	return nil
}

// bySerializer is the type of a serializer that an argument names: Port.serializer(), ListSerializer(…),
// MapSerializer(…, …), serializer<Port>(); nil where it names none.
func bySerializer(p *jvm.Project, f *jvm.File, from, to int) (*model.Type, string) {
	if from >= to {
		return nil, ""
	}
	word := f.Word(from)
	if class := collections[word]; class != "" && f.Is(from+1, "(") {
		shut := f.Partner(from + 1)
		var args []string
		for at := from + 2; at < shut; {
			end := at
			for end < shut && !f.Is(end, ",") {
				if m := f.Partner(end); m > end {
					end = m
				}
				end++
			}
			t, text := bySerializer(p, f, at, end)
			if t == nil {
				return nil, ""
			}
			args = append(args, text)
			at = end + 1
		}
		return written(p, f, from, class+"<"+strings.Join(args, ", ")+">")
	}
	if word == "serializer" && f.Is(from+1, "<") {
		return typeAt(p, f, from+2)
	}
	for i := from; i < to; i++ {
		if f.Is(i, "serializer") && f.Is(i-1, ".") && f.Is(i+1, "(") {
			name := f.Joined(from, i-1)
			if shut := f.Partner(i + 1); shut > i+2 { // Page.serializer(Port.serializer())
				inner, text := bySerializer(p, f, i+2, shut)
				if inner == nil {
					return nil, ""
				}
				name += "<" + text + ">"
			}
			if f.Is(to-1, "nullable") {
				name += "?"
			}
			return written(p, f, from, name)
		}
	}
	return nil, ""
}

// collections are the functions that make serializers of collections, with what these are.
var collections = map[string]string{"ListSerializer": "List", "SetSerializer": "Set", "MapSerializer": "Map", "ArraySerializer": "Array"}

// written is a type by its text, as a file has it at a token.
func written(p *jvm.Project, f *jvm.File, at int, text string) (*model.Type, string) {
	made := f.Again(f.Name, text)
	if made.Parse == nil {
		return nil, ""
	}
	t, _ := made.Parse(0)
	if t == nil {
		return nil, ""
	}
	p.Resolve(f, p.ClassAt(f, at), nil, t)
	return t, text
}

// module notes what a SerializersModule registers, which stands between two tokens: subclasses of classes, and
// serializers of classes that are asked for by @Contextual.
func (b *built) module(f *scan.File, from, to int, pos model.Pos) {
	option := func(key, value string) { b.settings.Options[key] = model.Option{Value: value, Pos: pos} }
	typeIn := func(s span) *model.Type {
		t, _ := typeNamed(b.project, b.file, &scan.Cursor{F: f, I: s.from - 1}, s.to, true)
		if t == nil {
			t, _ = bySerializer(b.project, b.file, s.from, s.to)
		}
		return t
	}
	for i := from; i < to; i++ {
		name := f.TokenAt(i).Text
		if f.TokenAt(i).Kind != scan.Ident || !f.Is(i+1, "(") && !(name == "contextual" && f.Is(i+1, "<")) || i > 0 && f.Is(i-1, ".") {
			continue
		}
		open := i + 1
		args := spans(f, open, f.Partner(open))
		switch name {
		case "polymorphic":
			family := model.Family{Pos: f.Where(i)}
			if len(args) > 0 {
				family.Of = typeIn(args[0])
			}
			if family.Of == nil || family.Of.Model == nil {
				option("unfollowed", "a polymorphic class that is not in the source")
				continue
			}
			if len(args) > 1 { // polymorphic(Notice::class, Delay::class, Delay.serializer())
				family.Members = append(family.Members, model.Member{Type: typeIn(args[1])})
			}
			shut := f.Partner(open)
			if f.Is(shut+1, "{") {
				b.registered(f, shut+1, &family, typeIn)
				i = f.Partner(shut + 1)
			}
			b.settings.Families = append(b.settings.Families, family)
			var names []string
			for _, m := range family.Members {
				if m.Type != nil {
					names = append(names, m.Type.Name)
				} else {
					b.settings.Families[len(b.settings.Families)-1].Why = "a subclass that its SerializersModule registers is not followed"
				}
			}
			option("subclasses."+family.Of.Name, strings.Join(names, ", "))
		case "contextual":
			of := ""
			if len(args) > 1 {
				if t := typeIn(args[0]); t != nil {
					of = t.Name
				}
			}
			option("contextual."+jvm.Last(of), strings.TrimSpace(f.Text(args[len(args)-1].from, args[len(args)-1].to)))
		case "include", "polymorphicDefaultDeserializer", "polymorphicDefault":
			option("unfollowed", name+" of a SerializersModule")
		}
	}
}

// registered reads what a block behind polymorphic(…) registers.
func (b *built) registered(f *scan.File, open int, family *model.Family, typeIn func(span) *model.Type) {
	for i := open + 1; i < f.Partner(open); i++ {
		name := f.TokenAt(i).Text
		if name == "subclass" && (f.Is(i+1, "(") || f.Is(i+1, "<")) || name == "subclassesOfSealed" && f.Is(i+1, "<") {
			var t *model.Type
			if f.Is(i+1, "(") {
				if args := spans(f, i+1, f.Partner(i+1)); len(args) > 0 {
					t = typeIn(args[0])
				}
			} else {
				t, _ = typeAt(b.project, b.file, i+2)
			}
			family.Members = append(family.Members, model.Member{Type: t})
			continue
		}
		if (name == "defaultDeserializer" || name == "default") && f.Is(i+1, "{") {
			from := i + 2
			for k := from; k < f.Partner(i+1)-1; k++ { // { className -> … }
				if f.Is(k, "-") && f.Is(k+1, ">") || f.Is(k, "->") {
					from = k + 1
				}
			}
			for f.Is(from, ">") {
				from++
			}
			family.Otherwise = &model.Otherwise{Reads: true}
			if family.Otherwise.Type = typeIn(span{from, f.Partner(i + 1)}); family.Otherwise.Type == nil {
				family.Otherwise.Unfollowed = true
			}
			i = f.Partner(i + 1)
		}
	}
}

// serializers reads what serializersModule is set to: a module that is made there, or one that the file makes under a
// name.
func (b *built) serializers(f *scan.File, from, to int, pos model.Pos) {
	if f.Is(from, "SerializersModule") && f.Is(from+1, "{") {
		b.module(f, from+2, f.Partner(from+1), pos)
		return
	}
	if to == from+1 {
		name := f.TokenAt(from).Text
		for i := 1; i < f.Len()-2; i++ {
			if f.TokenAt(i).Text != name || !f.Is(i-1, "val") {
				continue
			}
			for k := i + 1; k < min(i+8, f.Len()-1); k++ {
				if f.Is(k, "SerializersModule") && f.Is(k+1, "{") {
					b.module(f, k+2, f.Partner(k+1), pos)
					return
				}
			}
		}
	}
	b.settings.Options["unfollowed"] = model.Option{Value: "a SerializersModule that is made elsewhere", Pos: pos}
}

package asks

import (
	"vetta/internal/model"
	"vetta/internal/source/jvm"
)

// forms are the classes that serializers and adapters of the app's own extend, with the method that reads.
var forms = map[string]string{
	"TypeAdapter": "read", "JsonDeserializer": "deserialize", "StdDeserializer": "deserialize",
	"KSerializer": "deserialize", "DeserializationStrategy": "deserialize",
	"JsonTransformingSerializer": "transformDeserialize", "JsonContentPolymorphicSerializer": "selectDeserializer",
}

// params are how many parameters that method has, where it is not one: of Gson's JsonDeserializer three, of that of
// Jackson two.
var params = map[string]int{"JsonDeserializer": 3, "StdDeserializer": 2}

// Serializer is the class of a name, as a class has it at @Serializable(with = …) or @JsonAdapter(…), as what reads;
// nil where it is not in the source.
func Serializer(p *jvm.Project, in *jvm.Class, name string) *model.Adapter {
	c := p.Find(in.File, in, name)
	if c == nil {
		return nil
	}
	c.Read()
	a := &model.Adapter{Name: c.FullName(), Pos: c.Pos}
	bases := c.Implements
	if c.Super != nil {
		bases = append([]*model.Type{c.Super}, bases...)
	}
	for _, t := range bases {
		a.Form = forms[jvm.Last(t.Name)]
		if a.Form == "" || len(t.Args) != 1 {
			continue
		}
		of := *t.Args[0]
		p.Resolve(c.File, c, nil, &of)
		a.Of = &of
		for _, m := range c.Methods {
			if m.Name == a.Form && (len(m.Params) == max(1, params[jvm.Last(t.Name)]) || jvm.Last(t.Name) == "JsonDeserializer" && len(m.Params) == 2) {
				if r := routine(p, c.File, c, m); r != nil {
					a.Code = r
				}
			}
		}
		return a
	}
	return a
}

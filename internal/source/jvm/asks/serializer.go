package asks

import (
	"vetta/internal/model"
	"vetta/internal/source/jvm"
)

// forms are the classes that serializers of kotlinx.serialization extend, with the method that reads.
var forms = map[string]string{
	"KSerializer": "deserialize", "DeserializationStrategy": "deserialize",
	"JsonTransformingSerializer": "transformDeserialize", "JsonContentPolymorphicSerializer": "selectDeserializer",
}

// Serializer is the class of a name, as a class has it at @Serializable(with = …), as what reads; nil where it is not
// in the source.
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
			if m.Name == a.Form && len(m.Params) == 1 {
				if r := routine(p, c.File, c, m); r != nil {
					a.Code = r
				}
			}
		}
		return a
	}
	return a
}

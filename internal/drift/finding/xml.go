package finding

import (
	"fmt"
	"strings"

	"vetta/internal/markup"
	"vetta/internal/model"
)

// inXML is the speech of XmlSerializer.
func inXML(s *speech) {
	s.Rename = func(_, key string) string { return xmlAttribute(key) }
	s.RenameBoth = func(_, key, _ string) string { return xmlAttribute(key) }
	s.Renamed = "on the property; one property is read from one name, so keep the old one beside it while both are sent"
	s.Constant = func(literal, _ string) string { return sharpConstant(literal, "XmlEnum(%q)") }
	s.Nested = "mirror the nesting in classes: [XmlElement] for elements that stand alone, [XmlArray] with [XmlArrayItem] for those inside one more"
	s.Dates = "declare string, and make the date where it is used: the forms of XML Schema alone are taken, 2026-03-01T09:30:00"
	s.Unit = "declare long and convert it where it is used"
	s.Kept = "read what is sent"
	s.Swallow = "read what is sent, and do not drop the exception"
	s.absent = "let it be absent"
	s.Single = "declare a list"
	s.Either = "declare string, and look at it where it is used"
	s.Fallback = "a string twin of the property that falls back for those still to come"
	s.Order = "take Order off all members: then any order will do"
	s.change = xmlChange
}

// inDataContract is the speech of DataContractSerializer, inContractJSON that of its twin for JSON.
func inDataContract(s *speech) {
	inContractJSON(s)
	s.Dates = "declare string, and make the date where it is used: the forms of XML Schema alone are taken, 2026-03-01T09:30:00"
	s.Order = "give [DataMember] an Order that is the one that is sent: without one members are read by their names' alphabet"
	s.Constant = func(literal, _ string) string { return sharpConstant(literal, "EnumMember(Value = %q)") }
}

func inContractJSON(s *speech) {
	s.Rename = func(_, key string) string { return fmt.Sprintf("[DataMember(Name = %q)]", markup.NameOf(key).Local) }
	s.RenameBoth = func(_, key, _ string) string { return fmt.Sprintf("[DataMember(Name = %q)]", markup.NameOf(key).Local) }
	s.Constant = func(literal, _ string) string { return "its number: enums are read by number alone" }
	s.Dates = "set DateTimeFormat in DataContractJsonSerializerSettings to the form that is sent, or declare string: /Date(…)/ alone is taken"
	s.absent = "take IsRequired off"
	s.Single = "declare what is sent: there is no converter"
	s.Either = "declare object, and look at it where it is used"
	s.Fallback = "a member of type int or string that is converted where it is used"
	s.change = sharpChange("[DataMember]")
}

// xmlAttribute is the attribute that reads a property from an element, an attribute or the text of a document.
func xmlAttribute(key string) string {
	if key == markup.TextKey {
		return "[XmlText]"
	}
	n := markup.NameOf(key)
	kind := "XmlElement"
	if markup.IsAttr(key) {
		kind = "XmlAttribute"
	}
	if n.Space != "" {
		return fmt.Sprintf("[%s(%q, Namespace = %q)]", kind, n.Local, n.Space)
	}
	return fmt.Sprintf("[%s(%q)]", kind, n.Local)
}

// xmlChange is what XmlSerializer needs where other libraries need something else.
func xmlChange(f *Finding) (Change, bool) {
	if f.Field == nil {
		return Change{}, false
	}
	attribute := markup.IsAttr(f.Asked)
	switch f.Kind.Name {
	case "silent-zero":
		if attribute || f.Field.Type.Kind != model.Optional && f.Asked == markup.TextKey {
			return Change{Code: "[XmlIgnore] public bool " + f.Field.Name + "Specified { get; set; }", Why: "which XmlSerializer sets to true where it is sent; an attribute cannot be nullable"}, true
		}
	case "hidden-null":
		if strings.HasSuffix(f.Declared, "?") {
			return Change{}, false
		}
		return Change{Code: declareSharp(f, f.Declared+"?"), Why: "which is null where nothing is sent"}, true
	case "never-read":
		return sharpChange("[XmlElement]")(f)
	case "moved-optional":
		if steps := f.Rename; steps != "" {
			if list := f.Field.Type.Unwrapped(); list.Kind == model.List || list.Kind == model.Unique {
				if f.Flat {
					return Change{Code: xmlAttribute(f.Given), Why: "on the list: its items stand in the element itself now"}, true
				}
			}
		}
	}
	return Change{}, false
}

package run

import (
	"slices"
	"strings"
)

// generated is a function of the package that the parts of generators call.
func (m *Machine) generated(name string, a Args, f *frame, pos codePos) (Value, error) {
	switch name {
	case "$enumDecode", "$enumDecodeNullable":
		values, source := a.at(0), a.at(1)
		t := values.Static.arg(0)
		orElse, given := a.named("unknownValue")
		switch {
		case source.isUnknown():
			if name == "$enumDecodeNullable" {
				t = t.nullable()
			}
			return unknown(t, source), nil
		case source.IsNull() && name == "$enumDecodeNullable":
			return Value{Static: t.nullable()}, nil
		}
		var known []string
		if d := values.dict(); d != nil {
			for i, v := range d.Vals {
				is, _, err := m.equal(v, source, pos)
				if err != nil {
					return v, err
				}
				if is {
					return d.Keys[i].as(t), nil
				}
				text, _, _ := m.written(v, pos)
				known = append(known, text)
			}
		}
		if source.IsNull() {
			return source, &Thrown{Class: "ArgumentError", Message: "Invalid argument(s): A value must be provided. Supported values: " + strings.Join(known, ", "), At: source.At, Pos: pos}
		}
		if given && orElse.Kind == Obj {
			return orElse.as(t), nil
		}
		if given && !orElse.IsNull() { // JsonKey.nullForUndefinedEnumValue
			return Value{Static: t.nullable()}, nil
		}
		text, _, _ := m.written(source, pos)
		return source, &Thrown{Class: "ArgumentError", Message: "Invalid argument(s): `" + text + "` is not one of the supported values: " + strings.Join(known, ", "), At: source.At, Pos: pos}
	case "$checkedCreate":
		doc, make := a.at(1), a.at(2)
		names, _ := a.named("fieldKeyMap")
		convert := Value{Kind: Fn, Static: &Type{Name: "Function"}, Ref: &Closure{Host: func(in Args) (Value, error) {
			key := in.at(0)
			if d := names.dict(); d != nil {
				if at, _ := d.find(key); at >= 0 {
					key = d.Vals[at]
				}
			}
			read, _ := in.named("readValue")
			return m.checked(doc, key, in.at(1), read, pos)
		}}}
		return m.Apply(make, convert)
	case "$checkedConvert":
		read, _ := a.named("readValue")
		return m.checked(a.at(0), a.at(1), a.at(2), read, pos)
	case "$checkedNew":
		if fn := a.at(2); fn.Kind == Fn {
			return m.Apply(fn)
		}
	case "$checkKeys":
		return m.checkKeys(a, pos)
	}
	return Value{}, unfollowed("the function "+name, pos)
}

// checked reads one key; what fails there is told with the key.
func (m *Machine) checked(doc, key, fn, read Value, pos codePos) (Value, error) {
	var v Value
	var err error
	if read.IsNull() {
		v, err = m.element(doc, key, pos)
	} else {
		v, err = m.Apply(read, doc, key)
	}
	if err == nil {
		v, err = m.Apply(fn, v)
	}
	if t, ok := err.(*Thrown); ok && t.Class != "CheckedFromJsonException" && t.Class != "MissingRequiredKeysException" && t.Class != "DisallowedNullValueException" {
		return v, &Thrown{Class: "CheckedFromJsonException", Message: "CheckedFromJsonException\nCould not create the class.\nThere is a problem with \"" + key.S + "\".\n" + t.Error(), At: t.At, Pos: t.Pos}
	}
	return v, err
}

// checkKeys looks which keys there are.
func (m *Machine) checkKeys(a Args, pos codePos) (Value, error) {
	doc := a.at(0)
	list := func(name string) (out []string, given bool) {
		v, ok := a.named(name)
		if l := v.list(); ok && l != nil {
			for _, e := range l.Items {
				out = append(out, e.S)
			}
			return out, true
		}
		return nil, false
	}
	if allowed, ok := list("allowedKeys"); ok {
		if d := doc.dict(); d != nil {
			var bad []string
			for _, k := range d.Keys {
				if !slices.Contains(allowed, k.S) {
					bad = append(bad, k.S)
				}
			}
			if len(bad) > 0 {
				return doc, &Thrown{Class: "UnrecognizedKeysException", Message: "Unrecognized keys: [" + strings.Join(bad, ", ") + "]; supported keys: [" + strings.Join(allowed, ", ") + "]", At: doc.At, Pos: pos}
			}
		}
	}
	if required, ok := list("requiredKeys"); ok {
		var missing []string
		for _, k := range required {
			if has, known := m.hasKey(doc, textOf(k)); known && !has {
				missing = append(missing, k)
			}
		}
		if len(missing) > 0 {
			return doc, &Thrown{Class: "MissingRequiredKeysException", Message: "Required keys are missing: " + strings.Join(missing, ", ") + ".", At: doc.At, Pos: pos}
		}
	}
	if full, ok := list("disallowNullValues"); ok {
		var null []string
		for _, k := range full {
			has, _ := m.hasKey(doc, textOf(k))
			if v, err := m.element(doc, textOf(k), pos); has && err == nil && v.IsNull() {
				null = append(null, k)
			}
		}
		if len(null) > 0 {
			return doc, &Thrown{Class: "DisallowedNullValueException", Message: "These keys had `null` values, which is not allowed: [" + strings.Join(null, ", ") + "]", At: doc.At, Pos: pos}
		}
	}
	return Value{Static: voidType}, nil
}

package jvm

import (
	"fmt"
	"slices"

	"vetta/internal/decoder"
	"vetta/internal/model"
)

// A set asks what is put into it for its hash. That of a Kotlin data class asks each property of
// the primary constructor in turn for its own, without a look for null where the type says that
// there is none: so it throws where a library has put null into one all the same (Kotlin 1.9,
// "Data classes", as compiled for the JVM).

// HashedBy are the properties that the hash of a class is made of, in order: those of the primary
// constructor of a data class. Known is false where code of the class's own computes the hash.
func HashedBy(m *model.Model) (names []string, known bool) {
	if m.Language != "kotlin" {
		return nil, true
	}
	if slices.ContainsFunc(m.Methods, func(f *model.Method) bool { return f.Name == "hashCode" && len(f.Params) == 0 }) {
		return nil, false
	}
	if !m.Data || len(m.Ctors) == 0 {
		return nil, true
	}
	return m.Ctors[0].Fills, true
}

// HashOfNull is the error that the hash of an instance throws where a property of that type holds
// null, nil where it throws none.
func HashOfNull(name string, t *model.Type) *decoder.Error {
	asked, by := t, "this."+name
	if m := t.Model; t.Kind == model.Named && m != nil && m.Inline != nil { // a function of the class is given what it holds
		asked, by = m.Inline.Bind(t.Env()), "arg0"
	}
	switch asked.Kind {
	case model.Optional, model.Param, model.Opaque:
		return nil
	}
	if isArray(asked) || IsPrimitive(asked, true) {
		return nil
	}
	return &decoder.Error{
		Kind: "NullPointerException", Reason: decoder.ReasonNull,
		Message: fmt.Sprintf("NullPointerException: Cannot invoke \"%s.hashCode()\" because \"%s\" is null", hashing(asked), by),
		Advice:  "declare " + name + " with ?: a set asks what is put into it for its hash, and that of a data class throws where null got past a type without ?",
	}
}

// hashing is the class whose hashCode is called, as the virtual machine names it: of an interface
// it is Object's, and the two classes everybody knows come without their package.
func hashing(t *model.Type) string {
	switch {
	case t.Model != nil && t.Model.Kind == model.Interface:
		return "Object"
	case t.Model != nil:
		return ClassName(t.Model)
	case t.Kind == model.List || t.Kind == model.Unique || t.Kind == model.Map:
		if t.Class == "" || !concrete[t.Class] {
			return "Object"
		}
		return Package(t.Class) + t.Class
	}
	switch t.Name {
	case "String", "Object", "CharSequence", "Iterable", "Comparable":
		if t.Name == "String" {
			return "String"
		}
		return "Object"
	case "Any":
		return "Object"
	}
	return Package(t.Name) + t.Name
}

// concrete are the collections that are classes.
var concrete = map[string]bool{
	"ArrayList": true, "LinkedList": true, "AbstractList": true, "ArrayDeque": true, "Vector": true, "Stack": true, "CopyOnWriteArrayList": true,
	"EnumSet": true, "HashSet": true, "LinkedHashSet": true, "TreeSet": true, "AbstractSet": true,
	"EnumMap": true, "HashMap": true, "LinkedHashMap": true, "TreeMap": true, "ConcurrentHashMap": true, "Hashtable": true, "AbstractMap": true,
}

// Hash is what asking a value of a type for its hash throws, nil where it throws nothing; known is
// false where code that is not followed computes it, of an instance that holds a null it should not.
func Hash(t *model.Type, s decoder.Seen) (err *decoder.Error, known bool) {
	u := t.Unwrapped()
	switch s.Kind {
	case decoder.SeenList, decoder.SeenSet, decoder.SeenMap:
		if len(u.Args) == 0 {
			return nil, true
		}
		for _, e := range s.Elems {
			if err, known := Hash(u.Args[len(u.Args)-1], e); err != nil || !known {
				return err, known
			}
		}
	case decoder.SeenObject:
		if u.Model == nil || u.Model.Language != "kotlin" {
			return nil, true
		}
		names, own := HashedBy(u.Model)
		if !own {
			return nil, !holdsHiddenNull(u, s)
		}
		for _, f := range u.Model.Fields {
			if !slices.Contains(names, f.Name) {
				continue
			}
			held, _ := s.Get(f.Name)
			typ := f.Type.Bind(u.Env())
			if held.Kind == decoder.SeenNull && f.Type.Kind != model.Param {
				if err := HashOfNull(f.Name, typ); err != nil {
					return err, true
				}
			}
			if err, known := Hash(typ, held); err != nil || !known {
				return err, known
			}
		}
	}
	return nil, true
}

// holdsHiddenNull says whether a property of an instance holds null although its type says that
// there is none.
func holdsHiddenNull(t *model.Type, s decoder.Seen) bool {
	return slices.ContainsFunc(t.Model.Fields, func(f *model.Field) bool {
		held, ok := s.Get(f.Name)
		return ok && held.Kind == decoder.SeenNull && f.Type.Kind != model.Optional && f.Type.Kind != model.Param
	})
}

// MayThrow says whether asking some value of a type for its hash may throw, or is not known to.
func MayThrow(t *model.Type) bool { return mayThrow(t, nil) }

func mayThrow(t *model.Type, within []*model.Model) bool {
	u := t.Unwrapped()
	m := u.Model
	if m == nil {
		return slices.ContainsFunc(u.Args, func(a *model.Type) bool { return mayThrow(a, within) })
	}
	if slices.Contains(within, m) {
		return false
	}
	names, known := HashedBy(m)
	if !known {
		return true
	}
	return slices.ContainsFunc(m.Fields, func(f *model.Field) bool {
		typ := f.Type.Bind(u.Env())
		return slices.Contains(names, f.Name) && (f.Type.Kind != model.Param && HashOfNull(f.Name, typ) != nil || mayThrow(typ, append(within, m)))
	})
}

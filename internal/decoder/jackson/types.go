package jackson

import (
	"strings"

	"vetta/internal/decoder/jvm"
	"vetta/internal/model"
)

// made are the classes that instances of abstract collections are of
// (BasicDeserializerFactory.ContainerDefaultMappings).
var made = map[string]string{
	"List": "ArrayList", "Collection": "ArrayList", "Iterable": "ArrayList", "AbstractList": "ArrayList", "Queue": "LinkedList", "Deque": "LinkedList", "Set": "HashSet", "AbstractSet": "HashSet", "SortedSet": "TreeSet", "NavigableSet": "TreeSet",
	"Map": "LinkedHashMap", "AbstractMap": "LinkedHashMap", "ConcurrentMap": "ConcurrentHashMap", "SortedMap": "TreeMap", "NavigableMap": "TreeMap",
}

// class is the name of a type's class, without its package, as it is declared.
func class(t *model.Type) string {
	switch {
	case t.Class != "":
		return t.Class
	case t.Kind == model.List:
		return "List"
	case t.Kind == model.Unique:
		return "Set"
	case t.Kind == model.Map:
		return "Map"
	}
	return t.Name
}

// raw is the class of a type: of an abstract collection, the one that is made.
func raw(t *model.Type) string {
	u := t.Unwrapped()
	if of := made[class(u)]; of != "" && u.Model == nil && u.Name != "[]" {
		return jvm.Package(of) + of
	}
	return declared(u)
}

// declared is the class that a type names.
func declared(t *model.Type) string {
	u := t.Unwrapped()
	switch {
	case u.Kind == model.List && u.Name == "[]":
		return declared(u.Args[0]) + "[]"
	case u.Model != nil:
		return jvm.ClassName(u.Model)
	}
	return jvm.Package(class(u)) + class(u)
}

// described is a type as JavaType.toString has it.
func described(t *model.Type) string {
	u := t.Unwrapped()
	switch {
	case u.Kind == model.List && u.Name == "[]":
		return "[array type, component type: " + described(u.Args[0]) + "]"
	case u.Model == nil && u.Kind == model.Map && len(u.Args) == 2:
		return "[map type; class " + declared(u) + ", " + described(u.Args[0]) + " -> " + described(u.Args[1]) + "]"
	case u.Model == nil && (u.Kind == model.List || u.Kind == model.Unique) && len(u.Args) == 1:
		return "[collection type; class " + declared(u) + ", contains " + described(u.Args[0]) + "]"
	}
	return "[simple type, class " + full(u) + "]"
}

// full is a type with its arguments, as messages have it.
func full(t *model.Type) string { return written(t, true) }

func written(t *model.Type, outermost bool) string {
	u := t.Unwrapped()
	if u.Kind == model.List && u.Name == "[]" {
		elem := u.Args[0]
		if code := arrayCodes[elem.Name]; code != "" && jvm.Scalar(elem) == elem.Name {
			return "[" + code
		}
		if inner := written(elem, outermost); strings.HasPrefix(inner, "[") {
			return "[" + inner
		}
		return "[L" + declared(elem) + ";"
	}
	name := raw(u)
	if !outermost { // an argument is not yet made
		name = declared(u)
	}
	if len(u.Args) == 0 {
		return name
	}
	if u.Class == "EnumSet" && outermost {
		return name + "<java.lang.Enum>"
	}
	var args []string
	for _, a := range u.Args {
		args = append(args, written(a, false))
	}
	return name + "<" + strings.Join(args, ",") + ">"
}

// arrayCodes are how the virtual machine writes arrays of primitives (JVMS 4.3.2).
var arrayCodes = map[string]string{"int": "I", "long": "J", "short": "S", "byte": "B", "float": "F", "double": "D", "boolean": "Z", "char": "C"}

// binaryName is a class as Class.getName has it: arrays with a bracket for each dimension.
func binaryName(class string) string {
	elem, dims := class, ""
	for strings.HasSuffix(elem, "[]") {
		elem, dims = strings.TrimSuffix(elem, "[]"), dims+"["
	}
	if dims == "" {
		return class
	}
	if code := map[string]string{"int": "I", "long": "J", "short": "S", "byte": "B", "float": "F", "double": "D", "boolean": "Z", "char": "C"}[elem]; code != "" {
		return dims + code
	}
	return dims + "L" + elem + ";"
}

package moshi

import (
	"vetta/internal/decoder/eval"
	"vetta/internal/decoder/jvm"
	"vetta/internal/model"
)

// reflected is a java.lang.reflect.Type that code is given: a class, or one with type arguments.
type reflected struct {
	t     *model.Type
	boxed bool // of a primitive: its class
}

// class is a java.lang.Class.
type class struct{ reflected }

// interfacesOf are the names that Kotlin has for interfaces of Java's.
var interfacesOf = map[string]string{
	"": "", "MutableList": "List", "MutableSet": "Set", "MutableMap": "Map", "MutableCollection": "Collection", "Any": "Object",
}

// simple is the name of the class that a type is of, without its package: a primitive's own, or its box.
func (r reflected) simple() string {
	if s := jvm.Scalar(r.t); s != "" {
		if r.boxed {
			return jvm.Boxes[s]
		}
		return s
	}
	name := r.t.Name
	switch r.t.Kind {
	case model.List, model.Unique, model.Map:
		name = r.t.Class
		if r.array() {
			return ""
		}
		if name == "" {
			name = map[model.TypeKind]string{model.List: "List", model.Unique: "Set", model.Map: "Map"}[r.t.Kind]
		}
	case model.Named:
	default:
		return ""
	}
	name = model.SimpleName(name)
	if other, ok := interfacesOf[name]; ok {
		return other
	}
	return name
}

// full is the name of the class with its package, "" where that is not known.
func (r reflected) full() string {
	if r.t.Model != nil {
		return jvm.ClassName(r.t.Model)
	}
	name := r.simple()
	if pack := jvm.Package(name); pack != "" {
		return pack + name
	}
	if jvm.Scalar(r.t) != "" {
		return name
	}
	return ""
}

func (r reflected) parameterized() bool { return len(r.t.Args) > 0 }

// Is is described at eval.Host.
func (r reflected) Is(name string) (bool, bool) {
	switch name {
	case "ParameterizedType":
		return r.parameterized(), r.simple() != ""
	case "Class":
		return !r.parameterized(), r.simple() != ""
	case "Type":
		return true, true
	case "GenericArrayType", "WildcardType", "TypeVariable":
		return false, r.simple() != ""
	}
	return false, false
}

// Member is described at eval.Host.
func (r reflected) Member(name string, args []eval.Value, _ []*model.Type) (eval.Value, bool, error) {
	switch eval.Property(name) {
	case "rawType":
		return eval.HostOf(class{reflected{&model.Type{Kind: r.t.Kind, Name: r.t.Name, Class: r.t.Class, Model: r.t.Model, Pos: r.t.Pos}, r.boxed}}), true, nil
	case "actualTypeArguments":
		items := []eval.Value{}
		for _, a := range r.t.Args {
			items = append(items, eval.HostOf(reflected{a.Unwrapped(), true}))
		}
		return eval.List(items...), r.parameterized(), nil
	case "typeName":
		if full := r.full(); full != "" && !r.parameterized() {
			return eval.Text(full), true, nil
		}
	}
	if !r.parameterized() {
		return class{r}.Member(name, args, nil)
	}
	return eval.Value{}, false, nil
}

// Equal says whether it is the same type as another, and whether that can be told.
func (r reflected) Equal(other eval.Value) (same, known bool) {
	o, ok := typeOf(other)
	if !ok {
		return false, false
	}
	same, known = sameRaw(r, o)
	if _, raw := other.Host.(class); raw || other.Host == nil {
		return !r.parameterized() && same, known || r.parameterized()
	}
	if len(r.t.Args) != len(o.t.Args) {
		return false, true
	}
	if !same || !known {
		return false, known
	}
	for i, a := range r.t.Args {
		if same, known := (reflected{a.Unwrapped(), true}).Equal(eval.HostOf(reflected{o.t.Args[i].Unwrapped(), true})); !same || !known {
			return same, known
		}
	}
	return true, true
}

// array says whether it is an array, which has no name to go by.
func (r reflected) array() bool { return r.t.Kind == model.List && r.t.Name != "" }

// sameRaw says whether two types are of one class, and whether that can be told.
func sameRaw(a, b reflected) (same, known bool) {
	if a.t.Model != nil || b.t.Model != nil {
		return a.t.Model == b.t.Model, true
	}
	x, y := a.simple(), b.simple()
	return x == y && x != "", (x != "" || a.array()) && (y != "" || b.array()) && !(a.array() && b.array())
}

// Is is described at eval.Host.
func (c class) Is(name string) (bool, bool) { return name == "Class" || name == "Type", true }

// Member is described at eval.Host.
func (c class) Member(name string, args []eval.Value, _ []*model.Type) (eval.Value, bool, error) {
	m := c.t.Model
	switch eval.Property(name) {
	case "name", "qualifiedName", "canonicalName":
		full := c.full()
		return eval.Text(full), full != "", nil
	case "simpleName":
		simple := c.simple()
		return eval.Text(model.SimpleName(simple)), simple != "", nil
	case "rawType", "java", "kotlin":
		return eval.HostOf(c), true, nil
	case "isEnum":
		return eval.Bool(m != nil && m.Kind == model.Enum), true, nil
	case "isInterface":
		if m != nil {
			return eval.Bool(m.Kind == model.Interface), true, nil
		}
	case "isSealed":
		if m != nil {
			return eval.Bool(m.Sealed), true, nil
		}
	case "isPrimitive":
		return eval.Bool(jvm.Scalar(c.t) != "" && !c.boxed), true, nil
	case "isArray":
		return eval.Bool(c.array()), true, nil
	case "isAnnotationPresent", "getAnnotation":
		if len(args) != 1 || args[0].Class == "" {
			break
		}
		mark := model.SimpleName(args[0].Class)
		has := m != nil && m.Marks.Find(mark) != nil
		switch {
		case name == "isAnnotationPresent":
			return eval.Bool(has), true, nil
		case !has:
			return eval.Value{}, true, nil
		}
	case "isAssignableFrom":
		if len(args) != 1 {
			break
		}
		if other, ok := typeOf(args[0]); ok {
			same, known := sameRaw(c.reflected, other)
			return eval.Bool(true), same && known, nil
		}
	}
	return eval.Value{}, false, nil
}

// Equal says whether it is the same class as another, and whether that can be told.
func (c class) Equal(other eval.Value) (same, known bool) {
	o, ok := typeOf(other)
	if !ok {
		return false, false
	}
	same, known = sameRaw(c.reflected, o)
	if _, raw := other.Host.(class); !raw && other.Host != nil && o.parameterized() {
		return false, true
	}
	return same, known
}

// typeOf is a value of code as a type: of a type that it is given, or of a class that it names.
func typeOf(v eval.Value) (reflected, bool) {
	switch h := v.Host.(type) {
	case reflected:
		return h, true
	case class:
		return h.reflected, true
	}
	if v.Class == "" || v.Host != nil {
		return reflected{}, false
	}
	t := &model.Type{Kind: model.Named, Name: v.Class, Model: v.Model}
	name := v.Class
	if other := interfacesOf[name]; other != "" {
		name = other
	}
	switch name {
	case "List", "Collection", "ArrayList", "LinkedList":
		t = &model.Type{Kind: model.List, Class: name}
	case "Set", "HashSet", "LinkedHashSet":
		t = &model.Type{Kind: model.Unique, Class: name}
	case "Map", "HashMap", "LinkedHashMap":
		t = &model.Type{Kind: model.Map, Class: name}
	}
	return reflected{t, jvm.Boxes[v.Class] == ""}, true
}

// types are the functions of com.squareup.moshi.Types.
func types(name string, args []eval.Value) (eval.Value, bool, error) {
	if len(args) == 0 {
		return eval.Value{}, false, nil
	}
	if name == "nextAnnotations" {
		if len(args) != 2 || args[0].Items == nil || args[1].Class == "" {
			return eval.Value{}, false, nil
		}
		rest, found := []eval.Value{}, false
		for _, a := range *args[0].Items {
			if h, ok := a.Host.(annotation); ok && string(h) == model.SimpleName(args[1].Class) {
				found = true
				continue
			}
			rest = append(rest, a)
		}
		if !found {
			return eval.Value{}, true, nil
		}
		return eval.List(rest...), true, nil
	}
	of, ok := typeOf(args[0])
	if !ok {
		return eval.Value{}, false, nil
	}
	switch name {
	case "getRawType":
		return of.Member("rawType", nil, nil)
	case "equals":
		if len(args) == 2 {
			same, known := of.Equal(args[1])
			return eval.Bool(same), known, nil
		}
	case "collectionElementType":
		if len(of.t.Args) == 1 {
			return eval.HostOf(reflected{of.t.Args[0].Unwrapped(), true}), true, nil
		}
		if of.t.Kind == model.Named {
			return eval.HostOf(reflected{&model.Type{Kind: model.Named, Name: "Object"}, true}), true, nil
		}
	case "newParameterizedType":
		t := *of.t
		t.Args = nil
		for _, a := range args[1:] {
			arg, ok := typeOf(a)
			if !ok {
				return eval.Value{}, false, nil
			}
			t.Args = append(t.Args, arg.t)
		}
		return eval.HostOf(reflected{&t, true}), true, nil
	}
	return eval.Value{}, false, nil
}

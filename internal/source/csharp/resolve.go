package csharp

import (
	"slices"

	"vetta/internal/model"
)

// scope is where a type is written.
type scope struct {
	file  string
	space string
	in    *declared // nil outside of types
	free  []string  // type parameters of the method around
	deep  int
}

// platform are types of the platform that are fields of models, beside the predefined ones.
var platform = words(`DateTime DateTimeOffset DateOnly TimeOnly TimeSpan Guid Uri Version Type Half Int128 UInt128 BigInteger Boolean Byte SByte Int16 UInt16 Int32
	UInt32 Int64 UInt64 Single Double Decimal Char String Object List Dictionary HashSet Stream Task ValueTask Lazy Tuple Index Range Encoding CultureInfo Color Timer
	Action Func Exception Attribute Enum JsonElement JsonDocument JsonNode JsonObject JsonArray JsonValue JToken JObject JArray JValue`)

// short are the predefined words for types of the platform.
var short = map[string]string{
	"Boolean": "bool", "Byte": "byte", "SByte": "sbyte", "Int16": "short", "UInt16": "ushort", "Int32": "int", "UInt32": "uint", "Int64": "long", "UInt64": "ulong",
	"Single": "float", "Double": "double", "Decimal": "decimal", "Char": "char", "String": "string", "Object": "object", "IntPtr": "nint", "UIntPtr": "nuint",
}

// collections are those of the platform by name, with the kind that they are of the tree's.
var collections = map[string]model.TypeKind{
	"List": model.List, "IList": model.List, "ICollection": model.List, "IEnumerable": model.List, "IReadOnlyList": model.List, "IReadOnlyCollection": model.List,
	"Collection": model.List, "ObservableCollection": model.List, "ReadOnlyCollection": model.List, "ReadOnlyObservableCollection": model.List, "LinkedList": model.List, "Queue": model.List, "Stack": model.List,
	"ConcurrentQueue": model.List, "ConcurrentStack": model.List, "ConcurrentBag": model.List, "BlockingCollection": model.List, "IAsyncEnumerable": model.List, "BindingList": model.List,
	"ImmutableArray": model.List, "ImmutableList": model.List, "IImmutableList": model.List, "ImmutableQueue": model.List, "IImmutableQueue": model.List, "ImmutableStack": model.List, "IImmutableStack": model.List,
	"ReadOnlyMemory": model.List, "Memory": model.List, "ArraySegment": model.List,
	"HashSet": model.Unique, "ISet": model.Unique, "IReadOnlySet": model.Unique, "SortedSet": model.Unique, "ImmutableHashSet": model.Unique, "IImmutableSet": model.Unique,
	"ImmutableSortedSet": model.Unique, "FrozenSet": model.Unique,
	"Dictionary": model.Map, "IDictionary": model.Map, "IReadOnlyDictionary": model.Map, "SortedDictionary": model.Map, "SortedList": model.Map, "ConcurrentDictionary": model.Map,
	"ReadOnlyDictionary": model.Map, "ImmutableDictionary": model.Map, "IImmutableDictionary": model.Map, "ImmutableSortedDictionary": model.Map, "FrozenDictionary": model.Map, "OrderedDictionary": model.Map,
}

// resolve finds what the names in a type mean where it is written, in a copy of it.
func (p *project) resolve(t *model.Type, s scope) *model.Type {
	if t == nil {
		return nil
	}
	if t.Linked {
		return t
	}
	out := *t
	out.Linked = true
	out.Args = nil
	for _, a := range t.Args {
		out.Args = append(out.Args, p.resolve(a, s))
	}
	if t.Kind != model.Named {
		if t.Kind == model.List && t.Name == "" {
			out.Name = "[]"
		}
		return &out
	}
	return p.meant(&out, s)
}

// meant is a type by its name, with arguments that are resolved.
func (p *project) meant(t *model.Type, s scope) *model.Type {
	name := t.Name
	if len(t.Args) == 0 && (slices.Contains(s.free, name) || s.in != nil && slices.Contains(s.in.params, name)) {
		t.Kind = model.Param
		return t
	}
	a, ok := p.alias[name]
	if u := p.units[s.file]; u != nil && !ok {
		a, ok = u.Aliases[name]
	}
	if ok && a.Type != nil && s.deep < 8 {
		s.deep++
		to := p.resolve(a.Type, s)
		if len(a.Generics) == len(t.Args) && len(t.Args) > 0 {
			env := map[string]*model.Type{}
			for i, g := range a.Generics {
				env[g] = t.Args[i]
			}
			to = bindNamed(to, env)
		}
		return to
	}
	if d := p.find(name, len(t.Args), s.file, s.space, s.in); d != nil {
		t.Model, t.Name = p.modelOf(d), d.name
		if d.outer != nil && len(t.Args) < len(d.params) { // of the types around
			t.Args = nil
			for _, g := range d.params {
				t.Args = append(t.Args, &model.Type{Kind: model.Param, Name: g, Linked: true})
			}
		}
		return t
	}
	simple := model.SimpleName(name)
	if kind, ok := collections[simple]; ok {
		switch {
		case kind == model.Map && len(t.Args) == 2, kind != model.Map && len(t.Args) == 1:
			t.Kind, t.Name, t.Class = kind, "", simple
			return t
		}
	}
	switch n := len(t.Args); {
	case simple == "Nullable" && n == 1:
		return &model.Type{Kind: model.Optional, Args: t.Args, Linked: true, Pos: t.Pos}
	case (simple == "Task" || simple == "ValueTask") && n == 1:
		return t.Args[0]
	case (simple == "ValueTuple" || simple == "Tuple") && n > 1:
		t.Kind = model.Tuple
		return t
	case n == 0 && short[simple] != "":
		t.Name = short[simple]
	case functionOf(t) != nil:
		f := functionOf(t)
		f.Linked = true
		return f
	default:
		t.Name = simple
		if name != simple && n == 0 && libraryTypes[simple] != "" {
			t.Name = simple
		}
	}
	return t
}

// libraryTypes are types of libraries that fields are declared with, by the namespace.
var libraryTypes = map[string]string{
	"JsonElement": "System.Text.Json", "JsonDocument": "System.Text.Json", "JsonNode": "System.Text.Json.Nodes", "JsonObject": "System.Text.Json.Nodes", "JsonArray": "System.Text.Json.Nodes",
	"JsonValue": "System.Text.Json.Nodes", "JToken": "Newtonsoft.Json.Linq", "JObject": "Newtonsoft.Json.Linq", "JArray": "Newtonsoft.Json.Linq", "JValue": "Newtonsoft.Json.Linq",
}

// bindNamed replaces names in a type, as a generic delegate's.
func bindNamed(t *model.Type, env map[string]*model.Type) *model.Type {
	if len(t.Args) == 0 {
		if to := env[t.Name]; to != nil {
			return to
		}
		return t
	}
	out := *t
	out.Args = nil
	for _, a := range t.Args {
		out.Args = append(out.Args, bindNamed(a, env))
	}
	return &out
}

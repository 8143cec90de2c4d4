package eval

import "vetta/internal/decoder"

// entryNames are what Kotlin calls the two halves of an entry of a map.
var entryNames = []string{"key", "value"}

// entry is one key of a map with its value.
func entry(key string, v Value) Value {
	return Value{Items: &[]Value{Text(key), v}, Names: entryNames}
}

// halves are what a closure with two parameters takes apart: an entry, or a pair.
func halves(v Value) (first, second Value, ok bool) {
	if v.Items == nil || len(*v.Items) != 2 || len(v.Names) != 2 || v.Names[0] != "key" && v.Names[0] != "first" {
		return Value{}, Value{}, false
	}
	return (*v.Items)[0], (*v.Items)[1], true
}

// mapMethod is a method of a map whose keys are texts, but for those that look up a key.
func (m *machine) mapMethod(of Value, name string, args []Value) (Value, bool, error) {
	items := *of.Items
	switch {
	case name == "size":
		return Int(int64(len(items))), true, nil
	case name == "isEmpty" || name == "isNotEmpty":
		return Bool(len(items) == 0 == (name == "isEmpty")), true, nil
	case name == "isNullOrEmpty":
		return Bool(len(items) == 0), true, nil
	case name == "toMap" || name == "toMutableMap" || name == "orEmpty":
		return keyed(of.Names, items), true, nil
	case name == "keys" || name == "keySet":
		var keys []Value
		for _, k := range of.Names {
			keys = append(keys, Text(k))
		}
		return unique(keys), true, nil
	case name == "values":
		return List(items...), true, nil
	case name == "entries" || name == "entrySet":
		return List(entries(of)...), true, nil
	case (name == "get" || name == "getValue" || name == "containsKey" || name == "minus" || name == "getOrDefault" && len(args) == 2) && len(args) > 0:
		return m.keyIn(of, name, args)
	case len(args) != 1 || args[0].fn == nil:
		return Value{}, false, nil
	}
	return m.eachEntry(of, name, args[0].fn)
}

func keyed(names []string, items []Value) Value {
	out := append([]Value{}, items...)
	return Value{Items: &out, Names: append([]string{}, names...)}
}

func entries(of Value) (all []Value) {
	for i, k := range of.Names {
		all = append(all, entry(k, (*of.Items)[i]))
	}
	return all
}

// keyIn does what is done with one key.
func (m *machine) keyIn(of Value, name string, args []Value) (Value, bool, error) {
	key, known := m.written(args[0])
	if !known {
		return Value{}, false, nil
	}
	at := -1
	for i, n := range of.Names {
		if n == key {
			at = i
		}
	}
	switch {
	case name == "containsKey":
		return Bool(at >= 0), true, nil
	case name == "minus":
		out := keyed(nil, nil)
		for i, n := range of.Names {
			if i != at {
				out.Names, *out.Items = append(out.Names, n), append(*out.Items, (*of.Items)[i])
			}
		}
		return out, true, nil
	case at >= 0:
		return (*of.Items)[at], true, nil
	case name == "getValue":
		return Value{}, true, &Thrown{Class: "NoSuchElementException", Message: "Key " + key + " is missing in the map."}
	case name == "getOrDefault":
		return args[1], true, nil
	}
	return Value{}, true, nil
}

// eachEntry calls a closure for every entry: what makes a map of them stands here, the rest is done with the entries as
// with any list.
func (m *machine) eachEntry(of Value, name string, fn *closure) (Value, bool, error) {
	out := keyed(nil, nil)
	for i, key := range of.Names {
		item := (*of.Items)[i]
		given := entry(key, item)
		switch name {
		case "filterValues":
			given = item
		case "filterKeys":
			given = Text(key)
		case "filter", "filterNot", "mapValues":
		default:
			return m.listMethod(List(entries(of)...), name, []Value{{fn: fn}})
		}
		v, err := m.call(fn, nil, given)
		if err != nil {
			return Value{}, true, err
		}
		switch holds := v.Seen.Kind == decoder.SeenBool && v.Seen.Text == "true"; {
		case name == "mapValues":
			item = v
		case holds == (name == "filterNot"):
			continue
		}
		out.Names, *out.Items = append(out.Names, key), append(*out.Items, item)
	}
	return out, true, nil
}

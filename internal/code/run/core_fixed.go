package run

// The methods that change a list, by what a constant or unmodifiable one says to them, and those that change a set or a
// map.
var (
	adding    = words("add addAll insert insertAll")
	removing  = words("remove removeAt removeLast removeWhere removeRange retainWhere removeAll retainAll")
	modifying = words("[]= sort shuffle setAll setRange fillRange")
	mapChange = words("[]= remove addAll addEntries clear putIfAbsent update updateAll removeWhere")
)

// refused is what a constant or unmodifiable collection throws at what would change it, nil for nothing.
func refused(of Value, name string, pos codePos) *Thrown {
	why := ""
	switch of.Kind {
	case Lists:
		l := of.list()
		change := adding[name] || removing[name] || name == "clear"
		switch {
		case !l.Fixed:
		case l.Kind == "Set" && change:
			why = "Cannot change an unmodifiable set"
		case l.Kind == "Set":
		case adding[name]:
			why = "Cannot add to an unmodifiable list"
		case removing[name]:
			why = "Cannot remove from an unmodifiable list"
		case name == "clear":
			why = "Cannot clear an unmodifiable list"
		case modifying[name]:
			why = "Cannot modify an unmodifiable list"
		}
	case Maps:
		if of.dict().Fixed && mapChange[name] {
			why = "Cannot modify unmodifiable map"
		}
	}
	if why == "" {
		return nil
	}
	return &Thrown{Class: "UnsupportedError", Message: "Unsupported operation: " + why, At: of.At, Pos: pos}
}

// fixedAs makes what a constructor of a list, set or map yields one that cannot be changed, where its name says so.
func fixedAs(name string) func(Value, error) (Value, error) {
	return func(v Value, err error) (Value, error) {
		if err == nil && name == "unmodifiable" {
			switch v.Kind {
			case Lists:
				v.list().Fixed = true
			case Maps:
				v.dict().Fixed = true
			}
		}
		return v, err
	}
}

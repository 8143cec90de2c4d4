package sharp

import (
	"slices"
	"strings"

	"vetta/internal/code"
	"vetta/internal/model"
)

// linq are methods of sequences, which throw where there is none.
var linq = func() map[string]bool {
	all := map[string]bool{}
	for _, name := range strings.Fields("Select SelectMany Where ToList ToArray ToDictionary ToHashSet First FirstOrDefault Single SingleOrDefault Last LastOrDefault Any All Count Sum Max Min Average OrderBy OrderByDescending Distinct Skip Take Concat GroupBy ToLookup OfType Cast Zip Reverse Aggregate DefaultIfEmpty Contains Union") {
		all[name] = true
	}
	return all
}()

// sequence is a call of a method of a list, a map, or whatever else has elements.
func (m *Machine) sequence(of Value, name string, args []Value, x *code.Expr, f *frame) (Value, bool, error) {
	if of.Kind == Entries {
		if v, known, err := m.mapCall(of, name, args, x); known || err != nil {
			return v, known, err
		}
	}
	if of.Kind == Items {
		if v, known, err := m.listCall(of, name, args, x); known || err != nil {
			return v, known, err
		}
	}
	items, err := m.each(of, x.Pos)
	if err != nil {
		return Value{}, false, err
	}
	call := func(i int, given ...Value) (Value, error) {
		c, ok := args[i].Ref.(*closure)
		if ok && c.fn != nil && c.class == nil && len(given) > len(c.fn.Params) {
			given = given[:len(c.fn.Params)]
		}
		return m.apply(args[i], given, x)
	}
	isFn := func(i int) bool { return i < len(args) && args[i].Kind == Function }
	test := func(i int, v Value) (bool, error) {
		out, err := call(i, v)
		return out.isTrue(), err
	}
	filtered := func() ([]Value, error) {
		if !isFn(0) {
			return items, nil
		}
		var out []Value
		for _, v := range items {
			yes, err := test(0, v)
			if err != nil {
				return nil, err
			}
			if yes {
				out = append(out, v)
			}
		}
		return out, nil
	}
	switch name {
	case "Select":
		l := &list{}
		for i, v := range items {
			given := []Value{v}
			if c, ok := args[0].Ref.(*closure); ok && c.fn != nil && c.class == nil && len(c.fn.Params) == 2 {
				given = append(given, IntOf(int64(i)))
			}
			out, err := m.apply(args[0], given, x)
			if err != nil {
				return Value{}, true, err
			}
			l.items = append(l.items, out)
		}
		return Value{Kind: Items, Ref: l}, true, nil
	case "SelectMany":
		l := &list{}
		for _, v := range items {
			inner, err := call(0, v)
			if err != nil {
				return Value{}, true, err
			}
			more, err := m.each(inner, x.Pos)
			if err != nil {
				return Value{}, true, err
			}
			for _, in := range more {
				if isFn(1) {
					if in, err = m.apply(args[1], []Value{v, in}, x); err != nil {
						return Value{}, true, err
					}
				}
				l.items = append(l.items, in)
			}
		}
		return Value{Kind: Items, Ref: l}, true, nil
	case "Where":
		out, err := filtered()
		return listOf(out), true, err
	case "ToList", "ToArray", "ToImmutableArray", "ToImmutableList", "AsArray":
		l := &list{items: items}
		if name == "ToArray" {
			l.kind = "array"
		}
		return Value{Kind: Items, Ref: l}, true, nil
	case "ToHashSet", "Distinct", "ToImmutableHashSet":
		return Value{Kind: Items, Ref: &list{items: unique(items), set: name != "Distinct"}}, true, nil
	case "ToDictionary":
		en := &entries{fold: hasWord(args, "OrdinalIgnoreCase")}
		for _, v := range items {
			k, val := v, v
			if isFn(0) {
				if k, err = call(0, v); err != nil {
					return Value{}, true, err
				}
			} else if p, ok := v.Ref.(*pair); ok {
				k, val = p.key, p.val
			}
			if isFn(1) {
				if val, err = call(1, v); err != nil {
					return Value{}, true, err
				}
			}
			if k.IsNull() {
				return Value{}, true, m.throw("ArgumentNullException", "Value cannot be null. (Parameter 'key')")
			}
			if en.find(k) >= 0 {
				return Value{}, true, m.throw("ArgumentException", "An item with the same key has already been added. Key: "+plainText(k))
			}
			en.keys, en.vals = append(en.keys, k), append(en.vals, val)
		}
		return Value{Kind: Entries, Ref: en}, true, nil
	case "First", "FirstOrDefault", "Single", "SingleOrDefault", "Last", "LastOrDefault":
		found, err := filtered()
		if err != nil {
			return Value{}, true, err
		}
		switch {
		case len(found) == 0 && strings.HasSuffix(name, "OrDefault"):
			if len(args) > 0 && !isFn(len(args)-1) {
				return args[len(args)-1], true, nil
			}
			if l := of.list(); l != nil && l.of != nil {
				return m.zero(l.of), true, nil
			}
			if len(items) > 0 {
				if t := m.typeOfValue(items[0]); t != nil {
					return m.zero(t), true, nil
				}
			}
			return Value{}, true, nil
		case len(found) == 0:
			if isFn(0) {
				return Value{}, true, m.throw("InvalidOperationException", "Sequence contains no matching element")
			}
			return Value{}, true, m.throw("InvalidOperationException", "Sequence contains no elements")
		case len(found) > 1 && strings.HasPrefix(name, "Single"):
			return Value{}, true, m.throw("InvalidOperationException", "Sequence contains more than one element")
		case strings.HasPrefix(name, "Last"):
			return found[len(found)-1], true, nil
		}
		return found[0], true, nil
	case "Any":
		found, err := filtered()
		return BoolOf(len(found) > 0), true, err
	case "All":
		for _, v := range items {
			yes, err := test(0, v)
			if err != nil || !yes {
				return BoolOf(false), true, err
			}
		}
		return BoolOf(true), true, nil
	case "Count", "LongCount":
		found, err := filtered()
		return IntOf(int64(len(found))), true, err
	case "Contains":
		if len(args) >= 1 {
			fold := hasWord(args, "OrdinalIgnoreCase")
			return BoolOf(slices.ContainsFunc(items, func(v Value) bool {
				return same(v, args[0]) || fold && v.Kind == String && strings.EqualFold(v.Text, args[0].Text)
			})), true, nil
		}
	case "Sum", "Max", "Min", "Average":
		var total Value
		for i, v := range items {
			if isFn(0) {
				if v, err = call(0, v); err != nil {
					return Value{}, true, err
				}
			}
			switch {
			case i == 0:
				total = v
			case name == "Sum" || name == "Average":
				if total, err = m.operate("+", total, v, x); err != nil {
					return Value{}, true, err
				}
			default:
				more, err := m.operate(map[string]string{"Max": ">", "Min": "<"}[name], v, total, x)
				if err != nil {
					return Value{}, true, err
				}
				if more.isTrue() {
					total = v
				}
			}
		}
		if len(items) == 0 {
			if name == "Sum" {
				return IntOf(0), true, nil
			}
			return Value{}, true, m.throw("InvalidOperationException", "Sequence contains no elements")
		}
		if name == "Average" {
			n, _ := total.number()
			return floatOf(n / float64(len(items))), true, nil
		}
		return total, true, nil
	case "OrderBy", "OrderByDescending", "ThenBy", "ThenByDescending", "Order", "OrderDescending":
		type keyed struct{ k, v Value }
		all := make([]keyed, len(items))
		for i, v := range items {
			all[i] = keyed{v, v}
			if isFn(0) {
				if all[i].k, err = call(0, v); err != nil {
					return Value{}, true, err
				}
			}
		}
		if strings.HasPrefix(name, "Then") {
			return Value{}, false, nil
		}
		var failed error
		slices.SortStableFunc(all, func(a, b keyed) int {
			c := 0
			switch {
			case a.k.Kind == String && b.k.Kind == String:
				c = strings.Compare(strings.ToLower(a.k.Text), strings.ToLower(b.k.Text))
				if c == 0 {
					c = -strings.Compare(a.k.Text, b.k.Text)
				}
			case a.k.IsNull() || b.k.IsNull():
				if !b.k.IsNull() {
					c = -1
				} else if !a.k.IsNull() {
					c = 1
				}
			default:
				lt, err := m.operate("<", a.k, b.k, x)
				if err != nil {
					failed = err
				}
				gt, _ := m.operate(">", a.k, b.k, x)
				c = int(gt.Int - lt.Int)
			}
			if strings.HasSuffix(name, "Descending") {
				c = -c
			}
			return c
		})
		if failed != nil {
			return Value{}, true, failed
		}
		l := &list{}
		for _, k := range all {
			l.items = append(l.items, k.v)
		}
		return Value{Kind: Items, Ref: l}, true, nil
	case "Skip", "Take":
		if len(args) != 1 || args[0].Kind != Int {
			break
		}
		n := min(max(int(args[0].Int), 0), len(items))
		if name == "Skip" {
			return listOf(items[n:]), true, nil
		}
		return listOf(items[:n]), true, nil
	case "Concat", "Union", "Append", "Prepend":
		if len(args) != 1 {
			break
		}
		more := []Value{args[0]}
		if name == "Concat" || name == "Union" {
			if more, err = m.each(args[0], x.Pos); err != nil {
				return Value{}, true, err
			}
		}
		if name == "Prepend" {
			return listOf(append(more, items...)), true, nil
		}
		out := append(items, more...)
		if name == "Union" {
			out = unique(out)
		}
		return listOf(out), true, nil
	case "Reverse":
		slices.Reverse(items)
		return listOf(items), true, nil
	case "Values":
		if len(x.Types) == 1 && len(args) == 0 {
			return m.tokenValues(items, m.typ(x.Types[0], f))
		}
	case "OfType", "Cast":
		if len(x.Types) != 1 {
			break
		}
		t := m.typ(x.Types[0], f)
		l := &list{}
		for _, v := range items {
			is, err := m.isOf(v, t, x)
			if err != nil {
				return Value{}, true, err
			}
			if is || name == "Cast" {
				l.items = append(l.items, v)
			}
		}
		return Value{Kind: Items, Ref: l}, true, nil
	case "GroupBy", "ToLookup":
		var keys []Value
		var groups [][]Value
		for _, v := range items {
			k, err := call(0, v)
			if err != nil {
				return Value{}, true, err
			}
			if isFn(1) {
				if v, err = call(1, v); err != nil {
					return Value{}, true, err
				}
			}
			i := slices.IndexFunc(keys, func(o Value) bool { return same(o, k) })
			if i < 0 {
				i = len(keys)
				keys, groups = append(keys, k), append(groups, nil)
			}
			groups[i] = append(groups[i], v)
		}
		l := &list{}
		for i, k := range keys {
			l.items = append(l.items, Value{Kind: Host, Ref: &group{k, groups[i]}})
		}
		return Value{Kind: Items, Ref: l}, true, nil
	case "Aggregate":
		if len(args) >= 2 && isFn(1) {
			acc := args[0]
			for _, v := range items {
				if acc, err = m.apply(args[1], []Value{acc, v}, x); err != nil {
					return Value{}, true, err
				}
			}
			return acc, true, nil
		}
	case "Zip":
		if len(args) >= 1 {
			more, err := m.each(args[0], x.Pos)
			if err != nil {
				return Value{}, true, err
			}
			l := &list{}
			for i := range min(len(items), len(more)) {
				v := Value{Kind: Tuple, Ref: &list{items: []Value{items[i], more[i]}}}
				if isFn(1) {
					if v, err = m.apply(args[1], []Value{items[i], more[i]}, x); err != nil {
						return Value{}, true, err
					}
				}
				l.items = append(l.items, v)
			}
			return Value{Kind: Items, Ref: l}, true, nil
		}
	case "DefaultIfEmpty":
		if len(items) > 0 {
			return listOf(items), true, nil
		}
	case "ElementAt", "ElementAtOrDefault":
		if len(args) == 1 && args[0].Kind == Int {
			i := args[0].Int
			if i >= 0 && i < int64(len(items)) {
				return items[i], true, nil
			}
			if name == "ElementAtOrDefault" {
				return Value{}, true, nil
			}
			return Value{}, true, m.throw("ArgumentOutOfRangeException", "Index was out of range. Must be non-negative and less than the size of the collection. (Parameter 'index')")
		}
	case "SequenceEqual":
		if len(args) == 1 {
			more, err := m.each(args[0], x.Pos)
			if err != nil {
				return Value{}, true, err
			}
			return BoolOf(slices.EqualFunc(items, more, same)), true, nil
		}
	}
	return Value{}, false, nil
}

// group are the elements of one key.
type group struct {
	key Value
	all []Value
}

func (g *group) items(*Machine) ([]Value, error) { return g.all, nil }

func (g *group) call(m *Machine, name string, args []Value, _ []*model.Type, x *code.Expr, f *frame) (Value, bool, error) {
	if name == "Key" {
		return g.key, true, nil
	}
	if args == nil {
		return Value{}, false, nil
	}
	return m.sequence(listOf(g.all), name, args, x, f)
}

func (m *Machine) listCall(of Value, name string, args []Value, x *code.Expr) (Value, bool, error) {
	l := of.list()
	switch name {
	case "Add", "Enqueue", "AddLast":
		if len(args) == 1 {
			v := args[0]
			if l.of != nil {
				var err error
				if v, err = m.convert(v, l.of, &frame{}, false); err != nil {
					return v, true, err
				}
			}
			if l.set && slices.ContainsFunc(l.items, func(o Value) bool { return same(o, v) }) {
				return BoolOf(false), true, nil
			}
			l.items = append(l.items, v)
			return BoolOf(true), true, nil
		}
	case "Push", "AddFirst":
		if len(args) == 1 {
			l.items = append([]Value{args[0]}, l.items...)
			return Value{}, true, nil
		}
	case "AddRange":
		if len(args) == 1 {
			if args[0].IsNull() {
				return Value{}, true, m.throw("ArgumentNullException", "Value cannot be null. (Parameter 'collection')")
			}
			more, err := m.each(args[0], x.Pos)
			l.items = append(l.items, more...)
			return Value{}, true, err
		}
	case "Insert":
		if len(args) == 2 && args[0].Kind == Int && args[0].Int >= 0 && int(args[0].Int) <= len(l.items) {
			l.items = slices.Insert(l.items, int(args[0].Int), args[1])
			return Value{}, true, nil
		}
	case "Clear":
		l.items = nil
		return Value{}, true, nil
	case "RemoveAt":
		if len(args) == 1 && args[0].Kind == Int {
			if args[0].Int < 0 || int(args[0].Int) >= len(l.items) {
				return Value{}, true, m.throw("ArgumentOutOfRangeException", "Index was out of range. Must be non-negative and less than the size of the collection. (Parameter 'index')")
			}
			l.items = slices.Delete(l.items, int(args[0].Int), int(args[0].Int)+1)
			return Value{}, true, nil
		}
	case "Remove":
		if len(args) == 1 {
			for i, v := range l.items {
				if same(v, args[0]) {
					l.items = slices.Delete(l.items, i, i+1)
					return BoolOf(true), true, nil
				}
			}
			return BoolOf(false), true, nil
		}
	case "IndexOf":
		if len(args) == 1 {
			return IntOf(int64(slices.IndexFunc(l.items, func(v Value) bool { return same(v, args[0]) }))), true, nil
		}
	case "ForEach":
		if len(args) == 1 {
			for _, v := range l.items {
				if _, err := m.apply(args[0], []Value{v}, x); err != nil {
					return Value{}, true, err
				}
			}
			return Value{}, true, nil
		}
	case "Exists":
		for _, v := range l.items {
			out, err := m.apply(args[0], []Value{v}, x)
			if err != nil || out.isTrue() {
				return out, true, err
			}
		}
		return BoolOf(false), true, nil
	case "Find":
		for _, v := range l.items {
			out, err := m.apply(args[0], []Value{v}, x)
			if err != nil || out.isTrue() {
				return v, true, err
			}
		}
		return Value{}, true, nil
	case "ConvertAll":
		out := &list{}
		for _, v := range l.items {
			made, err := m.apply(args[0], []Value{v}, x)
			if err != nil {
				return made, true, err
			}
			out.items = append(out.items, made)
		}
		return Value{Kind: Items, Ref: out}, true, nil
	}
	return Value{}, false, nil
}

func (m *Machine) mapCall(of Value, name string, args []Value, x *code.Expr) (Value, bool, error) {
	e := of.entries()
	if len(args) == 0 {
		if name == "Clear" {
			e.keys, e.vals = nil, nil
			return Value{}, true, nil
		}
		return Value{}, false, nil
	}
	k := args[0]
	switch name {
	case "ContainsKey":
		return BoolOf(e.find(k) >= 0), true, nil
	case "TryGetValue":
		if i := e.find(k); i >= 0 {
			put(args, 1, e.vals[i])
			return BoolOf(true), true, nil
		}
		zero, _ := e.zero(m)
		put(args, 1, zero)
		return BoolOf(false), true, nil
	case "GetValueOrDefault":
		if i := e.find(k); i >= 0 {
			return e.vals[i], true, nil
		}
		if len(args) > 1 {
			return args[1], true, nil
		}
		zero, told := e.zero(m)
		if !told {
			return Value{}, true, unfollowed("a value that stands for none", x.Pos)
		}
		return zero, true, nil
	case "Add", "TryAdd":
		if len(args) != 2 {
			return Value{}, false, nil
		}
		if k.IsNull() {
			return Value{}, true, m.throw("ArgumentNullException", "Value cannot be null. (Parameter 'key')")
		}
		if e.find(k) >= 0 {
			if name == "TryAdd" {
				return BoolOf(false), true, nil
			}
			return Value{}, true, m.throw("ArgumentException", "An item with the same key has already been added. Key: "+plainText(k))
		}
		e.keys, e.vals = append(e.keys, k), append(e.vals, args[1])
		return BoolOf(true), true, nil
	case "Remove":
		if i := e.find(k); i >= 0 {
			put(args, 1, e.vals[i])
			e.keys, e.vals = slices.Delete(e.keys, i, i+1), slices.Delete(e.vals, i, i+1)
			return BoolOf(true), true, nil
		}
		return BoolOf(false), true, nil
	}
	return Value{}, false, nil
}

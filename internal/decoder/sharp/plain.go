package sharp

import (
	"slices"
	"strings"
	"unicode/utf16"

	"vetta/internal/code"
	"vetta/internal/decoder"
	"vetta/internal/decoder/clr"
	"vetta/internal/model"
)

// plainMember is a property of a value of the platform.
func (m *Machine) plainMember(of Value, name string, x *code.Expr) (Value, bool, error) {
	switch of.Kind {
	case String:
		if name == "Length" {
			return IntOf(int64(len(utf16.Encode([]rune(of.Text))))), true, nil
		}
	case Items:
		switch name {
		case "Count", "Length":
			return IntOf(int64(len(of.list().items))), true, nil
		}
	case Entries:
		e := of.entries()
		switch name {
		case "Count":
			return IntOf(int64(len(e.keys))), true, nil
		case "Keys":
			return listOf(slices.Clone(e.keys)), true, nil
		case "Values":
			return listOf(slices.Clone(e.vals)), true, nil
		}
	case Plain:
		return datePart(of, name)
	}
	if name == "HasValue" {
		return BoolOf(true), true, nil
	}
	if name == "Value" && of.Kind != Unknown && x.Op == code.Member {
		return of, true, nil
	}
	if of.Kind == Unknown {
		return Value{}, false, nil
	}
	// a group of methods: text.Trim
	return Value{Kind: Function, Ref: &closure{host: func(args []Value) (Value, error) {
		v, known, err := m.plainCall(of, name, args, x, &frame{})
		if err == nil && !known {
			err = unfollowed("a call of "+name, x.Pos)
		}
		return v, err
	}}}, true, nil
}

// datePart is a part of a date or a span.
func datePart(of Value, name string) (Value, bool, error) {
	s := of.Seen.Text
	digits := func(from, to int) (Value, bool, error) {
		if len(s) < to {
			return Value{}, false, nil
		}
		n := int64(0)
		for _, c := range s[from:to] {
			n = n*10 + int64(c-'0')
		}
		return IntOf(n), true, nil
	}
	switch of.Of {
	case "DateTime", "DateTimeOffset", "DateOnly":
		switch name {
		case "Year":
			return digits(0, 4)
		case "Month":
			return digits(5, 7)
		case "Day":
			return digits(8, 10)
		case "Hour":
			return digits(11, 13)
		case "Minute":
			return digits(14, 16)
		case "Second":
			return digits(17, 19)
		case "Date":
			v := of
			v.Of = "DateTime"
			v.Seen.Text = s[:10] + "T00:00:00.0000000"
			return v, true, nil
		case "DateTime", "UtcDateTime":
			v := of
			v.Of = "DateTime"
			if name == "UtcDateTime" {
				v.Seen = clr.Local(of.Seen, zoneOf(s))
				v.Seen.Text = strings.TrimSuffix(v.Seen.Text, "+00:00")
				if !strings.HasSuffix(v.Seen.Text, "Z") {
					v.Seen.Text += "Z"
				}
			} else {
				v.Seen.Text = s[:len(s)-6]
			}
			return v, true, nil
		}
	}
	return Value{}, false, nil
}

// plainCall is a call of a method of a value of the platform.
func (m *Machine) plainCall(of Value, name string, args []Value, x *code.Expr, f *frame) (Value, bool, error) {
	switch name {
	case "ToString":
		if len(args) == 0 || args[0].Kind == Host {
			s, err := m.written(of, f, x)
			return TextOf(s), err == nil, nil
		}
		if args[0].Kind == String {
			v, err := m.formatted(of, args[0].Text, x)
			return v, err == nil, nil
		}
	case "Equals":
		if len(args) > 0 {
			if of.Kind == String && (hasWord(args, "OrdinalIgnoreCase") || hasWord(args, "InvariantCultureIgnoreCase")) {
				return BoolOf(args[0].Kind == String && strings.EqualFold(of.Text, args[0].Text)), true, nil
			}
			return BoolOf(same(of, args[0])), true, nil
		}
	case "GetValueOrDefault":
		if of.Kind == Entries {
			break
		}
		if of.IsNull() {
			if len(args) > 0 {
				return args[0], true, nil
			}
			return Value{}, false, nil
		}
		return of, true, nil
	case "ConfigureAwait", "AsEnumerable", "AsReadOnly", "AsQueryable", "AsSpan":
		return of, true, nil
	case "GetType":
		return Value{}, false, nil
	case "HasFlag":
		if of.Kind == Enum && len(args) == 1 {
			return BoolOf(of.Int&args[0].Int == args[0].Int), true, nil
		}
	case "CompareTo":
		if len(args) == 1 {
			lt, err := m.operate("<", of, args[0], x)
			if of.Kind == String {
				return IntOf(int64(strings.Compare(of.Text, args[0].Text))), true, nil
			}
			if err != nil {
				return lt, false, nil
			}
			gt, _ := m.operate(">", of, args[0], x)
			return IntOf(gt.Int - lt.Int), true, nil
		}
	}
	switch of.Kind {
	case String:
		return m.stringCall(of, name, args, x, f)
	case Items, Entries, Tuple:
		return m.sequence(of, name, args, x, f)
	case Plain:
		return m.dateCall(of, name, args)
	}
	return Value{}, false, nil
}

func (m *Machine) dateCall(of Value, name string, args []Value) (Value, bool, error) {
	switch name {
	case "ToUniversalTime", "ToLocalTime":
		if of.Of == "DateTime" || of.Of == "DateTimeOffset" {
			v := of
			v.Seen = clr.Local(of.Seen, zoneText(of.Seen.Text))
			if of.Of == "DateTime" && !strings.HasSuffix(v.Seen.Text, "Z") {
				v.Seen.Text += "Z"
			}
			return v, name == "ToUniversalTime", nil
		}
	case "AddSeconds", "AddMinutes", "AddHours", "AddDays", "AddMilliseconds":
		if n, ok := args[0].number(); ok && len(args) == 1 && (of.Of == "DateTime" || of.Of == "DateTimeOffset") {
			unit := map[string]float64{"AddSeconds": 1, "AddMinutes": 60, "AddHours": 3600, "AddDays": 86400, "AddMilliseconds": 0.001}[name]
			zone := zoneText(of.Seen.Text)
			s := clr.UnixMilli(int64((of.Seen.Seconds + n*unit) * 1000))
			s.Text = strings.TrimSuffix(s.Text, "Z") + zone
			return plainOf(of.Of, s), zone == "Z" || zone == "" || zone == "+00:00", nil
		}
	case "ToUnixTimeSeconds":
		return numberOf(int64(of.Seen.Seconds), "long"), of.Of == "DateTimeOffset", nil
	}
	return Value{}, false, nil
}

func zoneText(s string) string {
	if strings.HasSuffix(s, "Z") {
		return "Z"
	}
	if len(s) > 27 && (s[len(s)-6] == '+' || s[len(s)-6] == '-') {
		return s[len(s)-6:]
	}
	return ""
}

func (m *Machine) stringCall(of Value, name string, args []Value, x *code.Expr, f *frame) (Value, bool, error) {
	s := of.Text
	arg := func(i int) (string, bool) {
		if i < len(args) && (args[i].Kind == String || args[i].Kind == Char) {
			return args[i].Text, true
		}
		return "", false
	}
	fold := hasWord(args, "OrdinalIgnoreCase") || hasWord(args, "InvariantCultureIgnoreCase") || hasWord(args, "CurrentCultureIgnoreCase")
	a, ok := arg(0)
	folded := func(t string) string {
		if fold {
			return strings.ToUpper(t)
		}
		return t
	}
	switch name {
	case "ToLower", "ToLowerInvariant":
		return TextOf(strings.ToLower(s)), true, nil
	case "ToUpper", "ToUpperInvariant":
		return TextOf(strings.ToUpper(s)), true, nil
	case "Trim", "TrimStart", "TrimEnd":
		cut := ""
		for i := range args {
			c, ok := arg(i)
			if !ok {
				return Value{}, false, nil
			}
			cut += c
		}
		if cut == "" {
			cut = " \t\r\n\v\f\u00a0"
		}
		switch name {
		case "Trim":
			return TextOf(strings.Trim(s, cut)), true, nil
		case "TrimStart":
			return TextOf(strings.TrimLeft(s, cut)), true, nil
		}
		return TextOf(strings.TrimRight(s, cut)), true, nil
	case "Contains":
		return BoolOf(strings.Contains(folded(s), folded(a))), ok, nil
	case "StartsWith":
		return BoolOf(strings.HasPrefix(folded(s), folded(a))), ok, nil
	case "EndsWith":
		return BoolOf(strings.HasSuffix(folded(s), folded(a))), ok, nil
	case "IndexOf", "LastIndexOf":
		if !ok {
			break
		}
		i := strings.Index(folded(s), folded(a))
		if name == "LastIndexOf" {
			i = strings.LastIndex(folded(s), folded(a))
		}
		if i > 0 {
			i = len(utf16.Encode([]rune(s[:i])))
		}
		return IntOf(int64(i)), true, nil
	case "Replace":
		if b, ok2 := arg(1); ok && ok2 && a != "" {
			return TextOf(strings.ReplaceAll(s, a, b)), true, nil
		}
		if ok && len(args) > 1 && args[1].IsNull() && a != "" {
			return TextOf(strings.ReplaceAll(s, a, "")), true, nil
		}
	case "Substring":
		units := utf16.Encode([]rune(s))
		if len(args) == 0 || args[0].Kind != Int {
			break
		}
		from, to := args[0].Int, int64(len(units))
		if len(args) > 1 {
			to = from + args[1].Int
		}
		if from < 0 || to > int64(len(units)) || from > to {
			return Value{}, true, m.throw("ArgumentOutOfRangeException", "Index and length must refer to a location within the string.")
		}
		return TextOf(string(utf16.Decode(units[from:to]))), true, nil
	case "Split":
		seps := []string{}
		for i := range args {
			if t, ok := arg(i); ok {
				seps = append(seps, t)
			} else if args[i].Kind == Items {
				for _, v := range args[i].list().items {
					seps = append(seps, v.Text)
				}
			}
		}
		if len(seps) == 0 {
			seps = []string{" "}
		}
		parts := []string{s}
		for _, sep := range seps {
			var next []string
			for _, p := range parts {
				next = append(next, strings.Split(p, sep)...)
			}
			parts = next
		}
		l := &list{kind: "array"}
		for _, p := range parts {
			if hasWord(args, "TrimEntries") {
				p = strings.TrimSpace(p)
			}
			if p == "" && hasWord(args, "RemoveEmptyEntries") {
				continue
			}
			l.items = append(l.items, TextOf(p))
		}
		return Value{Kind: Items, Ref: l}, true, nil
	case "PadLeft", "PadRight":
		if len(args) == 0 || args[0].Kind != Int {
			break
		}
		pad := " "
		if len(args) > 1 {
			pad = args[1].Text
		}
		for int64(len([]rune(s))) < args[0].Int && args[0].Int < 10000 {
			if name == "PadLeft" {
				s = pad + s
			} else {
				s += pad
			}
		}
		return TextOf(s), true, nil
	case "ToCharArray":
		items, _ := m.each(of, x.Pos)
		return Value{Kind: Items, Ref: &list{items: items, kind: "array"}}, true, nil
	case "Remove":
		if len(args) == 1 && args[0].Kind == Int && args[0].Int >= 0 && int(args[0].Int) <= len(s) {
			return TextOf(s[:args[0].Int]), true, nil
		}
	case "Insert":
		if len(args) == 2 && args[0].Kind == Int && args[0].Int >= 0 && int(args[0].Int) <= len(s) {
			return TextOf(s[:args[0].Int] + args[1].Text + s[args[0].Int:]), true, nil
		}
	}
	return m.sequence(of, name, args, x, f)
}

// each are the elements of what code goes through.
func (m *Machine) each(v Value, pos model.Pos) ([]Value, error) {
	switch v.Kind {
	case Null, Default:
		return nil, m.throw("NullReferenceException", "Object reference not set to an instance of an object.")
	case Items, Tuple:
		return slices.Clone(v.list().items), nil
	case Entries:
		e := v.entries()
		var out []Value
		for i, k := range e.keys {
			out = append(out, pairOf(k, e.vals[i]))
		}
		return out, nil
	case String:
		var out []Value
		for _, c := range v.Text {
			out = append(out, Value{Kind: Char, Text: string(c), Of: "char"})
		}
		return out, nil
	case Host:
		if h, ok := v.Ref.(interface {
			items(m *Machine) ([]Value, error)
		}); ok {
			return h.items(m)
		}
	}
	return nil, unfollowed("what is gone through", pos)
}

// pair is a KeyValuePair.
type pair struct{ key, val Value }

func pairOf(k, v Value) Value { return Value{Kind: Host, Ref: &pair{k, v}} }

func (p *pair) seen() decoder.Seen {
	return decoder.Seen{Kind: decoder.SeenObject, Names: []string{"Key", "Value"}, Elems: []decoder.Seen{SeenOf(p.key), SeenOf(p.val)}}
}

func (p *pair) call(_ *Machine, name string, _ []Value, _ []*model.Type, _ *code.Expr, _ *frame) (Value, bool, error) {
	switch name {
	case "Key", "Item1":
		return p.key, true, nil
	case "Value", "Item2":
		return p.val, true, nil
	}
	return Value{}, false, nil
}

// ranged is a part of a text or an array: s[1..^1].
func (m *Machine) ranged(of Value, r *code.Expr, f *frame, e *env) (Value, error) {
	var length int64
	var units []rune
	switch of.Kind {
	case Null, Default:
		return Value{}, m.throw("NullReferenceException", "Object reference not set to an instance of an object.")
	case String:
		units = []rune(of.Text)
		length = int64(len(units))
	case Items:
		length = int64(len(of.list().items))
	default:
		return Value{}, unfollowed("a range", r.Pos)
	}
	bounds := [2]int64{0, length}
	for i, x := range r.Args {
		if x.Op == code.Other && len(x.Args) == 0 { // open at that end
			continue
		}
		v, err := m.expr(x, f, e, nil)
		switch {
		case err != nil:
			return v, err
		case v.Of == "end":
			bounds[i] = length - v.Int
		case v.Kind == Int:
			bounds[i] = v.Int
		default:
			return Value{}, unfollowed("a range", r.Pos)
		}
	}
	from, to := bounds[0], bounds[1]
	if from < 0 || to > length || from > to {
		return Value{}, m.throw("ArgumentOutOfRangeException", "Index and length must refer to a location within the string. (Parameter 'length')")
	}
	if of.Kind == String {
		return TextOf(string(units[from:to])), nil
	}
	l := *of.list()
	l.items = slices.Clone(l.items[from:to])
	return Value{Kind: Items, Ref: &l}, nil
}

// element is v[at].
func (m *Machine) element(of, at Value, x *code.Expr, f *frame) (Value, error) {
	switch of.Kind {
	case Null, Default:
		return Value{}, m.throw("NullReferenceException", "Object reference not set to an instance of an object.")
	case Cell:
		return m.element(*of.Ref.(*Value), at, x, f)
	case Items, Tuple:
		l := of.list()
		i := at.Int
		if at.Of == "end" {
			i = int64(len(l.items)) - at.Int
		}
		if at.Kind != Int && at.Of != "end" {
			break
		}
		if i < 0 || i >= int64(len(l.items)) {
			if l.kind == "array" {
				return Value{}, m.throw("IndexOutOfRangeException", "Index was outside the bounds of the array.")
			}
			return Value{}, m.throw("ArgumentOutOfRangeException", "Index was out of range. Must be non-negative and less than the size of the collection. (Parameter 'index')")
		}
		return l.items[i], nil
	case Entries:
		e := of.entries()
		if at.IsNull() {
			return Value{}, m.throw("ArgumentNullException", "Value cannot be null. (Parameter 'key')")
		}
		if i := e.find(at); i >= 0 {
			return e.vals[i], nil
		}
		return Value{}, m.throw("KeyNotFoundException", "The given key '"+plainText(at)+"' was not present in the dictionary.")
	case String:
		units := []rune(of.Text)
		i := at.Int
		if at.Of == "end" {
			i = int64(len(units)) - at.Int
		} else if at.Kind != Int {
			break
		}
		if i < 0 || i >= int64(len(units)) {
			return Value{}, m.throw("IndexOutOfRangeException", "Index was outside the bounds of the array.")
		}
		return Value{Kind: Char, Text: string(units[i]), Of: "char"}, nil
	case Host:
		if h, ok := of.Ref.(interface {
			index(m *Machine, at Value) (Value, bool, error)
		}); ok {
			v, known, err := h.index(m, at)
			if known || err != nil {
				return v, err
			}
		}
	case Instance:
		return Value{}, unfollowed("an indexer", x.Pos)
	}
	return Value{}, unfollowed("an element", x.Pos)
}

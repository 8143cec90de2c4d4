package sharp

import (
	"strings"

	"vetta/internal/code"
	"vetta/internal/decoder"
	"vetta/internal/decoder/clr"
	"vetta/internal/model"
	"vetta/internal/wire"
)

// tokenDate is a text that Newtonsoft's reader takes for a date.
func tokenDate(text string) (decoder.Seen, bool) {
	if len(text) < 19 || text[10] != 'T' || text[16] != ':' {
		return decoder.Seen{}, false
	}
	if n := len(text); n >= 24 && (text[n-5] == '+' || text[n-5] == '-') && text[n-3] != ':' {
		text = text[:n-2] + ":" + text[n-2:]
	}
	d, ok := clr.ParseISO(text)
	if !ok {
		return decoder.Seen{}, false
	}
	return clr.Local(d.Seen(), d.Zone), true
}

// tokenCast is an explicit conversion of a JToken: of its value, as Convert has it.
func (n *node) tokenCast(m *Machine, t *model.Type) (Value, bool, error) {
	u := t.Unwrapped()
	m.note(n.v)
	bytes := clr.IsBytes(u)
	fails := func() (Value, bool, error) {
		to := u.Name
		if bytes {
			to = "byte array"
		}
		return Value{}, true, m.throw("ArgumentException", "Can not convert "+n.kind()+" to "+to+".")
	}
	if n.v.Kind >= wire.Array {
		return fails()
	}
	if n.v.Kind == wire.Null {
		if !bytes && (t.Kind == model.Optional || !clr.IsValue(u)) {
			return Value{}, true, nil
		}
		return fails()
	}
	v := m.boxed(n.v)
	switch {
	case bytes:
		if v.Kind != String {
			return fails()
		}
		s, ok := clr.Base64(v.Text)
		if !ok {
			return Value{}, true, m.throw("FormatException", "The input is not a valid Base-64 string as it contains a non-base 64 character.")
		}
		return m.ValueOf(s, nil), true, nil
	case u.Name == "string":
		switch v.Kind {
		case Plain:
			return TextOf(dateText(v)), true, nil
		case Bool:
			return TextOf(plainText(v)), true, nil
		}
		return TextOf(plainText(v)), true, nil
	case u.Name == "bool":
		if v.Kind == Plain {
			return fails()
		}
		if v.Kind == String {
			out, _, err := m.parsed("bool", v.Text, nil)
			return out, true, err
		}
		f, _ := v.number()
		return BoolOf(f != 0 || v.isTrue()), true, nil
	case clr.IsNumber(u):
		if v.Kind == Plain {
			return fails()
		}
		out, known, err := m.converting(map[string]string{"int": "ToInt32", "long": "ToInt64", "double": "ToDouble", "decimal": "ToDecimal", "float": "ToSingle", "short": "ToInt16", "byte": "ToByte", "uint": "ToUInt32"}[u.Name], []Value{v}, nil)
		if v.Kind == String && v.Text == "" && err == nil {
			err = m.format("")
		}
		return out, known, err
	case u.Name == "DateTime" || u.Name == "DateTimeOffset":
		switch v.Kind {
		case Plain:
			if u.Name == "DateTimeOffset" {
				v.Of, v.Seen.Text = u.Name, strings.TrimSuffix(v.Seen.Text, "Z")+"+00:00" // of a DateTime, which is local
			}
			return v, true, nil
		case String:
			out, known, err := m.parsed(u.Name, v.Text, nil)
			return out, known, err
		}
		return fails()
	case u.Name == "Guid" || u.Name == "TimeSpan" || u.Name == "Uri":
		if v.Kind != String {
			return fails()
		}
		if u.Name == "Uri" {
			if !strings.Contains(v.Text, ":") {
				return Value{}, true, m.throw("UriFormatException", "Invalid URI: The format of the URI could not be determined.")
			}
			s, ok := clr.Uri(v.Text)
			return plainOf("Uri", s), ok, nil
		}
		out, known, err := m.parsed(u.Name, v.Text, nil)
		return out, known, err
	case u.Name == "char":
		if v.Kind == String && len([]rune(v.Text)) == 1 {
			return Value{Kind: Char, Text: v.Text, Of: "char"}, true, nil
		}
	}
	return Value{}, false, nil
}

// kind is what JTokenType calls a token.
func (n *node) kind() string {
	switch n.v.Kind {
	case wire.Null:
		return "Null"
	case wire.Bool:
		return "Boolean"
	case wire.Number:
		if strings.ContainsAny(string(n.v.Raw), ".eE") {
			return "Float"
		}
		return "Integer"
	case wire.String:
		text, _ := n.v.Text()
		if _, ok := tokenDate(text); ok {
			return "Date"
		}
		return "String"
	case wire.Array:
		return "Array"
	}
	if n.prop {
		return "Property"
	}
	return "Object"
}

func (n *node) tokenCall(m *Machine, name string, args []Value, types []*model.Type, x *code.Expr, f *frame) (Value, bool, error) {
	switch name {
	case "Type":
		return word("JTokenType", n.kind()), true, nil
	case "HasValues":
		return BoolOf(len(n.v.Elems)+len(n.v.Members) > 0), true, nil
	case "Value":
		switch {
		case len(types) == 1 && len(args) == 1 && args[0].Kind == String || len(types) == 1 && len(args) == 1 && args[0].Kind == Int:
			of, _, err := n.index(m, args[0])
			if err != nil {
				return of, true, err
			}
			if a := m.asks(n.v); a != nil && of.IsNull() && types[0].Kind != model.Optional && clr.IsValue(types[0].Unwrapped()) {
				a.Zeroed = append(a.Zeroed, args[0].Text)
			}
			return valueAs(m, of, types[0])
		case len(types) == 1 && len(args) == 0:
			return valueAs(m, Value{Kind: Host, Ref: n}, types[0])
		case args == nil && n.v.Kind < wire.Array:
			return m.boxed(n.v), true, nil
		}
	case "Values":
		if len(types) == 1 {
			l := &list{}
			of := n
			if n.v.Kind < wire.Array && len(args) == 0 {
				return Value{}, true, m.throw("InvalidOperationException", "Cannot access child value on Newtonsoft.Json.Linq.JValue.")
			}
			if len(args) == 1 {
				v, _, err := n.index(m, args[0])
				if err != nil {
					return v, true, err
				}
				if v.IsNull() {
					return Value{}, false, nil
				}
				of = v.Ref.(*node)
			}
			if of.v.Kind == wire.Object && len(of.v.Members) > 0 {
				return Value{}, true, m.throw("InvalidCastException", "Cannot cast Newtonsoft.Json.Linq.JProperty to Newtonsoft.Json.Linq.JToken.")
			}
			for _, e := range of.v.Elems {
				v, known, err := valueAs(m, tokenOf(e), types[0])
				if err != nil || !known {
					return v, known, err
				}
				l.items = append(l.items, v)
			}
			return Value{Kind: Items, Ref: l}, true, nil
		}
	case "ToObject":
		if len(types) == 1 {
			u := types[0]
			v, err := m.decoded(u, n.v, newtonsoftJSON+"+tokens", x, f)
			return v, true, err
		}
	case "SelectToken", "SelectTokens":
		return n.selected(m, args, name == "SelectTokens")
	case "Descendants", "DescendantsAndSelf":
		if n.v.Kind >= wire.Array {
			l := &list{}
			if name == "DescendantsAndSelf" {
				l.items = append(l.items, Value{Kind: Host, Ref: n})
			}
			return Value{Kind: Items, Ref: l}, true, n.descend(m, &l.items)
		}
	case "CreateReader":
		return Value{Kind: Host, Ref: newReader(n.v, true, false)}, true, nil
	case "Children":
		items, err := n.items(m)
		if len(types) == 1 {
			l := &list{}
			for _, v := range items {
				m.asksKind(v.Ref.(*node).v, types[0].Name)
				if is, known := v.Ref.(*node).is(types[0].Name); known && is {
					l.items = append(l.items, v)
				}
			}
			return Value{Kind: Items, Ref: l}, true, err
		}
		return listOf(items), true, err
	case "Properties", "PropertyValues":
		if n.v.Kind == wire.Object {
			items, err := n.items(m)
			if name == "PropertyValues" {
				for i, v := range items {
					items[i] = tokenOf(v.Ref.(*node).v)
				}
			}
			return listOf(items), true, err
		}
	case "Property":
		if n.v.Kind == wire.Object && len(args) >= 1 {
			v := m.memberIn(n.v, args[0].Text)
			if v == nil {
				return Value{}, true, nil
			}
			return Value{Kind: Host, Ref: &node{v: v, token: true, name: args[0].Text, prop: true}}, true, nil
		}
	case "ContainsKey":
		return BoolOf(len(args) == 1 && m.memberIn(n.v, args[0].Text) != nil), true, nil
	case "TryGetValue":
		if len(args) < 2 || n.v.Kind != wire.Object {
			break
		}
		v := m.memberIn(n.v, args[0].Text)
		if v == nil && hasWord(args, "OrdinalIgnoreCase") {
			for _, mem := range n.v.Members {
				if strings.EqualFold(mem.Name, args[0].Text) {
					v = mem.Value
				}
			}
		}
		put(args, outAt(args), tokenOf(v))
		return BoolOf(v != nil), true, nil
	case "GetValue":
		if len(args) >= 1 && n.v.Kind == wire.Object {
			v := m.memberIn(n.v, args[0].Text)
			if v == nil && hasWord(args, "OrdinalIgnoreCase") {
				for _, mem := range n.v.Members {
					if strings.EqualFold(mem.Name, args[0].Text) && v == nil {
						v = mem.Value
					}
				}
			}
			return tokenOf(v), true, nil
		}
	case "Count":
		if args == nil {
			return IntOf(int64(len(n.v.Elems) + len(n.v.Members))), true, nil
		}
	case "First", "Last":
		if args == nil {
			items, err := n.items(m)
			if err != nil || len(items) == 0 {
				return Value{}, true, err
			}
			if name == "Last" {
				return items[len(items)-1], true, nil
			}
			return items[0], true, nil
		}
	case "ToString":
		switch {
		case n.v.Kind == wire.Null:
			return TextOf(""), true, nil
		case n.v.Kind < wire.Array:
			v := m.boxed(n.v)
			if v.Kind == Plain {
				return TextOf(dateText(v)), true, nil
			}
			return TextOf(plainText(v)), true, nil
		}
		return TextOf(indented(n.v, 0)), true, nil
	case "DeepClone":
		return Value{Kind: Host, Ref: n}, true, nil
	}
	if n.v.Kind == wire.Object && args == nil { // dynamic
		return n.of(m.memberIn(n.v, name)), true, nil
	}
	if args == nil && n.v.Kind < wire.Array && !ofToken[name] { // dynamic
		return Value{}, true, m.throw("RuntimeBinderException", "'Newtonsoft.Json.Linq.JValue' does not contain a definition for '"+name+"'")
	}
	if args == nil {
		return Value{}, false, nil
	}
	items, err := n.items(m)
	if err != nil {
		return Value{}, true, err
	}
	return m.sequence(listOf(items), name, args, x, f)
}

// ofToken are properties that every token has.
var ofToken = map[string]bool{"Parent": true, "Root": true, "Next": true, "Previous": true, "First": true, "Last": true, "Path": true, "Value": true, "HasValues": true, "Type": true}

// valueAs is Value<T> of a token: nothing of an absent one.
func valueAs(m *Machine, of Value, t *model.Type) (Value, bool, error) {
	if of.IsNull() {
		return m.zero(t), true, nil
	}
	n := of.Ref.(*node)
	u := t.Unwrapped()
	if is, known := n.is(u.Name); u.Kind == model.Named && known && !predefined[u.Name] {
		if !is {
			return Value{}, true, m.throw("InvalidCastException", "Cannot cast token.")
		}
		return of, true, nil
	}
	m.note(n.v)
	if n.v.Kind >= wire.Array {
		return Value{}, true, m.throw("InvalidCastException", "Cannot cast Newtonsoft.Json.Linq.JObject to Newtonsoft.Json.Linq.JToken.")
	}
	if n.v.Kind == wire.Null {
		if t.Kind == model.Optional || !clr.IsValue(u) {
			return Value{}, true, nil
		}
		return Value{}, true, m.throw("InvalidCastException", "Null object cannot be converted to a value type.")
	}
	v := m.boxed(n.v)
	if v.Kind == String && v.Text == "" && t.Kind == model.Optional {
		return Value{}, true, m.format("")
	}
	if u.Name == "Guid" || u.Name == "TimeSpan" || u.Name == "DateTime" || u.Name == "DateTimeOffset" || u.Name == "Uri" {
		return n.tokenCast(m, t)
	}
	return n.tokenCast(m, t)
}

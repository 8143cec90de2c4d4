package sharp

import (
	"math"
	"math/big"
	"strconv"
	"strings"

	"vetta/internal/code"
	"vetta/internal/decoder/clr"
	"vetta/internal/model"
	"vetta/internal/wire"
)

// stringStatic are the static methods of string.
func (m *Machine) stringStatic(name string, args []Value, x *code.Expr, f *frame) (Value, bool, error) {
	switch name {
	case "IsNullOrEmpty":
		return BoolOf(len(args) == 1 && (args[0].IsNull() || args[0].Text == "")), true, nil
	case "IsNullOrWhiteSpace":
		return BoolOf(len(args) == 1 && (args[0].IsNull() || strings.TrimSpace(args[0].Text) == "")), true, nil
	case "Equals":
		if len(args) >= 2 {
			if hasWord(args, "OrdinalIgnoreCase") || hasWord(args, "InvariantCultureIgnoreCase") || hasWord(args, "CurrentCultureIgnoreCase") {
				return BoolOf(args[0].Kind == args[1].Kind && strings.EqualFold(args[0].Text, args[1].Text)), true, nil
			}
			return BoolOf(same(args[0], args[1])), true, nil
		}
	case "Join":
		if len(args) < 2 {
			break
		}
		items := args[1:]
		if len(args) == 2 {
			each, err := m.each(args[1], x.Pos)
			if err != nil {
				return Value{}, true, err
			}
			items = each
		}
		var all []string
		for _, v := range items {
			s, err := m.written(v, f, x)
			if err != nil {
				return Value{}, true, err
			}
			all = append(all, s)
		}
		return TextOf(strings.Join(all, args[0].Text)), true, nil
	case "Concat":
		var b strings.Builder
		for _, v := range args {
			s, err := m.written(v, f, x)
			if err != nil {
				return Value{}, true, err
			}
			b.WriteString(s)
		}
		return TextOf(b.String()), true, nil
	case "Compare", "CompareOrdinal":
		if len(args) >= 2 {
			return IntOf(int64(strings.Compare(args[0].Text, args[1].Text))), true, nil
		}
	}
	return Value{}, false, nil
}

// enumStatic are Parse, TryParse, IsDefined and their like.
func (m *Machine) enumStatic(name string, args []Value, x *code.Expr, f *frame) (Value, bool, error) {
	var of *model.Model
	rest := args
	if len(x.Types) == 1 {
		if d := m.declared(m.typ(x.Types[0], f)); d != nil {
			of = d.Model
		}
	} else if len(args) > 0 && args[0].Kind == Class {
		if d := args[0].Ref.(*typed).d; d != nil {
			of = d.Model
		}
		rest = args[1:]
	} else if out := outAt(args); out < len(args) {
		if v := args[out].Ref.(*Value); v.Kind == Enum {
			of = v.Model
		}
	} else if len(args) == 1 && args[0].Kind == Enum {
		of = args[0].Model
	}
	if of == nil {
		return Value{}, false, nil
	}
	switch name {
	case "Parse", "TryParse":
		try := name == "TryParse"
		fold := false
		for _, a := range rest {
			fold = fold || a.Kind == Bool && a.isTrue()
		}
		out := outAt(rest)
		zero := Value{Kind: Enum, Model: of}
		if len(rest) == 0 || rest[0].IsNull() {
			if try {
				put(rest, out, zero)
				return BoolOf(false), true, nil
			}
			return Value{}, true, m.throw("ArgumentNullException", "Value cannot be null. (Parameter 'value')")
		}
		n, ok := enumOf(of, rest[0].Text, fold)
		if try {
			put(rest, out, Value{Kind: Enum, Model: of, Int: n})
			return BoolOf(ok), true, nil
		}
		if !ok {
			return Value{}, true, m.throw("ArgumentException", "Requested value '"+rest[0].Text+"' was not found.")
		}
		return Value{Kind: Enum, Model: of, Int: n}, true, nil
	case "IsDefined":
		if len(rest) != 1 {
			break
		}
		for _, k := range of.Cases {
			c := m.constant(of, k)
			if (rest[0].Kind == Enum || rest[0].Kind == Int) && c.Int == rest[0].Int || rest[0].Kind == String && k.Name == rest[0].Text {
				return BoolOf(true), true, nil
			}
		}
		return BoolOf(false), true, nil
	case "GetValues", "GetNames":
		l := &list{}
		for _, k := range of.Cases {
			if name == "GetNames" {
				l.items = append(l.items, TextOf(k.Name))
			} else {
				l.items = append(l.items, m.constant(of, k))
			}
		}
		return Value{Kind: Items, Ref: l}, true, nil
	case "ToObject":
		if len(rest) == 1 && rest[0].Kind == Int {
			return Value{Kind: Enum, Model: of, Int: rest[0].Int}, true, nil
		}
	}
	return Value{}, false, nil
}

// enumOf is the number that a text names: constants with commas between them, or digits.
func enumOf(of *model.Model, text string, fold bool) (int64, bool) {
	trimmed := strings.TrimSpace(text)
	if trimmed == "" {
		return 0, false
	}
	if c := trimmed[0]; c >= '0' && c <= '9' || c == '-' || c == '+' {
		bits, signed := clr.Bits(of.Raw)
		if digits, ok := clr.ParseWhole(trimmed, bits, signed); ok {
			n, err := strconv.ParseInt(digits, 10, 64)
			return n, err == nil
		}
	}
	total := int64(0)
	for _, part := range strings.Split(text, ",") {
		part = strings.TrimSpace(part)
		found := false
		for _, k := range of.Cases {
			if k.Raw != nil && (k.Name == part || fold && strings.EqualFold(k.Name, part)) {
				n, _ := strconv.ParseInt(k.Raw.Text, 10, 64)
				total |= n
				found = true
				break
			}
		}
		if !found {
			return 0, false
		}
	}
	return total, true
}

// converting is Convert.ToX.
func (m *Machine) converting(name string, args []Value, x *code.Expr) (Value, bool, error) {
	if len(args) == 0 {
		return Value{}, false, nil
	}
	v := args[0]
	if n, ok := v.Ref.(*node); ok && n.token && n.v.Kind == wire.Null && name != "ToString" { // a JValue converts itself
		return Value{}, true, m.throw("ArgumentException", "Can not convert Null to "+strings.TrimPrefix(name, "To")+".")
	}
	if h, ok := v.Ref.(interface{ scalar(*Machine) (Value, bool) }); ok && v.Kind == Host {
		if s, ok := h.scalar(m); ok {
			v = s
		}
	}
	to := map[string]string{"ToInt32": "int", "ToInt64": "long", "ToDouble": "double", "ToDecimal": "decimal", "ToBoolean": "bool", "ToString": "string", "ToInt16": "short", "ToByte": "byte", "ToSingle": "float", "ToDateTime": "DateTime", "ToUInt32": "uint"}[name]
	switch {
	case name == "FromBase64String" && v.Kind == String:
		s, ok := clr.Base64(strings.TrimSpace(v.Text))
		if !ok {
			return Value{}, true, m.throw("FormatException", "The input is not a valid Base-64 string as it contains a non-base 64 character.")
		}
		return m.ValueOf(s, nil), true, nil
	case to == "":
		return Value{}, false, nil
	case to == "string":
		if v.IsNull() {
			return TextOf(""), true, nil
		}
		return TextOf(plainText(v)), v.Kind != Host, nil
	case v.IsNull():
		return m.zero(&model.Type{Kind: model.Named, Name: to}), true, nil
	case v.Kind == String:
		out, known, err := m.parsed(to, v.Text, nil)
		return out, known, err
	case to == "bool":
		if n, ok := v.number(); ok {
			return BoolOf(n != 0), true, nil
		}
		return v, v.Kind == Bool, nil
	case v.Kind == Bool:
		if to == "double" || to == "float" {
			return floatOf(float64(v.Int)), true, nil
		}
		return numberOf(v.Int, to), true, nil
	case to == "DateTime":
		return v, v.Kind == Plain, nil
	}
	t := &model.Type{Kind: model.Named, Name: to}
	if bits, signed := clr.Bits(t); bits > 0 {
		n, ok := v.number()
		if !ok {
			return Value{}, false, nil
		}
		r := math.RoundToEven(n)
		i := new(big.Int)
		if v.Kind == Int {
			i.SetInt64(v.Int)
		} else if math.IsNaN(r) || math.IsInf(r, 0) {
			return Value{}, true, m.throw("OverflowException", "Value was either too large or too small for an Int32.")
		} else {
			big.NewFloat(r).Int(i)
		}
		if !clr.InRange(i, bits, signed) {
			return Value{}, true, m.throw("OverflowException", "Value was either too large or too small for an Int32.")
		}
		return numberOf(i.Int64(), to), true, nil
	}
	out, err := m.asNumber(v, t, true)
	return out, true, err
}

func (m *Machine) mathStatic(name string, args []Value, x *code.Expr) (Value, bool, error) {
	if len(args) == 0 {
		return Value{}, false, nil
	}
	n, ok := args[0].number()
	if !ok {
		return Value{}, false, nil
	}
	switch name {
	case "Abs":
		v := args[0]
		if n < 0 {
			v.Int, v.Float, v.Text = -v.Int, -v.Float, strings.TrimPrefix(v.Text, "-")
		}
		return v, true, nil
	case "Max", "Min":
		if len(args) != 2 {
			break
		}
		o, ok := args[1].number()
		if !ok {
			break
		}
		v := args[0]
		if (name == "Max") == (o > n) {
			v = args[1]
		}
		if v.Kind == Int && (args[0].Kind == Float || args[1].Kind == Float) {
			v = floatOf(float64(v.Int))
		}
		return v, true, nil
	case "Round":
		digits := 0
		away := hasWord(args, "AwayFromZero")
		if len(args) > 1 && args[1].Kind == Int {
			digits = int(args[1].Int)
		}
		if args[0].Kind == Decimal {
			r, ok := new(big.Rat).SetString(args[0].Text)
			if !ok || away {
				break
			}
			f, _ := r.Float64()
			scale := math.Pow10(digits)
			return decimalOf(strconv.FormatFloat(math.RoundToEven(f*scale)/scale, 'f', -1, 64)), true, nil
		}
		scale := math.Pow10(digits)
		if away {
			return floatOf(math.Round(n*scale) / scale), true, nil
		}
		return floatOf(math.RoundToEven(n*scale) / scale), true, nil
	case "Floor":
		return floatOf(math.Floor(n)), args[0].Kind != Decimal, nil
	case "Ceiling":
		return floatOf(math.Ceil(n)), args[0].Kind != Decimal, nil
	case "Truncate":
		return floatOf(math.Trunc(n)), args[0].Kind != Decimal, nil
	case "Sqrt":
		return floatOf(math.Sqrt(n)), true, nil
	case "Pow":
		if len(args) == 2 {
			p, _ := args[1].number()
			return floatOf(math.Pow(n, p)), true, nil
		}
	case "Clamp":
		if len(args) == 3 {
			lo, _ := args[1].number()
			hi, _ := args[2].number()
			switch {
			case n < lo:
				return args[1], true, nil
			case n > hi:
				return args[2], true, nil
			}
			return args[0], true, nil
		}
	}
	return Value{}, false, nil
}

package eval

import (
	"math"
	"slices"
	"strconv"
	"strings"

	"vetta/internal/code"
	"vetta/internal/decoder"
	"vetta/internal/decoder/javatime"
	"vetta/internal/decoder/jvm"
	"vetta/internal/model"
)

// standard are functions of Kotlin's standard library that are called by name alone.
func (m *machine) standard(name string, args []Value, x *code.Expr) (Value, bool, error) {
	switch name {
	case "listOf", "mutableListOf", "arrayListOf", "emptyList", "listOfNotNull":
		items := []Value{}
		for _, a := range args {
			if name != "listOfNotNull" || !a.IsNull() {
				items = append(items, a)
			}
		}
		return Value{Items: &items}, true, nil
	case "setOf", "mutableSetOf", "emptySet":
		return unique(args), true, nil
	case "emptyMap", "mutableMapOf", "mapOf":
		out := Value{Items: &[]Value{}, Names: []string{}}
		for _, a := range args {
			if len(a.Names) != 2 {
				return Value{}, false, nil
			}
			key, known := m.written((*a.Items)[0])
			if !known {
				return Value{}, false, nil
			}
			out.Names = append(out.Names, key)
			*out.Items = append(*out.Items, (*a.Items)[1])
		}
		return out, true, nil
	case "require", "check", "requireNotNull", "checkNotNull":
		class := "IllegalArgumentException"
		if strings.HasPrefix(name, "check") {
			class = "IllegalStateException"
		}
		if len(args) == 0 {
			return Value{}, false, nil
		}
		fails := args[0].IsNull()
		if !strings.HasSuffix(name, "NotNull") {
			if args[0].Seen.Kind != decoder.SeenBool {
				return Value{}, false, nil
			}
			fails = args[0].Seen.Text != "true"
		}
		if !fails {
			return args[0], true, nil
		}
		t := &Thrown{Class: class, Message: "Failed requirement."}
		if len(args) > 1 && args[1].fn != nil {
			if v, err := m.call(args[1].fn, nil); err == nil {
				t.Message, _ = m.written(v)
			}
		}
		return Value{}, true, t
	case "error":
		t := &Thrown{Class: "IllegalStateException"}
		if len(args) == 1 {
			t.Message, _ = m.written(args[0])
		}
		return Value{}, true, t
	case "runCatching":
		if len(args) == 1 && args[0].fn != nil {
			v, err := m.call(args[0].fn, nil)
			if _, thrown := err.(*Thrown); thrown {
				return HostOf(caught{m: m, failed: true}), true, nil
			}
			return HostOf(caught{m: m, v: v}), true, err
		}
	case "enumValueOf":
		if len(x.Types) == 1 && x.Types[0].Model != nil && len(args) == 1 {
			v, err := m.static(Value{Class: x.Types[0].Name, Model: x.Types[0].Model}, "valueOf", args, x, &frame{f: &code.Routine{}})
			return v, true, err
		}
	}
	return Value{}, false, nil
}

// caught is a Result of Kotlin.
type caught struct {
	m      *machine
	v      Value
	failed bool
}

func (c caught) Is(class string) (bool, bool) { return class == "Result", true }

func (c caught) Member(name string, args []Value, _ []*model.Type) (Value, bool, error) {
	switch name {
	case "getOrNull":
		return c.v, true, nil
	case "getOrDefault":
		if c.failed && len(args) == 1 {
			return args[0], true, nil
		}
		return c.v, true, nil
	case "getOrElse":
		if c.failed && len(args) == 1 && args[0].fn != nil {
			v, err := c.m.call(args[0].fn, nil, Value{Seen: decoder.Seen{Kind: decoder.SeenUnknown}})
			return v, true, err
		}
		return c.v, true, nil
	case "isSuccess", "isFailure":
		return Bool(c.failed == (name == "isFailure")), true, nil
	}
	return Value{}, false, nil
}

func unique(args []Value) Value {
	items, seen := []Value{}, map[string]bool{}
	for _, a := range args {
		s, _ := a.Result()
		if key := s.String(); !seen[key] {
			seen[key] = true
			items = append(items, a)
		}
	}
	return Value{Items: &items, Set: true}
}

// dated are the classes of java.time whose parse is followed, and what toString makes of what it reads.
var dated = map[string]struct {
	format *javatime.Format
	text   func(javatime.Moment) string
}{
	"LocalDate":      {javatime.LocalDate, javatime.Moment.DateText},
	"LocalTime":      {javatime.LocalTime, javatime.Moment.TimeText},
	"LocalDateTime":  {javatime.LocalDateTime, javatime.Moment.DateTimeText},
	"OffsetDateTime": {javatime.OffsetDateTime, func(m javatime.Moment) string { return m.DateTimeText() + m.OffsetText() }},
}

// made is an instance of a class of the platform's.
func made(class string, args []Value) (Value, bool, error) {
	switch model.SimpleName(class) {
	case "Date":
		if len(args) == 1 {
			if n, ok := args[0].whole(); ok {
				return Value{Seen: decoder.Seen{Kind: decoder.SeenDate, Seconds: float64(n) / 1000}}, true, nil
			}
		}
	case "ArrayList", "LinkedList":
		switch {
		case len(args) == 0:
			return List(), true, nil
		case len(args) == 1 && args[0].Items != nil && args[0].Names == nil:
			return List(slices.Clone(*args[0].Items)...), true, nil
		}
	case "HashSet", "LinkedHashSet", "TreeSet":
		switch {
		case len(args) == 0:
			return unique(nil), true, nil
		case len(args) == 1 && args[0].Items != nil && args[0].Names == nil:
			return unique(*args[0].Items), true, nil
		}
	case "HashMap", "LinkedHashMap":
		switch {
		case len(args) == 0:
			return keyed(nil, nil), true, nil
		case len(args) == 1 && args[0].Names != nil:
			return keyed(args[0].Names, *args[0].Items), true, nil
		}
	}
	return Value{}, false, nil
}

// staticOf are functions of classes of the platform's.
func staticOf(class, name string, args []Value) (Value, bool, error) {
	text, isText := "", false
	if len(args) > 0 {
		text, isText = args[0].text()
	}
	if !isText || len(args) != 1 {
		return Value{}, false, nil
	}
	if of, ok := dated[class]; ok && name == "parse" {
		m, problem, known := of.format.Parse(text)
		if known && problem != "" {
			return Value{}, true, &Thrown{Class: "DateTimeParseException", Message: javatime.Refusal(text, problem)}
		}
		return Text(of.text(m)), known, nil
	}
	switch class + "." + name {
	case "UUID.fromString":
		id, ok := jvm.ParseUUID(text)
		if !ok {
			return Value{}, true, &Thrown{Class: "IllegalArgumentException", Message: "Invalid UUID string: " + text}
		}
		return Text(id), true, nil
	case "Integer.parseInt", "Integer.valueOf", "Long.parseLong", "Long.valueOf", "Double.parseDouble", "Double.valueOf", "Boolean.parseBoolean":
		method := map[string]string{"Integer": "toInt", "Long": "toLong", "Double": "toDouble", "Boolean": "toBoolean"}[class]
		return (&machine{left: limit}).textMethod(text, method, nil)
	}
	return Value{}, false, nil
}

func noNumber(text string) error {
	return &Thrown{Class: "NumberFormatException", Message: "For input string: " + strconv.Quote(text)}
}

// textMethod is a method of a string.
func (m *machine) textMethod(s, name string, args []Value) (Value, bool, error) {
	arg, isText := "", false
	if len(args) > 0 {
		arg, isText = args[0].text()
	}
	switch name {
	case "toInt", "toIntOrNull", "toLong", "toLongOrNull", "toShort", "toByte":
		bits := 32
		switch {
		case strings.HasPrefix(name, "toLong"):
			bits = 64
		case name == "toShort":
			bits = 16
		case name == "toByte":
			bits = 8
		}
		n, ok := jvm.ParseWhole(s, bits)
		if len(args) == 1 {
			radix, known := args[0].whole()
			if !known || radix < 2 || radix > 36 {
				return Value{}, false, nil
			}
			var err error
			n, err = strconv.ParseInt(s, int(radix), bits)
			ok = err == nil && !strings.Contains(s, "_")
		}
		if ok {
			return Int(n), true, nil
		}
		if strings.HasSuffix(name, "OrNull") {
			return Value{}, true, nil
		}
		return Value{}, true, noNumber(s)
	case "toDouble", "toDoubleOrNull", "toFloat", "toFloatOrNull":
		f, ok := jvm.ParseDouble(s)
		switch {
		case ok && strings.HasPrefix(name, "toFloat"):
			return Value{Seen: decoder.Seen{Kind: decoder.SeenFloat, Text: jvm.FloatText(float64(float32(f)), 32)}}, true, nil
		case ok:
			return double(f), true, nil
		case strings.HasSuffix(name, "OrNull"):
			return Value{}, true, nil
		}
		return Value{}, true, noNumber(s)
	case "toBoolean", "toBooleanStrict", "toBooleanStrictOrNull":
		switch {
		case name == "toBoolean":
			return Bool(strings.EqualFold(s, "true")), true, nil
		case s == "true" || s == "false":
			return Bool(s == "true"), true, nil
		case name == "toBooleanStrictOrNull":
			return Value{}, true, nil
		}
		return Value{}, true, &Thrown{Class: "IllegalArgumentException", Message: "The string doesn't represent a boolean value: " + s}
	case "trim":
		if len(args) == 0 {
			return Text(strings.TrimSpace(s)), true, nil
		}
	case "uppercase", "toUpperCase":
		return Text(strings.ToUpper(s)), true, nil
	case "lowercase", "toLowerCase":
		return Text(strings.ToLower(s)), true, nil
	case "length":
		return Int(int64(jvm.Chars(s))), true, nil
	case "isEmpty":
		return Bool(s == ""), true, nil
	case "isNotEmpty":
		return Bool(s != ""), true, nil
	case "isBlank", "isNullOrBlank":
		return Bool(strings.TrimSpace(s) == ""), true, nil
	case "isNotBlank":
		return Bool(strings.TrimSpace(s) != ""), true, nil
	case "isNullOrEmpty":
		return Bool(s == ""), true, nil
	case "toString", "orEmpty":
		return Text(s), true, nil
	case "ifEmpty", "ifBlank":
		if len(args) == 1 && args[0].fn != nil {
			if name == "ifEmpty" && s != "" || name == "ifBlank" && strings.TrimSpace(s) != "" {
				return Text(s), true, nil
			}
			v, err := m.call(args[0].fn, nil)
			return v, true, err
		}
	}
	if !isText {
		return Value{}, false, nil
	}
	switch name {
	case "removePrefix":
		return Text(strings.TrimPrefix(s, arg)), true, nil
	case "removeSuffix":
		return Text(strings.TrimSuffix(s, arg)), true, nil
	case "startsWith", "endsWith", "contains", "equals", "equalsIgnoreCase":
		fold := len(args) == 2 && args[1].Seen.Text == "true" || name == "equalsIgnoreCase"
		if len(args) > 1 && args[1].Seen.Kind != decoder.SeenBool {
			return Value{}, false, nil
		}
		a, b := s, arg
		if fold {
			a, b = strings.ToLower(s), strings.ToLower(arg)
		}
		return Bool(map[string]bool{"startsWith": strings.HasPrefix(a, b), "endsWith": strings.HasSuffix(a, b), "contains": strings.Contains(a, b), "equals": a == b, "equalsIgnoreCase": a == b}[name]), true, nil
	case "substringBefore", "substringAfter", "substringBeforeLast", "substringAfterLast":
		at := strings.Index(s, arg)
		if strings.HasSuffix(name, "Last") {
			at = strings.LastIndex(s, arg)
		}
		if len(args) != 1 {
			return Value{}, false, nil
		}
		if at < 0 {
			return Text(s), true, nil
		}
		if strings.HasPrefix(name, "substringBefore") {
			return Text(s[:at]), true, nil
		}
		return Text(s[at+len(arg):]), true, nil
	case "replace":
		if len(args) == 2 {
			if with, ok := args[1].text(); ok {
				return Text(strings.ReplaceAll(s, arg, with)), true, nil
			}
		}
	case "split":
		if len(args) == 1 && m.lib != nil && arg != "" {
			items := []Value{}
			for _, part := range strings.Split(s, arg) {
				items = append(items, Text(part))
			}
			return Value{Items: &items}, true, nil
		}
	}
	return Value{}, false, nil
}

func numberMethod(of Value, name string, args []Value) (Value, bool, error) {
	if len(args) > 0 {
		return Value{}, false, nil
	}
	f, _ := of.number()
	switch name {
	case "toDouble", "doubleValue":
		return double(f), true, nil
	case "toInt", "intValue":
		return Int(jvm.ToInt(f)), true, nil
	case "toLong", "longValue":
		if n, ok := of.whole(); ok {
			return Int(n), true, nil
		}
		return Int(jvm.ToLong(f)), true, nil
	case "toString":
		text, known := (&machine{}).written(of)
		return Text(text), known, nil
	case "isNaN":
		return Bool(math.IsNaN(f)), true, nil
	case "roundToInt", "roundToLong":
		return Int(int64(math.Floor(f + 0.5))), true, nil
	}
	return Value{}, false, nil
}

// listMethod is a method of a list or a map.
func (m *machine) listMethod(of Value, name string, args []Value) (Value, bool, error) {
	items := *of.Items
	if of.Names != nil {
		return m.mapMethod(of, name, args)
	}
	var fn *closure
	if len(args) == 1 {
		fn = args[0].fn
	}
	switch name {
	case "size", "count", "length":
		if fn == nil {
			return Int(int64(len(items))), len(args) == 0, nil
		}
	case "isEmpty":
		return Bool(len(items) == 0), true, nil
	case "isNotEmpty":
		return Bool(len(items) > 0), true, nil
	case "add":
		if len(args) == 1 {
			*of.Items = append(*of.Items, args[0])
			return Bool(true), true, nil
		}
	case "first", "last", "single":
		if fn == nil && len(args) == 0 {
			switch {
			case len(items) == 0:
				return Value{}, true, &Thrown{Class: "NoSuchElementException", Message: "List is empty."}
			case name == "last":
				return items[len(items)-1], true, nil
			case name == "single" && len(items) > 1:
				return Value{}, true, &Thrown{Class: "IllegalArgumentException", Message: "List has more than one element."}
			}
			return items[0], true, nil
		}
	case "firstOrNull", "lastOrNull":
		if fn == nil && len(args) == 0 {
			if len(items) == 0 {
				return Value{}, true, nil
			}
			if name == "lastOrNull" {
				return items[len(items)-1], true, nil
			}
			return items[0], true, nil
		}
	case "get", "getOrNull":
		if len(args) == 1 {
			if n, ok := args[0].whole(); ok {
				if n >= 0 && n < int64(len(items)) {
					return items[n], true, nil
				}
				if name == "getOrNull" {
					return Value{}, true, nil
				}
				return Value{}, true, &Thrown{Class: "IndexOutOfBoundsException", Message: "Index " + strconv.FormatInt(n, 10) + " out of bounds for length " + strconv.Itoa(len(items))}
			}
		}
	case "toList", "toMutableList", "asSequence":
		return Value{Items: &items}, true, nil
	case "toSet":
		return unique(items), true, nil
	case "filterNotNull":
		kept := []Value{}
		for _, v := range items {
			if !v.IsNull() {
				kept = append(kept, v)
			}
		}
		return Value{Items: &kept}, true, nil
	}
	if fn == nil {
		return Value{}, false, nil
	}
	out := []Value{}
	for _, item := range items {
		v, err := m.call(fn, nil, item)
		if err != nil {
			return Value{}, true, err
		}
		holds := v.Seen.Kind == decoder.SeenBool && v.Seen.Text == "true"
		switch name {
		case "map":
			out = append(out, v)
		case "mapNotNull":
			if !v.IsNull() {
				out = append(out, v)
			}
		case "filter":
			if holds {
				out = append(out, item)
			}
		case "find", "firstOrNull", "first":
			if holds {
				return item, true, nil
			}
		case "any", "none":
			if holds {
				return Bool(name == "any"), true, nil
			}
		case "all":
			if !holds {
				return Bool(false), true, nil
			}
		case "forEach":
		default:
			return Value{}, false, nil
		}
	}
	switch name {
	case "map", "mapNotNull", "filter":
		return Value{Items: &out}, true, nil
	case "find", "firstOrNull", "forEach":
		return Value{}, true, nil
	case "first":
		return Value{}, true, &Thrown{Class: "NoSuchElementException", Message: "Collection contains no element matching the predicate."}
	case "any":
		return Bool(false), true, nil
	case "none", "all":
		return Bool(true), true, nil
	}
	return Value{}, false, nil
}

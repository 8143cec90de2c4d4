package jackson

import (
	"math/big"
	"slices"
	"strconv"
	"strings"

	"vetta/internal/decoder"
	"vetta/internal/decoder/jvm"
	"vetta/internal/model"
	"vetta/internal/wire"
)

// Rules that the Kotlin module has had since some version: each was measured with 2.14, 2.15, 2.16, 2.17, 2.18, 2.19,
// 2.20, 2.21 and 2.23.
const (
	readsValueClasses  = 17 // a creator may take values of value classes, unsigned numbers among them
	readsPrivateAlone  = 18 // the only parameter of a creator is a property, though it be private
	refusesNullAtRoot  = 19 // readValue<T>() refuses null where T takes none
	namesNullOtherwise = 20 // KotlinInvalidNullException in place of MissingKotlinParameterException
)

// since says whether the module is of a minor version of 2, or a later one; the newest where the project does not say.
func (c *compiler) since(minor int) bool {
	if c.settings == nil {
		return true
	}
	rest, ok := strings.CutPrefix(c.settings.Version.Value, "2.")
	if !ok {
		return true
	}
	text, _, _ := strings.Cut(rest, ".")
	n, err := strconv.Atoi(text)
	return err != nil || n >= minor
}

// unboxed is the name of the type of a parameter that the compiler makes of a value class: its argument is what that holds.
const unboxed = "the value of a value class"

// maxInline is how many value classes may stand in one another.
const maxInline = 16

// unboxedOf is that type for a value class, nil for another type.
func (c *compiler) unboxedOf(t *model.Type) *model.Type {
	if t.Kind != model.Named || t.Model == nil || t.Model.Inline == nil || !c.kotlinModule() || !c.since(readsValueClasses) {
		return nil
	}
	within := t.Model.Inline
	for range maxInline { // which the compiler refuses where it holds itself, and the source may say
		if within.Kind != model.Named || within.Model == nil || within.Model.Inline == nil {
			break
		}
		if within = within.Model.Inline; within.Model == t.Model {
			return nil
		}
	}
	return &model.Type{Kind: model.Named, Name: unboxed, Args: []*model.Type{c.javaAs(t.Model.Inline.Bind(t.Env()), 0)}, Pos: t.Pos}
}

// unsigned is the node for UInt, ULong, UShort and UByte, which the module reads from numbers alone, without their
// fraction; nil for another type.
func (c *compiler) unsigned(t *model.Type) *decoder.Node {
	bits := map[string]uint{"UByte": 8, "UShort": 16, "UInt": 32, "ULong": 64}[t.Name]
	if bits == 0 || !c.kotlinModule() || !c.since(readsValueClasses) {
		return nil
	}
	most := new(big.Int).Sub(new(big.Int).Lsh(big.NewInt(1), bits), big.NewInt(1))
	return nullable(&decoder.Node{Op: decoder.OpLeaf, MindsText: true, Read: func(v *wire.Value) decoder.Verdict {
		if v.Kind != wire.Number {
			return decoder.Verdict{Err: fault("JsonMappingException", decoder.ReasonKind, "Current token (%s) not numeric, can not use numeric value accessors", tokenName(v))}
		}
		raw := string(v.Raw)
		whole, ok := jvm.Truncated(raw)
		switch {
		case !ok || bits < 64 && !whole.IsInt64():
			return decoder.Verdict{Err: outOfRange(raw, "long (-9223372036854775808 - 9223372036854775807)")}
		case whole.Sign() < 0 || whole.Cmp(most) > 0:
			return decoder.Verdict{Err: outOfRange(raw, t.Name+" (0 - "+most.String()+").")}
		}
		return decoder.Verdict{Seen: decoder.Seen{Kind: decoder.SeenInt, Text: whole.String()}}
	}})
}

// boxes is the version of the module where it is for that alone that it finds no constructor of a class: a parameter is
// of a value class; else "".
func (c *compiler) boxes(m *model.Model) string {
	of := c.views.models[m]
	if of == nil || !c.kotlinModule() || c.since(readsValueClasses) {
		return ""
	}
	for _, k := range of.Ctors {
		if k.Pos == of.Pos && slices.ContainsFunc(k.Params, func(p *model.Parameter) bool { return jvm.IsInline(p.Type) }) {
			return c.settings.Version.Value
		}
	}
	return ""
}

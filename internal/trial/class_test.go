package trial

import (
	"fmt"
	"math/rand/v2"
	"testing"

	"vetta/internal/decoder"
	"vetta/internal/decoder/library"
	"vetta/internal/model"
	"vetta/internal/shape"
	"vetta/internal/wire"
)

// TestNumbersByClass: where a plan says that numbers of one class fare alike, they do, so that check may
// count them by class however many different ones there are.
func TestNumbersByClass(t *testing.T) {
	r := rand.New(rand.NewPCG(14, 1))
	number := func() string {
		sign := []string{"", "", "-"}[r.IntN(3)]
		whole := fmt.Sprint(r.Uint64() >> r.IntN(64))
		if r.IntN(4) == 0 { // at the edges of types
			whole = fmt.Sprint(uint64(1)<<r.IntN(64) + uint64(r.IntN(3)) - 1)
		}
		if r.IntN(3) == 0 {
			whole += "." + []string{"0", "00", "5", "25", "000000000000000000001", fmt.Sprint(r.IntN(1e9))}[r.IntN(6)]
		}
		if r.IntN(8) == 0 {
			whole += fmt.Sprintf("e%d", r.IntN(60)-30)
		}
		return sign + whole
	}
	alike := 0
	for i := range library.All {
		lib := &library.All[i]
		for _, name := range []string{
			"int", "long", "short", "byte", "float", "double", "Integer", "Long", "Short", "Byte", "Float", "Double", "Int", "Int8", "Int16", "Int32", "Int64", "UInt", "UInt8", "UInt16", "UInt32", "UInt64",
			"String", "Boolean", "Bool", "BigDecimal", "BigInteger", "Decimal", "AtomicInteger", "AtomicLong", "Number", "Date", "Character",
		} {
			plan := lib.Plan(&model.Type{Kind: model.Named, Name: name, Linked: true}, name, &model.Settings{Library: lib.Name, Options: map[string]model.Option{}})
			n := plan.Root
			for n != nil && n.Op != decoder.OpLeaf {
				n = n.Inner
			}
			if n == nil || n.MindsText && !n.NumbersByClass || lib.Name == "gson" && name == "Date" {
				continue
			}
			alike++
			first := map[shape.Class]string{}
			says := func(literal string) string {
				v := n.Read(&wire.Value{Kind: wire.Number, Raw: []byte(literal)})
				if v.Err != nil {
					return "fails: " + string(v.Err.Reason)
				}
				return "reads, loss " + string(v.Loss)
			}
			for range 20000 {
				literal := number()
				class := shape.ClassOf([]byte(literal))
				if n.Wraps && class.Facts&(shape.HasExponent|shape.Beyond63) != 0 {
					continue
				}
				if first[class] == "" {
					first[class] = literal
				}
				if got, want := says(literal), says(first[class]); got != want {
					t.Errorf("%s %s: %s %s, but %s of the same class %s", lib.Name, name, literal, got, first[class], want)
					break
				}
			}
		}
	}
	if alike < 30 {
		t.Errorf("only %d types have numbers judged by class", alike)
	}
}

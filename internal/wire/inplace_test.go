package wire

import (
	"math/rand/v2"
	"strings"
	"testing"
)

// TestDecodeInPlace holds what is decoded over its own literal, at once and in parts, to Unquote.
func TestDecodeInPlace(t *testing.T) {
	parts := []string{"a", "plain text of some length", `\"`, `\\`, `\/`, `\n`, `\t`, `\b`, `\f`, `\r`, `<`, `é`, "é", "漢字", `😀`, `\ud83d`, `\ude00x`, `1`, "x\\\"y"}
	r := rand.New(rand.NewPCG(5, 6))
	for range 20000 {
		var b strings.Builder
		for range r.IntN(12) {
			b.WriteString(parts[r.IntN(len(parts))])
		}
		literal := `"` + b.String() + `"`
		want, _ := Unquote([]byte(literal))
		data := []byte("xx" + literal + "behind it stands more")
		text, end := DecodeInPlace(data, 2)
		if string(text) != want || string(data[end:]) != "behind it stands more" {
			t.Fatalf("%s\n got %q, then %q\nwant %q", literal, text, data[end:], want)
		}
		data = []byte("xx" + literal + "behind it stands more")
		if text, end := AppendDecoded([]byte("before "), data, 2); string(text) != "before "+want || string(data[end:]) != "behind it stands more" || string(data[2:2+len(literal)]) != literal {
			t.Fatalf("%s\n appended %q, then %q\nwant %q", literal, text, data[end:], want)
		}
		// In parts: what is not used up comes again with more behind it.
		rest, got := []byte(literal[1:]), ""
		for held, done := []byte{}, false; !done; {
			n := min(len(rest), 1+r.IntN(9))
			held, rest = append(held, rest[:n]...), rest[n:]
			var part []byte
			part, end, done = DecodePart(held, 0)
			got += string(part)
			held = append([]byte{}, held[end:]...)
			if n == 0 && !done {
				t.Fatalf("%s never ends: %q", literal, held)
			}
		}
		if got != want {
			t.Fatalf("%s in parts\n got %q\nwant %q", literal, got, want)
		}
	}
	if _, end := DecodeInPlace([]byte(`"no end\"`), 0); end >= 0 {
		t.Error("a string without its end ends")
	}
}

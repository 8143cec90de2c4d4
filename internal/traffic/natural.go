package traffic

import (
	"cmp"
	"strings"
)

// Compare orders the names of captures as people do: numbers in them by their value, so that
// sailings-2 comes before sailings-10, and dates by day. It answers less than, equal to or more
// than 0.
func Compare(a, b string) int {
	i, k := 0, 0
	for i < len(a) && k < len(b) {
		if !isDigit(a[i]) || !isDigit(b[k]) {
			if a[i] != b[k] {
				return cmp.Compare(a[i], b[k])
			}
			i, k = i+1, k+1
			continue
		}
		na, nb := number(a[i:]), number(b[k:])
		x, y := strings.TrimLeft(na, "0"), strings.TrimLeft(nb, "0")
		if len(x) != len(y) {
			return cmp.Compare(len(x), len(y))
		}
		if x != y {
			return strings.Compare(x, y)
		}
		i, k = i+len(na), k+len(nb)
	}
	if left := cmp.Compare(len(a)-i, len(b)-k); left != 0 {
		return left
	}
	return strings.Compare(a, b) // 07 and 7
}

// number is the digits that a text begins with.
func number(text string) string {
	n := 0
	for n < len(text) && isDigit(text[n]) {
		n++
	}
	return text[:n]
}

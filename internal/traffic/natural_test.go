package traffic

import (
	"slices"
	"testing"
)

// TestCompare: names in the order that people expect.
func TestCompare(t *testing.T) {
	want := []string{
		"fares.json", "fares/1.json", "fares/2.json", "fares/10.json", "fares/a.json",
		"sailings-2026-03-09.json", "sailings-2026-03-10.json", "sailings-2026-11-01.json",
		"v2/07", "v2/7", "v10/7", "v10/7.5",
	}
	got := slices.Clone(want)
	slices.Reverse(got)
	slices.SortFunc(got, Compare)
	if !slices.Equal(got, want) {
		t.Errorf("got  %q\nwant %q", got, want)
	}
	for _, a := range want {
		for _, b := range want {
			if Compare(a, b) != -Compare(b, a) || (Compare(a, b) == 0) != (a == b) {
				t.Errorf("%q and %q are not ordered alike from both sides", a, b)
			}
		}
	}
}

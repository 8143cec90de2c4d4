package trial

import (
	"fmt"
	"strings"
	"testing"

	"vetta/internal/decoder"
	"vetta/internal/model"
	"vetta/internal/wire"
)

// decodeAll takes documents through the model M of a set: each has what the app sees, or
// the error. seen and failed put those into words.
func decodeAll(t *testing.T, set *model.Set, docs [][2]string, seen func(decoder.Seen) any, failed func(decoder.Outcome) string) {
	t.Helper()
	plan, err := For(set, "M")
	if err != nil {
		t.Fatal(err)
	}
	for _, d := range docs {
		doc, err := wire.Parse([]byte(d[0]))
		if err != nil {
			t.Fatal(err)
		}
		out := plan.Decode(doc)
		agrees(t, plan, d[0], out)
		got := fmt.Sprint(seen(out.Seen))
		if out.Err != nil {
			got = failed(out)
		}
		if got != d[1] && got != fmt.Sprintf("%q", d[1]) {
			t.Errorf("%s\n got %s\nwant %s\nmodel %s %v", d[0], got, d[1], set.Find("M").Reading, set.Find("M").Why)
		}
	}
}

// swiftError is an error of Swift as the tests write it: its kind, its place, its text.
func swiftError(out decoder.Outcome) string {
	kind, detail, _ := strings.Cut(out.Err.Message, ": ")
	return fmt.Sprintf("%s at %s: %s", kind, wire.Path(out.Place), detail)
}

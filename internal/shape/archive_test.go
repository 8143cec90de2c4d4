package shape

import (
	"encoding/json"
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"vetta/internal/capture"
)

// TestArchiveByMany: a HAR file gives the same whatever the number of workers, with entries that are held
// whole, that go over several stretches, and that are read as they come.
func TestArchiveByMany(t *testing.T) {
	var entries []string
	for i, n := range []int{1, 400, 9000, 3, 60000, 20, 15000, 2, 5000, 7} {
		var rows []string
		for k := range n {
			rows = append(rows, fmt.Sprintf(`{"code":"P%d","name":"Quay \"é\" %d","depth":%d.5}`, k%50, k, k%9))
		}
		text, _ := json.Marshal("{\n\"ports\":[" + strings.Join(rows, ",\n") + "]}")
		entries = append(entries, fmt.Sprintf("{\n\"startedDateTime\":\"2026-03-09T09:%02d:00Z\",\n\"request\":{\"method\":\"GET\",\"url\":\"https://a.example/v2/ports/%d\"},\n\"response\":{\"status\":200,\"content\":{\"text\":%s}}}", i, i, text))
	}
	path := filepath.Join(t.TempDir(), "session.har")
	if err := os.WriteFile(path, []byte(`{"log":{"version":"1.2","creator":{},"entries":[`+strings.Join(entries, ",\n")+"]}}\n"), 0o644); err != nil {
		t.Fatal(err)
	}
	want := ""
	for _, workers := range []int{1, 2, 3, 1} {
		got := dump(Collect([]*capture.File{{Path: path}}, Reading{Workers: workers, Limits: DefaultLimits}))
		if want == "" {
			want = got
		}
		if got != want {
			t.Fatalf("%d workers\n got %s\nwant %s", workers, got, want)
		}
	}
	if !strings.Contains(want, "responses 10") {
		t.Errorf("not every entry was read:\n%.2000s", want)
	}
}

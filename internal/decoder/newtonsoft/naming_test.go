package newtonsoft

import (
	"os"
	"strings"
	"testing"
)

// TestNaming takes the names that .NET itself has made (testdata/truth).
func TestNaming(t *testing.T) {
	table, err := os.ReadFile("../../../testdata/truth/csharp/declared.tsv")
	if err != nil {
		t.Fatal(err)
	}
	checked := 0
	for line := range strings.Lines(string(table)) {
		row := strings.Split(strings.TrimSuffix(line, "\n"), "\t")
		setting, ok := strings.CutPrefix(row[0], "csharp-newtonsoft+")
		if !ok || row[1] != "key" {
			continue
		}
		rename := strategies[map[string]string{"camel": "CamelCaseNamingStrategy", "snake": "SnakeCaseNamingStrategy", "kebab": "KebabCaseNamingStrategy"}[setting]]
		if rename == nil {
			t.Fatalf("no policy for %s", row[0])
		}
		checked++
		if got := rename(row[2]); got != row[4] {
			t.Errorf("%s of %q: %q, want %q", row[0], row[2], got, row[4])
		}
	}
	if checked < 70 {
		t.Errorf("only %d names", checked)
	}
}

package trial

import (
	"fmt"
	"os"
	"strings"
	"testing"

	"vetta/internal/decoder"
	"vetta/internal/source"
	"vetta/internal/source/scan"
	"vetta/internal/wire"
)

// TestFormats holds the formats of texts to what zod 4.6.7 and 3.25 said of them (testdata/measured/zod/formats.mjs).
func TestFormats(t *testing.T) {
	table, err := os.ReadFile("testdata/measured/zod/formats.tsv")
	if err != nil {
		t.Fatal(err)
	}
	plans := map[string]*decoder.Plan{}
	plan := func(format, version string) *decoder.Plan {
		key := format + " " + version
		if plans[key] == nil {
			text := fmt.Sprintf("import { z } from 'zod';\nexport const Row = z.object({ v: z.string().%s() });\nexport const load = async () => Row.parse(await (await fetch('/row')).json());\n", format)
			builds := scan.Source{Name: "package.json", Text: fmt.Sprintf(`{"dependencies": {"zod": "^%s"}}`, version)}
			p, err := For(source.Read([]scan.Source{{Name: "row.ts", Text: text}}, builds), "Row")
			if err != nil {
				t.Fatal(format, err)
			}
			plans[key] = p
		}
		return plans[key]
	}
	rows := strings.Split(strings.TrimSuffix(string(table), "\n"), "\n")
	for _, row := range rows {
		cells := strings.Split(row, "\t")
		for i, version := range []string{"4.0.0", "3.25.0"} {
			want := cells[2+i]
			if want == "-" { // no such format
				continue
			}
			doc, err := wire.Parse([]byte(`{"v":` + wire.Quote(cells[1]) + `}`))
			if err != nil {
				t.Fatal(err)
			}
			got := "ok"
			if out := plan(cells[0], version).Decode(doc); len(out.Issues) > 0 {
				got = out.Issues[0].Reason + ": " + out.Issues[0].Message
			} else if len(out.Unknown) > 0 {
				got = "not followed"
			}
			if got != want {
				t.Errorf("zod %s .%s() of %q: %s, measured %s", version, cells[0], cells[1], got, want)
			}
		}
	}
	if len(rows) < 200 {
		t.Errorf("only %d rows", len(rows))
	}
}

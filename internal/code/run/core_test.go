package run_test

import (
	"encoding/json"
	"fmt"
	"os"
	"strings"
	"testing"

	"vetta/internal/code"
	"vetta/internal/code/run"
	"vetta/internal/source/dart"
	"vetta/internal/source/scan"
	"vetta/internal/wire"
)

// TestCore holds the language and its core library to what the VM made of the expressions in core.tsv, as it shows that
// in a text (scripts/measure/core). What is not followed is no answer, and counted.
func TestCore(t *testing.T) {
	rows, err := os.ReadFile("testdata/core.tsv")
	if err != nil {
		t.Fatal(err)
	}
	text, err := os.ReadFile("testdata/core.json")
	if err != nil {
		t.Fatal(err)
	}
	doc, err := wire.Parse(text)
	if err != nil {
		t.Fatal(err)
	}
	lost := 0
	for i, row := range strings.Split(strings.TrimSpace(string(rows)), "\n") {
		expr, want, _ := strings.Cut(row, "\t")
		name := fmt.Sprintf("%d: %s", i+1, expr)
		m, class := shower(strings.ReplaceAll(expr, "␤", "\n"))
		v, ok, err := m.Make(run.TypeOf(class), doc, true)
		var view run.View
		if err == nil && ok {
			view, err = m.See(v)
		}
		got, threw := "", false
		switch e := err.(type) {
		case nil:
			if !ok || len(view.Elems) != 1 || view.Elems[0].Kind != run.String {
				lost++
				t.Logf("%s: not followed", name)
				continue
			}
			got = view.Elems[0].Text
		case *run.Thrown:
			got, threw = e.Error(), true
		default:
			lost++
			t.Logf("%s: %v", name, err)
			continue
		}
		text, throws := strings.CutPrefix(want, "throws ")
		var wanted string
		if err := json.Unmarshal([]byte(text), &wanted); err != nil {
			t.Fatalf("%s: %v", name, err)
		}
		same := got == wanted
		if throws { // told on one line, and with the class before it
			same = strings.HasSuffix(oneLine(got), oneLine(wanted))
		}
		if threw != throws || !same {
			t.Errorf("%s\n got %q (throws %v)\nwant %q (throws %v)", name, got, threw, wanted, throws)
		}
	}
	if lost > maxLost {
		t.Errorf("%d expressions are not followed, no more than %d were", lost, maxLost)
	}
}

// maxLost is how many of the expressions nothing is said about.
const maxLost = 12

// shower is a program with a class that shows an expression of a document in a text.
func shower(expr string) (*run.Machine, *code.Class) {
	set := dart.Read([]scan.Source{{Name: "core.dart", Text: `import 'dart:convert';
enum Kind { small, big }
class Show {
  final String s;
  Show(this.s);
  factory Show.fromJson(Map<String, dynamic> j) {
    final dynamic v = ` + expr + `;
    return Show('$v');
  }
}`}}, nil)
	d := set.Find("Show").Source.(*run.Declared)
	return run.New(d.Program), d.Class
}

// oneLine is a text without the breaks of its lines.
func oneLine(s string) string { return strings.Join(strings.Fields(s), " ") }

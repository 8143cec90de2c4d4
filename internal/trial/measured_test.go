package trial

import (
	"os"
	"path/filepath"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"testing"

	"vetta/internal/decoder"
	"vetta/internal/model"
	"vetta/internal/source"
	"vetta/internal/source/scan"
	"vetta/internal/wire"
)

// measured is the folder of the models that scripts/measure made from a seed and ran
// with the libraries themselves.
func measured() string {
	if dir := os.Getenv("VETTA_MEASURED"); dir != "" { // one just made
		return dir
	}
	return filepath.Join("testdata", "measured")
}

// sections are the parts of a model file, each under a line "-- NAME --".
func sections(text string) map[string]string {
	out := map[string]string{}
	name := ""
	for line := range strings.Lines(text) {
		if s := strings.TrimSuffix(line, "\n"); strings.HasPrefix(s, "-- ") && strings.HasSuffix(s, " --") {
			name = s[3 : len(s)-3]
		} else {
			out[name] += line
		}
	}
	return out
}

// isUnfollowed says whether a part of a plan is code that is not followed: it may fail
// before what Vetta tells.
func isUnfollowed(n *decoder.Node, seen map[*decoder.Node]bool) bool {
	if n == nil || seen[n] {
		return false
	}
	seen[n] = true
	inner := append([]*decoder.Node{n.Inner, n.Second, n.Third}, n.Args...)
	for _, s := range n.Steps {
		inner = append(inner, s.Node)
	}
	for _, b := range n.Branches {
		inner = append(inner, b.Node)
	}
	return n.Op == decoder.OpUnknown || slices.ContainsFunc(inner, func(n *decoder.Node) bool { return isUnfollowed(n, seen) })
}

var exponent = regexp.MustCompile(`-?[0-9]\.[0-9]+E[0-9]+`)

// swiftSaid is what Foundation did, of an error its kind alone: the rows have another text than Vetta
// behind that.
func swiftSaid(text string) string {
	message, failed := strings.CutPrefix(text, "fails\t")
	if !failed { // Java writes large numbers with an exponent
		return exponent.ReplaceAllStringFunc(text, func(number string) string {
			n, _ := strconv.ParseFloat(number, 64)
			return strconv.FormatFloat(n, 'f', 1, 64)
		})
	}
	if strings.Contains(message, "JSON text did not start with array or object") {
		return "fails\tfragment"
	}
	kind, _, _ := strings.Cut(message, ":")
	kind, _, _ = strings.Cut(kind, " ")
	return "fails\t" + kind
}

// TestMeasuredModels holds Vetta to what the libraries did with models made from a
// seed: whether they decoded each document, what came out, and what their errors said.
func TestMeasuredModels(t *testing.T) {
	files, err := filepath.Glob(filepath.Join(measured(), "*.txt"))
	if err != nil || len(files) == 0 {
		t.Fatal("no models", err)
	}
	told, all := 0, 0
	for _, file := range files {
		t.Run(strings.TrimSuffix(filepath.Base(file), ".txt"), func(t *testing.T) {
			text, err := os.ReadFile(file)
			if err != nil {
				t.Fatal(err)
			}
			parts := sections(string(text))
			var sources, builds []scan.Source
			swift := false
			for name, text := range parts {
				swift = swift || strings.HasSuffix(name, ".swift")
				if source.LanguageOf(name) != nil {
					sources = append(sources, scan.Source{Name: name, Text: text})
				}
				if strings.HasPrefix(name, "build.gradle") {
					builds = append(builds, scan.Source{Name: name, Text: text})
				}
			}
			set := source.Read(sources, builds...)
			plan, err := For(set, strings.TrimSpace(parts["root"]))
			if err != nil {
				t.Fatal(err)
			}
			rows := slices.Collect(strings.Lines(parts["seen"]))
			if len(rows) == 0 {
				t.Fatal("nothing was measured")
			}
			all += len(rows)
			if plan.Refuses != "" {
				return
			}
			unfollowed := isUnfollowed(plan.Root, map[*decoder.Node]bool{})
			for _, line := range rows {
				row := strings.SplitN(strings.TrimSuffix(line, "\n"), "\t", 3)
				doc, err := wire.Parse([]byte(row[0]))
				if err != nil {
					t.Fatal(err)
				}
				out := plan.Decode(doc)
				agrees(t, plan, row[0], out)
				told++
				if (len(out.Unknown) > 0 || out.Err != nil && unfollowed) && row[1] == "fails" {
					told-- // in what is not followed, for all that Vetta says
					continue
				}
				got, want := "ok\t"+javaForm(out.Seen), row[1]+"\t"+row[2]
				if out.Err != nil {
					got, want = "fails\t"+plainMessage(out.Err.Message), row[1]+"\t"+plainMessage(row[2])
				}
				if plan.Settings != nil && (plan.Settings.Library == "moshi" || plan.Settings.Library == "kotlinx.serialization") {
					got, want = offsets.ReplaceAllString(got, ""), offsets.ReplaceAllString(want, "")
				}
				if swift {
					got, want = swiftSaid(got), swiftSaid(want)
				}
				if start, computed := strings.CutSuffix(got, model.NotTold); computed && strings.HasPrefix(want, start) {
					continue // the message is not told
				}
				if !sameForm(got, want) {
					t.Errorf("%s\n got %s\nwant %s", row[0], got, want)
				}
			}
		})
	}
	if os.Getenv("VETTA_MEASURED") == "" && told*100 < all*90 { // others may have whatever settings
		t.Errorf("of %d documents only %d were told", all, told)
	}
	t.Logf("%d of %d documents told", told, all)
}

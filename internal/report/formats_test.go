package report

import (
	"bytes"
	"encoding/json"
	"encoding/xml"
	"fmt"
	"io"
	"os"
	"regexp"
	"strings"
	"testing"
	"unicode/utf8"

	"github.com/santhosh-tekuri/jsonschema/v6"

	"vetta/internal/config"
	"vetta/internal/drift/finding"
	"vetta/internal/model"
)

// hostile are texts as source and captures may have them, each of which means something to one of the formats.
var hostile = []string{
	`<script>alert(1)</script>`, `"><img src=x onerror=alert(1)>`, "]]>", "a|b", "``` x", "`", "**b**", "@saltmere", "[x](y)", "\x00\x1b[31m", "\xff\xfe", "é → 😀",
	"</details>", "&amp;&lt;", "line\nbreak", "{{.Style}}", "\u202eabc", "--><!--", `\`, "javascript:alert(1)",
}

// hostileCheck is a check whose every text is one of these.
func hostileCheck(findings int) *Check {
	c := &Check{Layout: LayoutVersion, Command: "check", options: Options{Examples: 3, Loose: true}}
	text := func(i int) string { return hostile[i%len(hostile)] }
	for i := range findings {
		f := CheckFinding{
			Kind: "wrong-kind", Level: finding.Levels[i%len(finding.Levels)], Title: text(i), Field: text(i + 1), Declared: text(i + 2), At: model.Pos{File: text(i+3) + ".kt", Line: int32(i + 1), Col: 3},
			Error: text(i + 4), Seen: text(i + 5), Note: text(i + 6), Brief: text(i + 7), Suggestion: text(i + 8), Code: text(i + 9), Responses: int64(i), OfResponses: int64(findings), Exact: i%2 == 0,
			Sites: []CheckSite{{
				Endpoint: text(i + 10), Place: text(i + 11), Where: text(i + 12), Values: 1, Of: 3, Responses: 1, OfResponses: 2, Since: text(i + 13), Sent: []CheckSent{{What: text(i), Values: 1, Responses: 1, Error: text(i + 1)}},
				Examples: []CheckExample{{Capture: text(i), Entry: i % 2, Pointer: text(i + 1), Line: i % 3, Column: 1, Value: text(i + 2)}},
			}},
		}
		m := CheckModel{Name: text(i), At: f.At, Language: "kotlin", Library: text(i + 1), Findings: []CheckFinding{f}, Unknown: []UnknownField{{text(i), f.At, text(i + 1)}}}
		if i%5 == 4 {
			m.Findings, m.Accepted = nil, []Accepted{{f, text(i), "2026-12-01", ""}}
		}
		c.Models = append(c.Models, m)
		c.Unjudged = append(c.Unjudged, UnjudgedModel{Name: text(i), Why: text(i + 1), At: f.At})
		c.Problems = append(c.Problems, CheckProblem{What: "capture", File: text(i), Reason: text(i + 1), Line: i % 2})
	}
	c.Roots = []CheckRoot{{Type: text(0), Endpoint: text(1), Place: text(2), Findings: []CheckFinding{{Kind: "wrong-root", Level: finding.Breaks, Title: text(4)}}, Responses: 3}}
	c.Ledger = &LedgerState{File: text(3), Accepted: 1, Stale: []LedgerEntry{{Drift: config.Drift{Model: text(5), Kind: text(6)}}}}
	c.count()
	return c
}

func written(t *testing.T, name string, c *Check) string {
	t.Helper()
	var out bytes.Buffer
	if err := FormatOf(name).Write(c, &out, Writing{Version: "1.2.3", FailOn: finding.Misreads}); err != nil {
		t.Fatal(err)
	}
	if !utf8.Valid(out.Bytes()) {
		t.Errorf("%s is not UTF-8", name)
	}
	return out.String()
}

func sarifSchemaOf(t *testing.T) *jsonschema.Schema {
	t.Helper()
	f, err := os.Open("testdata/sarif-schema-2.1.0.json")
	if err != nil {
		t.Fatal(err)
	}
	defer f.Close()
	doc, err := jsonschema.UnmarshalJSON(f)
	if err != nil {
		t.Fatal(err)
	}
	compiler := jsonschema.NewCompiler()
	compiler.AssertFormat()
	if err := compiler.AddResource("sarif.json", doc); err != nil {
		t.Fatal(err)
	}
	schema, err := compiler.Compile("sarif.json")
	if err != nil {
		t.Fatal(err)
	}
	return schema
}

func TestSARIFIsValid(t *testing.T) {
	schema := sarifSchemaOf(t)
	for _, c := range []*Check{hostileCheck(0), hostileCheck(40)} {
		doc, err := jsonschema.UnmarshalJSON(strings.NewReader(written(t, "sarif", c)))
		if err != nil {
			t.Fatal(err)
		}
		if err := schema.Validate(doc); err != nil {
			t.Errorf("%v", err)
		}
	}
	if err := schema.Validate(map[string]any{"version": "2.1.0"}); err == nil {
		t.Error("the schema takes what has no runs")
	}
}

// TestFingerprintsStay: a finding is the same for code scanning while its model, field, kind and place are.
func TestFingerprintsStay(t *testing.T) {
	prints := func(change func(f *CheckFinding)) (all []string) {
		c := hostileCheck(10)
		for i := range c.Models {
			for k := range c.Models[i].Findings {
				change(&c.Models[i].Findings[k])
			}
		}
		var log struct {
			Runs []struct {
				Results []struct{ PartialFingerprints map[string]string }
			}
		}
		if err := json.Unmarshal([]byte(written(t, "sarif", c)), &log); err != nil {
			t.Fatal(err)
		}
		for _, r := range log.Runs[0].Results {
			all = append(all, fmt.Sprint(r.PartialFingerprints))
		}
		return all
	}
	before := fmt.Sprint(prints(func(*CheckFinding) {}))
	if after := prints(func(f *CheckFinding) { f.At.Line += 7; f.Responses++; f.Title += "!" }); fmt.Sprint(after) != before {
		t.Error("fingerprints change with lines and counts")
	}
	if after := prints(func(f *CheckFinding) { f.Sites[0].Place += ".x" }); fmt.Sprint(after) == before {
		t.Error("fingerprints stay where the place is another")
	}
}

func TestJUnitIsWellFormed(t *testing.T) {
	c := hostileCheck(40)
	text := written(t, "junit", c)
	dec := xml.NewDecoder(strings.NewReader(text))
	for {
		if _, err := dec.Token(); err == io.EOF {
			break
		} else if err != nil {
			t.Fatalf("%v in\n%s", err, text)
		}
	}
	var all junitSuites
	if err := xml.Unmarshal([]byte(text), &all); err != nil {
		t.Fatal(err)
	}
	cases, failed, skipped := 0, 0, 0
	for _, s := range all.Suites {
		for _, k := range s.Cases {
			cases++
			if len(k.Failures) > 0 {
				failed++
			} else if k.Skipped != nil {
				skipped++
			}
		}
	}
	if cases != all.Tests || failed != all.Failures || skipped != all.Skipped || failed == 0 || skipped == 0 {
		t.Errorf("%d cases, %d failures and %d skipped are told as %d, %d and %d", cases, failed, skipped, all.Tests, all.Failures, all.Skipped)
	}
}

func TestMarkdownIsBounded(t *testing.T) {
	for _, n := range []int{0, 3, 400, 3000} {
		text := written(t, "markdown", hostileCheck(n))
		if size := utf8.RuneCountInString(text); size > MarkdownLimit {
			t.Errorf("%d findings take %d characters", n, size)
		}
		if cut := strings.Contains(text, "left out here"); cut != (n > 100) {
			t.Errorf("%d findings: is anything said to be left out? %v", n, cut)
		}
		if open, closed := strings.Count(text, "\n<details>"), strings.Count(text, "\n</details>\n"); open != closed {
			t.Errorf("%d findings: %d folds are opened and %d closed", n, open, closed)
		}
	}
}

var codeElement = regexp.MustCompile(`<code>[^<]*</code>`)

// withoutCode is a line of Markdown without its code spans (CommonMark 0.31, section 6.1).
func withoutCode(line string) string {
	var out strings.Builder
	for i := 0; i < len(line); i++ {
		switch n := len(line[i:]) - len(strings.TrimLeft(line[i:], "`")); {
		case line[i] == '\\':
			i++
		case n > 0:
			mark := line[i : i+n]
			for i += n; i < len(line) && !strings.HasPrefix(line[i:], mark); i++ {
			}
			i += n - 1
		default:
			out.WriteByte(line[i])
		}
	}
	return out.String()
}

// TestMarkdownKeepsText: what stands in source and captures is text in a comment, and no markup.
func TestMarkdownKeepsText(t *testing.T) {
	text := written(t, "markdown", hostileCheck(40))
	fenced := false
	fence := ""
	for _, line := range strings.Split(text, "\n") {
		if mark := strings.TrimLeft(line, "`"); len(line)-len(mark) >= 3 && (!fenced && (mark == "text" || mark == "") || fenced && line == fence) {
			fenced, fence = !fenced, line[:len(line)-len(mark)]
			continue
		}
		if fenced {
			continue
		}
		for _, wrong := range []string{"<script", "<img", "@saltmere"} {
			if strings.Contains(codeElement.ReplaceAllString(withoutCode(line), ""), wrong) {
				t.Errorf("%q is markup in %s", wrong, line)
			}
		}
		if strings.HasPrefix(line, "| ") && !strings.HasPrefix(line, "| ---") {
			if cells := strings.Count(strings.ReplaceAll(line, `\|`, ""), "|"); cells != 6 {
				t.Errorf("%d bars in %s", cells, line)
			}
		}
	}
	if fenced {
		t.Error("a fence is never closed")
	}
}

func TestPageKeepsText(t *testing.T) {
	text := written(t, "html", hostileCheck(40))
	for _, wrong := range []string{"<script>alert", "<img", "</details>{{", "href=\"javascript:", "\x00", "\x1b"} {
		if strings.Contains(text, wrong) {
			t.Errorf("%q is in the page", wrong)
		}
	}
	for _, reaches := range []string{"src=", "url(", "@import", "http://", "https://", "<link", "<iframe"} {
		if strings.Contains(strings.ReplaceAll(text, "img src=x", ""), reaches) {
			t.Errorf("the page asks for something: %q", reaches)
		}
	}
	if open, closed := strings.Count(text, "<details"), strings.Count(text, "</details>"); open != closed {
		t.Errorf("%d details are opened and %d closed", open, closed)
	}
	if n := strings.Count(text, "--paper:"); n != strings.Count(pageStyle, "--paper:") {
		t.Errorf("the text of a value is taken for a part of the page")
	}
	ids := map[string]bool{}
	for _, part := range strings.Split(text, ` id="`)[1:] {
		id, _, _ := strings.Cut(part, `"`)
		if ids[id] {
			t.Errorf("two elements are called %s", id)
		}
		ids[id] = true
	}
	for _, part := range strings.Split(text, `href="#`)[1:] {
		if id, _, _ := strings.Cut(part, `"`); !ids[id] {
			t.Errorf("a link leads to %s, which is not there", id)
		}
	}
}

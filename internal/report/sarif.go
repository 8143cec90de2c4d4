package report

import (
	"crypto/sha256"
	"encoding/hex"
	"fmt"
	"io"
	"net/url"
	"path/filepath"
	"strings"

	"vetta/internal/config"
	"vetta/internal/drift"
	"vetta/internal/drift/finding"
	"vetta/internal/model"
)

// The parts of SARIF 2.1.0 (OASIS standard, 27 March 2020, with errata 01) that a check has.
type (
	sarifLog struct {
		Schema  string     `json:"$schema"`
		Version string     `json:"version"`
		Runs    []sarifRun `json:"runs"`
	}
	sarifRun struct {
		Tool        sarifTool         `json:"tool"`
		Invocations []sarifInvocation `json:"invocations"`
		ColumnKind  string            `json:"columnKind"`
		Results     []sarifResult     `json:"results"`
		Properties  map[string]any    `json:"properties,omitempty"`
	}
	sarifTool struct {
		Driver sarifDriver `json:"driver"`
	}
	sarifDriver struct {
		Name            string      `json:"name"`
		Version         string      `json:"version"`
		SemanticVersion string      `json:"semanticVersion"`
		Rules           []sarifRule `json:"rules"`
	}
	sarifRule struct {
		ID      string         `json:"id"`
		Short   sarifText      `json:"shortDescription"`
		Full    sarifText      `json:"fullDescription"`
		Help    sarifText      `json:"help"`
		Default sarifDefault   `json:"defaultConfiguration"`
		Props   map[string]any `json:"properties,omitempty"`
	}
	sarifText struct {
		Text     string `json:"text"`
		Markdown string `json:"markdown,omitempty"`
	}
	sarifDefault struct {
		Level string `json:"level"`
	}
	sarifInvocation struct {
		Successful    bool                `json:"executionSuccessful"`
		Notifications []sarifNotification `json:"toolExecutionNotifications,omitempty"`
	}
	sarifNotification struct {
		Level     string          `json:"level"`
		Message   sarifText       `json:"message"`
		Locations []sarifLocation `json:"locations,omitempty"`
	}
	sarifResult struct {
		RuleID       string             `json:"ruleId"`
		RuleIndex    int                `json:"ruleIndex"`
		Level        string             `json:"level"`
		Message      sarifText          `json:"message"`
		Locations    []sarifLocation    `json:"locations,omitempty"`
		Related      []sarifLocation    `json:"relatedLocations,omitempty"`
		Fingerprints map[string]string  `json:"partialFingerprints"`
		Suppressions []sarifSuppression `json:"suppressions,omitempty"`
		Properties   map[string]any     `json:"properties,omitempty"`
	}
	sarifSuppression struct {
		Kind          string `json:"kind"`
		Status        string `json:"status"`
		Justification string `json:"justification"`
	}
	sarifLocation struct {
		ID       *int           `json:"id,omitempty"`
		Message  *sarifText     `json:"message,omitempty"`
		Physical *sarifPhysical `json:"physicalLocation,omitempty"`
		Logical  []sarifLogical `json:"logicalLocations,omitempty"`
	}
	sarifPhysical struct {
		Artifact sarifArtifact `json:"artifactLocation"`
		Region   *sarifRegion  `json:"region,omitempty"`
	}
	sarifArtifact struct {
		URI string `json:"uri"`
	}
	sarifRegion struct {
		Line   int `json:"startLine"`
		Column int `json:"startColumn,omitempty"`
	}
	sarifLogical struct {
		Name  string `json:"name"`
		Whole string `json:"fullyQualifiedName"`
		Kind  string `json:"kind"`
	}
)

const sarifSchema = "https://docs.oasis-open.org/sarif/sarif/v2.1.0/errata01/os/schemas/sarif-schema-2.1.0.json"

// sarifLevel is a level as SARIF has it (section 3.27.10).
func sarifLevel(l finding.Level) string {
	switch l {
	case finding.Breaks:
		return "error"
	case finding.Misreads:
		return "warning"
	}
	return "note"
}

// SARIF writes a check for code scanning: a result a finding, at the field that it is about, with the responses that show
// it as related locations. What is accepted is there and suppressed.
func (c *Check) SARIF(out io.Writer, how Writing) error {
	run := sarifRun{ColumnKind: "unicodeCodePoints", Results: []sarifResult{}, Tool: sarifTool{sarifDriver{
		Name: "Vetta", Version: how.Version, SemanticVersion: how.Version, Rules: []sarifRule{},
	}}}
	rules := map[string]int{}
	for _, k := range drift.Kinds() {
		rules[k.Name] = len(run.Tool.Driver.Rules)
		run.Tool.Driver.Rules = append(run.Tool.Driver.Rules, ruleOf(k))
	}
	for _, s := range c.subjects() {
		add := func(f CheckFinding, suppressed ...sarifSuppression) {
			if f.Level != finding.Loose || c.options.Loose {
				result := c.result(s, f)
				result.RuleIndex, result.Suppressions = rules[f.Kind], suppressed
				run.Results = append(run.Results, result)
			}
		}
		for _, f := range *s.findings {
			add(f)
		}
		for _, a := range *s.accepted {
			add(a.CheckFinding, sarifSuppression{"external", "accepted", a.Reason})
		}
	}
	run.Invocations = []sarifInvocation{{Successful: !c.Partial, Notifications: c.notifications()}}
	run.Properties = map[string]any{"responses": c.Total.Checked, "wouldNotDecode": c.Total.WouldNotDecode.Responses}
	return JSON(out, sarifLog{sarifSchema, "2.1.0", []sarifRun{run}})
}

func ruleOf(k *finding.Kind) sarifRule {
	help := k.Text + "\n\nWhat to do: " + k.Fix
	text := "# " + k.Title + "\n\n" + k.Text + "\n"
	for _, e := range k.Examples {
		text += fmt.Sprintf("\nIn %s%s:\n\n```\n%s\n%s\n```\n", e.In, posted(e), e.Code, e.Sent)
	}
	return sarifRule{
		ID: k.Name, Short: sarifText{Text: k.Title}, Full: sarifText{Text: k.Text}, Help: sarifText{help, text + "\n**What to do:** " + k.Fix + "\n"},
		Default: sarifDefault{sarifLevel(k.Level)}, Props: map[string]any{"level": k.Level},
	}
}

func (c *Check) result(s subject, f CheckFinding) sarifResult {
	whole := joined(s.name, f.Field)
	kind := "member"
	if f.Field == "" {
		kind = "type"
	}
	at := sarifLocation{Physical: physical(f.At), Logical: []sarifLogical{{model.SimpleName(whole), whole, kind}}}
	if f.At.IsZero() {
		at.Physical = physical(s.at)
	}
	text := c.message(s.name, f)
	result := sarifResult{
		RuleID: f.Kind, Level: sarifLevel(f.Level), Message: sarifText{Text: text}, Locations: []sarifLocation{at},
		Fingerprints: map[string]string{"vettaDrift/v1": fingerprint(s.drift(&f, asRead))},
	}
	for _, site := range f.Sites {
		for _, ex := range site.Examples {
			id := len(result.Related) + 1
			note := strings.TrimSpace(fmt.Sprintf("%s %s", pointerText(ex.Pointer, ex.Value), ex.Value))
			if ex.Entry > 0 {
				note = fmt.Sprintf("#%d, %s", ex.Entry, note)
			}
			result.Related = append(result.Related, sarifLocation{ID: &id, Message: &sarifText{Text: Safe(note)}, Physical: physical(model.Pos{File: ex.Capture, Line: int32(ex.Line), Col: int32(ex.Column)})})
		}
	}
	result.Properties = map[string]any{"responses": f.Responses, "ofResponses": f.OfResponses, "exact": f.Exact, "model": s.name, "language": s.language}
	if f.Suggestion != "" {
		result.Properties["change"] = f.Suggestion
	}
	return result
}

// message says a finding in a sentence or two.
func (c *Check) message(name string, f CheckFinding) string {
	if len(f.Keys) > 0 {
		return Safe(name + ": " + unreadLine(f))
	}
	text := joined(name, f.Field)
	if f.Declared != "" && f.Declared != f.Field {
		text += " (" + f.Declared + ")"
	}
	text += ": " + f.Title
	if f.OfResponses > 0 && f.Level != finding.Loose {
		text += fmt.Sprintf(", in %s%d of %s", atLeast(Count{f.Responses, f.Exact}), f.Responses, Plural(f.OfResponses, bodies(len(f.Sites) > 0 && f.Sites[0].ofRequests)))
	}
	text += "."
	if f.Error != "" {
		text += " " + strings.TrimRight(f.Error, ": ")
	}
	if f.Suggestion != "" {
		text += " Change: " + f.Suggestion
	}
	return Safe(text)
}

// fingerprint is a text that is the same while the finding is.
func fingerprint(d config.Drift) string {
	sum := sha256.Sum256([]byte(fmt.Sprintf("%q", d)))
	return hex.EncodeToString(sum[:16])
}

// physical is a place in a file, nil for what is in none: standard input.
func physical(at model.Pos) *sarifPhysical {
	if at.File == "" || at.File == "-" {
		return nil
	}
	p := &sarifPhysical{Artifact: sarifArtifact{fileURI(at.File)}}
	if at.Line > 0 {
		p.Region = &sarifRegion{int(at.Line), int(at.Col)}
	}
	return p
}

// fileURI is a path as a URI reference (RFC 3986), relative where the path is.
func fileURI(path string) string {
	u := url.URL{Path: filepath.ToSlash(path)}
	if filepath.IsAbs(path) {
		u.Scheme = "file"
		if !strings.HasPrefix(u.Path, "/") {
			u.Path = "/" + u.Path
		}
	}
	return u.String()
}

// notifications are what could not be read or judged.
func (c *Check) notifications() (all []sarifNotification) {
	for _, p := range c.Problems {
		level := "warning"
		if p.Odd {
			level = "note"
		}
		n := sarifNotification{Level: level, Message: sarifText{Text: Safe(p.What + ": " + p.Reason)}}
		if at := physical(model.Pos{File: p.File, Line: int32(p.Line), Col: int32(p.Column)}); at != nil {
			n.Locations = []sarifLocation{{Physical: at}}
		}
		all = append(all, n)
	}
	for _, u := range c.Unjudged {
		n := sarifNotification{Level: "note", Message: sarifText{Text: Safe(u.Name + " is not judged: " + u.Why)}}
		if at := physical(u.At); at != nil {
			n.Locations = []sarifLocation{{Physical: at}}
		}
		all = append(all, n)
	}
	if c.Partial {
		all = append(all, sarifNotification{Level: "warning", Message: sarifText{Text: "the run was interrupted: this is of what was read until then"}})
	}
	return all
}

package report

import (
	"bytes"
	_ "embed"
	"fmt"
	"html/template"
	"io"
	"math"
	"strings"

	"vetta/internal/drift"
	"vetta/internal/drift/finding"
)

// The parts of the page: what is shown, how it looks, and what a script adds to it, without which all can be read.
var (
	//go:embed page/page.html
	pageText string
	//go:embed page/page.css
	pageStyle string
	//go:embed page/page.js
	pageScript string
)

var pageTemplate = template.Must(template.New("page").Funcs(template.FuncMap{"safe": Safe, "lines": block, "breaks": breakable}).Parse(pageText))

// page is what the page shows.
type page struct {
	Style    template.CSS
	Script   template.JS
	Verdict  string
	Bad      bool // something breaks
	Lead     string
	Facts    []pageFact
	Rows     []pageRow
	Models   []pageModel
	Lists    []pageList
	Accepted []pageAccepted
	Ledger   string
	Version  string
}

type pageFact struct{ Name, Value, Note string }

// pageRow is a line of the overview.
type pageRow struct {
	Level, Field, Brief, At, Count, Anchor string
	Percent                                float64
	Share                                  string // in words, for those who do not see the bar
}

type pageModel struct {
	Name, At, About, Anchor string
	Whole                   bool // a type as a whole response
	Decoded                 []pageDecoded
	Findings                []pageFinding
	Unknown                 []UnknownField
}

type pageDecoded struct {
	Text    string
	Lost    string // "" for none
	Percent float64
}

type pageFinding struct {
	Anchor, Level, Head, Declared, At, Title, Kind, Help string
	Sites                                                []pageSite
	Keys                                                 []pageShare
	Notes                                                []pageNote
	Change                                               string
	Code                                                 string
}

type pageSite struct {
	Place    string
	Since    string
	Sent     []pageShare
	Examples []CheckExample
}

// pageShare is what was sent, with how much of all.
type pageShare struct {
	What, Count, Error string
	Percent            float64
}

type pageNote struct{ Label, Text string }

type pageList struct {
	Title string
	Lines []string
}

type pageAccepted struct{ Field, Kind, Level, Reason, Until string }

// HTML writes a check as a page: one file that asks for nothing else and can be read without its script.
func (c *Check) HTML(out io.Writer, how Writing) error {
	var b bytes.Buffer
	if err := pageTemplate.Execute(&b, c.page(how)); err != nil {
		return err
	}
	_, err := out.Write(b.Bytes())
	return err
}

func (c *Check) page(how Writing) page {
	t := c.Total
	p := page{Style: template.CSS(pageStyle), Script: template.JS(pageScript), Version: how.Version, Verdict: c.verdict(), Bad: t.Findings.Breaks > 0}
	p.Lead = t.WouldNotDecode.lost(t.Checked)
	for _, l := range finding.Levels {
		if l != finding.Loose || c.options.Loose {
			p.Facts = append(p.Facts, pageFact{string(l), fmt.Sprint(t.Findings.Of(l)), levelNote(l)})
		}
	}
	p.Facts = append(p.Facts,
		pageFact{"models", fmt.Sprint(t.Declared), fmt.Sprintf("%d with findings, %d without a response, %d not judged", t.WithFindings, t.WithoutResponse, t.NotJudged)},
		pageFact{"responses", fmt.Sprint(t.Responses), fmt.Sprintf("from %s; %d without a model", countOf(t.Captures, "capture"), t.WithoutModel)})
	for i := range c.Roots {
		if r := &c.Roots[i]; len(r.Findings) > 0 {
			p.Models = append(p.Models, c.wholePage(r, len(p.Models)))
		}
	}
	for i := range c.Models {
		if m := &c.Models[i]; c.says(*m) {
			p.Models = append(p.Models, c.modelPage(m, len(p.Models)))
		}
	}
	if n := c.Narrowed; n != nil {
		p.Facts = append(p.Facts, pageFact{"left out", fmt.Sprint(n.Findings), fmt.Sprintf("findings, and %s, by -only and -skip", Plural(int64(n.Models), "model"))})
	}
	p.Rows = c.pageRows(p.Models)
	p.Lists = c.pageLists()
	c.pageAccepted(&p)
	return p
}

func levelNote(l finding.Level) string {
	switch l {
	case finding.Breaks:
		return "a response does not decode"
	case finding.Misreads:
		return "the app sees something else than what was sent"
	case finding.Ignores:
		return "keys that are sent and not read"
	}
	return "declared wider than anything seen"
}

// percent is a share of a whole, at least so much that it can be seen.
func percent(n, of int64) float64 {
	if of == 0 || n == 0 {
		return 0
	}
	return math.Max(1.5, math.Min(100, math.Round(1000*float64(n)/float64(of))/10))
}

func (c *Check) wholePage(r *CheckRoot, index int) pageModel {
	m := pageModel{Name: r.Type, Anchor: fmt.Sprintf("m%d", index), Whole: true, About: r.Library}
	m.Decoded = []pageDecoded{decodedPage(r.decodedFrom(), r.WouldNotDecode, r.Responses, "")}
	for k, f := range r.Findings {
		m.Findings = append(m.Findings, c.findingPage(f, r.Type, fmt.Sprintf("%sf%d", m.Anchor, k), false))
	}
	return m
}

func (c *Check) modelPage(m *CheckModel, index int) pageModel {
	out := pageModel{Name: m.Name, At: m.At.String(), Anchor: fmt.Sprintf("m%d", index), About: m.about(), Unknown: m.Unknown}
	for _, d := range m.Decoded {
		out.Decoded = append(out.Decoded, decodedPage(d.String(), d.WouldNotDecode, d.Responses, " because of it"))
	}
	for k, f := range m.Findings {
		if f.Level != finding.Loose || c.options.Loose {
			out.Findings = append(out.Findings, c.findingPage(f, m.Name, fmt.Sprintf("%sf%d", out.Anchor, k), len(m.Decoded) > 1))
		}
	}
	return out
}

func decodedPage(text string, lost Count, of int64, why string) pageDecoded {
	d := pageDecoded{Text: text, Percent: percent(lost.Responses, of)}
	if lost.Responses > 0 {
		d.Lost = lost.lost(of) + why
	}
	return d
}

func (c *Check) findingPage(f CheckFinding, model, anchor string, several bool) pageFinding {
	out := pageFinding{Anchor: anchor, Level: string(f.Level), Head: f.Field, Declared: f.Declared, Title: f.Title, Kind: f.Kind, Change: f.Suggestion, Code: f.Code}
	if out.Head == "" {
		out.Head = model
	}
	if out.Declared == out.Head {
		out.Declared = ""
	}
	if !f.At.IsZero() {
		out.At = f.At.String()
	}
	if isShown(f) {
		out.Code = ""
	}
	for _, k := range drift.Kinds() {
		if k.Name == f.Kind {
			out.Help = k.Text
		}
	}
	for _, k := range f.Keys {
		out.Keys = append(out.Keys, pageShare{What: k.Name, Count: fmt.Sprintf("in %d of %s", k.Objects, Plural(k.Of, objectAt(k.Place))), Percent: percent(k.Objects, k.Of)})
	}
	for i, s := range f.Sites {
		site := pageSite{Place: s.Endpoint + " " + placed(s.Place, s.Where), Since: s.Since}
		if s.First != "" {
			site.Since = strings.TrimPrefix(site.Since+", first in "+s.First, ", ")
			if s.Last != "" && s.Last != s.First {
				site.Since += ", last in " + s.Last
			}
		}
		if len(f.Sites) == 1 && !several {
			site.Place = ""
		}
		for k, sent := range s.Sent {
			if k == 8 {
				site.Sent = append(site.Sent, pageShare{What: fmt.Sprintf("and %d more", len(s.Sent)-k)})
				break
			}
			share := pageShare{
				What:  sent.What,
				Count: inOf(sent, s),
				Error: strings.TrimRight(sent.Error, ": "), Percent: percent(sent.Values, s.Of),
			}
			site.Sent = append(site.Sent, share)
		}
		if c.examplesAt(f, i) > 0 {
			for _, ex := range s.Examples {
				ex.Value = showing(ex.Value, f, s)
				site.Examples = append(site.Examples, ex)
			}
		}
		out.Sites = append(out.Sites, site)
	}
	note := func(label, text string) {
		if text != "" {
			out.Notes = append(out.Notes, pageNote{label, text})
		}
	}
	note("app sends", f.Writes)
	note("app sees", f.Seen)
	note(f.errorLabel(), strings.TrimRight(f.Error, ": "))
	note("evidence", f.Note)
	return out
}

// pageRows are the lines of the overview, each with the place of its finding on the page.
func (c *Check) pageRows(models []pageModel) (rows []pageRow) {
	anchors := map[string]string{}
	for _, m := range models {
		for _, f := range m.Findings {
			anchors[m.Name+"\x00"+f.Head+"\x00"+f.Kind+"\x00"+f.At] = f.Anchor
		}
	}
	for _, r := range c.rows() {
		head, at := r.finding.Field, ""
		if head == "" {
			head = r.model
		}
		if !r.finding.At.IsZero() {
			at = r.finding.At.String()
		}
		rows = append(rows, pageRow{
			Level: string(r.level), Field: r.field, Brief: r.brief, At: r.where, Count: r.count(), Percent: percent(r.responses, r.of),
			Share: fmt.Sprintf("in %d of %d responses", r.responses, r.of), Anchor: anchors[r.model+"\x00"+head+"\x00"+r.finding.Kind+"\x00"+at],
		})
	}
	return rows
}

// pageLists are what the page tells beside findings.
func (c *Check) pageLists() (lists []pageList) {
	add := func(title string, lines []string) {
		if len(lines) > 0 {
			lists = append(lists, pageList{title, lines})
		}
	}
	models, endpoints, unjudged := c.aside()
	var problems []string
	for _, p := range c.Problems {
		at := p.File
		if p.Line > 0 {
			at = fmt.Sprintf("%s:%d:%d", p.File, p.Line, p.Column)
		}
		problems = append(problems, at+"  "+p.Reason)
	}
	add("Not judged", unjudged)
	add("Models without a response", models)
	add("Responses without a model", endpoints)
	add("Could not be read", problems)
	add("Limits reached", c.Limits)
	var clean []string
	for _, m := range c.Models {
		if !c.found(m) {
			clean = append(clean, m.Name+"  "+m.At.String())
		}
	}
	add("Models that fit", clean)
	return lists
}

// pageAccepted lists what the ledger accepts.
func (c *Check) pageAccepted(p *page) {
	if c.Ledger == nil {
		return
	}
	p.Ledger = c.Ledger.File
	for _, s := range c.subjects() {
		for _, a := range *s.accepted {
			p.Accepted = append(p.Accepted, pageAccepted{joined(s.name, a.Field), a.Kind, string(a.Level), a.Reason, string(a.Until)})
		}
	}
	for _, e := range c.Ledger.Stale {
		p.Accepted = append(p.Accepted, pageAccepted{e.Name(), e.Kind, "stale", "it no longer occurs: vetta accept -prune removes it", ""})
	}
}

// block is code of several lines.
func block(code string) string {
	lines := strings.Split(code, "\n")
	for i := range lines {
		lines[i] = Safe(lines[i])
	}
	return strings.Join(lines, "\n")
}

// breakable is a name or a path that may go on in the next line behind its parts.
func breakable(text string) template.HTML {
	return template.HTML(strings.NewReplacer(".", ".<wbr>", "/", "/<wbr>").Replace(template.HTMLEscapeString(Safe(text))))
}

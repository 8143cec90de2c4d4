package report

import (
	"cmp"
	"fmt"
	"sort"

	"vetta/internal/drift/finding"
)

// SideBySide is an endpoint that several apps decode, each in its way.
type SideBySide struct {
	Endpoint  string `json:"endpoint"`
	Responses int64  `json:"responses"`
	Apps      []App  `json:"apps"`
}

// App is how one language and library fares with an endpoint.
type App struct {
	Language       string                `json:"language"`
	Library        string                `json:"library"`
	Type           string                `json:"type"`
	WouldNotDecode Count                 `json:"wouldNotDecode"`
	Findings       map[finding.Level]int `json:"findings"` // in the models decoded there, by level
}

// sideBySide gathers the endpoints that roots of several languages or libraries are
// decoded from. Those where all fare alike are left out.
func (c *Check) sideBySide() {
	type key struct{ endpoint, place, language, library string }
	apps := map[key]*App{}
	byEndpoint := map[string]*SideBySide{}
	var order []string
	for _, r := range c.Roots {
		k := key{r.Endpoint, r.Place, r.Language, r.Library}
		if apps[k] != nil || r.Sent {
			continue
		}
		app := &App{Language: r.Language, Library: r.Library, Type: r.Type, WouldNotDecode: r.WouldNotDecode, Findings: map[finding.Level]int{}}
		apps[k] = app
		for _, f := range with(r.Findings, r.Accepted) {
			app.Findings[f.Level]++
		}
		at := r.Endpoint + " " + r.Place
		if byEndpoint[at] == nil {
			byEndpoint[at] = &SideBySide{Endpoint: r.Endpoint, Responses: r.Responses}
			order = append(order, at)
		}
	}
	type decodes struct{ endpoint, language, library string }
	by := map[decodes][]*App{}
	for k, app := range apps {
		at := decodes{k.endpoint, k.language, k.library}
		by[at] = append(by[at], app)
	}
	for _, m := range c.Models {
		for _, f := range with(m.Findings, m.Accepted) {
			seen := map[string]bool{}
			for _, s := range f.Sites {
				seen[s.Endpoint] = true
			}
			for _, k := range f.Keys {
				seen[k.Endpoint] = true
			}
			for endpoint := range seen {
				for _, app := range by[decodes{endpoint, m.Language, m.Library}] {
					app.Findings[f.Level]++
				}
			}
		}
	}
	for k, app := range apps {
		s := byEndpoint[k.endpoint+" "+k.place]
		s.Apps = append(s.Apps, *app)
	}
	for _, at := range order {
		s := byEndpoint[at]
		sort.Slice(s.Apps, func(i, k int) bool {
			a, b := s.Apps[i], s.Apps[k]
			return a.Language < b.Language || a.Language == b.Language && a.Library < b.Library
		})
		differ := false
		for _, app := range s.Apps {
			first := s.Apps[0]
			differ = differ || app.WouldNotDecode != first.WouldNotDecode || app.Findings[finding.Breaks] != first.Findings[finding.Breaks] || app.Findings[finding.Misreads] != first.Findings[finding.Misreads]
		}
		if differ {
			c.SideBySide = append(c.SideBySide, *s)
		}
	}
}

// apps writes the endpoints that apps disagree about.
func (c *Check) apps(w *writer) {
	if len(c.SideBySide) == 0 {
		return
	}
	w.line(0, bold, "Side by side, where apps disagree")
	for _, s := range c.SideBySide {
		w.line(2, "", Safe(fmt.Sprintf("%s  %s", s.Endpoint, Plural(s.Responses, "response"))))
		var widths [2]int
		for _, a := range s.Apps {
			widths[0] = max(widths[0], len([]rune(a.Type)))
			widths[1] = max(widths[1], len([]rune(a.by())))
		}
		for _, a := range s.Apps {
			lost := "all decode"
			if a.WouldNotDecode.Responses > 0 || !a.WouldNotDecode.Exact {
				lost = fmt.Sprintf("%s%d would not decode", atLeast(a.WouldNotDecode), a.WouldNotDecode.Responses)
			}
			w.line(4, "", Safe(fmt.Sprintf("%-*s  %-*s  %s, %d breaks, %d misreads", widths[0], a.Type, widths[1], a.by(), lost, a.Findings[finding.Breaks], a.Findings[finding.Misreads])))
		}
	}
	w.WriteString("\n")
}

// by is what decodes in an app.
func (a App) by() string {
	return cmp.Or(languageNames[a.Language], a.Language) + " · " + a.Library
}

// languageNames are languages as people write them.
var languageNames = map[string]string{"csharp": "C#", "dart": "Dart", "java": "Java", "kotlin": "Kotlin", "swift": "Swift", "typescript": "TypeScript"}

package report

import (
	"encoding/xml"
	"fmt"
	"io"
	"strings"

	"vetta/internal/drift/finding"
)

// What a JUnit report has, as the readers of CI systems agree on it; there is no standard of it.
type (
	junitSuites struct {
		XMLName xml.Name `xml:"testsuites"`
		Name    string   `xml:"name,attr"`
		junitSums
		Suites []junitSuite `xml:"testsuite"`
	}
	junitSuite struct {
		Name string `xml:"name,attr"`
		junitSums
		File  string      `xml:"file,attr,omitempty"`
		Cases []junitCase `xml:"testcase"`
	}
	junitSums struct {
		Tests    int `xml:"tests,attr"`
		Failures int `xml:"failures,attr"`
		Errors   int `xml:"errors,attr"`
		Skipped  int `xml:"skipped,attr"`
	}
	junitCase struct {
		Name     string         `xml:"name,attr"`
		Class    string         `xml:"classname,attr"`
		File     string         `xml:"file,attr,omitempty"`
		Line     int32          `xml:"line,attr,omitempty"`
		Failures []junitFailure `xml:"failure"`
		Skipped  *junitSkipped  `xml:"skipped"`
		Out      *junitText     `xml:"system-out"`
	}
	junitFailure struct {
		Message string `xml:"message,attr"`
		Type    string `xml:"type,attr"`
		Text    string `xml:",chardata"`
	}
	junitSkipped struct {
		Message string `xml:"message,attr"`
	}
	junitText struct {
		Text string `xml:",chardata"`
	}
)

// junitName is what all suites together are called.
const junitName = "vetta check"

// wholeClass is the case of what is found of a class and of none of its fields.
const wholeClass = "(the class)"

// JUnit writes a check as test results: a suite a model, a case a field; what makes the check fail are failures, milder
// findings are output of their case. Accepted findings, and what nothing is claimed of, are skipped.
func (c *Check) JUnit(out io.Writer, how Writing) error {
	all := junitSuites{Name: junitName}
	add := func(s *junitSuite) {
		if len(s.Cases) == 0 {
			return
		}
		for i := range s.Cases {
			s.Tests++
			if len(s.Cases[i].Failures) > 0 {
				s.Failures++
			} else if s.Cases[i].Skipped != nil {
				s.Skipped++
			}
		}
		all.Tests, all.Failures, all.Skipped = all.Tests+s.Tests, all.Failures+s.Failures, all.Skipped+s.Skipped
		all.Suites = append(all.Suites, *s)
	}
	for _, r := range c.Roots {
		s := &junitSuite{Name: Safe(r.Type + " from " + r.Endpoint)}
		s.of(c, how, r.Type, r.Findings, r.Accepted)
		add(s)
	}
	for _, m := range c.Models {
		s := &junitSuite{Name: Safe(m.Name), File: m.At.File}
		for _, f := range m.fields {
			*s.field(m.Name, f.name) = junitCase{Name: Safe(f.name), Class: Safe(m.Name), File: f.at.File, Line: f.at.Line}
		}
		s.of(c, how, m.Name, m.Findings, m.Accepted)
		for _, u := range m.Unknown {
			if k := s.field(m.Name, u.Field); len(k.Failures) == 0 {
				k.Skipped = &junitSkipped{Safe("nothing is claimed: " + u.Why)}
			}
		}
		add(s)
	}
	for _, u := range c.Unjudged {
		k := junitCase{Name: wholeClass, Class: Safe(u.Name), File: u.At.File, Line: u.At.Line}
		if how.Unjudged && u.Endpoint != "" {
			k.Failures = []junitFailure{{Message: Safe("not judged: " + u.Why), Type: "unjudged"}}
		} else {
			k.Skipped = &junitSkipped{Safe("not judged: " + u.Why)}
		}
		add(&junitSuite{Name: Safe(u.Name), File: u.At.File, Cases: []junitCase{k}})
	}
	if _, err := io.WriteString(out, xml.Header); err != nil {
		return err
	}
	enc := xml.NewEncoder(out)
	enc.Indent("", "  ")
	if err := enc.Encode(all); err != nil {
		return err
	}
	_, err := io.WriteString(out, "\n")
	return err
}

// field is the case of a field, made where there is none yet.
func (s *junitSuite) field(class, name string) *junitCase {
	if name == "" {
		name = wholeClass
	}
	for i := range s.Cases {
		if s.Cases[i].Name == Safe(name) {
			return &s.Cases[i]
		}
	}
	s.Cases = append(s.Cases, junitCase{Name: Safe(name), Class: Safe(class)})
	return &s.Cases[len(s.Cases)-1]
}

// of puts findings into the cases of their fields.
func (s *junitSuite) of(c *Check, how Writing, class string, found []CheckFinding, accepted []Accepted) {
	for _, a := range accepted {
		s.field(class, a.Field).Skipped = &junitSkipped{Safe("accepted: " + a.Reason)}
	}
	for _, f := range found {
		if f.Level == finding.Loose && !c.options.Loose {
			continue
		}
		k := s.field(class, f.Field)
		if !f.At.IsZero() {
			k.File, k.Line = f.At.File, f.At.Line
		}
		if !how.fails(f.Level) {
			if k.Out == nil {
				k.Out = &junitText{}
			}
			k.Out.Text += fmt.Sprintf("%s: %s [%s]\n", f.Level, c.message(class, f), f.Kind)
			continue
		}
		k.Skipped = nil
		k.Failures = append(k.Failures, junitFailure{Message: Safe(f.Title), Type: f.Kind, Text: c.block(f)})
	}
}

// block is what a finding says, without the line that heads it.
func (c *Check) block(f CheckFinding) string {
	w := &writer{}
	c.finding(w, f, nil)
	lines := strings.Split(strings.TrimSpace(w.String()), "\n")
	for i := range lines {
		lines[i] = strings.TrimPrefix(lines[i], strings.Repeat(" ", 12))
	}
	return strings.Join(lines, "\n") + "\n"
}

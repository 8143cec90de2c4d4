package report

import (
	"vetta/internal/drift/finding"
	"vetta/internal/model"
	"vetta/internal/shape"
)

// LayoutVersion is the version of the JSON layouts (docs/json.md). It changes when
// a field is renamed, removed or means something else; new fields do not change it.
const LayoutVersion = 1

// Check is the result of a check, as the JSON layout has it.
type Check struct {
	Layout  int          `json:"layout"`
	Command string       `json:"command"`
	Models  []CheckModel `json:"models"`
	Roots   []CheckRoot  `json:"roots"`
	// SideBySide are the endpoints that models of several languages or libraries are
	// decoded from, where these fare differently.
	SideBySide []SideBySide `json:"sideBySide"`
	Unpaired   Unpaired     `json:"unpaired"`
	// Unjudged are models of which nothing is claimed.
	Unjudged   []UnjudgedModel `json:"unjudged"`
	Problems   []CheckProblem  `json:"problems"`
	PassedOver PassedOver      `json:"passedOver"`
	// Passed is what was passed over of captures since it holds no JSON.
	Passed []shape.Passed `json:"passed"`
	// Partial says that the reading of captures was interrupted.
	Partial  bool      `json:"partial,omitempty"`
	Limits   []string  `json:"limits"`
	Narrowed *Narrowed `json:"narrowed,omitempty"`
	// Ledger says what became of the findings that were accepted, nil where there is no ledger.
	Ledger    *LedgerState `json:"ledger,omitempty"`
	Total     Total        `json:"total"`
	options   Options
	untold    bool     // responses do not decode for what no finding tells
	endpoints []string // that were read
	languages []string // of the models that were read
}

// PassedOver are files that lie beside source and were not read, since nobody named them.
type PassedOver struct {
	Tests   []string `json:"tests"`   // of unit and UI tests
	Shipped []string `json:"shipped"` // that the app ships or tests with, and that look like captures
	// Without are files and folders that vetta.toml passes over.
	Without []string `json:"without,omitempty"`
}

// CheckModel is a model with its findings.
type CheckModel struct {
	Name     string         `json:"name"`
	At       model.Pos      `json:"at"`
	Language string         `json:"language"`
	Library  string         `json:"library"`
	Assumed  string         `json:"assumed,omitempty"` // why that is taken for it, where neither its file nor a call says so
	Settings []Setting      `json:"settings"`
	Decoded  []Decoded      `json:"decoded"`
	Findings []CheckFinding `json:"findings"`
	Accepted []Accepted     `json:"accepted,omitempty"`
	Unknown  []UnknownField `json:"unknown"`
	// JudgedIn are the models that extend this one, where its fields are judged in those alone.
	JudgedIn []string  `json:"judgedIn,omitempty"`
	fields   []fieldAt // all that it declares
}

// fieldAt is a field as it stands in source.
type fieldAt struct {
	name string
	at   model.Pos
}

// Setting is a setting of the library, as found in source.
type Setting struct {
	Name  string    `json:"name"`
	Value string    `json:"value"`
	At    model.Pos `json:"at"`
}

// Decoded is a place that a model is decoded from.
type Decoded struct {
	Endpoint       string   `json:"endpoint"`
	Place          string   `json:"place"`
	Where          string   `json:"where,omitempty"` // which objects there, "" for all
	Objects        int64    `json:"objects"`
	Responses      int64    `json:"responses"`
	WouldNotDecode Count    `json:"wouldNotDecode"`
	Evidence       []string `json:"evidence"`
	Sent           bool     `json:"sent,omitempty"` // it is what the app sends, and not what it reads
}

// Count is a number of responses; where it is not exact it is the least it can be.
type Count struct {
	Responses int64 `json:"responses"`
	Exact     bool  `json:"exact"`
}

// CheckRoot is a type that responses are decoded into as a whole.
type CheckRoot struct {
	Type           string         `json:"type"`
	Language       string         `json:"language"`
	Library        string         `json:"library"`
	Endpoint       string         `json:"endpoint"`
	Place          string         `json:"place"`
	Responses      int64          `json:"responses"`
	WouldNotDecode Count          `json:"wouldNotDecode"`
	Swallowed      bool           `json:"swallowed"`
	Evidence       []string       `json:"evidence"`
	Findings       []CheckFinding `json:"findings"`
	Accepted       []Accepted     `json:"accepted,omitempty"`
	Sent           bool           `json:"sent,omitempty"` // the app sends it
	model          model.Pos      // of the first model that the type names
}

// CheckFinding is a finding.
type CheckFinding struct {
	Kind       string        `json:"kind"`
	Level      finding.Level `json:"level"`
	Title      string        `json:"title"`
	Field      string        `json:"field"`
	Declared   string        `json:"declared"`
	At         model.Pos     `json:"at"`
	Error      string        `json:"error,omitempty"`
	Seen       string        `json:"seen,omitempty"`
	trusted    bool          // Error is a compiler's
	Writes     string        `json:"writes,omitempty"` // what the app sends, of a finding about requests
	SentAs     string        `json:"sentAs,omitempty"` // the key that is sent in place of the one that is read
	Note       string        `json:"note,omitempty"`
	Brief      string        `json:"brief"` // what is wrong, in the fewest words
	Suggestion string        `json:"suggestion,omitempty"`
	Code       string        `json:"code,omitempty"` // of the suggestion, what can be pasted
	Keys       []CheckKey    `json:"keys,omitempty"`
	// Responses is how many responses it is in, at all sites, out of how many were looked at there.
	Responses   int64       `json:"responses"`
	OfResponses int64       `json:"ofResponses"`
	Exact       bool        `json:"exact"`
	Sites       []CheckSite `json:"sites"`
}

// CheckKey is a key that is sent and not read.
type CheckKey struct {
	Name     string `json:"name"`
	Endpoint string `json:"endpoint"`
	Place    string `json:"place"`
	Objects  int64  `json:"objects"`
	Of       int64  `json:"of"`
}

// CheckSite is a place where a finding was made.
type CheckSite struct {
	Endpoint    string      `json:"endpoint"`
	Place       string      `json:"place"`
	Where       string      `json:"where,omitempty"` // in which objects, "" for all
	Values      int64       `json:"values"`
	Of          int64       `json:"of"`
	Responses   int64       `json:"responses"`
	OfResponses int64       `json:"ofResponses"`
	Exact       bool        `json:"exact"`
	First       string      `json:"first,omitempty"` // the capture in which it was met first
	Last        string      `json:"last,omitempty"`  // and last
	Since       string      `json:"since,omitempty"` // the same in words, "" where it was so all the time
	Sent        []CheckSent `json:"sent"`
	ofRequests  bool
	Examples    []CheckExample `json:"examples"`
}

// CheckSent is what was sent, by class.
type CheckSent struct {
	What      string `json:"what"`
	Values    int64  `json:"values"`
	Responses int64  `json:"responses"`
	Error     string `json:"error,omitempty"`
}

// CheckExample is one value as it was sent.
type CheckExample struct {
	Capture string `json:"capture"`
	Entry   int    `json:"entry,omitempty"`
	Pointer string `json:"pointer"`
	Line    int    `json:"line"`
	Column  int    `json:"column"`
	Value   string `json:"value"`
}

// UnknownField is a field about which nothing is claimed.
type UnknownField struct {
	Field string    `json:"field"`
	At    model.Pos `json:"at"`
	Why   string    `json:"why"`
}

// Unpaired are models and endpoints that found no partner.
type Unpaired struct {
	Models    []UnpairedModel    `json:"models"`
	Endpoints []UnpairedEndpoint `json:"endpoints"`
}

// UnjudgedModel is a model of which nothing is claimed. Endpoint are the responses that it seems to be
// decoded from, "" for none.
type UnjudgedModel struct {
	Name      string    `json:"name"`
	At        model.Pos `json:"at"`
	Why       string    `json:"why"`
	Endpoint  string    `json:"endpoint,omitempty"`
	Responses int64     `json:"responses,omitempty"`
}

// UnpairedModel is a model that no response was found for.
type UnpairedModel struct {
	Name    string    `json:"name"`
	At      model.Pos `json:"at"`
	Nearest string    `json:"nearest,omitempty"`
	Why     string    `json:"why"`
}

// UnpairedEndpoint are responses that no model was found for.
type UnpairedEndpoint struct {
	Endpoint  string `json:"endpoint"`
	Responses int64  `json:"responses"`
	Nearest   string `json:"nearest,omitempty"`
	Why       string `json:"why"`
	Sent      bool   `json:"sent,omitempty"` // they are requests
}

// CheckProblem is something that could not be read. Line and Column are 0 where a
// file as a whole is meant.
type CheckProblem struct {
	What   string `json:"what"` // input, source or capture
	File   string `json:"file"`
	Line   int    `json:"line,omitempty"`
	Column int    `json:"column,omitempty"`
	Entry  int    `json:"entry,omitempty"`
	Reason string `json:"reason"`
	Odd    bool   `json:"odd,omitempty"` // it was read all the same
	Plain  bool   `json:"-"`             // the reason says all: it is no fault of syntax
}

// Total sums a check up.
type Total struct {
	SourceFiles int `json:"sourceFiles"`
	// Every model that the source declares is one of those with findings, clean, without a response,
	// or not judged; Models are the first two together.
	Declared        int `json:"declared"`
	Models          int `json:"models"`
	WithFindings    int `json:"withFindings"`
	Clean           int `json:"clean"`
	WithoutResponse int `json:"withoutResponse"`
	NotJudged       int `json:"notJudged"`
	Captures        int `json:"captures"`
	// Every response that was read is checked against a type, without a model, or of a model that
	// is not judged.
	Responses          int64 `json:"responses"`
	Checked            int64 `json:"checked"`
	WithoutModel       int64 `json:"withoutModel"`
	ResponsesNotJudged int64 `json:"responsesNotJudged"`
	// Requests are the bodies that were sent; RequestsChecked those that a class of the app is held against.
	Requests        int64         `json:"requests"`
	RequestsChecked int64         `json:"requestsChecked"`
	WouldNotDecode  Count         `json:"wouldNotDecode"`
	Findings        FindingCounts `json:"findings"`
	Problems        int           `json:"problems"`
}

// FindingCounts are findings by level.
type FindingCounts struct {
	Breaks   int `json:"breaks"`
	Misreads int `json:"misreads"`
	Ignores  int `json:"ignores"`
	Loose    int `json:"loose"`
}

// Of is the number of findings of a level.
func (c FindingCounts) Of(l finding.Level) int {
	switch l {
	case finding.Breaks:
		return c.Breaks
	case finding.Misreads:
		return c.Misreads
	case finding.Ignores:
		return c.Ignores
	}
	return c.Loose
}

func (c *FindingCounts) add(l finding.Level) {
	switch l {
	case finding.Breaks:
		c.Breaks++
	case finding.Misreads:
		c.Misreads++
	case finding.Ignores:
		c.Ignores++
	default:
		c.Loose++
	}
}

// Options are what the user asks of a report.
type Options struct {
	Loose    bool // show findings of the level loose
	Secrets  bool // show values that look secret
	All      bool // show models without findings too
	Brief    bool // show the overview alone
	Examples int  // how many examples of each finding are shown, 0 for none
}

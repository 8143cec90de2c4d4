package report

import (
	"os"
	"strings"
	"testing"

	"vetta/internal/drift"
	"vetta/internal/wire"
)

func TestFindingsDocIsCurrent(t *testing.T) {
	page, err := os.ReadFile("../../docs/findings.md")
	if err != nil {
		t.Fatal(err)
	}
	if string(page) != FindingsDoc() {
		t.Error("docs/findings.md is stale: go run scripts/findings_doc.go")
	}
	for _, k := range drift.Kinds() {
		for what, text := range map[string]string{"title": k.Title, "text": k.Text, "what to do": k.Fix} {
			if strings.TrimSpace(text) == "" {
				t.Errorf("%s has no %s", k.Name, what)
			}
		}
	}
}

func TestSafe(t *testing.T) {
	for in, want := range map[string]string{
		"plain é 𝄞":          "plain é 𝄞",
		"\x1b[31mred\x1b[0m": `\u001b[31mred\u001b[0m`,
		"a\tb\nc":            `a\tb\nc`,
		"\u202eabc":          `\u202eabc`,
		"\u0085\u200b":       `\u0085\u200b`,
		"\x7f":               `\u007f`,
		"\U000e0001":         `\U000e0001`,
		"\ufffd":             `\ufffd`,
	} {
		if got := Safe(in); got != want {
			t.Errorf("%q becomes %q, want %q", in, got, want)
		}
	}
}

func TestMask(t *testing.T) {
	at := func(names ...string) (steps []wire.Step) {
		for _, n := range names {
			steps = append(steps, wire.MemberOf(n))
		}
		return steps
	}
	for _, c := range []struct {
		steps         []wire.Step
		literal, want string
	}{
		{at("name"), `"Tern"`, `"Tern"`},
		{at("access_token"), `"abc"`, masked},
		{at("apiKey"), `"abc"`, masked},
		{at("user", "password"), `12345`, masked},
		{at("token"), `null`, `null`},
		{at("sessions"), `"x"`, `"x"`},
		{at("keyboard"), `"x"`, `"x"`},
		{at("contact"), `"mara@saltmere.example"`, `"` + masked + `"`},
		{at("x"), `"eyJhbGciOiJI.eyJzdWIiOiIx.c2ln"`, `"` + masked + `"`},
		{at("h"), `"Bearer abcdefgh12345"`, `"` + masked + `"`},
		{at("v"), `{"id":1,"token":"abc","name":"x"}`, `{"id":1,"token":` + masked + `,"name":"x"}`},
		{at("v"), `{"password":"cut off…`, `{"password":` + masked},
		{at("hash"), `"0123456789abcdef0123456789abcdef"`, `"` + masked + `"`},
		{at("id"), `"123e4567-e89b-12d3-a456-426614174000"`, `"123e4567-e89b-12d3-a456-426614174000"`},
	} {
		if got := Mask(c.steps, c.literal); got != c.want {
			t.Errorf("%s at %s becomes %s, want %s", c.literal, wire.Path(c.steps), got, c.want)
		}
	}
}

func TestWrap(t *testing.T) {
	w := &writer{Style: Style{Width: 40}}
	w.labelled(2, "label", 8, "", "words that go on and on beyond the width of the window, and onewordthatislongerthanawholeline")
	for _, line := range strings.Split(w.String(), "\n") {
		if n := len([]rune(line)); n > 40 {
			t.Errorf("%d characters: %q", n, line)
		}
	}
	plain := &writer{}
	plain.labelled(2, "label", 8, red, strings.Repeat("word ", 100))
	if strings.Count(plain.String(), "\n") != 1 || strings.Contains(plain.String(), "\x1b") {
		t.Errorf("%q", plain.String())
	}
}

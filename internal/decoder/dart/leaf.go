package dart

import (
	"math"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"sync"
	"time"

	"vetta/internal/code/run"
	"vetta/internal/decoder"
	"vetta/internal/model"
	"vetta/internal/wire"
)

// leaf is the node for a value that the code makes something of as it is; inside says that what is in an array or an
// object decides too.
func (p *planner) leaf(t tried, at *run.Place, f *model.Field, inside bool) *decoder.Node {
	n := &decoder.Node{Op: decoder.OpLeaf, Inside: inside || p.looksInside(t, at)}
	if f != nil {
		n.Type, n.Model = f.Declared, enumOf(f.Type)
	}
	read := func(v *wire.Value) decoder.Verdict {
		verdict := p.judge(t, at, v)
		if verdict.Err != nil && v.Kind == wire.String {
			verdict.Err = ofText(verdict.Err, n.Model != nil)
		}
		if verdict.Loss == decoder.NoConstant && n.Model == nil {
			verdict.Loss = decoder.Swallowed
		}
		return verdict
	}
	n.Read = func(v *wire.Value) decoder.Verdict {
		p.lock.Lock()
		defer p.lock.Unlock()
		return read(v)
	}
	n.Minds = sync.OnceValues(func() (text, numbersByClass bool) { return decoder.Minds(n.Read) })
	return n
}

// The samples by which it is found whether what is in a collection decides: those of one kind, the empty one first.
var collections = map[wire.Kind][]string{
	wire.Array:  {`[]`, `[null]`, `[1]`, `["text"]`, `[{}]`},
	wire.Object: {`{}`, `{"key":null}`, `{"key":1}`, `{"key":"text"}`},
}

// looksInside says whether a list or an object at a place fares by what is in it, though nothing tells how.
func (p *planner) looksInside(t tried, at *run.Place) bool {
	fares := func(text string) (class string, reason decoder.Reason) {
		v, err := wire.Parse([]byte(text))
		if err != nil {
			return "", ""
		}
		if failed := p.probe(t, &run.Probe{At: at, Value: p.m.FromWire(v, at)}).err; failed != nil {
			return failed.Kind, failed.Reason
		}
		return "", ""
	}
	for _, kind := range []wire.Kind{wire.Array, wire.Object} {
		samples := collections[kind]
		class, reason := fares(samples[0])
		if reason != decoder.ReasonKind && slices.ContainsFunc(samples[1:], func(s string) bool {
			c, r := fares(s)
			return c != class || r != reason
		}) {
			return true
		}
	}
	return false
}

// ofText is an error as one for a text: what code throws for one that no constant has, or looks up and does not find.
func ofText(err *decoder.Error, constant bool) *decoder.Error {
	if err.Reason != decoder.ReasonCode && err.Reason != decoder.ReasonNull {
		return err
	}
	e := *err
	switch {
	case constant:
		e.Reason = decoder.ReasonConstant
	case err.Reason == decoder.ReasonNull:
		e.Reason = decoder.ReasonText
	}
	return &e
}

// enumOf is the enum that values of a type are, nil for another type.
func enumOf(t *model.Type) *model.Model {
	if m := t.Unwrapped().Model; m != nil && m.Kind == model.Enum {
		return m
	}
	return nil
}

// judge is what becomes of a value at a place.
func (p *planner) judge(t tried, at *run.Place, v *wire.Value) decoder.Verdict {
	r := p.probe(t, &run.Probe{At: at, Value: p.m.FromWire(v, at)})
	switch {
	case r.err != nil:
		return decoder.Verdict{Err: r.err}
	case r.unknown:
		return decoder.Verdict{Seen: decoder.Seen{Kind: decoder.SeenUnknown}}
	case r.seen.Kind == decoder.SeenLeftOut:
		return decoder.Verdict{Seen: r.seen, Loss: decoder.Dropped}
	}
	return decoder.Verdict{Seen: r.seen, Loss: p.loss(t, at, v, r.seen)}
}

// nonsense is a text that nothing is written as.
const nonsense = "\u2020 no such text \u2020"

// loss is how what is seen differs from what was sent.
func (p *planner) loss(t tried, at *run.Place, v *wire.Value, s decoder.Seen) decoder.Loss {
	switch v.Kind {
	case wire.Null:
		return decoder.NoLoss
	case wire.Number:
		return p.numberLoss(v, s)
	case wire.String:
		text, _ := v.Text()
		if s.Kind == decoder.SeenDate {
			if rolls(text) {
				return decoder.RolledDate
			}
			return decoder.NoLoss
		}
		if sameText(text, s) {
			return decoder.NoLoss
		}
		none := p.probe(t, &run.Probe{At: at, Value: run.TextOf(nonsense)})
		if none.err != nil || none.unknown || !equal(none.seen, s) {
			return decoder.NoLoss
		}
		if s.Kind == decoder.SeenNull {
			return decoder.NoConstant
		}
		return decoder.Defaulted
	case wire.Bool:
		if s.Kind == decoder.SeenBool && s.Text != string(v.Raw) {
			return decoder.Defaulted
		}
	}
	if s.Kind == decoder.SeenNull {
		return decoder.Swallowed
	}
	return decoder.NoLoss
}

// numberLoss is what is lost of a number.
func (p *planner) numberLoss(v *wire.Value, s decoder.Seen) decoder.Loss {
	sent, err := strconv.ParseFloat(string(v.Raw), 64)
	if err != nil {
		return decoder.NoLoss
	}
	switch s.Kind {
	case decoder.SeenNull:
		return decoder.Swallowed
	case decoder.SeenInt, decoder.SeenFloat:
		got, err := strconv.ParseFloat(s.Text, 64)
		if err != nil {
			return decoder.NoLoss
		}
		if whole, err := strconv.ParseInt(string(v.Raw), 10, 64); err == nil && sent == got && s.Kind == decoder.SeenInt && strconv.FormatInt(whole, 10) != s.Text {
			return decoder.LostDigits // on the web, beyond 2^53
		}
		if math.Trunc(sent) != sent && got == math.Trunc(sent) || math.Round(sent) == got && sent != got {
			return decoder.LostDigits
		}
	}
	return decoder.NoLoss
}

// sameText says whether a text and what is seen of it are the same value.
func sameText(text string, s decoder.Seen) bool {
	switch s.Kind {
	case decoder.SeenString, decoder.SeenEnum:
		return strings.EqualFold(strings.TrimSpace(text), s.Text)
	case decoder.SeenInt, decoder.SeenFloat:
		a, err := strconv.ParseFloat(strings.TrimSpace(text), 64)
		b, other := strconv.ParseFloat(s.Text, 64)
		return err == nil && other == nil && a == b
	case decoder.SeenBool:
		switch strings.ToLower(strings.TrimSpace(text)) {
		case "false", "no", "n", "0", "off", "":
			return s.Text == "false"
		case "true", "yes", "y", "1", "on":
			return s.Text == "true"
		}
	case decoder.SeenNull:
		return text == ""
	}
	return false
}

// equal says whether two values are the same.
func equal(a, b decoder.Seen) bool {
	x, err := a.MarshalJSON()
	y, other := b.MarshalJSON()
	return err == nil && other == nil && string(x) == string(y)
}

// written is a date as DateTime.parse reads it, with its month, day, hour, minute and second.
var written = regexp.MustCompile(`^[+-]?(\d{4,6})-?(\d\d)-?(\d\d)(?:[ T](\d\d)(?::?(\d\d)(?::?(\d\d))?)?)?`)

// rolls says whether a text that is read as a date is none that exists.
func rolls(text string) bool {
	g := written.FindStringSubmatch(text)
	if g == nil {
		return false
	}
	number := func(i int) int {
		n, _ := strconv.Atoi(g[i])
		return n
	}
	year, month, day := number(1), number(2), number(3)
	if year > 9999 || month < 1 || month > 12 || day < 1 || number(4) > 23 || number(5) > 59 || number(6) > 60 {
		return true
	}
	return day > time.Date(year, time.Month(month)+1, 0, 0, 0, 0, 0, time.UTC).Day()
}

package shape

import (
	"slices"

	"vetta/internal/capture"
)

// moment is when a response came: by its place in the captures, and by the clock where that is known.
type moment struct {
	rank capture.Rank
	sent int64 // milliseconds since 1970, 0 where it is not known
}

// Span is from a first response to a last one, by their place in the captures and by the clock. The
// zero Span is of none.
type Span struct {
	First, Last  capture.Rank
	Since, Until int64 // 0 where no response tells
	Undated      bool  // some do not
}

// holds says whether the span is that of a response as well.
func (s *Span) holds(m moment) bool {
	return m.rank <= s.Last && m.rank >= s.First && (m.sent == 0 && s.Undated || m.sent != 0 && m.sent >= s.Since && m.sent <= s.Until)
}

// with is the span that holds one more response.
func (s Span) with(m moment) Span {
	if s.Last == 0 {
		return Span{First: m.rank, Last: m.rank, Since: m.sent, Until: m.sent, Undated: m.sent == 0}
	}
	s.First, s.Last = min(s.First, m.rank), max(s.Last, m.rank)
	switch {
	case m.sent == 0:
		s.Undated = true
	case s.Since == 0:
		s.Since, s.Until = m.sent, m.sent
	default:
		s.Since, s.Until = min(s.Since, m.sent), max(s.Until, m.sent)
	}
	return s
}

// joined is the span that holds all of two.
func (s Span) joined(o Span) Span {
	switch {
	case s.Last == 0:
		return o
	case o.Last == 0:
		return s
	}
	out := Span{First: min(s.First, o.First), Last: max(s.Last, o.Last), Undated: s.Undated || o.Undated, Since: s.Since, Until: max(s.Until, o.Until)}
	if s.Since == 0 || o.Since != 0 && o.Since < s.Since {
		out.Since = o.Since
	}
	return out
}

// moments are the two ends, by the clock or by the captures.
func (s Span) moments(dated bool) [2]int64 {
	if dated {
		return [2]int64{s.Since, s.Until}
	}
	return [2]int64{int64(s.First), int64(s.Last)}
}

// mostMoments is how many responses of an endpoint are known one by one by when they came.
const mostMoments = 4096

// moments are when the responses of an endpoint came: all while they are few, and the first and last.
type moments struct {
	all    []moment
	many   bool
	extent Span
	before Span // what extent was before the last response
}

func (m *moments) add(one moment) {
	m.before, m.extent = m.extent, m.extent.with(one)
	// One too many may still be taken back.
	if m.many = m.many || len(m.all) > mostMoments; m.many {
		m.all = nil
		return
	}
	m.all = append(m.all, one)
}

// drop takes the last one back.
func (m *moments) drop() {
	m.extent = m.before
	if n := len(m.all); n > 0 {
		m.all = m.all[:n-1]
	}
}

func (m *moments) join(o *moments) {
	m.extent = m.extent.joined(o.extent)
	m.all, m.many = append(m.all, o.all...), m.many || o.many
	if m.many = m.many || len(m.all) > mostMoments; m.many {
		m.all = nil
	}
}

// Extent is from the first response of the endpoint to its last.
func (e *Endpoint) Extent() Span { return e.moments.extent }

// Dated says whether all responses of the endpoint tell when they were sent,
// and not all at once.
func (e *Endpoint) Dated() bool {
	s := e.moments.extent
	return !s.Undated && s.Since != 0 && s.Since != s.Until
}

// HoldsSeveral says whether the capture that a place in the captures is in holds several documents.
func (e *Endpoint) HoldsSeveral(at capture.Rank) bool { return e.several[at.Order()] }

// Since is how many responses of the endpoint came at a moment or later: by the clock where it is Dated,
// and by the captures where not. ok is false where they are too many to say.
func (e *Endpoint) Since(moment int64) (responses int64, ok bool) {
	if e.moments.many || len(e.moments.all) > mostMoments {
		if e.Dated() || e.Responses != int64(e.Files) {
			return 0, false
		}
		first := capture.Rank(moment).Order()
		for i := first; i < 64*(e.files.first+len(e.files.words)); i++ {
			if e.HasFile(i) {
				responses++
			}
		}
		return responses, true
	}
	for _, m := range e.moments.all {
		at := int64(m.rank)
		if e.Dated() {
			at = m.sent
		}
		if at >= moment {
			responses++
		}
	}
	return responses, true
}

// Capture is the name of the capture that a place in the captures is in, "" where it is not known.
func (e *Endpoint) Capture(at capture.Rank) string {
	if order := at.Order(); order >= 0 && order < len(e.names) {
		return e.names[order]
	}
	return ""
}

// SpanOf is from the first response to the last in which anything of some tallies was counted; ok is
// false where that is not known.
func SpanOf(tallies []*Tally) (span Span, ok bool) {
	for _, t := range tallies {
		if t.Values == 0 {
			continue
		}
		if t.Span.Last == 0 {
			return Span{}, false
		}
		span = span.joined(t.Span)
	}
	return span, span.Last != 0
}

// Moments are the two ends of a span of responses of the endpoint, in the measure of Since.
func (e *Endpoint) Moments(s Span) (first, last int64) {
	m := s.moments(e.Dated())
	return m[0], m[1]
}

// reranked gives the places in the captures new numbers.
func (s Span) reranked(rank func(capture.Rank) capture.Rank) Span {
	if s.Last != 0 {
		s.First, s.Last = rank(s.First), rank(s.Last)
	}
	return s
}

func (m *moments) rerank(rank func(capture.Rank) capture.Rank) {
	m.extent = m.extent.reranked(rank)
	for i := range m.all {
		m.all[i].rank = rank(m.all[i].rank)
	}
	slices.SortFunc(m.all, func(a, b moment) int { return int(a.rank - b.rank) })
}

package jvm

import (
	"strings"
)

// mentions are rare words that a file has in it. Most rules of the linker are about a few files of a
// project; which these are is found out while the text of each is at hand, on all cores.
type mentions uint8

const (
	Creators   mentions = 1 << iota // methods that annotations say make instances
	Parsed                          // objects and lists that were parsed
	Adapters                        // adapters of calls
	Converters                      // factories of converters
	Ktors                           // the HTTP client of ktor
	Negotiated                      // its negotiation of content
	Writers                         // methods that write JSON
)

var mentioned = []struct {
	word string
	is   mentions
}{
	{"JsonCreator", Creators}, {"JSONObject", Parsed}, {"JSONArray", Parsed}, {"CallAdapter", Adapters},
	{"onverterFactory", Converters}, {"import io.ktor.client", Ktors}, {"ContentNegotiation", Negotiated},
	{"toJson", Writers}, {"writeValueAs", Writers}, {"setBody(", Writers}, {"encodeToString", Writers},
}

// MentionsIn are those of a text.
func MentionsIn(text string) (all mentions) {
	for _, m := range mentioned {
		if strings.Contains(text, m.word) {
			all |= m.is
		}
	}
	return all
}

// Mentioning are the files of a project that have such a word in them.
func (p *Project) Mentioning(what mentions) []*File { return p.byMention[what] }

func (p *Project) noteMentions(f *File) {
	for _, m := range mentioned {
		if all := p.byMention[m.is]; f.Mentions&m.is != 0 && (len(all) == 0 || all[len(all)-1] != f) {
			p.byMention[m.is] = append(all, f)
		}
	}
}

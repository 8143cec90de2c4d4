package jvm

import (
	"strings"
)

// mentions are rare words that a file has in it. Most rules of the linker are about a few files of a
// project; which these are is found out while the text of each is at hand, on all cores.
type mentions uint8

const (
	creators   mentions = 1 << iota // methods that annotations say make instances
	parsed                          // objects and lists that were parsed
	adapters                        // adapters of calls
	converters                      // factories of converters
	ktors                           // the HTTP client of ktor
	negotiated                      // its negotiation of content
)

var mentioned = []struct {
	word string
	is   mentions
}{
	{"JsonCreator", creators}, {"JSONObject", parsed}, {"JSONArray", parsed}, {"CallAdapter", adapters},
	{"onverterFactory", converters}, {"import io.ktor.client", ktors}, {"ContentNegotiation", negotiated},
}

func mentionsIn(text string) (all mentions) {
	for _, m := range mentioned {
		if strings.Contains(text, m.word) {
			all |= m.is
		}
	}
	return all
}

// mentioning are the files of a project that have such a word in them.
func (p *project) mentioning(what mentions) []*File { return p.byMention[what] }

func (p *project) noteMentions(f *File) {
	for _, m := range mentioned {
		if all := p.byMention[m.is]; f.mentions&m.is != 0 && (len(all) == 0 || all[len(all)-1] != f) {
			p.byMention[m.is] = append(all, f)
		}
	}
}

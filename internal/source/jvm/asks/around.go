package asks

import (
	"vetta/internal/model"
	"vetta/internal/source/jvm"
	"vetta/internal/source/scan"
)

// What stands around a call that decodes: what drops its error, and what its argument is taken from.

// dropped notes that the error of a call is dropped, nil for one that is not.
func dropped(p *jvm.Project, f *jvm.File, call *model.Call, drop *jvm.Drop) {
	if drop == nil {
		return
	}
	call.Swallowed, call.Catches, call.Instead = true, drop.Classes, drop.Instead
	if drop.To > drop.From {
		s := &scope{p: p, f: f, c: p.ClassAt(f, drop.From)}
		call.Otherwise = s.value("otherwise", f.File, drop.From, drop.To)
	}
}

// parsers are the methods that parse a text into elements.
var parsers = map[string]bool{"parseToJsonElement": true, "readTree": true, "parseString": true}

// within are the keys by which an argument of a call reaches into a document that it parses on the spot:
// json.parseToJsonElement(text).jsonObject["ports"]!!; nil where none does.
func within(f *jvm.File, open int) (keys []string) {
	for _, arg := range spans(f.File, open, f.Partner(open)) {
		at := arg.from
		for at < arg.to && !(parsers[f.Word(at)] && f.Is(at+1, "(")) {
			if f.KindAt(at) != scan.Ident && !f.Is(at, ".") {
				break
			}
			at++
		}
		if at >= arg.to || !parsers[f.Word(at)] {
			continue
		}
		for at = f.Partner(at+1) + 1; at < arg.to; at++ {
			switch {
			case f.Is(at, "!") || f.Is(at, ".") || f.Is(at, "?"):
			case f.Is(at, "[") && f.KindAt(at+1) == scan.String && f.Partner(at) == at+2:
				keys = append(keys, f.TokenAt(at+1).Text)
				at += 2
			case f.KindAt(at) == scan.Ident && f.Is(at+1, "(") && f.KindAt(at+2) == scan.String && f.Partner(at+1) == at+3 && reaches[f.Word(at)]:
				keys = append(keys, f.TokenAt(at+2).Text)
				at += 3
			case f.KindAt(at) == scan.Ident && (isObject[f.Word(at)] || f.Word(at) == "getAsJsonObject" || f.Word(at) == "getAsJsonArray"):
				if f.Is(at+1, "(") {
					at = f.Partner(at + 1)
				}
			default:
				return nil
			}
		}
		return keys
	}
	return nil
}

// reaches are the methods of elements that answer a member, isObject the properties that say of what kind one is.
var (
	reaches  = jvm.Words("get getValue path required getAsJsonObject getAsJsonArray")
	isObject = jvm.Words("jsonObject jsonArray asJsonObject asJsonArray")
)

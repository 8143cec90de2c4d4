package drift

import "vetta/internal/decoder"

var thrownByCode = &Kind{
	Name:  "thrown-by-code",
	Level: Breaks,
	Title: "the initialiser throws",
	Text: `Hand-written code tests what was sent and throws: a guard that is not met, a forced
unwrap of nothing.`,
	Example: `guard let code = try c.decodeIfPresent(String.self, forKey: .code) else { throw … }
{"code": null}`,
	Fix:     `Admit what is sent, or make sure that the error is shown where it is caught.`,
	takes:   reason(decoder.ReasonCode),
	suggest: func(*Finding) Change { return say("admit what is sent, or handle the error where it is caught") },
}

var droppedElement = &Kind{
	Name:  "dropped-element",
	Level: Misreads,
	Title: "elements that do not decode are left out",
	Text: `The list is read element by element, and those that fail are passed over: the app
shows a shorter list than was sent, and nobody is told.`,
	Example: `while !list.isAtEnd { if let s = try? list.decode(Sailing.self) { sailings.append(s) } … }
[{"id": 7}, {"id": "8"}]`,
	Fix:     `Decode what is sent; count or log the elements that are left out.`,
	takes:   loss(decoder.Dropped),
	suggest: func(*Finding) Change { return say("decode what is sent, and count or log what is left out") },
}

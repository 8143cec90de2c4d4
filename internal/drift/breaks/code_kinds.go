package breaks

import (
	"vetta/internal/decoder"
	"vetta/internal/drift/finding"
)

// ThrownByCode is the kind thrown-by-code: the initialiser throws.
var ThrownByCode = &finding.Kind{
	Name:  "thrown-by-code",
	Level: finding.Breaks,
	Title: "the initialiser throws",
	Text: `Hand-written code tests what was sent and throws: a guard that is not met, a forced
unwrap of nothing.`,
	Examples: []finding.Example{
		{In: "Swift", Code: `struct Port: Decodable {
    let code: String
    enum CodingKeys: String, CodingKey { case code }
    init(from decoder: Decoder) throws {
        let c = try decoder.container(keyedBy: CodingKeys.self)
        guard let code = try c.decodeIfPresent(String.self, forKey: .code) else { throw PortError.noCode }
        self.code = code
    }
}
enum PortError: Error { case noCode }`, Sent: `{"code": null}`},
	},
	Fix:   `Admit what is sent, or make sure that the error is shown where it is caught.`,
	Takes: finding.Reason(decoder.ReasonCode),
	Suggest: func(*finding.Finding) finding.Change {
		return finding.Say("admit what is sent, or handle the error where it is caught")
	},
}

// DroppedElement is the kind dropped-element: elements that do not decode are left out.
var DroppedElement = &finding.Kind{
	Name:  "dropped-element",
	Level: finding.Misreads,
	Title: "elements that do not decode are left out",
	Text: `The list is read element by element, and those that fail are passed over: the app
shows a shorter list than was sent, and nobody is told.`,
	Examples: []finding.Example{
		{In: "Swift", Code: `struct Board: Decodable {
    let ids: [Int]
    enum CodingKeys: String, CodingKey { case ids }
    init(from decoder: Decoder) throws {
        let c = try decoder.container(keyedBy: CodingKeys.self)
        var list = try c.nestedUnkeyedContainer(forKey: .ids)
        var ids: [Int] = []
        while !list.isAtEnd {
            if let id = try? list.decode(Int.self) { ids.append(id) } else { _ = try? list.decode(String.self) }
        }
        self.ids = ids
    }
}`, Sent: `{"ids": [7, "8"]}`},
	},
	Fix:   `Decode what is sent; count or log the elements that are left out.`,
	Takes: finding.Loss(decoder.Dropped),
	Suggest: func(*finding.Finding) finding.Change {
		return finding.Say("decode what is sent, and count or log what is left out")
	},
}

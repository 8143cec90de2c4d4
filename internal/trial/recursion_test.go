package trial

import (
	"testing"

	"vetta/internal/source"
	"vetta/internal/source/scan"
	"vetta/internal/wire"
)

// TestCodecsThatHoldThemselves: what io-ts finds wrong in a codec that holds itself, by its own name or by the one that it
// is handed, is found however deep it stands.
func TestCodecsThatHoldThemselves(t *testing.T) {
	set := source.Read([]scan.Source{{Name: "leg.ts", Text: `import * as t from 'io-ts';
export const Leg: t.Type<any> = t.recursion('Leg', () => t.type({ port: t.string, next: t.array(Leg) }));
export const Self = t.recursion('Self', (self: any) => t.type({ code: t.string, inner: t.union([self, t.null]) }));
export const load = async () => Leg.decode(await (await fetch('/legs')).json());
export const other = async () => Self.decode(await (await fetch('/selfs')).json());
`}})
	for _, c := range []struct{ model, doc, at string }{
		{"Leg", `{"port":"SAL","next":[{"port":"TER","next":[]}]}`, ""},
		{"Leg", `{"port":"SAL","next":[{"port":"TER","next":[{"port":3,"next":[]}]}]}`, "$.next[0].next[0].port"},
		{"Self", `{"code":"a","inner":{"code":"b","inner":null}}`, ""},
		{"Self", `{"code":"a","inner":3}`, "$.inner['0']"},
	} {
		plan, err := For(set, c.model)
		if err != nil {
			t.Fatal(err)
		}
		doc, err := wire.Parse([]byte(c.doc))
		if err != nil {
			t.Fatal(err)
		}
		out := plan.Decode(doc)
		at := ""
		if out.Err != nil {
			at = wire.Path(out.At)
		}
		if at != c.at {
			t.Errorf("%s of %s fails at %q, want %q", c.model, c.doc, at, c.at)
		}
	}
}

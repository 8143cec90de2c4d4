package typescript

import (
	"fmt"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"vetta/internal/model"
	"vetta/internal/source/scan"
	"vetta/internal/types"
)

// project of some files, read.
func read(t *testing.T, files ...string) *model.Set {
	t.Helper()
	var sources, builds []scan.Source
	for i := 0; i < len(files); i += 2 {
		f := scan.Source{Name: files[i], Text: files[i+1]}
		if strings.HasSuffix(f.Name, ".json") {
			builds = append(builds, f)
		} else {
			sources = append(sources, f)
		}
	}
	return Read(sources, builds)
}

// shown is a type as it is worked out: the members of an object with their types.
func shown(t *types.Type, depth int) string {
	if depth > 3 {
		return "…"
	}
	list := func(all []*types.Type, between string) string {
		out := make([]string, len(all))
		for i, e := range all {
			out[i] = shown(e, depth+1)
		}
		return strings.Join(out, between)
	}
	switch t.Kind {
	case types.Object:
		o := t.Members()
		if o.Lost != "" {
			return "?"
		}
		var all []string
		for _, p := range o.Props {
			mark := ""
			if p.Optional {
				mark = "?"
			}
			all = append(all, p.Name+mark+": "+shown(p.Type(), depth+1))
		}
		for _, ix := range o.Index {
			all = append(all, "["+shown(ix.Key, depth+1)+"]: "+shown(ix.Value, depth+1))
		}
		return "{" + strings.Join(all, ", ") + "}"
	case types.Array:
		return shown(t.Elems[0], depth+1) + "[]"
	case types.Tuple:
		return "[" + list(t.Elems, ", ") + "]"
	case types.Union:
		return "(" + list(t.Elems, " | ") + ")"
	case types.Brand:
		return list(t.Elems, " & ")
	case types.Unresolved:
		return "?"
	}
	return t.String()
}

// TestTypes: what written types come to. Each line declares T; the rest of what it names stands above all of them.
func TestTypes(t *testing.T) {
	const around = `interface Port { code: string; name?: string; depth: number | null }
interface Ship extends Port { seats: number; code: 'SAL' }
class Base<T> { id = 1; data!: T; private hidden = 2; get label(): string { return '' } constructor(public ref: string, plain: number) {} }
enum Level { Low, High = 5, Top } enum Side { Port = 'port', Star = 'star' }
const CODES = { a: 'A', b: 'B' } as const; const LIST = ['x', 'y'] as const; const LOOSE = { n: 1, s: 'x' };
type Deep<T> = T extends object ? { [K in keyof T]?: Deep<T[K]> } : T;
type Head<T> = T extends [infer H, ...unknown[]] ? H : never;
namespace Api { export interface Fare { amount: number } export namespace V2 { export type Level = 'low' } }
async function load(): Promise<{ ok: boolean }> { return fetch('/x') as any }
`
	for written, want := range map[string]string{
		"Partial<Port>":                             "{code?: string, name?: string, depth?: (number | null)}",
		"Required<Port>":                            "{code: string, name: string, depth: (number | null)}",
		"Pick<Port, 'code' | 'depth'>":              "{code: string, depth: (number | null)}",
		"Omit<Ship, keyof Port>":                    "{seats: number}",
		"Ship":                                      "{code: 'SAL', name?: string, depth: (number | null), seats: number}",
		"Base<Level>":                               "{id: number, data: (0 | 5 | 6), hidden: number, label: string, ref: string}",
		"Record<'a' | 'b', Side>":                   "{a: ('port' | 'star'), b: ('port' | 'star')}",
		"Record<string, Port[]>":                    "{[string]: {code: string, name?: string, depth: (… | …)}[]}",
		"keyof typeof CODES":                        "('a' | 'b')",
		"(typeof CODES)[keyof typeof CODES]":        "('A' | 'B')",
		"typeof LIST[number]":                       "('x' | 'y')",
		"typeof LOOSE":                              "{n: number, s: string}",
		"{ [K in keyof Port as `get_${K}`]: K }":    "{get_code: 'code', get_name?: 'name', get_depth: 'depth'}",
		"{ [K in 'a' | 'b']-?: K[] }":               "{a: 'a'[], b: 'b'[]}",
		"Deep<{ a: { b: number } }>":                "{a?: {b?: number}}",
		"Head<[Side.Star, string]>":                 "'star'",
		"Exclude<'a' | 'b' | 3, string>":            "3",
		"NonNullable<Port['depth']>":                "number",
		"Awaited<ReturnType<typeof load>>":          "{ok: boolean}",
		"Api.Fare & { vat?: number }":               "{amount: number, vat?: number}",
		"Api.V2.Level | Level.Top":                  "('low' | 6)",
		"{ k: 'a'; v: 1 } & { k: 'b' }":             "never",
		"`${'SAL' | 'GUL'}-${1 | 2}`":               "('SAL-1' | 'SAL-2' | 'GUL-1' | 'GUL-2')",
		"Uppercase<'tern'>":                         "'TERN'",
		"[from: string, to?: number, ...boolean[]]": "[string, number, boolean]",
		"string & { readonly __brand: 'Code' }":     "string & {__brand: 'Code'}",
		"'a' | (string & {})":                       "('a' | string)",
		"readonly (string | null)[]":                "(string | null)[]",
		"() => void":                                "() => undefined",
		"Map<string, number>":                       "Map<string, number>",
		"Elsewhere":                                 "?",
		"import('./port').Other":                    "{x: number}",
	} {
		set := read(t, "src/a.ts", around+"export type T = "+written+";\n", "src/port.ts", "export interface Other { x: number }\n")
		m := set.Others("T")
		if m == nil {
			t.Errorf("%s: no type", written)
			continue
		}
		if got := shown(m.Source.(*types.Decl).Of(nil), 0); got != want {
			t.Errorf("%s is %s, not %s", written, got, want)
		}
	}
}

// TestModules: names go by imports, barrels, path aliases, and what files declare for all.
func TestModules(t *testing.T) {
	set := read(t,
		"web/tsconfig.json", `{ "extends": "./base.json", "compilerOptions": { "strictNullChecks": false, }, /* loose */ }`,
		"web/base.json", `{"compilerOptions": {"baseUrl": ".", "paths": {"@models/*": ["src/models/*"]}}}`,
		"web/src/models/index.ts", "export * from './port'; export { default as Line } from './line'; export type { Status as PortStatus } from './port';",
		"web/src/models/port.ts", "export interface Port { status: Status } export type Status = 'open' | 'closed';",
		"web/src/models/line.ts", "interface Line { no: number } export default Line;",
		"web/types/global.d.ts", "declare namespace Saltmere { interface Pass { ref: string } } interface Person { name: string }",
		"web/src/more.ts", "import './models/port'; declare module './models/port' { interface Port { added: number } }",
		"web/src/api.ts", `import * as models from '@models/index';
import { Line, type PortStatus } from '@models/index.js';
interface Person { own: string }
export const load = async (): Promise<{ port: models.Port; line: Line; status: PortStatus; pass: Saltmere.Pass; person: Person }> => (await fetch('/all')).json();
`)
	var got []string
	for _, m := range set.Models {
		var fields []string
		for _, f := range m.Fields {
			fields = append(fields, f.Name)
		}
		got = append(got, m.Name+": "+strings.Join(fields, " "))
	}
	slices.Sort(got)
	want := []string{"Line: no", "Person: own", "Port: status added", "Saltmere.Pass: ref"}
	for _, w := range want {
		if !slices.Contains(got, w) {
			t.Errorf("%s is not among the models %v", w, got)
		}
	}
	for _, c := range set.Calls {
		if c.Settings.Option("strictNullChecks") != "false" {
			t.Errorf("the settings of the call at %s are %+v", c.Pos, c.Settings)
		}
	}
}

// TestScripts: types in the comments of JavaScript, and the scripts of files of several languages, with their places.
func TestScripts(t *testing.T) {
	set := read(t,
		"src/port.js", `/**
 * @typedef {Object} Port
 * @property {string} code where it is
 * @property {string} [name]
 * @property {?number} depth
 * @property {Object} at
 * @property {number} at.lat
 * @property {Array.<Berth>} berths
 */

/** @typedef {{ no: number, free?: boolean }} Berth */

/** @returns {Promise<Port[]>} */
export async function ports() {
  const res = await fetch('/v2/ports');
  return res.json();
}
`,
		"src/plain.js", "export const nothing = 1;\n",
		"src/Board.vue", "<template><p>don't</p></template>\n<script setup lang=\"ts\">\ninterface Row { id: number }\nconst load = async () => (await (await fetch('/v2/rows')).json()) as Row[];\n</script>\n")
	var got []string
	for _, m := range set.Models {
		for _, f := range m.Fields {
			got = append(got, fmt.Sprintf("%s.%s %s %v at %d:%d", m.Name, f.Name, f.Type.Written(), f.Type.Kind == model.Optional, f.Pos.Line, f.Pos.Col))
		}
	}
	want := `Row.id number false at 3:17
Port.code string false at 3:23
Port.name string? true at 4:24
Port.depth number? true at 5:24
Port.at Port.at false at 6:23
Port.berths Array<Berth> false at 8:30
Port.at.lat number false at 7:23
Berth.no number false at 11:17
Berth.free boolean? true at 11:29`
	if strings.Join(got, "\n") != want {
		t.Errorf("read\n%s\nnot\n%s", strings.Join(got, "\n"), want)
	}
	if set.Files != 2 {
		t.Errorf("%d files count, not 2: one has no types", set.Files)
	}
}

// TestTokens: what looks like something else in a text, a pattern or an element is none.
func TestTokens(t *testing.T) {
	for text, want := range map[string]string{
		"a / b / c":                     "a / b / c",
		"x = /[/]'\"/g.test(y)":         "x = /[/]'\"/g . test ( y )",
		"`a${ `b${c}` }d` + 'e\\'f'":    "`` + e'f",
		"f<T>(a >> b)":                  "f < T > ( a > > b )",
		"1_000n + .5e-3 + 0xFF":         "1_000n + .5e-3 + 0xFF",
		"a ?.5 : b?.c ?? d":             "a ? .5 : b ?. c ?? d",
		"// x\n/* y */ #priv \\u0061bc": "#priv abc",
	} {
		var got []string
		for _, tok := range lex(text, false) {
			switch tok.kind {
			case eof:
			case quasi:
				got = append(got, "``")
			default:
				got = append(got, tok.val)
			}
		}
		if s := strings.Join(got, " "); s != want {
			t.Errorf("%q is cut into %q, not %q", text, s, want)
		}
	}
	jsx := lex("const a = <T,>(x: T) => x; return <div a={b < c} d='}'>it's {f('</div>')} <br/></div>;", true)
	elements := 0
	for _, tok := range jsx {
		if tok.kind == markup {
			elements++
			if len(tok.holes) != 2 {
				t.Errorf("the element has %d holes, not 2", len(tok.holes))
			}
		}
	}
	if elements != 1 {
		t.Errorf("%d elements, not 1", elements)
	}
}

// TestHostile: source without end, in whatever way, is read to an end.
func TestHostile(t *testing.T) {
	for _, text := range []string{
		"type A = A[]; type B = B | { b: B }; type C<T> = C<T[]>; type D = { [K in keyof D]: D[K] }; export const f = async (): Promise<[A, B, C<1>, D]> => (await fetch('/x')).json();",
		"interface G<T> extends G<G<T>> { g: G<T[]>; t: T } export const f = async (): Promise<G<string>> => (await fetch('/x')).json();",
		"export type X = " + strings.Repeat("{ a: ", 3000) + "1" + strings.Repeat(" }", 3000),
		"export type X = " + strings.Repeat("[", 20000),
		"const x = " + strings.Repeat("(", 20000),
		"const x = " + strings.Repeat("`${", 20000),
		"const x = " + strings.Repeat("a<b<", 5000),
		"interface A { " + strings.Repeat("x: ", 5000),
		"export const v = { " + strings.Repeat("a: { ", 5000),
		"import { A } from './a'; export { A } from './a'; export * from './a'; export type { A as B } from './a'; export const f = async (): Promise<A> => (await fetch('/x')).json();",
		"enum E { A = E.B, B = E.A } namespace N { import N = N.N; export import M = N } class P extends P { p = new P().p } export const f = async (): Promise<E | P | N.M> => (await fetch('/x')).json();",
	} {
		set := read(t, "a.ts", text)
		for _, m := range set.Models {
			shown(m.Source.(*types.Decl).Of(nil), 0)
		}
	}
}

// TestTorn: a file that ends anywhere is read as far as it goes.
func TestTorn(t *testing.T) {
	files, _ := filepath.Glob("../testdata/asked/*.ts")
	if len(files) < 3 {
		t.Fatal("no apps")
	}
	texts := []string{"export interface A { a: ", "export interface A { a: { b: ", "export type A = { a: Array<", "export class A { constructor(a: ", "const { a: { b = [", "for (const { a } of "}
	for _, file := range files {
		text, err := os.ReadFile(file)
		if err != nil {
			t.Fatal(err)
		}
		for end := 0; end < len(text); end += 13 {
			texts = append(texts, string(text[:end]))
		}
	}
	for _, text := range texts {
		set := Read([]scan.Source{{Name: "a.ts", Text: text}}, nil)
		for _, m := range set.Models {
			for _, f := range m.Fields {
				if f.Name == "" && f.Declared == "" {
					t.Errorf("a field without a name or a type in %q", text)
				}
			}
		}
	}
}
